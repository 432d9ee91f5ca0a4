package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/style"
)

// stretchRow makes the stretched children of a row reach its end: one that has nothing
// left to set goes on beside a neighbour that does, and one that ends here is as tall as
// what the break has made of the row (Flexbox 1, §10; Grid 1, §10). The row was to end at
// bottom, off px further down than here, and has grown.
func (s *rowBreaks) stretchRow(row flowRow, off, bottom, growth float64) {
	if len(row.kids) < 2 || isColumn(s.b.Style) {
		return
	}
	from := inf // what was planned to end from here on goes on with a neighbour
	for _, k := range row.kids {
		if p := s.rest.placed[k.b]; p == nil || p.At != nil && !p.At.Ended && !p.At.tail {
			from = math.Min(from, k.end())
		}
	}
	if math.IsInf(from, 1) && growth == 0 {
		return
	}
	for _, k := range row.kids {
		end, goesOn := k.end()-off+growth, atMost(from, k.end())
		if goesOn {
			end = s.end
		}
		at, ok := s.laid[k]
		if p := s.rest.placed[k.b]; !ok || !p.Done || !s.stretches(k, bottom) || exceeds(at.y+at.f.H, end) {
			continue
		}
		f := at.f.renewed()
		f.H = end - at.y
		if f.Whole = 0; f.Continued {
			f.Whole = f.Before + f.H
		}
		if goesOn {
			f.Whole = 0
			f.Cut, f.Border[style.Bottom], f.Padding[style.Bottom] = true, 0, 0
			s.rest.placed[k.b] = &Part{At: &Break{tail: true, Used: f.Before + f.H}}
		}
		s.laid[k] = laidKid{f, at.y}
	}
}

// overhang is by how much a row that is all set reaches beyond the column, in which what cannot
// be cut is not sliced: what follows begins in the next one.
func (s *rowBreaks) overhang(row flowRow, off, bottom float64) float64 {
	goesOn := slices.ContainsFunc(row.kids, func(k *flowKid) bool { p := s.rest.placed[k.b]; return p == nil || !p.Done })
	if !s.sp.Column || !s.sp.cutting() || goesOn {
		return 0
	}
	return math.Max(bottom-off-s.end, 0)
}

// shrinkRow ends a row that a page cuts where its contents do, when breaks have taken more
// of it, margins for one, than they have added. It returns by how much the row is shorter
// than planned, as a negative number, or 0.
func (s *rowBreaks) shrinkRow(rows []flowRow, first, r int, off, bottom float64) float64 {
	if over := s.overhang(rows[r], off, bottom); over > 0 {
		return -over
	}
	if !s.byContent {
		return 0
	}
	end, cut := 0.0, s.resumed(rows[r])
	for _, k := range rows[r].kids {
		p, at := s.rest.placed[k.b], s.laid[k]
		switch {
		case p == nil || p.At != nil && (!p.At.bare || p.At.Penalty > noPenalty || at.f.own == 0 || exceeds(at.f.own, at.f.H)):
			return 0
		case at.f != nil && at.f.own > 0:
			cut = cut || p.At != nil
			end = math.Max(end, at.y+math.Min(at.f.own, at.f.H))
		case at.f != nil:
			end = math.Max(end, at.y+at.f.H)
		}
	}
	if !cut || end > bottom-off-0.5 || exceeds(end, s.end) || !contentHigh(rows, first, r, bottom) {
		return 0
	}
	for _, k := range rows[r].kids {
		if at := s.laid[k]; at.f != nil && (s.rest.placed[k.b].At != nil || exceeds(at.y+at.f.H, end)) {
			tall, begun := end-at.y, (*Break)(nil)
			if p := s.parts[k.b]; p != nil {
				tall, begun = tall+p.At.Used, p.At
			}
			f, rest := s.kidOf(k, at.y, 0, tall, begun)
			s.laid[k], s.rest.placed[k.b] = laidKid{f, at.y}, &Part{Done: rest == nil, At: rest}
		}
	}
	return end - (bottom - off)
}

// contentHigh tells whether row r, which is to end at bottom, has its height from the
// contents of its children, and stands clear of the rows around it; those before row first
// are on earlier pages.
func contentHigh(rows []flowRow, first, r int, bottom float64) bool {
	own := 0.0
	for _, k := range rows[r].kids {
		if r+1 < len(rows) && exceeds(k.end(), rows[r+1].y) {
			return false
		}
		h := k.f.H
		if k.f.own > 0 {
			h = k.f.own
		}
		own = math.Max(own, k.y+h)
	}
	if own < bottom-0.5 {
		return false
	}
	for _, above := range rows[first:r] {
		for _, k := range above.kids {
			if exceeds(k.y+k.f.H, rows[r].y) {
				return false
			}
		}
	}
	return true
}

// stretches tells whether a child is as tall as its row, which was to end at bottom.
func (s *rowBreaks) stretches(k *flowKid, bottom float64) bool {
	st := k.b.Style
	return st.Height.IsAuto() && atMost(bottom, k.y+k.f.H) && flexAlign(s.b.Style, st).Kind == style.Stretch
}

// tailOf is the part of a child that has nothing left to set.
func (k *flowKid) tailOf(used float64) *Fragment {
	f := &Fragment{Box: k.b, W: k.f.W, Border: k.f.Border, Padding: k.f.Padding, Baseline: Indefinite, LastBaseline: Indefinite, Continued: true, Before: used}
	f.Border[style.Top], f.Padding[style.Top] = 0, 0
	return f
}

// isColumn tells whether a flex container's lines run along the block axis.
func isColumn(s *style.Style) bool {
	return s.Display.Inner == style.Flex && (s.FlexDirection == style.Column || s.FlexDirection == style.ColumnReverse)
}
