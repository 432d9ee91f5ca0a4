package layout

import (
	"github.com/shopspring/decimal"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// sumsOf gives what the rows of the table's bodies add to a running sum, before
// each row and, at the end, in all.
func (g *tableGrid) sumsOf(name string) []decimal.Decimal {
	if list := g.sums[name]; list != nil {
		return list
	}
	list := make([]decimal.Decimal, len(g.rows)+1)
	for r := range g.rows {
		list[r+1] = list[r]
		if !g.repeats(r) {
			list[r+1] = list[r].Add(adds(g.rows[r].box, name))
		}
	}
	if g.sums == nil {
		g.sums = map[string][]decimal.Decimal{}
	}
	g.sums[name] = list
	return list
}

// adds is what a box and all in it add to a sum.
func adds(b *box.Box, name string) (v decimal.Decimal) {
	if b.Rare().Notes != nil {
		for _, a := range b.Rare().Notes.Adds {
			if a.Name == name {
				v = v.Add(a.Value)
			}
		}
	}
	for _, c := range b.Children {
		v = v.Add(adds(c, name))
	}
	return v
}

// showSums writes the running sums into a head or foot: as they stand before
// row first and before row end.
func (t *tableRun) showSums(gi, first, end int) {
	if gi < 0 {
		return
	}
	grp := &t.g.groups[gi]
	if !t.writeSums(grp.box, first, end) {
		return
	}
	for r := grp.first; r < grp.end; r++ {
		for i := range t.g.rows[r].cells {
			t.g.rows[r].cells[i].laid = nil
		}
	}
}

func (t *tableRun) writeSums(b *box.Box, first, end int) (found bool) {
	if s := b.Rare().Sum; s != nil {
		list := t.g.sumsOf(s.Name)
		t := box.Total{Brought: s.Before.Add(list[first]), Carried: s.Before.Add(list[end])}
		b.Text = style.Number(t.Part(s.Which), s.Pattern)
		found = true
	}
	for _, c := range b.Children {
		found = t.writeSums(c, first, end) || found
	}
	if found {
		b.Memo = nil // it was set with other text
	}
	return found
}

// shown tells whether a row stands in this part of its table: rows of heads
// and feet may be for the first or last part only, or for all others.
func (t *tableRun) shown(r int) bool {
	switch t.g.rows[r].box.Style.ShowIn {
	case style.First:
		return t.first
	case style.NotFirst:
		return !t.first
	case style.Last:
		return t.last
	case style.NotLast:
		return !t.last
	}
	return true
}
