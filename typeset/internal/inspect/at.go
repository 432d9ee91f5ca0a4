package inspect

import (
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// Hit is an element on a page, and its box. Sizes are px of the sheet.
type Hit struct {
	Node                    *markup.Node
	Box                     *box.Box     // nil where it has none on the page, as rows of tables have
	Rect                    display.Rect // its border box
	Margin, Border, Padding [4]float64   // top, right, bottom, left; auto margins count as 0
	text                    bool         // only text of the element is there, not its box
	under                   bool         // the point lies in it
}

// Finder looks for the element at a point of a page: of those that overlap, the one that comes last. Transforms are not
// followed.
type Finder struct {
	X, Y float64
	hits map[*markup.Node]Hit
	last *markup.Node
}

// Look goes through a fragment that stands at x, y and is shown k times as large as it was laid out.
func (p *Finder) Look(f *layout.Fragment, x, y, k float64) {
	if p.hits == nil {
		p.hits = map[*markup.Node]Hit{}
	}
	p.walk(f, display.Rect{X: x, Y: y, W: f.W * k, H: f.H * k}, k, 0)
}

// Path are the element that was found and those around it, the outermost first.
func (p *Finder) Path() (path []Hit) {
	for n := p.last; n != nil && n.Kind == markup.Element; n = n.Parent {
		h := p.hits[n]
		h.Node = n
		path = append(path, h)
	}
	slices.Reverse(path)
	return path
}

// walk visits a fragment at r, in a containing block of this width.
func (p *Finder) walk(f *layout.Fragment, r display.Rect, k, around float64) {
	if f.Box != nil && f.Box.Node != nil && f.Box.Look() != nil && !f.Line {
		h := hit(f, r, k, around)
		h.under = p.X >= r.X && p.Y >= r.Y && p.X < r.X+r.W && p.Y < r.Y+r.H
		p.note(h)
		if f.Text == nil {
			around = r.W - h.Border[style.Left] - h.Border[style.Right] - h.Padding[style.Left] - h.Padding[style.Right]
		}
	}
	for _, kid := range f.Kids {
		scale := k
		if f.Fits(kid.F) {
			scale *= f.W / kid.F.W
		}
		p.walk(kid.F, display.Rect{X: r.X + kid.X*k, Y: r.Y + kid.Y*k, W: kid.F.W * scale, H: kid.F.H * scale}, scale, around)
	}
}

// note keeps the box of an element: rather than its text, rather than a box that wraps it, and of several parts the one
// at the point.
func (p *Finder) note(h Hit) {
	n := h.Box.Node
	if h.under {
		p.last = n
	}
	was, known := p.hits[n]
	better := !known || was.text && !h.text || !h.text && (was.Box.Anon && !h.Box.Anon || h.under && !was.under)
	if better || h.text && was.text && h.under {
		p.hits[n] = h
	}
}

// hit is a fragment as the box of its element.
func hit(f *layout.Fragment, r display.Rect, k, around float64) Hit {
	h := Hit{Box: f.Box, Rect: r, text: f.Text != nil}
	if h.text {
		return h
	}
	for i := range 4 {
		h.Border[i], h.Padding[i] = f.Border[i]*k, f.Padding[i]*k
		if m := f.Box.Look().Margin[i]; m.Kind == style.Length {
			h.Margin[i] = m.Of(around/k) * k
		}
	}
	return h
}
