package layout

import (
	"math"
	"sort"

	"oliveledger/typeset/internal/style"
)

// floats are the floated margin boxes of one block formatting context, in its
// coordinates (CSS 2.2, §9.5). The list only grows, so that its length marks a
// state to go back to.
type floats struct {
	list []floated
}

type floated struct {
	left       bool
	x, y, w, h float64

	// of this and all earlier floats, so that few are looked at where there
	// are very many
	ends  [2]float64 // the lowest end of left and of right ones
	floor float64    // the lowest top
}

// end is the lowest end of a float and all before it.
func (a *floated) end() float64 { return math.Max(a.ends[0], a.ends[1]) }

// beyond is how far below the end of a page or column floats end that go on
// after it, so that nothing can clear them before.
const beyond = 1

// push notes that a float moves to the next page or column, as the following
// ones must then (CSS 2.2, §9.5.1, rule 5).
func (f *floats) push(left bool, end float64) { f.add(floated{left: left, y: end + beyond}) }

func (f *floats) mark() int     { return len(f.list) }
func (f *floats) back(mark int) { f.list = f.list[:mark] }
func (f *floats) empty() bool   { return f == nil || len(f.list) == 0 }

func (f *floats) add(x floated) {
	x.ends, x.floor = f.last().ends, math.Max(f.last().floor, x.y)
	side := 1
	if x.left {
		side = 0
	}
	x.ends[side] = math.Max(x.ends[side], x.y+x.h)
	f.list = append(f.list, x)
}

// last is the latest float; one above everything when there is none.
func (f *floats) last() *floated {
	if len(f.list) == 0 {
		return &floated{ends: [2]float64{-inf, -inf}, floor: -inf}
	}
	return &f.list[len(f.list)-1]
}

// below leaves out the earliest floats that all end above y.
func (f *floats) below(y float64) []floated {
	return f.list[sort.Search(len(f.list), func(i int) bool { return f.list[i].end() > y+1e-6 }):]
}

// band is the free stretch between x0 and x1 for a strip of height h at y.
func (f *floats) band(y, h, x0, x1 float64) (l, r float64) {
	l, r = x0, x1
	list := f.below(y)
	for i := range list {
		a := &list[i]
		if a.h <= 0 && a.w <= 0 || a.y+a.h <= y+1e-6 || a.y >= y+math.Max(h, 1e-3)-1e-6 {
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
	list := f.below(y)
	for i := range list {
		if b := list[i].y + list[i].h; b > y+1e-6 {
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
		if r-l >= w-1e-4 || l <= x0 && r >= x1 {
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

// clear is the lowest end of the floats that clear asks to pass.
func (f *floats) clear(which style.Keyword) float64 {
	switch a := f.last(); which {
	case style.Both:
		return a.end()
	case style.LeftSide:
		return a.ends[0]
	default:
		return a.ends[1]
	}
}

// floor is the highest place for the next float: not above earlier ones.
func (f *floats) floor() float64 { return f.last().floor }

// bottom is the lowest end of all floats.
func (f *floats) bottom() float64 { return f.clear(style.Both) }
