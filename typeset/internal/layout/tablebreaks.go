package layout

import (
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
	room    float64         // beside floats, in a containing block of width of; 0 where there are none
	of      float64
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

type rowMark struct {
	row     int
	had     extent
	y       float64
	penalty Penalty
	placed  int
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
	best, at := worstPenalty, -1
	for j := len(marks) - 1; j >= 0 && best > noPenalty; j-- {
		if marks[j].row == start {
			break
		}
		if marks[j].penalty < best {
			best, at = marks[j].penalty, j
		}
	}
	return at
}

// rowPenalty is how bad a break before a row is: rules of break-before, -after
// and -inside, and cells that reach over the place.
func (t *tableRun) rowPenalty(r int) Penalty {
	if r == 0 {
		return noPenalty
	}
	a := boundary(t.l.after(t.g.rows[r-1].box), t.l.before(t.g.rows[r].box), t.sp.Column)
	g := t.g.groups[t.g.rows[r].group]
	if g.first == r {
		a = max(a, boundary(t.l.after(t.g.groups[t.g.rows[r-1].group].box), t.l.before(g.box), t.sp.Column))
		if t.g.head >= 0 && t.g.rows[r-1].group == t.g.head {
			a = max(a, avoidPenalty) // a head does not stand alone
		}
	} else if avoids(g.box.Style.BreakInside, t.sp.Column) {
		a = avoidPenalty
	}
	for c := range t.spans {
		if c.row < r && c.row+c.rows > r {
			a = max(a, linesPenalty)
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
