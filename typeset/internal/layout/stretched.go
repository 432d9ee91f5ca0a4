package layout

import (
	"slices"

	"oliveledger/typeset/internal/style"
)

// stretchRow makes the stretched children of a row reach its end: one that has nothing
// left to set goes on beside a neighbour that does, and one that ends here is as tall as
// what the break has made of the row (Flexbox 1, §10; Grid 1, §10). The row was to end at
// bottom, off px further down than here, and has grown.
func (s *sideways) stretchRow(row flowRow, off, bottom, growth float64) {
	if len(row.kids) < 2 || isColumn(s.b.Style) {
		return
	}
	goesOn := slices.ContainsFunc(row.kids, func(k *flowKid) bool {
		p := s.rest.placed[k.b]
		return p == nil || p.At != nil && !p.At.Ended && !p.At.tail
	})
	if !goesOn && growth == 0 {
		return
	}
	end := bottom - off + growth
	if goesOn {
		end = s.end
	}
	for _, k := range row.kids {
		at, ok := s.laid[k]
		if p := s.rest.placed[k.b]; !ok || !p.Done || !s.stretches(k, bottom) || at.y+at.f.H > end+0.01 {
			continue
		}
		f := *at.f
		f.H = end - at.y
		if f.Whole = 0; f.Continued {
			f.Whole = f.Before + f.H
		}
		if goesOn {
			f.Whole = 0
			f.Cut, f.Border[style.Bottom], f.Padding[style.Bottom] = true, 0, 0
			s.rest.placed[k.b] = &Part{At: &Break{tail: true, Used: f.Before + f.H}}
		}
		s.laid[k] = laidKid{&f, at.y}
	}
}

// stretches tells whether a child is as tall as its row, which was to end at bottom.
func (s *sideways) stretches(k *flowKid, bottom float64) bool {
	st := k.b.Style
	return st.Height.IsAuto() && k.y+k.f.H > bottom-0.01 && flexAlign(s.b.Style, st).Kind == style.Stretch
}

// tailOf is the part of a child that has nothing left to set.
func (k *flowKid) tailOf(used float64) *Fragment {
	f := &Fragment{Box: k.b, W: k.f.W, Border: k.f.Border, Padding: k.f.Padding, Baseline: Auto, LastBaseline: Auto, Continued: true, Before: used}
	f.Border[style.Top], f.Padding[style.Top] = 0, 0
	return f
}

// isColumn tells whether a flex container's lines run along the block axis.
func isColumn(s *style.Style) bool {
	return s.Display.Inner == style.Flex && (s.FlexDirection == style.Column || s.FlexDirection == style.ColumnReverse)
}
