package layout

import (
	"cmp"
	"math"
	"slices"

	"oliveledger/typeset/internal/style"
)

// spanShares gives the least heights of rows that cells over several rows ask
// for: what such a cell needs beyond its rows is shared among those of auto
// height by their own heights, the cells over fewer rows first (CSS Tables 3,
// §3.10). It is nil in tables without such cells.
func (t *tableRun) spanShares() map[int]float64 {
	var spans []*cell
	for r := range t.g.rows {
		for i := range t.g.rows[r].cells {
			if c := &t.g.rows[r].cells[i]; c.rows > 1 {
				spans = append(spans, c)
			}
		}
	}
	if len(spans) == 0 {
		return nil
	}
	slices.SortStableFunc(spans, func(a, b *cell) int { return cmp.Compare(a.rows, b.rows) })
	own := map[int]float64{}
	for _, c := range spans {
		_, w := t.cellBox(c)
		need := t.cellHeight(c)
		if frag, _ := t.layCell(c, w, inf, nil, nil); frag != nil {
			need = max(need, frag.H)
		}
		last := min(c.row+c.rows, len(t.g.rows))
		need -= t.g.spacing[1] * float64(last-c.row-1)
		var grows []int
		open := 0.0 // height of the rows that may grow
		for r := c.row; r < last; r++ {
			if _, ok := own[r]; !ok {
				own[r] = t.ownHeight(r)
			}
			need -= own[r]
			if own[r] > 0 && t.g.rows[r].box.Style.Height.IsAuto() {
				grows, open = append(grows, r), open+own[r]
			}
		}
		switch {
		case need <= 0:
		case open == 0:
			own[last-1] += need
		default:
			for _, r := range grows {
				own[r] += need * own[r] / open
			}
		}
	}
	return own
}

// ownHeight is the height of a row without the cells that reach over others.
func (t *tableRun) ownHeight(r int) float64 {
	row := &t.g.rows[r]
	if row.box.Style.Visibility == style.CollapseSpace || !t.shown(r) {
		return 0
	}
	try := &tableRun{l: t.l, b: t.b, g: t.g, f: &Fragment{Box: t.b}, sp: t.sp, widths: t.widths, xs: t.xs, limit: inf, spans: map[*cell]*spanned{}, alone: true}
	h, _ := try.row(r, nil, inf)
	return h
}

// spanned is a cell that reaches over several rows.
type spanned struct {
	frag *Fragment
	y    float64
	need float64
	rest *Break
}

// besideCut tells whether a row stands beside a cell over several rows that a page's
// end cuts: the heights that the whole cell gave to its rows hold no longer.
func (t *tableRun) besideCut(r int) bool {
	for c, s := range t.spans {
		if c.row <= r && c.row+c.rows > r && (s.rest != nil || s.frag.Continued) {
			return true
		}
	}
	return false
}

// carry goes on with a cell that began on an earlier page.
func (t *tableRun) carry(c *cell, p *Part) {
	x, w := t.cellBox(c)
	f := &Fragment{Box: c.box, W: w, Baseline: Indefinite, LastBaseline: Indefinite, Continued: true}
	s := &spanned{frag: f, y: t.y}
	if !p.Done {
		sp := t.cellSpace(c, w)
		sp.BlockLeft = math.Max(t.limit-t.y, 1)
		sp.AtTop = true
		frag, rest := t.l.cell(t.g, c, sp, p.At, nil)
		if frag != nil {
			s.frag, s.rest = frag, rest
		}
	} else {
		f.Border = c.border
		f.Border[style.Top] = 0
	}
	s.need = s.frag.H
	t.spans[c] = s
	t.f.add(s.frag, x, t.y, 0, 0)
	t.cells = append(t.cells, c)
}

// closeSpan gives a spanning cell its height.
func (t *tableRun) closeSpan(c *cell, s *spanned, h float64) {
	delete(t.spans, c)
	for i := range t.f.Kids {
		if t.f.Kids[i].F == s.frag {
			t.f.Kids[i].F = t.alignCell(c, s.frag, h, 0, s.rest != nil)
			return
		}
	}
}

// finishSpans closes the cells that reach below the last row set here.
func (t *tableRun) finishSpans() {
	for c, s := range t.spans {
		end := t.y
		if n := len(t.placed); n > 0 {
			end = t.placed[n-1].y + t.placed[n-1].h
		}
		if s.rest != nil {
			end = math.Max(end, s.y+s.frag.H)
		}
		t.closeSpan(c, s, math.Max(end-s.y, 0))
	}
}
