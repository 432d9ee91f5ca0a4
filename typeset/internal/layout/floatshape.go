package layout

import (
	"math"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
)

// outline is the edge of the area of a float that lines keep clear of, as points that
// stand close together, relative to the corner of the margin box (CSS Shapes 1, §2).
type outline struct {
	points [][2]float64
	margin float64 // around them
}

// outlineStep is how far apart the points of an outline stand at most, in px.
const outlineStep = 2

// outlineOf is the outline that shape-outside gives a float in a container of width w; nil for its margin box. In vertical text,
// whose shapes would have to be turned, lines keep clear of the margin box.
func outlineOf(f *Fragment, e *edges, w float64) *outline {
	s := f.Box.Style
	c := s.ShapeOutside
	if c == nil || s.WritingMode != style.HorizontalTb {
		return nil
	}
	var in [4]float64 // of the shape's box in the margin box
	for i := range in {
		switch c.Box {
		case style.ContentBox:
			in[i] = e.margin[i] + f.Border[i] + f.Padding[i]
		case style.PaddingBox:
			in[i] = e.margin[i] + f.Border[i]
		case style.BorderBox:
			in[i] = e.margin[i]
		}
	}
	whole := display.Rect{W: f.W + e.margin[style.Left] + e.margin[style.Right], H: f.H + e.margin[style.Top] + e.margin[style.Bottom]}
	shape := *c
	if c.Kind == style.BoxShape {
		shape = style.ClipPath{Kind: style.InsetShape, Radius: cornersOf(s, f, e, &in)}
	}
	path, _ := picture.Shape(&shape, whole.Inset(in[style.Top], in[style.Right], in[style.Bottom], in[style.Left]))
	if path == nil {
		return nil
	}
	o := &outline{margin: math.Max(s.ShapeMargin.Of(w), 0)}
	o.trace(path)
	return o
}

// cornersOf are the radii of a box of a float that lies so far in its margin box (CSS Shapes 1, §4.1).
func cornersOf(s *style.Style, f *Fragment, e *edges, in *[4]float64) (out [4][2]style.LP) {
	for i, r := range s.Radius {
		upright, level := style.Top, style.Left // the edges that meet there
		if i == 1 || i == 2 {
			level = style.Right
		}
		if i > 1 {
			upright = style.Bottom
		}
		out[i][0].Px = corner(r[0].Of(f.W), e.margin[level]-in[level])
		out[i][1].Px = corner(r[1].Of(f.H), e.margin[upright]-in[upright])
	}
	return out
}

// corner is the radius of a corner that lies so far outside of one with radius r: a sharp one stays sharp.
func corner(r, outside float64) float64 {
	if ratio := r / outside; r > 0 && outside > r {
		return r + outside*(1+math.Pow(ratio-1, 3))
	}
	if r <= 0 {
		return 0
	}
	return math.Max(r+outside, 0)
}

// trace notes the points of a path.
func (o *outline) trace(path *display.Path) {
	var x, y, startX, startY float64
	line := func(toX, toY float64) {
		n := max(int(math.Hypot(toX-x, toY-y)/outlineStep), 1)
		n = min(n, 4096)
		for i := 1; i <= n; i++ {
			t := float64(i) / float64(n)
			o.points = append(o.points, [2]float64{x + (toX-x)*t, y + (toY-y)*t})
		}
		x, y = toX, toY
	}
	at := 0
	for _, op := range path.Ops {
		p := path.Pts[at:]
		switch op {
		case 'M':
			x, y, startX, startY = p[0], p[1], p[0], p[1]
			o.points = append(o.points, [2]float64{x, y})
			at += 2
		case 'L':
			line(p[0], p[1])
			at += 2
		case 'C':
			x0, y0 := x, y
			const pieces = 32
			for i := 1; i <= pieces; i++ {
				t := float64(i) / pieces
				u := 1 - t
				line(u*u*u*x0+3*u*u*t*p[0]+3*u*t*t*p[2]+t*t*t*p[4], u*u*u*y0+3*u*u*t*p[1]+3*u*t*t*p[3]+t*t*t*p[5])
			}
			at += 6
		case 'Z':
			line(startX, startY)
		}
	}
}

// across is the stretch that the area and its margin take up of a strip, relative to the margin box; ok is
// false where there is none.
func (o *outline) across(y, h float64) (from, to float64, ok bool) {
	const touch = 1e-3 // what only touches the strip does not reach into it
	top, bottom := y+touch, y+math.Max(h, 2*touch)-touch
	from, to = inf, -inf
	reach := func(x, beside float64) { from, to = math.Min(from, x-beside), math.Max(to, x+beside) }
	for i := 1; i < len(o.points); i++ {
		a, b := o.points[i-1], o.points[i]
		if a[1] > b[1] {
			a, b = b, a
		}
		if b[1] < top-o.margin || a[1] > bottom+o.margin {
			continue
		}
		for _, edge := range []float64{top, bottom} { // where the outline enters and leaves the strip
			if a[1] <= edge && edge < b[1] {
				reach(a[0]+(b[0]-a[0])*(edge-a[1])/(b[1]-a[1]), o.margin)
			}
		}
		for _, p := range [][2]float64{a, b} {
			if away := math.Max(math.Max(top-p[1], p[1]-bottom), 0); away <= o.margin {
				reach(p[0], math.Sqrt(o.margin*o.margin-away*away))
			}
		}
	}
	return from, to, from <= to
}

// lineBand is band for a line: it follows the shapes of floats.
func (f *floats) lineBand(y, h, x0, x1 float64) (l, r float64) {
	l, r = x0, x1
	for a := f.from(y); a != nil; a = a.before.from(y) {
		if !a.stands(y, h) {
			continue
		}
		near, far := a.x, a.x+a.w
		if a.shape != nil {
			from, to, ok := a.shape.across(y-a.y, h)
			if !ok {
				continue
			}
			near, far = math.Max(near, a.x+from), math.Min(far, a.x+to)
		}
		if a.left {
			l = math.Max(l, far)
		} else {
			r = math.Min(r, near)
		}
	}
	return l, r
}

// nextLine is the next place below y where a line may have more room; inf for none.
func (f *floats) nextLine(y float64) float64 {
	for a := f.from(y); a != nil; a = a.before.from(y) {
		if a.shape != nil && a.stands(y, 0) {
			return y + 1
		}
	}
	return f.nextEdge(y)
}
