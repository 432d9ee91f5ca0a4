package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// memo is what layout keeps about a box.
type memo struct {
	para       *para
	plain      *plain
	min, max   float64 // border-box contributions without margins
	cMin, cMax float64 // content sizes
	table      *tableGrid
	cache      []cached
	inner      *box.Box
	fitted     *box.Box
	firstLine  *box.Box // the block as its first line sees it

	holders []*box.Box // inline boxes in its lines that are containing blocks, once they go on over columns
	fromTop []*box.Box // the positioned boxes that stand below its top, once it goes on over pages

	plainKnown, sized, cSized bool
	fromTopKnown              bool
	holdersKnown              bool
	forced                    [forcedKinds]int8 // whether breaks are forced inside: 0 not known, 1 no, 2 yes
}

func (l *Layout) memo(b *box.Box) *memo {
	m, ok := b.Memo.(*memo)
	if !ok {
		m = l.memos.New()
		b.Memo = m
	}
	return m
}

// sizes gives the min-content and max-content border-box widths of a box by
// its own style (CSS Sizing 3, §5).
func (l *Layout) sizes(b *box.Box) (lo, hi float64) {
	m := l.memo(b)
	if m.sized {
		return m.min, m.max
	}
	s := b.Style
	e := l.edges(b, 0)
	extra := l.edgesBeside(b, &e)
	if s.Fit > 0 { // it shrinks to what it gets
		lo, hi = l.sizes(l.plainly(b))
		m.min, m.max, m.sized = lo*s.Fit, hi, true
		return m.min, hi
	}
	if b.Kind == box.Replaced {
		sp := newSpace(Indefinite, Indefinite)
		w, _ := l.replacedSize(b, sp, &e)
		lo, hi = w, w
		if s.Width.Kind == style.Length && s.Width.HasPct() || s.MaxWidth.Kind == style.Length && s.MaxWidth.HasPct() {
			lo = extra // a percentage compresses to nothing
		}
		m.min, m.max, m.sized = lo, hi, true
		return lo, hi
	}
	fixed := func(size style.Size) float64 { return l.fixedSize(b, size, extra) }
	byRatio := s.AspectRatio.Ratio > 0 && s.Height.Kind == style.Length && !s.Height.HasPct()
	if w := fixed(s.Width); known(w) && s.Display.Inner != style.Table && (s.Width.Kind == style.Length || !byRatio) {
		lo, hi = w, w
	} else {
		lo, hi = l.contentSizes(b)
		lo, hi = lo+extra, hi+extra
		if known(w) {
			lo, hi = math.Max(lo, w), math.Max(lo, w)
		}
		if byRatio {
			h := l.clampHeight(b, borderBox(s, s.Height.Px, e.blockEdges()), newSpace(Indefinite, Indefinite), &e)
			w := throughRatio(s, h, e.blockEdges(), extra, s.AspectRatio.Ratio)
			lo, hi = w, w
			if s.MinWidth.IsAuto() && !b.Scrolls() && b.Kind != box.Replaced {
				least, _ := l.contentSizes(b)
				least = borderBox(s, s.MinWidth.Passed(fromBorderBox(s, least+extra, extra), 0), extra)
				lo, hi = math.Max(lo, least), math.Max(hi, least)
			}
		} else {
			lo, hi = l.transferred(b, lo, Indefinite, &e), l.transferred(b, hi, Indefinite, &e)
		}
	}
	if s.Width.Through != nil && s.Width.Kind != style.Length {
		lo = borderBox(s, s.Width.Passed(fromBorderBox(s, lo, extra), 0), extra)
		hi = borderBox(s, s.Width.Passed(fromBorderBox(s, hi, extra), 0), extra)
	}
	if v := fixed(s.MaxWidth); known(v) {
		least := 0.0
		if s.Display.Inner == style.Table { // never narrower than its columns
			least, _ = l.contentSizes(b)
			least += extra
		}
		lo, hi = math.Max(math.Min(lo, v), least), math.Max(math.Min(hi, v), least)
	}
	if v := fixed(s.MinWidth); known(v) {
		lo, hi = math.Max(lo, v), math.Max(hi, v)
	}
	m.min, m.max, m.sized = lo, hi, true
	return lo, hi
}

// edgesBeside is the width of the edges of a box whose percentages count from nothing. Joined borders are
// not the table's own.
func (l *Layout) edgesBeside(b *box.Box, e *edges) float64 {
	if b.Style.Display.Inner == style.Table && b.Kind != box.Replaced {
		return l.tableEdges(b, l.gridOf(b), 0)
	}
	return e.inlineEdges()
}

// crossSize is the width of the contents of a box whose words run the other way than those around it: its
// lines stand side by side, as many as the height makes (Writing Modes 4, §7.3).
func (l *Layout) crossSize(b *box.Box) float64 {
	e := l.edges(b, 0)
	extra := l.edgesBeside(b, &e)
	if s := b.Style; !s.Width.IsAuto() || s.MinWidth.Kind != style.Auto || s.MaxWidth.Kind != style.None {
		b = inStyle(b, func(s *style.Style) { s.Width, s.MinWidth, s.MaxWidth = autoSize, autoSize, noSize })
	}
	return math.Max(l.turned(b, newSpace(Indefinite, Indefinite)).W-extra, 0)
}

// fixedSize is the border-box width that a size asks for, whatever is around the box; Auto
// when it goes by what is.
func (l *Layout) fixedSize(b *box.Box, size style.Size, extra float64) float64 {
	switch size.Kind {
	case style.Length:
		if !size.HasPct() {
			return borderBox(b.Style, size.Px, extra)
		}
	case style.MinContent:
		a, _ := l.contentSizes(b)
		return a + extra
	case style.MaxContent:
		_, a := l.contentSizes(b)
		return a + extra
	}
	return Indefinite
}

// sizesIn is sizes where the containing block is known: e, with percentages of it.
func (l *Layout) sizesIn(b *box.Box, e *edges) (lo, hi float64) {
	if p := &b.Style.Padding; !p[style.Left].HasPct() && !p[style.Right].HasPct() || b.Style.Display.Inner == style.Table {
		return l.sizes(b)
	}
	lo, hi = l.contentSizes(b)
	extra := e.inlineEdges()
	return l.transferred(b, lo+extra, Indefinite, e), l.transferred(b, hi+extra, Indefinite, e)
}

// itemSizes are sizes of a flex or grid item, or of a table cell. Columns in percent
// of tables in it ask for nothing, as long as the widths of all around are auto: what
// they are percent of is what is being found. Browsers agree on it.
func (l *Layout) itemSizes(sizes func(*box.Box) (lo, hi float64), b *box.Box) (lo, hi float64) {
	l.inItem++
	lo, hi = sizes(b)
	l.inItem--
	return lo, hi
}

// outer is sizes with the margins.
func (l *Layout) outer(b *box.Box) (lo, hi float64) {
	lo, hi = l.sizes(b)
	e := l.edges(b, 0)
	mar := e.margin[style.Left] + e.margin[style.Right]
	return lo + mar, hi + mar
}

// contentSizes gives the min-content and max-content widths of the contents.
func (l *Layout) contentSizes(b *box.Box) (lo, hi float64) {
	m := l.memo(b)
	if m.cSized {
		return m.cMin, m.cMax
	}
	if l.depth++; l.depth > maxDepth {
		l.depth--
		return 0, 0
	}
	defer func() { l.depth-- }()
	s := b.Style
	contained, _ := s.SizeContained()
	switch {
	case contained && s.Display.Inner != style.Table:
		lo, hi = s.IntrinsicSize[0], s.IntrinsicSize[0]
	case b.Kind == box.Replaced:
		if b.Picture != nil {
			lo, hi = b.Picture.W, b.Picture.W
		}
	case b.Turned() && orthogonal(b):
		lo = l.crossSize(b)
		m.cMin, m.cMax, m.cSized = lo, lo, true
		return lo, lo
	case s.Display.Inner == style.Table:
		return l.tableSizes(b, l.inItem == 0 || s.Width.Kind == style.Length && !s.Width.HasPct())
	case s.Display.Inner == style.Flex:
		lo, hi = l.flexSizes(b)
	case s.Display.Inner == style.Grid:
		lo, hi = l.gridSizes(b)
	case b.Inline:
		lo, hi = l.inlineSizes(b)
	default:
		lo, hi = l.blockSizes(b)
	}
	if inner := s.Display.Inner; s.Multicol() && inner != style.Flex && inner != style.Grid { // these have no columns (Multi-column 2, §2)
		across, acrossHi := 0.0, 0.0
		if holdsSpanner(b) {
			across, acrossHi = l.spannerSizes(b)
			lo, hi = l.besideSpanners(b)
		}
		lo, hi = columnSizes(s, lo, hi)
		lo, hi = math.Max(lo, across), math.Max(hi, acrossHi)
	}
	m.cMin, m.cMax, m.cSized = lo, hi, true
	return lo, hi
}

// spannerSizes are those of the boxes that span the columns of b.
func (l *Layout) spannerSizes(b *box.Box) (lo, hi float64) {
	for _, c := range b.Children {
		a, z := 0.0, 0.0
		if spans(c) {
			a, z = l.outer(c)
		} else if c.Kind == box.Element && !c.Inline && !c.IsBFC() {
			a, z = l.spannerSizes(c)
		}
		lo, hi = math.Max(lo, a), math.Max(hi, z)
	}
	return lo, hi
}

// besideSpanners are the sizes of what stands in the columns of b.
func (l *Layout) besideSpanners(b *box.Box) (lo, hi float64) {
	rest := *b
	rest.Children = slices.DeleteFunc(slices.Clone(b.Children), spans)
	return l.blockSizes(&rest)
}

// columnSizes are the sizes of columns whose contents have sizes lo and hi. A width that is
// set for them goes before that of wide contents, which overflow.
func columnSizes(s *style.Style, lo, hi float64) (float64, float64) {
	gap := columnGap(s, 0)
	if s.ColumnWidth.Kind == style.Length {
		lo, hi = math.Min(lo, s.ColumnWidth.Px), s.ColumnWidth.Px
	}
	if n := float64(s.ColumnCount); n > 0 {
		hi = hi*n + gap*(n-1)
		if s.ColumnWidth.Kind != style.Length {
			lo = lo*n + gap*(n-1)
		}
	}
	return lo, math.Max(lo, hi)
}

// blockSizes looks at block-level children; floats stand side by side.
func (l *Layout) blockSizes(b *box.Box) (lo, hi float64) {
	var left, right float64 // floats next to each other
	for _, c := range b.Children {
		if c.Positioned() {
			continue
		}
		a, z := l.outer(c)
		lo = math.Max(lo, a)
		if c.Floats() {
			if c.Style.Clear != style.None {
				hi = math.Max(hi, left+right)
				if c.Style.Clear != style.RightSide {
					left = 0
				}
				if c.Style.Clear != style.LeftSide {
					right = 0
				}
			}
			if c.Style.Float == style.LeftSide {
				left += z
			} else {
				right += z
			}
			hi = math.Max(hi, left+right)
			continue
		}
		if c.IsBFC() || c.Kind == box.Replaced {
			hi = math.Max(hi, left+right+z)
		} else {
			hi = math.Max(hi, z)
			hi = math.Max(hi, left+right)
		}
		left, right = 0, 0
	}
	return lo, hi
}

// inlineSizes sums words between the places where lines may, or must, end.
func (l *Layout) inlineSizes(b *box.Box) (lo, hi float64) {
	if p := l.plainOf(b); p != nil {
		return p.min, p.max
	}
	p := l.prepare(b)
	if p.sized {
		return p.min, p.max
	}
	s := inlineSums{l: l, p: p, st: &lineState{l: l, b: b, p: p, in: flowSpace{w: 0, h: Indefinite}}, start: true}
	if !b.Style.TextIndent.HasPct() && !b.Style.TextIndent.Hanging {
		s.word, s.line = b.Style.TextIndent.Px, b.Style.TextIndent.Px
	}
	for i := range p.leaves {
		s.add(&p.leaves[i])
	}
	s.longest(s.word)
	s.endLine()
	p.min, p.max, p.sized = s.lo, math.Max(s.hi, s.lo), true
	return p.min, p.max
}

// inlineSums adds up the widths of what stands in lines, for a box that breaks them wherever it can (lo) and for one
// that breaks them nowhere (hi).
type inlineSums struct {
	l  *Layout
	p  *para
	st *lineState

	lo, hi float64
	word   float64 // since the last place where a line may end
	spaces float64 // after the word, which hang or vanish where a line ends
	line   float64 // since the last forced break
	trail  float64 // of line: spaces that vanish at its end
	floats float64 // that stand beside the line
	start  bool    // nothing but spaces has stood in the line
}

// longest takes in that something as wide as w cannot be broken.
func (s *inlineSums) longest(w float64) { s.lo = math.Max(s.lo, w) }

// endLine takes in that the line ends here.
func (s *inlineSums) endLine() { s.hi = math.Max(s.hi, s.line-s.trail+s.floats) }

// add takes in the next leaf.
func (s *inlineSums) add(lf *leaf) {
	edges := s.l.opensWidth(lf, 0) + s.l.closesWidth(lf, 0)
	switch lf.kind {
	case leafAtomic:
		s.atomic(lf)
	case leafFloat:
		lo, hi := s.l.outer(lf.box)
		s.longest(lo)
		s.floats += hi
		s.edge(edges)
	case leafOut:
		s.edge(edges)
	case leafBreak:
		s.longest(s.word + edges)
		s.endLine()
		s.word, s.spaces, s.line, s.trail, s.floats, s.start = 0, 0, 0, 0, 0, true
	case leafPhantom:
		if edges != 0 {
			s.text(lf, lf.w+edges, edges)
		}
	case leafTab:
		s.text(lf, s.st.tab(s.line, lf)+edges, edges)
	case leafSpace:
		w := lf.w + edges
		if lf.collapse && s.start {
			w = edges
		}
		if lf.collapse || lf.hang {
			s.space(lf, w)
		} else {
			s.text(lf, w, edges)
		}
	default:
		s.text(lf, lf.w+edges, edges)
	}
}

// edge takes in edges of inline boxes that begin or end with a float, or with what stands outside of the line.
func (s *inlineSums) edge(w float64) {
	if w != 0 {
		s.line += w
		s.word += w
		s.longest(s.word)
	}
}

// atomic takes in a box that stands in the line like a letter.
func (s *inlineSums) atomic(lf *leaf) {
	lo, hi := s.l.outer(lf.box)
	pre, post := s.l.opensWidth(lf, 0), s.l.closesWidth(lf, 0)
	s.word += lo + pre
	s.longest(s.word)
	s.word += post
	s.line += hi + pre + post
	s.trail, s.start = 0, false
	s.mayEnd(lf)
}

// mayEnd takes in that a line may end after a leaf.
func (s *inlineSums) mayEnd(lf *leaf) {
	if lf.canBreak {
		s.longest(s.word)
		s.word = 0
	}
}

// space takes in a space that hangs or vanishes at the end of a line.
func (s *inlineSums) space(lf *leaf, w float64) {
	s.line += w
	if lf.collapse || lf.box.Style.Collapse != style.Preserve {
		s.trail += lf.w
	}
	if s.start {
		s.trail = 0
	}
	s.longest(s.word)
	if lf.canBreak {
		s.word, s.spaces = 0, 0
	} else {
		s.spaces += w
	}
}

// text takes in what is w wide, with the edges of the boxes that begin and end there.
func (s *inlineSums) text(lf *leaf, w, edges float64) {
	s.line += w
	s.trail = 0
	s.word, s.spaces = s.word+s.spaces, 0
	if lf.kind != leafPhantom {
		s.start = false
	}
	if lf.kind == leafText && minBreaks(lf.box.Style) && wraps(lf.box.Style) {
		s.longest(math.Max(s.word, s.l.widest(s.p, lf)+edges))
		s.word = 0
		return
	}
	s.word += w
	if lf.soft {
		s.word += s.st.hyphenWidth(lf)
	}
	s.longest(s.word)
	s.mayEnd(lf)
}

// minBreaks tells whether words may be cut for min-content too
// (CSS Text 3, §5.3).
func minBreaks(s *style.Style) bool {
	return s.OverflowWrap == style.Anywhere || s.WordBreak == style.BreakWord || s.WordBreak == style.BreakAll || s.LineBreak == style.Anywhere
}

// widest is the width of the widest glyph of a leaf.
func (l *Layout) widest(p *para, lf *leaf) (w float64) {
	for i := range lf.run.Glyphs {
		w = math.Max(w, lf.run.Glyphs[i].Advance*l.sizeOf(lf.box.Style, lf.match.Face)/lf.match.Face.Upem)
	}
	return w
}
