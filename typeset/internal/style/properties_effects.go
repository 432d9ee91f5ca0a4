package style

import (
	"math"

	"oliveledger/typeset/internal/css"
)

// Filter is one function of filter (Filter Effects 1, §6). Kind is its name.
type Filter struct {
	Kind   string
	Amount float64 // of a colour filter; of hue-rotate in degrees; of blur in px
	Shadow Shadow  // of drop-shadow
}

func defineEffects() {
	define("filter", false, func(s *Style) *[]Filter { return &s.Filters }, func(v *values) (spec[[]Filter], bool) {
		if v.word("none") {
			return fixed([]Filter(nil)), true
		}
		var list []spec[Filter]
		for !v.done() {
			f, ok := v.filter()
			if !ok {
				return nil, false
			}
			list = append(list, f)
		}
		return all(list), len(list) > 0
	})
	keys := func(set string) func(*values) (spec[[]Keyword], bool) {
		return func(v *values) (spec[[]Keyword], bool) { return list(v, keywordSpec(set)) }
	}
	define("mask-image", false, func(s *Style) *[]*Image { return &s.Mask.Images }, func(v *values) (spec[[]*Image], bool) { return list(v, (*values).imageOrNone) })
	define("mask-repeat", false, func(s *Style) *[][2]Keyword { return &s.Mask.Repeat }, func(v *values) (spec[[][2]Keyword], bool) { return list(v, parseRepeat) })
	define("mask-size", false, func(s *Style) *[]BackgroundSize { return &s.Mask.Size }, func(v *values) (spec[[]BackgroundSize], bool) { return list(v, parseBackgroundSize) })
	define("mask-position", false, func(s *Style) *[]Place { return &s.Mask.Position }, func(v *values) (spec[[]Place], bool) { return list(v, (*values).place) })
	define("mask-origin", false, func(s *Style) *[]Keyword { return &s.Mask.Origin }, func(v *values) (spec[[]Keyword], bool) { return list(v, maskBoxSpec) })
	define("mask-clip", false, func(s *Style) *[]Keyword { return &s.Mask.Clip }, func(v *values) (spec[[]Keyword], bool) { return list(v, maskClipSpec) })
	define("mask-composite", false, func(s *Style) *[]Keyword { return &s.Mask.Composite }, keys(composites))
	define("mask-mode", false, func(s *Style) *Keyword { return &s.MaskMode }, keywordSpec("match-source alpha luminance"))
	short("mask", "mask-image mask-repeat mask-size mask-position mask-origin mask-clip mask-composite mask-mode", parseMask)
	for _, n := range []string{"mask-image", "mask-repeat", "mask-size", "mask-position", "mask-origin", "mask-clip", "mask-composite", "mask"} {
		aliases["-webkit-"+n] = n
	}
	aliases["-webkit-filter"] = "filter"
}

func (v *values) filter() (spec[Filter], bool) {
	t := v.next()
	if t.Kind != css.Function {
		return nil, false
	}
	kind, in := t.Text, &values{list: css.Words(t.Args)}
	ok := true
	var amount spec[float64]
	switch kind {
	case "drop-shadow":
		s, ok := in.shadows(false)
		return func(c *Computer) Filter {
			x := s(c)[0]
			x.Color = x.Color.Or(c.S.Color)
			return Filter{Kind: kind, Shadow: x}
		}, ok && in.done()
	case "grayscale", "sepia", "invert", "opacity":
		amount, ok = in.amount(1)
	case "brightness", "contrast", "saturate":
		amount, ok = in.amount(math.Inf(1))
	case "hue-rotate":
		if amount = fixed(0.0); !in.done() {
			amount, ok = in.angle()
		}
	case "blur":
		if amount = fixed(0.0); !in.done() {
			amount, ok = in.length(true)
		}
	default:
		return nil, false
	}
	return func(c *Computer) Filter { return Filter{Kind: kind, Amount: amount(c)} }, ok && in.done()
}

// amount is a number or percentage between 0 and most, or 1 when it is left out.
func (v *values) amount(most float64) (spec[float64], bool) {
	if v.done() {
		return fixed(1.0), true
	}
	if v.negative() {
		return nil, false
	}
	given, ok := v.ratio()
	return func(c *Computer) float64 { return min(max(given(c), 0), most) }, ok
}

// parseMask follows CSS Masking 1, §7.1.
func parseMask(v *values, set func(string, any)) bool {
	var images []spec[*Image]
	var repeats []spec[[2]Keyword]
	var sizes []spec[BackgroundSize]
	var places []spec[Place]
	var origins, clips, joins []Keyword
	mode := MatchSource
	for {
		image, repeat, sz, place := fixed[*Image](nil), fixed([2]Keyword{Repeat, Repeat}), fixed(BackgroundSize{Kind: Auto, W: Size{Kind: Auto}, H: Size{Kind: Auto}}), fixed(Place{})
		var boxes []Keyword
		noClip := false
		join := AddMask
		n := 0
		for ; !v.done() && v.peek().Kind != css.Comma; n++ {
			if x, ok := try(v, (*values).imageOrNone); ok {
				image = x
			} else if k, ok := maskBox(v); ok && len(boxes) < 2 {
				boxes = append(boxes, k)
			} else if !noClip && v.word("no-clip") {
				noClip = true
			} else if k, ok := v.oneOf("alpha luminance match-source"); ok {
				mode = k // of all layers
			} else if k, ok := v.oneOf(composites); ok {
				join = k
			} else if x, ok := try(v, parseRepeat); ok {
				repeat = x
			} else if x, ok := try(v, (*values).place); ok {
				place = x
				if v.delim('/') {
					if sz, ok = parseBackgroundSize(v); !ok {
						return false
					}
				}
			} else {
				return false
			}
		}
		if n == 0 {
			return false
		}
		origin, clip := BorderBox, BorderBox
		if len(boxes) > 0 {
			origin, clip = boxes[0], boxes[len(boxes)-1]
		}
		if noClip {
			clip = NoClip
		}
		images, repeats, sizes, places = append(images, image), append(repeats, repeat), append(sizes, sz), append(places, place)
		origins, clips, joins = append(origins, origin), append(clips, clip), append(joins, join)
		if !v.comma() {
			break
		}
	}
	set("mask-image", all(images))
	set("mask-repeat", all(repeats))
	set("mask-size", all(sizes))
	set("mask-position", all(places))
	set("mask-origin", fixed(origins))
	set("mask-clip", fixed(clips))
	set("mask-composite", fixed(joins))
	set("mask-mode", fixed(mode))
	return true
}

// composites are how a layer of a mask is joined with those below (Masking 1, §6.6).
const composites = "add subtract intersect exclude"

// maskBox reads a box of a mask. Boxes of CSS stand for those of drawings, and the other way
// round, but for view-box: what is drawn has one of its own (Masking 1, §6.5).
func maskBox(v *values) (Keyword, bool) {
	k, ok := v.oneOf("border-box padding-box content-box fill-box stroke-box view-box")
	switch k {
	case FillBox:
		k = ContentBox
	case StrokeBox:
		k = BorderBox
	}
	return k, ok
}

func maskClipSpec(v *values) (spec[Keyword], bool) {
	if v.word("no-clip") {
		return fixed(NoClip), true
	}
	return maskBoxSpec(v)
}

func maskBoxSpec(v *values) (spec[Keyword], bool) {
	k, ok := maskBox(v)
	return fixed(k), ok
}
