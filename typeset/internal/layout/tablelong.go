package layout

import "oliveledger/typeset/internal/box"

// longTable is from how many rows on a table keeps little of what it has worked
// out for its cells: memory weighs more then than shaping the text twice.
const longTable = 5000

func (g *tableGrid) long() bool { return len(g.rows) > longTable }

// inAll does something to a box and all in it.
func inAll(b *box.Box, do func(*box.Box)) {
	do(b)
	for _, c := range b.Children {
		inAll(c, do)
	}
}

// forgetText drops the prepared text of a box; its sizes stay known, but for those of
// plain text, which are soon found again.
func forgetText(b *box.Box) {
	m, ok := b.Memo.(*memo)
	switch {
	case ok && m.plain != nil:
		b.Memo = nil
	case ok:
		m.para, m.plainKnown = nil, false
	}
}

// release forgets what was worked out for the rows before start, which stand on
// pages that are done.
func (g *tableGrid) release(start int) {
	if !g.long() {
		return
	}
	for r := g.released; r < start; r++ {
		if g.rows[r].group == g.head {
			continue
		}
		for i := range g.rows[r].cells {
			c := &g.rows[r].cells[i]
			c.laid = nil
			inAll(c.box, forget)
		}
	}
	g.released = max(g.released, start)
}

func forget(b *box.Box) { b.Memo = nil }

// Written tells that the pages before a break are written for good, and that nothing
// on them is shown again: long tables let go of the boxes in the rows that stand
// there, and use the memory of their cells again.
func (l *Layout) Written(b *box.Box, at *Break) {
	for at != nil && at.table == nil && at.Child < len(b.Children) {
		b, at = b.Children[at.Child], at.Inner
	}
	if at == nil || at.table == nil || at.table.caption != nil {
		return
	}
	m, ok := b.Memo.(*memo)
	if !ok || m.table == nil || !m.table.long() {
		return
	}
	g := m.table
	g.edges.free, g.edges.last = g.edges.last[:0], nil
	for ; g.written < at.table.row; g.written++ {
		if row := &g.rows[g.written]; !g.repeats(g.written) {
			if room := g.letGo(row); room != nil {
				l.written = append(l.written, room)
			}
		}
	}
}

// letGo drops the boxes of a row and gives the memory of its cells. One box that its
// group shares stays in their place: later rows look at how earlier ones end.
func (g *tableGrid) letGo(row *tableRow) (room []cellRoom) {
	for i := range row.cells {
		if row.cells[i].rows > 1 { // it reaches into rows that are not written
			return nil
		}
	}
	grp := &g.groups[row.group]
	if grp.gone == nil || grp.gone.Style != row.box.Style {
		grp.gone = &box.Box{Style: row.box.Style}
	}
	for kids := grp.box.Children; grp.kept < len(kids); grp.kept++ {
		if kids[grp.kept] == row.box {
			kids[grp.kept] = grp.gone
			break
		}
	}
	empty(row.box)
	room = row.room
	row.box, row.cells, row.room = grp.gone, nil, nil
	return room
}

// empty takes a box and all in it apart. Boxes share pieces of memory: one that is
// kept would keep what its neighbours hold.
func empty(b *box.Box) {
	for _, c := range b.Children {
		empty(c)
	}
	b.Children, b.Memo = nil, nil
}
