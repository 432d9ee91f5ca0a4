package style

import (
	"math"

	"oliveledger/typeset/internal/css"
)

// transformFunction reads one function of transform (CSS Transforms 1, §8, and 2, §9). What turns or moves out of the
// page's plane is seen from straight ahead.
func (v *values) transformFunction() (spec[TransformOp], bool) {
	t := v.next()
	if t.Kind != css.Function {
		return nil, false
	}
	args := arguments(css.Split(t.Args))
	switch t.Text {
	case "translate", "translatex", "translatey", "translate3d":
		return args.translate(t.Text)
	case "scale", "scalex", "scaley", "scale3d":
		return args.scale(t.Text)
	case "rotate", "rotatez":
		a, ok := args.angle(0)
		return func(c *Computer) TransformOp { return rotation(a(c)) }, ok && len(args) == 1
	case "rotatex", "rotatey":
		a, ok := args.angle(0)
		return func(c *Computer) TransformOp {
			k := cosDeg(a(c))
			if t.Text == "rotatex" {
				return TransformOp{M: [4]float64{1, 0, 0, k}}
			}
			return TransformOp{M: [4]float64{k, 0, 0, 1}}
		}, ok && len(args) == 1
	case "skew", "skewx", "skewy":
		return args.skew(t.Text)
	case "matrix":
		f, ok := args.numbers(6)
		return func(c *Computer) TransformOp {
			return TransformOp{M: [4]float64{f[0](c), f[1](c), f[2](c), f[3](c)}, X: LP{Px: f[4](c)}, Y: LP{Px: f[5](c)}}
		}, ok
	case "matrix3d":
		f, ok := args.numbers(16)
		return func(c *Computer) TransformOp {
			return TransformOp{M: [4]float64{f[0](c), f[1](c), f[4](c), f[5](c)}, X: LP{Px: f[12](c)}, Y: LP{Px: f[13](c)}}
		}, ok
	case "translatez", "perspective", "scalez", "rotate3d":
		return fixed(TransformOp{M: identity4}), args.awayFromThePage(t.Text)
	}
	return nil, false
}

// awayFromThePage checks the arguments of functions that change nothing which is seen from straight ahead.
func (a arguments) awayFromThePage(name string) bool {
	switch name {
	case "translatez":
		_, ok := a.at(0).lp(false)
		return ok && len(a) == 1
	case "perspective":
		v := a.at(0)
		_, ok := v.lp(true)
		return (ok || v.word("none")) && len(a) == 1
	case "scalez":
		_, ok := a.at(0).ratio()
		return ok && len(a) == 1
	}
	_, ok := a[:min(len(a), 3)].numbers(3)
	_, turned := a.angle(3)
	return ok && turned && len(a) == 4
}

// arguments are those of a function.
type arguments [][]css.Token

// at reads one argument; one that is not there is empty.
func (a arguments) at(i int) *values {
	if i >= len(a) {
		return &values{}
	}
	return &values{list: css.Words(a[i])}
}

func (a arguments) angle(i int) (spec[float64], bool) { return a.at(i).angle() }

// numbers reads arguments that are n numbers.
func (a arguments) numbers(n int) ([]spec[float64], bool) {
	f := make([]spec[float64], n)
	for i := range f {
		x, ok := a.at(i).number(false)
		if !ok {
			return nil, false
		}
		f[i] = x
	}
	return f, len(a) == n
}

func (a arguments) translate(name string) (spec[TransformOp], bool) {
	var l [3]spec[LP]
	for i := range a {
		x, ok := a.at(i).lp(false)
		if !ok || i > 2 {
			return nil, false
		}
		l[i] = x
	}
	if name == "translatey" {
		l[0], l[1] = fixed(LP{}), l[0]
	}
	return func(c *Computer) TransformOp {
		op := TransformOp{M: identity4, X: l[0](c)}
		if l[1] != nil {
			op.Y = l[1](c)
		}
		return op
	}, len(a) <= 2 || name == "translate3d"
}

func (a arguments) scale(name string) (spec[TransformOp], bool) {
	var f [3]spec[float64]
	for i := range a {
		x, ok := a.at(i).ratio()
		if !ok || i > 2 {
			return nil, false
		}
		f[i] = x
	}
	one := fixed(1.0)
	switch {
	case name == "scalex":
		f[1] = one
	case name == "scaley":
		f[0], f[1] = one, f[0]
	case f[1] == nil:
		f[1] = f[0]
	}
	return func(c *Computer) TransformOp { return TransformOp{M: [4]float64{f[0](c), 0, 0, f[1](c)}} }, len(a) <= 2 || name == "scale3d"
}

func (a arguments) skew(name string) (spec[TransformOp], bool) {
	x, ok := a.angle(0)
	if !ok || len(a) > 2 || len(a) > 1 && name != "skew" {
		return nil, false
	}
	y := fixed(0.0)
	if len(a) == 2 {
		if y, ok = a.angle(1); !ok {
			return nil, false
		}
	}
	if name == "skewy" {
		x, y = y, x
	}
	return func(c *Computer) TransformOp { return TransformOp{M: [4]float64{1, tanDeg(y(c)), tanDeg(x(c)), 1}} }, true
}

var identity4 = [4]float64{1, 0, 0, 1}

func cosDeg(a float64) float64 { return math.Cos(a * math.Pi / 180) }
func tanDeg(a float64) float64 { return math.Tan(a * math.Pi / 180) }

func rotation(a float64) TransformOp {
	s, c := math.Sincos(a * math.Pi / 180)
	return TransformOp{M: [4]float64{c, s, -s, c}}
}
