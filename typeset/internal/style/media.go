package style

import (
	"math"
	"slices"
	"strings"

	"oliveledger/typeset/internal/css"
)

// Env is what media queries and viewport units look at.
type Env struct {
	Medium        string  // print or screen
	Width, Height float64 // px of the page area
	SizeAsked     *bool   // set when a query looks at width or height; may be nil
	em            float64 // of a container's font; 0 for the initial one
}

// MatchMedia evaluates a media query list (Media Queries 4). An empty list
// matches; a query that does not parse does not.
func MatchMedia(list []css.Token, env Env) bool {
	if len(css.Words(list)) == 0 {
		return true
	}
	for _, q := range css.Split(list) {
		if matchQuery(css.Words(q), env) == yes {
			return true
		}
	}
	return false
}

// tri is the three-valued logic of Media Queries 4, §3.1.
type tri int8

const (
	no tri = iota
	unknownTruth
	yes
)

func truth(b bool) tri {
	if b {
		return yes
	}
	return no
}

func (t tri) not() tri { return yes - t }

func matchQuery(w []css.Token, env Env) tri {
	if len(w) == 0 {
		return no
	}
	invert := false
	if w[0].Kind == css.Ident && (!w[0].Is("not") || len(w) > 1 && w[1].Kind == css.Ident) {
		if w[0].Is("not") || w[0].Is("only") {
			invert = w[0].Is("not")
			w = w[1:]
		}
		if len(w) == 0 || w[0].Kind != css.Ident || w[0].Is("and") || w[0].Is("or") || w[0].Is("not") || w[0].Is("only") || w[0].Is("layer") {
			return no
		}
		r := truth(w[0].Is("all") || w[0].Is(env.Medium))
		w = w[1:]
		if len(w) > 0 {
			if !w[0].Is("and") {
				return no
			}
			c := condition(w[1:], false, func(t css.Token) tri { return mediaFeature(t, env) })
			if c == syntaxError {
				return no
			}
			r = min(r, c)
		}
		if invert {
			r = r.not()
		}
		return r
	}
	r := condition(w, true, func(t css.Token) tri { return mediaFeature(t, env) })
	if r == syntaxError {
		return no
	}
	return r
}

const syntaxError tri = -1

// condition evaluates "a and b", "a or b" and "not a"; leafs judges the parts.
func condition(w []css.Token, allowOr bool, leafs func(css.Token) tri) tri {
	if len(w) == 0 {
		return syntaxError
	}
	part := func(t css.Token) tri {
		if t.Kind == css.Paren {
			in := css.Words(t.Args)
			if len(in) > 0 && (in[0].Kind == css.Paren || in[0].Is("not") || in[0].Kind == css.Function && (in[0].Text == "selector" || in[0].Text == "not")) {
				if r := condition(in, true, leafs); r != syntaxError {
					return r
				}
			}
		}
		return leafs(t)
	}
	if w[0].Is("not") {
		if len(w) != 2 || w[1].Kind != css.Paren && w[1].Kind != css.Function {
			return syntaxError
		}
		r := part(w[1])
		if r == syntaxError {
			return r
		}
		return r.not()
	}
	r := part(w[0])
	op := ""
	for i := 1; i < len(w) && r != syntaxError; i += 2 {
		o := w[i].Lower()
		if w[i].Kind != css.Ident || i+1 >= len(w) || o != "and" && (o != "or" || !allowOr) || op != "" && o != op {
			return syntaxError
		}
		op = o
		x := part(w[i+1])
		if x == syntaxError {
			return x
		}
		if op == "and" {
			r = min(r, x)
		} else {
			r = max(r, x)
		}
	}
	return r
}

func mediaFeature(t css.Token, env Env) tri {
	if env.SizeAsked != nil && asksSize(t.Args) {
		*env.SizeAsked = true
	}
	if t.Kind == css.Function {
		return unknownTruth
	}
	if t.Kind != css.Paren {
		return syntaxError
	}
	w := css.Words(t.Args)
	switch {
	case len(w) == 1 && w[0].Kind == css.Ident:
		return featureOn(w[0].Lower(), env)
	case len(w) >= 3 && w[0].Kind == css.Ident && w[1].Kind == css.Colon:
		prefix, name := prefixed(w[0].Lower())
		op := map[string]byte{"": '=', "min-": '>', "max-": '<'}[prefix]
		return compareFeature(name, op, true, w[2:], env)
	}
	return rangeFeature(w, env)
}

// prefixed splits a feature into min- or max- and its name.
func prefixed(name string) (prefix, rest string) {
	for _, p := range []string{"min-", "max-"} {
		if rest, ok := strings.CutPrefix(name, p); ok {
			return p, rest
		}
	}
	return "", name
}

// rangeFeature evaluates "400px <= width < 900px".
func rangeFeature(w []css.Token, env Env) tri {
	type cmp struct {
		at, n int
		op    byte
		equal bool
	}
	var ops []cmp
	for i := 0; i < len(w); i++ {
		if t := w[i]; t.Kind == css.Delim && strings.ContainsAny(t.Text, "<>=") {
			c := cmp{at: i, n: 1, op: t.Text[0], equal: t.Text == "="}
			if i+1 < len(w) && w[i+1].IsDelim('=') && c.op != '=' {
				c.n, c.equal = 2, true
				i++
			}
			ops = append(ops, c)
		}
	}
	flip := map[byte]byte{'<': '>', '>': '<', '=': '='}
	switch len(ops) {
	case 1:
		a, b := w[:ops[0].at], w[ops[0].at+ops[0].n:]
		if len(a) == 1 && a[0].Kind == css.Ident {
			return compareFeature(a[0].Lower(), ops[0].op, ops[0].equal, b, env)
		}
		if len(b) == 1 && b[0].Kind == css.Ident {
			return compareFeature(b[0].Lower(), flip[ops[0].op], ops[0].equal, a, env)
		}
	case 2:
		a, mid, b := w[:ops[0].at], w[ops[0].at+ops[0].n:ops[1].at], w[ops[1].at+ops[1].n:]
		if len(mid) == 1 && mid[0].Kind == css.Ident && ops[0].op == ops[1].op && ops[0].op != '=' {
			return min(compareFeature(mid[0].Lower(), flip[ops[0].op], ops[0].equal, a, env), compareFeature(mid[0].Lower(), ops[1].op, ops[1].equal, b, env))
		}
	}
	return unknownTruth
}

// asksSize tells whether a feature depends on the size of the page area.
func asksSize(list []css.Token) bool {
	for _, t := range list {
		if name := t.Lower(); t.Kind == css.Ident && (strings.Contains(name, "width") || strings.Contains(name, "height") || strings.Contains(name, "aspect") || name == "orientation") {
			return true
		}
	}
	return false
}

func featureOn(name string, env Env) tri {
	switch name {
	case "width", "height", "aspect-ratio", "color", "resolution", "device-width", "device-height", "orientation", "color-gamut", "prefers-color-scheme", "update", "overflow-block", "overflow-inline", "device-aspect-ratio", "environment-blending", "dynamic-range", "video-dynamic-range", "-webkit-transform-3d":
		return truth(name != "update" || env.Medium == "screen")
	case "color-index", "monochrome", "grid", "hover", "any-hover", "pointer", "any-pointer", "scripting", "prefers-reduced-motion", "prefers-reduced-transparency", "prefers-contrast", "forced-colors", "inverted-colors", "prefers-reduced-data", "-webkit-transition", "nav-controls", "horizontal-viewport-segments", "vertical-viewport-segments":
		return no
	}
	return unknownTruth
}

func compareFeature(name string, op byte, equal bool, value []css.Token, env Env) tri {
	if len(value) == 1 && value[0].Kind == css.Ident && op == '=' {
		return keywordFeature(name, value[0].Lower(), env)
	}
	want, dimension, ok := featureValue(value, env)
	if !ok {
		return unknownTruth
	}
	var have float64
	need := dimNumber
	switch name {
	case "width", "device-width":
		have, need = env.Width, dimLength
	case "height", "device-height":
		have, need = env.Height, dimLength
	case "aspect-ratio", "device-aspect-ratio":
		have = env.Width / env.Height
	case "color":
		have = 8
	case "color-index", "monochrome", "grid":
		have = 0
	case "horizontal-viewport-segments", "vertical-viewport-segments":
		have = 1
	case "resolution":
		have, need = 300.0/96, dimResolution
		if env.Medium == "screen" {
			have = 1
		}
	case "-webkit-device-pixel-ratio":
		have = 300.0 / 96
		if env.Medium == "screen" {
			have = 1
		}
	default:
		return unknownTruth
	}
	if dimension != need && !(need == dimLength && dimension == dimNumber && want == 0) {
		return unknownTruth
	}
	close := math.Abs(have-want) < 1e-6
	switch op {
	case '<':
		return truth(have < want && !close || equal && close)
	case '>':
		return truth(have > want && !close || equal && close)
	}
	return truth(close)
}

// featureValue evaluates a number, ratio, length or resolution; relative units
// stand on the initial font (§1.3).
func featureValue(w []css.Token, env Env) (float64, dim, bool) {
	em := env.em
	if em == 0 {
		em = initial.FontSize
	}
	c := &Computer{S: initial, Parent: initial, em: em, resolver: &Resolver{env: env, fonts: plainFonts{}}}
	if len(w) == 1 && w[0].Is("infinite") {
		return math.Inf(1), dimResolution, true
	}
	if len(w) == 3 && w[1].IsDelim('/') {
		a, ok := leaf(w[0], nil)
		b, ok2 := leaf(w[2], nil)
		if !ok || !ok2 || a.dim != dimNumber || b.dim != dimNumber {
			return 0, 0, false
		}
		return a.eval(c).v / b.eval(c).v, dimNumber, true
	}
	if len(w) != 1 {
		return 0, 0, false
	}
	s, ok := leaf(w[0], nil)
	if !ok {
		return 0, 0, false
	}
	return s.eval(c).v, s.dim, true
}

func keywordFeature(name, value string, env Env) tri {
	allowed := map[string]string{
		"orientation": "portrait landscape", "prefers-color-scheme": "light dark", "hover": "none hover", "any-hover": "none hover",
		"pointer": "none coarse fine", "any-pointer": "none coarse fine", "update": "none slow fast", "overflow-block": "none scroll paged optional-paged", "overflow-inline": "none scroll",
		"color-gamut": "srgb p3 rec2020", "scripting": "none initial-only enabled", "scan": "interlace progressive", "prefers-reduced-motion": "no-preference reduce", "prefers-contrast": "no-preference more less custom", "display-mode": "browser standalone fullscreen minimal-ui",
		"forced-colors": "none active", "inverted-colors": "none inverted", "dynamic-range": "standard high", "prefers-reduced-data": "no-preference reduce", "prefers-reduced-transparency": "no-preference reduce",
	}[name]
	if allowed == "" || !strings.Contains(" "+allowed+" ", " "+value+" ") {
		return unknownTruth
	}
	have := map[string]string{
		"orientation": "portrait", "prefers-color-scheme": "light", "hover": "none", "any-hover": "none", "pointer": "none", "any-pointer": "none", "update": "none",
		"overflow-block": "paged", "overflow-inline": "none", "color-gamut": "srgb", "scripting": "none", "prefers-reduced-motion": "no-preference", "prefers-contrast": "no-preference",
		"display-mode": "browser", "forced-colors": "none", "inverted-colors": "none", "dynamic-range": "standard", "prefers-reduced-data": "no-preference", "prefers-reduced-transparency": "no-preference",
	}[name]
	if name == "orientation" && env.Width > env.Height {
		have = "landscape"
	}
	if name == "update" && env.Medium == "screen" {
		have = "fast"
	}
	if name == "overflow-block" && env.Medium == "screen" {
		have = "scroll"
	}
	return truth(have == value)
}

// MatchSupports evaluates an @supports condition (CSS Conditional 3 and 4).
func MatchSupports(list []css.Token) bool {
	w := css.Words(list)
	r := condition(w, true, supportsFeature)
	return r == yes
}

func supportsFeature(t css.Token) tri {
	switch {
	case t.Kind == css.Function && t.Text == "selector":
		return truth(css.CheckSelectors(t.Args) == nil)
	case t.Kind == css.Function && t.Text == "font-tech":
		return oneOf(t.Args, "features-opentype", "variations", "color-colrv0", "palettes")
	case t.Kind == css.Function && t.Text == "font-format":
		return oneOf(t.Args, "opentype", "truetype", "woff", "woff2")
	case t.Kind == css.Function:
		return no
	case t.Kind != css.Paren:
		return syntaxError
	}
	args := css.Trim(t.Args)
	if len(args) < 2 || args[0].Kind != css.Ident {
		return no
	}
	i := 1
	for i < len(args) && args[i].Kind == css.Space {
		i++
	}
	if i >= len(args) || args[i].Kind != css.Colon {
		return no
	}
	name, value := args[0].Text, css.Trim(args[i+1:])
	if n := len(value); n >= 2 && value[n-1].Is("important") && value[n-2].IsDelim('!') {
		value = css.Trim(value[:n-2])
	}
	if len(value) == 0 && !strings.HasPrefix(name, "--") || slices.ContainsFunc(value, func(t css.Token) bool { return t.IsDelim('!') }) {
		return no
	}
	return truth(Supports(name, value))
}

// oneOf tells whether arguments are one of the identifiers.
func oneOf(args []css.Token, names ...string) tri {
	w := css.Words(args)
	return truth(len(w) == 1 && w[0].Kind == css.Ident && slices.Contains(names, w[0].Lower()))
}

// MatchMediaText evaluates the text of a media attribute.
func MatchMediaText(text string, env Env) bool { return MatchMedia(css.ParseValues(text), env) }
