package picture

import (
	"math"
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

	ids    map[string]*markup.Node
	depth  int
	view   [2]float64 // size of the viewport in user units, for percentages
	Scaled bool       // a picture file, which grows with its box; not svg inside a page
}

// Picture gives the drawing as a picture of its natural size.
func (d *Drawing) Picture(root *style.Style) *Picture {
	p := &Picture{}
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
		c.Save()
		if d.Scaled { // what svg in a page overflows is the painter's to clip
			clip := &display.Path{}
			clip.Rect(to)
			c.Clip(clip, false)
		}
		c.Transform(display.Translate(to.X, to.Y))
		if !ok && d.Scaled && w > 0 && h > 0 { // as if its viewBox were its size (SVG 2, §8.2)
			c.Transform(display.Matrix{to.W / w, 0, 0, to.H / h, 0, 0})
			to.W, to.H = w, h
		}
		d.viewport(c, d.Root, root, to.W, to.H)
		c.Restore()
	}
	return p
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

// fitBox is the transform of preserveAspectRatio (SVG 1.1, §7.8).
func fitBox(n *markup.Node, w, h float64) display.Matrix {
	box, ok := viewBox(n)
	if !ok || box.W <= 0 || box.H <= 0 {
		return display.Identity
	}
	sx, sy := w/box.W, h/box.H
	par := n.Attr("preserveAspectRatio")
	if strings.HasPrefix(par, "none") {
		return display.Matrix{sx, 0, 0, sy, -box.X * sx, -box.Y * sy}
	}
	k := math.Min(sx, sy)
	if strings.Contains(par, "slice") {
		k = math.Max(sx, sy)
	}
	at := func(free float64, which string) float64 {
		switch {
		case strings.Contains(par, which+"Min"):
			return 0
		case strings.Contains(par, which+"Max"):
			return free
		}
		return free / 2
	}
	return display.Matrix{k, 0, 0, k, at(w-box.W*k, "x") - box.X*k, at(h-box.H*k, "Y") - box.Y*k}
}

func (d *Drawing) viewport(c display.Canvas, n *markup.Node, s *style.Style, w, h float64) {
	old := d.view
	defer func() { d.view = old }()
	d.view = [2]float64{w, h}
	m := fitBox(n, w, h)
	if box, ok := viewBox(n); ok {
		d.view = [2]float64{box.W, box.H}
	}
	c.Save()
	c.Transform(m)
	for k := n.First; k != nil; k = k.Next {
		d.node(c, k, s)
	}
	c.Restore()
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

// maxDepth bounds nested elements and references.
const maxDepth = 60

func (d *Drawing) node(c display.Canvas, n *markup.Node, parent *style.Style) {
	if n.Kind != markup.Element || d.depth > maxDepth {
		return
	}
	switch n.Name {
	case "defs", "symbol", "clipPath", "mask", "marker", "pattern", "linearGradient", "radialGradient", "title", "desc", "metadata", "style", "script", "stop":
		return
	}
	d.depth++
	defer func() { d.depth-- }()
	s := d.Styles.Style(n, "", parent)
	if s.Display.Outer == style.None {
		return
	}
	c.Save()
	defer c.Restore()
	d.transform(c, n, s)
	if cp := s.ClipPath; cp != nil {
		d.clip(c, n, s, cp)
	}
	g := display.Group{Alpha: s.Opacity, Box: d.extent()}
	if mask := d.byID(s.MaskURL); mask != nil && mask.Name == "mask" {
		g.Mask = func(in display.Canvas) { d.mask(in, mask, n, s) }
	}
	if s.Opacity < 1 || g.Mask != nil || s.BlendMode != style.Normal {
		if s.BlendMode != style.Normal {
			g.Blend = strings.ToUpper(s.BlendMode.String()[:1]) + s.BlendMode.String()[1:]
		}
		c.Group(g, func(in display.Canvas) { d.element(in, n, s) })
		return
	}
	d.element(c, n, s)
}

func (d *Drawing) extent() display.Rect { return display.Rect{X: -1e5, Y: -1e5, W: 2e5, H: 2e5} }

func (d *Drawing) transform(c display.Canvas, n *markup.Node, s *style.Style) {
	m := display.Identity
	for _, list := range [][]style.TransformOp{s.Translate, s.Rotate, s.Scale, s.Transform} {
		for _, op := range list {
			m = m.Mul(display.Matrix{op.M[0], op.M[1], op.M[2], op.M[3], op.X.Of(d.view[0]), op.Y.Of(d.view[1])})
		}
	}
	if t := n.Attr("transform"); t != "" && len(s.Transform) == 0 {
		m = m.Mul(parseTransform(t))
	}
	if m == display.Identity {
		return
	}
	ref := display.Rect{W: d.view[0], H: d.view[1]} // the reference box (Transforms 1, §8)
	if s.TransformBox == style.FillBox || s.TransformBox == style.ContentBox || s.TransformBox == style.StrokeBox || s.TransformBox == style.BorderBox {
		ref = d.bounds(n, s)
	}
	ox, oy := ref.X+s.TransformOrigin[0].Of(ref.W), ref.Y+s.TransformOrigin[1].Of(ref.H)
	c.Transform(display.Translate(ox, oy).Mul(m).Mul(display.Translate(-ox, -oy)))
}

// parseTransform reads a transform attribute (SVG 1.1, §7.6).
func parseTransform(t string) display.Matrix {
	m := display.Identity
	for {
		open := strings.IndexByte(t, '(')
		if open < 0 {
			return m
		}
		end := strings.IndexByte(t[open:], ')')
		if end < 0 {
			return m
		}
		name := strings.Trim(t[:open], " ,\n\t\r")
		v := numbers(t[open+1 : open+end])
		t = t[open+end+1:]
		get := func(i int, def float64) float64 {
			if i < len(v) {
				return v[i]
			}
			return def
		}
		switch name {
		case "translate":
			m = m.Mul(display.Translate(get(0, 0), get(1, 0)))
		case "scale":
			m = m.Mul(display.Matrix{get(0, 1), 0, 0, get(1, get(0, 1)), 0, 0})
		case "rotate":
			s, c := math.Sincos(get(0, 0) * math.Pi / 180)
			x, y := get(1, 0), get(2, 0)
			m = m.Mul(display.Translate(x, y)).Mul(display.Matrix{c, s, -s, c, 0, 0}).Mul(display.Translate(-x, -y))
		case "skewX":
			m = m.Mul(display.Matrix{1, 0, math.Tan(get(0, 0) * math.Pi / 180), 1, 0, 0})
		case "skewY":
			m = m.Mul(display.Matrix{1, math.Tan(get(0, 0) * math.Pi / 180), 0, 1, 0, 0})
		case "matrix":
			if len(v) == 6 {
				m = m.Mul(display.Matrix{v[0], v[1], v[2], v[3], v[4], v[5]})
			}
		}
	}
}

func (d *Drawing) element(c display.Canvas, n *markup.Node, s *style.Style) {
	switch n.Name {
	case "g", "a", "switch":
		for k := n.First; k != nil; k = k.Next {
			d.node(c, k, s)
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
	case "use":
		d.use(c, n, s)
	case "image":
		d.image(c, n)
	case "text":
		d.text(c, n, s)
	default:
		if p := d.shape(n, s); p != nil {
			d.paintPath(c, p, s)
			d.markers(c, n, p, s)
		}
	}
}

func (d *Drawing) nested(c display.Canvas, n *markup.Node, s *style.Style, r display.Rect) {
	if r.W <= 0 || r.H <= 0 {
		return
	}
	c.Save()
	if s.OverflowX != style.Visible {
		clip := &display.Path{}
		clip.Rect(r)
		c.Clip(clip, false)
	}
	c.Transform(display.Translate(r.X, r.Y))
	d.viewport(c, n, s, r.W, r.H)
	c.Restore()
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
	c.Save()
	defer c.Restore()
	c.Transform(display.Translate(d.x(n, "x"), d.y(n, "y")))
	if to.Name == "symbol" || to.Name == "svg" {
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
		ts := d.Styles.Style(to, "", s)
		if to.Name == "symbol" {
			cp := *ts
			cp.OverflowX = style.Hidden
			ts = &cp
		}
		d.nested(c, to, ts, display.Rect{W: w, H: h})
		return
	}
	d.node(c, to, s)
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
	r := display.Rect{X: d.x(n, "x"), Y: d.y(n, "y"), W: d.x(n, "width"), H: d.y(n, "height")}
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
	if par := n.Attr("preserveAspectRatio"); par != "none" && p.Ratio > 0 {
		w, h := r.W, r.W/p.Ratio
		if h > r.H {
			w, h = r.H*p.Ratio, r.H
		}
		r = display.Rect{X: r.X + (r.W-w)/2, Y: r.Y + (r.H-h)/2, W: w, H: h}
	}
	if p.Draw != nil {
		p.Draw(c, r)
	} else if p.Image != nil {
		c.Image(p.Image, r)
	}
}

// geometry gives a length that may be an attribute or a property.
func (d *Drawing) geometry(s *style.Style, name string, base float64) (float64, bool) {
	v, ok := s.SVG[name]
	return v.Of(base), ok
}

func (d *Drawing) shape(n *markup.Node, s *style.Style) *display.Path {
	p := &display.Path{}
	diag := math.Hypot(d.view[0], d.view[1]) / math.Sqrt2
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

func (d *Drawing) paintPath(c display.Canvas, p *display.Path, s *style.Style) {
	if s.Visibility != style.Visible {
		return
	}
	if paint, ok := d.paint(s.Fill, s, s.FillOpacity, p.Bounds()); ok {
		c.Fill(p, paint, s.FillRule == style.Evenodd)
	}
	if paint, ok := d.paint(s.Stroke, s, s.StrokeOpacity, p.Bounds()); ok {
		c.Stroke(p, paint, d.stroke(s))
	}
}

func (d *Drawing) stroke(s *style.Style) display.Stroke {
	diag := math.Hypot(d.view[0], d.view[1]) / math.Sqrt2
	st := display.Stroke{Width: s.StrokeWidth.Of(diag), Miter: s.StrokeMiter, DashOffset: s.StrokeDashOffset.Of(diag)}
	switch s.StrokeCap {
	case style.Round:
		st.Cap = 1
	case style.Square:
		st.Cap = 2
	}
	switch s.StrokeJoin {
	case style.Round:
		st.Join = 1
	case style.Bevel:
		st.Join = 2
	}
	sum := 0.0
	for _, v := range s.StrokeDash {
		x := v.Of(diag)
		if x < 0 {
			return st
		}
		sum += x
		st.Dash = append(st.Dash, x)
	}
	if sum <= 0 {
		st.Dash = nil
	} else if len(st.Dash)%2 == 1 {
		st.Dash = append(st.Dash, st.Dash...)
	}
	return st
}

func (d *Drawing) paint(p style.Paint, s *style.Style, opacity float64, box display.Rect) (display.Paint, bool) {
	if p.URL != "" {
		if n := d.byID(p.URL); n != nil {
			if out, ok := d.server(n, s, opacity, box); ok {
				return out, true
			}
		}
	}
	if p.None {
		return display.Paint{}, false
	}
	col := p.Color.Or(s.Color)
	col.A *= float32(opacity)
	return display.Paint{Color: col, Alpha: 1}, col.A > 0
}

// attr finds an attribute on a gradient or pattern, or on the one it refers to.
func (d *Drawing) attr(n *markup.Node, name string) (string, bool) {
	for range 10 {
		if v, ok := n.Lookup(name); ok {
			return v, true
		}
		if n = d.byID(href(n)); n == nil {
			return "", false
		}
	}
	return "", false
}

func (d *Drawing) server(n *markup.Node, s *style.Style, opacity float64, box display.Rect) (display.Paint, bool) {
	if n.Name == "pattern" {
		return d.pattern(n, s, opacity, box)
	}
	if n.Name != "linearGradient" && n.Name != "radialGradient" {
		return display.Paint{}, false
	}
	u, _ := d.attr(n, "gradientUnits")
	user := u == "userSpaceOnUse"
	if !user && (box.W == 0 || box.H == 0) {
		return display.Paint{}, false
	}
	get := func(name, def string, base float64) float64 {
		v, ok := d.attr(n, name)
		if !ok {
			v = def
		}
		if !user {
			base = 1
		}
		return length(v, base)
	}
	g := &display.Gradient{Matrix: display.Identity}
	if !user {
		g.Matrix = display.Matrix{box.W, 0, 0, box.H, box.X, box.Y}
	}
	if t, ok := d.attr(n, "gradientTransform"); ok {
		g.Matrix = g.Matrix.Mul(parseTransform(t))
	}
	w, h := d.view[0], d.view[1]
	if n.Name == "linearGradient" {
		g.X0, g.Y0, g.X1, g.Y1 = get("x1", "0%", w), get("y1", "0%", h), get("x2", "100%", w), get("y2", "0%", h)
	} else {
		g.Kind = display.Radial
		g.X1, g.Y1, g.R1 = get("cx", "50%", w), get("cy", "50%", h), get("r", "50%", math.Hypot(w, h)/math.Sqrt2)
		g.X0, g.Y0 = g.X1, g.Y1
		if _, ok := d.attr(n, "fx"); ok {
			g.X0 = get("fx", "50%", w)
		}
		if _, ok := d.attr(n, "fy"); ok {
			g.Y0 = get("fy", "50%", h)
		}
	}
	g.Stops = d.stops(n, opacity)
	switch len(g.Stops) {
	case 0:
		return display.Paint{}, false
	case 1:
		return display.Paint{Color: g.Stops[0].Color, Alpha: 1}, true
	}
	if m, _ := d.attr(n, "spreadMethod"); m == "repeat" || m == "reflect" {
		spreadStops(g, m == "reflect")
	}
	return display.Paint{Gradient: g, Alpha: 1}, true
}

// spreadStops writes repeated gradients out some way beyond their ends.
func spreadStops(g *display.Gradient, reflect bool) {
	const n = 12
	var out []display.GradientStop
	first := -n
	if g.Kind == display.Radial {
		first = 0
	}
	for k := first; k < n; k++ {
		for i := range g.Stops {
			s := g.Stops[i]
			if reflect && k%2 != 0 {
				s = g.Stops[len(g.Stops)-1-i]
				s.Offset = 1 - s.Offset
			}
			s.Offset = (s.Offset + float64(k-first)) / float64(n-first)
			out = append(out, s)
		}
	}
	g.Stops = out
	if g.Kind == display.Radial {
		g.R1 *= n
		return
	}
	dx, dy := g.X1-g.X0, g.Y1-g.Y0
	g.X0, g.Y0, g.X1, g.Y1 = g.X0-n*dx, g.Y0-n*dy, g.X0+n*dx, g.Y0+n*dy
}

func (d *Drawing) stops(n *markup.Node, opacity float64) []display.GradientStop {
	for range 10 {
		var out []display.GradientStop
		last := 0.0
		for k := n.First; k != nil; k = k.Next {
			if k.Name != "stop" {
				continue
			}
			s := d.Styles.Style(k, "", d.Styles.Style(n, "", style.Initial()))
			col := s.StopColor.Or(s.Color)
			col.A *= float32(s.StopOpacity * opacity)
			last = math.Min(math.Max(length(k.Attr("offset"), 1), last), 1)
			out = append(out, display.GradientStop{Offset: last, Color: col})
		}
		if len(out) > 0 {
			return out
		}
		if n = d.byID(href(n)); n == nil {
			return nil
		}
	}
	return nil
}

func (d *Drawing) pattern(n *markup.Node, s *style.Style, opacity float64, box display.Rect) (display.Paint, bool) {
	u, _ := d.attr(n, "patternUnits")
	user := u == "userSpaceOnUse"
	get := func(name string, base, whole float64) float64 {
		v, _ := d.attr(n, name)
		if !user {
			return length(v, 1) * whole
		}
		return length(v, base)
	}
	x, y, w, h := get("x", d.view[0], box.W), get("y", d.view[1], box.H), get("width", d.view[0], box.W), get("height", d.view[1], box.H)
	if w <= 0 || h <= 0 {
		return display.Paint{}, false
	}
	if !user {
		x, y = x+box.X, y+box.Y
	}
	m := display.Identity
	if t, ok := d.attr(n, "patternTransform"); ok {
		m = parseTransform(t)
	}
	content := n
	for range 10 {
		if content.First != nil {
			break
		}
		next := d.byID(href(content))
		if next == nil {
			break
		}
		content = next
	}
	cu, _ := d.attr(n, "patternContentUnits")
	return display.Paint{Alpha: opacity, Tile: &display.Tile{Box: display.Rect{X: x, Y: y, W: w, H: h}, StepX: w, StepY: h, Matrix: m, Draw: func(c display.Canvas) {
		c.Save()
		if _, ok := viewBox(n); ok {
			c.Transform(display.Translate(x, y).Mul(fitBox(n, w, h)))
		} else if cu == "objectBoundingBox" {
			c.Transform(display.Matrix{box.W, 0, 0, box.H, box.X, box.Y})
		} else if !user {
			c.Transform(display.Translate(x, y))
		}
		ps := d.Styles.Style(content, "", style.Initial())
		for k := content.First; k != nil; k = k.Next {
			d.node(c, k, ps)
		}
		c.Restore()
	}}}, true
}

// clip applies clip-path: a clipPath element or a basic shape is left to the
// page (SVG 1.1, §14.3).
func (d *Drawing) clip(c display.Canvas, n *markup.Node, s *style.Style, cp *style.ClipPath) {
	el := d.byID(cp.URL)
	if cp.Kind != style.URLShape || el == nil || el.Name != "clipPath" {
		return
	}
	out := &display.Path{}
	evenOdd := false
	m := display.Identity
	if el.Attr("clipPathUnits") == "objectBoundingBox" {
		b := d.bounds(n, s)
		m = display.Matrix{b.W, 0, 0, b.H, b.X, b.Y}
	}
	if t := el.Attr("transform"); t != "" {
		m = m.Mul(parseTransform(t))
	}
	cs := d.Styles.Style(el, "", style.Initial())
	for k := el.First; k != nil; k = k.Next {
		if k.Kind != markup.Element {
			continue
		}
		shape, km := k, m
		if t := k.Attr("transform"); t != "" {
			km = m.Mul(parseTransform(t))
		}
		if k.Name == "use" {
			if shape = d.byID(href(k)); shape == nil {
				continue
			}
			km = km.Mul(display.Translate(d.x(k, "x"), d.y(k, "y")))
		}
		ks := d.Styles.Style(shape, "", cs)
		if p := d.shape(shape, ks); p != nil && ks.Visibility == style.Visible && ks.Display.Outer != style.None {
			out.Append(p.Transform(km))
			evenOdd = evenOdd || ks.ClipRule == style.Evenodd
		}
	}
	c.Clip(out, evenOdd)
}

// bounds is the bounding box of an element's own shapes.
func (d *Drawing) bounds(n *markup.Node, s *style.Style) display.Rect {
	if p := d.shape(n, s); p != nil {
		return p.Bounds()
	}
	all := &display.Path{}
	for k := n.First; k != nil; k = k.Next {
		if k.Kind == markup.Element {
			if b := d.bounds(k, d.Styles.Style(k, "", s)); b.W > 0 || b.H > 0 {
				all.Rect(b)
			}
		}
	}
	return all.Bounds()
}

func (d *Drawing) mask(c display.Canvas, m, n *markup.Node, s *style.Style) {
	ms := d.Styles.Style(m, "", style.Initial())
	if m.Attr("maskContentUnits") == "objectBoundingBox" {
		b := d.bounds(n, s)
		c.Transform(display.Matrix{b.W, 0, 0, b.H, b.X, b.Y})
	}
	for k := m.First; k != nil; k = k.Next {
		d.node(c, k, ms)
	}
}

// markers draws marker-start, -mid and -end (SVG 1.1, §11.6).
func (d *Drawing) markers(c display.Canvas, n *markup.Node, p *display.Path, s *style.Style) {
	if s.PointerMarkers == [3]string{} || n.Name == "rect" || n.Name == "circle" || n.Name == "ellipse" {
		return
	}
	type vertex struct{ x, y float64 }
	var pts []vertex
	i := 0
	for _, o := range p.Ops {
		switch o {
		case 'M', 'L':
			pts = append(pts, vertex{p.Pts[i], p.Pts[i+1]})
			i += 2
		case 'C':
			pts = append(pts, vertex{p.Pts[i+4], p.Pts[i+5]})
			i += 6
		}
	}
	for k, at := range pts {
		which := 1
		if k == 0 {
			which = 0
		} else if k == len(pts)-1 {
			which = 2
		}
		m := d.byID(s.PointerMarkers[which])
		if m == nil || m.Name != "marker" {
			continue
		}
		a, b := at, at
		if k > 0 {
			a = pts[k-1]
		}
		if k+1 < len(pts) {
			b = pts[k+1]
		}
		angle := math.Atan2(b.y-a.y, b.x-a.x)
		if o := m.Attr("orient"); o != "auto" && o != "auto-start-reverse" {
			angle = length(o, 0) * math.Pi / 180
		}
		k := s.StrokeWidth.Px
		if m.Attr("markerUnits") == "userSpaceOnUse" {
			k = 1
		}
		w, h := 3.0, 3.0
		if m.Has("markerWidth") {
			w = d.x(m, "markerWidth")
		}
		if m.Has("markerHeight") {
			h = d.y(m, "markerHeight")
		}
		sin, cos := math.Sincos(angle)
		fit := fitBox(m, w, h)
		rx, ry := fit.Apply(d.x(m, "refX"), d.y(m, "refY"))
		c.Save()
		c.Transform(display.Matrix{cos * k, sin * k, -sin * k, cos * k, at.x, at.y}.Mul(display.Translate(-rx, -ry)))
		d.viewport(c, m, d.Styles.Style(m, "", style.Initial()), w, h)
		c.Restore()
	}
}

// text draws a text element with its spans (SVG 1.1, §10).
func (d *Drawing) text(c display.Canvas, n *markup.Node, s *style.Style) {
	t := &svgText{d: d, c: c}
	t.walk(n, s, true)
	t.flush()
}

type svgText struct {
	d     *Drawing
	c     display.Canvas
	x, y  float64
	chunk []piece // since the last absolute position
	space bool
}

// onOneLine has white space as SVG text collapses it (SVG 1.1, §10.15).
var onOneLine = strings.NewReplacer("\n", " ", "\t", " ", "\r", "")

type piece struct {
	text  string
	s     *style.Style
	y, dx float64
}

func (t *svgText) walk(n *markup.Node, s *style.Style, first bool) {
	if v := numbers(n.Attr("x")); len(v) > 0 || first {
		t.flush()
		t.x = length(firstOf(n.Attr("x")), t.d.view[0])
	}
	if n.Has("y") || first {
		t.flush()
		t.y = length(firstOf(n.Attr("y")), t.d.view[1])
	}
	dx := length(firstOf(n.Attr("dx")), t.d.view[0])
	t.y += dyOf(n, s, t.d.view[1])
	for k := n.First; k != nil; k = k.Next {
		if k.Kind == markup.Text {
			txt := onOneLine.Replace(k.Text)
			if s.Collapse == style.CollapseSpace && n.Attr("xml:space") != "preserve" {
				var b strings.Builder
				for _, r := range txt {
					if r == ' ' {
						if t.space || len(t.chunk) == 0 && b.Len() == 0 {
							continue
						}
						t.space = true
					} else {
						t.space = false
					}
					b.WriteRune(r)
				}
				txt = b.String()
			}
			if txt != "" {
				t.chunk = append(t.chunk, piece{txt, s, t.y, dx})
				dx = 0
			}
		} else if k.Name == "tspan" || k.Name == "a" || k.Name == "textPath" {
			t.walk(k, t.d.Styles.Style(k, "", s), false)
		}
	}
}

func firstOf(s string) string {
	f := strings.FieldsFunc(s, func(r rune) bool { return r == ' ' || r == ',' })
	if len(f) == 0 {
		return ""
	}
	return f[0]
}

func dyOf(n *markup.Node, s *style.Style, base float64) float64 {
	v := firstOf(n.Attr("dy"))
	if em, ok := strings.CutSuffix(v, "em"); ok {
		f, _ := strconv.ParseFloat(em, 64)
		return f * s.FontSize
	}
	return length(v, base)
}

// flush draws the chunk, anchored at its position.
func (t *svgText) flush() {
	type part struct {
		m   font.Match
		run *font.Run
		w   float64
		p   *piece
	}
	var parts []part
	total := 0.0
	for i := range t.chunk {
		p := &t.chunk[i]
		if i == len(t.chunk)-1 && p.s.Collapse == style.CollapseSpace {
			p.text = strings.TrimRight(p.text, " ")
		}
		q := font.Query{Families: p.s.Families, Weight: p.s.FontWeight, Stretch: p.s.FontStretch, Italic: p.s.FontStyle != style.Normal}
		start := 0
		var cur font.Match
		emit := func(end int) {
			if end > start {
				run := cur.Face.Shape(p.text[start:end], font.Script(firstRune(p.text[start:end])), p.s.Lang, false, "")
				w := run.Width*p.s.FontSize/cur.Face.Upem + p.s.LetterSpacing.Of(p.s.FontSize)*float64(len(run.Glyphs))
				parts = append(parts, part{cur, run, w, p})
				total += w
			}
			start = end
		}
		for j, r := range p.text {
			m, _ := t.d.Fonts.For(q, r)
			if cur.Face != nil && m.Face != cur.Face {
				emit(j)
			}
			cur = m
		}
		if cur.Face != nil {
			emit(len(p.text))
		}
		total += p.dx
	}
	if len(parts) == 0 {
		t.chunk = nil
		return
	}
	x := t.x
	switch t.chunk[0].s.TextAnchor.String() {
	case "middle":
		x -= total / 2
	case "end":
		x -= total
	}
	var last *piece
	for _, p := range parts {
		s := p.p.s
		if p.p != last {
			x += p.p.dx
			last = p.p
		}
		y := p.p.y
		switch s.DominantBaseline.String() {
		case "middle":
			y += p.m.Face.XHeight * s.FontSize / 2
		case "central":
			y += (p.m.Face.Ascent - p.m.Face.Descent) * s.FontSize / 2
		case "hanging", "text-before-edge":
			y += p.m.Face.Ascent * s.FontSize * 0.8
		}
		box := display.Rect{X: x, Y: y - p.m.Face.Ascent*s.FontSize, W: p.w, H: (p.m.Face.Ascent + p.m.Face.Descent) * s.FontSize}
		out := display.Text{Face: p.m.Face, Size: s.FontSize, Bold: p.m.Bold, Oblique: p.m.Oblique, X: x, Y: y, Runs: []*font.Run{p.run}, LetterSpacing: s.LetterSpacing.Of(s.FontSize)}
		if s.Visibility == style.Visible {
			if paint, ok := t.d.paint(s.Fill, s, s.FillOpacity, box); ok {
				out.Paint = paint
				t.c.Text(&out)
			}
			if paint, ok := t.d.paint(s.Stroke, s, s.StrokeOpacity, box); ok {
				t.c.Stroke(display.Outline(p.m.Face, p.run, s.FontSize, x, y), paint, t.d.stroke(s))
			}
		}
		x += p.w
	}
	t.x = x
	t.chunk = nil
}

func firstRune(s string) rune {
	for _, r := range s {
		return r
	}
	return 0
}
