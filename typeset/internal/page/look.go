package page

import (
	"encoding/binary"
	"errors"
	"fmt"
	"math"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/style"
)

// pageLook is the style of a page and the size of its areas. Pages that the same
// rules match share one.
type pageLook struct {
	s       *style.Style
	box     geometry
	margins map[string]*marginLook // of the margin boxes asked for so far, by name
}

// geometry of a page: the sheet and its areas in px.
type geometry struct {
	w, h    float64
	margin  [4]float64
	border  [4]float64
	padding [4]float64
}

// ErrNoRoom tells that margins leave no room on a page.
var ErrNoRoom = errors.New("the margins leave no room on the page")

// room tells whether there is a page area at all.
func (g geometry) room() error {
	w, h := g.w, g.h
	for i := range 4 {
		if in := g.margin[i] + g.border[i] + g.padding[i]; i%2 == 0 {
			h -= in
		} else {
			w -= in
		}
	}
	if w > 0 && h > 0 {
		return nil
	}
	mm := func(v float64) float64 { return math.Round(v*25.4/96*10) / 10 }
	edges, what := g.margin, "margins"
	if g.border != [4]float64{} || g.padding != [4]float64{} {
		what = "margins with borders and padding"
		for i := range edges {
			edges[i] += g.border[i] + g.padding[i]
		}
	}
	return fmt.Errorf("%w: the sheet is %g × %g mm, the %s at top, right, bottom and left are %g, %g, %g and %g mm", ErrNoRoom, mm(g.w), mm(g.h), what, mm(edges[0]), mm(edges[1]), mm(edges[2]), mm(edges[3]))
}

func (g geometry) area() display.Rect {
	in := func(i int) float64 { return g.margin[i] + g.border[i] + g.padding[i] }
	return display.Rect{X: in(3), Y: in(0), W: math.Max(g.w-in(1)-in(3), 1), H: math.Max(g.h-in(0)-in(2), 1)}
}

// look computes the page context of a page.
func (st *Setter) look(ctx style.PageContext) *pageLook {
	var blocks, readers [][]style.Decl
	var rules []byte
	for i := range st.Styles.Pages {
		if r := &st.Styles.Pages[i]; r.Matches(ctx) {
			blocks = append(blocks, r.Decls)
			if r.Origin != style.Author {
				readers = append(readers, r.Decls)
			}
			rules = binary.BigEndian.AppendUint32(rules, uint32(i))
		}
	}
	if look := st.pageLooks[string(rules)]; look != nil {
		return look
	}
	parent := st.rootStyle
	if parent == nil {
		parent = style.Initial()
	}
	look := &pageLook{s: st.Styles.PageStyle(parent, blocks), margins: map[string]*marginLook{}}
	look.box = st.geometry(look.s, st.paper(parent, readers))
	if st.pageLooks != nil {
		st.pageLooks[string(rules)] = look
	}
	return look
}

// paper is the sheet that a page takes which names none, only its orientation: that of
// the rules which are not the author's.
func (st *Setter) paper(parent *style.Style, readers [][]style.Decl) style.PageSize {
	if p := st.Styles.PageStyle(parent, readers).PageSize; p.W > 0 {
		return p
	}
	return st.Default
}

// geometry is the size of a page with style s, and of its areas; paper is its sheet when
// it names none.
func (st *Setter) geometry(s *style.Style, paper style.PageSize) geometry {
	g := geometry{w: s.PageSize.W, h: s.PageSize.H}
	if g.w <= 0 || g.h <= 0 {
		g.w, g.h = paper.W, paper.H
		if o := s.PageSize.Orientation; o == "landscape" && g.w < g.h || o == "portrait" && g.w > g.h {
			g.w, g.h = g.h, g.w
		}
	}
	for i := range 4 {
		base := g.w
		if i%2 == 0 {
			base = g.h
		}
		if s.Margin[i].Kind == style.Length {
			g.margin[i] = s.Margin[i].Of(base)
		}
		g.border[i] = s.Border[i].Width
		g.padding[i] = s.Padding[i].Of(base)
	}
	fitAxis(s, &g)
	return g
}

// fitAxis applies width and height of the page box and auto margins
// (CSS Page 3, §6).
func fitAxis(s *style.Style, g *geometry) {
	solve := func(size style.Size, sheet *float64, a, b int) {
		total := *sheet
		v := size.Resolve(total)
		autoA, autoB := s.Margin[a].IsAuto(), s.Margin[b].IsAuto()
		if math.IsNaN(v) {
			return
		}
		free := total - v - g.border[a] - g.border[b] - g.padding[a] - g.padding[b]
		switch {
		case autoA && autoB:
			g.margin[a], g.margin[b] = free/2, free/2
		case autoA:
			g.margin[a] = free - g.margin[b]
		case autoB:
			g.margin[b] = free - g.margin[a]
		default: // the sheet takes the size of the page box
			*sheet -= free - g.margin[a] - g.margin[b]
		}
	}
	solve(s.Width, &g.w, style.Left, style.Right)
	solve(s.Height, &g.h, style.Top, style.Bottom)
}

// marginLook is the style of a margin box with contents.
type marginLook struct {
	s      *style.Style
	free   *style.Style // s without sizes of its own: what the box is laid out with, as its side gives it its sizes
	inline *style.Style // of the text in it
}

// marginLook computes the style of a margin box; nil when its content is none.
func (st *Setter) marginLook(m *made, name string) *marginLook {
	look, known := m.look.margins[name]
	if !known {
		look = st.newMarginLook(m, name)
		m.look.margins[name] = look
	}
	return look
}

// Variants of styles, the first two by the name of a margin box.
type (
	aroundMarginBox string // what it inherits from
	alignedAs       string // with its vertical-align
	withoutSizes    struct{}
)

func (st *Setter) newMarginLook(m *made, name string) *marginLook {
	var blocks [][]style.Decl
	for i := range st.Styles.Pages {
		if r := &st.Styles.Pages[i]; r.Matches(m.ctx) && len(r.Margins[name]) > 0 {
			blocks = append(blocks, r.Margins[name])
		}
	}
	if len(blocks) == 0 {
		return nil
	}
	around := st.Styles.Variant(m.look.s, aroundMarginBox(name), func() *style.Style {
		s := *m.look.s
		s.TextAlign, _ = alignment(name)
		return &s
	})
	s := st.Styles.PageStyle(around, blocks)
	if s.Content.Kind != style.List || s.Display.Outer == style.None {
		return nil
	}
	block := st.Styles.Displayed(s, style.Display{Outer: style.Block, Inner: style.FlowRoot})
	if !declares(blocks, "vertical-align") {
		block = st.Styles.Variant(block, alignedAs(name), func() *style.Style {
			s := *block
			_, s.VerticalAlign.Kind = alignment(name)
			return &s
		})
	}
	free := st.Styles.Variant(block, withoutSizes{}, func() *style.Style {
		s, auto, none := *block, style.Size{Kind: style.Auto}, style.Size{Kind: style.None}
		s.Width, s.MinWidth, s.MaxWidth = auto, auto, none
		s.Height, s.MinHeight, s.MaxHeight = auto, auto, none
		return &s
	})
	return &marginLook{block, free, st.Styles.Anonymous(block, style.Display{Outer: style.Inline, Inner: style.Flow})}
}
