package pdf

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/display"
)

// TestDrawingsAreShared: what is the same on many pages is in the file once, for each size.
func TestDrawingsAreShared(t *testing.T) {
	var out bytes.Buffer
	w := New(&out)
	logo, stamp, drawn := "logo", "stamp", 0
	draw := func(c display.Canvas) {
		drawn++
		p := &display.Path{}
		p.Rect(display.Rect{W: 5, H: 5})
		c.Fill(p, display.Solid(grey(0.5)), false)
	}
	var pages []string
	for range 3 {
		w.AddPage(100, 50).Draw(func(c display.Canvas) {
			c.Drawing(logo, display.Rect{X: 20, Y: 10, W: 30, H: 20}, draw)
			c.Drawing(logo, display.Rect{X: 60, Y: 10, W: 15, H: 10}, draw)
			c.Drawing(stamp, display.Rect{X: 20, Y: 10, W: 30, H: 20}, draw)
			pages = append(pages, string(c.(*Content).buf))
		})
	}
	require.NoError(t, w.Close())
	assert.Equal(t, 3, drawn, "once for the logo in each of its sizes, once for the stamp")
	assert.Len(t, w.drawings, 3)
	assert.Contains(t, pages[0], "1 0 0 1 20 10 cm\n/X", "it stands where its box does")
	assert.Equal(t, pages[0], pages[2], "each page shows the same")
}
