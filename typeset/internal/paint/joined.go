package paint

import (
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/style"
)

// collapsed paints the borders of a table with collapsed ones, thin ones first.
func (p *Painter) collapsed(f *layout.Fragment, x, y float64) {
	if f.Drawn == nil {
		return
	}
	for i := range f.Drawn.Edges {
		p.joinedEdge(&f.Drawn.Edges[i], edgeAt(&f.Drawn.Edges[i], x, y))
	}
}

// edgeAt is where an edge lies in a table at (x, y).
func edgeAt(e *layout.BorderEdge, x, y float64) display.Rect {
	if e.Vertical {
		return display.Rect{X: x + e.X - e.Width/2, Y: y + e.Y, W: e.Width, H: e.Len}
	}
	return display.Rect{X: x + e.X, Y: y + e.Y - e.Width/2, W: e.Len, H: e.Width}
}

func (p *Painter) joinedEdge(e *layout.BorderEdge, r display.Rect) {
	if e.Border.Style == style.Solid {
		p.fill(r.Snapped(), e.Color)
		return
	}
	side := style.Top
	if e.Vertical {
		side = style.Left
	}
	s := style.Style{}
	s.Color = e.Color
	s.Border[side] = e.Border
	s.Border[side].Color = e.Color
	switch s.Border[side].Style { // these look as groove and ridge here (CSS 2.2, §17.6.3)
	case style.Inset:
		s.Border[side].Style = style.Ridge
	case style.Outset:
		s.Border[side].Style = style.Groove
	}
	var w [4]float64
	w[side] = e.Width
	p.side(&s, r, display.Radii{}, w, side, e.Color)
}

// joinedBorders are the collapsed borders of a table at a place. Positioned rows and
// cells are painted after the table, but under its borders all the same.
type joinedBorders struct {
	table *layout.Fragment
	x, y  float64
}

// joinedAround gives the borders that lie over positioned children of f, when those
// around f are known.
func joinedAround(f *layout.Fragment, x, y float64, around *joinedBorders) *joinedBorders {
	switch {
	case f.Drawn != nil && len(f.Drawn.Edges) > 0:
		return &joinedBorders{f, x, y}
	case f.Box != nil && f.Box.Look() != nil && f.Box.Look().Display.Outer == style.TableCell:
		return nil
	}
	return around
}

// layUnder notes that the borders gathered around a part of a table lie over it.
func (p *Painter) layUnder(f *layout.Fragment) {
	if p.joined == nil {
		return
	}
	if p.over == nil {
		p.over = map[*layout.Fragment]*joinedBorders{}
	}
	p.over[f] = p.joined
}

// within hands over the edges that meet a rectangle.
func (j *joinedBorders) within(r display.Rect, paint func(e *layout.BorderEdge, at display.Rect)) {
	if j == nil {
		return
	}
	for i := range j.table.Drawn.Edges {
		e := &j.table.Drawn.Edges[i]
		at := edgeAt(e, j.x, j.y)
		if at.X <= r.X+r.W && at.X+at.W >= r.X && at.Y <= r.Y+r.H && at.Y+at.H >= r.Y {
			paint(e, at)
		}
	}
}
