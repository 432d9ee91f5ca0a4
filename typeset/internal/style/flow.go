package style

// Sides of a box in the frame of a writing mode: layout works with the inline
// axis from left to right and the block axis from top to bottom, whatever the
// mode. The table gives, for each of the frame's sides, the physical one
// (Writing Modes 4, §6.2).
var flowSides4 = map[Keyword][4]int{
	VerticalRl: {Right, Bottom, Left, Top},
	SidewaysRl: {Right, Bottom, Left, Top},
	VerticalLr: {Left, Bottom, Right, Top},
	SidewaysLr: {Left, Top, Right, Bottom},
}

// lineSides4 is the same by the sides of a line: in vertical-lr the upper side
// of the text faces the block's end.
var lineSides4 = map[Keyword][4]int{
	VerticalRl: {Right, Bottom, Left, Top},
	SidewaysRl: {Right, Bottom, Left, Top},
	VerticalLr: {Right, Bottom, Left, Top},
	SidewaysLr: {Left, Top, Right, Bottom},
}

// FlowSides gives the physical side for each side of the frame of mode.
func FlowSides(mode Keyword) [4]int {
	if m, ok := flowSides4[mode]; ok {
		return m
	}
	return [4]int{Top, Right, Bottom, Left}
}

// InFlow gives a style as the layout in the frame of mode sees it: sides and
// sizes turned into the frame. line tells that the box stands in a line, whose
// sides count then.
func (s *Style) InFlow(mode Keyword, line bool) *Style {
	if !mode.Vertical() {
		return s
	}
	sides := flowSides4[mode]
	if line {
		sides = lineSides4[mode]
	}
	out := *s
	for i, from := range sides {
		out.Margin[i], out.Padding[i], out.Border[i], out.Inset[i] = s.Margin[from], s.Padding[from], s.Border[from], s.Inset[from]
	}
	out.Width, out.Height = s.Height, s.Width
	out.MinWidth, out.MinHeight = s.MinHeight, s.MinWidth
	out.MaxWidth, out.MaxHeight = s.MaxHeight, s.MaxWidth
	out.OverflowX, out.OverflowY = s.OverflowY, s.OverflowX
	out.IntrinsicSize = [2]float64{s.IntrinsicSize[1], s.IntrinsicSize[0]}
	if s.AspectRatio.Ratio > 0 {
		out.AspectRatio.Ratio = 1 / s.AspectRatio.Ratio
	}
	return &out
}
