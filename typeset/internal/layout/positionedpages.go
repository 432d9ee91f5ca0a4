package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// late is a positioned box, or the rest of one, that belongs on a later page
// (CSS Break 4, §2: boxes out of flow are cut as those in flow are).
type late struct {
	b    *box.Box
	sp   Space
	at   *Break
	x, y float64 // y from the top of the next page
}

// settleOverPages places the positioned boxes of a containing block that goes on over pages. All
// its parts together are the containing block (CSS Break 4, §2), but pages are written one after
// the other. So a box is placed with the first part when it says how far below the top it stands,
// wherever it occurs; with the last part when it only says how far above the bottom; and else
// where it occurs.
func (l *Layout) settleOverPages(f *Fragment, sp Space, from, rest *Break) {
	goesOn := rest != nil && !rest.Ended
	list := f.out
	f.out = nil
	if from != nil {
		list = append(slices.Clone(from.atEnd), list...)
		list = slices.DeleteFunc(list, func(w outOfFlow) bool { // the first part has them
			return fromTop(w.b) && slices.Contains(l.belowTop(f.Box), w.b)
		})
	} else {
		list = append(list, l.ahead(f, sp, list)...)
	}
	var later []outOfFlow
	placed := map[*box.Box]bool{}
	for i := 0; i < len(list); i++ {
		w := list[i]
		switch {
		case placed[w.b]:
			continue
		case !containedBy(w.b, f.Box):
			later = append(later, w)
			continue
		case goesOn && fromBottom(w.b):
			rest.atEnd = append(rest.atEnd, w)
			continue
		}
		placed[w.b] = true
		at := l.positioned(f.Box, w, f.wholePaddingBox())
		if at.frag == nil {
			continue
		}
		if from != nil && fromBottom(w.b) { // the pages before are written
			at.y = math.Max(at.y, 0)
		}
		l.putPositioned(f, at, sp.BlockLeft)
		list = append(list, f.out...) // boxes inside it that wait for f too
		f.out = nil
	}
	f.out = later
}

// fromTop tells whether a positioned box says how far below the top of its containing block it
// stands.
func fromTop(b *box.Box) bool { return !b.Style.Inset[style.Top].IsAuto() }

// fromBottom tells whether it says so of the bottom alone.
func fromBottom(b *box.Box) bool { return !fromTop(b) && !b.Style.Inset[style.Bottom].IsAuto() }

// wholePaddingBox is the padding box of all parts together, from the corner of the part f.
// As long as the last part is not known it ends with f, unless its height is known.
func (f *Fragment) wholePaddingBox() rect {
	r := f.paddingBox()
	end := r.y + r.h
	if f.Continued {
		r.y = f.Box.Style.Border[style.Top].Width - f.Before
	}
	if f.Cut && f.Whole > 0 {
		end = f.Whole - f.Before - f.Box.Style.Border[style.Bottom].Width
	}
	r.h = end - r.y
	return r
}

// ahead lists what the first part f of a containing block places although it occurs further on:
// what says how far below the top it stands, beside the boxes that wait in list. If a place or a size among
// all of these depends on the box as a whole, it is set in one piece to learn that.
func (l *Layout) ahead(f *Fragment, sp Space, list []outOfFlow) (ahead []outOfFlow) {
	for _, b := range l.belowTop(f.Box) {
		if !slices.ContainsFunc(list, func(w outOfFlow) bool { return w.b == b }) {
			ahead = append(ahead, staticPlace(b, f.Box, f.contentArea()))
		}
	}
	across := slices.ContainsFunc(ahead, func(w outOfFlow) bool { return !hasPlaceAcross(w.b) })
	tall := f.Cut && f.Whole == 0 && (needsHeight(list) || needsHeight(ahead))
	if !across && !tall {
		return ahead
	}
	whole, _ := l.Lay(f.Box, sp.uncut(), nil)
	if whole == nil {
		return ahead
	}
	if f.Cut && f.Whole == 0 {
		f.Whole = whole.H
	}
	for i := range ahead {
		w := &ahead[i]
		for _, k := range whole.Kids {
			if k.F.Box == w.b && !hasPlaceAcross(w.b) {
				e := l.edges(w.b, whole.W)
				w.rect, w.sx = rect{x: k.X - e.margin[style.Left]}, low
				if w.rtl {
					w.rect, w.sx = rect{x: k.X + k.F.W + e.margin[style.Right]}, high
				}
			}
		}
	}
	return ahead
}

// hasPlaceAcross tells whether a box says where it stands from left to right.
func hasPlaceAcross(b *box.Box) bool {
	in := &b.Style.Inset
	return !in[style.Left].IsAuto() || !in[style.Right].IsAuto()
}

// belowTop lists the positioned boxes that b contains and that say how far below its top they
// stand.
func (l *Layout) belowTop(b *box.Box) []*box.Box {
	m := l.memo(b)
	if !m.fromTopKnown {
		m.fromTop, m.fromTopKnown = positionedFromTop(b, b.Style.HoldsFixed(), false, nil), true
	}
	return m.fromTop
}

// positionedFromTop appends the positioned boxes in b that say how far below the top of their
// containing block they stand, when that is what contains b, too. If a box between is one
// itself, only fixed boxes are looked for.
func positionedFromTop(b *box.Box, fixed, onlyFixed bool, list []*box.Box) []*box.Box {
	for _, c := range b.Children {
		if c.Kind == box.Text || c.Kind == box.LineBreak {
			continue
		}
		isFixed := c.Style.Position == style.FixedKey
		if c.Positioned() && fromTop(c) && (isFixed && fixed || !isFixed && !onlyFixed) {
			list = append(list, c)
		}
		if inFixed := fixed && !c.Style.HoldsFixed(); inFixed || !c.Style.HoldsPositioned() && !onlyFixed {
			list = positionedFromTop(c, inFixed, onlyFixed || c.Style.HoldsPositioned(), list)
		}
	}
	return list
}

// needsHeight tells whether the place or size of a waiting box depends on the
// height of its containing block.
func needsHeight(list []outOfFlow) bool {
	return slices.ContainsFunc(list, func(w outOfFlow) bool {
		s := w.b.Style
		return fromTop(w.b) && !s.Inset[style.Bottom].IsAuto() || s.Height.HasPct() || s.Inset[style.Top].HasPct()
	})
}

// putPositioned adds a positioned box, and cuts it where the page ends, left px
// below the top of f.
func (l *Layout) putPositioned(f *Fragment, p positionedBox, left float64) {
	if math.IsInf(left, 1) || atMost(p.y+p.frag.reach(), left) && !l.forcedInside(p.b, false) {
		f.add(p.frag, p.x, p.y, 0, 0)
		return
	}
	if atMost(left, p.y) {
		f.leave(late{p.b, p.sp, nil, p.x, math.Max(p.y-left, 0)})
		return
	}
	part, rest := l.Lay(p.b, p.sp.cutAt(left-p.y, atMost(p.y, 0)), nil)
	if part == nil {
		f.leave(late{p.b, p.sp, nil, p.x, 0})
		return
	}
	f.add(part, p.x, p.y, 0, 0)
	if rest != nil {
		f.leave(late{p.b, p.sp, rest, p.x, 0})
	}
}

func (f *Fragment) leave(w late) { f.carry().late = append(f.carry().late, w) }

// reach is how far a fragment or what overflows it goes down from its top.
func (f *Fragment) reach() float64 {
	h := f.H
	if f.Box != nil && clips(f.Box.Style) {
		return h
	}
	for _, k := range f.Kids {
		if k.F.Text == nil {
			h = math.Max(h, k.Y+k.F.reach())
		}
	}
	return h
}

// rise is how far what f holds goes up above its top.
func (f *Fragment) rise() (h float64) {
	for _, k := range f.Kids {
		if k.F.Text == nil {
			h = math.Max(h, k.F.rise()-k.Y)
		}
	}
	return h
}

func (s Space) cutAt(left float64, atTop bool) Space {
	s.BlockLeft, s.AtTop = left, atTop
	s.Page = math.Max(s.Page, left)
	if math.IsInf(s.Page, 1) {
		s.Page = left
	}
	return s
}

func (s Space) uncut() Space {
	s.BlockLeft, s.Page = inf, inf
	return s
}

// keepLate has the part f of a box that clips keep what it leaves for later pages: the next
// part shows it, and in the last one it is there but not seen.
func (l *Layout) keepLate(f *Fragment, sp Space, from, rest *Break) *Break {
	var left Leftover
	if from != nil {
		left.list = slices.Clone(from.late.list)
	}
	if rest != nil && !rest.Ended {
		if l.PutLate(f, &left, sp.BlockLeft); left.Empty() {
			return rest
		}
		again := *rest
		again.late = left
		return &again
	}
	had := len(left.list)
	left.Take(f)
	for i := range left.list[had:] {
		left.list[had+i].y += sp.BlockLeft
	}
	l.PutLate(f, &left, inf)
	return rest
}

// PutLate places what earlier pages left over into f, which is h px
// tall, and leaves what belongs further on. What f itself leaves over joins
// it.
func (l *Layout) PutLate(f *Fragment, from *Leftover, h float64) {
	list := from.list
	from.list = nil
	for _, w := range list {
		if atMost(h, w.y) {
			w.y -= h
			from.list = append(from.list, w)
			continue
		}
		part, rest := l.Lay(w.b, w.sp.cutAt(h-w.y, true), w.at)
		if part == nil {
			if part, rest = l.Lay(w.b, w.sp.uncut(), w.at); part == nil {
				continue
			}
		}
		f.add(part, w.x, w.y, 0, 0)
		if rest != nil && (w.at == nil || !SamePlace(rest, w.at)) {
			w.at, w.y = rest, 0
			from.list = append(from.list, w)
		}
	}
	from.Take(f)
}

// Leftover is what pages so far have left for later ones.
type Leftover struct{ list []late }

// Take moves what f leaves over.
func (o *Leftover) Take(f *Fragment) {
	if f.carried != nil {
		o.list = append(o.list, f.carried.late...)
		f.carried.late = nil
	}
}

// Empty tells whether nothing is left.
func (o *Leftover) Empty() bool { return len(o.list) == 0 }
