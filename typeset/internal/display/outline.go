package display

import (
	"math"
	"strings"

	"oliveledger/typeset/internal/font"
)

// Outline is the shape of the letters as the text is spaced and slanted.
func (t *Text) Outline() *Path {
	p := &Path{}
	k, x := t.Size/t.Face.Upem, t.X
	for _, run := range t.Runs {
		for _, g := range run.Glyphs {
			p.Glyph(t.Face, g.ID, x+float64(g.XOff)*k, t.Y-float64(g.YOff)*k, k)
			x += g.Advance * k
			if g.Chars > 0 {
				x += t.LetterSpacing
				if c := run.Text[g.Cluster:]; strings.HasPrefix(c, " ") || strings.HasPrefix(c, "\u00A0") {
					x += t.WordSpacing
				}
			}
		}
	}
	if t.Oblique == 0 {
		return p
	}
	lean := math.Tan(t.Oblique * math.Pi / 180)
	return p.Transform(Matrix{1, 0, -lean, 1, lean * t.Y, 0})
}

// Glyph adds the shape of one glyph at x on the baseline y; a font unit is k px
// long.
func (p *Path) Glyph(f *font.Face, id uint32, x, y, k float64) {
	var px, py float64
	at := func(ax, ay float32) (float64, float64) { return x + float64(ax)*k, y - float64(ay)*k }
	segments := f.Outline(id)
	for i, s := range segments {
		a := s.ArgsSlice()
		switch len(a) {
		case 1:
			nx, ny := at(a[0].X, a[0].Y)
			if s.Op == 0 {
				if i > 0 {
					p.Close()
				}
				p.MoveTo(nx, ny)
			} else {
				p.LineTo(nx, ny)
			}
			px, py = nx, ny
		case 2:
			cx, cy := at(a[0].X, a[0].Y)
			nx, ny := at(a[1].X, a[1].Y)
			p.QuadTo(px, py, cx, cy, nx, ny)
			px, py = nx, ny
		case 3:
			ax, ay := at(a[0].X, a[0].Y)
			bx, by := at(a[1].X, a[1].Y)
			nx, ny := at(a[2].X, a[2].Y)
			p.CurveTo(ax, ay, bx, by, nx, ny)
			px, py = nx, ny
		}
	}
	if len(segments) > 0 {
		p.Close()
	}
}
