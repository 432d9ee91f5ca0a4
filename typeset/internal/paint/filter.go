package paint

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	"math"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/tag"
)

// filtered draws under the functions of filter, the last of which is applied
// last (Filter Effects 1, §5).
func (p *Painter) filtered(list []style.Filter, draw func()) {
	if len(list) == 0 {
		draw()
		return
	}
	last, rest := list[len(list)-1], list[:len(list)-1]
	for last.Kind == "blur" && len(rest) > 0 && rest[len(rest)-1].Kind == "blur" { // bell curves add up to one
		last.Amount = math.Hypot(last.Amount, rest[len(rest)-1].Amount)
		rest = rest[:len(rest)-1]
	}
	inner := func() { p.filtered(rest, draw) }
	group := func(alpha float64, c display.Canvas, draw func()) {
		p.group(c, display.Group{Alpha: alpha}, draw)
	}
	switch last.Kind {
	case "opacity":
		group(last.Amount, p.C, inner)
	case "drop-shadow":
		sh := last.Shadow
		flat := style.Color{C: sh.Color.C, Space: sh.Color.Space, A: 1}
		spread(sh.Blur, math.Min(float64(sh.Color.A), 0.99), func(dx, dy, alpha float64) {
			p.C.Save()
			p.C.Transform(display.Translate(sh.X+dx, sh.Y+dy))
			group(alpha, p.C, func() {
				p.on(&recolored{p.C, "shadow", true, func(c style.Color) style.Color { out := flat; out.A = c.A; return out }}, inner)
			})
			p.C.Restore()
		})
		inner()
	case "blur":
		if last.Amount < 0.1 {
			inner()
			return
		}
		silent := false // only the first copy is read and leads anywhere
		spread(last.Amount, 1, func(dx, dy, alpha float64) {
			p.C.Save()
			p.C.Transform(display.Translate(dx, dy))
			group(alpha, p.C, func() {
				p.on(&recolored{p.C, "", silent, func(c style.Color) style.Color { return c }}, inner)
			})
			p.C.Restore()
			silent = true
		})
	default:
		m := colorMatrix(last)
		p.on(&recolored{p.C, fmt.Sprintf("%s %g", last.Kind, last.Amount), false, m.of}, inner)
	}
}

// spread draws copies that together look like one drawing of an alpha, blurred
// by a bell curve. Copies over each other do not add up but cover: those of a
// shadow, whose middle is hidden, are lighter for the sake of its edge.
func spread(sigma, alpha float64, draw func(dx, dy, alpha float64)) {
	if sigma < 0.1 {
		draw(0, 0, alpha)
		return
	}
	const rings, round = 3, 10
	each := 2 * alpha / (rings * round)
	if alpha == 1 {
		each = 1 - math.Pow(0.02, 1.0/(rings*round))
	}
	for ring := 1; ring <= rings; ring++ {
		for i := range round {
			a := 2*math.Pi*float64(i)/round + float64(ring)
			r := sigma * float64(ring) / 1.7
			draw(r*math.Cos(a), r*math.Sin(a), each)
		}
	}
}

// affine maps colours: three rows of factors for red, green and blue and a
// summand. Such a map of every colour is one of the finished drawing too.
type affine [3][4]float64

func (m affine) of(c style.Color) style.Color {
	c = c.ToRGB()
	out := style.Color{A: c.A, Modern: c.Modern}
	for i, row := range m {
		v := row[0]*float64(c.C[0]) + row[1]*float64(c.C[1]) + row[2]*float64(c.C[2]) + row[3]
		out.C[i] = float32(math.Min(math.Max(v, 0), 1))
	}
	return out
}

// colorMatrix gives the map of a colour filter (Filter Effects 1, §11).
func colorMatrix(f style.Filter) affine {
	a := f.Amount
	same := func(k, plus float64) affine { return affine{{k, 0, 0, plus}, {0, k, 0, plus}, {0, 0, k, plus}} }
	switch f.Kind {
	case "brightness":
		return same(a, 0)
	case "contrast":
		return same(a, 0.5-0.5*a)
	case "invert":
		return same(1-2*a, a)
	case "grayscale":
		k := 1 - a
		return affine{{0.2126 + 0.7874*k, 0.7152 - 0.7152*k, 0.0722 - 0.0722*k, 0}, {0.2126 - 0.2126*k, 0.7152 + 0.2848*k, 0.0722 - 0.0722*k, 0}, {0.2126 - 0.2126*k, 0.7152 - 0.7152*k, 0.0722 + 0.9278*k, 0}}
	case "sepia":
		k := 1 - a
		return affine{{0.393 + 0.607*k, 0.769 - 0.769*k, 0.189 - 0.189*k, 0}, {0.349 - 0.349*k, 0.686 + 0.314*k, 0.168 - 0.168*k, 0}, {0.272 - 0.272*k, 0.534 - 0.534*k, 0.131 + 0.869*k, 0}}
	case "saturate":
		return affine{{0.213 + 0.787*a, 0.715 - 0.715*a, 0.072 - 0.072*a, 0}, {0.213 - 0.213*a, 0.715 + 0.285*a, 0.072 - 0.072*a, 0}, {0.213 - 0.213*a, 0.715 - 0.715*a, 0.072 + 0.928*a, 0}}
	}
	c, s := math.Cos(a*math.Pi/180), math.Sin(a*math.Pi/180) // hue-rotate
	return affine{
		{0.213 + c*0.787 - s*0.213, 0.715 - c*0.715 - s*0.715, 0.072 - c*0.072 + s*0.928, 0},
		{0.213 - c*0.213 + s*0.143, 0.715 + c*0.285 + s*0.140, 0.072 - c*0.072 - s*0.283, 0},
		{0.213 - c*0.213 - s*0.787, 0.715 - c*0.715 + s*0.715, 0.072 + c*0.928 + s*0.072, 0},
	}
}

// recolored is a canvas that changes all colours drawn onto it.
type recolored struct {
	display.Canvas
	name   string // of the change, for pictures
	silent bool   // a copy: nothing of it is read, and it leads nowhere
	change func(style.Color) style.Color
}

func (r *recolored) paint(p display.Paint) display.Paint {
	switch {
	case p.Gradient != nil:
		g := *p.Gradient
		g.Stops = make([]display.GradientStop, len(p.Gradient.Stops))
		for i, s := range p.Gradient.Stops {
			g.Stops[i] = display.GradientStop{Offset: s.Offset, Color: r.change(s.Color)}
		}
		p.Gradient = &g
	case p.Tile != nil:
		t := *p.Tile
		t.Draw = func(c display.Canvas) { p.Tile.Draw(r.over(c)) }
		return display.Paint{Tile: &t, Alpha: p.Alpha}
	default:
		p.Color = r.change(p.Color)
	}
	return p
}

func (r *recolored) over(c display.Canvas) display.Canvas {
	return &recolored{c, r.name, r.silent, r.change}
}

func (r *recolored) Fill(path *display.Path, p display.Paint, evenOdd bool) {
	r.Canvas.Fill(path, r.paint(p), evenOdd)
}

func (r *recolored) Stroke(path *display.Path, p display.Paint, s display.Stroke) {
	r.Canvas.Stroke(path, r.paint(p), s)
}

func (r *recolored) Text(t *display.Text) {
	c := *t
	c.Paint = r.paint(t.Paint)
	c.Copy = t.Copy || r.silent
	r.Canvas.Text(&c)
}

func (r *recolored) Group(g display.Group, draw func(display.Canvas)) {
	r.Canvas.Group(g, func(c display.Canvas) { draw(r.over(c)) })
}

// Drawing draws in other colours, which are this place's alone.
func (r *recolored) Drawing(_ any, box display.Rect, draw func(display.Canvas)) {
	display.DrawInPlace(r, box, draw)
}

func (r *recolored) Image(im *display.Image, box display.Rect) {
	if r.name != "" {
		im = r.image(im)
	}
	r.Canvas.Image(im, box)
}

func (r *recolored) Tag(e *tag.Element, order int32) {
	if !r.silent {
		r.Canvas.Tag(e, order)
	}
}

func (r *recolored) Cover(e *tag.Element, box display.Rect) {
	if !r.silent {
		r.Canvas.Cover(e, box)
	}
}

func (r *recolored) Link(box display.Rect, to display.Link) {
	if !r.silent {
		r.Canvas.Link(box, to)
	}
}

func (r *recolored) Anchor(name string, x, y float64) {
	if !r.silent {
		r.Canvas.Anchor(name, x, y)
	}
}

func (r *recolored) Field(f display.Field) {
	if !r.silent {
		r.Canvas.Field(f)
	}
}

// image changes the px of a picture. One in CMYK keeps its colours.
func (r *recolored) image(im *display.Image) *display.Image {
	px := im.RGB
	if px == nil {
		if px = decoded(im); px == nil {
			return im
		}
	}
	black := r.change(style.Color{A: 1})
	out := &display.Image{Key: fmt.Sprintf("%s %s %v", im.Key, r.name, black.C), W: im.W, H: im.H, Comps: 3, RGB: make([]byte, 3*im.W*im.H), Alpha: im.Alpha, Crisp: im.Crisp}
	size := len(px) / (im.W * im.H)
	known := map[[3]byte][3]byte{}
	for i := range im.W * im.H {
		from := [3]byte{px[i*size], px[i*size], px[i*size]}
		if size == 3 {
			copy(from[:], px[i*3:])
		}
		to, ok := known[from]
		if !ok {
			c := r.change(style.RGB8(from[0], from[1], from[2])).ToRGB()
			for k := range to {
				to[k] = byte(math.Round(float64(c.C[k]) * 255))
			}
			known[from] = to
		}
		copy(out.RGB[i*3:], to[:])
	}
	return out
}

// decoded gives the px of a JPEG picture in RGB or grey, as three bytes each.
func decoded(im *display.Image) []byte {
	if im.Comps == 4 {
		return nil
	}
	pic, err := jpeg.Decode(bytes.NewReader(im.JPEG))
	if err != nil || pic.Bounds() != image.Rect(0, 0, im.W, im.H) {
		return nil
	}
	px := make([]byte, 0, 3*im.W*im.H)
	for y := range im.H {
		for x := range im.W {
			r, g, b, _ := pic.At(x, y).RGBA()
			px = append(px, byte(r>>8), byte(g>>8), byte(b>>8))
		}
	}
	return px
}
