package style

import (
	"strings"

	"oliveledger/typeset/internal/css"
)

var sideNames = [4]string{"top", "right", "bottom", "left"}

func size(allowed string, nonNegative bool) func(*values) (spec[Size], bool) {
	return func(v *values) (spec[Size], bool) {
		if k, ok := v.oneOf(allowed); ok {
			switch k {
			case keyword("-webkit-fill-available"), keyword("-moz-available"):
				k = Stretch
			case keyword("-moz-min-content"), keyword("-webkit-min-content"):
				k = MinContent
			case keyword("-moz-max-content"), keyword("-webkit-max-content"):
				k = MaxContent
			case keyword("-moz-fit-content"), keyword("-webkit-fit-content"):
				k = FitContent
			}
			return fixed(Size{Kind: k}), true
		}
		if t := v.peek(); t.Kind == css.Function && t.Text == "fit-content" && strings.Contains(allowed, "fit-content") {
			in := &values{list: css.Words(t.Args)}
			l, ok := in.lp(true)
			if !ok || !in.done() {
				return nil, false
			}
			v.pos++
			return func(c *Computer) Size { return Size{Kind: FitContent, Limited: true, LP: l(c)} }, true
		}
		if t := v.peek(); t.Kind == css.Function && t.Text == "calc-size" && strings.Contains(allowed, "min-content") {
			v.pos++
			return calcSize(t.Args, allowed, nonNegative)
		}
		l, ok := v.lp(nonNegative)
		return func(c *Computer) Size { return Size{Kind: Length, LP: l(c)} }, ok
	}
}

// calcSize reads calc-size(basis, sum), whose sum may name the size that the
// basis leads to (CSS Values 5, §10.1).
func calcSize(args []css.Token, allowed string, nonNegative bool) (spec[Size], bool) {
	parts := css.Split(args)
	if len(parts) != 2 {
		return nil, false
	}
	in := &values{list: css.Words(parts[0])}
	basis, ok := fixed(Size{Kind: Length}), in.word("any")
	if !ok {
		if basis, ok = size(allowed, nonNegative)(in); !ok || !in.done() {
			return nil, false
		}
	}
	// size is a length whose value each use of the sum brings
	given := sum{dim: dimLength, eval: func(c *Computer) val { return val{v: c.given} }}
	e, ok := expr(parts[1], map[string]sum{"size": given})
	if !ok || e.dim != dimLength && e.dim != dimPercent {
		return nil, false
	}
	return func(c *Computer) Size {
		out := basis(c)
		at := func(v, base float64) float64 {
			mine := *c
			mine.given = v
			return e.eval(&mine).of(base)
		}
		inner := out.Through
		out.Through = func(v, base float64) float64 {
			if inner != nil {
				v = inner(v, base)
			}
			return at(v, base)
		}
		if out.Kind == Length { // nothing is left to find out
			if lp := out.LP; out.HasPct() || e.pct {
				out.LP = LP{Rel: true, Fn: func(base float64) float64 { return at(lp.Of(base), base) }}
			} else {
				out.LP = LP{Px: at(lp.Px, 0)}
			}
			out.Through = nil
		}
		return out
	}, true
}

const sizeWords = "min-content max-content fit-content stretch -webkit-fill-available -moz-available -moz-min-content -moz-max-content -moz-fit-content -webkit-min-content -webkit-max-content -webkit-fit-content"

var borderStyles = "none hidden dotted dashed solid double groove ridge inset outset"

func lineWidth(v *values) (spec[float64], bool) {
	if k, ok := v.oneOf("thin medium thick"); ok {
		return fixed(map[Keyword]float64{Thin: 1, Medium: 3, Thick: 5}[k]), true
	}
	return v.length(true)
}

// boxSides registers a shorthand of one to four values for the four sides.
func boxSides(name string, longs [4]string) {
	short(name, strings.Join(longs[:], " "), func(v *values, set func(string, any)) bool {
		var got []any
		for !v.done() && len(got) < 4 {
			x, ok := byName[longs[0]].parse(v)
			if !ok {
				return false
			}
			got = append(got, x)
		}
		if len(got) == 0 {
			return false
		}
		for i, at := range [4]int{0, 1, 2, 3} {
			for at >= len(got) {
				at -= 2
				if at < 0 {
					at = 0
				}
			}
			set(longs[i], got[at])
		}
		return true
	})
}

// pair registers a shorthand of one or two values.
func pair(name, a, b string) {
	short(name, a+" "+b, func(v *values, set func(string, any)) bool {
		x, ok := byName[a].parse(v)
		if !ok {
			return false
		}
		y := x
		if !v.done() {
			if y, ok = byName[b].parse(v); !ok {
				return false
			}
		}
		set(a, x)
		set(b, y)
		return true
	})
}

// anyOrder registers a shorthand whose parts come in any order.
func anyOrder(name string, longs string) {
	names := strings.Fields(longs)
	short(name, longs, func(v *values, set func(string, any)) bool {
		return parseAnyOrder(v, names, set) > 0
	})
}

// parseAnyOrder takes as many values as fit names, each once, and counts them.
func parseAnyOrder(v *values, names []string, set func(string, any)) int {
	seen := map[string]bool{}
	for !v.done() {
		found := false
		for _, n := range names {
			if seen[n] {
				continue
			}
			if x, ok := try(v, byName[n].parse); ok {
				seen[n], found = true, true
				set(n, x)
				break
			}
		}
		if !found {
			break
		}
	}
	return len(seen)
}

// side of the physical box that a flow-relative side falls on.
func blockSide(s *Style, end bool) int {
	i := Top
	switch s.WritingMode {
	case VerticalRl, SidewaysRl:
		i = Right
	case VerticalLr, SidewaysLr:
		i = Left
	}
	if end {
		return (i + 2) % 4
	}
	return i
}

func inlineSide(s *Style, end bool) int {
	i := Left
	if s.WritingMode.Vertical() {
		i = Top
		if s.WritingMode == SidewaysLr {
			i = Bottom
		}
	}
	if (s.Direction == Rtl) != end {
		return (i + 2) % 4
	}
	return i
}

func flowSides(format string) {
	like := strings.Replace(format, "%", "top", 1)
	for _, axis := range []string{"block", "inline"} {
		for _, end := range []bool{false, true} {
			which := "-start"
			if end {
				which = "-end"
			}
			flowRelative(strings.Replace(format, "%", axis+which, 1), like, func(s *Style) string {
				i := blockSide(s, end)
				if axis == "inline" {
					i = inlineSide(s, end)
				}
				return strings.Replace(format, "%", sideNames[i], 1)
			})
		}
	}
}

func flowAxis(inline, block, horizontal, vertical string) {
	flowRelative(inline, horizontal, func(s *Style) string {
		if s.WritingMode.Vertical() {
			return vertical
		}
		return horizontal
	})
	flowRelative(block, vertical, func(s *Style) string {
		if s.WritingMode.Vertical() {
			return horizontal
		}
		return vertical
	})
}

func defineBox() {
	define("display", false, func(s *Style) *Display { return &s.Display }, parseDisplay)
	define("position", false, func(s *Style) *Keyword { return &s.Position }, parsePosition)
	words("float", false, "none left right inline-start inline-end footnote", func(s *Style) *Keyword { return &s.Float })
	words("clear", false, "none left right both inline-start inline-end", func(s *Style) *Keyword { return &s.Clear })
	define("width", false, func(s *Style) *Size { return &s.Width }, size("auto "+sizeWords, true))
	define("height", false, func(s *Style) *Size { return &s.Height }, size("auto "+sizeWords, true))
	define("min-width", false, func(s *Style) *Size { return &s.MinWidth }, size("auto "+sizeWords, true))
	define("min-height", false, func(s *Style) *Size { return &s.MinHeight }, size("auto "+sizeWords, true))
	define("max-width", false, func(s *Style) *Size { return &s.MaxWidth }, size("none "+sizeWords, true))
	define("max-height", false, func(s *Style) *Size { return &s.MaxHeight }, size("none "+sizeWords, true))
	flowAxis("inline-size", "block-size", "width", "height")
	flowAxis("min-inline-size", "min-block-size", "min-width", "min-height")
	flowAxis("max-inline-size", "max-block-size", "max-width", "max-height")
	for i, n := range sideNames {
		define("margin-"+n, false, func(s *Style) *Size { return &s.Margin[i] }, size("auto", false))
		define("padding-"+n, false, func(s *Style) *LP { return &s.Padding[i] }, func(v *values) (spec[LP], bool) { return v.lp(true) })
		define(n, false, func(s *Style) *Size { return &s.Inset[i] }, size("auto", false))
		define("border-"+n+"-width", false, func(s *Style) *float64 { return &s.Border[i].Width }, lineWidth)
		words("border-"+n+"-style", false, borderStyles, func(s *Style) *Keyword { return &s.Border[i].Style })
		define("border-"+n+"-color", false, func(s *Style) *Color { return &s.Border[i].Color }, (*values).color)
		anyOrder("border-"+n, "border-"+n+"-width border-"+n+"-style border-"+n+"-color")
	}
	for _, f := range []string{"margin-%", "padding-%", "border-%-width", "border-%-style", "border-%-color"} {
		flowSides(f)
	}
	for _, axis := range []string{"block", "inline"} {
		for _, which := range []string{"start", "end"} {
			side := axis + "-" + which
			flowRelative("inset-"+side, "top", func(s *Style) string {
				if axis == "block" {
					return sideNames[blockSide(s, which == "end")]
				}
				return sideNames[inlineSide(s, which == "end")]
			})
			anyOrder("border-"+side, "border-"+side+"-width border-"+side+"-style border-"+side+"-color")
		}
		for _, p := range []string{"margin", "padding", "inset"} {
			pair(p+"-"+axis, p+"-"+axis+"-start", p+"-"+axis+"-end")
		}
		for _, p := range []string{"width", "style", "color"} {
			pair("border-"+axis+"-"+p, "border-"+axis+"-start-"+p, "border-"+axis+"-end-"+p)
		}
		names := []string{"width", "style", "color"}
		var longs []string
		for _, w := range []string{"start", "end"} {
			for _, n := range names {
				longs = append(longs, "border-"+axis+"-"+w+"-"+n)
			}
		}
		short("border-"+axis, strings.Join(longs, " "), func(v *values, set func(string, any)) bool {
			return parseAnyOrder(v, longs[:3], func(n string, x any) {
				set(n, x)
				set(strings.Replace(n, "-start-", "-end-", 1), x)
			}) > 0
		})
	}
	sides := func(format string) (out [4]string) {
		for i, n := range sideNames {
			out[i] = strings.Replace(format, "%", n, 1)
		}
		return out
	}
	boxSides("margin", sides("margin-%"))
	boxSides("padding", sides("padding-%"))
	boxSides("inset", sides("%"))
	boxSides("border-width", sides("border-%-width"))
	boxSides("border-style", sides("border-%-style"))
	boxSides("border-color", sides("border-%-color"))
	defineBorderImage()
	defineBorderShorthand()
	defineRadius()
	define("margin-trim", false, func(s *Style) *[4]bool { return &s.MarginTrim }, parseMarginTrim)
	words("box-sizing", false, "content-box border-box", func(s *Style) *Keyword { return &s.BoxSizing })
	define("aspect-ratio", false, func(s *Style) *AspectRatio { return &s.AspectRatio }, parseAspectRatio)
	words("overflow-x", false, "visible hidden clip scroll auto overlay", func(s *Style) *Keyword { return &s.OverflowX })
	words("overflow-y", false, "visible hidden clip scroll auto overlay", func(s *Style) *Keyword { return &s.OverflowY })
	flowAxis("overflow-inline", "overflow-block", "overflow-x", "overflow-y")
	pair("overflow", "overflow-x", "overflow-y")
	define("overflow-clip-margin", false, func(s *Style) *ClipMargin { return &s.OverflowClipMargin }, parseClipMargin)
	define("z-index", false, func(s *Style) *ZIndex { return &s.ZIndex }, func(v *values) (spec[ZIndex], bool) {
		if v.word("auto") {
			return fixed(ZIndex{Auto: true}), true
		}
		n, ok := v.integer()
		return func(c *Computer) ZIndex { return ZIndex{V: n(c)} }, ok
	})
	words("visibility", true, "visible hidden collapse", func(s *Style) *Keyword { return &s.Visibility })
	words("table-layout", false, "auto fixed", func(s *Style) *Keyword { return &s.TableLayout })
	words("border-collapse", true, "separate collapse", func(s *Style) *Keyword { return &s.BorderCollapse })
	words("caption-side", true, "top bottom", func(s *Style) *Keyword { return &s.CaptionSide })
	words("empty-cells", true, "show hide", func(s *Style) *Keyword { return &s.EmptyCells })
	define("border-spacing", true, func(s *Style) *[2]float64 { return &s.BorderSpacing }, func(v *values) (spec[[2]float64], bool) {
		x, ok := v.length(true)
		if !ok {
			return nil, false
		}
		y := x
		if !v.done() {
			if y, ok = v.length(true); !ok {
				return nil, false
			}
		}
		return func(c *Computer) [2]float64 { return [2]float64{x(c), y(c)} }, true
	})
	define("vertical-align", false, func(s *Style) *VerticalAlign { return &s.VerticalAlign }, func(v *values) (spec[VerticalAlign], bool) {
		if k, ok := v.oneOf("baseline sub super text-top text-bottom middle top bottom"); ok {
			return fixed(VerticalAlign{Kind: k}), true
		}
		s, ok := v.num(dimLength, dimPercent)
		return func(c *Computer) VerticalAlign {
			l := s.eval(c).lp()
			return VerticalAlign{Kind: Length, LP: l}
		}, ok
	})
	defineContainment()
}

func parseDisplay(v *values) (spec[Display], bool) {
	if k, ok := v.oneOf("none contents table-row-group table-header-group table-footer-group table-row table-cell table-column-group table-column table-caption ruby-base ruby-text"); ok {
		d := Display{Outer: k, Inner: Flow}
		switch k {
		case TableCell, TableCaption:
			d.Inner = FlowRoot
		case RubyBase, RubyText:
			d.Outer = Inline
		}
		return fixed(d), true
	}
	if k, ok := v.oneOf("inline-block inline-table inline-flex inline-grid -webkit-box -webkit-inline-box -webkit-flex -webkit-inline-flex"); ok {
		inner := map[string]Keyword{
			"inline-block": FlowRoot, "inline-table": Table, "inline-flex": Flex, "inline-grid": Grid,
			"-webkit-flex": Flex, "-webkit-inline-flex": Flex, "-webkit-box": Flex, "-webkit-inline-box": Flex,
		}[k.String()]
		outer := Inline
		if k.String() == "-webkit-flex" || k.String() == "-webkit-box" {
			outer = Block
		}
		return fixed(Display{Outer: outer, Inner: inner}), true
	}
	var d Display
	for !v.done() {
		if k, ok := v.oneOf("block inline run-in"); ok && d.Outer == 0 {
			d.Outer = k
		} else if k, ok := v.oneOf("flow flow-root table flex grid ruby math"); ok && d.Inner == 0 {
			d.Inner = k
		} else if v.word("list-item") && !d.ListItem {
			d.ListItem = true
		} else {
			return nil, false
		}
	}
	if d.Outer == 0 {
		d.Outer = Block
		if d.Inner == keyword("ruby") || d.Inner == keyword("math") {
			d.Outer = Inline
		}
	}
	if d.Inner == 0 || d.Inner == keyword("ruby") || d.Inner == keyword("math") {
		d.Inner = Flow
	}
	if d.ListItem && d.Inner != Flow && d.Inner != FlowRoot {
		return nil, false
	}
	if d.Outer == Inline && d.Inner == FlowRoot && d.ListItem {
		return fixed(d), true
	}
	return fixed(d), len(v.list) > 0
}

func parseAspectRatio(v *values) (spec[AspectRatio], bool) {
	auto := v.word("auto")
	if v.done() {
		return fixed(AspectRatio{Auto: true}), auto
	}
	w, ok := v.number(true)
	if !ok {
		return nil, false
	}
	h := fixed(1.0)
	if v.delim('/') {
		if h, ok = v.number(true); !ok {
			return nil, false
		}
	}
	auto = auto || v.word("auto")
	return func(c *Computer) AspectRatio {
		a, b := w(c), h(c)
		if a <= 0 || b <= 0 {
			return AspectRatio{Auto: true}
		}
		return AspectRatio{Ratio: a / b, Auto: auto}
	}, true
}

var cornerNames = [4]string{"top-left", "top-right", "bottom-right", "bottom-left"}

func defineRadius() {
	var longs []string
	for i, n := range cornerNames {
		longs = append(longs, "border-"+n+"-radius")
		define("border-"+n+"-radius", false, func(s *Style) *[2]LP { return &s.Radius[i] }, func(v *values) (spec[[2]LP], bool) {
			x, ok := v.lp(true)
			if !ok {
				return nil, false
			}
			y := x
			if !v.done() {
				if y, ok = v.lp(true); !ok {
					return nil, false
				}
			}
			return func(c *Computer) [2]LP { return [2]LP{x(c), y(c)} }, true
		})
	}
	for _, b := range []string{"start", "end"} {
		for _, i := range []string{"start", "end"} {
			flowRelative("border-"+b+"-"+i+"-radius", "border-top-left-radius", func(s *Style) string {
				bs, is := sideNames[blockSide(s, b == "end")], sideNames[inlineSide(s, i == "end")]
				if bs == "left" || bs == "right" {
					bs, is = is, bs
				}
				return "border-" + bs + "-" + is + "-radius"
			})
		}
	}
	short("border-radius", strings.Join(longs, " "), func(v *values, set func(string, any)) bool {
		r, ok := v.radii()
		if !ok {
			return false
		}
		for i := range longs {
			set(longs[i], func(c *Computer) [2]LP { return r(c)[i] })
		}
		return true
	})
}

// radii parses the value of border-radius.
func (v *values) radii() (spec[[4][2]LP], bool) {
	list := func() (out [4]spec[LP], ok bool) {
		var got []spec[LP]
		for len(got) < 4 {
			l, ok := v.lp(true)
			if !ok {
				break
			}
			got = append(got, l)
		}
		if len(got) == 0 {
			return out, false
		}
		for i := range out {
			at := i
			for at >= len(got) {
				at = max(at-2, 0)
			}
			out[i] = got[at]
		}
		return out, true
	}
	x, ok := list()
	if !ok {
		return nil, false
	}
	y := x
	if v.delim('/') {
		if y, ok = list(); !ok {
			return nil, false
		}
	}
	return func(c *Computer) (r [4][2]LP) {
		for i := range r {
			r[i] = [2]LP{x[i](c), y[i](c)}
		}
		return r
	}, true
}

func defineBorderShorthand() {
	var longs []string
	for _, n := range sideNames {
		longs = append(longs, "border-"+n+"-width", "border-"+n+"-style", "border-"+n+"-color")
	}
	longs = append(longs, strings.Fields(borderImageParts)...)
	short("border", strings.Join(longs, " "), func(v *values, set func(string, any)) bool {
		return parseAnyOrder(v, longs[:3], func(n string, x any) {
			for _, side := range sideNames {
				set(strings.Replace(n, "top", side, 1), x)
			}
		}) > 0
	})
}

// parseMarginTrim reads the sides whose margins go (CSS Box 4, §4.1).
func parseMarginTrim(v *values) (spec[[4]bool], bool) {
	var out [4]bool
	if v.word("none") {
		return fixed(out), true
	}
	seen := map[string]bool{}
	each := 0 // how many sides a word names: two or one, not both
	for ; !v.done(); v.pos++ {
		word := v.peek().Lower()
		sides := trimmedSides[word]
		if len(sides) == 0 || seen[word] || each != 0 && len(sides) != each {
			return nil, false
		}
		seen[word], each = true, len(sides)
		for _, side := range sides {
			out[side] = true
		}
	}
	return fixed(out), len(seen) > 0
}

// trimmedSides are the sides that words of margin-trim name: pairs of them, or single ones.
var trimmedSides = map[string][]int{
	"block": {Top, Bottom}, "inline": {Left, Right}, "block-start": {Top}, "block-end": {Bottom}, "inline-start": {Left}, "inline-end": {Right},
}

// parseClipMargin reads the box and the distance that overflow: clip leaves
// (CSS Overflow 3, §3.2).
func parseClipMargin(v *values) (spec[ClipMargin], bool) {
	const boxes = "content-box padding-box border-box"
	box, hasBox := v.oneOf(boxes)
	by, hasLength := try(v, func(v *values) (spec[float64], bool) { return v.length(true) })
	if !hasBox {
		if box, hasBox = v.oneOf(boxes); !hasBox {
			box = PaddingBox
		}
	}
	return func(c *Computer) ClipMargin {
		m := ClipMargin{Box: box}
		if hasLength {
			m.By = by(c)
		}
		return m
	}, hasBox || hasLength
}
