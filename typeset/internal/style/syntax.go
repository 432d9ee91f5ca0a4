package style

import (
	"strings"

	"oliveledger/typeset/internal/css"
)

// syntax is what values of a registered property may be: one of several components (CSS
// Properties and Values API 1, §5); nil for anything.
type syntax []component

// component is a type of values, or a word that stands for itself.
type component struct {
	kind   string // such as "length"; "" for a word
	word   string
	spaced bool // a list with spaces between
	commas bool // a list with commas between
}

// parseSyntax reads the syntax of an @property rule (§5.4).
func parseSyntax(text string) (syntax, bool) {
	text = strings.TrimSpace(text)
	if text == "*" {
		return nil, true
	}
	var out syntax
	for part := range strings.SplitSeq(text, "|") {
		part = strings.TrimSpace(part)
		var c component
		if kind, ok := strings.CutSuffix(part, "+"); ok {
			part, c.spaced = kind, true
		} else if kind, ok := strings.CutSuffix(part, "#"); ok {
			part, c.commas = kind, true
		}
		if strings.HasPrefix(part, "<") && strings.HasSuffix(part, ">") {
			c.kind = part[1 : len(part)-1]
			if _, ok := kinds[c.kind]; !ok || c.kind == "transform-list" && (c.spaced || c.commas) {
				return nil, false
			}
		} else if c.word = part; part == "" || strings.ContainsAny(part, " \t\n<>+#*") || isWide(part) {
			return nil, false
		}
		out = append(out, c)
	}
	return out, true
}

// isWide tells whether a word is a keyword that every property takes.
func isWide(word string) bool {
	_, ok := wideKeywords[strings.ToLower(word)]
	return ok
}

// accepts tells whether a value is as the syntax asks.
func (s syntax) accepts(value []css.Token) bool {
	if s == nil {
		return true
	}
	for _, c := range s {
		if c.accepts(value) {
			return true
		}
	}
	return false
}

func (c component) accepts(value []css.Token) bool {
	words := css.Words(value)
	if len(words) == 0 {
		return false
	}
	items := [][]css.Token{words}
	switch {
	case c.commas:
		items = css.Split(value)
	case c.spaced || c.kind == "transform-list":
		items = nil
		for _, w := range words {
			items = append(items, []css.Token{w})
		}
	}
	for _, item := range items {
		one := css.Words(item)
		if len(one) != 1 || !c.fits(one[0]) {
			return false
		}
	}
	return true
}

func (c component) fits(t css.Token) bool {
	if c.kind == "" {
		return t.Kind == css.Ident && t.Text == c.word
	}
	return kinds[c.kind](t)
}

// kinds are the types that a syntax may name (§5.1). What a calculation comes to is
// looked at where it is used.
var kinds = map[string]func(css.Token) bool{
	"length":            func(t css.Token) bool { return isLength(t) || calculates(t) },
	"number":            func(t css.Token) bool { return t.Kind == css.Number || calculates(t) },
	"percentage":        func(t css.Token) bool { return t.Kind == css.Percentage || calculates(t) },
	"length-percentage": func(t css.Token) bool { return isLength(t) || t.Kind == css.Percentage || calculates(t) },
	"integer": func(t css.Token) bool {
		return t.Kind == css.Number && t.Num == float64(int64(t.Num)) || calculates(t)
	},
	"color": func(t css.Token) bool { _, ok := parseColor(t); return ok },
	"image": func(t css.Token) bool { return t.Kind == css.URL || t.Kind == css.Function && imageFunction(t.Text) },
	"url":   func(t css.Token) bool { return t.Kind == css.URL || t.Kind == css.Function && t.Text == "url" },
	"angle": func(t css.Token) bool {
		return t.Kind == css.Dimension && angles[strings.ToLower(t.Unit)] != 0 || calculates(t)
	},
	"time": func(t css.Token) bool { return isDimension(t, "s", "ms") || calculates(t) },
	"resolution": func(t css.Token) bool {
		return isDimension(t, "dpi", "dpcm", "dppx", "x") || calculates(t)
	},
	"transform-function": isTransform,
	"transform-list":     isTransform,
	"custom-ident":       func(t css.Token) bool { return t.Kind == css.Ident && !isWide(t.Text) },
	"string":             func(t css.Token) bool { return t.Kind == css.String },
}

func isLength(t css.Token) bool {
	return t.Kind == css.Dimension && isLengthUnit(strings.ToLower(t.Unit)) || t.Kind == css.Number && t.Num == 0
}

func isDimension(t css.Token, units ...string) bool {
	if t.Kind != css.Dimension {
		return false
	}
	for _, u := range units {
		if strings.EqualFold(t.Unit, u) {
			return true
		}
	}
	return false
}

// calculates tells whether a token is a math function (CSS Values 4, §10).
func calculates(t css.Token) bool {
	return t.Kind == css.Function && isMathFunction(t.Text)
}

func imageFunction(name string) bool {
	return name == "url" || name == "image-set" || name == "cross-fade" || name == "image" || strings.HasSuffix(name, "-gradient")
}

func isTransform(t css.Token) bool {
	if t.Kind != css.Function {
		return false
	}
	for _, name := range []string{"matrix", "translate", "rotate", "scale", "skew", "perspective"} {
		if strings.HasPrefix(t.Text, name) {
			return true
		}
	}
	return false
}
