package layout

import (
	"math"

	"oliveledger/typeset/internal/box"
)

// late is a positioned box, or the rest of one, that belongs on a later page
// (CSS Break 4, §2: boxes out of flow are cut as those in flow are).
type late struct {
	b    *box.Box
	sp   Space
	at   *Break
	x, y float64 // y from the top of the next page
}

// putPositioned adds a positioned box, and cuts it where the page ends, left px
// below the top of f.
func (l *Layout) putPositioned(f *Fragment, p positionedBox, left float64) {
	if math.IsInf(left, 1) || p.y+p.frag.reach() <= left+0.01 && !l.forcedInside(p.b, false) {
		f.add(p.frag, p.x, p.y, 0, 0)
		return
	}
	if p.y >= left-0.01 {
		f.leave(late{p.b, p.sp, nil, p.x, math.Max(p.y-left, 0)})
		return
	}
	part, rest := l.Lay(p.b, p.sp.cutAt(left-p.y, p.y <= 0.01), nil)
	if part == nil {
		f.leave(late{p.b, p.sp, nil, p.x, 0})
		return
	}
	f.add(part, p.x, p.y, 0, 0)
	if rest != nil {
		f.leave(late{p.b, p.sp, rest, p.x, 0})
	}
}

func (f *Fragment) leave(w late) { f.carry().late = append(f.carry().late, w) }

// reach is how far a fragment or what overflows it goes down from its top.
func (f *Fragment) reach() float64 {
	h := f.H
	if f.Box != nil && f.Box.Scrolls() {
		return h
	}
	for _, k := range f.Kids {
		if k.F.Text == nil {
			h = math.Max(h, k.Y+k.F.reach())
		}
	}
	return h
}

// rise is how far what f holds goes up above its top.
func (f *Fragment) rise() (h float64) {
	for _, k := range f.Kids {
		if k.F.Text == nil {
			h = math.Max(h, k.F.rise()-k.Y)
		}
	}
	return h
}

func (s Space) cutAt(left float64, atTop bool) Space {
	s.BlockLeft, s.AtTop = left, atTop
	s.Page = math.Max(s.Page, left)
	if math.IsInf(s.Page, 1) {
		s.Page = left
	}
	return s
}

func (s Space) uncut() Space {
	s.BlockLeft, s.Page = inf, inf
	return s
}

// PutLate places what earlier pages left over into f, which is h px
// tall, and leaves what belongs further on. What f itself leaves over joins
// it.
func (l *Layout) PutLate(f *Fragment, from *Leftover, h float64) {
	list := from.list
	from.list = nil
	for _, w := range list {
		if w.y >= h-0.01 {
			w.y -= h
			from.list = append(from.list, w)
			continue
		}
		part, rest := l.Lay(w.b, w.sp.cutAt(h-w.y, true), w.at)
		if part == nil {
			if part, rest = l.Lay(w.b, w.sp.uncut(), w.at); part == nil {
				continue
			}
		}
		f.add(part, w.x, w.y, 0, 0)
		if rest != nil && (w.at == nil || !SamePlace(rest, w.at)) {
			w.at, w.y = rest, 0
			from.list = append(from.list, w)
		}
	}
	from.Take(f)
}

// Leftover is what pages so far have left for later ones.
type Leftover struct{ list []late }

// Take moves what f leaves over.
func (o *Leftover) Take(f *Fragment) {
	if f.carried != nil {
		o.list = append(o.list, f.carried.late...)
		f.carried.late = nil
	}
}

// Empty tells whether nothing is left.
func (o *Leftover) Empty() bool { return len(o.list) == 0 }
