package layout

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/style"
)

// TestDocumentsEnd: boxes whose lower edges, heads or rows have no room on any page end all the same, on pages of 300 by 180 px.
func TestDocumentsEnd(t *testing.T) {
	for _, c := range []struct {
		name, html string
		pages      int
	}{
		{"padding that is taller than a page, of a box with a height", "<div style='height:10px;box-sizing:border-box;padding-bottom:300px'></div>", 2},
		{"of a grid item", "<div style='display:grid'><div style='padding-bottom:100%;border:2px solid'></div></div>", 2},
		{"of a flex item", "<div style='display:flex'><div style='padding-bottom:300px;width:10px;border:1px solid'>a</div></div>", 2},
		{"of a box with a ratio", "<div style='aspect-ratio:2;padding-bottom:100%'></div>", 3},
		{"of a cell", "<table style='width:200px'><td style='padding-bottom:100%;border:1px solid'></td></table>", 2},
		{"padding that does not fit below a repeated head", "<table><td>a<tr><td style='padding-bottom:170px'><table style='border-collapse:collapse'><thead><th>a</thead><td></table></table>", 4},
		{"a margin that does not fit below a row of cells", "<table><td><table style='border-collapse:collapse;margin:100px 0 200px'><tr><td rowspan=2>a<canvas></canvas></tr><td><canvas></canvas></table></table>", 3},
		{"a head that the height of its table stretches", "<div style='display:grid;grid-template-rows:500px'><table><thead><th>a</thead><td>b</table></div>", 3},
	} {
		t.Run(c.name, func(t *testing.T) {
			l, root := page(t, c.html)
			assert.Len(t, laidOut(t, l, root, 300, 180), c.pages)
		})
	}
}

// TestSpannedCellsKeepTheirBorders: a cell over several rows that goes on on the next page has there, too, the half of the
// collapsed borders that is its own.
func TestSpannedCellsKeepTheirBorders(t *testing.T) {
	l, root := page(t, "<table style='border-collapse:collapse'><td id=a rowspan=2 style='border-left:8px solid;padding:0'><div style='height:120px'></div><div style='height:120px'></div><tr></table>")
	for _, p := range laidOut(t, l, root, 300, 180) {
		assert.Equal(t, [4]float64{3: 4}, fragmentOf(p, "a").Border)
	}
}

// TestRatiosInColumns: an item is as tall as its ratio makes it, also where a column ends within it.
func TestRatiosInColumns(t *testing.T) {
	l, root := page(t, "<main style='columns:1;column-fill:auto;height:180px'><p style='margin:0;height:45px'></p><div id=g style='display:grid'><i style='aspect-ratio:2;border:1px solid'>a</i></div></main>")
	pages := laidOut(t, l, root, 300, 400)
	var parts []float64
	for _, p := range boxesOf(pages, 300, false) {
		if strings.HasSuffix(p.id, "/i") {
			parts = append(parts, p.h)
		}
	}
	assert.Equal(t, []float64{135, 16}, parts)
}

// TestSharesOfCutItems: padding in percent of a grid item is one of its area, also where a page ends in it.
func TestSharesOfCutItems(t *testing.T) {
	l, root := page(t, "<div style='display:grid;grid-template-columns:100px 200px'><div id=a style='padding:0 10%'>"+strings.Repeat("<p style='margin:0;height:30px'>a", 9)+"</div></div>")
	pages := laidOut(t, l, root, 300, 180)
	assert.Len(t, pages, 2)
	for _, p := range pages {
		assert.InDelta(t, 10, fragmentOf(p, "a").Padding[style.Left], 0.01)
	}
}
