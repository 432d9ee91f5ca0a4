package layout

import (
	"math"
	"sort"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// gridItem is one item of a grid with the lines it lies between.
type gridItem struct {
	b          *box.Box
	e          edges
	row, col   int // first track, from 0
	rows, cols int
	frag       *Fragment
	baseline   float64
}

// gridTrack is a row or column while its size is found (Grid 1, §11).
type gridTrack struct {
	style.Track
	size, limit float64
	planned     float64
	empty       bool // a collapsed auto-fit track
}

type gridBox struct {
	l          *Layout
	b          *box.Box
	s          *style.Style
	w, h       float64 // content box; h may be Auto
	colGap     float64
	rowGap     float64
	cols, rows []gridTrack
	items      []*gridItem
	colOff     int // tracks before the explicit grid
	rowOff     int
	colNames   [][]string
	rowNames   [][]string
	explicitC  int
	explicitR  int
}

// grid sets a grid container.
func (l *Layout) grid(b *box.Box, sp Space, from *Break) (*Fragment, *Break) {
	e := l.edges(b, sp.W)
	w := l.width(b, sp, &e)
	s := b.Style
	f := &Fragment{Box: b, W: w, Border: e.border, Padding: e.padding, Baseline: Auto, LastBaseline: Auto, Continued: from != nil}
	definite := l.definiteHeight(b, sp, &e)
	g := &gridBox{l: l, b: b, s: s, w: math.Max(w-e.inlineEdges(), 0), h: Auto}
	if known(definite) {
		g.h = math.Max(definite-e.blockEdges(), 0)
	} else if r := s.AspectRatio.Ratio; r > 0 && s.Height.IsAuto() {
		g.h = math.Max(throughRatio(s, w, e.inlineEdges(), e.blockEdges(), 1/r)-e.blockEdges(), 0)
	}
	g.colGap, g.rowGap = gapOf(s.ColumnGap, g.w), gapOf(s.RowGap, g.h)
	g.build(g.w, g.h)
	g.sizeColumns(g.w)
	colPos, _ := g.positions(g.cols, g.colGap, g.w, s.JustifyContent)
	if isRTL(b) {
		colPos = mirror(colPos, g.cols, g.w)
	}
	g.sizeRows(g.h, colPos)
	sum := sumTracks(g.rows, g.rowGap)
	if _, contained := s.SizeContained(); contained {
		sum = s.IntrinsicSize[1]
	}
	height := g.h
	if !known(height) {
		total := l.autoHeight(b, math.Max(sum+e.blockEdges(), sp.MinH), 0, sp, &e)
		height = math.Max(total-e.blockEdges(), 0)
		if height > sum+0.01 { // stretch auto rows into a minimum height
			g.stretchTracks(g.rows, height-sum, s.AlignContent)
		}
	}
	rowPos, _ := g.positions(g.rows, g.rowGap, height, s.AlignContent)
	f.H = height + e.blockEdges()
	if known(definite) {
		f.H = definite
	}
	g.baselines()
	var kids []flowKid
	for _, it := range g.items {
		x, y, iw, ih := area(it, colPos, rowPos, g.cols, g.rows, isRTL(b))
		kx, ky := g.placeItem(it, iw, ih)
		kids = append(kids, flowKid{it.b, it.frag, e.left() + x + kx, e.top() + y + ky, nil})
		if it.row == 0 && known(it.frag.Baseline) && !known(f.Baseline) {
			f.Baseline = e.top() + y + ky + it.frag.Baseline
			f.LastBaseline = f.Baseline
		}
	}
	rest := l.cutPlaced(f, b, kids, from, sp, e, g.w, g.h)
	for _, c := range b.Children {
		if !c.Positioned() || from != nil || f.H < 0 {
			continue
		}
		w := staticPlace(c, b, rect{e.left(), e.top(), g.w, height})
		if !contains(b) || c.Style.Position == style.FixedKey {
			f.out = append(f.out, w)
			continue
		}
		// its containing block is its grid area (§9.1)
		p := c.Style.GridPlace
		x0, x1 := g.areaEdges(p[1], p[3], g.colNames, g.explicitC, g.colOff, colPos, g.cols, e.padding[style.Left], e.padding[style.Right], g.w)
		y0, y1 := g.areaEdges(p[0], p[2], g.rowNames, g.explicitR, g.rowOff, rowPos, g.rows, e.padding[style.Top], e.padding[style.Bottom], height)
		cb := rect{e.left() + x0, e.top() + y0, x1 - x0, y1 - y0}
		w.rect = rect{math.Max(cb.x, e.left()), math.Max(cb.y, e.top()), 0, 0}
		w.w, w.h = math.Min(cb.x+cb.w, e.left()+g.w)-w.x, math.Min(cb.y+cb.h, e.top()+height)-w.y
		l.positioned(f, w, cb)
	}
	if f.H < 0 {
		return nil, nil
	}
	if contains(b) {
		l.settle(f)
	}
	return f, rest
}

// areaEdges gives the ends of a positioned child's area in one direction, from
// the content edge; an auto line stands for the padding edge.
func (g *gridBox) areaEdges(start, end style.GridLine, names [][]string, explicit, off int, pos []float64, tracks []gridTrack, padStart, padEnd, size float64) (a, b float64) {
	a, b = -padStart, size+padEnd
	i, okA := lineIndex(start, names, explicit, false)
	j, okB := lineIndex(end, names, explicit, true)
	if okA && end.Span > 0 {
		j, okB = i+end.Span, true
	} else if okB && start.Span > 0 {
		i, okA = j-start.Span, true
	}
	if okA && okB && i > j {
		i, j = j, i
	}
	i, j = i+off, j+off
	if okA && i >= 0 && i <= len(tracks) {
		if i < len(tracks) {
			a = pos[i]
		} else if i > 0 {
			a = pos[i-1] + tracks[i-1].size
		}
	}
	if okB && j > 0 && j <= len(tracks) {
		b = pos[j-1] + tracks[j-1].size
	} else if okB && j == 0 && len(tracks) > 0 {
		b = pos[0]
	}
	return a, math.Max(a, b)
}

func mirror(pos []float64, tracks []gridTrack, w float64) []float64 {
	out := make([]float64, len(pos))
	for i := range tracks {
		out[i] = w - pos[i] - tracks[i].size
	}
	return out
}

// area is the box of an item's grid area.
func area(it *gridItem, colPos, rowPos []float64, cols, rows []gridTrack, rtl bool) (x, y, w, h float64) {
	lastC, lastR := it.col+it.cols-1, it.row+it.rows-1
	x, w = colPos[it.col], colPos[lastC]+cols[lastC].size-colPos[it.col]
	if rtl {
		x, w = colPos[lastC], colPos[it.col]+cols[it.col].size-colPos[lastC]
	}
	y, h = rowPos[it.row], rowPos[lastR]+rows[lastR].size-rowPos[it.row]
	return x, y, w, h
}

// expand writes repeats out; auto repeats fill the size known (§7.2.3).
func expand(list style.TrackList, size, gap float64, min float64) (tracks []gridTrack, names [][]string) {
	var pending []string
	add := func(t style.Track, n []string, fit bool) {
		names = append(names, append(pending, n...))
		pending = nil
		tracks = append(tracks, gridTrack{Track: t, empty: fit})
	}
	for _, it := range list.Items {
		switch {
		case it.Repeat == 0:
			add(it.Track, it.Names, false)
			continue
		}
		n := it.Repeat
		if n < 0 {
			n = autoRepeat(list, it, size, gap, min)
		}
		pending = append(pending, it.Names...)
		for range n {
			for _, t := range it.Items {
				add(t.Track, t.Names, it.Repeat == -2)
			}
			pending = append(pending, it.After...)
			if len(tracks) > 5000 {
				break
			}
		}
	}
	names = append(names, append(pending, list.After...))
	return tracks, names
}

func autoRepeat(list style.TrackList, rep style.TrackItem, size, gap, min float64) int {
	if !known(size) {
		size = min
	}
	fixed := func(t style.Track) float64 {
		if v := t.Max.Resolve(size); known(v) && t.Flex == 0 {
			if lo := t.Min.Resolve(size); known(lo) {
				return math.Max(v, lo)
			}
			return v
		}
		if v := t.Min.Resolve(size); known(v) {
			return v
		}
		return 0
	}
	other, n := 0.0, 0
	for _, it := range list.Items {
		if it.Repeat == 0 {
			other += fixed(it.Track)
			n++
		} else if it.Repeat > 0 {
			for _, t := range it.Items {
				other += fixed(t.Track) * float64(it.Repeat)
				n += it.Repeat
			}
		}
	}
	one := 0.0
	for _, t := range rep.Items {
		one += math.Max(fixed(t.Track), 1)
	}
	one += gap * float64(len(rep.Items))
	if !known(size) || one <= 0 {
		return 1
	}
	return max(1, int(math.Floor((size-other-gap*float64(n)+gap)/one+1e-6)))
}

// build expands the explicit grid and places the items (§8).
func (g *gridBox) build(w, h float64) {
	minH := 0.0
	if v := g.s.MinHeight.Resolve(Auto); known(v) {
		minH = v
	}
	var colNames, rowNames [][]string
	g.cols, colNames = expand(g.s.GridColumns, w, g.colGap, 0)
	g.rows, rowNames = expand(g.s.GridRows, h, g.rowGap, minH)
	for r, row := range g.s.GridAreas {
		for len(g.rows) <= r {
			g.rows = append(g.rows, g.auto(g.s.GridAutoRows, len(g.rows)))
			rowNames = append(rowNames, nil)
		}
		for c := range row {
			for len(g.cols) <= c {
				g.cols = append(g.cols, g.auto(g.s.GridAutoColumns, len(g.cols)))
				colNames = append(colNames, nil)
			}
		}
	}
	rowNames, colNames = g.areaNames(rowNames, colNames)
	g.colNames, g.rowNames, g.explicitC, g.explicitR = colNames, rowNames, len(g.cols), len(g.rows)
	p := &placer{g: g, explicitC: len(g.cols), explicitR: len(g.rows), colNames: colNames, rowNames: rowNames}
	p.run()
	fit := func(tracks []gridTrack, start func(*gridItem) (int, int)) {
		for i := range tracks {
			if !tracks[i].empty {
				continue
			}
			for _, it := range g.items {
				if a, n := start(it); i >= a && i < a+n {
					tracks[i].empty = false
				}
			}
			if tracks[i].empty { // collapsed: a track of no size (§7.2.3.2)
				tracks[i].Track = style.Track{Min: style.Size{Kind: style.Length}, Max: style.Size{Kind: style.Length}}
			}
		}
	}
	fit(g.cols, func(it *gridItem) (int, int) { return it.col, it.cols })
	fit(g.rows, func(it *gridItem) (int, int) { return it.row, it.rows })
	if trims(g.b) {
		g.trimItems()
	}
}

func (g *gridBox) auto(list []style.Track, i int) gridTrack {
	n := len(list)
	return gridTrack{Track: list[((i%n)+n)%n]}
}

// areaNames adds the implicit line names of named areas (§7.3.2).
func (g *gridBox) areaNames(rows, cols [][]string) ([][]string, [][]string) {
	put := func(list [][]string, i int, n string) [][]string {
		for len(list) <= i {
			list = append(list, nil)
		}
		list[i] = append(append([]string(nil), list[i]...), n)
		return list
	}
	type span struct{ r0, c0, r1, c1 int }
	seen := map[string]*span{}
	var order []string
	for r, row := range g.s.GridAreas {
		for c, n := range row {
			if n == "" {
				continue
			}
			if s := seen[n]; s != nil {
				s.r1, s.c1 = max(s.r1, r), max(s.c1, c)
			} else {
				seen[n] = &span{r, c, r, c}
				order = append(order, n)
			}
		}
	}
	for _, n := range order {
		s := seen[n]
		rows, cols = put(rows, s.r0, n+"-start"), put(cols, s.c0, n+"-start")
		rows, cols = put(rows, s.r1+1, n+"-end"), put(cols, s.c1+1, n+"-end")
	}
	return rows, cols
}

// placer runs the placement algorithm (§8.5).
type placer struct {
	g                    *gridBox
	explicitR, explicitC int
	rowNames, colNames   [][]string
	taken                map[[2]int]bool
	minR, minC           int
	endR, endC           int
}

// axis is the placement of an item in one direction: start may be open.
type axis struct {
	open       bool
	start, end int
}

// line resolves one grid line to an index from 0 (§8.3).
func lineIndex(l style.GridLine, names [][]string, explicit int, end bool) (int, bool) {
	if l.Auto || l.Span > 0 {
		return 0, false
	}
	if l.Name != "" {
		if l.Num == 0 {
			suffix := "-start"
			if end {
				suffix = "-end"
			}
			for i, list := range names {
				for _, n := range list {
					if n == l.Name+suffix {
						return i, true
					}
				}
			}
		}
		return nthNamed(l.Name, names, explicit, l.Num), true
	}
	if l.Num > 0 {
		return l.Num - 1, true
	}
	return explicit + 1 + l.Num, true
}

func nthNamed(name string, names [][]string, explicit, n int) int {
	if n == 0 {
		n = 1
	}
	has := func(i int) bool {
		for _, x := range names[i] {
			if x == name {
				return true
			}
		}
		return false
	}
	if n > 0 {
		for i := range names {
			if has(i) {
				if n--; n == 0 {
					return i
				}
			}
		}
		return explicit + n // lines beyond the grid are taken to have the name
	}
	for i := len(names) - 1; i >= 0; i-- {
		if has(i) {
			if n++; n == 0 {
				return i
			}
		}
	}
	return n
}

func resolveAxis(a, b style.GridLine, names [][]string, explicit int) axis {
	s, okS := lineIndex(a, names, explicit, false)
	e, okE := lineIndex(b, names, explicit, true)
	span := func(l style.GridLine) int {
		if l.Span > 0 {
			return l.Span
		}
		return 1
	}
	switch {
	case okS && okE:
		if s > e {
			s, e = e, s
		}
		if s == e {
			e = s + 1
		}
		return axis{start: s, end: e}
	case okS:
		if b.Span > 0 && b.Name != "" {
			return axis{start: s, end: spanNamed(b, names, explicit, s, 1)}
		}
		return axis{start: s, end: s + span(b)}
	case okE:
		if a.Span > 0 && a.Name != "" {
			return axis{start: spanNamed(a, names, explicit, e, -1), end: e}
		}
		return axis{start: e - span(a), end: e}
	}
	n := span(a)
	if a.Auto {
		n = span(b)
	}
	return axis{open: true, end: n}
}

// spanNamed finds the line that a span to a named line reaches.
func spanNamed(l style.GridLine, names [][]string, explicit, from, step int) int {
	left := l.Span
	for i := from + step; i >= 0 && i < len(names); i += step {
		for _, n := range names[i] {
			if n == l.Name {
				left--
			}
		}
		if left == 0 {
			return i
		}
	}
	if step > 0 {
		return max(explicit, from) + left
	}
	return -left
}

func (p *placer) mark(r, c, rows, cols int) {
	for y := r; y < r+rows; y++ {
		for x := c; x < c+cols; x++ {
			p.taken[[2]int{y, x}] = true
		}
	}
	p.minR, p.minC = min(p.minR, r), min(p.minC, c)
	p.endR, p.endC = max(p.endR, r+rows), max(p.endC, c+cols)
}

func (p *placer) free(r, c, rows, cols int) bool {
	for y := r; y < r+rows; y++ {
		for x := c; x < c+cols; x++ {
			if p.taken[[2]int{y, x}] {
				return false
			}
		}
	}
	return true
}

func (p *placer) run() {
	g := p.g
	p.taken = map[[2]int]bool{}
	p.endR, p.endC = p.explicitR, p.explicitC
	column := g.s.GridAutoFlow == style.Column
	type todo struct {
		it   *gridItem
		r, c axis
	}
	var list []todo
	for _, b := range inOrder(g.b) {
		it := &gridItem{b: b}
		pl := b.Style.GridPlace
		t := todo{it, resolveAxis(pl[0], pl[2], p.rowNames, p.explicitR), resolveAxis(pl[1], pl[3], p.colNames, p.explicitC)}
		t.it.rows, t.it.cols = max(t.r.end-t.r.start, 1), max(t.c.end-t.c.start, 1)
		list = append(list, t)
		g.items = append(g.items, it)
	}
	for _, t := range list { // both lines known
		if !t.r.open && !t.c.open {
			t.it.row, t.it.col = t.r.start, t.c.start
			p.mark(t.it.row, t.it.col, t.it.rows, t.it.cols)
		}
	}
	cursor := map[int]int{}
	for _, t := range list { // locked to a row (or column)
		lockedMajor := t.c.open && !t.r.open
		if column {
			lockedMajor = t.r.open && !t.c.open
		}
		if !lockedMajor {
			continue
		}
		if column {
			r := 0
			if !g.s.GridDense {
				r = cursor[t.c.start]
			}
			for !p.free(r, t.c.start, t.it.rows, t.it.cols) {
				r++
			}
			t.it.row, t.it.col = r, t.c.start
			cursor[t.c.start] = r + t.it.rows
		} else {
			c := 0
			if !g.s.GridDense {
				c = cursor[t.r.start]
			}
			for !p.free(t.r.start, c, t.it.rows, t.it.cols) {
				c++
			}
			t.it.row, t.it.col = t.r.start, c
			cursor[t.r.start] = c + t.it.cols
		}
		p.mark(t.it.row, t.it.col, t.it.rows, t.it.cols)
	}
	for _, t := range list { // the implicit grid is wide enough for all spans
		if !t.c.open && !t.r.open {
			continue
		}
		if column {
			if t.r.open {
				p.endR = max(p.endR, t.it.rows+min(p.minR, 0))
			} else {
				p.endR, p.minR = max(p.endR, t.r.end), min(p.minR, t.r.start)
			}
		} else {
			if t.c.open {
				p.endC = max(p.endC, t.it.cols+min(p.minC, 0))
			} else {
				p.endC, p.minC = max(p.endC, t.c.end), min(p.minC, t.c.start)
			}
		}
	}
	curR, curC := p.minR, p.minC
	for _, t := range list {
		open := t.r.open && t.c.open
		lockedMinor := !t.c.open && t.r.open
		if column {
			lockedMinor = !t.r.open && t.c.open
		}
		if !open && !lockedMinor {
			continue
		}
		if g.s.GridDense {
			curR, curC = p.minR, p.minC
		}
		it := t.it
		switch {
		case lockedMinor && !column:
			if t.c.start < curC {
				curR++
			}
			curC = t.c.start
			for !p.free(curR, curC, it.rows, it.cols) {
				curR++
			}
		case lockedMinor:
			if t.r.start < curR {
				curC++
			}
			curR = t.r.start
			for !p.free(curR, curC, it.rows, it.cols) {
				curC++
			}
		case !column:
			for {
				if curC+it.cols > p.endC && curC > p.minC {
					curR, curC = curR+1, p.minC
				}
				if p.free(curR, curC, it.rows, it.cols) {
					break
				}
				curC++
			}
		default:
			for {
				if curR+it.rows > p.endR && curR > p.minR {
					curC, curR = curC+1, p.minR
				}
				if p.free(curR, curC, it.rows, it.cols) {
					break
				}
				curR++
			}
		}
		it.row, it.col = curR, curC
		p.mark(curR, curC, it.rows, it.cols)
	}
	// tracks before the explicit grid, and after it
	g.rowOff, g.colOff = -p.minR, -p.minC
	for _, it := range g.items {
		it.row, it.col = it.row-p.minR, it.col-p.minC
	}
	g.rows = p.implicit(g.rows, g.rowOff, p.endR-p.minR, g.s.GridAutoRows)
	g.cols = p.implicit(g.cols, g.colOff, p.endC-p.minC, g.s.GridAutoColumns)
}

func (p *placer) implicit(tracks []gridTrack, before, total int, auto []style.Track) []gridTrack {
	var out []gridTrack
	for i := -before; i < 0; i++ {
		out = append(out, p.g.auto(auto, i))
	}
	out = append(out, tracks...)
	for i := 0; len(out) < total; i++ {
		out = append(out, p.g.auto(auto, i))
	}
	return out
}

func sumTracks(tracks []gridTrack, gap float64) (sum float64) {
	n := 0
	for _, t := range tracks {
		sum += t.size
		if !t.empty {
			n++
		}
	}
	return sum + gap*math.Max(float64(n-1), 0)
}

// positions gives the start of each track (§10.5).
func (g *gridBox) positions(tracks []gridTrack, gap, size float64, a style.Align) ([]float64, float64) {
	n := 0
	for _, t := range tracks {
		if !t.empty {
			n++
		}
	}
	free := size - sumTracks(tracks, gap)
	switch a.Kind {
	case style.Normal, style.Stretch, style.Baseline:
		a.Kind = style.Start
	case style.LeftSide:
		a.Kind = style.Start
	case style.RightSide:
		a.Kind = style.End
	}
	start, step := distribute(a, free, n, gap, false)
	pos := make([]float64, len(tracks))
	x := start
	for i, t := range tracks {
		pos[i] = x
		if !t.empty {
			x += t.size + step
		}
	}
	return pos, x
}

// contribution is what an item asks of the tracks it spans, margins included.
type contribution func(it *gridItem) (minC, maxC, auto float64)

// sizeTracks is the track sizing algorithm (§11.3 to §11.8).
func (g *gridBox) sizeTracks(tracks []gridTrack, size, gap float64, start func(*gridItem) (int, int), con contribution, a style.Align) {
	base := size
	for i := range tracks { // initialise
		t := &tracks[i]
		if t.empty {
			t.size, t.limit = 0, 0
			continue
		}
		t.size = 0
		if v := t.Min.Resolve(base); known(v) {
			t.size = v
		}
		t.limit = inf
		if v := t.Max.Resolve(base); known(v) && t.Flex == 0 && !t.Fit {
			t.limit = math.Max(v, t.size)
		}
	}
	// intrinsic contributions, items of few tracks first
	items := append([]*gridItem(nil), g.items...)
	sort.SliceStable(items, func(i, j int) bool {
		_, x := start(items[i])
		_, y := start(items[j])
		return x < y
	})
	isIntrinsic := func(s style.Size) bool { return s.Kind != style.Length || s.HasPct() && !known(base) }
	for _, it := range items {
		at, n := start(it)
		span := tracks[at : at+n]
		var intr, flexes, maxes []*gridTrack
		sum := gap * float64(n-1)
		fixedOnly := true
		for i := range span {
			t := &span[i]
			sum += t.size
			if isIntrinsic(t.Min) {
				if t.Flex > 0 {
					flexes = append(flexes, t)
				} else {
					intr = append(intr, t)
				}
				fixedOnly = false
			}
			if isIntrinsic(t.Max) || t.Fit {
				maxes = append(maxes, t)
			}
		}
		if fixedOnly && len(maxes) == 0 {
			continue
		}
		minC, maxC, auto := con(it)
		if len(flexes) == 0 && len(intr) > 0 {
			need := auto
			for _, t := range intr {
				switch t.Min.Kind {
				case style.MinContent:
					need = minC
				case style.MaxContent:
					need = maxC
				}
			}
			spreadTracks(intr, need-sum)
		} else if len(flexes) > 0 && n >= 1 {
			spreadFlex(flexes, auto-sum)
		}
		// growth limits
		var flexible bool
		for i := range span {
			flexible = flexible || span[i].Flex > 0
		}
		if flexible {
			continue
		}
		limitSum := gap * float64(n-1)
		open := 0
		for i := range span {
			t := &span[i]
			if math.IsInf(t.limit, 1) {
				limitSum += t.size
				open++
			} else {
				limitSum += math.Max(t.limit, t.size)
			}
		}
		if len(maxes) > 0 {
			need := maxC
			for _, t := range maxes {
				if t.Max.Kind == style.MinContent {
					need = minC
				}
				if t.Fit {
					need = math.Min(maxC, math.Max(t.Max.Of(base), minC))
				}
			}
			extra := math.Max(need-limitSum, 0)
			for _, t := range maxes {
				if math.IsInf(t.limit, 1) {
					t.limit = t.size
				}
				t.limit = math.Max(t.limit, t.size) + extra/float64(len(maxes))
			}
		}
	}
	for i := range tracks {
		t := &tracks[i]
		if math.IsInf(t.limit, 1) && (isIntrinsic(t.Max) || t.Fit) && t.Flex == 0 {
			t.limit = t.size
		}
		t.limit = math.Max(t.limit, t.size)
	}
	// maximise (§11.6)
	if known(size) {
		for range len(tracks) + 1 {
			free := size - sumTracks(tracks, gap)
			var open []*gridTrack
			for i := range tracks {
				if t := &tracks[i]; t.Flex == 0 && !t.empty && t.size < t.limit-1e-6 {
					open = append(open, t)
				}
			}
			if free <= 1e-6 || len(open) == 0 {
				break
			}
			for _, t := range open {
				t.size = math.Min(t.size+free/float64(len(open)), t.limit)
			}
		}
	} else {
		for i := range tracks {
			if t := &tracks[i]; t.Flex == 0 && !math.IsInf(t.limit, 1) {
				t.size = t.limit
			}
		}
	}
	g.flexTracks(tracks, size, gap, start, con)
	if known(size) {
		g.stretchTracks(tracks, size-sumTracks(tracks, gap), a)
	}
}

func spreadTracks(list []*gridTrack, extra float64) {
	if extra <= 0 || len(list) == 0 {
		return
	}
	// up to the limits first, then beyond them
	for range len(list) + 1 {
		var open []*gridTrack
		for _, t := range list {
			if t.size < t.limit-1e-6 {
				open = append(open, t)
			}
		}
		if len(open) == 0 || extra <= 1e-6 {
			break
		}
		each := extra / float64(len(open))
		for _, t := range open {
			d := math.Min(each, t.limit-t.size)
			t.size += d
			extra -= d
		}
	}
	if extra > 1e-6 {
		for _, t := range list {
			t.size += extra / float64(len(list))
		}
	}
}

func spreadFlex(list []*gridTrack, extra float64) {
	if extra <= 0 {
		return
	}
	sum := 0.0
	for _, t := range list {
		sum += t.Flex
	}
	for _, t := range list {
		if sum > 0 {
			t.size += extra * t.Flex / sum
		}
	}
}

// flexTracks expands the flexible tracks (§11.7).
func (g *gridBox) flexTracks(tracks []gridTrack, size, gap float64, start func(*gridItem) (int, int), con contribution) {
	any := false
	for i := range tracks {
		any = any || tracks[i].Flex > 0
	}
	if !any {
		return
	}
	fr := 0.0
	if known(size) {
		fr = findFr(tracks, size, gap)
	} else {
		for i := range tracks {
			if t := &tracks[i]; t.Flex > 0 {
				fr = math.Max(fr, t.size/math.Max(t.Flex, 1))
			}
		}
		for _, it := range g.items {
			at, n := start(it)
			span := tracks[at : at+n]
			flexible := false
			for i := range span {
				flexible = flexible || span[i].Flex > 0
			}
			if flexible {
				_, maxC, _ := con(it)
				fr = math.Max(fr, findFr(span, maxC, gap))
			}
		}
	}
	for i := range tracks {
		if t := &tracks[i]; t.Flex > 0 {
			t.size = math.Max(t.size, fr*t.Flex)
		}
	}
}

// findFr finds the size of one fr (§11.7.1).
func findFr(tracks []gridTrack, size, gap float64) float64 {
	rigid := make([]bool, len(tracks))
	for range len(tracks) + 1 {
		left, sum, n := size, 0.0, 0
		for i := range tracks {
			t := &tracks[i]
			if !t.empty {
				n++
			}
			if t.Flex > 0 && !rigid[i] {
				sum += t.Flex
			} else {
				left -= t.size
			}
		}
		left -= gap * math.Max(float64(n-1), 0)
		fr := math.Max(left, 0) / math.Max(sum, 1)
		again := false
		for i := range tracks {
			if t := &tracks[i]; t.Flex > 0 && !rigid[i] && fr*t.Flex < t.size-1e-6 {
				rigid[i], again = true, true
			}
		}
		if !again {
			return fr
		}
	}
	return 0
}

// stretchTracks grows auto tracks into free space (§11.8).
func (g *gridBox) stretchTracks(tracks []gridTrack, free float64, a style.Align) {
	if free <= 0 || a.Kind != style.Normal && a.Kind != style.Stretch {
		return
	}
	var autos []*gridTrack
	for i := range tracks {
		if t := &tracks[i]; !t.empty && t.Flex == 0 && t.Max.IsAuto() && !t.Fit {
			autos = append(autos, t)
		}
	}
	for _, t := range autos {
		t.size += free / float64(len(autos))
	}
}

func (g *gridBox) sizeColumns(w float64) {
	g.sizeTracks(g.cols, w, g.colGap, func(it *gridItem) (int, int) { return it.col, it.cols }, func(it *gridItem) (float64, float64, float64) {
		lo, hi := g.l.outer(it.b)
		s := it.b.Style
		auto := lo
		if s.MinWidth.IsAuto() && it.b.Scrolls() && s.Width.IsAuto() {
			e := g.l.edges(it.b, 0)
			auto = e.inlineEdges() + e.margin[1] + e.margin[3]
		}
		return lo, hi, auto
	}, g.s.JustifyContent)
}

func (g *gridBox) sizeRows(h float64, colPos []float64) {
	for _, it := range g.items {
		last := it.col + it.cols - 1
		w := math.Abs(colPos[last]-colPos[it.col]) + g.cols[last].size
		if isRTL(g.b) {
			w = math.Abs(colPos[last]-colPos[it.col]) + g.cols[it.col].size
		}
		it.frag = g.lay(it, w, Auto)
	}
	g.sizeTracks(g.rows, h, g.rowGap, func(it *gridItem) (int, int) { return it.row, it.rows }, func(it *gridItem) (float64, float64, float64) {
		v := it.frag.H + it.e.margin[style.Top] + it.e.margin[style.Bottom]
		return v, v, v
	}, g.s.AlignContent)
}

func (g *gridBox) selfAlign(it *gridItem) (j, a style.Align) {
	j, a = it.b.Style.JustifySelf, it.b.Style.AlignSelf
	if j.Kind == style.Auto {
		j = g.s.JustifyItems
	}
	if a.Kind == style.Auto {
		a = g.s.AlignItems
	}
	for _, x := range []*style.Align{&j, &a} {
		if x.Kind == style.Normal {
			x.Kind = style.Stretch
			if it.b.Kind == box.Replaced || it.b.Style.AspectRatio.Ratio > 0 {
				x.Kind = style.Start
			}
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
	e := &it.e
	if j.Kind == style.Stretch && s.Width.IsAuto() && !e.auto[style.Left] && !e.auto[style.Right] {
		sp.FixedW = l.clampWidth(it.b, math.Max(w-e.margin[style.Left]-e.margin[style.Right], e.inlineEdges()), sp, e)
	} else if it.b.Kind != box.Replaced {
		sp.Shrink = true
		sp.FixedW = l.blockWidth(it.b, sp, e)
	}
	if known(h) && a.Kind == style.Stretch && s.Height.IsAuto() && !e.auto[style.Top] && !e.auto[style.Bottom] {
		sp.FixedH = l.clampHeight(it.b, math.Max(h-e.margin[style.Top]-e.margin[style.Bottom], e.blockEdges()), sp, e)
	}
	m := memoOf(it.b)
	for _, c := range m.cache {
		if sameSpace(c.sp, sp) {
			return c.frag
		}
	}
	f, _ := l.Lay(it.b, sp, nil)
	if f == nil {
		f = &Fragment{Box: it.b, Baseline: Auto, LastBaseline: Auto}
	}
	if len(m.cache) > 3 {
		m.cache = m.cache[1:]
	}
	m.cache = append(m.cache, cached{sp, f})
	return f
}

// baselines aligns items of the same row on their first baselines.
func (g *gridBox) baselines() {
	deepest := map[int]float64{}
	for _, it := range g.items {
		if _, a := g.selfAlign(it); a.Kind == style.Baseline && known(it.frag.Baseline) {
			deepest[it.row] = math.Max(deepest[it.row], it.e.margin[style.Top]+it.frag.Baseline)
		}
	}
	for _, it := range g.items {
		if _, a := g.selfAlign(it); a.Kind == style.Baseline && known(it.frag.Baseline) {
			it.baseline = deepest[it.row] - it.e.margin[style.Top] - it.frag.Baseline
		}
	}
}

// placeItem sets an item in its final area and gives its place there.
func (g *gridBox) placeItem(it *gridItem, w, h float64) (x, y float64) {
	it.frag = g.lay(it, w, h)
	j, a := g.selfAlign(it)
	rtl := isRTL(g.b)
	x = gridAlign(j, w-it.frag.W-it.e.margin[1]-it.e.margin[3], it.e.auto[style.Left], it.e.auto[style.Right], rtl) + it.e.margin[style.Left]
	y = gridAlign(a, h-it.frag.H-it.e.margin[0]-it.e.margin[2], it.e.auto[style.Top], it.e.auto[style.Bottom], false) + it.e.margin[style.Top]
	if a.Kind == style.Baseline {
		y += it.baseline
	}
	return x, y
}

func gridAlign(a style.Align, free float64, autoS, autoE, rtl bool) float64 {
	if free > 0 && (autoS || autoE) {
		switch {
		case autoS && autoE:
			return free / 2
		case autoS:
			return free
		}
		return 0
	}
	k := a.Kind
	if free < 0 && a.Safe {
		k = style.Start
	}
	switch k {
	case style.Center:
		return free / 2
	case style.End, style.FlexEnd, style.SelfEnd:
		if rtl {
			return 0
		}
		return free
	case style.RightSide:
		return free
	case style.LeftSide:
		return 0
	}
	if rtl {
		return free
	}
	return 0
}

// gridSizes are the intrinsic widths of a grid container.
func (l *Layout) gridSizes(b *box.Box) (lo, hi float64) {
	size := func(pick func(lo, hi float64) float64) float64 {
		g := &gridBox{l: l, b: b, s: b.Style, w: Auto, h: Auto, colGap: gapOf(b.Style.ColumnGap, 0)}
		g.build(Auto, Auto)
		g.sizeTracks(g.cols, Auto, g.colGap, func(it *gridItem) (int, int) { return it.col, it.cols }, func(it *gridItem) (float64, float64, float64) {
			v := pick(l.outer(it.b))
			return v, v, v
		}, style.Align{Kind: style.Start})
		return sumTracks(g.cols, g.colGap)
	}
	lo = size(func(lo, _ float64) float64 { return lo })
	hi = size(func(_, hi float64) float64 { return hi })
	return lo, math.Max(lo, hi)
}
