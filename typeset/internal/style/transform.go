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
	case "rotate":
		a, ok := args.angle(0)
		return func(c *Computer) TransformOp { return rotation(a(c)) }, ok && len(args) == 1
	case "rotatex", "rotatey", "rotatez":
		a, ok := args.angle(0)
		axis := turns[t.Text[len("rotate"):]]
		return func(c *Computer) TransformOp { return axis.by(a(c)) }, ok && len(args) == 1
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
	case "rotate3d":
		a, ok := args.angle(3)
		f, isAxis := args[:min(len(args), 3)].numbers(3)
		return func(c *Computer) TransformOp { return turn{f[0](c), f[1](c), f[2](c)}.by(a(c)) }, ok && isAxis && len(args) == 4
	case "translatez", "perspective", "scalez":
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
	}
	_, ok := a.at(0).ratio()
	return ok && len(a) == 1
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

// fit tells whether a function that moves or scales takes so many: one for an axis, up to two for the page, three for space.
func (a arguments) fit(name string) bool {
	switch name {
	case "translate3d", "scale3d":
		return len(a) == 3
	case "translate", "scale":
		return len(a) == 1 || len(a) == 2
	}
	return len(a) == 1
}

func (a arguments) translate(name string) (spec[TransformOp], bool) {
	var l [3]spec[LP]
	if !a.fit(name) {
		return nil, false
	}
	for i := range a {
		in := a.at(i)
		x, ok := in.lp(false)
		if i == 2 { // the distance from the page is no part of it
			in.pos = 0
			_, ok = in.length(false)
		}
		if !ok || !in.done() {
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
	}, true
}

func (a arguments) scale(name string) (spec[TransformOp], bool) {
	var f [3]spec[float64]
	if !a.fit(name) {
		return nil, false
	}
	for i := range a {
		in := a.at(i)
		x, ok := in.ratio()
		if !ok || !in.done() {
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
	return func(c *Computer) TransformOp { return TransformOp{M: [4]float64{f[0](c), 0, 0, f[1](c)}} }, true
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

// turn is an axis to turn around: how far it leads across, down and out of the page.
type turn [3]float64

var turns = map[string]turn{"x": {1, 0, 0}, "y": {0, 1, 0}, "z": {0, 0, 1}}

// by is a turn by an angle in degrees, as it is seen from straight ahead. Around a slanted axis nothing is turned.
func (t turn) by(a float64) TransformOp {
	across, down, out := t[0] != 0, t[1] != 0, t[2] != 0
	switch {
	case out && !across && !down:
		return rotation(math.Copysign(a, a*t[2]))
	case across && !down && !out:
		return TransformOp{M: [4]float64{1, 0, 0, cosDeg(a)}}
	case down && !across && !out:
		return TransformOp{M: [4]float64{cosDeg(a), 0, 0, 1}}
	}
	return TransformOp{M: identity4}
}

// rotation reads the property rotate: an angle, with its axis before or after it (CSS Transforms 2, §5).
func (v *values) rotation() (spec[TransformOp], bool) {
	axis, given := v.axis()
	if v.peek().Kind == css.Number { // only functions take 0 without a unit
		return nil, false
	}
	a, ok := v.angle()
	if !given {
		if axis, given = v.axis(); !given {
			axis = turns["z"]
		}
	}
	return func(c *Computer) TransformOp { return axis.by(a(c)) }, ok
}

// axis reads x, y, z or three numbers.
func (v *values) axis() (axis turn, given bool) {
	for name, axis := range turns {
		if v.word(name) {
			return axis, true
		}
	}
	return try(v, func(v *values) (axis turn, ok bool) {
		for i := range axis {
			t := v.next()
			if t.Kind != css.Number {
				return axis, false
			}
			axis[i] = t.Num
		}
		return axis, true
	})
}
