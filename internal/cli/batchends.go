package cli

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"oliveledger/internal/setting"
	"oliveledger/record"
	"oliveledger/typeset/bind"
)

// report is what a run leaves behind.
type report struct {
	Template  string    `json:"template"`
	Records   string    `json:"records"`
	Began     time.Time `json:"began"`
	Seconds   float64   `json:"seconds"`
	Documents int       `json:"documents"`
	Pages     int       `json:"pages"`
	Failed    int       `json:"failed"`
	Resumed   int       `json:"resumed"`
	Stopped   string    `json:"stopped,omitempty"`
	Outcomes  []outcome `json:"outcomes"`
}

// writeReport writes the report that was asked for, also of a run that ended
// early.
func (b *batchRun) writeReport(ended error) error {
	name := b.f.batch.report
	if name == "" {
		return nil
	}
	slices.SortStableFunc(b.lines, func(x, y outcome) int { return cmp.Compare(x.Record, y.Record) })
	r := report{Template: b.title(), Records: b.f.records.name(), Began: b.start, Seconds: time.Since(b.start).Seconds(), Documents: b.done, Pages: b.pages, Failed: b.failed, Resumed: b.resumed, Outcomes: b.lines}
	if ended != nil {
		r.Stopped = ended.Error()
	}
	return writeWhole(name, func(w io.Writer) error {
		if strings.EqualFold(filepath.Ext(name), ".json") {
			e := json.NewEncoder(w)
			e.SetIndent("", "  ")
			return e.Encode(r)
		}
		return reportPage.Execute(w, r)
	})
}

// title is how the report calls the template.
func (b *batchRun) title() string {
	if t := b.t.Manifest.Title; t != "" {
		return t
	}
	return filepath.Base(b.t.Name)
}

var reportPage = template.Must(template.New("report").Funcs(template.FuncMap{
	"kb":   func(n int64) string { return strconv.FormatFloat(float64(n)/1024, 'f', 1, 64) },
	"when": func(t time.Time) string { return t.Format("2006-01-02 15:04:05") },
	"secs": func(s float64) string { return strconv.FormatFloat(s, 'f', 1, 64) },
}).Parse(`<!DOCTYPE html><html lang="en"><meta charset="utf-8"><title>Run of {{.Template}}</title>
<style>body{font:15px/1.5 system-ui,sans-serif;margin:2rem auto;max-width:70rem;padding:0 1rem;color:#1d2939}h1{font-size:1.5rem;margin:0}p{margin:.25rem 0 1rem;color:#475467}
table{border-collapse:collapse;width:100%}th,td{text-align:left;padding:.4rem .6rem;border-bottom:1px solid #e4e7ec;vertical-align:top}th{font-weight:600}td:nth-child(-n+2){white-space:nowrap}td.n,th.n{text-align:right;font-variant-numeric:tabular-nums}
tr.failed td{background:#fef3f2}.error{color:#b42318}.finding{color:#93500b}ul{margin:0;padding-left:1.1rem}dl{display:flex;flex-wrap:wrap;gap:1rem 2.5rem;margin:1rem 0}dt{color:#475467}dd{margin:0;font-size:1.25rem;font-weight:600}</style>
<h1>Run of {{.Template}}</h1><p>{{.Records}}, {{when .Began}}{{with .Stopped}} — <span class="error">ended early: {{.}}</span>{{end}}</p>
<dl><div><dt>Documents</dt><dd>{{.Documents}}</dd></div><div><dt>Pages</dt><dd>{{.Pages}}</dd></div><div><dt>Failed</dt><dd>{{.Failed}}</dd></div><div><dt>There already</dt><dd>{{.Resumed}}</dd></div><div><dt>Seconds</dt><dd>{{secs .Seconds}}</dd></div></dl>
<table><thead><tr><th>Record<th>File<th class=n>Pages<th class=n>KB<th>What to know</thead><tbody>
{{range .Outcomes}}<tr{{if .Error}} class="failed"{{end}}><td>{{.Name}}<td>{{.File}}<td class=n>{{with .Pages}}{{.}}{{end}}<td class=n>{{with .Bytes}}{{kb .}}{{end}}<td>{{with .Error}}<span class="error">{{.}}</span>{{end}}{{with .Findings}}<ul>{{range .}}<li class="finding">{{.}}</li>{{end}}</ul>{{end}}
{{end}}</tbody></table>`))

// boundDocument waits to be bound into one PDF.
type boundDocument struct {
	number      int
	title, file string // file is where it lies; empty when data holds it
	data        []byte
}

// keep remembers a document for binding.
func (b *batchRun) keep(r record.Record, name string, data []byte) error {
	if b.f.batch.bind == "" {
		return nil
	}
	d := boundDocument{number: r.Number, title: strings.TrimSuffix(name, ".pdf"), data: data}
	if b.f.to != "" {
		d.file, d.data = filepath.Join(b.f.to, name), nil
	}
	b.mu.Lock()
	b.bound = append(b.bound, d)
	b.mu.Unlock()
	return nil
}

// bind makes one PDF of all documents, in the order of their records.
func (b *batchRun) bind() error {
	out := b.f.batch.bind
	if out == "" || len(b.bound) == 0 {
		return nil
	}
	slices.SortFunc(b.bound, func(x, y boundDocument) int { return cmp.Compare(x.number, y.number) })
	var list []bind.Source
	for _, d := range b.bound {
		data := d.data
		if d.file != "" {
			var err error
			if data, err = os.ReadFile(d.file); err != nil {
				return fmt.Errorf("%s, which is to be bound, cannot be read: %w", d.file, errors.Unwrap(err))
			}
		}
		list = append(list, bind.Source{Name: d.title, Title: d.title, Data: data, Password: b.f.file.openPassword})
	}
	var done *bind.Result
	tell, err := output{b.c.OutOrStdout(), b.c.ErrOrStderr()}.write(out, func(w io.Writer) (err error) {
		done, err = bind.Bind(b.c.Context(), list, bind.Options{Title: b.t.Manifest.Title, RightHand: b.f.batch.rightHand, Protect: b.o.Protect, Linearised: b.o.Linearised}, w)
		return err
	})
	if err == nil && !b.f.quiet {
		fmt.Fprintf(tell, "%s: %s\n", out, pages(done.Pages))
	}
	return err
}

// asOne merges all records into one document, as the list .records.
func (b *batchRun) asOne(source record.Source) error {
	var all []any
	err := source(func(r record.Record) error {
		if b.wanted.takes(r.Number) {
			all = append(all, r.Data)
		}
		return b.c.Context().Err()
	})
	if err != nil {
		return err
	}
	if err := b.wanted.beyond(b.f.records.name()); err != nil {
		return err
	}
	if len(all) == 0 {
		return fmt.Errorf("%s holds no records", b.f.records.name())
	}
	merged, err := b.t.Merge(record.Record{Number: 1, Data: map[string]any{"records": all}})
	if err != nil {
		return fmt.Errorf("--as-one gives a template one record, whose list .records holds them all (--bind makes a document of each): %w", err)
	}
	if err := makeFolderOf(b.f.batch.asOne); err != nil {
		return err
	}
	doc, err := writeDocument(b.c.Context(), merged.HTML, b.o, b.f.batch.asOne)
	if err != nil {
		return err
	}
	setting.Trace(doc.Findings, merged, b.o.Name)
	if b.f.proof != "" {
		data, err := os.ReadFile(b.f.batch.asOne)
		if err != nil {
			return err
		}
		if err := writeProof(b.c.Context(), data, b.f.proof, doc); err != nil {
			return err
		}
	}
	if !b.f.quiet {
		b.tell(doc.Findings)
		fmt.Fprintf(b.c.OutOrStdout(), "%s: %s, %s\n", b.f.batch.asOne, plural(len(all), "record"), pages(doc.Pages))
	}
	if b.failed > 0 {
		fmt.Fprintf(b.c.ErrOrStderr(), "olive: %s could not be read\n", plural(b.failed, "row"))
		return errSome
	}
	if b.f.fail.breached(doc.Findings) {
		return errSome
	}
	return nil
}

// choice is the records that are wanted, by their place; all when it is empty.
type choice struct {
	text      string
	stretches [][2]int
	last      int // place of the last record that was looked at
}

// choiceOf reads a choice of records: numbers and stretches.
func choiceOf(text string) (choice, error) {
	c := choice{text: text}
	if text == "" {
		return c, nil
	}
	for part := range strings.SplitSeq(text, ",") {
		a, z, isRange := strings.Cut(strings.TrimSpace(part), "-")
		from, err := strconv.Atoi(a)
		to := from
		if isRange && err == nil {
			to, err = strconv.Atoi(z)
		}
		if err != nil || from < 1 || to < from {
			return c, usage("%q is no choice of records; write 1,4-7", text)
		}
		c.stretches = append(c.stretches, [2]int{from, to})
	}
	return c, nil
}

// takes tells whether a record is wanted.
func (c *choice) takes(n int) bool {
	c.last = max(c.last, n)
	return c.text == "" || slices.ContainsFunc(c.stretches, func(s [2]int) bool { return s[0] <= n && n <= s[1] })
}

// beyond tells of places that the source does not reach.
func (c *choice) beyond(source string) error {
	for _, s := range c.stretches {
		if s[1] > c.last {
			return fmt.Errorf("--only asks for record %d, but %s holds %s", s[1], source, plural(c.last, "record"))
		}
	}
	return nil
}
