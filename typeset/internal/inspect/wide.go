package inspect

import (
	"fmt"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/finding"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/style"
)

// wide tells of what reaches beyond the right edge of the page area.
func (in *inspector) wide() {
	o := overhanging(in.p.Frag, in.p.W)
	if o.by == nil {
		return
	}
	cut := ""
	if o.columns > 0 {
		cut = fmt.Sprintf("; %d of its columns cut or lost", o.columns)
	}
	in.remark(finding.Warning, "content-wide", fmt.Sprintf("%s reaches %.0f px beyond the page area%s", Name(o.by), o.px, cut), "give the table or block -olive-fit: shrink, or the page a larger size or layout width", display.Rect{X: in.p.W, Y: o.y, W: o.px, H: o.h}, o.by)
}

// overhang tells what reaches beyond the right edge of a page area.
type overhang struct {
	px      float64
	by      *box.Box // the outermost box that does; nil when none does
	columns int      // cells of one row that are cut or lost
	y, h    float64  // the place of that box on the page
}

// overhanging measures a page whose area is w wide.
func overhanging(f *layout.Fragment, w float64) (o overhang) {
	cells := map[float64]int{} // by row
	var walk func(f *layout.Fragment, x, y float64)
	walk = func(f *layout.Fragment, x, y float64) {
		if b := f.Box; b != nil && f.Text == nil {
			if b.Style.OverflowX != style.Visible || b.Positioned() || b.Style.Transformed() {
				return
			}
			if d := x + f.W - w; d > 1 && b.Node != nil {
				if d > o.px+0.5 {
					o.px, o.by, o.y, o.h = d, b, y, f.H
				}
				if b.Style.Display.Outer == style.TableCell {
					cells[y]++
					o.columns = max(o.columns, cells[y])
				}
			}
		}
		for _, k := range f.Kids {
			if k.F.Text == nil {
				walk(k.F, x+k.X, y+k.Y)
			}
		}
	}
	walk(f, 0, 0)
	return o
}
