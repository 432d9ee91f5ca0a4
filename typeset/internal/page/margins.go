package page

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/finding"
	"oliveledger/typeset/internal/inspect"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/paint"
	"oliveledger/typeset/internal/style"
)

// marginBox is one of the sixteen boxes while it is set.
type marginBox struct {
	name        string
	s           *style.Style // what is said of its sizes
	b           *box.Box     // laid out without them
	lo, hi      float64      // px that its contents take at least and at most along the side, with its edges
	least, most float64      // px that it may take there, from its min- and max- properties
	at          display.Rect // the part of the margin that it has
	base        float64      // width of its containing block, which percentages count from (§5.3)
}

// alignment of each margin box's contents (CSS Page 3, §5.3.1).
func alignment(name string) (text, vertical style.Keyword) {
	text, vertical = style.Center, style.Middle
	switch name {
	case "top-left", "bottom-left":
		text = style.LeftSide
	case "top-right", "bottom-right":
		text = style.RightSide
	case "top-left-corner", "bottom-left-corner":
		text = style.RightSide
	case "top-right-corner", "bottom-right-corner":
		text = style.LeftSide
	case "left-top", "right-top":
		vertical = style.TopSide
	case "left-bottom", "right-bottom":
		vertical = style.BottomSide
	}
	return text, vertical
}

// margins sets and writes the margin boxes of a page.
func (st *Setter) margins(m *made) {
	boxes := map[string]*marginBox{}
	for _, name := range style.MarginBoxes {
		if b := st.marginBox(m, name); b != nil {
			boxes[name] = b
		}
	}
	if len(boxes) == 0 {
		return
	}
	g := m.box
	ml, mr, mt, mb := g.margin[3], g.margin[1], g.margin[0], g.margin[2]
	st.row(boxes, [3]string{"top-left", "top-center", "top-right"}, display.Rect{X: ml, W: g.w - ml - mr, H: mt}, false)
	st.row(boxes, [3]string{"bottom-left", "bottom-center", "bottom-right"}, display.Rect{X: ml, Y: g.h - mb, W: g.w - ml - mr, H: mb}, false)
	st.row(boxes, [3]string{"left-top", "left-middle", "left-bottom"}, display.Rect{Y: mt, W: ml, H: g.h - mt - mb}, true)
	st.row(boxes, [3]string{"right-top", "right-middle", "right-bottom"}, display.Rect{X: g.w - mr, Y: mt, W: mr, H: g.h - mt - mb}, true)
	for name, r := range map[string]display.Rect{
		"top-left-corner": {W: ml, H: mt}, "top-right-corner": {X: g.w - mr, W: mr, H: mt},
		"bottom-right-corner": {X: g.w - mr, Y: g.h - mb, W: mr, H: mb}, "bottom-left-corner": {Y: g.h - mb, W: ml, H: mb},
	} {
		if b := boxes[name]; b != nil {
			b.at, b.base = r, r.W
		}
	}
	var under, over []*marginBox
	for _, name := range style.MarginBoxes { // clockwise from the upper left corner (§5.5)
		switch b := boxes[name]; {
		case b == nil:
		case b.b.Style.ZIndex.V < 0:
			under = append(under, b)
		default:
			over = append(over, b)
		}
	}
	write := func(list []*marginBox) func(display.Canvas) {
		slices.SortStableFunc(list, func(a, b *marginBox) int { return a.b.Style.ZIndex.V - b.b.Style.ZIndex.V })
		return func(c display.Canvas) {
			p := paint.NewPainter(c, st.Pictures, display.Rect{W: g.w, H: g.h}, nil)
			for _, b := range list {
				c.Furniture(furniture(b.name))
				st.put(p, b, m)
			}
			c.Furniture(display.NoFurniture)
		}
	}
	if len(under) > 0 {
		m.page.DrawAt(m.body, write(under))
	}
	if len(over) > 0 {
		m.page.Draw(write(over))
	}
}

// furniture is what the content of a margin box is to the page: those at its top are a header, those at its foot a
// footer.
func furniture(name string) display.Furniture {
	switch {
	case strings.HasPrefix(name, "top"):
		return display.Header
	case strings.HasPrefix(name, "bottom"):
		return display.Footer
	}
	return display.Aside
}

// layered tells whether a page may have margin boxes under its body.
func (st *Setter) layered(ctx style.PageContext) bool {
	for i := range st.Styles.Pages {
		if r := &st.Styles.Pages[i]; r.Matches(ctx) {
			for _, decls := range r.Margins {
				if declares([][]style.Decl{decls}, "z-index") {
					return true
				}
			}
		}
	}
	return false
}

// marginBox generates one margin box; nil when its content is none.
func (st *Setter) marginBox(m *made, name string) *marginBox {
	look := st.marginLook(m, name)
	if look == nil {
		return nil
	}
	return &marginBox{name: name, s: look.s, b: st.marginContent(m.record.within(look.s), look)}
}

// marginContent makes the box of a margin box with what its content asks for.
func (st *Setter) marginContent(r *record, look *marginLook) *box.Box {
	c, inline := look.s, look.inline
	b := &box.Box{Style: look.free, Anon: true}
	text := func(t string, leader bool) {
		if t == "" {
			return
		}
		if k := len(b.Children); k > 0 && b.Children[k-1].Kind == box.Text && !leader && !b.Children[k-1].Leader {
			b.Children[k-1].Text += t
			return
		}
		b.Children = append(b.Children, &box.Box{Kind: box.Text, Style: inline, Text: t, Leader: leader})
	}
	quotes := 0 // that are open
	for i := range c.Content.Items {
		it := &c.Content.Items[i]
		switch it.Kind {
		case style.ContentText:
			text(it.Text, false)
		case style.ContentCounter, style.ContentCounters:
			text(st.Styles.Counters.Text(it.Style, st.pageCounter(r, it.Text)), false)
		case style.ContentQuote:
			text(box.QuoteMark(it.Text, &quotes, box.QuotesIn(c, c.Lang)), false)
		case style.ContentString:
			if v, ok := r.strings[it.Text].pick(it.Which); ok {
				text(v, false)
			}
		case style.ContentSum:
			text(style.Number(r.sums[it.Text].Part(it.Which), it.Separator), false)
		case style.ContentLeader:
			text(it.Text, true)
		case style.ContentElement:
			if run, ok := r.running[it.Text].pick(it.Which); ok {
				b.Children = append(b.Children, st.Build.Margin(run, map[string]int{"page": r.number, "pages": len(st.pages)})...)
			}
		case style.ContentImage:
			if it.Image != nil && it.Image.Kind == style.ImageURL {
				if pic := st.Pictures(it.Image.URL); pic != nil {
					b.Children = append(b.Children, &box.Box{Kind: box.Replaced, Style: inline, Picture: pic})
				}
			}
		}
	}
	st.Build.Arrange(b)
	return b
}

func declares(blocks [][]style.Decl, name string) bool {
	for _, b := range blocks {
		for i := range b {
			if style.IsProperty(b[i], name) {
				return true
			}
		}
	}
	return false
}

// row shares one side of the page among its three boxes (CSS Page 3, §5.3.2).
// With vertical, the side runs down the page.
func (st *Setter) row(boxes map[string]*marginBox, names [3]string, side display.Rect, vertical bool) {
	var list [3]*marginBox
	found := false
	for i, n := range names {
		list[i] = boxes[n]
		found = found || list[i] != nil
	}
	if !found {
		return
	}
	total := side.W
	if vertical {
		total = side.H
	}
	var size [3]float64
	var fixed [3]bool
	for i, b := range list {
		if b != nil {
			size[i], fixed[i] = st.asks(b, side, vertical)
		}
	}
	shareWithin(&size, &fixed, list, total)
	pos := [3]float64{0, (total - size[1]) / 2, total - size[2]}
	for i, b := range list {
		if b == nil {
			continue
		}
		r := side
		if vertical {
			r.Y, r.H = side.Y+pos[i], size[i]
		} else {
			r.X, r.W = side.X+pos[i], size[i]
		}
		b.at, b.base = r, side.W
	}
}

// asks notes what a box asks for along its side, its margins included, and tells the size
// that it is to have, if it has one.
func (st *Setter) asks(b *marginBox, side display.Rect, vertical bool) (size float64, fixed bool) {
	a, room := axisOf(b.s, vertical, side.W), side.W
	if vertical {
		room = side.H
	}
	margins := a.margins[0] + a.margins[1]
	b.least, b.most = a.borderBox(a.least, room, 0)+margins, a.borderBox(a.most, room, math.Inf(1))+margins
	if v := a.borderBox(a.size, room, math.NaN()); !math.IsNaN(v) {
		return math.Max(math.Min(v+margins, b.most), b.least), true
	}
	if vertical {
		_, w := axisOf(b.s, false, side.W).fit(side.W, true, false)
		b.lo = st.Layout.LayFixed(b.b, side.W, w, math.NaN()).H
		b.hi = b.lo
	} else {
		b.lo, b.hi = st.Layout.Intrinsic(b.b)
	}
	b.lo, b.hi = b.lo+margins, b.hi+margins
	return 0, false
}

// shareWithin shares total and keeps the boxes to their limits: what is larger than it may be has
// the most, and then what is smaller the least, and the others share again.
func shareWithin(size *[3]float64, fixed *[3]bool, list [3]*marginBox, total float64) {
	share(size, *fixed, list, total)
	for _, limit := range []func(b *marginBox, v float64) float64{
		func(b *marginBox, v float64) float64 { return math.Min(v, b.most) },
		func(b *marginBox, v float64) float64 { return math.Max(v, b.least) },
	} {
		again := false
		for i, b := range list {
			if b == nil {
				continue
			}
			if v := limit(b, size[i]); v != size[i] {
				size[i], fixed[i], again = v, true, true
			}
		}
		if again {
			share(size, *fixed, list, total)
		}
	}
}

// share gives auto boxes their sizes: the middle one stands in the middle, the
// others take what is left beside it.
func share(size *[3]float64, fixed [3]bool, list [3]*marginBox, total float64) {
	// weight is how many boxes b stands for, where neither has contents
	flex := func(a, b *marginBox, room, weight float64) (x, y float64) {
		switch {
		case a.hi+b.hi <= room:
			free := room - a.hi - b.hi
			if sum := a.hi + b.hi; sum > 0 {
				return a.hi + free*a.hi/sum, b.hi + free*b.hi/sum
			}
			return room / (1 + weight), room * weight / (1 + weight)
		case a.lo+b.lo <= room:
			free := room - a.lo - b.lo
			da, db := a.hi-a.lo, b.hi-b.lo
			if da+db > 0 {
				return a.lo + free*da/(da+db), b.lo + free*db/(da+db)
			}
			return a.lo + free/2, b.lo + free/2
		}
		if sum := a.lo + b.lo; sum > 0 {
			return room * a.lo / sum, room * b.lo / sum
		}
		return room / 2, room / 2
	}
	a, m, z := list[0], list[1], list[2]
	auto := func(i int) bool { return list[i] != nil && !fixed[i] }
	if m == nil {
		switch {
		case auto(0) && auto(2):
			size[0], size[2] = flex(a, z, total, 1)
		case auto(0):
			size[0] = total - size[2]
		case auto(2):
			size[2] = total - size[0]
		}
		return
	}
	if auto(1) {
		// each of the outer two counts twice, so that the middle stays the
		// middle; the larger one decides
		size[1] = total
		for _, i := range []int{0, 2} {
			switch {
			case list[i] == nil:
			case fixed[i]:
				size[1] = math.Min(size[1], math.Max(total-2*size[i], 0))
			default:
				x, _ := flex(m, &marginBox{lo: 2 * list[i].lo, hi: 2 * list[i].hi}, total, 2)
				size[1] = math.Min(size[1], x)
			}
		}
	}
	rest := (total - size[1]) / 2
	for _, i := range []int{0, 2} {
		if auto(i) {
			size[i] = math.Max(rest, 0)
		}
	}
}

// put sets one margin box into its part of the margin (CSS Page 3, §5.3).
func (st *Setter) put(p *paint.Painter, b *marginBox, m *made) {
	s := b.s
	r := b.at
	corner := strings.HasSuffix(b.name, "-corner")
	across := corner || strings.HasPrefix(b.name, "left") || strings.HasPrefix(b.name, "right")
	down := corner || !across
	outerLeft := strings.HasPrefix(b.name, "left") || strings.Contains(b.name, "-left-")
	outerTop := strings.HasPrefix(b.name, "top")
	ax, ay := axisOf(s, false, b.base), axisOf(s, true, b.base)
	x, w := ax.fit(r.W, across, outerLeft)
	y, h := ay.fit(r.H, down, outerTop)
	frag := st.Layout.LayFixed(b.b, b.base, w, h)
	layout.AlignVertically(frag, s.VerticalAlign.Kind)
	p.Context(frag, r.X+x, r.Y+y)
	if far := textBeyond(frag, r.X+x, r.Y+y, m.box.w, m.box.h); far > 1 && st.Remark != nil {
		st.Remark(m.ctx.Index, inspect.Remark{
			Code: "margin-cut", Severity: finding.Warning, Message: fmt.Sprintf("text of @%s reaches %.0f px beyond the sheet and is cut", b.name, far),
			Advice: "make the margin larger or the text shorter, or give the boxes beside it less room", Rect: display.Rect{X: r.X + x, Y: r.Y + y, W: frag.W, H: frag.H},
		})
	}
}

// textBeyond is how far the text of a fragment at x, y reaches beyond a sheet of w by h.
func textBeyond(f *layout.Fragment, x, y, w, h float64) (far float64) {
	if f.Text != nil {
		far = max(-x, -y, x+f.W-w, y+f.H-h)
	}
	for _, k := range f.Kids {
		far = max(far, textBeyond(k.F, x+k.X, y+k.Y, w, h))
	}
	return far
}
