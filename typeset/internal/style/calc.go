package style

import (
	"math"
	"strings"

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

func (v val) lp() LP { return LP{Px: v.v, Pct: v.pct, Fn: v.fn} }

// sum is a parsed maths expression.
type sum struct {
	dim  dim
	pct  bool // contains percentages beside dim
	eval func(c *Computer) val
}

var angles = map[string]float64{"deg": 1, "grad": 0.9, "rad": 180 / math.Pi, "turn": 360}
var times = map[string]float64{"s": 1, "ms": 0.001}
var resolutions = map[string]float64{"dppx": 1, "x": 1, "dpi": 1.0 / 96, "dpcm": 2.54 / 96}

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

var mathFunctions = map[string]bool{"calc": true, "-webkit-calc": true, "-moz-calc": true, "min": true, "max": true, "clamp": true, "round": true,
	"mod": true, "rem": true, "sin": true, "cos": true, "tan": true, "asin": true, "acos": true, "atan": true,
	"atan2": true, "pow": true, "sqrt": true, "hypot": true, "log": true, "exp": true, "abs": true, "sign": true, "progress": true}

func mathFunc(t css.Token, vars map[string]sum) (sum, bool) {
	if !mathFunctions[t.Text] {
		return sum{}, false
	}
	name := t.Text
	if strings.HasSuffix(name, "calc") {
		return expr(t.Args, vars)
	}
	parts := css.Split(t.Args)
	strategy := "nearest"
	if name == "round" && len(parts) > 0 && len(parts[0]) == 1 && parts[0][0].Kind == css.Ident {
		switch s := parts[0][0].Lower(); s {
		case "nearest", "up", "down", "to-zero":
			strategy = s
			parts = parts[1:]
		}
	}
	lowNone, highNone := false, false
	var args []sum
	for i, p := range parts {
		if name == "clamp" && len(p) == 1 && p[0].Is("none") && i != 1 {
			lowNone, highNone = lowNone || i == 0, highNone || i == 2
			args = append(args, sum{dim: dimBad})
			continue
		}
		a, ok := expr(p, vars)
		if !ok {
			return sum{}, false
		}
		args = append(args, a)
	}
	if len(args) == 0 {
		return sum{}, false
	}
	same := func(n int) (dim, bool) {
		if n > 0 && len(args) != n {
			return dimBad, false
		}
		d := args[0]
		for _, a := range args[1:] {
			m, ok := merge(d, a)
			if !ok {
				return dimBad, false
			}
			d = sum{dim: m}
		}
		return d.dim, true
	}
	number := func(n int, f func(v []float64) float64) (sum, bool) {
		d, ok := same(n)
		return nary(dimNumber, args, f), ok && d == dimNumber
	}
	keep := func(n int, f func(v []float64) float64) (sum, bool) {
		d, ok := same(n)
		if !ok {
			return sum{}, false
		}
		return nary(d, args, f), true
	}
	trig := func(f func(float64) float64) (sum, bool) {
		a := args[0]
		if len(args) != 1 || a.dim != dimNumber && a.dim != dimAngle {
			return sum{}, false
		}
		return nary(dimNumber, args, func(v []float64) float64 {
			if a.dim == dimAngle {
				return f(v[0] * math.Pi / 180)
			}
			return f(v[0])
		}), true
	}
	arc := func(f func(float64) float64) (sum, bool) {
		_, ok := number(1, nil)
		return nary(dimAngle, args, func(v []float64) float64 { return f(v[0]) * 180 / math.Pi }), ok
	}
	switch name {
	case "min":
		return keep(0, func(v []float64) float64 { return fold(v, math.Min) })
	case "max":
		return keep(0, func(v []float64) float64 { return fold(v, math.Max) })
	case "clamp":
		if len(args) != 3 {
			return sum{}, false
		}
		mid := args[1]
		if lowNone {
			args[0] = mid
		}
		if highNone {
			args[2] = mid
		}
		return keep(3, func(v []float64) float64 {
			x := v[1]
			if !highNone {
				x = math.Min(x, v[2])
			}
			if !lowNone {
				x = math.Max(x, v[0])
			}
			return x
		})
	case "round":
		if len(args) == 1 && args[0].dim == dimNumber {
			one, _ := constant(dimNumber, 1)
			args = append(args, one)
		}
		return keep(2, func(v []float64) float64 { return roundTo(strategy, v[0], v[1]) })
	case "mod":
		return keep(2, func(v []float64) float64 { return v[0] - v[1]*math.Floor(v[0]/v[1]) })
	case "rem":
		return keep(2, func(v []float64) float64 { return math.Mod(v[0], v[1]) })
	case "abs":
		return keep(1, func(v []float64) float64 { return math.Abs(v[0]) })
	case "hypot":
		return keep(0, func(v []float64) float64 { return math.Abs(fold(v, math.Hypot)) })
	case "sign":
		_, ok := same(1)
		return nary(dimNumber, args, func(v []float64) float64 {
			switch {
			case v[0] > 0:
				return 1
			case v[0] < 0:
				return -1
			}
			return v[0]
		}), ok
	case "progress":
		_, ok := same(3)
		return nary(dimNumber, args, func(v []float64) float64 { return min(max((v[0]-v[1])/(v[2]-v[1]), 0), 1) }), ok
	case "sin":
		return trig(math.Sin)
	case "cos":
		return trig(math.Cos)
	case "tan":
		return trig(math.Tan)
	case "asin":
		return arc(math.Asin)
	case "acos":
		return arc(math.Acos)
	case "atan":
		return arc(math.Atan)
	case "atan2":
		_, ok := same(2)
		return nary(dimAngle, args, func(v []float64) float64 { return math.Atan2(v[0], v[1]) * 180 / math.Pi }), ok
	case "pow":
		return number(2, func(v []float64) float64 { return math.Pow(v[0], v[1]) })
	case "sqrt":
		return number(1, func(v []float64) float64 { return math.Sqrt(v[0]) })
	case "exp":
		return number(1, func(v []float64) float64 { return math.Exp(v[0]) })
	case "log":
		return number(0, func(v []float64) float64 {
			if len(v) > 1 {
				return math.Log(v[0]) / math.Log(v[1])
			}
			return math.Log(v[0])
		})
	}
	return sum{}, false
}

func fold(v []float64, f func(a, b float64) float64) float64 {
	x := v[0]
	for _, y := range v[1:] {
		x = f(x, y)
	}
	return x
}

func roundTo(strategy string, x, step float64) float64 {
	if math.IsInf(step, 0) && !math.IsInf(x, 0) {
		return 0
	}
	q := x / step
	switch strategy {
	case "up":
		q = math.Ceil(q)
	case "down":
		q = math.Floor(q)
	case "to-zero":
		q = math.Trunc(q)
	default:
		q = math.Floor(q + 0.5)
	}
	return q * step
}
