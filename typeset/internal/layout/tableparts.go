package layout

import (
	"math"

	"oliveledger/typeset/internal/box"
)

// ownFragment tells whether a row or row group is more than a background
// behind its cells: it moves, is a containing block, has an outline or is painted as a whole.
// All others leave their cells to the table, which saves a fragment for each
// row.
func ownFragment(b *box.Box) bool {
	o := &b.Style.Outline
	return b.Style.HoldsPositioned() || b.Style.PaintsWhole() || drawn(o)
}

// wrapParts moves the cells of rows and groups that need it into a fragment of
// their own.
func (t *tableRun) wrapParts() {
	any := false
	for i := range t.g.groups {
		any = any || ownFragment(t.g.groups[i].box)
	}
	for _, p := range t.placed {
		any = any || ownFragment(t.g.rows[p.row].box)
	}
	if !any {
		return
	}
	kids := t.f.Kids
	t.f.Kids, t.f.out = nil, nil
	for i := 0; i < len(kids); {
		group := t.g.rows[t.cells[i].row].group
		end := i
		for end < len(kids) && t.g.rows[t.cells[end].row].group == group {
			end++
		}
		if b := t.g.groups[group].box; ownFragment(b) {
			part := t.part(b, func(row int) bool { return t.g.rows[row].group == group })
			t.addRows(part.F, part.X, part.Y, kids[i:end], t.cells[i:end])
			t.put(part)
		} else {
			t.addRows(t.f, 0, 0, kids[i:end], t.cells[i:end])
		}
		i = end
	}
}

// addRows puts cells into a parent whose corner stands at x, y in the table.
func (t *tableRun) addRows(parent *Fragment, x, y float64, kids []Kid, cells []*cell) {
	for i := 0; i < len(kids); {
		row := cells[i].row
		end := i
		for end < len(kids) && cells[end].row == row {
			end++
		}
		b := t.g.rows[row].box
		if !ownFragment(b) {
			for _, k := range kids[i:end] {
				parent.add(k.F, k.X-x, k.Y-y, 0, 0)
			}
			i = end
			continue
		}
		part := t.part(b, func(r int) bool { return r == row })
		for _, k := range kids[i:end] {
			part.F.add(k.F, k.X-part.X, k.Y-part.Y, 0, 0)
		}
		t.settlePart(part.F)
		dx, dy := t.shift(b)
		parent.add(part.F, part.X-x, part.Y-y, dx, dy)
		i = end
	}
}

// part makes the fragment of a row or group around its placed rows.
func (t *tableRun) part(b *box.Box, holds func(row int) bool) Kid {
	left, right := inf, 0.0
	for i := range t.widths {
		left, right = math.Min(left, t.xs[i]), math.Max(right, t.xs[i]+t.widths[i])
	}
	top, bottom := inf, 0.0
	for _, p := range t.placed {
		if holds(p.row) {
			top, bottom = math.Min(top, p.y), math.Max(bottom, p.y+p.h)
		}
	}
	if math.IsInf(top, 1) {
		top = 0
	}
	return Kid{X: left, Y: top, F: &Fragment{Box: b, W: math.Max(right-left, 0), H: math.Max(bottom-top, 0), Baseline: Indefinite, LastBaseline: Indefinite}}
}

func (t *tableRun) put(part Kid) {
	t.settlePart(part.F)
	dx, dy := t.shift(part.F.Box)
	t.f.add(part.F, part.X, part.Y, dx, dy)
}

func (t *tableRun) settlePart(f *Fragment) {
	if f.Box.Style.HoldsPositioned() {
		t.l.settle(f, newSpace(0, 0), nil, nil)
	}
}

func (t *tableRun) shift(b *box.Box) (dx, dy float64) {
	return relative(b, t.f.W, Indefinite, isRTL(t.b))
}
