package layout

import (
	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// trim takes the margins at the given sides of a box away, where its container
// asks for it (CSS Box 4, §4).
func trim(container, b *box.Box, sides ...int) {
	for _, i := range sides {
		edge := i
		if isRTL(container) && i%2 == 1 { // the property goes by start and end
			edge = style.Left + style.Right - i
		}
		if container.Style.MarginTrim[edge] {
			b.Trim[i] = true
		}
	}
}

func trims(b *box.Box) bool { return b.Style.MarginTrim != [4]bool{} }

// trimEnds trims the items that stand at the sides of a flex container whatever
// its width.
func trimEnds(b *box.Box, items []*box.Box, column bool) {
	if len(items) == 0 || !trims(b) {
		return
	}
	if column && b.Style.FlexWrap == style.Nowrap {
		for _, c := range items {
			trim(b, c, style.Left, style.Right)
		}
	}
	if !column && b.Style.FlexWrap == style.Nowrap {
		start, end := style.Left, style.Right
		if (b.Style.FlexDirection == style.RowReverse) != isRTL(b) {
			start, end = end, start
		}
		trim(b, items[0], start)
		trim(b, items[len(items)-1], end)
	}
}

// trimLine trims the items at the ends of a flex line.
func (x *flexBox) trimLine(items []*flexItem) {
	if len(items) == 0 {
		return
	}
	first, last := style.Left, style.Right
	if x.column {
		first, last = style.Top, style.Bottom
	}
	if x.reverse != x.mainRTL {
		first, last = last, first
	}
	x.trimItem(items[0], first)
	x.trimItem(items[len(items)-1], last)
}

// trimLines trims what stands at the cross ends of all lines.
func (x *flexBox) trimLines(lines []*flexLine) {
	first, last := style.Top, style.Bottom
	if x.column {
		first, last = style.Left, style.Right
	}
	if (x.s.FlexWrap == style.WrapReverse) != (x.column && isRTL(x.b)) {
		first, last = last, first
	}
	for _, it := range lines[0].items {
		x.trimItem(it, first)
	}
	for _, it := range lines[len(lines)-1].items {
		x.trimItem(it, last)
	}
}

func (x *flexBox) trimItem(it *flexItem, side int) {
	trim(x.b, it.b, side)
	it.e = x.l.edges(it.b, x.w)
}

// trimItems trims the items in the outer tracks of a grid; collapsed tracks do
// not count.
func (g *gridBox) trimItems() {
	firstCol, lastCol := usedTracks(g.axis[inlineAxis].tracks)
	firstRow, lastRow := usedTracks(g.axis[blockAxis].tracks)
	start, end := style.Left, style.Right
	if isRTL(g.b) {
		start, end = end, start
	}
	for _, it := range g.items {
		if it.at[0] <= firstCol {
			trim(g.b, it.b, start)
		}
		if it.at[0]+it.span[0] > lastCol {
			trim(g.b, it.b, end)
		}
		if it.at[1] <= firstRow {
			trim(g.b, it.b, style.Top)
		}
		if it.at[1]+it.span[1] > lastRow {
			trim(g.b, it.b, style.Bottom)
		}
	}
}

// usedTracks are the first and last tracks that are not collapsed.
func usedTracks(tracks []gridTrack) (first, last int) {
	first, last = -1, len(tracks)-1
	for i := range tracks {
		if !tracks[i].empty {
			if first < 0 {
				first = i
			}
			last = i
		}
	}
	return max(first, 0), last
}
