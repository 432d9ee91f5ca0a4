package layout

import (
	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// slack is the part of a page's height by which a picture may hang out of it
// before it is cut.
const slack = 0.02

// Slices lists the pictures in flow that reach below a page area of height h,
// with their places on the page that follows: a picture cannot be broken but is
// cut where the page ends (CSS Break 4, §4.4). Words that stand below the end,
// beside such a picture, move there.
func Slices(page *Fragment, h float64) (list []Kid) {
	var walk func(f *Fragment, x, y float64)
	walk = func(f *Fragment, x, y float64) {
		var kept []Kid // when some are dropped
		dropped := false
		for i, k := range f.Kids {
			kx, ky := x+k.X, y+k.Y
			if k.F.Text != nil && ky >= h-0.5 {
				if !dropped {
					kept, dropped = append(kept, f.Kids[:i]...), true
				}
				line := &Fragment{Line: true, W: k.F.W, H: k.F.H, Kids: []Kid{{F: k.F}}}
				list = append(list, Kid{kx, ky - h, &Fragment{W: k.F.W, H: k.F.H, Kids: []Kid{{F: line}}}})
				continue
			}
			if dropped {
				kept = append(kept, k)
			}
			if k.F.Picture && ky < h && ky+k.F.H > h*(1+slack) {
				list = append(list, Kid{kx, ky - h, k.F})
				continue
			}
			b := k.F.Box
			if k.F.Text != nil || b != nil && b.Kind != box.Text && (b.Positioned() || clips(b.Style) || b.Style.Transformed() || b.Style.Position == style.Relative) {
				continue
			}
			walk(k.F, kx, ky)
		}
		if dropped {
			f.Kids = kept
		}
	}
	walk(page, 0, 0)
	return list
}

// SlicesEnd is how far down pictures from the page before reach.
func SlicesEnd(list []Kid) (y float64) {
	for _, k := range list {
		y = max(y, k.Y+k.F.H)
	}
	return y
}
