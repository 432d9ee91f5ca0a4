package style

import "strings"

// shape reads the arguments of a basic shape (CSS Shapes 1, §3, and 2, §2).
func (v *values) shape(name string) (spec[ClipPath], bool) {
	switch name {
	case "inset", "rect", "xywh":
		return v.insetShape(name)
	case "circle", "ellipse":
		return v.ellipseShape(name)
	case "polygon":
		return v.polygonShape()
	case "shape":
		return v.shapePath()
	case "path":
		rule := v.fillRule()
		d, ok := v.str()
		return fixed(ClipPath{Kind: PathShape, Rule: rule, Path: strings.TrimSpace(d)}), ok
	}
	return nil, false
}

// fillRule reads how the inside of a path is found, if that is said.
func (v *values) fillRule() Keyword {
	k, ok := v.oneOf("nonzero evenodd")
	if !ok {
		return Nonzero
	}
	v.comma()
	return k
}

// insetShape reads inset(), and rect() and xywh(), which are other spellings of it.
func (v *values) insetShape(name string) (spec[ClipPath], bool) {
	off, ok := four(v, func(v *values) (spec[LP], bool) {
		if name == "rect" && v.word("auto") {
			return fixed(LP{}), true
		}
		return v.lp(false)
	})
	if !ok {
		return nil, false
	}
	r := fixed([4][2]LP{})
	if v.word("round") {
		if r, ok = v.radii(); !ok {
			return nil, false
		}
	}
	return func(c *Computer) ClipPath {
		o := off(c)
		s := ClipPath{Kind: InsetShape, Inset: o, Radius: r(c)}
		switch name {
		case "rect":
			s.Inset = [4]LP{o[0], fromEnd(o[1]), fromEnd(o[2]), o[3]}
		case "xywh":
			s.Inset = [4]LP{o[1], {Px: -o[0].Px - o[2].Px, Pct: 100 - o[0].Pct - o[2].Pct}, {Px: -o[1].Px - o[3].Px, Pct: 100 - o[1].Pct - o[3].Pct}, o[0]}
		}
		return s
	}, true
}

// ellipseShape reads circle() and ellipse().
func (v *values) ellipseShape(name string) (spec[ClipPath], bool) {
	var r []spec[Size]
	for len(r) < 2 {
		if k, ok := v.oneOf("closest-side farthest-side closest-corner farthest-corner"); ok {
			r = append(r, fixed(Size{Kind: k}))
		} else if l, ok := v.lp(true); ok {
			r = append(r, func(c *Computer) Size { return Size{Kind: Length, LP: l(c)} })
		} else {
			break
		}
	}
	if name == "circle" && len(r) > 1 || name == "ellipse" && len(r) == 1 {
		return nil, false
	}
	center := fixed(Place{LP{Pct: 50}, LP{Pct: 50}})
	if v.word("at") {
		var ok bool
		if center, ok = v.place(); !ok {
			return nil, false
		}
	}
	return func(c *Computer) ClipPath {
		s := ClipPath{Kind: Circle, RX: Size{Kind: ClosestSide}, RY: Size{Kind: ClosestSide}, Center: center(c)}
		if name == "ellipse" {
			s.Kind = Ellipse
		}
		for i, to := range []*Size{&s.RX, &s.RY} {
			if i < len(r) {
				*to = r[i](c)
			}
		}
		return s
	}, true
}

// polygonShape reads polygon().
func (v *values) polygonShape() (spec[ClipPath], bool) {
	rule := v.fillRule()
	var xs, ys []spec[LP]
	for more := true; more; more = v.comma() {
		x, ok := v.lp(false)
		if !ok {
			return nil, false
		}
		y, ok := v.lp(false)
		if !ok {
			return nil, false
		}
		xs, ys = append(xs, x), append(ys, y)
	}
	return func(c *Computer) ClipPath {
		s := ClipPath{Kind: Polygon, Rule: rule}
		for i := range xs {
			s.Points = append(s.Points, Place{xs[i](c), ys[i](c)})
		}
		return s
	}, true
}
