package record

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func read(t *testing.T, f Format, in string) []Record {
	t.Helper()
	var out []Record
	require.NoError(t, Each(strings.NewReader(in), Options{Format: f}, func(r Record) error { out = append(out, r); return nil }))
	return out
}

func TestJSON(t *testing.T) {
	list := read(t, JSON, "\xEF\xBB\xBF[\n {\"number\": \"A\", \"price\": 1.10},\n {\"lines\": [{\"x\": 12345678901234567890}]}\n]")
	require.Len(t, list, 2)
	assert.Equal(t, json.Number("1.10"), list[0].Data["price"], "digits stay as written")
	assert.Equal(t, "record 1 (number A)", list[0].Name())
	assert.Equal(t, "record 2", list[1].Name())
	one := read(t, JSON, `{"a": {"b": null}}`)
	require.Len(t, one, 1)
	assert.Equal(t, map[string]any{"b": nil}, one[0].Data["a"])
}

func TestNDJSON(t *testing.T) {
	list := read(t, NDJSON, "{\"a\":1}\n\n  {\"a\":2}\r\n")
	require.Len(t, list, 2)
	assert.Equal(t, 3, list[1].Line)
	assert.Equal(t, 2, list[1].Number)
}

func TestCSV(t *testing.T) {
	list := read(t, CSV, "number;customer.name;customer.town\nQ1;\"O'Rourke; Seán\";\"Port\nAlmond\"\nQ2;Zoë;\n")
	require.Len(t, list, 2)
	assert.Equal(t, map[string]any{"name": "O'Rourke; Seán", "town": "Port\nAlmond"}, list[0].Data["customer"])
	assert.Equal(t, "Q2", list[1].Data["number"])
	assert.Equal(t, 4, list[1].Line)
}

func TestErrorsNameTheLine(t *testing.T) {
	for _, c := range []struct {
		f        Format
		in, want string
	}{
		{JSON, "", "empty"},
		{JSON, "3", "object or an array"},
		{JSON, "[\n{\"a\":1},\n{\"a\":}]", "line 3"},
		{JSON, "[\n{\"a\":1}", "ends in the middle"},
		{JSON, "[1]", "entry 1 is not an object"},
		{JSON, "{}\n{}", "something after the end"},
		{JSON, "[" + strings.Repeat(`{"a":`, 300) + "1" + strings.Repeat("}", 300) + "]", "deeper than 200"},
		{NDJSON, "{}\n{", "line 2"},
		{NDJSON, "{} {}", "more than one value"},
		{CSV, "", "empty"},
		{CSV, "a,a\n1,2", "two columns are named"},
		{CSV, "a,\n1,2", "column 2 has no name"},
		{CSV, "a,b\n1\n", "line 2"},
		{CSV, "a,b\n\"1,2\n", "line 2"},
		{CSV, strings.Repeat("a.", 300) + "a\n1", "deeper than 200"},
		{YAML, strings.Repeat("[", 200_000), "deeper than 200"},
		{YAML, "a:\n" + strings.Repeat("- ", 5000) + "b", "deeper than 200"},
		{YAML, aliases(30), "more than 2000000 values"},
		{YAML, "a: {<<: 3}", "not a mapping"},
		{"doc", "a", "is not json"},
	} {
		err := Each(strings.NewReader(c.in), Options{Format: c.f}, func(Record) error { return nil })
		assert.ErrorContains(t, err, c.want, "%s %q", c.f, c.in)
	}
}

// aliases are a few lines of YAML that stand for a great many values.
func aliases(levels int) string {
	var b strings.Builder
	b.WriteString("a0: &a0 [x]\n")
	for i := 1; i <= levels; i++ {
		fmt.Fprintf(&b, "a%d: &a%d [*a%d,*a%d,*a%d]\n", i, i, i-1, i-1, i-1)
	}
	return b.String()
}

func TestFromJSON(t *testing.T) {
	r, err := FromJSON([]byte(`{"n": 1.10}`), 3)
	require.NoError(t, err)
	assert.Equal(t, Record{Number: 3, Data: map[string]any{"n": json.Number("1.10")}}, r)
	for in, want := range map[string]string{"null": "null", "[]": "it is a list", "{": "unexpected EOF", strings.Repeat(`{"a":`, 300) + "1" + strings.Repeat("}", 300): "deeper than 200"} {
		_, err := FromJSON([]byte(in), 1)
		assert.ErrorContains(t, err, want)
	}
}

func TestVisitorStops(t *testing.T) {
	stop := errors.New("enough")
	n := 0
	err := Each(strings.NewReader(`[{},{},{}]`), Options{Format: JSON}, func(Record) error { n++; return stop })
	assert.ErrorIs(t, err, stop)
	assert.Equal(t, 1, n)
}

func TestFormatOf(t *testing.T) {
	for name, want := range map[string]Format{"a.JSON": JSON, "b.jsonl": NDJSON, "c.ndjson": NDJSON, "d.csv": CSV} {
		f, err := FormatOf(name)
		require.NoError(t, err)
		assert.Equal(t, want, f)
	}
	_, err := FormatOf("x.doc")
	assert.Error(t, err)
}

func FuzzEach(f *testing.F) {
	f.Add("[{}]", 0)
	f.Add("{}\n{}", 1)
	f.Add("a;b\n1;2", 2)
	f.Add("- a: 1\n- b: [2, &x {c: d}, *x]\n", 3)
	f.Add("<a><b c='1'>d</b></a>", 4)
	f.Add("a\tb\n1\t2", 5)
	f.Add(string(workbook(f)), 6)
	f.Fuzz(func(t *testing.T, s string, kind int) {
		late := time.AfterFunc(10*time.Second, func() { panic("reading does not end") })
		defer late.Stop()
		formats := []Format{JSON, NDJSON, CSV, YAML, XML, TSV, XLSX}
		Each(strings.NewReader(s), Options{Format: formats[((kind%len(formats))+len(formats))%len(formats)]}, func(r Record) error {
			if r.Data == nil {
				t.Fatal("a record without data")
			}
			return nil
		})
	})
}
