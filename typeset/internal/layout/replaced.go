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
	p := pictureSize{b: b, sp: sp, e: e, edgeW: e.inlineEdges(), edgeH: e.blockEdges()}
	p.natural()
	p.limit()
	w, h := p.given()
	switch {
	case known(w) && known(h):
	case known(w):
		h = p.heightFor(w)
	case known(h):
		w = p.widthFor(h)
	default:
		w, h = p.auto()
	}
	return w + p.edgeW, h + p.edgeH
}

// What a picture measures that has no size of its own (CSS 2.2, §10.3.2, §10.6.2).
const (
	noWidth  = 300.0
	noHeight = 150.0
)

// pictureSize works out the size of a picture's content box.
type pictureSize struct {
	b            *box.Box
	sp           Space
	e            *edges
	edgeW, edgeH float64

	natW, natH, ratio float64 // 0 for none
	contained         bool    // it is sized as if it were empty
	minW, maxW        float64
	minH, maxH        float64
}

// natural finds the size and the ratio that the picture has by itself.
func (p *pictureSize) natural() {
	s := p.b.Style
	if pic := p.b.Picture; pic != nil {
		p.natW, p.natH, p.ratio = pic.W, pic.H, pic.Ratio
		if p.b.Frame.Vertical() {
			p.natW, p.natH = p.natH, p.natW
			if p.ratio > 0 {
				p.ratio = 1 / p.ratio
			}
		}
	}
	inline, block := s.SizeContained()
	p.contained = inline && block
	if inline {
		p.natW, p.ratio = s.IntrinsicSize[0], 0
	}
	if block {
		p.natH, p.ratio = s.IntrinsicSize[1], 0
	}
	if s.AspectRatio.Ratio > 0 && (p.ratio == 0 || !s.AspectRatio.Auto) {
		p.ratio = s.AspectRatio.Ratio
	}
}

// content is a size of the content box, or Auto.
func (p *pictureSize) content(size style.Size, base, edges float64) float64 {
	if v := size.Resolve(base); known(v) {
		return borderBox(p.b.Style, v, edges) - edges
	}
	return Indefinite
}

// limit finds the least and the greatest size.
func (p *pictureSize) limit() {
	s := p.b.Style
	between := func(least, most style.Size, base, edges float64) (float64, float64) {
		lo, hi := p.content(least, base, edges), p.content(most, base, edges)
		if !known(lo) {
			lo = 0
		}
		if !known(hi) {
			hi = inf
		}
		return lo, math.Max(lo, hi)
	}
	p.minW, p.maxW = between(s.MinWidth, s.MaxWidth, p.sp.W, p.edgeW)
	p.minH, p.maxH = between(s.MinHeight, s.MaxHeight, p.sp.H, p.edgeH)
}

func (p *pictureSize) clampW(w float64) float64 { return math.Min(math.Max(w, p.minW), p.maxW) }
func (p *pictureSize) clampH(h float64) float64 { return math.Min(math.Max(h, p.minH), p.maxH) }

// given is the size that the style, or the box around, asks for; Auto where neither does.
func (p *pictureSize) given() (w, h float64) {
	s := p.b.Style
	switch {
	case known(p.sp.FixedW):
		w = math.Max(p.sp.FixedW-p.edgeW, 0)
	case s.Width.Kind == style.Stretch:
		w = p.clampW(p.across())
	default:
		w = p.clampW(p.content(s.Width, p.sp.W, p.edgeW))
	}
	if known(p.sp.FixedH) {
		return w, math.Max(p.sp.FixedH-p.edgeH, 0)
	}
	return w, p.clampH(p.content(s.Height, p.sp.H, p.edgeH))
}

// across is the width that the containing block leaves.
func (p *pictureSize) across() float64 {
	return math.Max(p.sp.W-p.edgeW-p.e.margin[style.Left]-p.e.margin[style.Right], 0)
}

// isNothing tells whether there is no picture, or one that shows nothing.
func (p *pictureSize) isNothing() bool {
	return p.b.Picture == nil || p.natW == 0 && p.natH == 0 && p.b.Picture.Draw == nil
}

// heightFor is the height of a picture of a width.
func (p *pictureSize) heightFor(w float64) float64 {
	switch {
	case p.ratio > 0:
		return p.clampH(w / p.ratio)
	case p.natH > 0:
		return p.clampH(p.natH)
	case p.isNothing():
		return p.clampH(0)
	}
	return p.clampH(noHeight)
}

// widthFor is the width of a picture of a height.
func (p *pictureSize) widthFor(h float64) float64 {
	switch {
	case p.ratio > 0:
		return p.clampW(h * p.ratio)
	case p.natW > 0:
		return p.clampW(p.natW)
	case p.isNothing():
		return p.clampW(0)
	}
	return p.clampW(noWidth)
}

// auto is the size of a picture that nothing asks a size of.
func (p *pictureSize) auto() (w, h float64) {
	w, h = p.natW, p.natH
	switch {
	case w > 0 && h > 0, p.contained:
	case w > 0 && p.ratio > 0:
		h = w / p.ratio
	case h > 0 && p.ratio > 0:
		w = h * p.ratio
	case p.ratio > 0:
		w = p.widthByRatio()
		h = w / p.ratio
	case p.isNothing() && (p.b.Picture == nil || p.b.Picture.Image == nil):
	default:
		if w == 0 {
			w = noWidth
		}
		if h == 0 {
			h = noHeight
		}
	}
	return constrain(w, h, p.ratio, p.minW, p.maxW, p.minH, p.maxH)
}

// widthByRatio is the width of a picture that has a ratio and no more.
func (p *pictureSize) widthByRatio() float64 {
	switch {
	case !known(p.sp.W):
		return noWidth
	case p.b.IsBlockLevel():
		return p.across()
	}
	return math.Min(noWidth, math.Max(p.sp.W, 0))
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
