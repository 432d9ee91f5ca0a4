// Package client talks to a service: it publishes templates, imports records, makes documents and follows batches.
//
// A [Client] may be used by several goroutines. What the service refuses is a [*Problem] with its status and a sentence
// that says what is wrong and what to do; errors.As finds it. Other errors are those of the connection, or of the
// context. A request that is sent with a key of one's own (the parameter key, or once) may be sent again after such an
// error: the service does it once.
package client

import (
	"archive/zip"
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"
)

// Client calls one service with a key.
type Client struct {
	Server string // http://host:port
	Key    string
	HTTP   *http.Client
}

// New makes a client.
func New(server, key string) *Client {
	return &Client{Server: strings.TrimRight(server, "/"), Key: key, HTTP: &http.Client{Timeout: 10 * time.Minute}}
}

// Problem is what the service refuses, and why (RFC 9457). Status is that of HTTP: 401 without a key that counts, 403
// where it does not suffice, 404, 409 where the state of things does not allow it, 412 when someone else has changed it
// meanwhile, 422 for a document that cannot be made, 429 and 503 when it is too much at once.
type Problem struct {
	Title  string `json:"title"`
	Status int    `json:"status"`
	Detail string `json:"detail"`
}

func (p *Problem) Error() string {
	return fmt.Sprintf("the service says: %s (%d %s)", p.Detail, p.Status, p.Title)
}

// request is one call of the API.
type request struct {
	method, path string
	query        url.Values
	in           any       // sent as JSON
	body         io.Reader // sent as it is
	kind         string    // of body
	revision     int       // that an edit was made from; 0 does not ask
	once         string    // an Idempotency-Key
	accept       string
}

// send makes a request; the caller closes the body.
func (c *Client) send(ctx context.Context, r request) (*http.Response, error) {
	if r.in != nil {
		b, err := json.Marshal(r.in)
		if err != nil {
			return nil, err
		}
		r.body, r.kind = bytes.NewReader(b), "application/json"
	}
	address := c.Server + "/api/v1" + r.path
	if len(r.query) > 0 {
		address += "?" + r.query.Encode()
	}
	req, err := http.NewRequestWithContext(ctx, r.method, address, r.body)
	if err != nil {
		return nil, err
	}
	for name, v := range map[string]string{"Content-Type": r.kind, "Idempotency-Key": r.once, "Accept": r.accept} {
		if v != "" {
			req.Header.Set(name, v)
		}
	}
	req.Header.Set("Authorization", "Bearer "+c.Key)
	if r.revision > 0 {
		req.Header.Set("If-Match", strconv.Quote(strconv.Itoa(r.revision)))
	}
	res, err := c.HTTP.Do(req)
	if err != nil {
		return nil, fmt.Errorf("the service at %s does not answer; is “olive serve” running? (%w)", c.Server, errors.Unwrap(err))
	}
	if res.StatusCode < 400 {
		return res, nil
	}
	defer res.Body.Close()
	p := &Problem{Status: res.StatusCode, Title: http.StatusText(res.StatusCode)}
	data, _ := io.ReadAll(io.LimitReader(res.Body, 1<<20))
	if json.Unmarshal(data, p) != nil || p.Detail == "" {
		p.Detail = strings.TrimSpace(string(data))
	}
	return nil, p
}

// call makes a request and decodes its JSON into out; nil wants none.
func (c *Client) call(ctx context.Context, r request, out any) error {
	res, err := c.send(ctx, r)
	if err != nil {
		return err
	}
	defer res.Body.Close()
	if out == nil {
		return nil
	}
	return json.NewDecoder(res.Body).Decode(out)
}

// bytes makes a request and gives what it is answered.
func (c *Client) bytes(ctx context.Context, r request) ([]byte, error) {
	res, err := c.send(ctx, r)
	if err != nil {
		return nil, err
	}
	defer res.Body.Close()
	return io.ReadAll(res.Body)
}

// Find narrows a list down and picks a part of it.
type Find struct {
	Search, Sort  string
	Offset, Limit int               // 50 when Limit is 0; many come in several answers
	After         int               // number of the last row of the page before, instead of Offset; nothing is counted then
	Filter        map[string]string // such as state, template or document
}

func (f Find) values() url.Values {
	v := url.Values{}
	for name, text := range f.Filter {
		if text != "" {
			v.Set(name, text)
		}
	}
	for name, text := range map[string]string{"search": f.Search, "sort": f.Sort} {
		if text != "" {
			v.Set(name, text)
		}
	}
	for name, n := range map[string]int{"offset": f.Offset, "limit": f.Limit, "after": f.After} {
		if n > 0 {
			v.Set(name, strconv.Itoa(n))
		}
	}
	return v
}

// List is a part of a list and the length of all of it.
type List[T any] struct {
	Items []T `json:"items"`
	Total int `json:"total"`
}

// mostAtOnce is how many rows the service gives in one answer.
const mostAtOnce = 100

func list[T any](ctx context.Context, c *Client, path string, f Find) (out List[T], err error) {
	out.Items = []T{}
	for wanted := f.Limit; ; f.Offset += mostAtOnce {
		f.Limit = min(wanted-len(out.Items), mostAtOnce)
		var part List[T]
		if err = c.call(ctx, request{method: http.MethodGet, path: path, query: f.values()}, &part); err != nil {
			return out, err
		}
		out.Items, out.Total = append(out.Items, part.Items...), part.Total
		if len(part.Items) < mostAtOnce || len(out.Items) >= wanted {
			return out, nil
		}
	}
}

func get[T any](ctx context.Context, c *Client, path string) (out T, err error) {
	return out, c.call(ctx, request{method: http.MethodGet, path: path}, &out)
}

func post[T any](ctx context.Context, c *Client, path string, in any) (out T, err error) {
	return out, c.call(ctx, request{method: http.MethodPost, path: path, in: in}, &out)
}

func patch[T any](ctx context.Context, c *Client, path string, revision int, in any) (out T, err error) {
	return out, c.call(ctx, request{method: http.MethodPatch, path: path, in: in, revision: revision}, &out)
}

func remove(ctx context.Context, c *Client, path string) error {
	return c.call(ctx, request{method: http.MethodDelete, path: path}, nil)
}

// Me tells who the key belongs to and what it may do.
func (c *Client) Me(ctx context.Context) (Caller, error) { return get[Caller](ctx, c, "/session") }

// Setup tells what the service is set up for.
func (c *Client) Setup(ctx context.Context) (Setup, error) { return get[Setup](ctx, c, "/setup") }

// folder packs a template folder.
func folder(files fs.FS) (io.Reader, error) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	if err := z.AddFS(files); err != nil {
		return nil, err
	}
	return &b, z.Close()
}

func templatePath(name string) string { return "/templates/" + url.PathEscape(name) }

// Push sends a template folder as the next version.
func (c *Client) Push(ctx context.Context, name, note string, files fs.FS) (t Template, err error) {
	body, err := folder(files)
	if err != nil {
		return t, err
	}
	return t, c.call(ctx, request{method: http.MethodPost, path: templatePath(name) + "/versions", query: url.Values{"note": {note}}, body: body, kind: "application/zip"}, &t)
}

// Publish makes the draft of a template its next version.
func (c *Client) Publish(ctx context.Context, name, note string) (Template, error) {
	return post[Template](ctx, c, templatePath(name)+"/versions", map[string]any{"note": note, "files": map[string]any{}})
}

// SaveDraft sends a template folder as what is being edited.
func (c *Client) SaveDraft(ctx context.Context, name string, revision int, files fs.FS) (t TemplateFiles, err error) {
	body, err := folder(files)
	if err != nil {
		return t, err
	}
	return t, c.call(ctx, request{method: http.MethodPut, path: templatePath(name) + "/draft", body: body, kind: "application/zip", revision: revision}, &t)
}

// Draft is what is being edited of a template.
func (c *Client) Draft(ctx context.Context, name string) (TemplateFiles, error) {
	return get[TemplateFiles](ctx, c, templatePath(name)+"/draft")
}

// DropDraft forgets what is being edited.
func (c *Client) DropDraft(ctx context.Context, name string) error {
	return remove(ctx, c, templatePath(name)+"/draft")
}

// Templates lists templates.
func (c *Client) Templates(ctx context.Context, f Find) (List[Template], error) {
	return list[Template](ctx, c, "/templates", f)
}

// Template is a version of a template with its files; 0 is the newest.
func (c *Client) Template(ctx context.Context, name string, version int) (TemplateFiles, error) {
	path := templatePath(name)
	if version > 0 {
		path += fmt.Sprintf("/versions/%d", version)
	}
	return get[TemplateFiles](ctx, c, path)
}

// Versions lists the versions of a template, newest first.
func (c *Client) Versions(ctx context.Context, name string, f Find) (List[Version], error) {
	return list[Version](ctx, c, templatePath(name)+"/versions", f)
}

// Difference tells how two versions differ.
func (c *Client) Difference(ctx context.Context, name string, from, to int) (List[FileDifference], error) {
	return get[List[FileDifference]](ctx, c, fmt.Sprintf("%s/versions/%d/difference/%d", templatePath(name), from, to))
}

// Asset is one file of a version.
func (c *Client) Asset(ctx context.Context, name string, version int, file string) ([]byte, error) {
	return c.bytes(ctx, request{method: http.MethodGet, path: fmt.Sprintf("%s/versions/%d/assets/%s", templatePath(name), version, (&url.URL{Path: file}).EscapedPath())})
}

// Import sends a record file. options are those of the API's import, by name.
func (c *Client) Import(ctx context.Context, name string, options map[string]string, body io.Reader) (s Imported, err error) {
	return s, c.sendRecords(ctx, "/record-sets", name, options, body, &s)
}

func (c *Client) sendRecords(ctx context.Context, path, name string, options map[string]string, body io.Reader, out *Imported) error {
	q := url.Values{"name": {name}}
	for k, v := range options {
		if v != "" {
			q.Set(k, v)
		}
	}
	return c.call(ctx, request{method: http.MethodPost, path: path, query: q, body: body, kind: "application/octet-stream"}, out)
}

// Preview reads a record file as Import would, and keeps nothing.
func (c *Client) Preview(ctx context.Context, name string, options map[string]string, body io.Reader) (s Imported, err error) {
	return s, c.sendRecords(ctx, "/record-previews", name, options, body, &s)
}

// RecordSets lists sets, newest first.
func (c *Client) RecordSets(ctx context.Context, f Find) (List[RecordSet], error) {
	return list[RecordSet](ctx, c, "/record-sets", f)
}

// DropRecordSet forgets a set with its records.
func (c *Client) DropRecordSet(ctx context.Context, id uint64) error {
	return remove(ctx, c, fmt.Sprintf("/record-sets/%d", id))
}

// Records lists the records of a set.
func (c *Client) Records(ctx context.Context, set uint64, f Find) (List[Record], error) {
	return list[Record](ctx, c, fmt.Sprintf("/record-sets/%d/records", set), f)
}

// Record finds one record.
func (c *Client) Record(ctx context.Context, set uint64, number int) (Record, error) {
	return get[Record](ctx, c, fmt.Sprintf("/record-sets/%d/records/%d", set, number))
}

// SaveRecord changes a record.
func (c *Client) SaveRecord(ctx context.Context, set uint64, number, revision int, data json.RawMessage) (out Record, err error) {
	return out, c.call(ctx, request{method: http.MethodPut, path: fmt.Sprintf("/record-sets/%d/records/%d", set, number), in: data, revision: revision}, &out)
}

// AddRecord puts a record at the end of a set.
func (c *Client) AddRecord(ctx context.Context, set uint64, data json.RawMessage) (Record, error) {
	return post[Record](ctx, c, fmt.Sprintf("/record-sets/%d/records", set), data)
}

// Render sets a page at once; nothing is kept.
func (c *Client) Render(ctx context.Context, r Rendering) ([]byte, error) {
	return c.bytes(ctx, request{method: http.MethodPost, path: "/renderings", in: r})
}

// RenderInFull is Render with the findings, the merged page and the geometry.
func (c *Client) RenderInFull(ctx context.Context, r Rendering) (out Rendered, err error) {
	return out, c.call(ctx, request{method: http.MethodPost, path: "/renderings", in: r, accept: "application/json"}, &out)
}

// Issue makes documents; those that failed have an Error. With a key, the same
// order is done once however often it is sent.
func (c *Client) Issue(ctx context.Context, o Order, key string) ([]Document, error) {
	var out struct{ Items []Document }
	return out.Items, c.call(ctx, request{method: http.MethodPost, path: "/documents", in: o, once: key}, &out)
}

// HoldDocument keeps a document from being erased, for a reason; an empty one lets it go again.
func (c *Client) HoldDocument(ctx context.Context, id uint64, reason string) (d Document, err error) {
	r := request{method: http.MethodPut, path: documentPath(id) + "/hold", in: map[string]string{"reason": reason}}
	if reason == "" {
		r.method, r.in = http.MethodDelete, nil
	}
	return d, c.call(ctx, r, &d)
}

// Erase erases documents that were kept as long as they must be, or tells which those are.
func (c *Client) Erase(ctx context.Context, onlyLook bool) (Erasure, error) {
	return post[Erasure](ctx, c, "/erasures", map[string]bool{"onlyLook": onlyLook})
}

// Documents lists documents, newest first.
func (c *Client) Documents(ctx context.Context, f Find) (List[Document], error) {
	return list[Document](ctx, c, "/documents", f)
}

func documentPath(id uint64) string { return fmt.Sprintf("/documents/%d", id) }

// Document finds one.
func (c *Client) Document(ctx context.Context, id uint64) (Document, error) {
	return get[Document](ctx, c, documentPath(id))
}

// SetDocument makes a document approved, issued or, for a reason, void.
func (c *Client) SetDocument(ctx context.Context, id uint64, revision int, state, reason string) (Document, error) {
	return patch[Document](ctx, c, documentPath(id), revision, map[string]string{"state": state, "reason": reason})
}

// PDF gives a document's bytes.
func (c *Client) PDF(ctx context.Context, id uint64) ([]byte, error) {
	return c.bytes(ctx, request{method: http.MethodGet, path: documentPath(id) + "/pdf"})
}

// History tells what happened to a document.
func (c *Client) History(ctx context.Context, id uint64, f Find) (List[Event], error) {
	return list[Event](ctx, c, documentPath(id)+"/history", f)
}

// Repeat sets a document again and tells whether the bytes are the same.
func (c *Client) Repeat(ctx context.Context, id uint64) (bool, error) {
	out, err := post[struct{ Same bool }](ctx, c, documentPath(id)+"/repetition", nil)
	return out.Same, err
}

// StartBatch makes documents of many records.
func (c *Client) StartBatch(ctx context.Context, o BatchOrder, key string) (b Batch, err error) {
	return b, c.call(ctx, request{method: http.MethodPost, path: "/batches", in: o, once: key}, &b)
}

// TryBatch sets the first ten documents of a batch, and keeps nothing.
func (c *Client) TryBatch(ctx context.Context, o BatchOrder) (List[Trial], error) {
	return post[List[Trial]](ctx, c, "/batch-trials", o)
}

// Batches lists batches, newest first.
func (c *Client) Batches(ctx context.Context, f Find) (List[Batch], error) {
	return list[Batch](ctx, c, "/batches", f)
}

func batchPath(id uint64) string { return fmt.Sprintf("/batches/%d", id) }

// Batch tells how far a batch is.
func (c *Client) Batch(ctx context.Context, id uint64) (Batch, error) {
	return get[Batch](ctx, c, batchPath(id))
}

// SetBatch makes a batch running, paused or cancelled; empty leaves its state.
func (c *Client) SetBatch(ctx context.Context, id uint64, state string, priority *int) (Batch, error) {
	return patch[Batch](ctx, c, batchPath(id), 0, map[string]any{"state": state, "priority": priority})
}

// RetryBatch gives what failed another turn.
func (c *Client) RetryBatch(ctx context.Context, id uint64) (Batch, error) {
	return post[Batch](ctx, c, batchPath(id)+"/retry", nil)
}

// Items lists the items of a batch.
func (c *Client) Items(ctx context.Context, batch uint64, f Find) (List[Item], error) {
	return list[Item](ctx, c, batchPath(batch)+"/items", f)
}

// Follow tells each step of a batch until it has ended.
func (c *Client) Follow(ctx context.Context, id uint64, step func(Batch)) (last Batch, err error) {
	for {
		if last, err = c.follow(ctx, id, step); err != nil || last.Ended() {
			return last, err
		}
		select { // the way was cut: ask again
		case <-ctx.Done():
			return last, ctx.Err()
		case <-time.After(time.Second):
		}
	}
}

func (c *Client) follow(ctx context.Context, id uint64, step func(Batch)) (last Batch, err error) {
	res, err := c.send(ctx, request{method: http.MethodGet, path: batchPath(id) + "/events"})
	if err != nil {
		return last, err
	}
	defer res.Body.Close()
	for lines := bufio.NewScanner(res.Body); lines.Scan(); {
		data, ok := strings.CutPrefix(lines.Text(), "data: ")
		if !ok || data == "{}" {
			continue
		}
		if err := json.Unmarshal([]byte(data), &last); err != nil {
			return last, err
		}
		step(last)
	}
	return last, ctx.Err()
}

// BatchFile copies all documents of a batch, as a “zip” or bound as a “pdf”.
func (c *Client) BatchFile(ctx context.Context, id uint64, kind string, rightHand bool, to io.Writer) error {
	q := url.Values{}
	if rightHand {
		q.Set("right-hand", "1")
	}
	return c.copy(ctx, request{method: http.MethodGet, path: batchPath(id) + "/" + kind, query: q}, to)
}

// DocumentsFile copies some documents, as a “zip” or “bound” into one PDF.
func (c *Client) DocumentsFile(ctx context.Context, ids []uint64, kind string, to io.Writer) error {
	list := make([]string, len(ids))
	for i, id := range ids {
		list[i] = strconv.FormatUint(id, 10)
	}
	return c.copy(ctx, request{method: http.MethodGet, path: "/documents/" + kind, query: url.Values{"ids": {strings.Join(list, ",")}}}, to)
}

// copy writes what is answered, as it comes in.
func (c *Client) copy(ctx context.Context, r request, to io.Writer) error {
	res, err := c.send(ctx, r)
	if err != nil {
		return err
	}
	defer res.Body.Close()
	_, err = io.Copy(to, res.Body)
	return err
}

// Deliver brings a document somewhere.
func (c *Client) Deliver(ctx context.Context, d DeliveryOrder, key string) (out Delivery, err error) {
	return out, c.call(ctx, request{method: http.MethodPost, path: "/deliveries", in: d, once: key}, &out)
}

// Deliveries lists deliveries, newest first.
func (c *Client) Deliveries(ctx context.Context, f Find) (List[Delivery], error) {
	return list[Delivery](ctx, c, "/deliveries", f)
}

// Delivery finds one with its tries.
func (c *Client) Delivery(ctx context.Context, id uint64) (Delivery, error) {
	return get[Delivery](ctx, c, fmt.Sprintf("/deliveries/%d", id))
}

// RetryDelivery tries a failed delivery again. What a webhook was told is told again in any case.
func (c *Client) RetryDelivery(ctx context.Context, id uint64) (Delivery, error) {
	return post[Delivery](ctx, c, fmt.Sprintf("/deliveries/%d/retry", id), nil)
}

func hookPath(id uint64) string { return fmt.Sprintf("/hooks/%d", id) }

// AddHook adds a webhook that is told of what happens.
func (c *Client) AddHook(ctx context.Context, h HookInput) (Hook, error) {
	return post[Hook](ctx, c, "/hooks", h)
}

// Hooks lists the webhooks that are told of what happens. What one was told is in [Client.Deliveries], with the filter hook.
func (c *Client) Hooks(ctx context.Context, f Find) (List[Hook], error) {
	return list[Hook](ctx, c, "/hooks", f)
}

// SetHook changes or pauses a webhook; revision is the one that was read, 0 does not ask.
func (c *Client) SetHook(ctx context.Context, id uint64, revision int, h HookInput) (Hook, error) {
	return patch[Hook](ctx, c, hookPath(id), revision, h)
}

// RemoveHook ends a webhook; what waits to be told fails.
func (c *Client) RemoveHook(ctx context.Context, id uint64) error {
	return remove(ctx, c, hookPath(id))
}

// TestHook sends a webhook a message that means nothing.
func (c *Client) TestHook(ctx context.Context, id uint64) (Delivery, error) {
	return post[Delivery](ctx, c, hookPath(id)+"/test", nil)
}

// Share makes a link to a document.
func (c *Client) Share(ctx context.Context, s ShareOrder) (Share, error) {
	return post[Share](ctx, c, "/share-links", s)
}

// Shares lists links, newest first.
func (c *Client) Shares(ctx context.Context, f Find) (List[Share], error) {
	return list[Share](ctx, c, "/share-links", f)
}

// RevokeShare ends a link.
func (c *Client) RevokeShare(ctx context.Context, id uint64) error {
	return remove(ctx, c, fmt.Sprintf("/share-links/%d", id))
}

// Fonts lists the fonts that all templates can name by their family.
func (c *Client) Fonts(ctx context.Context, f Find) (List[Font], error) {
	return list[Font](ctx, c, "/fonts", f)
}

// AddFont adds a font file: TTF, OTF, WOFF or WOFF2.
func (c *Client) AddFont(ctx context.Context, name string, file io.Reader) (f Font, err error) {
	return f, c.call(ctx, request{method: http.MethodPost, path: "/fonts", query: url.Values{"name": {name}}, body: file, kind: "application/octet-stream"}, &f)
}

// WithdrawFont takes a font away; documents that were set with it keep it.
func (c *Client) WithdrawFont(ctx context.Context, id uint64) error {
	return remove(ctx, c, fmt.Sprintf("/fonts/%d", id))
}

// SeriesList lists the number series.
func (c *Client) SeriesList(ctx context.Context, f Find) (List[Series], error) {
	return list[Series](ctx, c, "/number-series", f)
}

// AddSeries adds a number series.
func (c *Client) AddSeries(ctx context.Context, s Series) (Series, error) {
	return post[Series](ctx, c, "/number-series", map[string]any{"name": s.Name, "pattern": s.Pattern, "next": s.Next})
}

// SetSeries changes the pattern or the next number of a series.
func (c *Client) SetSeries(ctx context.Context, id uint64, pattern string, next int) (Series, error) {
	return patch[Series](ctx, c, fmt.Sprintf("/number-series/%d", id), 0, map[string]any{"pattern": pattern, "next": next})
}

// Ledger lists its rows, newest first.
func (c *Client) Ledger(ctx context.Context, f Find) (List[Entry], error) {
	return list[Entry](ctx, c, "/ledger", f)
}

// VerifyLedger checks the chain and the stored bytes.
func (c *Client) VerifyLedger(ctx context.Context) (Verification, error) {
	return c.VerifyLedgerFrom(ctx, 1)
}

// VerifyLedgerFrom begins at a row: those before it were checked.
func (c *Client) VerifyLedgerFrom(ctx context.Context, row int) (v Verification, err error) {
	return v, c.call(ctx, request{method: http.MethodPost, path: "/ledger/verification", query: url.Values{"from": {strconv.Itoa(row)}}}, &v)
}

// ExportLedger writes the ledger with its signed heads, to be checked without the service.
func (c *Client) ExportLedger(ctx context.Context, to io.Writer) error {
	return c.copy(ctx, request{method: http.MethodGet, path: "/ledger/export"}, to)
}

// PrintHead writes a page with the newest signed head of the ledger, to be printed and kept.
func (c *Client) PrintHead(ctx context.Context, to io.Writer) error {
	return c.copy(ctx, request{method: http.MethodGet, path: "/ledger/head"}, to)
}

// NewKey makes a key for a program; its secret is told only now.
func (c *Client) NewKey(ctx context.Context, k KeyOrder) (Key, error) {
	return post[Key](ctx, c, "/keys", k)
}

// Keys lists the keys.
func (c *Client) Keys(ctx context.Context, f Find) (List[Key], error) {
	return list[Key](ctx, c, "/keys", f)
}

// RevokeKey ends a key.
func (c *Client) RevokeKey(ctx context.Context, id uint64) error {
	return remove(ctx, c, fmt.Sprintf("/keys/%d", id))
}

// People lists who may log in.
func (c *Client) People(ctx context.Context, f Find) (List[Person], error) {
	return list[Person](ctx, c, "/people", f)
}

// AddPerson adds someone.
func (c *Client) AddPerson(ctx context.Context, p PersonInput) (Person, error) {
	return post[Person](ctx, c, "/people", p)
}

// SetPerson changes someone.
func (c *Client) SetPerson(ctx context.Context, id uint64, p PersonInput) (Person, error) {
	return patch[Person](ctx, c, fmt.Sprintf("/people/%d", id), 0, p)
}

// Events lists who did what, newest first.
func (c *Client) Events(ctx context.Context, f Find) (List[Event], error) {
	return list[Event](ctx, c, "/events", f)
}
