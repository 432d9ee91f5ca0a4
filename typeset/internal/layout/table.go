package layout

import (
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
	f := &Fragment{Box: b, W: w, Border: e.border, Padding: e.padding, Baseline: Indefinite, LastBaseline: Indefinite, Continued: from != nil}
	t := &tableRun{l: l, b: b, g: g, f: f, sp: sp, limit: sp.BlockLeft, inner: w - e.inlineEdges(), spans: map[*cell]*spanned{}}
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
		if outer != nil && b.Style.HoldsPositioned() {
			l.settle(outer, sp, from, rest)
		}
		return outer, rest
	}
	grid, rest := t.body(e, start, cut, 0)
	if grid != nil && b.Style.HoldsPositioned() {
		l.settle(grid, sp, from, rest)
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

// baseline finds that of the table: of its first row, which is where cells share one or
// else the lowest edge of what they hold (CSS 2.2, §17.5.3).
func (t *tableRun) baseline() {
	if len(t.cells) == 0 || len(t.placed) == 0 {
		return
	}
	first := t.placed[0]
	shared, lowest := Indefinite, Indefinite
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
	try := &tableRun{first: t.first, last: last, l: t.l, b: t.b, g: t.g, f: &Fragment{Box: t.b}, sp: t.sp, inner: t.inner, widths: t.widths, xs: t.xs, tall: t.tall, shares: t.shares, limit: inf, spans: map[*cell]*spanned{}}
	grp := t.g.groups[gi]
	for r := grp.first; r < grp.end; r++ {
		h, _ := try.row(r, nil, inf)
		try.y += h + t.g.spacing[1]
	}
	return try.y
}
