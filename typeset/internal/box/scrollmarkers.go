package box

import (
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// markerGroups are the boxes that take up scroll markers, one for each way in which the
// element that a marker belongs to may be positioned: a marker goes to the scroll
// container around its element that would scroll it (CSS Overflow 5, §4).
type markerGroups struct{ flow, absolute, fixed *Box }

// enterScroller makes the scroll marker of an element, and the group of markers if it is a
// scroll container that asks for one. What stood around is to be put back at its end.
func (b *Builder) enterScroller(n *markup.Node, s *style.Style) (group *Box, around markerGroups) {
	if s.Display.Outer == style.Contents {
		return nil, b.groups
	}
	around = b.groups
	switch s.Position {
	case style.Absolute:
		b.groups.flow = around.absolute
	case style.FixedKey:
		b.groups.flow = around.fixed
	}
	if to := b.groups.flow; to != nil {
		in := *s // it inherits from its element, and stands among the children of the group
		in.Display = to.Style.Display
		to.Children = append(to.Children, b.pseudo(n, "scroll-marker", &in, nil)...)
	}
	if s.ScrollMarkers != style.None && (isRoot(n) || scrolls(s.OverflowX)) { // the root stands for the page
		b.order++
		group = &Box{Node: n, Style: b.Styles.Style(n, "scroll-marker-group", s), rare: &Rare{Pseudo: "scroll-marker-group"}, Order: b.order}
		b.groups.flow = group
	}
	if s.HoldsPositioned() {
		b.groups.absolute = b.groups.flow
	}
	if s.HoldsFixed() {
		b.groups.fixed = b.groups.flow
	}
	return group, around
}

func isRoot(n *markup.Node) bool { return n.Parent != nil && n.Parent.Kind == markup.Document }

// withMarkers appends a box and its group of scroll markers on the side that it asks for;
// that of the root stands in it.
func (b *Builder) withMarkers(to []*Box, box, group *Box) []*Box {
	switch {
	case group == nil || group.Style.Display.Outer == style.None:
		return append(to, box)
	case isRoot(box.Node):
		box.Children = append(box.Children, group)
		return append(to, box)
	case box.Style.ScrollMarkers == style.Before:
		return append(to, group, box)
	}
	return append(to, box, group)
}
