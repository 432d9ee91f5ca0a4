package typeset

import (
	"bytes"
	"context"
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const handbook = `<!DOCTYPE html><html lang=en><title>Handbook</title><style>
@page { size: A5; margin: 25mm 15mm; @top-left { content: string(chapter) } @top-right { content: string(term, first) " to " string(term, last) } @top-center { content: element(logo) } @bottom-left { content: counter(page) " of " counter(pages) } }
.logo { position: running(logo) } .logo::after { content: " sheet " counter(page) }
h1 { string-set: chapter content(); break-before: page } dt { string-set: term content() }
.toc a { display: block } .toc a::after { content: leader(".") target-counter(attr(href), page) "/" target-text(attr(href)) }
</style><p class=logo>Lantern</p><nav class=toc><a href="#a">One</a><a href="#b">Two</a></nav>
<h1 id=a>Moorings</h1><dl><dt>Anchor<dd>x<dt>Cleat<dd>y</dl><p style="break-after: page">more</p><p>second</p>
<h1 id=b>Courses</h1><p>end</p>`

func TestRunningHeadsAndCrossReferences(t *testing.T) {
	pdf, doc := pdfOf(t, handbook, Options{})
	require.Equal(t, 4, doc.Pages)
	text := textOf(t, pdf)
	assert.Regexp(t, `One ?\.{20,}2/Moorings`, text[0])
	assert.Regexp(t, `Two ?\.{20,}4/Courses`, text[0])
	assert.Contains(t, text[0], "Lantern sheet 1")
	assert.Contains(t, text[1], "Anchor to Cleat")
	assert.Contains(t, text[2], "Cleat to Cleat", "what a page sets goes on to the next")
	assert.Contains(t, text[2], "Moorings")
	assert.Contains(t, text[2], "Lantern sheet 3")
	assert.Contains(t, text[3], "4 of 4")
	assert.NotContains(t, text[0], "Moorings ", "the first page comes before any chapter")
}

// The sheet is turned as a whole, after it was set upright (CSS Page 3, §7.3).
func TestPageOrientation(t *testing.T) {
	pdf, _ := pdfOf(t, `<style>@page { size: A5 } @page left { page-orientation: rotate-left } @page right { page-orientation: rotate-right }
.l { page: left } .r { page: right }</style><p>a<p class=l>b<p class=r>c`, Options{})
	info := tool(t, pdf, "pdfinfo", "-l", "9", "FILE")
	assert.Regexp(t, `(?s)1 rot: *0\n.*2 size: *419.528 x 595.276.*2 rot: *270\n.*3 rot: *90\n`, info)
}

// A page that names an orientation and no sheet takes the one it is set on.
func TestOrientationOfTheSheetAtHand(t *testing.T) {
	for base, want := range map[string]string{"": "841.89 x 595.276", "@page { size: A5 }": "595.276 x 419.528"} {
		pdf, _ := pdfOf(t, `<style>@page { size: landscape }</style>a`, Options{UserSheets: []Sheet{{Name: "sheet.css", Text: base}}})
		assert.Contains(t, tool(t, pdf, "pdfinfo", "FILE"), want, base)
	}
}

// What a page or a margin box resets is its own; what it counts on is the document's, or
// again its own (CSS Page 3, §7.1).
func TestCountersOfPagesAndMarginBoxes(t *testing.T) {
	pdf, _ := pdfOf(t, `<style>html { counter-reset: a 10 } @page { size: A6; margin: 15mm; counter-increment: a;
@top-left { content: "left" counter(a) } @top-center { counter-increment: a; content: "plus" counter(a) } @bottom-left { counter-reset: a 2; counter-increment: a a; content: "own" counter(a) } @bottom-right { counter-increment: page 5; content: "p" counter(page) } @bottom-center { content: "q" counter(page) } }
@page :left { counter-reset: a 50 } p { break-after: page }</style><p>x<p>y<p>z`, Options{})
	for i, want := range [][]string{{"left11", "plus12", "own4", "p6", "q1"}, {"left51", "plus52", "own4", "p7", "q2"}, {"left12", "plus13", "own4", "p8", "q3"}} {
		for _, w := range want {
			assert.Contains(t, textOf(t, pdf)[i], w)
		}
	}
}

func TestMissingTargetIsTold(t *testing.T) {
	_, doc := pdfOf(t, `<style>a::after { content: target-counter(attr(href), page) }</style><a href="#nowhere">x</a>`, Options{})
	require.NotEmpty(t, doc.Findings)
	assert.Equal(t, "target-missing", doc.Findings[0].Code)
	assert.Contains(t, doc.Findings[0].Message, "#nowhere")
}

func TestPageCounterRestarts(t *testing.T) {
	pdf, _ := pdfOf(t, `<style>@page { @bottom-left { content: "p" counter(page, lower-roman) } } h1 { break-before: page; counter-reset: page 1 }</style><p>a<p style="break-before: page">b<h1>c</h1><p style="break-before: page">d`, Options{})
	text := strings.Join(textOf(t, pdf), " ")
	assert.Regexp(t, `(?s)pi\b.*pii\b.*c\s.*pi\b.*d\s.*pii\b`, text)
}

// ledger is a table of n rows of 10.10 each with sums in its head and foot.
func ledger(n int) string {
	rows := strings.Repeat(`<tr><td>berth<td class=n data-v="10.10">10.10`, n)
	return `<style>@page { size: 400px 300px; margin: 20px } td, th { padding: 0; line-height: 20px } table { border-spacing: 0 }
.n { -olive-add: fee attr(data-v) } .b { -olive-show-in: not-first } .c { -olive-show-in: not-last } .t { -olive-show-in: last }
.b td::before { content: "brought " -olive-sum(fee, brought, "#,##0.00") } .c td::before { content: "carried " -olive-sum(fee, carried, "#,##0.00") } .t td::before { content: "total " -olive-sum(fee, carried, "#.##0,00 €") }
</style><table><thead><tr><th>Item<th>Fee<tr class=b><td colspan=2></thead>` + rows + `<tfoot><tr class=c><td colspan=2><tr class=t><td colspan=2></tfoot></table>`
}

func TestRunningSumsOverPages(t *testing.T) {
	pdf, doc := pdfOf(t, ledger(30), Options{})
	text := textOf(t, pdf)
	require.Greater(t, doc.Pages, 2)
	carried := ""
	set := 0
	for i, page := range text {
		set += strings.Count(page, "berth")
		if i > 0 {
			assert.Regexp(t, `brought\s+`+carried, page, "page %d begins with what the one before carried", i+1)
		} else {
			assert.NotContains(t, page, "brought")
		}
		if i == len(text)-1 {
			assert.NotContains(t, page, "carried")
			assert.Contains(t, page, "total 303,00 €")
			continue
		}
		assert.NotContains(t, page, "total")
		carried = fmt.Sprintf("%.2f", float64(set)*10.1)
		assert.Contains(t, page, "carried "+carried)
	}
	assert.Equal(t, 30, set)
}

func TestAmountThatIsNoNumberIsTold(t *testing.T) {
	_, doc := pdfOf(t, `<style>p { -olive-add: fee attr(data-v) }</style><p data-v="12,50">x`, Options{})
	require.Len(t, doc.Findings, 1)
	assert.Equal(t, "sum-value", doc.Findings[0].Code)
	assert.Contains(t, doc.Findings[0].Message, "12,50")
}

func TestFootnotes(t *testing.T) {
	var page strings.Builder
	page.WriteString(`<style>@page { size: 400px 300px; margin: 20px } p { margin: 0; line-height: 20px } .f { float: footnote } </style>`)
	for i := range 40 {
		fmt.Fprintf(&page, "<p>line%02dx<span class=f>note%02dx</span>", i, i)
	}
	pdf, doc := pdfOf(t, page.String(), Options{})
	require.Greater(t, doc.Pages, 4)
	for k, text := range textOf(t, pdf) {
		for n := range 40 {
			line, note := strings.Contains(text, fmt.Sprintf("line%02dx", n)), strings.Contains(text, fmt.Sprintf("%d. note%02dx", n+1, n))
			assert.Equal(t, line, note, "page %d: note %d stands with its call", k+1, n)
		}
	}
}

func TestLongFootnoteGoesOn(t *testing.T) {
	words := make([]string, 600)
	for i := range words {
		words[i] = fmt.Sprintf("n%d", i)
	}
	pdf, doc := pdfOf(t, `<style>@page { size: 400px 300px; margin: 20px } .f { float: footnote }</style><p>text<span class=f>`+strings.Join(words, " ")+`</span> goes on`, Options{})
	assert.Greater(t, doc.Pages, 2)
	all := strings.Join(textOf(t, pdf), " ")
	for _, w := range words {
		assert.Regexp(t, `\b`+w+`\b`, all)
	}
}

func TestShadowsAreNotRead(t *testing.T) {
	pdf, _ := pdfOf(t, `<p style="text-shadow: 0 2px 3px red">Lantern</p><p style="filter: drop-shadow(2px 2px 1px red)">Quay</p><p style="filter: blur(1px)">Fog</p>`, Options{})
	assert.Equal(t, []string{"Lantern", "Quay", "Fog"}, strings.Fields(textOf(t, pdf)[0]))
	tool(t, pdf, "qpdf", "--check", "FILE")
}

func TestFootnotePolicy(t *testing.T) {
	// the last paragraph's second line calls a note that its page has no room for
	page := func(policy string) []string {
		pdf, _ := pdfOf(t, `<style>@page { size: 300px 200px; margin: 20px } p { margin: 0; line-height: 20px; orphans: 1; widows: 1 } .f { float: footnote; footnote-policy: `+policy+` }</style>
<p>a1<br>a2<br>a3<p>b1<br>b2<span class=f>n1<br>n2<br>n3<br>n4</span><br>b3`, Options{})
		return textOf(t, pdf)
	}
	assert.Regexp(t, `(?s)b1.*b2.*n1`, page("auto")[0])
	assert.Regexp(t, `n\d`, page("auto")[1], "the note goes on")

	line := page("line")
	assert.Regexp(t, `(?s)a3.*b1`, line[0])
	assert.NotRegexp(t, `b2|n1`, line[0])
	assert.Regexp(t, `(?s)b2.*b3.*n1.*n4`, line[1])

	block := page("block")
	assert.Contains(t, block[0], "a3")
	assert.NotRegexp(t, `b\d|n\d`, block[0])
	assert.Regexp(t, `(?s)b1.*b2.*b3.*n1`, block[1])
}

func TestStructure(t *testing.T) {
	pdf, doc := pdfOf(t, `<!DOCTYPE html><html lang=en><title>T</title><style>@page { @top-left { content: "Running" } } .g { opacity: .5 }</style>
<h1>Berths <em>2026</em></h1><p>See <a href="https://example.org/">there</a>.</p><ul><li>One<li>Two</ul><div class=g>bare</div><p aria-hidden=true>Silent</p>
<table><thead><tr><th>Name<th>Fee</thead><tr><th>Gull<td>12</table><svg width=5 height=5><rect width=5 height=5 /></svg><svg aria-label="A gull" width=5 height=5><rect width=5 height=5 /></svg>`, Options{})
	tree := tool(t, pdf, "pdfinfo", "-struct-text", "FILE")
	for _, part := range []string{"H1 (block)\n    \"Berths 2026\"", "Lbl (block)\n        \"• \"\n      LBody (block)\n        \"One\"", "/Scope /Column\n          \"Fee\"", "/Scope /Row\n          \"Gull\"", "TD\n          \"12\"", "Link (inline)", "\"bare\""} {
		assert.Contains(t, tree, part)
	}
	assert.NotContains(t, tree, "Running", "margins are no content")
	assert.NotContains(t, tree, "Silent")
	assert.Contains(t, tool(t, pdf, "pdfinfo", "FILE"), "Tagged:          yes")
	codes := []string{}
	for _, f := range doc.Findings {
		codes = append(codes, f.Code)
	}
	assert.Equal(t, []string{"alt-missing", "access-unclaimed"}, codes, "only the picture without a text is told, and what it costs")
}

func TestRepeatedHeadIsReadOnce(t *testing.T) {
	pdf, doc := pdfOf(t, `<html lang=en><style>@page { size: 300px 200px; margin: 10px }</style><table><thead><tr><th>Heading</thead>`+strings.Repeat("<tr><td>row", 30)+`</table>`, Options{})
	require.Greater(t, doc.Pages, 2)
	assert.Equal(t, 1, strings.Count(tool(t, pdf, "pdfinfo", "-struct-text", "FILE"), `"Heading"`))
	assert.Equal(t, doc.Pages, strings.Count(strings.Join(textOf(t, pdf), " "), "Heading"))
}

func TestOptionsForTheFile(t *testing.T) {
	o := Options{Title: "Fees", Author: "Office", Header: "left | {title} | {page}/{pages}", Watermark: "DRAFT", Archive: Archive3, Attach: []Attachment{{Name: "record.json", Type: "application/json", Data: []byte(`{"a":1}`)}}}
	pdf, doc := pdfOf(t, `<html lang=en><p>one<p style="break-before: page">two`, o)
	require.Equal(t, 2, doc.Pages)
	tool(t, pdf, "qpdf", "--check", "FILE")
	for k, text := range textOf(t, pdf) {
		assert.Contains(t, text, "Fees")
		assert.Contains(t, text, fmt.Sprintf("%d/2", k+1))
	}
	assert.Contains(t, tool(t, pdf, "pdfdetach", "-list", "FILE"), "record.json")
	assert.Contains(t, tool(t, pdf, "pdfinfo", "-meta", "FILE"), "<pdfaid:part>3</pdfaid:part>")
}

func TestProtection(t *testing.T) {
	pdf, _ := pdfOf(t, `<p>Secret berth`, Options{Protect: &Protection{Open: "gull", Owner: "tern", Print: true}})
	assert.NotContains(t, string(pdf), "Secret")
	assert.Contains(t, tool(t, pdf, "pdftotext", "-upw", "gull", "FILE", "-"), "Secret berth")
	assert.Contains(t, tool(t, pdf, "qpdf", "--show-encryption", "--password=tern", "FILE"), "Supplied password is owner password")
	for _, o := range []Options{{Protect: &Protection{Open: "x"}, Archive: Archive2}, {Archive: "PDF/X"}, {Archive: Archive2, Attach: []Attachment{{Name: "a"}}}} {
		var out bytes.Buffer
		_, err := Set(context.Background(), []byte("<p>x"), o, &out)
		assert.Error(t, err)
	}
	var out bytes.Buffer
	_, err := Set(context.Background(), []byte(`<p style="color: device-cmyk(0 1 1 0)">x`), Options{Archive: Archive2}, &out)
	assert.ErrorContains(t, err, "device-cmyk()")
}

func TestFitting(t *testing.T) {
	wide := `<style>@page { size: 400px 300px; margin: 20px } td { white-space: nowrap } %s</style><table><tr>` + strings.Repeat("<td>column", 12) + `</table>`
	_, doc := pdfOf(t, fmt.Sprintf(wide, "table { -olive-fit: none }"), Options{})
	require.NotEmpty(t, doc.Findings)
	assert.Equal(t, "content-wide", doc.Findings[0].Code)
	assert.Regexp(t, `\d+ of its columns cut or lost`, doc.Findings[0].Message)
	pdf, doc := pdfOf(t, fmt.Sprintf(wide, "table { -olive-fit: shrink }"), Options{})
	assert.Empty(t, doc.Findings)
	for _, p := range places(t, pdf) {
		assert.LessOrEqual(t, p.x1, 381.0)
	}
	long := `<style>@page { size: 400px 300px; margin: 20px }</style>` + strings.Repeat("<p>line", 30)
	_, plain := pdfOf(t, long, Options{})
	_, fit := pdfOf(t, long, Options{FitPages: plain.Pages - 1})
	assert.Equal(t, plain.Pages-1, fit.Pages)
	_, cannot := pdfOf(t, long, Options{FitPages: 1})
	assert.Greater(t, cannot.Pages, 1)
	assert.Equal(t, "fit-pages", cannot.Findings[0].Code)
	_, endless := pdfOf(t, long, Options{Continuous: true})
	assert.Equal(t, 1, endless.Pages)
	pdf, _ = pdfOf(t, `<style>@page { size: 400px 300px; margin: 0 } body { margin: 0 }</style><p style="position: absolute; left: 400px; margin: 0">here`, Options{LayoutWidth: 800})
	assert.InDelta(t, 200, places(t, pdf)["here"].x, 1)
}

func TestRegion(t *testing.T) {
	page := `<style>.a b { color: red } section { break-before: page }</style><p>before</p><section class=a id=x><b>inside</b></section><p>after`
	pdf, doc := pdfOf(t, page, Options{Selector: "#x"})
	assert.Equal(t, 1, doc.Pages)
	assert.Equal(t, "inside", strings.TrimSpace(textOf(t, pdf)[0]))
	for _, selector := range []string{"#none", "..", "head"} {
		var out bytes.Buffer
		_, err := Set(context.Background(), []byte(page), Options{Selector: selector}, &out)
		assert.ErrorContains(t, err, "region", selector)
	}
}

// TestSameBytes sets documents on many goroutines at once: the bytes do not
// depend on that.
func TestSameBytes(t *testing.T) {
	pages := []string{handbook, ledger(40), `<html lang=en><title>x</title><ul><li>a<li>b</ul><div style="opacity: .5">c</div>`}
	want := make([][]byte, len(pages))
	for i, p := range pages {
		want[i], _ = pdfOf(t, p, Options{})
	}
	var wg sync.WaitGroup
	for range 8 {
		for i, p := range pages {
			wg.Go(func() {
				got, _ := pdfOf(t, p, Options{})
				assert.True(t, bytes.Equal(want[i], got), "page %d", i)
			})
		}
	}
	wg.Wait()
}

func TestPositionedBoxesGoOn(t *testing.T) {
	words := make([]string, 120)
	for i := range words {
		words[i] = fmt.Sprintf("<p>w%d", i)
	}
	pdf, doc := pdfOf(t, `<style>@page { size: 400px 300px; margin: 20px } p { margin: 0 }</style><p>flow<div style="position: absolute; top: 50px">`+strings.Join(words, ""), Options{})
	assert.Greater(t, doc.Pages, 5)
	all := strings.Fields(strings.Join(textOf(t, pdf), " "))
	for i := range words {
		n := 0
		for _, w := range all {
			if w == fmt.Sprintf("w%d", i) {
				n++
			}
		}
		assert.Equal(t, 1, n, "w%d", i)
	}
}

func TestBleedAndMarks(t *testing.T) {
	pdf, _ := pdfOf(t, `<style>@page { size: 100pt 80pt; margin: 10pt; bleed: 6pt; marks: crop }</style><p>x`, Options{})
	boxes := tool(t, pdf, "pdfinfo", "-box", "FILE")
	assert.Regexp(t, `TrimBox: +0.00 +0.00 +100.00 +80.00`, boxes)
	assert.Regexp(t, `BleedBox: +-6.00 +-6.00 +106.00 +86.00`, boxes)
	assert.Regexp(t, `MediaBox: +-2\d`, boxes)
	plain, _ := pdfOf(t, `<style>@page { size: 100pt 80pt; margin: 10pt }</style><p>x`, Options{})
	assert.Regexp(t, `MediaBox: +0.00 +0.00 +100.00 +80.00`, tool(t, plain, "pdfinfo", "-box", "FILE"))
}

func TestHyphenation(t *testing.T) {
	page := `<html lang=%s><title>t</title><style>p { width: 60px; margin: 0; hyphens: auto; font: 16px monospace }</style><p>registration`
	pdf, doc := pdfOf(t, fmt.Sprintf(page, "en"), Options{})
	assert.Empty(t, doc.Findings)
	assert.Contains(t, textOf(t, pdf)[0], "regis\u00AD", "the hyphen is a soft one")
	_, doc = pdfOf(t, fmt.Sprintf(page, "tlh"), Options{})
	require.Len(t, doc.Findings, 1)
	assert.Equal(t, "hyphens-language", doc.Findings[0].Code)
}

func TestRubyAndEmphasis(t *testing.T) {
	pdf, _ := pdfOf(t, `<style>@page { margin: 0 } body { margin: 20px; font: 20px serif }</style><ruby>base<rt>note</rt></ruby><p style="text-emphasis: 'x'; margin: 0">word`, Options{})
	words := places(t, pdf)
	assert.Less(t, words["note"].y, words["base"].y, "the annotation stands above")
	assert.InDelta(t, (words["base"].x+words["base"].x1)/2, (words["note"].x+words["note"].x1)/2, 1)
	assert.Equal(t, 4, strings.Count(strings.Join(textOf(t, pdf), ""), "x"))
}

func TestFormFields(t *testing.T) {
	page := `<html lang=en><input name=who value="Gull &amp; Co"><input name=empty size=10><input type=checkbox name=power checked><input type=radio name=term value=a><input type=radio name=term value=b checked><select name=size><option value=s>Small<option value=l selected>Large</select><textarea name=note>one
two</textarea>`
	pdf, _ := pdfOf(t, page, Options{Fields: true})
	tool(t, pdf, "qpdf", "--check", "FILE")
	form := tool(t, pdf, "qpdf", "--json", "--json-key=acroform", "FILE")
	for _, part := range []string{`"hasacroform": true`, `"fullname": "who"`, `"value": "u:Gull & Co"`, `"fullname": "power"`, `"value": "/Yes"`, `"fullname": "term"`, `"fullname": "note"`} {
		assert.Contains(t, form, part)
	}
	assert.Equal(t, 2, strings.Count(form, `"fullname": "term"`), "one field with two widgets")
	labelled, _ := pdfOf(t, `<html lang=en><p><label for=b>Berth</label> <input id=b><label>Keel <input name=k></label><input name=x aria-label="Sail number">`, Options{Fields: true})
	form = tool(t, labelled, "qpdf", "--json", "--json-key=acroform", "FILE")
	tree := tool(t, labelled, "pdfinfo", "-struct", "FILE")
	for _, label := range []string{"Berth", "Keel", "Sail number"} {
		assert.Contains(t, form, `"alternativename": "`+label+`"`)
	}
	assert.Equal(t, 3, strings.Count(tree, "Form\n"))
	assert.Equal(t, 3, strings.Count(tree, "Object "), "each holds its widget")
	kept, _ := pdfOf(t, "<title>Berth</title>"+page, Options{Fields: true, Archive: Archive2})
	assert.NotContains(t, tool(t, kept, "pdffonts", "FILE"), " no  no ", "the font of fields is embedded")
	static, _ := pdfOf(t, page, Options{})
	assert.Contains(t, tool(t, static, "qpdf", "--json", "--json-key=acroform", "FILE"), `"hasacroform": false`)
	assert.Contains(t, textOf(t, static)[0], "Gull & Co")
}

func TestSmallCapitals(t *testing.T) {
	pdf, _ := pdfOf(t, `<style>p { font: 20px serif; font-variant: small-caps }</style><p>Quay<p style="font-synthesis-small-caps: none">Berth`, Options{})
	text := textOf(t, pdf)[0]
	assert.Contains(t, text, "Quay", "capitals stand in where the font has no small ones, and for what was written")
	assert.Contains(t, text, "Berth")
}

func TestRootCountersHoldHoweverOftenATreeIsSet(t *testing.T) {
	page := `<style>@page { size: 400px 300px; margin: 40px; @bottom-left { content: "foo" counter(foo) } } html { counter-reset: foo 7 }</style>` + strings.Repeat("<p>line", 12)
	for _, o := range []Options{{}, {FitPages: 1}} {
		pdf, _ := pdfOf(t, page, o)
		for _, text := range textOf(t, pdf) {
			assert.Contains(t, text, "foo7")
		}
	}
}

const tall = `data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' width='50' height='400'%3E%3Crect width='50' height='400'/%3E%3C/svg%3E`

func TestTallPicturesGoOn(t *testing.T) {
	page := func(body string) (int, []string) {
		pdf, doc := pdfOf(t, `<style>@page { size: 300px 200px; margin: 20px } body, p { margin: 0 } img { vertical-align: top }</style>`+body, Options{})
		return doc.Pages, textOf(t, pdf)
	}
	pages, text := page(`<p>before<img style="display: block" alt=x src="` + tall + `"><p>after`)
	require.Equal(t, 4, pages, "the picture begins on a page of its own and takes 160, 160 and 80 px")
	assert.Contains(t, text[0], "before")
	assert.Contains(t, text[3], "after")

	_, text = page(`<p>beside <img style="vertical-align: baseline" alt=x src="` + tall + `"> it<p>after`)
	require.Len(t, text, 3)
	assert.Empty(t, strings.TrimSpace(text[0]+text[1]))
	assert.Equal(t, "beside it after", strings.Join(strings.Fields(text[2]), " "), "words on the line of a tall picture stand where it ends")

	pages, _ = page(`<img style="display: block; height: 162px" alt=x src="` + tall + `">`)
	assert.Equal(t, 1, pages, "a hair's breadth is no reason for a page")
	pages, _ = page(`<p>x<img style="position: absolute; top: 100px" alt=x src="` + tall + `">`)
	assert.LessOrEqual(t, pages, 4)
}

func TestTextThatNeedsCare(t *testing.T) {
	pdf, doc := pdfOf(t, "<p>a\u009Bb", Options{})
	assert.Contains(t, textOf(t, pdf)[0], "a□b")
	require.NotEmpty(t, doc.Findings)
	assert.Equal(t, "control-character", doc.Findings[0].Code)
	assert.Contains(t, doc.Findings[0].Message, "U+009B")

	pdf, _ = pdfOf(t, "<p>言葉\n言葉 a\nb&#x200B;\nc", Options{})
	assert.Contains(t, textOf(t, pdf)[0], "言葉言葉 a b")
	const right = "<p style='width: 100px; text-align: right; font: 20px/20px monospace; white-space: "
	pos := at(t, right+"normal'>ab\u3000<br>cd")
	assert.InDelta(t, pos["ab"].x, pos["cd"].x, 0.5, "a space of its own width hangs at a line's end")
	pos = at(t, right+"pre-wrap'>ab\u3000\ncd")
	assert.InDelta(t, pos["ab"].x, pos["cd"].x-20, 0.5, "but a preserved one not where the line has room for it and is ended")
	pdf, _ = pdfOf(t, "<p>one\u2029two\u2028three", Options{})
	assert.Equal(t, []string{"one", "two", "three"}, strings.Fields(textOf(t, pdf)[0]))
	pos = at(t, "<p>one\u2029two\u2028three")
	assert.InDelta(t, pos["one"].x, pos["three"].x, 0.1, "line ends in the text end lines")
	pos = at(t, "<p style='width: 20px'>a&nbsp;<i style='display: inline-block; width: 19px'>b</i>")
	assert.Greater(t, pos["b"].y, pos["a"].y, "a line may end beside an atomic box")
}

func TestSizesOfFallbackFaces(t *testing.T) {
	plain := at(t, "<p style='font: 40px monospace'>xxxx <span>end</span>")
	wide := at(t, "<p style='font: 40px monospace; font-size-adjust: ch-width 1.2'>xxxx <span>end</span>")
	assert.InDelta(t, 2*(plain["end"].x-plain["xxxx"].x), wide["end"].x-wide["xxxx"].x, 1, "the zero of this face is 0.6 em wide")
}

func TestFootnotesNumberedByPage(t *testing.T) {
	const body = ` .f { float: footnote } p { margin: 0 0 30px }</style><p>One<span class=f>first</span></p><p>Two<span class=f>second</span></p><p>Three<span class=f>third</span></p><p>Four<span class=f>fourth</span></p>`
	pdf, doc := pdfOf(t, `<style>@page { size: 300px 200px; margin: 20px; counter-reset: footnote }`+body, Options{})
	require.Equal(t, 2, doc.Pages)
	pages := textOf(t, pdf)
	assert.Contains(t, pages[1], "1. third")
	assert.Contains(t, pages[1], "2. fourth")
	pdf, _ = pdfOf(t, `<style>@page { size: 300px 200px; margin: 20px }`+body, Options{})
	assert.Contains(t, textOf(t, pdf)[1], "3. third", "else they go on")
}

func TestPagesProgressToTheLeft(t *testing.T) {
	const sides = `<style>@page { size: 300px 200px; margin: 30px } @page :left { @top-left { content: "left side" } } @page :right { @top-left { content: "right side" } } p + p { break-before: `
	pages := func(attrs, brk string) []string {
		pdf, _ := pdfOf(t, sides+brk+` }</style><html `+attrs+`><p>one<p>two`, Options{})
		return textOf(t, pdf)
	}
	list := pages("", "page")
	assert.Contains(t, list[0], "right side")
	assert.Contains(t, list[1], "left side")
	list = pages("dir=rtl", "page")
	assert.Contains(t, list[0], "left side", "a book that is read from right to left begins on a left page")
	assert.Len(t, pages("", "recto"), 3, "recto is the side of the first page")
	assert.Len(t, pages("dir=rtl", "recto"), 3)
	assert.Len(t, pages("dir=rtl", "right"), 2)
}

func TestMarginBoxesUnderThePage(t *testing.T) {
	pdf, _ := pdfOf(t, `<style>@page { size: 300px 200px; margin: 30px; background: silver; @top-left { content: "under"; z-index: -1 } @bottom-left { content: "over" } }</style><p>body`, Options{})
	text := textOf(t, pdf)[0]
	assert.Less(t, strings.Index(text, "under"), strings.Index(text, "body"))
	assert.Less(t, strings.Index(text, "body"), strings.Index(text, "over"))
}

func TestTheFirstPagesNameCountsForViewportUnits(t *testing.T) {
	pdf, doc := pdfOf(t, `<style>@page { size: 300px 300px; margin: 0 } @page small { size: 100px 100px } body { margin: 0 } section { page: small }</style><section>x</section><div id=d style="width:50vw;outline:1px solid">y</div>`, Options{})
	assert.Equal(t, 2, doc.Pages)
	require.Len(t, doc.Frames, 2)
	assert.Equal(t, 100.0, doc.Frames[0].W)
	assert.Equal(t, 300.0, doc.Frames[1].W)
	assert.NotEmpty(t, pdf)
}

// TestPageGroups counts pages within each chapter (GCPM 3, §4.2).
func TestPageGroups(t *testing.T) {
	html := `<!DOCTYPE html><style>@page { size: 300px 200px; margin: 40px 20px 20px; @top-left { content: "all" } }
		@page chapter { @top-left { content: "later" } } @page :nth(1 of chapter) { @top-left { content: "opens" } } @page :nth(2n of chapter) { @top-left { content: "even" } }
		section { page: chapter; break-before: page } p { height: 100px; margin: 0 }</style><p>front<section><p>a<p>b<p>c</section><section><p>d<p>e</section><p>back`
	pdf, _ := pdfOf(t, html, Options{})
	var heads []string
	for _, page := range textOf(t, pdf) {
		heads = append(heads, strings.Fields(page)[0])
	}
	assert.Equal(t, []string{"all", "opens", "even", "later", "opens", "even", "all"}, heads)
}

// A line in the middle of a tall row, where a page ends, goes on as a whole; the row is in
// a container that is itself cut.
func TestCentredLinesAreNotCutByThePage(t *testing.T) {
	words := func(n int) string { return strings.Repeat("w00000x ", n) }
	html := `<!DOCTYPE html><style>@page { size: A4; margin: 15mm } body { font-size: 11px }</style><div style="display:grid;grid-template-columns:repeat(3,1fr)"><div style="display:flex;align-items:center"><div><p>` +
		words(4) + `</p><p>` + words(4) + `</p></div><div style="flex:0 0 30%"><p style="break-inside:avoid">` + words(84) + `</p><p>` + words(84) + `</p></div></div></div>`
	pdf, _ := pdfOf(t, html, Options{})
	const foot = (297 - 15) * 72 / 25.4
	n := 0
	for _, m := range regexp.MustCompile(`yMax="([\d.]+)">w00000x`).FindAllStringSubmatch(tool(t, pdf, "pdftotext", "-bbox", "FILE", "-"), -1) {
		bottom, err := strconv.ParseFloat(m[1], 64)
		require.NoError(t, err)
		assert.LessOrEqual(t, bottom, foot+0.5)
		n++
	}
	assert.Equal(t, 176, n)
}

// What is left of a document's heights, of which nothing is seen, makes no page.
func TestNoPageForEmptyHeights(t *testing.T) {
	for html, want := range map[string]int{
		`<style>body { min-height: 100vh }</style><p>x`:                                             1,
		`<style>body { height: 250vh; background: #eee }</style><p>x`:                               1,
		`<style>div { min-height: 100vh; padding: 10mm }</style><div>x</div><section></section>`:    1,
		`<style>div { min-height: 100vh; padding: 10mm; border: 1px solid }</style><div>x</div>`:    2,
		`<style>div { min-height: 100vh; padding: 10mm; background: #eee }</style><div>x</div>`:     2,
		`<style>div { min-height: 100vh; padding: 10mm }</style><div>x</div><p>y`:                   2,
		`<style>div { min-height: 100vh; padding: 10mm }</style><div>x</div><p id=end>`:             2,
		`<style>div { height: 90vh; break-after: page }</style><div>x</div><div>y</div>`:            2,
		`<style>p { break-before: page } body { min-height: 300vh }</style>x<p>y`:                   2,
		`<style>div { height: 100vh } p { float: left; height: 150vh }</style><p>x</p><div>y</div>`: 2,
	} {
		_, doc := pdfOf(t, html, Options{})
		assert.Equal(t, want, doc.Pages, html)
	}
}
