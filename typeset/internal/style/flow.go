package style

// physicalSides gives, for each side in the frame of a writing mode, the physical
// one: layout works with the inline axis from left to right and the block axis
// from top to bottom, whatever the mode (Writing Modes 4, §6.2).
var physicalSides = func() map[Keyword][4]int {
	out := map[Keyword][4]int{}
	for _, mode := range []Keyword{HorizontalTb, VerticalRl, VerticalLr, SidewaysRl, SidewaysLr} {
		s := &Style{Inherited: Inherited{WritingMode: mode, Direction: Ltr}}
		out[mode] = [4]int{blockSide(s, false), inlineSide(s, true), blockSide(s, true), inlineSide(s, false)}
	}
	return out
}()

// FlowSides gives the physical side for each side of the frame of mode.
func FlowSides(mode Keyword) [4]int {
	if !mode.Vertical() {
		mode = HorizontalTb
	}
	return physicalSides[mode]
}

// InFlow gives a style as the layout in the frame of mode sees it: sides and
// sizes turned into the frame. line tells that the box stands in a line, whose
// sides count then.
func (s *Style) InFlow(mode Keyword, line bool) *Style {
	if !mode.Vertical() {
		return s
	}
	sides := FlowSides(mode)
	if line && mode == VerticalLr { // the upper side of its text faces the block's end
		sides = FlowSides(VerticalRl)
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
