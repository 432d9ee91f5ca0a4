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
	Base    string // the page's address
	Drawing func(root *markup.Node) *Drawing
	Doc     *markup.Node
}

// find is the element that an address names, with a drawing for it whose user space
// begins where a box does.
func (e *Elements) find(address, name string, box display.Rect) (*Drawing, *markup.Node) {
	file, id, ok := strings.Cut(address, "#")
	if e == nil || !ok || file != "" && file != e.Base {
		return nil, nil
	}
	d := e.Drawing(e.Doc)
	d.view = [2]float64{box.W, box.H}
	d.space = display.Identity
	if n := d.byID("#" + id); n != nil && n.Name == name {
		return d, n
	}
	return nil, nil
}

// Clip clips a box to a clipPath element; false when the address names none.
func (e *Elements) Clip(c display.Canvas, address string, box display.Rect) bool {
	d, n := e.find(address, "clipPath", box)
	if d == nil {
		return false
	}
	c.Transform(display.Translate(box.X, box.Y))
	d.clipTo(c, n, display.Rect{W: box.W, H: box.H}, 0)
	c.Transform(display.Translate(-box.X, -box.Y))
	return true
}

// Mask is what draws a mask element for a box, and whether its alpha counts; nil when
// the address names none.
func (e *Elements) Mask(address string, box display.Rect) (draw func(display.Canvas), alpha bool) {
	d, n := e.find(address, "mask", box)
	if d == nil {
		return nil, false
	}
	return func(c display.Canvas) {
		d.in(c, display.Translate(box.X, box.Y), func() { d.mask(c, n, display.Rect{W: box.W, H: box.H}) })
	}, d.own(n).MaskType == style.AlphaKey
}
