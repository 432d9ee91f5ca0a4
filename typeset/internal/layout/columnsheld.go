package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/style"
)

// positionedReach is how far down the positioned boxes that f contains go.
func (f *Fragment) positionedReach() (y float64) {
	for _, k := range f.Kids {
		switch b := k.F.Box; {
		case k.F.Text != nil:
		case b != nil && b.Positioned():
			y = math.Max(y, k.Y+k.F.reach())
		case b == nil || !clips(b.Style):
			if r := k.F.positionedReach(); r > 0 {
				y = math.Max(y, k.Y+r)
			}
		}
	}
	return y
}

// anyWaits tells whether positioned boxes wait in columns to be placed in containing blocks
// that these cut.
func anyWaits(columns []*Fragment) bool {
	return slices.ContainsFunc(columns, func(f *Fragment) bool { return f.carried.waits() })
}

// holdPositioned tells whether n columns of height h have room for the positioned boxes that
// wait in them, which take part in balancing (Multi-column 2, §7.1).
func (c *columnSet) holdPositioned(frags []*Fragment, h float64, n int) bool {
	if !anyWaits(frags) {
		return true
	}
	var list []piece
	column := map[*Fragment]float64{} // where the column of a part begins, all of them in a row
	for i, f := range frags {
		if f.carried == nil {
			continue
		}
		for _, p := range f.carried.pieces {
			if p.col == nil {
				list = append(list, p)
				column[p.f] = float64(i) * h
			}
		}
	}
	g := grouped(list)
	for _, b := range g.order {
		parts := g.parts[b]
		first := parts[0]
		top := column[first.f] + first.y
		whole := 0.0
		for _, p := range parts {
			whole += p.f.H
		}
		cb := rect{first.f.Border[style.Left], first.f.Border[style.Top], first.f.W - first.f.Border[style.Left] - first.f.Border[style.Right], 0}
		cb.h = whole - cb.y - parts[len(parts)-1].f.Border[style.Bottom]
		before := 0.0
		for _, p := range parts {
			for _, w := range p.list {
				w.y += before
				if at := c.l.positioned(first.f.Box, w, cb); at.frag != nil && !c.holds(at, top+at.y, h, n) {
					return false
				}
			}
			before += p.f.H
		}
	}
	return true
}

// holds tells whether n columns of height h, all of them in a row, have room for a positioned
// box that begins at y in them.
func (c *columnSet) holds(at positionedBox, y, h float64, n int) bool {
	if y < 0 {
		return true
	}
	a := putAcross{resolver: &resolver{l: c.l}}
	i := int((y + 0.01) / h)
	y = math.Max(y-float64(i)*h, 0)
	var brk *Break
	for ; i < n; i++ {
		part, rest := a.part(at, brk, h-y, y)
		switch {
		case part == nil:
		case exceeds(part.reach(), h-y):
			return false
		case rest == nil:
			return true
		default:
			brk = rest
		}
		y = 0
	}
	return false
}
