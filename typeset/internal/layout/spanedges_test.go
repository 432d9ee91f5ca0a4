package layout

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestCellsOverRowsKeepTheirBordersOnEachPage cuts a cell over four rows at the end of a page: joined borders go on
// beside it.
func TestCellsOverRowsKeepTheirBordersOnEachPage(t *testing.T) {
	l, root := tree(t, `<table id=t><tr><td rowspan=4>r<td style="height:40px">a<tr><td style="height:40px">b<tr><td style="height:40px">c<tr><td style="height:20px">d</table>`,
		"body { margin: 0 } table { border-collapse: collapse; width: 100px } td { border: 2px solid; padding: 0 }")
	pages := laidOut(t, l, root, 200, 100)
	require.Len(t, pages, 2)
	for i, page := range pages {
		table := fragmentOf(page, "t")
		require.NotNil(t, table)
		low := 0.0
		for _, e := range table.Drawn.Edges {
			low = max(low, e.Y)
		}
		left, below := 0.0, 0.0
		for _, e := range table.Drawn.Edges {
			switch {
			case e.Vertical && e.X < 2:
				left += e.Len
			case !e.Vertical && e.Y == low:
				below += e.Len
			}
		}
		assert.InDelta(t, low, left, 3, "page %d: the left edge is as long as the rows", i+1)
		assert.InDelta(t, table.W, below, 3, "page %d: the lower edge is as long as the table", i+1)
	}
}

// TestMovedBoxesDoNotMakeColumnsLonger moves a paragraph of balanced columns by relative positioning.
func TestMovedBoxesDoNotMakeColumnsLonger(t *testing.T) {
	height := func(style string) float64 {
		l, root := page(t, `<div id=c style="columns:2"><p>a<p style="`+style+`">b<p>c<p>d</div>`)
		whole, _ := l.LayPage(root, 400, 1000, 0, 0, nil)
		return fragmentOf(whole, "c").H
	}
	assert.Equal(t, height(""), height("position:relative;top:15px"))
}
