package layout

import (
	"maps"
	"math"
	"slices"
	"strings"

	"github.com/go-text/typesetting/segmenter"

	"oliveledger/typeset/internal/bidi"
	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/style"
)

// cursor is a place in inline content: a leaf, and bytes into its text when a
// word had to be cut.
type cursor struct{ leaf, off int }

const endOfText = 1 << 30

// lines sets the inline content of b line by line (CSS 2.2, §9.4.2). It
// returns the height, or a negative one when nothing fits.
func (l *Layout) lines(f *Fragment, b *box.Box, in flowSpace, from *Break) (float64, *Break) {
	if from == nil {
		if h, ok := l.plainLine(f, b, in); ok {
			return h, nil
		}
	}
	p := l.prepare(b)
	st := l.takeLines()
	defer l.giveLines(st)
	st.f, st.b, st.in, st.p, st.first = f, b, in, p, true
	if from != nil {
		st.at, st.n, st.floated = from.Line, from.Lines, maps.Clone(from.floated)
		st.before = st.n
		st.first = from.Lines == 0
		for _, pf := range from.Float {
			st.float(&pf, 0, true)
		}
		if rests := st.goOnCut(from.cut); len(rests) > 0 {
			f.floats = st.in.floats
			return st.y, &Break{Line: from.Line, Lines: from.Lines, Float: st.pending, floated: st.floated, cut: rests}
		}
		st.clearBelow()
	}
	if b.Rare().FirstLine != nil && st.first {
		st.b = l.firstLine(b)
		st.p = l.prepare(st.b)
	}
	st.balance()
	st.pretty()
	h, rest := st.set(b, p, from)
	f.floats = st.in.floats
	return h, rest
}

// set makes lines of p, the contents of b, until it or the room ends; the first may be
// of a paragraph that looks different.
func (st *lineState) set(b *box.Box, p *para, from *Break) (float64, *Break) {
	in := &st.in
	var some [4]lineMark
	marks := some[:0]
	earlier := 0 // lines on pages before
	if from != nil {
		earlier = st.n
	}
	for st.at.leaf < len(st.p.leaves) && !st.clamped() {
		m := lineMark{st.at, st.n, st.f.extent(), in.floats, len(st.pending), st.y, maps.Clone(st.floated)}
		frag, y := st.line()
		if frag == nil {
			continue
		}
		if st.p != p { // only the first line looks different
			st.at = st.p.moveTo(st.at, p)
			st.b, st.p = b, p
		}
		onTop := in.atTop && len(marks) == 0 && atMost(y, 0)
		if in.cuts() && st.isCut(frag, y, onTop) {
			if rests := st.cutLine(frag, in.left-y, onTop); len(rests) > 0 {
				st.add(frag, y)
				return st.y, &Break{Line: st.at, Lines: st.n, Float: st.pending, cut: rests}
			}
		}
		if in.cuts() && in.trim.parts && exceeds(y+frag.H, in.left) {
			st.trimSides(frag, false, true)
		}
		if in.cuts() && exceeds(y+frag.H, in.left) && !onTop {
			stay := st.staying(b.Style, len(marks), m.at, from != nil, earlier)
			return st.cutBefore(append(marks, m), stay, exceeds(y, m.y))
		}
		marks = append(marks, m)
		st.add(frag, y)
		st.clearBelow()
	}
	return st.endLines()
}

// lineMark is a state of a paragraph before one of its lines, to come back to.
type lineMark struct {
	at      cursor
	n       int
	had     extent
	floats  *floats
	pending int
	y       float64
	floated map[int]bool // floats of the line that stand beside those before it
}

// clamped tells whether the paragraph ends here, as no more lines are to be shown. What an inline box contains that is
// not shown is not shown either.
func (st *lineState) clamped() bool {
	in := &st.in
	c := in.clamp
	if c == nil || c.left != 0 {
		return false
	}
	c.over = c.over || st.remaining(st.at, 1) > 0
	for i := st.at.leaf; i < len(st.p.leaves); i++ {
		if lf := &st.p.leaves[i]; lf.kind == leafOut && within(lf.in, lf.box) == nil {
			st.wait(lf, in.x, in.x+in.w, st.y)
		}
	}
	return true
}

// staying is how many of the lines that are set stay before a cut, so that enough lines go together (CSS Break 3, §3.3):
// the line at a place does not fit, and what goes on from a break has some lines already.
func (st *lineState) staying(s *style.Style, set int, at cursor, goesOn bool, earlier int) int {
	k := set
	if rest := st.remaining(at, s.Widows); rest < s.Widows {
		k = max(set-(s.Widows-rest), 0)
	}
	if earlier == 0 && k < s.Orphans {
		k = 0
	}
	if goesOn {
		k = max(k, min(s.Orphans, set))
	}
	return k
}

// cutBefore cuts the paragraph before line number k of those marked, the last of which does not fit. pushed tells that
// floats have pushed that one down: they stay.
func (st *lineState) cutBefore(marks []lineMark, k int, pushed bool) (float64, *Break) {
	set, penalty := len(marks)-1, noPenalty
	if k == 0 {
		if set == 0 && !(pushed && st.in.atTop) {
			return -1, nil
		}
		k, penalty = set, linesPenalty
	}
	m := marks[k]
	if pushed && k == set {
		return m.y, &Break{Line: m.at, Lines: m.n, Penalty: penalty, Float: st.pending, floated: st.floated}
	}
	st.f.backTo(m.had)
	st.in.floats = m.floats
	st.pending = st.pending[:m.pending]
	st.fixBaselines()
	return m.y, &Break{Line: m.at, Lines: m.n, Penalty: penalty, Float: st.pending, floated: m.floated}
}

// endLines is where a paragraph ends whose lines are all set, and what of its floats goes on.
func (st *lineState) endLines() (float64, *Break) {
	in := &st.in
	st.f.apart = st.f.apart || st.n > 0
	if in.cuts() && st.clears && exceeds(st.y, in.left) { // the end, too, waits for the page where the float ends
		return in.left, &Break{Line: st.at, Lines: st.n, Float: st.pending, floated: st.floated}
	}
	if len(st.pending) > 0 {
		return st.y, &Break{Line: cursor{leaf: endOfText}, Lines: st.n, Float: st.pending, Ended: !in.bfc}
	}
	return st.y, nil
}

// takeLines gives memory for making lines. Lines are made within lines, where
// boxes stand in them.
func (l *Layout) takeLines() *lineState {
	n := len(l.lineMem)
	if n == 0 {
		return &lineState{l: l}
	}
	st := l.lineMem[n-1]
	l.lineMem = l.lineMem[:n-1]
	return st
}

func (l *Layout) giveLines(st *lineState) {
	clear(st.units[:cap(st.units)])
	*st = lineState{l: l, units: st.units[:0]}
	l.lineMem = append(l.lineMem, st)
}

type lineState struct {
	l       *Layout
	f       *Fragment
	b       *box.Box
	in      flowSpace
	p       *para
	at      cursor
	units   []unit // memory for those of a line
	builder lineBuilder

	justified [2]int // the units of the line from the first to before the last, between which spaces grow
	rtl       bool   // the line runs from right to left
	n         int    // lines set, in all parts
	before    int    // of them in earlier parts
	y         float64
	first     bool
	after     bool // a forced break came before
	pending   []pendingFloat
	limit     float64            // lines may be no wider; 0 for as wide as there is room
	rooms     map[cursor]float64 // of lines chosen together, by their start
	floated   map[int]bool       // leaves whose float is placed; a line may be filled more than once
	clears    bool               // what follows the last line stands below the floats
}

// remaining counts the lines from at on, as far as it matters.
func (st *lineState) remaining(at cursor, most int) int {
	try := *st
	try.f = &Fragment{}
	try.at = at
	try.floated = maps.Clone(st.floated)
	n := 0
	for n < most && try.at.leaf < len(try.p.leaves) {
		if frag, _ := try.line(); frag != nil {
			n++
		}
	}
	return n
}

func (st *lineState) add(frag *Fragment, y float64) {
	f, base := st.f, st.in.y+y+st.baselineOf(frag)
	if !known(f.Baseline) {
		f.Baseline = base
	}
	f.LastBaseline = base
	f.add(frag, st.in.x, st.in.y+y, 0, 0)
	st.y = y + frag.H
	st.n++
	if st.in.clamp != nil {
		st.in.clamp.left--
	}
}

func (st *lineState) fixBaselines() {
	f := st.f
	f.Baseline, f.LastBaseline = Indefinite, Indefinite
	for _, k := range f.Kids {
		if k.F.Line {
			base := k.Y + st.baselineOf(k.F)
			if !known(f.Baseline) {
				f.Baseline = base
			}
			f.LastBaseline = base
		}
	}
}

// baselineOf is how far the baseline of a line is from its block-start side, which in
// vertical-lr is the lower side of its text.
func (st *lineState) baselineOf(line *Fragment) float64 {
	if st.b.Frame == style.VerticalLr {
		return line.H - line.Baseline
	}
	return line.Baseline
}

func (st *lineState) float(p *pendingFloat, y float64, moved bool) {
	if rest := st.l.placeFloat(st.f, p, &st.in, y, moved); rest != nil {
		st.pending = append(st.pending, *rest)
	}
}

// floatBelow places floats, given by their leaves, for which a line has no room.
func (st *lineState) floatBelow(leaves []int, y float64) {
	for _, i := range leaves {
		lf := &st.p.leaves[i]
		st.float(&pendingFloat{b: lf.box, in: lf.in}, y, false)
		st.hasFloated(i)
	}
}

// clearBelow moves what follows a br element with clear, at which a line has ended,
// below the floats, on this page or the one where they end.
func (st *lineState) clearBelow() {
	next := st.at
	if next.leaf == 0 || next.leaf > len(st.p.leaves) || st.in.floats == nil {
		return
	}
	lf := &st.p.leaves[next.leaf-1]
	if st.clears = next.off == 0 && lf.kind == leafBreak && lf.box.Kind == box.LineBreak && lf.box.Style.Clear != style.None; st.clears {
		st.y = math.Max(st.y, st.in.floats.clear(lf.box.Style.Clear)-st.in.bfcY-st.in.y)
	}
}

func (st *lineState) hasFloated(leaf int) {
	if st.floated == nil {
		st.floated = map[int]bool{}
	}
	st.floated[leaf] = true
}

// unit is a leaf, or a part of one, on the line that is being made.
type unit struct {
	*leaf
	idx       int
	run       *font.Run
	w         float64
	pre, post float64   // edges of inline boxes that begin and end here
	frag      *Fragment // of an atomic box
	margin    [4]float64
	noOpen    bool
	noClose   bool
	hyphen    bool
}

// line makes one line. It returns nil when there is nothing to show.
func (st *lineState) line() (*Fragment, float64) {
	y := st.y
	minH := st.strutHeight()
	for range 1000 {
		l, r := st.band(y, minH)
		avail := r - l
		if st.limit > 0 {
			avail = math.Min(avail, st.limit)
		}
		if w, ok := st.rooms[st.at]; ok {
			avail = math.Min(avail, w)
		}
		units, next, floats, forced, tooWide := st.fill(avail, y)
		if tooWide && st.in.floats != nil {
			// not even the first word fits beside the floats: go below
			edge := st.in.floats.nextLine(st.in.bfcY + st.in.y + y)
			if l2, r2 := st.band(y, minH); !math.IsInf(edge, 1) && exceeds(st.in.w, r2-l2) {
				y = edge - st.in.bfcY - st.in.y
				continue
			}
		}
		show := visible(units) || forced && len(units) > 0
		if show && st.in.floats != nil {
			if h := st.height(units); exceeds(h, minH) { // it may reach down to where floats leave less room
				if l2, r2 := st.band(y, h); exceeds(r-l, r2-l2) {
					minH = h
					continue
				}
			}
		}
		st.at = next
		l, r = st.band(y, minH)
		if !show {
			for _, u := range units {
				if u.kind == leafOut {
					st.wait(u.leaf, l, r, y)
				}
			}
			st.floatBelow(floats, y)
			return nil, y
		}
		switch c := st.in.clamp; {
		case c.last():
			units = st.truncate(units, avail, c.text, true)
		case cutsText(st.b) && exceeds(st.lineWidth(units), avail):
			units = st.truncate(units, avail, st.b.Style.TextOverflow.Text, false)
		}
		last := forced || next.leaf >= len(st.p.leaves)
		frag := st.build(units, l, r, last)
		st.trimLine(frag)
		st.first, st.after = false, forced
		st.floatBelow(floats, y+frag.H)
		return frag, y
	}
	return nil, y
}

// visible tells whether units make a line box (CSS 2.2, §9.4.2).
func visible(units []unit) bool {
	return slices.ContainsFunc(units, func(u unit) bool { return u.pre != 0 || u.post != 0 || u.visible() })
}

func (lf *leaf) visible() bool {
	switch lf.kind {
	case leafText, leafTab, leafAtomic:
		return true
	case leafSpace:
		if !lf.collapse {
			return true
		}
	}
	edged := func(in *inlineBox) bool {
		s := in.box.Style
		return s.Border[style.Left].Width != 0 || s.Border[style.Right].Width != 0 || !s.Padding[style.Left].IsZero() || !s.Padding[style.Right].IsZero()
	}
	return slices.ContainsFunc(lf.opens, edged) || slices.ContainsFunc(lf.closes, edged)
}

// lineless tells whether inline content makes no line box: margins adjoin through it.
func (l *Layout) lineless(b *box.Box) bool {
	for _, c := range b.Children { // most content tells at once
		if c.Kind == box.Text && strings.Trim(c.Text, " \t\n\r\f") != "" {
			return false
		}
	}
	p := l.prepare(b)
	for i := range p.leaves {
		lf := &p.leaves[i]
		if lf.kind == leafBreak || lf.visible() || l.opensWidth(lf, 0) != 0 || l.closesWidth(lf, 0) != 0 {
			return false
		}
	}
	return true
}

// band is the stretch of the content box that floats leave at y, from its left.
func (st *lineState) band(y, h float64) (l, r float64) {
	x0, x1 := st.in.x, st.in.x+st.in.w
	if st.in.floats == nil {
		return x0, x1
	}
	bx := st.in.bfcX
	l, r = st.in.floats.lineBand(st.in.bfcY+st.in.y+y, h, bx+x0, bx+x1)
	return l - bx, r - bx
}

// strutHeight is the least height of a line.
func (st *lineState) strutHeight() float64 {
	return st.l.look(st.b.Style).line
}

// indent is the text-indent of the line about to be made.
func (st *lineState) indent() float64 {
	t := st.b.Style.TextIndent
	if t.IsZero() {
		return 0
	}
	on := st.first || t.EachLine && st.after
	if on == t.Hanging {
		return 0
	}
	return t.Of(st.in.w)
}

// trailing is the edge width that must fit with a unit.
func (st *lineState) trailing(u *unit) float64 { return math.Max(u.post, 0) + st.clonedAfter(u) }

func (st *lineState) styleOf(lf *leaf) *style.Style {
	if s := st.l.leafStyle(lf); s != nil {
		return s
	}
	return st.b.Style
}

func (st *lineState) hyphenWidth(lf *leaf) float64 {
	r := st.hyphenRun(lf)
	return r.Width * st.l.sizeOf(lf.box.Style, lf.match.Face) / lf.match.Face.Upem
}

func (st *lineState) hyphenRun(lf *leaf) *font.Run {
	h := lf.box.Style.HyphenChar
	if h == "" {
		h = "\u2010"
		if lf.match.Face.Glyph('\u2010') == 0 {
			h = "-"
		}
	}
	return lf.match.Face.Shape(h, lf.script, lf.box.Style.Lang, lf.level&1 == 1, "").As("\u00AD")
}

// hyphenate shows the hyphen of a soft hyphen that ends the line.
func (st *lineState) hyphenate(units []unit) {
	for k := len(units) - 1; k >= 0; k-- {
		u := &units[k]
		if u.kind == leafText {
			if u.soft {
				u.hyphen = true
				u.w += st.hyphenWidth(u.leaf)
			}
			return
		}
		if u.kind != leafPhantom && u.kind != leafOut {
			return
		}
	}
}

// breaksWords tells whether a word may be cut when it alone is too wide.
func (st *lineState) breaksWords(lf *leaf) bool {
	s := lf.box.Style
	return s.OverflowWrap != style.Normal || s.WordBreak == style.BreakWord || s.LineBreak == style.Anywhere
}

// cutWord keeps as many graphemes of a word as fit, at least one when must.
// It returns the bytes kept, 0 when none is.
func (st *lineState) cutWord(u *unit, room float64, off int, forceProgress bool) int {
	text := st.p.text[u.start+off : u.end]
	var seg segmenter.Segmenter
	_ = seg.InitWithString(text) // it takes any text
	ends := []int{}
	at := 0
	for it := seg.GraphemeIterator(); it.Next(); {
		at += len(string(it.Grapheme().Text))
		ends = append(ends, at)
	}
	lo, hi := 0, len(ends)-1 // the largest count that fits
	for lo < hi {
		mid := (lo + hi + 1) / 2
		if atMost(st.widthOf(u.leaf, text[:ends[mid-1]]), room) {
			lo = mid
		} else {
			hi = mid - 1
		}
	}
	if lo == 0 {
		if !forceProgress || len(ends) < 2 {
			return 0
		}
		lo = 1
	}
	st.part(u, off, off+ends[lo-1])
	u.noClose, u.post = true, 0
	return ends[lo-1]
}

func (st *lineState) widthOf(lf *leaf, text string) float64 {
	c := *lf
	c.soft = false
	st.l.measure(&c, st.p.text, text, st.l.look(lf.box.Style).features)
	return c.w
}

// part makes u the bytes from a to b of its leaf.
func (st *lineState) part(u *unit, a, b int) {
	c := *u.leaf
	c.start, c.end = u.leaf.start+a, u.leaf.start+b
	if b < u.leaf.end-u.leaf.start {
		c.soft = false
	}
	if font.Joins(c.script) {
		c.before, c.after = c.before || a > 0, c.after || c.end < u.leaf.end
	}
	st.l.measure(&c, st.p.text, st.p.text[c.start:c.end], st.l.look(c.box.Style).features)
	u.run, u.w = c.run, c.w
}

// tab is the width to the next tab stop (CSS Text 3, §4.2).
func (st *lineState) tab(x float64, lf *leaf) float64 {
	s := lf.box.Style
	if lf.box.Leader { // what is left of the line follows when it is built
		return 0
	}
	b := st.b.Style
	stop := s.TabSize.Px
	if s.TabSize.Pct != 0 { // so many spaces of the block
		space := st.l.look(b).first.Face.Advance(' ') * b.FontSize
		stop = s.TabSize.Pct / 100 * (space + b.LetterSpacing.Of(b.FontSize) + b.WordSpacing.Of(space))
	}
	if stop <= 0 {
		return 0
	}
	w := stop - (x - math.Floor(x/stop)*stop)
	if w < 0.5*st.l.look(b).first.Face.Advance('0')*b.FontSize {
		w += stop
	}
	return w
}

// atomic sets an inline-level box that stands in the line as one.
func (st *lineState) atomic(u *unit) {
	b := u.box
	e := st.l.edges(b, st.in.w)
	u.frag, _ = st.l.Lay(b, st.atomicSpace(), nil)
	if u.frag == nil {
		u.frag = &Fragment{Box: b, Baseline: Indefinite, LastBaseline: Indefinite}
	}
	u.margin = e.margin
	if b.Frame == style.VerticalLr { // its lines are mirrored when they are made
		u.margin[style.Top], u.margin[style.Bottom] = e.margin[style.Bottom], e.margin[style.Top]
	}
	u.w = u.frag.W + e.margin[style.Left] + e.margin[style.Right]
}

// floatNow places a float at the current line when there is room for it.
func (st *lineState) floatNow(lf *leaf, x, avail, y float64, solid bool) bool {
	b := lf.box
	if !solid {
		st.float(&pendingFloat{b: b, in: lf.in}, y, false)
		return true
	}
	e := st.l.edges(b, st.in.w)
	sp := newSpace(st.in.w, st.in.h)
	sp.Shrink = true
	frag, _ := st.l.Lay(b, sp, nil)
	if w := frag.W + e.margin[style.Left] + e.margin[style.Right]; exceeds(x+w, avail) || b.Style.Clear != style.None && st.in.floats != nil {
		return false
	}
	st.float(&pendingFloat{b: b, in: lf.in}, y, false)
	return true
}

// wait notes a positioned box on a line that shows nothing else.
func (st *lineState) wait(lf *leaf, l, r, y float64) {
	b := lf.box
	w := staticPlace(b, st.b, rect{st.in.x, st.in.y + y, st.in.w, 0})
	if b.Style.WasInline { // it would be the first in its line
		l, r = indented(l, r, st.indent(), st.p.rtl)
		w = inlinePlace(b, st.b, rect{l, st.in.y + y, r - l, 0})
	}
	w.by = within(lf.in, b)
	st.f.out = append(st.f.out, w)
}

// height is that of a line of units.
func (st *lineState) height(units []unit) float64 {
	b := &st.builder
	*b = lineBuilder{st: st, line: &Fragment{}}
	b.measure(trimEnd(slices.Clone(units)))
	return b.bottom - b.top
}

// build lays the units of a line out and makes its fragment.
func (st *lineState) build(units []unit, l, r float64, last bool) *Fragment {
	units = trimEnd(units)
	st.rtl = st.p.rtlAt(units[0].start)
	indent := st.indent() - st.hangStart(units[0].idx)
	width := indent + st.unitsWidth(units)
	hang := hanging(units, (r-l)-width, last)
	hang += st.hangs(units, (r-l)-(width-hang), last)
	free := (r - l) - (width - hang)
	if free > 0 {
		free = shareLeaders(units, free)
	}
	made := &lineFragment{}
	line := &made.Fragment
	line.Line, line.W, line.Baseline, line.Kids = true, st.in.w, Indefinite, made.some[:0]
	b := &st.builder
	*b = lineBuilder{st: st, line: line}
	b.measure(units)
	line.H, line.Baseline = b.bottom-b.top, -b.top
	start, gap, perGlyph := st.align(units, free, last)
	x := l - st.in.x + start
	if !st.rtl {
		x += indent
	} else if hang > 0 {
		x -= hang
	}
	order := visual(units, st.p.bidi, st.rtl)
	b.place(units, order, x, gap, perGlyph)
	return line
}

// unitsWidth is the width of all that stands on a line, with the edges of boxes that it cuts.
func (st *lineState) unitsWidth(units []unit) float64 {
	w := st.clonedBefore(&units[0]) + st.clonedAfter(&units[len(units)-1])
	for i := range units {
		w += units[i].pre + units[i].w + units[i].post
	}
	return w
}

// trimEnd removes the collapsible spaces that end a line.
func trimEnd(units []unit) []unit {
	for k := len(units) - 1; k >= 0; k-- {
		switch u := &units[k]; u.kind {
		case leafSpace:
			if !u.collapse {
				return units
			}
			u.w = 0
			u.run = nil
		case leafPhantom, leafOut, leafFloat, leafBreak:
		default:
			return units
		}
	}
	return units
}

// hanging is the width of preserved spaces at the end that hang. Before a forced
// break they hang only as far as there is no room for them (CSS Text 3, §4.1.3).
func hanging(units []unit, free float64, last bool) float64 {
	always, conditional := 0.0, 0.0
ends:
	for k := len(units) - 1; k >= 0; k-- {
		switch u := &units[k]; u.kind {
		case leafSpace:
			switch {
			case u.hang && (u.box.Style.Collapse == style.Preserve || u.box.Style.Collapse == style.PreserveSpaces):
				conditional += u.w
			case u.hang || u.collapse && u.w == 0:
				always += u.w
			default:
				break ends
			}
		case leafPhantom, leafOut, leafFloat, leafBreak:
		default:
			break ends
		}
	}
	if last {
		conditional = math.Min(conditional, math.Max(-free, 0))
	}
	return always + conditional
}

// align gives the offset of the line's contents, and what justified text adds
// to each space or glyph (CSS Text 3, §6).
func (st *lineState) align(units []unit, free float64, last bool) (start, gap, perGlyph float64) {
	s := st.b.Style
	a := s.TextAlign
	if last {
		switch s.TextAlignLast {
		case style.Auto:
			if a == style.Justify {
				a = style.Start
			}
		default:
			a = s.TextAlignLast
		}
		if s.TextAlign == style.JustifyAll {
			a = style.Justify
		}
	} else if a == style.JustifyAll {
		a = style.Justify
	}
	if a == style.Justify && free > 0 {
		n := 0
		end := contentEnd(units)
		st.justified = [2]int{afterTabs(units[:end]), end}
		for i := st.justified[0]; i < end; i++ {
			if u := &units[i]; u.kind == leafSpace && (u.w > 0 || u.box.Style.FontSize == 0) && u.run != nil && !u.other && u.box.Style.TextJustify != style.None {
				n++
			} else if u.kind == leafText {
				n += strings.Count(st.p.text[u.start:u.end], "\u00A0")
			}
		}
		if s.TextJustify == style.InterCharacter || s.TextJustify == style.Distribute {
			g := 0
			for i := range units[:end] {
				if u := &units[i]; u.run != nil {
					g += len(u.run.Glyphs)
				}
			}
			if g > 1 {
				return 0, 0, free / float64(g-1)
			}
		} else if n > 0 && s.TextJustify != style.None {
			return 0, free / float64(n), 0
		}
		a = style.Start
	}
	return lineStart(a, st.rtl, free), 0, 0
}

// lineStart is where the contents of a line begin that has so much free room. What is too long begins at
// the line's start, however it is aligned (CSS Text 3, §7.1).
func lineStart(a style.Keyword, rtl bool, free float64) float64 {
	if free < 0 {
		a = style.Start
	}
	switch {
	case a == style.Center || a == style.XWebkitCenter:
		return free / 2
	case a == style.RightSide || a == style.XWebkitRight || a == style.End && !rtl || (a == style.Start || a == style.Justify) && rtl:
		return free
	}
	return 0
}

// afterTabs is where text begins that justification may spread: what stands before
// a tab keeps its place.
func afterTabs(units []unit) int {
	for i := len(units); i > 0; i-- {
		if units[i-1].kind == leafTab {
			return i
		}
	}
	return 0
}

func contentEnd(units []unit) int {
	n := len(units)
	for n > 0 {
		switch k := units[n-1].kind; k {
		case leafSpace, leafPhantom, leafOut, leafFloat, leafBreak:
			n--
		default:
			return n
		}
	}
	return n
}

// visual is the order in which units are painted from left to right; nil
// stands for the order that they are in.
func visual(units []unit, mixed, rtl bool) []int {
	if !mixed {
		return nil
	}
	base := uint8(0)
	if rtl {
		base = 1
	}
	levels := make([]uint8, len(units))
	for i := range units {
		levels[i] = units[i].level
		if units[i].kind == leafPhantom || units[i].kind == leafFloat {
			levels[i] = base
			if i > 0 {
				levels[i] = levels[i-1]
			}
		}
	}
	for i := len(units) - 1; i >= 0; i-- { // rule L1
		if k := units[i].kind; k != leafSpace && k != leafTab && k != leafBreak && k != leafPhantom && k != leafOut {
			break
		}
		levels[i] = base
	}
	return bidi.Reorder(levels)
}
