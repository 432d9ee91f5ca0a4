package layout

import (
	"math"

	"oliveledger/typeset/internal/style"
)

// captionBreak says which caption on a side of a table is to go on with; after
// the last one at the top comes the grid.
type captionBreak struct {
	side  style.Keyword
	index int
	at    *Break
}

// captioned sets a table with captions: they make a box around the grid
// (CSS 2.2, §17.4), in which the captions at the top, the grid and the captions
// at the bottom follow each other.
func (t *tableRun) captioned(e edges, start int, cut *tableBreak, from *Break) (*Fragment, *Break) {
	outer := &Fragment{Box: t.b, W: t.f.W, Baseline: Indefinite, LastBaseline: Indefinite, Hide: true, Continued: from != nil}
	var at *captionBreak
	if from != nil && from.table != nil {
		at = from.table.caption
	}
	if from == nil || at != nil && at.side == style.TopSide {
		if rest, ok := t.captions(outer, style.TopSide, at); rest != nil || !ok {
			return t.cutCaptioned(outer, rest, ok)
		}
	}
	if at == nil || at.side == style.TopSide {
		above := outer.H
		var grid *Fragment
		var rest *Break
		if known(t.sp.FixedH) && t.b.Style.Height.IsAuto() { // stretched with its captions
			below := &Fragment{W: t.f.W}
			whole := *t
			whole.sp = t.sp.uncut()
			whole.captions(below, style.BottomSide, nil)
			t.sp.FixedH = math.Max(t.sp.FixedH-above-below.H, 0)
		}
		if !t.sp.cutting() || exceeds(t.sp.BlockLeft, above) {
			grid, rest = t.body(e, start, cut, above)
		}
		switch {
		case grid == nil && above > 0 && (t.sp.AtTop || at != nil): // a caption that leaves no room stands alone
			outer.Cut, outer.H = true, math.Max(t.sp.BlockLeft, above)
			return outer, &Break{table: &tableBreak{caption: &captionBreak{side: style.TopSide, index: len(t.g.captions)}}}
		case grid == nil:
			return nil, nil
		}
		outer.add(grid, 0, above, 0, 0)
		outer.H += grid.H
		if known(grid.Baseline) {
			outer.Baseline = above + grid.Baseline
			outer.LastBaseline = outer.Baseline
		}
		if rest != nil {
			return outer, rest
		}
		at = nil
	}
	if rest, ok := t.captions(outer, style.BottomSide, at); rest != nil || !ok {
		return t.cutCaptioned(outer, rest, ok)
	}
	return outer, nil
}

// cutCaptioned ends a part of a table in its captions.
func (t *tableRun) cutCaptioned(outer *Fragment, rest *captionBreak, ok bool) (*Fragment, *Break) {
	if !ok {
		return nil, nil
	}
	outer.Cut, outer.H = true, math.Max(outer.H, t.sp.BlockLeft)
	cut := &Break{table: &tableBreak{caption: rest}}
	if rest.at != nil {
		cut.Penalty = rest.at.Penalty
	}
	cut.rule(avoids(t.b.Style.BreakInside, t.sp.Column))
	return outer, cut
}

// captions sets the captions of one side below what f holds, from a break on.
// It returns the next break, or not ok when nothing fits.
func (t *tableRun) captions(f *Fragment, side style.Keyword, at *captionBreak) (rest *captionBreak, ok bool) {
	for i, c := range t.g.captions {
		if c.Style.CaptionSide != side || at != nil && i < at.index {
			continue
		}
		var begun *Break
		if at != nil && i == at.index {
			begun = at.at
		}
		e := t.l.edges(c, t.f.W)
		above := e.margin[style.Top]
		if begun != nil {
			above = 0
		}
		sp := newSpace(t.f.W, Indefinite)
		if t.sp.cutting() {
			sp.BlockLeft, sp.Page, sp.Column = t.sp.BlockLeft-f.H-above, t.sp.Page, t.sp.Column
			sp.AtTop = t.sp.AtTop && f.H == 0
		}
		frag, more := t.l.Lay(c, sp, begun)
		if frag == nil && sp.AtTop {
			frag, more = t.l.Lay(c, sp.uncut(), begun)
		}
		if frag == nil || sp.cutting() && more == nil && exceeds(frag.H, sp.BlockLeft) && f.H > 0 {
			return &captionBreak{side, i, begun}, f.H > 0
		}
		dx, dy := relative(c, f.W, Indefinite, isRTL(t.b))
		x := e.margin[style.Left]
		x += autoMargin(t.b, c, &e, f.W-frag.W-x-e.margin[style.Right])
		f.add(frag, x, f.H+above, dx, dy)
		f.H += above + frag.H
		if more != nil {
			return &captionBreak{side, i, more}, true
		}
		f.H += e.margin[style.Bottom]
	}
	return nil, true
}
