package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/style"
)

// tallRows gives the heights of the rows of a table that is to be taller than
// they are, and is cut; nil when it asks for no height.
func (t *tableRun) tallRows(e edges) map[int]float64 {
	if len(t.g.rows) == 0 || !t.asksHeight(e) {
		return nil
	}
	try := *t
	try.f, try.spans, try.placed, try.cells = &Fragment{Box: t.b, W: t.f.W, Border: t.f.Border, Padding: t.f.Padding}, map[*cell]*spanned{}, nil, nil
	try.sp = t.sp.uncut()
	try.body(e, 0, nil, 0)
	tall := map[int]float64{}
	for _, p := range try.placed {
		tall[p.row] = p.h
	}
	return tall
}

// asksHeight tells whether the table or a group of its rows has a height given.
func (t *tableRun) asksHeight(e edges) bool {
	for _, grp := range t.g.groups {
		if !grp.box.Style.Height.IsAuto() && known(grp.box.Style.Height.Resolve(Indefinite)) {
			return true
		}
	}
	return known(t.wantedHeight(&e))
}

// wantedHeight is the border-box height that the table asks for, or Indefinite.
func (t *tableRun) wantedHeight(e *edges) float64 {
	s := t.b.Style
	want := t.l.definiteHeight(t.b, t.sp, e)
	if r := s.AspectRatio.Ratio; r > 0 && !known(want) {
		want = throughRatio(s, t.f.W, e.inlineEdges(), e.blockEdges(), 1/r)
	}
	if v := s.MinHeight.Resolve(t.sp.H); known(v) && (!known(want) || want < v) {
		want = borderBox(s, v, e.blockEdges())
	}
	return want
}

// groupRest is what the last row of a group must fill so that the group has the
// height its style asks for.
func (t *tableRun) groupRest(r int) float64 {
	grp := t.g.groups[t.g.rows[r].group]
	want := grp.box.Style.Height.Resolve(Indefinite)
	if r != grp.end-1 || !known(want) || t.f.Continued {
		return 0
	}
	top := t.y
	for _, p := range t.placed {
		if p.row >= grp.first && p.row < r {
			top = math.Min(top, p.y)
		}
	}
	return want - (t.y - top)
}

// cellHeight is the height that a cell's style asks for. Least and greatest heights of
// cells are without effect, as browsers have it (CSS 2.2, §10.7).
func (t *tableRun) cellHeight(c *cell) float64 {
	s := c.box.Style
	e := t.l.edges(c.box, t.inner)
	extra := e.padding[style.Top] + e.padding[style.Bottom] + c.border[style.Top] + c.border[style.Bottom]
	if v := s.Height.Resolve(Indefinite); known(v) {
		return borderBox(s, v, extra)
	}
	return 0
}

// rowHeight is the height that a row, one of its cells or the group of rows around it
// asks for.
func (g *tableGrid) rowHeight(r int) style.Size {
	row := &g.rows[r]
	size := row.box.Style.Height
	for i := range row.cells {
		if c := &row.cells[i]; size.IsAuto() && c.rows == 1 {
			size = c.box.Style.Height
		}
	}
	if size.IsAuto() {
		size = g.groups[row.group].box.Style.Height
	}
	return size
}

// shareSpare gives spare height to rows: those in percent of the table's height
// get what they ask for, the others of auto height the rest, by their height;
// without any, all rows.
func (t *tableRun) shareSpare(free, whole float64) []float64 {
	grow := make([]float64, len(t.placed))
	auto := make([]bool, len(t.placed))
	for i, p := range t.placed {
		height := t.g.rowHeight(p.row)
		if auto[i] = height.IsAuto(); !auto[i] && height.HasPct() {
			grow[i] = math.Min(math.Max(height.Of(whole)-p.h, 0), free)
			free -= grow[i]
		}
	}
	all := !slices.Contains(auto, true)
	total, open := 0.0, 0
	for i, p := range t.placed {
		if all || auto[i] {
			total += p.h + grow[i]
			open++
		}
	}
	for i, p := range t.placed {
		switch {
		case !all && !auto[i]:
		case total > 0:
			grow[i] += free * (p.h + grow[i]) / total
		default:
			grow[i] += free / float64(open)
		}
	}
	return grow
}

// stretch shares a table's spare height among its rows (CSS Tables 3, §3.10).
func (t *tableRun) stretch(e edges, rest *Break) {
	want := t.wantedHeight(&e)
	if !known(want) || rest != nil || t.f.Continued || len(t.placed) == 0 {
		if known(want) && rest == nil && len(t.placed) == 0 {
			t.y = math.Max(t.y, want-e.bottom())
		}
		return
	}
	free := want - e.bottom() - t.y
	if free <= 0 {
		return
	}
	grow := t.shareSpare(free, want-e.blockEdges()-2*t.g.spacing[1])
	moved := 0.0
	shift := make([]float64, len(t.placed))
	for i := range t.placed {
		shift[i] = moved
		moved += grow[i]
	}
	rowAt := map[int]int{}
	for i, p := range t.placed {
		rowAt[p.row] = i
	}
	at := 0
	for _, p := range t.placed {
		for i := range t.g.rows[p.row].cells {
			c := &t.g.rows[p.row].cells[i]
			k := &t.f.Kids[at]
			at++
			first := rowAt[c.row]
			extra := 0.0
			for r := c.row; r < c.row+c.rows; r++ {
				if j, ok := rowAt[r]; ok {
					extra += grow[j]
				}
			}
			k.Y += shift[first]
			if extra > 0 {
				k.F = t.alignCell(c, k.F, k.F.H+extra, 0, false)
			}
		}
	}
	for i := range t.placed {
		t.placed[i].y += shift[i]
		t.placed[i].h += grow[i]
	}
	t.y += free
}
