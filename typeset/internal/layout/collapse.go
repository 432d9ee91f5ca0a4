package layout

import (
	"math"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// rank orders border styles in conflicts (CSS 2.2, §17.6.2.1).
func rank(k style.Keyword) int {
	switch k {
	case style.Double:
		return 8
	case style.Solid:
		return 7
	case style.Dashed:
		return 6
	case style.Dotted:
		return 5
	case style.Ridge:
		return 4
	case style.Outset:
		return 3
	case style.Groove:
		return 2
	case style.Inset:
		return 1
	}
	return 0
}

// edgeBorder is a border that takes part in a conflict, and the style that it
// belongs to; later levels (cell, row, group, column, table) lose against
// earlier ones.
type edgeBorder struct {
	*style.Border
	of *style.Style
}

var (
	noBorder   = edgeBorder{Border: &style.Border{Style: style.None}}
	hideBorder = edgeBorder{Border: &style.Border{Style: style.Hidden}}
)

func candidate(b *box.Box, side int) edgeBorder {
	if b == nil {
		return noBorder
	}
	return edgeBorder{&b.Style.Border[side], b.Style}
}

// color is the border's own colour, or that of its box.
func (e edgeBorder) color() style.Color { return e.Color.Or(e.of.Color) }

func (e edgeBorder) same(o edgeBorder) bool {
	if e.Border == o.Border {
		return true
	}
	return e.Border != nil && o.Border != nil && e.of != nil && o.of != nil && e.Width == o.Width && e.Style == o.Style && e.color() == o.color()
}

// contest picks the border that is drawn among those that meet at an edge.
type contest struct {
	best   edgeBorder
	hidden bool
}

func (c *contest) enter(e edgeBorder) {
	switch {
	case e.Style == style.Hidden:
		c.hidden = true
	case e.Style == style.None || e.Style == 0:
	case c.best.Border == nil || e.Width > c.best.Width || e.Width == c.best.Width && rank(e.Style) > rank(c.best.Style):
		c.best = e
	}
}

func (c *contest) winner() edgeBorder {
	switch {
	case c.hidden:
		return hideBorder
	case c.best.Border == nil:
		return noBorder
	}
	return c.best
}

// alike tells whether row y has cells of the same styles as the row above, in the same
// group and each in one row; above and cells are those in each column.
func (g *tableGrid) alike(y int, above, cells []*cell) bool {
	up, row := &g.rows[y-1], &g.rows[y]
	if up.group != row.group || up.box.Style != row.box.Style {
		return false
	}
	for x, c := range cells {
		o := above[x]
		if o == nil || c == nil || o.box.Style != c.box.Style || o.rows != 1 || c.rows != 1 || o.col != c.col || o.cols != c.cols {
			return false
		}
	}
	return len(up.cells) == len(row.cells)
}

// slots are the places of a table, each with the cell that covers it, and the borders that
// meet between them.
type slots struct {
	g          *tableGrid
	t          *box.Box
	w, h       int
	at         []*cell
	start, end int // the sides where the columns begin and end
}

func (g *tableGrid) slots(t *box.Box) *slots {
	s := &slots{g: g, t: t, w: len(g.columns), h: len(g.rows)}
	s.start, s.end = inlineSides(t)
	s.at = make([]*cell, s.w*s.h)
	for r := range g.rows {
		for i := range g.rows[r].cells {
			c := &g.rows[r].cells[i]
			for y := r; y < min(r+c.rows, s.h); y++ {
				for x := c.col; x < c.col+c.cols; x++ {
					if s.at[y*s.w+x] == nil {
						s.at[y*s.w+x] = c
					}
				}
			}
		}
	}
	return s
}

func (s *slots) row(y int) []*cell { return s.at[y*s.w : (y+1)*s.w] }

// cell is the cell at a place, and its box; nil outside the table.
func (s *slots) cell(y, x int) (*cell, *box.Box) {
	if y < 0 || x < 0 || y >= s.h || x >= s.w || s.at[y*s.w+x] == nil {
		return nil, nil
	}
	c := s.at[y*s.w+x]
	return c, c.box
}

// above is the border above row y at column x.
func (s *slots) above(y, x int) edgeBorder {
	g := s.g
	up, upper := s.cell(y-1, x)
	down, lower := s.cell(y, x)
	if up != nil && up == down {
		return noBorder
	}
	var all contest
	all.enter(candidate(upper, style.Bottom))
	all.enter(candidate(lower, style.Top))
	if y > 0 {
		all.enter(candidate(g.rows[y-1].box, style.Bottom))
	}
	if y < s.h {
		all.enter(candidate(g.rows[y].box, style.Top))
	}
	if y > 0 && g.groups[g.rows[y-1].group].end == y {
		all.enter(candidate(g.groups[g.rows[y-1].group].box, style.Bottom))
	}
	if y < s.h && g.groups[g.rows[y].group].first == y {
		all.enter(candidate(g.groups[g.rows[y].group].box, style.Top))
	}
	if side, ok := outer(y, s.h, style.Top, style.Bottom); ok {
		all.enter(candidate(g.columns[x].box, side))
		all.enter(candidate(g.columns[x].group, side))
		all.enter(candidate(s.t, side))
	}
	return all.winner()
}

// before is the border before column x at row y.
func (s *slots) before(y, x int) edgeBorder {
	g := s.g
	last, lastBox := s.cell(y, x-1)
	next, nextBox := s.cell(y, x)
	if last != nil && last == next {
		return noBorder
	}
	side, isOuter := outer(x, s.w, s.start, s.end)
	var all contest
	all.enter(candidate(lastBox, s.end))
	all.enter(candidate(nextBox, s.start))
	if isOuter {
		all.enter(candidate(g.rows[y].box, side))
		all.enter(candidate(g.groups[g.rows[y].group].box, side))
	}
	if x > 0 {
		all.enter(candidate(g.columns[x-1].box, s.end))
	}
	if x < s.w {
		all.enter(candidate(g.columns[x].box, s.start))
	}
	if x > 0 && (x == s.w || g.columns[x-1].group != g.columns[x].group) {
		all.enter(candidate(g.columns[x-1].group, s.end))
	}
	if x < s.w && (x == 0 || g.columns[x-1].group != g.columns[x].group) {
		all.enter(candidate(g.columns[x].group, s.start))
	}
	if isOuter {
		all.enter(candidate(s.t, side))
	}
	return all.winner()
}

// outer is the side of the table that the i-th of n lines between its places lies on.
func outer(i, n, first, last int) (side int, ok bool) {
	if i == n {
		return last, true
	}
	return first, i == 0
}

// around are the borders that win at the sides of a cell.
func (s *slots) around(c *cell) (edges [4]edgeBorder) {
	end, last := min(c.row+c.rows, s.h), c.col+c.cols
	var sides [4]contest
	for x := c.col; x < last; x++ {
		sides[style.Top].enter(s.above(c.row, x))
		sides[style.Bottom].enter(s.above(end, x))
	}
	for y := c.row; y < end; y++ {
		sides[s.start].enter(s.before(y, c.col))
		sides[s.end].enter(s.before(y, last))
	}
	for i := range sides {
		edges[i] = sides[i].winner()
	}
	return edges
}

// resolveBorders finds the collapsed border of every cell edge. Half of a
// border lies in each of the two cells.
func (g *tableGrid) resolveBorders(t *box.Box) {
	s := g.slots(t)
	alike := make([]bool, s.h+1) // rows that look like the one above
	for y := 1; y < s.h; y++ {
		alike[y] = g.alike(y, s.row(y-1), s.row(y))
	}
	known := map[[4]edgeBorder]*cellBorders{}
	for r := range g.rows {
		if r > 1 && alike[r-1] && alike[r] && alike[r+1] { // what meets there is the same
			for i := range g.rows[r].cells {
				g.rows[r].cells[i].cellBorders = g.rows[r-1].cells[i].cellBorders
			}
			continue
		}
		for i := range g.rows[r].cells {
			c := &g.rows[r].cells[i]
			edges := s.around(c)
			if known[edges] == nil {
				known[edges] = &cellBorders{edges: edges}
				for k := range edges {
					known[edges].border[k] = edges[k].Width / 2
				}
			}
			c.cellBorders = known[edges]
		}
	}
	if s.h == 0 || s.w == 0 {
		return
	}
	for x := range s.w {
		g.edge[style.Top] = math.Max(g.edge[style.Top], s.above(0, x).Width/2)
		g.edge[style.Bottom] = math.Max(g.edge[style.Bottom], s.above(s.h, x).Width/2)
	}
	for y := range s.h {
		g.edge[s.start] = math.Max(g.edge[s.start], s.before(y, 0).Width/2)
		g.edge[s.end] = math.Max(g.edge[s.end], s.before(y, s.w).Width/2)
	}
}
