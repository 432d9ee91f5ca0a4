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

// columnCount is the used number and width of columns (Multi-column 1, §3.4).
func columnCount(s *style.Style, w, gap float64) (int, float64) {
	n := s.ColumnCount
	if s.ColumnWidth.Kind == style.Length {
		fit := max(1, int(math.Floor((w+gap)/(math.Max(s.ColumnWidth.Px, 1e-3)+gap)+1e-6)))
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
	f := &Fragment{Box: b, W: w, Border: e.border, Padding: e.padding, Baseline: Auto, LastBaseline: Auto, Continued: from != nil}
	if from != nil {
		f.Border[style.Top], f.Padding[style.Top] = 0, 0
	}
	cw := math.Max(w-e.inlineEdges(), 0)
	gap := columnGap(s, cw)
	n, colW := columnCount(s, cw, gap)
	definite := l.definiteHeight(b, sp, &e)
	height := Auto // of the columns
	if known(definite) {
		height = math.Max(definite-e.blockEdges(), 0)
	}
	top := f.Border[style.Top] + f.Padding[style.Top]
	c := &columnSet{l: l, b: inner(b), f: f, sp: sp, n: n, w: colW, gap: gap, left: e.left(), y: top, rtl: isRTL(b)}
	c.room = sp.Left - top - e.bottom()
	var maxH float64 = inf
	if v := s.MaxHeight.Resolve(sp.H); known(v) {
		maxH = math.Max(borderBox(s, v, e.blockEdges())-e.blockEdges(), 0)
	}
	rest := c.run(from, height, maxH, s.ColumnFill)
	if c.none {
		return nil, nil
	}
	h := c.y + e.bottom()
	switch {
	case known(definite):
		f.H = definite
	case rest != nil:
		f.H = sp.Left
		f.Cut = true
	default:
		f.H = l.autoHeight(b, h, 0, sp, &e)
	}
	if from == nil && b.Marker != nil {
		l.marker(f, b, flowSpace{w: cw, x: e.left(), y: top})
	}
	if contains(b) {
		l.settle(f, sp.Left)
	}
	return f, rest
}

// inner is the contents of a multi-column box as a plain block.
func inner(b *box.Box) *box.Box {
	m := memoOf(b)
	if m.inner == nil {
		in := *b
		s := *b.Style
		s.ColumnCount, s.ColumnWidth = 0, style.Size{Kind: style.Auto}
		s.Width, s.Height, s.MinWidth, s.MinHeight = style.Size{Kind: style.Auto}, style.Size{Kind: style.Auto}, style.Size{Kind: style.Auto}, style.Size{Kind: style.Auto}
		s.MaxWidth, s.MaxHeight = style.Size{Kind: style.None}, style.Size{Kind: style.None}
		s.Position, s.Transform, s.Translate, s.Rotate, s.Scale = style.Static, nil, nil, nil, nil
		s.Margin, s.Padding = [4]style.Size{}, [4]style.LP{}
		for i := range s.Margin {
			s.Margin[i].Kind = style.Length
			s.Border[i] = style.Border{Style: style.None}
		}
		s.OverflowX, s.OverflowY = style.Visible, style.Visible
		s.BreakInside, s.BreakBefore, s.BreakAfter = style.Auto, style.Auto, style.Auto
		s.Opacity, s.ClipPath, s.BoxShadow = 1, nil, nil
		s.BackgroundColor = style.Transparent
		s.Background.Images = []*style.Image{nil}
		s.Display.Inner = style.FlowRoot
		s.AspectRatio = style.AspectRatio{}
		s.Outline.Width = 0
		in.Style, in.Marker, in.Memo, in.Anon = &s, nil, nil, true
		m.inner = &in
	}
	return m.inner
}

type columnSet struct {
	l       *Layout
	b       *box.Box
	f       *Fragment
	sp      Space
	n       int
	w, gap  float64
	left, y float64
	room    float64
	rtl     bool
	none    bool
	loose   bool // nothing but the contents gives the columns their height
}

// run sets stretches of columns, with spanning boxes between them.
func (c *columnSet) run(from *Break, height, maxH float64, fill style.Keyword) *Break {
	at := from
	spanners := c.spanners()
	si := 0
	if from != nil {
		si = from.Row
	}
	for range 1000 {
		// the contents up to the next spanning box
		end := len(c.b.Children)
		if !c.b.Inline && si < len(spanners) {
			end = spanners[si]
		}
		part := c.b
		if end < len(c.b.Children) || c.start(at) > 0 && len(spanners) > 0 {
			p := *c.b
			p.Children = c.b.Children[:end]
			p.Memo = nil
			part = &p
		}
		if c.start(at) < end || c.b.Inline || at != nil && (at.Inner != nil || len(at.Float) > 0) {
			rest := c.stretch(part, at, height, maxH, fill, end < len(c.b.Children))
			if c.none {
				return nil
			}
			if rest != nil {
				rest.Row = si
				return rest
			}
		}
		if end >= len(c.b.Children) {
			return nil
		}
		// the spanning box itself
		sp := newSpace(c.f.W-c.f.Border[1]-c.f.Border[3]-c.f.Padding[1]-c.f.Padding[3], Auto)
		box := c.b.Children[end]
		e := c.l.edges(box, sp.W)
		frag, _ := c.l.Lay(box, sp, nil)
		if frag != nil {
			dx, dy := relative(box, sp.W, Auto, c.rtl)
			c.f.add(frag, c.left+e.margin[style.Left]+autoShift(&e, sp.W-frag.W), c.y+e.margin[style.Top], dx, dy)
			c.y += e.margin[style.Top] + frag.H + e.margin[style.Bottom]
		}
		at = &Break{Child: end + 1}
		si++
	}
	return nil
}

func autoShift(e *edges, free float64) float64 {
	switch {
	case e.auto[style.Left] && e.auto[style.Right]:
		return math.Max(free, 0) / 2
	case e.auto[style.Left]:
		return math.Max(free, 0)
	}
	return 0
}

func (c *columnSet) start(at *Break) int {
	if at == nil {
		return 0
	}
	return at.Child
}

func (c *columnSet) spanners() []int {
	var out []int
	if c.b.Inline {
		return nil
	}
	for i, k := range c.b.Children {
		if k.Kind == box.Element && k.Style.ColumnSpan == style.All && !k.OutOfFlow() {
			out = append(out, i)
		}
	}
	return out
}

// stretch sets one row of columns.
func (c *columnSet) stretch(b *box.Box, at *Break, height, maxH float64, fill style.Keyword, beforeSpan bool) *Break {
	room := c.room - (c.y - c.f.Border[0] - c.f.Padding[0])
	limit := math.Min(maxH, room)
	if known(height) {
		limit = math.Min(height, room)
	}
	h := limit
	c.loose = math.IsInf(limit, 1)
	balanced := fill != style.Auto || beforeSpan || math.IsInf(limit, 1)
	if balanced {
		h = c.balance(b, at, limit)
	}
	if h <= 0 {
		h = math.Max(math.Min(limit, 1), 1)
	}
	frags, rest := c.set(b, at, h, c.columnsAllowed(known(height) || !math.IsInf(maxH, 1)))
	if rest != nil && balanced && !math.IsInf(limit, 1) && h < limit {
		h = limit
		frags, rest = c.set(b, at, h, c.columnsAllowed(known(height)))
	}
	if len(frags) == 0 {
		if !c.sp.AtTop && c.sp.cutting() {
			c.none = true
			return nil
		}
	}
	used := 0.0
	for i, fr := range frags {
		x := c.left + float64(i)*(c.w+c.gap)
		if c.rtl {
			x = c.left + float64(c.n-1-i)*(c.w+c.gap)
		}
		c.f.add(fr, x, c.y, 0, 0)
		if i > 0 && i < max(c.n, len(frags)) && fr.Box != nil {
			c.f.Rules = append(c.f.Rules, Kid{X: x - c.gap/2, Y: c.y, F: fr})
		}
		used = math.Max(used, fr.used())
		if known(fr.Baseline) && !known(c.f.Baseline) {
			c.f.Baseline = c.y + fr.Baseline
		}
	}
	if rest != nil || !balanced {
		used = h
	}
	if known(height) && !beforeSpan {
		used = math.Max(used, math.Min(height, limit))
	}
	for i := range c.f.Rules {
		if c.f.Rules[i].Y == c.y {
			c.f.Rules[i].F = &Fragment{H: used}
		}
	}
	c.y += used
	return rest
}

// used is how tall the contents of a column are.
func (f *Fragment) used() float64 {
	if !f.Cut {
		return f.H
	}
	h := 0.0
	for _, k := range f.Kids {
		kh := k.F.H
		if k.F.Cut {
			kh = k.F.used()
		}
		h = math.Max(h, k.Y+kh)
	}
	return h
}

func (c *columnSet) columnsAllowed(fixed bool) int {
	if c.sp.cutting() && !fixed {
		return c.n
	}
	return 1000 // columns overflow to the side
}

// set fills columns of height h.
func (c *columnSet) set(b *box.Box, at *Break, h float64, most int) (frags []*Fragment, rest *Break) {
	rest = at
	var over Leftover
	for i := 0; i < most; i++ {
		sp := newSpace(c.w, Auto)
		sp.FixedW = c.w
		sp.Left, sp.Page, sp.AtTop, sp.Column, sp.Loose = h, h, true, true, c.loose
		f, r := c.l.Lay(b, sp, rest)
		if f == nil { // not even one line fits: nothing is lost all the same
			sp.Left = inf
			if f, r = c.l.Lay(b, sp, rest); f == nil {
				return frags, nil
			}
		}
		c.l.PutLate(f, &over, h)
		frags = append(frags, f)
		rest = r
		if r == nil {
			return c.overflowColumns(frags, &over, h), nil
		}
	}
	if n := len(frags); n > 0 {
		c.l.PutLate(frags[n-1], &over, inf)
	}
	return frags, rest
}

// overflowColumns adds columns for positioned boxes that reach beyond the last
// one.
func (c *columnSet) overflowColumns(frags []*Fragment, over *Leftover, h float64) []*Fragment {
	for n := 0; !over.Empty() && n < 1000; n++ {
		f := &Fragment{W: c.w, Baseline: Auto, LastBaseline: Auto}
		c.l.PutLate(f, over, h)
		frags = append(frags, f)
	}
	return frags
}

// balance finds the least height at which the contents fit into the columns
// (§7.1), by trying from the average up.
func (c *columnSet) balance(b *box.Box, at *Break, limit float64) float64 {
	sp := newSpace(c.w, Auto)
	sp.FixedW = c.w
	sp.Column = true
	whole, _ := c.l.Lay(b, sp, at)
	if whole == nil {
		return limit
	}
	lo, hi := math.Max(whole.H/float64(c.n), 1), math.Max(whole.H, 1)
	hi = math.Min(hi, limit)
	fits := func(h float64) bool {
		frags, rest := c.set(b, at, h, c.n)
		if rest != nil {
			return false
		}
		for _, f := range frags {
			if f.used() > h+0.5 && len(f.Kids) > 0 {
				return false
			}
		}
		return true
	}
	if fits(lo) {
		return lo
	}
	for range 14 {
		mid := (lo + hi) / 2
		if fits(mid) {
			hi = mid
		} else {
			lo = mid
		}
		if hi-lo < 0.5 {
			break
		}
	}
	return hi
}
