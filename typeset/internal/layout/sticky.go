package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// stick moves the sticky boxes in a scroll container to where they show before
// anything is scrolled (CSS Position 3, §3.4). Fragments may be shared, so what
// changes is copied.
func stick(f *Fragment) *Fragment {
	port := rect{f.Border[style.Left], f.Border[style.Top], f.W - f.Border[style.Left] - f.Border[style.Right], f.H - f.Border[style.Top] - f.Border[style.Bottom]}
	area := port // what can be scrolled to
	for _, k := range f.Kids {
		area.w = math.Max(area.w, k.X+k.F.W-area.x)
		area.h = math.Max(area.h, k.Y+k.F.reach()-area.y)
	}
	out := f.stuck(port, area)
	if out != f && out.carried != nil {
		c := *out.carried
		c.pieces = slices.Clone(c.pieces)
		follow(f, out, c.pieces)
		out.carried = &c
	}
	return out
}

// follow has the columns around place in the copy of a fragment what they would have placed
// in the fragment itself or one inside.
func follow(f, copied *Fragment, pieces []piece) {
	if f == copied {
		return
	}
	for i := range pieces {
		if pieces[i].f == f {
			pieces[i].f = copied
		}
	}
	for i := range f.Kids {
		follow(f.Kids[i].F, copied.Kids[i].F, pieces)
	}
}

// stuck gives f with the sticky boxes in it moved; port is the scrollport and
// area their containing block, both relative to f.
func (f *Fragment) stuck(port, area rect) *Fragment {
	var kids []Kid
	for i, k := range f.Kids {
		b := k.F.Box
		if k.F.Text != nil || b != nil && b.Scrolls() && b.Style.Position != style.Sticky {
			continue
		}
		moved := k
		if b != nil && b.Style.Position == style.Sticky {
			moved.X, moved.Y = stuckAt(k, port, area)
		}
		if b == nil || !b.Scrolls() {
			inner := rect{area.x - moved.X, area.y - moved.Y, area.w, area.h}
			if b != nil && b.IsBlockLevel() {
				inner = k.F.contentArea()
			}
			moved.F = k.F.stuck(rect{port.x - moved.X, port.y - moved.Y, port.w, port.h}, inner)
		}
		if moved != k && kids == nil {
			kids = append(kids, f.Kids...)
		}
		if kids != nil {
			kids[i] = moved
		}
	}
	if kids == nil {
		return f
	}
	out := *f
	out.Kids = kids
	return &out
}

// stuckAt is the place of a sticky box: inside the sticky view rectangle, as
// far as its containing block allows.
func stuckAt(k Kid, port, area rect) (x, y float64) {
	s := k.F.Box.Style
	margin := func(side int) float64 {
		if s.Margin[side].Kind == style.Length {
			return s.Margin[side].Of(area.w)
		}
		return 0
	}
	axis := func(at, size, lo, length, from, whole float64, first, last int) float64 {
		if end := s.Inset[last].Resolve(length); known(end) && at+size > lo+length-end {
			at = math.Min(at, math.Max(lo+length-end-size, from+margin(first)))
		}
		if start := s.Inset[first].Resolve(length); known(start) && at < lo+start {
			at = math.Max(at, math.Min(lo+start, from+whole-margin(last)-size))
		}
		return at
	}
	x = axis(k.X, k.F.W, port.x, port.w, area.x, area.w, style.Left, style.Right)
	y = axis(k.Y, k.F.H, port.y, port.h, area.y, area.h, style.Top, style.Bottom)
	return x, y
}

// hasSticky tells whether b scrolls and holds a sticky box that it is the
// scroll container of.
func hasSticky(b *box.Box) bool {
	for _, c := range b.Children {
		if c.Kind == box.Text {
			continue
		}
		if c.Style.Position == style.Sticky || !c.Scrolls() && hasSticky(c) {
			return true
		}
	}
	return false
}
