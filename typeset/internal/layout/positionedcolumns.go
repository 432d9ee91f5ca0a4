package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// carried is what a fragment leaves to the pages or columns around it.
type carried struct {
	late    []late
	pieces  []piece
	columns []*columnPlace
	shifts  shifts // of the container whose last part the fragment is
}

// waits tells whether there is anything to be placed or set later, and not only parts that something
// could have waited for.
func (c *carried) waits() bool {
	return c != nil && (len(c.late) > 0 || slices.ContainsFunc(c.pieces, func(p piece) bool { return len(p.list) > 0 }))
}

func (f *Fragment) carry() *carried {
	if f.carried == nil {
		f.carried = &carried{}
	}
	return f.carried
}

// extent is how much a fragment holds, to go back to.
type extent struct{ kids, out, late, pieces, columns int }

func (f *Fragment) extent() extent {
	x := extent{kids: len(f.Kids), out: len(f.out)}
	if c := f.carried; c != nil {
		x.late, x.pieces, x.columns = len(c.late), len(c.pieces), len(c.columns)
	}
	return x
}

// backTo takes out of f what has been added since it held x.
func (f *Fragment) backTo(x extent) {
	f.Kids, f.out = f.Kids[:x.kids], f.out[:x.out]
	if c := f.carried; c != nil {
		c.late, c.pieces, c.columns = c.late[:x.late], c.pieces[:x.pieces], c.columns[:x.columns]
	}
}

// move gives what c carries to f, in which c stands at x, y; relative
// positioning has moved it down by down px.
func (c *Fragment) move(f *Fragment, x, y, down float64) {
	to := f.carry()
	for _, w := range c.carried.late {
		w.x += x
		to.late = append(to.late, w)
	}
	for _, p := range c.carried.pieces {
		p.x += x
		p.y += y
		if p.col == nil {
			p.down += down
		}
		to.pieces = append(to.pieces, p)
	}
	for _, k := range c.carried.columns {
		k.x += x
		k.y += y
		to.columns = append(to.columns, k)
	}
	c.carried = nil
}

// columnPlace is the place of one column, from the fragment that lists it.
type columnPlace struct {
	x, y, h float64
	n       int // in its row
	row     *columnRow
	before  *columnPlace // the one before a further column, which positioned boxes have made
}

// columnRow is what the columns that stand side by side share.
type columnRow struct {
	box   *box.Box     // the multi-column box
	n     int          // columns that it has room for
	step  float64      // from one to the next
	gap   float64      // between them
	fixed bool         // further columns overflow to the side
	start float64      // x of the first, from the column around
	outer *columnPlace // around the row, if any
}

// piece is one part, in a column, of a box that contains positioned boxes.
// These are placed in the whole of it, once all its parts are known
// (CSS Break 4, §2: the containing block is as tall as its parts together).
type piece struct {
	f    *Fragment
	x, y float64 // of f, from the fragment that lists the parts
	down float64 // by which relative positioning has moved it in its column
	col  *columnPlace
	list []outOfFlow
	by   shifts // of a container whose last part it is
}

// top is where the part begins in its column.
func (p *piece) top() float64 { return p.y - p.down - p.col.y }

// keep leaves the positioned boxes of f to the columns around it.
func (f *Fragment) keep(list []outOfFlow) {
	c := f.carry()
	c.pieces = append(c.pieces, piece{f: f, list: list, by: c.shifts})
}

// renewed is a copy of f to be changed: what the columns around place in f goes there.
func (f *Fragment) renewed() *Fragment {
	out := *f
	if f.carried != nil {
		c := *f.carried
		c.pieces = slices.Clone(c.pieces)
		for i := range c.pieces {
			if c.pieces[i].f == f {
				c.pieces[i].f = &out
			}
		}
		out.carried = &c
	}
	return &out
}

// inColumn tells what f carries that it stands in col.
func (f *Fragment) inColumn(col *columnPlace) {
	if f.carried == nil {
		return
	}
	for i := range f.carried.pieces {
		if p := &f.carried.pieces[i]; p.col == nil {
			p.col = col
		}
	}
	for _, k := range f.carried.columns {
		if k.row.outer == nil {
			k.row.outer, k.row.start = col, k.row.start-col.x
		}
	}
}

// resolver places positioned boxes in all columns of a multi-column box and of
// those inside it.
type resolver struct {
	l       *Layout
	f       *Fragment // of the multi-column box
	columns []*columnPlace
	fixed   partsOf // those found so far that contain fixed boxes
	hosts   []host
}

// resolve places in f what the parts of containing blocks inside it have kept.
// Boxes placed may contain further ones.
func (l *Layout) resolve(f *Fragment) {
	if f.carried == nil {
		return
	}
	r := &resolver{l: l, f: f, columns: f.carried.columns}
	list := f.carried.pieces
	f.carried.pieces, f.carried.columns = nil, nil
	for len(list) > 0 {
		g := grouped(list)
		list = nil
		r.note(g)
		for _, b := range g.order {
			more, fixed := r.across(g.parts[b])
			list = append(list, more...)
			for _, w := range fixed {
				list = append(list, r.passOn(w, b, g.parts[b])...)
			}
		}
	}
}

// partsOf are the parts of containing blocks, by their boxes in the order in which they begin.
type partsOf struct {
	order []*box.Box
	parts map[*box.Box][]piece
}

func grouped(list []piece) partsOf {
	g := partsOf{parts: map[*box.Box][]piece{}}
	for _, p := range list {
		b := p.f.Box
		if i := slices.IndexFunc(g.order, func(o *box.Box) bool { return sameInline(o, b) }); i >= 0 {
			b = g.order[i]
		} else {
			g.order = append(g.order, b)
		}
		g.parts[b] = append(g.parts[b], p)
	}
	return g
}

// note remembers the containing blocks of fixed boxes.
func (r *resolver) note(g partsOf) {
	for _, b := range g.order {
		if !b.Style.HoldsFixed() || r.fixed.parts[b] != nil {
			continue
		}
		if r.fixed.parts == nil {
			r.fixed.parts = map[*box.Box][]piece{}
		}
		r.fixed.order, r.fixed.parts[b] = append(r.fixed.order, b), g.parts[b]
	}
}

// passOn gives a fixed box of one containing block to the innermost one around it that
// contains such boxes, whose parts are returned, or else to what is around the columns.
func (r *resolver) passOn(w waitingIn, of *box.Box, parts []piece) []piece {
	in := parts[w.part]
	w.x, w.y = w.x+in.x, w.y+in.y
	var around *box.Box
	part := 0
	for _, b := range r.fixed.order {
		if b == of {
			continue
		}
		for i, q := range r.fixed.parts[b] {
			if r.within(q.f, in.f) && (around == nil || r.within(r.fixed.parts[around][part].f, q.f)) {
				around, part = b, i
			}
		}
	}
	if around == nil {
		w.x, w.y = w.x+w.dx, w.y+w.dy
		r.f.out = append(r.f.out, w.outOfFlow)
		return nil
	}
	again := slices.Clone(r.fixed.parts[around])
	for i := range again {
		again[i].list = nil
	}
	x, y := r.flowBetween(again[part].col, in.col)
	w.x, w.y = w.x-again[part].x-x, w.y-again[part].y+y
	again[part].list = []outOfFlow{w.outOfFlow}
	return again
}

// flowBetween is how far a column stands to the side of an earlier one, and how far it comes
// after it beyond that in the flow that both are columns of.
func (r *resolver) flowBetween(first, later *columnPlace) (x, y float64) {
	for c := later; c != nil; c = r.previous(c) {
		if c == first {
			return later.x - first.x, y - (later.y - first.y)
		}
		if prev := r.previous(c); prev != nil {
			y += prev.h
		}
	}
	return 0, 0
}

// holds tells whether c is among the descendants of f.
func (f *Fragment) holds(c *Fragment) bool {
	for _, k := range f.Kids {
		if k.F == c || k.F.holds(c) {
			return true
		}
	}
	return false
}

// across places positioned boxes in a containing block of several parts. It
// returns the parts of the boxes that contain others in turn, and fixed boxes
// that have another containing block.
func (r *resolver) across(parts []piece) (more []piece, fixed []waitingIn) {
	before := make([]float64, len(parts)+1)
	for i, p := range parts {
		before[i+1] = before[i] + p.f.H
	}
	first, last := parts[0].f, parts[len(parts)-1].f
	cb := rect{first.Border[style.Left], first.Border[style.Top], first.W - first.Border[style.Left] - first.Border[style.Right], 0}
	cb.h = before[len(parts)] - cb.y - last.Border[style.Bottom]
	for k, p := range parts {
		for i := 0; i < len(p.list); i++ {
			w := p.list[i].follow(parts[len(parts)-1].by)
			w.y += before[k]
			at := r.l.positioned(first.Box, w, cb)
			if at.frag == nil {
				continue
			}
			done := putAcross{resolver: r, parts: parts, before: before}
			done.put(at)
			more = append(more, done.more...)
			for _, w := range done.out {
				if w.b.Style.Position == style.FixedKey && !first.Box.Style.HoldsFixed() {
					fixed = append(fixed, w)
					continue
				}
				w.y += before[w.part] - before[k]
				p.list = append(p.list, w.outOfFlow)
			}
		}
	}
	return more, fixed
}

// next is the column that follows c, one of the layout's or a further one.
func (r *resolver) next(c *columnPlace) *columnPlace {
	found := false
	for _, k := range r.columns {
		if found && k.row.box == c.row.box {
			return k
		}
		found = found || k == c
	}
	row := *c.row
	if c.n+1 < row.n || row.outer == nil || row.fixed {
		return &columnPlace{c.x + row.step, c.y, c.h, c.n + 1, &row, c}
	}
	row.outer = r.next(row.outer)
	return &columnPlace{row.outer.x + row.start, row.outer.y, row.outer.h, 0, &row, c}
}

// previous is the column before c, if any.
func (r *resolver) previous(c *columnPlace) (prev *columnPlace) {
	if c.before != nil {
		return c.before
	}
	for _, k := range r.columns {
		if k == c {
			return prev
		}
		if k.row.box == c.row.box {
			prev = k
		}
	}
	return nil
}

// putAcross cuts one positioned box by the columns of its containing block.
type putAcross struct {
	*resolver
	parts  []piece
	before []float64
	out    []waitingIn // boxes inside that wait for the same containing block or one around it
	more   []piece
}

type waitingIn struct {
	outOfFlow
	part   int     // that its place is measured from
	dx, dy float64 // from there to where it is seen
}

// start finds the part and the column that a place in the containing block
// falls in, and the place in that column.
func (a *putAcross) start(y float64) (int, *columnPlace, float64) {
	k := 0
	for k+1 < len(a.parts) && atMost(a.before[k+1], y) {
		k++
	}
	p := a.parts[k]
	c := p.col
	y += p.top() - a.before[k]
	for exceeds(0, y) {
		prev := a.previous(c)
		if prev == nil {
			break
		}
		c = prev
		y += c.h
	}
	return k, c, y
}

// mostParts is how many parts a positioned box may have in columns. More are no use to anyone:
// what is left then stands in the last.
const mostParts = 1000

func (a *putAcross) put(at positionedBox) {
	k, c, y := a.start(at.y)
	top := at.y - y // of the column, in the whole of the containing block
	var brk *Break
	for range mostParts {
		p := a.parts[k]
		if c == p.col {
			top = a.before[k] - p.top()
		}
		room := c.h - y
		isLast := k == len(a.parts)-1
		if !isLast && c == p.col {
			room = math.Min(room, p.top()+p.f.H-y)
		}
		part, rest := a.part(at, brk, room, y)
		if c.h <= 0 && part == nil { // there is nothing to be cut by
			part, rest = a.l.Lay(at.b, at.sp.uncut(), brk)
		}
		if part != nil {
			a.add(k, part, c.x+p.x-p.col.x+at.x, c.y+y+p.down, top+y, c)
			if rest == nil || brk != nil && SamePlace(rest, brk) {
				return
			}
			brk = rest
		}
		if !isLast && c == p.col {
			k++
			c, y = a.parts[k].col, a.parts[k].top()
			continue
		}
		if isLast && c == p.col && clips(p.f.Box.Style) { // what is beyond the box is there but not seen
			if part, _ = a.l.Lay(at.b, at.sp.uncut(), brk); part != nil {
				a.add(k, part, p.x+at.x, c.y+c.h+p.down, top+c.h, c)
			}
			return
		}
		if part == nil && brk == nil {
			y = math.Max(y-c.h, 0)
		} else {
			y = 0
		}
		top += c.h
		c = a.next(c)
		if !isLast && c == a.parts[k+1].col {
			k++
			y = a.parts[k].top()
		}
	}
	if part, _ := a.l.Lay(at.b, at.sp.uncut(), brk); part != nil { // columns too small to cut it
		a.add(k, part, c.x+a.parts[k].x-a.parts[k].col.x+at.x, c.y, top, c)
	}
}

// part is what fits into the room left, y px below the column's top; nil for
// nothing.
func (a *putAcross) part(at positionedBox, from *Break, room, y float64) (*Fragment, *Break) {
	atTop := atMost(y, 0)
	if from == nil && atMost(at.frag.reach(), room) && atMost(at.frag.rise(), y) {
		return at.frag, nil
	}
	if atMost(room, 0) {
		return nil, nil
	}
	sp := at.sp.cutAt(room, atTop)
	sp.Column = true
	part, rest := a.l.Lay(at.b, sp, from)
	if part == nil && atTop {
		return a.l.Lay(at.b, at.sp.uncut(), from)
	}
	return part, rest
}

// add adds a part at a place measured as the containing block's parts are. What waits in it is
// measured in the whole of the containing block, in which the part begins at from.
func (a *putAcross) add(k int, part *Fragment, x, y, from float64, c *columnPlace) {
	p := a.parts[k]
	a.rule(c)
	if part.carried != nil {
		for _, q := range part.carried.pieces {
			q.x, q.y = q.x+x, q.y+y
			if q.col == nil {
				q.col = c
			}
			a.more = append(a.more, q)
		}
		part.carried.pieces = nil
	}
	host, hostX, hostY := a.host(p, c, y)
	had := len(host.out)
	host.add(part, x-hostX, y-hostY, 0, 0)
	for _, w := range host.out[had:] {
		in := waitingIn{w, k, c.x - p.col.x, y - p.y - (from - a.before[k])}
		in.x, in.y = in.x+hostX-p.x-in.dx, in.y+hostY-p.y-in.dy
		a.out = append(a.out, in)
	}
	host.out = host.out[:had]
}

// rule draws the line before a column that holds nothing but positioned boxes. Further ones,
// which these make, may be cut off with them.
func (r *resolver) rule(c *columnPlace) {
	if r.f == nil || c.n == 0 || c.n >= c.row.n || c.row.box != r.f.Box {
		return
	}
	d, x := r.f.draws(), c.x-c.row.gap/2
	if !slices.ContainsFunc(d.Rules, func(k Kid) bool { return atMost(math.Abs(k.X-x), 0) && atMost(math.Abs(k.Y-c.y), 0) }) {
		d.Rules = append(d.Rules, Kid{X: x, Y: c.y, F: &Fragment{H: c.h}})
	}
}
