package layout

import (
	"maps"
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// Back is a background that a row, a group or a column paints behind cells: it
// is placed in one rectangle, that of the whole part, and shows in another.
type Back struct {
	X, Y, W, H float64
	Shown      [4]float64 // x, y, width, height
	Style      *style.Style
}

// above is how much of a table earlier pages or columns hold: the height of its
// rows and of those in the group that goes on, in px.
type above struct {
	rows, group float64
	in          int // the group
}

// backgrounds notes what columns, groups and rows paint: behind the cells alone,
// as the gaps between them belong to the table (CSS 2.2, §17.5.1, §17.6.1).
func (t *tableRun) backgrounds() {
	if len(t.placed) == 0 {
		return
	}
	areas := t.backAreas()
	if areas.empty() {
		return
	}
	if t.g.spacing == [2]float64{} {
		areas.each(func(a backArea) {
			d := t.f.draws()
			d.Backs = append(d.Backs, Back{a.x, a.y, a.w, a.h, [4]float64{a.x, a.top, a.w, a.h - (a.top - a.y)}, a.style})
		})
		return
	}
	for i, k := range t.f.Kids {
		if i >= len(t.cells) || k.F.Hide {
			continue
		}
		areas.behind(t.cells[i], t.g, func(a backArea) {
			d := t.f.draws()
			d.Backs = append(d.Backs, Back{a.x, a.y, a.w, a.h, [4]float64{k.X, k.Y, k.F.W, k.F.H}, a.style})
		})
	}
}

// backArea is the place of a part of a table; top is where it begins on this
// page.
type backArea struct {
	rect
	top   float64
	style *style.Style
}

// backAreas are the parts of a table that have a background.
type backAreas struct {
	columns [][]backArea // of each column, its group's first
	groups  map[int]backArea
	rows    map[int]backArea
	order   []int // of the rows
}

func (a *backAreas) empty() bool {
	for _, list := range a.columns {
		if len(list) > 0 {
			return false
		}
	}
	return len(a.groups) == 0 && len(a.rows) == 0
}

// each visits all parts in painting order.
func (a *backAreas) each(visit func(backArea)) {
	for _, list := range a.columns {
		for _, x := range list {
			visit(x)
		}
	}
	for _, gi := range slices.Sorted(maps.Keys(a.groups)) {
		visit(a.groups[gi])
	}
	for _, r := range a.order {
		visit(a.rows[r])
	}
}

// behind visits the parts that show behind a cell.
func (a *backAreas) behind(c *cell, g *tableGrid, visit func(backArea)) {
	for _, x := range a.columns[c.col] {
		visit(x)
	}
	if x, ok := a.groups[g.rows[c.row].group]; ok {
		visit(x)
	}
	if x, ok := a.rows[c.row]; ok {
		visit(x)
	}
}

func (t *tableRun) backAreas() (out backAreas) {
	area := func(b *box.Box, x, w, top, bottom, above float64) backArea {
		return backArea{rect{x, top - above, w, bottom - top + above}, top, b.Style}
	}
	last := t.placed[len(t.placed)-1]
	top, bottom := t.placed[0].y, last.y+last.h
	left, right := math.Inf(1), 0.0
	out.columns = make([][]backArea, len(t.g.columns))
	for i := range t.g.columns {
		col := &t.g.columns[i]
		if paints(col.group) {
			x, w := t.groupExtent(i)
			out.columns[i] = append(out.columns[i], area(col.group, x, w, top, bottom, t.above.rows))
		}
		if paints(col.box) {
			out.columns[i] = append(out.columns[i], area(col.box, t.xs[i], t.widths[i], top, bottom, t.above.rows))
		}
		left, right = math.Min(left, t.xs[i]), math.Max(right, t.xs[i]+t.widths[i])
	}
	out.groups, out.rows = map[int]backArea{}, map[int]backArea{}
	for i := 0; i < len(t.placed); {
		gi, from := t.g.rows[t.placed[i].row].group, i
		for i < len(t.placed) && t.g.rows[t.placed[i].row].group == gi {
			i++
		}
		if b := t.g.groups[gi].box; paints(b) && !ownFragment(b) {
			above := 0.0
			if t.above.in == gi {
				above = t.above.group
			}
			out.groups[gi] = area(b, left, right-left, t.placed[from].y, t.placed[i-1].y+t.placed[i-1].h, above)
		}
	}
	for _, p := range t.placed {
		b := t.g.rows[p.row].box
		if !paints(b) || ownFragment(b) {
			continue
		}
		above := 0.0
		if p.row == t.start {
			above = t.used
		}
		out.rows[p.row] = area(b, left, right-left, p.y, p.y+p.h, above)
		out.order = append(out.order, p.row)
	}
	return out
}

// paints tells whether a background of b is seen.
func paints(b *box.Box) bool {
	return b != nil && b.Style.Visibility == style.Visible && b.Style.HasBackground()
}

// groupExtent is the place of the column group that column i is in.
func (t *tableRun) groupExtent(i int) (x, w float64) {
	left, right := t.xs[i], t.xs[i]+t.widths[i]
	for k := range t.g.columns {
		if t.g.columns[k].group == t.g.columns[i].group {
			left, right = math.Min(left, t.xs[k]), math.Max(right, t.xs[k]+t.widths[k])
		}
	}
	return left, right - left
}

// after is what the parts up to this one hold.
func (t *tableRun) after(cut *tableBreak) above {
	if len(t.placed) == 0 || cut.row >= len(t.g.rows) {
		return t.above
	}
	out := above{in: t.g.rows[cut.row].group}
	last := t.placed[len(t.placed)-1]
	out.rows = t.above.rows + last.y + last.h - t.placed[0].y
	y0, y1 := math.Inf(1), 0.0
	for _, p := range t.placed {
		if t.g.rows[p.row].group == out.in {
			y0, y1 = math.Min(y0, p.y), math.Max(y1, p.y+p.h)
		}
	}
	out.group = math.Max(y1-y0, 0)
	if t.above.in == out.in {
		out.group += t.above.group
	}
	return out
}
