package layout

import (
	"maps"
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// rowBreaks cuts the placed children of a flex container or grid where a page
// or column ends (Flexbox 1, §10; Grid 1, §10).
type rowBreaks struct {
	l       *Layout
	b       *box.Box
	sp      Space
	e       edges
	end     float64 // nothing stands below
	begins  bool    // no row is set yet in this part
	goesOn  bool    // it is not the first part
	parts   map[*box.Box]*Part
	done    []int     // rows of each flow that earlier parts have set
	starts  []float64 // where this part begins in each flow
	rest    *Break
	laid    map[*flowKid]laidKid
	over    bool       // something overflows a child that has ended
	alone   bool       // a child goes on without its row
	used    float64    // of the container, on earlier pages
	shifts  shifts     // from the planned places to the parts so far
	spanned []rowShift // by what the row that was set last holds of later rows

	clone               bool // each part has edges of its own:
	topEdge, bottomEdge float64

	fixed     bool // its height does not follow from its rows
	byContent bool // it is as tall as its rows
	ended     bool // earlier parts were all of its height; what follows overflows it

	more   bool    // rows are left for the next part
	height float64 // of this part and what follows it
}

type laidKid struct {
	f *Fragment
	y float64
}

// cutPlaced puts children into f, from a break on, and cuts what does not fit.
// The fragment's height is -1 when nothing fits.
func (l *Layout) cutPlaced(f *Fragment, b *box.Box, k *wholeLayout, from *Break, sp Space, e edges) *Break {
	used := 0.0
	if from != nil {
		used = from.Used
	}
	if clips(b.Style) && atMost(f.H-used, sp.BlockLeft) && f.H+0.5 < math.Max(k.lowest(l)+e.bottom(), reachOf(k.kids)) {
		sp.BlockLeft = inf // what overflows its end is not seen; it stays here
	}
	if from == nil && l.staysWhole(f, k, sp) {
		for i := range k.kids {
			f.addItem(&k.kids[i], laidKid{k.kids[i].f, k.kids[i].y}, isRTL(b))
		}
		return nil
	}
	s := newRowBreaks(l, b, sp, e)
	s.begin(f, k, from)
	s = s.cut(k.flows, f.H)
	for _, k := range s.inOrder() {
		f.addItem(k, s.laid[k], isRTL(b))
	}
	return s.finish(f)
}

// addItem puts a child where it has been laid.
func (f *Fragment) addItem(k *flowKid, at laidKid, rtl bool) {
	dx, dy := relative(k.b, k.cb[0], k.cb[1], rtl)
	f.add(at.f, k.x, at.y, dx, dy)
}

func newRowBreaks(l *Layout, b *box.Box, sp Space, e edges) *rowBreaks {
	s := &rowBreaks{l: l, b: b, sp: sp, e: e, end: math.Max(sp.BlockLeft, 0), rest: &Break{placed: map[*box.Box]*Part{}}, laid: map[*flowKid]laidKid{}}
	if s.clone = b.Style.BoxDecorationBreak == style.Clone; s.clone {
		s.topEdge, s.bottomEdge = e.top(), e.bottom()
		s.end = math.Max(s.end-s.bottomEdge, 0)
	}
	return s
}

// begin goes on after the part that from ends, or begins with the first when from is nil; f is as tall as the whole.
func (s *rowBreaks) begin(f *Fragment, k *wholeLayout, from *Break) {
	s.starts = make([]float64, len(k.flows))
	if from != nil {
		s.used, s.ended = from.Used, from.Ended
		s.resume(from, k)
		copy(s.starts, from.starts)
		if !s.clone {
			f.Border[style.Top], f.Padding[style.Top] = 0, 0
		}
	}
	f.Before, f.Whole = s.used, f.H
	s.fixed = known(s.l.definiteHeight(s.b, s.sp, &s.e)) && !s.sp.Grows
	s.byContent = !s.fixed && (!known(s.sp.FixedH) || s.sp.Grows) && f.H <= k.lowest(s.l)+s.e.bottom()+0.5
}

// cut sets the rows that stand on this page. When only the lower edge finds no room there, the last row goes on together
// with it (CSS Break 4, §4.1).
func (s *rowBreaks) cut(flows [][]flowRow, whole float64) *rowBreaks {
	begun := s.shifts
	s.cutFlows(flows, whole)
	edge := s.e.bottom()
	if s.more || s.fixed || s.clone || !s.sp.cutting() || edge <= 0 || dropsEdge(s.b, &s.e, &s.sp) || !exceeds(s.height, s.sp.BlockLeft) || s.height-edge > s.sp.BlockLeft && !s.byContent {
		return s
	}
	best := s
	s.l.hold([]float64{math.Min(s.height-edge, s.lowest()), s.seenEnd(false), s.seenEnd(true)}, func(end float64) bool {
		if end > s.sp.BlockLeft {
			return false
		}
		again := s.upTo(end-2*rounding, begun)
		again.cutFlows(flows, whole)
		if !again.more || len(again.laid) == 0 || again.rest.Penalty > noPenalty {
			return false
		}
		again.end, best = s.sp.BlockLeft, again
		return true
	})
	return best
}

// seenEnd is how far down what is seen of the children of this part reaches.
func (s *rowBreaks) seenEnd(tight bool) (low float64) {
	for _, at := range s.laid {
		low = math.Max(low, at.y+at.f.seen(tight))
	}
	return low
}

// heightHere is the height of this part and what follows it, of a box that is so tall as a whole.
func (s *rowBreaks) heightHere(whole float64) float64 {
	height := s.height
	switch {
	case s.ended:
		return 0
	case s.fixed:
		height = whole - s.used
	case !s.more && s.sp.cutting() && height > s.sp.BlockLeft && s.e.bottom() == 0 && s.endsInMargins(height):
		height = s.sp.BlockLeft
	}
	return math.Max(height, 0)
}

// finish gives the part its height and says where the next one goes on, if there is one.
func (s *rowBreaks) finish(f *Fragment) *Break {
	planned := f.H
	rest := s.close(f, s.heightHere(f.H))
	if rest == nil {
		s.shifts.note(planned-s.e.bottom(), s.used+f.H-planned)
		s.shifts.keep(f)
		return nil
	}
	rest.shifts = s.shifts
	if !s.more && !s.over {
		rest.unseen = !s.fixed && endUnseen(s.b, &s.e)
	}
	return rest
}

// staysWhole tells whether no page ends within a box that is laid out whole.
func (l *Layout) staysWhole(f *Fragment, k *wholeLayout, sp Space) bool {
	return (!sp.cutting() || atMost(f.H, sp.BlockLeft) && atMost(reachOf(k.kids), sp.BlockLeft)) && !l.forcedAmong(k, sp)
}

// resume goes on after the part that from ends. Of items that have been laid out anew since, for a page of another
// width, only those that are finished keep their place.
func (s *rowBreaks) resume(from *Break, k *wholeLayout) {
	s.parts, s.done, s.goesOn, s.shifts = from.placed, from.done, true, from.shifts
	if from.whole != nil && from.whole != k {
		s.parts, s.done = from.finishedItems(), nil
	}
}

// upTo is the same box before anything is laid, on a page that ends earlier: so that the last row goes on together with
// the lower edge.
func (s *rowBreaks) upTo(end float64, begun shifts) *rowBreaks {
	again := *s
	again.shifts = begun
	again.end, again.laid, again.rest = end, map[*flowKid]laidKid{}, &Break{placed: map[*box.Box]*Part{}}
	return &again
}

// inOrder lists the children that stand in this part.
func (s *rowBreaks) inOrder() []*flowKid {
	return slices.SortedFunc(maps.Keys(s.laid), func(a, b *flowKid) int { return a.n - b.n })
}

// endsInMargins tells whether nothing but margins of children stands below the
// end of the page, with which they end (CSS Break 4, §5.2).
func (s *rowBreaks) endsInMargins(height float64) bool {
	margin := 0.0
	for k, at := range s.laid {
		e := s.l.edges(k.b, k.cb[0])
		margin = math.Max(margin, at.y+at.f.H+e.margin[style.Bottom])
	}
	return atMost(s.lowest(), s.end) && atMost(height, margin)
}

// lowest is how far down the children of this part reach.
func (s *rowBreaks) lowest() (low float64) {
	for _, at := range s.laid {
		low = math.Max(low, at.y+at.f.H)
	}
	return low
}

// cutFlows cuts all flows of a container that is so tall as a whole.
func (s *rowBreaks) cutFlows(flows [][]flowRow, whole float64) {
	s.rest.starts, s.rest.done = slices.Clone(s.starts), make([]int, len(flows))
	copy(s.rest.done, s.done)
	s.more, s.height = false, 0
	for i, rows := range flows {
		first := s.rest.done[i]
		for first < len(rows) && s.finished(rows[first]) {
			first++
		}
		s.rest.done[i] = first
		c := rowFlow{rows: rows, first: first, used: s.starts[i], growsAt: inf, stop: inf}
		s.rest.starts[i] = s.flow(&c)
		s.height = math.Max(s.height, whole-s.starts[i]+c.shift)
		s.more = s.more || c.more
	}
	s.more = s.more || s.alone
}

// close gives the part its height, and says where the next one goes on.
func (s *rowBreaks) close(f *Fragment, height float64) *Break {
	rest, sp, used := s.rest, s.sp, s.used
	ends := s.ended || s.fixed && atMost(height, sp.BlockLeft)
	switch {
	case s.more && !ends:
		if len(s.laid) == 0 && !s.goesOn && !sp.AtTop {
			f.H = -1
			return nil
		}
		f.H, f.Cut = s.end+s.bottomEdge, true
		if math.IsInf(f.H, 1) {
			f.H = height
		}
	case sp.cutting() && exceeds(height, sp.BlockLeft) && sp.BlockLeft > 0:
		f.H, f.Cut = sp.BlockLeft, true
	default:
		f.H, f.Whole = height, used+height
		if s.more || s.over {
			rest.Used, rest.Ended, f.goesOn = used+height, true, true
			return rest
		}
		if used == 0 && !s.goesOn { // it is whole after all
			f.Whole = 0
		}
		return nil
	}
	rest.rule(avoids(s.b.Style.BreakInside, sp.Column))
	rest.Used = used + f.H
	if s.clone {
		rest.Used -= s.topEdge + s.bottomEdge
	} else {
		// breaks add to the height: the lower edge stands further on in any case
		f.Whole = math.Max(f.Whole, used+f.H+f.Border[style.Bottom]+f.Padding[style.Bottom]+1)
		f.Border[style.Bottom], f.Padding[style.Bottom] = 0, 0
	}
	return rest
}

// row sets the children of a row, below which the next one begins at below; what is measured from the start of the flow
// moves up by off. It returns how much longer the row got and where it was planned to end, and tells whether a child has to
// go to the next page.
func (s *rowBreaks) row(row flowRow, below, off float64, resumed bool) (growth, bottom float64, pushed bool) {
	margin := 0.0 // the largest below a child
	bottom = row.end(below)
	for _, k := range row.kids {
		e := s.l.edges(k.b, k.cb[0])
		margin = math.Max(margin, e.margin[style.Bottom])
	}
	s.spanned = nil
	for _, k := range row.kids {
		var at *Break
		p := s.parts[k.b]
		if p != nil {
			if p.Done {
				s.rest.placed[k.b] = p
				continue
			}
			at = p.At
		}
		y := k.y - off
		if at != nil || s.goesOn && y < s.topEdge {
			y = s.topEdge
		}
		frag, inner := s.kid(k, y, margin, at)
		if frag == nil { // one that stands apart from the row's top goes alone
			s.alone = true
			pushed = pushed || resumed || atMost(k.y, row.y+s.marginAbove(k))
			continue
		}
		s.laid[k] = laidKid{frag, y}
		switch {
		case inner == nil:
			s.rest.placed[k.b] = &Part{Done: true}
		default:
			s.rest.placed[k.b] = &Part{At: inner}
			s.rest.noteForced(inner)
			s.over = s.over || inner.Ended
			s.rest.Penalty = max(s.rest.Penalty, inner.Penalty)
		}
		switch over := y + frag.H - (k.end() - off); {
		case inner != nil && !inner.Ended, at != nil && at.Ended:
		case !exceeds(k.end(), bottom):
			growth = math.Max(growth, y+frag.H-(bottom-off))
		case over > 0: // it ends beside a later row
			s.spanned = append(s.spanned, rowShift{k.end(), over})
		}
	}
	return growth, bottom, pushed
}

// kid sets one child y px below the top, as far as it fits; nil says that it
// belongs on the next page. Below its row is the margin of a neighbour.
func (s *rowBreaks) kid(k *flowKid, y, margin float64, at *Break) (*Fragment, *Break) {
	return s.kidOf(k, y, margin, k.f.H, at)
}

// kidOf is kid for one that is to be tall px tall.
func (s *rowBreaks) kidOf(k *flowKid, y, margin, tall float64, at *Break) (*Fragment, *Break) {
	sp := s.sp
	if at != nil && at.tail {
		return k.tailOf(at.Used), nil
	}
	if at == nil && (!sp.cutting() || atMost(y+k.reach(), s.end) && !s.l.forcedInside(k.b, sp.Column)) {
		return k.f, nil
	}
	in := s.roomFor(k, y, margin, tall, at)
	if at == nil && !in.AtTop && (atMost(in.BlockLeft, 0) || avoids(k.b.Style.BreakInside, sp.Column) && k.f.H > in.BlockLeft && k.f.H <= sp.Page) {
		return nil, nil
	}
	frag, inner := s.l.Lay(k.b, in, at)
	if frag != nil {
		inner = frag.endUnseen(inner, sp.Column)
	}
	bad := frag == nil || inner != nil && inner.Penalty > noPenalty && at == nil || inner == nil && exceeds(frag.H, in.BlockLeft)
	if bad && !in.AtTop && at == nil {
		return nil, nil
	}
	if frag == nil {
		return s.l.must(k.b, in, at)
	}
	return frag, inner
}

// roomFor is the space that is left for a child which is to be laid anew at y.
func (s *rowBreaks) roomFor(k *flowKid, y, margin, tall float64, at *Break) Space {
	sp, in := s.sp, newSpace(k.cb[0], k.cb[1])
	in.FixedW, in.FixedH = k.f.W, tall
	if over := y + k.f.H - s.end; at == nil && over > 0 && atMost(over, margin) && k.b.Style.Height.IsAuto() {
		in.FixedH = s.end - y // the margin that it was stretched by ends with the page
	}
	in.Grows = s.byContents(k) && atMost(k.reach(), k.f.H)
	in.BlockLeft, in.Page, in.Column, in.Nameless = s.end-y, sp.Page, sp.Column, sp.Nameless
	in.ForceProgress, in.Bare = sp.ForceProgress && s.begins, sp.Bare && s.begins
	in.AtTop = sp.AtTop && (in.ForceProgress || atMost(y, s.topEdge+s.marginAbove(k)))
	return in
}

// byContents tells whether a child is as tall as its contents make it: as a flex item in a
// column it may be so whatever height its style has.
func (s *rowBreaks) byContents(k *flowKid) bool {
	if k.it != nil && isColumn(s.b.Style) && !k.b.Style.FlexBasis.IsAuto() && k.b.Style.FlexBasis.Kind != style.Length {
		return true
	}
	return k.b.Style.Height.IsAuto()
}

// marginAbove is the margin above a child that is taller than its contents, for a neighbour
// has stretched it: that room is cut sooner than it is moved on for the margin's sake.
func (s *rowBreaks) marginAbove(k *flowKid) float64 {
	if k.f.own == 0 || k.f.own > k.f.H-0.5 {
		return 0
	}
	e := s.l.edges(k.b, k.cb[0])
	return math.Max(e.margin[style.Top], 0)
}

// mustRow is row for the first row of a page that finds no room there: it breaks where it
// should not, for the next page may have no more. What cannot be cut goes on if it gains
// by that.
func (s *rowBreaks) mustRow(row flowRow, below, off float64, resumed bool) (growth, bottom float64, pushed bool) {
	s.sp.ForceProgress = true
	growth, bottom, pushed = s.row(row, below, off, resumed)
	s.sp.ForceProgress = false
	if s.goesOnWhole(row) {
		growth, pushed = 0, true
	}
	return growth, bottom, pushed
}

// goesOnWhole takes children back that reach beyond the page although they could not be
// cut, and gain by going on: they do not begin at its top.
func (s *rowBreaks) goesOnWhole(row flowRow) (any bool) {
	for _, k := range row.kids {
		at, ok := s.laid[k]
		if ok && s.parts[k.b] == nil && exceeds(at.y, s.topEdge) && exceeds(at.y+at.f.reach(), s.end) {
			delete(s.laid, k)
			delete(s.rest.placed, k.b)
			any = true
		}
	}
	return any
}

// drop takes a row back.
func (s *rowBreaks) drop(row flowRow) {
	for _, k := range row.kids {
		delete(s.laid, k)
		delete(s.rest.placed, k.b)
	}
}

func (s *rowBreaks) anyLaid(row flowRow) bool {
	return slices.ContainsFunc(row.kids, func(k *flowKid) bool { return s.laid[k].f != nil })
}

func (s *rowBreaks) finished(row flowRow) bool {
	for _, k := range row.kids {
		if p := s.parts[k.b]; p == nil || !p.Done {
			return false
		}
	}
	return true
}

// resumed tells whether the earlier page has begun a row.
func (s *rowBreaks) resumed(row flowRow) bool {
	for _, k := range row.kids {
		if s.parts[k.b] != nil {
			return true
		}
	}
	return false
}

// forced is the break that stands before row r, or 0.
func (s *rowBreaks) forced(rows []flowRow, r int) style.Keyword {
	if !s.sp.cutting() {
		return 0
	}
	return s.l.forcedBefore(rows, r, s.sp.Column)
}

func (l *Layout) forcedBefore(rows []flowRow, r int, column bool) style.Keyword {
	if rows[r].isNothing() {
		return 0
	}
	for above := r - 1; above >= 0; above-- {
		if !rows[above].isNothing() {
			return l.forcedBetween(rows[above], rows[r], column)
		}
	}
	return 0
}

// marginBefore is the margin above a row, which a forced break keeps (CSS Break 3, §5.2), where
// the row's place does not tell of it.
func (s *rowBreaks) marginBefore(row flowRow) float64 {
	if !isColumn(s.b.Style) {
		return 0
	}
	e := s.l.edges(row.kids[0].b, row.kids[0].cb[0])
	return e.margin[style.Top]
}

// isNothing tells whether no child of a row shows anything.
func (row flowRow) isNothing() bool {
	return !slices.ContainsFunc(row.kids, func(k *flowKid) bool { return k.f.H > 0 || !isNothing(k.b) })
}

func (l *Layout) forcedBetween(above, below flowRow, column bool) style.Keyword {
	for _, k := range below.kids {
		if v := l.before(k.b); forcedBreak(v, column) {
			return v
		}
		for _, b := range edgeRow(k.b, k.f, false) {
			if v := l.before(b); forcedBreak(v, column) {
				return v
			}
		}
	}
	for _, k := range above.kids {
		if v := l.after(k.b); forcedBreak(v, column) {
			return v
		}
		for _, b := range edgeRow(k.b, k.f, true) {
			if v := l.after(b); forcedBreak(v, column) {
				return v
			}
		}
	}
	return 0
}

// edgeRow lists what stands in the first or last row of a child that lays its
// own children out in rows; a break at one of them is a break at the child's
// edge.
func edgeRow(b *box.Box, f *Fragment, last bool) (list []*box.Box) {
	if s := b.Style; s.Display.Inner != style.Grid && !(rowFlex(s) && s.FlexWrap != style.Nowrap) || f == nil {
		return nil
	}
	at := inf
	if last {
		at = -inf
	}
	for _, c := range f.Kids {
		if c.F.Box == nil || c.F.Box.OutOfFlow() {
			continue
		}
		switch {
		case math.Abs(c.Y-at) < 0.5:
			list = append(list, c.F.Box)
		case !last && c.Y < at, last && c.Y > at:
			at, list = c.Y, []*box.Box{c.F.Box}
		}
	}
	return list
}

func (s *rowBreaks) penalty(above, below flowRow) Penalty {
	for _, a := range above.kids {
		for _, b := range below.kids {
			if v := boundary(s.l.after(a.b), s.l.before(b.b), s.sp.Column); v > noPenalty {
				return v
			}
		}
	}
	return noPenalty
}

// reachOf is how far the lowest of placed children reaches.
func reachOf(kids []flowKid) (h float64) {
	for i := range kids {
		h = math.Max(h, kids[i].y+kids[i].reach())
	}
	return h
}
