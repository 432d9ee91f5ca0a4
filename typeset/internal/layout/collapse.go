package layout

import (
	"math"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// rank orders border styles in conflicts (CSS 2.2, §17.6.2.1).
var rank = map[style.Keyword]int{style.Double: 8, style.Solid: 7, style.Dashed: 6, style.Dotted: 5, style.Ridge: 4, style.Outset: 3, style.Groove: 2, style.Inset: 1}

// edgeBorder is a border that takes part in a conflict; later levels (cell,
// row, group, column, table) lose against earlier ones.
type edgeBorder struct {
	style.Border
	color style.Color
}

func candidate(b *box.Box, side int) edgeBorder {
	if b == nil {
		return edgeBorder{Border: style.Border{Style: style.None}}
	}
	br := b.Style.Border[side]
	return edgeBorder{br, br.Color.Or(b.Style.Color)}
}

// wins picks the border that is drawn.
func wins(list ...edgeBorder) edgeBorder {
	best := edgeBorder{Border: style.Border{Style: style.None}}
	for _, c := range list {
		if c.Style == style.Hidden {
			return edgeBorder{Border: style.Border{Style: style.Hidden}}
		}
		if c.Style == style.None || c.Style == 0 {
			continue
		}
		if best.Style == style.None || c.Width > best.Width || c.Width == best.Width && rank[c.Style] > rank[best.Style] {
			best = c
		}
	}
	if best.Style == style.None {
		best.Width = 0
	}
	return best
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
			return edgeBorder{Border: style.Border{Style: style.None}}
		}
		list := []edgeBorder{candidate(boxOf(up), style.Bottom), candidate(boxOf(down), style.Top)}
		if y > 0 {
			list = append(list, candidate(g.rows[y-1].box, style.Bottom))
		}
		if y < nr {
			list = append(list, candidate(g.rows[y].box, style.Top))
		}
		if y > 0 && g.groups[g.rows[y-1].group].end == y {
			list = append(list, candidate(g.groups[g.rows[y-1].group].box, style.Bottom))
		}
		if y < nr && g.groups[g.rows[y].group].first == y {
			list = append(list, candidate(g.groups[g.rows[y].group].box, style.Top))
		}
		if y == 0 || y == nr {
			side := style.Top
			if y == nr {
				side = style.Bottom
			}
			list = append(list, candidate(g.columns[x].box, side), candidate(g.columns[x].group, side), candidate(t, side))
		}
		return wins(list...)
	}
	vertical := func(y, x int) edgeBorder {
		left, right := get(y, x-1), get(y, x)
		if left != nil && left == right {
			return edgeBorder{Border: style.Border{Style: style.None}}
		}
		list := []edgeBorder{candidate(boxOf(left), style.Right), candidate(boxOf(right), style.Left)}
		if x == 0 || x == nc {
			side := style.Left
			if x == nc {
				side = style.Right
			}
			list = append(list, candidate(g.rows[y].box, side), candidate(g.groups[g.rows[y].group].box, side))
		}
		if x > 0 {
			list = append(list, candidate(g.columns[x-1].box, style.Right))
		}
		if x < nc {
			list = append(list, candidate(g.columns[x].box, style.Left))
		}
		if x > 0 && (x == nc || g.columns[x-1].group != g.columns[min(x, nc-1)].group) {
			list = append(list, candidate(g.columns[x-1].group, style.Right))
		}
		if x < nc && (x == 0 || g.columns[x-1].group != g.columns[x].group) {
			list = append(list, candidate(g.columns[x].group, style.Left))
		}
		if x == 0 || x == nc {
			side := style.Left
			if x == nc {
				side = style.Right
			}
			list = append(list, candidate(t, side))
		}
		return wins(list...)
	}
	for r := range g.rows {
		for i := range g.rows[r].cells {
			c := &g.rows[r].cells[i]
			end, right := min(c.row+c.rows, nr), c.col+c.cols
			var top, bottom, left, rgt []edgeBorder
			for x := c.col; x < right; x++ {
				top, bottom = append(top, horizontal(c.row, x)), append(bottom, horizontal(end, x))
			}
			for y := c.row; y < end; y++ {
				left, rgt = append(left, vertical(y, c.col)), append(rgt, vertical(y, right))
			}
			for s, list := range [4][]edgeBorder{top, rgt, bottom, left} {
				w := wins(list...)
				w.Border.Color = w.color
				c.edges[s] = w.Border
				c.border[s] = w.Width / 2
			}
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
