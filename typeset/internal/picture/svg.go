package picture

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// Drawing is an SVG document (SVG 1.1) styled by its resolver.
type Drawing struct {
	Root     *markup.Node
	Styles   *style.Resolver
	Fonts    *font.Set
	Pictures func(address string) *Picture
	Lacks    func(n *markup.Node, what string)                                      // told of what is not drawn, if it is set
	Foreign  func(c display.Canvas, n *markup.Node, s *style.Style, r display.Rect) // draws what is not SVG, if it is set
	Layers   MaskLayers                                                             // draws images that mask, if it is set

	root   *style.Style
	ids    map[string]*markup.Node
	depth  int
	drawn  map[*markup.Node]bool // elements that others refer to, while they are drawn
	view   [2]float64            // size of the viewport in user units, for percentages
	space  display.Matrix        // from user units to those around the drawing
	Scaled bool                  // a picture file, which grows with its box; not svg inside a page
}

// Picture gives the drawing as a picture of its natural size.
func (d *Drawing) Picture(root *style.Style) *Picture {
	p := &Picture{}
	d.root = root
	w, h := d.natural("width"), d.natural("height")
	box, ok := viewBox(d.Root)
	if w > 0 {
		p.W = w
	}
	if h > 0 {
		p.H = h
	}
	if ok && box.W > 0 && box.H > 0 {
		p.Ratio = box.W / box.H
	}
	if w > 0 && h > 0 {
		p.Ratio = w / h
	}
	p.Draw = func(c display.Canvas, to display.Rect) {
		if d.Scaled {
			c.Drawing(d, to, func(c display.Canvas) { d.scaled(c, w, h, to.W, to.H) })
			return
		}
		c.Save()
		c.Transform(display.Translate(to.X, to.Y))
		d.whole(c, to.W, to.H)
		c.Restore()
	}
	return p
}

// whole draws all of it into a viewport. What svg in a page overflows is the painter's to clip.
func (d *Drawing) whole(c display.Canvas, w, h float64) {
	d.space = display.Identity
	d.viewport(c, d.Root, d.root, w, h)
}

// scaled draws a picture file of natural size natW × natH, 0 for none, into a box.
func (d *Drawing) scaled(c display.Canvas, natW, natH, w, h float64) {
	c.Save()
	all := display.Rect{W: w, H: h}
	cut(c, all)
	d.background(c, all)
	if _, ok := viewBox(d.Root); !ok && natW > 0 && natH > 0 { // as if its viewBox were its size (SVG 2, §8.2)
		c.Transform(display.Matrix{w / natW, 0, 0, h / natH, 0, 0})
		w, h = natW, natH
	}
	d.whole(c, w, h)
	c.Restore()
}

// background fills a picture file with the colour that its style sheets give its root (CSS Backgrounds 3, §2.11.1).
func (d *Drawing) background(c display.Canvas, all display.Rect) {
	if color := d.root.BackgroundColor.Or(d.root.Color); color.A > 0 {
		p := &display.Path{}
		p.Rect(all)
		c.Fill(p, display.Solid(color), false)
	}
	if images := d.root.Background.Images; d.Lacks != nil && slices.ContainsFunc(images, func(i *style.Image) bool { return i != nil }) {
		d.Lacks(d.Root, "background-image")
	}
}

func (d *Drawing) natural(name string) float64 {
	v := strings.TrimSpace(d.Root.Attr(name))
	if v == "" || strings.HasSuffix(v, "%") {
		return 0
	}
	return length(v, 0)
}

func viewBox(n *markup.Node) (display.Rect, bool) {
	v := numbers(n.Attr("viewBox"))
	if len(v) != 4 {
		return display.Rect{}, false
	}
	return display.Rect{X: v[0], Y: v[1], W: v[2], H: v[3]}, true
}

func numbers(s string) []float64 {
	p := &pathParser{s: s}
	var out []float64
	for {
		v, ok := p.num()
		if !ok {
			return out
		}
		out = append(out, v)
		for p.i < len(p.s) && (p.s[p.i] >= 'a' && p.s[p.i] <= 'z' || p.s[p.i] == '%') {
			p.i++
		}
	}
}

var units = map[string]float64{"": 1, "px": 1, "pt": 96.0 / 72, "pc": 16, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96, "em": 16, "rem": 16, "ex": 8, "q": 96 / 101.6}

// length reads an SVG length; percentages are of base.
func length(s string, base float64) float64 {
	s = strings.TrimSpace(s)
	i := len(s)
	for i > 0 && (s[i-1] >= 'a' && s[i-1] <= 'z' || s[i-1] >= 'A' && s[i-1] <= 'Z' || s[i-1] == '%') {
		i--
	}
	v, err := strconv.ParseFloat(s[:i], 64)
	if err != nil {
		return 0
	}
	if s[i:] == "%" {
		return v * base / 100
	}
	return v * units[strings.ToLower(s[i:])]
}

// fitBox is the transform of preserveAspectRatio (SVG 2, §8.2).
func fitBox(n *markup.Node, w, h float64) display.Matrix {
	box, ok := viewBox(n)
	if !ok || box.W <= 0 || box.H <= 0 {
		return display.Identity
	}
	return fitted(n.Attr("preserveAspectRatio"), box, w, h)
}

// fitted is the transform that puts a box into a viewport as preserveAspectRatio says.
func fitted(how string, box display.Rect, w, h float64) display.Matrix {
	sx, sy := w/box.W, h/box.H
	if strings.HasPrefix(how, "none") {
		return display.Matrix{sx, 0, 0, sy, -box.X * sx, -box.Y * sy}
	}
	k := math.Min(sx, sy)
	if strings.Contains(how, "slice") {
		k = math.Max(sx, sy)
	}
	at := func(free float64, which string) float64 {
		switch {
		case strings.Contains(how, which+"Min"):
			return 0
		case strings.Contains(how, which+"Max"):
			return free
		}
		return free / 2
	}
	return display.Matrix{k, 0, 0, k, at(w-box.W*k, "x") - box.X*k, at(h-box.H*k, "Y") - box.Y*k}
}

// in draws in a space of its own.
func (d *Drawing) in(c display.Canvas, m display.Matrix, draw func()) {
	old := d.space
	c.Save()
	if m != display.Identity {
		c.Transform(m)
		d.space = d.space.Mul(m)
	}
	draw()
	c.Restore()
	d.space = old
}

func (d *Drawing) viewport(c display.Canvas, n *markup.Node, s *style.Style, w, h float64) {
	old := d.view
	defer func() { d.view = old }()
	d.view = [2]float64{w, h}
	if box, ok := viewBox(n); ok {
		if box.W <= 0 || box.H <= 0 { // it is not drawn (SVG 2, §8.2)
			return
		}
		d.view = [2]float64{box.W, box.H}
	}
	d.in(c, fitBox(n, w, h), func() { d.kids(c, n, s) })
}

func (d *Drawing) kids(c display.Canvas, n *markup.Node, s *style.Style) {
	for k := n.First; k != nil; k = k.Next {
		d.node(c, k, s)
	}
}

func (d *Drawing) byID(ref string) *markup.Node {
	i := strings.LastIndexByte(ref, '#')
	if i < 0 {
		return nil
	}
	if d.ids == nil {
		d.ids = map[string]*markup.Node{}
		top := d.Root
		for top.Parent != nil {
			top = top.Parent
		}
		top.Walk(func(n *markup.Node) bool {
			if n.ID != "" && d.ids[n.ID] == nil {
				d.ids[n.ID] = n
			}
			return true
		})
	}
	return d.ids[ref[i+1:]]
}

// own is the style of an element where it stands, which others refer to.
func (d *Drawing) own(n *markup.Node) *style.Style {
	if n == d.Root && d.root != nil {
		return d.root
	}
	if n.Parent == nil || n.Parent.Kind != markup.Element {
		return d.Styles.Style(n, "", style.Initial())
	}
	return d.Styles.Style(n, "", d.own(n.Parent))
}

// within draws what another element refers to, unless that is being drawn already: what
// would lead to itself is left out (SVG 2, §5.6 and §14.7).
func (d *Drawing) within(n *markup.Node, draw func()) {
	if d.drawn[n] {
		return
	}
	if d.drawn == nil {
		d.drawn = map[*markup.Node]bool{}
	}
	d.drawn[n] = true
	draw()
	delete(d.drawn, n)
}

// maxDepth bounds nested elements and references.
const maxDepth = 60

// unseen elements are drawn where others refer to them only.
var unseen = map[string]bool{
	"defs": true, "symbol": true, "clipPath": true, "mask": true, "marker": true, "pattern": true, "linearGradient": true, "radialGradient": true,
	"filter": true, "title": true, "desc": true, "metadata": true, "style": true, "script": true, "stop": true,
}

func (d *Drawing) node(c display.Canvas, n *markup.Node, parent *style.Style) {
	if n.Kind != markup.Element || d.depth > maxDepth || unseen[n.Name] || !d.allowed(n) {
		return
	}
	d.depth++
	defer func() { d.depth-- }()
	s := d.Styles.Style(n, "", parent)
	if s.Display.Outer == style.None {
		return
	}
	if f := n.Attr("filter"); f != "" && f != "none" && d.Lacks != nil {
		d.Lacks(n, "filter")
	}
	d.in(c, d.matrix(n, s), func() {
		d.clip(c, n, s)
		g := display.Group{Alpha: s.Opacity, Blend: display.BlendMode(s.BlendMode), Box: d.extent()}
		g.Mask, g.AlphaMask = d.masked(n, s)
		if s.Opacity < 1 || g.Mask != nil || g.Blend != "" || s.Isolation == style.Isolate {
			c.Group(g, func(in display.Canvas) { d.element(in, n, s) })
			return
		}
		d.element(c, n, s)
	})
}

// allowed tells whether an element is to be drawn by what it asks of the reader: a
// language or extensions (SVG 2, §5.9).
func (d *Drawing) allowed(n *markup.Node) bool {
	if v, given := n.Lookup("requiredExtensions"); given && strings.TrimSpace(v) != "" {
		return false
	}
	v, given := n.Lookup("systemLanguage")
	if !given {
		return true
	}
	own := "en"
	for p := d.Root; p != nil; p = p.Parent {
		if lang := p.Attr("lang"); lang != "" {
			own = lang
			break
		}
	}
	for lang := range strings.SplitSeq(v, ",") {
		if lang = strings.TrimSpace(lang); strings.EqualFold(lang, own) || strings.HasPrefix(strings.ToLower(lang), strings.ToLower(own)+"-") {
			return true
		}
	}
	return false
}

func (d *Drawing) extent() display.Rect { return display.Rect{X: -1e5, Y: -1e5, W: 2e5, H: 2e5} }

func (d *Drawing) element(c display.Canvas, n *markup.Node, s *style.Style) {
	switch n.Name {
	case "g", "a":
		d.kids(c, n, s)
	case "switch": // the first that may be drawn
		for k := n.First; k != nil; k = k.Next {
			if k.Kind == markup.Element && d.allowed(k) {
				d.node(c, k, s)
				break
			}
		}
	case "svg":
		x, y := d.x(n, "x"), d.y(n, "y")
		w, h := d.view[0], d.view[1]
		if n.Has("width") {
			w = d.x(n, "width")
		}
		if n.Has("height") {
			h = d.y(n, "height")
		}
		d.nested(c, n, s, display.Rect{X: x, Y: y, W: w, H: h})
	case "foreignObject":
		d.foreign(c, n, s)
	case "use":
		d.use(c, n, s)
	case "image":
		d.image(c, n)
	case "text":
		d.text(c, n, s)
	default:
		if p := d.shape(n, s); p != nil {
			d.paintPath(c, n, p, s)
		}
	}
}

// foreign draws HTML inside the drawing (SVG 2, §12.3).
func (d *Drawing) foreign(c display.Canvas, n *markup.Node, s *style.Style) {
	r := d.rect(n)
	if d.Foreign == nil || r.W <= 0 || r.H <= 0 {
		return
	}
	c.Save()
	if s.OverflowX != style.Visible {
		cut(c, r)
	}
	d.Foreign(c, n, s, r)
	c.Restore()
}

func (d *Drawing) nested(c display.Canvas, n *markup.Node, s *style.Style, r display.Rect) {
	if r.W <= 0 || r.H <= 0 {
		return
	}
	d.in(c, display.Translate(r.X, r.Y), func() {
		if s.OverflowX != style.Visible {
			cut(c, display.Rect{W: r.W, H: r.H})
		}
		d.viewport(c, n, s, r.W, r.H)
	})
}

func (d *Drawing) x(n *markup.Node, name string) float64 { return length(n.Attr(name), d.view[0]) }
func (d *Drawing) y(n *markup.Node, name string) float64 { return length(n.Attr(name), d.view[1]) }

func href(n *markup.Node) string {
	if v := n.Attr("href"); v != "" {
		return v
	}
	if v := n.Attr("xlink:href"); v != "" {
		return v
	}
	return n.Attr("xlink:xlink:href")
}

func (d *Drawing) use(c display.Canvas, n *markup.Node, s *style.Style) {
	to := d.byID(href(n))
	if to == nil {
		return
	}
	for p := n; p != nil; p = p.Parent {
		if p == to {
			return
		}
	}
	d.within(to, func() {
		d.in(c, display.Translate(d.x(n, "x"), d.y(n, "y")), func() {
			if to.Name == "symbol" || to.Name == "svg" {
				d.useViewport(c, n, to, s)
				return
			}
			d.node(c, to, s)
		})
	})
}

// useViewport draws a symbol, or an svg element, in the size that use gives it.
func (d *Drawing) useViewport(c display.Canvas, n, to *markup.Node, s *style.Style) {
	w, h := d.view[0], d.view[1]
	if n.Has("width") {
		w = d.x(n, "width")
	} else if to.Name == "svg" && to.Has("width") {
		w = d.x(to, "width")
	}
	if n.Has("height") {
		h = d.y(n, "height")
	} else if to.Name == "svg" && to.Has("height") {
		h = d.y(to, "height")
	}
	d.nested(c, to, d.Styles.Style(to, "", s), display.Rect{W: w, H: h})
}

// rect is the rectangle that the attributes of an element give.
func (d *Drawing) rect(n *markup.Node) display.Rect {
	return display.Rect{X: d.x(n, "x"), Y: d.y(n, "y"), W: d.x(n, "width"), H: d.y(n, "height")}
}

// imageRect is the rectangle of an image element, sized by its picture where it gives no size.
func (d *Drawing) imageRect(n *markup.Node, p *Picture) display.Rect {
	r := d.rect(n)
	if p == nil {
		return r
	}
	if r.W <= 0 {
		r.W = p.W
		if r.H > 0 && p.Ratio > 0 {
			r.W = r.H * p.Ratio
		}
	}
	if r.H <= 0 {
		r.H = p.H
		if p.Ratio > 0 {
			r.H = r.W / p.Ratio
		}
	}
	return r
}

func (d *Drawing) image(c display.Canvas, n *markup.Node) {
	ref := href(n)
	if ref == "" {
		return
	}
	p := d.Pictures(ref)
	if p == nil {
		return
	}
	r := d.imageRect(n, p)
	to := r
	if p.Ratio > 0 {
		m := fitted(n.Attr("preserveAspectRatio"), display.Rect{W: p.Ratio, H: 1}, r.W, r.H)
		to = display.Rect{X: r.X + m[4], Y: r.Y + m[5], W: p.Ratio * m[0], H: m[3]}
	}
	c.Save()
	if to.W > r.W || to.H > r.H {
		cut(c, r)
	}
	p.Paint(c, to)
	c.Restore()
}

// geometry gives a length that may be an attribute or a property.
func (d *Drawing) geometry(s *style.Style, name string, base float64) (float64, bool) {
	v, ok := s.SVG[name]
	return v.Of(base), ok
}

func (d *Drawing) shape(n *markup.Node, s *style.Style) *display.Path {
	p := &display.Path{}
	diag := d.diagonal()
	gx := func(name string) float64 { v, _ := d.geometry(s, name, d.view[0]); return v }
	gy := func(name string) float64 { v, _ := d.geometry(s, name, d.view[1]); return v }
	switch n.Name {
	case "path":
		return ParsePath(n.Attr("d"))
	case "rect":
		w, h := d.x(n, "width"), d.y(n, "height")
		if s.Width.Kind == style.Length {
			w = s.Width.Of(d.view[0])
		}
		if s.Height.Kind == style.Length {
			h = s.Height.Of(d.view[1])
		}
		if w <= 0 || h <= 0 {
			return nil
		}
		rx, okX := d.geometry(s, "rx", d.view[0])
		ry, okY := d.geometry(s, "ry", d.view[1])
		if !okX {
			rx = ry
		}
		if !okY {
			ry = rx
		}
		rx, ry = math.Min(rx, w/2), math.Min(ry, h/2)
		c := [2]float64{rx, ry}
		p.RoundRect(display.Rect{X: gx("x"), Y: gy("y"), W: w, H: h}, display.Radii{c, c, c, c})
	case "circle":
		r, _ := d.geometry(s, "r", diag)
		if r <= 0 {
			return nil
		}
		p.Ellipse(gx("cx"), gy("cy"), r, r)
	case "ellipse":
		rx, okX := d.geometry(s, "rx", d.view[0])
		ry, okY := d.geometry(s, "ry", d.view[1])
		if !okX {
			rx = ry
		}
		if !okY {
			ry = rx
		}
		if rx <= 0 || ry <= 0 {
			return nil
		}
		p.Ellipse(gx("cx"), gy("cy"), rx, ry)
	case "line":
		p.MoveTo(d.x(n, "x1"), d.y(n, "y1"))
		p.LineTo(d.x(n, "x2"), d.y(n, "y2"))
	case "polyline", "polygon":
		v := numbers(n.Attr("points"))
		for i := 0; i+1 < len(v); i += 2 {
			if i == 0 {
				p.MoveTo(v[0], v[1])
			} else {
				p.LineTo(v[i], v[i+1])
			}
		}
		if n.Name == "polygon" && len(v) >= 2 {
			p.Close()
		}
	default:
		return nil
	}
	return p
}
