package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// tableWidth is the used border-box width of a table (CSS 2.2, §17.5.2).
func (l *Layout) tableWidth(b *box.Box, sp Space, e *edges) float64 {
	if known(sp.FixedW) { // it is as wide as its columns at least (CSS 2.2, §17.5.2)
		return math.Max(sp.FixedW, l.leastTable(b, sp.W))
	}
	g := l.gridOf(b)
	extra := l.tableEdges(b, g, sp.W)
	lo, hi := l.contentSizes(b)
	lo, hi = lo+extra, hi+extra
	avail := sp.W - e.margin[style.Left] - e.margin[style.Right]
	s := b.Style
	resolve := func(size style.Size) float64 {
		switch size.Kind {
		case style.Length:
			if v := size.Resolve(sp.W); known(v) {
				return borderBox(s, v, extra)
			}
		case style.MinContent:
			return lo
		case style.MaxContent: // of columns in percent, as browsers have it, without the room that they are percent of
			_, most := l.tableColumnSizes(b)
			return most + extra
		case style.FitContent:
			return math.Min(math.Max(lo, avail), hi)
		case style.Stretch:
			return avail
		}
		return Indefinite
	}
	w := resolve(s.Width)
	if !known(w) {
		w = math.Min(hi, avail)
	}
	if v := resolve(s.MaxWidth); known(v) {
		w = math.Min(w, v)
	}
	if v := resolve(s.MinWidth); known(v) {
		w = math.Max(w, v)
	}
	if s.TableLayout == style.FixedKey && known(s.Width.Resolve(sp.W)) { // it is as wide as its columns at least (CSS 2.2, §17.5.2.1)
		sum := extra + g.gaps()
		for _, v := range l.fixedColumns(b, g, w-sum) {
			sum += v
		}
		return math.Max(w, sum)
	}
	return math.Max(w, lo)
}

// inFixedMode tells whether a table's first row alone decides about its columns (CSS Tables 3, §3.6).
func inFixedMode(b *box.Box) bool {
	w := b.Style.Width
	return b.Style.TableLayout == style.FixedKey && !w.IsAuto() && w.Kind != style.MaxContent
}

// endless is the max-content width of tables that take whatever there is.
const endless = 1e5

// tableSizes are the min-content and max-content widths of a table's contents.
// percent tells whether columns in percent make it wide enough for them.
func (l *Layout) tableSizes(b *box.Box, percent bool) (lo, hi float64) {
	lo, hi = l.tableColumnSizes(b)
	g := l.gridOf(b)
	switch {
	case b.Style.TableLayout == style.FixedKey && b.Style.Width.HasPct():
		hi = endless
	case percent:
		hi = math.Max(hi, g.percentWidth()+g.gaps())
	}
	for _, c := range g.captions {
		a, _ := l.outer(c)
		lo = math.Max(lo, a-l.tableEdges(b, g, 0))
	}
	return lo, math.Max(lo, hi)
}

// tableColumnSizes are those of the columns with the spacing around them. In fixed layout
// contents do not keep columns wide (CSS 2.2, §17.5.2.1).
func (l *Layout) tableColumnSizes(b *box.Box) (lo, hi float64) {
	g := l.gridOf(b)
	if !g.measured {
		l.measureColumns(b, g)
		g.measured = true
	}
	for _, c := range g.columns {
		lo += c.min
		hi += c.max
	}
	if inFixedMode(b) {
		lo = sumOf(l.fixedColumns(b, g, 0))
	}
	return lo + g.gaps(), math.Max(lo, hi) + g.gaps()
}

// percentWidth is how wide the columns are when those in percent have room for
// their contents (CSS Tables 3, §3.8.1).
func (g *tableGrid) percentWidth() (need float64) {
	sum, rest := 0.0, 0.0
	for _, c := range g.columns {
		if c.percent {
			sum += c.pct
			if c.pct > 0 {
				need = math.Max(need, c.max*100/c.pct)
			}
		} else {
			rest += c.max
		}
	}
	switch {
	case sum == 0:
		return 0
	case sum < 100:
		return math.Max(need, rest*100/(100-sum))
	case rest > 0:
		return endless
	}
	return need
}

// tableEdges are the widths of the table's own borders and padding.
// cbW is the width of the containing block.
func (l *Layout) tableEdges(b *box.Box, g *tableGrid, cbW float64) float64 {
	if g.collapse {
		return g.edge[style.Left] + g.edge[style.Right]
	}
	e := l.edges(b, cbW)
	return e.inlineEdges()
}

// leastTable is the border-box width that a table's columns need.
func (l *Layout) leastTable(b *box.Box, cbW float64) float64 {
	lo, _ := l.contentSizes(b)
	return lo + l.tableEdges(b, l.gridOf(b), cbW)
}

// gaps is the border spacing between and around the columns.
func (g *tableGrid) gaps() float64 {
	if len(g.columns) == 0 {
		return 0
	}
	return g.spacing[0] * float64(len(g.columns)+1)
}

// cellSizes are the widths a cell asks for.
func (l *Layout) cellSizes(g *tableGrid, c *cell) (lo, hi, fixed, pct float64) {
	s := c.box.Style
	e := l.edges(c.box, 0)
	extra := e.padding[style.Left] + e.padding[style.Right] + c.border[style.Left] + c.border[style.Right]
	plain := false
	if g.long() && l.isPlainCell(c.box) {
		lo, hi, plain = l.plainSizes(c.box)
	}
	if !plain {
		lo, hi = l.itemSizes(l.contentSizes, c.box)
	}
	lo, hi = lo+extra, hi+extra
	fixed, pct = Indefinite, Indefinite
	switch {
	case mixed(s.Width):
	case s.Width.Kind == style.Length && s.Width.HasPct():
		pct = s.Width.Pct
	case s.Width.Kind == style.Length:
		fixed = math.Max(borderBox(s, s.Width.Px, extra), lo)
	}
	if s.MaxWidth.Kind == style.Length && !s.MaxWidth.HasPct() {
		v := borderBox(s, s.MaxWidth.Px, extra)
		lo, hi, fixed = math.Min(lo, v), math.Min(hi, v), math.Min(fixed, v) // what is wider overflows, as browsers have it
	}
	if s.MinWidth.Kind == style.Length && !s.MinWidth.HasPct() {
		v := borderBox(s, s.MinWidth.Px, extra)
		lo, hi, fixed = math.Max(lo, v), math.Max(hi, v), math.Max(fixed, v)
	}
	return lo, hi, fixed, pct
}

// measureColumns finds what each column needs from its cells
// (CSS Tables 3, §3.8.2; CSS 2.2, §17.5.2.2).
func (l *Layout) measureColumns(b *box.Box, g *tableGrid) {
	for i := range g.columns {
		c := &g.columns[i]
		x := c.box
		if x == nil {
			x = c.group
		}
		if x == nil {
			continue
		}
		if w := x.Style.Width; mixed(w) {
		} else if w.Kind == style.Length && w.HasPct() {
			c.pct, c.percent = math.Max(c.pct, w.Pct), true
		} else if w.Kind == style.Length && w.Px > 0 {
			c.min, c.max, c.fixed = math.Max(c.min, 0), math.Max(c.max, w.Px), true
		}
		if m := x.Style.MinWidth; m.Kind == style.Length && !m.HasPct() {
			c.min, c.max = math.Max(c.min, m.Px), math.Max(c.max, m.Px)
		}
	}
	most := 1
	var spanning []*cell
	for r := range g.rows {
		for i := range g.rows[r].cells {
			c := &g.rows[r].cells[i]
			most = max(most, c.cols)
			switch {
			case c.spanning && c.cols == 1:
				spanning = append(spanning, c)
			case c.cols == 1:
				l.measureCell(g, c)
			}
			if g.long() {
				inAll(c.box, forgetText)
			}
		}
	}
	for _, c := range spanning {
		l.measureCell(g, c)
	}
	for n := 2; n <= most; n++ {
		for r := range g.rows {
			for i := range g.rows[r].cells {
				if c := &g.rows[r].cells[i]; c.cols == n {
					l.spread(g, c)
				}
			}
		}
	}
	sum := 0.0
	for i := range g.columns { // percentages never add up to more than 100
		c := &g.columns[i]
		c.pct = math.Min(c.pct, 100-sum)
		sum += c.pct
	}
}

// measureCell adds what a cell asks for to its column.
func (l *Layout) measureCell(g *tableGrid, c *cell) {
	lo, hi, fixed, pct := l.cellSizes(g, c)
	k := &g.columns[c.col]
	k.min = math.Max(k.min, lo)
	switch {
	case c.spanning: // it asks for room, but the column keeps no width
		if known(fixed) {
			k.max = math.Max(k.max, fixed)
		} else if known(pct) || !k.fixed {
			k.max = math.Max(k.max, hi)
		}
	case known(fixed):
		if !k.fixed {
			k.max = math.Max(fixed, k.min)
		}
		k.max, k.fixed = math.Max(k.max, fixed), true
	case !k.fixed:
		k.max = math.Max(k.max, hi)
	}
	if known(pct) {
		k.pct, k.percent = math.Max(k.pct, pct), true
	}
	k.max = math.Max(k.max, k.min)
}

// spread shares what a spanning cell needs among its columns.
func (l *Layout) spread(g *tableGrid, c *cell) {
	lo, hi, fixed, pct := l.cellSizes(g, c)
	if known(fixed) {
		hi = math.Max(fixed, lo)
	}
	cols := g.columns[c.col : c.col+c.cols]
	if !known(fixed) && !slices.ContainsFunc(cols, func(k column) bool { return !k.fixed || k.percent }) {
		hi = lo // columns of a given width grow for what cannot be narrower only
	}
	gap := g.spacing[0] * float64(c.cols-1)
	sumPct := 0.0
	for i := range cols {
		sumPct += cols[i].pct
	}
	if known(pct) && pct > sumPct {
		sharePercent(cols, pct-sumPct)
	}
	for i, w := range shareWidth(cols, lo-gap) {
		cols[i].min = math.Max(cols[i].min, w)
	}
	for i, w := range shareWidth(cols, math.Max(hi, lo)-gap) {
		cols[i].max = math.Max(cols[i].max, w)
	}
	for i := range cols {
		cols[i].max = math.Max(cols[i].max, cols[i].min)
	}
}

// columnWidths shares the width of a table among its columns
// (CSS Tables 3, §3.9.3).
func (l *Layout) columnWidths(b *box.Box, g *tableGrid, total float64) []float64 {
	n := len(g.columns)
	if n == 0 {
		return nil
	}
	l.tableSizes(b, true) // measures the columns once
	avail := total - g.gaps()
	if inFixedMode(b) {
		return l.fixedColumns(b, g, avail)
	}
	return shareWidth(g.columns, avail)
}

// shareWidth gives columns a width together: between guesses of which each is wider (CSS Tables 3, §3.9.3.1).
func shareWidth(cols []column, avail float64) []float64 {
	// guesses of growing width: min, percentages, fixed, max
	guess := func(level int) []float64 {
		w := make([]float64, len(cols))
		for i, c := range cols {
			w[i] = c.min
			switch {
			case c.percent && level >= 1:
				w[i] = math.Max(c.pct*avail/100, c.min)
			case c.fixed && !c.percent && level >= 2:
				w[i] = c.max
			case !c.percent && !c.fixed && level >= 3:
				w[i] = c.max
			}
		}
		return w
	}
	last := guess(0)
	if sumOf(last) >= avail {
		return last
	}
	for level := 1; level <= 3; level++ {
		next := guess(level)
		a, z := sumOf(last), sumOf(next)
		if z >= avail {
			t := 0.0
			if z > a {
				t = (avail - a) / (z - a)
			}
			for i := range last {
				last[i] += (next[i] - last[i]) * t
			}
			return last
		}
		last = next
	}
	return grow(cols, last, avail-sumOf(last))
}

func sumOf(list []float64) (sum float64) {
	for _, v := range list {
		sum += v
	}
	return sum
}

// grow gives spare width to columns: to those without a width
// first, by their max-content; else to fixed ones; else by percentage.
func grow(cols []column, w []float64, extra float64) []float64 {
	weigh := func(pick func(*column) float64) bool {
		total := 0.0
		for i := range cols {
			total += pick(&cols[i])
		}
		if total <= 0 {
			return false
		}
		for i := range w {
			w[i] += extra * pick(&cols[i]) / total
		}
		return true
	}
	if weigh(func(c *column) float64 {
		if c.percent || c.fixed {
			return 0
		}
		return c.max
	}) || weigh(func(c *column) float64 {
		if c.percent || c.fixed {
			return 0
		}
		return 1
	}) || weigh(func(c *column) float64 {
		if c.percent || !c.fixed {
			return 0
		}
		return c.max
	}) || weigh(func(c *column) float64 { return c.pct }) {
		return w
	}
	weigh(func(*column) float64 { return 1 })
	return w
}

// mixed tells whether a width adds percentages and lengths: columns take it
// for auto (CSS Values 4, §10.11).
func mixed(s style.Size) bool {
	return s.Kind == style.Length && (s.Fn != nil || s.HasPct() && s.Px != 0)
}

// sharePercent gives a spanning cell's percentage to the columns that have none, by their
// max-content.
func sharePercent(cols []column, pct float64) {
	sum, open := 0.0, 0.0
	for i := range cols {
		if !cols[i].percent {
			sum, open = sum+cols[i].max, open+1
		}
	}
	for i := range cols {
		c := &cols[i]
		if c.percent {
			continue
		}
		share := 1 / open
		if sum > 0 {
			share = c.max / sum
		}
		c.pct, c.percent = pct*share, true
	}
}

// fixedColumns follows CSS 2.2, §17.5.2.1.
func (l *Layout) fixedColumns(b *box.Box, g *tableGrid, avail float64) []float64 {
	n := len(g.columns)
	t := &fixedTable{l: l, g: g, avail: avail, w: make([]float64, n), pct: make([]float64, n), set: make([]bool, n)}
	for i, c := range g.columns {
		if c.box != nil {
			t.take(i, c.box.Style.Width, 0, c.box.Style)
		}
		if c.group != nil {
			t.take(i, c.group.Style.Width, 0, c.group.Style)
		}
	}
	if len(g.rows) > 0 {
		for i := range g.rows[0].cells {
			t.takeCell(&g.rows[0].cells[i])
		}
	}
	t.squeeze()
	t.share()
	return t.w
}

// fixedTable is the columns of a table whose widths go by its columns and its first row alone.
type fixedTable struct {
	l      *Layout
	g      *tableGrid
	avail  float64
	w, pct []float64 // of each column: its width in px, and the share that it asks for or 0
	set    []bool    // the width is given
}

// take gives a column the width that a style asks for, with the edges of its box, unless it has one.
func (t *fixedTable) take(i int, s style.Size, extra float64, bs *style.Style) {
	if s.Kind != style.Length || t.set[i] || mixed(s) {
		return
	}
	if s.HasPct() {
		t.w[i], t.pct[i] = borderBox(bs, s.Of(t.avail), extra), s.Pct
	} else {
		t.w[i] = borderBox(bs, s.Px, extra)
	}
	t.set[i] = true
}

// takeCell gives the columns under a cell of the first row what it asks for.
func (t *fixedTable) takeCell(c *cell) {
	s := c.box.Style
	e := t.l.edges(c.box, 0)
	extra := e.padding[style.Left] + e.padding[style.Right] + c.border[style.Left] + c.border[style.Right]
	if c.cols == 1 {
		t.take(c.col, s.Width, extra, s)
		return
	}
	v := s.Width.Resolve(t.avail)
	if !known(v) {
		return
	}
	each := (borderBox(s, v, extra) - t.g.spacing[0]*float64(c.cols-1)) / float64(c.cols)
	for k := c.col; k < c.col+c.cols; k++ {
		if !t.set[k] {
			t.w[k], t.set[k] = math.Max(each, 0), true
		}
	}
}

// squeeze has columns in percent share what those in px leave, where they ask for more together, with their edges.
func (t *fixedTable) squeeze() {
	all, room := 0.0, t.avail
	for i := range t.w {
		if t.pct[i] > 0 {
			all += t.w[i]
		} else {
			room -= t.w[i]
		}
	}
	if all == 0 || all <= room {
		return
	}
	for i := range t.w {
		if t.pct[i] > 0 {
			t.w[i] *= math.Max(room, 0) / all
		}
	}
}

// share gives what is left to the columns without a width; else to those in px, or to all of them, by their widths.
func (t *fixedTable) share() {
	sum, open, inPx := 0.0, 0, 0.0
	for i := range t.w {
		sum += t.w[i]
		if !t.set[i] {
			open++
		} else if t.pct[i] == 0 {
			inPx += t.w[i]
		}
	}
	extra := t.avail - sum
	if extra <= 0 {
		return
	}
	for i := range t.w {
		switch {
		case open > 0:
			if !t.set[i] {
				t.w[i] = extra / float64(open)
			}
		case inPx > 0:
			if t.pct[i] == 0 {
				t.w[i] += extra * t.w[i] / inPx
			}
		case sum > 0:
			t.w[i] += extra * t.w[i] / sum
		default:
			t.w[i] += extra / float64(len(t.w))
		}
	}
}
