package paint

import (
	"math"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
)

// borderImage paints border-image (CSS Backgrounds 3, §6); false when there is
// none to paint.
func (p *Painter) borderImage(s *style.Style, r display.Rect, w [4]float64) bool {
	b := s.BorderImage
	im, pic := p.loaded(b.Image, s)
	if im == nil {
		return false
	}
	area := r
	var out [4]float64
	for i := range 4 {
		out[i] = b.Outset[i].Px + b.Outset[i].Pct/100*w[i]
	}
	area = r.Inset(-out[0], -out[1], -out[2], -out[3])
	imgW, imgH := area.W, area.H
	if pic != nil && pic.W > 0 && pic.H > 0 {
		imgW, imgH = pic.W, pic.H
	}
	var slice, width [4]float64
	for i := range 4 {
		base, edge := imgH, area.H
		if i%2 == 1 {
			base, edge = imgW, area.W
		}
		slice[i] = math.Min(b.Slice[i].Of(base), base)
		switch {
		case b.Width[i].Kind == style.Auto:
			width[i] = slice[i]
		case b.Width[i].Limited:
			width[i] = b.Width[i].Px * w[i]
		default:
			width[i] = b.Width[i].Of(edge)
		}
	}
	f := math.Min(1, math.Min(area.W/math.Max(width[1]+width[3], 1e-9), area.H/math.Max(width[0]+width[2], 1e-9)))
	for i := range width {
		width[i] *= f
	}
	xs := [4]float64{0, slice[3], imgW - slice[1], imgW}
	ys := [4]float64{0, slice[0], imgH - slice[2], imgH}
	dx := [4]float64{area.X, area.X + width[3], area.X + area.W - width[1], area.X + area.W}
	dy := [4]float64{area.Y, area.Y + width[0], area.Y + area.H - width[2], area.Y + area.H}
	for row := range 3 {
		for col := range 3 {
			if row == 1 && col == 1 && !b.Fill {
				continue
			}
			src := display.Rect{X: xs[col], Y: ys[row], W: xs[col+1] - xs[col], H: ys[row+1] - ys[row]}
			dst := display.Rect{X: dx[col], Y: dy[row], W: dx[col+1] - dx[col], H: dy[row+1] - dy[row]}
			if src.W <= 0 || src.H <= 0 || dst.W <= 0 || dst.H <= 0 {
				continue
			}
			tw, th := dst.W, dst.H
			rx, ry := style.Stretch, style.Stretch
			if col == 1 {
				rx = b.Repeat[0]
				scale := dst.H / src.H
				if row == 1 {
					scale = middleScale(width[0], slice[0], width[2], slice[2])
				}
				if rx != style.Stretch {
					tw = src.W * scale
				}
			}
			if row == 1 {
				ry = b.Repeat[1]
				scale := dst.W / src.W
				if col == 1 {
					scale = middleScale(width[3], slice[3], width[1], slice[1])
				}
				if ry != style.Stretch {
					th = src.H * scale
				}
			}
			p.slice(im, pic, imgW, imgH, src, dst, tw, th, rx, ry)
		}
	}
	return true
}

// middleScale is how the middle is scaled: as the edge before it, or after it,
// or not at all (§6.2).
func middleScale(w1, slice1, w2, slice2 float64) float64 {
	switch {
	case w1 > 0 && slice1 > 0:
		return w1 / slice1
	case w2 > 0 && slice2 > 0:
		return w2 / slice2
	}
	return 1
}

// slice fills dst with the part src of an image, in tiles of tw by th.
func (p *Painter) slice(im *style.Image, pic *picture.Picture, imgW, imgH float64, src, dst display.Rect, tw, th float64, rx, ry style.Keyword) {
	if tw <= 0 || th <= 0 {
		return
	}
	plan := func(k style.Keyword, start, size, tile float64) (x0 float64, n int, step, t float64) {
		switch k {
		case style.Round:
			c := math.Max(math.Round(size/tile), 1)
			return start, int(c), size / c, size / c
		case style.Space:
			c := math.Floor(size/tile + 1e-6)
			if c < 1 {
				return start, 0, tile, tile
			}
			gap := (size - c*tile) / (c + 1)
			return start + gap, int(c), tile + gap, tile
		case style.Repeat:
			c := math.Ceil((size-tile)/2/tile-1e-6)*2 + 1
			return start + size/2 - tile/2 - (c-1)/2*tile, int(c), tile, tile
		}
		return start, 1, size, size
	}
	x0, nx, sx, tw := plan(rx, dst.X, dst.W, tw)
	y0, ny, sy, th := plan(ry, dst.Y, dst.H, th)
	if nx*ny > 2000 {
		return
	}
	part := cut(pic, src)
	p.C.Save()
	path := &display.Path{}
	path.Rect(dst)
	p.C.Clip(path, false)
	for j := range ny {
		for i := range nx {
			t := display.Rect{X: x0 + float64(i)*sx, Y: y0 + float64(j)*sy, W: tw, H: th}
			if part != nil {
				part.Paint(p.C, t)
				continue
			}
			kx, ky := t.W/src.W, t.H/src.H
			full := display.Rect{X: t.X - src.X*kx, Y: t.Y - src.Y*ky, W: imgW * kx, H: imgH * ky}
			p.C.Save()
			c := &display.Path{}
			c.Rect(t)
			p.C.Clip(c, false)
			if pic != nil {
				pic.Paint(p.C, full)
			} else {
				paintImage(p.C, im, full)
			}
			p.C.Restore()
		}
	}
	p.C.Restore()
}

// cut takes the px of a raster picture that src covers, so that no colour from
// beside them bleeds in; nil when it cannot.
func cut(pic *picture.Picture, src display.Rect) *picture.Picture {
	if pic == nil || pic.Image == nil || pic.W <= 0 || pic.H <= 0 {
		return nil
	}
	kx, ky := float64(pic.Image.W)/pic.W, float64(pic.Image.H)/pic.H
	x0, y0 := int(math.Round(src.X*kx)), int(math.Round(src.Y*ky))
	x1, y1 := int(math.Round((src.X+src.W)*kx)), int(math.Round((src.Y+src.H)*ky))
	im := pic.Image.Crop(x0, y0, x1, y1)
	if im == nil {
		return nil
	}
	return &picture.Picture{W: src.W, H: src.H, Ratio: src.W / src.H, Image: im}
}
