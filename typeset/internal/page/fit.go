package page

import (
	"fmt"
	"math"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/finding"
	"oliveledger/typeset/internal/inspect"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// mostFits bounds how often a page is set again so that the sheet cuts no words.
const mostFits = 12

// fitting sets a page and, while the sheet's right edge, at limit px of the page area, cuts
// words, again with a box that holds them scaled down to its width, where styles leave
// that open (our property -olive-fit; docs/css.md): the one that stays largest, of those the
// innermost. It returns the boxes scaled.
func (st *Setter) fitting(limit float64, set func() *layout.Fragment) (frag *layout.Fragment, scaled []*box.Box) {
	frag = set()
	for tries := 0; frag != nil && tries < mostFits; {
		best := fittingBox{}
		for _, b := range cutBy(frag, limit, nil).candidates() {
			wider := 1.0
			for range 2 {
				tries++
				st.Layout.Fit(b, wider)
				f := set()
				if f == nil {
					break
				}
				cut := cutBy(f, limit, b.Node)
				if k := st.Layout.Fitted(b); cut.px == 0 && k > best.scale+0.02 {
					best = fittingBox{b, wider, k}
				}
				if cut.px == 0 || cut.wider <= 1 {
					break
				}
				wider = cut.wider * 1.001
			}
			st.Layout.Unfit(b)
		}
		if best.b != nil {
			st.Layout.Fit(best.b, best.wider)
			scaled = append(scaled, best.b)
		}
		if tries > 0 {
			frag = set()
		}
		if best.b == nil {
			break
		}
	}
	return frag, scaled
}

// fittingBox is a box that is scaled down.
type fittingBox struct {
	b            *box.Box
	wider, scale float64
}

// cutWords tells which words a sheet's edge cuts.
type cutWords struct {
	px    float64            // by which the text reaches beyond it, all together
	path  []*layout.Fragment // from the page to the first such text
	wider float64            // how many times as wide as up to the edge the element looked at is
}

// cutBy finds the text of a page, or of one element on it, that reaches beyond limit. What
// is clipped, positioned or transformed may be off the sheet on purpose; columns beside
// their box are no smaller for a smaller box. What stands beyond it in a box that goes on
// counts as well: the words may come on a later page.
func cutBy(page *layout.Fragment, limit float64, of *markup.Node) (cut cutWords) {
	var path []*layout.Fragment
	left := 0.0 // of the element
	note := func(px, right float64, counts bool) {
		if !counts {
			return
		}
		cut.px += px
		if limit > left {
			cut.wider = math.Max(cut.wider, (right-left)/(limit-left))
		}
		if cut.path == nil {
			cut.path = append(cut.path, path...)
		}
	}
	var walk func(f *layout.Fragment, x, scale float64, counts bool)
	walk = func(f *layout.Fragment, x, scale float64, counts bool) {
		w := f.W * scale
		if over := x + w - limit; f.Text != nil {
			if over > 1 {
				note(math.Min(over, w), x+w, counts)
			}
			return
		}
		if b := f.Box; b != nil {
			if !counts && b.Node == of {
				counts, left = true, x
			}
			switch {
			case b.Style.Transformed() && len(path) > 0 && path[len(path)-1].Fits(f):
				scale *= path[len(path)-1].W / f.W
			case b.Style.OverflowX != style.Visible || b.Positioned() || b.Style.Transformed() || b.Style.Visibility != style.Visible || b.Style.Multicol() && x+w <= limit:
				return
			}
		}
		path = append(path, f)
		for _, k := range f.Kids {
			if at := x + k.X*scale; at+k.F.W*scale > limit+1 && k.F.Text == nil && f.Box != nil && !f.Fits(k.F) && (k.F.Cut || f.Cut && sharesWidth(f.Box.Style)) {
				path = append(path, k.F)
				note(at+k.F.W*scale-limit, at+k.F.W*scale, counts)
				path = path[:len(path)-1]
			}
			walk(k.F, x+k.X*scale, scale, counts)
		}
		path = path[:len(path)-1]
	}
	walk(page, 0, 1, of == nil)
	return cut
}

// sharesWidth tells whether a container gives its children widths that hold on all pages.
func sharesWidth(s *style.Style) bool {
	in := s.Display.Inner
	return in == style.Flex || in == style.Grid || in == style.Table
}

// candidates lists the boxes around the first cut text, from the innermost on, that begin on
// this page and take their width from a block around them: scaled down they fit there.
func (c cutWords) candidates() (list []*box.Box) {
	for i := len(c.path) - 1; i > 0; i-- {
		b, around := c.path[i].Box, c.path[i-1].Box
		if b == nil || b.Node == nil || b.Anon || b.Kind != box.Element || c.path[i].Continued || b.Style.Fit != 0 || !b.IsBlockLevel() || b.Turned() || c.path[i-1].Fits(c.path[i]) {
			continue
		}
		if around == nil || around.Node == nil || around.Node.Name == "html" || around.Style.Display.Inner != style.Flow && around.Style.Display.Inner != style.FlowRoot {
			continue
		}
		list = append(list, b)
	}
	return list
}

// tellFits tells of the boxes that are scaled down on page n, whose area is given.
func (st *Setter) tellFits(scaled []*box.Box, n int, area display.Rect) {
	if st.Remark == nil {
		return
	}
	for _, b := range scaled {
		if k := st.Layout.Fitted(b); k < 0.999 {
			st.Remark(n, inspect.Remark{Code: "content-fitted", Severity: finding.Note, Message: fmt.Sprintf("%s is set at %.0f %%: the sheet’s edge would cut it", inspect.Name(b), k*100), Advice: "give the page a larger size, or the box -olive-fit: none to have it cut", Rect: area, Node: b.Node})
		}
	}
}
