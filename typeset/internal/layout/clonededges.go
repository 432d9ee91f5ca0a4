package layout

import (
	"slices"

	"oliveledger/typeset/internal/style"
)

// Inline boxes with box-decoration-break: clone have their edges on each line that they stand on (CSS Break 4, §5.4),
// which a line has to hold beside its units: those of boxes that come from the line before, where it begins, and those of
// boxes that go on, where it ends.

// clonedBefore is the width of the edges that a line has before its first unit.
func (st *lineState) clonedBefore(first *unit) float64 {
	return st.cloned(first, false, func(in *inlineBox) bool { return first.noOpen || !slices.Contains(first.opens, in) })
}

// clonedAfter is the width of the edges that a line has after its last unit.
func (st *lineState) clonedAfter(last *unit) float64 {
	return st.cloned(last, true, func(in *inlineBox) bool { return last.noClose || !slices.Contains(last.closes, in) })
}

// cloned sums the edges at one end of the boxes with edges on each line that a unit stands in, as far as they go on there.
func (st *lineState) cloned(u *unit, end bool, goesOn func(*inlineBox) bool) (w float64) {
	if !st.p.clones {
		return 0
	}
	for in := u.in; in != nil; in = in.up {
		if in.box.Style.BoxDecorationBreak == style.Clone && goesOn(in) {
			w += st.l.edge(in, st.in.w, end)
		}
	}
	return w
}
