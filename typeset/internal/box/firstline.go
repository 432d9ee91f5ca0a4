package box

import (
	"slices"

	"oliveledger/typeset/internal/style"
)

// firstLine gives the style of ::first-line to the box that holds the first
// line of a block: the block itself or the first block inside it. There the
// pseudo-element stands innermost, so that it overrides what the blocks between
// set (CSS Pseudo 4, §2.1.1).
func (b *Builder) firstLine(x *Box) {
	if x.Rare().lineOf == nil {
		return
	}
	if x.Inline {
		s := x.Style
		for _, n := range *x.Rare().lineOf {
			s = b.Styles.Style(n, "first-line", s)
		}
		x.SetRare(func(r *Rare) { r.FirstLine = s })
		return
	}
	for _, c := range x.Children {
		if c.OutOfFlow() {
			continue
		}
		if c.Kind == Element && c.IsBlockLevel() && (c.Style.Display.Inner == style.Flow || c.Style.Display.Inner == style.FlowRoot) {
			of := slices.Clone(*x.Rare().lineOf)
			if c.Rare().lineOf != nil {
				of = append(of, *c.Rare().lineOf...)
			}
			c.SetRare(func(r *Rare) { r.lineOf = &of })
		}
		return
	}
}
