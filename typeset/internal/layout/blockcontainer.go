package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// blockBox is a block container while it is set, or the part of it that one page has.
type blockBox struct {
	l     *Layout
	b     *box.Box
	s     *style.Style
	sp    Space
	from  *Break
	f     *Fragment
	e     edges
	sized edges // without the room of a legend
	in    flowSpace

	legend     Kid     // of a fieldset, or none
	used       float64 // block size of the earlier parts
	top        float64 // edges of this part
	bottom     float64
	cloned     float64 // edges that every part has for itself
	definite   float64 // border-box height, or Auto
	height     float64 // of the content box, through the ratio too, or Auto
	minH       float64
	clone      bool
	bfc        bool // it makes a formatting context
	clamps     bool // its lines are limited
	contained  bool // its contents have no say in its size
	grows      bool // what breaks add to its contents makes it taller
	monolithic bool

	contents float64 // height of what is in flow
	filled   float64 // the same with floats
	total    float64 // border-box height from here on
	edgeOver bool    // the lower edge has no room, but all before it has
	rest     *Break
}

// block sets a block container (CSS 2.2, §9.4.1).
func (l *Layout) block(b *box.Box, sp Space, from *Break) (*Fragment, *Break) {
	r := blockBox{l: l, b: b, s: b.Style, sp: sp, from: from}
	r.sizeEdges()
	r.space()
	if !r.setContents() {
		return nil, nil
	}
	r.sizeHeight()
	r.cut()
	r.finish()
	return r.f, r.rest
}

// sizeEdges works out the width, the edges and what is known of the height.
func (r *blockBox) sizeEdges() {
	l, b, s, sp := r.l, r.b, r.s, r.sp
	r.e = l.edges(b, sp.W)
	e := &r.e
	w := l.width(b, sp, e)
	r.sized = r.e // a legend takes its room from the height that is set
	if c := legendOf(b); c != nil && r.from == nil {
		r.legend.F, r.legend.X, r.legend.Y = l.legend(b, c, sp, e, w)
	}
	r.f = l.fragments.New()
	*r.f = Fragment{Box: b, W: w, Border: e.border, Padding: e.padding, Baseline: Indefinite, LastBaseline: Indefinite, Continued: r.from != nil}
	r.clone = s.BoxDecorationBreak == style.Clone
	if r.from != nil {
		r.used = r.from.Used
		if !r.clone {
			r.f.Border[style.Top], r.f.Padding[style.Top] = 0, 0
		}
	}
	r.top, r.bottom = r.f.Border[style.Top]+r.f.Padding[style.Top], e.bottom()
	if r.clone {
		r.cloned = r.top + r.bottom
	}
	r.definite, r.height = l.definiteHeight(b, sp, &r.sized), Indefinite
	switch {
	case known(r.definite):
		r.height = math.Max(r.definite-e.blockEdges(), 0)
	case s.AspectRatio.Ratio > 0 && heightIsAuto(s, sp) && !known(sp.FixedH):
		r.height = math.Max(l.clampHeight(b, throughRatio(s, w, e.inlineEdges(), e.blockEdges(), 1/s.AspectRatio.Ratio), sp, e)-e.blockEdges(), 0)
	}
	r.minH = s.MinHeight.Resolve(sp.H)
}

// space works out the room that the contents have, and whether a page's end cuts them.
func (r *blockBox) space() {
	b, s, sp, e := r.b, r.s, r.sp, &r.e
	r.clamps = s.MaxLines > 0 && r.from == nil
	r.bfc = b.IsBFC() || r.clamps || !sp.Joins
	_, r.contained = s.SizeContained()
	in := flowSpace{
		w: math.Max(r.f.W-e.inlineEdges(), 0), h: r.height, x: e.left(), y: r.top, left: sp.BlockLeft - r.top, page: sp.Page, atTop: sp.AtTop, bare: sp.Bare, forceProgress: sp.ForceProgress,
		column: sp.Column, nameless: sp.Nameless, spans: sp.Spans, floats: sp.Floats, bfcX: sp.X, bfcY: sp.Y,
	}
	if in.rtl = isRTL(b); in.rtl { // a cell may be narrower than its edges: it overflows at the far side
		in.x = r.f.W - e.border[style.Right] - e.padding[style.Right] - in.w
	}
	if b.Anon && !known(r.height) { // percentages look past anonymous boxes (CSS 2.2, §9.2.1.1)
		in.h = sp.H
	}
	if r.clone && sp.cutting() {
		in.left -= r.bottom
	}
	if r.bfc {
		in.floats, in.bfcX, in.bfcY = nil, 0, 0
	} else {
		in.clamp = sp.clamp
	}
	in.trim = textTrimIn(s, sp, e, r.from != nil)
	in.collapseTop = !r.bfc && r.from == nil && r.top == 0
	in.collapseBottom = !r.bfc && r.bottom == 0 && !known(r.height)
	in.bfc, in.edge = r.bfc, r.bottom > 0 && (!known(r.height) || sp.Grows) && !r.clone

	// what a break adds to its contents makes a box taller that is no taller than these
	// by itself, or that nobody can scroll on paper
	scrolls := scrollsDown(b) && known(r.definite)
	r.grows = sp.Grows || scrolls && r.definite > sp.Page && !sp.Column
	r.monolithic = (scrolls || r.contained || isControl(b)) && (sp.Column || known(r.definite) && r.definite <= sp.Page)
	if r.monolithic {
		in.left = inf
	}
	r.in = in
}

// set sets the contents in a space.
func (r *blockBox) set(in flowSpace) (float64, *Break) {
	if r.legend.F != nil {
		r.f.add(r.legend.F, r.legend.X, r.legend.Y, 0, 0)
	}
	if r.b.Inline {
		return r.l.lines(r.f, r.b, in, r.from)
	}
	return r.l.flow(r.f, r.b, in, r.from)
}

// setContents sets the contents, and tells whether anything fits.
func (r *blockBox) setContents() bool {
	f, sp := r.f, r.sp
	var h float64
	if r.clamps {
		h, r.rest = r.setClamped()
	} else {
		h, r.rest = r.set(r.in)
	}
	if h < 0 || sp.Bare && !sp.ForceProgress && r.rest != nil && len(r.rest.Float) > 0 && len(f.Kids) == 0 {
		return false
	}
	if r.rest == nil && r.bottom > 0 && (!known(r.height) || sp.Grows) && sp.cutting() && exceeds(r.top+h+r.bottom, sp.BlockLeft) && h > 0 {
		end := h - f.end.sum() // before the margin of the last child
		if !r.dropsEdge() {
			h, r.rest = r.holdEdge(h, end)
		}
		r.edgeOver = r.rest == nil && atMost(r.top+end, sp.BlockLeft)
	}
	if r.contained && r.rest == nil {
		h = r.s.IntrinsicSize[1]
	}
	r.contents, r.filled = h, h
	if r.bfc {
		if !r.contained {
			r.filled = math.Max(h, f.floatBottom(r.in, r.top))
		}
		f.floats = nil // nobody outside sees them
	}
	return true
}

// holdEdge sets contents of height h again so that the last of them, which end at end,
// goes on together with the lower edge of the box, for which no room is left: between
// the two there is no break (CSS Break 4, §4.1). The contents stay as they are when
// there is no good place to break them.
func (r *blockBox) holdEdge(h, end float64) (float64, *Break) {
	if r.from != nil && r.from.held { // the page before left these for the edge
		return h, nil
	}
	f, first, ends := r.f, *r.f, []float64{end}
	if !endUnseen(r.b, &r.e) {
		ends = append(ends, f.seenEnd(false)-r.top, f.seenEnd(true)-r.top) // below are margins and such, which end with the page
	}
	var rest *Break
	r.l.hold(ends, func(end float64) bool {
		in := r.in
		if in.left = end - 0.02; in.left <= 0 { // nothing would stay
			return false
		}
		f.Kids, f.out, f.carried = nil, nil, nil
		got, cut := r.set(in)
		if got < 0 || cut == nil || cut.Penalty > noPenalty || cut.anyBare() || len(f.Kids) == 0 {
			*f = first
			return false
		}
		f.lengthenLast(cut, r.in.left-in.left)
		cut.held = true
		h, rest = got, cut
		return true
	})
	return h, rest
}

// dropsEdge tells whether the lower edge ends with the page; that of a cell goes on with its row.
func (r *blockBox) dropsEdge() bool {
	return dropsEdge(r.b, &r.e, &r.sp) && r.s.Display.Outer != style.TableCell
}

// filledHeight is the border-box height that the contents ask for.
func (r *blockBox) filledHeight() float64 {
	h := r.top + r.filled + r.bottom
	if r.from != nil && r.from.bare && h > r.sp.Page { // its lower edge has no room on any page, and has begun on the one before
		h = math.Min(h, r.from.left)
	}
	return h
}

// whole tells whether all contents are set, but for what overflows them.
func (r *blockBox) whole() bool { return r.rest == nil || r.rest.Ended }

// sizeHeight works out the height of the part.
func (r *blockBox) sizeHeight() {
	l, b, s, sp, e, f := r.l, r.b, r.s, r.sp, &r.e, r.f
	r.total = r.filledHeight()
	if r.legend.F != nil && r.contained { // its legend takes its room from the size that it has
		r.total = r.filled + r.sized.blockEdges()
	}
	if known(sp.FixedH) && s.Height.IsAuto() {
		own := r.total + r.used
		if s.AspectRatio.Ratio > 0 {
			own = math.Max(own, throughRatio(s, f.W, e.inlineEdges(), e.blockEdges(), 1/s.AspectRatio.Ratio))
		}
		f.own = math.Max(l.clampHeight(b, own, sp, &r.sized)-r.used, 0)
	}
	switch {
	case known(r.definite):
		r.total = r.definite - r.used
	case known(r.height):
		r.total = math.Max(l.clampHeight(b, r.height+e.blockEdges(), sp, &r.sized)-r.used, 0)
		if growsPastRatio(b) && r.whole() { // content may grow it past the ratio, but not past the greatest height
			r.total = math.Max(r.total, l.clampHeight(b, r.filledHeight()+r.used, sp, &r.sized)-r.used)
		}
	case r.whole():
		r.total = l.autoHeight(b, r.total, r.used, sp, &r.sized)
	}
	if r.whole() && r.used == 0 {
		if !known(sp.FixedH) && clampedByContent(s) {
			r.total = l.clampByContent(b, r.total, r.filledHeight(), sp, &r.sized)
		}
		r.total = math.Max(r.total, sp.MinH)
	}
	if s.AlignContent.Kind != style.Normal && r.rest == nil && r.from == nil {
		f.alignContent(s.AlignContent, r.total-r.filledHeight(), r.in)
	}
	if r.grows && r.whole() && (r.used > 0 || r.rest != nil) {
		r.total = math.Max(r.total, r.filledHeight())
	}
	if r.from != nil && r.from.Ended {
		r.total = 0
	}
	if !known(r.height) && !r.whole() && sp.cutting() { // a greatest height ends it all the same
		if v := s.MaxHeight.Resolve(sp.H); known(v) {
			if left := borderBox(s, v, r.sized.blockEdges()) - r.used; atMost(left, sp.BlockLeft) {
				r.total, r.rest.Ended = math.Max(left, 0), !holdsSpanner(b)
			}
		}
	}
}

// ends tells whether the box ends in this part, though some of its contents go on.
func (r *blockBox) ends() bool {
	if r.from != nil && r.from.Ended {
		return true
	}
	given := known(r.height) && !r.grows && !(r.sp.Spans && holdsSpanner(r.b))
	return r.rest != nil && (r.rest.Ended || given) && atMost(r.total, r.sp.BlockLeft)
}

// goesOnEmpty tells whether the box itself goes on where all that it holds is set.
func (r *blockBox) goesOnEmpty() bool {
	asked := known(r.height) || r.edgeOver || known(r.minH) && exceeds(r.total, r.filledHeight())
	return r.sp.cutting() && exceeds(r.total, r.sp.BlockLeft) && asked && !r.monolithic && r.sp.BlockLeft > 0
}

// cut gives the part its height, and says where the next one goes on.
func (r *blockBox) cut() {
	f, sp, avoid := r.f, r.sp, avoids(r.s.BreakInside, r.sp.Column)
	spanner, ends := r.rest.spanner() != nil, r.ends()
	switch {
	case r.rest != nil && ends && !spanner && clips(r.s): // what overflows is not seen; it stays here
		f.Kids, f.out, f.carried = nil, nil, nil
		r.in.left = inf
		r.set(r.in)
		f.H, r.rest = math.Max(r.total, 0), nil
	case r.rest != nil && ends && !spanner:
		f.H, f.goesOn = math.Max(r.total, 0), true
		r.rest.Used, r.rest.Ended = r.used+f.H, true
		r.rest.rule(avoid)
	case spanner: // it goes on below the box across the columns
		f.H, f.Cut, f.ended = r.top+r.filled, true, true
		r.rest.Used = r.used + f.H
		r.openBelow()
	case r.rest != nil:
		r.rest.Used, r.rest.Ended = r.used+sp.BlockLeft-r.cloned, false
		r.rest.rule(avoid)
		f.H, f.Cut = sp.BlockLeft, true
		if known(r.height) && !r.grows {
			f.H = math.Max(math.Min(r.total, sp.BlockLeft), 0)
		}
		if !r.clone {
			r.openBelow()
		}
	case r.goesOnEmpty():
		f.H, f.Cut = sp.BlockLeft, true
		f.ended = known(r.height) // it is as tall whatever it holds
		r.rest = &Break{Child: len(r.b.Children), Used: r.used + sp.BlockLeft - r.cloned, Line: cursor{leaf: endOfText}, bare: true, left: r.total - sp.BlockLeft + r.cloned}
		r.rest.unseen = (r.edgeOver || r.grows) && endUnseen(r.b, &r.e)
		r.rest.rule(avoid)
		if r.edgeOver && !r.dropsEdge() {
			r.rest.Penalty = edgePenalty
		}
		if !r.clone {
			r.openBelow()
		}
	default:
		f.H = math.Max(r.total, 0)
	}
	if f.Continued || f.Cut {
		f.Before = r.used
		if known(r.height) {
			f.Whole = r.used + r.total
			if f.Cut && r.grows { // its lower edge stands further on in any case
				f.Whole = math.Max(f.Whole, r.used+f.H+r.bottom+1)
			}
		} else if !f.Cut {
			f.Whole = r.used + f.H
		}
	}
}

// openBelow leaves out the lower edge of a part that is not the last.
func (r *blockBox) openBelow() { r.f.Border[style.Bottom], r.f.Padding[style.Bottom] = 0, 0 }

// finish notes how margins collapse, and places what the box contains that is not in flow.
func (r *blockBox) finish() {
	l, b, f, filled := r.l, r.b, r.f, r.filledHeight()
	f.collapsesThrough = r.from == nil && r.rest == nil && !r.bfc && f.H == 0 && !f.apart && r.contents == 0
	if !r.in.collapseBottom || f.Cut || known(r.minH) && r.minH > 0 && exceeds(r.total, filled) || exceeds(filled, r.total) {
		f.end = strut{} // the margin ends inside, as browsers have it where a least or greatest height is in effect
	}
	if r.from == nil && b.Rare().Marker != nil {
		l.marker(f, b, r.in)
	}
	if len(f.out) > 0 && slices.ContainsFunc(f.out, func(w outOfFlow) bool { return w.by != nil }) {
		l.settleInline(f, r.sp)
	}
	if r.sp.Column && r.sp.cutting() && (r.from != nil || r.rest != nil) {
		l.keepInline(f)
	}
	if b.Kind != box.Element || !b.Style.HoldsPositioned() {
		return
	}
	l.settle(f, r.sp, r.from, r.rest)
}
