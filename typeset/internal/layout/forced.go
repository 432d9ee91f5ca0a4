package layout

import (
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// forcedInside tells whether a break may be forced somewhere inside b, whatever the
// formatting contexts on the way to it (CSS Break 3, §3.1): b is then to be cut even
// where all of it has room. In columns, breaks between columns count as well.
func (l *Layout) forcedInside(b *box.Box, column bool) bool {
	if column {
		return l.remembered(b, forcedInColumn, func(prev, next *box.Box) bool { return l.forced(prev, next, true) != 0 })
	}
	return l.remembered(b, forcedInPage, func(prev, next *box.Box) bool { return l.forced(prev, next, false) != 0 })
}

// forcedNameless is forcedInside on a page for a box inside of which the names of pages
// have no say.
func (l *Layout) forcedNameless(b *box.Box) bool {
	return l.remembered(b, forcedNamelessly, func(prev, next *box.Box) bool { return l.breakBetween(prev, next, false) != 0 })
}

// What is remembered of forced breaks inside a box.
const (
	forcedInPage = iota
	forcedInColumn
	forcedNamelessly
	forcedKinds
)

// remembered asks once whether there is a forced break between two boxes in b.
func (l *Layout) remembered(b *box.Box, kind int, between func(prev, next *box.Box) bool) bool {
	if b.Kind != box.Element {
		return false
	}
	at := &l.memo(b).forced[kind]
	if *at == 0 {
		*at = 1
		if anyBetween(b, between) {
			*at = 2
		}
	}
	return *at == 2
}

// anyBetween asks about all neighbours in the flows inside b, at any depth; the second is nil where it is out of flow.
func anyBetween(b *box.Box, ask func(prev, next *box.Box) bool) bool {
	row := sideBySide(b)
	var prev *box.Box
	for _, c := range b.Children {
		if c.Kind == box.Text || c.Kind == box.LineBreak {
			continue
		}
		if !row && prev != nil && goesWithFlow(c) && ask(prev, nil) {
			return true
		}
		if c.Positioned() {
			continue
		}
		if anyBetween(c, ask) {
			return true
		}
		if !c.IsBlockLevel() || c.Floats() || row {
			continue
		}
		if prev != nil && ask(prev, c) {
			return true
		}
		prev = c
	}
	return false
}

// forcedAfter is the break between a box that has been set and the next one, which is nil for what is out of flow. All
// that stands in the last row of a flex container or grid is at its end.
func (l *Layout) forcedAfter(prev *box.Box, set *Fragment, next *box.Box, column, named bool) style.Keyword {
	between := l.breakBetween
	if named {
		between = l.forced
	}
	if k := between(prev, next, column); k != 0 || set == nil {
		return k
	}
	for _, b := range edgeRow(prev, set, true) {
		if k := l.after(b); forcedBreak(k, column) {
			return k
		}
	}
	return 0
}

// rule notes that a box is cut which is to stay whole, if it is; a forced break is no
// fault of the break's.
func (b *Break) rule(avoid bool) {
	if avoid && b.Innermost().Forced == 0 {
		b.Penalty = max(b.Penalty, avoidPenalty)
	}
}

// noteForced notes the break that an item goes on after, so that the page knows on which
// side the next one is to be.
func (b *Break) noteForced(inner *Break) {
	if b.Forced == 0 {
		b.Forced = inner.Innermost().Forced
	}
}

// forcedAmong tells whether breaks are forced among or inside the children of a flex
// container or grid.
func (l *Layout) forcedAmong(w *wholeLayout, sp Space) bool {
	if !sp.cutting() {
		return false
	}
	for _, rows := range w.flows {
		for i := range rows {
			if l.forcedBefore(rows, i, sp.Column) != 0 {
				return true
			}
		}
	}
	return slices.ContainsFunc(w.kids, func(k flowKid) bool { return l.forcedInside(k.b, sp.Column) })
}

// isNothing tells whether a box takes no room, shows nothing and asks for nothing, such as
// one that is there to clear floats: a break beside it is one between its neighbours, so
// that no page is made for it alone. One with an id is a place that links and page
// numbers lead to, and stands with what follows.
func isNothing(b *box.Box) bool {
	s := b.Style
	if b.Node != nil && b.Node.ID != "" {
		return false
	}
	if b.Kind != box.Element || len(b.Children) > 0 || s.Display.Outer != style.Block || b.Rare().Marker != nil || b.Rare().Notes != nil || s.Display.Inner != style.Flow && s.Display.Inner != style.FlowRoot && s.Display.Inner != style.Table {
		return false
	}
	for i := range 4 {
		if s.Border[i].Width > 0 || !s.Padding[i].IsZero() || !s.Margin[i].IsZero() {
			return false
		}
	}
	return zeroHeight(b) && s.BreakBefore == style.Auto && s.BreakAfter == style.Auto && s.Page == "" && s.ColumnSpan != style.All && s.Outline.Width == 0 && s.BoxShadow == nil
}

// NothingLeft tells whether nothing at all is seen of what goes on at a break of b: empty
// room of heights and what stands there for no purpose of its own. No page is made for
// that (CSS Page 3, §3.3: content-empty pages are to be avoided).
func (l *Layout) NothingLeft(b *box.Box, rest *Break) bool {
	if b.Kind == box.Replaced || b.Style.Container == style.SizeKey || rest.Forced != 0 || len(rest.Float)+len(rest.Over)+len(rest.Parts)+len(rest.cut)+len(rest.placed)+len(rest.atEnd) > 0 || rest.table != nil || rest.span != nil || rest.tail {
		return false
	}
	if e := l.edges(b, 0); !endUnseen(b, &e) {
		return false
	}
	if b.Inline {
		return rest.bare
	}
	next := rest.Child
	if rest.Inner != nil {
		if !l.NothingLeft(b.Children[next], rest.Inner) {
			return false
		}
		next++
	}
	return next >= len(b.Children) || !slices.ContainsFunc(b.Children[next:], func(c *box.Box) bool { return !isNothing(c) })
}
