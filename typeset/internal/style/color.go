package style

import (
	"math"
	"strings"

	"oliveledger/typeset/internal/css"
)

// ColorSpace tells how a Color's components are read.
type ColorSpace uint8

const (
	SRGB    ColorSpace = iota // C[0..2] in 0..1
	CMYK                      // C[0..3] in 0..1
	Current                   // currentcolor
)

// Color is a computed colour with alpha from 0 to 1.
type Color struct {
	C     [4]float32
	A     float32
	Space ColorSpace
	// Modern tells that it was not written as rgb(), hsl(), hwb(), hex or a name:
	// such colours mix in OKLab (CSS Color 4, §12.1).
	Modern bool
	late   *lateColor // of a function of currentcolor, or nil
}

// lateColor is a function of currentcolor: elements that inherit it have their
// own colour in it (CSS Color 5, §7).
type lateColor struct{ of func(cur Color) Color }

// RGB8 makes an opaque colour from 0..255 components.
func RGB8(r, g, b uint8) Color {
	return Color{C: [4]float32{float32(r) / 255, float32(g) / 255, float32(b) / 255}, A: 1}
}

var (
	// Black is opaque black, Transparent nothing at all.
	Black       = Color{A: 1}
	Transparent = Color{}
	currentCol  = Color{Space: Current, A: 1}
)

// Or gives the colour itself, or cur when it is currentcolor.
func (c Color) Or(cur Color) Color {
	switch {
	case c.late != nil:
		return c.late.of(cur)
	case c.Space == Current:
		return cur
	}
	return c
}

// lately gives a colour made of others: at once, or when currentcolor is known, if
// one of them depends on it.
func lately(of func(cur Color) Color, parts ...Color) Color {
	for _, p := range parts {
		if p.Space == Current {
			return Color{Space: Current, A: 1, late: &lateColor{of}}
		}
	}
	return of(Black)
}

type colorSpec = func(*Computer) Color

func fixedColor(c Color) (colorSpec, bool) { return func(*Computer) Color { return c }, true }

// parseColor parses one token as a colour (CSS Color 4, §4; Color 5).
func parseColor(t css.Token) (colorSpec, bool) {
	switch t.Kind {
	case css.Hash:
		c, ok := hexColor(t.Text)
		if !ok {
			return nil, false
		}
		return fixedColor(c)
	case css.Ident:
		name := t.Lower()
		if name == "currentcolor" {
			return fixedColor(currentCol)
		}
		if name == "transparent" {
			return fixedColor(Transparent)
		}
		if v, ok := namedColors[name]; ok {
			return fixedColor(RGB8(uint8(v>>16), uint8(v>>8), uint8(v)))
		}
		if v, ok := systemColors[name]; ok {
			return fixedColor(RGB8(uint8(v>>16), uint8(v>>8), uint8(v)))
		}
	case css.Function:
		return colorFunction(t)
	}
	return nil, false
}

func hexColor(s string) (Color, bool) {
	var v [8]uint8
	if len(s) > 8 {
		return Color{}, false
	}
	for i := range len(s) {
		switch c := s[i]; {
		case c >= '0' && c <= '9':
			v[i] = c - '0'
		case c >= 'a' && c <= 'f':
			v[i] = c - 'a' + 10
		case c >= 'A' && c <= 'F':
			v[i] = c - 'A' + 10
		default:
			return Color{}, false
		}
	}
	a := uint8(255)
	switch len(s) {
	case 4:
		a = v[3] * 17
		fallthrough
	case 3:
		c := RGB8(v[0]*17, v[1]*17, v[2]*17)
		c.A = float32(a) / 255
		return c, true
	case 8:
		a = v[6]<<4 | v[7]
		fallthrough
	case 6:
		c := RGB8(v[0]<<4|v[1], v[2]<<4|v[3], v[4]<<4|v[5])
		c.A = float32(a) / 255
		return c, true
	}
	return Color{}, false
}

// space describes a colour notation: the reference ranges of its three
// components, and the way to and from XYZ (D65).
type space struct {
	keys  [3]string
	scale [3]float64 // what 100 % is
	hue   int        // index of the hue component, -1 for none
	toXYZ func([3]float64) [3]float64
	from  func([3]float64) [3]float64
}

var spaces = map[string]*space{}

func init() {
	rgbSpace := func(decode, encode func(float64) float64, m, inv [9]float64) *space {
		return &space{
			keys: [3]string{"r", "g", "b"}, scale: [3]float64{1, 1, 1}, hue: -1,
			toXYZ: func(c [3]float64) [3]float64 { return mul(m, each(c, decode)) },
			from:  func(c [3]float64) [3]float64 { return each(mul(inv, c), encode) },
		}
	}
	same := func(v float64) float64 { return v }
	gamma := func(g float64) (func(float64) float64, func(float64) float64) {
		return func(v float64) float64 { return math.Copysign(math.Pow(math.Abs(v), g), v) },
			func(v float64) float64 { return math.Copysign(math.Pow(math.Abs(v), 1/g), v) }
	}
	spaces["srgb"] = rgbSpace(srgbDecode, srgbEncode, srgbToXYZ, xyzToSRGB)
	spaces["srgb-linear"] = rgbSpace(same, same, srgbToXYZ, xyzToSRGB)
	spaces["display-p3"] = rgbSpace(srgbDecode, srgbEncode, p3ToXYZ, xyzToP3)
	d, e := gamma(563.0 / 256)
	spaces["a98-rgb"] = rgbSpace(d, e, a98ToXYZ, xyzToA98)
	d, e = gamma(1.8)
	pro := rgbSpace(d, e, proToXYZ50, xyz50ToPro)
	spaces["prophoto-rgb"] = &space{
		keys: pro.keys, scale: pro.scale, hue: -1,
		toXYZ: func(c [3]float64) [3]float64 { return mul(d50ToD65, pro.toXYZ(c)) },
		from:  func(c [3]float64) [3]float64 { return pro.from(mul(d65ToD50, c)) },
	}
	spaces["rec2020"] = rgbSpace(rec2020Decode, rec2020Encode, rec2020ToXYZ, xyzToRec2020)
	id := func(c [3]float64) [3]float64 { return c }
	xyz := &space{keys: [3]string{"x", "y", "z"}, scale: [3]float64{1, 1, 1}, hue: -1, toXYZ: id, from: id}
	spaces["xyz"], spaces["xyz-d65"] = xyz, xyz
	spaces["xyz-d50"] = &space{
		keys: xyz.keys, scale: xyz.scale, hue: -1,
		toXYZ: func(c [3]float64) [3]float64 { return mul(d50ToD65, c) },
		from:  func(c [3]float64) [3]float64 { return mul(d65ToD50, c) },
	}
	spaces["lab"] = &space{keys: [3]string{"l", "a", "b"}, scale: [3]float64{100, 125, 125}, hue: -1, toXYZ: labToXYZ, from: xyzToLab}
	spaces["oklab"] = &space{keys: [3]string{"l", "a", "b"}, scale: [3]float64{1, 0.4, 0.4}, hue: -1, toXYZ: oklabToXYZ, from: xyzToOklab}
	polar := func(base *space, scale [3]float64) *space {
		return &space{
			keys: [3]string{"l", "c", "h"}, scale: scale, hue: 2,
			toXYZ: func(c [3]float64) [3]float64 {
				s, k := math.Sincos(c[2] * math.Pi / 180)
				return base.toXYZ([3]float64{c[0], c[1] * k, c[1] * s})
			},
			from: func(c [3]float64) [3]float64 {
				v := base.from(c)
				return [3]float64{v[0], math.Hypot(v[1], v[2]), mod360(math.Atan2(v[2], v[1]) * 180 / math.Pi)}
			},
		}
	}
	spaces["lch"] = polar(spaces["lab"], [3]float64{100, 150, 1})
	spaces["oklch"] = polar(spaces["oklab"], [3]float64{1, 0.4, 1})
	viaSRGB := func(keys [3]string, to, from func([3]float64) [3]float64) *space {
		return &space{
			keys: keys, scale: [3]float64{1, 100, 100}, hue: 0,
			toXYZ: func(c [3]float64) [3]float64 { return spaces["srgb"].toXYZ(to(c)) },
			from:  func(c [3]float64) [3]float64 { return from(spaces["srgb"].from(c)) },
		}
	}
	spaces["hsl"] = viaSRGB([3]string{"h", "s", "l"}, hslToRGB, rgbToHSL)
	spaces["hwb"] = viaSRGB([3]string{"h", "w", "b"}, hwbToRGB, rgbToHWB)
}

// colorFunction parses rgb(), hsl(), hwb(), lab(), lch(), oklab(), oklch(),
// color(), color-mix() and device-cmyk().
func colorFunction(t css.Token) (colorSpec, bool) {
	name := t.Text
	switch name {
	case "rgba":
		name = "rgb"
	case "hsla":
		name = "hsl"
	case "color-mix":
		return colorMix(t.Args)
	case "device-cmyk":
		return deviceCMYK(t.Args)
	case "light-dark":
		return lightDark(t.Args)
	}
	args := css.Words(t.Args)
	var origin colorSpec
	if len(args) > 1 && args[0].Is("from") {
		var ok bool
		if origin, ok = parseColor(args[1]); !ok {
			return nil, false
		}
		args = args[2:]
	}
	sp, args := colorSpace(name, args)
	if sp == nil {
		return nil, false
	}
	parts, alpha, commas, ok := components(args)
	if !ok || commas && (origin != nil || name != "rgb" && name != "hsl") {
		return nil, false
	}
	if len(parts) != 3 {
		return nil, false
	}
	return buildColor(sp, name, name == "rgb", origin, parts, alpha, commas)
}

// lightDark is the first of two colours, as paper is light (Color 5, §10).
func lightDark(args []css.Token) (colorSpec, bool) {
	parts := css.Split(args)
	if len(parts) != 2 || len(parts[0]) != 1 || len(parts[1]) != 1 {
		return nil, false
	}
	_, ok := parseColor(parts[1][0])
	light, ok2 := parseColor(parts[0][0])
	return light, ok && ok2
}

// colorSpace is the space that a function of a name takes its components in, and the arguments that are left; nil
// when there is no such function or space.
func colorSpace(name string, args []css.Token) (*space, []css.Token) {
	switch name {
	case "rgb":
		return spaces["srgb"], args
	case "hsl", "hwb", "lab", "lch", "oklab", "oklch":
		return spaces[name], args
	case "color":
		if len(args) == 0 || args[0].Kind != css.Ident {
			return nil, nil
		}
		sp := spaces[args[0].Lower()]
		if sp != nil && (sp.hue >= 0 || strings.HasSuffix(args[0].Lower(), "lab")) {
			return nil, nil
		}
		return sp, args[1:]
	}
	return nil, nil
}

// components splits colour arguments by commas or white space, and the alpha.
func components(args []css.Token) (parts []css.Token, alpha *css.Token, commas, ok bool) {
	for i, t := range args {
		if t.Kind == css.Comma {
			commas = true
			if len(parts) != (i+1)/2 {
				return nil, nil, false, false
			}
			continue
		}
		if t.IsDelim('/') {
			if i+2 != len(args) || commas {
				return nil, nil, false, false
			}
			return parts, &args[i+1], commas, true
		}
		parts = append(parts, t)
	}
	if commas {
		if len(args) != 2*len(parts)-1 {
			return nil, nil, false, false
		}
		if len(parts) == 4 {
			return parts[:3], &parts[3], commas, true
		}
	}
	return parts, nil, commas, true
}

func buildColor(sp *space, name string, byteRGB bool, origin colorSpec, parts []css.Token, alpha *css.Token, commas bool) (colorSpec, bool) {
	vars := map[string]sum{}
	if origin != nil {
		for _, k := range append(sp.keys[:], "alpha") {
			vars[k] = sum{eval: func(c *Computer) val { return val{v: c.channels[k]} }}
		}
	}
	var comps [3]func(*Computer) float64
	var kinds [3]bool
	for i := range comps {
		scale := sp.scale[i]
		if byteRGB {
			scale = 255
		}
		f, pct, ok := channel(parts[i], vars, scale, i == sp.hue)
		if !ok || commas && parts[i].Is("none") {
			return nil, false
		}
		if commas && name == "hsl" && i > 0 && parts[i].Kind == css.Number {
			return nil, false
		}
		comps[i], kinds[i] = f, pct
	}
	if commas && byteRGB && (kinds[0] != kinds[1] || kinds[1] != kinds[2]) {
		return nil, false
	}
	alphaOf := func(*Computer) float64 { return 1 }
	if alpha != nil {
		f, _, ok := channel(*alpha, vars, 1, false)
		if !ok {
			return nil, false
		}
		alphaOf = f
	} else if origin != nil {
		alphaOf = func(c *Computer) float64 { return c.channels["alpha"] }
	}
	build := func(c *Computer) Color {
		var v [3]float64
		for i := range v {
			v[i] = finite(comps[i](c))
			if byteRGB {
				v[i] /= 255
				if origin == nil {
					v[i] = math.Min(math.Max(v[i], 0), 1)
				}
			}
		}
		switch name {
		case "lab", "lch", "oklab", "oklch":
			v[0] = math.Min(math.Max(v[0], 0), sp.scale[0])
			if sp.hue == 2 {
				v[1] = math.Max(v[1], 0)
			}
		case "hsl":
			v[1] = math.Min(math.Max(v[1], 0), 100) // as browsers have it: it stays in sRGB
		case "hwb":
			v[1], v[2] = math.Max(v[1], 0), math.Max(v[2], 0)
		}
		out := fromSpace(sp, v, math.Min(math.Max(finite(alphaOf(c)), 0), 1))
		out.Modern = origin != nil || !legacyColors[name]
		return out
	}
	if origin == nil {
		return build, true
	}
	return func(c *Computer) Color {
		o := origin(c)
		held := Computer{S: c.S, Parent: c.Parent, em: c.em, resolver: c.resolver}
		return lately(func(cur Color) Color {
			from := held
			from.channels = channelsOf(sp, o.Or(cur), byteRGB)
			return build(&from)
		}, o)
	}, true
}

// channelsOf names the components of a colour in a space (CSS Color 5, §4.1).
func channelsOf(sp *space, o Color, byteRGB bool) map[string]float64 {
	v := sp.from(o.xyz())
	named := map[string]float64{"alpha": float64(o.A)}
	for i, k := range sp.keys {
		if byteRGB {
			v[i] *= 255
		}
		named[k] = v[i]
	}
	return named
}

var legacyColors = map[string]bool{"rgb": true, "rgba": true, "hsl": true, "hsla": true, "hwb": true}

func finite(v float64) float64 {
	if math.IsNaN(v) {
		return 0
	}
	return math.Min(math.Max(v, -1e6), 1e6)
}

// mostNumber is as large as numbers without a unit, and angles, get.
const mostNumber = 1e12

// plain is a number that can be worked with.
func plain(v float64) float64 {
	if math.IsNaN(v) {
		return 0
	}
	return math.Min(math.Max(v, -mostNumber), mostNumber)
}

// channel parses one channel; pct tells that it was a percentage.
func channel(t css.Token, vars map[string]sum, full float64, hue bool) (f func(*Computer) float64, pct, ok bool) {
	if t.Is("none") {
		return func(*Computer) float64 { return 0 }, false, true
	}
	s, ok := leaf(t, vars)
	if !ok || t.Kind == css.Ident && vars[t.Lower()].eval == nil {
		return nil, false, false
	}
	switch s.dim {
	case dimNumber:
	case dimAngle:
		if !hue {
			return nil, false, false
		}
	case dimPercent:
		if hue {
			return nil, false, false
		}
		return func(c *Computer) float64 { return s.eval(c).pct / 100 * full }, true, true
	default:
		return nil, false, false
	}
	return func(c *Computer) float64 { return s.eval(c).v }, false, true
}

func fromSpace(sp *space, v [3]float64, a float64) Color {
	var rgb [3]float64
	if sp == spaces["srgb"] && min(v[0], v[1], v[2]) >= 0 && max(v[0], v[1], v[2]) <= 1 {
		rgb = v
	} else {
		rgb = spaces["srgb"].from(gamut(sp.toXYZ(v)))
	}
	c := Color{A: float32(a)}
	for i := range rgb {
		c.C[i] = float32(math.Min(math.Max(rgb[i], 0), 1))
	}
	return c
}

// gamut brings a colour into sRGB by lowering its chroma in OKLCh
// (CSS Color 4, §13.2).
func gamut(xyz [3]float64) [3]float64 {
	in := func(c [3]float64) bool {
		rgb := spaces["srgb"].from(c)
		for _, v := range rgb {
			if v < -0.0005 || v > 1.0005 {
				return false
			}
		}
		return true
	}
	if in(xyz) {
		return xyz
	}
	ok := spaces["oklch"]
	lch := ok.from(xyz)
	if lch[0] >= 1 {
		return spaces["srgb"].toXYZ([3]float64{1, 1, 1})
	}
	if lch[0] <= 0 {
		return [3]float64{}
	}
	clip := func(c [3]float64) [3]float64 {
		return spaces["srgb"].toXYZ(each(spaces["srgb"].from(c), func(v float64) float64 { return math.Min(math.Max(v, 0), 1) }))
	}
	delta := func(a, b [3]float64) float64 {
		x, y := xyzToOklab(a), xyzToOklab(b)
		return math.Hypot(math.Hypot(x[0]-y[0], x[1]-y[1]), x[2]-y[2])
	}
	if c := clip(xyz); delta(c, xyz) < 0.02 {
		return c
	}
	lo, hi := 0.0, lch[1]
	for range 24 {
		mid := (lo + hi) / 2
		try := ok.toXYZ([3]float64{lch[0], mid, lch[2]})
		if in(try) || delta(clip(try), try) < 0.02 {
			lo = mid
		} else {
			hi = mid
		}
	}
	return clip(ok.toXYZ([3]float64{lch[0], lo, lch[2]}))
}

func (c Color) xyz() [3]float64 {
	if c.Space == CMYK {
		c = c.ToRGB()
	}
	return spaces["srgb"].toXYZ([3]float64{float64(c.C[0]), float64(c.C[1]), float64(c.C[2])})
}

// ToRGB gives the naive sRGB likeness of a CMYK colour (CSS Color 5, §8).
func (c Color) ToRGB() Color {
	if c.Space != CMYK {
		return c
	}
	k := c.C[3]
	out := Color{A: c.A}
	for i := range 3 {
		out.C[i] = 1 - min(1, c.C[i]*(1-k)+k)
	}
	return out
}

func deviceCMYK(list []css.Token) (colorSpec, bool) {
	parts, alpha, _, ok := components(css.Words(list))
	if !ok || len(parts) != 4 {
		return nil, false
	}
	var comps [4]func(*Computer) float64
	for i := range comps {
		if comps[i], _, ok = channel(parts[i], nil, 1, false); !ok {
			return nil, false
		}
	}
	a := func(*Computer) float64 { return 1 }
	if alpha != nil {
		if a, _, ok = channel(*alpha, nil, 1, false); !ok {
			return nil, false
		}
	}
	return func(c *Computer) Color {
		out := Color{Space: CMYK, A: float32(min(max(a(c), 0), 1))}
		for i := range comps {
			out.C[i] = float32(min(max(comps[i](c), 0), 1))
		}
		return out
	}, true
}

// colorMix follows CSS Color 5, §3.
func colorMix(list []css.Token) (colorSpec, bool) {
	parts := css.Split(list)
	sp, method := spaces["oklab"], "shorter"
	if len(parts) == 3 {
		if sp, method = mixingSpace(css.Words(parts[0])); sp == nil {
			return nil, false
		}
		parts = parts[1:]
	}
	if len(parts) != 2 {
		return nil, false
	}
	var cols [2]colorSpec
	share := [2]float64{-1, -1}
	for i := range cols {
		for _, t := range css.Words(parts[i]) {
			if t.Kind == css.Percentage {
				if t.Num < 0 || t.Num > 100 || share[i] >= 0 {
					return nil, false
				}
				share[i] = t.Num
				continue
			}
			c, ok := parseColor(t)
			if !ok || cols[i] != nil {
				return nil, false
			}
			cols[i] = c
		}
		if cols[i] == nil {
			return nil, false
		}
	}
	switch {
	case share[0] < 0 && share[1] < 0:
		share = [2]float64{50, 50}
	case share[0] < 0:
		share[0] = 100 - share[1]
	case share[1] < 0:
		share[1] = 100 - share[0]
	}
	total := share[0] + share[1]
	if total == 0 {
		return nil, false
	}
	q := share[1] / total
	dim := math.Min(total/100, 1)
	return func(c *Computer) Color {
		a, b := cols[0](c), cols[1](c)
		return lately(func(cur Color) Color { return mix(sp, method, a.Or(cur), b.Or(cur), q, dim) }, a, b)
	}, true
}

// mixingSpace reads the space that colours are mixed in, and the way around its circle of hues; nil when it is none.
func mixingSpace(in []css.Token) (*space, string) {
	if len(in) < 2 || !in[0].Is("in") {
		return nil, ""
	}
	sp, method := spaces[in[1].Lower()], "shorter"
	if len(in) == 4 && in[3].Is("hue") {
		method = in[2].Lower()
	} else if len(in) != 2 {
		return nil, ""
	}
	if sp == nil || method != "shorter" && sp.hue < 0 {
		return nil, ""
	}
	return sp, method
}

// mix interpolates with premultiplied alpha (CSS Color 4, §12).
func mix(sp *space, method string, a, b Color, q, dim float64) Color {
	va, vb := sp.from(a.xyz()), sp.from(b.xyz())
	aa, ab := float64(a.A), float64(b.A)
	if sp.hue >= 0 { // a colour without chroma has no hue of its own
		if achromatic(a) && !achromatic(b) || aa == 0 {
			va[sp.hue] = vb[sp.hue]
		} else if achromatic(b) || ab == 0 {
			vb[sp.hue] = va[sp.hue]
		}
	}
	if aa == 0 {
		va = vb
	}
	if ab == 0 {
		vb = va
	}
	alpha := aa*(1-q) + ab*q
	var v [3]float64
	for i := range v {
		if i == sp.hue {
			v[i] = mixHue(method, va[i], vb[i], q)
		} else if alpha > 0 {
			v[i] = (va[i]*aa*(1-q) + vb[i]*ab*q) / alpha
		}
	}
	return fromSpace(sp, v, alpha*dim)
}

// Mix interpolates two colours at q in the named space; gradients use it. Inks of printing stay what they are, unless
// another space than sRGB is asked for.
func Mix(spaceName, method string, a, b Color, q float64) Color {
	if spaceName == "srgb" && a.Space == CMYK && b.Space == CMYK {
		out := Color{Space: CMYK, A: a.A + (b.A-a.A)*float32(q)}
		for i := range out.C {
			out.C[i] = a.C[i] + (b.C[i]-a.C[i])*float32(q)
		}
		return out
	}
	return mix(spaces[spaceName], method, a, b, q, 1)
}

func achromatic(c Color) bool {
	return math.Abs(float64(c.C[0]-c.C[1])) < 1e-4 && math.Abs(float64(c.C[1]-c.C[2])) < 1e-4
}

func mixHue(method string, a, b, q float64) float64 {
	a, b = mod360(a), mod360(b)
	switch d := b - a; {
	case method == "longer" && d > 0 && d < 180:
		a += 360
	case method == "longer" && d <= 0 && d > -180:
		b += 360
	case method == "increasing" && d < 0:
		b += 360
	case method == "decreasing" && d > 0:
		a += 360
	case method == "shorter" && d > 180:
		a += 360
	case method == "shorter" && d < -180:
		b += 360
	}
	return mod360(a + (b-a)*q)
}

func mod360(h float64) float64 {
	h = math.Mod(h, 360)
	if h < 0 {
		h += 360
	}
	return h
}

func each(c [3]float64, f func(float64) float64) [3]float64 {
	return [3]float64{f(c[0]), f(c[1]), f(c[2])}
}

func mul(m [9]float64, c [3]float64) [3]float64 {
	return [3]float64{m[0]*c[0] + m[1]*c[1] + m[2]*c[2], m[3]*c[0] + m[4]*c[1] + m[5]*c[2], m[6]*c[0] + m[7]*c[1] + m[8]*c[2]}
}

func srgbDecode(v float64) float64 {
	if a := math.Abs(v); a > 0.04045 {
		return math.Copysign(math.Pow((a+0.055)/1.055, 2.4), v)
	}
	return v / 12.92
}

func srgbEncode(v float64) float64 {
	if a := math.Abs(v); a > 0.0031308 {
		return math.Copysign(1.055*math.Pow(a, 1/2.4)-0.055, v)
	}
	return v * 12.92
}

func rec2020Decode(v float64) float64 {
	const alpha, beta = 1.09929682680944, 0.018053968510807
	if a := math.Abs(v); a >= beta*4.5 {
		return math.Copysign(math.Pow((a+alpha-1)/alpha, 1/0.45), v)
	}
	return v / 4.5
}

func rec2020Encode(v float64) float64 {
	const alpha, beta = 1.09929682680944, 0.018053968510807
	if a := math.Abs(v); a > beta {
		return math.Copysign(alpha*math.Pow(a, 0.45)-(alpha-1), v)
	}
	return v * 4.5
}

// Matrices of CSS Color 4, §18.
var (
	srgbToXYZ    = [9]float64{0.41239079926595934, 0.357584339383878, 0.1804807884018343, 0.21263900587151027, 0.715168678767756, 0.07219231536073371, 0.01933081871559182, 0.11919477979462598, 0.9505321522496607}
	xyzToSRGB    = [9]float64{3.2409699419045226, -1.537383177570094, -0.4986107602930034, -0.9692436362808796, 1.8759675015077202, 0.04155505740717559, 0.05563007969699366, -0.20397695888897652, 1.0569715142428786}
	p3ToXYZ      = [9]float64{0.4865709486482162, 0.26566769316909306, 0.1982172852343625, 0.2289745640697488, 0.6917385218365064, 0.079286914093745, 0, 0.04511338185890264, 1.043944368900976}
	xyzToP3      = [9]float64{2.493496911941425, -0.9313836179191239, -0.40271078445071684, -0.8294889695615747, 1.7626640603183463, 0.023624685841943577, 0.03584583024378447, -0.07617238926804182, 0.9568845240076872}
	a98ToXYZ     = [9]float64{0.5766690429101305, 0.1855582379065463, 0.1882286462349947, 0.29734497525053605, 0.6273635662554661, 0.07529145849399788, 0.02703136138641234, 0.07068885253582723, 0.9913375368376388}
	xyzToA98     = [9]float64{2.0415879038107465, -0.5650069742788596, -0.34473135077832956, -0.9692436362808795, 1.8759675015077202, 0.04155505740717557, 0.013444280632031142, -0.11836239223101838, 1.0151749943912054}
	rec2020ToXYZ = [9]float64{0.6369580483012914, 0.14461690358620832, 0.1688809751641721, 0.2627002120112671, 0.6779980715188708, 0.05930171646986196, 0, 0.028072693049087428, 1.060985057710791}
	xyzToRec2020 = [9]float64{1.7166511879712674, -0.35567078377639233, -0.25336628137365974, -0.6666843518324892, 1.6164812366349395, 0.01576854581391113, 0.017639857445310783, -0.042770613257808524, 0.9421031212354738}
	proToXYZ50   = [9]float64{0.7977604896723027, 0.13518583717574031, 0.0313493495815248, 0.2880711282292934, 0.7118432178101014, 0.00008565396060525902, 0, 0, 0.8251046025104601}
	xyz50ToPro   = [9]float64{1.3457989731028281, -0.25558010007997534, -0.05110628506753401, -0.5446224939028347, 1.5082327413132781, 0.02053603239147973, 0, 0, 1.2119675456389454}
	d50ToD65     = [9]float64{0.9554734527042182, -0.023098536874261423, 0.0632593086610217, -0.028369706963208136, 1.0099954580058226, 0.021041398966943008, 0.012314001688319899, -0.020507696433477912, 1.3303659366080753}
	d65ToD50     = [9]float64{1.0479298208405488, 0.022946793341019088, -0.05019222954313557, 0.029627815688159344, 0.990434484573249, -0.01707382502938514, -0.009243058152591178, 0.015055144896577895, 0.7518742899580008}
	xyzToLMS     = [9]float64{0.8190224379967030, 0.3619062600528904, -0.1288737815209879, 0.0329836539323885, 0.9292868615863434, 0.0361446663506424, 0.0481771893596242, 0.2642395317527308, 0.6335478284694309}
	lmsToXYZ     = [9]float64{1.2268798758459243, -0.5578149944602171, 0.2813910456659647, -0.0405757452148008, 1.1122868032803170, -0.0717110580655164, -0.0763729366746601, -0.4214933324022432, 1.5869240198367816}
	lmsToOklab   = [9]float64{0.2104542683093140, 0.7936177747023054, -0.0040720430116193, 1.9779985324311684, -2.4285922420485799, 0.4505937096174110, 0.0259040424655478, 0.7827717124575296, -0.8086757549230774}
	oklabToLMS   = [9]float64{1, 0.3963377773761749, 0.2158037573099136, 1, -0.1055613458156586, -0.0638541728258133, 1, -0.0894841775298119, -1.2914855480194092}
)

var white50 = [3]float64{0.3457 / 0.3585, 1, (1 - 0.3457 - 0.3585) / 0.3585}

func labToXYZ(c [3]float64) [3]float64 {
	const k, e = 24389.0 / 27, 216.0 / 24389
	fy := (c[0] + 16) / 116
	fx, fz := c[1]/500+fy, fy-c[2]/200
	cube := func(f float64) float64 {
		if f*f*f > e {
			return f * f * f
		}
		return (116*f - 16) / k
	}
	y := c[0] / k
	if c[0] > k*e {
		y = fy * fy * fy
	}
	return mul(d50ToD65, [3]float64{cube(fx) * white50[0], y, cube(fz) * white50[2]})
}

func xyzToLab(c [3]float64) [3]float64 {
	const k, e = 24389.0 / 27, 216.0 / 24389
	v := mul(d65ToD50, c)
	for i := range v {
		v[i] /= white50[i]
		if v[i] > e {
			v[i] = math.Cbrt(v[i])
		} else {
			v[i] = (k*v[i] + 16) / 116
		}
	}
	return [3]float64{116*v[1] - 16, 500 * (v[0] - v[1]), 200 * (v[1] - v[2])}
}

func oklabToXYZ(c [3]float64) [3]float64 {
	return mul(lmsToXYZ, each(mul(oklabToLMS, c), func(v float64) float64 { return v * v * v }))
}

func xyzToOklab(c [3]float64) [3]float64 { return mul(lmsToOklab, each(mul(xyzToLMS, c), math.Cbrt)) }

func hslToRGB(c [3]float64) [3]float64 {
	h, s, l := mod360(c[0]), c[1]/100, c[2]/100
	f := func(n float64) float64 {
		k := math.Mod(n+h/30, 12)
		return l - s*math.Min(l, 1-l)*math.Max(-1, math.Min(math.Min(k-3, 9-k), 1))
	}
	return [3]float64{f(0), f(8), f(4)}
}

func rgbToHSL(c [3]float64) [3]float64 {
	hi, lo := math.Max(c[0], math.Max(c[1], c[2])), math.Min(c[0], math.Min(c[1], c[2]))
	l, d := (hi+lo)/2, hi-lo
	if d < 1e-9 {
		return [3]float64{0, 0, l * 100}
	}
	s := 0.0
	if l > 0 && l < 1 {
		s = (hi - l) / math.Min(l, 1-l)
	}
	var h float64
	switch hi {
	case c[0]:
		h = (c[1] - c[2]) / d
	case c[1]:
		h = (c[2]-c[0])/d + 2
	default:
		h = (c[0]-c[1])/d + 4
	}
	return [3]float64{mod360(h * 60), s * 100, l * 100}
}

func hwbToRGB(c [3]float64) [3]float64 {
	w, b := c[1]/100, c[2]/100
	if w+b >= 1 {
		g := w / (w + b)
		return [3]float64{g, g, g}
	}
	return each(hslToRGB([3]float64{c[0], 100, 50}), func(v float64) float64 { return v*(1-w-b) + w })
}

func rgbToHWB(c [3]float64) [3]float64 {
	hsl := rgbToHSL(c)
	lo, hi := math.Min(c[0], math.Min(c[1], c[2])), math.Max(c[0], math.Max(c[1], c[2]))
	return [3]float64{hsl[0], lo * 100, (1 - hi) * 100}
}

// systemColors follows the light values that HTML user agents give them.
var systemColors = map[string]uint32{
	"canvas": 0xFFFFFF, "canvastext": 0, "linktext": 0x0000EE, "visitedtext": 0x551A8B,
	"activetext": 0xFF0000, "buttonface": 0xEFEFEF, "buttontext": 0, "buttonborder": 0x767676, "field": 0xFFFFFF,
	"fieldtext": 0, "highlight": 0x3367D1, "highlighttext": 0xFFFFFF, "selecteditem": 0x3367D1, "selecteditemtext": 0xFFFFFF,
	"mark": 0xFFFF00, "marktext": 0, "graytext": 0x808080, "accentcolor": 0x0075FF, "accentcolortext": 0xFFFFFF,
	"windowtext": 0, "window": 0xFFFFFF, "activeborder": 0x767676, "activecaption": 0xFFFFFF, "appworkspace": 0xFFFFFF, "background": 0xFFFFFF,
	"buttonhighlight": 0xEFEFEF, "buttonshadow": 0xEFEFEF, "captiontext": 0, "inactiveborder": 0x767676, "inactivecaption": 0xFFFFFF,
	"inactivecaptiontext": 0x808080, "infobackground": 0xFFFFFF, "infotext": 0, "menu": 0xFFFFFF, "menutext": 0, "scrollbar": 0xFFFFFF,
	"threeddarkshadow": 0x767676, "threedface": 0xEFEFEF, "threedhighlight": 0x767676, "threedlightshadow": 0x767676, "threedshadow": 0x767676, "windowframe": 0x767676,
}
