package style

import "slices"

// Containment tells in which ways a box is closed to its surroundings
// (CSS Containment 2, §3).
type Containment struct {
	Inline, Block bool // its size does not depend on its contents
	Layout, Paint bool
}

// Any tells whether layout or painting is contained.
func (c Containment) Any() bool { return c.Layout || c.Paint }

// HoldsPositioned tells whether a box of this style is the containing block of
// absolutely positioned descendants (CSS Position 3, §2.1).
func (s *Style) HoldsPositioned() bool {
	return s.Position != Static || s.WillChange.Hold || s.HoldsFixed()
}

// HoldsFixed tells whether fixed descendants too are placed by it
// (CSS Transforms 1, §3).
func (s *Style) HoldsFixed() bool {
	return s.Transformed() || len(s.Filters) > 0 || s.Contain.Any() || s.WillChange.HoldFixed
}

// SizeContained tells in which directions a box is sized as if it were empty.
func (s *Style) SizeContained() (inline, block bool) {
	if s.ContentVisibility == Hidden {
		return true, true
	}
	inline = s.Contain.Inline || s.Container == InlineSize || s.Container == SizeKey
	return inline, s.Contain.Block || s.Container == SizeKey
}

func defineContainment() {
	define("contain", false, func(s *Style) *Containment { return &s.Contain }, parseContain)
	defineContainers()
	words("content-visibility", false, "visible auto hidden", func(s *Style) *Keyword { return &s.ContentVisibility })
	intrinsic := func(v *values) (spec[float64], bool) {
		auto := v.word("auto") // what was laid out before: nothing was
		if v.word("none") {
			return fixed(0.0), true
		}
		l, ok := v.length(true)
		if !ok {
			return fixed(0.0), auto && v.done()
		}
		return l, true
	}
	define("contain-intrinsic-width", false, func(s *Style) *float64 { return &s.IntrinsicSize[0] }, intrinsic)
	define("contain-intrinsic-height", false, func(s *Style) *float64 { return &s.IntrinsicSize[1] }, intrinsic)
	flowAxis("contain-intrinsic-inline-size", "contain-intrinsic-block-size", "contain-intrinsic-width", "contain-intrinsic-height")
	pair("contain-intrinsic-size", "contain-intrinsic-width", "contain-intrinsic-height")
}

func parseContain(v *values) (spec[Containment], bool) {
	switch {
	case v.word("none"):
		return fixed(Containment{}), true
	case v.word("strict"):
		return fixed(Containment{Inline: true, Block: true, Layout: true, Paint: true}), true
	case v.word("content"):
		return fixed(Containment{Layout: true, Paint: true}), true
	}
	kinds := v.several("size inline-size layout style paint")
	has := func(name string) bool {
		return slices.ContainsFunc(kinds, func(k Keyword) bool { return k.String() == name })
	}
	return fixed(Containment{Inline: has("size") || has("inline-size"), Block: has("size"), Layout: has("layout"), Paint: has("paint")}), len(kinds) > 0
}
