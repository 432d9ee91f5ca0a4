package merge

import (
	"encoding/base64"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/record"
)

func TestLocalesWriteAmountsAndDates(t *testing.T) {
	const js = `{"p": 1234567.5, "q": 1234.5, "d": "2026-03-09T15:04:05", "r": 7.5}`
	for locale, want := range map[string][5]string{
		"en":    {"€1,234,567.50", "1,234.5", "9 March 2026", "Monday, 9 March 2026", "7.5%"},
		"en-US": {"€1,234,567.50", "1,234.5", "March 9, 2026", "Monday, March 9, 2026", "7.5%"},
		"de":    {"1.234.567,50 €", "1.234,5", "9. März 2026", "Montag, 9. März 2026", "7,5 %"},
		"fr":    {"1 234 567,50 €", "1 234,5", "9 mars 2026", "lundi 9 mars 2026", "7,5 %"},
		"es":    {"1.234.567,50 €", "1234,5", "9 de marzo de 2026", "lunes, 9 de marzo de 2026", "7,5 %"},
		"it":    {"1.234.567,50 €", "1.234,5", "9 marzo 2026", "lunedì 9 marzo 2026", "7,5%"},
		"nl":    {"€ 1.234.567,50", "1.234,5", "9 maart 2026", "maandag 9 maart 2026", "7,5%"},
		"pt":    {"€ 1.234.567,50", "1.234,5", "9 de março de 2026", "segunda-feira, 9 de março de 2026", "7,5%"},
		"pl":    {"1 234 567,50 €", "1234,5", "9 marca 2026", "poniedziałek, 9 marca 2026", "7,5%"},
		"sv":    {"1 234 567,50 €", "1 234,5", "9 mars 2026", "måndag 9 mars 2026", "7,5 %"},
		"ar":    {"١٬٢٣٤٬٥٦٧٫٥٠ €", "١٬٢٣٤٫٥", "٩ مارس ٢٠٢٦", "الاثنين، ٩ مارس ٢٠٢٦", "٧٫٥٪\u061c"},
		"de-AT": {"€ 1 234 567,50", "1 234,5", "9. März 2026", "Montag, 9. März 2026", "7,5 %"},
		"de-CH": {"EUR 1’234’567.50", "1’234.5", "9. März 2026", "Montag, 9. März 2026", "7.5%"},
		"cs":    {"1 234 567,50 €", "1 234,5", "9. března 2026", "pondělí 9. března 2026", "7,5 %"},
		"fi":    {"1 234 567,50 €", "1 234,5", "9. maaliskuuta 2026", "maanantai 9. maaliskuuta 2026", "7,5 %"},
		"hi":    {"€12,34,567.50", "1,234.5", "9 मार्च 2026", "सोमवार, 9 मार्च 2026", "7.5%"},
		"zh":    {"€1,234,567.50", "1,234.5", "2026年3月9日", "2026年3月9日星期一", "7.5%"},
		"zh-TW": {"€1,234,567.50", "1,234.5", "2026年3月9日", "2026年3月9日 星期一", "7.5%"},
		"uk":    {"1 234 567,50 €", "1 234,5", "9 березня 2026 р.", "понеділок, 9 березня 2026 р.", "7,5%"},
		"no":    {"€ 1 234 567,50", "1 234,5", "9. mars 2026", "mandag 9. mars 2026", "7,5 %"},
		"ja":    {"€1,234,567.50", "1,234.5", "2026年3月9日", "2026年3月9日月曜日", "7.5%"},
	} {
		for i, page := range []string{`{{money .p}}`, `{{number .q}}`, `{{date .d "long"}}`, `{{date .d "full"}}`, `{{percent .r}}`} {
			out, err := merged(t, page, "locale: "+locale+"\n", js)
			require.NoError(t, err, locale)
			plain := strings.NewReplacer("\u00A0", " ", "\u202F", " ").Replace(out)
			assert.Equal(t, want[i], plain, "%s %s", locale, page)
		}
	}
}

func TestTools(t *testing.T) {
	const js = `{"lines": [{"what": "Rope", "net": 10.05, "rate": 7, "due": "b"}, {"what": "Oar", "net": 20, "rate": 19, "due": "a"}, {"what": "Lamp", "net": 5.05, "rate": 7, "due": "b"}],
		"state": "paid", "when": "2026-05-31T22:30:00Z", "note": "A **bold** [link](https://harbour.example/) <script>x</script>", "long": "The moorings are let by the week", "n": 3, "tags": "a, b"}`
	for in, want := range map[string]string{
		`{{round 2.5 0 "half-even"}} {{round 2.5 0}} {{round 2.9 0 "down"}} {{round 2.1 0 "up"}}`: "2 3 2 3",
		`{{unit 12.5 "kg"}}`:      "12.5\u00A0kg",
		`{{discount 99.99 15}}`:   "15",
		`{{discount 33.33 12.5}}`: "4.17",
		`{{range taxes .lines "net" "rate"}}{{.Rate}}:{{.Net}}+{{.Tax}}={{.Gross}} {{end}}`: "7:15.1+1.06=16.16 19:20+3.8=23.8 ",
		`{{inWords 1234.5}}`:                           "one thousand two hundred thirty-four and 50/100",
		`{{inWords 21 "de"}} {{inWords 1101001 "de"}}`: "einundzwanzig eine Million einhunderteintausendeins",
		`{{inWords 80 "fr"}} {{inWords 81 "fr"}} {{inWords 1971 "fr"}} {{inWords 300200 "fr"}}`:          "quatre-vingts quatre-vingt-un mille neuf cent soixante et onze trois cent mille deux cents",
		`{{inWords 21000 "es"}} {{inWords 31 "es"}} {{inWords 1000001 "es"}}`:                            "veintiún mil treinta y uno un millón uno",
		`{{inWords 28 "it"}} {{inWords 1123 "it"}} {{inWords 21000 "it"}}`:                               "ventotto millecentoventitré ventunomila",
		`{{ordinal 1}} {{ordinal 2}} {{ordinal 11}} {{ordinal 23}}`:                                      "1st 2nd 11th 23rd",
		`{{plural 1 "berth" "berths"}} {{plural .n "berth" "berths"}} {{plural 0 "berth" "berths"}}`:     "berth berths berths",
		`{{date .when "short"}} {{time .when}} {{date .when "EEE d MMM ''yy"}}`:                          "01/06/2026 00:30 Mon 1 Jun &#39;26",
		`{{duration 95}} {{duration 1.5 "h"}} {{duration 0}} {{duration 90061 "s"}}`:                     "1\u00A0hr 35\u00A0mins 1\u00A0hr 30\u00A0mins 0\u00A0mins 1\u00A0day 1\u00A0hr 1\u00A0min 1\u00A0sec",
		`{{least .lines "net"}} {{greatest .lines "net"}}`:                                               "5.05 20",
		`{{range running .lines "net"}}{{.}} {{end}}`:                                                    "10.05 30.05 35.1 ",
		`{{range groupBy .lines "due"}}{{.Key}}{{count .Entries}} {{end}}`:                               "b2 a1 ",
		`{{range sortBy .lines "-net"}}{{.what}} {{end}}{{range sortBy .lines "what"}}{{.what}} {{end}}`: "Oar Rope Lamp Lamp Oar Rope ",
		`{{range where .lines "net" ">" 10}}{{.what}} {{end}}`:                                           "Rope Oar ",
		`{{join (pluck .lines "what") "/"}}`:                                                             "Rope/Oar/Lamp",
		`{{range chunk .lines 2}}[{{count .}}]{{end}}{{range columns .lines 2}}({{count .}}){{end}}`:     "[2][1](2)(1)",
		`{{shorten .long 20}}`:                    "The moorings are…",
		`{{range split .tags ","}}[{{.}}]{{end}}`: "[a][b]",
		`{{choose .state "open" "To pay" "paid" "Paid"}} {{choose "x" "a" 1 "else"}}`: "Paid else",
		`{{markdown .note}}`: "<p>A <strong>bold</strong> <a href=\"https://harbour.example/\">link</a> x</p>\n",
		`{{html "<p onclick=x>a<b>c<script>d</script><img src=x></p><a href='javascript:x'>e</a>"}}`: "<p>a<b>c</b></p><b><a>e</a></b>",
		`<a href="{{link "https://a.example/?q=ü"}}">`:                                               `<a href="https://a.example/?q=%c3%bc">`,
	} {
		out, err := merged(t, in, "locale: en\ntimezone: Europe/Berlin\n", js)
		if assert.NoError(t, err, in) {
			assert.Equal(t, want, out, in)
		}
	}
	for in, want := range map[string]string{
		`{{link "javascript:alert(1)"}}`:           "is not an address",
		`{{barcode "ean" "12"}}`:                   "cannot be written as ean",
		`{{barcode "morse" "12"}}`:                 `the barcode "morse" is not`,
		`{{picture "data:text/html;base64,AA=="}}`: "no picture in Base64",
		`{{picture "AAAA"}}`:                       "neither PNG",
		`{{asset "gone.png"}}`:                     `there is no file "gone.png"`,
		`{{choose "x" "a" "b"}}`:                   `there is no choice for the text "x"`,
		`{{sum "x"}}`:                              "not a list",
		`{{least .none}}`:                          `"none" is missing`,
		`{{inWords 1 "nl"}}`:                       "in en, de, fr, es and it",
		`{{sparkline .one}}`:                       "at least two values",
		`{{where .l "a" "~" 1}}`:                   `the relation "~"`,
	} {
		_, err := merged(t, in, "locale: en\n", `{"one": [1], "l": [{"a": 1}]}`)
		assert.ErrorContains(t, err, want, in)
	}
}

func TestCodesAndChartsAreSVG(t *testing.T) {
	const js = `{"m": [{"n": "April", "v": 12.5}, {"n": "May & June", "v": 30}, {"n": "July", "v": 7}]}`
	for in, want := range map[string]string{
		`{{qr "https://harbour.example/QL-1"}}`: `aria-label="QR code"`,
		`{{barcode "code128" "QL-2026-0001"}}`:  `aria-label="code128 QL-2026-0001"`,
		`{{barcode "ean" "4006381333931"}}`:     "preserveAspectRatio=\"none\"",
		`{{barcode "datamatrix" "QL-1"}}`:       "datamatrix code",
		`{{bars .m "n" "v"}}`:                   "May &amp; June: 30",
		`{{line .m "n" "v"}}`:                   `class="chart line"`,
		`{{pie .m "n" "v"}}`:                    "60.6%",
		`{{sparkline .m "v"}}`:                  `class="chart sparkline"`,
	} {
		out, err := merged(t, in, "locale: en\ncolors: ['#123456']\n", js)
		if assert.NoError(t, err, in) {
			assert.True(t, strings.HasPrefix(out, "<svg ") && strings.HasSuffix(strings.TrimSpace(out), "</svg>"), in)
			assert.Contains(t, out, want, in)
		}
	}
}

// One red dot.
const dot = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg=="

func TestPicturesAreChecked(t *testing.T) {
	raw, err := base64.StdEncoding.DecodeString(dot)
	require.NoError(t, err)
	files := folder(`<img src="{{picture .p}}">{{signature .p}}<img src="{{asset "a b.png"}}">`, "title: t\n")
	files["a b.png"] = &fstest.MapFile{Data: raw}
	tpl, err := Open("t", files)
	require.NoError(t, err)
	out, err := tpl.Merge(rec(t, `{"p": "data:image/jpeg;base64,`+dot+`"}`))
	require.NoError(t, err)
	assert.Contains(t, string(out.HTML), `<img src="data:image/png;base64,`+strings.ReplaceAll(dot, "+", "&#43;"), "the kind is that of the bytes")
	assert.Contains(t, string(out.HTML), `class="signature"`)
	assert.Contains(t, string(out.HTML), `src="a%20b.png"`)
}

func TestPartsAndSchema(t *testing.T) {
	files := fstest.MapFS{
		ManifestName:       {Data: []byte("parts: [frame.html, parts/lines.html]\nschema: schema.json\n")},
		"page.html":        {Data: []byte(`{{template "frame" .}}{{define "body"}}<p>{{.number}}</p>{{template "lines" .lines}}{{end}}`)},
		"frame.html":       {Data: []byte(`{{define "frame"}}<main>{{block "body" .}}none{{end}}</main>{{end}}`)},
		"parts/lines.html": {Data: []byte(`{{define "lines"}}{{range .}}<i>{{.what}}</i>{{end}}{{end}}`)},
		"schema.json":      {Data: []byte(`{"type":"object","required":["number","lines"],"properties":{"number":{"type":"string","pattern":"^Q"},"lines":{"type":"array","minItems":1,"items":{"$ref":"line.json"}}}}`)},
		"line.json":        {Data: []byte(`{"type":"object","required":["what"],"properties":{"price":{"type":"number","minimum":0}}}`)},
	}
	tpl, err := Open("t", files)
	require.NoError(t, err)
	out, err := tpl.Merge(rec(t, `{"number": "Q1", "lines": [{"what": "<rope>"}]}`))
	require.NoError(t, err)
	assert.Equal(t, "<main><p>Q1</p><i>&lt;rope&gt;</i></main>", string(out.HTML))
	assert.Equal(t, []string{"lines", "lines[].what", "number"}, tpl.Fields())
	_, err = tpl.Merge(rec(t, `{"number": "X1", "lines": [{"what": "a", "price": -1}, {}]}`))
	require.Error(t, err)
	for _, want := range []string{"record 1 (number X1)", "schema.json", "“number”", "“lines.0.price”", "“lines.1”", "what"} {
		assert.Contains(t, err.Error(), want)
	}
	files["schema.json"] = &fstest.MapFile{Data: []byte(`{"$ref": "https://example.com/x.json"}`)}
	_, err = Open("t", files)
	assert.ErrorContains(t, err, "not in the template's folder")
	files["schema.json"] = &fstest.MapFile{Data: []byte(`{"type": 3}`)}
	_, err = Open("t", files)
	assert.ErrorContains(t, err, "the schema schema.json is not valid")
}

func TestSoftFillsWhatIsMissing(t *testing.T) {
	tpl, err := Open("t", folder(`[{{.number}}|{{.customer.town}}|{{range .lines}}{{.what}}{{.note}};{{end}}|{{with .rest}}{{.x}}{{end}}]`, "title: t\n"))
	require.NoError(t, err)
	tpl.Soften()
	out, err := tpl.Merge(rec(t, `{"lines": [{"what": "a"}]}`))
	require.NoError(t, err)
	assert.Equal(t, "[||a;|]", string(out.HTML))
	out, err = tpl.Merge(record.Record{Number: 1})
	require.NoError(t, err)
	assert.Equal(t, "[|||]", string(out.HTML))
	tpl, err = Open("t", folder(`{{.customer.town}}`, "title: t\n"))
	require.NoError(t, err)
	_, err = tpl.Merge(rec(t, `{"number": 1}`))
	assert.ErrorContains(t, err, "customer")
}

func TestManifestsAreChecked(t *testing.T) {
	for manifest, want := range map[string]string{
		"locale: '???'\n":       "no language tag",
		"timezone: Mars/Base\n": "Europe/Lisbon",
		"rounding: sideways\n":  "not half-up",
		"parts: [gone.html]\n":  "gone.html cannot be read",
		"nothing: 1\n":          "nothing",
		"given: [1]\n":          "given",
		"given: {n: .nan}\n":    "given: ",
	} {
		_, err := Open("t", folder("x", manifest))
		assert.ErrorContains(t, err, want, manifest)
	}
}

func TestSheetsOfTheManifest(t *testing.T) {
	files := folder(`<link rel=stylesheet href="linked.css">`, "styles: [linked.css, own.css]\nfonts: [{family: 'Harbour Sans', file: f/a.woff2, weight: '700', style: italic}]\npdf: {paper: A5, archive: PDF/A-2u}\n")
	files["own.css"] = &fstest.MapFile{Data: []byte("p { color: red }")}
	tpl, err := Open("t", files)
	require.NoError(t, err)
	list, err := tpl.Sheets()
	require.NoError(t, err)
	assert.Equal(t, []Sheet{
		{ManifestName, "@font-face { font-family: \"Harbour Sans\"; src: url(\"f/a.woff2\"); font-weight: 700; font-style: italic; }\n"},
		{"own.css", "p { color: red }"},
	}, list)
	assert.Equal(t, "A5", tpl.Manifest.PDF.Paper)
	delete(files, "own.css")
	_, err = tpl.Sheets()
	assert.ErrorContains(t, err, "own.css of the template cannot be read")
	_, err = Open("t", folder("x", "fonts: [{family: A}]\n"))
	assert.ErrorContains(t, err, "a font has a family and a file")
}

func TestNullAndEmptyFieldsAreStrict(t *testing.T) {
	const js = `{"number": "Q1", "a": null, "b": "", "c": {"d": null}, "l": [{"x": ""}], "html": "<b>"}`
	for page, want := range map[string]string{
		"{{.a}}":                                `the field "a" is null`,
		"\n{{.b}}":                              `the field "b" is empty`,
		"{{.c.d}}":                              `the field "c.d" is null`,
		"{{range .l}}{{.x}}{{end}}":             `the field "x" is empty`,
		"{{range $i, $e := .l}}{{$e.x}}{{end}}": `the field "x" is empty`,
		`{{define "p"}}{{.a}}{{end}}{{template "p" .}}`: `the field "a" is null`,
		`<a title="{{.b}}">x</a>`:                       `the field "b" is empty`,
	} {
		_, err := merged(t, page, "title: t\n", js)
		if assert.Error(t, err, page) {
			assert.Contains(t, err.Error(), want, page)
			assert.Contains(t, err.Error(), "record 1 (number Q1)")
			assert.Contains(t, err.Error(), "page.html line "+map[bool]string{true: "2", false: "1"}[page[0] == '\n'])
		}
	}
	for page, want := range map[string]string{
		`{{with .a}}x{{else}}none{{end}}{{if .b}}x{{end}}`: "none",
		`{{default . "a" "–"}}{{default . "b" "–"}}`:       "––",
		`{{.number}} {{.html}}`:                            "Q1 &lt;b&gt;",
	} {
		out, err := merged(t, page, "title: t\n", js)
		require.NoError(t, err, page)
		assert.Equal(t, want, out)
	}
	tpl, err := Open("t", folder("[{{.a}}{{.b}}{{.gone}}]", "title: t\n"))
	require.NoError(t, err)
	tpl.Soften()
	out, err := tpl.Merge(rec(t, js))
	require.NoError(t, err)
	assert.Equal(t, "[]", string(out.HTML))
}
