package layout

import (
	"math"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

func columnGap(s *style.Style, w float64) float64 {
	if s.ColumnGap.Kind == style.Length {
		return s.ColumnGap.Of(w)
	}
	return s.FontSize
}

// rows is how tall a row of columns is, Auto for as tall as there is room, and whether what
// does not fit in it goes on in another row below (Multi-column 2, §3.3 and §3.4). The
// height is that of the contents of the box.
func rows(s *style.Style, height float64) (tall float64, wraps bool) {
	given := s.ColumnHeight.Kind == style.Length
	wraps = s.ColumnWrap == style.WrapText || s.ColumnWrap == style.Auto && given
	switch {
	case given:
		return math.Max(s.ColumnHeight.Px, 1), wraps
	case wraps:
		return height, known(height)
	}
	return Indefinite, false
}

// columnCount is the used number and width of columns (Multi-column 1, §3.4).
func columnCount(s *style.Style, w, gap float64) (int, float64) {
	n := s.ColumnCount
	if s.ColumnWidth.Kind == style.Length {
		fit := max(1, int(math.Floor((w+gap)/(math.Max(s.ColumnWidth.Px, 1)+gap)+1e-6)))
		if n == 0 || fit < n {
			n = fit
		}
	}
	n = max(n, 1)
	return n, math.Max((w-gap*float64(n-1))/float64(n), 0)
}

// columns sets a multi-column container: its contents are cut by columns as a
// document is cut by pages.
func (l *Layout) columns(b *box.Box, sp Space, from *Break) (*Fragment, *Break) {
	e := l.edges(b, sp.W)
	w := l.width(b, sp, &e)
	s := b.Style
	f := &Fragment{Box: b, W: w, Border: e.border, Padding: e.padding, Baseline: Indefinite, LastBaseline: Indefinite, Continued: from != nil}
	if from != nil {
		f.Border[style.Top], f.Padding[style.Top] = 0, 0
	}
	cw := math.Max(w-e.inlineEdges(), 0)
	gap := columnGap(s, cw)
	n, colW := columnCount(s, cw, gap)
	definite := l.definiteHeight(b, sp, &e)
	used := 0.0
	if from != nil {
		used = from.Used
	}
	top := f.Border[style.Top] + f.Padding[style.Top]
	c := &columnSet{l: l, b: l.inner(b), box: b, f: f, sp: sp, n: n, w: colW, gap: gap, left: e.left(), y: top, top: top, rtl: isRTL(b)}
	c.room = sp.BlockLeft - top
	c.tall = Indefinite
	c.rowGap = s.FontSize
	if s.RowGap.Kind == style.Length {
		c.rowGap = gapOf(s.RowGap, definite-e.blockEdges())
	}
	if known(definite) {
		c.tall = math.Max(definite-e.blockEdges(), 0)
	}
	if sp.Grows { // breaks add to it
		definite = Indefinite
	}
	height := Indefinite // of the columns
	if known(definite) {
		height = math.Max(definite-used-top-e.bottom(), 0)
	} else {
		c.room -= e.bottom()
	}
	maxH := inf
	if v := s.MaxHeight.Resolve(sp.H); known(v) {
		maxH = math.Max(borderBox(s, v, e.blockEdges())-used-top-e.bottom(), 0)
	}
	c.row, c.wraps = rows(s, c.tall)
	rest := c.run(from.inColumns(), height, maxH, s.ColumnFill)
	if c.none {
		return nil, nil
	}
	rest = c.finish(rest, definite, used, &e)
	if from == nil && b.Rare().Marker != nil {
		l.marker(f, b, flowSpace{w: cw, x: e.left(), y: top})
	}
	if b.Style.HoldsPositioned() {
		l.settle(f, sp, from, rest)
	}
	if !sp.Column || !sp.cutting() { // no columns around wait for more of it
		l.resolve(f)
	}
	return f, rest
}

// finish gives the box the height of its columns, or the one it asks for, of which earlier parts hold used, and tells
// what of rest is left for the next page.
func (c *columnSet) finish(rest *Break, definite, used float64, e *edges) *Break {
	f, b, sp := c.f, c.box, c.sp
	switch {
	case known(definite) && sp.cutting() && exceeds(definite-used, sp.BlockLeft) && sp.BlockLeft > 0:
		f.H, f.Cut = sp.BlockLeft, true
		if rest == nil {
			rest = &Break{Child: len(b.Children), Line: cursor{leaf: endOfText}}
		}
	case known(definite):
		f.H = math.Max(definite-used, 0)
		if rest != nil {
			rest.Ended, f.goesOn = true, true
		}
	case rest != nil:
		f.H, f.Cut = sp.BlockLeft, true
	default:
		f.H = c.l.autoHeight(b, c.y+e.bottom(), used, sp, e)
		f.own = math.Max(c.l.clampHeight(b, c.y+e.bottom()+used, sp, e)-used, 0)
		if sp.Grows {
			f.H = math.Max(f.H, c.y+e.bottom())
		}
		if sp.Grows && sp.cutting() && exceeds(f.H, sp.BlockLeft) && sp.BlockLeft > 0 { // the box goes on empty
			f.H, f.Cut = sp.BlockLeft, true
			rest = &Break{Child: len(b.Children), Line: cursor{leaf: endOfText}, unseen: endUnseen(b, e)}
		}
	}
	if f.Continued || f.Cut {
		f.Before = used
		if known(definite) {
			f.Whole = definite
		} else if !f.Cut {
			f.Whole = used + f.H
		}
	}
	if rest == nil {
		return nil
	}
	again := *rest
	again.Used, again.columns = used+f.H, true
	if f.Cut {
		f.Border[style.Bottom], f.Padding[style.Bottom] = 0, 0
		again.rule(avoids(b.Style.BreakInside, sp.Column) && rest.spanner() == nil)
	}
	return &again
}

// inner is the contents of a multi-column box as a plain block.
func (l *Layout) inner(b *box.Box) *box.Box {
	m := l.memo(b)
	if m.inner == nil {
		in := *b
		s := style.Anonymous(b.Style, style.Display{Outer: style.Block, Inner: style.FlowRoot})
		in.Style, in.Memo, in.Anon = s, nil, true
		in.SetRare(func(r *box.Rare) { r.Marker = nil })
		m.inner = &in
	}
	return m.inner
}

type columnSet struct {
	l       *Layout
	b       *box.Box // the contents
	box     *box.Box
	f       *Fragment
	sp      Space
	n       int
	w, gap  float64
	left, y float64
	top     float64 // of the contents
	tall    float64 // what percentages of heights refer to
	row     float64 // height of a row of columns; Auto for as tall as there is room
	rowGap  float64
	wraps   bool // what does not fit in a row goes on in another one below
	room    float64
	held    bool // what does not fit here goes on after the room, not to the side
	runs    int  // stretches of contents between forced breaks
	rtl     bool
	none    bool
	penalty Penalty // of the worst break in the columns set last
}

// run sets stretches of columns, with spanning boxes between them (§6).
func (c *columnSet) run(at *Break, height, maxH float64, fill style.Keyword) *Break {
	var margin strut // of spanning boxes that follow each other
	for range 10000 {
		if b := at.spanner(); b != nil {
			rest := c.spanning(b, at, &margin)
			if c.none || rest != nil {
				return rest
			}
			at = at.past()
			continue
		}
		rest := c.stretch(at, height, maxH, fill, &margin)
		if c.nextRow(rest) {
			c.y += c.rowGap
			at = rest
			continue
		}
		if c.none || rest.spanner() == nil {
			if rest == nil {
				c.y += margin.sum()
			}
			return rest
		}
		at = rest
	}
	return nil
}

// nextRow tells whether what a row of columns leaves goes on in one below it, on this page.
func (c *columnSet) nextRow(rest *Break) bool {
	if !c.wraps || c.none || rest == nil || rest.spanner() != nil || c.endsPage(rest) {
		return false
	}
	return !c.sp.cutting() || atMost(c.y-c.top+c.rowGap+c.row, c.room)
}

// endsPage tells whether a break that is asked for ends the page, and all columns with it.
func (c *columnSet) endsPage(rest *Break) bool {
	k := rest.Innermost().Forced
	return c.sp.cutting() && k != style.Always && k != style.All && forcedBreak(k, false)
}

// spanning sets a box across all columns, or the rest of it.
func (c *columnSet) spanning(b *box.Box, at *Break, margin *strut) *Break {
	sp := newSpace(c.f.W-c.f.Border[1]-c.f.Border[3]-c.f.Padding[1]-c.f.Padding[3], c.tall)
	e := c.l.edges(b, sp.W)
	from := at.deepest().Inner
	before := *margin
	if from == nil {
		margin.add(e.margin[style.Top])
	}
	y := c.y + margin.sum()
	sp.BlockLeft, sp.Page, sp.Column = c.room-(y-c.top), c.sp.Page, c.sp.Column
	sp.AtTop = c.sp.AtTop && atMost(c.y, c.top)
	frag, rest := c.l.Lay(b, sp, from)
	bad := rest != nil && rest.Penalty > noPenalty || rest == nil && sp.cutting() && frag != nil && exceeds(frag.H, sp.BlockLeft)
	if frag == nil || bad && !sp.AtTop {
		if !sp.AtTop {
			*margin = before
			if atMost(c.y, c.top) && !c.sp.AtTop {
				c.none = true
			}
			return at
		}
		frag, rest = c.l.Lay(b, sp.uncut(), from)
	}
	dx, dy := relative(b, sp.W, Indefinite, c.rtl)
	c.f.add(frag, c.left+e.margin[style.Left]+autoMargin(c.box, b, &e, sp.W-frag.W-e.margin[style.Left]-e.margin[style.Right]), y, dx, dy)
	c.y = y + frag.H
	*margin = strut{}
	if rest != nil {
		return at.into(rest)
	}
	margin.add(e.margin[style.Bottom])
	return nil
}

// inColumns is a break in a multi-column box as its columns see it.
func (b *Break) inColumns() *Break {
	if b == nil {
		return nil
	}
	in := *b
	in.columns = false
	return &in
}

// spanner is the box across all columns that a break stands before.
func (b *Break) spanner() *box.Box {
	for ; b != nil && !b.columns; b = b.Inner {
		if b.span != nil {
			return b.span
		}
	}
	return nil
}

// parallel tells whether other flows go on beside the one that stands before
// a spanning box.
func (b *Break) parallel() bool {
	for ; b != nil && !b.columns; b = b.Inner {
		if len(b.Float)+len(b.Over) > 0 {
			return true
		}
		if b.span != nil {
			return false
		}
	}
	return false
}

// deepest is the part of a break that stands at its spanning box.
func (b *Break) deepest() *Break {
	for b.span == nil {
		b = b.Inner
	}
	return b
}

// past is the break after the spanning box; into is one inside of it.
func (b *Break) past() *Break {
	return b.atSpan(func(d *Break) { d.span, d.Inner, d.Child, d.Forced = nil, nil, d.Child+1, style.All })
}
func (b *Break) into(at *Break) *Break { return b.atSpan(func(d *Break) { d.Inner = at }) }

func (b *Break) atSpan(change func(*Break)) *Break {
	c := *b
	if c.span != nil {
		change(&c)
	} else {
		c.Inner = b.Inner.atSpan(change)
	}
	return &c
}

// spans tells whether a box asks to span the columns around it.
func spans(b *box.Box) bool {
	return b.Kind != box.Text && b.Style.ColumnSpan == style.All && !b.OutOfFlow()
}

func holdsSpanner(b *box.Box) bool {
	if b.Inline {
		return false
	}
	for _, k := range b.Children {
		if spans(k) || k.Kind == box.Element && !k.IsBFC() && holdsSpanner(k) {
			return true
		}
	}
	return false
}

// stretch sets one row of columns.
func (c *columnSet) stretch(at *Break, height, maxH float64, fill style.Keyword, margin *strut) *Break {
	extra := margin.sum()
	limit := c.limit(height, maxH, extra)
	t := c.try(at, limit, fill)
	if shows(t.frags) {
		c.y += extra
		*margin = strut{}
	}
	if len(t.frags) == 0 {
		c.none = atMost(c.y, c.top) && !c.sp.AtTop && c.sp.cutting()
		return at
	}
	used := tallest(t.frags)
	if t.balanced && t.rest == nil && anyWaits(t.frags) {
		used = math.Max(used, t.h)
	}
	tall := t.h
	if t.balanced && t.rest == nil {
		tall = used
	}
	c.addColumns(t.frags, tall)
	beforeSpan := t.rest.spanner() != nil
	if t.rest != nil && !beforeSpan || !t.balanced && len(t.frags) > 1 {
		used = t.h
	}
	if known(height) && !beforeSpan && !known(c.row) {
		used = math.Max(used, math.Min(height, limit))
	}
	c.drawRules(used)
	c.y += used
	return t.rest
}

// limit is how tall a row of columns may be: what the box has left of its height, or of the page.
func (c *columnSet) limit(height, maxH, extra float64) float64 {
	done := c.y - c.top
	room := c.room - done - extra
	wanted := maxH - done - extra
	if known(height) {
		wanted = height - done - extra
	}
	if known(c.row) {
		wanted = c.row
	}
	c.held = c.sp.cutting() && exceeds(wanted, room)
	return math.Min(wanted, room)
}

// columnTry is a row of columns that was set.
type columnTry struct {
	frags    []*Fragment
	rest     *Break
	h        float64 // that they were set in
	balanced bool
}

// try sets a row of columns, balanced where that is asked for or nothing bounds it.
func (c *columnSet) try(at *Break, limit float64, fill style.Keyword) columnTry {
	most := manyColumns
	if c.held || c.wraps {
		most = c.n
	}
	t := columnTry{h: limit, balanced: fill != style.Auto || math.IsInf(limit, 1)}
	if !t.balanced { // a spanning box further down has what stands before it balanced
		t.balanced = c.endsAtSpanner(at, limit, most)
	}
	if t.balanced {
		t.h = c.balance(at, limit)
	}
	if t.h <= 0 {
		t.h = math.Max(math.Min(limit, 1), 1)
	}
	t.frags, t.rest = c.set(at, t.h, most)
	if (len(t.frags) == 0 || t.rest != nil && t.rest.spanner() == nil) && t.balanced && !math.IsInf(limit, 1) && t.h < limit {
		t.h = limit
		t.frags, t.rest = c.set(at, t.h, most)
	}
	return t
}

// addColumns places columns beside each other, and notes where rules stand between them.
func (c *columnSet) addColumns(frags []*Fragment, tall float64) {
	first, step := c.left, c.w+c.gap
	if c.rtl {
		first, step = c.f.W-c.f.Border[style.Right]-c.f.Padding[style.Right]-c.w, -step
	}
	row := &columnRow{box: c.box, n: c.n, step: step, gap: c.gap, fixed: !c.held, start: first}
	for i := range max(c.n, len(frags)) {
		x := first + float64(i)*step
		col := &columnPlace{x: x, y: c.y, h: tall, n: i, row: row}
		c.f.carry().columns = append(c.f.carry().columns, col)
		if i >= len(frags) {
			continue
		}
		fr := frags[i]
		fr.inColumn(col)
		c.f.add(fr, x, c.y, 0, 0)
		if i > 0 && fr.Box != nil {
			d := c.f.draws()
			d.Rules = append(d.Rules, Kid{X: x - c.gap/2, Y: c.y, F: fr})
		}
		if known(fr.Baseline) && !known(c.f.Baseline) {
			c.f.Baseline = c.y + fr.Baseline
		}
	}
}

// drawRules makes the rules of the row that stands at y as tall as it is.
func (c *columnSet) drawRules(tall float64) {
	d := c.f.Drawn
	if d == nil {
		return
	}
	for i := range d.Rules {
		if r := &d.Rules[i]; r.Y == c.y {
			r.F = &Fragment{H: tall}
		}
	}
}

// tallest is the height of the tallest contents of columns.
func tallest(frags []*Fragment) (h float64) {
	for _, f := range frags {
		h = math.Max(h, f.used())
	}
	return h
}

// shows tells whether columns hold anything.
func shows(frags []*Fragment) bool {
	for _, f := range frags {
		if f.H > 0 || len(f.Kids) > 0 && f.used() > 0 {
			return true
		}
	}
	return false
}

// endsAtSpanner tells whether the columns come to a box across them.
func (c *columnSet) endsAtSpanner(at *Break, h float64, most int) bool {
	if !holdsSpanner(c.b) {
		return false
	}
	_, rest := c.set(at, math.Max(h, 1), most)
	return rest.spanner() != nil
}

// used is how tall the contents of a column are, wherever relative positioning moves them.
func (f *Fragment) used() float64 {
	if !f.Cut || f.ended {
		return f.H
	}
	h := 0.0
	for _, k := range f.Kids {
		kh := k.F.H
		if k.F.Cut {
			kh = k.F.used()
		}
		h = math.Max(h, k.Y-k.F.lowered()+kh)
	}
	return h
}

// lowered is by how much relative positioning moves a box down, of a container as high as its contents.
func (f *Fragment) lowered() float64 {
	if f.Box == nil {
		return 0
	}
	_, dy := relative(f.Box, f.W, Indefinite, false)
	return dy
}

// manyColumns is as many columns as there may be.
const manyColumns = 1000

// space is that of a column, whose lines are trimmed as the box asks (CSS Inline 3, §5.2).
func (c *columnSet) space() Space {
	sp := newSpace(c.w, c.tall)
	sp.FixedW = c.w
	trim := c.box.Style.TextBoxTrim
	sp.trim = textTrim{start: trim.Start, end: trim.End, parts: trim.End}
	return sp
}

// set fills columns of height h.
func (c *columnSet) set(at *Break, h float64, most int) (frags []*Fragment, rest *Break) {
	rest, c.penalty, c.runs = at, 0, 1
	atTop := !c.held || c.sp.AtTop && atMost(c.y, c.top)
	for i := range most {
		sp := c.space()
		sp.BlockLeft, sp.Page, sp.AtTop, sp.Bare, sp.Column, sp.Spans, sp.Nameless = h, h, atTop, atTop, true, true, c.sp.Nameless
		f, r := c.l.Lay(c.b, sp, rest)
		stuck := f == nil || rest != nil && r != nil && SamePlace(rest, r)
		if !atTop && (stuck || i == 0 && r != nil && r.Penalty > noPenalty) {
			return frags, rest
		}
		if stuck || i == manyColumns-1 { // nothing is lost where nothing fits
			if f == nil && i < manyColumns-1 {
				f, r = c.l.must(c.b, sp, rest)
			} else {
				f, r = c.l.Lay(c.b, sp.uncut(), rest)
			}
			if f == nil {
				return frags, nil
			}
		}
		frags = append(frags, f)
		rest = r
		if r == nil || r.spanner() != nil && !r.parallel() {
			return frags, r
		}
		c.penalty = max(c.penalty, r.Penalty)
		if k := r.Innermost().Forced; k != 0 {
			if c.endsPage(r) {
				return frags, r
			}
			c.runs++
		}
	}
	return frags, rest
}

// Innermost is the part of a break in the deepest box.
func (b *Break) Innermost() *Break {
	for b.Inner != nil {
		b = b.Inner
	}
	return b
}

// balance finds the least height at which the contents fit into the columns
// (§7.1), by trying from the average up.
func (c *columnSet) balance(at *Break, limit float64) float64 {
	if c.held || c.wraps { // what goes on fills the page, or the row: nothing is to be balanced
		if _, rest := c.set(at, limit, c.n); rest != nil && rest.spanner() == nil {
			return limit
		}
	}
	sp := c.space()
	sp.Column, sp.Spans = true, true
	whole, _ := c.l.Lay(c.b, sp, at)
	if whole == nil {
		return limit
	}
	tall := math.Max(whole.H, whole.positionedReach())
	hi := math.Min(math.Max(tall, 1), limit)
	n := c.n
	if !c.held && !c.wraps { // forced breaks may ask for more columns than there are
		c.set(at, hi, manyColumns)
		n = max(n, c.runs)
	}
	lo, used := math.Min(math.Max(tall/float64(n), 1), hi), 0.0
	fits := func(h float64) bool {
		frags, rest := c.set(at, h, n)
		used = tallest(frags)
		if len(frags) == 0 || c.penalty > noPenalty || rest != nil && (rest.spanner() == nil || rest.parallel()) {
			return false
		}
		for _, f := range frags {
			if f.used() > h+0.5 && len(f.Kids) > 0 {
				return false
			}
		}
		return c.holdPositioned(frags, h, n)
	}
	if fits(lo) {
		hi = lo
	}
	for range 14 {
		if hi-lo < 0.5 {
			break
		}
		mid := (lo + hi) / 2
		if fits(mid) {
			hi = mid
		} else {
			lo = mid
		}
	}
	if whole := math.Round(hi); whole < hi && fits(whole) {
		hi = whole
	}
	// What is cut reaches down to the end of its column: it ends with the contents.
	if fits(hi) && used >= 1 && used < hi && fits(used) {
		hi = used
	}
	return hi
}
