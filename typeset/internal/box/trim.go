package box

import (
	"math"

	"oliveledger/typeset/internal/style"
)

// trimBlocks trims the first and last margins of a block container, with those
// that would collapse with them (CSS Box 4, §4).
func trimBlocks(b *Box) {
	if b.Style.MarginTrim[style.Top] {
		trimSide(b, style.Top)
	}
	if b.Style.MarginTrim[style.Bottom] {
		trimSide(b, style.Bottom)
	}
}

// trimSide trims at one end of b, past children whose margins collapse through.
func trimSide(b *Box, side int) {
	other := style.Top + style.Bottom - side
	n := len(b.Children)
	for i := range n {
		c := b.Children[i]
		if side == style.Bottom {
			c = b.Children[n-1-i]
		}
		if c.OutOfFlow() {
			continue
		}
		if c.Kind == Text || c.Kind == LineBreak || !c.IsBlockLevel() {
			return
		}
		c.Trim[side] = true
		s := c.Style
		if !c.IsBFC() && !c.Inline && s.Border[side].Width == 0 && s.Padding[side].IsZero() {
			trimSide(c, side)
		}
		if !collapsesThrough(c) {
			return
		}
		c.Trim[other] = true
	}
}

// collapsesThrough tells whether a box has no height that would keep its
// margins apart.
func collapsesThrough(b *Box) bool {
	s := b.Style
	if b.IsBFC() || b.Inline || s.Border[style.Top].Width+s.Border[style.Bottom].Width > 0 || !s.Padding[style.Top].IsZero() || !s.Padding[style.Bottom].IsZero() {
		return false
	}
	if h := s.Height.Resolve(math.NaN()); !math.IsNaN(h) && h != 0 {
		return false
	}
	if h := s.MinHeight.Resolve(math.NaN()); !math.IsNaN(h) && h != 0 {
		return false
	}
	for _, c := range b.Children {
		if !c.OutOfFlow() && !collapsesThrough(c) {
			return false
		}
	}
	return true
}
