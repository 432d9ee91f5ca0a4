package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/style"
)

// edgeGrid holds the collapsed border at each edge between the rows placed
// here and the columns.
type edgeGrid struct {
	rows, cols int
	across     []edgeBorder // (rows+1) × cols: above each row, and below the last
	down       []edgeBorder // rows × (cols+1): before each column, and after the last
}

// reset empties the grid for another part of a table.
func (e *edgeGrid) reset(rows, cols int) {
	empty := func(list []edgeBorder, n int) []edgeBorder {
		list = slices.Grow(list[:0], n)[:n]
		clear(list)
		return list
	}
	e.rows, e.cols, e.across, e.down = rows, cols, empty(e.across, (rows+1)*cols), empty(e.down, rows*(cols+1))
}

func (e *edgeGrid) above(row, col int) *edgeBorder  { return &e.across[row*e.cols+col] }
func (e *edgeGrid) before(row, col int) *edgeBorder { return &e.down[row*(e.cols+1)+col] }

// width is how thick the lines that cross at a corner are, at most.
func (e *edgeGrid) downWidth(row, col int) (w float64) {
	if row > 0 {
		w = e.before(row-1, col).width()
	}
	if row < e.rows {
		w = math.Max(w, e.before(row, col).width())
	}
	return w
}

func (e *edgeGrid) acrossWidth(row, col int) (w float64) {
	if col > 0 {
		w = e.above(row, col-1).width()
	}
	if col < e.cols {
		w = math.Max(w, e.above(row, col).width())
	}
	return w
}

func (e edgeBorder) width() float64 {
	if e.Border == nil {
		return 0
	}
	return e.Width
}

// put sets an edge that no cell has set before.
func put(at *edgeBorder, b edgeBorder) {
	if at.Border == nil {
		*at = b
	}
}

func drawn(b *style.Border) bool {
	return b != nil && b.Style != 0 && b.Style != style.None && b.Style != style.Hidden && b.Width > 0
}

// collapsedEdges notes the collapsed borders as lines of their own; stretches
// that look the same are one line.
func (t *tableRun) collapsedEdges() {
	n := len(t.placed)
	if n == 0 || len(t.widths) == 0 || t.b.Style.Visibility != style.Visible {
		return
	}
	e := &t.g.drawn
	e.reset(n, len(t.widths))
	first, last := inlineSides(t.b)
	body := slices.IndexFunc(t.placed, func(p placedRow) bool { return !t.g.repeats(p.row) })
	each := func(do func(c *cell, row, end, right int)) {
		for i, p := range t.placed {
			if i == body { // cells that began on earlier pages go on beside it
				for _, c := range t.cells {
					if c.row < p.row && c.row+c.rows > p.row {
						do(c, i, min(i+c.row+c.rows-p.row, n), min(c.col+c.cols, e.cols))
					}
				}
			}
			for k := range t.g.rows[p.row].cells {
				c := &t.g.rows[p.row].cells[k]
				do(c, i, min(i+c.rows, n), min(c.col+c.cols, e.cols))
			}
		}
	}
	// along a cell that reaches over several rows or columns its neighbours know better
	for _, several := range []bool{false, true} {
		each(func(c *cell, row, end, right int) {
			if several == (c.cols > 1) {
				for x := c.col; x < right; x++ {
					put(e.above(row, x), c.edges[style.Top])
					put(e.above(end, x), c.edges[style.Bottom])
				}
			}
			if several == (c.rows > 1) {
				for y := row; y < end; y++ {
					put(e.before(y, c.col), c.edges[first])
					put(e.before(y, right), c.edges[last])
				}
			}
		})
	}
	for row := 0; row <= n; row++ {
		for col := 0; col < e.cols; {
			b, from := e.above(row, col), col
			for col++; col < e.cols && e.above(row, col).same(*b); col++ {
			}
			if drawn(b.Border) {
				t.across(e, row, from, col, *b)
			}
		}
	}
	for col := 0; col <= e.cols; col++ {
		for row := 0; row < n; {
			b, from := e.before(row, col), row
			for row++; row < n && e.before(row, col).same(*b); row++ {
			}
			if drawn(b.Border) {
				t.down(e, col, from, row, *b)
			}
		}
	}
}

// across adds a horizontal line; it reaches over half of the lines it ends at.
func (t *tableRun) across(e *edgeGrid, row, from, to int, b edgeBorder) {
	x0, x1 := t.boundary(from), t.boundary(to)
	half0, half1 := e.downWidth(row, from)/2, e.downWidth(row, to)/2
	if x1 < x0 {
		x0, x1, half0, half1 = x1, x0, half1, half0
	}
	d := t.f.draws()
	d.Edges = append(d.Edges, BorderEdge{X: x0 - half0, Y: t.rowLine(row), Len: x1 - x0 + half0 + half1, Width: b.Width, Border: *b.Border, Color: b.color()})
}

func (t *tableRun) down(e *edgeGrid, col, from, to int, b edgeBorder) {
	y0, y1 := t.rowLine(from), t.rowLine(to)
	half0, half1 := e.acrossWidth(from, col)/2, e.acrossWidth(to, col)/2
	d := t.f.draws()
	d.Edges = append(d.Edges, BorderEdge{X: t.boundary(col), Y: y0 - half0, Len: y1 - y0 + half0 + half1, Width: b.Width, Border: *b.Border, Color: b.color(), Vertical: true})
}

// boundary is where the column line before col lies.
func (t *tableRun) boundary(col int) float64 {
	n := len(t.widths)
	rtl := isRTL(t.b)
	switch {
	case col < n && rtl:
		return t.xs[col] + t.widths[col]
	case col < n:
		return t.xs[col]
	case rtl:
		return t.xs[n-1]
	}
	return t.xs[n-1] + t.widths[n-1]
}

// rowLine is where the line above placed row i lies.
func (t *tableRun) rowLine(i int) float64 {
	if i < len(t.placed) {
		return t.placed[i].y
	}
	last := t.placed[len(t.placed)-1]
	return last.y + last.h
}
