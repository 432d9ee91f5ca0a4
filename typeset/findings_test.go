package typeset

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/finding"
)

// told sets a page and gives its findings by code.
func told(t *testing.T, html string) map[string][]Finding {
	t.Helper()
	var out bytes.Buffer
	doc, err := Set(context.Background(), []byte("<!DOCTYPE html><html lang=en><title>t</title><style>@page { size: 400px 300px; margin: 20px } body { margin: 0; font: 10px/12px sans-serif }</style>"+html), Options{Name: "p.html"}, &out)
	require.NoError(t, err)
	list := map[string][]Finding{}
	for _, f := range doc.Findings {
		assert.Contains(t, finding.Codes, f.Code)
		list[f.Code] = append(list[f.Code], f)
	}
	return list
}

// One red dot, as a picture of one pixel.
const redDot = "data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg=="

func TestFindingsOfPages(t *testing.T) {
	line := "<p style='margin:0'>line</p>"
	for _, c := range []struct {
		code, html, want string
	}{
		{"contrast-low", "<p style='color:#eee'>faint", "<p>"},
		{"contrast-low", "<div style='background:#222'><p class=x style='color:#333'>dark on dark</div>", "<p class=x>"},
		{"line-thin", "<p style='border:0.1px solid'>x", "0.08 pt"},
		{"content-cut", "<div id=c style='height:15px;overflow:hidden'>a<br>b<br>c</div>", "<div id=c> cuts 20 px of its text at the bottom"},
		{"content-off", "<div id=c style='position:absolute;top:-500px'>gone</div>", "text of <div id=c> stands 4"},
		{"content-cut", "<div style='width:40px;overflow:hidden;white-space:nowrap'>a long line of text</div>", "at the side"},
		{"content-over", "<div style='height:15px;border:1px solid'>a<br>b<br>c</div>", "below its edge"},
		{"picture-coarse", "<img alt=x width=100 height=100 src='" + redDot + "'>", "1 dots an inch"},
		{"heading-alone", strings.Repeat(line, 20) + "<h2 style='margin:0;break-after:auto'>Alone</h2>" + strings.Repeat(line, 5), "<h2>"},
		{"margin-cut", "<style>@page { @bottom-center { content: 'a foot of three lines' '\\A' 'b' '\\A' 'c'; white-space: pre; font-size: 60px } }</style>x", "text of @bottom-center reaches"},
		{"gap", strings.Repeat(line, 5) + "<div class=k style='break-inside:avoid'>" + strings.Repeat(line, 20) + "</div>", "<div class=k>, which follows, is kept together"},
		{"page-empty", line + "<div style='break-before:page;height:1px'></div>", "the last page is empty"},
		{"content-wide", "<div style='width:500px'>x</div>", "reaches 140 px beyond"},
		{"row-tall", "<table><tr><td>" + strings.Repeat("x<br>", 60) + "</table>", "taller than its page"},
	} {
		list := told(t, c.html)[c.code]
		if assert.NotEmpty(t, list, "%s: %s", c.code, c.html) {
			assert.Contains(t, list[0].Message, c.want)
		}
	}
	f := told(t, line+"<div style='height:15px;overflow:hidden'>a<br>b<br>c</div>")["content-cut"][0]
	assert.Equal(t, 1, f.Page)
	assert.Positive(t, f.Line, "the place of the element in the source")
	assert.Equal(t, [4]float64{20, 32, 360, 15}, f.Rect, "in px of the sheet")
	assert.NotEmpty(t, f.Advice)
}

func TestWhatIsMeantIsNotTold(t *testing.T) {
	for _, html := range []string{
		"<p style='color:#767676'>grey", "<div style='background:linear-gradient(black,black)'><p style='color:#000'>on a picture</div>",
		"<div style='position:relative'><i style='position:absolute;inset:0;background:black'></i><b style='position:absolute;color:white'>on top</b></div>",
		"<div style='height:15px;overflow:hidden;text-overflow:ellipsis;white-space:nowrap;width:40px'>meant to be cut</div>",
		"<span style='position:absolute;width:1px;height:1px;overflow:hidden'>for readers aloud</span><p>x",
		"<img alt=x width=10 height=10 src='" + redDot + "'>", "<p style='visibility:hidden;color:white'>x</p><p>y",
		strings.Repeat("<p>x</p>", 3) + "<p style='break-before:page'>forced",
	} {
		list := told(t, html)
		assert.Empty(t, list, html)
	}
}

func TestFindingsAreDocumented(t *testing.T) {
	text, err := os.ReadFile("../docs/findings.md")
	require.NoError(t, err)
	var listed []string
	for _, m := range regexp.MustCompile("(?m)^\\| `([a-z-]+)`").FindAllStringSubmatch(string(text), -1) {
		listed = append(listed, m[1])
	}
	assert.ElementsMatch(t, finding.Codes, listed)
}

func TestMissingCharactersAreToldByScript(t *testing.T) {
	assert.Empty(t, told(t, "<p>a\u3000b\u2003c\u2009d")["glyph-missing"], "a space is made from the one that the font has")
	list := told(t, "<p>\U00012000 \U00012001\U00012002 \U00012000</p><p>\U00013000\U00012003\U00012004</p><p id=x>\U000EFFF0\U000EFFF1</p>")["glyph-missing"]
	var got []string
	for _, f := range list {
		got = append(got, f.Message)
		assert.Positive(t, f.Line)
	}
	require.Len(t, got, 3)
	assert.Equal(t, "no font at hand has 5 characters of the Cuneiform script, such as “\U00012000” (U+12000), “\U00012001” (U+12001), “\U00012002” (U+12002)", got[0])
	assert.Equal(t, "no font at hand has the character “\U00013000” (U+13000)", got[1])
	assert.Contains(t, got[2], "has 2 characters: ")
}

func TestCollapsedBordersCountWhole(t *testing.T) {
	table := func(width string) []Finding {
		return told(t, "<style>td { border: "+width+" solid }</style><table style='border-collapse:collapse'><tr><td>a<td>b<tr><td>c<td>d</table>")["line-thin"]
	}
	assert.Empty(t, table("0.4pt"), "two cells share it")
	assert.Len(t, table("0.1pt"), 1, "once, however many cells have it")
}

func TestFindingsOfStyleHaveTheirPlace(t *testing.T) {
	page := "<!DOCTYPE html><html lang=en>\n<title>T</title>\n<style\n  media=print>p { colr: red }\n  b { mode: x }</style>\n<style>i { colur: blue }</style>\n<p style='colour: red'>a <b style='colour: blue'>b</b>\n<img alt='' src=gone.png>"
	_, doc := pdfOf(t, page, Options{Name: "page.html"})
	var got []string
	for _, f := range doc.Findings {
		got = append(got, fmt.Sprintf("%s:%d:%d %s", f.File, f.Line, f.Column, f.Code))
	}
	assert.ElementsMatch(t, []string{
		"page.html:4:19 css-unsupported", // colr, behind the tag's end on its second line
		"page.html:5:7 css-unsupported",  // mode
		"page.html:6:12 css-unsupported", // colur in the second sheet
		"page.html:7:1 css-unsupported",  // colour in style attributes, once
		"page.html:8:1 picture-missing",
	}, got)
}

// A character that no font has is shown as a box, and is still the text of the page.
func TestMissingCharactersAreBoxes(t *testing.T) {
	pdf, doc := pdfOf(t, `<p>a 𓀀 b`, Options{})
	require.Len(t, doc.Findings, 1)
	assert.Equal(t, "glyph-missing", doc.Findings[0].Code)
	assert.Contains(t, textOf(t, pdf)[0], "𓀀")
	shown := tool(t, pdf, "qpdf", "--qdf", "--object-streams=disable", "FILE", "-")
	assert.False(t, strings.Contains(shown, "[<0000>]TJ"), "the sign that a font has for nothing, which may be empty")
	assert.True(t, strings.Contains(shown, "DejaVuSans"), "the font that has the box")
}

// TestClosedDetails: what is hidden until a reader opens it is told.
func TestClosedDetails(t *testing.T) {
	for html, want := range map[string]string{
		"<details><summary>More\n about it</summary>text</details>":                                              "“More about it” holds",
		"<details><summary>More</summary><p>text</p></details>":                                                  "“More” holds",
		"<details>text<details open><summary>Inner</summary>x</details></details>":                               "the closed <details> holds",
		"<details><p>text</p></details>":                                                                         "the closed <details> holds",
		"<details open><summary>More</summary><p>text</p></details>":                                             "",
		"<details><summary>More</summary> </details>":                                                            "",
		"<style>details>*{display:block!important}</style><details><summary>More</summary><p>text</p></details>": "",
	} {
		list := told(t, html)["details-closed"]
		if want == "" {
			assert.Empty(t, list, html)
		} else if assert.Len(t, list, 1, html) {
			assert.Contains(t, list[0].Message, want)
		}
	}
}

// TestVariablesThatDoNotSuit: a value that is none of its property's once the variables in it are replaced is left out,
// and that is told once for each value, with the place of the declaration.
func TestVariablesThatDoNotSuit(t *testing.T) {
	for _, c := range []struct {
		name, html string
		want       []string
	}{
		{"a length for a colour", "<style>:root{--c:12px}p{color:var(--c)}</style><p>x<p>y", []string{"“12px”, which “color: var(--c)” comes to, is not understood and was left out"}},
		{"two values for one", "<style>:root{--w:1px 2px}p{width:var(--w)}</style><p>x", []string{"“1px 2px”, which “width: var(--w)” comes to, is not understood and was left out"}},
		{"a number without its unit", "<style>:root{--n:4}p{margin:var(--n) 0}</style><p>x", []string{"“4 0”, which “margin: var(--n) 0” comes to, is not understood and was left out"}},
		{"a fallback", "<style>p{color:var(--c,12px)}</style><p>x", []string{"“12px”, which “color: var(--c,12px)” comes to, is not understood and was left out"}},
		{"each of two values", "<style>b{--c:1px}i{--c:2px}b,i{color:var(--c)}</style><p><b>x</b><i>y</i>", []string{"“1px”, which “color: var(--c)” comes to, is not understood and was left out", "“2px”, which “color: var(--c)” comes to, is not understood and was left out"}},
		{"in a style attribute", "<p style='--c:1px;color:var(--c)'>x", []string{"“1px”, which “color: var(--c)” comes to, is not understood and was left out"}},
		{"for a page", "<style>@page{--m:red;margin:var(--m)}</style><p>x", []string{"“red”, which “margin: var(--m)” comes to, is not understood and was left out"}},
		{"before an element", "<style>:root{--c:1px}p::before{content:'x';color:var(--c)}</style><p>x", []string{"“1px”, which “color: var(--c)” comes to, is not understood and was left out"}},
		{"none of a registered property", "<style>@property --w{syntax:'<length>';inherits:true;initial-value:1px}p{--w:red}</style><p>x<p>y", []string{"“red” is not of the syntax “<length>” of --w and was left out"}},
		{"one of a registered property", "<style>@property --w{syntax:'<length>';inherits:true;initial-value:1px}p{--w:2px;width:var(--w)}</style><p>x", nil},
		{"two that lead to each other", "<style>p{--a:var(--b);--b:var(--a)}</style><p>x", []string{"--a has no effect: its value leads back to itself", "--b has no effect: its value leads back to itself"}},
		{"a registered one that leads to itself", "<style>@property --w{syntax:'*';inherits:false}p{--w:calc(1px + var(--w))}</style><p>x", []string{"--w has no effect: its value leads back to itself"}},
		{"of a page that leads to itself", "<style>@page{--a:var(--a)}</style><p>x", []string{"--a has no effect: its value leads back to itself"}},
		{"a loop with a way out", "<style>p{--a:var(--b,red);--b:var(--c,1px)}</style><p>x", nil},
		{"empty, as switches are", "<style>:root{--on: }p{color:var(--on)}</style><p>x", nil},
		{"for one browser", "<style>:root{--w:-apple-fit}p{width:var(--w)}</style><p>x", nil},
		{"that works out to a plain zero", "<style>:root{--gap:0}p{margin-top:calc(-1 * var(--gap))}</style><p>x", nil},
		{"a zero for a colour", "<style>:root{--c:0}p{color:var(--c)}</style><p>x", []string{"“0”, which “color: var(--c)” comes to, is not understood and was left out"}},
		{"that another declaration wins over", "<style>:root{--c:1px}p{color:var(--c);color:red}</style><p>x", nil},
		{"a word that each property has", "<style>:root{--c:inherit}p{color:var(--c)}</style><p>x", nil},
		{"that suits", "<style>:root{--c:red}p{color:var(--c)}</style><p>x", nil},
	} {
		var got []string
		for _, f := range told(t, c.html)["css-unsupported"] {
			assert.Equal(t, Note, f.Severity)
			assert.Equal(t, "p.html", f.File, c.name)
			got = append(got, f.Message)
		}
		assert.Equal(t, c.want, got, c.name)
	}
	f := told(t, "<style>\n:root { --c: 1px }\np {\n  color: var(--c) }</style><p>x")["css-unsupported"][0]
	assert.Equal(t, [2]int{4, 3}, [2]int{f.Line, f.Column})
}

// TestVariablesUnset: what asks for a custom property that nothing sets has no effect, and it is told.
func TestVariablesUnset(t *testing.T) {
	for _, c := range []struct {
		name, html string
		want       []string
	}{
		{"misspelt", "<style>:root{--brand:red}p{color:var(--brnd)}</style><p>x", []string{"color has no effect: nothing sets --brnd; did you mean --brand?"}},
		{"in another case", "<style>:root{--Gap:1px}p{padding:var(--gap)}</style><p>x", []string{"padding has no effect: nothing sets --gap; did you mean --Gap?"}},
		{"like nothing", "<style>:root{--brand:red}p{color:var(--missing)}</style><p>x", []string{"color has no effect: nothing sets --missing"}},
		{"inside a function", "<style>p{width:calc(2*max(1px,var(--w)))}</style><p>x", []string{"width has no effect: nothing sets --w"}},
		{"once for all places", "<style>p{color:var(--c)}b{color:var(--c)}</style><p>x<b>y</b>", []string{"color has no effect: nothing sets --c"}},
		{"each name", "<style>p{color:var(--c);margin:var(--m)}</style><p>x", []string{"color has no effect: nothing sets --c", "margin has no effect: nothing sets --m"}},
		{"of pages and their margin boxes", "<style>@page{margin:var(--edge);@top-left{content:var(--head)}}</style><p>x", []string{"margin has no effect: nothing sets --edge", "content has no effect: nothing sets --head"}},
		{"in a style attribute", "<p style='color:var(--c)'>x", []string{"color has no effect: nothing sets --c"}},
		{"of an element in front of which it stands", "<style>p::before{content:var(--c)}</style><p>x", []string{"content has no effect: nothing sets --c"}},
		{"in a nested rule", "<style>p{& b{color:var(--c)}}</style><p>x<b>y</b>", []string{"color has no effect: nothing sets --c"}},
		{"through another that is misspelt", "<style>:root{--brand:red;--accent:var(--brnad)}p{color:var(--accent)}</style><p>x", []string{"--accent has no effect: nothing sets --brnad; did you mean --brand?"}},
		{"for the screen alone", "<style>@media screen{:root{--c:red}}p{color:var(--c)}</style><p>x", []string{"color has no effect: nothing sets --c"}},
		{"no name is like a short one", "<style>:root{--a:red}p{color:var(--b)}</style><p>x", []string{"color has no effect: nothing sets --b"}},
		{"set elsewhere", "<style>b{--c:red}p{color:var(--c)}</style><p>x", nil},
		{"set in a style attribute", "<style>p{color:var(--c)}</style><div style='--c:red'><p>x</div>", nil},
		{"set for pages", "<style>@page{--c:1px;margin:var(--c)}</style><p>x", nil},
		{"registered", "<style>@property --c{syntax:'<color>';inherits:true;initial-value:red}p{color:var(--c)}</style><p>x", nil},
		{"with a fallback", "<style>p{color:var(--c,red);margin:var(--m,)}</style><p>x", nil},
		{"of no element here", "<style>table{color:var(--c)}</style><p>x", nil},
		{"that others are to set, as frameworks do", "<style>p{--mine:var(--theirs)}</style><p>x", nil},
	} {
		var got []string
		for _, f := range told(t, c.html)["variable-unset"] {
			assert.Equal(t, Note, f.Severity)
			assert.Equal(t, "p.html", f.File, c.name)
			got = append(got, f.Message)
		}
		assert.Equal(t, c.want, got, c.name)
	}
	f := told(t, "<style>\np {\n  color: var(--c) }</style><p>x")["variable-unset"][0]
	assert.Equal(t, [2]int{3, 3}, [2]int{f.Line, f.Column})
}
