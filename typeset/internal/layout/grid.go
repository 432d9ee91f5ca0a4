package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// The axes of a grid: columns lie along the first, rows along the second.
const (
	inlineAxis = iota
	blockAxis
)

// gridItem is one item of a grid with the tracks it lies in.
type gridItem struct {
	b        *box.Box
	e        edges
	at, span [2]int // first track and number of tracks, by axis
	frag     *Fragment
	shim     [2]float64 // what moves it to the baselines that it shares, by axis
	sub      *gridBox   // it shares the tracks of this grid
}

type gridBox struct {
	l      *Layout
	b      *box.Box
	s      *style.Style
	w, h   float64 // content box; h may be Auto
	axis   [2]gridAxis
	items  []*gridItem
	shared *subgrid // the grid around gives these tracks
	height float64  // of the content box, as the rows have it
	again  bool     // the columns are sized with the rows known
}

// grid sets a grid container (Grid 1, §5 and §12.1).
func (l *Layout) grid(b *box.Box, sp Space, from *Break) (*Fragment, *Break) {
	e := l.edges(b, sp.W)
	w := l.width(b, sp, &e)
	f := &Fragment{Box: b, W: w, Border: e.border, Padding: e.padding, Baseline: Indefinite, LastBaseline: Indefinite, Continued: from != nil}
	k := from.wholeIn(sp)
	var g *gridBox
	if k == nil {
		g, k = l.wholeGrid(f, sp, &e)
	}
	rest := l.cutWhole(f, b, k, from, sp, e)
	if g != nil {
		g.positioned(f, &e, g.height, from)
	}
	if f.H < 0 {
		return nil, nil
	}
	if b.Style.HoldsPositioned() {
		l.settle(f, sp, from, rest)
	}
	return f, rest
}

// wholeGrid sets the grid of f as if nothing were cut.
func (l *Layout) wholeGrid(f *Fragment, sp Space, e *edges) (*gridBox, *wholeLayout) {
	b := f.Box
	definite := l.definiteHeight(b, sp, e)
	g := &gridBox{l: l, b: b, s: b.Style, w: math.Max(f.W-e.inlineEdges(), 0), h: Indefinite, shared: sp.sub}
	if known(definite) {
		g.h = math.Max(definite-e.blockEdges(), 0)
	} else if h := l.ratioHeight(b, f.W, sp, e); known(h) {
		g.h = math.Max(h-e.blockEdges(), 0)
	}
	g.build(g.w, g.h)
	g.sizeColumns()
	g.measure()
	g.height = g.sizeHeight(sp, e)
	if slices.ContainsFunc(g.items, func(it *gridItem) bool { return g.fillsRows(it) && !known(g.definiteRows(it)) }) { // once more, with the rows known (§12.1, steps 3 and 4)
		g.again = true
		g.sizeColumns()
		g.measure()
		g.height = g.sizeHeight(sp, e)
	}
	tall := g.height + e.blockEdges()
	if known(definite) {
		tall = definite
	}
	kids := g.placed(e)
	first, last := g.containerBaselines(kids)
	return g, &wholeLayout{sp: sp, kids: kids, flows: flowsOf(kids), w: g.w, tall: tall, atBaselines: func(f *Fragment) { f.Baseline, f.LastBaseline = first, last }}
}

// sizeHeight sizes the rows and gives the height of the content box.
func (g *gridBox) sizeHeight(sp Space, e *edges) float64 {
	rows := &g.axis[blockAxis]
	if rows.sub {
		last := len(rows.tracks) - 1
		_, size := rows.area(0, last+1)
		return size
	}
	floor := 0.0
	if !known(g.h) {
		floor = math.Max(g.l.autoHeight(g.b, sp.MinH, 0, sp, e)-e.blockEdges(), 0)
	}
	g.sizeRows(g.h, floor)
	height := g.h
	if !known(height) {
		sum := sumTracks(rows.tracks, rows.gap)
		if _, contained := g.s.SizeContained(); contained {
			sum = g.s.IntrinsicSize[1]
		}
		height = math.Max(g.l.autoHeight(g.b, math.Max(sum+e.blockEdges(), sp.MinH), 0, sp, e)-e.blockEdges(), 0)
		if hasPercent(rows.tracks) || g.s.RowGap.HasPct() || flexLess(rows.tracks) { // they count from the height just found
			rows.gap = gapOf(g.s.RowGap, height)
			g.sizeRows(height, 0)
		}
	}
	rows.settle(height, g.s.AlignContent, false)
	return height
}

// flexLess tells whether flexible tracks ask for less than all of the room: how much
// that is depends on the room (Grid 2, §12.7.1).
func flexLess(tracks []gridTrack) bool {
	sum := 0.0
	for i := range tracks {
		sum += tracks[i].Flex
	}
	return sum > 0 && sum < 1
}

func hasPercent(tracks []gridTrack) bool {
	for i := range tracks {
		if t := &tracks[i]; t.Min.Kind == style.Length && t.Min.HasPct() || t.Max.Kind == style.Length && t.Max.HasPct() {
			return true
		}
	}
	return false
}

// placed sets the items in their areas.
func (g *gridBox) placed(e *edges) []flowKid {
	for _, it := range g.items {
		_, w := g.axis[inlineAxis].area(it.at[0], it.span[0])
		_, h := g.axis[blockAxis].area(it.at[1], it.span[1])
		g.shareTracks(it)
		it.frag = g.lay(it, w, h)
	}
	g.alignBaselines(inlineAxis)
	g.alignBaselines(blockAxis)
	kids := make([]flowKid, 0, len(g.items))
	for _, it := range g.items {
		x, w := g.axis[inlineAxis].area(it.at[0], it.span[0])
		y, h := g.axis[blockAxis].area(it.at[1], it.span[1])
		dx, dy := g.placeItem(it, w, h)
		kids = append(kids, flowKid{b: it.b, f: it.frag, cb: [2]float64{w, h}, x: e.left() + x + dx, y: e.top() + y + dy, row: e.top() + y})
	}
	return kids
}

// shareTracks gives a subgrid its tracks, as far as their places are known.
func (g *gridBox) shareTracks(it *gridItem) {
	if it.sub == nil {
		return
	}
	_, w := g.axis[inlineAxis].area(it.at[0], it.span[0])
	it.e = g.l.edges(it.b, w)
	for ax := range it.sub.axis {
		if it.sub.axis[ax].sub && g.axis[ax].pos != nil {
			g.giveTracks(it, ax)
		}
	}
}

// positioned lists the positioned children, each with its grid area (§9).
func (g *gridBox) positioned(f *Fragment, e *edges, height float64, from *Break) {
	for _, c := range g.b.Children {
		if !c.Positioned() || from != nil || f.H < 0 {
			continue
		}
		w := staticPlace(c, g.b, rect{e.left(), e.top(), g.w, height})
		w.planned = true
		if !g.b.Style.HoldsPositioned() || c.Style.Position == style.FixedKey {
			f.out = append(f.out, w)
			continue
		}
		p := c.Style.GridPlace
		x0, x1 := g.axis[inlineAxis].edgesOf(p[1], p[3], e.padding[style.Left], e.padding[style.Right], g.w, isRTL(g.b))
		y0, y1 := g.axis[blockAxis].edgesOf(p[0], p[2], e.padding[style.Top], e.padding[style.Bottom], height, false)
		cb := rect{e.left() + x0, e.top() + y0, x1 - x0, y1 - y0}
		w.rect, w.area = cb, &cb
		f.out = append(f.out, w)
	}
}

// edgesOf gives the ends of a positioned child's area in one direction, from
// the content edge; an auto line stands for the padding edge.
func (ax *gridAxis) edgesOf(start, end style.GridLine, padNear, padFar, size float64, rtl bool) (a, b float64) {
	i, okA := ax.line(start, false)
	j, okB := ax.line(end, true)
	if okA && end.Span > 0 {
		j, okB = i+end.Span, true
	} else if okB && start.Span > 0 {
		i, okA = j-start.Span, true
	}
	if okA && okB && i > j {
		i, j = j, i
	}
	i, j = i+ax.off, j+ax.off
	n := len(ax.tracks)
	near := func(k int) float64 { // the edge of track k that comes first
		if rtl {
			return size - ax.pos[k] - ax.tracks[k].size
		}
		return ax.pos[k]
	}
	padStart, padEnd := padNear, padFar
	if rtl {
		padStart, padEnd = padFar, padNear
	}
	a, b = -padStart, size+padEnd
	if okA && i >= 0 && i <= n && n > 0 {
		if i < n {
			a = near(i)
		} else {
			a = near(n-1) + ax.tracks[n-1].size
		}
	}
	if okB && j > 0 && j <= n {
		b = near(j-1) + ax.tracks[j-1].size
	} else if okB && j == 0 && n > 0 {
		b = near(0)
	}
	b = math.Max(a, b)
	if rtl {
		a, b = size-b, size-a
	}
	return a, b
}

// build writes out the explicit grid and places the items (§7, §8).
func (g *gridBox) build(w, h float64) {
	if g.shared != nil {
		for ax, given := range g.shared.axis {
			if given != nil {
				g.axis[ax] = *given
			}
		}
	}
	if !g.axis[inlineAxis].sub {
		g.axis[inlineAxis].gap = gapOf(g.s.ColumnGap, w)
	}
	if !g.axis[blockAxis].sub {
		g.axis[blockAxis].gap = gapOf(g.s.RowGap, h)
	}
	g.explicitAxis(inlineAxis, g.s.GridColumns, roomForTracks(w, g.s.MinWidth, g.s.MaxWidth), g.s.GridAutoColumns)
	g.explicitAxis(blockAxis, g.s.GridRows, roomForTracks(h, g.s.MinHeight, g.s.MaxHeight), g.s.GridAutoRows)
	for ax := range g.axis {
		if g.axis[ax].sub {
			g.nameAreas(ax)
		}
	}
	g.place()
	for ax := range g.axis {
		g.collapse(ax)
	}
	if trims(g.b) {
		g.trimItems()
	}
	g.subgrids()
}

// collapse makes auto-fit tracks without items tracks of no size (§7.2.3.2).
func (g *gridBox) collapse(ax int) {
	tracks := g.axis[ax].tracks
	for _, it := range g.items {
		for i := it.at[ax]; i < it.at[ax]+it.span[ax]; i++ {
			tracks[i].empty = false
		}
	}
	for i := range tracks {
		if tracks[i].empty {
			tracks[i].Track = style.Track{Min: style.Size{Kind: style.Length}, Max: style.Size{Kind: style.Length}}
		}
	}
}

func (g *gridBox) sizeColumns() {
	cols := &g.axis[inlineAxis]
	if cols.sub {
		return
	}
	g.alignColumns()
	z := trackSizing{ax: cols, size: g.w, align: g.s.JustifyContent, list: g.contributors(inlineAxis)}
	z.ask = func(c *contributor) contribution { return c.columns(&z) }
	z.run()
	cols.settle(g.w, g.s.JustifyContent, isRTL(g.b))
}

// columns is what an item asks of its columns.
func (c *contributor) columns(z *trackSizing) contribution {
	around := c.before + c.after
	if c.it == nil {
		return contribution{around, around, around}
	}
	around += c.it.shim[inlineAxis]
	l, s := c.g.l, c.it.b.Style
	lo, hi := l.itemSizes(l.outer, c.it.b)
	e := l.edges(c.it.b, 0)
	if w := c.ratioWidth(&e); known(w) {
		lo = w + e.margin[style.Left] + e.margin[style.Right]
		hi = lo
	}
	bare := e.inlineEdges() + e.margin[style.Left] + e.margin[style.Right]
	least := lo
	if s.Width.Kind != style.Length || s.Width.HasPct() {
		switch {
		case !s.MinWidth.IsAuto():
			if v := s.MinWidth.Resolve(Indefinite); known(v) {
				least = math.Max(borderBox(s, v, e.inlineEdges())+e.margin[style.Left]+e.margin[style.Right], bare)
			} else if s.MinWidth.Kind == style.Length {
				least = bare
			}
		case c.it.b.Scrolls() || !z.automaticMinimum(c):
			least = bare
		default:
			least = math.Min(lo, math.Max(z.limited(c, lo, false), bare))
		}
	}
	return contribution{least + around, lo + around, hi + around}
}

// ratioWidth is the width that an item has through its ratio, if its height is that of
// rows whose sizes are known when the columns are sized (§12.1, steps 1 and 3); else
// Auto.
func (c *contributor) ratioWidth(e *edges) float64 {
	b, s := c.it.b, c.it.b.Style
	if !s.Width.IsAuto() {
		return Indefinite
	}
	percent := s.Height.Kind == style.Length && s.Height.HasPct()
	if !percent && !c.g.fillsRows(c.it) {
		return Indefinite
	}
	h := c.g.knownRows(c.it)
	if !known(h) {
		return Indefinite
	}
	sp := newSpace(Indefinite, h)
	if !percent {
		sp.FixedH = c.g.l.clampHeight(b, e.heightIn(h), sp, e)
	}
	if b.Kind == box.Replaced {
		w, _ := c.g.l.replacedSize(b, sp, e)
		return w
	}
	if w := c.g.l.ratioWidth(b, sp, e); known(w) {
		return c.g.l.clampWidth(b, w, sp, e)
	}
	return Indefinite
}

// fillsRows tells whether an item with a ratio is as high as its rows.
func (g *gridBox) fillsRows(it *gridItem) bool {
	s, b := it.b.Style, it.b
	a := s.AlignSelf
	if a.Kind == style.Auto {
		a = g.s.AlignItems
	}
	ratio := b.Picture != nil && b.Picture.Ratio > 0
	if b.Kind != box.Replaced {
		ratio = s.AspectRatio.Ratio > 0
	}
	fills := a.Kind == style.Stretch || a.Kind == style.Normal && b.Kind != box.Replaced
	return ratio && fills && s.Width.IsAuto() && s.Height.IsAuto() && !it.e.auto[style.Top] && !it.e.auto[style.Bottom]
}

// knownRows is the height of an item's rows, as far as it is known when the columns are
// sized.
func (g *gridBox) knownRows(it *gridItem) float64 {
	if rows := &g.axis[blockAxis]; g.again && rows.pos != nil {
		_, h := rows.area(it.at[blockAxis], it.span[blockAxis])
		return h
	}
	return g.definiteRows(it)
}

// definiteRows is the height of an item's rows if it needs no contents to be known.
func (g *gridBox) definiteRows(it *gridItem) float64 {
	rows := &g.axis[blockAxis]
	if rows.sub {
		return Indefinite
	}
	h := rows.gap * float64(it.span[blockAxis]-1)
	for _, t := range rows.tracks[it.at[blockAxis] : it.at[blockAxis]+it.span[blockAxis]] {
		v := t.Max.Resolve(g.h)
		if !known(v) || t.Flex > 0 || t.Fit {
			return Indefinite
		}
		h += v
	}
	return h
}

// automaticMinimum tells whether an item's least size is that of its content
// (§6.6).
func (z *trackSizing) automaticMinimum(c *contributor) bool {
	auto, flexible := false, false
	for _, t := range z.spanned(c) {
		auto = auto || t.Min.IsAuto() || t.Min.Kind == style.Length && !known(t.Min.Resolve(z.size)) // a percentage of what is not known
		flexible = flexible || t.Flex > 0
	}
	return auto && !(c.span > 1 && flexible)
}

// measure sets the items in their columns, to see how tall they are.
func (g *gridBox) measure() {
	for _, it := range g.items {
		_, w := g.axis[inlineAxis].area(it.at[0], it.span[0])
		g.shareTracks(it)
		if it.sub == nil || !it.sub.axis[blockAxis].sub {
			it.frag = g.lay(it, w, Indefinite)
			continue
		}
		sub := it.sub
		sub.w = math.Max(w-it.e.margin[style.Left]-it.e.margin[style.Right]-it.e.inlineEdges(), 0)
		sub.sizeColumns()
		sub.measure()
	}
	g.alignBaselines(blockAxis)
}

func (g *gridBox) sizeRows(h, floor float64) {
	z := trackSizing{ax: &g.axis[blockAxis], size: h, floor: floor, align: g.s.AlignContent, list: g.contributors(blockAxis)}
	z.ask = func(c *contributor) contribution { return c.rows(&z) }
	z.run()
}

// rows is what an item asks of its rows.
func (c *contributor) rows(z *trackSizing) contribution {
	around := c.before + c.after
	if c.it == nil {
		return contribution{around, around, around}
	}
	s, e := c.it.b.Style, &c.it.e
	around += e.margin[style.Top] + e.margin[style.Bottom] + c.it.shim[blockAxis]
	h := c.it.frag.H
	least := h
	if s.Height.Kind != style.Length || s.Height.HasPct() {
		switch {
		case !s.MinHeight.IsAuto():
			if v := s.MinHeight.Resolve(Indefinite); known(v) {
				least = borderBox(s, v, e.blockEdges())
			} else if s.MinHeight.Kind == style.Length {
				least = e.blockEdges()
			}
		case c.it.b.Scrolls() || !z.automaticMinimum(c):
			least = e.blockEdges()
		default:
			least = math.Min(h, math.Max(z.limited(c, h+around, false)-around, e.blockEdges()))
		}
	}
	return contribution{least + around, h + around, h + around}
}

func (g *gridBox) selfAlign(it *gridItem) (j, a style.Align) {
	j, a = it.b.Style.JustifySelf, it.b.Style.AlignSelf
	if j.Kind == style.Auto {
		j = g.s.JustifyItems
	}
	if a.Kind == style.Auto {
		a = g.s.AlignItems
	}
	b := it.b
	ratio := b.Style.AspectRatio.Ratio > 0
	if j.Kind == style.Normal {
		j.Kind = style.Stretch
		if b.Kind == box.Replaced || ratio && !b.Style.Height.IsAuto() {
			j.Kind = style.Start
		}
	}
	if a.Kind == style.Normal {
		a.Kind = style.Stretch
		// a ratio takes over the axis that the other one leaves open: as in block flow,
		// that is the block axis when the inline one is filled or given (§6.2)
		if b.Kind == box.Replaced || ratio && (j.Kind == style.Stretch || !b.Style.Width.IsAuto()) {
			a.Kind = style.Start
		}
	}
	for ax, x := range []*style.Align{&j, &a} {
		if it.sub != nil && it.sub.axis[ax].sub {
			x.Kind = style.Stretch
		}
	}
	return j, a
}

// lay sets an item in its area; h is Auto while rows are being sized.
func (g *gridBox) lay(it *gridItem, w, h float64) *Fragment {
	l := g.l
	it.e = l.edges(it.b, w)
	j, a := g.selfAlign(it)
	s := it.b.Style
	sp := newSpace(w, h)
	sp.Measured = !known(h)
	e := &it.e
	if it.sub != nil {
		sp.sub = it.sub.shared
	}
	across := it.sub != nil && it.sub.axis[inlineAxis].sub
	down := it.sub != nil && it.sub.axis[blockAxis].sub
	switch {
	case across:
		sp.FixedW = math.Max(w-e.margin[style.Left]-e.margin[style.Right], e.inlineEdges())
	case j.Kind == style.Stretch && s.Width.IsAuto() && !e.auto[style.Left] && !e.auto[style.Right]:
		filled := l.transferred(it.b, math.Max(w-e.margin[style.Left]-e.margin[style.Right], e.inlineEdges()), h, e)
		sp.FixedW = l.clampWidth(it.b, filled, sp, e)
	case it.b.Kind != box.Replaced:
		sp.Shrink = true
		if known(h) && a.Kind == style.Stretch && g.fillsRows(it) { // the width follows
			sp.FixedH = l.clampHeight(it.b, e.heightIn(h), sp, e)
		}
		sp.FixedW = l.blockWidth(it.b, sp, e)
	}
	switch {
	case !known(h) || known(sp.FixedH):
	case down:
		sp.FixedH = e.heightIn(h)
	case a.Kind == style.Stretch && s.Height.IsAuto() && !e.auto[style.Top] && !e.auto[style.Bottom]:
		sp.FixedH = l.fillHeight(it.b, e.heightIn(h), sp, e)
	}
	return l.layUncut(it.b, sp)
}

// placeItem gives an item's place in its area.
func (g *gridBox) placeItem(it *gridItem, w, h float64) (x, y float64) {
	j, a := g.selfAlign(it)
	freeX, freeY := w-it.frag.W-it.e.margin[1]-it.e.margin[3], h-it.frag.H-it.e.margin[0]-it.e.margin[2]
	x = gridAlign(j, freeX, it.e.auto[style.Left], it.e.auto[style.Right], isRTL(g.b), startsFar(it.b, inlineAxis))
	y = gridAlign(a, freeY, it.e.auto[style.Top], it.e.auto[style.Bottom], false, startsFar(it.b, blockAxis))
	if moved, ok := g.toBaseline(it, inlineAxis, freeX); ok {
		x = moved
	}
	if moved, ok := g.toBaseline(it, blockAxis, freeY); ok {
		y = moved
	}
	return x + it.e.margin[style.Left], y + it.e.margin[style.Top]
}

// gridAlign is how far an item stands from the near end of its area's free room. rtl and selfRTL tell whether the
// grid and the item run from high to low there.
func gridAlign(a style.Align, free float64, autoS, autoE, rtl, selfRTL bool) float64 {
	if before, ok := autoShare(free, autoS, autoE); ok {
		return before
	}
	if free < 0 && (autoS || autoE || a.Safe) { // it overflows at the end, as browsers have it (§10.2 leaves it to the alignment)
		a = style.Align{Kind: style.Start}
	}
	return free * float64(sideOf(a, rtl, selfRTL)) / 2
}

// gridSizes are the intrinsic widths of a grid container.
func (l *Layout) gridSizes(b *box.Box) (lo, hi float64) {
	g := &gridBox{l: l, b: b, s: b.Style, w: Indefinite, h: Indefinite}
	g.build(Indefinite, Indefinite)
	g.alignColumns()
	cols := &g.axis[inlineAxis]
	z := trackSizing{ax: cols, size: Indefinite, under: forMinContent, align: style.Align{Kind: style.Start}, list: g.contributors(inlineAxis)}
	z.ask = func(c *contributor) contribution { return c.columns(&z) }
	z.run()
	lo = sumTracks(cols.tracks, cols.gap)
	z.under = forMaxContent
	z.run()
	return lo, math.Max(lo, sumTracks(cols.tracks, cols.gap))
}
