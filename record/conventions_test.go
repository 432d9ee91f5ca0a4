package record

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// cells reads a table of one column x, and what is told of it.
func cells(t *testing.T, o Options, values ...string) (out []any, notes []string) {
	t.Helper()
	o.Format, o.Delimiter = CSV, ';'
	o.Note = func(s string) { notes = append(notes, s) }
	require.NoError(t, Each(strings.NewReader("x\n"+strings.Join(values, "\n")+"\n"), o, func(r Record) error { out = append(out, r.Data["x"]); return nil }))
	return out, notes
}

func list(s ...string) (out []any) {
	for _, x := range s {
		out = append(out, x)
	}
	return out
}

func TestConventionsAreFoundOut(t *testing.T) {
	for _, c := range []struct {
		name     string
		in, want []string
		note     string // a part of what is told, or "" for nothing
	}{
		{"decimal commas", []string{"12,50", "3", "1.234,56", "-0,5"}, []string{"12.50", "3", "1234.56", "-0.5"}, `"12,50", which are read as 12.50`},
		{"groups of thousands", []string{"1,234.56", "12"}, []string{"1234.56", "12"}, `"1,234.56", which are read as 1234.56`},
		{"spaces between groups", []string{"1 234,50", "12\u00A0345,00"}, []string{"1234.50", "12345.00"}, "read as 1234.50"},
		{"apostrophes", []string{"1'234.50", "2"}, []string{"1234.50", "2"}, "read as 1234.50"},
		{"points as they are", []string{"12.50", "3.1"}, []string{"12.50", "3.1"}, ""},
		{"whole numbers", []string{"12", "7"}, []string{"12", "7"}, ""},
		{"codes with zeros in front", []string{"007", "012,5"}, []string{"007", "012,5"}, ""},
		{"text among them", []string{"12,50", "none"}, []string{"12,50", "none"}, ""},
		{"one in two ways", []string{"1,234", "5,678"}, []string{"1,234", "5,678"}, "can be read in two ways"},
		{"a point before three digits", []string{"1.234"}, []string{"1.234"}, ""},
		{"dates with points", []string{"31.05.2026", "1.6.2026"}, []string{"2026-05-31", "2026-06-01"}, "read as 2026-05-31"},
		{"days first", []string{"05/06/2026", "31/05/2026"}, []string{"2026-06-05", "2026-05-31"}, "read as 2026-06-05"},
		{"months first", []string{"05/31/2026", "06/01/2026"}, []string{"2026-05-31", "2026-06-01"}, "read as 2026-05-31"},
		{"dates in two ways", []string{"05/06/2026"}, []string{"05/06/2026"}, "can be read in two ways"},
		{"neither fits all", []string{"31/05/2026", "05/31/2026"}, []string{"31/05/2026", "05/31/2026"}, ""},
		{"with a time", []string{"31.05.2026 10:30", "01.06.2026"}, []string{"2026-05-31T10:30:00", "2026-06-01"}, "2026-05-31T10:30:00"},
		{"ISO dates as they are", []string{"2026-05-31"}, []string{"2026-05-31"}, ""},
		{"versions are no dates", []string{"1.2.3"}, []string{"1.2.3"}, ""},
		{"a date that is none", []string{"31.02.2026"}, []string{"31.02.2026"}, "not written as the dates"},
	} {
		got, notes := cells(t, Options{}, c.in...)
		assert.Equal(t, list(c.want...), got, c.name)
		if c.note == "" {
			assert.Empty(t, notes, c.name)
		} else {
			assert.Contains(t, strings.Join(notes, "\n"), c.note, c.name)
		}
	}
}

func TestConventionsThatAreGiven(t *testing.T) {
	got, notes := cells(t, Options{Decimal: ","}, "1,234", "5,5", "none")
	assert.Equal(t, list("1.234", "5.5", "none"), got)
	require.Len(t, notes, 1)
	assert.Contains(t, notes[0], `line 4: "none" in the column "x" is not written as the numbers above it`)
	got, notes = cells(t, Options{Decimal: "."}, "1,234", "5,678")
	assert.Equal(t, list("1234", "5678"), got)
	assert.Empty(t, notes)
	got, _ = cells(t, Options{Decimal: "."}, "12,50")
	assert.Equal(t, list("12,50"), got, "that is no number with a point")
	got, notes = cells(t, Options{Dates: "MM/DD/YYYY"}, "05/06/2026", "12/31/2026")
	assert.Equal(t, list("2026-05-06", "2026-12-31"), got)
	assert.Empty(t, notes)
	got, _ = cells(t, Options{Dates: "DD.MM.YY HH:mm"}, "31.05.26 10:30")
	assert.Equal(t, list("2026-05-31T10:30:00"), got)
	for want, o := range map[string]Options{"no notation of dates": {Dates: "day"}, "a comma or a point": {Decimal: ";"}} {
		o.Format = CSV
		err := Each(strings.NewReader("x\n1\n"), o, func(Record) error { return nil })
		assert.ErrorContains(t, err, want)
	}
}

// One column with decimal commas tells how another, which could be read in two ways, is
// meant; numbers are numbers where types are asked for.
func TestColumnsTellOfEachOther(t *testing.T) {
	var got []map[string]any
	read := func(r Record) error { got = append(got, r.Data); return nil }
	require.NoError(t, Each(strings.NewReader("a;b;c\n12,50;1.234;7\n1,5;2.000;8\n"), Options{Format: CSV, Typed: true}, read))
	assert.Equal(t, map[string]any{"a": json.Number("12.50"), "b": json.Number("1234"), "c": json.Number("7")}, got[0])
}

// What the first rows show holds for the others; one that differs is told once.
func TestLaterRowsThatDiffer(t *testing.T) {
	var rows []string
	for i := range mostLooked + 10 {
		rows = append(rows, fmt.Sprintf("%d,5", i))
	}
	rows = append(rows, "see below", "12,25", "also below")
	got, notes := cells(t, Options{}, rows...)
	require.Len(t, got, mostLooked+13)
	assert.Equal(t, "509.5", got[mostLooked+9])
	assert.Equal(t, "see below", got[mostLooked+10])
	assert.Equal(t, "12.25", got[mostLooked+11])
	require.Len(t, notes, 2)
	assert.Contains(t, notes[1], fmt.Sprintf(`line %d: "see below"`, mostLooked+12))
}

func TestRowsWithoutHeader(t *testing.T) {
	var got []map[string]any
	var bad []string
	o := Options{Format: CSV, NoHeader: true, Bad: func(e *RowError) error { bad = append(bad, e.Error()); return nil }}
	require.NoError(t, Each(strings.NewReader("\"a\"b,c\n1,x\n2,y\n3\n"), o, func(r Record) error { got = append(got, r.Data); return nil }))
	assert.Equal(t, []map[string]any{{"column1": "1", "column2": "x"}, {"column1": "2", "column2": "y"}}, got)
	assert.Len(t, bad, 2)
}

func FuzzConventions(f *testing.F) {
	f.Add("12,50", "31.05.2026")
	f.Fuzz(func(t *testing.T, a, b string) {
		for _, v := range []string{a, b} {
			if n, _, all := likeNumbers([]string{v}); all {
				out, ok := n.read(v)
				assert.True(t, ok, v)
				assert.Regexp(t, `^-?\d+(\.\d+)?$`, out)
			}
			if d, _, all := likeDates([]string{v}); all {
				d.read(v)
			}
		}
	})
}

func TestYAMLKeepsCodes(t *testing.T) {
	var got map[string]any
	in := "- {a: 012, b: 0x1F, c: 1_000, d: -007, e: 0.50, f: 0, g: 0o14}\n"
	require.NoError(t, Each(strings.NewReader(in), Options{Format: YAML}, func(r Record) error { got = r.Data; return nil }))
	assert.Equal(t, map[string]any{"a": "012", "b": json.Number("31"), "c": json.Number("1000"), "d": "-007", "e": json.Number("0.50"), "f": json.Number("0"), "g": json.Number("12")}, got)
}
