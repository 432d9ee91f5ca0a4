package merge

import (
	"encoding/json"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/record"
)

func folder(page, manifest string) fstest.MapFS {
	return fstest.MapFS{"page.html": {Data: []byte(page)}, ManifestName: {Data: []byte(manifest)}}
}

func rec(t *testing.T, js string) record.Record {
	t.Helper()
	var out record.Record
	require.NoError(t, record.Each(strings.NewReader(js), record.Options{Format: record.JSON}, func(r record.Record) error { out = r; return nil }))
	return out
}

func merged(t *testing.T, page, manifest, js string) (string, error) {
	t.Helper()
	tpl, err := Open("t", folder(page, manifest))
	require.NoError(t, err)
	m, err := tpl.Merge(rec(t, js))
	if err != nil {
		return "", err
	}
	return string(m.HTML), nil
}

func TestFunctions(t *testing.T) {
	const js = `{"p": 1234.5, "n": -0.005, "d": "2026-03-09", "t": "x", "list": [{"a": 0.1}, {"a": 0.2}], "words": ["a", "b"], "zero": 0}`
	for in, want := range map[string]string{
		`{{money .p}}`:                   "€1,234.50",
		`{{money .p "JPY"}}`:             "¥1,235",
		`{{money .n}}`:                   "−€0.01",
		`{{number .p}}`:                  "1,234.5",
		`{{number .p 0}}`:                "1,235",
		`{{percent 19}}`:                 "19%",
		`{{date .d}}`:                    "9 March 2026",
		`{{date .d "02.01.06"}}`:         "09.03.26",
		`{{sum .list "a"}}`:              "0.3",
		`{{count .list}}`:                "2",
		`{{add 0.1 0.2}}`:                "0.3",
		`{{subtract .p 0.5}}`:            "1234",
		`{{multiply 3 "1.1"}}`:           "3.3",
		`{{round (divide 10 3) 2}}`:      "3.33",
		`{{join .words " & "}}`:          "a &amp; b",
		`{{default . "gone" "none"}}`:    "none",
		`{{if has . "t"}}y{{end}}`:       "y",
		`{{if negative .n}}minus{{end}}`: "minus",
		`{{upper .t}}{{lower "Y"}}`:      "Xy",
		`{{money .zero}}`:                "€0.00",
	} {
		out, err := merged(t, in, "currency: EUR\nlocale: en\n", js)
		if assert.NoError(t, err, in) {
			assert.Equal(t, want, out, in)
		}
	}
	out, err := merged(t, `{{money .p}}`, "currency: EUR\nlocale: de\n", js)
	require.NoError(t, err)
	assert.Equal(t, "1.234,50\u00A0€", out)
}

func TestErrorsNameRecordFieldAndLine(t *testing.T) {
	for page, want := range map[string][]string{
		"<p>\n{{.nothing}}":                 {"record 1 (number Q1)", `"nothing"`, "page.html line 2"},
		"{{.customer.street}}":              {`"customer.street"`, "line 1"},
		"\n\n{{range .lines}}{{.x}}{{end}}": {`"x"`, "line 3"},
		"{{money .customer.name}}":          {`the field "customer.name": "Ann" is not a number`, "line 1"},
		"{{date .number}}":                  {"is not a date"},
		`{{sum .lines "prise"}}`:            {`entry 1 of the list: the field "prise" is missing; did you mean "price"?`},
		"{{divide 1 0}}":                    {"division by zero"},
		`{{money 1 "EURO"}}`:                {"not a currency code"},
	} {
		_, err := merged(t, page, "title: t\n", `{"number": "Q1", "customer": {"name": "Ann"}, "lines": [{"price": 1}]}`)
		require.Error(t, err, page)
		for _, w := range want {
			assert.ErrorContains(t, err, w, page)
		}
	}
}

func TestValuesAreEscaped(t *testing.T) {
	out, err := merged(t, `<p title="{{.a}}">{{.a}}</p><a href="{{.u}}">`, "", `{"a": "<b> & \"q\"", "u": "javascript:alert(1)"}`)
	require.NoError(t, err)
	assert.NotContains(t, out, "<b>")
	assert.NotContains(t, out, "javascript:")
}

func TestBadTemplates(t *testing.T) {
	for _, c := range []struct{ page, manifest, want string }{
		{"a\n{{.x", "", "line 2"},
		{"{{nofunction .x}}", "", "nofunction"},
		{"x", "colour: red\n", "colour"},
		{"x", "page: other.html\n", "other.html"},
		{"x", "filename: '{{.'\n", "filename"},
	} {
		_, err := Open("t", folder(c.page, c.manifest))
		assert.ErrorContains(t, err, c.want)
	}
}

func TestFileNames(t *testing.T) {
	tpl, err := Open("t", folder("x", "filename: '{{.number}} {{.name}}.pdf'\n"))
	require.NoError(t, err)
	name, err := tpl.FileName(rec(t, `{"number": "A/1", "name": "Zoë: \"x\""}`))
	require.NoError(t, err)
	assert.Equal(t, "A-1 Zoë- -x-.pdf", name)
	_, err = tpl.FileName(rec(t, `{"number": "A/1"}`))
	assert.ErrorContains(t, err, `"name"`)
	plain, err := Open("t", folder("x", ""))
	require.NoError(t, err)
	name, err = plain.FileName(record.Record{Number: 7, Data: map[string]any{}})
	require.NoError(t, err)
	assert.Equal(t, "00007.pdf", name)
	for in, want := range map[string]string{"CON": "_CON", " a. ": "a", "../../x": "-..-x", strings.Repeat("é", 300): strings.Repeat("é", 90), "a\x00b": "a-b"} {
		assert.Equal(t, want, SafeName(in), in)
	}
}

func TestSampleRecord(t *testing.T) {
	files := folder("x", "sample: sample.json\n")
	files["sample.json"] = &fstest.MapFile{Data: []byte(`[{"a": 1}, {"a": 2}]`)}
	tpl, err := Open("t", files)
	require.NoError(t, err)
	r, err := tpl.SampleRecord()
	require.NoError(t, err)
	assert.Equal(t, json.Number("1"), r.Data["a"])
	delete(files, "sample.json")
	_, err = tpl.SampleRecord()
	assert.Error(t, err)
}

func TestEndlessTemplateStops(t *testing.T) {
	_, err := merged(t, `{{define "a"}}{{template "a" .}}{{end}}{{template "a" .}}`, "", `{}`)
	assert.Error(t, err)
}
