package font

import (
	"bytes"
	"cmp"
	"math"
	"slices"
	"sort"
)

// Fill is what a shape of a colour glyph is filled with, in font units, y up.
type Fill struct {
	Kind           FillKind
	X0, Y0, X1, Y1 float64 // LinearFill: ends; RadialFill: centres of the circles; SweepFill: centre
	R0, R1         float64 // RadialFill
	From, To       float64 // SweepFill: degrees against the clock from the right
	Stops          []FillStop
}

// FillKind is the geometry of a fill. A SolidFill has one stop.
type FillKind uint8

// The geometries of fills.
const (
	SolidFill FillKind = iota
	LinearFill
	RadialFill
	SweepFill
)

// FillStop is an entry of the palette, at a place along the fill.
type FillStop struct {
	At    float64
	Entry int
	Alpha float64
}

// Compositing modes of a Drawing, those that are more than one blended with the other
// (OpenType, COLR: CompositeMode enumeration).
const (
	ComposeSource     = 1
	ComposeBackdrop   = 2
	ComposeOver       = 3
	ComposeUnder      = 4
	ComposeSourceIn   = 5
	ComposeBackdropIn = 6
	ComposeAtop       = 9
	ComposeScreen     = 13 // the first of the blend modes, in PDF's order from there
)

// Drawing takes the steps that a colour glyph is drawn in.
type Drawing interface {
	Save()
	Restore()
	Transform(m [6]float64)
	Clip(glyph uint32)
	// FillGlyph fills the shape of a glyph; m maps the space of the fill to that of the glyph.
	FillGlyph(glyph uint32, fill Fill, m [6]float64)
	Compose(mode int, source, backdrop func())
}

// A colour glyph may take so many steps, and nest so deep. Real ones take dozens.
const (
	mostSteps = 20_000
	mostDepth = 64
)

// Draw draws a glyph by its graph of paints (OpenType, COLR version 1), as it is at the
// font's default instance; false when it has none.
func (f *Face) Draw(g uint32, d Drawing) bool {
	c := colorGraph{t: f.tables["COLR"], d: d, steps: mostSteps}
	at, ok := c.glyph(g)
	if ok {
		c.paint(at, 0)
	}
	return ok
}

// hasGraphs tells whether a COLR table has graphs of paints.
func hasGraphs(t []byte) bool { return len(t) >= 34 && u16(t, 0) == 1 && offset(t, 14) > 0 }

// withoutGraphs is a font file whose graphs of paints the library does not see: it follows
// every way through them, of which a small table can have more than there is memory for.
func withoutGraphs(data []byte, tables map[string][]byte) []byte {
	if t := tables["COLR"]; len(t) < 2 || u16(t, 0) == 0 {
		return data
	}
	directory := data[:min(len(data), 1<<16)]
	if i := bytes.Index(directory, []byte("COLR")); i >= 0 {
		data = bytes.Clone(data)
		copy(data[i:], "colr")
	}
	return data
}

// colorGraph walks the paints of a glyph.
type colorGraph struct {
	t     []byte
	d     Drawing
	steps int
}

// glyph finds the paint of a glyph in the BaseGlyphList.
func (c *colorGraph) glyph(g uint32) (at int, ok bool) {
	if !hasGraphs(c.t) {
		return 0, false
	}
	list := offset(c.t, 14)
	n := min(offset(c.t, list), len(c.t)/6)
	i := sort.Search(n, func(i int) bool { return u16(c.t, list+4+6*i) >= int(g) })
	if i == n || u16(c.t, list+4+6*i) != int(g) {
		return 0, false
	}
	return list + offset(c.t, list+6+6*i), true
}

// offset24 reads an offset of three bytes and adds it to where its table begins.
func (c *colorGraph) offset24(table, at int) int { return table + int(u32(c.t, table+at)>>8) }

// part reads a number between -2 and 2 (F2DOT14).
func (c *colorGraph) part(at int) float64 { return i16(c.t, at) / (1 << 14) }

// fixed reads a number with 16 bits behind the point.
func (c *colorGraph) fixed(at int) float64 { return float64(int32(u32(c.t, at))) / (1 << 16) }

// paint draws the paint table at a place.
func (c *colorGraph) paint(at, depth int) {
	if c.steps--; c.steps < 0 || depth > mostDepth || at <= 0 || at >= len(c.t) {
		return
	}
	switch format := c.t[at]; format {
	case 1: // layers
		if at+6 > len(c.t) {
			return
		}
		list, first := offset(c.t, 18), offset(c.t, at+2)
		for i := range int(c.t[at+1]) {
			if p := list + 4 + 4*(first+i); list > 0 && first+i < offset(c.t, list) && p+4 <= len(c.t) {
				c.paint(list+offset(c.t, p), depth+1)
			}
		}
	case 10: // a glyph's shape
		c.shape(at, depth)
	case 11: // another colour glyph
		if p, ok := c.glyph(uint32(u16(c.t, at+1))); ok {
			c.paint(p, depth+1)
		}
	case 32:
		c.compose(at, depth)
	default:
		if m, ok := c.transform(at); ok {
			c.d.Save()
			c.d.Transform(m)
			c.paint(c.offset24(at, 1), depth+1)
			c.d.Restore()
		}
	}
}

// shape fills the shape of a glyph, or clips what is drawn by it.
func (c *colorGraph) shape(at, depth int) {
	glyph, in := uint32(u16(c.t, at+4)), c.offset24(at, 1)
	matrix := [6]float64{1, 0, 0, 1, 0, 0}
	for p := in; depth < mostDepth; depth++ {
		if fill, ok := c.fill(p); ok {
			c.d.FillGlyph(glyph, fill, matrix)
			return
		}
		m, ok := c.transform(p)
		if !ok {
			break
		}
		matrix, p = chain(matrix, m), c.offset24(p, 1)
	}
	c.d.Save()
	c.d.Clip(glyph)
	c.paint(in, depth+1)
	c.d.Restore()
}

func (c *colorGraph) compose(at, depth int) {
	source, backdrop := c.offset24(at, 1), c.offset24(at, 5)
	if at+8 > len(c.t) {
		return
	}
	c.d.Compose(int(c.t[at+4]), func() { c.paint(source, depth+1) }, func() { c.paint(backdrop, depth+1) })
}

// fill reads a paint table that is a colour or a gradient.
func (c *colorGraph) fill(at int) (f Fill, ok bool) {
	if at <= 0 || at+5 > len(c.t) {
		return f, false
	}
	n := func(i int) float64 { return i16(c.t, at+4+2*i) }
	format := c.t[at]
	switch format {
	case 2, 3:
		return Fill{Stops: []FillStop{{0, u16(c.t, at+1), c.part(at + 3)}}}, true
	case 4, 5:
		f = Fill{Kind: LinearFill, X0: n(0), Y0: n(1), X1: n(2), Y1: n(3)}
		f.turn(n(4), n(5))
	case 6, 7:
		f = Fill{Kind: RadialFill, X0: n(0), Y0: n(1), R0: float64(u16(c.t, at+8)), X1: n(3), Y1: n(4), R1: float64(u16(c.t, at+14))}
	case 8, 9:
		f = Fill{Kind: SweepFill, X0: n(0), Y0: n(1), From: 180 * (c.part(at+8) + 1), To: 180 * (c.part(at+10) + 1)}
	default:
		return f, false
	}
	c.line(&f, c.offset24(at, 1), format%2 == 1)
	return f, len(f.Stops) > 0
}

// turn makes the second end of a linear gradient that whose lines of one colour run as a third
// point says.
func (f *Fill) turn(x2, y2 float64) {
	dx, dy := f.X1-f.X0, f.Y1-f.Y0
	px, py := y2-f.Y0, f.X0-x2 // across the line to the third point
	if l := px*px + py*py; l > 0 {
		k := (dx*px + dy*py) / l
		f.X1, f.Y1 = f.X0+k*px, f.Y0+k*py
	}
}

// line reads a colour line and makes its stops reach from 0 to 1.
func (c *colorGraph) line(f *Fill, at int, varies bool) {
	size := 6
	if varies {
		size = 10
	}
	for i := range u16(c.t, at+1) {
		p := at + 3 + i*size
		if p+6 > len(c.t) {
			break
		}
		f.Stops = append(f.Stops, FillStop{c.part(p), u16(c.t, p+2), c.part(p + 4)})
	}
	if len(f.Stops) == 0 {
		return
	}
	slices.SortStableFunc(f.Stops, func(a, b FillStop) int { return cmp.Compare(a.At, b.At) })
	from, to := f.Stops[0].At, f.Stops[len(f.Stops)-1].At
	if from == to {
		*f = Fill{Stops: f.Stops[len(f.Stops)-1:]}
		return
	}
	between := func(a, b *float64) { *a, *b = *a+(*b-*a)*from, *a+(*b-*a)*to }
	between(&f.X0, &f.X1)
	between(&f.Y0, &f.Y1)
	between(&f.R0, &f.R1)
	between(&f.From, &f.To)
	for i := range f.Stops {
		f.Stops[i].At = (f.Stops[i].At - from) / (to - from)
	}
}

// transform reads a paint table that moves, scales, turns or skews another one. Formats
// come in pairs: the second of each varies, and has the same numbers.
func (c *colorGraph) transform(at int) (m [6]float64, ok bool) {
	if at <= 0 || at+6 > len(c.t) {
		return m, false
	}
	n := func(i int) float64 { return i16(c.t, at+4+2*i) }
	part := func(i int) float64 { return n(i) / (1 << 14) }
	m = [6]float64{1, 0, 0, 1, 0, 0}
	var cx, cy float64
	switch c.t[at] &^ 1 {
	case 12:
		a := c.offset24(at, 4)
		return [6]float64{c.fixed(a), c.fixed(a + 4), c.fixed(a + 8), c.fixed(a + 12), c.fixed(a + 16), c.fixed(a + 20)}, a+24 <= len(c.t)
	case 14:
		m[4], m[5] = n(0), n(1)
	case 16:
		m[0], m[3] = part(0), part(1)
	case 18:
		m[0], m[3], cx, cy = part(0), part(1), n(2), n(3)
	case 20:
		m[0], m[3] = part(0), part(0)
	case 22:
		m[0], m[3], cx, cy = part(0), part(0), n(1), n(2)
	case 24, 26:
		sin, cos := math.Sincos(part(0) * math.Pi)
		m = [6]float64{cos, sin, -sin, cos, 0, 0}
		if c.t[at]&^1 == 26 {
			cx, cy = n(1), n(2)
		}
	case 28, 30:
		m[1], m[2] = math.Tan(part(1)*math.Pi), -math.Tan(part(0)*math.Pi)
		if c.t[at]&^1 == 30 {
			cx, cy = n(2), n(3)
		}
	default:
		return m, false
	}
	if cx != 0 || cy != 0 {
		m[4], m[5] = cx-m[0]*cx-m[2]*cy, cy-m[1]*cx-m[3]*cy
	}
	return m, true
}

// chain applies n first, then m.
func chain(m, n [6]float64) [6]float64 {
	return [6]float64{
		m[0]*n[0] + m[2]*n[1], m[1]*n[0] + m[3]*n[1],
		m[0]*n[2] + m[2]*n[3], m[1]*n[2] + m[3]*n[3],
		m[0]*n[4] + m[2]*n[5] + m[4], m[1]*n[4] + m[3]*n[5] + m[5],
	}
}
