package typeset

import (
	"bytes"
	"context"
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A file says that it can be read aloud when nothing in it stands against that; else a
// finding says what does.
func TestAccessIsClaimedWhenItIsKept(t *testing.T) {
	page := func(body string) string { return "<!DOCTYPE html><html lang=en><title>T</title>" + body }
	for name, c := range map[string]struct{ html, fault string }{
		"a sound page":                  {page("<h1>a</h1><h2>b</h2><h3>c</h3><h2>d</h2><p>x <a href='https://example.org/'>y</a><dl><div><dt>a<dd>b</div></dl><table><tr><th>a<td></table><table><caption>c</caption><thead><tr><th>a</thead><tbody><tr><td>b</tbody><tfoot><tr><td>c</tfoot></table>"), ""},
		"a picture's text in its stead": {page("<p>a <img src=gone.png alt='a gull'></p>"), ""},
		"no language":                   {"<title>T</title><p>x", "it does not tell its language"},
		"no title":                      {"<html lang=en><p>x", "it has no title"},
		"a late first heading":          {page("<h2>a</h2>"), "its first heading is <h2>"},
		"a level left out":              {page("<h1>a</h1><h3>b</h3>"), "a heading <h3> follows <h1>"},
		"a picture":                     {page("<svg width=5 height=5><rect width=5 height=5 /></svg>"), "a picture has no alternative text"},
		"a link nobody reads":           {page("<p aria-hidden=true><a href='https://example.org/'>y</a></p><p>x"), "a link stands outside of what is read"},
		"a link in a head":              {page("<style>.h { position: running(h) } @page { @top-left { content: element(h) } }</style><div class=h><a href='https://example.org/'>y</a></div><p>x"), "a link stands outside of what is read"},
		"a list of paragraphs":          {page("<ul><p>x</p></ul>"), "a P stands in a L"},
		"neither named nor in a language, it claims nothing": {"<p>x", ""},
	} {
		t.Run(name, func(t *testing.T) {
			for _, profile := range []string{"", Archive2, Archive3} {
				pdf, doc := pdfOf(t, c.html, Options{Archive: profile})
				claims := strings.Contains(string(bytes.Join([][]byte{pdf, []byte(tool(t, pdf, "qpdf", "--qdf", "--stream-data=uncompress", "FILE", "-"))}, nil)), "<pdfuaid:part>")
				var told []string
				for _, f := range doc.Findings {
					if f.Code == "access-unclaimed" {
						told = append(told, f.Message)
					}
				}
				if c.fault == "" && strings.Contains(c.html, "lang") {
					assert.True(t, claims)
					assert.Empty(t, told)
					continue
				}
				assert.False(t, claims)
				if profile != "" || c.fault != "" {
					require.Len(t, told, 1)
					assert.Contains(t, told[0], c.fault)
				}
			}
		})
	}
}

// An archive knows what the claim means (ISO 19005-2, §6.6.2.3).
func TestArchiveDescribesTheClaim(t *testing.T) {
	for profile, want := range map[string]int{"": 0, Archive2: 1, Archive3: 1} {
		pdf, _ := pdfOf(t, "<html lang=en><title>T</title><p>x", Options{Archive: profile})
		assert.Equal(t, want, bytes.Count(pdf, []byte("<pdfaSchema:namespaceURI>http://www.aiim.org/pdfua/ns/id/</pdfaSchema:namespaceURI>")), profile)
	}
}

// Cells keep their place in the row also when nothing is in them, and terms their meaning.
func TestStructureOfTablesAndLists(t *testing.T) {
	read := func(html string) []string {
		pdf, _ := pdfOf(t, "<!DOCTYPE html><html lang=en><title>T</title><style>.b::before { content: 'mark' } .n { display: none }</style>"+html, Options{})
		var roles []string
		for line := range strings.SplitSeq(tool(t, pdf, "pdfinfo", "-struct-text", "FILE"), "\n") {
			if role, _, _ := strings.Cut(strings.TrimSpace(line), " "); role != "" && role != "Document" && role[0] != '/' {
				roles = append(roles, strings.TrimSuffix(role, ":"))
			}
		}
		return roles
	}
	assert.Equal(t, []string{"Table", "TBody", "TR", "TH", `"Nights"`, "TD", "TD", `"4"`}, read("<table><tr><th>Nights<td><td>4</table>"), "a row is no thinner for an empty cell")
	assert.Equal(t, []string{"Table", "TBody", "TR", "TD", "TD", "TR", "TD", `"a"`, "TD"}, read("<table><tr><td><td><tr><td>a<td></table>"), "nor is an empty row left out")
	assert.Equal(t, []string{"Table", "TBody", "TR", "TD", `"a"`}, read("<table><tr><td>a<td class=n>b</table>"), "what is not displayed is not read")
	assert.Equal(t, []string{"L", "LI", "Lbl", `"a"`, "LBody", `"b"`, "LBody", `"c"`, "LI", "Lbl", `"d"`, "Lbl", `"e"`, "LBody", `"f"`}, read("<dl><dt>a<dd>b<dd>c<dt>d<dt>e<dd>f</dl>"), "terms stand with what is said of them")
	assert.Equal(t, []string{"Table", "TBody", "TR", "TD", `"mark"`, "TD", `"a"`}, read("<table><tr class=b><td>a</table>"), "what a row generates is a cell")
}

// Letters with marks have their text, each glyph a value of its own, and letters alone stay
// what they are.
func TestMarksKeepTheirText(t *testing.T) {
	for _, text := range []string{"x and x\u0301 and q\u0323 q end", "x\u0307\u0323x y", "a\u0308\u0331 a"} {
		pdf, _ := pdfOf(t, "<!DOCTYPE html><html lang=en><title>T</title><style>p { font: 16px serif }</style><p>"+text, Options{})
		assert.Equal(t, text, strings.TrimSpace(tool(t, pdf, "pdftotext", "FILE", "-")))
		rest := text[strings.LastIndex(text, " ")+1:]
		assert.Contains(t, tool(t, pdf, "pdfinfo", "-struct-text", "FILE"), rest, "what follows is read, too")
	}
}

// What an archive profile does not allow is an error that names it.
func TestLimitsOfArchives(t *testing.T) {
	for html, want := range map[string]string{
		strings.Repeat("<div style='transform:rotate(1deg)'>", 40) + "x": "graphics states in each other",
		"<style>@page { size: 1px 50px; margin: 0 }</style>":             "pages from 3 to 14,400 pt",
		"<style>@page { size: 200in 220in }</style>x":                    "pages from 3 to 14,400 pt",
		fmt.Sprintf("<img alt='%s' width=5 height=5 src='data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg=='>", strings.Repeat("long ", 8000)): "an alternative text has",
	} {
		var out bytes.Buffer
		_, err := Set(context.Background(), []byte("<html lang=en><title>T</title>"+html), Options{Archive: Archive2}, &out)
		assert.ErrorContains(t, err, want, html[:40])
		_, err = Set(context.Background(), []byte("<html lang=en><title>T</title>"+html), Options{}, &out)
		assert.NoError(t, err)
	}
}

// Archives know no longer strings than 32,767 bytes: a long word is drawn in several.
func TestLongWordsAreSplitInTheFile(t *testing.T) {
	pdf, _ := pdfOf(t, "<html lang=en><title>T</title><p>"+strings.Repeat("x", 40000), Options{Archive: Archive2})
	longest := 0
	for _, s := range regexp.MustCompile(`<[0-9a-f]+>`).FindAllString(tool(t, pdf, "qpdf", "--qdf", "--stream-data=uncompress", "FILE", "-"), -1) {
		longest = max(longest, len(s)/2) // bytes in hexadecimal
	}
	assert.Greater(t, longest, 10000, "they are found")
	assert.Less(t, longest, 32767)
}

// Words of different lines stay words for who has the page read aloud, and one word over two
// lines stays one.
func TestLinesKeepWordsApart(t *testing.T) {
	for html, want := range map[string]string{
		"<p>1 Lantern Quay<br>20457 Tidewell</p>":                     `"1 Lantern Quay 20457 Tidewell"`,
		"<p style='width: 60px'>harbour office</p>":                   `"harbour office"`,
		"<p style='width: 60px'>harbour <b>office</b> pier</p>":       `"harbour office pier"`,
		"<pre>a\tb\nc</pre>":                                          `"a b c"`,
		"<p style='width: 40px;overflow-wrap: anywhere'>harbours</p>": `"harbours"`,
		"<p style='width: 70px'>regis&shy;tration</p>":                `"registration"`,
		"<p style='width: 40px; word-break: break-all'>harbours</p>":  `"harbours"`,
	} {
		pdf, _ := pdfOf(t, "<!DOCTYPE html><html lang=en><title>T</title><style>* { font: 16px monospace }</style>"+html, Options{})
		assert.Contains(t, tool(t, pdf, "pdfinfo", "-struct-text", "FILE"), want)
	}
}
