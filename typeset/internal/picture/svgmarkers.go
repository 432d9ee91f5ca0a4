package picture

import (
	"math"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// vertex is a point of a path with the directions in which the path comes to it and
// leaves it, in radians; NaN where it does not.
type vertex struct{ x, y, in, out float64 }

// direction is that of a marker: of the path, or half way between both of its
// directions (SVG 2, §13.7.4).
func (v vertex) direction() float64 {
	switch {
	case math.IsNaN(v.in) && math.IsNaN(v.out):
		return 0
	case math.IsNaN(v.in):
		return v.out
	case math.IsNaN(v.out):
		return v.in
	}
	si, ci := math.Sincos(v.in)
	so, co := math.Sincos(v.out)
	if math.Abs(si+so) < 1e-9 && math.Abs(ci+co) < 1e-9 {
		return v.in + math.Pi/2
	}
	return math.Atan2(si+so, ci+co)
}

// vertices are the points of a path where markers stand.
func vertices(p *display.Path) (list []vertex) {
	none := math.NaN()
	angle := func(x0, y0, x1, y1 float64) float64 {
		if x0 == x1 && y0 == y1 {
			return none
		}
		return math.Atan2(y1-y0, x1-x0)
	}
	first := 0 // of the subpath
	i := 0
	to := func(x, y, out, in float64) {
		list[len(list)-1].out = out
		list = append(list, vertex{x, y, in, none})
	}
	for _, o := range p.Ops {
		switch o {
		case 'M':
			first = len(list)
			list = append(list, vertex{p.Pts[i], p.Pts[i+1], none, none})
			i += 2
		case 'L':
			last, x, y := list[len(list)-1], p.Pts[i], p.Pts[i+1]
			a := angle(last.x, last.y, x, y)
			to(x, y, a, a)
			i += 2
		case 'C':
			last, q := list[len(list)-1], p.Pts[i:i+6]
			out, in := none, none
			for _, k := range []int{0, 2, 4} { // the first control point that stands apart
				if math.IsNaN(out) {
					out = angle(last.x, last.y, q[k], q[k+1])
				}
			}
			for _, at := range [][2]float64{{q[2], q[3]}, {q[0], q[1]}, {last.x, last.y}} {
				if math.IsNaN(in) {
					in = angle(at[0], at[1], q[4], q[5])
				}
			}
			to(q[4], q[5], out, in)
			i += 6
		case 'Z':
			start, last := list[first], list[len(list)-1]
			a := angle(last.x, last.y, start.x, start.y)
			if math.IsNaN(a) {
				a = last.in
				list[len(list)-1].out = start.out
			} else {
				to(start.x, start.y, a, a)
				list[len(list)-1].out = start.out
			}
			list[first].in = a
		}
	}
	return list
}

// markers draws marker-start, -mid and -end (SVG 2, §13.7).
func (d *Drawing) markers(c display.Canvas, n *markup.Node, p *display.Path, s *style.Style) {
	if s.PointerMarkers == [3]string{} || n.Name == "rect" || n.Name == "circle" || n.Name == "ellipse" {
		return
	}
	list := vertices(p)
	draw := func(which int, at vertex) {
		if m := d.byID(s.PointerMarkers[which]); m != nil && m.Name == "marker" {
			d.within(m, func() { d.marker(c, m, at, which == 0, s) })
		}
	}
	for k, at := range list {
		if k == 0 {
			draw(0, at)
		}
		if k > 0 && k < len(list)-1 {
			draw(1, at)
		}
		if k == len(list)-1 {
			draw(2, at)
		}
	}
}

func (d *Drawing) marker(c display.Canvas, m *markup.Node, at vertex, start bool, s *style.Style) {
	angle := at.direction()
	switch o := m.Attr("orient"); {
	case o == "auto":
	case o == "auto-start-reverse":
		if start {
			angle += math.Pi
		}
	default:
		angle = length(o, 0) * math.Pi / 180
	}
	k := s.StrokeWidth.Of(d.diagonal())
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
	if w <= 0 || h <= 0 {
		return
	}
	sin, cos := math.Sincos(angle)
	rx, ry := fitBox(m, w, h).Apply(length(m.Attr("refX"), w), length(m.Attr("refY"), h))
	ms := d.own(m)
	d.in(c, display.Matrix{cos * k, sin * k, -sin * k, cos * k, at.x, at.y}.Mul(display.Translate(-rx, -ry)), func() {
		if ms.OverflowX != style.Visible {
			cut(c, display.Rect{W: w, H: h})
		}
		d.viewport(c, m, ms, w, h)
	})
}
