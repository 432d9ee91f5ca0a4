package layout

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestHeadsWhoseWordsRunDownAreNarrow sets the heads of a table sideways: a column is as wide as their lines.
func TestHeadsWhoseWordsRunDownAreNarrow(t *testing.T) {
	l, root := page(t, `<table><tr><th id=a style="writing-mode:vertical-rl">Sold in the first quarter<th id=b style="writing-mode:sideways-lr">Left<br>over<tr><td>1<td>2</table>`)
	l.Viewport = [2]float64{400, 1000}
	whole, _ := l.LayPage(root, 400, 1000, 0, 0, nil)
	assert.InDelta(t, 15, fragmentOf(whole, "a").W, 2.1, "one line, with the padding")
	assert.InDelta(t, 30, fragmentOf(whole, "b").W, 2.1, "two lines")
}
