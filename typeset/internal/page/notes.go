package page

import (
	"maps"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/style"
)

// choice is what string() and element() pick from on one page: the value that
// came with it from the page before, and those set on it
// (Generated Content for Paged Media, §1.1.2).
type choice[T any] struct {
	entry, first, last T
	entered            bool // some page before has set it
	set                bool // this page sets it
	atStart            bool // and does so where the page begins
}

// pick gives what a keyword asks for; ok is false when there is none.
func (c choice[T]) pick(which style.Keyword) (v T, ok bool) {
	switch which {
	case style.Last:
		if c.set {
			return c.last, true
		}
	case style.Start:
		if c.atStart {
			return c.first, true
		}
	case style.FirstExcept:
		if c.set {
			return v, false
		}
	default:
		if c.set {
			return c.first, true
		}
	}
	return c.entry, c.entered
}

// chosen keeps the choices of the page that is being made, by name.
type chosen[T any] map[string]choice[T]

func (m chosen[T]) set(name string, v T, atStart bool) {
	c := m[name]
	if !c.set {
		c.first, c.set, c.atStart = v, true, atStart
	}
	c.last = v
	m[name] = c
}

// next begins another page.
func (m chosen[T]) next() chosen[T] {
	out := chosen[T]{}
	for name, c := range m {
		n := choice[T]{entry: c.entry, entered: c.entered}
		if c.set {
			n.entry, n.entered = c.last, true
		}
		out[name] = n
	}
	return out
}

// record is what the boxes of a page told.
type record struct {
	number   int // the page counter
	strings  chosen[string]
	running  chosen[*box.Running]
	sums     map[string]box.Total
	counters map[string]int // of the document
	own      map[string]int // which this page, or a margin box of it, has reset: they hide the document's
}

// counter is the value that margin boxes see.
func (r *record) counter(name string) int {
	if v, ok := r.own[name]; ok {
		return v
	}
	return r.counters[name]
}

// within is the record as a margin box with style s sees it, whose own counting nobody
// else does (CSS Page 3, §7.1).
func (r *record) within(s *style.Style) *record {
	if len(s.CounterReset)+len(s.CounterIncrement)+len(s.CounterSet) == 0 {
		return r
	}
	in := *r
	in.counters, in.own = maps.Clone(r.counters), maps.Clone(r.own)
	in.count(s, 0)
	return &in
}

// open begins the record of a page: its counter goes up by one unless @page
// says otherwise (CSS Page 3, §7.1).
func (st *Setter) open(s *style.Style) *record {
	r := &record{strings: st.now.strings.next(), running: st.now.running.next(), sums: map[string]box.Total{}, counters: map[string]int{}}
	for name, t := range st.now.sums {
		r.sums[name] = box.Total{Brought: t.Carried, Carried: t.Carried}
	}
	for name, v := range st.now.counters {
		r.counters[name] = v
	}
	r.number = st.now.number
	r.count(s, 1)
	st.now = r
	return r
}

// take sets counters to the values that a box leaves them with.
func (r *record) take(list []box.Numbered) {
	for _, c := range list {
		r.counters[c.Name] = c.Value
	}
}

// count applies the counter properties of @page or of a margin box. The page
// counter goes up by step where they leave it alone.
func (r *record) count(s *style.Style, step int) {
	at := func(name string, value func(old int) int) {
		if name == "page" {
			r.number = value(r.number)
		} else if _, hidden := r.own[name]; hidden {
			r.own[name] = value(r.own[name])
		} else {
			r.counters[name] = value(r.counters[name])
		}
	}
	for _, op := range s.CounterReset {
		if op.Name != "page" {
			if r.own == nil {
				r.own = map[string]int{}
			}
			r.own[op.Name] = 0
		}
	}
	put := func(list []style.CounterOp) {
		for _, op := range list {
			at(op.Name, func(int) int { return op.Value })
		}
	}
	put(s.CounterReset)
	for _, op := range s.CounterIncrement {
		at(op.Name, func(old int) int { return old + op.Value })
		if op.Name == "page" {
			step = 0
		}
	}
	r.number += step
	put(s.CounterSet)
}

// read walks the fragments of a page and notes what their boxes tell.
func (st *Setter) read(frag, foot *layout.Fragment, area display.Rect, k float64, page int) {
	st.asked = st.Layout.Styles.AsksContainers()
	if !st.Noted && len(st.Watched) == 0 && !st.asked {
		return
	}
	st.walk(frag, area.Y/k, place{area.Y, k, page})
	if foot != nil {
		st.walk(foot, (area.Y+area.H)/k-foot.H, place{area.Y, k, page})
	}
	for n := range st.starts { // numbers hold once all of the page is read
		st.Places.Number[n] = st.now.number
	}
	clear(st.starts)
}

// place is where on the paper contents stand: the top of the page area, the
// scale, and the page's index.
type place struct {
	top, k float64
	page   int
}

// walk looks at a fragment whose top is at y, before scaling.
func (st *Setter) walk(f *layout.Fragment, y float64, at place) {
	if st.asked {
		st.contained(f)
	}
	if b := f.Box; b != nil && f.Text == nil && !f.Continued {
		if b.Rare().Notes != nil {
			st.note(b, y, at)
		}
		if b.Node != nil && st.Watched[b.Node] {
			if _, known := st.Places.Number[b.Node]; !known {
				st.starts[b.Node] = true
			}
		}
	}
	for _, k := range f.Kids {
		if k.F.Text == nil {
			st.walk(k.F, y+k.Y, at)
		}
	}
}

// contained notes the content box of a query container. Parts add up to its height.
func (st *Setter) contained(f *layout.Fragment) {
	b := f.Box
	if b == nil || b.Node == nil || b.Rare().Pseudo != "" || f.Text != nil || b.Style.Container == style.Normal || b.Kind == box.Element && b.Style.Display.Outer == style.Inline && !b.IsAtomic() {
		return
	}
	size := st.Places.Sizes[b.Node]
	if f.Continued == (size == [2]float64{}) {
		return
	}
	inline, block := 0, 1
	if b.Frame.Vertical() {
		inline, block = 1, 0
	}
	w, h := f.ContentSize()
	size[inline] = w
	size[block] += h
	st.Places.Sizes[b.Node] = size
}

func (st *Setter) note(b *box.Box, y float64, at place) {
	t, r := b.Rare().Notes, st.now
	atStart := y <= at.top/at.k+0.5
	for _, s := range t.Strings {
		r.strings.set(s.Name, s.Text, atStart)
	}
	for _, e := range t.Running {
		r.running.set(e.Name, e, atStart)
	}
	if st.seen[b] { // repeated on every page, as table heads are
		return
	}
	st.seen[b] = true
	if t.Page != nil {
		r.number = *t.Page
	}
	if b != st.root { // the root's were there before the first page
		r.take(t.Counters)
	}
	for _, a := range t.Adds {
		sum := r.sums[a.Name]
		sum.Carried = sum.Carried.Add(a.Value)
		r.sums[a.Name] = sum
	}
	if m := t.Bookmark; m != nil {
		st.outline = append(st.outline, pdf.OutlineItem{Title: m.Label, Level: m.Level, Page: at.page, Y: at.top + (y-at.top/at.k)*at.k, Closed: m.Closed})
	}
}
