package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// tableRun is a table while it is set.
type tableRun struct {
	l      *Layout
	b      *box.Box
	g      *tableGrid
	f      *Fragment
	sp     Space
	inner  float64 // width between the table's own edges
	widths []float64
	xs     []float64 // left edges of the columns
	y      float64
	limit  float64 // where the page ends, less the repeated foot
	placed []placedRow
	spans  map[*cell]*spanned
	cells  []*cell // what each child of f is the fragment of

	clip bool            // the row being set is cut at the end of the room
	top  bool            // the row being set is the first on the page, but for a repeated head
	used float64         // height of the row to go on with that is already set
	tall map[int]float64 // heights that a height of the table gives to rows

	shares map[int]float64 // least heights that spanning cells give to rows
	alone  bool            // a row is measured without the cells that reach over others
	paged  bool            // the rows of a long table go onto pages, to be let go when those are written

	above above // what earlier parts of the table hold
	start int   // the first row set here, but for a repeated head

	frags []*Fragment // of the cells of the row being set
	rests []*Break

	first, last bool // which parts of the table are set here; last is known when its foot is set
}

type placedRow struct {
	row  int
	y, h float64
}

// table sets a table (CSS Tables 3; CSS 2.2, §17).
func (l *Layout) table(b *box.Box, sp Space, from *Break) (*Fragment, *Break) {
	g := l.gridOf(b)
	e := l.edges(b, sp.W)
	if g.collapse {
		e.border = g.edge
		e.padding = [4]float64{}
	}
	w := l.tableWidth(b, sp, &e)
	f := &Fragment{Box: b, W: w, Border: e.border, Padding: e.padding, Baseline: Auto, LastBaseline: Auto, Continued: from != nil}
	t := &tableRun{l: l, b: b, g: g, f: f, sp: sp, limit: sp.Left, inner: w - e.inlineEdges(), spans: map[*cell]*spanned{}}
	t.widths = l.columnWidths(b, g, t.inner)
	t.columns(e.left())
	start := 0
	if from == nil {
		g.released = 0
	}
	var cut *tableBreak
	if from != nil {
		cut = from.table
		switch {
		case cut == nil:
			cut = &tableBreak{row: len(g.rows)}
		case cut.caption != nil && cut.caption.side == style.BottomSide:
			cut = &tableBreak{row: len(g.rows)}
		case cut.caption != nil:
			cut = nil
		}
		if cut != nil {
			start = cut.row
			g.release(start)
		}
		f.Continued = cut != nil
	}
	if len(g.captions) > 0 {
		outer, rest := t.captioned(e, start, cut, from)
		if outer != nil && Contains(b) {
			l.settle(outer, sp)
		}
		return outer, rest
	}
	grid, rest := t.body(e, start, cut, 0)
	if grid != nil && Contains(b) {
		l.settle(grid, sp)
	}
	return grid, rest
}

// columns works out the left edge of each column.
func (t *tableRun) columns(left float64) {
	n := len(t.widths)
	t.xs = make([]float64, n+1)
	x := left + t.g.spacing[0]
	rtl := isRTL(t.b)
	for i := range n {
		k := i
		if rtl {
			k = n - 1 - i
		}
		if t.g.columns[k].collapsed {
			t.widths[k] = 0
			t.xs[k] = x
			continue
		}
		t.xs[k] = x
		x += t.widths[k] + t.g.spacing[0]
	}
	t.xs[n] = x
}

// cellBox is the x and width of a cell.
func (t *tableRun) cellBox(c *cell) (x, w float64) {
	last := c.col + c.cols - 1
	first := c.col
	if isRTL(t.b) {
		first, last = last, first
	}
	return t.xs[first], t.xs[last] + t.widths[last] - t.xs[first]
}

// body sets the rows that fit.
func (t *tableRun) body(e edges, start int, cut *tableBreak, above float64) (*Fragment, *Break) {
	g, f := t.g, t.f
	cutting := t.sp.cutting()
	t.paged = cutting && !t.sp.Column && g.long()
	t.limit = t.sp.Left - above
	edge := 0.0                                                        // what must follow the last row
	open := !g.collapse && t.b.Style.BoxDecorationBreak != style.Clone // at breaks
	if g.collapse {
		t.limit -= e.bottom()
	} else if edge = g.spacing[1] + e.bottom(); !open {
		t.limit -= e.bottom()
		edge = g.spacing[1]
	}
	if cut != nil {
		t.used, t.tall, t.shares, t.above, t.start = cut.used, cut.tall, cut.shares, cut.above, start
	} else {
		t.shares = t.spanShares()
		if cutting {
			t.tall = t.tallRows(e)
		}
	}
	t.y = e.top()
	if cut != nil && open {
		f.Border[style.Top], f.Padding[style.Top] = 0, 0
		t.y = 0
	}
	if g.collapse && cut != nil {
		t.y = g.edge[style.Top]
	}
	firstBody, endBody := 0, len(g.rows)
	if cutting && g.foot >= 0 {
		endBody = g.groups[g.foot].first
	}
	if g.head >= 0 {
		firstBody = g.groups[g.head].end
	}
	repeatHead := cut != nil && g.head >= 0 && start >= firstBody
	resumed := cut != nil && cut.parts != nil
	if !resumed {
		t.y += g.spacing[1]
	}
	if len(g.rows) == 0 && cut == nil {
		t.y = e.top()
	}
	t.first = cut == nil
	t.showSums(g.head, min(start, len(g.rows)), min(start, len(g.rows)))
	if repeatHead && t.sp.Page > 0 && t.headHeight() < t.sp.Page/2 {
		for r := range firstBody {
			h, _ := t.row(r, nil, inf)
			t.y += h + g.spacing[1]
		}
	}
	footH := 0.0
	if cutting && g.foot >= 0 && endBody < len(g.rows) {
		footH = math.Max(t.groupHeight(g.foot, true), t.groupHeight(g.foot, false))
		if footH > t.sp.Page/2 {
			footH = 0
			endBody = len(g.rows)
		}
	}
	t.limit -= footH
	headEnd := t.y
	var rest *Break
	if cut != nil {
		for c, p := range cut.spans {
			t.carry(c, p)
		}
	}
	t.makeRoom(g.part)
	marks := make([]rowMark, 0, g.part.rows+1)
	for r := start; r < endBody; r++ {
		if cutting && len(marks) > 0 && r > firstBody {
			if k := t.forcedRow(r); k != 0 {
				rest = &Break{table: t.breakAt(r, nil), Forced: k}
				break
			}
		}
		marks = append(marks, rowMark{r, f.extent(), t.y, t.rowAppeal(r), len(t.placed)})
		var parts []*Part
		if cut != nil && r == start {
			parts = cut.parts
		}
		room := t.limit - t.y
		belowHead := cut == nil && r == firstBody && r > 0
		atTop := t.sp.AtTop && (above == 0 || t.sp.Must) && (t.y <= headEnd+0.01 || belowHead && t.sp.Must)
		t.top = atTop
		h, rowRest := t.row(r, parts, room)
		if cutting && rowRest == nil && t.y+h > t.limit+0.01 && (atTop || h > t.sp.Page || parts != nil) && !t.keepsRow(r) {
			t.undo(marks[len(marks)-1])
			h, rowRest = t.cutRow(r, parts, room)
		}
		over := cutting && t.y+h > t.limit+0.01
		if r == endBody-1 && rowRest == nil {
			over = over || cutting && t.y+h+edge > t.limit+0.01
		}
		if cutting && (over || rowRest != nil) {
			if !atTop && (over || rowRest.avoid) {
				// before this row, or before an earlier one
				at := t.pick(marks, start)
				if at < 0 {
					if (!t.sp.AtTop || above > 0) && t.y+h > t.limit+0.01 {
						return nil, nil
					}
					at = 0
					if t.y+h > t.limit+0.01 {
						at = len(marks) - 1
					}
				}
				if at > 0 {
					m := marks[at]
					if cut == nil && m.row == firstBody && !t.sp.Must { // a head does not stand alone
						return nil, nil
					}
					t.undo(m)
					t.y -= g.spacing[1] // none stands before a break
					rest = &Break{table: t.breakAt(m.row, nil), Appeal: m.appeal}
					break
				}
			}
		}
		t.y += h
		if rowRest != nil {
			if atTop && !t.sp.Column {
				t.l.Tell("row-tall", "a row of a table is taller than its page and goes on over the next", t.g.rows[r].box)
			}
			rest = &Break{table: t.breakAt(r, rowRest.parts)}
			if rowRest.avoid {
				rest.Appeal = 2
			}
			rest.table.used = h
			if r == start {
				rest.table.used += t.used
			}
			break
		}
		if r+1 < len(g.rows) {
			t.y += g.spacing[1]
		}
	}
	if endBody < len(g.rows) { // the foot stands on every page
		t.last = rest == nil
		end := endBody
		if rest != nil {
			end = rest.table.row
			t.y += g.spacing[1]
		}
		t.showSums(g.foot, start, end)
		for r := endBody; r < len(g.rows); r++ {
			h, _ := t.row(r, nil, inf)
			t.y += h
			if r+1 < len(g.rows) {
				t.y += g.spacing[1]
			}
		}
	}
	t.finishSpans()
	if len(g.rows) > 0 && rest == nil {
		t.y += g.spacing[1]
	}
	if t.tall == nil {
		t.stretch(e, rest)
	}
	t.baseline()
	if rest != nil && open {
		f.Border[style.Bottom], f.Padding[style.Bottom] = 0, 0
	}
	f.H = math.Max(t.y+f.Border[style.Bottom]+f.Padding[style.Bottom], 0)
	if len(g.rows) == 0 && cut != nil {
		f.H = cut.empty
	}
	if end := t.sp.Left - above; rest == nil && cutting && len(g.rows) == 0 && f.H > end+0.01 && end > 0 {
		rest = &Break{table: &tableBreak{empty: f.H - end}}
		f.H = end
	}
	if rest != nil {
		f.Cut = true
		rest.table.tall, rest.table.shares = t.tall, t.shares
		rest.table.above = t.after(rest.table)
		rest.rule(avoids(t.b.Style.BreakInside, t.sp.Column))
	}
	if rest == nil && cut == nil && known(t.sp.FixedH) {
		f.H = math.Max(f.H, t.sp.FixedH)
	}
	t.backgrounds()
	if g.collapse {
		t.collapsedEdges()
		if t.paged {
			g.edges.last = f.draws().Edges
		}
	}
	g.part = t.size()
	t.wrapParts()
	if rest != nil && cutting {
		f.H = math.Max(f.H, t.sp.Left-above)
	}
	return f, rest
}

// baseline finds that of the table: of its first row, which is where cells share one or
// else the lowest edge of what they hold (CSS 2.2, §17.5.3).
func (t *tableRun) baseline() {
	if len(t.cells) == 0 || len(t.placed) == 0 {
		return
	}
	first := t.placed[0]
	shared, lowest := Auto, Auto
	for i, c := range t.cells {
		if c.row > first.row { // cells come row by row
			break
		}
		if c.row < first.row || c.rows > 1 { // it goes on from the page before, or over several rows
			continue
		}
		k := t.f.Kids[i]
		if b := cellBaseline(k.F); known(b) && c.box.Style.VerticalAlign.Kind == style.Baseline {
			if !known(shared) || k.Y+b > shared {
				shared = k.Y + b
			}
		}
		if end := k.Y + k.F.H - k.F.Border[style.Bottom] - k.F.Padding[style.Bottom]; !known(lowest) || end > lowest {
			lowest = end
		}
	}
	switch {
	case known(shared):
		t.f.Baseline = shared
	case known(lowest):
		t.f.Baseline = lowest
	default:
		t.f.Baseline = first.y + first.h
	}
	t.f.LastBaseline = t.f.Baseline
}

// partSize is how much a part of a table holds. The next part is about as large.
type partSize struct{ cells, rows, edges int }

func (t *tableRun) size() partSize {
	n := partSize{cells: len(t.cells), rows: len(t.placed)}
	if t.f.Drawn != nil {
		n.edges = len(t.f.Drawn.Edges)
	}
	return n
}

// makeRoom gets memory for a part of a size at once.
func (t *tableRun) makeRoom(n partSize) {
	t.f.Kids = slices.Grow(t.f.Kids, n.cells+1)
	t.cells = slices.Grow(t.cells, n.cells+1)
	t.placed = slices.Grow(t.placed, n.rows+1)
	if n.edges > 0 {
		t.f.draws().Edges = slices.Grow(t.g.edges.free, n.edges)
		t.g.edges.free = nil
	}
}

func (t *tableRun) headHeight() float64 { return t.groupHeight(t.g.head, false) }

// groupHeight measures a row group without placing it, in the last part of the
// table or in another.
func (t *tableRun) groupHeight(gi int, last bool) float64 {
	try := &tableRun{first: t.first, last: last, l: t.l, b: t.b, g: t.g, f: &Fragment{Box: t.b}, sp: t.sp, inner: t.inner, widths: t.widths, xs: t.xs, limit: inf, spans: map[*cell]*spanned{}}
	grp := t.g.groups[gi]
	for r := grp.first; r < grp.end; r++ {
		h, _ := try.row(r, nil, inf)
		try.y += h + t.g.spacing[1]
	}
	return try.y
}
