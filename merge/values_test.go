package merge

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/record"
)

// sources write the same record in files with types and without.
var sources = map[record.Format]string{
	record.JSON: `[{"n": 1, "zero": 0, "price": 12.50, "total": 150, "sum": -3.5, "big": 12345678901234567890.25, "code": "007", "when": "2026-05-31", "later": "2026-06-01T10:30:00", "yes": true, "paid": false, "name": "Ann"}]`,
	record.YAML: "- {n: 1, zero: 0, price: 12.50, total: 150, sum: -3.5, big: 12345678901234567890.25, code: '007', when: '2026-05-31', later: '2026-06-01T10:30:00', yes: true, paid: false, name: Ann}\n",
	record.CSV:  "n,zero,price,total,sum,big,code,when,later,yes,paid,name\n1,0,12.50,150,-3.5,12345678901234567890.25,007,2026-05-31,2026-06-01T10:30:00,true,FALSE,Ann\n",
	record.XML:  `<list><r><n>1</n><zero>0</zero><price>12.50</price><total>150</total><sum>-3.5</sum><big>12345678901234567890.25</big><code>007</code><when>2026-05-31</when><later>2026-06-01T10:30:00</later><yes>true</yes><paid>false</paid><name>Ann</name></r></list>`,
}

// A value behaves the same whatever file it came from.
func TestValuesOfAllSources(t *testing.T) {
	for in, want := range map[string]string{
		`{{.n}} {{.price}} {{.sum}} {{.big}} {{.code}}`:                                          "1 12.50 -3.5 12345678901234567890.25 007",
		`{{gt .total 100}} {{lt .total 100}} {{ge .total 150}} {{le .n 0.5}}`:                    "true false true false",
		`{{eq .n 1}} {{eq .n 1.0}} {{ne .n 1}} {{eq .n 3 2 1}} {{eq .n 3 2}}`:                    "true true false true false",
		`{{eq .price 12.5}} {{gt .price .n}} {{lt .sum .zero}}`:                                  "true true true",
		`{{gt 100 .n}} {{lt "9" .total}} {{eq "150" .total}}`:                                    "true true true",
		`{{eq .code "007"}} {{eq .name "Ann"}} {{ne .name "ann"}}`:                               "true true true",
		`{{lt .when .later}} {{gt .later "2026-05-31"}} {{lt .when "2026-06"}}`:                  "true true true",
		`{{eq .yes true}} {{eq .paid true}} {{eq .paid false}} {{ne .paid "x"}}`:                 "true false true true",
		`{{if .zero}}y{{else}}n{{end}}{{if .n}}y{{end}}{{with .zero}}y{{else}}n{{end}}{{.zero}}`: "nyn0",
		`{{if .paid}}y{{else}}n{{end}}{{if .yes}}y{{end}}{{if not .paid}}open{{end}}`:            "nyopen",
		`{{$z := .zero}}{{if $z}}y{{else}}n{{end}}{{or .zero .n}}{{if and .yes .code}}y{{end}}`:  "n1y",
		`{{printf "%.1f|%6.2f|%-6s|%06.1f" .price .price .n .sum}}`:                              "12.5| 12.50|1     |-003.5",
		`{{ordinal .n}} {{plus .n 1}} {{add .n .n}} {{multiply .price 2}}`:                       "1st 2 2 25",
		`{{money .price}} {{number .total}} {{number .price 1}}`:                                 "€12.50 150 12.5",
		`{{percent .n}} {{unit .price "kg"}} {{plural .n "berth" "berths"}}`:                     "1% 12.50\u00A0kg berth",
		`{{upper .name}}{{upper .n}} {{choose .n 1 "one" "other"}}`:                              "ANN1 one",
		`{{date .when}} {{time .later}} {{time .later "medium"}}`:                                "31 May 2026 10:30 10:30:00",
		`{{if negative .sum}}minus{{end}}{{if negative .zero}}minus{{end}}`:                      "minus",
		`{{round .big 1}}`: "12345678901234567890.3",
	} {
		for format, text := range sources {
			var r record.Record
			require.NoError(t, record.Each(strings.NewReader(text), record.Options{Format: format, Path: map[record.Format]string{record.XML: "list/r"}[format]}, func(x record.Record) error { r = x; return nil }))
			out, err := mergedRecord(t, in, r)
			if assert.NoError(t, err, "%s %s", format, in) {
				assert.Equal(t, want, out, "%s %s", format, in)
			}
		}
	}
}

func mergedRecord(t *testing.T, page string, r record.Record) (string, error) {
	t.Helper()
	tpl, err := Open("t", folder(page, "locale: en\n"))
	require.NoError(t, err)
	m, err := tpl.Merge(r)
	if err != nil {
		return "", err
	}
	return string(m.HTML), nil
}

const someRecord = `{"zero": 0, "nought": 0.00, "one": 1, "null": null, "empty": "", "none": [], "text": "x", "lines": [{"a": 1}, {"a": 2}], "customer": {"name": "Ann", "Home Port": "Quay"}, "copies": 3, "half": 1.5}`

func TestTruth(t *testing.T) {
	for in, want := range map[string]string{
		`{{if .zero}}y{{else}}n{{end}}{{if .nought}}y{{else}}n{{end}}{{if .one}}y{{else}}n{{end}}{{if .half}}y{{else}}n{{end}}`: "nnyy",
		`{{with .zero}}y{{else}}n{{end}}{{with .one}}{{.}}{{end}}`:                                                              "n1",
		`{{if .gone}}y{{else}}n{{end}}{{with .gone}}y{{else}}n{{end}}`:                                                          "nn",
		`{{if .customer.phone}}y{{else}}n{{end}}{{with .gone.deeper.still}}y{{else}}n{{end}}{{with .null.x}}y{{end}}`:           "nn",
		`{{if $.gone}}y{{else}}n{{end}}{{$c := .customer}}{{if $c.phone}}y{{else}}n{{end}}{{if (index .lines 0).b}}y{{end}}`:    "nn",
		`{{if not .gone}}y{{end}}{{if and .one .gone}}y{{else}}n{{end}}{{if or .gone .one}}y{{end}}`:                            "yny",
		`{{if and .one (or .gone (not .gone.x))}}y{{end}}{{or .gone .empty "–"}}{{or .zero 7}}`:                                 "y–7",
		`{{and .one .text}}{{if or .gone .gone}}y{{else}}n{{end}}`:                                                              "xn",
		`{{range .gone}}x{{else}}none{{end}}{{range .none}}x{{else}}none{{end}}`:                                                "nonenone",
		`{{range .copies}}{{.}}{{end}}{{range $i := 2}}{{$i}}{{end}}`:                                                           "01201",
		`{{if eq .null .null}}y{{end}}{{if eq .null ""}}y{{else}}n{{end}}{{if ne .null 0}}y{{end}}`:                             "yny",
		`{{with $x := .gone}}{{$x}}{{else}}n{{end}}{{if $x := .one}}{{$x}}{{end}}`:                                              "n1",
		`{{.nought}}{{.zero}}{{add .nought .zero}}`:                                                                             "0.000" + "0",
		`{{index .lines .one | len}}{{index .lines 1 "a"}}{{len .text}}{{len .lines}}{{(index .lines .zero).a}}`:                "12121",
		`{{slice "Lantern" 0 .copies}}{{len (slice .lines 1)}}`:                                                                 "Lan1",
		`{{index .customer "Home Port"}}{{has . "customer.name"}}{{has . "customer.phone"}}{{default . "a.b" "d"}}`:             "Quaytruefalsed",
	} {
		out, err := merged(t, in, "locale: en\n", someRecord)
		if assert.NoError(t, err, in) {
			assert.Equal(t, want, out, in)
		}
	}
}

// Each message names the field, what it holds and what to do.
func TestMessages(t *testing.T) {
	for in, want := range map[string]string{
		`{{.tezt}}`:                               `the field "tezt" is missing; did you mean "text"? Otherwise add it to the record`,
		`{{.Text}}`:                               `did you mean "text"?`,
		`{{.customer.homeport}}`:                  `the field "customer.homeport" is missing; did you mean "Home Port"?`,
		`{{.something}}`:                          `the field "something" is missing; add it to the record, or test for it with {{with}} or has`,
		`{{.text.deeper}}`:                        `the field "text.deeper" cannot be there: what should hold it is the text "x", not a record`,
		`{{with .text.deeper}}x{{end}}`:           `the field "text.deeper" cannot be there`,
		`{{.lines}}`:                              `the field "lines" is a list of 2 and cannot be shown as text`,
		`{{.customer}}`:                           `the field "customer" is a record and cannot be shown as text`,
		`{{index .lines 0}}`:                      `what is to be shown is a record`,
		`{{$l := .lines}}{{$l}}`:                  `the field "$l" is a list`,
		`{{print .lines}}`:                        `the field "lines": a list of 2 is not text`,
		`{{upper .customer}}`:                     `the field "customer": a record is not text`,
		`{{join .lines ","}}`:                     `entry 1 of the list: a record is not text`,
		`{{.lines | upper}}`:                      `the field "lines": a list of 2 is not text`,
		`{{money .text}}`:                         `the field "text": "x" is not a number`,
		`{{money .gone}}`:                         `the field "gone" is missing`,
		`{{gt .text 1}}`:                          `the field "text": the text "x" is not a number`,
		`{{gt .gone 1}}`:                          `the field "gone" is missing`,
		`{{eq .lines 1}}`:                         `the field "lines": a list of 2 cannot be compared`,
		`{{lt .null 1}}`:                          `the field "null": there is no value to compare`,
		`{{multiply .one .text}}`:                 `the fields "one" and "text": "x" is not a number`,
		`{{ordinal .half}}`:                       `the field "half": 1.5 is not a whole number`,
		`{{printf "%d" .half}}`:                   `the format "%d" does not fit: %!d(1.5)`,
		`{{printf "%999999d" .one}}`:              "asks for more than 1000 characters",
		`{{sum .lines "b"}}`:                      `entry 1 of the list: the field "b" is missing`,
		`{{range .text}}x{{end}}`:                 `the field "text": the text "x" is not a list`,
		`{{range .gone}}x{{end}}`:                 `the field "gone" is missing`,
		`{{range 999999999}}x{{end}}`:             "999999999 repeats are too many",
		`{{range .half}}x{{end}}`:                 "1.5 is not a whole number",
		`{{index .lines 2}}`:                      "there is no entry 2 in a list of 2; the first is 0",
		`{{slice .text 0 4}}`:                     "there is no part from 0 to 4 of 1",
		`{{time "2026-05-31"}}`:                   "the date 2026-05-31 has no time of day",
		`{{where .lines "a" "~" 1}}`:              `the relation "~" is not`,
		`{{range where .lines "b" "=" 1}}{{end}}`: `entry 1 of the list: the field "b" is missing`,
		`{{round 1 1000}}`:                        "1000 decimal places are too many",
		`{{barcode "code128" "A" "check"}}`:       `the barcode code128 has no option "check"`,
	} {
		_, err := merged(t, "<p>\n"+in, "locale: en\n", someRecord)
		if assert.Error(t, err, in) {
			assert.ErrorContains(t, err, want, in)
			assert.ErrorContains(t, err, "record 1", in)
			assert.ErrorContains(t, err, "(t: page.html line 2)", in)
		}
	}
	_, err := Open("t", folder("a\n{{.text 1 2}}", ""))
	assert.ErrorContains(t, err, "page.html line 2: a field takes no arguments")
}

func TestSoftHelpsFunctions(t *testing.T) {
	for in, want := range map[string]string{
		`[{{money .gone}}{{date .gone}}{{upper .gone}}{{ordinal .gone}}]`:                                  "[]",
		`[{{money (add .one .gone)}}{{.gone.deeper | money}}{{.null}}{{.empty}}]`:                          "[]",
		`[{{sum .lines "b"}}{{sum .gone "b"}}{{count .gone}}{{len .gone}}]`:                                "[00]",
		`[{{range .gone}}x{{end}}{{range .null}}x{{end}}{{range sortBy .gone "x"}}x{{end}}]`:               "[]",
		`[{{if .gone}}x{{end}}{{if eq .gone 1}}x{{end}}{{if gt .gone 1}}x{{end}}{{if not .gone}}y{{end}}]`: "[y]",
		`{{default . "gone" "d"}}{{or .gone "e"}}{{money .one}}`:                                           "de€1.00",
	} {
		tpl, err := Open("t", folder(in, "locale: en\n"))
		require.NoError(t, err)
		tpl.Soften()
		m, err := tpl.Merge(rec(t, someRecord))
		if assert.NoError(t, err, in) {
			assert.Equal(t, want, string(m.HTML), in)
		}
	}
	for in, want := range map[string]string{
		`{{money .text}}`:    `the field "text": "x" is not a number`,
		`{{money}}`:          "the function takes 2 values, not 0",
		`{{round .one}}`:     "the function takes 3 values, not 1",
		`{{unit .one .one}}`: "the number 1 is not what the function takes",
		`{{.lines}}`:         "cannot be shown as text",
	} {
		tpl, err := Open("t", folder(in, "locale: en\n"))
		require.NoError(t, err)
		tpl.Soften()
		_, err = tpl.Merge(rec(t, someRecord))
		assert.ErrorContains(t, err, want, in)
	}
}

func TestNumbersPrint(t *testing.T) {
	n, err := readNumber("-0012.50")
	require.NoError(t, err)
	whole, err := readNumber("255")
	require.NoError(t, err)
	for format, want := range map[string]string{"%v": "-0012.50", "%s": "-0012.50", "%q": `"-0012.50"`, "%.1f": "-12.5", "%f": "-12.500000", "%9.2f": "   -12.50", "%-9.2f|": "-12.50   |", "%09.2f": "-00012.50", "%.0f": "-13", "%e": "-1.250000e+01", "%g": "-12.5", "%d": "%!d(-0012.50)", "%t": "%!t(-0012.50)"} {
		assert.Equal(t, want, fmt.Sprintf(format, n), format)
	}
	for format, want := range map[string]string{"%d": "255", "%05d": "00255", "%x": "ff", "%+.1f": "+255.0", "% .0f": " 255", "%+d": "+255"} {
		assert.Equal(t, want, fmt.Sprintf(format, whole), format)
	}
	js, err := json.Marshal(map[string]any{"n": n})
	require.NoError(t, err)
	assert.Equal(t, `{"n":-12.5}`, string(js))
	assert.Equal(t, "0", Number(nil).String())
	assert.True(t, numberOf(decimal.Zero).Decimal().IsZero())
}

// Numbers that would take gigabytes to be written out are refused.
func TestHugeNumbers(t *testing.T) {
	for _, js := range []string{`{"n": 1e999999}`, `{"n": 1e-999999}`, `{"l": [{"n": ` + strings.Repeat("9", 1200) + `}]}`} {
		_, err := merged(t, `x`, "", js)
		require.Error(t, err, js[:12])
		assert.ErrorContains(t, err, `"`, "it names the field")
	}
}

func TestListsOfDatesAndSeveralKeys(t *testing.T) {
	const js = `{"l": [{"d": "2026-03-01", "n": "b", "v": 10}, {"d": "2026-01-15", "n": "b", "v": 9}, {"d": "2026-03-01", "n": "a", "v": 9}], "dates": ["2026-03-01", "2025-12-31"], "mixed": [1, "x"]}`
	for in, want := range map[string]string{
		`{{least .l "d"}} {{greatest .l "d"}} {{least .dates}} {{date (greatest .dates)}}`: "2026-01-15 2026-03-01 2025-12-31 1 March 2026",
		`{{range sortBy .l "d" "n"}}{{.n}}{{.v}} {{end}}`:                                  "b9 a9 b10 ",
		`{{range sortBy .l "-v" "-n"}}{{.n}}{{.v}} {{end}}`:                                "b10 b9 a9 ",
		`{{range where .l "d" ">" "2026-02-01"}}{{.n}} {{end}}`:                            "b a ",
		`{{range sortBy (groupBy .l "n") "Key"}}{{.Key}}:{{sum .Entries "v"}} {{end}}`:     "a:9 b:19 ",
	} {
		out, err := merged(t, in, "locale: en\n", js)
		if assert.NoError(t, err, in) {
			assert.Equal(t, want, out, in)
		}
	}
	_, err := merged(t, `{{greatest .mixed}}`, "", js)
	assert.ErrorContains(t, err, `the field "mixed": entry 2 of the list: the text "x" is not a number`)
}

func TestToday(t *testing.T) {
	tpl, err := Open("t", folder(`{{today}} {{date today "long"}} {{if lt .due today}}late{{end}}`, "locale: en\ntimezone: Pacific/Auckland\n"))
	require.NoError(t, err)
	tpl, err = tpl.On(time.Date(2026, 5, 31, 0, 0, 0, 0, time.UTC))
	require.NoError(t, err)
	m, err := tpl.Merge(rec(t, `{"due": "2026-05-30"}`))
	require.NoError(t, err)
	assert.Equal(t, "2026-05-31 31 May 2026 late", string(m.HTML))

	clock, err := Open("t", folder(`{{today}}`, "timezone: Pacific/Auckland\n"))
	require.NoError(t, err)
	zone, err := time.LoadLocation("Pacific/Auckland")
	require.NoError(t, err)
	before := time.Now().In(zone).Format(time.DateOnly)
	m, err = clock.Merge(rec(t, `{}`))
	require.NoError(t, err)
	assert.Contains(t, []string{before, time.Now().In(zone).Format(time.DateOnly)}, string(m.HTML))
}

func TestWordsAmountsAndCodes(t *testing.T) {
	for in, want := range map[string]string{
		`{{upper "straße"}} {{lower "ΟΔΟΣ"}}`:                        "STRASSE οδος",
		`{{inWords .whole}}; {{inWords .cents}}; {{inWords .tenth}}`: "one; one and 00/100; one and 50/100",
		`{{money 1234.57 "CHF"}} {{money -1 "CHF"}} {{money 1}}`:     "CHF\u00A01,234.57 −CHF\u00A01.00 €1.00",
	} {
		out, err := merged(t, in, "locale: en\n", `{"whole": 1, "cents": 1.00, "tenth": 1.5}`)
		if assert.NoError(t, err, in) {
			assert.Equal(t, want, out, in)
		}
	}
	plain, err := merged(t, `{{barcode "code39" "ABC"}}`, "", `{}`)
	require.NoError(t, err)
	checked, err := merged(t, `{{barcode "code39" "ABC" "check"}}`, "", `{}`)
	require.NoError(t, err)
	assert.Less(t, len(plain), len(checked), "the check character is asked for")
	spark, err := merged(t, `{{sparkline .l}}`, "", `{"l": [1, 3, 2]}`)
	require.NoError(t, err)
	assert.Contains(t, spark, `height="1em"`, "as tall as a word")
}

func TestFormattedTextIsCleanAndBalanced(t *testing.T) {
	for in, want := range map[string]string{
		`<div><b>open`: "<div><b>open</b></div>",
		`</div></td>x`: "x",
		`<a href="https://harbour.example/" onclick="x">a</a><a href="data:text/html,x">b</a>`:         `<a href="https://harbour.example/">a</a><a>b</a>`,
		`<img src=x onerror=y><svg><script>x</script></svg><iframe src=x></iframe><style>p{}</style>t`: "t",
		`<table><tr><td colspan="2" style="x">c</td></tr></table>`:                                     `<table><tbody><tr><td colspan="2">c</td></tr></tbody></table>`,
		`a < b & c`: "a &lt; b &amp; c",
	} {
		out, err := merged(t, `{{html .h}}`, "", `{"h": `+quoteJSON(in)+`}`)
		if assert.NoError(t, err, in) {
			assert.Equal(t, want, out, in)
		}
	}
}

func quoteJSON(s string) string {
	b, _ := json.Marshal(s)
	return string(b)
}

func FuzzFormattedText(f *testing.F) {
	f.Add("<p onclick=x><b>a<script>b</script>")
	f.Fuzz(func(t *testing.T, s string) {
		out, err := cleanHTML(s)
		require.NoError(t, err)
		assert.NotContains(t, strings.ToLower(string(out)), "<script")
	})
}

func FuzzNumber(f *testing.F) {
	f.Add("-12.50e3")
	f.Fuzz(func(t *testing.T, s string) {
		if n, err := readNumber(s); err == nil {
			assert.Equal(t, s, n.String())
			assert.LessOrEqual(t, len(fmt.Sprintf("%.2f", n)), 2000)
		}
	})
}

const bill = `{"lines": [{"q": 3, "p": 1.15, "d": 10, "tax": 19, "amount": 3.11}, {"q": 2, "p": 5, "d": 0, "tax": 7, "amount": 10}], "total": 14.40, "note": "x"}`

// Amounts come from one source.
func TestPricedLines(t *testing.T) {
	for in, want := range map[string]string{
		`{{range priced .lines "q" "p"}}{{.amount}} {{end}}`:                                               "3.45 10 ",
		`{{range priced .lines "q" "p" "d"}}{{.amount}} {{.tax}} {{end}}`:                                  "3.11 19 10 7 ",
		`{{$l := priced .lines "q" "p" "d"}}{{sum $l "amount"}} {{sum (taxes $l "amount" "tax") "Gross"}}`: "13.11 14.4",
	} {
		out, err := merged(t, in, "locale: en\n", bill)
		if assert.NoError(t, err, in) {
			assert.Equal(t, want, out, in)
		}
	}
	_, err := merged(t, `{{priced .lines "q" "prise"}}`, "", bill)
	assert.ErrorContains(t, err, `entry 1 of the list: the field "prise" is missing`)
}

func TestDifferencesOfTotals(t *testing.T) {
	manifest := `totals:
  - { each: lines, field: amount, is: 'discount (multiply .q .p) (subtract 100 .d)' }
  - { field: total, is: 'sum (taxes .lines "amount" "tax") "Gross"' }
  - { field: absent, is: 'sum .lines "q"' }
  - { each: none, field: x, is: '1' }
`
	tpl, err := Open("t", folder(`{{.note}}`, manifest))
	require.NoError(t, err)
	assert.Contains(t, tpl.Fields(), "total", "what is compared is used")
	assert.Contains(t, tpl.Fields(), "lines[].amount")
	list, err := tpl.Differences(rec(t, bill))
	require.NoError(t, err)
	assert.Empty(t, list)
	list, err = tpl.Differences(rec(t, strings.NewReplacer("14.40", "14.41", `"q": 2`, `"q": 20`).Replace(bill)))
	require.NoError(t, err)
	assert.Equal(t, []string{
		`entry 2 of "lines": the field "amount" is 10, but discount (multiply .q .p) (subtract 100 .d) gives 100`,
		`the field "total" is 14.41, but sum (taxes .lines "amount" "tax") "Gross" gives 14.4`,
	}, list)
	for js, want := range map[string]string{
		`{"total": "x", "lines": []}`:   `the field "total": "x" is not a number`,
		`{"total": 1, "lines": [{}]}`:   `the field "amount" is missing`,
		`{"total": 1, "lines": "none"}`: `totals: the field "lines": the text "none" is not a list`,
	} {
		_, err := tpl.Differences(rec(t, js))
		assert.ErrorContains(t, err, want, js)
	}
	for manifest, want := range map[string]string{
		"totals: [{field: x}]\n":               "names a “field” and what it “is”",
		"totals: [{field: x, is: 'sum ('}]\n":  `totals: "sum ("`,
		"totals: [{field: x, is: 'gone .'}]\n": "gone",
	} {
		_, err := Open("t", folder("x", manifest))
		assert.ErrorContains(t, err, want, manifest)
	}
}

// What a list is sorted, filtered or priced from is still known to be used.
func TestFieldsOfListsThatAreWorkedOn(t *testing.T) {
	tpl, err := Open("t", folder(`{{range sortBy .lines "a"}}{{.b}}{{end}}{{$l := priced .parts "q" "p"}}{{range $l}}{{.c}}{{end}}`, ""))
	require.NoError(t, err)
	assert.Equal(t, []string{"lines", "lines[].a", "lines[].b", "parts", "parts[].c", "parts[].p", "parts[].q"}, tpl.Fields())
}

// TestBreaches: what does not suit a schema is told in words.
func TestBreaches(t *testing.T) {
	files := folder("x", "schema: s.json\n")
	files["s.json"] = &fstest.MapFile{Data: []byte(`{"properties": {"lines": {"type": ["array", "null"]}, "due": {"format": "date"}, "n": {"minimum": 3}}}`)}
	tpl, err := Open("t", files)
	require.NoError(t, err)
	for data, want := range map[string]string{
		`{"lines": {"a": 1}}`: "the field “lines” is a record, and should be nothing or a list",
		`{"lines": "a"}`:      "the field “lines” is text, and should be nothing or a list",
		`{"due": "May"}`:      "the field “due”: “May” is no date, such as 2026-05-31",
		`{"n": 2}`:            "the field “n”: minimum: got 2, want 3",
	} {
		assert.EqualError(t, tpl.Check(rec(t, data)), "record 1 does not keep to s.json: "+want)
	}
}

// A breach of the schema tells which field may be meant.
func TestSchemaSuggests(t *testing.T) {
	files := folder("x", "schema: s.json\n")
	files["s.json"] = &fstest.MapFile{Data: []byte(`{"required": ["number", "lines"], "properties": {"lines": {"items": {"required": ["price"]}}}}`)}
	tpl, err := Open("t", files)
	require.NoError(t, err)
	err = tpl.Check(rec(t, `{"Number": 1, "lines": [{"prise": 1}, {"cost": 2}]}`))
	assert.ErrorContains(t, err, `the record lacks “number” (did you mean "Number"?)`)
	assert.ErrorContains(t, err, `“lines.0” lacks “price” (did you mean "prise"?)`)
	assert.ErrorContains(t, err, `“lines.1” lacks “price”`)
	labels := folder("x", "schema: s.json\n")
	labels["s.json"] = &fstest.MapFile{Data: []byte(`{"required": ["records"]}`)}
	tpl, err = Open("t", labels)
	require.NoError(t, err)
	assert.ErrorContains(t, tpl.Check(rec(t, `{"name": "Ann"}`)), "all records at once, as --as-one gives them")
}
