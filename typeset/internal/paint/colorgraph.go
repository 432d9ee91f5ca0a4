package paint

import (
	"math"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/style"
)

// glyphDrawing draws a colour glyph on a canvas, in font units, y up.
type glyphDrawing struct {
	c      display.Canvas
	face   *font.Face
	colors []style.Color
	text   style.Color // of the text
}

// drawGlyph draws a glyph by its graph of paints, with its origin at x and y; false when it has none.
func (p *Painter) drawGlyph(d *glyphDrawing, glyph uint32, x, y, scale float64) bool {
	p.C.Save()
	defer p.C.Restore()
	p.C.Transform(display.Matrix{scale, 0, 0, -scale, x, y})
	return d.face.Draw(glyph, d)
}

func (d *glyphDrawing) Save()                  { d.c.Save() }
func (d *glyphDrawing) Restore()               { d.c.Restore() }
func (d *glyphDrawing) Transform(m [6]float64) { d.c.Transform(m) }
func (d *glyphDrawing) Clip(glyph uint32)      { d.c.Clip(d.shape(glyph), false) }

// shape is the outline of a glyph, y up.
func (d *glyphDrawing) shape(glyph uint32) *display.Path {
	p := &display.Path{}
	p.Glyph(d.face, glyph, 0, 0, 1)
	return p.Transform(display.Matrix{1, 0, 0, -1, 0, 0})
}

func (d *glyphDrawing) FillGlyph(glyph uint32, fill font.Fill, m [6]float64) {
	if shape := d.shape(glyph); len(shape.Ops) > 0 {
		d.c.Fill(shape, d.paint(fill, m, shape.Bounds()), false)
	}
}

// paint is what a shape within bounds is filled with; m maps the space of the fill to that of the shape.
func (d *glyphDrawing) paint(f font.Fill, m display.Matrix, bounds display.Rect) display.Paint {
	if f.Kind == font.SolidFill {
		return display.Solid(d.color(f.Stops[0]))
	}
	g := &display.Gradient{X0: f.X0, Y0: f.Y0, X1: f.X1, Y1: f.Y1, R0: f.R0, R1: f.R1, Matrix: m}
	for _, s := range f.Stops {
		g.Stops = append(g.Stops, display.GradientStop{Offset: s.At, Color: d.color(s)})
	}
	switch f.Kind {
	case font.RadialFill:
		g.Kind = display.Radial
	case font.SweepFill:
		g.Kind, g.Matrix = display.Conic, m.Mul(display.Matrix{1, 0, 0, -1, 0, 2 * f.Y0}) // y down
		g.R1 = reach(g.Matrix, f.X0, f.Y0, bounds)
		g.Angle, g.Stops = 90-f.To, clockwise(g.Stops, (f.To-f.From)/360)
	}
	return display.Paint{Gradient: g, Alpha: 1}
}

// clockwise gives the stops of a sweep through a part of a turn in the other direction.
func clockwise(stops []display.GradientStop, part float64) []display.GradientStop {
	out := make([]display.GradientStop, 0, len(stops)+1)
	for i := len(stops) - 1; i >= 0; i-- {
		out = append(out, display.GradientStop{Offset: math.Min(math.Max((1-stops[i].Offset)*part, 0), 1), Color: stops[i].Color})
	}
	return out
}

// reach is how far bounds are from a point, at most, in the space that m maps from.
func reach(m display.Matrix, x, y float64, bounds display.Rect) (far float64) {
	inv, ok := m.Inverse()
	if !ok {
		return 0
	}
	for _, corner := range [][2]float64{{bounds.X, bounds.Y}, {bounds.X + bounds.W, bounds.Y}, {bounds.X, bounds.Y + bounds.H}, {bounds.X + bounds.W, bounds.Y + bounds.H}} {
		cx, cy := inv.Apply(corner[0], corner[1])
		far = math.Max(far, math.Hypot(cx-x, cy-y))
	}
	return far * 1.1
}

func (d *glyphDrawing) color(s font.FillStop) style.Color {
	c := d.text
	if s.Entry != font.Foreground && s.Entry < len(d.colors) {
		c = d.colors[s.Entry]
	}
	c.A *= float32(math.Min(math.Max(s.Alpha, 0), 1))
	return c
}

// blendModes are PDF's names of the modes from ComposeScreen on.
var blendModes = []string{"Screen", "Overlay", "Darken", "Lighten", "ColorDodge", "ColorBurn", "HardLight", "SoftLight", "Difference", "Exclusion", "Multiply", "Hue", "Saturation", "Color", "Luminosity"}

// Compose draws a source onto a backdrop. Modes that PDF has no way for put the one over the other.
func (d *glyphDrawing) Compose(mode int, source, backdrop func()) {
	on := func(draw func()) func(display.Canvas) {
		return func(c display.Canvas) {
			old := d.c
			d.c = c
			draw()
			d.c = old
		}
	}
	group := display.Group{Alpha: 1, Box: d.box()}
	masked := group
	masked.AlphaMask = true
	switch mode {
	case 0:
	case font.ComposeSource:
		source()
	case font.ComposeBackdrop:
		backdrop()
	case font.ComposeUnder:
		source()
		backdrop()
	case font.ComposeSourceIn:
		masked.Mask = on(backdrop)
		d.c.Group(masked, on(source))
	case font.ComposeBackdropIn:
		masked.Mask = on(source)
		d.c.Group(masked, on(backdrop))
	case font.ComposeAtop:
		masked.Mask = on(backdrop)
		backdrop()
		d.c.Group(masked, on(source))
	default:
		blended := group
		if i := mode - font.ComposeScreen; i >= 0 && i < len(blendModes) {
			blended.Blend = blendModes[i]
		}
		d.c.Group(group, on(func() {
			backdrop()
			d.c.Group(blended, on(source))
		}))
	}
}

// box holds all glyphs of the face, with room for what transforms do.
func (d *glyphDrawing) box() display.Rect {
	b, u := d.face.Box, d.face.Upem
	return display.Rect{X: (b[0] - 1) * u, Y: (b[1] - 1) * u, W: (b[2] - b[0] + 2) * u, H: (b[3] - b[1] + 2) * u}
}
