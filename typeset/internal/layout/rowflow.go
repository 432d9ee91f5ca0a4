package layout

import (
	"math"
	"slices"
)

// rowFlow is one flow of rows while it is cut.
type rowFlow struct {
	rows  []flowRow
	first int     // the row to begin with
	used  float64 // where the page begins in the flow, px
	shift float64 // rows stand so much further down than planned
	stop  float64 // rows from here on stand below a child that goes on
	done  []int   // rows set here
	more  bool    // something is left

	growth, growsAt float64 // rows from growsAt on move on by growth
	spans           []rowShift
}

// rowShift has rows from at on stand at least so much further down than planned.
type rowShift struct{ at, by float64 }

// off is how far up what is measured from the flow's start stands on the page.
func (c *rowFlow) off() float64 { return c.used - c.shift }

// moveBefore moves what begins at y by what the rows above have grown.
func (c *rowFlow) moveBefore(y float64) {
	if atMost(c.growsAt, y) {
		c.shift, c.growth, c.growsAt = c.shift+c.growth, 0, inf
	}
	for _, span := range c.spans {
		if atMost(span.at, y) {
			c.shift = math.Max(c.shift, span.by)
		}
	}
}

// grow notes that a row that was planned to end at bottom has grown.
func (c *rowFlow) grow(grown, bottom float64) {
	if grown > c.growth || math.IsInf(c.growsAt, 1) {
		c.growth = grown
	}
	c.growsAt = math.Min(c.growsAt, bottom)
}

// flow cuts one flow of rows. It returns where the next page begins in it.
func (s *rowBreaks) flow(c *rowFlow) (next float64) {
	for r := c.first; r < len(c.rows); r++ {
		row := c.rows[r]
		if s.finished(row) {
			for _, k := range row.kids {
				s.rest.placed[k.b] = s.parts[k.b]
			}
			continue
		}
		c.moveBefore(row.y)
		resumed := s.resumed(row)
		if !resumed {
			y := row.y - c.off()
			if atMost(s.end, y) && s.nothingFrom(c, r) {
				s.stay(row)
				continue
			}
			if at, ends := s.endsBefore(c, r, y); ends {
				c.more = true
				return at
			}
		}
		grown, bottom, pushed := s.rowOf(c, r, resumed)
		if pushed && !resumed && !(s.sp.AtTop && len(c.done) == 0) {
			r = s.before(c, r)
			s.drop(c.rows[r])
			c.more = true
			return c.rows[r].y - s.topEdge
		}
		if !pushed && grown == 0 && math.IsInf(c.growsAt, 1) {
			grown = s.shrinkRow(c.rows, c.first, r, c.off(), bottom)
		}
		s.stretchRow(row, c.off(), bottom, grown)
		s.noteShifts(row, resumed, bottom, s.used-c.off(), grown)
		c.more = c.more || pushed
		s.stopBelow(c, row)
		for _, span := range s.spanned {
			c.spans = append(c.spans, rowShift{span.at, span.by + c.shift})
		}
		c.grow(grown, bottom)
		c.done = append(c.done, r)
	}
	next = c.used + s.end - c.shift
	c.moveBefore(inf)
	return next
}

// nothingFrom tells whether no row from row r on shows anything, and others stand on this page.
func (s *rowBreaks) nothingFrom(c *rowFlow, r int) bool {
	return len(c.done) > 0 && s.sp.cutting() && !slices.ContainsFunc(c.rows[r:], func(row flowRow) bool { return !row.isNothing() })
}

// rowOf sets row r. The first of a page breaks where it should not rather than leaving the page empty.
func (s *rowBreaks) rowOf(c *rowFlow, r int, resumed bool) (grown, bottom float64, pushed bool) {
	row, below := c.rows[r], inf
	if r+1 < len(c.rows) {
		below = c.rows[r+1].y
	}
	s.begins = len(c.done) == 0
	grown, bottom, pushed = s.row(row, below, c.off(), resumed)
	switch {
	case s.begins && s.sp.ForceProgress:
		if s.goesOnWhole(row) {
			grown, pushed = 0, true
		}
	case s.begins && s.sp.AtTop && !s.anyLaid(row):
		return s.mustRow(row, below, c.off(), resumed)
	}
	return grown, bottom, pushed
}

// stopBelow has rows wait that stand below a child which goes on.
func (s *rowBreaks) stopBelow(c *rowFlow, row flowRow) {
	for _, k := range row.kids {
		if p := s.rest.placed[k.b]; p != nil && p.At != nil && !p.At.Ended {
			c.stop, c.more = math.Min(c.stop, k.y+k.f.H), true
		}
	}
}

// endsBefore tells whether the page ends before row r, which is to stand at y, and from where on in the whole the next
// page goes on.
func (s *rowBreaks) endsBefore(c *rowFlow, r int, y float64) (at float64, ends bool) {
	row, pageEnd := c.rows[r], s.end+c.off()
	switch forced := s.forced(c.rows, r); {
	case atMost(c.stop, row.y):
		return pageEnd, true
	case forced != 0 && !(s.goesOn && atMost(y-s.marginBefore(row), s.topEdge)):
		s.rest.Forced = forced
		return row.y - s.marginBefore(row) - s.topEdge, true
	case atMost(s.end, y) && !(s.sp.AtTop && len(c.done) == 0):
		if next := s.before(c, r); next < r {
			return c.rows[next].y - s.topEdge, true
		}
		return pageEnd, true
	}
	return 0, false
}

// noteShifts notes where a row of a single flow stands, which has moved by shift, and where what
// stands below it goes.
func (s *rowBreaks) noteShifts(row flowRow, resumed bool, bottom, shift, grown float64) {
	if len(s.rest.starts) > 1 {
		return
	}
	if !resumed {
		s.shifts.note(row.y, shift)
	}
	s.shifts.note(bottom, shift+grown)
}

// stay keeps a row that shows nothing, nor does anything below it, on a page that has no
// room left: no page is made for it.
func (s *rowBreaks) stay(row flowRow) {
	for _, k := range row.kids {
		s.laid[k] = laidKid{k.f, s.end}
		s.rest.placed[k.b] = &Part{Done: true}
	}
}

// before breaks before row r, or a better one, and tells which.
func (s *rowBreaks) before(c *rowFlow, r int) int {
	r = s.backFrom(c.rows, r, c.done)
	if r > 0 {
		s.rest.Penalty = max(s.rest.Penalty, s.penalty(c.rows[r-1], c.rows[r]))
	}
	return r
}

// backFrom is the row to break before instead of row r, when that break is to
// be avoided: the nearest one before which no rule is broken.
func (s *rowBreaks) backFrom(rows []flowRow, r int, done []int) int {
	for i := len(done); i > 0; i-- {
		at := r
		if i < len(done) {
			at = done[i]
		}
		if s.resumed(rows[at]) {
			break
		}
		if s.penalty(rows[at-1], rows[at]) == 0 {
			for _, d := range done[i:] {
				s.drop(rows[d])
			}
			return at
		}
	}
	return r
}
