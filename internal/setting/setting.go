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
	o.AllowMissing = o.AllowMissing || d.AllowMissing
	o.Untagged = o.Untagged || d.Untagged
	o.Linearised = o.Linearised || d.Linearised
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

// TraceProbed does so with the elements at a point and the rules that hold for them.
func TraceProbed(list []typeset.Probed, m *merge.Merged, name string) {
	for i := range list {
		e := &list[i]
		tracePlace(&e.File, &e.Line, &e.Column, m, name)
		for j := range e.Rules {
			r := &e.Rules[j]
			for k := range r.Declarations {
				d, file := &r.Declarations[k], r.File
				tracePlace(&file, &d.Line, &d.Column, m, name)
			}
			tracePlace(&r.File, &r.Line, &r.Column, m, name)
		}
	}
}

func trace(f *typeset.Finding, m *merge.Merged, name string) {
	tracePlace(&f.File, &f.Line, &f.Column, m, name)
}

// tracePlace gives a place in a merged page its place in the template.
func tracePlace(file *string, line, column *int, m *merge.Merged, name string) {
	if *file != name || *line == 0 {
		return
	}
	if from, l, c := m.Origin(*line, *column); from != "" {
		*file, *line, *column = path.Join(path.Dir(filepath.ToSlash(name)), from), l, c
	}
}
