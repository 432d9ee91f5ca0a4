package layout

import (
	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// turned sets a box whose contents flow in another writing mode than what is
// around it (Writing Modes 4, §7.3). The contents are set in the frame of
// their own mode and then turned into the frame around.
func (l *Layout) turned(b *box.Box, sp Space) *Fragment {
	in, inner := sp, l.innerOf(b)
	in.BlockLeft, in.Page, in.Floats, in.Joins, in.clamp = inf, inf, nil, false, nil
	if orthogonal(b) {
		in.W, in.H = sp.H, sp.W
		in.FixedW, in.FixedH = sp.FixedH, sp.FixedW
		in.Indefinite, in.MinH = false, 0
		if !known(in.W) {
			in.W = l.Viewport[1]
			if b.Frame.Vertical() {
				in.W = l.Viewport[0]
			}
			if sp.Measured {
				inner = unsized(inner)
			}
		}
		in.Shrink = true
	}
	f, _ := l.Lay(inner, in, nil)
	lines := baselines{f.Baseline, f.LastBaseline}
	f = f.turn(b.Mode, b.Frame)
	f.Box = b
	f.settled = true
	f.turnBaselines(lines, b)
	return f
}

// turnBaselines gives a turned fragment the baselines that it had in the frame of its own
// contents.
func (f *Fragment) turnBaselines(lines baselines, b *box.Box) {
	size := f.H
	if orthogonal(b) {
		size = f.W
	}
	m := toPhysical(b.Mode)
	turn := func(at float64) float64 { // a line without height across a fragment as wide as tall
		r := rect{0, at, size, 0}
		if m.rect != nil {
			r = m.rect(r, size, size)
		}
		if back := fromPhysical(b.Frame); back.rect != nil {
			r = back.rect(r, size, size)
		}
		if orthogonal(b) {
			return r.x
		}
		return r.y
	}
	lines = baselines{turn(lines.first), turn(lines.last)}
	if !orthogonal(b) {
		f.Baseline, f.LastBaseline = lines.first, lines.last
		return
	}
	f.Baseline, f.LastBaseline = Indefinite, Indefinite
	if known(lines.first) {
		f.across = &lines
	}
}

// unsized is a box whose widths in percent count from nothing.
func unsized(b *box.Box) *box.Box {
	pct := func(s style.Size) bool { return s.Kind == style.Length && s.HasPct() }
	if s := b.Style; !pct(s.Width) && !pct(s.MinWidth) && !pct(s.MaxWidth) {
		return b
	}
	return inStyle(b, func(s *style.Style) {
		if pct(s.Width) {
			s.Width = autoSize
		}
		if pct(s.MinWidth) {
			s.MinWidth = autoSize
		}
		if pct(s.MaxWidth) {
			s.MaxWidth = noSize
		}
	})
}

// innerOf is the box in the frame of its own writing mode.
func (l *Layout) innerOf(b *box.Box) *box.Box {
	m := l.memo(b)
	if m.inner == nil {
		m.inner = b.InFrame(b.Mode)
	}
	return m.inner
}

func orthogonal(b *box.Box) bool { return b.Mode.Vertical() != b.Frame.Vertical() }

// turn gives a fragment, which was set in the frame of one writing mode, in
// that of another.
func (f *Fragment) turn(from, to style.Keyword) *Fragment {
	if from == style.VerticalLr {
		f = f.faceLines()
	}
	f = f.mapped(toPhysical(from))
	f = f.mapped(fromPhysical(to))
	return f
}

// faceLines mirrors the contents of lines: text in vertical-lr faces the
// block's end, while lines follow each other from left to right.
func (f *Fragment) faceLines() *Fragment {
	out := *f
	out.Kids = append([]Kid(nil), f.Kids...)
	for i, k := range out.Kids {
		if k.F.Line {
			out.Kids[i].F = k.F.mirrored()
		} else if k.F.Text == nil && !k.F.settled {
			out.Kids[i].F = k.F.faceLines()
		}
	}
	return &out
}

// mirrored swaps the upper and lower side of a line and its inline boxes.
func (f *Fragment) mirrored() *Fragment {
	out := *f
	out.Border[style.Top], out.Border[style.Bottom] = f.Border[style.Bottom], f.Border[style.Top]
	out.Padding[style.Top], out.Padding[style.Bottom] = f.Padding[style.Bottom], f.Padding[style.Top]
	out.Kids = append([]Kid(nil), f.Kids...)
	for i, k := range out.Kids {
		out.Kids[i].Y = f.H - k.Y - k.F.H
		if k.F.Box != nil && k.F.Text == nil { // a relative box moves as before
			_, dy := relative(k.F.Box, f.W, f.H, false)
			out.Kids[i].Y += 2 * dy
		}
		switch {
		case k.F.Text != nil:
		case k.F.Box != nil && k.F.Box.Kind == box.Element && !k.F.Box.IsAtomic() && !k.F.Box.IsBlockLevel():
			out.Kids[i].F = k.F.mirrored()
		case !k.F.settled:
			out.Kids[i].F = k.F.faceLines()
		}
	}
	return &out
}

// mapping turns geometry by quarters and mirrors.
type mapping struct {
	rect  func(r rect, w, h float64) rect // in a container of w by h
	sides [4]int                          // for each side, the one it comes from
	swap  bool
	turn  int                           // quarter turns of text, clockwise
	side  func(x, y side) (sx, sy side) // static positions
}

func toPhysical(mode style.Keyword) mapping {
	sides := inverse(style.FlowSides(mode))
	switch mode {
	case style.VerticalRl, style.SidewaysRl:
		return mapping{func(r rect, w, h float64) rect { return rect{h - r.y - r.h, r.x, r.h, r.w} }, sides, true, 1, func(x, y side) (side, side) { return high - y, x }}
	case style.VerticalLr:
		return mapping{func(r rect, w, h float64) rect { return rect{r.y, r.x, r.h, r.w} }, sides, true, 1, func(x, y side) (side, side) { return y, x }}
	case style.SidewaysLr:
		return mapping{func(r rect, w, h float64) rect { return rect{r.y, w - r.x - r.w, r.h, r.w} }, sides, true, 3, func(x, y side) (side, side) { return y, high - x }}
	}
	return mapping{sides: sides}
}

func fromPhysical(mode style.Keyword) mapping {
	sides := style.FlowSides(mode)
	switch mode {
	case style.VerticalRl, style.SidewaysRl:
		return mapping{func(r rect, w, h float64) rect { return rect{r.y, w - r.x - r.w, r.h, r.w} }, sides, true, 3, func(x, y side) (side, side) { return y, high - x }}
	case style.VerticalLr:
		return mapping{func(r rect, w, h float64) rect { return rect{r.y, r.x, r.h, r.w} }, sides, true, 3, func(x, y side) (side, side) { return y, x }}
	case style.SidewaysLr:
		return mapping{func(r rect, w, h float64) rect { return rect{h - r.y - r.h, r.x, r.h, r.w} }, sides, true, 1, func(x, y side) (side, side) { return high - y, x }}
	}
	return mapping{sides: sides}
}

// inverse of a table of sides.
func inverse(sides [4]int) (out [4]int) {
	for i, v := range sides {
		out[v] = i
	}
	return out
}

// mapped turns a fragment and all in it.
func (f *Fragment) mapped(m mapping) *Fragment {
	if m.rect == nil {
		return f
	}
	out := *f
	if m.swap {
		out.W, out.H = f.H, f.W
	}
	for i, from := range m.sides {
		out.Border[i], out.Padding[i] = f.Border[from], f.Padding[from]
		if from == int(f.Start) {
			out.Start = int8(i)
		}
	}
	place := func(r rect) rect { return m.rect(r, f.W, f.H) }
	kids := func(list []Kid) []Kid {
		turned := make([]Kid, len(list))
		for i, k := range list {
			r := place(rect{k.X, k.Y, k.F.W, k.F.H})
			turned[i] = Kid{r.x, r.y, k.F.mapped(m)}
		}
		return turned
	}
	out.Kids = kids(f.Kids)
	if d := f.Drawn; d != nil {
		out.Drawn = &Drawn{Rules: kids(d.Rules)}
		for _, b := range d.Backs {
			r := place(rect{b.X, b.Y, b.W, b.H})
			in := place(rect{b.Shown[0], b.Shown[1], b.Shown[2], b.Shown[3]})
			out.Drawn.Backs = append(out.Drawn.Backs, Back{r.x, r.y, r.w, r.h, [4]float64{in.x, in.y, in.w, in.h}, b.Style})
		}
		for _, e := range d.Edges {
			out.Drawn.Edges = append(out.Drawn.Edges, e.mapped(place))
		}
	}
	out.out = make([]outOfFlow, len(f.out))
	for i, w := range f.out {
		w.rect = place(w.rect)
		w.sx, w.sy = m.side(w.sx, w.sy)
		out.out[i] = w
	}
	if f.Text != nil {
		t := *f.Text
		t.Turn = (t.Turn + m.turn) % 4
		out.Text = &t
	}
	return &out
}

func (e BorderEdge) mapped(place func(rect) rect) BorderEdge {
	r := rect{e.X, e.Y, e.Len, 0}
	if e.Vertical {
		r = rect{e.X, e.Y, 0, e.Len}
	}
	r = place(r)
	e.X, e.Y, e.Vertical = r.x, r.y, !e.Vertical
	return e
}
