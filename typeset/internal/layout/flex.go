package layout

import (
	"math"
	"sort"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// flexItem is one item of a flex container while it is set.
type flexItem struct {
	b            *box.Box
	e            edges
	base, hypo   float64 // flex base and hypothetical main size, border box
	min, max     float64
	content      float64 // height of its contents in a column, Auto as long as nothing asks for it
	main, cross  float64
	frozen       bool
	violation    float64
	frag         *Fragment
	mainPos      float64
	crossPos     float64
	align        style.Align
	grow, shrink float64
}

type flexLine struct {
	items      []*flexItem
	cross, pos float64
	bases      [2]float64 // from the edges that first and last baselines are aligned from
}

// flexBox is a flex container while it is set (Flexbox 1, §9).
type flexBox struct {
	l        *Layout
	b        *box.Box
	s        *style.Style
	column   bool
	reverse  bool
	mainRTL  bool
	w, h     float64 // content box; h may be Auto
	pctH     float64 // what percentages of the height are of; Auto when h is known, but not before it is set
	sp       Space
	mainGap  float64
	crossGap float64
}

// main and cross margins of an item.
func (x *flexBox) mainMargins(it *flexItem) float64 {
	if x.column {
		return it.e.margin[style.Top] + it.e.margin[style.Bottom]
	}
	return it.e.margin[style.Left] + it.e.margin[style.Right]
}

func (x *flexBox) crossMargins(it *flexItem) float64 {
	if x.column {
		return it.e.margin[style.Left] + it.e.margin[style.Right]
	}
	return it.e.margin[style.Top] + it.e.margin[style.Bottom]
}

func (x *flexBox) mainEdges(it *flexItem) float64 {
	if x.column {
		return it.e.blockEdges()
	}
	return it.e.inlineEdges()
}

func gapOf(s style.Size, base float64) float64 {
	if s.Kind != style.Length {
		return 0
	}
	if !known(base) {
		base = 0
	}
	return s.Of(base)
}

// inOrder lists in-flow children by order, then document order.
func inOrder(b *box.Box) []*box.Box {
	var list []*box.Box
	sorted := true
	for _, c := range b.Children {
		if c.Positioned() {
			continue
		}
		if n := len(list); n > 0 && list[n-1].Style.Order > c.Style.Order {
			sorted = false
		}
		list = append(list, c)
	}
	if !sorted {
		sort.SliceStable(list, func(i, j int) bool { return list[i].Style.Order < list[j].Style.Order })
	}
	return list
}

// flex sets a flex container.
func (l *Layout) flex(b *box.Box, sp Space, from *Break) (*Fragment, *Break) {
	e := l.edges(b, sp.W)
	w := l.width(b, sp, &e)
	f := &Fragment{Box: b, W: w, Border: e.border, Padding: e.padding, Baseline: Indefinite, LastBaseline: Indefinite, Continued: from != nil}
	k := from.wholeIn(sp)
	if k == nil {
		gone, again := from.startAnew(b, math.Max(w-e.inlineEdges(), 0), e.top())
		k, from = l.wholeFlex(f, b, sp, &e, from == nil, gone), again
	}
	rest := l.cutWhole(f, b, k, from, sp, e)
	if f.H < 0 {
		return nil, nil
	}
	if b.Style.HoldsPositioned() {
		l.settle(f, sp, from, rest)
	}
	return f, rest
}

// wholeFlex sets a flex container as if nothing were cut, without the items that are gone.
// Its positioned children wait in f, the first part.
func (l *Layout) wholeFlex(f *Fragment, b *box.Box, sp Space, e *edges, first bool, gone map[*box.Box]*Part) *wholeLayout {
	s := b.Style
	definite := l.definiteHeight(b, sp, e)
	x := &flexBox{l: l, b: b, s: s, sp: sp, w: math.Max(f.W-e.inlineEdges(), 0), h: Indefinite}
	if known(sp.FixedH) {
		x.h = math.Max(sp.FixedH-e.blockEdges(), 0)
	} else if known(definite) {
		x.h = math.Max(definite-e.blockEdges(), 0)
	} else if h := l.ratioHeight(b, f.W, sp, e); known(h) {
		x.h = math.Max(h-e.blockEdges(), 0)
	}
	x.pctH = x.h
	if sp.Indefinite {
		x.pctH = Indefinite
	}
	x.column = isColumn(s)
	x.reverse = s.FlexDirection == style.RowReverse || s.FlexDirection == style.ColumnReverse
	x.mainRTL = !x.column && isRTL(b)
	x.mainGap, x.crossGap = gapOf(s.ColumnGap, x.w), gapOf(s.RowGap, x.pctH)
	if x.column {
		x.mainGap, x.crossGap = x.crossGap, x.mainGap
	}
	if trims(b) {
		l.untrim(b.Children)
	}
	items := x.items(gone)
	lines := x.lines(items)
	if trims(b) {
		x.trimLines(lines)
	}
	for _, ln := range lines {
		x.resolve(ln)
	}
	x.crossSizes(lines, e)
	x.mainAxis(lines, e)
	height := x.place(lines, e)
	if _, contained := s.SizeContained(); contained {
		height = s.IntrinsicSize[1]
	}
	top, left := e.top(), e.left()
	total := height + e.blockEdges()
	if known(x.h) {
		total = math.Max(x.h+e.blockEdges(), 0)
	} else {
		total = l.autoHeight(b, total, 0, sp, e)
	}
	total = math.Max(total, sp.MinH)
	var kids []flowKid
	for i, ln := range lines {
		for _, it := range ln.items {
			k := flowKid{b: it.b, f: it.frag, cb: [2]float64{x.w, x.h}, x: left + it.mainPos, y: top + it.crossPos, it: it, row: top + ln.pos}
			if x.column {
				k.x, k.y, k.flow = left+it.crossPos, top+it.mainPos, i
				k.row = k.y
			}
			kids = append(kids, k)
		}
	}
	for _, c := range b.Children {
		if c.Positioned() && first {
			x.wait(f, c, e, total)
		}
	}
	return &wholeLayout{sp: sp, gone: gone, kids: kids, flows: flowsOf(kids), w: x.w, tall: total, atBaselines: func(f *Fragment) { x.baselines(f, lines, top) }}
}

// items makes the flex items with their base sizes (§9.2).
func (x *flexBox) items(gone map[*box.Box]*Part) []*flexItem {
	var out []*flexItem
	for _, c := range inOrder(x.b) {
		if gone[c] != nil {
			continue
		}
		it := &flexItem{b: c, e: x.l.edges(c, x.w), content: Indefinite, grow: c.Style.FlexGrow, shrink: c.Style.FlexShrink}
		it.align = flexAlign(x.s, c.Style)
		x.base(it)
		out = append(out, it)
	}
	return out
}

// flexAlign is how an item is aligned across the lines of its container (§8.3).
func flexAlign(container, item *style.Style) style.Align {
	a := item.AlignSelf
	if a.Kind == style.Auto {
		a = container.AlignItems
	}
	if a.Kind == style.Normal {
		a.Kind = style.Stretch
	}
	return a
}

// mainSize is the container's inner main size, Auto when indefinite.
func (x *flexBox) mainSize() float64 {
	if x.column {
		return x.h
	}
	return x.w
}

// mainPct is what percentages along the main axis are of, Auto when indefinite.
func (x *flexBox) mainPct() float64 {
	if x.column {
		return x.pctH
	}
	return x.w
}

func (x *flexBox) base(it *flexItem) {
	s := it.b.Style
	extra := x.mainEdges(it)
	size := s.FlexBasis
	prop := s.Width
	if x.column {
		prop = s.Height
	}
	if size.Kind == style.Auto {
		size = prop
	}
	v := size.Resolve(x.mainPct())
	switch {
	case known(v):
		it.base = borderBox(s, v, extra)
	case !x.column && (size.Kind == style.MinContent || size.Kind == style.MaxContent || size.Kind == style.FitContent):
		it.base = x.l.contentWidth(it.b, size, x.w-x.mainMargins(it), extra)
	default:
		it.base = x.contentBase(it)
	}
	it.min, it.max = x.limits(it, extra)
	it.hypo = math.Max(math.Min(it.base, it.max), it.min)
	it.hypo = math.Max(it.hypo, extra)
}

// contentBase is the base size of an item with flex-basis: content.
func (x *flexBox) contentBase(it *flexItem) float64 {
	l := x.l
	sp := newSpace(x.w, x.pctH)
	if it.b.Kind == box.Replaced {
		if !x.column && x.stretches(it) && known(x.h) && x.s.FlexWrap == style.Nowrap {
			sp.FixedH = math.Max(x.h-x.crossMargins(it), 0)
		}
		if x.column && x.stretches(it) && it.b.Style.Width.IsAuto() {
			sp.FixedW = math.Max(x.w-x.crossMargins(it), 0)
		}
		w, h := l.replacedSize(x.freely(it), sp, &it.e)
		if x.column {
			return h
		}
		return w
	}
	if !x.column {
		if v := x.throughCross(it); known(v) {
			return v
		}
		// the max-content size, as width: auto would give it
		return x.contentWidthOf(it)
	}
	if v := x.throughCross(it); known(v) {
		return v
	}
	return x.contentHeight(it)
}

// throughCross is the main size that an item's aspect ratio gives it by its cross size;
// Auto without either.
func (x *flexBox) throughCross(it *flexItem) float64 {
	r := it.b.Style.AspectRatio.Ratio
	if r <= 0 {
		return Indefinite
	}
	if x.column {
		return throughRatio(it.b.Style, x.crossWidth(it), it.e.inlineEdges(), it.e.blockEdges(), 1/r)
	}
	sp := newSpace(x.w, x.pctH)
	if x.stretches(it) && known(x.h) && x.s.FlexWrap == style.Nowrap {
		sp.FixedH = x.l.clampHeight(it.b, math.Max(x.h-x.crossMargins(it), 0), sp, &it.e)
	}
	return x.l.ratioWidth(it.b, sp, &it.e)
}

// contentHeight is the height of an item's contents in a column container, whatever
// height or ratio its style asks for.
func (x *flexBox) contentHeight(it *flexItem) float64 {
	if !known(it.content) {
		sp := newSpace(x.w, Indefinite)
		sp.FixedW = x.crossWidth(it)
		it.content = x.l.freeHeight(it.b, sp, &it.e)
	}
	return it.content
}

// freely is a replaced item without the sizes that its style gives it along the
// main axis: its contents alone say what it is (§9.2, step 3; §4.5).
func (x *flexBox) freely(it *flexItem) *box.Box {
	return inStyle(it.b, func(s *style.Style) {
		if x.column {
			s.Height, s.MinHeight, s.MaxHeight = autoSize, autoSize, noSize
		} else {
			s.Width, s.MinWidth, s.MaxWidth = autoSize, autoSize, noSize
		}
	})
}

func (x *flexBox) contentWidthOf(it *flexItem) float64 {
	_, hi := x.l.itemSizes(x.l.contentSizes, it.b)
	if it.b.Style.Display.Inner == style.Table {
		return hi + x.l.tableEdges(it.b, x.l.gridOf(it.b), x.w)
	}
	return x.l.transferred(it.b, hi+it.e.inlineEdges(), x.pctH, &it.e)
}

// stretches tells whether an item fills its line (§8.3).
func (x *flexBox) stretches(it *flexItem) bool {
	if it.align.Kind != style.Stretch {
		return false
	}
	if x.column {
		return !it.e.auto[style.Left] && !it.e.auto[style.Right] && it.b.Style.Width.IsAuto()
	}
	return !it.e.auto[style.Top] && !it.e.auto[style.Bottom] && it.b.Style.Height.IsAuto()
}

// crossWidth is an item's width in a column container.
func (x *flexBox) crossWidth(it *flexItem) float64 {
	sp := newSpace(x.w, x.pctH)
	if x.stretches(it) && x.s.FlexWrap == style.Nowrap {
		return x.l.clampWidth(it.b, math.Max(x.w-x.crossMargins(it), it.e.inlineEdges()), sp, &it.e)
	}
	sp.Shrink = true
	return x.l.blockWidth(it.b, sp, &it.e)
}

// limits are the used min and max main sizes; auto minimum is the content's
// (§4.5).
func (x *flexBox) limits(it *flexItem, extra float64) (lo, hi float64) {
	s := it.b.Style
	minS, maxS := s.MinWidth, s.MaxWidth
	if x.column {
		minS, maxS = s.MinHeight, s.MaxHeight
	}
	hi = inf
	if v := maxS.Resolve(x.mainPct()); known(v) {
		hi = borderBox(s, v, extra)
	} else if !x.column && maxS.Kind != style.None && maxS.Kind != style.Length {
		hi = x.l.contentWidth(it.b, maxS, x.w-x.mainMargins(it), extra)
	} else if x.column && byContent(maxS) {
		hi = x.contentHeight(it)
	}
	if v := minS.Resolve(x.mainPct()); known(v) {
		lo = borderBox(s, v, extra)
		if s.Display.Inner == style.Table && !x.column { // never narrower than its columns
			lo = math.Max(lo, x.l.leastTable(it.b, x.w))
		}
		return lo, hi
	}
	if minS.Kind != style.Auto {
		if minS.Kind == style.Length {
			return extra, hi
		}
		if !x.column {
			return x.l.contentWidth(it.b, minS, x.w-x.mainMargins(it), extra), hi
		}
		if byContent(minS) {
			return x.contentHeight(it), hi
		}
	}
	over := s.OverflowX
	if x.column {
		over = s.OverflowY
	}
	if over != style.Visible && over != style.ClipText {
		return extra, hi
	}
	// content-based minimum
	var content float64
	switch {
	case x.column && it.b.Kind == box.Replaced:
		content = x.contentBase(it)
	case x.column:
		content = x.contentHeight(it)
		if v := x.throughCross(it); known(v) {
			content = x.transferredHeight(it, math.Max(content, v))
		}
	case it.b.Kind == box.Replaced:
		content, _ = x.l.replacedSize(x.freely(it), newSpace(x.w, x.pctH), &it.e)
		content = math.Min(content, x.contentBase(it)) // through its ratio, if it is stretched
	default:
		a, _ := x.l.itemSizes(x.l.contentSizes, it.b)
		content = x.l.transferred(it.b, a+extra, x.pctH, &it.e)
		if v := x.throughCross(it); known(v) {
			content = v
		}
		if it.b.Style.Display.Inner == style.Table {
			content = x.l.leastTable(it.b, x.w)
		}
	}
	prop := s.Width
	if x.column {
		prop = s.Height
	}
	if v := prop.Resolve(x.mainPct()); known(v) && s.Display.Inner != style.Table {
		content = math.Min(content, borderBox(s, v, extra))
	}
	if minS.Through != nil {
		content = borderBox(s, minS.Passed(fromBorderBox(s, content, extra), x.mainPct()), extra)
	}
	return math.Min(math.Max(content, extra), hi), hi
}

// transferredHeight is a height within what an item's least and greatest widths come to
// by its ratio (CSS Sizing 4, §5.1).
func (x *flexBox) transferredHeight(it *flexItem, h float64) float64 {
	s := it.b.Style
	through := func(v float64) float64 {
		return throughRatio(s, borderBox(s, v, it.e.inlineEdges()), it.e.inlineEdges(), it.e.blockEdges(), 1/s.AspectRatio.Ratio)
	}
	if v := s.MaxWidth.Resolve(x.w); known(v) {
		h = math.Min(h, through(v))
	}
	if v := s.MinWidth.Resolve(x.w); known(v) {
		h = math.Max(h, through(v))
	}
	return h
}

// lines collects items into lines (§9.3).
func (x *flexBox) lines(items []*flexItem) []*flexLine {
	limit := x.mainSize()
	if x.column && !known(limit) {
		if v := x.s.MaxHeight.Resolve(x.sp.H); known(v) {
			e := x.l.edges(x.b, x.sp.W)
			limit = borderBox(x.s, v, e.blockEdges()) - e.blockEdges()
		} else {
			limit = inf
		}
	}
	if x.s.FlexWrap == style.Nowrap {
		if trims(x.b) {
			x.trimLine(items)
		}
		return []*flexLine{{items: items}}
	}
	var out []*flexLine
	var cur *flexLine
	used := 0.0
	for _, it := range items {
		size := it.hypo + x.mainMargins(it)
		if cur == nil || exceeds(used+x.mainGap+size, limit) {
			cur = &flexLine{}
			out = append(out, cur)
			used = size
		} else {
			used += x.mainGap + size
		}
		cur.items = append(cur.items, it)
	}
	if len(out) == 0 {
		out = []*flexLine{{}}
	}
	for _, ln := range out {
		if trims(x.b) {
			x.trimLine(ln.items)
		}
	}
	return out
}

// resolve flexes the items of a line (§9.7).
func (x *flexBox) resolve(ln *flexLine) {
	sum := 0.0
	for _, it := range ln.items {
		sum += it.hypo + x.mainMargins(it)
	}
	gaps := x.mainGap * math.Max(float64(len(ln.items)-1), 0)
	size := x.lineSize(sum + gaps)
	growing := sum+gaps < size
	for _, it := range ln.items {
		it.main = it.base
		f := it.shrink
		if growing {
			f = it.grow
		}
		it.frozen = f == 0 || growing && it.base > it.hypo || !growing && it.base < it.hypo
		if it.frozen {
			it.main = it.hypo
		}
	}
	initial := x.free(ln, size-gaps)
	for range len(ln.items) + 1 {
		if !x.share(ln, growing, size-gaps, initial) {
			return
		}
	}
}

// lineSize is the main size of a line: the container's, or what its items ask for within the container's limits.
func (x *flexBox) lineSize(asked float64) float64 {
	size := x.mainSize()
	if known(size) {
		return size
	}
	if !x.column {
		return asked
	}
	e := x.l.edges(x.b, x.sp.W)
	size = math.Max(x.l.clampHeight(x.b, asked+e.blockEdges(), x.sp, &e)-e.blockEdges(), 0)
	if x.sp.MinH > 0 {
		size = math.Max(size, x.sp.MinH-e.blockEdges())
	}
	return size
}

// free is the room that items which may still change leave, when they have their base sizes.
func (x *flexBox) free(ln *flexLine, room float64) float64 {
	for _, it := range ln.items {
		if it.frozen {
			room -= it.main + x.mainMargins(it)
		} else {
			room -= it.base + x.mainMargins(it)
		}
	}
	return room
}

// share gives the free room to the items that may still change, or takes what lacks from them, and freezes those that
// have come to a limit of theirs. It tells whether any was left to change.
func (x *flexBox) share(ln *flexLine, growing bool, room, initial float64) bool {
	var factors, scaled float64
	open := 0
	for _, it := range ln.items {
		if it.frozen {
			continue
		}
		open++
		if growing {
			factors += it.grow
		} else {
			factors += it.shrink
			scaled += it.shrink * math.Max(it.base-x.mainEdges(it), 0)
		}
	}
	if open == 0 {
		return false
	}
	left := x.free(ln, room)
	if factors < 1 {
		if v := initial * factors; math.Abs(v) < math.Abs(left) {
			left = v
		}
	}
	total := 0.0
	for _, it := range ln.items {
		if it.frozen {
			continue
		}
		switch {
		case growing && factors > 0:
			it.main = it.base + left*it.grow/factors
		case !growing && scaled > 0:
			it.main = it.base + left*it.shrink*math.Max(it.base-x.mainEdges(it), 0)/scaled
		default:
			it.main = it.base
		}
		v := math.Max(math.Min(it.main, it.max), math.Max(it.min, x.mainEdges(it)))
		it.violation = v - it.main
		it.main = v
		total += it.violation
	}
	for _, it := range ln.items {
		if !it.frozen && (atMost(math.Abs(total), 0) || total > 0 && it.violation > 0 || total < 0 && it.violation < 0) {
			it.frozen = true
		}
	}
	return true
}

// layItem sets an item at its main size; cross is imposed when known.
func (x *flexBox) layItem(it *flexItem, cross float64) *Fragment {
	sp := newSpace(x.w, x.pctH)
	if x.column {
		sp.FixedH = it.main
		// percentages inside need a definite main size
		sp.Indefinite = !known(x.pctH) && !known(it.b.Style.FlexBasis.Resolve(x.pctH)) && !(it.b.Style.FlexBasis.Kind == style.Auto && known(it.b.Style.Height.Resolve(x.pctH)))
		sp.FixedW = cross
		if !known(cross) {
			sp.FixedW = x.crossWidth(it)
			if r := it.b.Style.AspectRatio.Ratio; r > 0 && it.b.Kind != box.Replaced && !known(it.b.Style.Width.Resolve(x.w)) && !x.stretches(it) {
				w := throughRatio(it.b.Style, it.main, it.e.blockEdges(), it.e.inlineEdges(), r)
				sp.FixedW = x.l.clampWidth(it.b, w, sp, &it.e)
			}
		}
	} else {
		sp.FixedW = it.main
		sp.FixedH = cross
	}
	return x.l.layUncut(it.b, sp)
}

func same(a, b float64) bool { return a == b || math.IsNaN(a) && math.IsNaN(b) }

func sameSpace(a, b Space) bool {
	return same(a.W, b.W) && same(a.H, b.H) && same(a.FixedW, b.FixedW) && same(a.FixedH, b.FixedH) && a.Indefinite == b.Indefinite && same(a.MinH, b.MinH)
}

// crossSizes finds the cross size of items and lines (§9.4).
func (x *flexBox) crossSizes(lines []*flexLine, e *edges) {
	for _, ln := range lines {
		above, below := [2]float64{-inf, -inf}, [2]float64{-inf, -inf} // the first baselines, and the last ones
		for _, it := range ln.items {
			it.frag = x.layItem(it, Indefinite)
			size := it.frag.H
			if x.column {
				size = it.frag.W
			}
			it.cross = size
			outer := size + x.crossMargins(it)
			if x.onBaseline(it) {
				b, set := x.itemBaseline(it), x.baselineSet(it)
				above[set], below[set] = math.Max(above[set], b), math.Max(below[set], outer-b)
			} else {
				ln.cross = math.Max(ln.cross, outer)
			}
		}
		for set := range ln.bases {
			if math.IsInf(above[set], -1) {
				continue
			}
			ln.cross = math.Max(ln.cross, above[set]+below[set])
			if ln.bases[set] = below[set]; x.fromTop(set) {
				ln.bases[set] = above[set]
			}
		}
	}
	inner := x.h
	if x.column {
		inner = x.w
	}
	if x.s.FlexWrap == style.Nowrap && len(lines) == 1 {
		if known(inner) {
			lines[0].cross = inner
		} else {
			extra := e.blockEdges()
			lines[0].cross = math.Max(x.l.autoHeight(x.b, math.Max(lines[0].cross+extra, x.sp.MinH), 0, x.sp, e)-extra, 0)
		}
	} else if k := x.s.AlignContent.Kind; (k == style.Normal || k == style.Stretch) && (known(inner) || !x.column) {
		total := x.crossGap * float64(len(lines)-1)
		for _, ln := range lines {
			total += ln.cross
		}
		if !known(inner) {
			extra := e.blockEdges()
			inner = x.l.autoHeight(x.b, total+extra, 0, x.sp, e) - extra
		}
		if free := inner - total; free > 0 {
			for _, ln := range lines {
				ln.cross += free / float64(len(lines))
			}
		}
	}
	for _, ln := range lines {
		for _, it := range ln.items {
			if !x.stretches(it) {
				continue
			}
			cross := math.Max(ln.cross-x.crossMargins(it), 0)
			sp := newSpace(x.w, x.pctH)
			if x.column {
				cross = x.l.clampWidth(it.b, math.Max(cross, it.e.inlineEdges()), sp, &it.e)
			} else {
				sp.FixedW = it.main
				cross = x.l.fillHeight(it.b, math.Max(cross, it.e.blockEdges()), sp, &it.e)
			}
			if exceeds(math.Abs(cross-it.cross), 0) || !x.column && hasPercentHeight(it.b) || it.b.Style.Display.Inner == style.Flex || it.b.Style.Display.Inner == style.Grid {
				it.cross = cross
				it.frag = x.layItem(it, cross)
			}
		}
	}
}

func (x *flexBox) onBaseline(it *flexItem) bool {
	near, far := style.Top, style.Bottom
	if x.column {
		near, far = style.Left, style.Right
	}
	return it.align.Kind == style.Baseline && !it.e.auto[near] && !it.e.auto[far]
}

// crossAxis is the axis across the main one.
func (x *flexBox) crossAxis() int {
	if x.column {
		return inlineAxis
	}
	return blockAxis
}

// baselineSet is 1 for an item that aligns its last baseline, else 0; one whose lines
// follow each other from the other end belongs to those of the other set.
func (x *flexBox) baselineSet(it *flexItem) int {
	if it.align.Last != runsBack(it.b, x.crossAxis(), isRTL(x.b)) {
		return 1
	}
	return 0
}

// fromTop tells whether a set of baselines is aligned from the upper edge of its line:
// first ones are from the cross-start edge, last ones from the cross-end edge (§8.3).
func (x *flexBox) fromTop(set int) bool { return (set == 0) != (x.s.FlexWrap == style.WrapReverse) }

// itemBaseline is the distance from an item's margin edge to its baseline.
func (x *flexBox) itemBaseline(it *flexItem) float64 {
	near := style.Top
	if x.column {
		near = style.Left
	}
	return it.e.margin[near] + it.frag.baselineAlong(x.crossAxis(), it.align.Last, x.s)
}

// mainAxis places the items along their lines (§9.5).
func (x *flexBox) mainAxis(lines []*flexLine, e *edges) {
	size := x.mainSize()
	if !known(size) {
		for _, ln := range lines {
			sum := x.mainGap * math.Max(float64(len(ln.items)-1), 0)
			for _, it := range ln.items {
				sum += it.main + x.mainMargins(it)
			}
			if !known(size) || sum > size {
				size = sum
			}
		}
		extra := e.blockEdges()
		size = math.Max(x.l.autoHeight(x.b, math.Max(size+extra, x.sp.MinH), 0, x.sp, e)-extra, 0)
	}
	for _, ln := range lines {
		n := len(ln.items)
		free := size - x.mainGap*math.Max(float64(n-1), 0)
		autos := 0
		for _, it := range ln.items {
			free -= it.main + x.mainMargins(it)
			if x.column {
				autos += count(it.e.auto[style.Top], it.e.auto[style.Bottom])
			} else {
				autos += count(it.e.auto[style.Left], it.e.auto[style.Right])
			}
		}
		share := 0.0
		start, gap := 0.0, x.mainGap
		if autos > 0 && free > 0 {
			share = free / float64(autos)
		} else {
			flip := x.reverse
			a := x.s.JustifyContent
			if k := a.Kind; k == style.LeftSide || k == style.RightSide { // both are the start of columns (CSS Align 3, §4.5)
				if x.column || (k == style.LeftSide) != x.mainRTL {
					a.Kind = style.Start
				} else {
					a.Kind = style.End
				}
			}
			start, gap = distribute(a, free, n, x.mainGap, flip)
		}
		pos := start
		for _, it := range ln.items {
			first, last := style.Left, style.Right
			if x.column {
				first, last = style.Top, style.Bottom
			} else if x.mainRTL {
				first, last = last, first
			}
			if x.reverse {
				first, last = last, first
			}
			if it.e.auto[first] {
				pos += share
			}
			pos += it.e.margin[first]
			it.mainPos = pos
			pos += it.main + it.e.margin[last]
			if it.e.auto[last] {
				pos += share
			}
			pos += gap
			if x.reverse != x.mainRTL {
				it.mainPos = size - it.mainPos - it.main
			}
		}
	}
}

func count(list ...bool) (n int) {
	for _, b := range list {
		if b {
			n++
		}
	}
	return n
}

// distribute gives the start and the gap that justify-content or
// align-content asks for (Box Alignment 3, §4 and §5).
func distribute(a style.Align, free float64, n int, gap float64, reversed bool) (start, step float64) {
	k := a.Kind
	if free < 0 && (a.Safe || k == style.SpaceAround || k == style.SpaceEvenly) { // they fall back to “safe center” (CSS Align 3, §6.2)
		k = style.Start
	}
	switch k {
	case style.SpaceBetween:
		if n > 1 && free > 0 {
			return 0, gap + free/float64(n-1)
		}
		if reversed && free < 0 {
			return 0, gap
		}
	case style.SpaceAround:
		if n > 0 && free > 0 {
			return free / float64(n) / 2, gap + free/float64(n)
		}
	case style.SpaceEvenly:
		if n > 0 && free > 0 {
			return free / float64(n+1), gap + free/float64(n+1)
		}
	case style.Center:
		return free / 2, gap
	case style.FlexEnd:
		return free, gap
	case style.End:
		if reversed {
			return 0, gap
		}
		return free, gap
	case style.Start:
		if reversed {
			return free, gap
		}
	}
	return 0, gap
}

// place puts lines and items along the cross axis (§9.6) and returns the
// height of the contents.
func (x *flexBox) place(lines []*flexLine, e *edges) float64 {
	inner := x.h
	if x.column {
		inner = x.w
	}
	total := x.crossGap * math.Max(float64(len(lines)-1), 0)
	for _, ln := range lines {
		total += ln.cross
	}
	size := inner
	if !known(size) {
		extra := e.blockEdges()
		size = math.Max(x.l.autoHeight(x.b, math.Max(total+extra, x.sp.MinH), 0, x.sp, e)-extra, 0)
	}
	wrapRev := x.s.FlexWrap == style.WrapReverse
	pos, gap := 0.0, x.crossGap
	if x.s.FlexWrap != style.Nowrap {
		pos, gap = distribute(x.s.AlignContent, size-total, len(lines), x.crossGap, wrapRev)
	}
	crossRTL := x.column && isRTL(x.b)
	for _, ln := range lines {
		ln.pos = pos
		if wrapRev != crossRTL {
			ln.pos = size - pos - ln.cross
		}
		pos += ln.cross + gap
		for _, it := range ln.items {
			it.crossPos = ln.pos + x.crossOffset(it, ln, wrapRev, crossRTL)
		}
	}
	if !x.column {
		return total
	}
	h := 0.0
	for _, ln := range lines {
		sum := x.mainGap * math.Max(float64(len(ln.items)-1), 0)
		for _, it := range ln.items {
			sum += it.main + x.mainMargins(it)
		}
		h = math.Max(h, sum)
	}
	return h
}

// crossOffset is an item's place within its line.
func (x *flexBox) crossOffset(it *flexItem, ln *flexLine, wrapRev, crossRTL bool) float64 {
	first, last := style.Top, style.Bottom
	if x.column {
		first, last = style.Left, style.Right
	}
	size := it.frag.H
	if x.column {
		size = it.frag.W
	}
	free := ln.cross - size - x.crossMargins(it)
	a, z := it.e.auto[first], it.e.auto[last]
	flip := wrapRev != crossRTL
	k := it.align.Kind
	if before, ok := autoShare(free, a, z); ok {
		return it.e.margin[first] + before
	}
	if free < 0 && (a || z || it.align.Safe) { // auto margins have it overflow at the end (§9.6)
		k = style.Start
	}
	atEnd := false
	switch k {
	case style.Center:
		return it.e.margin[first] + free/2
	case style.FlexEnd:
		atEnd = !flip
	case style.FlexStart, style.Stretch:
		atEnd = flip
	case style.End:
		atEnd = !crossRTL
	case style.Start:
		atEnd = crossRTL
	case style.SelfStart, style.SelfEnd:
		atEnd = startsFar(it.b, x.crossAxis()) != (k == style.SelfEnd)
	case style.Baseline:
		if x.onBaseline(it) {
			base, set := x.itemBaseline(it), x.baselineSet(it)
			if x.fromTop(set) {
				return it.e.margin[first] + ln.bases[set] - base
			}
			return it.e.margin[first] + ln.cross - ln.bases[set] - base
		}
		atEnd = flip != it.align.Last
	}
	if atEnd {
		return it.e.margin[first] + free
	}
	return it.e.margin[first]
}

// wait gives a positioned child its static position (§4.1): as if it were the
// only item.
func (x *flexBox) wait(f *Fragment, c *box.Box, e *edges, total float64) {
	w := outOfFlow{b: c, rect: rect{e.left(), e.top(), x.w, math.Max(total-e.blockEdges(), 0)}, rtl: isRTL(x.b), planned: true}
	crossRTL := x.column && w.rtl
	main := flexSide(x.s.JustifyContent, x.reverse != x.mainRTL, x.mainRTL, x.mainRTL)
	self := c.Style.AlignSelf
	if self.Kind == style.Auto {
		self = x.s.AlignItems
	}
	cross := flexSide(self, (x.s.FlexWrap == style.WrapReverse) != crossRTL, crossRTL, startsFar(c, x.crossAxis()))
	w.sx, w.sy = main, cross
	if x.column {
		w.sx, w.sy = cross, main
	}
	f.out = append(f.out, w)
}

// flexSide is sideOf with the values that follow the direction of the flex
// lines; flip tells that it runs from high to low.
func flexSide(a style.Align, flip, cbRTL, selfRTL bool) side {
	switch a.Kind {
	case style.Start, style.End, style.SelfStart, style.SelfEnd, style.LeftSide, style.RightSide:
		return sideOf(a, cbRTL, selfRTL)
	}
	return sideOf(a, flip, flip)
}

// baselines are those of the container (§8.5): of the items on its startmost line and
// on its endmost one.
func (x *flexBox) baselines(f *Fragment, lines []*flexLine, top float64) {
	if len(lines) == 0 || len(lines[0].items) == 0 {
		return
	}
	start, end := lines[0], lines[len(lines)-1]
	if x.s.FlexWrap == style.WrapReverse {
		start, end = end, start
	}
	f.Baseline = top + x.lineBaseline(start, 0)
	f.LastBaseline = top + x.lineBaseline(end, 1)
}

// lineBaseline is the first or the last baseline of a line: what items share, or else
// that of the item at its start or end.
func (x *flexBox) lineBaseline(ln *flexLine, set int) float64 {
	pick := ln.items[0]
	if (set == 1) != x.reverse {
		pick = ln.items[len(ln.items)-1]
	}
	for _, it := range ln.items {
		if !x.column && x.onBaseline(it) && x.baselineSet(it) == set {
			pick = it
			break
		}
	}
	y := pick.crossPos
	if x.column {
		y = pick.mainPos
	}
	return y + pick.frag.baselineAlong(blockAxis, set == 1, x.s)
}

// stretchedWidth is the width, with margins, that a ratio gives to an item that is
// stretched to the height of the only line of b; Auto if that is not known (§9.8).
func (l *Layout) stretchedWidth(b, item *box.Box) float64 {
	s, c := b.Style, item.Style
	if !rowFlex(s) || s.FlexWrap != style.Nowrap || s.Height.Kind != style.Length || s.Height.HasPct() || !c.Width.IsAuto() || !c.Height.IsAuto() || c.FlexBasis.Kind != style.Auto {
		return Indefinite
	}
	e := l.edges(item, 0)
	if flexAlign(s, c).Kind != style.Stretch || e.auto[style.Top] || e.auto[style.Bottom] {
		return Indefinite
	}
	around := l.edges(b, 0)
	h := borderBox(s, s.Height.Px, around.blockEdges()) - around.blockEdges()
	sp := newSpace(Indefinite, h)
	sp.FixedH = e.heightIn(h)
	w := l.ratioWidth(item, sp, &e)
	if item.Kind == box.Replaced {
		if item.Picture == nil || item.Picture.Ratio == 0 {
			return Indefinite
		}
		w, _ = l.replacedSize(item, sp, &e)
	}
	return w + e.margin[style.Left] + e.margin[style.Right]
}

// basisSizes are the widths that a flex item with a basis of its own adds to its
// container's, with margins; lo and hi are those that its contents and style ask
// for.
func (l *Layout) basisSizes(c *box.Box, lo, hi float64) (float64, float64) {
	s := c.Style
	e := l.edges(c, 0)
	margins := e.margin[style.Left] + e.margin[style.Right]
	extra := e.inlineEdges()
	v := borderBox(s, s.FlexBasis.Px, extra)
	if most := l.fixedSize(c, s.MaxWidth, extra); known(most) {
		v = math.Min(v, most)
	}
	if least := l.fixedSize(c, s.MinWidth, extra); known(least) {
		v = math.Max(v, least)
	}
	v += margins
	least := lo // its contents, when the width that it asks for does not count
	if s.Width.Kind == style.Length && c.Kind != box.Replaced && s.MinWidth.IsAuto() {
		a, _ := l.contentSizes(c)
		least = math.Min(lo, a+extra+margins)
		if c.Scrolls() {
			least = extra + margins
		}
	}
	if s.FlexGrow == 0 { // it gets no wider than its basis
		lo, hi = math.Min(lo, v), math.Min(hi, v)
	}
	if s.FlexShrink == 0 {
		lo, hi = math.Max(lo, v), math.Max(hi, v)
	}
	return math.Max(lo, least), math.Max(hi, least)
}

// flexSizes are the intrinsic widths of a flex container (§9.9.1).
func (l *Layout) flexSizes(b *box.Box) (lo, hi float64) {
	s := b.Style
	column := s.FlexDirection == style.Column || s.FlexDirection == style.ColumnReverse
	gap := gapOf(s.ColumnGap, 0)
	n := 0
	list := inOrder(b)
	l.trimEnds(b, list, column)
	for _, c := range list {
		a, z := l.itemSizes(l.outer, c)
		if w := l.stretchedWidth(b, c); known(w) {
			a, z = w, w
		}
		if !column && c.Style.FlexBasis.Kind == style.Length && !c.Style.FlexBasis.HasPct() {
			a, z = l.basisSizes(c, a, z)
		}
		switch {
		case column || s.FlexWrap != style.Nowrap:
			lo = math.Max(lo, a)
		default:
			if c.Style.FlexShrink == 0 && c.Style.FlexBasis.Kind != style.Length {
				a = z
			}
			lo += a
		}
		if column {
			hi = math.Max(hi, z)
		} else {
			hi += z
		}
		n++
	}
	if n > 1 && !column {
		hi += gap * float64(n-1)
		if s.FlexWrap == style.Nowrap {
			lo += gap * float64(n-1)
		}
	}
	return lo, math.Max(lo, hi)
}
