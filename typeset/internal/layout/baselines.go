package layout

import (
	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// baselines are places along an axis in a fragment; Auto for none.
type baselines struct{ first, last float64 }

// runsBack tells whether the lines of a flex or grid item follow each other from the far
// end of an axis of its container: what is aligned by first baselines is aligned from
// there then (CSS Align 3, §9.1).
func runsBack(item *box.Box, ax int, rtl bool) bool {
	fromRight := func(mode style.Keyword) bool { return mode == style.VerticalRl || mode == style.SidewaysRl }
	switch {
	case orthogonal(item) == (ax == blockAxis): // they follow each other along the other axis
		return ax == inlineAxis && rtl
	case ax == blockAxis:
		return fromRight(item.Mode) != fromRight(item.Frame)
	case item.Frame.Vertical():
		return item.Frame == style.SidewaysLr
	}
	return fromRight(item.Mode)
}

// startsFar tells whether a flex or grid item starts at the far end of an axis of its container: what
// self-start and self-end follow (CSS Align 3, §4.2).
func startsFar(item *box.Box, ax int) bool {
	if orthogonal(item) == (ax == blockAxis) { // its words run along the axis
		return isRTL(item)
	}
	return runsBack(item, ax, false)
}

// baselineAlong is how far the first or the last baseline of an item is from its near
// border edge along an axis of its container, whose style is around. An item that has none
// there gets one from its border box (CSS Align 3, §9.1).
func (f *Fragment) baselineAlong(ax int, last bool, around *style.Style) float64 {
	set, size := baselines{f.Baseline, f.LastBaseline}, f.H
	if ax == inlineAxis {
		set, size = baselines{Indefinite, Indefinite}, f.W
		if f.across != nil {
			set = *f.across
		}
	}
	at := set.first
	if last {
		at = set.last
	}
	if known(at) {
		return at
	}
	frame := f.Box.Frame
	switch {
	case ax == blockAxis && central(around):
		return size / 2
	case ax == blockAxis && (frame == style.VerticalLr || frame == style.SidewaysLr), ax == inlineAxis && (!frame.Vertical() || frame == style.SidewaysLr):
		return 0
	}
	return size
}
