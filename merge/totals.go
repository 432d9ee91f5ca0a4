package merge

import (
	"errors"
	"fmt"
	"io"
	text "text/template"

	"github.com/shopspring/decimal"

	"oliveledger/record"
)

// Total is a number that a record brings although it follows from its other fields.
type Total struct {
	Each  string `yaml:"each" json:"each,omitempty"` // the list whose entries have the field; the record itself when empty
	Field string `yaml:"field" json:"field"`         // of the record or entry, with dots
	Is    string `yaml:"is" json:"is"`               // what it follows from, as a template writes it: sum .lines "amount"
}

// worked is a total with what works it out.
type worked struct {
	Total
	names []string // of the field
	sum   *text.Template
}

// result takes what a total is worked out to, exact, while its template runs.
const resultName = "result"

func (t *Template) readTotals() error {
	for i, x := range t.Manifest.Totals {
		if x.Field == "" || x.Is == "" {
			return fmt.Errorf("%s: totals: entry %d names a “field” and what it “is”", ManifestName, i+1)
		}
		funcs := t.functions
		p, err := text.New("totals").Funcs(funcs).Funcs(text.FuncMap{resultName: func(any) string { return "" }}).Parse("{{" + resultName + " (" + x.Is + ")}}")
		if err == nil {
			err = makeStrict(p.Tree)
		}
		if err != nil {
			return fmt.Errorf("%s: totals: %q: %s", ManifestName, x.Is, plain(err))
		}
		t.totals = append(t.totals, worked{x, namesOf(x.Field), p})
	}
	return nil
}

// Differences tells where a record's own totals are not what its other fields give. A
// record that lacks a total is not asked for it.
func (t *Template) Differences(r record.Record) (list []string, err error) {
	if len(t.totals) == 0 {
		return nil, nil
	}
	data, err := t.values(r)
	if err != nil {
		return nil, err
	}
	for _, w := range t.totals {
		entries := []map[string]any{data}
		if w.Each != "" {
			v, ok, err := lookup(data, namesOf(w.Each))
			if !ok || err != nil {
				continue
			}
			if entries, err = records(v); err != nil {
				return list, fmt.Errorf("totals: the field %q: %w", w.Each, err)
			}
		}
		work, err := w.worker()
		if err != nil {
			return list, err
		}
		for i, e := range entries {
			what, err := w.difference(e, work)
			if err != nil {
				return list, fmt.Errorf("totals: %w", err)
			}
			if what != "" && w.Each != "" {
				what = fmt.Sprintf("entry %d of %q: %s", i+1, w.Each, what)
			}
			if what != "" {
				list = append(list, what)
			}
		}
	}
	return list, nil
}

// worker works a total out, for one record or entry after the other.
func (w *worked) worker() (func(data any) (decimal.Decimal, error), error) {
	run, err := w.sum.Clone()
	if err != nil {
		return nil, err
	}
	var sum decimal.Decimal
	run.Funcs(text.FuncMap{resultName: func(v any) (string, error) {
		var err error
		sum, err = amount(v)
		return "", err
	}})
	return func(data any) (decimal.Decimal, error) {
		err := run.Execute(io.Discard, data)
		if missing := (*fieldError)(nil); errors.As(err, &missing) {
			return sum, missing
		}
		if err != nil {
			return sum, fmt.Errorf("%s: %s", w.Is, causeOf(err))
		}
		return sum, nil
	}, nil
}

// difference tells how a total of one record, or entry, differs; "" when it does not.
func (w *worked) difference(data map[string]any, work func(any) (decimal.Decimal, error)) (string, error) {
	v, ok, err := lookup(data, w.names)
	if !ok || err != nil || v == nil {
		return "", nil
	}
	brought, err := amount(v)
	if err != nil {
		return "", fmt.Errorf("the field %q: %w", w.Field, err)
	}
	sum, err := work(data)
	if err != nil {
		return "", err
	}
	if sum.Equal(brought) {
		return "", nil
	}
	return fmt.Sprintf("the field %q is %s, but %s gives %s", w.Field, brought, w.Is, sum), nil
}
