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

// resolveBorders finds the collapsed border of every cell edge. Half of a
// border lies in each of the two cells.
func (g *tableGrid) resolveBorders(t *box.Box) {
	nr, nc := len(g.rows), len(g.columns)
	at := make([]*cell, nr*nc)
	for r := range g.rows {
		for i := range g.rows[r].cells {
			c := &g.rows[r].cells[i]
			for y := r; y < min(r+c.rows, nr); y++ {
				for x := c.col; x < c.col+c.cols; x++ {
					if at[y*nc+x] == nil {
						at[y*nc+x] = c
					}
				}
			}
		}
	}
	alike := make([]bool, nr+1) // rows that look like the one above
	for y := 1; y < nr; y++ {
		alike[y] = g.alike(y, at[(y-1)*nc:y*nc], at[y*nc:(y+1)*nc])
	}
	get := func(y, x int) *cell {
		if y < 0 || x < 0 || y >= nr || x >= nc {
			return nil
		}
		return at[y*nc+x]
	}
	boxOf := func(c *cell) *box.Box {
		if c == nil {
			return nil
		}
		return c.box
	}
	// horizontal edge above row y at column x
	horizontal := func(y, x int) edgeBorder {
		up, down := get(y-1, x), get(y, x)
		if up != nil && up == down {
			return noBorder
		}
		var all contest
		all.enter(candidate(boxOf(up), style.Bottom))
		all.enter(candidate(boxOf(down), style.Top))
		if y > 0 {
			all.enter(candidate(g.rows[y-1].box, style.Bottom))
		}
		if y < nr {
			all.enter(candidate(g.rows[y].box, style.Top))
		}
		if y > 0 && g.groups[g.rows[y-1].group].end == y {
			all.enter(candidate(g.groups[g.rows[y-1].group].box, style.Bottom))
		}
		if y < nr && g.groups[g.rows[y].group].first == y {
			all.enter(candidate(g.groups[g.rows[y].group].box, style.Top))
		}
		if y == 0 || y == nr {
			side := style.Top
			if y == nr {
				side = style.Bottom
			}
			all.enter(candidate(g.columns[x].box, side))
			all.enter(candidate(g.columns[x].group, side))
			all.enter(candidate(t, side))
		}
		return all.winner()
	}
	vertical := func(y, x int) edgeBorder {
		left, right := get(y, x-1), get(y, x)
		if left != nil && left == right {
			return noBorder
		}
		var all contest
		all.enter(candidate(boxOf(left), style.Right))
		all.enter(candidate(boxOf(right), style.Left))
		if x == 0 || x == nc {
			side := style.Left
			if x == nc {
				side = style.Right
			}
			all.enter(candidate(g.rows[y].box, side))
			all.enter(candidate(g.groups[g.rows[y].group].box, side))
		}
		if x > 0 {
			all.enter(candidate(g.columns[x-1].box, style.Right))
		}
		if x < nc {
			all.enter(candidate(g.columns[x].box, style.Left))
		}
		if x > 0 && (x == nc || g.columns[x-1].group != g.columns[min(x, nc-1)].group) {
			all.enter(candidate(g.columns[x-1].group, style.Right))
		}
		if x < nc && (x == 0 || g.columns[x-1].group != g.columns[x].group) {
			all.enter(candidate(g.columns[x].group, style.Left))
		}
		if x == 0 || x == nc {
			side := style.Left
			if x == nc {
				side = style.Right
			}
			all.enter(candidate(t, side))
		}
		return all.winner()
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
			end, right := min(c.row+c.rows, nr), c.col+c.cols
			var sides [4]contest
			for x := c.col; x < right; x++ {
				sides[style.Top].enter(horizontal(c.row, x))
				sides[style.Bottom].enter(horizontal(end, x))
			}
			for y := c.row; y < end; y++ {
				sides[style.Left].enter(vertical(y, c.col))
				sides[style.Right].enter(vertical(y, right))
			}
			var edges [4]edgeBorder
			for s := range sides {
				edges[s] = sides[s].winner()
			}
			if known[edges] == nil {
				known[edges] = &cellBorders{edges: edges}
				for s := range edges {
					known[edges].border[s] = edges[s].Width / 2
				}
			}
			c.cellBorders = known[edges]
		}
	}
	if nr == 0 || nc == 0 {
		return
	}
	for x := range nc {
		g.edge[style.Top] = math.Max(g.edge[style.Top], horizontal(0, x).Width/2)
		g.edge[style.Bottom] = math.Max(g.edge[style.Bottom], horizontal(nr, x).Width/2)
	}
	for y := range nr {
		g.edge[style.Left] = math.Max(g.edge[style.Left], vertical(y, 0).Width/2)
		g.edge[style.Right] = math.Max(g.edge[style.Right], vertical(y, nc).Width/2)
	}
}
