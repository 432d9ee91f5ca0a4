package paint

import (
	"math"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/style"
)

// radii gives the used corner radii of a border box (CSS Backgrounds 3, §5.5).
func radii(s *style.Style, r display.Rect) display.Radii {
	var out display.Radii
	any := false
	for i, c := range s.Radius {
		if c[0].IsZero() || c[1].IsZero() {
			continue
		}
		out[i] = [2]float64{math.Max(c[0].Of(r.W), 0), math.Max(c[1].Of(r.H), 0)}
		any = true
	}
	if any {
		out.Fit(r)
	}
	return out
}

// innerRadii are the radii of a box inset by the edges; corners that are sharp stay so.
func innerRadii(r display.Radii, e [4]float64) display.Radii {
	less := func(v, by float64) float64 {
		if v == 0 {
			return 0
		}
		return math.Max(v-by, 0)
	}
	return display.Radii{
		{less(r[0][0], e[3]), less(r[0][1], e[0])},
		{less(r[1][0], e[1]), less(r[1][1], e[0])},
		{less(r[2][0], e[1]), less(r[2][1], e[2])},
		{less(r[3][0], e[3]), less(r[3][1], e[2])},
	}
}

// outerRadii are the radii of a box grown by d.
func outerRadii(r display.Radii, d float64) display.Radii {
	for i := range r {
		for k := range 2 {
			if v := r[i][k]; v > 0 {
				if d > 0 && v < d { // small corners grow less (Backgrounds 3, §6.1)
					q := v/d - 1
					r[i][k] = math.Max(v+d*(1+q*q*q), 0)
				} else {
					r[i][k] = math.Max(v+d, 0)
				}
			}
		}
	}
	return r
}

// border paints the four sides.
func (p *Painter) border(s *style.Style, r display.Rect, w [4]float64) {
	if s.BorderImage != nil && p.borderImage(s, r, w) {
		return
	}
	if w == [4]float64{} {
		return
	}
	var col [4]style.Color
	uniform := true
	for i := range 4 {
		col[i] = s.Border[i].Color.Or(s.Color)
		if w[i] > 0 && (col[i] != col[0] || s.Border[i].Style != s.Border[0].Style) || w[i] == 0 && w[0] > 0 || w[i] > 0 && w[0] == 0 {
			uniform = false
		}
	}
	outer := radii(s, r)
	if uniform && (s.Border[0].Style == style.Solid || s.Border[0].Style == style.Double) {
		p.ring(s.Border[0].Style, r, outer, w, col[0])
		return
	}
	for i := range 4 {
		if w[i] <= 0 || col[i].A == 0 {
			continue
		}
		p.side(s, r, outer, w, i, col[i])
	}
}

// ring fills a border of one colour all around.
func (p *Painter) ring(kind style.Keyword, r display.Rect, outer display.Radii, w [4]float64, col style.Color) {
	between := func(a, b float64) *display.Path {
		path := &display.Path{}
		ea := [4]float64{w[0] * a, w[1] * a, w[2] * a, w[3] * a}
		eb := [4]float64{w[0] * b, w[1] * b, w[2] * b, w[3] * b}
		path.RoundRect(r.Inset(ea[0], ea[1], ea[2], ea[3]), innerRadii(outer, ea))
		path.RoundRect(r.Inset(eb[0], eb[1], eb[2], eb[3]), innerRadii(outer, eb))
		return path
	}
	if kind == style.Double && math.Max(math.Max(w[0], w[1]), math.Max(w[2], w[3])) >= 2 {
		p.C.Fill(between(0, 1.0/3), display.Solid(col), true)
		p.C.Fill(between(2.0/3, 1), display.Solid(col), true)
		return
	}
	if outer.Zero() {
		p.frame(r, w, col)
		return
	}
	if w[0] > 0 && w[1] > 0 && w[2] > 0 && w[3] > 0 {
		p.C.Fill(between(0, 1), display.Solid(col), true)
		return
	}
	// where a side has no border, the hole is moved apart from the edge so that
	// no thin line is left between them
	clip, path := &display.Path{}, &display.Path{}
	clip.RoundRect(r, outer)
	in := r.Inset(w[0], w[1], w[2], w[3])
	path.Rect(r.Inset(-10, -10, -10, -10))
	path.RoundRect(apartFrom(in, r), innerRadii(outer, w))
	p.C.Save()
	p.C.Clip(clip, false)
	p.C.Fill(path, display.Solid(col), true)
	p.C.Restore()
}

// fill paints a rectangle in one colour.
func (p *Painter) fill(r display.Rect, col style.Color) {
	path := &display.Path{}
	path.Rect(r)
	p.C.Fill(path, display.Solid(col), false)
}

// frame fills a square border as rectangles: viewers draw those sharp, unlike
// one shape with a hole.
func (p *Painter) frame(r display.Rect, w [4]float64, col style.Color) {
	in := r.Inset(w[0], w[1], w[2], w[3])
	for _, side := range []display.Rect{
		{X: r.X, Y: r.Y, W: r.W, H: w[style.Top]},
		{X: in.X + in.W, Y: in.Y, W: w[style.Right], H: in.H},
		{X: r.X, Y: in.Y + in.H, W: r.W, H: w[style.Bottom]},
		{X: r.X, Y: in.Y, W: w[style.Left], H: in.H},
	} {
		if side.W > 0 && side.H > 0 {
			p.fill(side, col)
		}
	}
}

// corners of the outer (far) and inner (near) box of a side.
func sideQuad(r, in display.Rect, i int) (a, b, c, d [2]float64) {
	x0, y0, x1, y1 := r.X, r.Y, r.X+r.W, r.Y+r.H
	u0, v0, u1, v1 := in.X, in.Y, in.X+in.W, in.Y+in.H
	switch i {
	case style.Top:
		return [2]float64{x0, y0}, [2]float64{x1, y0}, [2]float64{u1, v0}, [2]float64{u0, v0}
	case style.Right:
		return [2]float64{x1, y0}, [2]float64{x1, y1}, [2]float64{u1, v1}, [2]float64{u1, v0}
	case style.Bottom:
		return [2]float64{x1, y1}, [2]float64{x0, y1}, [2]float64{u0, v1}, [2]float64{u1, v1}
	}
	return [2]float64{x0, y1}, [2]float64{x0, y0}, [2]float64{u0, v0}, [2]float64{u0, v1}
}

func polygon(pts ...[2]float64) *display.Path {
	path := &display.Path{}
	for i, pt := range pts {
		if i == 0 {
			path.MoveTo(pt[0], pt[1])
		} else {
			path.LineTo(pt[0], pt[1])
		}
	}
	path.Close()
	return path
}

// side paints one side within its mitred corners.
func (p *Painter) side(s *style.Style, r display.Rect, outer display.Radii, w [4]float64, i int, col style.Color) {
	in := r.Inset(w[0], w[1], w[2], w[3])
	kind := s.Border[i].Style
	a, b, c, d := sideQuad(r, in, i)
	lightSide := i == style.Bottom || i == style.Right
	switch kind {
	case style.Inset:
		if !lightSide {
			col = darker(col)
		}
		kind = style.Solid
	case style.Outset:
		if lightSide {
			col = darker(col)
		}
		kind = style.Solid
	}
	round := !outer.Zero()
	p.C.Save()
	defer p.C.Restore()
	if round {
		quad := extend(r, in, i)
		p.C.Clip(quad, false)
	} else if kind != style.Solid {
		p.C.Clip(polygon(a, b, c, d), false)
	}
	switch kind {
	case style.Solid:
		if round {
			p.ring(style.Solid, r, outer, w, col)
			return
		}
		if w[(i+1)%4] == 0 && w[(i+3)%4] == 0 {
			var only [4]float64
			only[i] = w[i]
			p.frame(r, only, col)
			return
		}
		p.C.Fill(polygon(a, b, c, d), display.Solid(col), false)
	case style.Double:
		p.ring(style.Double, r, outer, w, col)
	case style.Groove, style.Ridge:
		first, second := darker(col), col
		if (kind == style.Ridge) != lightSide {
			first, second = second, first
		}
		half := [4]float64{w[0] / 2, w[1] / 2, w[2] / 2, w[3] / 2}
		p.ring(style.Solid, r, outer, half, first)
		p.ring(style.Solid, r.Inset(half[0], half[1], half[2], half[3]), innerRadii(outer, half), half, second)
	case style.Dotted, style.Dashed:
		p.dashes(r, outer, w, i, kind, col)
	}
}

// extend is the wedge of a side, reaching to the middle so that rounded corners
// are cut on their diagonals.
func extend(r, in display.Rect, i int) *display.Path {
	a, b, c, d := sideQuad(r, in, i)
	far := func(o, n [2]float64) [2]float64 {
		dx, dy := n[0]-o[0], n[1]-o[1]
		if dx == 0 && dy == 0 {
			return n
		}
		k := math.Inf(1)
		if dx != 0 {
			k = math.Min(k, r.W/2/math.Abs(dx))
		}
		if dy != 0 {
			k = math.Min(k, r.H/2/math.Abs(dy))
		}
		return [2]float64{o[0] + dx*k, o[1] + dy*k}
	}
	return polygon(a, b, far(b, c), far(a, d))
}

// darker is the shaded side of a three-dimensional border.
func darker(c style.Color) style.Color {
	if c.Space == style.CMYK {
		c = c.ToRGB()
	}
	if c.C[0] == 0 && c.C[1] == 0 && c.C[2] == 0 {
		c.C = [4]float32{0.3, 0.3, 0.3}
		return c
	}
	for i := range 3 {
		c.C[i] *= 0.66
	}
	return c
}

// dashes strokes the middle of a side with dots or dashes that fit its length.
func (p *Painter) dashes(r display.Rect, outer display.Radii, w [4]float64, i int, kind style.Keyword, col style.Color) {
	thick := w[i]
	mid := r.Inset(w[0]/2, w[1]/2, w[2]/2, w[3]/2)
	path := &display.Path{}
	x0, y0, x1, y1 := mid.X, mid.Y, mid.X+mid.W, mid.Y+mid.H
	length := mid.W
	if i == style.Left || i == style.Right {
		length = mid.H
	}
	if !outer.Zero() {
		path.RoundRect(mid, innerRadii(outer, [4]float64{w[0] / 2, w[1] / 2, w[2] / 2, w[3] / 2}))
		length = 2 * (mid.W + mid.H)
	} else {
		e := thick / 2
		switch i {
		case style.Top:
			path.MoveTo(x0-e, y0)
			path.LineTo(x1+e, y0)
		case style.Bottom:
			path.MoveTo(x0-e, y1)
			path.LineTo(x1+e, y1)
		case style.Left:
			path.MoveTo(x0, y0-e)
			path.LineTo(x0, y1+e)
		default:
			path.MoveTo(x1, y0-e)
			path.LineTo(x1, y1+e)
		}
		length += thick
	}
	st := display.Stroke{Width: thick}
	if kind == style.Dotted {
		n := math.Max(math.Round(length/(2*thick)), 1)
		gap := (length - thick) / math.Max(n-1, 1)
		st.Cap, st.Dash, st.DashOffset = 1, []float64{0, gap}, -thick/2
		if st.DashOffset < 0 {
			st.DashOffset += gap
		}
	} else {
		dash, space := 2*thick, thick
		if thick < 3 { // or they look like dots
			dash, space = 3*thick, 2*thick
		}
		n := math.Max(math.Round((length+space)/(dash+space)), 1)
		gap := (length - n*dash) / math.Max(n-1, 1)
		if gap <= 0 {
			gap = thick
		}
		st.Dash = []float64{dash, gap}
	}
	p.C.Stroke(path, display.Solid(col), st)
}

// outline is drawn outside the border and takes no room (CSS UI 4, §3).
func (p *Painter) outline(f *layout.Fragment, x, y float64) {
	if f.Box == nil || f.Text != nil || f.Line {
		return
	}
	s := f.Box.Look()
	w := s.Outline.Width
	if w <= 0 || s.Visibility != style.Visible {
		return
	}
	grow := w + s.OutlineOffset
	r := frame(f, x, y)
	rad := outerRadii(radii(s, r), grow)
	out := r.Inset(-grow, -grow, -grow, -grow)
	c := *s
	for i := range 4 {
		c.Border[i] = s.Outline
		c.Border[i].Color = s.Outline.Color.Or(s.Color)
		c.Radius[i] = [2]style.LP{style.Px(rad[i][0]), style.Px(rad[i][1])}
	}
	c.BorderImage = nil
	p.border(&c, out, [4]float64{w, w, w, w})
}

// rules paints the lines between columns.
func (p *Painter) rules(f *layout.Fragment, x, y float64) {
	if f.Box == nil || f.Drawn == nil {
		return
	}
	s := f.Box.Look()
	w := s.ColumnRule.Width
	if w <= 0 {
		return
	}
	col := s.ColumnRule.Color.Or(s.Color)
	for _, k := range f.Drawn.Rules {
		c := style.Style{}
		c.Border[style.Left] = s.ColumnRule
		c.Border[style.Left].Color = col
		switch s.ColumnRule.Style { // as collapsed borders are drawn (Multi-column 2, §4.2)
		case style.Inset:
			c.Border[style.Left].Style = style.Ridge
		case style.Outset:
			c.Border[style.Left].Style = style.Groove
		}
		p.side(&c, display.Rect{X: x + k.X - w/2, Y: y + k.Y, W: w, H: k.F.H}, display.Radii{}, [4]float64{0, 0, 0, w}, style.Left, col)
	}
}

// outerShadows paints box shadows, which never show through the box.
func (p *Painter) outerShadows(s *style.Style, r display.Rect) {
	for i := len(s.BoxShadow) - 1; i >= 0; i-- {
		sh := s.BoxShadow[i]
		col := sh.Color.Or(s.Color)
		if sh.Inset || col.A == 0 {
			continue
		}
		base := radii(s, r)
		p.C.Save()
		hole := &display.Path{}
		far := sh.Blur*2 + math.Abs(sh.Spread) + math.Abs(sh.X) + math.Abs(sh.Y) + 10
		hole.Rect(r.Inset(-far, -far, -far, -far))
		hole.RoundRect(r, base)
		p.C.Clip(hole, true)
		p.soft(sh.Blur, col, func(d float64, c style.Color) {
			g := sh.Spread + d
			path := &display.Path{}
			box := display.Rect{X: r.X + sh.X - g, Y: r.Y + sh.Y - g, W: r.W + 2*g, H: r.H + 2*g}
			if box.W <= 0 || box.H <= 0 {
				return
			}
			rad := outerRadii(base, g)
			if d > 0 {
				for k := range rad {
					rad[k] = [2]float64{math.Max(rad[k][0], d), math.Max(rad[k][1], d)}
				}
			}
			rad.Fit(box)
			path.RoundRect(box, rad)
			p.C.Fill(path, display.Solid(c), false)
		})
		p.C.Restore()
	}
}

// shades is how many steps of a colour screens tell apart.
const shades = 255

// soft draws rings from the outside in whose alphas add up to a blur.
func (p *Painter) soft(blur float64, col style.Color, draw func(d float64, c style.Color)) {
	if blur < 0.5 {
		draw(0, col)
		return
	}
	steps := min(max(int(blur), 6), 24, max(int(col.A*shades), 1)) // fainter ones are rounded, on screens, to darker ones
	reached := 0.0
	for i := range steps {
		t := (float64(i) + 0.5) / float64(steps) // 0 outside, 1 inside
		// the integral of a bell curve, smoothed
		want := t * t * (3 - 2*t) * float64(col.A)
		a := (want - reached) / (1 - reached)
		reached = want
		c := col
		c.A = float32(math.Min(math.Max(a, 0), 1))
		draw(blur*(1-2*t), c)
	}
}

// innerShadows paints inset shadows inside the padding box.
func (p *Painter) innerShadows(s *style.Style, r display.Rect, w [4]float64) {
	for i := len(s.BoxShadow) - 1; i >= 0; i-- {
		sh := s.BoxShadow[i]
		col := sh.Color.Or(s.Color)
		if !sh.Inset || col.A == 0 {
			continue
		}
		in := r.Inset(w[0], w[1], w[2], w[3])
		rad := innerRadii(radii(s, r), w)
		p.C.Save()
		clip := &display.Path{}
		clip.RoundRect(in, rad)
		p.C.Clip(clip, false)
		p.soft(sh.Blur, col, func(d float64, c style.Color) {
			g := sh.Spread + d
			path := &display.Path{}
			path.Rect(in.Inset(-1000, -1000, -1000, -1000))
			box := display.Rect{X: in.X + sh.X + g, Y: in.Y + sh.Y + g, W: in.W - 2*g, H: in.H - 2*g}
			if box.W > 0 && box.H > 0 {
				rr := outerRadii(rad, -g)
				rr.Fit(box)
				if rr.Zero() {
					p.frame(in, [4]float64{math.Max(box.Y-in.Y, 0), math.Max(in.X+in.W-box.X-box.W, 0), math.Max(in.Y+in.H-box.Y-box.H, 0), math.Max(box.X-in.X, 0)}, c)
					return
				}
				path.RoundRect(apartFrom(box, in), rr)
			}
			p.C.Fill(path, display.Solid(c), true)
		})
		p.C.Restore()
	}
}

// apartFrom moves the sides of a hole that lie on the sides of its box well out
// of the box, so that no thin line is left there.
func apartFrom(hole, box display.Rect) display.Rect {
	x0, y0, x1, y1 := hole.X, hole.Y, hole.X+hole.W, hole.Y+hole.H
	if x0 <= box.X {
		x0--
	}
	if y0 <= box.Y {
		y0--
	}
	if x1 >= box.X+box.W {
		x1++
	}
	if y1 >= box.Y+box.H {
		y1++
	}
	return display.Rect{X: x0, Y: y0, W: x1 - x0, H: y1 - y0}
}
