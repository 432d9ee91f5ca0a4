package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// endUnseen tells whether nothing is seen of the lower end of a box when it holds
// nothing.
func endUnseen(b *box.Box, e *edges) bool {
	return e.border[style.Bottom] == 0 && (!paints(b) || paintsCanvas(b))
}

// dropsEdge tells whether the lower edge of a box ends with its page, as nothing is seen of it: what the box holds does
// not go on for its sake.
func dropsEdge(b *box.Box, e *edges, sp *Space) bool { return endUnseen(b, e) && !sp.Column }

// clips tells whether nothing is seen of what overflows a box downwards.
func clips(s *style.Style) bool { return s.OverflowY != style.Visible }

// lengthen makes a part that was cut early, for the sake of a better break,
// reach the end of its page or column, d px further down.
func (f *Fragment) lengthen(rest *Break, d float64) {
	if !f.Cut || rest.Ended {
		return
	}
	f.H += d
	rest.Used += d
	f.lengthenLast(rest, d)
}

func (f *Fragment) lengthenLast(rest *Break, d float64) {
	if n := len(f.Kids); rest.Inner != nil && n > 0 {
		f.Kids[n-1].F.lengthen(rest.Inner, d)
	}
}

// byContent tells whether a block size is given by the contents: in this axis
// min-content, max-content and fit-content come to the same (Sizing 3, §5.1).
func byContent(s style.Size) bool {
	return s.Kind == style.MinContent || s.Kind == style.MaxContent || s.Kind == style.FitContent
}

// autoHeight applies min and max to a height that comes from the contents.
func (l *Layout) autoHeight(b *box.Box, h, used float64, sp Space, e *edges) float64 {
	if known(sp.FixedH) { // imposed, but percentages stay indefinite
		return math.Max(sp.FixedH-used, 0)
	}
	if s := b.Style; s.Height.Through != nil {
		extra := e.blockEdges()
		h = borderBox(s, s.Height.Passed(fromBorderBox(s, h+used, extra), sp.H), extra) - used
	}
	return math.Max(l.clampHeight(b, h+used, sp, e)-used, 0)
}

// floatBottom is how far floats reach into the content box of a context.
func (f *Fragment) floatBottom(in flowSpace, top float64) float64 {
	if f.floats == nil {
		return 0
	}
	return math.Min(f.floats.bottom()-top, math.Max(in.left, 0)) // not what goes on beyond the end
}

// alignContent moves the contents of a block container (Box Alignment 3, §5.1).
func (f *Fragment) alignContent(a style.Align, free float64, in flowSpace) {
	if free < 0 && (a.Safe || f.Box.Scrolls() && !a.Unsafe) { // what scrolls stays in reach
		return
	}
	dy := 0.0
	switch a.Kind {
	case style.Center, style.SpaceAround, style.SpaceEvenly:
		dy = free / 2
	case style.End, style.FlexEnd:
		dy = free
	}
	if dy == 0 || free < 0 && (a.Kind == style.SpaceAround || a.Kind == style.SpaceEvenly) {
		return
	}
	for i := range f.Kids {
		f.Kids[i].Y += dy
	}
	for i := range f.out {
		f.out[i].y += dy
	}
	f.Baseline += dy
	f.LastBaseline += dy
}

// flowSpace is the inside of a block container.
type flowSpace struct {
	rtl            bool    // lines run from the right to the left
	w, h           float64 // content box; h may be Auto
	x, y           float64 // of the content box in the border box
	left, page     float64
	atTop, bare    bool
	forceProgress  bool
	column         bool
	nameless       bool
	spans          bool // column-span works here
	bfc            bool // the box makes a formatting context
	edge           bool // the box has a border or padding below
	floats         *floats
	bfcX, bfcY     float64 // of the border box
	collapseTop    bool
	collapseBottom bool
	clamp          *clamp
	trim           textTrim
}

// cuts tells whether the flow may be cut: its page or column has an end.
func (in *flowSpace) cuts() bool { return !math.IsInf(in.left, 1) }

// mark is a state of a flow before one of its children.
type mark struct {
	child         int
	had           extent
	floats        *floats
	pending, over int
	y             float64
	penalty       Penalty
	inFlow        bool
	baseline      float64
	x, pos        float64 // where the child was set
	sp            Space
	e             *edges
	before, strut strut
	cleared       bool
	inner         *Break // that it went on from
}

// flowState is the progress of a flow.
type flowState struct {
	l       *Layout
	f       *Fragment
	b       *box.Box
	in      flowSpace
	y       float64 // end of the last child's border box, from the content top
	strut   strut
	top     bool // still at the top: margins collapse with the parent's
	placed  bool // something in flow has been placed
	after   bool // the flow begins after an unforced break
	marks   []mark
	prev    *box.Box
	last    *Fragment // that prev has been set as
	pending []pendingFloat
	over    []overflow
	cleared bool
	around  *floats // those that stand when the flow begins
}

// begunByFloat tells whether a float of this flow takes room on this page, which is among
// those that stand now: what follows it may then go on.
func (st *flowState) begunByFloat(now *floats) bool {
	return now != st.around && exceeds(now.bottom(), st.in.bfcY+st.in.y)
}

// flow sets block-level children. It returns the height of the contents, or a
// negative one when nothing fits.
func (l *Layout) flow(f *Fragment, b *box.Box, in flowSpace, from *Break) (float64, *Break) {
	st := &flowState{l: l, f: f, b: b, in: in, top: in.collapseTop, around: in.floats}
	start := 0
	if from != nil {
		start = from.Child
		st.after = from.Forced == 0
		for _, p := range from.Float {
			st.float(p.b, p.at, true)
		}
		for _, o := range from.Over {
			st.goOn(o)
		}
	}
	legend := legendOf(b)
	for i := start; i < len(b.Children); i++ {
		if in.clamp.done() {
			st.waitInside(b.Children[i:])
			break
		}
		c := b.Children[i]
		var inner *Break
		if from != nil && i == start {
			inner = from.Inner
		}
		if c == legend { // it stands in the border
			continue
		}
		if rest, stop := st.set(c, i, inner, from != nil && from.Forced != 0 && st.prev == nil); stop {
			if rest == nil {
				return -1, nil
			}
			f.floats = st.in.floats
			rest.Float, rest.Over = append(rest.Float, st.pending...), append(rest.Over, st.over...)
			return math.Max(st.y, 0), rest
		}
	}
	f.floats = st.in.floats
	h := math.Max(st.finish(), 0)
	if len(st.pending)+len(st.over) > 0 {
		rest := &Break{Child: len(b.Children), Float: st.pending, Over: st.over, Ended: !in.bfc || len(st.pending) == 0 && !anyFloat(st.over)}
		for _, o := range st.over {
			rest.Penalty = max(rest.Penalty, o.at.Penalty)
		}
		return h, rest
	}
	return h, nil
}

// anyFloat tells whether floats are among what overflows.
func anyFloat(list []overflow) bool {
	return slices.ContainsFunc(list, func(o overflow) bool {
		for at := o.at; at != nil; at = at.Inner {
			if len(at.Float) > 0 || anyFloat(at.Over) {
				return true
			}
		}
		return false
	})
}

// goOn sets what still overflows a child that ended earlier.
func (st *flowState) goOn(o overflow) {
	c := st.b.Children[o.child]
	e := st.l.edges(c, st.in.w)
	x, sp := st.childSpace(c, &e, 0, Indefinite)
	sp.AtTop = true
	frag, rest := st.l.Lay(c, sp, o.at)
	if frag == nil {
		frag, rest = st.l.must(c, sp, o.at)
	}
	dx, dy := relative(c, st.in.w, st.in.h, isRTL(st.b))
	st.f.add(frag, x, st.in.y, dx, dy)
	st.take(frag.floats)
	if rest != nil {
		st.over = append(st.over, overflow{o.child, rest})
	}
}

// finish closes the flow: the last margins stay inside or go on to the parent.
func (st *flowState) finish() float64 {
	if st.top { // all margins collapsed with the parent's
		st.f.end = strut{}
		return 0
	}
	if st.in.collapseBottom && !st.cleared {
		st.f.end = st.strut
		return st.y
	}
	st.f.end = strut{}
	if !st.in.collapseBottom {
		st.f.end = st.strut
	}
	end := math.Max(st.y+st.strut.sum(), 0)
	if left := st.in.left; !st.in.edge && st.y <= left && end > left { // margins end with the page (CSS Break 4, §5.2)
		return left
	}
	return end
}

// take goes on with the floats as they are after a child; one that is a formatting
// context of its own has none.
func (st *flowState) take(after *floats) {
	if after != nil {
		st.in.floats = after
	}
}

// wait notes a positioned box with its static position.
func (st *flowState) wait(c *box.Box) {
	y := st.y + st.strut.sum()
	if st.top {
		y = 0
	}
	in := st.in
	w := staticPlace(c, st.b, rect{in.x, in.y + y, in.w, 0})
	if c.Style.WasInline { // it would have begun a line of its own
		l, r := in.floats.band(in.bfcY+in.y+y, 0, in.bfcX+in.x, in.bfcX+in.x+in.w)
		if indent := st.b.Style.TextIndent; st.prev == nil && !indent.Hanging {
			l, r = indented(l, r, indent.Of(in.w), isRTL(st.b))
		}
		w = inlinePlace(c, st.b, rect{l - in.bfcX, in.y + y, r - l, 0})
	}
	st.f.out = append(st.f.out, w)
}

// waitInside notes the positioned boxes among content that is not set: they are
// placed by a containing block that may be (CSS Overflow 4, §5.4).
func (st *flowState) waitInside(list []*box.Box) {
	for _, c := range list {
		if c.Positioned() {
			st.wait(c)
		} else if c.Kind == box.Element && !c.Style.HoldsPositioned() {
			st.waitInside(c.Children)
		}
	}
}

// indented is what an indent leaves of a line from l to r.
func indented(l, r, indent float64, rtl bool) (float64, float64) {
	if rtl {
		return l, r - indent
	}
	return l + indent, r
}

// inlinePlace is the static position of what would stand on a line that is
// empty otherwise.
func inlinePlace(c, parent *box.Box, r rect) outOfFlow {
	rtl := isRTL(parent)
	at := sideOf(style.Align{Kind: style.Start}, rtl, rtl)
	switch parent.Style.TextAlign {
	case style.LeftSide:
		at = low
	case style.RightSide:
		at = high
	case style.Center:
		at = mid
	case style.End:
		at = sideOf(style.Align{Kind: style.End}, rtl, rtl)
	}
	x := r.x + r.w*float64(at)/2
	return outOfFlow{b: c, rect: rect{x, r.y, 0, 0}, sx: sideOf(style.Align{Kind: style.Start}, rtl, rtl), rtl: rtl}
}

// float places a floating child at the current position.
func (st *flowState) float(c *box.Box, at *Break, moved bool) {
	y := st.y + st.strut.sum()
	if st.top {
		y = 0
	}
	if rest := st.l.placeFloat(st.f, &pendingFloat{b: c, at: at}, &st.in, y, moved); rest != nil {
		st.pending = append(st.pending, *rest)
	}
}

// placeFloat sets a float at or below y (content coordinates) and adds it to
// f. What does not fit on the page is returned to go on with; moved tells that it
// comes from the page before.
func (l *Layout) placeFloat(f *Fragment, p *pendingFloat, in *flowSpace, y float64, moved bool) *pendingFloat {
	c, at := p.b, p.at
	e := l.edges(c, in.w)
	sp := newSpace(in.w, in.h)
	sp.Shrink = true
	sp.Page, sp.Column, sp.Nameless = in.page, in.column, in.nameless
	x0, x1 := in.bfcX+in.x, in.bfcX+in.x+in.w
	yy := in.bfcY + in.y + y
	yy = math.Max(yy, in.floats.lowestTop())
	if c.Style.Clear != style.None {
		yy = math.Max(yy, in.floats.clear(c.Style.Clear))
	}
	left := c.Style.Float == style.LeftSide
	pageEnd := in.bfcY + in.y + in.left
	if exceeds(yy, pageEnd) && e.margin[style.Top] >= 0 { // earlier ones have gone on: so does it, whatever it holds
		l.noteFloat(in, goesOn(left, pageEnd))
		return p.from(at)
	}
	if at != nil {
		e.margin[style.Top] = 0
		if rest := l.fillWithFloat(f, p, in, sp, yy, &e); rest != nil {
			return rest
		}
	}
	sp.AtTop = true // with all the room in the world, something fits
	frag, brk := l.Lay(c, sp, at)
	if frag == nil {
		return nil
	}
	mw, mh := frag.W+e.margin[style.Left]+e.margin[style.Right], frag.H+e.margin[style.Top]+e.margin[style.Bottom]
	yy, lft, rgt := in.floats.fit(yy, mw, math.Max(mh, 1e-3), x0, x1)
	top := yy - in.bfcY - in.y
	if !moved && in.cuts() && forcedBreak(c.Style.BreakBefore, in.column) && !(in.atTop && atMost(top, 0)) {
		l.noteFloat(in, goesOn(left, pageEnd))
		return p.from(nil)
	}
	if in.cuts() && (exceeds(top+e.margin[style.Top]+frag.reach(), in.left) || l.forcedInside(c, in.column)) {
		sp.BlockLeft, sp.AtTop = in.left-top-e.margin[style.Top], in.atTop && atMost(top, 0)
		cut, brk2 := (*Fragment)(nil), (*Break)(nil)
		if atMost(top, in.left) {
			cut, brk2 = l.Lay(c, sp, at)
		}
		switch {
		case sp.AtTop && cut == nil: // nothing is gained further on
			frag, brk = l.must(c, sp, at)
			mh = frag.H + e.margin[style.Top] + e.margin[style.Bottom]
		case cut == nil || !sp.AtTop && (brk2 != nil && brk2.Penalty > noPenalty || exceeds(cut.H, sp.BlockLeft)):
			l.noteFloat(in, goesOn(left, pageEnd))
			return p.from(at)
		default:
			frag, brk = cut, brk2
			mh = frag.H + e.margin[style.Top] + e.margin[style.Bottom]
		}
	}
	if brk != nil && !brk.Ended {
		mh = pageEnd + beyond - yy
	} else if over := yy + mh - pageEnd; over > 0 { // its margin ends with the page (CSS Break 4, §5.2)
		mh -= math.Min(over, math.Max(e.margin[style.Bottom], 0))
	}
	l.putFloat(f, frag, p, in, &e, floated{left: left, y: yy, w: mw, h: mh}, lft, rgt)
	if brk != nil {
		return p.from(brk)
	}
	return nil
}

// fillWithFloat sets a float that goes on from a break and fills the page: what is left
// of it need not be set to see that. It gives what goes on further, or nil when that is
// not so.
func (l *Layout) fillWithFloat(f *Fragment, p *pendingFloat, in *flowSpace, sp Space, y float64, e *edges) *pendingFloat {
	if !in.cuts() {
		return nil
	}
	top := y - in.bfcY - in.y
	sp.BlockLeft, sp.AtTop = in.left-top, in.atTop && atMost(top, 0)
	frag, rest := l.Lay(p.b, sp, p.at)
	if frag == nil || rest == nil || rest.Ended || rest.Penalty > noPenalty {
		return nil
	}
	to := floated{left: p.b.Style.Float == style.LeftSide, y: y, w: frag.W + e.margin[style.Left] + e.margin[style.Right], h: in.bfcY + in.y + in.left + beyond - y}
	fits, lft, rgt := in.floats.fit(y, to.w, to.h, in.bfcX+in.x, in.bfcX+in.x+in.w)
	if fits != y {
		return nil
	}
	l.putFloat(f, frag, p, in, e, to, lft, rgt)
	return p.from(rest)
}

// putFloat adds the fragment of a float, which takes up the place to between lft and
// rgt.
func (l *Layout) putFloat(f, frag *Fragment, p *pendingFloat, in *flowSpace, e *edges, to floated, lft, rgt float64) {
	to.x = lft
	if !to.left {
		to.x = rgt - to.w
	}
	to.shape = outlineOf(frag, e, in.w)
	l.noteFloat(in, to)
	dx, dy := relative(p.b, in.w, in.h, in.rtl)
	for around := p.in; around != nil; around = around.up { // it moves with what it is in (CSS 2.2, §9.4.3)
		x, y := relative(around.box, in.w, in.h, in.rtl)
		dx, dy = dx+x, dy+y
	}
	f.add(frag, to.x-in.bfcX+e.margin[style.Left], to.y-in.bfcY+e.margin[style.Top], dx, dy)
}

// noteFloat adds the margin box of a float to the context's.
func (l *Layout) noteFloat(in *flowSpace, x floated) {
	in.floats = in.floats.with(x, l.floatMem.New())
}

// set sets one child, in flow or out of it. It tells the flow to stop with a break, or with nil when nothing fits at all.
func (st *flowState) set(c *box.Box, i int, inner *Break, keepMargin bool) (*Break, bool) {
	if br := st.endsBefore(c, i); br != nil {
		return br, true
	}
	switch {
	case c.Positioned():
		st.wait(c)
	case c.Floats():
		st.float(c, nil, false)
	default:
		return st.child(c, i, inner, keepMargin)
	}
	return nil, false
}

// child sets one in-flow child. It tells the flow to stop with a break, or
// with nil when nothing fits at all.
func (st *flowState) child(c *box.Box, i int, inner *Break, keepMargin bool) (*Break, bool) {
	in := &st.in
	m := st.mark(c, i, inner)
	pos := st.belowMargins(c, m, keepMargin)
	if st.filledByMargin(m, pos) {
		return &Break{Child: i}, true // its margin fills the page, and ends with it (CSS Break 4, §5.2)
	}
	x, sp := st.childSpace(c, m.e, pos, inner.widthIn(in.w))
	pos = sp.Y - in.bfcY - in.y
	if end := in.bfcY + in.y + in.left; in.cuts() && atMost(end, in.floats.bottom()) && (pos > in.left+beyond/2 || inner != nil && pos > math.Max(in.left-rounding, 0)) {
		return st.afterFloats(i, inner)
	}
	sp.ForceProgress, sp.Bare = in.forceProgress && !st.placed && !st.begunByFloat(in.floats), in.bare && !st.placed
	sp.AtTop = in.atTop && (sp.ForceProgress || !st.placed && pos < 1 || atMost(pos, 0))
	m.x, m.pos, m.sp = x, pos, sp
	frag, rest := st.layClear(c, m)
	if in.cuts() && frag == nil {
		if !m.sp.AtTop {
			return st.breakBefore(len(st.marks)-1, nil, worstPenalty)
		}
		frag, rest = st.l.must(c, m.sp, inner)
	}
	if frag == nil {
		frag = &Fragment{Box: c, Baseline: Indefinite, LastBaseline: Indefinite}
	}
	return st.keepOrBreak(c, m, frag, rest.inRoom(m.sp.W, in.w))
}

// endsBefore tells of a break before a child that does not depend on the room: it is forced, or the child spans the
// columns.
func (st *flowState) endsBefore(c *box.Box, i int) *Break {
	in, next := &st.in, c
	switch {
	case goesWithFlow(c):
		next = nil
	case c.OutOfFlow():
		return nil
	}
	if in.cuts() && st.prev != nil && (next == nil || !isNothing(c)) { // which may be empty, and there for the break alone
		if k := st.l.forcedAfter(st.prev, st.last, next, in.column, !in.nameless); k != 0 {
			return &Break{Child: i, Forced: k}
		}
	}
	if next != nil && in.spans && spans(c) {
		st.y = st.finish()
		return &Break{Child: i, span: c}
	}
	return nil
}

// mark notes where the flow stands before a child, to come back to.
func (st *flowState) mark(c *box.Box, i int, inner *Break) *mark {
	e := st.l.edges(c, st.in.w)
	m := mark{child: i, had: st.f.extent(), pending: len(st.pending), over: len(st.over), floats: st.in.floats, y: st.y, inFlow: st.placed, baseline: st.f.Baseline, inner: inner, e: &e}
	if st.prev != nil {
		m.penalty = boundary(st.l.after(st.prev), st.l.before(c), st.in.column)
	}
	st.marks = append(st.marks, m)
	return &st.marks[len(st.marks)-1]
}

// belowMargins is where a child's border box begins: below the margins that collapse with its own, and below floats that
// it clears. They are noted in m.
func (st *flowState) belowMargins(c *box.Box, m *mark, keepMargin bool) (pos float64) {
	in := &st.in
	if cutTop := m.inner != nil || st.after && !st.placed && !keepMargin; !cutTop {
		m.strut = st.l.topStrut(c, in.w, st.mustClear)
	}
	m.before = st.strut
	if !st.top {
		m.before.join(m.strut)
		pos = st.y + m.before.sum()
	}
	if c.Style.Clear != style.None && in.floats != nil {
		if y := in.floats.clear(c.Style.Clear) - in.bfcY - in.y; exceeds(y, pos) {
			pos, m.cleared, st.top = y, true, false
		}
	}
	return pos
}

// filledByMargin tells whether nothing but a child's margin fits.
func (st *flowState) filledByMargin(m *mark, pos float64) bool {
	in := &st.in
	return in.cuts() && !st.placed && m.inner == nil && !m.cleared && exceeds(pos, 0) && atMost(in.left, pos) && exceeds(in.left, 0) && (in.atTop || pos >= in.page)
}

// layClear lays a child out at its place. A formatting context must clear the floats with all its height: it goes down
// until it does.
func (st *flowState) layClear(c *box.Box, m *mark) (frag *Fragment, rest *Break) {
	in := &st.in
	frag, rest = st.l.Lay(c, m.sp, m.inner)
	for range 100 {
		if frag == nil || !(c.IsBFC() || c.Kind == box.Replaced) || in.floats == nil || m.cleared && m.pos > in.floats.bottom() {
			break
		}
		y := in.bfcY + in.y + m.pos
		l2, r2 := in.floats.band(y, frag.H, in.bfcX+in.x, in.bfcX+in.x+in.w)
		bx := in.bfcX + m.x
		next := in.floats.nextEdge(y)
		if atMost(l2, bx) && atMost(bx+frag.W, r2) || l2 <= in.bfcX+in.x && r2 >= in.bfcX+in.x+in.w || math.IsInf(next, 1) || m.e.margin[style.Left] < 0 || m.e.margin[style.Right] < 0 {
			break
		}
		x, sp := st.childSpace(c, m.e, next-in.bfcY-in.y, Indefinite)
		sp.AtTop, m.sp.AtTop = false, false
		if frag, rest = st.l.Lay(c, sp, m.inner); frag != nil {
			m.x, m.pos, m.sp = x, sp.Y-in.bfcY-in.y, sp
		}
	}
	return frag, rest
}

// keepOrBreak places a child that was laid out, or breaks before it where that is better than inside it or after it.
func (st *flowState) keepOrBreak(c *box.Box, m *mark, frag *Fragment, rest *Break) (*Break, bool) {
	in := &st.in
	if in.cuts() && (rest == nil || rest.Ended) && exceeds(m.pos+frag.H, in.left) && !m.sp.AtTop && frag.H > 0 {
		return st.breakBefore(len(st.marks)-1, nil, worstPenalty)
	}
	if rest != nil && rest.Penalty > noPenalty && !m.sp.AtTop && rest.spanner() == nil {
		if r, stop := st.breakBefore(len(st.marks)-1, rest, rest.Penalty); r == nil || r.Inner != rest {
			return r, stop
		}
	}
	rest = frag.endUnseen(rest, in.column)
	st.place(c, frag, m.x, m.pos, m.e, m.cleared, m.before, m.strut)
	if rest != nil && rest.Ended {
		st.over = append(st.over, overflow{m.child, rest})
		return nil, false
	}
	if rest != nil {
		return &Break{Child: m.child, Inner: rest, Penalty: rest.Penalty, Forced: 0}, true
	}
	return nil, false
}

// afterFloats breaks before child number i, or where it goes on, which stands below
// floats that are themselves not finished on this page.
func (st *flowState) afterFloats(i int, inner *Break) (*Break, bool) {
	rest, stop := st.breakBefore(len(st.marks)-1, nil, worstPenalty)
	if rest == nil && st.in.atTop { // the floats are what stands on this page
		rest = &Break{Child: i, Inner: inner}
	}
	return rest, stop
}

// childSpace is the space for an in-flow child at pos: its x and, for a box
// that makes a formatting context, a place beside the floats. One that goes on keeps the width that it has begun with,
// if that is known.
func (st *flowState) childSpace(c *box.Box, e *edges, pos, begun float64) (float64, Space) {
	in := st.in
	sp := newSpace(in.w, in.h)
	sp.Page, sp.Column, sp.Nameless = in.page, in.column, in.nameless
	sp.Joins, sp.Floats, sp.clamp, sp.trim = true, in.floats, in.clamp, st.inChild(c)
	sp.Spans = in.spans && !c.IsBFC()
	x0, x1 := in.x, in.x+in.w
	if (c.IsBFC() || c.Kind == box.Replaced) && in.floats != nil {
		pos, x0, x1 = st.beside(c, e, pos)
		sp.W = in.w
		switch {
		case !exceeds(in.w, x1-x0):
		case shrinksBeside(c):
			sp.W = x1 - x0
		case c.Style.Width.IsAuto() && c.Kind != box.Replaced:
			// auto width fills the band; margins may overlap the floats
			l, r := math.Max(e.margin[style.Left], x0-in.x), math.Max(e.margin[style.Right], in.x+in.w-x1)
			w := in.w - l - r
			ec := *e
			ec.margin[style.Left], ec.margin[style.Right] = l, r
			sp.FixedW = st.l.clampWidth(c, math.Max(w, e.inlineEdges()), sp, &ec)
			x0, x1 = in.x+l-e.margin[style.Left], in.x+in.w-r+e.margin[style.Right]
		}
	}
	w := sp.FixedW
	switch {
	case known(w) || !known(begun):
	case c.Style.Display.Inner == style.Table:
		sp.W = begun
	default:
		w = begun
	}
	if !known(w) && justifies(selfJustified(st.b, c)) {
		own := sp
		own.Shrink = true
		w = st.l.blockWidth(c, own, e)
	}
	if !known(w) && (c.Kind == box.Replaced || c.Style.Width.Kind != style.Auto || c.Style.MaxWidth.Kind != style.None || c.Style.Display.Inner == style.Table || c.Style.AspectRatio.Ratio > 0 || legacyAlign(st.b.Style.TextAlign) || isRTL(st.b) || c.Turned() && orthogonal(c) && e.auto[style.Left]) {
		w = st.l.blockWidth(c, sp, e)
	}
	x := x0 + e.margin[style.Left]
	if known(w) {
		free := x1 - x0 - w - e.margin[style.Left] - e.margin[style.Right]
		x += autoMargin(st.b, c, e, free)
		if c.Style.Display.Inner != style.Table {
			sp.FixedW = w
		}
		if c.Kind == box.Replaced {
			sp.FixedW = Indefinite
		}
	}
	sp.X, sp.Y = in.bfcX+x, in.bfcY+in.y+pos
	sp.BlockLeft = in.left - pos
	return x, sp
}

func legacyAlign(k style.Keyword) bool {
	return k == style.XWebkitCenter || k == style.XWebkitLeft || k == style.XWebkitRight
}

// selfJustified is how a block-level box is aligned in its container (CSS Align 3, §6.1).
func selfJustified(parent, c *box.Box) style.Align {
	if self := c.Style.JustifySelf; c.Anon || self.Kind != style.Auto {
		return self
	}
	return parent.Style.JustifyItems
}

// justifies tells whether a block-level box that is aligned so stands somewhere in its container
// instead of filling it.
func justifies(self style.Align) bool {
	switch self.Kind {
	case style.Auto, style.Normal, style.Stretch, style.Legacy:
		return false
	}
	return true
}

// autoMargin shares free space between auto margins of a child (CSS 2.2, §10.3.3): it tells how much comes before the child.
func autoMargin(parent, c *box.Box, e *edges, free float64) float64 {
	if before, ok := autoShare(free, e.auto[style.Left], e.auto[style.Right]); ok {
		return before
	}
	rtl := isRTL(parent)
	if self := selfJustified(parent, c); justifies(self) {
		if free < 0 && self.Safe {
			self = style.Align{Kind: style.Start}
		}
		return free * float64(sideOf(self, rtl, isRTL(c))) / 2
	}
	switch k := parent.Style.TextAlign; {
	case free >= 0 && k == style.XWebkitCenter:
		return free / 2
	case free >= 0 && k == style.XWebkitRight:
		return free
	case rtl:
		return free
	}
	return 0
}

// autoShare is how much of free room comes before a box whose margins at the start and the end may be auto. It is not ok
// where neither is, or where there is no room: then they are 0.
func autoShare(free float64, start, end bool) (before float64, ok bool) {
	switch {
	case free < 0 || !start && !end:
		return 0, false
	case start && end:
		return free / 2, true
	case start:
		return free, true
	}
	return 0, true
}

// blockWidth is the border-box width of an in-flow child.
func (l *Layout) blockWidth(c *box.Box, sp Space, e *edges) float64 {
	if c.Kind == box.Replaced {
		w, _ := l.replacedSize(c, sp, e)
		return w
	}
	if c.Style.Display.Inner == style.Table {
		return l.tableWidth(c, sp, e)
	}
	return l.width(c, sp, e)
}

// beside finds the place for a formatting context next to floats
// (CSS 2.2, §9.5: it must not overlap them).
func (st *flowState) beside(c *box.Box, e *edges, pos float64) (y, x0, x1 float64) {
	in := st.in
	sp := newSpace(in.w, in.h)
	need := 0.0
	switch {
	case shrinksBeside(c):
		sp.W = 0
		need = st.l.blockWidth(c, sp, e)
	case c.Kind == box.Replaced || c.Style.Width.Kind != style.Auto || c.Style.Display.Inner == style.Table:
		need = st.l.blockWidth(c, sp, e)
	default: // as narrow as it may be, as browsers have it
		need = st.l.clampWidth(c, e.inlineEdges(), sp, e)
	}
	y = pos
	bx := in.bfcX
	for range 1000 {
		l, r := in.floats.band(in.bfcY+in.y+y, 1, bx+in.x, bx+in.x+in.w)
		ml, mr := math.Max(l-bx, in.x+e.margin[style.Left]), math.Min(r-bx, in.x+in.w-e.margin[style.Right])
		if e.margin[style.Left] < 0 && l-bx <= in.x {
			ml = in.x + e.margin[style.Left]
		}
		if e.margin[style.Right] < 0 && r-bx >= in.x+in.w {
			mr = in.x + in.w - e.margin[style.Right]
		}
		if atMost(need, mr-ml) || l-bx <= in.x && r-bx >= in.x+in.w {
			return y, l - bx, r - bx
		}
		next := in.floats.nextEdge(in.bfcY + in.y + y)
		if math.IsInf(next, 1) {
			return y, l - bx, r - bx
		}
		y = next - in.bfcY - in.y
	}
	return y, in.x, in.x + in.w
}

// shrinksBeside tells whether a box that is as wide as its contents takes no more than the room beside
// floats, as browsers have it (CSS 2.2, §9.5, leaves it open): a table, or width: fit-content.
func shrinksBeside(c *box.Box) bool {
	if c.Kind == box.Replaced {
		return false
	}
	k := c.Style.Width.Kind
	return k == style.FitContent || k == style.Auto && c.Style.Display.Inner == style.Table
}

// place adds a set child and moves the position on.
func (st *flowState) place(c *box.Box, frag *Fragment, x, pos float64, e *edges, cleared bool, before, top strut) {
	in := st.in
	dx, dy := relative(c, in.w, in.h, isRTL(st.b))
	st.f.add(frag, x, in.y+pos, dx, dy)
	st.take(frag.floats)
	if !isNothing(c) {
		st.prev, st.last = c, frag
	}
	if frag.collapsesThrough { // margins above and below it adjoin
		if st.top {
			return
		}
		if cleared {
			st.y = pos
			st.strut = top
			st.strut.add(e.margin[style.Bottom])
			st.strut.join(frag.end)
			st.cleared = true
			// its margins stay below the clearance
			st.y -= top.sum()
			return
		}
		st.strut = before
		st.strut.add(e.margin[style.Bottom])
		st.strut.join(frag.end)
		return
	}
	st.top, st.placed, st.cleared = false, true, false
	first, last := frag.Baseline, frag.LastBaseline
	if c.Scrolls() && c.Style.Display.Inner != style.Flex && c.Style.Display.Inner != style.Grid && known(last) { // CSS Box Alignment 3, §9.1
		last = frag.H + e.margin[style.Bottom]
	}
	if !known(st.f.Baseline) && known(first) {
		st.f.Baseline = in.y + pos + first
	}
	if known(last) && c.Style.Display.Inner != style.Table { // tables hold no line boxes of the block's
		st.f.LastBaseline = in.y + pos + last
	}
	st.f.apart = true
	st.y = pos + frag.H
	st.strut = strut{}
	st.strut.add(e.margin[style.Bottom])
	st.strut.join(frag.end)
}

// breakBefore picks the best place to break at or before child number k of
// those marked (CSS Break 4, §4.4): inside it, when a break there is given,
// before it, or inside or before an earlier child. The flow is cut back to that
// place.
func (st *flowState) breakBefore(k int, inside *Break, penalty Penalty) (*Break, bool) {
	best, at := penalty, -1
	for j := k; j >= 0 && best > noPenalty; j-- {
		m := st.marks[j]
		if !m.inFlow {
			break
		}
		if m.penalty < best {
			best, at = m.penalty, j
		}
		if best > noPenalty && j > 0 && j > k-triedInside {
			if r := st.breakInside(j-1, linesPenalty); r != nil {
				return r, true
			}
		}
	}
	for j := k - 1; best > noPenalty && j >= 0 && j >= k-triedInside; j-- {
		if r := st.breakInside(j, best); r != nil {
			return r, true
		}
	}
	if at < 0 {
		m := st.marks[k]
		goOn := &Break{Child: m.child, Inner: m.inner, Penalty: m.penalty}
		begun := st.begunByFloat(m.floats)
		below := begun && atMost(m.floats.bottom(), st.in.bfcY+st.in.y+m.pos)
		switch {
		case inside != nil && below && m.penalty < inside.Penalty:
			return goOn, true
		case inside != nil:
			return &Break{Inner: inside}, true
		case below || begun && st.in.atTop || len(st.pending)+len(st.over) > 0: // what overflows has begun the flow as well
			return goOn, true
		}
		return nil, true
	}
	m := st.marks[at]
	st.backTo(m)
	return &Break{Child: m.child, Penalty: m.penalty}, true
}

// triedInside is how many of the children before a place where no break should
// be are looked into for a better one.
const triedInside = 3

// triedEnds is how many places in such a child are tried.
const triedEnds = 3

// breakInside looks for a place to break inside child number j of those marked,
// which breaks fewer rules than best, and cuts the flow there.
func (st *flowState) breakInside(j int, best Penalty) *Break {
	m := st.marks[j]
	c := st.b.Children[m.child]
	if m.e == nil || m.inner != nil || m.had.kids >= len(st.f.Kids) || avoids(c.Style.BreakInside, st.in.column) {
		return nil
	}
	whole := st.f.Kids[m.had.kids].F
	if whole.Box != c || whole.H < 1 || m.sp.AtTop && m.pos > 1 {
		return nil
	}
	for _, left := range endsOf(whole) {
		sp := m.sp
		sp.BlockLeft = left
		frag, rest := st.l.Lay(c, sp, m.inner)
		if frag == nil || rest == nil || len(frag.Kids) == 0 || rest.Ended || rest.Penalty >= best || rest.spanner() != nil {
			break
		}
		if rest.anyBare() {
			continue
		}
		frag.lengthen(rest, m.sp.BlockLeft-sp.BlockLeft)
		st.backTo(m)
		st.place(c, frag, m.x, m.pos, m.e, m.cleared, m.before, m.strut)
		return &Break{Child: m.child, Inner: rest, Penalty: rest.Penalty}
	}
	return nil
}

// endsOf gives block sizes at which a fragment may be cut: a little before its
// end, and before the last of its children.
func endsOf(f *Fragment) []float64 {
	list := []float64{f.H - 0.02}
	for i := len(f.Kids) - 1; i >= 0 && len(list) < triedEnds; i-- {
		if y := f.Kids[i].Y; y > 1 && y < list[len(list)-1]-1 {
			list = append(list, y)
		}
	}
	return list
}

// backTo takes the flow back to where it stood before a child.
func (st *flowState) backTo(m mark) {
	st.f.backTo(m.had)
	st.in.floats = m.floats
	st.pending, st.over = st.pending[:m.pending], st.over[:m.over]
	st.y = m.y
	st.f.Baseline = m.baseline
}

// boundary is how bad a break between two siblings is.
func boundary(after, before style.Keyword, column bool) Penalty {
	if avoids(after, column) || avoids(before, column) {
		return avoidPenalty
	}
	return noPenalty
}

func avoids(k style.Keyword, column bool) bool {
	return k == style.Avoid || k == style.AvoidPage && !column || k == style.AvoidColumn && column
}

// forcedBreak tells whether k forces a break here.
func forcedBreak(k style.Keyword, column bool) bool {
	switch k {
	case style.PageKey, style.LeftSide, style.RightSide, style.Recto, style.Verso, style.All:
		return true
	case style.Always:
		return true
	case style.Column:
		return column
	}
	return false
}

// forced gives the break that stands between two siblings of a block flow, or
// 0; pages of another name are one too.
func (l *Layout) forced(prev, next *box.Box, column bool) style.Keyword {
	if k := l.breakBetween(prev, next, column); k != 0 || next == nil {
		return k
	}
	if a, b := pageName(prev, true), pageName(next, false); a != b && !column {
		return style.PageKey
	}
	return 0
}

// breakBetween is the break that break-after and break-before ask for; next is nil for what is out of flow.
func (l *Layout) breakBetween(prev, next *box.Box, column bool) style.Keyword {
	if next != nil {
		if k := l.before(next); forcedBreak(k, column) {
			return k
		}
	}
	if k := l.after(prev); forcedBreak(k, column) {
		return k
	}
	return 0
}

// before is break-before with that of the first children (CSS Break 3, §3.1).
func (l *Layout) before(b *box.Box) style.Keyword {
	return edgeBreak(b, false, func(s *style.Style) style.Keyword { return s.BreakBefore })
}

func (l *Layout) after(b *box.Box) style.Keyword {
	return edgeBreak(b, true, func(s *style.Style) style.Keyword { return s.BreakAfter })
}

// isControl tells whether a box is a form control of one line, which is not cut.
func isControl(b *box.Box) bool {
	return b.IsControl() && (b.Node.Name == "input" || b.Node.Name == "select")
}

// edgeBreak is what a box and those at its edge ask for there: a forced break
// counts most, then what stands furthest outside. Boxes side by side share the
// edge.
func edgeBreak(b *box.Box, last bool, ask func(*style.Style) style.Keyword) style.Keyword {
	best, taken := style.Auto, false
	note := func(k style.Keyword) bool {
		if taken && forcedBreak(k, true) {
			return false
		}
		if best == style.Auto || forcedBreak(k, true) {
			best = k
		}
		return forcedBreak(k, true)
	}
	for d := 0; b != nil && d < 100; d++ {
		if note(ask(b.Style)) {
			break
		}
		if sideBySide(b) {
			for _, c := range b.Children {
				if !c.OutOfFlow() && note(edgeBreak(c, last, ask)) {
					break
				}
			}
			break
		}
		taken = taken || last && endsOutOfFlow(b)
		b = edgeChild(b, last)
	}
	return best
}

// goesWithFlow tells whether a box that is out of flow begins where the flow has come to: a break behind the box before
// it stands before it, too.
func goesWithFlow(c *box.Box) bool {
	return c.Floats() || c.Style.Position == style.Absolute && !fromTop(c) && !fromBottom(c)
}

// endsOutOfFlow tells whether boxes that go with the flow follow the last child in flow: a break that is forced behind
// that child stands before them.
func endsOutOfFlow(b *box.Box) bool {
	if b.Style.Display.Inner != style.Flow && b.Style.Display.Inner != style.FlowRoot {
		return false
	}
	for _, c := range slices.Backward(b.Children) {
		if !c.OutOfFlow() {
			return false
		}
		if goesWithFlow(c) {
			return true
		}
	}
	return false
}

// sideBySide tells whether all children stand in one row.
func sideBySide(b *box.Box) bool {
	s := b.Style
	return b.Kind == box.Element && (s.Display.Outer == style.TableRow || rowFlex(s) && s.FlexWrap == style.Nowrap)
}

// rowFlex tells whether a flex container's lines run along the inline axis.
func rowFlex(s *style.Style) bool {
	return s.Display.Inner == style.Flex && (s.FlexDirection == style.Row || s.FlexDirection == style.RowReverse)
}

// edgeChild is the first or last in-flow child that stands at the edge of its
// parent, where a break at one is a break at the other.
func edgeChild(b *box.Box, last bool) *box.Box {
	if b.Inline || b.Kind != box.Element {
		return nil
	}
	switch b.Style.Display.Inner {
	case style.Flow, style.FlowRoot, style.Table, style.Flex, style.Grid:
	default:
		return nil
	}
	n := len(b.Children)
	for i := range n {
		c := b.Children[i]
		if last {
			c = b.Children[n-1-i]
		}
		if !c.OutOfFlow() && !isNothing(c) {
			return c
		}
	}
	return nil
}

// PageName is the page type that a box begins on.
func PageName(b *box.Box) string { return pageName(b, false) }

// pageName is the page name at an edge of a box (CSS Page 3, §8).
func pageName(b *box.Box, last bool) string {
	name := ""
	for d := 0; b != nil && d < 100; d++ {
		if b.Style.Page != "" {
			name = b.Style.Page
		}
		if in := b.Style.Display.Inner; in == style.Flex || in == style.Grid { // their items begin no pages
			return name
		}
		b = edgeChild(b, last)
	}
	return name
}

// topStrut collects the margins that adjoin at the top of an in-flow box, its
// own first (CSS 2.2, §8.3.1). Boxes are looked at before they are set, so
// that their place is known at once. The lower margin of a box that collapses
// through has no say in its place.
func (l *Layout) topStrut(b *box.Box, cbW float64, mustClear func(style.Keyword, strut) bool) strut {
	var s strut
	l.collectTop(b, cbW, mustClear, &s, 0)
	return s
}

// mustClear tells whether a box with that clear value, below margins yet to come,
// stands above the end of a float that it clears.
func (st *flowState) mustClear(k style.Keyword, s strut) bool {
	in := st.in
	if in.floats == nil {
		return false
	}
	if st.top { // where it stands is not known yet
		return true
	}
	s.join(st.strut)
	return exceeds(in.floats.clear(k)-in.bfcY-in.y, st.y+s.sum())
}

// collectTop adds to s and tells whether all of b collapsed through.
func (l *Layout) collectTop(b *box.Box, cbW float64, mustClear func(style.Keyword, strut) bool, s *strut, depth int) bool {
	e := l.edges(b, cbW)
	s.add(e.margin[style.Top])
	if depth > 200 || b.Kind != box.Element || b.IsBFC() || e.top() > 0 || b.Style.Display.Inner != style.Flow {
		return false
	}
	if b.Inline && !l.lineless(b) {
		return false
	}
	sp := newSpace(cbW, Indefinite)
	inner := Indefinite
	through := e.bottom() == 0 && b.Rare().Marker == nil && zeroHeight(b)
	for _, c := range b.Children {
		if b.Inline || c.OutOfFlow() {
			continue
		}
		if !known(inner) {
			inner = math.Max(l.width(b, sp, &e)-e.inlineEdges(), 0)
		}
		if c.Style.Clear != style.None {
			ce := l.edges(c, inner)
			with := *s
			with.add(ce.margin[style.Top])
			if hasFloat(b.Children) || mustClear(c.Style.Clear, with) {
				return false
			}
		}
		if !l.collectTop(c, inner, mustClear, s, depth+1) {
			return false
		}
	}
	if !through {
		return false
	}
	if depth > 0 { // b itself stands where it would with a border below
		s.add(e.margin[style.Bottom])
	}
	return true
}

func hasFloat(list []*box.Box) bool {
	for _, c := range list {
		if c.Floats() {
			return true
		}
	}
	return false
}

func zeroHeight(b *box.Box) bool {
	s := b.Style
	h := s.Height.IsAuto() || s.Height.Kind == style.Length && s.Height.IsZero() || s.Height.Kind == style.Length && s.Height.HasPct()
	m := s.MinHeight.Kind != style.Length || s.MinHeight.IsZero() || s.MinHeight.HasPct()
	return h && m && s.AspectRatio.Ratio == 0
}

// marker sets an outside list marker beside the first line.
func (l *Layout) marker(f *Fragment, b *box.Box, in flowSpace) {
	sp := newSpace(in.w, Indefinite)
	sp.Shrink = true
	m, _ := l.Lay(b.Rare().Marker, sp, nil)
	if m == nil {
		return
	}
	x := in.x - m.W
	if isRTL(b) {
		x = in.x + in.w
	}
	y := in.y
	if known(f.Baseline) && known(m.Baseline) {
		y = f.Baseline - m.Baseline
	} else if !known(f.Baseline) {
		f.Baseline = in.y + m.Baseline
		if b.Style.Height.IsAuto() {
			f.H = math.Max(f.H, in.y+m.H+f.Padding[style.Bottom]+f.Border[style.Bottom])
		}
		f.collapsesThrough = false
	}
	f.add(m, x, y, 0, 0)
	last := len(f.Kids) - 1 // the text is painted over it
	copy(f.Kids[1:], f.Kids[:last])
	f.Kids[0] = Kid{X: x, Y: y, F: m}
}

// scrollsDown tells whether overflow is reached by scrolling on a screen. On paper such
// a box stays whole where it has room on a page.
func scrollsDown(b *box.Box) bool {
	return b.Style.OverflowY == style.Scroll || b.Style.OverflowY == style.Auto
}
