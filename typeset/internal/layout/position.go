package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// settle places the positioned boxes that f is the containing block of; sp is
// the space of f, from and rest are where it goes on from and where it goes on.
// In columns they wait for all its parts.
func (l *Layout) settle(f *Fragment, sp Space, from, rest *Break) {
	parted := from != nil || rest != nil
	inColumn := sp.Column && sp.cutting()
	switch {
	case parted && !sp.Column:
		l.settleOverPages(f, sp, from, rest)
	case parted && inColumn && len(f.out) == 0:
		f.keep(nil)
	case len(f.out) > 0:
		l.settleWhole(f, sp, parted && inColumn)
	}
}

// settleWhole places positioned boxes in a containing block that stands on one page. If it is
// parted by columns, or reaches beyond one, they are kept for the columns around.
func (l *Layout) settleWhole(f *Fragment, sp Space, parted bool) {
	cb := f.paddingBox()
	var later, kept []outOfFlow
	list := f.out
	f.out = nil
	for i := 0; i < len(list); i++ {
		w := list[i]
		if !containedBy(w.b, f.Box) {
			later = append(later, w)
			continue
		}
		if parted {
			kept = append(kept, w)
			continue
		}
		at := l.positioned(f.Box, w, cb)
		if at.frag == nil {
			continue
		}
		if sp.Column && sp.cutting() && (exceeds(at.y+at.frag.reach(), sp.BlockLeft) || exceeds(sp.BlockLeft-sp.Page, at.y-at.frag.rise())) {
			kept = append(kept, w)
			continue
		}
		l.putPositioned(f, at, sp.BlockLeft)
		// boxes inside it that wait for f too
		list = append(list, f.out...)
		f.out = nil
	}
	if parted || len(kept) > 0 {
		f.keep(kept)
	}
	f.out = later
}

// containedBy tells whether by, a box around a positioned one that makes a containing block,
// is its containing block: for fixed boxes not every one is.
func containedBy(b, by *box.Box) bool {
	return b.Style.Position != style.FixedKey || by.Style.HoldsFixed()
}

// paddingBox is the padding box, from the border box's corner.
func (f *Fragment) paddingBox() rect {
	b := &f.Border
	return rect{b[style.Left], b[style.Top], f.W - b[style.Left] - b[style.Right], f.H - b[style.Top] - b[style.Bottom]}
}

// SettleAll places what waits for the page itself. Fixed boxes are returned,
// for the page to repeat.
func (l *Layout) SettleAll(f *Fragment, w, h float64) {
	list := f.out
	f.out = nil
	for i := 0; i < len(list); i++ {
		if at := l.positioned(nil, list[i], rect{0, 0, w, h}); at.frag != nil {
			if at.b.Style.Position == style.FixedKey {
				l.putPositioned(f, at, inf)
			} else {
				l.putPositioned(f, at, h)
				f.out = slices.DeleteFunc(f.out, func(w outOfFlow) bool { return repeats(w.b) && hasPlace(w.b) }) // they stand there already
			}
		}
		list = append(list, f.out...)
		f.out = nil
	}
}

// Fixed lists the boxes that stand on every page: fixed ones with a place of
// their own, whose containing block is the page.
func Fixed(root *box.Box) (list []*box.Box) {
	for _, c := range root.Children {
		if c.Kind == box.Text || c.Kind == box.LineBreak {
			continue
		}
		if repeats(c) {
			list = append(list, c)
		} else if !c.Style.HoldsFixed() {
			list = append(list, Fixed(c)...)
		}
	}
	return list
}

func repeats(b *box.Box) bool { return b.Positioned() && b.Style.Position == style.FixedKey }

// hasPlace tells whether a box says how far down it stands.
func hasPlace(b *box.Box) bool {
	in := &b.Style.Inset
	return !in[style.Top].IsAuto() || !in[style.Bottom].IsAuto()
}

// FixedPlaces are the static positions of boxes that stand on every page, where they
// occur in the document.
type FixedPlaces map[*box.Box]outOfFlow

// Fix has the page f place the boxes that stand on every page, where their insets say or
// else where they occur (CSS Position 3, §2.1). Those without an upper and a lower inset
// stand on the pages from there on.
func (f *Fragment) Fix(list []*box.Box, at FixedPlaces) {
	f.out = slices.DeleteFunc(f.out, func(w outOfFlow) bool {
		if !repeats(w.b) {
			return false
		}
		at[w.b] = w
		return true
	})
	for _, b := range list {
		if w, ok := at[b]; ok {
			f.out = append(f.out, w)
		} else if hasPlace(b) {
			f.out = append(f.out, staticPlace(b, b, rect{w: f.W}))
		}
	}
}

type rect struct{ x, y, w, h float64 }

// side tells where a box stands in a stretch of one axis.
type side int8

const (
	low side = iota
	mid
	high
)

// sideOf reads an alignment along one axis. cbRTL and selfRTL tell whether the
// containing block and the box itself run from high to low there.
func sideOf(a style.Align, cbRTL, selfRTL bool) side {
	from := func(rtl bool) side {
		if rtl {
			return high
		}
		return low
	}
	switch a.Kind {
	case style.Center, style.SpaceAround, style.SpaceEvenly:
		return mid
	case style.End, style.FlexEnd:
		return from(!cbRTL)
	case style.SelfStart:
		return from(selfRTL)
	case style.SelfEnd:
		return from(!selfRTL)
	case style.LeftSide:
		return low
	case style.RightSide:
		return high
	}
	return from(cbRTL != (a.Kind == style.Baseline && a.Last))
}

// staticPlace is the waiting entry of a child whose static position is the
// rectangle r, aligned in it as its parent's alignment asks
// (CSS Position 3, §4.1).
func staticPlace(c, parent *box.Box, r rect) outOfFlow {
	x, y := c.Style.JustifySelf, c.Style.AlignSelf
	if x.Kind == style.Auto {
		x = parent.Style.JustifyItems
	}
	if y.Kind == style.Auto {
		y = parent.Style.AlignItems
	}
	return outOfFlow{b: c, rect: r, sx: sideOf(x, isRTL(parent), isRTL(c)), sy: sideOf(y, false, false), rtl: isRTL(parent)}
}

func isRTL(b *box.Box) bool { return b.Style.Direction == style.Rtl }

// inlineSides are the sides of a box where its lines, and the columns of a table, begin and end.
func inlineSides(b *box.Box) (start, end int) {
	if isRTL(b) {
		return style.Right, style.Left
	}
	return style.Left, style.Right
}

// insetAxis is one axis of a positioned box in its containing block.
type insetAxis struct {
	start, end float64 // used insets; Auto for auto
	size       float64 // of the containing block
	lo, hi     float64 // static position
	static     side
}

func (a insetAxis) both() bool { return known(a.start) && known(a.end) }
func (a insetAxis) none() bool { return !known(a.start) && !known(a.end) }

// area is the stretch left for the box: the inset-modified containing block
// (CSS Position 3, §4.1).
func (a insetAxis) area() (lo, hi float64) {
	lo, hi = 0, a.size
	if known(a.start) {
		lo = a.start
	}
	if known(a.end) {
		hi = a.size - a.end
	}
	if !a.none() {
		return lo, hi
	}
	switch a.static {
	case high:
		return 0, a.hi
	case mid:
		c := (a.lo + a.hi) / 2
		d := math.Min(c, a.size-c)
		return c - d, c + d
	}
	return a.lo, a.size
}

// place is where the border box starts (CSS 2.2, §10.3.7, §10.6.4).
func (a insetAxis) place(e *edges, first, last int, size float64, self style.Align, cbRTL, selfRTL bool) float64 {
	ms, me := e.margin[first], e.margin[last]
	lo, hi := a.area()
	at := a.static
	switch {
	case a.both():
		free := hi - lo - size - ms - me
		switch {
		case e.auto[first] && e.auto[last]:
			if free < 0 && cbRTL {
				return lo + free
			}
			return lo + math.Max(free, 0)/2
		case e.auto[first]:
			return lo + free + ms
		case e.auto[last]:
			return lo + ms
		}
		at = sideOf(self, cbRTL, selfRTL)
		if free < 0 && self.Safe {
			at = sideOf(style.Align{Kind: style.Start}, cbRTL, selfRTL)
		}
	case known(a.start):
		at = low
	case known(a.end):
		at = high
	}
	switch at {
	case high:
		return hi - me - size
	case mid:
		return lo + ms + (hi-lo-size-ms-me)/2
	}
	return lo + ms
}

// fills tells whether an auto size takes all that the insets leave.
func fills(b *box.Box, self style.Align) bool {
	if b.Kind == box.Replaced {
		return false
	}
	switch self.Kind {
	case style.Stretch:
		return true
	case style.Auto, style.Normal:
		return b.Style.Display.Inner != style.Table
	}
	return false
}

// positionedBox is a positioned box with its size and place.
type positionedBox struct {
	b    *box.Box
	frag *Fragment // set in one piece
	sp   Space
	x, y float64 // of the border box
}

// positioned sets one absolutely positioned box in its containing block: the
// rectangle cb of the box by, or of the page when by is nil.
func (l *Layout) positioned(by *box.Box, w outOfFlow, cb rect) positionedBox {
	b := w.b
	if by != nil {
		b = b.InFrame(by.Mode)
	} else if b.Frame.Vertical() { // the page's own frame
		b = b.InFrame(style.HorizontalTb)
	}
	if w.area != nil {
		cb = *w.area
	}
	s := b.Style
	e := l.edges(b, cb.w)
	sp := newSpace(cb.w, cb.h)
	x := insetAxis{s.Inset[style.Left].Resolve(cb.w), s.Inset[style.Right].Resolve(cb.w), cb.w, w.x - cb.x, w.x + w.w - cb.x, w.sx}
	y := insetAxis{s.Inset[style.Top].Resolve(cb.h), s.Inset[style.Bottom].Resolve(cb.h), cb.h, w.y - cb.y, w.y + w.h - cb.y, w.sy}
	if y.both() && !x.both() && s.Height.IsAuto() && s.Width.IsAuto() && s.AspectRatio.Ratio > 0 && fills(b, s.AlignSelf) {
		lo, hi := y.area() // the height is given by both sides, and the width by the ratio
		sp.FixedH = l.clampHeight(b, e.heightIn(hi-lo), sp, &e)
		sp.FixedW = l.clampWidth(b, throughRatio(s, sp.FixedH, e.blockEdges(), e.inlineEdges(), s.AspectRatio.Ratio), sp, &e)
	} else if b.Kind != box.Replaced || s.Width.Kind == style.Stretch {
		sp.FixedW = l.positionedWidth(b, x, sp, &e)
	}
	if y.both() && s.Height.IsAuto() && fills(b, s.AlignSelf) && s.AspectRatio.Ratio == 0 {
		lo, hi := y.area()
		sp.FixedH = l.fillHeight(b, e.heightIn(hi-lo), sp, &e)
	}
	frag, _ := l.Lay(b, sp, nil)
	if frag == nil {
		return positionedBox{}
	}
	px := x.place(&e, style.Left, style.Right, frag.W, s.JustifySelf, w.rtl, isRTL(b))
	py := y.place(&e, style.Top, style.Bottom, frag.H, s.AlignSelf, false, false)
	return positionedBox{b, frag, sp, cb.x + px, cb.y + py}
}

// positionedWidth is the border-box width of a positioned box.
func (l *Layout) positionedWidth(b *box.Box, x insetAxis, sp Space, e *edges) float64 {
	s := b.Style
	lo, hi := x.area()
	avail := hi - lo - e.margin[style.Left] - e.margin[style.Right]
	fit := sp
	fit.Shrink = true
	auto := s.Width.IsAuto()
	if !auto && s.Width.Kind != style.FitContent && s.Width.Kind != style.Stretch {
		return l.blockWidth(b, fit, e)
	}
	byRatio := l.ratioWidth(b, fit, e)
	switch {
	case s.Width.Kind == style.Stretch || auto && x.both() && fills(b, s.JustifySelf) && !known(byRatio):
		return l.clampWidth(b, math.Max(avail, e.inlineEdges()), fit, e)
	case known(byRatio) && auto:
		return l.clampWidth(b, byRatio, fit, e)
	}
	least, most := l.sizesIn(b, e)
	w := l.clampWidth(b, math.Min(math.Max(least, avail), most), fit, e)
	if s.Display.Inner == style.Table {
		w = math.Max(w, least)
	}
	return w
}
