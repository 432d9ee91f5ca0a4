package picture

import (
	"strings"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// Elements are the clipPath and mask elements of a page, which its boxes refer to
// (CSS Masking 1, §5.1 and §7).
type Elements struct {
	Base    string   // the page's address
	Drawing *Drawing // of the whole page
}

// find is the element that an address names, or nil.
func (e *Elements) find(address, name string) *markup.Node {
	file, _, ok := strings.Cut(address, "#")
	if e == nil || !ok || file != "" && file != e.Base {
		return nil
	}
	if n := e.Drawing.byID(address); n != nil && n.Name == name {
		return n
	}
	return nil
}

// at gives the drawing, its user space beginning where a box does.
func (e *Elements) at(box display.Rect) *Drawing {
	e.Drawing.view, e.Drawing.space = [2]float64{box.W, box.H}, display.Identity
	return e.Drawing
}

// Clip clips a box to the clipPath element that the address names, if there is one.
func (e *Elements) Clip(c display.Canvas, address string, box display.Rect) {
	n := e.find(address, "clipPath")
	if n == nil {
		return
	}
	c.Transform(display.Translate(box.X, box.Y))
	e.at(box).clipTo(c, n, display.Rect{W: box.W, H: box.H}, 0)
	c.Transform(display.Translate(-box.X, -box.Y))
}

// Mask is what draws a mask element for a box, and whether its alpha counts; nil when
// the address names none.
func (e *Elements) Mask(address string, box display.Rect) (draw func(display.Canvas), alpha bool) {
	n := e.find(address, "mask")
	if n == nil {
		return nil, false
	}
	return func(c display.Canvas) {
		d := e.at(box)
		d.in(c, display.Translate(box.X, box.Y), func() { d.mask(c, n, display.Rect{W: box.W, H: box.H}) })
	}, e.Drawing.own(n).MaskType == style.AlphaKey
}
