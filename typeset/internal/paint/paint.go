// Package paint puts fragments onto a canvas in the order of CSS 2.2,
// Appendix E.
package paint

import (
	"math"
	"slices"
	"sort"
	"strings"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/tag"
)

// Painter paints fragments. Pictures gives the pictures of backgrounds.
type Painter struct {
	C        display.Canvas
	Pictures func(address string) *picture.Picture
	Page     display.Rect                        // for backgrounds that are fixed
	root     *layout.Fragment                    // of what is painted
	canvas   *style.Style                        // the style whose background the page has taken over
	words    display.Text                        // memory for the text that is drawn
	joined   *joinedBorders                      // of the table around what is gathered, if it has such
	over     map[*layout.Fragment]*joinedBorders // that lie over parts of a table painted out of tree order
	adopted  map[*layout.Fragment][]entry        // by the context that they belong to, though they lie outside it
	away     map[*layout.Fragment]int            // those that are adopted, with how many of their groups are around them there

	Tags     *tag.Tree             // nil: nothing is read, as in margin boxes
	Outside  Outside               // the boxes of the document that are painted elsewhere than they lie
	Elements *picture.Elements     // of the page, that boxes are clipped and masked by; nil for none
	FillIn   bool                  // controls can be filled in; else they are static
	Fields   map[*markup.Node]bool // elements that are fields, once drawn; nil: none is
	Number   int                   // of the page, for what is repeated
}

// NewPainter starts a painter; taken is the style whose background has become
// that of the canvas, and is not painted again.
func NewPainter(c display.Canvas, pictures func(string) *picture.Picture, page display.Rect, taken *style.Style) *Painter {
	return &Painter{C: c, Pictures: pictures, Page: page, canvas: taken}
}

// entry is a descendant that is painted out of tree order.
type entry struct {
	f     *layout.Fragment
	x, y  float64
	z     int
	clips []clip
	flat  bool // its positioned descendants belong to the context around
}

type clip struct {
	path *display.Path
}

// stacks tells whether a fragment makes a stacking context.
func stacks(f *layout.Fragment) bool {
	if f.Box == nil || f.Text != nil {
		return false
	}
	return stackingStyle(f.Box.Look())
}

func stackingStyle(s *style.Style) bool {
	return s.PaintsWhole() || s.Position == style.FixedKey || s.Position == style.Sticky || !s.ZIndex.Auto && s.Position != style.Static
}

// frame is the border box of a fragment at x, y.
func frame(f *layout.Fragment, x, y float64) display.Rect {
	return display.Rect{X: x, Y: y, W: f.W, H: f.H}.Snapped()
}

func positioned(f *layout.Fragment) bool {
	return f.Box != nil && f.Text == nil && f.Box.Look().Position != style.Static
}

// Root paints all that a page, a margin box or the like holds.
func (p *Painter) Root(f *layout.Fragment, x, y float64) {
	if len(p.Outside) > 0 {
		p.adopt(f, x, y)
	}
	p.root = f
	p.Context(f, x, y)
}

// Context paints a fragment as a stacking context of its own.
func (p *Painter) Context(f *layout.Fragment, x, y float64) {
	var list []entry
	p.gather(f, x, y, nil, &list)
	for _, e := range p.adopted[f] {
		p.enter(e, &list)
	}
	sort.SliceStable(list, func(i, j int) bool {
		if list[i].z != list[j].z {
			return list[i].z < list[j].z
		}
		return list[i].f.Box.Order < list[j].f.Box.Order
	})
	p.context(f, x, y, list)
}

// context paints a fragment with its effects and those that stack in it.
func (p *Painter) context(f *layout.Fragment, x, y float64, list []entry) {
	if f.Box == nil {
		p.contents(f, x, y, list)
		return
	}
	s := f.Box.Look()
	if s.Transformed() && !(f.Box.Kind == box.Element && s.Display.Outer == style.Inline && s.Display.Inner == style.Flow) {
		m := Transform(s, f.W, f.H, x, y)
		if math.Abs(m.Det()) < 1e-9 {
			return
		}
		p.C.Save()
		defer p.C.Restore()
		p.C.Transform(m)
	}
	if s.ClipPath != nil {
		p.C.Save()
		defer p.C.Restore()
		p.clipPath(s.ClipPath, f, x, y)
	}
	if s.Clip != nil && (s.Position == style.Absolute || s.Position == style.FixedKey) {
		path := &display.Path{}
		c := s.Clip
		get := func(i int, auto float64) float64 {
			if c[i].Kind == style.Length {
				return c[i].Px
			}
			return auto
		}
		t, r, b, l := get(0, 0), get(1, f.W), get(2, f.H), get(3, 0)
		path.Rect(display.Rect{X: x + l, Y: y + t, W: math.Max(r-l, 0), H: math.Max(b-t, 0)})
		p.C.Save()
		defer p.C.Restore()
		p.C.Clip(path, false)
	}
	draw := func() {
		p.faded(f, func() { p.filtered(s.Filters, func() { p.contents(f, x, y, list) }) })
	}
	masked := s.Masked()
	if s.Opacity == 1 && s.BlendMode == style.Normal && !masked && !p.isolates(f, list) {
		draw()
		return
	}
	if s.Opacity == 0 {
		return
	}
	g := display.Group{Alpha: s.Opacity, Blend: display.BlendMode(s.BlendMode)}
	if masked {
		g.Mask, g.AlphaMask = p.elementMask(s, f, x, y)
		if g.Mask == nil {
			g.AlphaMask = s.MaskMode != style.Luminance
			g.Mask = func(c display.Canvas) { p.on(c, func() { p.mask(f, x, y) }) }
		}
	}
	p.group(p.C, g, draw)
}

// isolates tells whether what blends in a stacking context is kept from what lies behind that
// (Compositing 1, §2.2). In the root's it blends with the canvas, which is painted before.
func (p *Painter) isolates(f *layout.Fragment, list []entry) bool {
	return f != p.root && stacks(f) && slices.ContainsFunc(list, func(e entry) bool { return e.f.Box.Look().BlendMode != style.Normal })
}

// group draws onto a canvas as one: into the group's box, or however far it reaches.
func (p *Painter) group(on display.Canvas, g display.Group, draw func()) {
	if g.Box == (display.Rect{}) {
		g.Box = p.extent()
	}
	on.Group(g, func(c display.Canvas) { p.on(c, draw) })
}

// on draws onto another canvas.
func (p *Painter) on(c display.Canvas, draw func()) {
	old := p.C
	defer func() { p.C = old }()
	p.C = c
	draw()
}

// clipPath clips to a shape, or to a clipPath element of the page.
func (p *Painter) clipPath(c *style.ClipPath, f *layout.Fragment, x, y float64) {
	if c.Kind == style.URLShape {
		p.Elements.Clip(p.C, c.URL, frame(f, x, y))
		return
	}
	if path, evenOdd := clipShape(c, frame(f, x, y), f); path != nil {
		p.C.Clip(path, evenOdd)
	}
}

// elementMask is what draws a mask element of the page that a style names; nil when it
// names none.
func (p *Painter) elementMask(s *style.Style, f *layout.Fragment, x, y float64) (draw func(display.Canvas), alpha bool) {
	return p.Elements.Mask(s.MaskElement(), frame(f, x, y))
}

// extent is large enough for whatever a group paints.
func (p *Painter) extent() display.Rect {
	return display.Rect{X: p.Page.X - 4000, Y: p.Page.Y - 4000, W: p.Page.W + 8000, H: p.Page.H + 8000}
}

// contents paints the layers of a stacking context (CSS 2.2, Appendix E).
func (p *Painter) contents(f *layout.Fragment, x, y float64, list []entry) {
	p.decorations(f, x, y)
	i := 0
	for ; i < len(list) && list[i].z < 0; i++ {
		p.entry(list[i])
	}
	p.inside(f, x, y, func() {
		p.blocks(f, x, y)
		p.over[f].within(frame(f, x, y), p.joinedEdge)
		p.floats(f, x, y)
		p.inlines(f, x, y)
	})
	for ; i < len(list); i++ {
		p.entry(list[i])
	}
	p.outline(f, x, y)
}

func (p *Painter) entry(e entry) {
	for _, c := range e.clips {
		p.C.Save()
		p.C.Clip(c.path, false)
	}
	if e.flat {
		p.context(e.f, e.x, e.y, nil)
	} else {
		p.Context(e.f, e.x, e.y)
	}
	for range e.clips {
		p.C.Restore()
	}
}

// gather collects the positioned and stacking descendants of a context.
func (p *Painter) gather(f *layout.Fragment, x, y float64, clips []clip, list *[]entry) {
	around := p.joined
	p.joined = joinedAround(f, x, y, around)
	if c := overflowClip(f, x, y); c != nil {
		clips = append(clips[:len(clips):len(clips)], clip{c})
	}
	for _, k := range f.Kids {
		kx, ky := x+k.X, y+k.Y
		if k.F.Text != nil || p.away[k.F] > 0 {
			continue
		}
		if stacks(k.F) || positioned(k.F) {
			e := entry{f: k.F, x: kx, y: ky, clips: clips, flat: !stacks(k.F)}
			s := k.F.Box.Look()
			if !s.ZIndex.Auto && (positioned(k.F) || f.Box != nil && f.Box.Look().Display.IsFlexOrGrid()) {
				e.z = s.ZIndex.V
			}
			p.layUnder(k.F)
			p.enter(e, list)
			continue
		}
		if f.Box != nil && f.Box.Look().Display.IsFlexOrGrid() && k.F.Box != nil && !k.F.Box.Look().ZIndex.Auto {
			*list = append(*list, entry{f: k.F, x: kx, y: ky, z: k.F.Box.Look().ZIndex.V, clips: clips})
			continue
		}
		p.gather(k.F, kx, ky, clips, list)
	}
	p.joined = around
}

// enter lists an entry, and those of the same context that it holds.
func (p *Painter) enter(e entry, list *[]entry) {
	*list = append(*list, e)
	if e.flat {
		p.gather(e.f, e.x, e.y, e.clips, list)
	}
}

// apart tells whether a child is painted by gather instead of in tree order.
func apart(parent, k *layout.Fragment) bool {
	if k.Text != nil {
		return false
	}
	return stacks(k) || positioned(k) || parent.Box != nil && parent.Box.Look().Display.IsFlexOrGrid() && k.Box != nil && !k.Box.Look().ZIndex.Auto
}

// item tells whether a child is painted whole, like an inline block: an item of a
// flex container or grid (Flexbox 1, §5.4; Grid 1, §4.2).
func item(parent, k *layout.Fragment) bool {
	return k.Text == nil && !k.Line && k.Box != nil && parent.Box != nil && parent.Box.Look().Display.IsFlexOrGrid()
}

// inside runs draw within the overflow clip of f.
func (p *Painter) inside(f *layout.Fragment, x, y float64, draw func()) {
	if p.field(f, x, y) {
		return
	}
	if c := overflowClip(f, x, y); c != nil {
		p.C.Save()
		p.C.Clip(c, false)
		draw()
		p.C.Restore()
		return
	}
	draw()
}

// overflowClip is the padding box that overflow cuts to (CSS Overflow 3, §3).
func overflowClip(f *layout.Fragment, x, y float64) *display.Path {
	if f.Box == nil || f.Text != nil || f.Hide || f.Box.Kind == box.Replaced || f.Box.Look() == nil {
		return nil
	}
	s := f.Box.Look()
	if s.OverflowX == style.Visible && s.OverflowY == style.Visible && !s.Contain.Paint && !f.Clipped || s.Display.Outer == style.Inline && s.Display.Inner == style.Flow || s.Display.Outer == style.TableRow {
		return nil
	}
	if s.Display.Inner == style.Table && s.OverflowX != style.Hidden && s.OverflowX != style.ClipText {
		return nil
	}
	return clipArea(s, f, frame(f, x, y))
}

// clipArea is what the overflow of a box with border box r is cut to: its padding
// box, or with overflow: clip the box and distance of overflow-clip-margin
// (CSS Overflow 3, §3.2). All that cuts replaced elements is as clip.
func clipArea(s *style.Style, f *layout.Fragment, r display.Rect) *display.Path {
	in := r.Inset(f.Border[0], f.Border[1], f.Border[2], f.Border[3])
	round := innerRadii(radii(s, r), f.Border)
	visible := s.OverflowX == style.Visible && s.OverflowY == style.Visible
	if m := s.OverflowClipMargin; s.OverflowX == style.ClipText || s.OverflowY == style.ClipText || visible && s.Contain.Paint || f.Box.Kind == box.Replaced {
		edges := f.Border
		for i := range edges {
			switch m.Box {
			case style.BorderBox:
				edges[i] = 0
			case style.ContentBox:
				edges[i] += f.Padding[i]
			}
		}
		round = outerRadii(innerRadii(radii(s, r), edges), m.By)
		in = r.Inset(edges[0]-m.By, edges[1]-m.By, edges[2]-m.By, edges[3]-m.By)
	}
	path := &display.Path{}
	switch {
	case (s.OverflowX == style.Visible) == (s.OverflowY == style.Visible):
		path.RoundRect(in, round)
	case s.OverflowX == style.Visible: // clip in one direction only
		path.Rect(display.Rect{X: in.X - 1e5, Y: in.Y, W: in.W + 2e5, H: in.H})
	default:
		path.Rect(display.Rect{X: in.X, Y: in.Y - 1e5, W: in.W, H: in.H + 2e5})
	}
	return path
}

// blocks paints the backgrounds of in-flow blocks.
func (p *Painter) blocks(f *layout.Fragment, x, y float64) {
	if d := f.Drawn; d != nil {
		for _, b := range d.Backs {
			p.behindCells(b, x, y)
		}
	}
	for _, k := range f.Kids {
		if k.F.Line || k.F.Text != nil || apart(f, k.F) || item(f, k.F) || k.F.Box != nil && k.F.Box.Floats() {
			continue
		}
		p.decorations(k.F, x+k.X, y+k.Y)
		p.inside(k.F, x+k.X, y+k.Y, func() { p.blocks(k.F, x+k.X, y+k.Y) })
	}
	p.collapsed(f, x, y)
	p.rules(f, x, y)
}

// behindCells paints the background of a table's part where it shows.
func (p *Painter) behindCells(b layout.Back, x, y float64) {
	whole := display.Rect{X: x + b.X, Y: y + b.Y, W: b.W, H: b.H}
	shown := display.Rect{X: x + b.Shown[0], Y: y + b.Shown[1], W: b.Shown[2], H: b.Shown[3]}
	if whole != shown {
		path := &display.Path{}
		path.Rect(shown)
		p.C.Save()
		defer p.C.Restore()
		p.C.Clip(path, false)
	}
	p.background(b.Style, whole, [4]float64{}, [4]float64{}, spot{})
}

// floats paints each float as if it made a stacking context.
func (p *Painter) floats(f *layout.Fragment, x, y float64) {
	for _, k := range f.Kids {
		if k.F.Line || k.F.Text != nil || apart(f, k.F) || item(f, k.F) {
			continue
		}
		if k.F.Box != nil && k.F.Box.Floats() {
			p.flat(k.F, x+k.X, y+k.Y)
			continue
		}
		p.inside(k.F, x+k.X, y+k.Y, func() { p.floats(k.F, x+k.X, y+k.Y) })
	}
}

// flat paints a float, an inline block or an item: all layers but those of positioned
// descendants, which the context around has gathered.
func (p *Painter) flat(f *layout.Fragment, x, y float64) {
	p.decorations(f, x, y)
	p.inside(f, x, y, func() {
		p.blocks(f, x, y)
		p.floats(f, x, y)
		p.inlines(f, x, y)
	})
	p.outline(f, x, y)
}

// inlines paints lines and pictures.
func (p *Painter) inlines(f *layout.Fragment, x, y float64) {
	if f.Picture {
		p.picture(f, x, y)
	}
	if f.Box != nil && f.Box.Kind == box.Element && f.Box.Look().Display.Outer == style.Inline && f.Box.Look().Display.Inner == style.Flow && f.Text == nil {
		p.inline(f, x, y)
		return
	}
	for _, k := range f.Kids {
		if apart(f, k.F) || !item(f, k.F) && k.F.Box != nil && k.F.Text == nil && k.F.Box.Floats() {
			continue
		}
		kx, ky := x+k.X, y+k.Y
		if k.F.Line {
			p.inline(k.F, kx, ky)
			continue
		}
		if item(f, k.F) {
			p.flat(k.F, kx, ky)
			continue
		}
		p.inside(k.F, kx, ky, func() { p.inlines(k.F, kx, ky) })
		if k.F.Box != nil {
			p.outline(k.F, kx, ky)
		}
	}
}

// inline paints what stands on a line.
func (p *Painter) inline(f *layout.Fragment, x, y float64) {
	for _, k := range f.Kids {
		kx, ky := x+k.X, y+k.Y
		switch {
		case k.F.Text != nil:
			p.text(k.F, kx, ky)
		case apart(f, k.F) || k.F.Box != nil && k.F.Box.Floats():
		case k.F.Box.Kind == box.Element && k.F.Box.Look().Display.Outer == style.Inline && k.F.Box.Look().Display.Inner == style.Flow:
			p.decorations(k.F, kx, ky)
			p.inline(k.F, kx, ky)
			p.outline(k.F, kx, ky)
		default:
			p.flat(k.F, kx, ky)
		}
	}
}

// decorations paints shadow, background and border of one box.
func (p *Painter) decorations(f *layout.Fragment, x, y float64) {
	if f.Box == nil || f.Text != nil || f.Line {
		return
	}
	s := f.Box.Look()
	if s.Visibility != style.Visible {
		return
	}
	p.anchor(f, x, y)
	if n := f.Box.Node; p.Tags != nil && s.Display.Outer == style.TableCell && n != nil && !p.Tags.Unread(n, p.Number) {
		p.Tags.Cell(n, f.Box.Order)
	}
	if f.Hide || s.Display.Outer == style.TableColumn {
		return
	}
	r, border, padding := frame(f, x, y), f.Border, f.Padding
	if f.Whole > 0 && s.BoxDecorationBreak == style.Slice {
		p.C.Save()
		defer p.C.Restore()
		r, border, padding = p.whole(f, r)
	}
	if k, ok := f.Legend(); ok { // the border runs behind the middle of the legend, and is open there
		border[0] = s.Border[0].Width
		if down := (k.F.H - border[0]) / 2; down > 0 {
			r.Y, r.H = r.Y+down, r.H-down
		}
		p.C.Save()
		defer p.C.Restore()
		open := &display.Path{}
		open.Rect(p.extent())
		open.Rect(display.Rect{X: x + k.X, Y: y + k.Y, W: k.F.W, H: k.F.H})
		p.C.Clip(open, true)
	}
	p.outerShadows(s, r)
	if s != p.canvas {
		p.background(s, r, border, padding, spot{f, x, y})
	}
	p.innerShadows(s, r, border)
	if !collapsedTable(f) {
		p.border(s, r, border)
	}
}

// whole gives the box that a part was cut from, and clips to the part: its
// decorations are those of the whole box, cut too (CSS Break 3, §5.2).
func (p *Painter) whole(f *layout.Fragment, r display.Rect) (display.Rect, [4]float64, [4]float64) {
	clip, whole := p.extent(), r
	switch f.Start {
	case style.Top:
		clip.Y, clip.H = slice(clip.Y, clip.H, r.Y, r.H, f.Continued, f.Cut)
		whole.Y, whole.H = r.Y-f.Before, f.Whole
	case style.Left:
		clip.X, clip.W = slice(clip.X, clip.W, r.X, r.W, f.Continued, f.Cut)
		whole.X, whole.W = r.X-f.Before, f.Whole
	case style.Right:
		clip.X, clip.W = slice(clip.X, clip.W, r.X, r.W, f.Cut, f.Continued)
		whole.X, whole.W = r.X+r.W+f.Before-f.Whole, f.Whole
	}
	path := &display.Path{}
	path.Rect(clip)
	p.C.Clip(path, false)
	border, padding := f.Border, f.Padding
	for i := range border {
		border[i] = f.Box.Look().Border[i].Width
		padding[i] = f.Box.Look().Padding[i].Of(f.W)
	}
	return whole.Snapped(), border, padding
}

// slice narrows a stretch (start and size) to that of a part, at the ends where
// it was cut.
func slice(at, size, part, partSize float64, cutStart, cutEnd bool) (float64, float64) {
	end := at + size
	if cutStart {
		at = part
	}
	if cutEnd {
		end = part + partSize
	}
	return at, end - at
}

// collapsedTable tells whether the table draws the borders of this box.
func collapsedTable(f *layout.Fragment) bool {
	s := f.Box.Look()
	return s.BorderCollapse == style.CollapseSpace && (s.Display.Inner == style.Table || s.Display.Outer == style.TableCell)
}

// anchor marks the places that links lead to, and links themselves.
func (p *Painter) anchor(f *layout.Fragment, x, y float64) {
	n := f.Box.Node
	if n != nil && f.Box.Rare().Pseudo == "scroll-marker" && n.ID != "" {
		p.C.Link(frame(f, x, y), display.Link{Address: "#" + n.ID, Text: said(n)})
	}
	if n == nil || f.Box.Rare().Pseudo != "" {
		return
	}
	if n.ID != "" && !f.Continued {
		p.C.Anchor(n.ID, x, y)
	}
	if n.Name == "a" {
		if name := n.Attr("name"); name != "" && !f.Continued {
			p.C.Anchor(name, x, y)
		}
		if href := tag.Address(n); href != "" {
			if p.Tags != nil && !p.Tags.Unread(n, p.Number) {
				p.C.Tag(p.Tags.Text(n, "", f.Box.Order, false), f.Box.Order)
			}
			p.C.Link(frame(f, x, y), display.Link{Address: href, Text: said(n)})
			p.C.Tag(nil, 0)
		}
	}
}

// said is what an element says in words: its text, and what stands for its pictures.
func said(n *markup.Node) string {
	var words []string
	n.Walk(func(k *markup.Node) bool {
		switch {
		case k.Kind == markup.Text:
			words = append(words, strings.Fields(k.Text)...)
		case k.Name == "img" || k.Name == "svg":
			words = append(words, strings.Fields(k.Attr("alt")+" "+k.Attr("aria-label"))...)
		}
		return k.Name != "style" && k.Name != "script"
	})
	return strings.Join(words, " ")
}

func (p *Painter) picture(f *layout.Fragment, x, y float64) {
	b := f.Box
	if b.Picture == nil || b.Style.Visibility != style.Visible {
		return
	}
	s := b.Style
	r := frame(f, x, y).Inset(f.Border[0]+f.Padding[0], f.Border[1]+f.Padding[1], f.Border[2]+f.Padding[2], f.Border[3]+f.Padding[3])
	if r.W <= 0 || r.H <= 0 {
		return
	}
	to := fit(b.Picture, s, r)
	p.C.Save()
	inside := b.Picture.Image != nil && to.X >= r.X-0.01 && to.Y >= r.Y-0.01 && to.X+to.W <= r.X+r.W+0.01 && to.Y+to.H <= r.Y+r.H+0.01 && radii(s, r).Zero()
	if cuts := s.OverflowX != style.Visible || s.OverflowY != style.Visible || s.Contain.Paint; cuts && !inside {
		p.C.Clip(clipArea(s, f, frame(f, x, y)), false)
	}
	p.tagFigure(b, to)
	b.Picture.Paint(p.C, to)
	p.C.Tag(nil, 0)
	p.C.Restore()
}

// fit places a picture by object-fit and object-position (CSS Images 3, §5.5).
func fit(pic *picture.Picture, s *style.Style, r display.Rect) display.Rect {
	w, h := r.W, r.H
	ratio := pic.Ratio
	contain := func() (float64, float64) {
		if ratio <= 0 {
			return r.W, r.H
		}
		if r.W/r.H > ratio {
			return r.H * ratio, r.H
		}
		return r.W, r.W / ratio
	}
	natural := func() (float64, float64) {
		switch {
		case pic.W > 0 && pic.H > 0:
			return pic.W, pic.H
		case pic.W > 0 && ratio > 0:
			return pic.W, pic.W / ratio
		case pic.H > 0 && ratio > 0:
			return pic.H * ratio, pic.H
		}
		return contain()
	}
	switch s.ObjectFit {
	case style.Contain:
		w, h = contain()
	case style.Cover:
		if ratio > 0 {
			if r.W/r.H > ratio {
				w, h = r.W, r.W/ratio
			} else {
				w, h = r.H*ratio, r.H
			}
		}
	case style.None:
		w, h = natural()
	case style.ScaleDown:
		w, h = natural()
		if cw, ch := contain(); w > cw || h > ch {
			w, h = cw, ch
		}
	}
	return display.Rect{X: r.X + s.ObjectPosition.X.Of(r.W-w), Y: r.Y + s.ObjectPosition.Y.Of(r.H-h), W: w, H: h}
}

// Transform is the matrix of a box's transforms around its origin
// (CSS Transforms 1, §7).
func Transform(s *style.Style, w, h, x, y float64) display.Matrix {
	ox, oy := x+s.TransformOrigin[0].Of(w), y+s.TransformOrigin[1].Of(h)
	m := display.Translate(ox, oy)
	for _, list := range [][]style.TransformOp{s.Translate, s.Rotate, s.Scale, s.Transform} {
		for _, op := range list {
			m = m.Mul(display.Matrix{op.M[0], op.M[1], op.M[2], op.M[3], op.X.Of(w), op.Y.Of(h)})
		}
	}
	return m.Mul(display.Translate(-ox, -oy))
}

// tagFigure says that a picture follows; alone for its alternative text it can
// be read.
func (p *Painter) tagFigure(b *box.Box, at display.Rect) {
	if p.Tags == nil || b.Node == nil || b.Rare().Pseudo != "" || p.Tags.Unread(b.Node, p.Number) {
		return
	}
	e := p.Tags.Figure(b.Node, b.Order)
	p.C.Tag(e, b.Order)
	if e != nil {
		p.C.Cover(e, at)
	}
}

// tagText says that text of a box follows.
func (p *Painter) tagText(f *layout.Fragment) {
	b := f.Box
	if p.Tags == nil || b.Node == nil || b.Leader || p.Tags.Unread(b.Node, p.Number) {
		return
	}
	blank := true
	for _, r := range f.Text.Runs {
		blank = blank && strings.TrimSpace(r.Text) == ""
	}
	p.C.Tag(p.Tags.Text(b.Node, b.Rare().Pseudo, b.Order, blank), b.Order)
	if b.Rare().Pseudo == "marker" && !blank {
		p.Tags.Numbered(b.Node, numbering(b.Style.ListType))
	}
}

// numbering is what PDF calls a counter style (ISO 32000-1, table 347). It knows few: another one that counts is Decimal.
func numbering(t style.ListType) string {
	switch t.Name {
	case "disc", "circle", "square":
		return strings.ToUpper(t.Name[:1]) + t.Name[1:]
	case "lower-alpha", "lower-latin":
		return "LowerAlpha"
	case "upper-alpha", "upper-latin":
		return "UpperAlpha"
	case "lower-roman":
		return "LowerRoman"
	case "upper-roman":
		return "UpperRoman"
	case "", "disclosure-open", "disclosure-closed": // a text, or a mark
		return "Disc"
	}
	return "Decimal"
}
