package style

import (
	"math"

	"oliveledger/typeset/internal/css"
)

// A mathFunction is a math function of values of one dimension (Values 4, §10).
type mathFunction struct {
	args   int // how many; 0 for one or more
	result mathResult
	of     func(v []float64) float64
}

// mathResult is what a math function takes and gives.
type mathResult byte

const (
	alike      mathResult = iota // gives what it takes
	ofNumbers                    // takes numbers and gives one
	ofAngle                      // takes an angle, or a number of radians, and gives a number
	toNumber                     // takes anything and gives a number
	toAngle                      // takes anything and gives an angle
	numToAngle                   // takes a number and gives an angle
)

const degrees = 180 / math.Pi

func of1(f func(float64) float64) func([]float64) float64 {
	return func(v []float64) float64 { return f(v[0]) }
}

// mathFunctions are all that need no more than their values; calc(), clamp() and round()
// have rules of their own.
var mathFunctions = map[string]mathFunction{
	"min":   {0, alike, func(v []float64) float64 { return fold(v, math.Min) }},
	"max":   {0, alike, func(v []float64) float64 { return fold(v, math.Max) }},
	"hypot": {0, alike, func(v []float64) float64 { return math.Abs(fold(v, math.Hypot)) }},
	"mod":   {2, alike, func(v []float64) float64 { return v[0] - v[1]*math.Floor(v[0]/v[1]) }},
	"rem":   {2, alike, func(v []float64) float64 { return math.Mod(v[0], v[1]) }},
	"abs":   {1, alike, of1(math.Abs)},
	"sign":  {1, toNumber, of1(sign)},
	"progress": {3, toNumber, func(v []float64) float64 {
		return min(max((v[0]-v[1])/(v[2]-v[1]), 0), 1)
	}},
	"sin":   {1, ofAngle, of1(math.Sin)},
	"cos":   {1, ofAngle, of1(math.Cos)},
	"tan":   {1, ofAngle, of1(math.Tan)},
	"asin":  {1, numToAngle, of1(math.Asin)},
	"acos":  {1, numToAngle, of1(math.Acos)},
	"atan":  {1, numToAngle, of1(math.Atan)},
	"atan2": {2, toAngle, func(v []float64) float64 { return math.Atan2(v[0], v[1]) }},
	"pow":   {2, ofNumbers, func(v []float64) float64 { return math.Pow(v[0], v[1]) }},
	"sqrt":  {1, ofNumbers, of1(math.Sqrt)},
	"exp":   {1, ofNumbers, of1(math.Exp)},
	"log": {0, ofNumbers, func(v []float64) float64 {
		if len(v) > 1 {
			return math.Log(v[0]) / math.Log(v[1])
		}
		return math.Log(v[0])
	}},
}

// isMathFunction tells whether a function gives a number, a length or the like.
func isMathFunction(name string) bool {
	_, ok := mathFunctions[name]
	return ok || name == "clamp" || name == "round" || calcNames[name]
}

var calcNames = map[string]bool{"calc": true, "-webkit-calc": true, "-moz-calc": true}

// mathFunc reads a math function.
func mathFunc(t css.Token, vars map[string]sum) (sum, bool) {
	switch {
	case calcNames[t.Text]:
		return expr(t.Args, vars)
	case t.Text == "clamp":
		return clampFunc(css.Split(t.Args), vars)
	case t.Text == "round":
		return roundFunc(css.Split(t.Args), vars)
	}
	f, ok := mathFunctions[t.Text]
	if !ok {
		return sum{}, false
	}
	args, ok := terms(css.Split(t.Args), vars)
	if !ok {
		return sum{}, false
	}
	return f.apply(args)
}

// terms reads the arguments of a math function, of which there is at least one.
func terms(parts [][]css.Token, vars map[string]sum) (args []sum, ok bool) {
	for _, p := range parts {
		a, ok := expr(p, vars)
		if !ok {
			return nil, false
		}
		args = append(args, a)
	}
	return args, len(args) > 0
}

// apply gives the value of a function, if it takes such arguments.
func (f mathFunction) apply(args []sum) (sum, bool) {
	d, ok := commonDim(args)
	if !ok || f.args > 0 && len(args) != f.args {
		return sum{}, false
	}
	switch f.result {
	case alike:
		return nary(d, args, f.of), true
	case toNumber:
		return nary(dimNumber, args, f.of), true
	case toAngle:
		return nary(dimAngle, args, func(v []float64) float64 { return f.of(v) * degrees }), true
	case numToAngle:
		return nary(dimAngle, args, func(v []float64) float64 { return f.of(v) * degrees }), d == dimNumber
	case ofAngle:
		if d == dimAngle {
			return nary(dimNumber, args, func(v []float64) float64 { return f.of([]float64{v[0] / degrees}) }), true
		}
	}
	return nary(dimNumber, args, f.of), d == dimNumber
}

// commonDim is the dimension that all arguments have.
func commonDim(args []sum) (dim, bool) {
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

// clampFunc reads clamp(), whose first and last argument may be none (Values 4, §10.2).
func clampFunc(parts [][]css.Token, vars map[string]sum) (sum, bool) {
	if len(parts) != 3 {
		return sum{}, false
	}
	none := func(i int) bool { return len(parts[i]) == 1 && parts[i][0].Is("none") }
	f := mathFunction{3, alike, func(v []float64) float64 { return math.Max(math.Min(v[1], v[2]), v[0]) }}
	switch noLow, noHigh := none(0), none(2); {
	case noLow && noHigh:
		parts, f = parts[1:2], mathFunction{1, alike, of1(func(x float64) float64 { return x })}
	case noLow:
		parts, f = parts[1:], mathFunctions["min"]
	case noHigh:
		parts, f = parts[:2], mathFunctions["max"]
	}
	args, ok := terms(parts, vars)
	if !ok {
		return sum{}, false
	}
	return f.apply(args)
}

// roundFunc reads round(), which may begin with a strategy (Values 4, §10.3).
func roundFunc(parts [][]css.Token, vars map[string]sum) (sum, bool) {
	strategy := "nearest"
	if len(parts) > 0 && len(parts[0]) == 1 && parts[0][0].Kind == css.Ident {
		switch s := parts[0][0].Lower(); s {
		case "nearest", "up", "down", "to-zero":
			strategy, parts = s, parts[1:]
		}
	}
	args, ok := terms(parts, vars)
	if !ok {
		return sum{}, false
	}
	if len(args) == 1 && args[0].dim == dimNumber {
		one, _ := constant(dimNumber, 1)
		args = append(args, one)
	}
	return mathFunction{2, alike, func(v []float64) float64 { return roundTo(strategy, v[0], v[1]) }}.apply(args)
}

// sign is 1, -1, or a zero with its sign.
func sign(x float64) float64 {
	switch {
	case x > 0:
		return 1
	case x < 0:
		return -1
	}
	return x
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
