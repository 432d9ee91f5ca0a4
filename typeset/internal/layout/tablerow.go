package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

func (t *tableRun) cellSpace(c *cell, w float64) Space {
	sp := newSpace(t.inner, Indefinite) // percentages of its padding are of the table's width
	sp.FixedW = w
	sp.Cell = true
	sp.Page, sp.Column, sp.Nameless = t.sp.Page, t.sp.Column, t.sp.Nameless
	return sp
}

// rowRest tells that a row was cut.
type rowRest struct {
	parts   []*Part
	penalty Penalty // the worst that cutting the row costs
}

// layCell sets one cell with the border that the table gives it; nil when the row is
// not the first on its page and there is no room for the beginning of what it holds.
func (t *tableRun) layCell(c *cell, w, room float64, at *Break, in *cellRoom) (*Fragment, *Break) {
	sp := t.cellSpace(c, w)
	sp.BlockLeft, sp.AtTop = room, t.top || at != nil
	f, rest := t.l.cell(t.g, c, sp, at, in)
	if f == nil && sp.AtTop {
		sp.ForceProgress = true
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
	row := &t.g.rows[r]
	if row.box.Style.Visibility == style.CollapseSpace || !t.shown(r) {
		return -t.g.spacing[1], nil
	}
	s := t.beginRow(r, parts)
	for i := range row.cells {
		t.setCell(&s, &row.cells[i], i, room)
	}
	t.settleHeight(&s, r, room)
	t.placeCells(&s, row)
	t.placed = append(t.placed, placedRow{r, t.y, s.h})
	for c, span := range t.spans {
		if c.row+c.rows-1 == r && span.rest == nil {
			t.closeSpan(c, span, t.y+s.h-span.y)
		}
	}
	return s.h, s.rest()
}

// rowState is a row while its cells are set.
type rowState struct {
	parts       []*Part // that it goes on from; nil at its beginning
	frags       []*Fragment
	rests       []*Break
	memory      []cellRoom // how cells came out, for when the row is set once more
	h           float64
	used        float64 // height that earlier parts have
	base, below float64 // of the cells on the row's baseline: how far they reach over and below it
	cut         bool    // it goes on on the next page
	fits        bool    // each cell has set something in the room that is left
	penalty     Penalty // the worst that cutting it costs
}

// beginRow takes the height that the row asks for.
func (t *tableRun) beginRow(r int, parts []*Part) rowState {
	row := &t.g.rows[r]
	s := rowState{parts: parts, fits: true}
	if t.keepsRow(r) {
		s.penalty = avoidPenalty
	}
	s.frags, s.rests = t.scratch(len(row.cells))
	if parts != nil {
		s.used = t.used
	}
	if v := row.box.Style.Height.Resolve(Indefinite); known(v) {
		s.h = v - s.used
	}
	if v, ok := t.tall[r]; ok {
		s.h = math.Max(s.h, v-s.used)
	}
	if t.paged && !t.g.repeats(r) {
		s.memory = t.l.rowRoom(len(row.cells))
		row.room = s.memory
	}
	return s
}

// setCell sets cell number i of a row in the room that is left, or in any where nothing of it fits.
func (t *tableRun) setCell(s *rowState, c *cell, i int, room float64) {
	_, w := t.cellBox(c)
	var at *Break
	if s.parts != nil {
		if s.parts[i].Done {
			s.frags[i] = &Fragment{Box: c.box, W: w, Border: c.border, Baseline: Indefinite, LastBaseline: Indefinite, Continued: true}
			s.frags[i].Border[style.Top] = 0
			s.h = math.Max(s.h, t.cellHeight(c)-s.used)
			return
		}
		at = s.parts[i].At
	}
	var in *cellRoom
	if s.memory != nil {
		in = &s.memory[i]
	}
	frag, rest := t.layCell(c, w, room, at, in)
	if frag == nil {
		s.fits = false
		frag, rest = t.layCell(c, w, inf, at, in)
	}
	s.frags[i], s.rests[i] = frag, rest
	if rest != nil {
		s.cut = s.cut || c.rows == 1
		s.penalty = max(s.penalty, rest.Penalty)
	}
	if c.rows > 1 { // the rows beside it may still have room
		t.spans[c] = &spanned{frag: frag, y: t.y, need: math.Max(frag.H, t.cellHeight(c)), rest: rest}
		return
	}
	need := math.Max(frag.H, t.cellHeight(c)-s.used)
	s.h = math.Max(s.h, need)
	if b := cellBaseline(frag); known(b) && c.box.Style.VerticalAlign.Kind == style.Baseline {
		s.base = math.Max(s.base, b)
		s.below = math.Max(s.below, need-b)
	}
}

// settleHeight makes the row as tall as its cells, those that end in it, and its share of the table ask for; one that is
// cut takes no more than there is.
func (t *tableRun) settleHeight(s *rowState, r int, room float64) {
	s.h = math.Max(s.h, s.base+s.below)
	if v, ok := t.shares[r]; ok && !t.besideCut(r) {
		s.h = math.Max(s.h, v-s.used)
	}
	// cells that end in this row may need more, and go on with it
	for c, span := range t.spans {
		if c.row+c.rows-1 == r && !t.alone {
			s.h = math.Max(s.h, span.need-(t.y-span.y))
			s.cut = s.cut || span.rest != nil
		}
	}
	s.h = math.Max(s.h, t.groupRest(r))
	s.cut = s.cut || t.clip
	if s.cut && s.fits && !math.IsInf(room, 1) {
		s.h = math.Max(math.Min(s.h, room), 0)
	}
}

// placeCells aligns the cells of a row, and adds them to the table.
func (t *tableRun) placeCells(s *rowState, row *tableRow) {
	for i := range row.cells {
		c := &row.cells[i]
		x, _ := t.cellBox(c)
		f := s.frags[i]
		if c.rows == 1 {
			f = t.alignCell(c, f, s.h, s.base, s.cut)
			if s.cut && c.box.Style.BoxDecorationBreak != style.Clone {
				f.Border[style.Bottom], f.Padding[style.Bottom] = 0, 0
			}
		}
		if !t.g.collapse && c.box.Style.EmptyCells == style.Hide && len(f.Kids) == 0 {
			f.Hide = true
		}
		for k := c.col; k < c.col+c.cols; k++ {
			f.Clipped = f.Clipped || t.g.columns[k].collapsed
		}
		dx, dy := relative(c.box, t.f.W, Indefinite, isRTL(t.b))
		t.f.add(f, x, t.y, dx, dy)
		t.cells = append(t.cells, c)
	}
}

// rest is what goes on on the next page; nil when nothing does.
func (s *rowState) rest() *rowRest {
	if !s.cut {
		return nil
	}
	rest := &rowRest{penalty: s.penalty, parts: make([]*Part, len(s.rests))}
	for i, at := range s.rests {
		rest.parts[i] = &Part{Done: at == nil, At: at}
	}
	return rest
}

// scratch is room for the fragments of a row's cells and where they are cut, to be
// used again by the next row.
func (t *tableRun) scratch(n int) ([]*Fragment, []*Break) {
	t.frags, t.rests = slices.Grow(t.frags[:0], n)[:n], slices.Grow(t.rests[:0], n)[:n]
	clear(t.frags)
	clear(t.rests)
	return t.frags, t.rests
}

// alignCell makes a cell as tall as its row and moves its contents (CSS 2.2, §17.5.3). Where the row is cut, they stay at
// the top: its middle and its end are on other pages.
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
	align := c.box.Style.VerticalAlign.Kind
	if cut && (align == style.Middle || align == style.BottomSide) {
		align = style.TopSide
	}
	switch align {
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
	out := f.renewed()
	out.H = math.Max(h, 0)
	if moves {
		out.shiftContents(dy)
	}
	return out
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
	out := append([]outOfFlow(nil), f.out...)
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
