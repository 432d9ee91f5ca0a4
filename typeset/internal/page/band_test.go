package page

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/display"
)

// heard is a canvas that notes the texts drawn on it.
type heard struct {
	display.Canvas
	texts []string
}

func (h *heard) Save()                                            {}
func (h *heard) Restore()                                         {}
func (h *heard) Transform(display.Matrix)                         {}
func (h *heard) Text(t *display.Text)                             { h.texts = append(h.texts, t.Source) }
func (h *heard) Group(_ display.Group, draw func(display.Canvas)) { draw(h) }

// TestBandDrawsTheTextThatItShows: what stands outside the strip is read on the page that shows it,
// whether it is drawn alone, in a group or in a drawing.
func TestBandDrawsTheTextThatItShows(t *testing.T) {
	texts := func(c display.Canvas) {
		for name, y := range map[string]float64{"above": 95, "below": 260} {
			c.Text(&display.Text{Source: name, Y: y, Size: 10})
		}
		c.Text(&display.Text{Source: "cut", Y: 104, Size: 10})
		c.Text(&display.Text{Source: "inside", Y: 150, Size: 10})
	}
	var alone, group, drawing heard
	texts(newBand(&alone, 100, 250))
	newBand(&group, 100, 250).Group(display.Group{}, texts)
	newBand(&drawing, 150, 300).Drawing("key", display.Rect{Y: 50, W: 10, H: 300}, texts)
	for _, h := range []heard{alone, group, drawing} {
		assert.Equal(t, []string{"cut", "inside"}, h.texts)
	}
}
