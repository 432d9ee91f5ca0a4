package layout

import (
	"slices"

	"github.com/shopspring/decimal"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// tableGrid is the structure of a table (CSS Tables 3, §4).
type tableGrid struct {
	captions   []*box.Box
	groups     []rowGroup
	rows       []tableRow
	columns    []column
	head, foot int // index into groups, -1 for none
	collapse   bool
	spacing    [2]float64
	edge       [4]float64 // half of the outer collapsed borders
	styles     map[cellLook]*style.Style
	sums       map[string][]decimal.Decimal      // what rows add to running sums
	drawn      edgeGrid                          // memory for the collapsed borders of a part
	edges      struct{ last, free []BorderEdge } // of the part set last, and memory of one that is written
	part       partSize                          // of the part set last
	released   int                               // rows before it, but for the head's, have been forgotten
	measured   bool                              // the columns know what they need
	written    int                               // rows before it, but for those of head and foot, stand on pages that are written
}

// bordered names the variant of a cell's style with these border widths.
type bordered [4]float64

// cellLook is what makes the styles of two cells differ.
type cellLook struct {
	style  *style.Style
	border [4]float64
}

type rowGroup struct {
	box        *box.Box
	first, end int      // rows
	gone       *box.Box // what stands for rows that are let go
	kept       int      // how many children of the box have been looked through for them
}

type tableRow struct {
	box   *box.Box
	group int
	cells []cell

	room []cellRoom // of its plain cells on a page
}

type cell struct {
	box        *box.Box
	row, col   int
	rows, cols int
	spanning   bool // over columns that have been merged into one
	*cellBorders
	laid *box.Box // the box with the borders that the table gives it
}

// cellBorders are the borders of cells that look the same.
type cellBorders struct {
	border [4]float64 // used widths
	edges  [4]edgeBorder
}

type column struct {
	box, group *box.Box
	min, max   float64
	pct        float64
	percent    bool // it has a width in percent, pct, which may be 0
	fixed      bool
	collapsed  bool
}

// grid works out rows, columns and spans; it is done once for each table.
func (l *Layout) gridOf(b *box.Box) *tableGrid {
	m := l.memo(b)
	if m.table != nil {
		return m.table
	}
	g := &tableGrid{head: -1, foot: -1, collapse: b.Style.BorderCollapse == style.CollapseSpace}
	if !g.collapse {
		g.spacing = b.Style.BorderSpacing
	}
	m.table = g
	var heads, bodies, feet []*box.Box
	for _, c := range b.Children {
		switch c.Style.Display.Outer {
		case style.TableCaption:
			g.captions = append(g.captions, c)
		case style.TableColumn:
			g.addColumn(c, nil)
		case style.TableColumnGroup:
			g.addColumnGroup(c)
		case style.TableHeaderGroup:
			if len(heads) == 0 {
				heads = append(heads, c)
			} else {
				bodies = append(bodies, c)
			}
		case style.TableFooterGroup:
			if len(feet) == 0 {
				feet = append(feet, c)
			} else {
				bodies = append(bodies, c)
			}
		default:
			bodies = append(bodies, c)
		}
	}
	for _, grp := range append(append(heads, bodies...), feet...) {
		first := len(g.rows)
		g.rows = slices.Grow(g.rows, len(grp.Children))
		for _, r := range grp.Children {
			if r.Style.Display.Outer == style.TableRow {
				g.rows = append(g.rows, tableRow{box: r, group: len(g.groups)})
			}
		}
		g.groups = append(g.groups, rowGroup{box: grp, first: first, end: len(g.rows)})
		g.placeCells(first, len(g.rows))
	}
	if !inFixedMode(b) {
		g.mergeColumns()
	}
	if len(heads) > 0 {
		g.head = 0
	}
	if len(feet) > 0 {
		g.foot = len(g.groups) - 1
	}
	for i := range g.columns {
		c := &g.columns[i]
		for _, x := range []*box.Box{c.box, c.group} {
			if x != nil && x.Style.Visibility == style.CollapseSpace {
				c.collapsed = true
			}
		}
	}
	if len(g.columns) == 0 {
		g.spacing = [2]float64{}
	}
	if g.collapse {
		g.resolveBorders(b)
	} else {
		g.ownBorders()
	}
	return g
}

// ownBorders gives cells the borders of their own styles.
func (g *tableGrid) ownBorders() {
	known := map[*style.Style]*cellBorders{}
	for r := range g.rows {
		for i := range g.rows[r].cells {
			c := &g.rows[r].cells[i]
			s := c.box.Style
			if known[s] == nil {
				known[s] = &cellBorders{}
				for side := range 4 {
					known[s].border[side] = s.Border[side].Width
				}
			}
			c.cellBorders = known[s]
		}
	}
}

// repeats tells whether a row belongs to the head or the foot, which stand on every page of a table.
func (g *tableGrid) repeats(row int) bool {
	group := g.rows[row].group
	return group == g.head || group == g.foot
}

func (g *tableGrid) addColumn(c, group *box.Box) {
	for range max(c.ColSpan, 1) {
		g.columns = append(g.columns, column{box: c, group: group})
	}
}

func (g *tableGrid) addColumnGroup(c *box.Box) {
	n := 0
	for _, k := range c.Children {
		if k.Style.Display.Outer == style.TableColumn {
			g.addColumn(k, c)
			n++
		}
	}
	if n == 0 {
		for range max(c.ColSpan, 1) {
			g.columns = append(g.columns, column{group: c})
		}
	}
}

// placeCells gives the cells of a row group their slots (HTML, §4.9.12).
func (g *tableGrid) placeCells(first, end int) {
	var busy []int // for each column, the rows from here that are taken
	for r := first; r < end; r++ {
		row := &g.rows[r]
		row.cells = make([]cell, 0, len(row.box.Children))
		col := 0
		for _, k := range row.box.Children {
			if k.Style.Display.Outer != style.TableCell {
				continue
			}
			for col < len(busy) && busy[col] > r {
				col++
			}
			c := cell{box: k, row: r, col: col, rows: int(k.RowSpan), cols: int(max(k.ColSpan, 1))}
			if c.rows < 0 || r+c.rows > end { // rowspan=0 reaches to the group's end
				c.rows = end - r
			}
			c.rows = max(c.rows, 1)
			for len(busy) < col+c.cols {
				busy = append(busy, 0)
			}
			for i := col; i < col+c.cols; i++ {
				busy[i] = max(busy[i], r+c.rows)
			}
			for len(g.columns) < col+c.cols {
				g.columns = append(g.columns, column{})
			}
			row.cells = append(row.cells, c)
			col += c.cols
		}
	}
}

// mergeColumns joins columns in which no cell begins to those before them: only cells
// that span both are in them (CSS Tables 3, §3.4). A colspan larger than there are
// columns adds none, nor does an element that asks for no width.
func (g *tableGrid) mergeColumns() {
	begun := make([]bool, len(g.columns))
	for r := range g.rows {
		for i := range g.rows[r].cells {
			begun[g.rows[r].cells[i].col] = true
		}
	}
	places := make([]int, len(g.columns)+1) // of the columns that are kept, by the old ones
	kept := g.columns[:0]
	for i, c := range g.columns {
		if begun[i] || c.asksWidth() || i == 0 {
			kept = append(kept, c)
		}
		places[i+1] = len(kept)
	}
	if len(kept) == len(begun) {
		return
	}
	g.columns = kept
	for r := range g.rows {
		for i := range g.rows[r].cells {
			c := &g.rows[r].cells[i]
			end := places[c.col+c.cols]
			c.col = places[c.col+1] - 1
			c.spanning = c.cols > 1
			c.cols = end - c.col
		}
	}
}

func (c *column) asksWidth() bool {
	return c.box != nil && !c.box.Style.Width.IsAuto() || c.group != nil && !c.group.Style.Width.IsAuto()
}
