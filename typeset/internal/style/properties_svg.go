package style

import (
	"maps"
	"slices"
	"strings"

	"oliveledger/typeset/internal/css"
)

// defineSVG registers the properties of SVG 1.1 that are presentation
// attributes, and the geometry properties of SVG 2.
func defineSVG() {
	paint := func(v *values) (spec[Paint], bool) {
		if v.word("none") {
			return fixed(Paint{None: true}), true
		}
		if k, ok := v.oneOf("context-fill context-stroke"); ok {
			return fixed(Paint{Context: k}), true
		}
		if u, ok := v.url(); ok {
			p := Paint{URL: u, None: true}
			if v.word("none") {
				return fixed(p), true
			}
			if col, ok := v.color(); ok {
				return func(c *Computer) Paint { return Paint{URL: u, Color: col(c)} }, true
			}
			return fixed(p), true
		}
		col, ok := v.color()
		return func(c *Computer) Paint { return Paint{Color: col(c)} }, ok
	}
	ratio := func(v *values) (spec[float64], bool) {
		r, ok := v.ratio()
		return func(c *Computer) float64 { return min(max(r(c), 0), 1) }, ok
	}
	// lengths may be written without a unit in attributes
	length := func(v *values) (spec[LP], bool) {
		if t := v.peek(); t.Kind == css.Number {
			v.pos++
			return fixed(LP{Px: t.Num}), true
		}
		return v.lp(false)
	}
	positive := func(v *values) (spec[LP], bool) {
		if v.negative() {
			return nil, false
		}
		return length(v)
	}
	define("fill", true, func(s *Style) *Paint { return &s.Fill }, paint)
	define("stroke", true, func(s *Style) *Paint { return &s.Stroke }, paint)
	define("fill-opacity", true, func(s *Style) *float64 { return &s.FillOpacity }, ratio)
	define("stroke-opacity", true, func(s *Style) *float64 { return &s.StrokeOpacity }, ratio)
	words("fill-rule", true, "nonzero evenodd", func(s *Style) *Keyword { return &s.FillRule })
	words("clip-rule", true, "nonzero evenodd", func(s *Style) *Keyword { return &s.ClipRule })
	define("stroke-width", true, func(s *Style) *LP { return &s.StrokeWidth }, positive)
	words("stroke-linecap", true, "butt round square", func(s *Style) *Keyword { return &s.StrokeCap })
	words("stroke-linejoin", true, "miter round bevel miter-clip arcs", func(s *Style) *Keyword { return &s.StrokeJoin })
	define("stroke-miterlimit", true, func(s *Style) *float64 { return &s.StrokeMiter }, func(v *values) (spec[float64], bool) { return v.number(true) })
	define("stroke-dasharray", true, func(s *Style) *[]LP { return &s.StrokeDash }, func(v *values) (spec[[]LP], bool) {
		if v.word("none") {
			return fixed[[]LP](nil), true
		}
		var out []spec[LP]
		for {
			l, ok := length(v)
			if !ok {
				return all(out), len(out) > 0
			}
			out = append(out, l)
			v.comma()
		}
	})
	define("stroke-dashoffset", true, func(s *Style) *LP { return &s.StrokeDashOffset }, length)
	words("text-anchor", true, "start middle end", func(s *Style) *Keyword { return &s.TextAnchor })
	words("dominant-baseline", false, "auto middle central hanging text-before-edge text-after-edge alphabetic ideographic mathematical", func(s *Style) *Keyword { return &s.DominantBaseline })
	define("baseline-shift", false, func(s *Style) *float64 { return &s.BaselineShift }, parseBaselineShift)
	words("mask-type", false, "luminance alpha", func(s *Style) *Keyword { return &s.MaskType })
	define("paint-order", true, func(s *Style) *string { return &s.PaintOrder }, parsePaintOrder)
	words("vector-effect", false, "none non-scaling-stroke", func(s *Style) *Keyword { return &s.VectorEffect })
	define("stop-color", false, func(s *Style) *Color { return &s.StopColor }, (*values).color)
	define("stop-opacity", false, func(s *Style) *float64 { return &s.StopOpacity }, ratio)
	for i, n := range []string{"marker-start", "marker-mid", "marker-end"} {
		define(n, true, func(s *Style) *string { return &s.PointerMarkers[i] }, func(v *values) (spec[string], bool) {
			if v.word("none") {
				return fixed(""), true
			}
			u, ok := v.url()
			return fixed(u), ok
		})
	}
	short("marker", "marker-start marker-mid marker-end", func(v *values, set func(string, any)) bool {
		x, ok := byName["marker-start"].parse(v)
		for _, n := range []string{"marker-start", "marker-mid", "marker-end"} {
			set(n, x)
		}
		return ok
	})
	for _, n := range []string{"cx", "cy", "r", "rx", "ry", "x", "y"} {
		p := define(n, false, func(s *Style) *map[string]LP { return &s.SVG }, nil)
		p.parse = func(v *values) (any, bool) {
			if (n == "rx" || n == "ry") && v.word("auto") { // as the other
				return spec[LP](nil), true
			}
			return length(v)
		}
		p.apply = func(c *Computer, x any) {
			m := maps.Clone(c.S.SVG)
			if m == nil {
				m = map[string]LP{}
			}
			delete(m, n)
			if l := x.(spec[LP]); l != nil {
				m[n] = l(c)
			}
			c.S.SVG = m
		}
	}
}

// parsePaintOrder reads which of fill, stroke and markers are painted first; those that
// are left out follow in this order (SVG 2, §13.8). Its value names all three.
func parsePaintOrder(v *values) (spec[string], bool) {
	order := []string{}
	if !v.word("normal") {
		for {
			k, ok := v.oneOf("fill stroke markers")
			if !ok {
				break
			}
			if slices.Contains(order, k.String()) {
				return nil, false
			}
			order = append(order, k.String())
		}
		if len(order) == 0 {
			return nil, false
		}
	}
	for _, k := range []string{"fill", "stroke", "markers"} {
		if !slices.Contains(order, k) {
			order = append(order, k)
		}
	}
	return fixed(strings.Join(order, " ")), true
}

// attributeProperties are the SVG attributes that are also properties.
var attributeProperties = func() map[string]bool {
	m := map[string]bool{}
	for _, n := range []string{
		"fill", "stroke", "fill-opacity", "stroke-opacity", "fill-rule", "clip-rule", "stroke-width", "stroke-linecap", "stroke-linejoin",
		"stroke-miterlimit", "stroke-dasharray", "stroke-dashoffset", "text-anchor", "dominant-baseline", "stop-color", "stop-opacity", "opacity", "color", "display",
		"visibility", "font-family", "font-size", "font-weight", "font-style", "letter-spacing", "word-spacing", "text-decoration", "clip-path", "mask", "overflow",
		"marker-start", "marker-mid", "marker-end", "transform-origin", "writing-mode", "direction", "vector-effect", "paint-order", "mask-type", "mix-blend-mode", "isolation", "baseline-shift", "unicode-bidi",
		"cx", "cy", "r", "rx", "ry", "x", "y",
	} {
		m[n] = true
	}
	return m
}()

// parseBaselineShift reads how far text of a drawing is raised (SVG 2, §11.10.3); percentages are those of the font size.
func parseBaselineShift(v *values) (spec[float64], bool) {
	if k, ok := v.oneOf("baseline sub super"); ok {
		ems := map[Keyword]float64{Baseline: 0, Sub: -0.2, Super: 1.0 / 3}[k]
		return func(c *Computer) float64 { return ems * c.S.FontSize }, true
	}
	l, ok := v.lp(false)
	return func(c *Computer) float64 { return l(c).Of(c.S.FontSize) }, ok
}
