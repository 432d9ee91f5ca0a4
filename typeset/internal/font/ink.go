package font

import (
	"math"

	ot "github.com/go-text/typesetting/font/opentype"
)

// Ink gives the stretch in which a glyph's outline meets the band from lo to hi
// above the baseline, all in font units; ok is false when it stays clear.
func (f *Face) Ink(g uint32, lo, hi float64) (left, right float64, ok bool) {
	key := inkKey{g, lo, hi}
	f.mu.RLock()
	at, known := f.inks[key]
	f.mu.RUnlock()
	if !known {
		at[0], at[1] = f.ink(g, lo, hi)
		f.mu.Lock()
		if f.inks == nil || len(f.inks) >= mostInks {
			f.inks = map[inkKey][2]float64{}
		}
		f.inks[key] = at
		f.mu.Unlock()
	}
	return at[0], at[1], at[0] <= at[1]
}

// inkKey is a glyph and a band that underlines of one kind share.
type inkKey struct {
	glyph  uint32
	lo, hi float64
}

// mostInks bounds how many of them a face remembers.
const mostInks = 5000

// ink looks for the stretch; without one left lies beyond right.
func (f *Face) ink(g uint32, lo, hi float64) (left, right float64) {
	left, right = math.Inf(1), math.Inf(-1)
	var x, y float64
	line := func(x1, y1 float64) {
		x0, y0 := x, y
		x, y = x1, y1
		if math.Max(y0, y1) < lo || math.Min(y0, y1) > hi {
			return
		}
		at := func(v float64) float64 { // where the line is at height v
			if y0 == y1 {
				return x1
			}
			t := math.Min(math.Max((v-y0)/(y1-y0), 0), 1)
			return x0 + t*(x1-x0)
		}
		ends := []float64{at(lo), at(hi)}
		if y0 >= lo && y0 <= hi {
			ends = append(ends, x0)
		}
		if y1 >= lo && y1 <= hi {
			ends = append(ends, x1)
		}
		for _, v := range ends {
			left, right = math.Min(left, v), math.Max(right, v)
		}
	}
	const steps = 8 // a curve is as good as its chords here
	for _, s := range f.Outline(g) {
		p := func(i int) (float64, float64) { return float64(s.Args[i].X), float64(s.Args[i].Y) }
		switch s.Op {
		case ot.SegmentOpMoveTo:
			x, y = p(0)
		case ot.SegmentOpLineTo:
			line(p(0))
		case ot.SegmentOpQuadTo:
			x0, y0 := x, y
			cx, cy := p(0)
			ex, ey := p(1)
			for i := 1; i <= steps; i++ {
				t := float64(i) / steps
				u := 1 - t
				line(u*u*x0+2*u*t*cx+t*t*ex, u*u*y0+2*u*t*cy+t*t*ey)
			}
		case ot.SegmentOpCubeTo:
			x0, y0 := x, y
			ax, ay := p(0)
			bx, by := p(1)
			ex, ey := p(2)
			for i := 1; i <= steps; i++ {
				t := float64(i) / steps
				u := 1 - t
				line(u*u*u*x0+3*u*u*t*ax+3*u*t*t*bx+t*t*t*ex, u*u*u*y0+3*u*u*t*ay+3*u*t*t*by+t*t*t*ey)
			}
		}
	}
	return left, right
}
