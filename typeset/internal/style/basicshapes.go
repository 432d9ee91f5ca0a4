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
		rule, ok := v.fillRule()
		d, is := v.str()
		d = strings.TrimSpace(d)
		return fixed(ClipPath{Kind: PathShape, Rule: rule, Path: d}), ok && is && d != ""
	}
	return nil, false
}

// fillRule reads how the inside of a path is found, if that is said, and the comma behind it.
func (v *values) fillRule() (Keyword, bool) {
	k, said := v.oneOf("nonzero evenodd")
	if !said {
		return Nonzero, true
	}
	return k, v.comma()
}

// insetShape reads inset(), and rect() and xywh(), which are other spellings of it.
func (v *values) insetShape(name string) (spec[ClipPath], bool) {
	var off spec[[4]LP]
	var ok bool
	if name == "inset" {
		off, ok = four(v, func(v *values) (spec[LP], bool) { return v.lp(false) })
	} else {
		off, ok = v.edges(name)
	}
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
			s.Inset = [4]LP{o[1], fromEnd(plus(o[0], o[2])), fromEnd(plus(o[1], o[3])), o[0]}
		}
		return s
	}, true
}

// edges reads the four lengths of rect(), from the left and the top, of which an auto one is an
// edge of the box, or of xywh(), whose sizes are not negative.
func (v *values) edges(name string) (spec[[4]LP], bool) {
	var all [4]spec[LP]
	for i := range all {
		far := i == 1 || i == 2
		if name == "rect" && v.word("auto") {
			all[i] = fixed(LP{})
			if far {
				all[i] = fixed(LP{Pct: 100})
			}
			continue
		}
		one, ok := v.lp(name == "xywh" && i >= 2)
		if !ok {
			return nil, false
		}
		all[i] = one
	}
	return func(c *Computer) (out [4]LP) {
		for i := range out {
			out[i] = all[i](c)
		}
		return out
	}, true
}

// plus is the sum of two lengths.
func plus(a, b LP) LP {
	if a.Fn != nil || b.Fn != nil {
		return LP{Fn: func(whole float64) float64 { return a.Of(whole) + b.Of(whole) }}
	}
	return LP{Px: a.Px + b.Px, Pct: a.Pct + b.Pct}
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
	rule, ok := v.fillRule()
	if !ok {
		return nil, false
	}
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
