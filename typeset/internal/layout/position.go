package layout

import (
	"math"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// contains tells whether a box is the containing block of absolutely
// positioned descendants.
func contains(b *box.Box) bool {
	s := b.Style
	return s.Position != style.Static || containsFixed(b)
}

// containsFixed tells whether fixed descendants too are placed by it
// (CSS Transforms 1, §3).
func containsFixed(b *box.Box) bool {
	s := b.Style
	return len(s.Transform) > 0 || len(s.Translate) > 0 || len(s.Rotate) > 0 || len(s.Scale) > 0 || s.Filter || s.Contain
}

// settle places the positioned boxes that f is the containing block of.
func (l *Layout) settle(f *Fragment, sp Space) {
	if len(f.out) == 0 {
		return
	}
	cb := rect{f.Border[style.Left], f.Border[style.Top], f.W - f.Border[style.Left] - f.Border[style.Right], f.H - f.Border[style.Top] - f.Border[style.Bottom]}
	fixed := containsFixed(f.Box)
	var later []waiting
	list := f.out
	f.out = nil
	for i := 0; i < len(list); i++ {
		w := list[i]
		if w.b.Style.Position == style.FixedKey && !fixed {
			later = append(later, w)
			continue
		}
		l.positioned(f, w, cb)
		// boxes inside it that wait for f too
		list = append(list, f.out...)
		f.out = nil
	}
	f.out = later
}

// SettleAll places what waits for the page itself. Fixed boxes are returned,
// for the page to repeat.
func (l *Layout) SettleAll(f *Fragment, w, h float64) {
	list := f.out
	f.out = nil
	for i := 0; i < len(list); i++ {
		l.positioned(f, list[i], rect{0, 0, w, h})
		list = append(list, f.out...)
		f.out = nil
	}
}

// SplitFixed takes the fixed boxes out of those that wait.
func (f *Fragment) SplitFixed() (fixed []*box.Box) {
	var rest []waiting
	for _, w := range f.out {
		if w.b.Style.Position == style.FixedKey && !(w.b.Style.Inset[0].IsAuto() && w.b.Style.Inset[2].IsAuto()) {
			fixed = append(fixed, w.b)
		} else {
			rest = append(rest, w)
		}
	}
	f.out = rest
	return fixed
}

// Wait adds a positioned box to those that f's page places.
func (f *Fragment) Wait(b *box.Box) { f.out = append(f.out, waiting{b: b, cbW: f.W}) }

type rect struct{ x, y, w, h float64 }

// positioned sets one absolutely positioned box (CSS 2.2, §10.3.7, §10.6.4).
func (l *Layout) positioned(f *Fragment, w waiting, cb rect) {
	b := w.b
	s := b.Style
	e := l.edges(b, cb.w)
	sp := newSpace(cb.w, cb.h)
	left, right := s.Inset[style.Left].Resolve(cb.w), s.Inset[style.Right].Resolve(cb.w)
	top, bottom := s.Inset[style.Top].Resolve(cb.h), s.Inset[style.Bottom].Resolve(cb.h)
	staticX := w.x - cb.x
	ml, mr := e.margin[style.Left], e.margin[style.Right]
	autoW := s.Width.IsAuto()
	noLeft, noRight := !known(left), !known(right)
	if noLeft && noRight {
		if w.rtl {
			right = cb.w - (staticX + w.cbW)
		} else {
			left = staticX
		}
	}
	// width
	switch {
	case b.Kind == box.Replaced:
		sp.FixedW = Auto
	case known(left) && known(right) && !noLeft && !noRight && autoW && s.AspectRatio.Ratio > 0 && known(l.ratioWidth(b, sp, &e)):
		sp.FixedW = l.clampWidth(b, l.ratioWidth(b, sp, &e), sp, &e)
	case !noLeft && !noRight && autoW && s.Display.Inner != style.Table && s.JustifySelf.Kind == style.Auto || !noLeft && !noRight && autoW && s.JustifySelf.Kind == style.Stretch:
		sp.FixedW = l.clampWidth(b, math.Max(cb.w-left-right-ml-mr, e.inlineEdges()), sp, &e)
	default:
		avail := cb.w - ml - mr
		if known(left) {
			avail -= left
		}
		if known(right) {
			avail -= right
		}
		fit := sp
		fit.W = cb.w
		fit.Shrink = true
		if autoW || s.Width.Kind == style.FitContent || s.Width.Kind == style.Stretch {
			lo, hi := l.sizes(b)
			ww := math.Min(math.Max(lo, avail), hi)
			if s.Width.Kind == style.Stretch {
				ww = avail
			}
			if r := l.ratioWidth(b, fit, &e); known(r) {
				ww = r
			}
			sp.FixedW = l.clampWidth(b, ww, fit, &e)
			if s.Display.Inner == style.Table {
				sp.FixedW = math.Max(sp.FixedW, lo)
			}
		} else {
			sp.FixedW = l.blockWidth(b, fit, &e)
		}
	}
	// height between top and bottom
	if known(top) && known(bottom) && s.Height.IsAuto() && b.Kind != box.Replaced && s.Display.Inner != style.Table && (s.AspectRatio.Ratio == 0 || s.Width.IsAuto()) && (s.AlignSelf.Kind == style.Auto || s.AlignSelf.Kind == style.Stretch) && s.AspectRatio.Ratio == 0 {
		h := cb.h - top - bottom - e.margin[style.Top] - e.margin[style.Bottom]
		sp.FixedH = l.clampHeight(b, math.Max(h, e.blockEdges()), sp, &e)
	}
	frag, _ := l.Lay(b, sp, nil)
	if frag == nil {
		return
	}
	x := place(left, right, ml, mr, e.auto[style.Left], e.auto[style.Right], frag.W, cb.w, w.rtl, s.JustifySelf, noLeft || noRight)
	var y float64
	if !known(top) && !known(bottom) {
		y = w.y - cb.y + e.margin[style.Top]
	} else {
		y = place(top, bottom, e.margin[style.Top], e.margin[style.Bottom], e.auto[style.Top], e.auto[style.Bottom], frag.H, cb.h, false, s.AlignSelf, !known(top) || !known(bottom))
	}
	f.add(frag, cb.x+x, cb.y+y, 0, 0)
}

// place solves one axis of a positioned box for the start of its border box.
func place(start, end, ms, me float64, autoS, autoE bool, size, cb float64, rtl bool, self style.Align, open bool) float64 {
	switch {
	case known(start) && known(end) && !open:
		free := cb - start - end - size - ms - me
		switch {
		case autoS && autoE:
			if free < 0 {
				if rtl {
					return start + free
				}
				return start
			}
			return start + free/2
		case autoS:
			return start + free + ms
		case autoE:
			return start + ms
		}
		switch self.Kind {
		case style.Center:
			return start + ms + free/2
		case style.End, style.FlexEnd, style.SelfEnd, style.RightSide:
			return start + ms + free
		}
		if rtl {
			return cb - end - me - size
		}
		return start + ms
	case known(start):
		return start + ms
	}
	return cb - end - me - size
}
