package page

import (
	"github.com/shopspring/decimal"

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

// total is a running sum on one page: before it and with it.
type total struct{ brought, carried decimal.Decimal }

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
	sums     map[string]total
	counters map[string]int
}

// open begins the record of a page: its counter goes up by one unless @page
// says otherwise (CSS Page 3, §7.1).
func (st *Setter) open(s *style.Style) *record {
	r := &record{strings: st.now.strings.next(), running: st.now.running.next(), sums: map[string]total{}, counters: map[string]int{}}
	for name, t := range st.now.sums {
		r.sums[name] = total{t.carried, t.carried}
	}
	for name, v := range st.now.counters {
		r.counters[name] = v
	}
	r.number = st.now.number
	change := func(list []style.CounterOp, how func(old, v int) int) (named bool) {
		for _, op := range list {
			if op.Name == "page" {
				r.number, named = how(r.number, op.Value), true
			} else {
				r.counters[op.Name] = how(r.counters[op.Name], op.Value)
			}
		}
		return named
	}
	put := func(_, v int) int { return v }
	change(s.CounterReset, put)
	if !change(s.CounterIncrement, func(old, v int) int { return old + v }) {
		r.number++
	}
	change(s.CounterSet, put)
	st.now = r
	return r
}

// read walks the fragments of a page and notes what their boxes tell.
func (st *Setter) read(frag, foot *layout.Fragment, area display.Rect, k float64, page int) {
	if !st.Noted && len(st.Watched) == 0 {
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
	if b := f.Box; b != nil && f.Text == nil && !f.Continued {
		if b.Notes != nil {
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

func (st *Setter) note(b *box.Box, y float64, at place) {
	t, r := b.Notes, st.now
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
	for _, c := range t.Counters {
		r.counters[c.Name] = c.Value
	}
	for _, a := range t.Adds {
		sum := r.sums[a.Name]
		sum.carried = sum.carried.Add(a.Value)
		r.sums[a.Name] = sum
	}
	if m := t.Bookmark; m != nil {
		st.outline = append(st.outline, pdf.OutlineItem{Title: m.Label, Level: m.Level, Page: at.page, Y: at.top + (y-at.top/at.k)*at.k, Closed: m.Closed})
	}
}

// sum is a part of a running sum as a page shows it.
func (r *record) sum(name string, which style.Keyword) decimal.Decimal {
	t := r.sums[name]
	switch which {
	case style.Brought:
		return t.brought
	case style.PageKey:
		return t.carried.Sub(t.brought)
	}
	return t.carried
}
