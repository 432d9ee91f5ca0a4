package layout

import (
	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// trim takes the margins at the given sides of a box away, where its container
// asks for it (CSS Box 4, §4).
func (l *Layout) trim(container, b *box.Box, sides ...int) {
	for _, i := range sides {
		edge := i
		if isRTL(container) && i%2 == 1 { // the property goes by start and end
			edge = style.Left + style.Right - i
		}
		if container.Style.MarginTrim[edge] {
			if l.trimmed == nil {
				l.trimmed = map[*box.Box][4]bool{}
			}
			gone := l.trimmed[b]
			gone[i] = true
			l.trimmed[b] = gone
		}
	}
}

// untrim gives items the margins back that were trimmed when their container had another width.
func (l *Layout) untrim(items []*box.Box) {
	for _, c := range items {
		delete(l.trimmed, c)
	}
}

func trims(b *box.Box) bool { return b.Style.MarginTrim != [4]bool{} }

// trimEnds trims the items that stand at the sides of a flex container whatever
// its width.
func (l *Layout) trimEnds(b *box.Box, items []*box.Box, column bool) {
	if len(items) == 0 || !trims(b) {
		return
	}
	l.untrim(items)
	if column && b.Style.FlexWrap == style.Nowrap {
		for _, c := range items {
			l.trim(b, c, style.Left, style.Right)
		}
	}
	if !column && b.Style.FlexWrap == style.Nowrap {
		start, end := style.Left, style.Right
		if (b.Style.FlexDirection == style.RowReverse) != isRTL(b) {
			start, end = end, start
		}
		l.trim(b, items[0], start)
		l.trim(b, items[len(items)-1], end)
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
	x.l.trim(x.b, it.b, side)
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
	g.l.untrim(g.b.Children)
	for _, it := range g.items {
		if it.at[0] <= firstCol {
			g.l.trim(g.b, it.b, start)
		}
		if it.at[0]+it.span[0] > lastCol {
			g.l.trim(g.b, it.b, end)
		}
		if it.at[1] <= firstRow {
			g.l.trim(g.b, it.b, style.Top)
		}
		if it.at[1]+it.span[1] > lastRow {
			g.l.trim(g.b, it.b, style.Bottom)
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
