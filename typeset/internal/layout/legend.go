package layout

import (
	"math"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// legendOf is the rendered legend of a field set: its first child that is a
// legend in flow (HTML, §15.3.13).
func legendOf(b *box.Box) *box.Box {
	if b.Node == nil || b.Node.Name != "fieldset" || b.Rare().Pseudo != "" || b.Inline {
		return nil
	}
	for _, c := range b.Children {
		if c.Node != nil && c.Node.Name == "legend" && c.Rare().Pseudo == "" && !c.OutOfFlow() {
			return c
		}
	}
	return nil
}

// legend sets the legend c of a field set b, as wide as its contents, and widens
// the room of the upper border to its height: it stands in the middle of the
// border.
func (l *Layout) legend(b, c *box.Box, sp Space, e *edges, w float64) (f *Fragment, x, y float64) {
	in := newSpace(math.Max(w-e.inlineEdges(), 0), Indefinite)
	in.Shrink = true
	f, _ = l.Lay(c, in, nil)
	if f == nil {
		return nil, 0, 0
	}
	ce := l.edges(c, in.W)
	line := e.border[style.Top]
	e.border[style.Top] = math.Max(line, f.H+ce.margin[style.Bottom])
	ml, mr := ce.margin[style.Left], ce.margin[style.Right]
	return f, e.left() + ml + autoMargin(b, c, &ce, in.W-f.W-ml-mr), math.Max((line-f.H)/2, 0)
}

// Legend is the place, in the fragment of a field set, of its legend.
func (f *Fragment) Legend() (Kid, bool) {
	if f.Box == nil || f.Box.Node == nil || f.Box.Node.Name != "fieldset" || f.Text != nil || len(f.Kids) == 0 || f.Continued {
		return Kid{}, false
	}
	k := f.Kids[0]
	b := k.F.Box
	return k, b != nil && b.Node != nil && b.Node.Name == "legend" && b == legendOf(f.Box)
}
