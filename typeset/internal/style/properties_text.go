package style

import (
	"math"
	"slices"
	"strings"

	"oliveledger/typeset/internal/css"
)

func list[T any](v *values, one func(*values) (spec[T], bool)) (spec[[]T], bool) {
	var specs []spec[T]
	for {
		s, ok := one(v)
		if !ok {
			return nil, false
		}
		specs = append(specs, s)
		if !v.comma() {
			break
		}
	}
	return func(c *Computer) []T {
		out := make([]T, len(specs))
		for i, s := range specs {
			out[i] = s(c)
		}
		return out
	}, true
}

func defineFont() {
	define("direction", true, func(s *Style) *Keyword { return &s.Direction }, keywordSpec("ltr rtl"))
	define("writing-mode", true, func(s *Style) *Keyword { return &s.WritingMode }, func(v *values) (spec[Keyword], bool) {
		k, ok := v.oneOf("horizontal-tb vertical-rl vertical-lr sideways-rl sideways-lr lr lr-tb rl tb tb-rl")
		switch k.String() { // SVG 1.1's names
		case "lr", "lr-tb", "rl":
			k = HorizontalTb
		case "tb", "tb-rl":
			k = VerticalRl
		}
		return fixed(k), ok
	})
	words("text-orientation", true, "mixed upright sideways sideways-right", func(s *Style) *Keyword { return &s.Orientation })
	define("font-size", true, func(s *Style) *float64 { return &s.FontSize }, parseFontSize)
	byName["font-size"].copy = func(dst, src *Style) {
		dst.FontSize, dst.SizeKeyword, dst.SizeAbsolute = src.FontSize, src.SizeKeyword, src.SizeAbsolute
	}
	define("font-family", true, func(s *Style) *[]string { return &s.Families }, parseFamilies)
	define("font-weight", true, func(s *Style) *float64 { return &s.FontWeight }, parseWeight)
	define("font-style", true, func(s *Style) *FontStyle { return &s.FontStyle }, parseFontStyle)
	define("font-stretch", true, func(s *Style) *float64 { return &s.FontStretch }, func(v *values) (spec[float64], bool) {
		if k, ok := v.oneOf("ultra-condensed extra-condensed condensed semi-condensed normal semi-expanded expanded extra-expanded ultra-expanded"); ok {
			return fixed(fontStretches[k.String()]), true
		}
		if v.negative() {
			return nil, false
		}
		s, ok := v.num(dimPercent)
		return func(c *Computer) float64 { return s.eval(c).pct }, ok
	})
	aliases["font-width"] = "font-stretch"
	words("font-variant-caps", true, "normal small-caps all-small-caps petite-caps all-petite-caps unicase titling-caps", func(s *Style) *Keyword { return &s.FontCaps })
	for group, name := range variantGroups {
		define("font-variant-"+name, true, func(s *Style) *[]string { return &s.FontVariants[group] }, variantsOf(name))
	}
	variants := []string{"font-variant-caps"}
	for _, name := range variantGroups {
		variants = append(variants, "font-variant-"+name)
	}
	define("font-feature-settings", true, func(s *Style) *[]Feature { return &s.FontFeatures }, parseFeatures)
	define("font-variation-settings", true, func(s *Style) *[]Feature { return &s.FontVariations }, parseVariations)
	words("font-kerning", true, "auto normal none", func(s *Style) *Keyword { return &s.FontKerning })
	words("font-synthesis-weight", true, "auto none", func(s *Style) *Keyword { return &s.SynthesisWeight })
	words("font-synthesis-style", true, "auto none oblique-only", func(s *Style) *Keyword { return &s.SynthesisStyle })
	words("font-synthesis-small-caps", true, "auto none", func(s *Style) *Keyword { return &s.SynthesisCaps })
	define("font-palette", true, func(s *Style) **FontPalette { return &s.FontPalette }, parsePalette)
	define("font-size-adjust", true, func(s *Style) *SizeAdjust { return &s.SizeAdjust }, parseSizeAdjust)
	define("line-height", true, func(s *Style) *LineHeight { return &s.LineHeight }, parseLineHeight)
	for _, p := range properties { // all of these come before other properties
		p.early = p.name != "line-height"
	}
	short("font-variant", strings.Join(variants, " "), func(v *values, set func(string, any)) bool {
		alone := func(t css.Token) bool { return t.Is("normal") || t.Is("none") }
		if len(v.list) > 1 && slices.ContainsFunc(v.list, alone) {
			return false
		}
		return v.word("normal") || parseAnyOrder(v, variants, set) > 0
	})
	short("font", "font-style "+strings.Join(variants, " ")+" font-weight font-stretch font-size line-height font-family font-feature-settings font-kerning font-variation-settings font-size-adjust", parseFont)
	short("font-synthesis", "font-synthesis-weight font-synthesis-style font-synthesis-small-caps", parseSynthesis)
}

// parseFeatures reads OpenType features with their values (CSS Fonts 4, §6.12).
func parseFeatures(v *values) (spec[[]Feature], bool) {
	if v.word("normal") {
		return fixed([]Feature(nil)), true
	}
	return list(v, func(v *values) (spec[Feature], bool) {
		tag, ok := v.str()
		if !ok || len(tag) != 4 {
			return nil, false
		}
		if v.word("off") {
			return fixed(Feature{tag, 0}), true
		}
		v.word("on")
		if v.negative() {
			return nil, false
		}
		if n, ok := v.integer(); ok {
			return func(c *Computer) Feature { return Feature{tag, float64(n(c))} }, true
		}
		return fixed(Feature{tag, 1}), true
	})
}

// parseVariations reads axes with their values (CSS Fonts 4, §8.3).
func parseVariations(v *values) (spec[[]Feature], bool) {
	if v.word("normal") {
		return fixed([]Feature(nil)), true
	}
	return list(v, func(v *values) (spec[Feature], bool) {
		axis, ok := v.str()
		n, hasNumber := v.number(false)
		if !ok || len(axis) != 4 || !hasNumber {
			return nil, false
		}
		return func(c *Computer) Feature { return Feature{axis, n(c)} }, true
	})
}

// parseSynthesis reads font-synthesis: what is not named is not made up
// (CSS Fonts 4, §2.9).
func parseSynthesis(v *values, set func(string, any)) bool {
	on := map[string]Keyword{"weight": None, "style": None, "small-caps": None, "position": None}
	if !v.word("none") {
		for !v.done() {
			found := false
			for name := range on {
				if v.word(name) {
					on[name], found = Auto, true
				}
			}
			if !found {
				return false
			}
		}
	}
	for _, name := range []string{"weight", "style", "small-caps"} {
		set("font-synthesis-"+name, fixed(on[name]))
	}
	return true
}

func keywordSpec(set string) func(v *values) (spec[Keyword], bool) {
	return func(v *values) (spec[Keyword], bool) {
		k, ok := v.oneOf(set)
		return fixed(k), ok
	}
}

// sizeKeywords are the absolute sizes in px, and those of a lone monospace, whose
// medium is 13 px (CSS Fonts 4, §2.5.1; sizes on whole px as browsers have them).
var sizeKeywords = [...]struct {
	name      string
	px, fixed float64
}{{"xx-small", 9, 9}, {"x-small", 10, 10}, {"small", 13, 12}, {"medium", 16, 13}, {"large", 18, 16}, {"x-large", 24, 20}, {"xx-large", 32, 26}, {"xxx-large", 48, 39}}

// mediumSize is the place of medium among them, from 1.
const mediumSize = 4

// loneMonospace tells whether text is in monospace and nothing else.
func (s *Style) loneMonospace() bool { return len(s.Families) == 1 && s.Families[0] == "monospace" }

// sizeOfFamily fits the size to the family: one that a keyword gave, also around the
// element, and one that is relative to one of another family. Lengths stay.
func (c *Computer) sizeOfFamily() {
	lone := c.S.loneMonospace()
	switch k := c.S.SizeKeyword; {
	case k > 0 && lone:
		c.S.FontSize = sizeKeywords[k-1].fixed
	case k > 0:
		c.S.FontSize = sizeKeywords[k-1].px
	case c.S.SizeAbsolute || lone == c.Parent.loneMonospace():
	case lone:
		c.S.FontSize *= fixedShare
	default:
		c.S.FontSize /= fixedShare
	}
}

// fixedShare is how large a lone monospace is to other families.
const fixedShare = 13. / 16

// sizeInPx is a size that no keyword names; relative ones count from the parent's.
func sizeInPx(relative bool, f func(c *Computer) float64) spec[float64] {
	return func(c *Computer) float64 {
		px := f(c)
		c.S.SizeKeyword, c.S.SizeAbsolute = 0, !relative || c.Parent.SizeAbsolute
		return px
	}
}

// relativeUnits are those of lengths that count from the parent's size, but for rem.
var relativeUnits = map[string]bool{"em": true, "ex": true, "ch": true, "cap": true, "ic": true, "lh": true}

func parseFontSize(v *values) (spec[float64], bool) {
	for i, k := range sizeKeywords {
		if v.word(k.name) {
			return func(c *Computer) float64 {
				c.S.SizeKeyword, c.S.SizeAbsolute = int8(i+1), false
				return k.px
			}, true
		}
	}
	if k, ok := v.oneOf("smaller larger"); ok {
		return sizeInPx(true, func(c *Computer) float64 {
			if k == keyword("smaller") {
				return c.Parent.FontSize / 1.2
			}
			return c.Parent.FontSize * 1.2
		}), true
	}
	t := v.peek()
	relative := t.Kind == css.Percentage || t.Kind == css.Dimension && relativeUnits[t.Unit]
	l, ok := v.lp(true)
	return sizeInPx(relative, func(c *Computer) float64 { return l(c).Of(c.Parent.FontSize) }), ok
}

func parseFamilies(v *values) (spec[[]string], bool) {
	var out []string
	for {
		if s, ok := v.str(); ok {
			out = append(out, s)
		} else {
			var parts []string
			for v.peek().Kind == css.Ident {
				parts = append(parts, v.next().Text)
			}
			if len(parts) == 0 {
				if t := v.peek(); t.Kind == css.Function && t.Text == "generic" {
					v.pos++
					parts = []string{"serif"}
				} else {
					return nil, false
				}
			}
			if len(parts) == 1 {
				if isWide(parts[0]) || strings.EqualFold(parts[0], "default") {
					return nil, false
				}
			}
			out = append(out, strings.Join(parts, " "))
		}
		if !v.comma() {
			break
		}
	}
	return fixed(out), true
}

// obliqueAngle is how far oblique letters lean, in degrees, unless a style says
// (CSS Fonts 4, §2.4).
const obliqueAngle = 14

func parseFontStyle(v *values) (spec[FontStyle], bool) {
	k, ok := v.oneOf("normal italic oblique")
	if k != Oblique || v.done() {
		return fixed(styleOf(k, obliqueAngle)), ok
	}
	t := v.peek()
	angle, given := v.angle()
	if !given {
		return fixed(styleOf(k, obliqueAngle)), ok
	}
	if t.Kind == css.Number || t.Kind == css.Dimension && math.Abs(angle(nil)) > 90 { // of 90deg in either direction (CSS Fonts 4, §2.4)
		return nil, false
	}
	return func(c *Computer) FontStyle { return styleOf(k, max(min(angle(c), 90), -90)) }, ok
}

// styleOf is the font style of a keyword; one that does not lean is the normal one.
func styleOf(k Keyword, angle float64) FontStyle {
	if k == Normal || k == Oblique && angle == 0 {
		return FontStyle{Kind: Normal}
	}
	return FontStyle{k, angle}
}

func parseWeight(v *values) (spec[float64], bool) {
	if k, ok := v.oneOf("normal bold bolder lighter"); ok {
		return func(c *Computer) float64 {
			p := c.Parent.FontWeight
			switch k {
			case Normal:
				return 400
			case Bold:
				return 700
			case keyword("bolder"): // CSS Fonts 4, §2.2.1
				switch {
				case p < 350:
					return 400
				case p < 550:
					return 700
				}
				return math.Max(p, 900)
			}
			switch {
			case p < 100:
				return p
			case p < 550:
				return 100
			case p < 750:
				return 400
			}
			return 700
		}, true
	}
	if t := v.peek(); t.Kind == css.Number && (t.Num < 1 || t.Num > 1000) {
		return nil, false
	}
	n, ok := v.number(true)
	return func(c *Computer) float64 { return math.Min(math.Max(n(c), 1), 1000) }, ok
}

// fontStretches are the widths that keywords stand for, in percent
// (CSS Fonts 4, §2.3).
var fontStretches = map[string]float64{
	"ultra-condensed": 50, "extra-condensed": 62.5, "condensed": 75, "semi-condensed": 87.5, "normal": 100,
	"semi-expanded": 112.5, "expanded": 125, "extra-expanded": 150, "ultra-expanded": 200,
}

// variantGroups are the properties of font-variant for OpenType features, but for caps
// (CSS Fonts 4, §6).
var variantGroups = [...]string{"ligatures", "numeric", "east-asian", "position", "alternates", "emoji"}

// variantFeatures are the features that words ask for, by property; a - turns one off.
var variantFeatures = map[string]map[string]string{
	"ligatures": {
		"none": "-liga -clig -dlig -hlig -calt", "no-common-ligatures": "-liga -clig", "common-ligatures": "liga clig", "discretionary-ligatures": "dlig",
		"no-discretionary-ligatures": "-dlig", "historical-ligatures": "hlig", "no-historical-ligatures": "-hlig", "contextual": "calt", "no-contextual": "-calt",
	},
	"numeric": {
		"lining-nums": "lnum", "oldstyle-nums": "onum", "proportional-nums": "pnum", "tabular-nums": "tnum", "diagonal-fractions": "frac",
		"stacked-fractions": "afrac", "ordinal": "ordn", "slashed-zero": "zero",
	},
	"east-asian": {
		"jis78": "jp78", "jis83": "jp83", "jis90": "jp90", "jis04": "jp04", "simplified": "smpl", "traditional": "trad", "full-width": "fwid",
		"proportional-width": "pwid", "ruby": "ruby",
	},
	"position":   {"sub": "subs", "super": "sups"},
	"alternates": {"historical-forms": "hist"},
	"emoji":      {"text": "text", "emoji": "emoji", "unicode": "unicode"}, // no features: they pick the face
}

// variantKinds are what words of one property are of which it takes one each; of other words
// it takes each once, with no- before it or without.
var variantKinds = map[string]string{
	"lining-nums": "figures", "oldstyle-nums": "figures", "proportional-nums": "spacing", "tabular-nums": "spacing", "diagonal-fractions": "fractions", "stacked-fractions": "fractions",
	"jis78": "forms", "jis83": "forms", "jis90": "forms", "jis04": "forms", "simplified": "forms", "traditional": "forms", "full-width": "width", "proportional-width": "width",
	"sub": "position", "super": "position", "text": "emoji", "emoji": "emoji", "unicode": "emoji",
}

func variantKind(word string) string {
	if kind := variantKinds[word]; kind != "" {
		return kind
	}
	return strings.TrimPrefix(word, "no-")
}

// variantsOf parses one of the properties, up to a word that is not its own.
func variantsOf(group string) func(v *values) (spec[[]string], bool) {
	words := variantFeatures[group]
	return func(v *values) (spec[[]string], bool) {
		if v.word("normal") {
			return fixed([]string(nil)), true
		}
		var out []string
		var named []alternate
		n := 0
		given := map[string]bool{}
		for ; !v.done(); n++ {
			t := v.peek()
			if group == "alternates" && alternateKinds[t.Text] && t.Kind == css.Function {
				list, ok := parseAlternate(t)
				if !ok {
					return nil, false
				}
				named = append(named, list...)
			} else if f, ok := words[t.Lower()]; ok && t.Kind == css.Ident {
				kind := variantKind(t.Lower())
				if given[kind] || given["none"] || kind == "none" && n > 0 {
					return nil, false
				}
				given[kind] = true
				out = append(out, strings.Fields(f)...)
			} else {
				break
			}
			v.pos++
		}
		if len(named) == 0 {
			return fixed(out), n > 0
		}
		return func(c *Computer) []string {
			all := slices.Clone(out)
			for _, a := range named {
				all = append(all, c.resolver.alternate(c.S.Families, a)...)
			}
			return all
		}, true
	}
}

func parseLineHeight(v *values) (spec[LineHeight], bool) {
	if v.word("normal") {
		return fixed(LineHeight{}), true
	}
	if n, ok := v.number(true); ok {
		return func(c *Computer) LineHeight { return LineHeight{LineNumber, n(c)} }, true
	}
	l, ok := v.lp(true)
	return func(c *Computer) LineHeight {
		c.lineHeightOf = c.Parent
		defer func() { c.lineHeightOf = nil }()
		return LineHeight{LineLength, l(c).Of(c.S.FontSize)}
	}, ok
}

func parseFont(v *values, set func(string, any)) bool {
	if _, ok := v.oneOf("caption icon menu message-box small-caption status-bar"); ok {
		set("font-family", fixed([]string{"sans-serif"}))
		set("font-size", sizeInPx(false, func(*Computer) float64 { return 13.333 }))
		return true
	}
	given, normal := map[string]bool{}, 0 // of the four that may stand before the size
	for !v.done() && len(given)+normal < 4 {
		if v.word("normal") {
			normal++
			continue
		}
		done := false
		for _, n := range []string{"font-style", "font-variant-caps", "font-weight", "font-stretch"} {
			if n == "font-stretch" && v.peek().Kind != css.Ident || n == "font-variant-caps" && !v.peek().Is("small-caps") {
				continue
			}
			if n == "font-weight" {
				if t := v.peek(); t.Kind == css.Number && t.Num == 0 {
					continue
				}
			}
			if x, ok := try(v, byName[n].parse); ok {
				if given[n] {
					return false
				}
				given[n] = true
				set(n, x)
				done = true
				break
			}
		}
		if !done {
			break
		}
	}
	x, ok := byName["font-size"].parse(v)
	if !ok {
		return false
	}
	set("font-size", x)
	if v.delim('/') {
		if x, ok = byName["line-height"].parse(v); !ok {
			return false
		}
		set("line-height", x)
	}
	if x, ok = byName["font-family"].parse(v); !ok {
		return false
	}
	set("font-family", x)
	return true
}

func defineText() {
	define("color", true, func(s *Style) *Color { return &s.Color }, func(v *values) (spec[Color], bool) {
		col, ok := v.color()
		return func(c *Computer) Color { return col(c).Or(c.Parent.Color) }, ok
	}).early = true
	define("text-align", true, func(s *Style) *Keyword { return &s.TextAlign }, func(v *values) (spec[Keyword], bool) {
		k, ok := v.oneOf("start end left right center justify match-parent justify-all -webkit-center -webkit-left -webkit-right -webkit-match-parent -x-head-cell")
		return func(c *Computer) Keyword {
			if k.String() == "match-parent" || k.String() == "-webkit-match-parent" {
				a := c.Parent.TextAlign
				rtl := c.Parent.Direction == Rtl
				switch {
				case a == Start && !rtl, a == End && rtl:
					return LeftSide
				case a == Start || a == End:
					return RightSide
				}
				return a
			}
			return k
		}, ok
	})
	words("text-align-last", true, "auto start end left right center justify", func(s *Style) *Keyword { return &s.TextAlignLast })
	words("text-justify", true, "auto none inter-word inter-character distribute", func(s *Style) *Keyword { return &s.TextJustify })
	define("text-indent", true, func(s *Style) *Indent { return &s.TextIndent }, func(v *values) (spec[Indent], bool) {
		var l spec[LP]
		hanging, each := false, false
		for !v.done() {
			if x, ok := v.lp(false); ok && l == nil {
				l = x
			} else if v.word("hanging") && !hanging {
				hanging = true
			} else if v.word("each-line") && !each {
				each = true
			} else {
				return nil, false
			}
		}
		return func(c *Computer) Indent { return Indent{l(c), hanging, each} }, l != nil
	})
	define("hanging-punctuation", true, func(s *Style) *HangingPunctuation { return &s.HangingPunctuation }, func(v *values) (spec[HangingPunctuation], bool) {
		var h HangingPunctuation
		if v.word("none") {
			return fixed(h), true
		}
		for !v.done() {
			if v.word("first") && !h.First {
				h.First = true
			} else if v.word("last") && !h.Last {
				h.Last = true
			} else if v.word("force-end") && !h.Allow && !h.Force {
				h.Force = true
			} else if v.word("allow-end") && !h.Force && !h.Allow {
				h.Allow = true
			} else {
				return nil, false
			}
		}
		return fixed(h), h != HangingPunctuation{}
	})
	define("text-transform", true, func(s *Style) *TextTransform { return &s.TextTransform }, func(v *values) (spec[TextTransform], bool) {
		if v.word("none") {
			return fixed(TextTransform{Case: None}), true
		}
		t, kana := TextTransform{Case: None}, false
		for !v.done() {
			if k, ok := v.oneOf("capitalize uppercase lowercase math-auto"); ok {
				if t.Case != None {
					return nil, false
				}
				t.Case = k
			} else if !t.FullWidth && v.word("full-width") {
				t.FullWidth = true
			} else if kana || !v.word("full-size-kana") {
				return nil, false
			} else {
				kana = true
			}
		}
		return fixed(t), true
	})
	spacing := func(v *values) (spec[LP], bool) {
		if v.word("normal") {
			return fixed(LP{}), true
		}
		return v.lp(false)
	}
	define("letter-spacing", true, func(s *Style) *LP { return &s.LetterSpacing }, spacing)
	define("word-spacing", true, func(s *Style) *LP { return &s.WordSpacing }, spacing)
	define("white-space-collapse", true, func(s *Style) *Keyword { return &s.Collapse }, func(v *values) (spec[Keyword], bool) {
		k, ok := v.oneOf("collapse discard preserve preserve-breaks break-spaces preserve-spaces")
		if k == keyword("collapse") {
			k = CollapseSpace
		}
		return fixed(k), ok
	})
	define("text-wrap-mode", true, func(s *Style) *Keyword { return &s.Wrap }, func(v *values) (spec[Keyword], bool) {
		k, ok := v.oneOf("wrap nowrap")
		if k == keyword("wrap") {
			k = WrapText
		}
		return fixed(k), ok
	})
	words("text-wrap-style", true, "auto balance pretty stable avoid-orphans", func(s *Style) *Keyword { return &s.WrapStyle })
	short("text-wrap", "text-wrap-mode text-wrap-style", func(v *values, set func(string, any)) bool {
		return parseAnyOrder(v, []string{"text-wrap-mode", "text-wrap-style"}, set) > 0
	})
	short("white-space", "white-space-collapse text-wrap-mode", func(v *values, set func(string, any)) bool {
		if k, ok := v.oneOf("normal pre nowrap pre-wrap pre-line break-spaces -moz-pre-wrap"); ok {
			pair := map[string][2]Keyword{
				"normal": {CollapseSpace, WrapText}, "pre": {Preserve, Nowrap}, "nowrap": {CollapseSpace, Nowrap},
				"pre-wrap": {Preserve, WrapText}, "-moz-pre-wrap": {Preserve, WrapText}, "pre-line": {PreserveBreaks, WrapText}, "break-spaces": {BreakSpaces, WrapText},
			}[k.String()]
			set("white-space-collapse", fixed(pair[0]))
			set("text-wrap-mode", fixed(pair[1]))
			return true
		}
		return parseAnyOrder(v, []string{"white-space-collapse", "text-wrap-mode"}, set) > 0
	})
	define("tab-size", true, func(s *Style) *LP { return &s.TabSize }, func(v *values) (spec[LP], bool) {
		if n, ok := v.number(true); ok {
			return func(c *Computer) LP { return LP{Pct: n(c) * 100} }, true
		}
		l, ok := v.length(true)
		return func(c *Computer) LP { return LP{Px: l(c)} }, ok
	})
	words("word-break", true, "normal keep-all break-all break-word auto-phrase", func(s *Style) *Keyword { return &s.WordBreak })
	words("overflow-wrap", true, "normal break-word anywhere", func(s *Style) *Keyword { return &s.OverflowWrap })
	words("line-break", true, "auto loose normal strict anywhere", func(s *Style) *Keyword { return &s.LineBreak })
	words("hyphens", true, "none manual auto", func(s *Style) *Keyword { return &s.Hyphens })
	define("hyphenate-limit-chars", true, func(s *Style) *[3]int { return &s.HyphenLimits }, parseHyphenLimits)
	define("hyphenate-character", true, func(s *Style) *string { return &s.HyphenChar }, func(v *values) (spec[string], bool) {
		if v.word("auto") {
			return fixed(""), true
		}
		t, ok := v.str()
		if t == "" { // the hyphen is there, but nothing is seen of it
			t = "\u200B"
		}
		return fixed(t), ok
	})
	aliases["word-wrap"] = "overflow-wrap"
	aliases["-webkit-hyphens"] = "hyphens"
	words("unicode-bidi", false, "normal embed isolate bidi-override isolate-override plaintext", func(s *Style) *Keyword { return &s.UnicodeBidi })
	defineOverflow()
	defineDecoration()
	defineLists()
	defineContent()
	define("orphans", true, func(s *Style) *int { return &s.Orphans }, positive)
	define("widows", true, func(s *Style) *int { return &s.Widows }, positive)
	define("word-space-transform", true, func(s *Style) *string { return &s.WordSpace }, parseWordSpace)
	defineInitialLetter()
	defineTextBox()
}

func positive(v *values) (spec[int], bool) {
	if t := v.peek(); t.Kind == css.Number && t.Num < 1 {
		return nil, false
	}
	n, ok := v.integer()
	return func(c *Computer) int { return max(1, n(c)) }, ok
}

func defineDecoration() {
	type lines struct{ under, over, through bool }
	define("text-decoration-line", false, func(s *Style) *Decoration { return &s.Decoration }, nil)
	p := byName["text-decoration-line"]
	p.parse = func(v *values) (any, bool) {
		if v.word("none") {
			return lines{}, true
		}
		kinds := v.several("underline overline line-through blink")
		has := func(k Keyword) bool { return slices.Contains(kinds, k) }
		return lines{has(Underline), has(Overline), has(LineThrough)}, len(kinds) > 0
	}
	p.apply = func(c *Computer, x any) {
		l := x.(lines)
		d := &c.S.Decoration
		d.Underline, d.Overline, d.Through = l.under, l.over, l.through
	}
	p.copy = func(dst, src *Style) {
		dst.Decoration.Underline, dst.Decoration.Overline, dst.Decoration.Through = src.Decoration.Underline, src.Decoration.Overline, src.Decoration.Through
	}
	words("text-decoration-style", false, "solid double dotted dashed wavy", func(s *Style) *Keyword { return &s.Decoration.Style })
	define("text-decoration-color", false, func(s *Style) *Color { return &s.Decoration.Color }, (*values).color)
	define("text-decoration-thickness", false, func(s *Style) *Size { return &s.Decoration.Thickness }, func(v *values) (spec[Size], bool) {
		if v.word("from-font") {
			return fixed(Size{Kind: FromFont}), true
		}
		s, ok := size("auto", false)(v)
		return func(c *Computer) Size {
			x := s(c)
			if x.Kind == Length {
				x.LP = LP{Px: x.Of(c.S.FontSize)}
			}
			return x
		}, ok
	})
	anyOrder("text-decoration", "text-decoration-line text-decoration-style text-decoration-color text-decoration-thickness")
	words("text-decoration-skip-ink", true, "auto none all", func(s *Style) *Keyword { return &s.SkipInk })
	define("text-underline-position", true, func(s *Style) *Keyword { return &s.UnderlinePosition }, func(v *values) (spec[Keyword], bool) {
		if v.word("auto") {
			return fixed(Auto), true
		}
		// where the line stands, and on which side of vertical text
		line, k := false, Auto
		for n := 0; ; n++ {
			x, ok := v.oneOf("from-font under left right")
			if !ok {
				return fixed(k), n > 0
			}
			isLine := x == FromFont || x == keyword("under")
			if n > 1 || n == 1 && isLine == line {
				return nil, false
			}
			if line = isLine; x == keyword("under") {
				k = x
			}
		}
	})
	define("text-underline-offset", true, func(s *Style) *Size { return &s.UnderlineOffset }, func(v *values) (spec[Size], bool) {
		s, ok := size("auto", false)(v)
		return func(c *Computer) Size {
			x := s(c)
			if x.Kind == Length {
				x.LP = LP{Px: x.Of(c.S.FontSize)}
			}
			return x
		}, ok
	})
	define("text-shadow", true, func(s *Style) *[]Shadow { return &s.TextShadow }, func(v *values) (spec[[]Shadow], bool) { return v.shadows(false) })
	define("ruby-position", true, func(s *Style) *bool { return &s.RubyUnder }, func(v *values) (spec[bool], bool) {
		v.word("alternate")
		k, ok := v.oneOf("over under")
		return fixed(ok && k == Under), ok || v.pos > 0
	})
	define("text-emphasis-style", true, func(s *Style) *string { return &s.EmphasisMark }, parseEmphasis)
	define("text-emphasis-color", true, func(s *Style) *Color { return &s.EmphasisColor }, (*values).color)
	define("-webkit-text-fill-color", true, func(s *Style) *Color { return &s.TextFill }, (*values).color) // (Compatibility, §4.6)
	define("-webkit-text-stroke-width", true, func(s *Style) *float64 { return &s.TextStroke }, lineWidth)
	define("-webkit-text-stroke-color", true, func(s *Style) *Color { return &s.TextStrokeColor }, (*values).color) // (Compatibility, §4.7)
	anyOrder("-webkit-text-stroke", "-webkit-text-stroke-width -webkit-text-stroke-color")
	anyOrder("text-emphasis", "text-emphasis-style text-emphasis-color")
	define("text-emphasis-position", true, func(s *Style) *EmphasisPlace { return &s.EmphasisAt }, func(v *values) (spec[EmphasisPlace], bool) {
		if v.word("auto") {
			return fixed(EmphasisPlace{}), true
		}
		across, ok := v.oneOf("left right")
		along, hasAlong := v.oneOf("over under")
		if !ok {
			across, _ = v.oneOf("left right")
		}
		return fixed(EmphasisPlace{Under: along == Under, Left: across == LeftSide}), hasAlong
	})
}

func parseEmphasis(v *values) (spec[string], bool) {
	if v.word("none") {
		return fixed(""), true
	}
	if s, ok := v.str(); ok {
		return fixed(s), true
	}
	const shapes = "dot circle double-circle triangle sesame"
	shape := "circle"
	k, shaped := v.oneOf(shapes)
	fill, filled := v.oneOf("filled open")
	if !shaped {
		k, shaped = v.oneOf(shapes)
	}
	if shaped {
		shape = k.String()
	}
	marks := map[string][2]string{"dot": {"•", "◦"}, "circle": {"●", "○"}, "double-circle": {"◉", "◎"}, "triangle": {"▲", "△"}, "sesame": {"﹅", "﹆"}}
	if filled && fill.String() == "open" {
		return fixed(marks[shape][1]), true
	}
	return fixed(marks[shape][0]), shaped || filled
}

// shadows parses box-shadow and text-shadow.
func (v *values) shadows(box bool) (spec[[]Shadow], bool) {
	if v.word("none") {
		return fixed([]Shadow(nil)), true
	}
	return list(v, func(v *values) (spec[Shadow], bool) {
		var col spec[Color]
		var lens []spec[float64]
		inset := false
		for !v.done() && v.peek().Kind != css.Comma {
			if c, ok := v.color(); ok && col == nil {
				col = c
			} else if box && !inset && v.word("inset") {
				inset = true
			} else if len(lens) == 0 {
				for len(lens) < 4 {
					l, ok := v.length(len(lens) == 2)
					if !ok {
						break
					}
					lens = append(lens, l)
				}
				if len(lens) < 2 {
					return nil, false
				}
			} else {
				return nil, false
			}
		}
		if len(lens) < 2 || !box && len(lens) > 3 {
			return nil, false
		}
		return func(c *Computer) Shadow {
			s := Shadow{X: lens[0](c), Y: lens[1](c), Color: currentCol, Inset: inset}
			if len(lens) > 2 {
				s.Blur = lens[2](c)
			}
			if len(lens) > 3 {
				s.Spread = lens[3](c)
			}
			if col != nil {
				s.Color = col(c)
			}
			return s
		}, true
	})
}

func defineLists() {
	define("list-style-type", true, func(s *Style) *ListType { return &s.ListType }, (*values).listType)
	words("list-style-position", true, "inside outside", func(s *Style) *Keyword { return &s.ListPosition })
	define("list-style-image", true, func(s *Style) **Image { return &s.ListImage }, func(v *values) (spec[*Image], bool) {
		if v.word("none") {
			return fixed[*Image](nil), true
		}
		return v.image()
	})
	short("list-style", "list-style-type list-style-position list-style-image", func(v *values, set func(string, any)) bool {
		nones := 0
		hasType, hasImage, hasPlace, n := false, false, false, 0
		for !v.done() {
			if v.word("none") {
				nones++
				n++
				continue
			}
			if x, ok := try(v, byName["list-style-position"].parse); ok && !hasPlace {
				set("list-style-position", x)
				hasPlace = true
			} else if x, ok := try(v, byName["list-style-image"].parse); ok && !hasImage {
				set("list-style-image", x)
				hasImage = true
			} else if x, ok := try(v, byName["list-style-type"].parse); ok && !hasType {
				set("list-style-type", x)
				hasType = true
			} else {
				return false
			}
			n++
		}
		if nones > 0 && !hasType {
			set("list-style-type", fixed(ListType{Name: "none"}))
			nones--
		}
		return n > 0 && (nones <= 0 || nones == 1 && !hasImage)
	})
	define("quotes", true, func(s *Style) **[]string { return &s.Quotes }, func(v *values) (spec[*[]string], bool) {
		if v.word("auto") {
			return fixed[*[]string](nil), true
		}
		if v.word("none") {
			return fixed(&[]string{}), true
		}
		var out []string
		for !v.done() {
			s, ok := v.str()
			if !ok {
				return nil, false
			}
			out = append(out, s)
		}
		return fixed(&out), len(out) > 0 && len(out)%2 == 0
	})
}

func (v *values) listType() (spec[ListType], bool) {
	if s, ok := v.str(); ok {
		return fixed(ListType{Text: s, IsText: true}), true
	}
	if t := v.peek(); t.Kind == css.Function && t.Text == "symbols" {
		cs, ok := parseSymbols(t.Args)
		if !ok {
			return nil, false
		}
		v.pos++
		return fixed(ListType{Anon: cs}), true
	}
	name, ok := v.customIdent("")
	if low := strings.ToLower(name); predefinedStyles[low] || low == "none" {
		name = low
	}
	return fixed(ListType{Name: name}), ok
}

func counterOps(fallback int) func(v *values) (spec[[]CounterOp], bool) {
	return func(v *values) (spec[[]CounterOp], bool) {
		if v.word("none") {
			return fixed([]CounterOp(nil)), true
		}
		type op struct {
			name       string
			value      spec[int]
			given, rev bool
		}
		var ops []op
		for !v.done() {
			o := op{value: fixed(fallback)}
			if t := v.peek(); t.Kind == css.Function && t.Text == "reversed" && fallback == 0 {
				w := css.Words(t.Args)
				if len(w) != 1 || w[0].Kind != css.Ident {
					return nil, false
				}
				v.pos++
				o.name, o.rev = w[0].Text, true
			} else {
				name, ok := v.customIdent("none")
				if !ok {
					return nil, false
				}
				o.name = name
			}
			if n, ok := v.integer(); ok {
				o.value, o.given = n, true
			}
			ops = append(ops, o)
		}
		return func(c *Computer) []CounterOp {
			out := make([]CounterOp, len(ops))
			for i, o := range ops {
				out[i] = CounterOp{Name: o.name, Value: o.value(c), HasValue: o.given, Reversed: o.rev}
			}
			return out
		}, len(ops) > 0
	}
}

func defineContent() {
	define("content", false, func(s *Style) *Content { return &s.Content }, parseContent)
	define("counter-reset", false, func(s *Style) *[]CounterOp { return &s.CounterReset }, counterOps(0))
	define("counter-set", false, func(s *Style) *[]CounterOp { return &s.CounterSet }, counterOps(0))
	define("counter-increment", false, func(s *Style) *[]CounterOp { return &s.CounterIncrement }, counterOps(1))
}

func parseContent(v *values) (spec[Content], bool) {
	if k, ok := v.oneOf("normal none"); ok {
		return fixed(Content{Kind: k}), true
	}
	var items []spec[ContentItem]
	for !v.done() {
		if v.delim('/') { // alternative text
			if !v.alternative() {
				return nil, false
			}
			break
		}
		it, ok := v.contentItem()
		if !ok {
			return nil, false
		}
		items = append(items, it)
	}
	return func(c *Computer) Content {
		out := Content{Kind: List}
		for _, s := range items {
			out.Items = append(out.Items, s(c))
		}
		return out
	}, len(items) > 0 && v.done()
}

// alternative reads text that stands for contents where they are read aloud (CSS Content 3, §1.2).
func (v *values) alternative() bool {
	for n := 0; ; n++ {
		if v.done() {
			return n > 0
		}
		t := v.peek()
		if _, ok := v.contentItem(); !ok || t.Kind != css.String && !(t.Kind == css.Function && (t.Text == "attr" || t.Text == "counter" || t.Text == "counters")) {
			return false
		}
	}
}

func (v *values) contentItem() (spec[ContentItem], bool) {
	if s, ok := v.str(); ok {
		return fixed(ContentItem{Kind: ContentText, Text: s}), true
	}
	if k, ok := v.oneOf("open-quote close-quote no-open-quote no-close-quote"); ok {
		return fixed(ContentItem{Kind: ContentQuote, Text: k.String()}), true
	}
	if v.word("contents") {
		return fixed(ContentItem{Kind: ContentContents, Text: "text"}), true
	}
	if t := v.peek(); t.Kind == css.Function && strings.HasSuffix(t.Text, "-gradient") {
		return nil, false // it has no size of its own, and is not set: better to tell that than to leave it out
	}
	if im, ok := v.image(); ok {
		return func(c *Computer) ContentItem { return ContentItem{Kind: ContentImage, Image: im(c)} }, true
	}
	t := v.peek()
	if t.Kind != css.Function {
		return nil, false
	}
	in := &values{list: css.Words(t.Args), base: v.base}
	var it spec[ContentItem]
	switch t.Text {
	case "counter", "counters":
		name, ok := in.customIdent("none")
		if !ok {
			return nil, false
		}
		item := ContentItem{Kind: ContentCounter, Text: name, Style: ListType{Name: "decimal"}}
		if t.Text == "counters" {
			item.Kind = ContentCounters
			if !in.comma() {
				return nil, false
			}
			if item.Separator, ok = in.str(); !ok {
				return nil, false
			}
		}
		if in.comma() {
			lt, ok := in.listType()
			if !ok {
				return nil, false
			}
			item.Style = lt(nil)
		}
		it = fixed(item)
	case "attr":
		if len(in.list) == 0 || in.list[0].Kind != css.Ident {
			return nil, false
		}
		it = fixed(ContentItem{Kind: ContentAttr, Text: in.list[0].Text})
		in.pos = len(in.list)
	default:
		var ok bool
		if it, ok = pagedContent(t.Text, in); !ok {
			return nil, false
		}
	}
	if !in.done() {
		return nil, false
	}
	v.pos++
	return it, true
}

// parseWordSpace reads word-space-transform (CSS Text 4, §2.2). Where phrases end is not
// worked out: auto-phrase adds nothing.
func parseWordSpace(v *values) (spec[string], bool) {
	if v.word("none") {
		return fixed(""), true
	}
	phrases := v.word("auto-phrase")
	space := ""
	switch {
	case v.word("space"):
		space = " "
	case v.word("ideographic-space"):
		space = "\u3000"
	default:
		return nil, false
	}
	if !phrases {
		v.word("auto-phrase")
	}
	return fixed(space), true
}

// parseHyphenLimits reads one to three numbers of letters (CSS Text 4, §6.3.1).
func parseHyphenLimits(v *values) (spec[[3]int], bool) {
	var out [3]int
	n := 0
	for ; n < 3 && !v.done(); n++ {
		if v.word("auto") {
			continue
		}
		i, ok := positive(v)
		if !ok {
			return nil, false
		}
		out[n] = i(nil)
	}
	if n == 2 {
		out[2] = out[1]
	}
	return fixed(out), n > 0
}
