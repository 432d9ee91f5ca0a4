package style

import (
	"slices"
	"strings"

	"oliveledger/typeset/internal/css"
)

// values walks over the component values of a declaration, without white space.
type values struct {
	list []css.Token
	pos  int
	base string // what relative addresses of this sheet resolve against
}

func (v *values) done() bool { return v.pos >= len(v.list) }

func (v *values) peek() css.Token {
	if v.done() {
		return css.Token{Kind: css.EOF}
	}
	return v.list[v.pos]
}

func (v *values) next() css.Token {
	t := v.peek()
	v.pos++
	return t
}

// word takes the identifier if it comes next.
func (v *values) word(name string) bool {
	if v.peek().Is(name) {
		v.pos++
		return true
	}
	return false
}

// oneOf takes the next token if it is one of the keywords, separated by
// spaces in set.
func (v *values) oneOf(set string) (Keyword, bool) {
	t := v.peek()
	if t.Kind != css.Ident {
		return 0, false
	}
	name := t.Lower()
	for w := range strings.FieldsSeq(set) {
		if w == name {
			v.pos++
			return keyword(name), true
		}
	}
	return 0, false
}

func (v *values) delim(c byte) bool {
	if v.peek().IsDelim(c) {
		v.pos++
		return true
	}
	return false
}

func (v *values) comma() bool {
	if v.peek().Kind == css.Comma {
		v.pos++
		return true
	}
	return false
}

// several reads words of a set, in any order, each once at most.
func (v *values) several(set string) (list []Keyword) {
	for !v.done() {
		at := v.pos
		k, ok := v.oneOf(set)
		if !ok || slices.Contains(list, k) {
			v.pos = at
			break
		}
		list = append(list, k)
	}
	return list
}

// try runs f and goes back when it fails.
func try[T any](v *values, f func(*values) (T, bool)) (T, bool) {
	at := v.pos
	x, ok := f(v)
	if !ok {
		v.pos = at
	}
	return x, ok
}

type spec[T any] = func(*Computer) T

func fixed[T any](x T) spec[T] { return func(*Computer) T { return x } }

// num parses a numeric value of one of the dimensions allowed.
func (v *values) num(allowed ...dim) (sum, bool) {
	t := v.peek()
	if t.Kind == css.Ident || t.Kind == css.Paren {
		return sum{}, false
	}
	s, ok := leaf(t, nil)
	if !ok {
		return s, false
	}
	for _, d := range allowed {
		if s.dim != d {
			if d == dimLength && t.Kind == css.Number && t.Num == 0 { // unitless zero
				v.pos++
				return sum{dim: dimLength, eval: s.eval}, true
			}
			continue
		}
		if s.pct && s.dim != dimPercent && !has(allowed, dimPercent) {
			continue
		}
		v.pos++
		return s, true
	}
	return s, false
}

func has(list []dim, d dim) bool {
	for _, x := range list {
		if x == d {
			return true
		}
	}
	return false
}

// negative tells whether the next token is a plain number below zero; maths
// functions are clamped instead.
func (v *values) negative() bool {
	switch t := v.peek(); t.Kind {
	case css.Number, css.Dimension, css.Percentage:
		return t.Num < 0
	}
	return false
}

func (v *values) lp(nonNegative bool) (spec[LP], bool) {
	if nonNegative && v.negative() {
		return nil, false
	}
	s, ok := v.num(dimLength, dimPercent)
	if !ok {
		return nil, false
	}
	return func(c *Computer) LP {
		l := s.eval(c).lp()
		l.Rel = s.pct
		if nonNegative {
			if l.Fn != nil || l.Pct != 0 && l.Px != 0 {
				in := l
				l = LP{Fn: func(b float64) float64 { return max(0, in.Of(b)) }}
			} else if l.Pct < 0 || l.Px < 0 {
				l = LP{}
			}
		}
		return l
	}, true
}

func (v *values) length(nonNegative bool) (spec[float64], bool) {
	if nonNegative && v.negative() {
		return nil, false
	}
	s, ok := v.num(dimLength)
	if !ok {
		return nil, false
	}
	return func(c *Computer) float64 {
		x := finite(s.eval(c).v)
		if nonNegative {
			x = max(x, 0)
		}
		return x
	}, true
}

func (v *values) number(nonNegative bool) (spec[float64], bool) {
	if nonNegative && v.negative() {
		return nil, false
	}
	s, ok := v.num(dimNumber)
	if !ok {
		return nil, false
	}
	return func(c *Computer) float64 {
		x := plain(s.eval(c).v)
		if nonNegative {
			x = max(x, 0)
		}
		return x
	}, true
}

// integer parses a whole number; maths is rounded.
func (v *values) integer() (spec[int], bool) {
	if t := v.peek(); t.Kind == css.Number && !t.ID {
		return nil, false
	}
	s, ok := v.num(dimNumber)
	if !ok {
		return nil, false
	}
	return func(c *Computer) int { return int(finite(roundTo("nearest", s.eval(c).v, 1))) }, true
}

func (v *values) angle() (spec[float64], bool) {
	if t := v.peek(); t.Kind == css.Number && t.Num == 0 {
		v.pos++
		return fixed(0.0), true
	}
	s, ok := v.num(dimAngle)
	if !ok {
		return nil, false
	}
	return func(c *Computer) float64 { return plain(s.eval(c).v) }, true
}

// ratio parses a number or percentage as a number (opacity and the like).
func (v *values) ratio() (spec[float64], bool) {
	s, ok := v.num(dimNumber, dimPercent)
	if !ok {
		return nil, false
	}
	return func(c *Computer) float64 {
		x := s.eval(c)
		return plain(x.v + x.of(1) - x.v)
	}, true
}

func (v *values) color() (spec[Color], bool) {
	c, ok := parseColor(v.peek())
	if ok {
		v.pos++
	}
	return c, ok
}

// url parses url() or src() into an absolute address.
func (v *values) url() (string, bool) {
	t := v.peek()
	s := ""
	switch {
	case t.Kind == css.URL:
		s = t.Text
	case t.Kind == css.Function && (t.Text == "url" || t.Text == "src"):
		w := css.Words(t.Args)
		if len(w) == 0 || w[0].Kind != css.String {
			return "", false
		}
		s = w[0].Text
	default:
		return "", false
	}
	v.pos++
	return Resolve(v.base, s), true
}

func (v *values) str() (string, bool) {
	if t := v.peek(); t.Kind == css.String {
		v.pos++
		return t.Text, true
	}
	return "", false
}

// customIdent takes an identifier that is not a CSS-wide keyword.
func (v *values) customIdent(except string) (string, bool) {
	t := v.peek()
	if t.Kind != css.Ident {
		return "", false
	}
	name := t.Lower()
	for w := range strings.FieldsSeq("inherit initial unset revert revert-layer default " + except) {
		if w == name {
			return "", false
		}
	}
	v.pos++
	return t.Text, true
}
