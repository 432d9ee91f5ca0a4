package picture

import (
	"math"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// clip applies clip-path: a clipPath element, or a basic shape in the box that it
// names (CSS Masking 1, §5).
func (d *Drawing) clip(c display.Canvas, n *markup.Node, s *style.Style) {
	cp := s.ClipPath
	switch {
	case cp == nil:
	case cp.Kind != style.URLShape:
		if path, evenOdd := Shape(cp, d.clipBox(n, s, cp.Box)); path != nil {
			c.Clip(path, evenOdd)
		}
	default:
		if el := d.byID(cp.URL); el != nil && el.Name == "clipPath" {
			d.clipTo(c, el, d.bounds(n, s), 0)
		}
	}
}

// clipBox is the reference box of a basic shape: of the element, or the viewport.
func (d *Drawing) clipBox(n *markup.Node, s *style.Style, box style.Keyword) display.Rect {
	switch box {
	case style.ViewBox:
		return display.Rect{W: d.view[0], H: d.view[1]}
	case style.StrokeBox, style.BorderBox, style.MarginBox:
		b := d.bounds(n, s)
		if !s.Stroke.None {
			w := d.stroke(s).Width / 2
			return b.Inset(-w, -w, -w, -w)
		}
		return b
	}
	return d.bounds(n, s)
}

// clipTo clips what has a bounding box b to what a clipPath element holds, and to what
// its own clip-path does.
func (d *Drawing) clipTo(c display.Canvas, el *markup.Node, b display.Rect, depth int) {
	cs := d.own(el)
	if cs.ClipPath != nil && cs.ClipPath.Kind == style.URLShape && depth < maxDepth {
		if outer := d.byID(cs.ClipPath.URL); outer != nil && outer.Name == "clipPath" {
			d.clipTo(c, outer, b, depth+1)
		}
	}
	m := display.Identity
	if el.Attr("clipPathUnits") == "objectBoundingBox" {
		m = display.Matrix{b.W, 0, 0, b.H, b.X, b.Y}
	}
	m = m.Mul(d.matrix(el, cs))
	out, evenOdd := &display.Path{}, false
	for k := el.First; k != nil; k = k.Next {
		if k.Kind != markup.Element {
			continue
		}
		shape, ks := k, d.Styles.Style(k, "", cs)
		km := m.Mul(d.matrix(k, ks))
		if k.Name == "use" {
			if shape = d.byID(href(k)); shape == nil {
				continue
			}
			km = km.Mul(display.Translate(d.x(k, "x"), d.y(k, "y")))
			ks = d.Styles.Style(shape, "", ks)
			km = km.Mul(d.matrix(shape, ks))
		}
		if ks.Visibility != style.Visible || ks.Display.Outer == style.None {
			continue
		}
		if p := d.outline(shape, ks); p != nil {
			out.Append(p.Transform(km))
			evenOdd = evenOdd || ks.ClipRule == style.Evenodd
		}
	}
	c.Clip(out, evenOdd)
}

// outline is the shape of an element, or of the letters of a text.
func (d *Drawing) outline(n *markup.Node, s *style.Style) *display.Path {
	if n.Name != "text" {
		return d.shape(n, s)
	}
	letters := &letters{m: display.Identity}
	d.text(letters, n, s)
	return &letters.path
}

// letters is a canvas that gathers the outlines of text.
type letters struct {
	display.Canvas
	path  display.Path
	m     display.Matrix
	saved []display.Matrix
}

func (l *letters) Save()                      { l.saved = append(l.saved, l.m) }
func (l *letters) Transform(m display.Matrix) { l.m = l.m.Mul(m) }
func (l *letters) Text(t *display.Text)       { l.path.Append(t.Outline().Transform(l.m)) }

func (l *letters) Restore() {
	last := len(l.saved) - 1
	l.m, l.saved = l.saved[last], l.saved[:last]
}

func (l *letters) Fill(*display.Path, display.Paint, bool)             {}
func (l *letters) Stroke(*display.Path, display.Paint, display.Stroke) {}

// bounds is the bounding box of an element in its own user space (SVG 2, §8.10).
func (d *Drawing) bounds(n *markup.Node, s *style.Style) display.Rect {
	switch n.Name {
	case "foreignObject":
		return d.rect(n)
	case "image":
		return d.imageRect(n, d.Pictures(href(n)))
	case "use":
		return d.useBounds(n, s)
	}
	if p := d.outline(n, s); p != nil {
		return p.Bounds()
	}
	all := &display.Path{}
	for k := n.First; k != nil; k = k.Next {
		if k.Kind != markup.Element || unseen[k.Name] {
			continue
		}
		ks := d.Styles.Style(k, "", s)
		if b := d.bounds(k, ks); b.W > 0 || b.H > 0 {
			box := &display.Path{}
			box.Rect(b)
			all.Append(box.Transform(d.matrix(k, ks)))
		}
	}
	return all.Bounds()
}

// useBounds is the bounding box of what a use element draws.
func (d *Drawing) useBounds(n *markup.Node, s *style.Style) (b display.Rect) {
	to := d.byID(href(n))
	if to == nil {
		return b
	}
	d.within(to, func() {
		ts := d.Styles.Style(to, "", s)
		box := &display.Path{}
		box.Rect(d.bounds(to, ts))
		b = box.Transform(display.Translate(d.x(n, "x"), d.y(n, "y")).Mul(d.matrix(to, ts))).Bounds()
	})
	return b
}

// MaskLayers draws the images that mask an element in a style: in boxes by the names of
// mask-origin and mask-clip, with the mask elements that layers name.
type MaskLayers func(c display.Canvas, s *style.Style, boxes func(style.Keyword) display.Rect, element func(address string) (draw func(display.Canvas), alpha bool))

// masked is what draws the mask of an element and whether its alpha counts; nil without one.
func (d *Drawing) masked(n *markup.Node, s *style.Style) (draw func(display.Canvas), alpha bool) {
	element := func(address string) (func(display.Canvas), bool) {
		m := d.byID(address)
		if m == nil || m.Name != "mask" {
			return nil, false
		}
		return func(c display.Canvas) { d.mask(c, m, d.bounds(n, s)) }, d.own(m).MaskType == style.AlphaKey
	}
	if draw, alpha = element(s.MaskElement()); draw != nil || !s.Masked() || d.Layers == nil {
		return draw, alpha
	}
	return func(c display.Canvas) {
		d.Layers(c, s, func(k style.Keyword) display.Rect {
			if k == style.NoClip {
				return d.extent()
			}
			return d.clipBox(n, s, k)
		}, element)
	}, s.MaskMode != style.Luminance
}

// mask draws what a mask element holds for what has a bounding box b, within its
// region (CSS Masking 1, §7).
func (d *Drawing) mask(c display.Canvas, m *markup.Node, b display.Rect) {
	ms := d.own(m)
	region := display.Rect{X: b.X - 0.1*b.W, Y: b.Y - 0.1*b.H, W: 1.2 * b.W, H: 1.2 * b.H}
	user := m.Attr("maskUnits") == "userSpaceOnUse"
	side := func(name string, view, base, from, def float64) float64 {
		switch v, given := m.Lookup(name); {
		case !given:
			return def
		case user:
			return length(v, view)
		default:
			return from + length(v, 1)*base
		}
	}
	if user {
		region = display.Rect{X: -0.1 * d.view[0], Y: -0.1 * d.view[1], W: 1.2 * d.view[0], H: 1.2 * d.view[1]}
	}
	region = display.Rect{
		X: side("x", d.view[0], b.W, b.X, region.X), Y: side("y", d.view[1], b.H, b.Y, region.Y),
		W: math.Max(side("width", d.view[0], b.W, 0, region.W), 0), H: math.Max(side("height", d.view[1], b.H, 0, region.H), 0),
	}
	content := display.Identity
	if m.Attr("maskContentUnits") == "objectBoundingBox" {
		content = display.Matrix{b.W, 0, 0, b.H, b.X, b.Y}
	}
	c.Save()
	cut(c, region)
	d.within(m, func() {
		d.in(c, content, func() { d.kids(c, m, ms) })
	})
	c.Restore()
}
