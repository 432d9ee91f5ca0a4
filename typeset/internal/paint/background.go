package paint

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
)

func at[T any](list []T, i int) T { return list[i%len(list)] }

// edge is how far a box of one kind lies inside the border box.
func edge(k style.Keyword, border, padding [4]float64) (in [4]float64) {
	switch k {
	case style.PaddingBox:
		return border
	case style.ContentBox:
		for i := range in {
			in[i] = border[i] + padding[i]
		}
	}
	return in
}

// spot is a box where it lies; none without a fragment.
type spot struct {
	f    *layout.Fragment
	x, y float64
}

// letters paints the text in the box, as a shape.
func (in spot) letters(p *Painter) func() {
	return func() { p.letters(in.f, in.x, in.y) }
}

// background paints colour and images (CSS Backgrounds 3, §3) of a box, to whose text they may be cut.
func (p *Painter) background(s *style.Style, r display.Rect, border, padding [4]float64, in spot) {
	b := &s.Background
	col := s.BackgroundColor.Or(s.Color)
	hasImage := false
	for _, im := range b.Images {
		hasImage = hasImage || im != nil
	}
	if !hasImage {
		if col.A > 0 {
			p.plain(s, col, r, border, padding, in)
		}
		return
	}
	p.isolated(b, r, func() {
		if col.A > 0 {
			p.plain(s, col, r, border, padding, in)
		}
		p.pictured(s, r, border, padding, in)
	})
}

// plain paints the colour of a background.
func (p *Painter) plain(s *style.Style, col style.Color, r display.Rect, border, padding [4]float64, in spot) {
	clip := at(s.Background.Clip, len(s.Background.Images)-1)
	e := edge(clip, border, padding)
	area := r.Within(e)
	if area.W <= 0 || area.H <= 0 { // viewers would draw a thin line
		return
	}
	rad := radii(s, r)
	path := &display.Path{}
	path.RoundRect(area, innerRadii(rad, e))
	switch {
	case clip == style.BorderArea:
		p.C.Fill(borderArea(s, r, rad, border), display.Solid(col), true)
	case clip == style.TextKey && in.f != nil:
		p.within(area, in.letters(p), func() { p.C.Fill(path, display.Solid(col), true) })
	default:
		p.C.Fill(path, display.Solid(col), true)
	}
}

// pictured paints the images of a background.
func (p *Painter) pictured(s *style.Style, r display.Rect, border, padding [4]float64, in spot) {
	rad := radii(s, r)
	boxes := func(k style.Keyword) (display.Rect, display.Radii) {
		e := edge(k, border, padding)
		return r.Within(e), innerRadii(rad, e)
	}
	p.images(s, boxes, func(k style.Keyword, draw func()) {
		switch {
		case k == style.BorderArea:
			p.C.Clip(borderArea(s, r, rad, border), true)
			draw()
		case k == style.TextKey && in.f != nil:
			area, _ := boxes(k)
			p.within(area, in.letters(p), draw)
		default:
			draw()
		}
	})
}

// isolated paints the layers of a background in area as one where some of them blend: they do so
// with each other, and not with what lies behind the box (Compositing 1, §9.1).
func (p *Painter) isolated(b *style.Background, area display.Rect, draw func()) {
	if !slices.ContainsFunc(b.Blend, func(k style.Keyword) bool { return k != style.Normal }) {
		draw()
		return
	}
	p.group(p.C, display.Group{Alpha: 1, Box: area}, draw)
}

// blended paints one layer of a background in area by its mode.
func (p *Painter) blended(mode style.Keyword, area display.Rect, draw func()) {
	if mode == style.Normal {
		draw()
		return
	}
	p.group(p.C, display.Group{Alpha: 1, Blend: display.BlendMode(mode), Box: area}, draw)
}

// images paints the layers of images, from the lowest on, in the boxes that their origins and
// clips name; within cuts what is drawn to that which is not a box.
func (p *Painter) images(s *style.Style, boxes func(style.Keyword) (display.Rect, display.Radii), within func(clip style.Keyword, draw func())) {
	b := &s.Background
	for i := len(b.Images) - 1; i >= 0; i-- {
		im := b.Images[i]
		if im == nil {
			continue
		}
		area, rr := boxes(at(b.Clip, i))
		origin, _ := boxes(at(b.Origin, i))
		if at(b.Attachment, i) == style.FixedKey {
			origin = p.Page
		}
		if area.W <= 0 || area.H <= 0 {
			continue
		}
		p.C.Save()
		path := &display.Path{}
		path.RoundRect(area, rr)
		p.C.Clip(path, false)
		within(at(b.Clip, i), func() {
			p.blended(at(b.Blend, i), area, func() { p.layer(im, s, i, origin, area) })
		})
		p.C.Restore()
	}
}

// borderArea is what the border covers (CSS Backgrounds 4, §2.6); a double
// border leaves its gap open, to be filled by the even-odd rule.
func borderArea(s *style.Style, r display.Rect, outer display.Radii, w [4]float64) *display.Path {
	path := &display.Path{}
	ring := func(from, to float64) {
		for _, k := range []float64{from, to} {
			e := [4]float64{w[0] * k, w[1] * k, w[2] * k, w[3] * k}
			path.RoundRect(r.Inset(e[0], e[1], e[2], e[3]), innerRadii(outer, e))
		}
	}
	if s.Border[0].Style == style.Double && s.Border[1].Style == style.Double {
		ring(0, 1.0/3)
		ring(2.0/3, 1)
		return path
	}
	ring(0, 1)
	return path
}

// Canvas paints the background of the page's canvas over area, positioned by
// the root's box.
func (p *Painter) Canvas(s *style.Style, root, area display.Rect, border, padding [4]float64) {
	b := &s.Background
	p.isolated(b, area, func() {
		if col := s.BackgroundColor.Or(s.Color); col.A > 0 {
			p.fill(area, col)
		}
		for i := len(b.Images) - 1; i >= 0; i-- {
			if b.Images[i] == nil {
				continue
			}
			origin := root.Within(edge(at(b.Origin, i), border, padding))
			if at(b.Attachment, i) == style.FixedKey {
				origin = p.Page
			}
			p.C.Save()
			path := &display.Path{}
			path.Rect(area)
			p.C.Clip(path, false)
			p.blended(at(b.Blend, i), area, func() { p.layer(b.Images[i], s, i, origin, area) })
			p.C.Restore()
		}
	})
}

// loaded gives the first of an image and those that stand for it which can be
// painted, as it looks in s: with its picture, or with no picture where it needs
// none. It gives no image when none can.
func (p *Painter) loaded(im *style.Image, s *style.Style) (*style.Image, *picture.Picture) {
	for ; im != nil; im = im.Else {
		if im.Kind != style.ImageURL {
			return im.In(s.Color), nil
		}
		if pic := p.Pictures(im.URL); pic != nil {
			return im, pic.Turned(s.ImageOrientation != style.None)
		}
	}
	return nil, nil
}

// finestTile is how small an image can be that is repeated, in px. Finer ones cannot be told from
// each other on paper, and viewers need minutes for the millions of them on a page.
const finestTile = 0.5

// layer paints one image, sized, placed and repeated.
func (p *Painter) layer(im *style.Image, s *style.Style, i int, origin, area display.Rect) {
	b := &s.Background
	im, pic := p.loaded(im, s)
	if im == nil {
		return
	}
	if pic != nil {
		if im.Density > 0 && im.Density != 1 {
			q := *pic
			q.W, q.H = pic.W/im.Density, pic.H/im.Density
			pic = &q
		}
	}
	w, h := tileSize(pic, at(b.Size, i), origin)
	if w <= 0 || h <= 0 {
		return
	}
	rep := at(b.Repeat, i)
	size := at(b.Size, i)
	if rep[0] == style.Round {
		nw := origin.W / math.Max(math.Round(origin.W/w), 1)
		if rep[1] != style.Round && size.Kind == style.Auto && size.H.IsAuto() {
			h *= nw / w
		}
		w = nw
	}
	if rep[1] == style.Round {
		nh := origin.H / math.Max(math.Round(origin.H/h), 1)
		if rep[0] != style.Round && size.Kind == style.Auto && size.W.IsAuto() {
			w *= nh / h
		}
		h = nh
	}
	if rep[0] != style.NoRepeat {
		w = math.Max(w, finestTile)
	}
	if rep[1] != style.NoRepeat {
		h = math.Max(h, finestTile)
	}
	pos := at(b.Position, i)
	x, y := origin.X+pos.X.Of(origin.W-w), origin.Y+pos.Y.Of(origin.H-h)
	x0, nx, stepX := tiling(rep[0], x, w, origin.X, origin.W, area.X, area.W)
	y0, ny, stepY := tiling(rep[1], y, h, origin.Y, origin.H, area.Y, area.H)
	draw := func(c display.Canvas, to display.Rect) {
		if pic != nil {
			pic.Paint(c, to)
			return
		}
		paintImage(c, im, to)
	}
	if nx*ny > 500 {
		path := &display.Path{}
		path.Rect(display.Rect{X: x0, Y: y0, W: float64(nx-1)*stepX + w, H: float64(ny-1)*stepY + h})
		p.C.Fill(path, display.Paint{Alpha: 1, Tile: &display.Tile{
			Box: display.Rect{X: x0, Y: y0, W: w, H: h}, StepX: stepX, StepY: stepY,
			Draw: func(c display.Canvas) { draw(c, display.Rect{X: x0, Y: y0, W: w, H: h}) },
		}}, false)
		return
	}
	for iy := range ny {
		for ix := range nx {
			draw(p.C, display.Rect{X: x0 + float64(ix)*stepX, Y: y0 + float64(iy)*stepY, W: w, H: h})
		}
	}
}

// tiling gives the first tile, their number and the step in one direction.
func tiling(k style.Keyword, x, w, originX, originW, areaX, areaW float64) (float64, int, float64) {
	switch k {
	case style.NoRepeat:
		return x, 1, w
	case style.Space:
		n := math.Floor(originW/w + 1e-6)
		if n < 2 {
			return x, 1, w
		}
		step := w + (originW-n*w)/(n-1)
		first := originX - math.Ceil((originX-areaX)/step)*step
		return first, int(math.Ceil((areaX+areaW-first)/step - 1e-6)), step
	}
	first := x - math.Ceil((x-areaX)/w-1e-6)*w
	n := math.Ceil((areaX+areaW-first)/w - 1e-6)
	if n > 1e6 {
		n = 1e6
	}
	return first, max(int(n), 1), w
}

// tileSize is the size of one image (CSS Backgrounds 3, §3.9).
func tileSize(pic *picture.Picture, size style.BackgroundSize, origin display.Rect) (w, h float64) {
	var natW, natH, ratio float64
	if pic != nil {
		natW, natH, ratio = pic.W, pic.H, pic.Ratio
	}
	switch size.Kind {
	case style.Cover, style.Contain:
		if ratio <= 0 {
			return origin.W, origin.H
		}
		if (origin.W/math.Max(origin.H, 1e-9) > ratio) == (size.Kind == style.Cover) {
			return origin.W, origin.W / ratio
		}
		return origin.H * ratio, origin.H
	}
	w, h = size.W.Resolve(origin.W), size.H.Resolve(origin.H)
	knownW, knownH := !math.IsNaN(w), !math.IsNaN(h)
	switch {
	case knownW && knownH:
	case knownW:
		switch {
		case ratio > 0:
			h = w / ratio
		case natH > 0:
			h = natH
		default:
			h = origin.H
		}
	case knownH:
		switch {
		case ratio > 0:
			w = h * ratio
		case natW > 0:
			w = natW
		default:
			w = origin.W
		}
	case natW > 0 && natH > 0:
		return natW, natH
	case ratio > 0:
		switch {
		case natW > 0:
			return natW, natW / ratio
		case natH > 0:
			return natH * ratio, natH
		case origin.W/math.Max(origin.H, 1e-9) > ratio:
			return origin.H * ratio, origin.H
		}
		return origin.W, origin.W / ratio
	default:
		w, h = natW, natH
		if w == 0 {
			w = origin.W
		}
		if h == 0 {
			h = origin.H
		}
	}
	return w, h
}

// paintImage paints a gradient or plain colour into a box.
func paintImage(c display.Canvas, im *style.Image, to display.Rect) {
	path := &display.Path{}
	path.Rect(to)
	switch im.Kind {
	case style.ImageColor:
		c.Fill(path, display.Solid(im.Color), false)
	case style.ImageLinear, style.ImageRadial, style.ImageConic:
		if g := Gradient(im, to); g != nil {
			c.Fill(path, display.Paint{Gradient: g, Alpha: 1}, false)
		} else if n := len(im.Gradient.Stops); n > 0 {
			c.Fill(path, display.Solid(im.Gradient.Stops[n-1].Color), false)
		}
	}
}

// Gradient works a CSS gradient out for a box (CSS Images 3, §3); nil when it
// has no extent.
func Gradient(im *style.Image, r display.Rect) *display.Gradient {
	g := im.Gradient
	out := &display.Gradient{}
	length := 0.0
	switch im.Kind {
	case style.ImageLinear:
		a := g.Angle * math.Pi / 180
		if g.HasTo {
			a = cornerAngle(g, r)
		}
		s, c := math.Sincos(a)
		length = math.Abs(r.W*s) + math.Abs(r.H*c)
		cx, cy := r.X+r.W/2, r.Y+r.H/2
		out.X0, out.Y0 = cx-s*length/2, cy+c*length/2
		out.X1, out.Y1 = cx+s*length/2, cy-c*length/2
	case style.ImageRadial:
		out.Kind = display.Radial
		cx, cy := g.Center.X.Of(r.W), g.Center.Y.Of(r.H)
		rx, ry := radialSize(g, r, cx, cy)
		if rx <= 0 {
			rx = 1e-6
		}
		if ry <= 0 {
			ry = 1e-6
		}
		out.X0, out.Y0, out.X1, out.Y1 = 0, 0, 0, 0
		out.R1 = rx
		out.Matrix = display.Matrix{1, 0, 0, ry / rx, r.X + cx, r.Y + cy}
		length = rx
	case style.ImageConic:
		out.Kind = display.Conic
		out.X0, out.Y0 = r.X+g.Center.X.Of(r.W), r.Y+g.Center.Y.Of(r.H)
		out.R1 = math.Hypot(r.W, r.H) + math.Hypot(out.X0-r.X-r.W/2, out.Y0-r.Y-r.H/2)
		out.Angle = g.Angle
		length = 360
	}
	if length <= 0 {
		return nil
	}
	stops := colorStops(g, length)
	if g.Repeating {
		stops = repeat(stops, im.Kind, out, length, r)
	} else if out.Kind != display.Conic {
		stretch(stops, out)
	}
	for i := range stops {
		stops[i].Offset = math.Min(math.Max(stops[i].Offset, 0), 1)
	}
	out.Stops = stops
	return out
}

func cornerAngle(g *style.Gradient, r display.Rect) float64 {
	switch {
	case g.ToX == 0 && g.ToY < 0:
		return 0
	case g.ToX == 0:
		return math.Pi
	case g.ToY == 0 && g.ToX > 0:
		return math.Pi / 2
	case g.ToY == 0:
		return -math.Pi / 2
	}
	// the 50 % line runs through the two neighbouring corners
	return math.Atan2(float64(g.ToX)*r.H, -float64(g.ToY)*r.W)
}

func radialSize(g *style.Gradient, r display.Rect, cx, cy float64) (rx, ry float64) {
	l, rt, t, b := math.Abs(cx), math.Abs(r.W-cx), math.Abs(cy), math.Abs(r.H-cy)
	switch g.Extent {
	case style.Length:
		return g.RX.Of(r.W), g.RY.Of(r.H)
	case style.ClosestSide:
		rx, ry = math.Min(l, rt), math.Min(t, b)
		if g.Circle {
			rx = math.Min(rx, ry)
			ry = rx
		}
	case style.FarthestSide:
		rx, ry = math.Max(l, rt), math.Max(t, b)
		if g.Circle {
			rx = math.Max(rx, ry)
			ry = rx
		}
	default:
		near := g.Extent == style.ClosestCorner
		dx, dy := math.Max(l, rt), math.Max(t, b)
		if near {
			dx, dy = math.Min(l, rt), math.Min(t, b)
		}
		if g.Circle {
			rx = math.Hypot(dx, dy)
			return rx, rx
		}
		// an ellipse keeps the ratio of the sides it would reach
		return dx * math.Sqrt2, dy * math.Sqrt2
	}
	return rx, ry
}

// colorStops works positions and hints out (CSS Images 3, §3.5). Offsets are
// parts of the gradient line.
func colorStops(g *style.Gradient, length float64) []display.GradientStop {
	n := len(g.Stops)
	pos := make([]float64, n)
	for i, s := range g.Stops {
		switch {
		case s.HasPos:
			if pos[i] = s.Pos.Of(length) / length; math.IsNaN(pos[i]) {
				pos[i] = 0
			}
			pos[i] = math.Min(math.Max(pos[i], -1e6), 1e6)
		case i == 0:
			pos[i] = 0
		case i == n-1:
			pos[i] = 1
		default:
			pos[i] = math.NaN()
		}
	}
	last := math.Inf(-1)
	for i := range pos {
		if !math.IsNaN(pos[i]) {
			pos[i] = math.Max(pos[i], last)
			last = pos[i]
		}
	}
	for i := range n {
		if !math.IsNaN(pos[i]) {
			continue
		}
		j := i
		for math.IsNaN(pos[j]) {
			j++
		}
		for k := i; k < j; k++ {
			pos[k] = pos[i-1] + (pos[j]-pos[i-1])*float64(k-i+1)/float64(j-i+1)
		}
	}
	var out []display.GradientStop
	for i := range n {
		if !g.Stops[i].Hint {
			out = append(out, display.GradientStop{Offset: pos[i], Color: g.Stops[i].Color})
			if i+1 < n && !g.Stops[i+1].Hint {
				out = between(out, g, g.Stops[i].Color, g.Stops[i+1].Color, pos[i], pos[i+1], math.NaN())
			}
			continue
		}
		out = between(out, g, g.Stops[i-1].Color, g.Stops[i+1].Color, pos[i-1], pos[i+1], pos[i])
	}
	return out
}

// between adds steps where colours do not run evenly in sRGB: other colour
// spaces, hints, and stops of different alpha.
func between(out []display.GradientStop, g *style.Gradient, a, b style.Color, p0, p1, hint float64) []display.GradientStop {
	space, hue := g.MixesIn(), g.Hue
	if hue == "" {
		hue = "shorter"
	}
	if p1 <= p0 || space == "srgb" && math.IsNaN(hint) && a.A == b.A {
		return out
	}
	exp := 1.0
	if !math.IsNaN(hint) {
		h := (hint - p0) / (p1 - p0)
		switch {
		case h <= 0:
			return append(out, display.GradientStop{Offset: p0, Color: b})
		case h >= 1:
			return append(out, display.GradientStop{Offset: p1, Color: a})
		}
		exp = math.Log(0.5) / math.Log(h)
	}
	const steps = 16
	for i := 1; i < steps; i++ {
		t := float64(i) / steps
		out = append(out, display.GradientStop{Offset: p0 + (p1-p0)*t, Color: style.Mix(space, hue, a, b, math.Pow(t, exp))})
	}
	return out
}

// stretch moves the ends of the gradient so that all stops lie between them.
func stretch(stops []display.GradientStop, g *display.Gradient) {
	if len(stops) == 0 {
		return
	}
	lo, hi := stops[0].Offset, stops[len(stops)-1].Offset
	if g.Kind == display.Radial {
		lo = 0
		if first := stops[0].Offset; first < 0 { // what lies inside the centre
			for i := range stops {
				if stops[i].Offset < 0 {
					if i+1 < len(stops) && stops[i+1].Offset > 0 {
						t := -stops[i].Offset / (stops[i+1].Offset - stops[i].Offset)
						stops[i].Color = style.Mix("srgb", "shorter", stops[i].Color, stops[i+1].Color, t)
					}
					stops[i].Offset = 0
				}
			}
		}
		hi = math.Max(stops[len(stops)-1].Offset, 0)
	}
	if hi-lo < 1e-9 { // all at one place: a hard edge there
		if hi <= 0 && g.Kind == display.Radial {
			return
		}
		lo, hi = math.Min(lo, 0), math.Max(hi, 1)
	}
	if lo >= 0 && hi <= 1 {
		return
	}
	for i := range stops {
		stops[i].Offset = (stops[i].Offset - lo) / (hi - lo)
	}
	if g.Kind == display.Radial {
		g.R1 *= hi
		return
	}
	dx, dy := g.X1-g.X0, g.Y1-g.Y0
	g.X1, g.Y1 = g.X0+dx*hi, g.Y0+dy*hi
	g.X0, g.Y0 = g.X0+dx*lo, g.Y0+dy*lo
}

// repeat writes a repeating gradient out over the whole box.
func repeat(stops []display.GradientStop, kind style.ImageKind, g *display.Gradient, length float64, r display.Rect) []display.GradientStop {
	first, last := stops[0].Offset, stops[len(stops)-1].Offset
	period := last - first
	if period*length < 0.01 { // too fine to draw: the average colour
		c := stops[len(stops)-1].Color
		return []display.GradientStop{{Offset: 0, Color: c}, {Offset: 1, Color: c}}
	}
	lo, hi := 0.0, 1.0
	if kind == style.ImageRadial {
		cx, cy := g.Matrix[4]-r.X, g.Matrix[5]-r.Y
		far := math.Hypot(math.Max(cx, r.W-cx), math.Max(cy, r.H-cy)*g.Matrix[0]/math.Max(g.Matrix[3], 1e-6))
		hi = math.Max(far/length, 1)
	}
	var out []display.GradientStop
	for k := math.Floor((lo-first)/period) - 1; first+k*period < hi && len(out) < 20000; k++ {
		for _, s := range stops {
			s.Offset += k * period
			out = append(out, s)
		}
	}
	cut := cutStops(out, lo, hi)
	if hi > 1 {
		for i := range cut {
			cut[i].Offset /= hi
		}
		g.R1 *= hi
	}
	return cut
}

// cutStops keeps the part of a stop list between two offsets.
func cutStops(list []display.GradientStop, lo, hi float64) []display.GradientStop {
	colorAt := func(i int, t float64) style.Color {
		a, b := list[i-1], list[i]
		if b.Offset <= a.Offset || a.Color == b.Color {
			return b.Color
		}
		return style.Mix("srgb", "shorter", a.Color, b.Color, (t-a.Offset)/(b.Offset-a.Offset))
	}
	var out []display.GradientStop
	for i, s := range list {
		if s.Offset < lo {
			if i+1 < len(list) && list[i+1].Offset >= lo {
				out = append(out, display.GradientStop{Offset: lo, Color: colorAt(i+1, lo)})
			}
			continue
		}
		if s.Offset > hi {
			if i > 0 {
				out = append(out, display.GradientStop{Offset: hi, Color: colorAt(i, hi)})
			}
			break
		}
		out = append(out, s)
	}
	return out
}

// clipShape is the outline of clip-path (CSS Masking 1, §5) of a box.
func clipShape(c *style.ClipPath, border display.Rect, f *layout.Fragment) (*display.Path, bool) {
	var in [4]float64 // of the shape's box in the border box
	for i := range in {
		switch c.Box {
		case style.PaddingBox:
			in[i] = f.Border[i]
		case style.ContentBox, style.FillBox:
			in[i] = f.Border[i] + f.Padding[i]
		case style.MarginBox:
			if v := f.Box.Look().Margin[i]; v.Kind == style.Length {
				in[i] = -v.Of(border.W)
			}
		}
	}
	r := border.Inset(in[0], in[1], in[2], in[3])
	if c.Kind == style.BoxShape { // with the corners of the box (Shapes 1, §6.1)
		path := &display.Path{}
		path.RoundRect(r, innerRadii(radii(f.Box.Look(), border), in))
		return path, false
	}
	return picture.Shape(c, r)
}

// Decorate paints the background of a page over the whole sheet and the border
// of its page box (CSS Page 3, §3.1).
func (p *Painter) Decorate(s *style.Style, r, sheet display.Rect, border, padding [4]float64) {
	p.Canvas(s, r, sheet, border, padding)
	p.border(s, r, border)
}
