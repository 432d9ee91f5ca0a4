package paint

import (
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/style"
)

// mask draws the layers of mask-image (Masking 1, §6) over a box.
func (p *Painter) mask(f *layout.Fragment, x, y float64) {
	s, r := f.Box.Look(), frame(f, x, y)
	rad := radii(s, r)
	p.MaskLayers(s, func(k style.Keyword) (display.Rect, display.Radii) {
		if k == style.NoClip {
			return p.extent(), display.Radii{}
		}
		e := edge(k, f.Border, f.Padding)
		return r.Within(e), innerRadii(rad, e)
	}, func(address string) (func(display.Canvas), bool) { return p.Elements.Mask(address, r) })
}

// MaskLayers draws the layers of mask-image (Masking 1, §6), as those of a background, in the
// boxes that mask-origin and mask-clip name. Of a mask element that a layer names, element
// gives what draws it and whether its alpha counts, or nil if there is none.
func (p *Painter) MaskLayers(look *style.Style, boxes func(style.Keyword) (display.Rect, display.Radii), element func(address string) (draw func(display.Canvas), alpha bool)) {
	s, layers := *look, look.Mask
	draw := func(of style.Background) {
		s.Background = of
		p.images(&s, boxes, func(_ style.Keyword, draw func()) { draw() })
	}
	how := func(i int) style.Keyword {
		if list := layers.Layer(i).Composite; len(list) > 0 {
			return list[0]
		}
		return style.AddMask
	}
	n, plain := len(layers.Images), true
	elements := make([]func(display.Canvas), n) // of the page, where a layer names one
	byAlpha := make([]bool, n)
	for i, im := range layers.Images {
		if im != nil && im.Kind == style.ImageURL {
			elements[i], byAlpha[i] = element(im.URL)
		}
		plain = plain && how(i) == style.AddMask && elements[i] == nil
	}
	if plain {
		draw(layers)
		return
	}
	p.compose(n, 0, how, func(i int) {
		if elements[i] == nil {
			draw(layers.Layer(i))
			return
		}
		p.group(p.C, display.Group{Alpha: 1, Mask: elements[i], AlphaMask: byAlpha[i]}, func() { p.everywhere(style.RGB8(0, 0, 0)) })
	})
}

// everywhere fills all that a group may paint.
func (p *Painter) everywhere(c style.Color) {
	all := &display.Path{}
	all.Rect(p.extent())
	p.C.Fill(all, display.Paint{Color: c, Alpha: 1}, false)
}

// compose draws layer i of n with those below it, each joined with what is below it by its
// operator (Masking 1, §6.6; Compositing 1, §9).
func (p *Painter) compose(n, i int, how func(int) style.Keyword, layer func(int)) {
	if i == n-1 {
		layer(i)
		return
	}
	above, below := func() { layer(i) }, func() { p.compose(n, i+1, how, layer) }
	switch how(i) {
	case style.Intersect:
		p.within(p.extent(), above, below)
	case style.Subtract:
		p.outside(below, above)
	case style.Exclude:
		p.outside(below, above)
		p.outside(above, below)
	default:
		below()
		above()
	}
}

// within draws into an area where a shape covers, by how much it does.
func (p *Painter) within(area display.Rect, shape, draw func()) {
	p.group(p.C, display.Group{Alpha: 1, Box: area, AlphaMask: true, Mask: func(c display.Canvas) { p.on(c, shape) }}, draw)
}

// outside draws where a shape does not cover: the mask is white with the shape in black.
func (p *Painter) outside(shape, draw func()) {
	black := func(c style.Color) style.Color {
		out := style.RGB8(0, 0, 0)
		out.A = c.A
		return out
	}
	p.group(p.C, display.Group{Alpha: 1, Mask: func(c display.Canvas) {
		p.on(c, func() { p.everywhere(style.RGB8(255, 255, 255)) })
		p.on(&recolored{c, "black", true, black}, shape)
	}}, draw)
}
