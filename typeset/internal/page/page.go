// Package page lays a document out page by page: it picks each page's box,
// sets the root into it, and adds the margin boxes when the number of pages is
// known (CSS Page 3).
package page

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/inspect"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/paint"
	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/tag"
)

// Setter sets a box tree onto the pages of a PDF.
type Setter struct {
	Styles    *style.Resolver
	Layout    *layout.Layout
	Out       *pdf.Writer
	Pictures  func(address string) *picture.Picture
	Elements  *picture.Elements // that boxes are clipped and masked by; nil for none
	Default   style.PageSize    // when the style sheets leave the size open
	MaxPages  int
	Check     func() error // called between pages: time limits
	pages     []*made
	canvas    *style.Style // whose background fills the canvas
	rootStyle *style.Style
	pageLooks map[string]*pageLook // by the page rules that match; nil before the pages are set
	fixed     []*box.Box           // boxes that stand on every page
	fixedAt   layout.FixedPlaces
	outside   paint.Outside
	outline   []pdf.OutlineItem

	// Framed is told of each page's size and page area, and how it ends, in px of
	// the sheet.
	Framed func(w, h float64, area display.Rect, end inspect.Ending)

	Probe *Probe // a point that is asked about; nil for none

	framed *framed // the page before, of which Framed is not told yet

	Build       *box.Builder                  // makes running elements
	Noted       bool                          // some box has notes
	LayoutWidth float64                       // px that the page area's width stands for; 0 for its own
	Shrink      float64                       // scale that makes a document fit a number of pages; 0 for none
	Final       bool                          // the boxes are not set again: what is written can be forgotten
	Continuous  bool                          // one page, as tall as its contents
	Remark      func(n int, r inspect.Remark) // told what is off on page n, in px of the sheet
	FillIn      bool                          // form controls can be filled in
	Fields      map[*markup.Node]bool         // elements that are fields, once drawn; nil: none is
	Tags        *tag.Tree                     // nil: the file tells no structure
	Footnotes   bool                          // some box calls a footnote
	Watched     map[*markup.Node]bool         // nodes whose pages are asked for
	Places      box.Places                    // the answer
	now         *record
	root        *box.Box // of the tree that is set
	seen        map[*box.Box]bool
	starts      map[*markup.Node]bool
	asked       bool            // styles depend on the size of containers
	over        *overrun        // what is left of footnotes of the page before
	late        layout.Leftover // positioned boxes that go on
	slices      []layout.Kid    // pictures that go on
	kept        map[int]float64 // room that pages keep free at their end, by index, in px of layout
}

// Probe is a point on a page, in px of the sheet, and the elements that lie there, once they are set.
type Probe struct {
	Page int // from 1
	X, Y float64
	Hits []inspect.Hit
}

// at looks at a page whose contents stand in an area and are shown k times as large as they were laid out.
func (p *Probe) at(frag, foot *layout.Fragment, above []layout.Kid, area display.Rect, k float64) {
	find := inspect.Finder{X: p.X, Y: p.Y}
	find.Look(frag, area.X, area.Y, k)
	for _, a := range above {
		find.Look(a.F, area.X+a.X*k, area.Y+a.Y*k, k)
	}
	if foot != nil {
		find.Look(foot, area.X, area.Y+area.H-foot.H*k, k)
	}
	p.Hits = find.Path()
}

// made is a page whose body is written and whose margins wait.
type made struct {
	look   *pageLook
	page   *pdf.Page
	ctx    style.PageContext
	box    geometry
	record *record
	body   int // where the body stands in the order of drawing
}

// ErrTooManyPages tells that the limit was reached.
var ErrTooManyPages = errors.New("too many pages")

// FirstArea is the page area of the first page, which media queries and
// viewport units look at. The root tells its name and writing mode; nil before
// it is known.
func (st *Setter) FirstArea(root *box.Box) (w, h float64) {
	ctx := style.PageContext{Index: 1}
	if root != nil {
		st.rootStyle = root.Look()
		ctx.Name, ctx.Left = layout.PageName(root), leftward(st.rootStyle)
	}
	a := st.look(ctx).box.area()
	k := st.scale(a)
	return a.W / k, a.H / k
}

// scale is what the contents of a page area are painted at.
func (st *Setter) scale(area display.Rect) float64 {
	k := 1.0
	if st.LayoutWidth > 0 {
		k = area.W / st.LayoutWidth
	}
	if st.Shrink > 0 {
		k *= st.Shrink
	}
	return k
}

// NotesByPage tells whether @page resets the counter of footnotes, so that they
// are numbered anew on each page (GCPM 3, §2.3).
func (st *Setter) NotesByPage() bool {
	return slices.ContainsFunc(st.look(style.PageContext{Index: 1}).s.CounterReset, func(op style.CounterOp) bool { return op.Name == "footnote" })
}

// Set lays the document out. It returns the number of pages. A document that
// shows nothing (root is nil) is one blank page.
func (st *Setter) Set(root *box.Box) (int, error) {
	st.now = &record{counters: map[string]int{}}
	st.seen, st.starts = map[*box.Box]bool{}, map[*markup.Node]bool{}
	st.pageLooks = map[string]*pageLook{}
	st.Places.Number, st.Places.Sizes = map[*markup.Node]int{}, style.ContainerSizes{}
	if root == nil {
		st.rootStyle, st.canvas = style.Initial(), style.Initial()
		st.blank(style.PageContext{Index: 1})
		return st.close()
	}
	st.rootStyle = root.Look()
	st.canvas = canvasStyle(root)
	st.fixed, st.fixedAt = layout.Fixed(root), layout.FixedPlaces{}
	st.outside = paint.FindOutside(root)
	st.root = root
	if root.Rare().Notes != nil {
		st.now.take(root.Rare().Notes.Counters)
	}
	t := turn{index: 1, name: layout.PageName(root)}
	first := leftward(st.rootStyle)
	st.kept = st.balance(root)
	for {
		if err := st.Check(); err != nil {
			return 0, err
		}
		if st.MaxPages > 0 && t.index > st.MaxPages {
			return 0, fmt.Errorf("%w: the document is longer than %d pages", ErrTooManyPages, st.MaxPages)
		}
		ctx := t.context(first)
		if ctx.Blank {
			st.blank(ctx)
			t = t.past()
			continue
		}
		sliced := len(st.slices) > 0
		next, err := st.one(root, ctx, t.at)
		if err != nil {
			return 0, err
		}
		if next == nil && st.over == nil && st.late.Empty() && len(st.slices) == 0 {
			break
		}
		done := next == nil
		if done { // a page for what is left of footnotes and positioned boxes
			next = layout.Nothing(root)
		}
		if t.at != nil && !done && !sliced && layout.SamePlace(t.at, next) {
			return 0, errors.New("the layout makes no progress; please report the page")
		}
		if st.Final && len(st.slices) == 0 { // which words from written pages may be among
			st.Layout.Written(root, next)
		}
		t = t.next(root, next)
	}
	return st.close()
}

// close adds what needs the number of pages.
func (st *Setter) close() (int, error) {
	st.frame(nil)
	for _, m := range st.pages {
		if err := st.Check(); err != nil {
			return 0, err
		}
		st.margins(m)
	}
	st.Out.Outline = st.outline
	st.Places.Pages = len(st.pages)
	return len(st.pages), nil
}

// wrongSide tells whether a page is not on the side that a break asks for.
// Recto is the side of the first page (CSS Break 3, §3.1).
func wrongSide(k style.Keyword, left, first bool) bool {
	switch k {
	case style.LeftSide:
		return !left
	case style.RightSide:
		return left
	case style.Recto:
		return left != first
	case style.Verso:
		return left == first
	}
	return false
}

// leftward tells whether pages progress to the left, so that the first one is
// a left page (CSS Page 3, §3.1).
func leftward(root *style.Style) bool {
	switch root.WritingMode {
	case style.VerticalRl, style.SidewaysRl:
		return true
	case style.HorizontalTb:
		return root.Direction == style.Rtl
	}
	return false
}

// canvasStyle finds the element whose background is the canvas's: the root,
// or body when the root has none (CSS Backgrounds 3, §2.11.2).
func canvasStyle(root *box.Box) *style.Style {
	if root.Style.HasBackground() || root.Node == nil || root.Node.Name != "html" || root.Style.Contain != (style.Containment{}) {
		return root.Style
	}
	for _, c := range root.Children {
		if c.Node != nil && c.Node.Name == "body" && c.Node.Kind == markup.Element && c.Style.Contain == (style.Containment{}) {
			return c.Style
		}
	}
	return root.Style
}

// one lays out and writes one page.
func (st *Setter) one(root *box.Box, ctx style.PageContext, at *layout.Break) (*layout.Break, error) {
	look := st.look(ctx)
	s, g := look.s, look.box
	if err := g.room(); err != nil {
		return nil, err
	}
	area := g.area()
	k := st.scale(area)
	area.W, area.H = area.W/k, area.H/k
	st.Layout.Viewport = [2]float64{area.W, area.H}
	if st.Continuous {
		area.H = endless
	}
	var rest *layout.Break
	var foot *layout.Fragment
	over := st.over
	frag, scaled := st.fitting((g.w-g.area().X)/k, func() (frag *layout.Fragment) {
		st.over = over
		frag, rest, foot = st.withNotes(root, ctx, s, area, at)
		return frag
	})
	if frag == nil {
		return nil, errors.New("the document could not be laid out")
	}
	if rest != nil && st.Layout.NothingLeft(root, rest) {
		rest = nil
	}
	st.Layout.PutLate(frag, &st.late, area.H)
	frag.Fix(st.fixed, st.fixedAt)
	if st.Continuous {
		area.H = math.Max(layout.Bottom(frag), 1)
		if foot != nil {
			area.H += foot.H
		}
		g.h = area.H*k + g.h - g.area().H
	}
	st.Layout.SettleAll(frag, area.W, area.H)
	st.late.Take(frag)
	above := st.slices
	st.slices = layout.Slices(frag, area.H)
	for _, k := range above {
		if k.Y+k.F.H > area.H*(1+1e-6) {
			st.slices = append(st.slices, layout.Kid{X: k.X, Y: k.Y - area.H, F: k.F})
		}
	}
	st.tellFits(scaled, len(st.pages)+1, g.area())
	var end inspect.Ending
	if st.Remark != nil {
		paper := style.RGB8(255, 255, 255)
		if c := st.canvas.BackgroundColor.Or(st.canvas.Color); c.A == 1 {
			paper = c
		}
		n := len(st.pages) + 1
		notes := 0.0
		if foot != nil {
			notes = foot.H
		}
		end = inspect.Look(inspect.Page{Frag: frag, W: area.W, H: area.H, Foot: notes, Above: layout.SlicesEnd(above), Slices: len(st.slices) > 0, Number: n, Rest: rest, Root: root, Paper: paper, Sheet: display.Rect{X: -g.area().X / k, Y: -g.area().Y / k, W: g.w / k, H: g.h / k}}, func(r inspect.Remark) {
			r.Rect = display.Rect{X: g.area().X + r.Rect.X*k, Y: g.area().Y + r.Rect.Y*k, W: r.Rect.W * k, H: r.Rect.H * k}
			st.Remark(n, r)
		})
		end.Y = g.area().Y + end.Y*k
	}
	st.finish(ctx, look, g, frag, foot, above, end)
	return rest, nil
}

// endless is a height that no document reaches, in px.
const endless = 1e8

// blank writes a page that only brings the next one to its side.
func (st *Setter) blank(ctx style.PageContext) {
	look := st.look(ctx)
	st.finish(ctx, look, look.box, nil, nil, nil, inspect.Ending{Why: "left blank, so that the next page stands on its side"})
}

// finish writes the body of a page and keeps what its margins need.
func (st *Setter) finish(ctx style.PageContext, look *pageLook, g geometry, frag, foot *layout.Fragment, above []layout.Kid, end inspect.Ending) {
	s := look.s
	m := &made{page: st.Out.AddPage(g.w, g.h), ctx: ctx, look: look, box: g, record: st.open(s)}
	st.pages = append(st.pages, m)
	area := g.area()
	if st.Framed != nil {
		st.frame(frag)
		st.framed = &framed{g.w, g.h, area, end}
	}
	k := st.scale(area)
	if frag != nil {
		st.read(frag, foot, area, k, len(st.pages)-1)
	}
	if p := st.Probe; p != nil && p.Page == len(st.pages) && frag != nil && st.Final {
		p.at(frag, foot, above, area, k)
	}
	m.page.Label, m.page.Turn = m.record.number, quarterTurns[s.PageOrientation]
	bleed := st.trimming(m)
	sheet := display.Rect{W: g.w, H: g.h}.Inset(-bleed, -bleed, -bleed, -bleed)
	decorate := func(c display.Canvas) {
		marks(c, m)
		if s.Visibility == style.Visible {
			p := paint.NewPainter(c, st.Pictures, area, st.canvas)
			p.Decorate(s, display.Rect{W: g.w, H: g.h}.Within(g.margin), sheet, g.border, g.padding)
		}
	}
	layered := st.layered(ctx)
	if layered {
		m.page.Draw(decorate)
		m.body = m.page.Mark()
	}
	m.page.Draw(func(c display.Canvas) {
		if !layered {
			decorate(c)
		}
		if frag == nil {
			return
		}
		p := paint.NewPainter(c, st.Pictures, area, st.canvas)
		p.Tags, p.Number, p.FillIn, p.Fields, p.Elements, p.Outside = st.Tags, len(st.pages), st.FillIn, st.Fields, st.Elements, st.outside
		root := frag.Kids[0]
		p.Canvas(st.canvas, display.Rect{X: area.X + root.X*k, Y: area.Y + root.Y*k, W: root.F.W * k, H: root.F.H * k}, canvasArea(g, sheet, bleed), scaled(root.F.Border, k), scaled(root.F.Padding, k))
		at := area
		if k != 1 {
			c.Transform(display.Matrix{k, 0, 0, k, area.X, area.Y})
			at = display.Rect{W: area.W / k, H: area.H / k}
		}
		st.body(p, frag, at, above)
		if foot != nil {
			p.Root(foot, at.X, at.Y+at.H-foot.H)
		}
	})
}

// quarterTurns are degrees clockwise (CSS Page 3, §7.3).
var quarterTurns = map[style.Keyword]int{style.RotateLeft: 270, style.RotateRight: 90}

// framed is a page whose ending waits for the next page to be set.
type framed struct {
	w, h float64
	area display.Rect
	end  inspect.Ending
}

// frame tells of the page before, now that the next one is set; nil at the end.
func (st *Setter) frame(next *layout.Fragment) {
	if f := st.framed; f != nil {
		f.end.Measure(next)
		st.Framed(f.w, f.h, f.area, f.end)
		st.framed = nil
	}
}

func scaled(edges [4]float64, k float64) [4]float64 {
	for i := range edges {
		edges[i] *= k
	}
	return edges
}

// body paints what a page holds, and the parts of pictures that the page before
// had no room for.
func (st *Setter) body(p *paint.Painter, frag *layout.Fragment, area display.Rect, above []layout.Kid) {
	clip := func(r display.Rect, draw func()) {
		path := &display.Path{}
		path.Rect(r)
		whole := p.C
		p.C = newBand(whole, area.Y, area.Y+area.H)
		p.C.Save()
		p.C.Clip(path, false)
		draw()
		p.C.Restore()
		p.C = whole
	}
	for _, k := range above {
		if k.Y >= area.H-0.5 { // further on
			continue
		}
		clip(area, func() { p.Root(k.F, area.X+k.X, area.Y+k.Y) })
	}
	if len(st.slices) == 0 {
		p.Root(frag, area.X, area.Y)
		return
	}
	const far = 1e5 // what hangs out to the sides or above stays
	clip(display.Rect{X: -far, Y: -far, W: 2 * far, H: far + area.Y + area.H}, func() { p.Root(frag, area.X, area.Y) })
}

// top is where a page's own content begins, below pictures from the page
// before.
func (st *Setter) top() float64 { return layout.SlicesEnd(st.slices) }

// canvasArea is where the canvas's background shows: inside the page's border,
// and into the bleed where there is no margin.
func canvasArea(g geometry, sheet display.Rect, bleed float64) display.Rect {
	var in [4]float64
	for i := range in {
		if v := g.margin[i] + g.border[i]; v != 0 {
			in[i] = v + bleed
		}
	}
	return sheet.Inset(in[0], in[1], in[2], in[3])
}

// pageCounter gives the counters that margin boxes know.
func (st *Setter) pageCounter(r *record, name string) int {
	switch name {
	case "page":
		return r.number
	case "pages":
		return len(st.pages)
	}
	return r.counter(name)
}
