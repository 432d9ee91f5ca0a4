package record

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

func readWith(t *testing.T, o Options, in string) []Record {
	t.Helper()
	var out []Record
	require.NoError(t, Each(strings.NewReader(in), o, func(r Record) error { out = append(out, r); return nil }))
	return out
}

func TestJSONPath(t *testing.T) {
	list := readWith(t, Options{Format: JSON, Path: "data.invoices"}, `{"meta":{"invoices":[1,{"a":[2]}]},"data":{"count":2,"invoices":[{"number":"A"},
	{"number":"B"}],"rest":3},"more":{}}`)
	require.Len(t, list, 2)
	assert.Equal(t, "B", list[1].Data["number"])
	assert.Equal(t, 2, list[1].Line)
	err := Each(strings.NewReader(`{"data":{"x":[]}}`), Options{Format: JSON, Path: "data.invoices", Name: "a.json"}, nil)
	assert.EqualError(t, err, `a.json: there is no field "invoices" on the way "data.invoices" to the records`)
	err = Each(strings.NewReader(`{"data":[]}`), Options{Format: JSON, Path: "data.invoices"}, nil)
	assert.ErrorContains(t, err, "is not an object")
}

func TestYAML(t *testing.T) {
	list := readWith(t, Options{Format: YAML}, "# moorings\n- number: A\n  price: 1.10\n  tags: [x, 'y']\n- number: 007\n  text: |\n    - not a record\n    second\n  at: 2026-05-31\n")
	require.Len(t, list, 2)
	assert.Equal(t, map[string]any{"number": "A", "price": json.Number("1.10"), "tags": []any{"x", "y"}}, list[0].Data)
	assert.Equal(t, "- not a record\nsecond\n", list[1].Data["text"])
	assert.Equal(t, "2026-05-31", list[1].Data["at"])
	assert.Equal(t, 5, list[1].Line)
	list = readWith(t, Options{Format: YAML}, "---\na: &x {b: 1}\n---\nc: 2\n")
	require.Len(t, list, 2)
	assert.Equal(t, json.Number("2"), list[1].Data["c"])
	list = readWith(t, Options{Format: YAML, Path: "data.list"}, "data:\n  list:\n  - {n: 1}\n  - {n: 2}\n")
	assert.Len(t, list, 2)
	list = readWith(t, Options{Format: YAML}, "base: &b {x: 1, y: 2}\nall:\n  <<: *b\n  y: 3\n")
	assert.Equal(t, map[string]any{"x": json.Number("1"), "y": json.Number("3")}, list[0].Data["all"])
	list = readWith(t, Options{Format: YAML}, "a: &a {x: 1}\nb: &b {x: 2, y: 2}\nall:\n  <<: [*a, *b]\n")
	assert.Equal(t, map[string]any{"x": json.Number("1"), "y": json.Number("2")}, list[0].Data["all"])
}

func TestXML(t *testing.T) {
	in := `<?xml version="1.0"?><set xmlns:q="urn:q"><head>x</head><berths><berth id="7" q:kind="quay"><name>North &amp; East</name><line><n>1</n></line><line><n>2</n></line><note/></berth>
	<berth id="8"><name>West</name><line><n>3</n></line></berth></berths></set>`
	list := readWith(t, Options{Format: XML, Path: "set/berths/berth", Lists: []string{"line"}}, in)
	require.Len(t, list, 2)
	assert.Equal(t, map[string]any{"id": "7", "kind": "quay", "name": "North & East", "note": "", "line": []any{map[string]any{"n": "1"}, map[string]any{"n": "2"}}}, list[0].Data)
	assert.Equal(t, []any{map[string]any{"n": "3"}}, list[1].Data["line"], "a list although it occurs once")
	assert.Equal(t, 2, list[1].Line)
	list = readWith(t, Options{Format: XML}, "<all><r a='1'/><r a='2'/></all>")
	assert.Len(t, list, 2)
	err := Each(strings.NewReader("<a><b>\n<c></b></a>"), Options{Format: XML, Name: "x.xml"}, func(Record) error { return nil })
	assert.ErrorContains(t, err, "x.xml line 2")
}

func workbook(t testing.TB) []byte {
	t.Helper()
	book := excelize.NewFile()
	defer book.Close()
	_, err := book.NewSheet("Lines")
	require.NoError(t, err)
	set := func(sheet, cell string, v any) { require.NoError(t, book.SetCellValue(sheet, cell, v)) }
	for i, h := range []string{"number", "customer.name", "price", "due", "paid", "code"} {
		set("Sheet1", string(rune('A'+i))+"1", h)
	}
	set("Sheet1", "A2", "QL-1")
	set("Sheet1", "B2", "Zoë")
	set("Sheet1", "C2", 1234.5)
	money, err := book.NewStyle(&excelize.Style{NumFmt: 4})
	require.NoError(t, err)
	require.NoError(t, book.SetCellStyle("Sheet1", "C2", "C2", money))
	set("Sheet1", "D2", time.Date(2026, 5, 31, 0, 0, 0, 0, time.UTC))
	set("Sheet1", "E2", true)
	set("Sheet1", "F2", "00123")
	set("Sheet1", "A4", "QL-2") // row 3 is blank
	set("Sheet1", "C4", 0.1)
	set("Lines", "A1", "invoice")
	set("Lines", "B1", "what")
	set("Lines", "A2", "QL-2")
	set("Lines", "B2", "Rope")
	var b bytes.Buffer
	require.NoError(t, book.Write(&b))
	return b.Bytes()
}

func TestXLSX(t *testing.T) {
	raw := workbook(t)
	var notes []string
	var list []Record
	require.NoError(t, Each(bytes.NewReader(raw), Options{Format: XLSX, Note: func(s string) { notes = append(notes, s) }}, func(r Record) error { list = append(list, r); return nil }))
	require.Len(t, list, 2)
	assert.Equal(t, map[string]any{"number": "QL-1", "customer": map[string]any{"name": "Zoë"}, "price": json.Number("1234.5"), "due": "2026-05-31", "paid": true, "code": "00123"}, list[0].Data)
	assert.Equal(t, json.Number("0.1"), list[1].Data["price"])
	assert.Nil(t, list[1].Data["due"])
	assert.Equal(t, 4, list[1].Line)
	require.Len(t, notes, 1)
	assert.Contains(t, notes[0], "Sheet1, Lines")
	err := Each(bytes.NewReader(raw), Options{Format: XLSX, Sheet: "Rows"}, nil)
	assert.ErrorContains(t, err, `no sheet "Rows"`)
	err = Each(strings.NewReader("PK no"), Options{Format: XLSX, Name: "a.xlsx"}, nil)
	assert.ErrorContains(t, err, "a.xlsx: the file is no XLSX workbook")
}

func TestEncodings(t *testing.T) {
	text := "name;town\nZoë;Münster\n"
	latin, _ := charmap.Windows1252.NewEncoder().String(text)
	little, _ := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder().String(text)
	bare, _ := unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM).NewEncoder().String(text)
	for name, in := range map[string]string{"utf-8": text, "marked": "\xEF\xBB\xBF" + text, "windows-1252": latin, "utf-16": little, "utf-16be without a mark": bare} {
		var notes []string
		var list []Record
		require.NoError(t, Each(strings.NewReader(in), Options{Format: CSV, Note: func(s string) { notes = append(notes, s) }}, func(r Record) error { list = append(list, r); return nil }), name)
		require.Len(t, list, 1, name)
		assert.Equal(t, map[string]any{"name": "Zoë", "town": "Münster"}, list[0].Data, name)
		assert.Len(t, notes, map[bool]int{true: 0, false: 1}[name == "utf-8" || name == "marked"], name)
	}
	err := Each(strings.NewReader("a\nZoë\nZo\xEB\n"), Options{Format: CSV, Name: "b.csv"}, func(Record) error { return nil })
	assert.ErrorContains(t, err, "b.csv line 3: there is a byte that is no UTF-8")
	err = Each(strings.NewReader("a"), Options{Format: CSV, Encoding: "klingon"}, nil)
	assert.ErrorContains(t, err, "is not known")
	list := readWith(t, Options{Format: CSV, Encoding: "Windows-1252"}, "a\n\x80 5\n")
	assert.Equal(t, "€ 5", list[0].Data["a"])
}

func TestBadRowsDoNotStopTheOthers(t *testing.T) {
	for _, c := range []struct {
		f        Format
		in, want string
	}{
		{CSV, "a,b\n1,2\n3\n4,5\n", "x line 3: the row has not as many fields as there are columns (2)"},
		{CSV, "a,b\n1,2\n\"3\"x,4\n4,5\n", `x line 3 column 3: extraneous or missing " in quoted-field`},
		{NDJSON, "{\"a\":1}\n{\"a\":}\n{\"a\":2}\n", "x line 2 column 6: invalid character '}' looking for beginning of value"},
		{NDJSON, "{\"a\":1}\n[1]\n{\"a\":2}\n", "x line 2: the line is not a JSON object"},
		{JSON, "[{\"a\":1},\n3,\n{\"a\":2}]", "x line 2: entry 2 is not an object"},
		{YAML, "- a: 1\n- [1]\n- a: 2\n", "x line 2: entry 2 is not a mapping"},
		{XML, "<s><r a='1'/>\n<r>text</r><r a='2'/></s>", "x line 2: the element <r> holds text alone, no fields"},
	} {
		var bad []string
		var good []int
		o := Options{Format: c.f, Name: "x", Bad: func(e *RowError) error { bad = append(bad, e.Error()); return nil }}
		require.NoError(t, Each(strings.NewReader(c.in), o, func(r Record) error { good = append(good, r.Number); return nil }), c.in)
		assert.Equal(t, []string{c.want}, bad)
		assert.Equal(t, []int{1, 3}, good, "%s: %s", c.f, c.in)
		o.Bad = nil
		assert.EqualError(t, Each(strings.NewReader(c.in), o, func(Record) error { return nil }), c.want)
	}
}

func TestTypedCells(t *testing.T) {
	list := readWith(t, Options{Format: TSV, Typed: true}, "a\tb\tc\td\n1.10\t007\ttrue\t\n")
	assert.Equal(t, map[string]any{"a": json.Number("1.10"), "b": "007", "c": true, "d": nil}, list[0].Data)
	list = readWith(t, Options{Format: CSV, NoHeader: true, Delimiter: '|'}, "x|y\n")
	assert.Equal(t, map[string]any{"column1": "x", "column2": "y"}, list[0].Data)
}

func TestJoin(t *testing.T) {
	from := func(f Format, in string) Source {
		return func(visit func(Record) error) error { return Each(strings.NewReader(in), Options{Format: f}, visit) }
	}
	var list []Record
	var lost string
	err := Join{Key: "number", LineKey: "invoice", Into: "lines"}.Each(from(CSV, "number\nA\nB\nC\n"), from(CSV, "invoice,what\nA,rope\nX,oar\nA,lamp\nC,buoy\n"),
		func(n int, key string) { lost = fmt.Sprint(n, " ", key) }, func(r Record) error { list = append(list, r); return nil })
	require.NoError(t, err)
	require.Len(t, list, 3)
	assert.Len(t, list[0].Data["lines"], 2)
	assert.Equal(t, []any{}, list[1].Data["lines"])
	assert.Equal(t, "1 X", lost, "no line is lost in silence")
	err = Join{Key: "id", Into: "lines"}.Each(from(CSV, "number\nA\n"), from(CSV, "id\nA\n"), nil, func(Record) error { return nil })
	assert.ErrorContains(t, err, `record 1 (number A): the field "id"`)
}

// endless gives n copies of a piece of text.
type endless struct {
	head, each, tail string
	n                int
	rest             string
	state            int
}

func (e *endless) Read(p []byte) (int, error) {
	for e.rest == "" {
		switch {
		case e.state == 0:
			e.rest, e.state = e.head, 1
		case e.n > 0:
			e.rest = e.each
			e.n--
		case e.state == 1:
			e.rest, e.state = e.tail, 2
		default:
			return 0, io.EOF
		}
	}
	n := copy(p, e.rest)
	e.rest = e.rest[n:]
	return n, nil
}

func TestLongFilesTakeLittleMemory(t *testing.T) {
	const n = 60000
	for f, in := range map[Format]*endless{
		JSON:   {head: "[{}", each: `,{"number":"A","lines":[{"x":1.5,"text":"rope and lamp"}]}` + "\n", tail: "]", n: n},
		NDJSON: {each: `{"number":"A","lines":[{"x":1.5,"text":"rope and lamp"}]}` + "\n", n: n},
		CSV:    {head: "number,text\n", each: "A,rope and lamp\n", n: n},
		YAML:   {each: "- number: A\n  text: rope and lamp\n", n: n / 6},
		XML:    {head: "<s>", each: "<r><number>A</number><text>rope and lamp</text></r>", tail: "</s>", n: n},
	} {
		read, most := 0, uint64(0)
		var m runtime.MemStats
		err := Each(in, Options{Format: f, Bad: func(*RowError) error { return nil }}, func(r Record) error {
			if read++; read%5000 == 0 {
				runtime.GC()
				runtime.ReadMemStats(&m)
				most = max(most, m.HeapAlloc)
			}
			return nil
		})
		require.NoError(t, err, f)
		assert.GreaterOrEqual(t, read, 9000, f)
		assert.Less(t, most, uint64(40<<20), f)
	}
}

func TestQueriesOnlyRead(t *testing.T) {
	for _, q := range []string{"delete from x", "  drop table x", "insert into x values (1)", "update x set a=1", "/* select */ delete from x"} {
		assert.ErrorContains(t, EachSQL(context.Background(), "mysql://u@127.0.0.1:1/db", q, nil, nil), "no SELECT", q)
	}
	assert.ErrorContains(t, EachSQL(context.Background(), "127.0.0.1/db", "select 1", nil, nil), "mysql://")
	err := EachSQL(context.Background(), "mysql://u@127.0.0.1:1/db", "-- all\nSELECT 1", nil, nil)
	assert.ErrorContains(t, err, "127.0.0.1:1 does not answer")
	assert.False(t, errors.Is(err, io.EOF))
}
