package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
)

// lineRest is what is left of a box that stood in a line as one and was cut with it.
type lineRest struct {
	b  *box.Box
	x  float64 // from the content box's left
	at *Break

	beside []Kid // what stood on its baseline, from there; it stands beside its last line
}

// isCut tells whether a line that has been made is to be cut inside: it holds a forced
// break, is taller than any page, or stands on top of one. Where no room is left it goes on,
// and in columns it stays whole, as browsers have it.
func (st *lineState) isCut(line *Fragment, y float64, onTop bool) bool {
	in := &st.in
	if !st.p.cuts || in.column || !onTop && atMost(in.left, y) {
		return false
	}
	tall := exceeds(y+line.H, in.left) && (onTop || line.H > in.page)
	return tall || st.anyAtomic(line, func(k *Kid, _, _ float64) bool { return st.l.forcedNameless(k.F.Box) })
}

// anyAtomic asks about the boxes that stand in a line as one and could be cut, with their
// places in it, until the answer is yes.
func (st *lineState) anyAtomic(line *Fragment, ask func(k *Kid, x, y float64) bool) bool {
	var walk func(f *Fragment, x, y float64) bool
	walk = func(f *Fragment, x, y float64) bool {
		for i := range f.Kids {
			k := &f.Kids[i]
			b := k.F.Box
			switch {
			case b == nil || k.F.Text != nil || b.Kind != box.Element:
			case !b.IsAtomic() && !b.IsBlockLevel():
				if walk(k.F, x+k.X, y+k.Y) {
					return true
				}
			case !b.Turned() && ask(k, x+k.X, y+k.Y):
				return true
			}
		}
		return false
	}
	return walk(line, 0, 0)
}

// cutLine cuts the boxes in a line that reach below the room for it, or hold a forced
// break. It gives what is left of them; nothing when there is nothing to cut.
func (st *lineState) cutLine(line *Fragment, room float64, onTop bool) (rests []lineRest) {
	if line.carried.waits() { // positioned boxes wait in columns inside: these stay as they are
		return nil
	}
	line.carried = nil // it tells of parts that are made anew
	st.anyAtomic(line, func(k *Kid, x, y float64) bool {
		b := k.F.Box
		if atMost(y+k.F.reach(), room) && !st.l.forcedNameless(b) {
			return false
		}
		sp := st.atomicSpace()
		sp.FixedW, sp.BlockLeft, sp.Page, sp.Column = k.F.W, room-y, st.in.page, st.in.column
		sp.AtTop = onTop || line.H > st.in.page && atMost(y, 0)
		part, rest := st.l.Lay(b, sp, nil)
		if part == nil && onTop {
			part, rest = st.l.must(b, sp, nil)
		}
		if part == nil || rest == nil {
			return false
		}
		line.out = slices.DeleteFunc(line.out, func(w outOfFlow) bool {
			return slices.ContainsFunc(k.F.out, func(o outOfFlow) bool { return o.b == w.b })
		})
		for _, w := range part.out {
			w.x, w.y = w.x+x, w.y+y
			line.out = append(line.out, w)
		}
		if part.carried != nil {
			part.move(line, x, y, 0)
		}
		k.F = part
		rests = append(rests, lineRest{b: b, x: x, at: rest})
		return false
	})
	if len(rests) > 0 {
		line.H = math.Min(line.H, room)
		for _, k := range line.takeBelow(room) {
			rests[0].beside = append(rests[0].beside, Kid{k.X, k.Y - line.Baseline, k.F})
		}
	}
	return rests
}

// takeBelow takes what f, a line or an inline box in one, holds below room, with places from
// its corner. Inline boxes are on both sides when only some of what they hold is below.
func (f *Fragment) takeBelow(room float64) (list []Kid) {
	f.Kids = slices.DeleteFunc(f.Kids, func(k Kid) bool {
		if b := k.F.Box; b == nil || len(k.F.Kids) == 0 || k.F.Text != nil || b.IsAtomic() || b.IsBlockLevel() {
			below := exceeds(k.Y+k.F.H, room)
			if below {
				list = append(list, k)
			}
			return below
		}
		if kids := k.F.takeBelow(room - k.Y); len(kids) > 0 {
			part := *k.F
			part.Kids = kids
			list = append(list, Kid{k.X, k.Y, &part})
		}
		return len(k.F.Kids) == 0
	})
	return list
}

// goOnCut sets what is left of boxes in the line before, side by side above the next
// line, and tells what goes on further.
func (st *lineState) goOnCut(list []lineRest) (rests []lineRest) {
	for _, r := range list {
		sp := st.atomicSpace()
		sp.BlockLeft, sp.Page, sp.Column, sp.AtTop = st.in.left, st.in.page, st.in.column, st.in.atTop
		part, rest := st.l.Lay(r.b, sp, r.at)
		if part == nil {
			part, rest = st.l.must(r.b, sp, r.at)
		}
		st.f.add(part, st.in.x+r.x, st.in.y, 0, 0)
		st.y = math.Max(st.y, part.H)
		if rest != nil {
			rests = append(rests, lineRest{r.b, r.x, rest, r.beside})
			continue
		}
		base := part.LastBaseline
		if !known(base) {
			base = part.H
		}
		line := &Fragment{Line: true, W: st.in.w, H: part.H, Baseline: base}
		for _, k := range r.beside {
			line.add(k.F, k.X, base+k.Y, 0, 0)
		}
		st.f.add(line, st.in.x, st.in.y, 0, 0)
	}
	return rests
}

// atomicSpace is the room for a box that stands in a line as one.
func (st *lineState) atomicSpace() Space {
	sp := newSpace(st.in.w, st.in.h)
	sp.Shrink, sp.Nameless = true, true
	return sp
}
