package layout

import (
	"math"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// fitted sets a box that is scaled down to the width it has when its contents
// need more (our property -olive-fit; docs/css.md). The box is set at the width
// it needs and painted smaller, on all the pages that it crosses.
func (l *Layout) fitted(b *box.Box, sp Space, from *Break) (*Fragment, *Break) {
	in := l.plainly(b)
	e := l.edges(b, sp.W)
	avail := sp.W - e.margin[style.Left] - e.margin[style.Right]
	if known(sp.FixedW) && b.Style.Width.IsAuto() { // beside a float
		avail = sp.FixedW
	}
	need, _ := l.sizes(in)
	if how := l.fits[b]; how != nil {
		need *= how.wider
	}
	if !known(avail) || atMost(need, avail) || avail <= 0 {
		return l.Lay(in, sp, from)
	}
	k := math.Max(avail/need, l.leastScale(b))
	if how := l.fits[b]; how != nil {
		how.scale = k
	}
	inner := sp
	inner.W, inner.H, inner.FixedW, inner.FixedH, inner.MinH = sp.W/k, Indefinite, math.Max(avail/k, need), Indefinite, 0
	inner.BlockLeft, inner.Page, inner.Floats, inner.Joins = sp.BlockLeft/k, sp.Page/k, nil, false
	scaled := *in
	s := *in.Style
	s.TransformOrigin = [3]style.LP{}
	s.Scale = []style.TransformOp{{M: [4]float64{k, 0, 0, k}}}
	s.Width = style.Size{Kind: style.Auto}
	scaled.Style = &s
	f, rest := l.Lay(&scaled, inner, from)
	if f == nil {
		return nil, nil
	}
	out := &Fragment{W: f.W * k, H: f.H * k, Baseline: Indefinite, LastBaseline: Indefinite, Continued: f.Continued, Cut: f.Cut}
	if known(f.Baseline) {
		out.Baseline, out.LastBaseline = f.Baseline*k, f.LastBaseline*k
	}
	out.add(f, 0, 0, 0, 0)
	out.Box = &box.Box{Style: style.Anonymous(b.Style, style.Display{Outer: style.Block, Inner: style.FlowRoot}), Node: b.Node, Anon: true}
	return out, rest
}

// leastScale is how far a box may be scaled down to fit, or 0 when it may not.
func (l *Layout) leastScale(b *box.Box) float64 {
	if b.Style.Fit > 0 {
		return b.Style.Fit
	}
	if l.fits[b] != nil {
		return style.LeastFit
	}
	return 0
}

// fit is how a box is scaled down where its style leaves that open.
type fit struct {
	wider float64 // times its least width is what it needs
	scale float64 // when it was set last
}

// Fit has a box whose style leaves it open scaled down to its width from now on, as if it
// needed its least width that many times: some of what it holds may reach out of that.
func (l *Layout) Fit(b *box.Box, wider float64) {
	if l.fits == nil {
		l.fits = map[*box.Box]*fit{}
	}
	l.fits[b] = &fit{wider, 1}
	l.refits++
}

// Fitted is by how much such a box was scaled down when it was set last.
func (l *Layout) Fitted(b *box.Box) float64 { return l.fits[b].scale }

// Unfit takes Fit back.
func (l *Layout) Unfit(b *box.Box) {
	delete(l.fits, b)
	l.refits++
}

// plainly is a fitted box as it would be without -olive-fit.
func (l *Layout) plainly(b *box.Box) *box.Box {
	m := l.memo(b)
	if m.fitted == nil {
		m.fitted = inStyle(b, func(s *style.Style) { s.Fit = style.NoFit })
	}
	return m.fitted
}

// Fits tells whether f is what stands around a box that is scaled down to fit, c.
func (f *Fragment) Fits(c *Fragment) bool {
	return f.Box != nil && c.Box != nil && f.Box.Anon && f.Box.Node != nil && f.Box.Node == c.Box.Node && len(f.Kids) == 1 && f.Kids[0].F == c && c.W > f.W
}
