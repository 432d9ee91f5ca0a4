package page

import (
	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/style"
)

// turn is where a document stands between two pages.
type turn struct {
	at     *layout.Break // nil at its beginning
	index  int           // of the page that comes next, from 1
	name   string        // of its page type
	forced style.Keyword // the break that ended the page before
	group  int           // pages of the page group so far
}

// context is the kind of page that comes next. A blank one only brings the one after it
// to the side that a break asks for.
func (t turn) context(first bool) style.PageContext {
	left := t.index%2 == 0 != first
	if wrongSide(t.forced, left, first) {
		return style.PageContext{Name: t.name, Index: t.index, Left: left, Blank: true}
	}
	return style.PageContext{Name: t.name, Index: t.index, Left: left, Group: t.group + 1}
}

// past is where the document stands after a blank page.
func (t turn) past() turn {
	t.index++
	t.forced = 0
	return t
}

// next is where it stands after a page that ends at a break.
func (t turn) next(root *box.Box, at *layout.Break) turn {
	n := turn{at: at, index: t.index + 1, forced: at.Innermost().Forced, group: t.group + 1}
	starts := false
	if n.name, starts = layout.NextPage(root, at); starts || n.name != t.name {
		n.group = 0
	}
	return n
}
