package layout

import (
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// textTrim tells at which sides the lines of a box end with their text (CSS Inline 3,
// §5.2): before the first one, after the last one, and after the last one in each page or
// column.
type textTrim struct{ start, end, parts bool }

// textTrimIn is where the first and the last line in a block container are trimmed: as it
// asks itself, or else a box around from which no border or padding parts it. What it asks
// for holds at its own start and end, and where it goes on over pages only if each part has
// its own edges.
func textTrimIn(s *style.Style, sp Space, e *edges, goesOn bool) textTrim {
	own, trim, clone := s.TextBoxTrim, sp.trim, s.BoxDecorationBreak == style.Clone
	trim.start = trim.start && e.top() == 0
	trim.end, trim.parts = trim.end && e.bottom() == 0, trim.parts && e.bottom() == 0
	if own.Start {
		trim.start = !goesOn || clone
	}
	if own.End {
		trim.end, trim.parts = true, clone
	}
	return trim
}

// inChild is what of the trimming of a flow holds for a child: nothing stands before it in
// this page or column, or after it at all.
func (st *flowState) inChild(c *box.Box) textTrim {
	trim := st.in.trim
	if trim == (textTrim{}) {
		return trim
	}
	stands := func(c *box.Box) bool { return !c.OutOfFlow() && !c.Floats() && !isNothing(c) }
	later := st.b.Children[slices.Index(st.b.Children, c)+1:]
	trim.start = trim.start && !st.placed
	trim.end = trim.end && !slices.ContainsFunc(later, stands)
	return trim
}

// trimLine takes the leading off a line, where that is asked for.
func (st *lineState) trimLine(line *Fragment) {
	if trim := st.in.trim; trim.start || trim.end {
		st.trimSides(line, trim.start && st.n == st.before, trim.end && st.remaining(st.at, 1) == 0)
	}
}

// trimSides takes the leading off the block-start or block-end side of a line.
func (st *lineState) trimSides(line *Fragment, start, end bool) {
	if st.b.Frame == style.VerticalLr { // the lower side of the text comes first
		start, end = end, start
	}
	over, under := st.l.textEdges(st.b.Style)
	if end {
		line.H = line.Baseline + under
	}
	if start {
		d := line.Baseline - over
		for i := range line.Kids {
			line.Kids[i].Y -= d
		}
		line.H -= d
		line.Baseline -= d
	}
}

// contentArea is how far the content area of an inline box reaches above and below its
// baseline.
func (l *Layout) contentArea(s *style.Style) (over, under float64) {
	t := l.look(s).strut
	over, under = t.ascent, t.descent
	if trim := s.TextBoxTrim; trim != (style.TextBoxTrim{}) {
		toOver, toUnder := l.textEdges(s)
		if s.WritingMode == style.VerticalLr {
			trim.Start, trim.End = trim.End, trim.Start
		}
		if trim.Start {
			over = toOver
		}
		if trim.End {
			under = toUnder
		}
	}
	return over, under
}

// textEdges are how far text of a style reaches above and below its baseline, as
// text-box-edge measures it.
func (l *Layout) textEdges(s *style.Style) (over, under float64) {
	k := l.look(s)
	over, under = k.strut.ascent, k.strut.descent
	edge := s.TextBoxEdge
	if edge == (style.TextBoxEdge{}) {
		return over, under
	}
	size, m := l.sizeOf(s, k.first.Face), measures(k.first.Face)
	middle := 0.0 // of upright text, from which the others are measured
	if central(s) {
		asc, desc, _ := l.metrics(k.first.Match, size)
		middle = (asc - desc) / 2
	}
	switch edge.Over {
	case style.TextEdgeCap:
		over = m.Cap*size - middle
	case style.TextEdgeEx:
		over = m.Ex*size - middle
	case style.TextEdgeIdeographic:
		over = ideographicOver*size - middle
	}
	switch edge.Under {
	case style.TextEdgeAlphabetic:
		under = middle
	case style.TextEdgeIdeographic:
		under = (1-ideographicOver)*size + middle
	}
	return over, under
}

// ideographicOver is how much of its square an ideograph has above the baseline, in em,
// in fonts that do not say.
const ideographicOver = 0.88
