package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// within is the inline box, from in outwards, that contains a positioned
// box of its line; nil when none does.
func within(in *inlineBox, c *box.Box) *box.Box {
	for ; in != nil; in = in.up {
		if in.box.Style.HoldsFixed() || in.box.Style.HoldsPositioned() && c.Style.Position != style.FixedKey {
			return in.box
		}
	}
	return nil
}

// belongs tells the boxes that wait in f, but for those that did before, that
// an inline box around contains them.
func (f *Fragment) belongs(had int, in *inlineBox) {
	for i := had; i < len(f.out); i++ {
		if w := &f.out[i]; w.by == nil {
			w.by = within(in, w.b)
		}
	}
}

// settleInline places the positioned boxes whose containing block is an inline
// box in f: it reaches from the start of the first part of that box to the end
// of the last one (CSS 2.2, §10.1). An inline box with blocks inside is
// complete in the block around all of these.
func (l *Layout) settleInline(f *Fragment, sp Space) {
	var rest []outOfFlow
	list := f.out
	f.out = nil
	for i := 0; i < len(list); i++ {
		w := list[i]
		if w.by == nil || f.Box.Anon && f.Box.Inline && (w.by.Split.NoStart || w.by.Split.NoEnd) {
			rest = append(rest, w)
			continue
		}
		cb := f.extentOf(w.by)
		by := w.by
		w.by = nil
		if math.IsInf(cb.x, 1) { // it is empty, on a line that shows nothing
			cb = rect{x: w.x, y: w.y}
		}
		if sp.Column && sp.cutting() { // the columns around place it
			w.x, w.y = w.x-cb.x, w.y-cb.y
			f.leaveToColumns(by, cb, w)
			continue
		}
		if at := l.positioned(by, w, cb); at.frag != nil {
			l.putPositioned(f, at, sp.BlockLeft)
			list = append(list, f.out...)
			f.out = nil
		}
	}
	f.out = rest
}

// extentOf is the rectangle in f from the start of the first part of an inline box to the end
// of the last one; its place is infinite without any.
func (f *Fragment) extentOf(of *box.Box) rect {
	first, last := rect{x: inf, y: inf}, rect{} // padding boxes
	f.eachPart(of, 0, 0, func(x, y float64, part *Fragment) {
		b := part.Border
		last = rect{x + b[style.Left], y + b[style.Top], part.W - b[style.Left] - b[style.Right], part.H - b[style.Top] - b[style.Bottom]}
		if math.IsInf(first.x, 1) {
			first = last
		}
	})
	if math.IsInf(first.x, 1) {
		return first
	}
	x, w := first.x, math.Max(last.x+last.w-first.x, 0)
	if isRTL(of) {
		end := first.x + first.w
		w = math.Max(end-last.x, 0)
		x = end - w
	}
	return rect{x, first.y, w, math.Max(last.y+last.h-first.y, 0)}
}

// keepInline leaves to the columns around f the parts in it of inline boxes that contain
// positioned boxes, wherever these stand.
func (l *Layout) keepInline(f *Fragment) {
	for _, b := range l.holders(f.Box) {
		if f.Box.Anon && f.Box.Inline && (b.Split.NoStart || b.Split.NoEnd) {
			continue
		}
		if cb := f.extentOf(b); !math.IsInf(cb.x, 1) {
			f.leaveToColumns(b, cb)
		}
	}
}

// holders lists the inline boxes in a block's lines that are containing blocks. One that is
// split around blocks is listed once.
func (l *Layout) holders(b *box.Box) []*box.Box {
	m := l.memo(b)
	if m.holdersKnown {
		return m.holders
	}
	m.holdersKnown = true
	var walk func(list []*box.Box, inLine bool)
	walk = func(list []*box.Box, inLine bool) {
		for _, c := range list {
			switch {
			case c.Kind != box.Element || c.OutOfFlow() || c.IsAtomic():
			case inLine && !c.IsBlockLevel():
				if c.Style.HoldsPositioned() && !slices.ContainsFunc(m.holders, func(h *box.Box) bool { return sameInline(h, c) }) {
					m.holders = append(m.holders, c)
				}
				walk(c.Children, true)
			case c.Anon && !inLine:
				walk(c.Children, c.Inline)
			}
		}
	}
	walk(b.Children, b.Inline)
	return m.holders
}

// leaveToColumns keeps positioned boxes whose containing block is the rectangle
// cb of an inline box for the columns around it.
func (f *Fragment) leaveToColumns(by *box.Box, cb rect, list ...outOfFlow) {
	c := f.carry()
	for i := range c.pieces {
		if p := &c.pieces[i]; p.col == nil && p.f.Hide && sameInline(p.f.Box, by) {
			p.list = append(p.list, list...)
			return
		}
	}
	part := &Fragment{Box: by, W: cb.w, H: cb.h, Hide: true, Baseline: Indefinite, LastBaseline: Indefinite}
	f.add(part, cb.x, cb.y, 0, 0)
	c.pieces = append(c.pieces, piece{f: part, x: cb.x, y: cb.y, list: list})
}

// sameInline tells whether two boxes are parts of one inline box.
func sameInline(a, b *box.Box) bool {
	return a == b || a.Node != nil && a.Node == b.Node && a.Rare().Pseudo == b.Rare().Pseudo && !a.IsBlockLevel() && !b.IsBlockLevel()
}

// movesWith tells whether b is the anonymous box of a block inside a positioned
// inline box.
func movesWith(b, in *box.Box) bool {
	if !b.Anon || b.Style.Position != style.Relative || len(b.Children) != 1 || b.Children[0].Node == nil {
		return false
	}
	n := b.Children[0].Node
	for n != nil && n != in.Node {
		n = n.Parent
	}
	return n != nil
}

// eachPart visits the parts in f of an inline box, and the blocks inside it,
// in their order. The places are those of their border boxes in f.
func (f *Fragment) eachPart(of *box.Box, x, y float64, visit func(x, y float64, part *Fragment)) {
	for _, k := range f.Kids {
		b := k.F.Box
		switch {
		case k.F.Text != nil:
		case b != nil && (b.Node == of.Node && b.Rare().Pseudo == of.Rare().Pseudo || movesWith(b, of)):
			visit(x+k.X, y+k.Y, k.F)
		case b == nil || b.Anon || !b.IsBlockLevel() && !b.IsAtomic():
			k.F.eachPart(of, x+k.X, y+k.Y, visit)
		}
	}
}
