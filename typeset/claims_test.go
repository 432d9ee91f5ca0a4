package typeset

import (
	"bytes"
	"context"
	"fmt"
	"regexp"
	"strings"
	"testing"
	"time"

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

// Footnotes are read where they are called, after the reference, and have a name each, also in a file that binds
// several.
func TestStructureOfFootnotes(t *testing.T) {
	pdf, _ := pdfOf(t, `<!DOCTYPE html><html lang=en><title>T</title><style>.n { float: footnote }</style><p>Berths<span class=n>By the <a href="https://quay.example">night</a>.</span> and moorings<span class=n>By the season.</span>, all year.`, Options{})
	tree := strings.Join(strings.Fields(tool(t, pdf, "pdfinfo", "-struct-text", "FILE")), " ")
	assert.Contains(t, tree, `P (block) "Berths" Reference (inline) "1" Note <note-000001> (inline) Lbl (block) "1. " "By the " Link (inline)`)
	assert.Contains(t, tree, `"night" "." " and moorings" Reference (inline) "2" Note <note-000002> (inline) Lbl (block) "2. " "By the season." ", all year."`)
	root := tool(t, pdf, "qpdf", "--qdf", "--object-streams=disable", "FILE", "-")
	assert.Regexp(t, `/IDTree \d+ 0 R`, root)
	assert.Regexp(t, `/Names \[\s+\(note-000001\)\s+\d+ 0 R\s+\(note-000002\)`, root)
	assert.Contains(t, root, "/Contents (night)", "a link says its text")
	plain, _ := pdfOf(t, "<!DOCTYPE html><html lang=en><title>T</title><p>no notes", Options{})
	assert.NotContains(t, tool(t, plain, "qpdf", "--qdf", "--object-streams=disable", "FILE", "-"), "IDTree")
}

// Links that lead nowhere are none to who reads the structure.
func TestStructureOfLinks(t *testing.T) {
	pdf, _ := pdfOf(t, `<!DOCTYPE html><html lang=en><title>T</title><p id=here><a href="#here">one</a> <a href="#">two</a> <a href="#gone">three</a> <a href="">four</a> <a href="javascript:x()">five</a> <a href="a.html"><img alt="six" src=x></a>`, Options{})
	tree := strings.Join(strings.Fields(tool(t, pdf, "pdfinfo", "-struct-text", "FILE")), " ")
	assert.Equal(t, 3, strings.Count(tree, "Link (inline)"), tree)
	assert.Equal(t, 3, strings.Count(tree, "Object "), tree)
}

// What stands in margin boxes is furniture of the page: a header at its top, a footer at its foot.
func TestFurnitureOfPages(t *testing.T) {
	pdf, _ := pdfOf(t, `<!DOCTYPE html><html lang=en_US><title>T</title><style>@page { @top-center { content: "Harbour" } @bottom-left-corner { content: "1" } @bottom-right { content: counter(page) } @right-middle { content: "aside" } }</style><p style="background: red">body`, Options{Attach: []Attachment{{Name: "a.txt", Data: []byte("x")}}, Date: time.Date(2026, 3, 1, 9, 0, 0, 0, time.UTC)})
	file := tool(t, pdf, "qpdf", "--qdf", "--object-streams=disable", "FILE", "-")
	for want, count := range map[string]int{
		"/Artifact<</Type/Pagination/Subtype/Header>>BDC": 1, "/Artifact<</Type/Pagination/Subtype/Footer>>BDC": 1, "/Artifact<</Type/Pagination>>BDC": 1, "/Artifact BMC": 1,
		"/Lang (en-US)": 1, "/ModDate (D:20260301090000Z)": 2,
	} {
		assert.Equal(t, count, strings.Count(file, want), want)
	}
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

// An archive file shows each character, unless boxes are allowed in the place of those that no font has; characters that
// need no glyph are none of them.
func TestArchivesShowEachCharacter(t *testing.T) {
	const html = "<html lang=en><title>T</title><p>runes ᚠᚢ and \u061C\u180E\u200D\U000E0020"
	for _, profile := range []string{Archive2, Archive3} {
		var out bytes.Buffer
		_, err := Set(context.Background(), []byte(html), Options{Archive: profile}, &out)
		assert.EqualError(t, err, "the PDF could not be written: an archive file ("+profile+") is to show each character, and no font at hand has 2 characters of the Runic script: “ᚠ” (U+16A0), “ᚢ” (U+16A2); give a font that has it through @font-face, or allow boxes in their place")
		doc, err := Set(context.Background(), []byte(html), Options{Archive: profile, AllowMissing: true}, &out)
		require.NoError(t, err, profile)
		assert.Len(t, doc.Findings, 1, "they are told all the same")
	}
	_, doc := pdfOf(t, html, Options{})
	assert.Len(t, doc.Findings, 1)
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
