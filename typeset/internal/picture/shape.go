package picture

import (
	"math"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/style"
)

// Shape is the outline of a basic shape with reference box r, and whether the even-odd
// rule holds for it; nil for what is no shape (Shapes 1, §3).
func Shape(c *style.ClipPath, r display.Rect) (*display.Path, bool) {
	path := &display.Path{}
	switch c.Kind {
	case style.InsetShape:
		in := r.Inset(c.Inset[0].Of(r.H), c.Inset[1].Of(r.W), c.Inset[2].Of(r.H), c.Inset[3].Of(r.W))
		var rad display.Radii
		for i := range rad {
			rad[i] = [2]float64{c.Radius[i][0].Of(r.W), c.Radius[i][1].Of(r.H)}
		}
		rad.Fit(in)
		path.RoundRect(in, rad)
	case style.Circle, style.Ellipse:
		cx, cy, rx, ry := ellipse(c, r)
		path.Ellipse(r.X+cx, r.Y+cy, rx, ry)
	case style.Polygon:
		for i, pt := range c.Points {
			x, y := r.X+pt.X.Of(r.W), r.Y+pt.Y.Of(r.H)
			if i == 0 {
				path.MoveTo(x, y)
			} else {
				path.LineTo(x, y)
			}
		}
		path.Close()
	case style.PathShape:
		path = ParsePath(c.Path)
		if c.Segments != nil {
			path = drawSegments(c.Segments, r.W, r.H)
		}
		path = path.Transform(display.Translate(r.X, r.Y))
	case style.BoxShape:
		path.Rect(r)
	default:
		return nil, false
	}
	return path, c.Rule == style.Evenodd
}

// ellipse is the centre, from the corner of r, and the radii of circle() and ellipse().
func ellipse(c *style.ClipPath, r display.Rect) (cx, cy, rx, ry float64) {
	cx, cy = c.Center.X.Of(r.W), c.Center.Y.Of(r.H)
	across, down := [2]float64{math.Abs(cx), math.Abs(r.W - cx)}, [2]float64{math.Abs(cy), math.Abs(r.H - cy)}
	if c.Kind == style.Circle {
		rx = circleRadius(c.RX, across, down, math.Hypot(r.W, r.H)/math.Sqrt2)
		return cx, cy, rx, rx
	}
	return cx, cy, ellipseRadius(c.RX, across, r.W), ellipseRadius(c.RY, down, r.H)
}

// ellipseRadius is one radius of an ellipse with distances to two sides of its box. One
// that reaches to a corner has the shape that it has to the sides.
func ellipseRadius(s style.Size, sides [2]float64, base float64) float64 {
	r := sideRadius(s, sides, base)
	if s.Kind == style.ClosestCorner || s.Kind == style.FarthestCorner {
		r *= math.Sqrt2
	}
	return r
}

// drawSegments draws shape() in a box of w by h (CSS Shapes 2, §3.4).
func drawSegments(list []style.ShapeSegment, w, h float64) *display.Path {
	base := [...]float64{style.AlongX: w, style.AlongY: h, style.AlongBoth: math.Hypot(w, h) / math.Sqrt2}
	p := &pathParser{out: &display.Path{}}
	for _, s := range list {
		var args [7]float64
		for i, a := range s.Args {
			args[i] = a.LP.Of(base[a.Axis])
		}
		upper := s.Letter &^ 0x20
		p.draw(upper, upper != s.Letter, args)
		p.last = upper
	}
	return p.out
}

// circleRadius is the radius of a circle with distances to the sides of its box.
func circleRadius(s style.Size, across, down [2]float64, base float64) float64 {
	switch s.Kind {
	case style.Length:
		return s.Of(base)
	case style.FarthestSide:
		return max(across[0], across[1], down[0], down[1])
	case style.ClosestCorner, style.FarthestCorner:
		return math.Hypot(cornerOf(s, across), cornerOf(s, down))
	}
	return min(across[0], across[1], down[0], down[1])
}

// sideRadius is one radius of an ellipse, as far as the sides of its box say.
func sideRadius(s style.Size, sides [2]float64, base float64) float64 {
	switch s.Kind {
	case style.Length:
		return s.Of(base)
	case style.FarthestSide, style.FarthestCorner:
		return max(sides[0], sides[1])
	}
	return min(sides[0], sides[1])
}

// cornerOf is how far in one direction the corner is that a size names; 0 for none.
func cornerOf(s style.Size, sides [2]float64) float64 {
	switch s.Kind {
	case style.ClosestCorner:
		return min(sides[0], sides[1])
	case style.FarthestCorner:
		return max(sides[0], sides[1])
	}
	return 0
}
