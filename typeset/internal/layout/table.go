package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// tableBreak is where a table goes on.
type tableBreak struct {
	row     int             // the row to go on with
	parts   []*Part         // the cells of that row, when it was cut
	spans   map[*cell]*Part // cells that reach down from rows above
	used    float64         // height of that row already set
	tall    map[int]float64 // heights of rows that a height of the table gives them
	shares  map[int]float64 // least heights that spanning cells give to rows
	empty   float64         // height still to come below all rows
	caption *captionBreak   // a caption is to go on with
	above   above           // what earlier parts hold
}

// tableWidth is the used border-box width of a table (CSS 2.2, §17.5.2).
func (l *Layout) tableWidth(b *box.Box, sp Space, e *edges) float64 {
	if known(sp.FixedW) {
		return sp.FixedW
	}
	g := l.gridOf(b)
	extra := l.tableEdges(b, g, sp.W)
	lo, hi := l.contentSizes(b)
	lo, hi = lo+extra, hi+extra
	avail := sp.W - e.margin[style.Left] - e.margin[style.Right]
	s := b.Style
	resolve := func(size style.Size) float64 {
		switch size.Kind {
		case style.Length:
			if v := size.Resolve(sp.W); known(v) {
				return borderBox(s, v, extra)
			}
		case style.MinContent:
			return lo
		case style.MaxContent: // of columns in percent, as browsers have it, without the room that they are percent of
			_, most := l.tableColumnSizes(b)
			return most + extra
		case style.FitContent:
			return math.Min(math.Max(lo, avail), hi)
		case style.Stretch:
			return avail
		}
		return Auto
	}
	w := resolve(s.Width)
	if !known(w) {
		w = math.Min(hi, avail)
	}
	if v := resolve(s.MaxWidth); known(v) {
		w = math.Min(w, v)
	}
	if v := resolve(s.MinWidth); known(v) {
		w = math.Max(w, v)
	}
	if s.TableLayout == style.FixedKey && known(s.Width.Resolve(sp.W)) { // it is as wide as its columns at least (CSS 2.2, §17.5.2.1)
		sum := extra + g.gaps()
		for _, v := range l.fixedColumns(b, g, w-sum) {
			sum += v
		}
		return math.Max(w, sum)
	}
	return math.Max(w, lo)
}

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

// spanned is a cell that reaches over several rows.
type spanned struct {
	frag *Fragment
	y    float64
	need float64
	rest *Break
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
		if outer != nil && contains(b) {
			l.settle(outer, sp)
		}
		return outer, rest
	}
	grid, rest := t.body(e, start, cut, 0)
	if grid != nil && contains(b) {
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
		atTop := t.sp.AtTop && (above == 0 || t.sp.Must) && t.y <= headEnd+0.01
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
		if t.b.Style.BreakInside == style.Avoid || t.b.Style.BreakInside == style.AvoidPage {
			rest.Appeal = max(rest.Appeal, 2)
		}
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
		if !grp.box.Style.Height.IsAuto() && known(grp.box.Style.Height.Resolve(Auto)) {
			return true
		}
	}
	s := t.b.Style
	if s.Height.IsAuto() && s.MinHeight.IsAuto() && !known(t.sp.FixedH) {
		return false
	}
	return known(t.l.definiteHeight(t.b, t.sp, &e))
}

// keepsRow tells whether a row is not to be cut.
func (t *tableRun) keepsRow(r int) bool {
	row := t.g.rows[r]
	return avoids(row.box.Style.BreakInside, t.sp.Column) || avoids(t.g.groups[row.group].box.Style.BreakInside, t.sp.Column)
}

// cutRow sets a row that is taller than the room for it though its cells' contents
// are not.
func (t *tableRun) cutRow(r int, parts []*Part, room float64) (float64, *rowRest) {
	t.clip = true
	h, rest := t.row(r, parts, room)
	t.clip = false
	return h, rest
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

type rowMark struct {
	row    int
	had    extent
	y      float64
	appeal int
	placed int
}

func (t *tableRun) undo(m rowMark) {
	t.f.backTo(m.had)
	t.cells = t.cells[:m.had.kids]
	t.placed = t.placed[:m.placed]
	t.y = m.y
	for c := range t.spans {
		if c.row >= m.row {
			delete(t.spans, c)
		}
	}
}

// pick finds the best row to break before, from the last one back.
func (t *tableRun) pick(marks []rowMark, start int) int {
	best, at := 99, -1
	for j := len(marks) - 1; j >= 0 && best > 0; j-- {
		if marks[j].row == start {
			break
		}
		if marks[j].appeal < best {
			best, at = marks[j].appeal, j
		}
	}
	return at
}

// rowAppeal is how bad a break before a row is: rules of break-before, -after
// and -inside, and cells that reach over the place.
func (t *tableRun) rowAppeal(r int) int {
	if r == 0 {
		return 0
	}
	a := boundary(t.l.after(t.g.rows[r-1].box), t.l.before(t.g.rows[r].box), t.sp.Column)
	g := t.g.groups[t.g.rows[r].group]
	if g.first == r {
		a = max(a, boundary(t.l.after(t.g.groups[t.g.rows[r-1].group].box), t.l.before(g.box), t.sp.Column))
		if t.g.head >= 0 && t.g.rows[r-1].group == t.g.head {
			a = max(a, 2) // a head does not stand alone
		}
	} else if avoids(g.box.Style.BreakInside, t.sp.Column) {
		a = 2
	}
	for c := range t.spans {
		if c.row < r && c.row+c.rows > r {
			a = max(a, 1)
		}
	}
	return a
}

func (t *tableRun) forcedRow(r int) style.Keyword {
	prev, next := t.g.rows[r-1], t.g.rows[r]
	if prev.group != next.group {
		if k := t.l.forced(t.g.groups[prev.group].box, t.g.groups[next.group].box, t.sp.Column); k != 0 {
			return k
		}
	}
	return t.l.forced(prev.box, next.box, t.sp.Column)
}

// breakAt is the break before row r, or inside it; cells that reach over it
// are cut.
func (t *tableRun) breakAt(r int, parts []*Part) *tableBreak {
	b := &tableBreak{row: r, parts: parts, spans: map[*cell]*Part{}}
	for c, s := range t.spans {
		if c.row < r && c.row+c.rows > r {
			b.spans[c] = &Part{Done: s.rest == nil, At: s.rest}
		}
	}
	return b
}

// carry goes on with a cell that began on an earlier page.
func (t *tableRun) carry(c *cell, p *Part) {
	x, w := t.cellBox(c)
	f := &Fragment{Box: c.box, W: w, Baseline: Auto, LastBaseline: Auto, Continued: true}
	s := &spanned{frag: f, y: t.y}
	if !p.Done {
		sp := t.cellSpace(c, w)
		sp.Left = math.Max(t.limit-t.y, 1)
		sp.AtTop = true
		frag, rest := t.l.Lay(c.box, sp, p.At)
		if frag != nil {
			s.frag, s.rest = frag, rest
		}
	} else {
		f.Border = c.border
		f.Border[style.Top] = 0
	}
	s.need = s.frag.H
	t.spans[c] = s
	t.f.add(s.frag, x, t.y, 0, 0)
	t.cells = append(t.cells, c)
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

func (t *tableRun) cellSpace(c *cell, w float64) Space {
	sp := newSpace(t.inner, Auto) // percentages of its padding are of the table's width
	sp.FixedW = w
	sp.Cell = true
	sp.Page, sp.Column = t.sp.Page, t.sp.Column
	return sp
}

// rowRest tells that a row was cut.
type rowRest struct {
	parts []*Part
	avoid bool
}

// layCell sets one cell with the border that the table gives it; nil when the row is
// not the first on its page and there is no room for the beginning of what it holds.
func (t *tableRun) layCell(c *cell, w, room float64, at *Break, in *cellRoom) (*Fragment, *Break) {
	sp := t.cellSpace(c, w)
	sp.Left, sp.AtTop = room, t.top || at != nil
	f, rest := t.l.cell(t.g, c, sp, at, in)
	if f == nil && sp.AtTop {
		sp.Must = true
		return t.l.cell(t.g, c, sp, at, in)
	}
	return f, rest
}

// cell sets the contents of a table cell at the top; vertical-align moves them
// later.
func (l *Layout) cell(g *tableGrid, c *cell, sp Space, at *Break, in *cellRoom) (*Fragment, *Break) {
	b := c.box
	if at == nil {
		if f := l.plainCell(b, c.border, sp, in); f != nil {
			return f, nil
		}
	}
	own := [4]float64{b.Style.Border[0].Width, b.Style.Border[1].Width, b.Style.Border[2].Width, b.Style.Border[3].Width}
	if c.border == own && b.Style.Height.IsAuto() && b.Style.MinHeight.IsAuto() && b.Style.MaxHeight.Kind == style.None && b.Style.Width.IsAuto() {
		return l.Lay(b, sp, at)
	}
	if c.laid == nil {
		x := *b
		x.Style = l.cellStyle(g, b.Style, c.border)
		c.laid = &x
	}
	return l.Lay(c.laid, sp, at)
}

// cellStyle is a cell's style with the borders that the table has resolved, and
// without the height, which belongs to the row. Cells that look the same share
// it.
func (l *Layout) cellStyle(g *tableGrid, of *style.Style, border [4]float64) *style.Style {
	key := cellLook{of, border}
	if s := g.styles[key]; s != nil {
		return s
	}
	look := l.Styles.Variant(of, bordered(border), func() *style.Style {
		s := *of
		for i := range 4 {
			s.Border[i].Width = border[i]
		}
		s.Height = style.Size{Kind: style.Auto}
		s.MinHeight = style.Size{Kind: style.Auto}
		s.MaxHeight = style.Size{Kind: style.None}
		return &s
	})
	if g.styles == nil {
		g.styles = map[cellLook]*style.Style{}
	}
	g.styles[key] = look
	return look
}

// row sets one row at t.y and returns its height. What does not fit in room is
// returned to go on with.
func (t *tableRun) row(r int, parts []*Part, room float64) (float64, *rowRest) {
	g := t.g
	row := &g.rows[r]
	rs := row.box.Style
	if rs.Visibility == style.CollapseSpace || !t.shown(r) {
		return -g.spacing[1], nil
	}
	frags, rests := t.scratch(len(row.cells))
	h, used := 0.0, 0.0 // used is the height that earlier parts have
	if parts != nil {
		used = t.used
	}
	if v := rs.Height.Resolve(Auto); known(v) {
		h = v - used
	}
	if v, ok := t.tall[r]; ok {
		h = math.Max(h, v-used)
	}
	if v, ok := t.shares[r]; ok {
		h = math.Max(h, v-used)
	}
	var memory []cellRoom
	if t.paged && row.group != g.head && row.group != g.foot {
		memory = t.l.rowRoom(len(row.cells))
		row.room = memory
	}
	cut, fits := false, true
	base, below := 0.0, 0.0
	avoid := t.keepsRow(r)
	for i := range row.cells {
		c := &row.cells[i]
		_, w := t.cellBox(c)
		var at *Break
		if parts != nil {
			if parts[i].Done {
				frags[i] = &Fragment{Box: c.box, W: w, Border: c.border, Baseline: Auto, LastBaseline: Auto, Continued: true}
				frags[i].Border[style.Top] = 0
				h = math.Max(h, t.cellHeight(c)-used)
				continue
			}
			at = parts[i].At
		}
		var in *cellRoom
		if memory != nil {
			in = &memory[i]
		}
		frag, rest := t.layCell(c, w, room, at, in)
		if frag == nil {
			fits = false
			frag, rest = t.layCell(c, w, inf, at, in)
		}
		frags[i], rests[i] = frag, rest
		if rest != nil {
			cut = true
			avoid = avoid || rest.Appeal >= 2
		}
		if c.rows > 1 {
			t.spans[c] = &spanned{frag: frag, y: t.y, need: math.Max(frag.H, t.cellHeight(c)), rest: rest}
			continue
		}
		need := math.Max(frag.H, t.cellHeight(c)-used)
		h = math.Max(h, need)
		if b := cellBaseline(frag); known(b) && c.box.Style.VerticalAlign.Kind == style.Baseline {
			base = math.Max(base, b)
			below = math.Max(below, need-b)
		}
	}
	h = math.Max(h, base+below)
	// cells that end in this row may need more
	for c, s := range t.spans {
		if c.row+c.rows-1 == r && !t.alone {
			h = math.Max(h, s.need-(t.y-s.y))
		}
	}
	h = math.Max(h, t.groupRest(r))
	cut = cut || t.clip
	if cut && fits && !math.IsInf(room, 1) {
		h = math.Max(math.Min(h, room), 0)
	}
	for i := range row.cells {
		c := &row.cells[i]
		x, _ := t.cellBox(c)
		f := frags[i]
		if c.rows == 1 {
			f = t.alignCell(c, f, h, base, rests[i] != nil)
			if cut && c.box.Style.BoxDecorationBreak != style.Clone {
				f.Border[style.Bottom], f.Padding[style.Bottom] = 0, 0
			}
		}
		if !g.collapse && c.box.Style.EmptyCells == style.Hide && len(f.Kids) == 0 {
			f.Hide = true
		}
		for k := c.col; k < c.col+c.cols; k++ {
			f.Clipped = f.Clipped || g.columns[k].collapsed
		}
		dx, dy := relative(c.box, t.f.W, Auto, isRTL(t.b))
		t.f.add(f, x, t.y, dx, dy)
		t.cells = append(t.cells, c)
	}
	t.placed = append(t.placed, placedRow{r, t.y, h})
	for c, s := range t.spans {
		if c.row+c.rows-1 == r {
			t.closeSpan(c, s, t.y+h-s.y)
		}
	}
	if !cut {
		return h, nil
	}
	rest := &rowRest{avoid: avoid, parts: make([]*Part, len(row.cells))}
	for i := range row.cells {
		rest.parts[i] = &Part{Done: rests[i] == nil, At: rests[i]}
	}
	return h, rest
}

// scratch is room for the fragments of a row's cells and where they are cut, to be
// used again by the next row.
func (t *tableRun) scratch(n int) ([]*Fragment, []*Break) {
	t.frags, t.rests = slices.Grow(t.frags[:0], n)[:n], slices.Grow(t.rests[:0], n)[:n]
	clear(t.frags)
	clear(t.rests)
	return t.frags, t.rests
}

// groupRest is what the last row of a group must fill so that the group has the
// height its style asks for.
func (t *tableRun) groupRest(r int) float64 {
	grp := t.g.groups[t.g.rows[r].group]
	want := grp.box.Style.Height.Resolve(Auto)
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
	if v := s.Height.Resolve(Auto); known(v) {
		return borderBox(s, v, extra)
	}
	return 0
}

// alignCell makes a cell as tall as its row and moves its contents
// (CSS 2.2, §17.5.3).
func (t *tableRun) alignCell(c *cell, f *Fragment, h, base float64, cut bool) *Fragment {
	free := h - f.H
	if hasPercentHeight(c.box) && t.givesHeight(c) && !cut && !f.Continued && (h > 0 || t.cellHeight(c) > 0) { // children in percent of the height
		sp := t.cellSpace(c, f.W)
		sp.FixedH = h
		if again, _ := t.l.cell(t.g, c, sp, nil, nil); again != nil && (again.H > f.H || free > 0) {
			bottom := 0.0
			for _, k := range again.Kids {
				bottom = math.Max(bottom, k.Y+k.F.H)
			}
			f, free = again, math.Max(h-bottom-again.Border[style.Bottom]-again.Padding[style.Bottom], 0)
		}
	}
	dy := 0.0
	switch c.box.Style.VerticalAlign.Kind {
	case style.Middle:
		dy = free / 2
	case style.BottomSide:
		dy = free
	case style.TopSide:
	default:
		if b := cellBaseline(f); known(b) && base > b {
			dy = base - b
		}
	}
	moves := dy > 0 && !f.Continued
	if !moves && f.H == h {
		return f
	}
	out := *f
	out.H = math.Max(h, 0)
	if moves {
		out.shiftContents(dy)
	}
	return &out
}

// cellBaseline is the baseline of a cell: that of its first line, or where what it
// holds ends (CSS 2.2, §17.5.3). A cell without contents has none.
func cellBaseline(f *Fragment) float64 {
	if known(f.Baseline) || len(f.Kids) == 0 {
		return f.Baseline
	}
	return math.Max(f.H-f.Border[style.Bottom]-f.Padding[style.Bottom], 0)
}

// givesHeight tells whether children in percent of a cell's height have one to go
// by: that of the cell or the table, as browsers have it.
func (t *tableRun) givesHeight(c *cell) bool {
	if h := c.box.Style.Height; h.Kind == style.Length && !h.HasPct() {
		return true
	}
	e := t.l.edges(t.b, t.sp.W)
	return known(t.l.definiteHeight(t.b, t.sp, &e))
}

func (f *Fragment) shiftContents(dy float64) {
	kids := make([]Kid, len(f.Kids))
	copy(kids, f.Kids)
	for i := range kids {
		kids[i].Y += dy
	}
	f.Kids = kids
	out := append([]waiting(nil), f.out...)
	for i := range out {
		out[i].y += dy
	}
	f.out = out
	f.Baseline += dy
	f.LastBaseline += dy
}

func hasPercentHeight(b *box.Box) bool {
	pct := func(s style.Size) bool { return s.Kind == style.Length && s.HasPct() }
	for _, c := range b.Children {
		if c.Kind == box.Text || c.Kind == box.LineBreak {
			continue
		}
		if s := c.Style; pct(s.Height) || pct(s.MinHeight) || pct(s.MaxHeight) {
			return true
		}
		flat := c.Anon || c.Style.Display.Outer == style.Inline && c.Style.Display.Inner == style.Flow // its children look past it
		if c.Kind == box.Element && flat && hasPercentHeight(c) {
			return true
		}
	}
	return false
}

// closeSpan gives a spanning cell its height.
func (t *tableRun) closeSpan(c *cell, s *spanned, h float64) {
	delete(t.spans, c)
	for i := range t.f.Kids {
		if t.f.Kids[i].F == s.frag {
			t.f.Kids[i].F = t.alignCell(c, s.frag, h, 0, s.rest != nil)
			return
		}
	}
}

// finishSpans closes the cells that reach below the last row set here.
func (t *tableRun) finishSpans() {
	for c, s := range t.spans {
		end := t.y
		if n := len(t.placed); n > 0 {
			end = t.placed[n-1].y + t.placed[n-1].h
		}
		t.closeSpan(c, s, math.Max(end-s.y, 0))
	}
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
	sp := t.sp
	want := t.l.definiteHeight(t.b, sp, &e)
	if v := t.b.Style.MinHeight.Resolve(sp.H); known(v) && (!known(want) || want < v) {
		want = borderBox(t.b.Style, v, e.blockEdges())
	}
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
