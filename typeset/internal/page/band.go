package page

import "oliveledger/typeset/internal/display"

// band is a canvas that shows a strip of a drawing that goes on over several pages. Text
// that stands wholly outside is not drawn at all: it would be read on a page that does not
// show it.
type band struct {
	display.Canvas
	top, bottom float64 // of the strip, in the frame of the canvas
	now         display.Matrix
	saved       []display.Matrix
}

func newBand(c display.Canvas, top, bottom float64) *band {
	return &band{Canvas: c, top: top, bottom: bottom, now: display.Identity}
}

func (b *band) Save() {
	b.saved = append(b.saved, b.now)
	b.Canvas.Save()
}

func (b *band) Restore() {
	n := len(b.saved) - 1
	b.now, b.saved = b.saved[n], b.saved[:n]
	b.Canvas.Restore()
}

func (b *band) Transform(m display.Matrix) {
	b.now = b.now.Mul(m)
	b.Canvas.Transform(m)
}

// Text draws text that is seen in the strip, also in part.
func (b *band) Text(t *display.Text) {
	_, base := b.now.Apply(t.X, t.Y)
	_, head := b.now.Apply(t.X, t.Y-t.Size)
	if max(base, head) > b.top && min(base, head) < b.bottom {
		b.Canvas.Text(t)
	}
}

// Group draws a group as part of the strip.
func (b *band) Group(g display.Group, draw func(display.Canvas)) {
	b.Canvas.Group(g, func(c display.Canvas) {
		inner := *b
		inner.Canvas, inner.saved = c, nil
		draw(&inner)
	})
}

// Drawing draws what stands in the strip.
func (b *band) Drawing(_ any, box display.Rect, draw func(display.Canvas)) {
	display.DrawInPlace(b, box, draw)
}
