package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// LayPage sets the part of the root that fits a page area. The fragment holds
// the root's, for positioned boxes to be placed in. The last part of the area's
// height may be kept free for footnotes, and what fits is set below top.
func (l *Layout) LayPage(root *box.Box, w, h, top, kept float64, from *Break) (*Fragment, *Break) {
	if root.Turned() && orthogonal(root) {
		return l.layTurnedPage(root, w, h, kept, from)
	}
	area := &Fragment{W: w, H: h, Baseline: Indefinite, LastBaseline: Indefinite}
	e := l.edges(root, w)
	sp := newSpace(w, h)
	y := top
	if from == nil {
		y += e.margin[style.Top]
	}
	sp.BlockLeft, sp.Page, sp.AtTop, sp.Bare = h-kept-y, h-kept, top == 0, top == 0
	x := e.margin[style.Left]
	rw := l.blockWidth(root, sp, &e)
	x += autoMargin(root, root, &e, w-rw-e.margin[style.Left]-e.margin[style.Right])
	sp.FixedW = rw
	var frag *Fragment
	var rest *Break
	if top == 0 || sp.BlockLeft >= 1 {
		frag, rest = l.Lay(root, sp, from)
	}
	if frag == nil && top > 0 { // nothing yet: the next page has the room
		area.add(&Fragment{Box: root, W: rw, Continued: true, Cut: true, Baseline: Indefinite, LastBaseline: Indefinite}, x, y, 0, 0)
		return area, from
	}
	if frag == nil {
		frag, rest = l.must(root, sp, from)
	}
	if frag == nil {
		return nil, nil
	}
	rest = frag.endUnseen(rest, false)
	dx, dy := relative(root, w, h, false)
	area.add(frag, x, y, dx, dy)
	return area, rest
}

// layTurnedPage sets a root whose lines are vertical: its pages follow each
// other in its own block direction (CSS Page 3, §3.1), so the page is set in
// the root's frame and then turned.
func (l *Layout) layTurnedPage(root *box.Box, w, h, kept float64, from *Break) (*Fragment, *Break) {
	area, rest := l.LayPage(l.innerOf(root), h-kept, w, 0, 0, from)
	if area == nil {
		return nil, nil
	}
	area = area.turn(root.Mode, root.Frame)
	area.H = h
	f := area.Kids[0].F
	f.Box, f.settled = root, true
	return area, rest
}

// LayFixed sets a box at a given border-box size in a containing block around px wide; h
// may be Auto.
func (l *Layout) LayFixed(b *box.Box, around, w, h float64) *Fragment {
	sp := newSpace(around, h)
	sp.FixedW, sp.FixedH = w, h
	f, _ := l.Lay(b, sp, nil)
	l.SettleAll(f, f.W, f.H)
	return f
}

// Intrinsic gives the min-content and max-content widths of a box.
func (l *Layout) Intrinsic(b *box.Box) (lo, hi float64) { return l.sizes(b) }

// AlignVertically moves the contents of a box of fixed height.
func AlignVertically(f *Fragment, k style.Keyword) {
	bottom := 0.0
	for _, c := range f.Kids {
		bottom = math.Max(bottom, c.Y+c.F.H)
	}
	free := f.H - f.Border[style.Bottom] - f.Padding[style.Bottom] - bottom
	switch k {
	case style.Middle:
		f.shiftContents(free / 2)
	case style.BottomSide:
		f.shiftContents(free)
	}
}

// Nothing is a break after all that a box holds.
func Nothing(b *box.Box) *Break {
	return &Break{Child: len(b.Children), Line: cursor{leaf: endOfText}}
}

// Bottom is how far down a page's contents reach.
func Bottom(page *Fragment) (h float64) {
	for _, k := range page.Kids {
		m := 0.0
		if b := k.F.Box; b != nil && b.Style.Margin[style.Bottom].Kind == style.Length {
			m = b.Style.Margin[style.Bottom].Of(page.W)
		}
		h = math.Max(h, k.Y+k.F.reach()+m)
	}
	return h
}

// SamePlace tells whether two breaks lead to the same place: no progress.
func SamePlace(a, b *Break) bool {
	for {
		if a == nil || b == nil {
			return a == b
		}
		if a.Child != b.Child || a.span != b.span || a.Line != b.Line || exceeds(math.Abs(a.Used-b.Used), 0) || !sameFloats(a.Float, b.Float) || !sameOverflow(a.Over, b.Over) || !sameRests(a.cut, b.cut) || a.table != nil || b.table != nil || a.placed != nil || b.placed != nil {
			return false
		}
		if a.Inner == nil && b.Inner == nil {
			return true
		}
		a, b = a.Inner, b.Inner
	}
}

func sameOverflow(a, b []overflow) bool {
	return slices.EqualFunc(a, b, func(x, y overflow) bool { return x.child == y.child && SamePlace(x.at, y.at) })
}

func sameRests(a, b []lineRest) bool {
	return slices.EqualFunc(a, b, func(x, y lineRest) bool { return x.b == y.b && SamePlace(x.at, y.at) })
}

func sameFloats(a, b []pendingFloat) bool {
	return slices.EqualFunc(a, b, func(x, y pendingFloat) bool { return x.b == y.b && SamePlace(x.at, y.at) })
}

// NextBox is the innermost box that a break goes on with, where that can be
// told.
func NextBox(root *box.Box, at *Break) *box.Box {
	b := root
	for at != nil && b != nil {
		switch {
		case at.table != nil:
			return nextRow(b, at.table)
		case at.placed != nil:
			return nextItem(b, at)
		case at.Child >= len(b.Children) || b.Inline:
			return b
		}
		b = b.Children[at.Child]
		if at.Inner == nil {
			return b
		}
		at = at.Inner
	}
	return b
}

// nextRow is the row that a table goes on with, where it begins there.
func nextRow(table *box.Box, at *tableBreak) *box.Box {
	if m, ok := table.Memo.(*memo); ok && m.table != nil && at.row < len(m.table.rows) && at.parts == nil {
		return m.table.rows[at.row].box
	}
	return table
}

// nextItem is the first item of a flex container or grid that goes on.
func nextItem(b *box.Box, at *Break) *box.Box {
	if at.whole == nil {
		return b
	}
	for i, done := range at.done {
		if rows := at.whole.flows[i]; done < len(rows) {
			for _, k := range rows[done].kids {
				if p := at.placed[k.b]; p == nil || !p.Done {
					return k.b
				}
			}
		}
	}
	return b
}

// NextPage is the page type of the box that a break goes on with. It starts a page
// group when the element that names the type begins there (GCPM 3, §4.2).
func NextPage(root *box.Box, at *Break) (name string, starts bool) {
	b := root
	for at != nil && b != nil {
		if b.Style.Page != "" {
			name = b.Style.Page
		}
		if at.Child >= len(b.Children) || b.Inline || at.placed != nil {
			return name, false
		}
		b = b.Children[at.Child]
		if at.Inner == nil {
			if n := PageName(b); n != "" {
				return n, true
			}
			return name, false
		}
		at = at.Inner
	}
	return name, false
}

// Filled is how far down the contents of a page reach, without the room that boxes which
// go on take up to its end.
func Filled(page *Fragment) (h float64) {
	for _, k := range page.Kids {
		h = math.Max(h, k.Y+k.F.used())
	}
	return h
}
