package layout

import (
	"math"

	"oliveledger/typeset/internal/style"
)

// floats is the state of the floats of a block formatting context: the latest
// floated margin box, in the context's coordinates, and through it all before
// (CSS 2.2, §9.5). A state never changes, so that whoever tries something and
// drops it has nothing to take back; nil is a context without floats.
type floats struct {
	before *floats
	floated

	// of this and all earlier floats, so that few are looked at where there
	// are very many
	ends  [2]float64 // the lowest end of left and of right ones
	floor float64    // the lowest top
}

// floated is the margin box of a float.
type floated struct {
	left       bool
	x, y, w, h float64
	shape      *outline // that lines keep clear of; nil for the whole
}

// stands tells whether a float takes something of a strip of height h at y.
func (a *floated) stands(y, h float64) bool {
	return (a.h > 0 || a.w > 0) && exceeds(a.y+a.h, y) && exceeds(y+math.Max(h, 2*rounding), a.y)
}

// beyond is how far below the end of a page or column floats end that go on
// after it, so that nothing can clear them before.
const beyond = 1

// goesOn is the margin box of a float that moves to the next page or column, which ends
// at end here: the following ones must move, too (CSS 2.2, §9.5.1, rule 5).
func goesOn(left bool, end float64) floated { return floated{left: left, y: end + beyond} }

// with is the state after one more float, in memory that is given.
func (f *floats) with(x floated, in *floats) *floats {
	*in = floats{before: f, floated: x, ends: [2]float64{-inf, -inf}, floor: x.y}
	if f != nil {
		in.ends, in.floor = f.ends, math.Max(f.floor, x.y)
	}
	side := 1
	if x.left {
		side = 0
	}
	in.ends[side] = math.Max(in.ends[side], x.y+x.h)
	return in
}

// end is the lowest end of a float and all before it.
func (f *floats) end() float64 { return math.Max(f.ends[0], f.ends[1]) }

// from leaves out the earliest floats that all end above y: it is f, or nil.
func (f *floats) from(y float64) *floats {
	if f != nil && exceeds(f.end(), y) {
		return f
	}
	return nil
}

// band is the free stretch between x0 and x1 for a strip of height h at y.
func (f *floats) band(y, h, x0, x1 float64) (l, r float64) {
	l, r = x0, x1
	for a := f.from(y); a != nil; a = a.before.from(y) {
		if !a.stands(y, h) {
			continue
		}
		if a.left {
			l = math.Max(l, a.x+a.w)
		} else {
			r = math.Min(r, a.x)
		}
	}
	return l, r
}

// nextEdge is the next place below y where a float ends; inf for none.
func (f *floats) nextEdge(y float64) float64 {
	next := inf
	for a := f.from(y); a != nil; a = a.before.from(y) {
		if b := a.y + a.h; exceeds(b, y) {
			next = math.Min(next, b)
		}
	}
	return next
}

// fit finds the first y, not above the one given, where a strip of width w and
// height h is free between x0 and x1.
func (f *floats) fit(y, w, h, x0, x1 float64) (at, l, r float64) {
	for range 10000 {
		l, r = f.band(y, h, x0, x1)
		if atMost(w, r-l) || l <= x0 && r >= x1 {
			return y, l, r
		}
		next := f.nextEdge(y)
		if math.IsInf(next, 1) {
			return y, l, r
		}
		y = next
	}
	return y, l, r
}

// clear is the lowest end of the floats that clear asks to pass; -inf for none.
func (f *floats) clear(which style.Keyword) float64 {
	switch {
	case f == nil:
		return -inf
	case which == style.Both:
		return f.end()
	case which == style.LeftSide:
		return f.ends[0]
	default:
		return f.ends[1]
	}
}

// lowestTop is the highest place for the next float: not above earlier ones.
func (f *floats) lowestTop() float64 {
	if f == nil {
		return -inf
	}
	return f.floor
}

// bottom is the lowest end of all floats; -inf for none.
func (f *floats) bottom() float64 { return f.clear(style.Both) }
