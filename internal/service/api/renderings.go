package api

import (
	"fmt"
	"io"
	"maps"
	"mime/multipart"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/press"
	"oliveledger/internal/service/clock"
	"oliveledger/internal/service/issue"
	"oliveledger/record"
	"oliveledger/typeset"
)

// Rendering is what is to be set at once: a posted page, or a template with
// the record that is given, one of a set, or its sample. Nothing is kept.
type Rendering struct {
	HTML      string               `json:"html,omitempty"`      // the page, instead of a template
	Template  string               `json:"template,omitempty"`  // that is filled in
	Version   int                  `json:"version,omitempty"`   // 0 for the newest
	Files     map[string]FileInput `json:"files,omitempty"`     // instead of those of the version, or beside them
	Record    raw                  `json:"record,omitempty"`    // that is merged in; the template's sample when it is left out
	RecordSet uint64               `json:"recordSet,omitempty"` // a set that the record is of, with “number”
	Number    int                  `json:"number,omitempty"`    // of the record in its set
	Paper     string               `json:"paper,omitempty"`     // as CSS writes it
	Margins   string               `json:"margins,omitempty"`   // as CSS writes them: 20mm 15mm
	Header    string               `json:"header,omitempty"`    // text at the head of each page: left | middle | right
	Footer    string               `json:"footer,omitempty"`    // text at the foot of each page: left | middle | right
	Watermark string               `json:"watermark,omitempty"` // text across each page
	Probe     *typeset.Probe       `json:"probe,omitempty"`     // a point of a page: what stands there is told, in an answer in JSON
	Date      string               `json:"date,omitempty"`      // that {date} and the function today give: 2026-05-31
}

// Rendered is a rendering as JSON, for those who want more than the PDF.
type Rendered struct {
	Pages    int               `json:"pages"`    // how many there are
	Title    string            `json:"title"`    // of the document
	Findings []typeset.Finding `json:"findings"` // what a person should know about the pages
	HTML     string            `json:"html"`     // as merged
	Sheets   []Sheet           `json:"sheets"`   // the geometry of each page
	PDF      []byte            `json:"pdf"`      // in base64

	Probed []typeset.Probed `json:"probed,omitempty"` // the elements at the point that was asked about, the outermost first
}

// Sheet is the geometry of one page in px: its size, and x, y, width and height
// of the page area; where the contents end, and why the page ends there.
type Sheet struct {
	Width  float64    `json:"width"`            // in px
	Height float64    `json:"height"`           // in px
	Area   [4]float64 `json:"area"`             // x, y, width and height of the page area, in px
	End    float64    `json:"end"`              // where the contents end, in px from the top
	Break  string     `json:"break"`            // empty on the last page
	Advice string     `json:"advice,omitempty"` // what to change for another break
	File   string     `json:"file,omitempty"`   // where what comes next stands
	Line   int        `json:"line,omitempty"`   // of the place where the page ends, in its file
	Column int        `json:"column,omitempty"` // of the place where the page ends, in its file
}

// render sets a page at once. It answers with the PDF, or with JSON when that
// is what the caller accepts.
func (a *API) render(c *echo.Context) error {
	in, err := renderingInput(c)
	if err != nil {
		return err
	}
	leave, err := a.slot(c)
	if err != nil {
		return err
	}
	defer leave()
	start := time.Now()
	p, err := a.rendered(c, in)
	if err != nil {
		return unprocessable(err)
	}
	a.Metrics.rendering(p.Document.Pages, time.Since(start))
	if wantsJSON(c) {
		findings := p.Findings
		if findings == nil {
			findings = []typeset.Finding{}
		}
		sheets := make([]Sheet, 0, len(p.Frames))
		for _, f := range p.Frames {
			b := &f.Break
			sheets = append(sheets, Sheet{f.W, f.H, f.Area, f.End, b.Message, b.Advice, b.File, b.Line, b.Column})
		}
		return c.JSON(http.StatusOK, Rendered{p.Document.Pages, p.Title, findings, string(p.HTML), sheets, p.PDF, p.Probed})
	}
	c.Response().Header().Set("Olive-Pages", strconv.Itoa(p.Document.Pages))
	c.Response().Header().Set("Olive-Findings", strconv.Itoa(len(p.Findings)))
	return c.Blob(http.StatusOK, "application/pdf", p.PDF)
}

// wantsJSON tells whether a rendering is asked for with all that is known of it.
func wantsJSON(c *echo.Context) bool {
	return strings.Contains(c.Request().Header.Get("Accept"), "application/json")
}

// renderingInput reads JSON, or a form whose other fields are the record's.
func renderingInput(c *echo.Context) (in Rendering, err error) {
	if !isForm(c) {
		return read[Rendering](c)
	}
	values, err := c.FormValues()
	if err != nil {
		return in, bad("the form cannot be read: %v", err)
	}
	options := map[string]*string{"html": &in.HTML, "template": &in.Template, "paper": &in.Paper, "margins": &in.Margins, "header": &in.Header, "footer": &in.Footer, "watermark": &in.Watermark, "date": &in.Date}
	data := map[string]any{}
	for name, list := range values {
		v := list[0]
		switch to := options[name]; {
		case to != nil:
			*to = v
		case name == "key":
		case name == "version":
			if in.Version, err = strconv.Atoi(v); err != nil {
				return in, bad("version %q is not a number", v)
			}
		case name == "record":
			in.Record = raw(v)
		default: // customer.name is a field of the record's customer
			record.Put(data, name, v)
		}
	}
	if err := formFiles(c, &in); err != nil {
		return in, err
	}
	if len(in.Record) == 0 && len(data) > 0 {
		in.Record = mustJSON(data)
	}
	return in, nil
}

// formFiles takes the files of a multipart form: the page or the record, or
// files of the template.
func formFiles(c *echo.Context, in *Rendering) error {
	form, err := c.MultipartForm()
	if err != nil {
		return nil // it has none
	}
	for name, list := range form.File {
		for _, head := range list {
			data, err := posted(head)
			if err != nil {
				return err
			}
			switch name {
			case "html":
				in.HTML = string(data)
			case "record":
				in.Record = data
			case "files":
				if in.Files == nil {
					in.Files = map[string]FileInput{}
				}
				in.Files[head.Filename] = FileInput{Base64: data}
			default:
				return bad("a file called “%s” is not known; there are html, record and files", name)
			}
		}
	}
	return nil
}

func posted(head *multipart.FileHeader) ([]byte, error) {
	f, err := head.Open()
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return io.ReadAll(f)
}

func (a *API) rendered(c *echo.Context, in Rendering) (*issue.Pages, error) {
	var date time.Time
	if in.Date != "" {
		var err error
		if date, err = time.Parse(time.DateOnly, in.Date); err != nil {
			return nil, bad("“date” is a day such as 2026-05-31, not %q", in.Date)
		}
	}
	if err := within(c, in.Template, in.HTML != "" || len(in.Files) > 0); err != nil {
		return nil, err
	}
	full := wantsJSON(c)
	p := press.Page{HTML: []byte(in.HTML), Today: date, Options: press.Options{
		Paper: in.Paper, Margins: in.Margins, Header: in.Header, Footer: in.Footer, Watermark: in.Watermark,
		Date: date, Merged: full, TraceBreaks: full, Probe: in.Probe,
	}}
	if in.HTML != "" && (in.Template != "" || len(in.Files) > 0) {
		return nil, bad("a rendering has “html”, or “template” and “files”, not both")
	}
	if in.HTML != "" {
		return a.Maker.Set(c.Request().Context(), nil, p, issue.Now)
	}
	t, err := a.opened(in)
	if err != nil {
		return nil, err
	}
	if p.Record, err = a.recordOf(in); err != nil {
		return nil, err
	}
	// as a document would have it
	p.Preview = map[string]string{"number": "PREVIEW", "code": "preview", "state": "preview", "issued": clock.Now().Format(time.DateOnly), "verify": a.Maker.Public + "/verify/preview"}
	return a.Maker.Set(c.Request().Context(), t, p, issue.Now)
}

// opened is the template of a rendering, with the files that came along.
func (a *API) opened(in Rendering) (*issue.Template, error) {
	if in.Template == "" && len(in.Files) == 0 {
		return nil, bad("a rendering needs “html”, “template” or “files”")
	}
	files := issue.Files{}
	if in.Template != "" {
		t, err := a.Maker.Open(in.Template, in.Version)
		if err == nil && len(in.Files) == 0 {
			return t, nil
		}
		if err == nil {
			files = t.Files
		} else if len(in.Files) == 0 {
			return nil, err
		}
	}
	more, err := inputFiles(in.Files)
	if err != nil {
		return nil, err
	}
	both := issue.Files{}
	for _, list := range []issue.Files{files, more} {
		maps.Copy(both, list)
	}
	return issue.Of(in.Template, both), nil
}

// recordOf is the record of a rendering; nil for the template's sample.
func (a *API) recordOf(in Rendering) (*press.Record, error) {
	switch {
	case len(in.Record) > 0:
		return &press.Record{Number: 1, Data: in.Record}, nil
	case in.RecordSet > 0:
		row, err := a.Store.Record(in.RecordSet, in.Number)
		if err != nil {
			return nil, fmt.Errorf("record %d of set %d: there is no such record", in.Number, in.RecordSet)
		}
		return &press.Record{Number: row.Number, Data: []byte(row.Data)}, nil
	}
	return nil, nil
}
