package layout

import (
	"maps"
	"math"
	"sort"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// flowKid is a child of a flex container or grid, with its size and place as
// they are when nothing is cut.
type flowKid struct {
	b    *box.Box
	f    *Fragment
	x, y float64
	cb   [2]float64 // the size of its containing block: of the container, or of its area in a grid
	it   *flexItem
	n    int     // its place among the children
	flow int     // children of different flows are cut without regard to each other
	row  float64 // where its row begins
	low  float64 // how far down f reaches, once it has been looked at
}

// reach is how far down the child, or what overflows it, goes from its top.
func (k *flowKid) reach() float64 {
	if k.low == 0 {
		k.low = k.f.reach()
	}
	return k.low
}

// flowRow is children side by side.
type flowRow struct {
	y    float64
	kids []*flowKid
}

// end is where a child is planned to end.
func (k *flowKid) end() float64 { return k.y + k.f.H }

// end is where a row is planned to end, below which the next one begins at below: with those of its children that do not
// reach over later rows, if there are any.
func (row flowRow) end(below float64) (end float64) {
	far := 0.0
	for _, k := range row.kids {
		if far = math.Max(far, k.end()); !exceeds(k.end(), below) {
			end = math.Max(end, k.end())
		}
	}
	if end == 0 {
		return far
	}
	return end
}

// flowsOf sorts children into their flows and rows.
func flowsOf(kids []flowKid) [][]flowRow {
	order := make([]*flowKid, len(kids))
	n := 0
	for i := range kids {
		kids[i].n = i
		order[i] = &kids[i]
		n = max(n, kids[i].flow+1)
	}
	sort.SliceStable(order, func(i, j int) bool { return order[i].row < order[j].row })
	flows := make([][]flowRow, max(n, 1))
	for _, k := range order {
		rows := flows[k.flow]
		if m := len(rows); m > 0 && atMost(k.row, rows[m-1].y) {
			rows[m-1].kids = append(rows[m-1].kids, k)
		} else {
			rows = append(rows, flowRow{k.row, []*flowKid{k}})
		}
		flows[k.flow] = rows
	}
	return flows
}

// wholeLayout is a flex container or grid as it is when nothing is cut, kept for the
// pages that it goes on over. Its parts do not change it.
type wholeLayout struct {
	sp          Space
	kids        []flowKid
	gone        map[*box.Box]*Part // children that earlier pages of another width have set: they are not among kids
	flows       [][]flowRow
	w           float64 // of the content box
	tall        float64 // its border box
	low         float64 // how far down its children and their margins go, once it has been looked at
	atBaselines func(*Fragment)
}

// lowest is how far down the children and their margins go.
func (w *wholeLayout) lowest(l *Layout) float64 {
	if w.low > 0 {
		return w.low
	}
	for i := range w.kids {
		k := &w.kids[i]
		e := l.edges(k.b, k.cb[0])
		w.low = math.Max(w.low, k.y+k.f.H+e.margin[style.Bottom])
	}
	return w.low
}

// wholeIn gives what an earlier page worked out in the same space, or nil.
func (b *Break) wholeIn(sp Space) *wholeLayout {
	if b != nil && b.whole != nil && sp.sub == nil && sp.Shrink == b.whole.sp.Shrink && sameSpace(sp, b.whole.sp) {
		return b.whole
	}
	return nil
}

// widthIn is the width that an earlier page gave a flex container or grid in a containing block of the same width w, or
// the room that it gave a table beside floats; Indefinite when it gave none. Items are planned, and columns stand, in
// that width.
func (b *Break) widthIn(w float64) float64 {
	switch {
	case b == nil:
	case b.table != nil && b.table.of == w:
		return b.table.room
	case b.whole != nil && b.whole.sp.W == w:
		return b.whole.sp.FixedW
	}
	return Indefinite
}

// inRoom is a break in a box that was set in a room of this width, of a containing block of width w.
func (b *Break) inRoom(room, w float64) *Break {
	if b == nil || b.table == nil || room == w {
		return b
	}
	at, t := *b, *b.table
	t.room, t.of, at.table = room, w, &t
	return &at
}

// finishedItems gives the parts of a container that has been laid out anew since, with
// all its finished items among them.
func (b *Break) finishedItems() map[*box.Box]*Part {
	parts := maps.Clone(b.placed)
	maps.Copy(parts, b.whole.gone)
	for i, n := range b.done {
		for _, row := range b.whole.flows[i][:n] {
			for _, k := range row.kids {
				parts[k.b] = &Part{Done: true}
			}
		}
	}
	return parts
}

// startAnew goes on with a wrapping row container on a page of width w for its contents,
// which is another than before: its finished items are gone, and the lines of the others
// begin at the page's top. On a narrower page items that go on side by side keep their
// places.
func (b *Break) startAnew(c *box.Box, w, top float64) (gone map[*box.Box]*Part, from *Break) {
	if b == nil || b.whole == nil || !rowFlex(c.Style) {
		return nil, b
	}
	begun, used := map[*box.Box]*Part{}, 0.0
	for item, p := range b.placed {
		if !p.Done {
			begun[item], used = p, math.Max(used, p.At.Used)
		}
	}
	if len(begun) > 0 && w < b.whole.w {
		return nil, b
	}
	gone = b.finishedItems()
	maps.DeleteFunc(gone, func(item *box.Box, _ *Part) bool { return begun[item] != nil })
	again := *b
	again.placed, again.done, again.whole, again.starts = begun, nil, nil, []float64{top + used}
	return gone, &again
}

// cutWhole puts the children of b into f, from a break on, as far as they fit.
func (l *Layout) cutWhole(f *Fragment, b *box.Box, k *wholeLayout, from *Break, sp Space, e edges) *Break {
	f.H = k.tall
	rest := l.cutPlaced(f, b, k, from, sp, e)
	if rest == nil || from == nil {
		k.atBaselines(f)
	}
	if rest != nil {
		rest.whole = k
	}
	return rest
}
