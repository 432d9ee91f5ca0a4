package paint

import (
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/style"
)

// colorText paints glyphs that have colours of their own: the text itself
// stays unseen, and its shapes are filled on top.
func (p *Painter) colorText(t *layout.TextRun, out *display.Text) {
	hidden := *out
	hidden.Hidden = true
	p.C.Text(&hidden)
	colors := paletteOf(t)
	k := out.Size / out.Face.Upem
	x := out.X
	for _, run := range out.Runs {
		for _, g := range run.Glyphs {
			at, y := x+float64(g.XOff)*k, out.Y-float64(g.YOff)*k
			layers := out.Face.Layers(g.ID)
			if graph := (&glyphDrawing{p.C, out.Face, colors, t.Style.Color}); p.drawGlyph(graph, g.ID, at, y, k) {
				layers = []font.Layer{}
			}
			if layers == nil {
				layers = []font.Layer{{Glyph: g.ID, Entry: font.Foreground}}
			}
			for _, l := range layers {
				col := t.Style.Color
				if l.Entry != font.Foreground && l.Entry < len(colors) {
					col = colors[l.Entry]
				}
				shape := &display.Path{}
				shape.Glyph(out.Face, l.Glyph, at, y, k)
				if len(shape.Ops) > 0 {
					p.C.Fill(shape, display.Solid(col), false)
				}
			}
			x += g.Advance * k
			if g.Chars > 0 {
				x += out.LetterSpacing
				if run.Text == " " {
					x += out.WordSpacing
				}
			}
		}
	}
}

// paletteOf gives the colours of a run's face, as font-palette picks them
// (CSS Fonts 4, §9.1).
func paletteOf(t *layout.TextRun) []style.Color {
	list := t.Match.Face.Palettes()
	if len(list) == 0 {
		return nil
	}
	want := t.Style.FontPalette
	rule := want.For(t.Match.Family())
	pick := 0
	switch {
	case rule != nil:
		pick = choose(list, rule.Light, rule.Dark, rule.Base)
	case want != nil:
		pick = choose(list, want.Light, want.Dark, 0)
	}
	out := make([]style.Color, len(list[pick].Colors))
	for i, c := range list[pick].Colors {
		out[i] = style.RGB8(c[0], c[1], c[2])
		out[i].A = float32(c[3]) / 255
	}
	if rule != nil {
		for i, c := range rule.Override {
			if i < len(out) {
				out[i] = c
			}
		}
	}
	return out
}

func choose(list []font.Palette, light, dark bool, base int) int {
	for i, p := range list {
		if light && p.Light || dark && p.Dark {
			return i
		}
	}
	if base < len(list) {
		return base
	}
	return 0
}
