package api

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"mime"
	"net/http"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/press"
	"oliveledger/internal/service/issue"
	"oliveledger/internal/service/store"
	"oliveledger/record"
)

// DocumentOrder asks for documents: of one record, of records of a set, or of a
// posted page. Many records at once are for batches.
type DocumentOrder struct {
	HTML      string `json:"html,omitempty"`     // a page to keep, instead of a template
	Name      string `json:"name,omitempty"`     // of the file, for a posted page
	Template  string `json:"template,omitempty"` // that the documents are made of
	Version   int    `json:"version,omitempty"`  // 0 for the newest
	RecordSet uint64 `json:"recordSet,omitempty"`
	Records   []int  `json:"records,omitempty"` // of the set
	Record    raw    `json:"record,omitempty"`  // the record, instead of some of a set
	Series    string `json:"series,omitempty"`  // that gives them numbers
	Draft     bool   `json:"draft,omitempty"`   // they wait to be approved
}

// Made is a document, or why there is none.
type Made struct {
	*store.Document
	Record int    `json:"record"`          // place of the record in the set
	Error  string `json:"error,omitempty"` // why the document could not be made
}

// MadeList are the documents of an order.
type MadeList struct {
	Items  []Made `json:"items"`  // the documents, in the order of the records
	Failed int    `json:"failed"` // documents that could not be made
}

// DocumentDetail is a document with its findings.
type DocumentDetail struct {
	store.Document
	Findings raw `json:"findings" holds:"findings"` // what a person should know about its pages
	Data     raw `json:"data,omitempty"`            // the record it was made of
}

// maxAtOnce bounds the documents of one request.
const maxAtOnce = 100

// order makes and keeps documents.
func (a *API) order(c *echo.Context) error {
	in, err := read[DocumentOrder](c)
	if err != nil {
		return err
	}
	if err := within(c, in.Template, in.HTML != ""); err != nil {
		return err
	}
	leave, err := a.slot(c)
	if err != nil {
		return err
	}
	defer leave()
	if in.HTML != "" {
		d, set := a.Maker.PrepareHTML(c.Request().Context(), in.HTML, in.Name, who(c).Email)
		k := &store.Keeping{Document: d, Set: set}
		if err := a.keep(c, k); err != nil {
			return err
		}
		if k.Err != nil {
			return unprocessable(k.Err)
		}
		return c.JSON(http.StatusCreated, MadeList{Items: []Made{{Document: d}}})
	}
	if in.Template == "" {
		return bad("a document needs “template” with “record”, or with “recordSet” and “records”, or “html”")
	}
	t, err := a.Maker.Open(in.Template, in.Version)
	if err != nil {
		return unprocessable(err)
	}
	if in.Draft, err = a.waits(c, t, in.Series, in.Draft); err != nil {
		return unprocessable(err)
	}
	out := MadeList{Items: []Made{}}
	rows, err := a.chosen(in)
	if err != nil {
		return err
	}
	made := make([]*store.Keeping, len(rows))
	for i, row := range rows {
		made[i] = a.prepare(c, t, row, in)
	}
	if err := a.keep(c, made...); err != nil {
		return err
	}
	for i, k := range made {
		if errors.Is(k.Err, press.ErrClosed) {
			return k.Err
		}
		if k.Err != nil {
			out.Failed++
			out.Items = append(out.Items, Made{Record: rows[i].Number, Error: k.Err.Error()})
			continue
		}
		out.Items = append(out.Items, Made{Document: k.Document, Record: rows[i].Number})
	}
	switch n := len(out.Items); {
	case out.Failed == n && n == 1:
		return unprocessableText("%s", out.Items[0].Error)
	case out.Failed == n:
		return unprocessableText("none of the %d documents could be made; the first: %s", n, out.Items[0].Error)
	}
	return c.JSON(http.StatusCreated, out)
}

// waits tells whether documents wait to be approved: because it is asked for, or because their template or number
// series demands it, so that nobody can forget.
func (a *API) waits(c *echo.Context, t *issue.Template, series string, asked bool) (bool, error) {
	if asked {
		return true, nil
	}
	if series != "" {
		x, err := a.Store.SeriesNamed(series)
		if errors.Is(err, store.ErrNotFound) {
			return false, unprocessableText("there is no number series %q", series)
		}
		if err != nil || x.Approval {
			return x.Approval, err
		}
	}
	about, err := a.Maker.About(c.Request().Context(), t)
	if err != nil {
		return false, err
	}
	return about.Manifest.Approval, nil
}

// prepare begins a document of a record.
func (a *API) prepare(c *echo.Context, t *issue.Template, row store.Record, in DocumentOrder) *store.Keeping {
	r, err := record.FromJSON([]byte(row.Data), row.Number)
	if err != nil {
		return &store.Keeping{Err: bad("the record is not a JSON object: %v", err)}
	}
	data, err := json.Marshal(r.Data)
	if err != nil {
		return &store.Keeping{Err: err}
	}
	d, set := a.Maker.Prepare(c.Request().Context(), issue.Order{Template: t, Record: row.Number, Data: string(data), Set: in.RecordSet, Series: in.Series, Draft: in.Draft, Shelf: issue.Now, Author: who(c).Email, Person: who(c).person})
	return &store.Keeping{Document: d, Set: set}
}

// keep sets documents and keeps them with their events, all at once. Those that need no number are set before
// others have to wait for it. When none can be set, nothing is kept.
func (a *API) keep(c *echo.Context, list ...*store.Keeping) error {
	for _, k := range list {
		if k.Err == nil {
			k.SetFirst()
		}
	}
	err := a.act(c, func(st *store.Store) (e store.Event, err error) {
		if err := st.AddAll(list); err != nil {
			return e, err
		}
		kept := 0
		for _, k := range list {
			if k.Err != nil {
				continue
			}
			if kept++; kept > 1 { // the last one is kept by act
				if err := st.Note(by(c, e)); err != nil {
					return e, err
				}
			}
			e = event("document."+k.State, "document", k.ID, "%s", k.Name)
		}
		if kept == 0 {
			return e, errNoneMade
		}
		return e, nil
	})
	if errors.Is(err, errNoneMade) {
		return nil // each tells why
	}
	return err
}

var errNoneMade = errors.New("none of the documents could be made")

func (a *API) chosen(in DocumentOrder) ([]store.Record, error) {
	if len(in.Record) > 0 {
		return []store.Record{{Number: 1, Data: string(in.Record)}}, nil
	}
	if in.RecordSet == 0 {
		return nil, bad("say which records: “recordSet” with “records”, or one “record”")
	}
	if len(in.Records) == 0 || len(in.Records) > maxAtOnce {
		return nil, bad("name 1 to %d records of the set in “records”; more of them are a batch", maxAtOnce)
	}
	return a.recordsOf(in.RecordSet, in.Records)
}

// recordsOf finds records of a set by their numbers.
func (a *API) recordsOf(set uint64, numbers []int) ([]store.Record, error) {
	s, err := a.Store.RecordSet(set)
	if err != nil {
		return nil, err
	}
	rows := make([]store.Record, 0, len(numbers))
	for _, n := range numbers {
		row, err := a.Store.Record(s.ID, n)
		if err != nil {
			return nil, unprocessableText("record %d: the set %q has no such record; it has %d", n, s.Name, s.Count)
		}
		rows = append(rows, row)
	}
	return rows, nil
}

func (a *API) listDocuments(c *echo.Context) error {
	f := store.DocumentFilter{Search: c.QueryParam("search"), Template: c.QueryParam("template"), State: c.QueryParam("state")}
	if err := within(c, f.Template, false); err != nil { // a limited key says which of its templates
		return err
	}
	batch, err := numberOf(c, "batch", 0)
	if err != nil {
		return err
	}
	f.Batch = uint64(batch)
	for name, to := range map[string]*time.Time{"from": &f.From, "to": &f.To} {
		if v := c.QueryParam(name); v != "" {
			day, err := time.Parse(time.DateOnly, v)
			if err != nil {
				return bad("%s %q is not a date such as 2026-11-23", name, v)
			}
			*to = day
		}
	}
	if !f.To.IsZero() {
		f.To = f.To.AddDate(0, 0, 1) // the day itself counts
	}
	if f.Search == "" {
		return a.documents(c, f)
	}
	return heavy(func(a *API, c *echo.Context) error { return a.documents(c, f) })(a, c) // it looks into all texts
}

func (a *API) documents(c *echo.Context, f store.DocumentFilter) error {
	return list(c, func(p store.Page) ([]store.Document, int64, error) { return a.Store.Documents(f, p) })
}

// document finds the one that a path names.
func (a *API) document(c *echo.Context) (store.Document, error) {
	d, err := find(c, a.Store.Document)
	if err == nil {
		err = within(c, d.Template, false)
	}
	return d, err
}

func (a *API) getDocument(c *echo.Context) error {
	d, err := a.document(c)
	if err != nil {
		return err
	}
	return answer(c, http.StatusOK, d.Revision, detail(d))
}

func detail(d store.Document) DocumentDetail {
	out := DocumentDetail{Document: d, Findings: raw("[]")}
	if d.Findings != "" && d.Findings != "null" {
		out.Findings = raw(d.Findings)
	}
	if d.Template != "" {
		out.Data = raw(d.Data)
	}
	return out
}

// Change asks for another state of a document.
type Change struct {
	State  string `json:"state" oneof:"approved issued void"` // approved, issued or void
	Reason string `json:"reason,omitempty"`                   // why it is void
}

// changeDocument approves, issues or voids a document.
func (a *API) changeDocument(c *echo.Context) error {
	id, rev, in, err := edit[Change](c)
	if err != nil {
		return err
	}
	change, err := a.change(c, id, rev, in)
	if err != nil {
		return err
	}
	var d store.Document
	err = a.act(c, func(st *store.Store) (_ store.Event, err error) {
		d, err = change(st)
		return event("document."+d.State, "document", d.ID, "%s", in.Reason), err
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusOK, d.Revision, detail(d))
}

// mostReason is what a reason has at most, in characters.
const mostReason = 480

// reasoned refuses an empty or overlong reason for what is done.
func reasoned(reason, what string) error {
	if strings.TrimSpace(reason) == "" {
		return bad("say why %s: “reason”", what)
	}
	if n := utf8.RuneCountInString(reason); n > mostReason {
		return unprocessableText("the reason has %d characters; there is room for %d", n, mostReason)
	}
	return nil
}

// change is how a document gets to the state that is asked for.
func (a *API) change(c *echo.Context, id uint64, rev int, in Change) (func(*store.Store) (store.Document, error), error) {
	switch in.State {
	case store.Approved:
		return func(st *store.Store) (store.Document, error) { return st.Approve(id, rev, who(c).Email, who(c).person) }, nil
	case store.Issued:
		d, err := a.Store.Document(id)
		if err != nil {
			return nil, err
		}
		set, err := a.Maker.Again(c.Request().Context(), &d)
		if err != nil {
			return nil, unprocessable(err)
		}
		return func(st *store.Store) (store.Document, error) { return st.IssueApproved(id, rev, set) }, nil
	case store.Void:
		if err := reasoned(in.Reason, "the document is void"); err != nil {
			return nil, err
		}
		return func(st *store.Store) (store.Document, error) { return st.MakeVoid(id, rev, who(c).Email, in.Reason) }, nil
	}
	return nil, bad("a document can be made approved, issued or void, not %q", in.State)
}

// getPDF gives the document's bytes, to show or to save.
func (a *API) getPDF(c *echo.Context) error {
	d, err := a.document(c)
	if err != nil {
		return err
	}
	return a.sendPDF(c, d, flag(c, "download"), "private, no-cache")
}

// gone tells that a document has been erased.
func gone(d store.Document) error {
	return echo.NewHTTPError(http.StatusGone, fmt.Sprintf("document %d was kept as long as it must be, and erased on %s; the ledger still has its row", d.ID, d.ErasedAt.Format(time.DateOnly)))
}

// sendPDF sends a document; caching says who may keep it.
func (a *API) sendPDF(c *echo.Context, d store.Document, save bool, caching string) error {
	if d.ErasedAt != nil {
		return gone(d)
	}
	data, err := a.Blobs.Get(c.Request().Context(), d.SHA256)
	if err != nil {
		return err
	}
	how := "inline"
	if save {
		how = "attachment"
	}
	h := c.Response().Header()
	h.Set("Content-Disposition", mime.FormatMediaType(how, map[string]string{"filename": d.Name})) // RFC 6266
	h.Set("Cache-Control", caching)
	h.Set("ETag", `"`+d.SHA256+`"`)
	h.Set("Content-Type", "application/pdf")
	http.ServeContent(c.Response(), c.Request(), "", d.CreatedAt, bytes.NewReader(data))
	return nil
}

// history is what happened to a document.
func (a *API) history(c *echo.Context) error {
	d, err := a.document(c)
	if err != nil {
		return err
	}
	return list(c, func(p store.Page) ([]store.Event, int64, error) {
		events, total, err := a.Store.Events("document", c.Param("id"), "", p)
		if err != nil || d.BatchID == 0 {
			return events, total, err
		}
		// what a batch makes has no event for each document: its row tells as much
		if total++; p.Offset+len(events) == int(total)-1 && len(events) < p.Limit {
			events = append(events, store.Event{At: d.CreatedAt, Who: d.Author, Action: "document.made", Kind: "document", Ref: c.Param("id"), Detail: fmt.Sprintf("by batch %d from record %d", d.BatchID, d.Record)})
		}
		return events, total, nil
	})
}

// Repetition tells whether a document that is set again has the same bytes.
type Repetition struct {
	Same bool `json:"same"` // the bytes are those that were issued, up to a signature
}

// repeat sets a document again from its record and version, and compares.
func (a *API) repeat(c *echo.Context) error {
	d, err := a.document(c)
	if err != nil {
		return err
	}
	leave, err := a.slot(c)
	if err != nil {
		return err
	}
	defer leave()
	same, err := a.Maker.Same(c.Request().Context(), d)
	if err != nil {
		return unprocessable(err)
	}
	return c.JSON(http.StatusOK, Repetition{same})
}

func mustJSON(v any) raw {
	b, err := json.Marshal(v)
	if err != nil {
		panic(err) // it holds plain values
	}
	return b
}
