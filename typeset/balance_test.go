package typeset

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// rowsOnPages sets a table of n rows below a style sheet and counts those on each page.
func rowsOnPages(t *testing.T, css string, n int, before string) (count []int) {
	t.Helper()
	var b strings.Builder
	for i := range n {
		fmt.Fprintf(&b, "<tr><td>row%d", i)
	}
	pdf, _ := pdfOf(t, "<!DOCTYPE html><html lang=en><title>t</title><style>@page{size:300px 200px;margin:0}body{margin:0;font:10px/20px sans-serif}table{border-spacing:0}td{padding:0}"+css+"</style>"+before+"<table>"+b.String()+"</table>", Options{})
	for _, text := range textOf(t, pdf) {
		count = append(count, strings.Count(text, "row"))
	}
	return count
}

// TestBalancedPages: -olive-pages: balance chooses the pages of a stretch together, and
// makes no more of them.
func TestBalancedPages(t *testing.T) {
	const balance = "html{-olive-pages:balance}"
	assert.Equal(t, []int{10, 10, 1}, rowsOnPages(t, "", 21, ""))
	got := rowsOnPages(t, balance, 21, "")
	assert.Len(t, got, 3, "no page is added")
	assert.GreaterOrEqual(t, got[2], 3, "the last page is not nearly empty: %v", got)
	assert.GreaterOrEqual(t, got[1], 7, "nor are others: %v", got)
	assert.Equal(t, []int{10, 10, 8}, rowsOnPages(t, balance, 28, ""), "well filled pages stay")
	assert.Equal(t, []int{3}, rowsOnPages(t, balance, 3, ""), "a single page has nothing to share")
	got = rowsOnPages(t, balance+"h1{break-before:page;margin:0;font-size:10px}", 11, "<table>"+strings.Repeat("<tr><td>row", 11)+"</table><h1>Next</h1>")
	assert.Len(t, got, 4)
	assert.Greater(t, got[1], 2, "the pages before a forced break are balanced, too: %v", got)
	assert.Greater(t, got[3], 2, "as are those after it: %v", got)
	got = rowsOnPages(t, balance+"@page{@bottom-center{content:counter(page)}}", 211, "")
	assert.Len(t, got, 22)
	assert.Equal(t, 10, got[5], "pages far from the end stay as they are")
	assert.Greater(t, got[21], 2)
}

// TestBreaksAreExplained: why a page ends, by how much what follows is too tall, where it
// stands and what to do.
func TestBreaksAreExplained(t *testing.T) {
	html := "<!DOCTYPE html><html lang=en><title>t</title><style>@page{size:300px 200px;margin:0}body{margin:0;font:10px/20px sans-serif}</style>\n" +
		"<p style='margin:0;height:120px'>a</p>\n<section style='break-inside:avoid;height:100px'>b</section>\n<h1 style='break-before:page'>c</h1>"
	_, doc := pdfOf(t, html, Options{Name: "page.html", TraceBreaks: true})
	if assert.Len(t, doc.Frames, 3) {
		kept, forced, last := doc.Frames[0].Break, doc.Frames[1].Break, doc.Frames[2].Break
		assert.Equal(t, "<section>, which follows, is kept together by break-inside: avoid; it is 100 px tall, 20 px more than was left", kept.Message)
		assert.Equal(t, []any{"page.html", 3, 1}, []any{kept.File, kept.Line, kept.Column})
		assert.NotEmpty(t, kept.Advice)
		assert.Equal(t, "a forced break before <h1>", forced.Message)
		assert.Equal(t, 4, forced.Line)
		assert.Empty(t, last.Message)
	}
}
