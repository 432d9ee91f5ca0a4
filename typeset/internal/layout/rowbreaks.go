package layout

import (
	"maps"
	"math"
	"slices"
	"sort"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// flowKid is a child of a flex container or grid, with its size and place as
// they are when nothing is cut.
type flowKid struct {
	b    *box.Box
	f    *Fragment
	x, y float64
	cb   [2]float64 // the size of its containing block: of the container, or of its area in a grid
	it   *flexItem
	n    int     // its place among the children
	flow int     // children of different flows are cut without regard to each other
	row  float64 // where its row begins
	low  float64 // how far down f reaches, once it has been looked at
}

// reach is how far down the child, or what overflows it, goes from its top.
func (k *flowKid) reach() float64 {
	if k.low == 0 {
		k.low = k.f.reach()
	}
	return k.low
}

// flowRow is children side by side.
type flowRow struct {
	y    float64
	kids []*flowKid
}

// flowsOf sorts children into their flows and rows.
func flowsOf(kids []flowKid) [][]flowRow {
	order := make([]*flowKid, len(kids))
	n := 0
	for i := range kids {
		kids[i].n = i
		order[i] = &kids[i]
		n = max(n, kids[i].flow+1)
	}
	sort.SliceStable(order, func(i, j int) bool { return order[i].row < order[j].row })
	flows := make([][]flowRow, max(n, 1))
	for _, k := range order {
		rows := flows[k.flow]
		if m := len(rows); m > 0 && atMost(k.row, rows[m-1].y) {
			rows[m-1].kids = append(rows[m-1].kids, k)
		} else {
			rows = append(rows, flowRow{k.row, []*flowKid{k}})
		}
		flows[k.flow] = rows
	}
	return flows
}

// wholeLayout is a flex container or grid as it is when nothing is cut, kept for the
// pages that it goes on over. Its parts do not change it.
type wholeLayout struct {
	sp          Space
	kids        []flowKid
	gone        map[*box.Box]*Part // children that earlier pages of another width have set: they are not among kids
	flows       [][]flowRow
	w           float64 // of the content box
	tall        float64 // its border box
	low         float64 // how far down its children and their margins go, once it has been looked at
	atBaselines func(*Fragment)
}

// lowest is how far down the children and their margins go.
func (w *wholeLayout) lowest(l *Layout) float64 {
	if w.low > 0 {
		return w.low
	}
	for i := range w.kids {
		k := &w.kids[i]
		e := l.edges(k.b, k.cb[0])
		w.low = math.Max(w.low, k.y+k.f.H+e.margin[style.Bottom])
	}
	return w.low
}

// wholeIn gives what an earlier page worked out in the same space, or nil.
func (b *Break) wholeIn(sp Space) *wholeLayout {
	if b != nil && b.whole != nil && sp.sub == nil && sp.Shrink == b.whole.sp.Shrink && sameSpace(sp, b.whole.sp) {
		return b.whole
	}
	return nil
}

// widthIn is the width that an earlier page gave a flex container or grid in a containing block of the same width w, or
// Indefinite when it gave none. Its items are planned in that width.
func (b *Break) widthIn(w float64) float64 {
	if b == nil || b.whole == nil || b.whole.sp.W != w {
		return Indefinite
	}
	return b.whole.sp.FixedW
}

// finishedItems gives the parts of a container that has been laid out anew since, with
// all its finished items among them.
func (b *Break) finishedItems() map[*box.Box]*Part {
	parts := maps.Clone(b.placed)
	maps.Copy(parts, b.whole.gone)
	for i, n := range b.done {
		for _, row := range b.whole.flows[i][:n] {
			for _, k := range row.kids {
				parts[k.b] = &Part{Done: true}
			}
		}
	}
	return parts
}

// startAnew goes on with a wrapping row container on a page of width w for its contents,
// which is another than before: its finished items are gone, and the lines of the others
// begin at the page's top. On a narrower page items that go on side by side keep their
// places.
func (b *Break) startAnew(c *box.Box, w, top float64) (gone map[*box.Box]*Part, from *Break) {
	if b == nil || b.whole == nil || !rowFlex(c.Style) {
		return nil, b
	}
	begun, used := map[*box.Box]*Part{}, 0.0
	for item, p := range b.placed {
		if !p.Done {
			begun[item], used = p, math.Max(used, p.At.Used)
		}
	}
	if len(begun) > 0 && w < b.whole.w {
		return nil, b
	}
	gone = b.finishedItems()
	maps.DeleteFunc(gone, func(item *box.Box, _ *Part) bool { return begun[item] != nil })
	again := *b
	again.placed, again.done, again.whole, again.starts = begun, nil, nil, []float64{top + used}
	return gone, &again
}

// cutWhole puts the children of b into f, from a break on, as far as they fit.
func (l *Layout) cutWhole(f *Fragment, b *box.Box, k *wholeLayout, from *Break, sp Space, e edges) *Break {
	f.H = k.tall
	rest := l.cutPlaced(f, b, k, from, sp, e)
	if rest == nil || from == nil {
		k.atBaselines(f)
	}
	if rest != nil {
		rest.whole = k
	}
	return rest
}

// rowBreaks cuts the placed children of a flex container or grid where a page
// or column ends (Flexbox 1, §10; Grid 1, §10).
type rowBreaks struct {
	l       *Layout
	b       *box.Box
	sp      Space
	end     float64 // nothing stands below
	topEdge float64 // that each part has of its own
	begins  bool    // no row is set yet in this part
	goesOn  bool    // it is not the first part
	parts   map[*box.Box]*Part
	done    []int // rows of each flow that earlier parts have set
	rest    *Break
	laid    map[*flowKid]laidKid
	over    bool    // something overflows a child that has ended
	alone   bool    // a child goes on without its row
	used    float64 // of the container, on earlier pages
	shifts  shifts  // from the planned places to the parts so far

	byContent bool // it is as tall as its rows
}

type laidKid struct {
	f *Fragment
	y float64
}

// cutPlaced puts children into f, from a break on, and cuts what does not fit.
// The fragment's height is -1 when nothing fits.
func (l *Layout) cutPlaced(f *Fragment, b *box.Box, k *wholeLayout, from *Break, sp Space, e edges) *Break {
	kids, flows := k.kids, k.flows
	bottomEdge, used := 0.0, 0.0
	if from != nil {
		used = from.Used
	}
	if clips(b.Style) && atMost(f.H-used, sp.BlockLeft) && f.H+0.5 < k.lowest(l)+e.bottom() {
		sp.BlockLeft = inf // what overflows its end is not seen; it stays here
	}
	if from == nil && l.staysWhole(f, k, sp) {
		for _, k := range kids {
			dx, dy := relative(k.b, k.cb[0], k.cb[1], isRTL(b))
			f.add(k.f, k.x, k.y, dx, dy)
		}
		return nil
	}
	clone := b.Style.BoxDecorationBreak == style.Clone
	s := &rowBreaks{l: l, b: b, sp: sp, end: math.Max(sp.BlockLeft, 0), rest: &Break{placed: map[*box.Box]*Part{}}, laid: map[*flowKid]laidKid{}}
	if clone {
		s.topEdge, bottomEdge = e.top(), e.bottom()
		s.end = math.Max(s.end-bottomEdge, 0)
	}
	starts := make([]float64, len(flows))
	if from != nil {
		s.resume(from, k)
		copy(starts, from.starts)
		if !clone {
			f.Border[style.Top], f.Padding[style.Top] = 0, 0
		}
	}
	f.Before, f.Whole = used, f.H
	fixed := known(l.definiteHeight(b, sp, &e)) && !sp.Grows
	s.byContent = !fixed && !known(sp.FixedH) && f.H <= k.lowest(l)+e.bottom()+0.5
	s.used = used
	begun := s.shifts
	more, height := s.flows(flows, starts, f.H)
	more = more || s.alone
	if edge := e.bottom(); !more && !fixed && !clone && sp.cutting() && edge > 0 && exceeds(height, sp.BlockLeft) && height-edge <= sp.BlockLeft {
		again := s.upTo(math.Min(height-edge, s.lowest())-2*rounding, begun)
		if cut, h := again.flows(flows, starts, f.H); cut && len(again.laid) > 0 && again.rest.Penalty == noPenalty {
			s, more, height = again, true, h
			s.end = sp.BlockLeft
		}
	}
	for _, k := range s.inOrder() {
		dx, dy := relative(k.b, k.cb[0], k.cb[1], isRTL(b))
		f.add(s.laid[k].f, k.x, s.laid[k].y, dx, dy)
	}
	if fixed {
		height = f.H - used
	} else if !more && sp.cutting() && height > sp.BlockLeft && e.bottom() == 0 && s.endsInMargins(height) {
		height = sp.BlockLeft
	}
	ended := from != nil && from.Ended
	if ended {
		height = 0
	}
	height = math.Max(height, 0)
	planned := f.H
	rest := s.close(f, height, used, bottomEdge, clone, more, ended || fixed && atMost(height, sp.BlockLeft))
	if rest != nil {
		rest.shifts = s.shifts
	} else {
		s.shifts.note(planned-e.bottom(), used+f.H-planned)
		s.shifts.keep(f)
	}
	if rest != nil && !more && !s.over {
		rest.unseen = !fixed && endUnseen(b, &e)
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
// the lower edge (CSS Break 4, §4.1).
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

// flows cuts all flows, which begin at starts. It tells whether something is
// left, and how tall the container is from here on; whole is its height
// uncut.
func (s *rowBreaks) flows(list [][]flowRow, starts []float64, whole float64) (more bool, height float64) {
	s.rest.starts, s.rest.done = slices.Clone(starts), make([]int, len(list))
	copy(s.rest.done, s.done)
	for i, rows := range list {
		first := s.rest.done[i]
		for first < len(rows) && s.finished(rows[first]) {
			first++
		}
		s.rest.done[i] = first
		next, shift, cut := s.flow(rows, first, starts[i])
		height = math.Max(height, whole-starts[i]+shift)
		s.rest.starts[i], more = next, more || cut
	}
	return more, height
}

// close gives the part its height, and says where the next one goes on.
func (s *rowBreaks) close(f *Fragment, height, used, bottomEdge float64, clone, more, ends bool) *Break {
	rest, sp := s.rest, s.sp
	switch {
	case more && !ends:
		if len(s.laid) == 0 && !s.goesOn && !sp.AtTop {
			f.H = -1
			return nil
		}
		f.H, f.Cut = s.end+bottomEdge, true
		if math.IsInf(f.H, 1) {
			f.H = height
		}
	case sp.cutting() && exceeds(height, sp.BlockLeft) && sp.BlockLeft > 0:
		f.H, f.Cut = sp.BlockLeft, true
	default:
		f.H, f.Whole = height, used+height
		if more || s.over {
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
	if clone {
		rest.Used -= s.topEdge + bottomEdge
	} else {
		// breaks add to the height: the lower edge stands further on in any case
		f.Whole = math.Max(f.Whole, used+f.H+f.Border[style.Bottom]+f.Padding[style.Bottom]+1)
		f.Border[style.Bottom], f.Padding[style.Bottom] = 0, 0
	}
	return rest
}

// flow cuts one flow of rows, from row first on; used px are on earlier pages. It returns
// where the next page begins in it, by how much rows have grown, and whether
// something is left.
func (s *rowBreaks) flow(rows []flowRow, first int, used float64) (next, shift float64, more bool) {
	growth, growsAt := 0.0, inf // rows from growsAt on move by growth
	stop := inf                 // rows from here on stand below a child that goes on
	var done []int              // rows set here
	for r := first; r < len(rows); r++ {
		row := rows[r]
		if s.finished(row) {
			for _, k := range row.kids {
				s.rest.placed[k.b] = s.parts[k.b]
			}
			continue
		}
		if atMost(growsAt, row.y) {
			shift, growth, growsAt = shift+growth, 0, inf
		}
		y := row.y - used + shift
		resumed := s.resumed(row)
		if !resumed && atMost(s.end, y) && len(done) > 0 && s.sp.cutting() && !slices.ContainsFunc(rows[r:], func(row flowRow) bool { return !row.isNothing() }) {
			s.stay(row)
			continue
		}
		if !resumed {
			if at, ends := s.endsBefore(rows, r, done, y, stop, used+s.end-shift); ends {
				return at, shift, true
			}
		}
		s.begins = len(done) == 0
		grown, bottom, pushed := s.row(row, used-shift, resumed)
		switch {
		case s.begins && s.sp.ForceProgress:
			if s.goesOnWhole(row) {
				grown, pushed = 0, true
			}
		case s.begins && s.sp.AtTop && !s.anyLaid(row):
			grown, bottom, pushed = s.mustRow(row, used-shift, resumed)
		}
		if pushed && !resumed && !(s.sp.AtTop && len(done) == 0) {
			r = s.before(rows, r, done)
			s.drop(rows[r])
			return rows[r].y - s.topEdge, shift, true
		}
		more = more || pushed
		if !pushed && grown == 0 && math.IsInf(growsAt, 1) {
			grown = s.shrinkRow(rows, first, r, used-shift, bottom)
		}
		s.stretchRow(row, used-shift, bottom, grown)
		s.noteShifts(row, resumed, bottom, s.used-used+shift, grown)
		for _, k := range row.kids {
			if p := s.rest.placed[k.b]; p != nil && p.At != nil && !p.At.Ended {
				stop, more = math.Min(stop, k.y+k.f.H), true
			}
		}
		if grown > growth || math.IsInf(growsAt, 1) {
			growth = grown
		}
		growsAt = math.Min(growsAt, bottom)
		done = append(done, r)
	}
	return used + s.end - shift, shift + growth, more
}

// endsBefore tells whether the page ends before row r, which is to stand at y, and from where on in the whole the next
// page goes on; pageEnd is where this one ends in it, and from stop on rows wait below a child that goes on.
func (s *rowBreaks) endsBefore(rows []flowRow, r int, done []int, y, stop, pageEnd float64) (at float64, ends bool) {
	row := rows[r]
	switch forced := s.forced(rows, r); {
	case atMost(stop, row.y):
		return pageEnd, true
	case forced != 0 && !(s.goesOn && atMost(y-s.marginBefore(row), s.topEdge)):
		s.rest.Forced = forced
		return row.y - s.marginBefore(row) - s.topEdge, true
	case atMost(s.end, y) && !(s.sp.AtTop && len(done) == 0):
		if next := s.before(rows, r, done); next < r {
			return rows[next].y - s.topEdge, true
		}
		return pageEnd, true
	}
	return 0, false
}

// noteShifts notes where a row of a single flow stands, which has moved by shift, and where what
// stands below it goes.
func (s *rowBreaks) noteShifts(row flowRow, resumed bool, bottom, shift, grown float64) {
	if len(s.rest.starts) > 1 {
		return
	}
	if !resumed {
		s.shifts.note(row.y, shift)
	}
	s.shifts.note(bottom, shift+grown)
}

// row sets the children of a row; what is measured from the start of the flow
// moves up by off. It returns how much longer the row got and where it was
// planned to end, and tells whether a child has to go to the next page.
func (s *rowBreaks) row(row flowRow, off float64, resumed bool) (growth, bottom float64, pushed bool) {
	margin := 0.0 // the largest below a child
	for _, k := range row.kids {
		bottom = math.Max(bottom, k.y+k.f.H)
		e := s.l.edges(k.b, k.cb[0])
		margin = math.Max(margin, e.margin[style.Bottom])
	}
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
		if (inner == nil || inner.Ended) && !(at != nil && at.Ended) {
			growth = math.Max(growth, y+frag.H-(bottom-off))
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
func (s *rowBreaks) mustRow(row flowRow, off float64, resumed bool) (growth, bottom float64, pushed bool) {
	s.sp.ForceProgress = true
	growth, bottom, pushed = s.row(row, off, resumed)
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

// stay keeps a row that shows nothing, nor does anything below it, on a page that has no
// room left: no page is made for it.
func (s *rowBreaks) stay(row flowRow) {
	for _, k := range row.kids {
		s.laid[k] = laidKid{k.f, s.end}
		s.rest.placed[k.b] = &Part{Done: true}
	}
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

// before breaks before row r, or a better one, and tells which.
func (s *rowBreaks) before(rows []flowRow, r int, done []int) int {
	r = s.backFrom(rows, r, done)
	if r > 0 {
		s.rest.Penalty = max(s.rest.Penalty, s.penalty(rows[r-1], rows[r]))
	}
	return r
}

// backFrom is the row to break before instead of row r, when that break is to
// be avoided: the nearest one before which no rule is broken.
func (s *rowBreaks) backFrom(rows []flowRow, r int, done []int) int {
	for i := len(done); i > 0; i-- {
		at := r
		if i < len(done) {
			at = done[i]
		}
		if s.resumed(rows[at]) {
			break
		}
		if s.penalty(rows[at-1], rows[at]) == 0 {
			for _, d := range done[i:] {
				s.drop(rows[d])
			}
			return at
		}
	}
	return r
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
