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
		path = ParsePath(c.Path).Transform(display.Translate(r.X, r.Y))
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
	left, right, top, bottom := math.Abs(cx), math.Abs(r.W-cx), math.Abs(cy), math.Abs(r.H-cy)
	radius := func(s style.Size, base float64, sides ...float64) float64 {
		out := sides[0]
		for _, v := range sides[1:] {
			if s.Kind == style.FarthestSide {
				out = math.Max(out, v)
			} else {
				out = math.Min(out, v)
			}
		}
		if s.Kind == style.Length {
			out = s.Of(base)
		}
		return out
	}
	if c.Kind == style.Circle {
		rx = radius(c.RX, math.Hypot(r.W, r.H)/math.Sqrt2, left, right, top, bottom)
		return cx, cy, rx, rx
	}
	return cx, cy, radius(c.RX, r.W, left, right), radius(c.RY, r.H, top, bottom)
}
