package layout

import (
	"math"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// subgrid is what a grid gives an item whose tracks are its own (Grid 2, §9):
// an axis for each subgridded direction, else nil.
type subgrid struct{ axis [2]*gridAxis }

// subgridList gives the line names of a box that is a subgrid in a direction,
// or nil. A box in another writing mode sets its own tracks.
func subgridList(b *box.Box, ax int) *style.TrackList {
	s := b.Style
	list := &s.GridColumns
	if ax == blockAxis {
		list = &s.GridRows
	}
	if contained, _ := s.SizeContained(); contained || !list.Subgrid || b.Kind != box.Element || s.Display.Inner != style.Grid || b.Turned() || b.OutOfFlow() {
		return nil
	}
	return list
}

// subgrids builds the items that share tracks with g.
func (g *gridBox) subgrids() {
	for _, it := range g.items {
		var shared [2]*gridAxis
		for ax := range shared {
			if list := subgridList(it.b, ax); list != nil {
				shared[ax] = g.share(it, ax, *list)
			}
		}
		if shared == [2]*gridAxis{} {
			continue
		}
		it.e = g.l.edges(it.b, 0)
		it.sub = &gridBox{l: g.l, b: it.b, s: it.b.Style, w: Indefinite, h: Indefinite, shared: &subgrid{shared}}
		it.sub.build(Indefinite, Indefinite)
	}
}

// share makes an item's axis of the tracks that it spans; their sizes follow.
func (g *gridBox) share(it *gridItem, ax int, list style.TrackList) *gridAxis {
	around := &g.axis[ax]
	n := it.span[ax]
	out := &gridAxis{sub: true, explicit: n, tracks: make([]gridTrack, n), names: make([][]string, n+1)}
	out.flip = ax == inlineAxis && isRTL(g.b) != isRTL(it.b)
	gap := it.b.Style.ColumnGap
	if ax == blockAxis {
		gap = it.b.Style.RowGap
	}
	out.gap = around.gap
	if gap.Kind == style.Length {
		out.gap = gapOf(gap, 0)
	}
	own := expandNames(list, n+1)
	for i := range out.names {
		if i < len(own) {
			out.names[i] = append(out.names[i], own[i]...)
		}
		k := i
		if out.flip {
			k = n - i
		}
		if line := it.at[ax] + k - around.off; line >= 0 && line < len(around.names) {
			out.names[i] = append(out.names[i], around.names[line]...)
		}
	}
	return out
}

// contributors lists what asks for room in the tracks of an axis.
func (g *gridBox) contributors(ax int) []contributor {
	list := make([]contributor, 0, len(g.items))
	for _, it := range g.items {
		if it.sub == nil || !it.sub.axis[ax].sub {
			list = append(list, contributor{g: g, it: it, at: it.at[ax], span: it.span[ax]})
			continue
		}
		n := it.span[ax]
		start, end := g.outerEdges(it, ax)
		sub := &it.sub.axis[ax]
		gap := (sub.gap - g.axis[ax].gap) / 2
		inner := append(it.sub.contributors(ax), contributor{at: 0, span: 1}, contributor{at: n - 1, span: 1})
		for _, c := range inner {
			if sub.flip {
				c.at, c.before, c.after = n-c.at-c.span, c.after, c.before
			}
			if c.at == 0 {
				c.before += start
			} else {
				c.before += gap
			}
			if c.at+c.span == n {
				c.after += end
			} else {
				c.after += gap
			}
			c.at += it.at[ax]
			list = append(list, c)
		}
	}
	return list
}

// outerEdges are the margins, borders and padding of an item at the start and
// the end of its tracks.
func (g *gridBox) outerEdges(it *gridItem, ax int) (start, end float64) {
	first, last := style.Top, style.Bottom
	if ax == inlineAxis {
		first, last = style.Left, style.Right
		if isRTL(g.b) {
			first, last = last, first
		}
	}
	sum := func(side int) float64 { return it.e.margin[side] + it.e.border[side] + it.e.padding[side] }
	return sum(first), sum(last)
}

// giveTracks hands the sizes and places of g's tracks down to a subgrid. Gaps
// of another size take from both tracks beside them.
func (g *gridBox) giveTracks(it *gridItem, ax int) {
	around, sub := &g.axis[ax], it.sub.shared.axis[ax]
	n := it.span[ax]
	near, far := style.Top, style.Bottom
	if ax == inlineAxis {
		near, far = style.Left, style.Right
	}
	lead := it.e.margin[near] + it.e.border[near] + it.e.padding[near]
	trail := it.e.margin[far] + it.e.border[far] + it.e.padding[far]
	origin, whole := around.area(it.at[ax], n)
	sub.pos = make([]float64, n)
	edge := func(k int) (lo, hi float64) { // of the k-th track from the left or top
		i := it.at[ax] + k
		if ax == inlineAxis && isRTL(g.b) {
			i = it.at[ax] + n - 1 - k
		}
		return around.pos[i] - origin, around.pos[i] + around.tracks[i].size - origin
	}
	for k := range n {
		lo, hi := edge(k)
		if k == 0 {
			lo += lead
		} else {
			_, before := edge(k - 1)
			lo += (sub.gap - (lo - before)) / 2
		}
		if k == n-1 {
			hi = whole - trail
		} else {
			after, _ := edge(k + 1)
			hi -= (sub.gap - (after - hi)) / 2
		}
		i := k
		if ax == inlineAxis && isRTL(it.b) {
			i = n - 1 - k
		}
		sub.pos[i], sub.tracks[i].size = lo-lead, math.Max(hi-lo, 0)
	}
	it.sub.axis[ax] = *sub
}
