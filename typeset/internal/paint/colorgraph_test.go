package paint

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/style"
)

// drawing is one with palette entries red and blue, on a scribe.
func drawing() (*glyphDrawing, *scribe) {
	m := font.NewSet().Primary(font.Query{Families: []string{"Arial"}, Weight: 400, Stretch: 100})
	s := &scribe{}
	return &glyphDrawing{s, m.Face, []style.Color{style.RGB8(255, 0, 0), style.RGB8(0, 0, 255)}, style.RGB8(0, 128, 0)}, s
}

func TestFillsOfColorGlyphs(t *testing.T) {
	d, _ := drawing()
	same := display.Identity
	area := display.Rect{W: 100, H: 100}
	half := func(entry int, alpha float64) font.FillStop { return font.FillStop{Entry: entry, Alpha: alpha} }
	assert.Equal(t, style.RGB8(255, 0, 0), d.paint(font.Fill{Stops: []font.FillStop{half(0, 1)}}, same, area).Color)
	assert.Equal(t, float32(0.5), d.paint(font.Fill{Stops: []font.FillStop{half(1, 0.5)}}, same, area).Color.A)
	assert.Equal(t, style.RGB8(0, 128, 0), d.paint(font.Fill{Stops: []font.FillStop{half(font.Foreground, 3)}}, same, area).Color, "the colour of the text")
	assert.Equal(t, style.RGB8(0, 128, 0), d.paint(font.Fill{Stops: []font.FillStop{half(2, 1)}}, same, area).Color, "an entry that is not there")

	stops := []font.FillStop{{At: 0, Entry: 0, Alpha: 1}, {At: 1, Entry: 1, Alpha: 1}}
	moved := display.Translate(5, 6)
	g := d.paint(font.Fill{Kind: font.RadialFill, X0: 1, Y0: 2, R0: 3, X1: 4, Y1: 5, R1: 6, Stops: stops}, moved, area).Gradient
	assert.Equal(t, &display.Gradient{
		Kind: display.Radial, X0: 1, Y0: 2, R0: 3, X1: 4, Y1: 5, R1: 6, Matrix: moved,
		Stops: []display.GradientStop{{Offset: 0, Color: style.RGB8(255, 0, 0)}, {Offset: 1, Color: style.RGB8(0, 0, 255)}},
	}, g)

	// a quarter turn against the clock from the right is, with the clock from above, the first quarter backwards
	g = d.paint(font.Fill{Kind: font.SweepFill, X0: 30, Y0: 40, From: 0, To: 90, Stops: stops}, same, area).Gradient
	assert.Equal(t, display.Conic, g.Kind)
	assert.Equal(t, 0.0, g.Angle)
	assert.Equal(t, display.Matrix{1, 0, 0, -1, 0, 80}, g.Matrix)
	assert.Equal(t, []display.GradientStop{{Offset: 0, Color: style.RGB8(0, 0, 255)}, {Offset: 0.25, Color: style.RGB8(255, 0, 0)}}, g.Stops)
	assert.InDelta(t, 92.2*1.1, g.R1, 0.1, "to the farthest corner")
}

func TestComposedColorGlyphs(t *testing.T) {
	say := func(d *glyphDrawing, name string) func() {
		return func() {
			d.c.Fill(&display.Path{}, display.Solid(map[string]style.Color{"source": style.RGB8(1, 1, 1), "backdrop": style.RGB8(2, 2, 2)}[name]), false)
		}
	}
	const source, backdrop = "fill  with #010101\n", "fill  with #020202\n"
	const box, mask = " in -3162 -2669 7876 6724\n", "masked by alpha=true\n"
	const group = "group alpha 1 Normal" + box
	for mode, want := range map[int]string{
		0:                      "",
		font.ComposeSource:     source,
		font.ComposeBackdrop:   backdrop,
		font.ComposeUnder:      source + backdrop,
		font.ComposeOver:       group + "  " + backdrop + "  " + group + "    " + source,
		font.ComposeScreen + 1: group + "  " + backdrop + "  group alpha 1 Overlay" + box + "    " + source,
		font.ComposeSourceIn:   group + "  " + source + mask + "  " + backdrop,
		font.ComposeBackdropIn: group + "  " + backdrop + mask + "  " + source,
		font.ComposeAtop:       backdrop + group + "  " + source + mask + "  " + backdrop,
	} {
		d, s := drawing()
		d.Compose(mode, say(d, "source"), say(d, "backdrop"))
		assert.Equal(t, want, s.b.String(), "%d", mode)
	}
}

func TestShapesOfColorGlyphs(t *testing.T) {
	d, s := drawing()
	bar := d.face.Glyph('|')
	d.FillGlyph(bar, font.Fill{Stops: []font.FillStop{{Alpha: 1}}}, display.Identity)
	d.Save()
	d.Transform([6]float64{2, 0, 0, 2, 0, 0})
	d.Clip(bar)
	d.Restore()
	d.FillGlyph(d.face.Glyph(' '), font.Fill{Stops: []font.FillStop{{Alpha: 1}}}, display.Identity)
	assert.Equal(t, "fill M183 -434 L183 1484 L349 1484 L349 -434 L183 -434 Z with #ff0000\n"+
		"save\n  transform 2 0 0 2 0 0\n  clip M183 -434 L183 1484 L349 1484 L349 -434 L183 -434 Z\nrestore\n", s.b.String())
}
