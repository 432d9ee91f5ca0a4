package page

import (
	"math"

	"oliveledger/typeset/internal/style"
)

// marginAxis is what the style of a margin box says of its width or its height.
type marginAxis struct {
	size, least, most style.Size
	edges             float64    // px of borders and padding
	margins           [2]float64 // px, 0 where they are auto
	auto              [2]bool
	borderSized       bool // box-sizing: border-box
}

// axisOf reads the width of a margin box, or its height. Percentages of its edges count from base.
func axisOf(s *style.Style, vertical bool, base float64) marginAxis {
	a, sides := marginAxis{size: s.Width, least: s.MinWidth, most: s.MaxWidth}, [2]int{style.Left, style.Right}
	if vertical {
		a, sides = marginAxis{size: s.Height, least: s.MinHeight, most: s.MaxHeight}, [2]int{style.Top, style.Bottom}
	}
	a.borderSized = s.BoxSizing == style.BorderBox
	for i, k := range sides {
		a.edges += s.Border[k].Width + s.Padding[k].Of(base)
		a.auto[i] = s.Margin[k].IsAuto()
		if s.Margin[k].Kind == style.Length {
			a.margins[i] = s.Margin[k].Of(base)
		}
	}
	return a
}

// borderBox gives a size in room with borders and padding, or other where it is not a length.
func (a marginAxis) borderBox(v style.Size, room, other float64) float64 {
	px := v.Resolve(room)
	switch {
	case math.IsNaN(px):
		return other
	case a.borderSized:
		return math.Max(px, a.edges)
	}
	return px + a.edges
}

// fit gives the place and the border-box size of a margin box in one
// direction. Along the page's edge its part of the margin has its size
// already. Across it auto margins share what is left; where all is given, the
// margin on the outer side gives way (CSS Page 3, §5.3.3).
func (a marginAxis) fit(room float64, across, outerFirst bool) (at, length float64) {
	all := math.Max(room-a.margins[0]-a.margins[1], a.edges)
	if !across {
		return a.margins[0], all
	}
	length = a.borderBox(a.size, room, all)
	length = math.Max(math.Min(length, a.borderBox(a.most, room, math.Inf(1))), a.borderBox(a.least, room, 0))
	if length == all {
		return a.margins[0], all
	}
	free := room - length - a.margins[0] - a.margins[1]
	switch {
	case a.auto[0] && a.auto[1]:
		return a.margins[0] + free/2, length
	case a.auto[0], !a.auto[1] && outerFirst:
		return a.margins[0] + free, length
	}
	return a.margins[0], length
}
