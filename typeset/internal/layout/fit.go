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
	need, _ := l.sizes(in)
	if !known(avail) || need <= avail+0.01 || avail <= 0 {
		return l.Lay(in, sp, from)
	}
	k := math.Max(avail/need, b.Style.Fit)
	inner := sp
	inner.W, inner.H, inner.FixedW, inner.FixedH, inner.MinH = sp.W/k, Auto, math.Max(avail/k, need), Auto, 0
	inner.Left, inner.Page, inner.Floats, inner.Joins = sp.Left/k, sp.Page/k, nil, false
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
	out := &Fragment{W: f.W * k, H: f.H * k, Baseline: Auto, LastBaseline: Auto, Continued: f.Continued, Cut: f.Cut}
	if known(f.Baseline) {
		out.Baseline, out.LastBaseline = f.Baseline*k, f.LastBaseline*k
	}
	out.add(f, 0, 0, 0, 0)
	out.Box = &box.Box{Style: style.Anonymous(b.Style, style.Display{Outer: style.Block, Inner: style.FlowRoot}), Node: b.Node, Anon: true}
	return out, rest
}

// plainly is a fitted box as it would be without -olive-fit.
func (l *Layout) plainly(b *box.Box) *box.Box {
	m := l.memo(b)
	if m.fitted == nil {
		m.fitted = inStyle(b, func(s *style.Style) { s.Fit = 0 })
	}
	return m.fitted
}
