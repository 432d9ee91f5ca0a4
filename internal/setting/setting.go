// Package setting brings what a template's manifest asks for to the core's
// options. The command line and the service share it.
package setting

import (
	"fmt"
	"path"
	"path/filepath"

	"oliveledger/merge"
	"oliveledger/record"
	"oliveledger/typeset"
)

// Apply puts a template's defaults into options; what is set there stays.
func Apply(t *merge.Template, o *typeset.Options) error {
	d := t.Manifest.PDF
	for _, f := range []struct {
		to   *string
		from string
	}{
		{&o.Paper, d.Paper},
		{&o.Margins, d.Margins},
		{&o.Header, d.Header},
		{&o.Footer, d.Footer},
		{&o.Watermark, d.Watermark},
		{&o.Author, d.Author},
		{&o.Subject, d.Subject},
		{&o.Keywords, d.Keywords},
		{&o.Archive, d.Archive},
	} {
		if *f.to == "" {
			*f.to = f.from
		}
	}
	o.Untagged = o.Untagged || d.Untagged
	sheets, err := t.Sheets()
	if err != nil {
		return err
	}
	for _, s := range sheets {
		o.AuthorSheets = append(o.AuthorSheets[:len(o.AuthorSheets):len(o.AuthorSheets)], typeset.Sheet{Name: s.Name, Text: s.Text})
	}
	return nil
}

// Differences tells where a record's own totals are not what its lines give.
func Differences(t *merge.Template, r record.Record) ([]typeset.Finding, error) {
	list, err := t.Differences(r)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", r.Name(), err)
	}
	var out []typeset.Finding
	for _, what := range list {
		out = append(out, typeset.Finding{Code: "total-differs", Severity: typeset.Warning, Message: r.Name() + ": " + what, Advice: "mend the record, or let the template work the number out"})
	}
	return out, nil
}

// Trace gives findings in a merged page, which was set under a name, their places
// in the files of its template.
func Trace(list []typeset.Finding, m *merge.Merged, name string) {
	for i := range list {
		trace(&list[i], m, name)
	}
}

// TraceBreaks does so with why the pages end where they do.
func TraceBreaks(list []typeset.Frame, m *merge.Merged, name string) {
	for i := range list {
		trace(&list[i].Break, m, name)
	}
}

func trace(f *typeset.Finding, m *merge.Merged, name string) {
	if f.File != name || f.Line == 0 {
		return
	}
	if file, line, column := m.Origin(f.Line, f.Column); file != "" {
		f.File, f.Line, f.Column = path.Join(path.Dir(filepath.ToSlash(name)), file), line, column
	}
}
