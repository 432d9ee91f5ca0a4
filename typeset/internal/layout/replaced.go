package layout

import (
	"math"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// replaced sets a picture.
func (l *Layout) replaced(b *box.Box, sp Space) (*Fragment, *Break) {
	e := l.edges(b, sp.W)
	w, h := l.replacedSize(b, sp, &e)
	return &Fragment{Box: b, W: w, H: h, Border: e.border, Padding: e.padding, Baseline: Indefinite, LastBaseline: Indefinite, Picture: true, Continued: false}, nil
}

// replacedSize is the used border-box size of a picture (CSS 2.2, §10.3.2,
// §10.4, §10.6.2; CSS Sizing 4, §4 for the ratio).
func (l *Layout) replacedSize(b *box.Box, sp Space, e *edges) (float64, float64) {
	s := b.Style
	ex, ey := e.inlineEdges(), e.blockEdges()
	var natW, natH, ratio float64
	if p := b.Picture; p != nil {
		natW, natH, ratio = p.W, p.H, p.Ratio
		if b.Frame.Vertical() {
			natW, natH = natH, natW
			if ratio > 0 {
				ratio = 1 / ratio
			}
		}
	}
	inline, block := s.SizeContained()
	if inline || block {
		ratio = 0
		if inline {
			natW = s.IntrinsicSize[0]
		}
		if block {
			natH = s.IntrinsicSize[1]
		}
	}
	if s.AspectRatio.Ratio > 0 && (ratio == 0 || !s.AspectRatio.Auto) {
		ratio = s.AspectRatio.Ratio
	}
	content := func(size style.Size, base, extra float64) float64 {
		if v := size.Resolve(base); known(v) {
			return borderBox(s, v, extra) - extra
		}
		return Indefinite
	}
	w, h := content(s.Width, sp.W, ex), content(s.Height, sp.H, ey)
	if s.Width.Kind == style.Stretch {
		w = math.Max(sp.W-e.margin[style.Left]-e.margin[style.Right]-ex, 0)
	}
	if known(sp.FixedW) {
		w = math.Max(sp.FixedW-ex, 0)
	}
	if known(sp.FixedH) {
		h = math.Max(sp.FixedH-ey, 0)
	}
	minW, maxW := content(s.MinWidth, sp.W, ex), content(s.MaxWidth, sp.W, ex)
	minH, maxH := content(s.MinHeight, sp.H, ey), content(s.MaxHeight, sp.H, ey)
	if !known(minW) {
		minW = 0
	}
	if !known(minH) {
		minH = 0
	}
	if !known(maxW) {
		maxW = inf
	}
	if !known(maxH) {
		maxH = inf
	}
	maxW, maxH = math.Max(maxW, minW), math.Max(maxH, minH)
	cw := func(v float64) float64 { return math.Min(math.Max(v, minW), maxW) }
	chh := func(v float64) float64 { return math.Min(math.Max(v, minH), maxH) }
	switch {
	case known(w) && known(h):
		if !known(sp.FixedW) {
			w = cw(w)
		}
		if !known(sp.FixedH) {
			h = chh(h)
		}
	case known(w):
		if !known(sp.FixedW) {
			w = cw(w)
		}
		switch {
		case ratio > 0:
			h = w / ratio
		case natH > 0:
			h = natH
		default:
			h = 150
			if b.Picture == nil || natW == 0 && natH == 0 && b.Picture.Draw == nil {
				h = 0
			}
		}
		h = chh(h)
	case known(h):
		if !known(sp.FixedH) {
			h = chh(h)
		}
		switch {
		case ratio > 0:
			w = h * ratio
		case natW > 0:
			w = natW
		default:
			w = 300
			if b.Picture == nil || natW == 0 && natH == 0 && b.Picture.Draw == nil {
				w = 0
			}
		}
		w = cw(w)
	default:
		w, h = natW, natH
		empty := inline && block && natW == 0 && natH == 0 || b.Picture == nil || b.Picture.Draw == nil && b.Picture.Image == nil && natW == 0 && natH == 0
		switch {
		case w > 0 && h > 0:
		case inline && block:
		case w > 0 && ratio > 0:
			h = w / ratio
		case h > 0 && ratio > 0:
			w = h * ratio
		case ratio > 0:
			w = 300
			if known(sp.W) && b.IsBlockLevel() {
				w = math.Max(sp.W-ex-e.margin[style.Left]-e.margin[style.Right], 0)
			} else if known(sp.W) {
				w = math.Min(w, math.Max(sp.W, 0))
			}
			h = w / ratio
		case empty:
			w, h = 0, 0
		default:
			if w == 0 {
				w = 300
			}
			if h == 0 {
				h = 150
			}
		}
		w, h = constrain(w, h, ratio, minW, maxW, minH, maxH)
	}
	return w + ex, h + ey
}

// constrain applies the table of CSS 2.2, §10.4.
func constrain(w, h, ratio, minW, maxW, minH, maxH float64) (float64, float64) {
	if ratio <= 0 || w <= 0 || h <= 0 {
		return math.Min(math.Max(w, minW), maxW), math.Min(math.Max(h, minH), maxH)
	}
	switch {
	case w > maxW && h > maxH:
		if maxW/w <= maxH/h {
			return maxW, math.Max(minH, maxW/ratio)
		}
		return math.Max(minW, maxH*ratio), maxH
	case w < minW && h < minH:
		if minW/w <= minH/h {
			return math.Min(maxW, minH*ratio), minH
		}
		return minW, math.Min(maxH, minW/ratio)
	case w < minW && h > maxH:
		return minW, maxH
	case w > maxW && h < minH:
		return maxW, minH
	case w > maxW:
		return maxW, math.Max(maxW/ratio, minH)
	case w < minW:
		return minW, math.Min(minW/ratio, maxH)
	case h > maxH:
		return math.Max(maxH*ratio, minW), maxH
	case h < minH:
		return math.Min(minH*ratio, maxW), minH
	}
	return w, h
}
