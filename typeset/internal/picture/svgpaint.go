package picture

import (
	"math"
	"strings"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// paintPath fills and strokes a shape, and draws its markers, in their order.
func (d *Drawing) paintPath(c display.Canvas, n *markup.Node, p *display.Path, s *style.Style) {
	if s.Visibility != style.Visible {
		return
	}
	for step := range strings.FieldsSeq(s.PaintOrder) {
		switch step {
		case "fill":
			if inner := withArea(p); len(inner.Ops) > 0 {
				if paint, ok := d.paint(s.Fill, s, s.FillOpacity, p.Bounds()); ok {
					c.Fill(inner, paint, s.FillRule == style.Evenodd)
				}
			}
		case "stroke":
			if paint, ok := d.paint(s.Stroke, s, s.StrokeOpacity, p.Bounds()); ok {
				d.strokePath(c, p, paint, s)
			}
		case "markers":
			d.markers(c, n, p, s)
		}
	}
}

// withArea is a path without its straight lines: filling one would leave a hair line
// (ISO 32000-1, §8.5.3.1).
func withArea(p *display.Path) *display.Path {
	out := &display.Path{}
	op, pt := 0, 0 // where the subpath begins
	i := 0
	end := func(k int) {
		if !straight(p.Pts[pt:i]) {
			out.Ops, out.Pts = append(out.Ops, p.Ops[op:k]...), append(out.Pts, p.Pts[pt:i]...)
		}
		op, pt = k, i
	}
	for k, o := range p.Ops {
		switch o {
		case 'M':
			end(k)
			i += 2
		case 'L':
			i += 2
		case 'C':
			i += 6
		}
	}
	end(len(p.Ops))
	return out
}

// straight tells whether points lie on one line.
func straight(pts []float64) bool {
	ax, ay := 0.0, 0.0 // to the first point that lies apart from the start
	for i := 2; i+1 < len(pts); i += 2 {
		bx, by := pts[i]-pts[0], pts[i+1]-pts[1]
		if ax == 0 && ay == 0 {
			ax, ay = bx, by
		} else if math.Abs(ax*by-ay*bx) > 1e-9*(math.Abs(ax)+math.Abs(ay))*(math.Abs(bx)+math.Abs(by)) {
			return false
		}
	}
	return true
}

// strokePath strokes a shape; where its stroke does not scale with it, in the space
// around the drawing (SVG 2, §8.13).
func (d *Drawing) strokePath(c display.Canvas, p *display.Path, paint display.Paint, s *style.Style) {
	if back, ok := d.space.Inverse(); ok && s.VectorEffect == style.NonScalingStroke {
		c.Save()
		c.Transform(back)
		c.Stroke(p.Transform(d.space), paint, d.stroke(s))
		c.Restore()
		return
	}
	c.Stroke(p, paint, d.stroke(s))
}

// diagonal is what percentages are of that belong to neither axis (SVG 2, §8.9).
func (d *Drawing) diagonal() float64 { return math.Hypot(d.view[0], d.view[1]) / math.Sqrt2 }

func (d *Drawing) stroke(s *style.Style) display.Stroke {
	diag := d.diagonal()
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
			s := d.own(k)
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
		d.within(content, func() { d.kids(c, content, d.own(content)) })
		c.Restore()
	}}}, true
}
