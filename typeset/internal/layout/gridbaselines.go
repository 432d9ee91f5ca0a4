package layout

import (
	"math"

	"oliveledger/typeset/internal/style"
)

// baselineGroup is the items that share a baseline: those of one track that are aligned
// from the same side of it (CSS Align 3, §9.1).
type baselineGroup struct {
	track   int
	fromEnd bool
}

// baselineGroup tells in which group an item is aligned along an axis, if it is.
func (g *gridBox) baselineGroup(it *gridItem, ax int) (k baselineGroup, ok bool) {
	j, a := g.selfAlign(it)
	near, far := style.Top, style.Bottom
	if ax == inlineAxis {
		a, near, far = j, style.Left, style.Right
	}
	if a.Kind != style.Baseline || it.frag == nil || it.e.auto[near] || it.e.auto[far] {
		return k, false
	}
	k = baselineGroup{it.at[ax], a.Last != runsBack(it.b, ax, isRTL(g.b))}
	if k.fromEnd != (ax == inlineAxis && isRTL(g.b)) { // tracks are counted from the right then
		k.track += it.span[ax] - 1
	}
	return k, true
}

// reach is how far an item's baseline is from the margin edge that its group is aligned
// from.
func (g *gridBox) reach(it *gridItem, ax int, fromEnd bool) float64 {
	j, a := g.selfAlign(it)
	size, near, far := it.frag.H, style.Top, style.Bottom
	if ax == inlineAxis {
		a, size, near, far = j, it.frag.W, style.Left, style.Right
	}
	at := it.frag.baselineAlong(ax, a.Last, g.s)
	if fromEnd {
		return size - at + it.e.margin[far]
	}
	return at + it.e.margin[near]
}

// alignBaselines finds what moves the items of each track to the baseline that they share
// (Grid 2, §11.6).
func (g *gridBox) alignBaselines(ax int) {
	deepest := map[baselineGroup]float64{}
	for _, it := range g.items {
		it.shim[ax] = 0
		if k, ok := g.baselineGroup(it, ax); ok {
			v := g.reach(it, ax, k.fromEnd)
			if d, ok := deepest[k]; !ok || v > d {
				deepest[k] = v
			}
		}
	}
	if len(deepest) == 0 {
		return
	}
	for _, it := range g.items {
		if k, ok := g.baselineGroup(it, ax); ok {
			it.shim[ax] = deepest[k] - g.reach(it, ax, k.fromEnd)
		}
	}
}

// alignColumns is alignBaselines for columns that are not sized yet: items are set as wide
// as they would be alone.
func (g *gridBox) alignColumns() {
	any := false
	for _, it := range g.items {
		if j, _ := g.selfAlign(it); j.Kind == style.Baseline {
			_, w := g.l.itemSizes(g.l.outer, it.b)
			it.frag = g.lay(it, w, g.definiteRows(it))
			any = true
		}
	}
	if any {
		g.alignBaselines(inlineAxis)
	}
}

// toBaseline is where an item stands along an axis with free room, if it shares a baseline
// there.
func (g *gridBox) toBaseline(it *gridItem, ax int, free float64) (float64, bool) {
	k, ok := g.baselineGroup(it, ax)
	if k.fromEnd {
		return free - it.shim[ax], ok
	}
	return it.shim[ax], ok
}

// containerBaselines are the baselines of the grid as a whole: of the items that share
// one in its first and its last row, or else of those that come first and last in them
// (Grid 2, §11.6).
func (g *gridBox) containerBaselines(kids []flowKid) (first, last float64) {
	if len(kids) == 0 {
		return Indefinite, Indefinite
	}
	firstRow, lastRow := math.MaxInt, 0
	for _, it := range g.items {
		firstRow = min(firstRow, it.at[blockAxis])
		lastRow = max(lastRow, it.at[blockAxis]+it.span[blockAxis]-1)
	}
	of := func(row int, end bool) float64 {
		i := g.bestInRow(row, end)
		return kids[i].y + g.items[i].frag.baselineAlong(blockAxis, end, g.s)
	}
	return of(firstRow, false), of(lastRow, true)
}

// bestInRow is the number of the item that gives the grid its first or last baseline.
func (g *gridBox) bestInRow(row int, end bool) int {
	best := -1
	better := func(a, b *gridItem) bool {
		_, shareA := g.baselineGroup(a, blockAxis)
		_, shareB := g.baselineGroup(b, blockAxis)
		if shareA != shareB {
			return shareA
		}
		if end {
			return a.at[blockAxis]+a.span[blockAxis] > b.at[blockAxis]+b.span[blockAxis] || a.at[inlineAxis] > b.at[inlineAxis]
		}
		return a.at[blockAxis] < b.at[blockAxis] || a.at[blockAxis] == b.at[blockAxis] && a.at[inlineAxis] < b.at[inlineAxis]
	}
	for i, it := range g.items {
		in := it.at[blockAxis] <= row && row < it.at[blockAxis]+it.span[blockAxis]
		if in && (best < 0 || better(it, g.items[best])) {
			best = i
		}
	}
	return best
}
