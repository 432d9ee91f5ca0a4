package typeset_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset"
)

// probed lists what stands at a point of a page: a line for each element, with its tag's line, its boxes and the page's
// own rules.
func probed(t *testing.T, html string, page int, x, y float64) string {
	t.Helper()
	doc, err := typeset.Set(t.Context(), []byte(html), typeset.Options{Name: "page.html", Probe: &typeset.Probe{Page: page, X: x, Y: y}}, &bytes.Buffer{})
	require.NoError(t, err)
	var out []string
	for _, e := range doc.Probed {
		line := fmt.Sprintf("%d %s %v", e.Line, e.Element, e.Box)
		for _, side := range []struct {
			name string
			of   [4]float64
		}{{"margin", e.Margin}, {"border", e.Border}, {"padding", e.Padding}} {
			if side.of != [4]float64{} {
				line += fmt.Sprintf(" %s %v", side.name, side.of)
			}
		}
		for _, r := range e.Rules {
			if r.Origin == "default" {
				continue
			}
			line += fmt.Sprintf("; %s %q %s:%d", r.Origin, r.Selector, r.File, r.Line)
			for _, d := range r.Declarations {
				line += fmt.Sprintf(", %s %s", d.Property, d.Fate)
			}
		}
		out = append(out, line)
	}
	return strings.Join(out, "\n")
}

const probedPage = `<!DOCTYPE html>
<style>
@page { size: 400px 300px; margin: 50px }
body { margin: 0; font: 16px/20px serif }
.box { margin: 10px 20px; padding: 5px; border: 2px solid }
div { margin: 1px }
</style>
<div class=box><p style="margin: 0">A line<span class=note style="float: footnote">a note</span>
<b style="position: absolute; left: 200px; top: 0; width: 30px; height: 30px"></b></div>
<section style="break-before: page; height: 40px"><i id=far>far</i></section>
<table style="border-spacing: 2px"><tr><td style="padding: 3px">cell</table>
`

// TestProbe asks what stands at points of a document.
func TestProbe(t *testing.T) {
	const (
		first  = "0 <html> [50 50 300 160.13]\n0 <body> [50 60 300 150.13]; page \"body\" page.html:4, margin won, font won"
		second = "0 <html> [50 50 300 70]\n0 <body> [50 50 300 70]; page \"body\" page.html:4, margin won, font won"
		div    = "\n8 <div class=box> [70 60 260 34] margin [10 20 10 20] border [2 2 2 2] padding [5 5 5 5]; page \".box\" page.html:5, margin won, padding won, border won; page \"div\" page.html:6, margin lost"
		p      = "\n8 <p> [77 67 246 20]; inline \"\" :0, margin won"
	)
	for _, test := range []struct {
		name string
		page int
		x, y float64
		want string
	}{
		{"in a line", 1, 80, 75, first + div + p},
		{"in a padding", 1, 73, 64, first + div},
		{"in a margin", 1, 60, 75, first},
		{"where boxes overlap", 1, 255, 60, first + div + p + "\n9 <b> [250 50 30 30]; inline \"\" :0, position won, left won, top won, width won, height won"},
		{"in a note", 1, 60, 243, first + div + p + "\n8 <span class=note> [50 230 300 20]; inline \"\" :0, float won"},
		{"in an inline box", 2, 55, 60, second + "\n10 <section> [50 50 300 40]; inline \"\" :0, break-before won, height won\n10 <i id=far> [50 50.74 18.67 17.72]"},
		{"beside it", 2, 200, 80, second + "\n10 <section> [50 50 300 40]; inline \"\" :0, break-before won, height won"},
		{"in a table", 2, 60, 100, second + "\n11 <table> [50 90 33.09 30]; inline \"\" :0, border-spacing won\n0 <tbody> [0 0 0 0]\n11 <tr> [0 0 0 0]\n11 <td> [52 92 29.09 26] padding [3 3 3 3]; inline \"\" :0, padding won"},
		{"in the page's margin", 1, 10, 10, ""},
		{"on no page", 3, 60, 60, ""},
	} {
		t.Run(test.name, func(t *testing.T) { assert.Equal(t, test.want, probed(t, probedPage, test.page, test.x, test.y)) })
	}
	doc, err := typeset.Set(t.Context(), []byte(probedPage), typeset.Options{}, &bytes.Buffer{})
	require.NoError(t, err)
	assert.Nil(t, doc.Probed, "nobody asked")
}

// TestProbeOfShrunkPages: places are those on paper, also where the document is scaled down to fit.
func TestProbeOfShrunkPages(t *testing.T) {
	const page = "<!DOCTYPE html><style>@page { size: 200px 200px; margin: 0 } body { margin: 0; width: 400px } p { margin: 0; height: 100px }</style><p>a<p id=b style='margin-left: 20px; padding: 4px'>b"
	doc, err := typeset.Set(t.Context(), []byte(page), typeset.Options{LayoutWidth: 400, Probe: &typeset.Probe{Page: 1, X: 50, Y: 75}}, &bytes.Buffer{})
	require.NoError(t, err)
	last := doc.Probed[len(doc.Probed)-1]
	assert.Equal(t, "<p id=b>", last.Element)
	assert.Equal(t, [4]float64{10, 50, 190, 54}, last.Box)
	assert.Equal(t, [4]float64{2, 2, 2, 2}, last.Padding)
	assert.Equal(t, [4]float64{0, 0, 0, 10}, last.Margin)
}
