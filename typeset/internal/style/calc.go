package style

import (
	"math"

	"oliveledger/typeset/internal/css"
)

// dim is what a value measures (CSS Values 4, §10.9: type checking).
type dim uint8

const (
	dimNumber dim = iota
	dimLength
	dimAngle
	dimTime
	dimResolution
	dimPercent
	dimFlex
	dimBad
)

// val is the result of maths: px + pct % of a base, or fn of the base.
type val struct {
	v, pct float64
	fn     func(base float64) float64
}

func (v val) of(base float64) float64 {
	if v.fn != nil {
		return v.fn(base)
	}
	return v.v + v.pct*base/100
}

func (v val) simple() bool { return v.fn == nil && v.pct == 0 }

// lp is the value as a length, which is finite whatever it is a percentage of (CSS Values 4, §10.7.1).
func (v val) lp() LP {
	if v.fn == nil {
		return LP{Px: finite(v.v), Pct: finite(v.pct)}
	}
	return LP{Px: v.v, Pct: v.pct, Fn: func(base float64) float64 { return finite(v.fn(base)) }}
}

// sum is a parsed maths expression.
type sum struct {
	dim  dim
	pct  bool // contains percentages beside dim
	eval func(c *Computer) val
}

var (
	angles      = map[string]float64{"deg": 1, "grad": 0.9, "rad": 180 / math.Pi, "turn": 360}
	times       = map[string]float64{"s": 1, "ms": 0.001}
	resolutions = map[string]float64{"dppx": 1, "x": 1, "dpi": 1.0 / 96, "dpcm": 2.54 / 96}
)

func constant(d dim, v float64) (sum, bool) {
	return sum{dim: d, eval: func(*Computer) val { return val{v: v} }}, true
}

// leaf parses one numeric token or maths function. vars gives names
// that stand for values: channels of relative colours, size in calc-size().
func leaf(t css.Token, vars map[string]sum) (sum, bool) {
	switch t.Kind {
	case css.Number:
		return constant(dimNumber, t.Num)
	case css.Percentage:
		n := t.Num
		return sum{dim: dimPercent, pct: true, eval: func(*Computer) val { return val{pct: n} }}, true
	case css.Dimension:
		n, u := t.Num, t.Unit
		if f, ok := absolute[u]; ok {
			return constant(dimLength, n*f)
		}
		if f, ok := angles[u]; ok {
			return constant(dimAngle, n*f)
		}
		if f, ok := times[u]; ok {
			return constant(dimTime, n*f)
		}
		if f, ok := resolutions[u]; ok {
			return constant(dimResolution, n*f)
		}
		if u == "fr" {
			return constant(dimFlex, n)
		}
		if isLengthUnit(u) {
			return sum{dim: dimLength, eval: func(c *Computer) val { return val{v: n * c.unit(u)} }}, true
		}
	case css.Ident:
		if f, ok := vars[t.Lower()]; ok {
			return f, true
		}
		switch t.Lower() {
		case "pi":
			return constant(dimNumber, math.Pi)
		case "e":
			return constant(dimNumber, math.E)
		case "infinity":
			return constant(dimNumber, math.Inf(1))
		case "-infinity":
			return constant(dimNumber, math.Inf(-1))
		case "nan":
			return constant(dimNumber, math.NaN())
		}
	case css.Paren:
		return expr(t.Args, vars)
	case css.Function:
		return mathFunc(t, vars)
	}
	return sum{}, false
}

// expr parses a calc sum (§10.1): products joined by + and -, which need
// white space around them.
func expr(list []css.Token, vars map[string]sum) (sum, bool) {
	list = css.Trim(list)
	var total sum
	start, sign, have := 0, byte('+'), false
	add := func(end int) bool {
		s, ok := product(list[start:end], vars)
		if !ok {
			return false
		}
		if !have {
			total, have = s, true
			return true
		}
		total, ok = addSums(total, s, sign)
		return ok
	}
	for i, t := range list {
		if (t.IsDelim('+') || t.IsDelim('-')) && i > 0 && i+1 < len(list) && list[i-1].Kind == css.Space && list[i+1].Kind == css.Space {
			if !add(i) {
				return sum{}, false
			}
			sign, start = t.Text[0], i+1
		}
	}
	return total, add(len(list))
}

// merge gives the type of two operands that are added or compared.
func merge(a, b sum) (dim, bool) {
	switch {
	case a.dim == b.dim:
		return a.dim, true
	case a.dim == dimPercent && (b.dim == dimLength || b.dim == dimAngle):
		return b.dim, true
	case b.dim == dimPercent && (a.dim == dimLength || a.dim == dimAngle):
		return a.dim, true
	}
	return dimBad, false
}

func addSums(a, b sum, sign byte) (sum, bool) {
	d, ok := merge(a, b)
	k := 1.0
	if sign == '-' {
		k = -1
	}
	return sum{dim: d, pct: a.pct || b.pct, eval: func(c *Computer) val {
		x, y := a.eval(c), b.eval(c)
		if x.fn != nil || y.fn != nil {
			return val{fn: func(base float64) float64 { return x.of(base) + k*y.of(base) }}
		}
		return val{v: x.v + k*y.v, pct: x.pct + k*y.pct}
	}}, ok
}

func product(list []css.Token, vars map[string]sum) (sum, bool) {
	w := css.Words(list)
	if len(w)%2 == 0 {
		return sum{}, false
	}
	total, ok := leaf(w[0], vars)
	if !ok {
		return sum{}, false
	}
	for i := 1; i+1 < len(w); i += 2 {
		s, ok := leaf(w[i+1], vars)
		if !ok {
			return sum{}, false
		}
		a, b := total, s
		switch {
		case w[i].IsDelim('*'):
			if a.dim == dimNumber {
				a, b = b, a
			}
			if b.dim != dimNumber {
				return sum{}, false
			}
			total = scale(a, b, func(k float64) float64 { return k })
		case w[i].IsDelim('/'):
			if b.dim == a.dim && !a.pct && !b.pct && a.dim != dimNumber {
				// typed division gives a number (CSS Values 4, §10.9)
				total = sum{eval: func(c *Computer) val { return val{v: a.eval(c).v / b.eval(c).v} }}
				continue
			}
			if b.dim != dimNumber {
				return sum{}, false
			}
			total = scale(a, b, func(k float64) float64 { return 1 / k })
		default:
			return sum{}, false
		}
	}
	return total, true
}

func scale(a, b sum, f func(float64) float64) sum {
	return sum{dim: a.dim, pct: a.pct, eval: func(c *Computer) val {
		x, k := a.eval(c), f(b.eval(c).v)
		if x.fn != nil {
			return val{fn: func(base float64) float64 { return x.of(base) * k }}
		}
		if x.pct == 0 {
			return val{v: x.v * k}
		}
		return val{v: x.v * k, pct: x.pct * k}
	}}
}

// nary applies f to arguments that may hold percentages.
func nary(d dim, args []sum, f func(v []float64) float64) sum {
	out := sum{dim: d}
	for _, a := range args {
		out.pct = out.pct || a.pct
	}
	out.eval = func(c *Computer) val {
		vals := make([]val, len(args))
		simple := true
		for i, a := range args {
			vals[i] = a.eval(c)
			simple = simple && vals[i].simple()
		}
		at := func(base float64) float64 {
			v := make([]float64, len(vals))
			for i := range vals {
				v[i] = vals[i].of(base)
			}
			return f(v)
		}
		if simple {
			return val{v: at(0)}
		}
		return val{fn: at}
	}
	if d == dimPercent { // percentages alone compare as they are
		in := out.eval
		out.eval = func(c *Computer) val {
			x := in(c)
			if x.fn != nil {
				return val{pct: x.fn(100)}
			}
			return x
		}
	}
	return out
}
