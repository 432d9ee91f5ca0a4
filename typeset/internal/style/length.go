package style

import "math"

// LP is a computed length or percentage: Px + Pct/100 of a base, or Fn of the
// base where maths with min() or max() mixes the two. All lengths are CSS px.
type LP struct {
	Px, Pct float64
	Rel     bool // written with percentages, though they may come to 0
	Fn      func(base float64) float64
}

// Of resolves l against base.
func (l LP) Of(base float64) float64 {
	if l.Fn != nil {
		return l.Fn(base)
	}
	if l.Pct == 0 {
		return l.Px
	}
	return l.Px + l.Pct*base/100
}

// HasPct tells whether l depends on its base.
func (l LP) HasPct() bool { return l.Rel || l.Pct != 0 || l.Fn != nil }

// IsZero tells whether l is zero whatever its base is.
func (l LP) IsZero() bool { return l.Px == 0 && l.Pct == 0 && l.Fn == nil }

// Px is a plain length.
func Px(v float64) LP { return LP{Px: v} }

// Size is a computed width, height, inset or margin.
type Size struct {
	Kind    Keyword // Auto, None, Length, MinContent, MaxContent, FitContent, Stretch or ContentKey
	Limited bool    // fit-content(LP)
	LP
	Through func(size, base float64) float64 // calc-size(): maths on what Kind gives
}

// Passed gives a size that Kind led to as calc-size() changes it
// (CSS Values 5, §10.4).
func (s Size) Passed(size, base float64) float64 {
	if s.Through == nil {
		return size
	}
	if math.IsNaN(base) {
		base = 0
	}
	return math.Max(s.Through(size, base), 0)
}

// IsAuto tells whether s is auto.
func (s Size) IsAuto() bool { return s.Kind == Auto }

// Resolve gives s in px, or NaN when it is not a length, or a percentage of
// an indefinite base.
func (s Size) Resolve(base float64) float64 {
	if s.Kind != Length {
		return math.NaN()
	}
	if s.HasPct() && math.IsNaN(base) {
		return math.NaN()
	}
	return s.Of(base)
}

// px for each absolute unit (CSS Values 4, §6.2).
var absolute = map[string]float64{"px": 1, "in": 96, "cm": 96 / 2.54, "mm": 96 / 25.4, "q": 96 / 101.6, "pt": 96.0 / 72, "pc": 16}

var relative = map[string]bool{
	"em": true, "rem": true, "ex": true, "rex": true, "ch": true, "rch": true, "cap": true,
	"rcap": true, "ic": true, "ric": true, "lh": true, "rlh": true,
}

func viewportUnit(u string) bool {
	if len(u) == 3 && (u[0] == 's' || u[0] == 'l' || u[0] == 'd') {
		u = u[1:]
	} else if len(u) == 5 && (u[0] == 's' || u[0] == 'l' || u[0] == 'd') {
		u = u[1:]
	} else if len(u) > 2 && u[0] == 'c' && u[1] == 'q' { // of a container
		u = "v" + u[2:]
	}
	switch u {
	case "vw", "vh", "vi", "vb", "vmin", "vmax":
		return true
	}
	return false
}

func isLengthUnit(u string) bool {
	return absolute[u] != 0 || relative[u] || viewportUnit(u)
}

// Metrics are the font measures that relative units need, as parts of 1em.
type Metrics struct {
	Ex, Ch, Cap, Ic          float64
	Ascent, Descent, LineGap float64
	Mean, Widest             float64 // widths of the characters
}

// unit turns one of a unit into px.
func (c *Computer) unit(u string) float64 {
	if v, ok := absolute[u]; ok {
		return v
	}
	s := c.S
	size := c.em
	switch u {
	case "em":
		return size
	case "rem":
		return c.rootSize()
	case "ex":
		return size * c.metrics().Ex
	case "ch":
		return size * c.metrics().Ch
	case "cap":
		return size * c.metrics().Cap
	case "ic":
		return size * c.metrics().Ic
	case "rex", "rch", "rcap", "ric":
		root := c.resolver.root
		if root == nil {
			root = s
		}
		m := c.measuring().Metrics(root)
		return c.rootSize() * map[string]float64{"rex": m.Ex, "rch": m.Ch, "rcap": m.Cap, "ric": m.Ic}[u]
	case "lh":
		if c.lineHeightOf != nil {
			return LineHeightPx(c.lineHeightOf, c.measuring())
		}
		return LineHeightPx(s, c.measuring())
	case "rlh":
		root := c.resolver.root
		if root == nil {
			root = s
		}
		return LineHeightPx(root, c.measuring())
	}
	if len(u) > 2 && u[0] != 'v' {
		if u[0] == 'c' {
			return axisUnit("v"+u[2:], s, c.containerUnit)
		}
		u = u[1:]
	}
	return axisUnit(u, s, func(block bool) float64 {
		if block {
			return c.resolver.env.Height / 100
		}
		return c.resolver.env.Width / 100
	})
}

// axisUnit gives what a unit of the viewport, or one named alike of a container,
// stands for. of tells a hundredth of the width or, for true, of the height.
func axisUnit(u string, s *Style, of func(height bool) float64) float64 {
	switch u {
	case "vmin":
		return math.Min(of(false), of(true))
	case "vmax":
		return math.Max(of(false), of(true))
	case "vi":
		return of(s.WritingMode.Vertical())
	case "vb":
		return of(!s.WritingMode.Vertical())
	}
	return of(u == "vh")
}

func (c *Computer) rootSize() float64 {
	if c.resolver.root != nil {
		return c.resolver.root.FontSize
	}
	if c.isRoot && c.em > 0 {
		return c.em
	}
	return 16
}

// metrics are those of the style's font.
func (c *Computer) metrics() Metrics { return c.measuring().Metrics(c.S) }

// measuring gives the fonts and notes that the style depends on them.
func (c *Computer) measuring() Fonts {
	c.measured = true
	return c.resolver.fonts
}

// LineHeightPx is the used line height of s; normal comes from the font.
func LineHeightPx(s *Style, fonts Fonts) float64 {
	switch s.LineHeight.Kind {
	case LineNumber:
		return s.LineHeight.V * s.FontSize
	case LineLength:
		return s.LineHeight.V
	}
	m := fonts.Metrics(s)
	return (m.Ascent + m.Descent + m.LineGap) * s.FontSize
}
