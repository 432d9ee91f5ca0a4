package layout

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"oliveledger/typeset/internal/style"
)

// tableBody is the rows of a table in one page or column.
type tableBody struct {
	*tableRun
	e         edges
	cut       *tableBreak // where an earlier part was cut, or nil
	above     float64     // height of a caption above
	cutting   bool
	open      bool    // the table has no edges of its own where it is cut
	edge      float64 // what must follow the last row
	dropsEdge bool    // the lower edge ends with the page, as nothing is seen of it
	first     int     // row after the head
	end       int     // row after the last one that is not in a repeated foot
	headEnd   float64
	marks     []rowMark // of the rows set here
	rest      *Break
}

// body sets the rows that fit.
func (t *tableRun) body(e edges, start int, cut *tableBreak, above float64) (*Fragment, *Break) {
	b := &tableBody{tableRun: t, e: e, cut: cut, above: above, cutting: t.sp.cutting()}
	b.begin(start)
	b.repeatHead(start)
	b.holdFoot()
	if !b.setRows(start) {
		return nil, nil
	}
	b.setFoot(start)
	b.finish()
	return t.f, b.rest
}

// begin works out where the rows begin and end.
func (b *tableBody) begin(start int) {
	t, g, f, cut := b.tableRun, b.g, b.f, b.cut
	t.paged = b.cutting && !t.sp.Column && g.long()
	t.limit = t.sp.BlockLeft - b.above
	b.open = !g.collapse && t.b.Style.BoxDecorationBreak != style.Clone
	if g.collapse {
		t.limit -= b.e.bottom()
	} else if b.edge = g.spacing[1] + b.e.bottom(); !b.open {
		t.limit -= b.e.bottom()
		b.edge = g.spacing[1]
	}
	if b.dropsEdge = b.open && dropsEdge(t.b, &b.e, &t.sp); b.dropsEdge {
		b.edge = 0
	}
	if cut != nil {
		t.used, t.tall, t.shares, t.above, t.start = cut.used, cut.tall, cut.shares, cut.above, start
	} else {
		t.shares = t.spanShares()
		if b.cutting {
			t.tall = t.tallRows(b.e)
		}
	}
	t.y = b.e.top()
	if cut != nil && b.open {
		f.Border[style.Top], f.Padding[style.Top] = 0, 0
		t.y = 0
	}
	if g.collapse && cut != nil {
		t.y = g.edge[style.Top]
	}
	if cut == nil || !b.open && !g.collapse && cut.parts == nil { // where a break is, there is no gutter (Box Alignment 3, §8.1)
		t.y += g.spacing[1]
	}
	if len(g.rows) == 0 && cut == nil {
		t.y = b.e.top()
	}
	b.first, b.end = 0, len(g.rows)
	if b.cutting && g.foot >= 0 {
		b.end = g.groups[g.foot].first
	}
	if g.head >= 0 {
		b.first = g.groups[g.head].end
	}
	t.first = cut == nil
	t.showSums(g.head, min(start, len(g.rows)), min(start, len(g.rows)))
}

// repeatHead sets the head again where the table goes on, unless that is too tall.
func (b *tableBody) repeatHead(start int) {
	t := b.tableRun
	if b.cut != nil && b.g.head >= 0 && start >= b.first && t.sp.Page > 0 && t.headHeight() < t.sp.Page/2 {
		had := len(t.f.out)
		for r := range b.first {
			h, _ := t.row(r, nil, inf)
			t.y += h + b.g.spacing[1]
		}
		t.f.standsElsewhere(had)
	}
	b.headEnd = t.y
}

// holdFoot keeps room for the foot, which stands on every page unless it is too tall.
func (b *tableBody) holdFoot() {
	if !b.cutting || b.g.foot < 0 || b.end >= len(b.g.rows) {
		return
	}
	h := math.Max(b.groupHeight(b.g.foot, true), b.groupHeight(b.g.foot, false))
	if h > b.sp.Page/2 {
		b.end = len(b.g.rows)
		return
	}
	b.limit -= h
}

// setRows sets rows from start on as far as they fit, and tells whether any do.
func (b *tableBody) setRows(start int) bool {
	t := b.tableRun
	if b.cut != nil {
		for _, c := range slices.SortedFunc(maps.Keys(b.cut.spans), func(c, d *cell) int { return cmp.Or(c.row-d.row, c.col-d.col) }) {
			t.carry(c, b.cut.spans[c])
		}
	}
	t.makeRoom(b.g.part)
	b.marks = make([]rowMark, 0, b.g.part.rows+1)
	for r := start; r < b.end && b.rest == nil; r++ {
		if b.cutting && len(b.marks) > 0 && r > b.first {
			if k := t.forcedRow(r); k != 0 {
				b.rest = &Break{table: t.breakAt(r, nil), Forced: k}
				break
			}
		}
		if !b.setRow(r, start) {
			return false
		}
		if b.rest == nil && r+1 < len(b.g.rows) {
			t.y += b.g.spacing[1]
		}
	}
	return true
}

// setRow sets one row, or as much of it as fits, or breaks before it or an earlier one. It
// tells whether anything fits.
func (b *tableBody) setRow(r, start int) bool {
	t := b.tableRun
	b.marks = append(b.marks, rowMark{r, t.f.extent(), t.y, t.rowPenalty(r), len(t.placed)})
	var parts []*Part
	if b.cut != nil && r == start {
		parts = b.cut.parts
	}
	room := t.limit - t.y
	belowHead := b.cut == nil && r == b.first && r > 0
	t.top = t.sp.AtTop && (b.above == 0 || t.sp.ForceProgress) && (atMost(t.y, b.headEnd) || belowHead && t.sp.ForceProgress)
	atTop := t.top
	h, rowRest := t.row(r, parts, room)
	if b.cutting && rowRest == nil && exceeds(t.y+h, t.limit) && (atTop || h > t.sp.Page || parts != nil) && !t.keepsRow(r) {
		t.undo(b.marks[len(b.marks)-1])
		h, rowRest = t.cutRow(r, parts, room)
	}
	over := exceeds(t.y+h, t.limit)
	last := r == b.end-1 && rowRest == nil && exceeds(t.y+h+b.edge, t.limit) // with what must follow it
	if b.cutting && !atTop && (over || last || rowRest != nil && rowRest.penalty > noPenalty) {
		if done, fits := b.breakAbove(over, start); done {
			return fits
		}
	}
	if b.cutting && last && !over {
		h, rowRest = b.holdEdge(r, parts, room, h)
	}
	t.y += h
	if rowRest != nil {
		if atTop && !t.sp.Column {
			t.l.Tell("row-tall", "a row of a table is taller than its page and goes on over the next", b.g.rows[r].box)
		}
		b.rest = &Break{table: t.breakAt(r, rowRest.parts), Penalty: rowRest.penalty}
		b.rest.table.used = h
		if r == start {
			b.rest.table.used += t.used
		}
	}
	return true
}

// holdEdge sets the last row again, of height h, so that the last of what it holds goes on together with what must
// follow the row, for which no room is left (CSS Break 4, §4.1). The row stays whole when there is no good place to cut it.
func (b *tableBody) holdEdge(r int, parts []*Part, room, h float64) (float64, *rowRest) {
	t, mark := b.tableRun, b.marks[len(b.marks)-1]
	if t.keepsRow(r) || room <= b.edge {
		return h, nil
	}
	cells := t.f.Kids[mark.had.kids:]
	var rest *rowRest
	if t.l.hold([]float64{room - b.edge, seenOf(cells, false) - t.y, seenOf(cells, true) - t.y}, func(end float64) bool {
		t.undo(mark)
		h, rest = t.row(r, parts, math.Min(room-b.edge, end-0.02))
		return rest != nil && rest.penalty == noPenalty && h > 0
	}) {
		return h, rest
	}
	t.undo(mark)
	return t.row(r, parts, room)
}

// breakAbove breaks before the row that was set last, or before an earlier one, and tells
// whether it did, or else whether that shows that nothing fits; over says that the row
// reaches beyond the page.
func (b *tableBody) breakAbove(over bool, start int) (done, fits bool) {
	t := b.tableRun
	at := t.pick(b.marks, start)
	if at < 0 {
		if (!t.sp.AtTop || b.above > 0) && over {
			return true, false
		}
		at = 0
		if over {
			at = len(b.marks) - 1
		}
	}
	if at == 0 {
		return false, true
	}
	m := b.marks[at]
	if b.cut == nil && m.row == b.first && !t.sp.ForceProgress { // a head does not stand alone
		return true, false
	}
	t.undo(m)
	t.y -= b.g.spacing[1] // none stands before a break
	b.rest = &Break{table: t.breakAt(m.row, nil), Penalty: m.penalty}
	return true, true
}

// setFoot sets the foot, which stands on every page.
func (b *tableBody) setFoot(start int) {
	t, g := b.tableRun, b.g
	if b.end >= len(g.rows) {
		return
	}
	t.last = b.rest == nil
	end := b.end
	if b.rest != nil {
		end = b.rest.table.row
		t.y += g.spacing[1]
	}
	t.showSums(g.foot, start, end)
	had := len(t.f.out)
	for r := b.end; r < len(g.rows); r++ {
		h, _ := t.row(r, nil, inf)
		t.y += h
		if r+1 < len(g.rows) {
			t.y += g.spacing[1]
		}
	}
	if !t.last {
		t.f.standsElsewhere(had)
	}
}

// standsElsewhere takes back what waits in f since it held had boxes: a repeated head or foot does
// not contain it, so that it stands on paper once. Fixed boxes are on every page anyway.
func (f *Fragment) standsElsewhere(had int) {
	later := slices.DeleteFunc(slices.Clone(f.out[had:]), func(w outOfFlow) bool { return !repeats(w.b) })
	f.out = append(f.out[:had], later...)
}

// finish gives the part its height, and says where the next one goes on.
func (b *tableBody) finish() {
	t, g, f, cut := b.tableRun, b.g, b.f, b.cut
	t.finishSpans()
	last := t.y
	if len(g.rows) > 0 && b.rest == nil {
		t.y += g.spacing[1]
	}
	if t.tall == nil {
		t.stretch(b.e, b.rest)
	}
	t.baseline()
	if b.rest != nil && b.open {
		f.Border[style.Bottom], f.Padding[style.Bottom] = 0, 0
	}
	f.H = math.Max(t.y+f.Border[style.Bottom]+f.Padding[style.Bottom], 0)
	end := t.sp.BlockLeft - b.above
	if b.dropsEdge && b.cutting && b.rest == nil && end > 0 && len(g.rows) > 0 {
		f.H = math.Min(f.H, math.Max(end, last))
	}
	if len(g.rows) == 0 && cut != nil {
		f.H = cut.empty
	}
	if b.rest == nil && b.cutting && len(g.rows) == 0 && exceeds(f.H, end) && end > 0 {
		b.rest = &Break{table: &tableBreak{empty: f.H - end}}
		f.H = end
	}
	if b.rest != nil {
		f.Cut = true
		b.rest.table.tall, b.rest.table.shares = t.tall, t.shares
		b.rest.table.above = t.after(b.rest.table)
		b.rest.rule(avoids(t.b.Style.BreakInside, t.sp.Column))
	}
	if b.rest == nil && cut == nil && known(t.sp.FixedH) {
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
	if b.rest != nil && b.cutting {
		f.H = math.Max(f.H, end)
	}
}
