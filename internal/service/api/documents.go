package api

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io/fs"
	"mime"
	"net/http"
	"strconv"
	"time"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/store"
	"oliveledger/internal/setting"
	"oliveledger/merge"
	"oliveledger/record"
	"oliveledger/typeset"
)

// slot waits for its turn to render; a crowd is turned away.
func (a *API) slot(c *echo.Context) (func(), error) {
	select {
	case a.Slots <- struct{}{}:
		return func() { <-a.Slots }, nil
	case <-time.After(20 * time.Second):
		c.Response().Header().Set("Retry-After", "5")
		return nil, echo.NewHTTPError(http.StatusServiceUnavailable, "too many renderings at once; try again in a moment")
	case <-c.Request().Context().Done():
		return nil, c.Request().Context().Err()
	}
}

// set merges a record into files and sets the page.
func set(ctx context.Context, t *merge.Template, files Files, r record.Record, out *bytes.Buffer) (*typeset.Document, error) {
	html, err := t.Merge(r)
	if err != nil {
		return nil, err
	}
	o := typeset.Options{Name: t.Manifest.Page, Loader: typeset.Files(files), Limits: typeset.Limits{Time: time.Minute, Pages: 5000}}
	if err := setting.Apply(t, &o); err != nil {
		return nil, err
	}
	return typeset.Set(ctx, html, o, out)
}

// begin reads the body of a request that sets documents, and waits for a place
// among those that are set at once. The caller gives the place back.
func (a *API) begin(c *echo.Context, in any, what string) (free func(), err error) {
	if err := c.Bind(in); err != nil {
		return nil, bad("the body is not the JSON of a %s: %v", what, err)
	}
	return a.slot(c)
}

// render sets one page at once and keeps nothing: of a template and a record,
// of files that are still being edited, or of a posted page.
func (a *API) render(c *echo.Context) error {
	var in struct {
		HTML     string               `json:"html"`
		Template string               `json:"template"`
		Version  int                  `json:"version"`
		Files    map[string]fileInput `json:"files"`
		Record   json.RawMessage      `json:"record"`
		Set      uint64               `json:"recordSet"`
		Number   int                  `json:"number"`
	}
	free, err := a.begin(c, &in, "rendering")
	if err != nil {
		return err
	}
	defer free()
	var out bytes.Buffer
	var doc *typeset.Document
	if in.HTML != "" {
		doc, err = typeset.Set(c.Request().Context(), []byte(in.HTML), typeset.Options{Name: "page.html", Limits: typeset.Limits{Time: time.Minute, Pages: 5000}}, &out)
	} else {
		files := Files{}
		if in.Template != "" {
			t, err := a.Store.Template(in.Template)
			if err != nil {
				return err
			}
			v, err := a.Store.Version(t, in.Version)
			if err != nil {
				return err
			}
			files = filesOf(v)
		}
		for p, f := range in.Files {
			if !fs.ValidPath(p) {
				return bad("%q is not a path inside a template", p)
			}
			files[p] = f.bytes()
		}
		doc, err = a.preview(c, files, in.Template, in.Record, in.Set, in.Number, &out)
	}
	if err != nil {
		return unprocessable(err)
	}
	findings, _ := json.Marshal(doc.Findings)
	h := c.Response().Header()
	h.Set("Cache-Control", "no-store")
	h.Set("X-Olive-Pages", strconv.Itoa(doc.Pages))
	if len(findings) < 6000 {
		h.Set("X-Olive-Findings", mime.QEncoding.Encode("utf-8", string(findings)))
	}
	return c.Blob(http.StatusOK, "application/pdf", out.Bytes())
}

func (a *API) preview(c *echo.Context, files Files, name string, raw json.RawMessage, set1 uint64, number int, out *bytes.Buffer) (*typeset.Document, error) {
	t, err := merge.Open(name, files.FS())
	if err != nil {
		return nil, err
	}
	var r record.Record
	switch {
	case len(raw) > 0:
		if r, err = parseRecord(raw, 1); err != nil {
			return nil, fmt.Errorf("the record is not a JSON object: %w", err)
		}
	case set1 > 0:
		row, err := a.Store.Record(set1, number)
		if err != nil {
			return nil, fmt.Errorf("record %d of set %d: there is no such record", number, set1)
		}
		if r, err = decode(row); err != nil {
			return nil, err
		}
	default:
		if r, err = t.SampleRecord(files.FS()); err != nil {
			return nil, err
		}
	}
	return set(c.Request().Context(), t, files, r, out)
}

// made is a document, or why there is none.
type made struct {
	*store.Document
	Record int    `json:"record"`
	Error  string `json:"error,omitempty"`
}

// maxAtOnce bounds the documents of one request.
const maxAtOnce = 1000

// issue makes and keeps documents: of records of a set, of one posted record,
// or of a posted page.
func (a *API) issue(c *echo.Context) error {
	var in struct {
		HTML     string          `json:"html"`
		Name     string          `json:"name"`
		Template string          `json:"template"`
		Version  int             `json:"version"`
		Set      uint64          `json:"recordSet"`
		Records  []int           `json:"records"` // of the set; empty for all
		Record   json.RawMessage `json:"record"`
	}
	free, err := a.begin(c, &in, "document")
	if err != nil {
		return err
	}
	defer free()
	if in.HTML != "" {
		var out bytes.Buffer
		doc, err := typeset.Set(c.Request().Context(), []byte(in.HTML), typeset.Options{Name: "page.html"}, &out)
		if err != nil {
			return unprocessable(err)
		}
		name := merge.SafeName(in.Name)
		if name == "" {
			name = "page.pdf"
		}
		row, err := a.keep(c, doc, out.Bytes(), store.Document{Name: name})
		if err != nil {
			return err
		}
		return c.JSON(http.StatusCreated, map[string]any{"items": []made{{Document: row}}, "failed": 0})
	}
	if in.Template == "" {
		return bad("a document needs “template” with “recordSet” or “record”, or “html”")
	}
	t, err := a.Store.Template(in.Template)
	if err != nil {
		return err
	}
	v, err := a.Store.Version(t, in.Version)
	if err != nil {
		return err
	}
	files := filesOf(v)
	opened, err := merge.Open(t.Name, files.FS())
	if err != nil {
		return unprocessable(err)
	}
	records, err := a.chosen(in.Set, in.Records, in.Record)
	if err != nil {
		return err
	}
	items, failed := []made{}, 0
	for _, r := range records {
		row, err := a.one(c, opened, files, t.Name, v.Number, in.Set, r)
		if err != nil {
			failed++
			items = append(items, made{Record: r.Number, Error: err.Error()})
			continue
		}
		items = append(items, made{Document: row, Record: r.Number})
	}
	status := http.StatusCreated
	if failed == len(items) {
		status = http.StatusUnprocessableEntity
	}
	return c.JSON(status, map[string]any{"items": items, "failed": failed})
}

func (a *API) chosen(set uint64, numbers []int, raw json.RawMessage) ([]record.Record, error) {
	if len(raw) > 0 {
		r, err := parseRecord(raw, 1)
		if err != nil {
			return nil, bad("the record is not a JSON object: %v", err)
		}
		return []record.Record{r}, nil
	}
	if set == 0 {
		return nil, bad("say which records: “recordSet”, or one “record”")
	}
	s, err := a.Store.RecordSet(set)
	if err != nil {
		return nil, err
	}
	if len(numbers) == 0 && s.Count > maxAtOnce || len(numbers) > maxAtOnce {
		return nil, bad("at most %d documents are made in one request; choose records by “records”", maxAtOnce)
	}
	var rows []store.Record
	if len(numbers) == 0 {
		if rows, err = a.Store.Records(set, 0, maxAtOnce); err != nil {
			return nil, err
		}
	}
	for _, n := range numbers {
		row, err := a.Store.Record(set, n)
		if err != nil {
			return nil, echo.NewHTTPError(http.StatusUnprocessableEntity, fmt.Sprintf("record %d: the set %q has no such record; it has %d", n, s.Name, s.Count))
		}
		rows = append(rows, row)
	}
	out := make([]record.Record, 0, len(rows))
	for _, row := range rows {
		r, err := decode(row)
		if err != nil {
			return nil, err
		}
		out = append(out, r)
	}
	return out, nil
}

func (a *API) one(c *echo.Context, t *merge.Template, files Files, name string, version int, setID uint64, r record.Record) (*store.Document, error) {
	var out bytes.Buffer
	doc, err := set(c.Request().Context(), t, files, r, &out)
	if err != nil {
		return nil, err
	}
	file, err := t.FileName(r)
	if err != nil {
		return nil, err
	}
	return a.keep(c, doc, out.Bytes(), store.Document{Name: file, Template: name, Version: version, RecordSetID: setID, Record: r.Number})
}

func (a *API) keep(c *echo.Context, doc *typeset.Document, data []byte, row store.Document) (*store.Document, error) {
	sum, err := a.Blobs.Put(data)
	if err != nil {
		return nil, err
	}
	findings, err := json.Marshal(doc.Findings)
	if err != nil {
		return nil, err
	}
	row.Title, row.Pages, row.Bytes, row.SHA256, row.Findings, row.Author = doc.Title, doc.Pages, len(data), sum, string(findings), who(c).Email
	return &row, a.Store.AddDocument(&row)
}

func (a *API) listDocuments(c *echo.Context) error {
	offset, limit, err := pageOf(c)
	if err != nil {
		return err
	}
	list, total, err := a.Store.Documents(c.QueryParam("search"), offset, limit)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, map[string]any{"items": notNil(list), "total": total})
}

func (a *API) getDocument(c *echo.Context) error {
	id, err := idParam(c, "id")
	if err != nil {
		return err
	}
	d, err := a.Store.Document(id)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, struct {
		store.Document
		Findings json.RawMessage `json:"findings"`
	}{d, json.RawMessage(d.Findings)})
}

// getPDF gives the document's bytes, to show or to save.
func (a *API) getPDF(c *echo.Context) error {
	id, err := idParam(c, "id")
	if err != nil {
		return err
	}
	d, err := a.Store.Document(id)
	if err != nil {
		return err
	}
	data, err := a.Blobs.Get(d.SHA256)
	if err != nil {
		return err
	}
	how := "inline"
	if c.QueryParam("download") != "" {
		how = "attachment"
	}
	h := c.Response().Header()
	h.Set("Content-Disposition", disposition(how, d.Name))
	h.Set("Cache-Control", "private, no-cache")
	h.Set("ETag", `"`+d.SHA256+`"`)
	h.Set("Content-Type", "application/pdf")
	http.ServeContent(c.Response(), c.Request(), "", d.CreatedAt, bytes.NewReader(data))
	return nil
}

// disposition names a file in ASCII and in UTF-8 (RFC 6266).
func disposition(how, name string) string {
	return mime.FormatMediaType(how, map[string]string{"filename": name})
}
