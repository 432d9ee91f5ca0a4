package layout

import (
	"math"
	"strings"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/style"
)

// metricsOf adapts the fonts to style's needs.
type metricsOf struct{ set *font.Set }

// Metrics gives the measures of the first available font of a style.
func (m metricsOf) Metrics(s *style.Style) style.Metrics {
	f := m.set.Primary(query(s)).Face
	size := s.FontSize
	if size <= 0 {
		size = 16
	}
	k := m.sizeOf(s, f) / math.Max(s.FontSize, 1e-6)
	e := measures(f)
	// lines stand on whole px, as ascent and descent do
	return style.Metrics{
		Ex: e.Ex * k, Ch: e.Ch * k, Cap: e.Cap * k, Ic: e.Ic * k, Mean: f.MeanWidth * k, Widest: f.Box[2] * k,
		Ascent: math.Round(f.Ascent*size*k) / size, Descent: math.Round(f.Descent*size*k) / size, LineGap: math.Round(f.LineGap*size*k) / size,
	}
}

// InkBelow is how far the glyphs of a text reach below its baseline, of 1em.
func (m metricsOf) InkBelow(s *style.Style, text string) (below float64) {
	f := m.set.Primary(query(s)).Face
	for _, r := range text {
		below = math.Max(below, f.Depth(r))
	}
	return below * m.sizeOf(s, f) / math.Max(s.FontSize, 1e-6)
}

func measures(f *font.Face) style.Metrics {
	return style.Metrics{Ex: f.XHeight, Ch: f.Advance('0'), Cap: f.CapHeight, Ic: ideograph(f)}
}

// sizeOf is the size in px at which a style sets a face: the font size, but for
// font-size-adjust.
func (m metricsOf) sizeOf(s *style.Style, f *font.Face) float64 {
	a := s.SizeAdjust
	if !a.On {
		return s.FontSize
	}
	want, own := a.Value, a.Of(measures(f))
	if a.FromFont {
		want = a.Of(measures(m.set.Primary(query(s)).Face))
	}
	if own <= 0 {
		return s.FontSize
	}
	return s.FontSize * want / own
}

func (l *Layout) sizeOf(s *style.Style, f *font.Face) float64 { return metricsOf{l.Fonts}.sizeOf(s, f) }

// ideograph is the advance of the ideograph for water, in em
// (CSS Values 4, §6.1.1).
func ideograph(f *font.Face) float64 {
	if f.Glyph('水') == 0 {
		return 1
	}
	return f.Advance('水')
}

// NewMetrics gives style its font measures.
func NewMetrics(set *font.Set) style.Fonts { return metricsOf{set} }

// lineBuilder places the boxes of one line around its baseline
// (CSS 2.2, §10.8).
type lineBuilder struct {
	st          *lineState
	line        *Fragment
	top, bottom float64 // extent relative to the root baseline
	shifts      map[*inlineBox]float64
	aligned     []alignedBox    // top and bottom, placed when the extent is known
	atomics     map[int]float64 // baseline shift of atomic units
	unitsNow    []unit
	last        *TextRun                 // that was made
	begun       map[*style.Style]float64 // where dotted and dashed decorations begin
	solid       [2]int                   // the units before and after which there are but spaces
}

type alignedBox struct {
	in       *inlineBox
	unit     int
	top      float64
	bottom   float64
	toBottom bool
}

// inlineStrut is the inline box of a style: its extent above and below its baseline
// with half-leading, and its ascent and descent without.
type inlineStrut struct{ above, below, ascent, descent float64 }

func (l *Layout) strutOf(s *style.Style, m font.Match) (t inlineStrut) {
	asc, desc, gap := l.metrics(m, l.sizeOf(s, m.Face))
	if central(s) {
		asc, desc = (asc+desc)/2, (asc+desc)/2
	}
	// a normal line is a whole number of px tall, and its baseline stands on a
	// whole px, as on screen: pages keep the steps their authors saw
	lh := math.Round(asc) + math.Round(desc) + math.Round(gap)
	if s.LineHeight.Kind != style.LineNormal {
		lh = style.LineHeightPx(s, metricsOf{l.Fonts})
	}
	half := math.Floor((math.Round(lh*64)/64 - math.Round(asc) - math.Round(desc)) / 2) // browsers count in 64ths of a px
	t.above = math.Round(asc) + half
	t.below, t.ascent, t.descent = lh-t.above, asc, desc
	return t
}

// textLook is what lines need to know of a style: how the fonts answer it.
type textLook struct {
	s        *style.Style
	query    font.Query
	first    *font.Primary
	strut    inlineStrut
	line     float64 // line height
	features font.Features

	plainBlock, plainText, plainCell bool // its lines, its text and its cells need nothing special
	size                             float64
	latin, common                    *font.Words
}

// mostLooks bounds how many styles are remembered.
const mostLooks = 2000

// look gives what lines need to know of a style. Neighbours often share one.
func (l *Layout) look(s *style.Style) *textLook {
	if l.last != nil && l.last.s == s {
		return l.last
	}
	k := l.looks[s]
	if k == nil {
		if l.looks == nil || len(l.looks) >= mostLooks {
			l.looks = map[*style.Style]*textLook{}
		}
		k = &textLook{s: s, query: query(s), features: features(s), line: style.LineHeightPx(s, metricsOf{l.Fonts})}
		k.first = l.Fonts.Primary(k.query)
		k.strut = l.strutOf(s, k.first.Match)
		if k.plainBlock, k.plainText, k.plainCell = plainBlock(s), plainText(s) && plainFace(k.first.Match), plainCell(s); k.plainText {
			k.plainFont(l)
		}
		l.looks[s] = k
	}
	l.last = k
	return k
}

const noBreakHyphen = '\u2011'

// wants tells whether a character needs another face than the first one.
func (k *textLook) wants(r rune, emoji int) bool {
	if r == noBreakHyphen && k.first.Face.Glyph(r) == 0 { // the shaper makes it from the hyphen
		r = '\u2010'
	}
	return emoji != font.AnyLook || k.first.Wants(r)
}

// central tells whether text stands on the middle line: in vertical lines with
// upright characters among them (Writing Modes 4, §4.2).
func central(s *style.Style) bool {
	return (s.WritingMode == style.VerticalRl || s.WritingMode == style.VerticalLr) && s.Orientation != style.Sideways
}

func (b *lineBuilder) extend(above, below float64) {
	b.top, b.bottom = math.Min(b.top, -above), math.Max(b.bottom, below)
}

// shift is how far the baseline of an inline box lies below the root's.
func (b *lineBuilder) shift(in *inlineBox) float64 {
	if in == nil {
		return 0
	}
	if v, ok := b.shifts[in]; ok {
		return v
	}
	up := b.shift(in.up)
	v := up + b.raise(in.box.Style.VerticalAlign, in.box.Style, b.parentStyle(in.up))
	if b.shifts == nil {
		b.shifts = map[*inlineBox]float64{}
	}
	b.shifts[in] = v
	return v
}

func (b *lineBuilder) parentStyle(in *inlineBox) *style.Style {
	if in == nil {
		return b.st.b.Style
	}
	return in.box.Style
}

// raise is the shift of an inline box against its parent's baseline; positive
// is down.
func (b *lineBuilder) raise(v style.VerticalAlign, s, parent *style.Style) float64 {
	return b.alignment(v, s, parent) - s.BaselineShift
}

// alignment is what vertical-align makes of raise.
func (b *lineBuilder) alignment(v style.VerticalAlign, s, parent *style.Style) float64 {
	l := b.st.l
	switch v.Kind {
	case style.Sub:
		return parent.FontSize/5 + 1 // as browsers have it
	case style.Super:
		return -parent.FontSize/3 - 1
	case style.Length:
		return -v.Of(l.look(s).line)
	case style.Middle:
		t := l.look(s).strut
		return -metricsOf{l.Fonts}.Metrics(parent).Ex*parent.FontSize/2 + (t.above-t.below)/2
	case style.TextTop:
		return l.look(s).strut.above - l.look(parent).strut.ascent
	case style.TextBottom:
		return l.look(parent).strut.descent - l.look(s).strut.below
	}
	return 0
}

// loose finds the inline box, if any, that vertical-align: top or bottom takes
// out of the baseline's order.
func loose(in *inlineBox) *inlineBox {
	for ; in != nil; in = in.up {
		if k := in.box.Style.VerticalAlign.Kind; k == style.TopSide || k == style.BottomSide {
			return in
		}
	}
	return nil
}

// measure finds the line's extent above and below the root baseline.
func (b *lineBuilder) measure(units []unit) {
	l := b.st.l
	own := l.look(b.st.b.Style).strut
	b.top, b.bottom = -own.above, own.below
	seen := map[*inlineBox]bool{}
	loosely := map[*inlineBox]*alignedBox{}
	note := func(in *inlineBox, above, below float64) {
		at := b.shift(in)
		if lo := loose(in); lo != nil {
			at -= b.shift(lo)
			x := loosely[lo]
			if x == nil {
				x = &alignedBox{in: lo, unit: -1, top: -above, bottom: below, toBottom: lo.box.Style.VerticalAlign.Kind == style.BottomSide}
				loosely[lo] = x
			}
			x.top, x.bottom = math.Min(x.top, at-above), math.Max(x.bottom, at+below)
			return
		}
		b.extend(above-at, below+at)
	}
	for i := range units {
		u := &units[i]
		for in := u.in; in != nil && !seen[in]; in = in.up {
			seen[in] = true
			t := l.look(in.box.Style).strut
			note(in, t.above, t.below)
		}
		switch u.kind {
		case leafText:
			if s := u.box.Style; s.LineHeight.Kind == style.LineNormal && u.match.Face != l.look(s).first.Face {
				t := l.strutOf(s, u.match)
				note(u.in, t.above, t.below)
			}
			if s := u.box.Style; s.EmphasisMark != "" {
				e := l.emphasisOf(s)
				t := l.look(s).strut
				if s.EmphasisOver() {
					note(u.in, t.ascent+e.above+e.below, 0)
				} else {
					note(u.in, 0, t.descent+e.above+e.below)
				}
			}
		case leafAtomic:
			b.measureAtomic(u, i, note)
		}
	}
	for _, x := range loosely {
		b.aligned = append(b.aligned, *x)
	}
	for _, x := range b.aligned { // grow the line for them
		h := x.bottom - x.top
		if h > b.bottom-b.top {
			if x.toBottom {
				b.top = b.bottom - h
			} else {
				b.bottom = b.top + h
			}
		}
	}
	for _, x := range b.aligned {
		at := b.top - x.top
		if x.toBottom {
			at = b.bottom - x.bottom
		}
		if x.in != nil {
			b.moveLoose(x.in, at-b.shift(x.in), units)
		} else {
			b.atomics[x.unit] = at
		}
	}
}

// moveLoose gives a top- or bottom-aligned box and all inside it their shift.
func (b *lineBuilder) moveLoose(lo *inlineBox, by float64, units []unit) {
	moved := map[*inlineBox]bool{}
	for i := range units {
		for in := units[i].in; in != nil; in = in.up {
			if !moved[in] && loose(in) == lo {
				b.shift(in)
				b.shifts[in] += by
				moved[in] = true
			}
		}
		if units[i].kind == leafAtomic && loose(units[i].in) == lo {
			b.atomics[i] += by
		}
	}
}

// measureAtomic places an atomic box by its margin box and baseline.
func (b *lineBuilder) measureAtomic(u *unit, i int, note func(*inlineBox, float64, float64)) {
	if b.atomics == nil {
		b.atomics = map[int]float64{}
	}
	above, below := b.around(u)
	parent := b.parentStyle(u.in)
	v := u.box.Style.VerticalAlign
	raise := 0.0
	l := b.st.l
	switch v.Kind {
	case style.TopSide, style.BottomSide:
		b.aligned = append(b.aligned, alignedBox{unit: i, top: -above, bottom: below, toBottom: v.Kind == style.BottomSide})
		return
	case style.Middle:
		raise = -metricsOf{l.Fonts}.Metrics(parent).Ex*parent.FontSize/2 + (above-below)/2
	case style.TextTop:
		raise = above - l.look(parent).strut.ascent
	case style.TextBottom:
		raise = l.look(parent).strut.descent - below
	default:
		raise = b.raise(v, u.box.Style, parent)
	}
	b.atomics[i] = b.shift(u.in) + raise
	note(u.in, above-raise, below+raise)
}

// around is how far an atomic box reaches above and below its baseline, with its margins.
// One without lines stands on its lower margin edge, or in the middle where the text
// around it does (Inline 3, §4.1; Writing Modes 4, §4.3).
func (b *lineBuilder) around(u *unit) (above, below float64) {
	h := u.frag.H + u.margin[style.Top] + u.margin[style.Bottom]
	above = h
	if v := b.baselineOf(u); known(v) {
		above = u.margin[style.Top] + v
	} else if central(b.parentStyle(u.in)) {
		above = h / 2
	}
	return above, h - above
}

// baselineOf is the baseline of an atomic box (CSS 2.2, §10.8.1).
func (b *lineBuilder) baselineOf(u *unit) float64 {
	v := b.blockBaseline(u)
	if u.box.Frame == style.VerticalLr { // measured from the other side
		return u.frag.H - v
	}
	return v
}

func (b *lineBuilder) blockBaseline(u *unit) float64 {
	if u.box.Kind == box.Replaced {
		return Indefinite
	}
	if u.box.Style.Display.Inner == style.FlowRoot || u.box.Style.Display.Inner == style.Flow {
		if u.box.Scrolls() && u.box.Node != nil && (!u.box.IsControl() || u.box.Node.Name == "textarea") {
			return Indefinite
		}
		if u.box.IsControl() && u.box.Node.Name == "input" && u.box.Style.Appearance != style.None && !known(u.frag.LastBaseline) {
			return u.frag.H // boxes to tick and sliders stand on the line, their margins below it
		}
		return u.frag.LastBaseline
	}
	return u.frag.Baseline
}

// frame is an inline box that is open while units are placed.
type frame struct {
	in   *inlineBox
	frag *Fragment
	x    float64 // left border edge on the line
	y    float64
}

// place makes the fragments of the line in visual order.
func (b *lineBuilder) place(units []unit, order []int, x, gap, perGlyph float64) {
	var stack []frame
	b.unitsNow, b.solid = units, solidPart(units)
	baseline := b.line.Baseline
	pos := func() (float64, float64) {
		if n := len(stack); n > 0 {
			return stack[n-1].x, stack[n-1].y
		}
		return 0, 0
	}
	parent := func() *Fragment {
		if n := len(stack); n > 0 {
			return stack[n-1].frag
		}
		return b.line
	}
	closeTop := func() {
		fr := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		e := b.st.l.edges(fr.in.box, b.st.in.w)
		x += b.edgeOf(fr, &e, true)
		fr.frag.W = x - fr.x
		px, py := pos()
		dx, dy := relative(fr.in.box, b.st.in.w, b.st.in.h, b.st.rtl)
		parent().add(fr.frag, fr.x-px, fr.y-py, dx, dy)
		x += b.outer(fr, &e, true)
	}
	for k := range units {
		if order != nil {
			k = order[k]
		}
		u := &units[k]
		chain := chainOf(u.in)
		keep := 0
		for keep < len(stack) && keep < len(chain) && stack[keep].in == chain[keep] {
			keep++
		}
		for len(stack) > keep {
			closeTop()
		}
		for _, in := range chain[keep:] {
			fr := b.open(in, &x, baseline)
			stack = append(stack, fr)
		}
		px, py := pos()
		b.unit(u, k, parent(), &x, px, py, baseline, gap, perGlyph)
		if b.last != nil && !b.last.RTL && parts(u) {
			b.last.Gap = true
		}
	}
	for len(stack) > 0 {
		closeTop()
	}
}

// parts tells whether a unit that draws nothing keeps words apart: the space at which a
// line is broken, a forced break, a tab.
func parts(u *unit) bool {
	return u.kind == leafSpace && u.run == nil || u.kind == leafBreak || u.kind == leafTab && !u.box.Leader
}

// solidPart is the stretch of units between the spaces at both ends of a line.
func solidPart(units []unit) [2]int {
	blank := func(u *unit) bool { return u.kind != leafText && u.kind != leafAtomic && u.kind != leafTab }
	start, end := 0, len(units)
	for start < end && blank(&units[start]) {
		start++
	}
	for end > start && blank(&units[end-1]) {
		end--
	}
	return [2]int{start, end}
}

func chainOf(in *inlineBox) []*inlineBox {
	if in == nil {
		return nil
	}
	chain := make([]*inlineBox, in.depth+1)
	for ; in != nil; in = in.up {
		chain[in.depth] = in
	}
	return chain
}

// open starts the fragment of an inline box.
func (b *lineBuilder) open(in *inlineBox, x *float64, baseline float64) frame {
	e := b.st.l.edges(in.box, b.st.in.w)
	over, under := b.st.l.contentArea(in.box.Style)
	f := &Fragment{Box: in.box, Border: e.border, Padding: e.padding, Baseline: Indefinite, LastBaseline: Indefinite}
	f.H = over + under + e.blockEdges()
	fr := frame{in: in, frag: f, y: baseline + b.shift(in) - over - e.top()}
	*x += b.outer(fr, &e, false)
	fr.x = *x
	*x += b.edgeOf(fr, &e, false)
	return fr
}

// ends tells whether the box begins or ends on this line.
func (b *lineBuilder) ends(in *inlineBox, end bool) bool {
	for i := range b.unitsNow {
		u := &b.unitsNow[i]
		list, cut := u.opens, u.noOpen
		if end {
			list, cut = u.closes, u.noClose
		}
		if cut {
			continue
		}
		for _, o := range list {
			if o == in {
				return true
			}
		}
	}
	return false
}

// physical side at the left (or right) of a frame, and whether the box has an
// edge there on this line.
func (b *lineBuilder) sideOf(fr frame, right bool) (side int, has bool) {
	rtl := isRTL(fr.in.box)
	side = style.Left
	if right {
		side = style.Right
	}
	return side, b.ends(fr.in, right != rtl) || fr.in.box.Style.BoxDecorationBreak == style.Clone
}

// outer is the margin at a side of a frame.
func (b *lineBuilder) outer(fr frame, e *edges, right bool) float64 {
	side, has := b.sideOf(fr, right)
	if !has {
		return 0
	}
	return e.margin[side]
}

// edgeOf is the border and padding at a side of a frame; a side where the box
// goes on to another line has none.
func (b *lineBuilder) edgeOf(fr frame, e *edges, right bool) float64 {
	side, has := b.sideOf(fr, right)
	if !has {
		fr.frag.Border[side], fr.frag.Padding[side] = 0, 0
		return 0
	}
	return e.border[side] + e.padding[side]
}

// unit adds one unit to its parent.
func (b *lineBuilder) unit(u *unit, k int, parent *Fragment, x *float64, px, py, baseline, gap, perGlyph float64) {
	switch u.kind {
	case leafText, leafSpace:
		if u.run == nil {
			return
		}
		if u.kind == leafText && u.box.Style.EmphasisMark != "" {
			b.emphasise(u, parent, *x-px, py, baseline, u.box.Style.LetterSpacing.Of(u.box.Style.FontSize)+perGlyph)
		}
		b.text(u, k, parent, x, px, py, baseline, gap, perGlyph)
	case leafTab:
		if u.box.Leader {
			b.leader(u, parent, *x-px, py, baseline)
		}
		*x += u.w
	case leafAtomic:
		y := baseline + b.atomics[k]
		base, _ := b.around(u)
		dx, dy := relative(u.box, b.st.in.w, b.st.in.h, b.st.rtl)
		had := len(parent.out)
		parent.add(u.frag, *x+u.margin[style.Left]-px, y-base+u.margin[style.Top]-py, dx, dy)
		parent.belongs(had, u.in)
		*x += u.w
	case leafOut:
		if u.box.Style.WasInline {
			start := low // it would go on in the direction of the text around it
			if u.level&1 == 1 {
				start = high
			}
			parent.out = append(parent.out, outOfFlow{b: u.box, rect: rect{*x - px, -py, 0, 0}, sx: start, rtl: b.st.rtl, by: within(u.in, u.box)})
			return
		}
		y := 0.0 // a block would have begun a line of its own
		if contentEnd(b.unitsNow[:k]) > 0 {
			y = b.line.H
		}
		r := rect{-px, y - py, b.st.in.w, 0}
		if u.in != nil { // an inline box gives it no width to be aligned in
			if b.st.rtl {
				r.x += r.w
			}
			r.w, r.h = 0, b.line.H
		}
		parent.out = append(parent.out, staticPlace(u.box, b.st.b, r))
		parent.belongs(len(parent.out)-1, u.in)
	}
}

// decorLines is where the lines of decorations belong that boxes further out give
// to text at x: at the baselines of those boxes (Text Decoration 3, §2), and as one line with the text before.
func (b *lineBuilder) decorLines(d *box.Decor, in *inlineBox, x float64) (list []DecorLine) {
	if d == nil {
		return nil
	}
	own, differ := b.shift(in), false
	for ; d != nil; d = d.Up {
		at := 0.0 // of the block itself
		for x := in; x != nil; x = x.up {
			if x.box.Style == d.Style {
				at = b.shift(x)
				break
			}
		}
		line := DecorLine{at - own, x - b.decorStart(d, x)}
		list = append(list, line)
		differ = differ || line != DecorLine{}
	}
	if !differ {
		return nil
	}
	return list
}

// decorStart is where a decoration begins on the line whose dots or dashes reach x.
func (b *lineBuilder) decorStart(d *box.Decor, x float64) float64 {
	if k := d.Style.Decoration.Style; k != style.Dotted && k != style.Dashed {
		return x
	}
	if at, ok := b.begun[d.Style]; ok {
		return at
	}
	if b.begun == nil {
		b.begun = map[*style.Style]float64{}
	}
	b.begun[d.Style] = x
	return x
}

// joining counts the units from k on that may join into one run, as far as room is made for them beforehand.
func (b *lineBuilder) joining(k int) int {
	n := 0
	for i := k; i < min(len(b.unitsNow), k+mostJoined) && b.unitsNow[i].box == b.unitsNow[k].box; i++ {
		n++
	}
	return n
}

const mostJoined = 256

// textFragment is a fragment of text in one piece of memory: tables have very
// many of them.
type textFragment struct {
	Fragment
	text TextRun
	some [2]*font.Run
}

// room is memory for n runs.
func (f *textFragment) room(n int) []*font.Run {
	if n <= len(f.some) {
		return f.some[:0]
	}
	return make([]*font.Run, 0, n)
}

// lineFragment is a line with room for what many lines hold.
type lineFragment struct {
	Fragment
	some [1]Kid
}

// text adds a word; neighbours of the same box and face join into one run.
func (b *lineBuilder) text(u *unit, k int, parent *Fragment, x *float64, px, py, baseline, gap, perGlyph float64) {
	s := u.box.Style
	extra := 0.0
	if k < b.st.justified[0] || k >= b.st.justified[1] || s.TextJustify == style.None {
		gap = 0
	}
	switch {
	case u.kind == leafSpace && !u.other:
		extra = gap
	case u.kind == leafText && gap != 0:
		extra = gap * float64(strings.Count(u.run.Text, "\u00A0"))
	}
	decor := u.box.Decor
	if u.kind == leafSpace && (k < b.solid[0] || k >= b.solid[1]) { // (Text Decoration 4, §2.7.1)
		decor = nil
	}
	letter := perGlyph
	if u.spaced() {
		letter += s.LetterSpacing.Of(s.FontSize)
	}
	word := s.WordSpacing.Of(s.FontSize) + gap
	w := u.w + extra + perGlyph*float64(len(u.run.Glyphs))
	if n := len(parent.Kids); n > 0 {
		k := &parent.Kids[n-1]
		if t := k.F.Text; t != nil && k.F.Box == u.box && t.Decor == decor && t.Match == u.match && t.Upright == u.upright && !t.RTL && u.level&1 == 0 && atMost(math.Abs(k.X+k.F.W+px-*x), 0) {
			t.Runs, t.Gap, b.last = append(t.Runs, u.run), false, t
			if u.hyphen {
				t.Runs = append(t.Runs, b.st.hyphenRun(u.leaf))
			}
			k.F.W += w
			*x += w
			return
		}
	}
	size := b.st.l.sizeOf(s, u.match.Face)
	asc, desc, _ := b.st.l.metrics(u.match, size)
	above := asc
	if central(s) {
		above = (asc + desc) / 2
	}
	made := &textFragment{}
	t := &made.text
	b.last = t
	*t = TextRun{Upright: u.upright, Match: u.match, Style: s, Decor: decor, Lines: b.decorLines(decor, u.in, *x), Size: size, Runs: append(made.room(b.joining(k)), u.run), LetterSpacing: letter, WordSpacing: word, Ascent: asc, RTL: u.level&1 == 1}
	if u.hyphen {
		h := b.st.hyphenRun(u.leaf)
		if t.RTL {
			t.Runs = []*font.Run{h, u.run}
		} else {
			t.Runs = append(t.Runs, h)
		}
	}
	f := &made.Fragment
	*f = Fragment{Box: u.box, W: w, H: asc + desc, Text: t, Baseline: above, LastBaseline: above}
	parent.Kids = append(parent.Kids, Kid{*x - px, baseline + b.shift(u.in) - above - py, f})
	*x += w
}
