package paint

import (
	"iter"
	"math"
	"strings"
	"unicode/utf8"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/style"
)

// text paints a run with its shadows and decorations.
func (p *Painter) text(f *layout.Fragment, x, y float64) {
	t := f.Text
	s := t.Style
	if s.Visibility != style.Visible {
		return
	}
	if t.Turn != 0 {
		p.turned(f, x, y, func(flat *layout.Fragment) { p.text(flat, 0, 0) })
		return
	}
	base := display.Snap(y + t.Ascent)
	out := &p.words // canvases do not keep it
	*out = textAt(t, x, base)
	for i := len(s.TextShadow) - 1; i >= 0; i-- {
		sh := s.TextShadow[i]
		c := *out
		col := sh.Color.Or(s.Color)
		p.blurred(sh.Blur, col, func(dx, dy float64, col style.Color) {
			c.X, c.Y, c.Paint, c.Copy = x+sh.X+dx, base+sh.Y+dy, display.Solid(col), true
			p.lines(f, c.X, y, c.Y-base, false, &col)
			p.standing(t, &c, false)
			p.lines(f, c.X, y, c.Y-base, true, &col)
		})
	}
	p.lines(f, x, y, 0, false, nil)
	fill := s.TextFill.Or(s.Color)
	out.Paint = display.Solid(fill)
	p.tagText(f)
	strokes := s.TextStroke > 0
	under := strokes && strings.HasPrefix(s.PaintOrder, "stroke")
	if under {
		p.strokeText(t, out)
	}
	if fill.A == 0 { // it is seen by what lies behind it, and is to be found
		out.Hidden, out.Paint = true, display.Solid(style.RGB8(0, 0, 0))
	}
	p.standing(t, out, t.Match.Face.HasColors() && !out.Hidden)
	if strokes && !under {
		p.strokeText(t, out)
	}
	p.C.Tag(nil, 0)
	p.lines(f, x, y, 0, true, nil)
}

// textAt is a run of text at x on the baseline y.
func textAt(t *layout.TextRun, x, y float64) display.Text {
	slant := 0.0
	if t.Style.Slants() {
		slant = t.Match.Oblique
	}
	return display.Text{
		Face: t.Match.Face, Size: t.Size, Bold: t.Match.Bold && t.Style.SynthesisWeight != style.None, Oblique: slant, X: x, Y: y, Runs: t.Runs,
		LetterSpacing: t.LetterSpacing, WordSpacing: t.WordSpacing, Gap: t.Gap,
	}
}

// strokeText outlines letters (Compatibility, §4.7).
func (p *Painter) strokeText(t *layout.TextRun, text *display.Text) {
	s := t.Style
	if col := s.TextStrokeColor.Or(s.Color); col.A > 0 {
		p.C.Stroke(runOutline(t, text), display.Solid(col), display.Stroke{Width: s.TextStroke, Miter: 4})
	}
}

// letters paints the text in a fragment at x, y and its decorations as plain shapes, all black:
// what is seen through them is no text once more. A mask has them rather than a path to clip to,
// which some viewers fit to whole pixels.
func (p *Painter) letters(f *layout.Fragment, x, y float64) {
	black := style.RGB8(0, 0, 0)
	t := f.Text
	switch {
	case t == nil:
		for _, k := range f.Kids {
			p.letters(k.F, x+k.X, y+k.Y)
		}
	case t.Style.Visibility != style.Visible:
	case t.Turn != 0:
		p.turned(f, x, y, func(flat *layout.Fragment) { p.letters(flat, 0, 0) })
	default:
		text := textAt(t, x, display.Snap(y+t.Ascent))
		p.lines(f, x, y, 0, false, &black)
		p.C.Fill(runOutline(t, &text), display.Solid(black), false)
		p.lines(f, x, y, 0, true, &black)
	}
}

// runOutline is the shape of a run.
func runOutline(t *layout.TextRun, text *display.Text) *display.Path {
	if !t.Upright {
		return text.Outline()
	}
	path := &display.Path{}
	for one, m := range uprightGlyphs(text) {
		path.Append(one.Outline().Transform(m))
	}
	return path
}

// turned draws a run of a vertical line as if it were horizontal, at 0, 0 under a quarter turn.
func (p *Painter) turned(f *layout.Fragment, x, y float64, draw func(flat *layout.Fragment)) {
	x, y = display.Snap(x), display.Snap(y)
	m := map[int]display.Matrix{1: {0, 1, -1, 0, x + f.W, y}, 2: {-1, 0, 0, -1, x + f.W, y + f.H}, 3: {0, -1, 1, 0, x, y + f.H}}[f.Text.Turn]
	t := *f.Text
	t.Turn = 0
	flat := *f
	flat.Text = &t
	if f.Text.Turn != 2 {
		flat.W, flat.H = f.H, f.W
	}
	p.C.Save()
	p.C.Transform(m)
	draw(&flat)
	p.C.Restore()
}

// standing draws a run, in the colours of its font or in its own: as it is, or each glyph turned
// back where it stands upright in a line that is turned.
func (p *Painter) standing(t *layout.TextRun, all *display.Text, colored bool) {
	if !t.Upright {
		p.glyphs(t, all, colored)
		return
	}
	for one, m := range uprightGlyphs(all) {
		p.C.Save()
		p.C.Transform(m)
		p.glyphs(t, one, colored)
		p.C.Restore()
	}
}

func (p *Painter) glyphs(t *layout.TextRun, text *display.Text, colored bool) {
	if colored {
		p.colorText(t, text)
	} else {
		p.C.Text(text)
	}
}

// uprightGlyphs gives each glyph of a run as text of its own, with what turns it back where
// its line is turned.
func uprightGlyphs(all *display.Text) iter.Seq2[*display.Text, display.Matrix] {
	face := all.Face
	em := all.Size
	lean := display.Matrix{1, math.Tan(all.Oblique * math.Pi / 180), 0, 1, 0, 0} // along the line
	return func(yield func(*display.Text, display.Matrix) bool) {
		x := all.X
		for _, run := range all.Runs {
			for i := range run.Glyphs {
				g := run.Glyphs[i]
				one := *all
				one.Oblique = 0
				part := *run
				part.Glyphs = []font.Glyph{g}
				natural := face.GlyphAdvance(g.ID) * em
				one.Runs = []*font.Run{&part}
				one.X, one.Y = -natural/2, (face.Ascent-face.Descent)*em/2
				m := display.Matrix{0, -1, 1, 0, x + em/2, all.Y - (face.Ascent-face.Descent)*em/2}
				if !yield(&one, m.Mul(lean)) {
					return
				}
				x += g.Advance*em/face.Upem + all.LetterSpacing
			}
		}
	}
}

// blurred draws copies around a place so that they add up to a soft shadow.
func (p *Painter) blurred(blur float64, col style.Color, draw func(dx, dy float64, col style.Color)) {
	if blur < 0.5 {
		draw(0, 0, col)
		return
	}
	const n = 8
	sigma := blur / 2
	soft := col
	soft.A = 1 - float32(math.Pow(1-float64(col.A), 1.0/10))
	for ring := 1; ring <= 2; ring++ {
		for i := range n {
			a := 2 * math.Pi * float64(i) / n
			r := sigma * float64(ring) / 1.6
			draw(r*math.Cos(a), r*math.Sin(a), soft)
		}
	}
}

// lines paints underline and overline below the text, line-through above it
// (CSS Text Decoration 3, §2). Of a shadow, down is how far it lies below the text
// and shadow its colour.
func (p *Painter) lines(f *layout.Fragment, x, y, down float64, through bool, shadow *style.Color) {
	var list []*box.Decor
	for d := f.Text.Decor; d != nil; d = d.Up {
		list = append(list, d)
	}
	for i := len(list) - 1; i >= 0; i-- {
		s := list[i].Style
		col := s.Decoration.Color.Or(s.Color)
		if shadow != nil {
			col = *shadow
		}
		var l layout.DecorLine // of the box that decorates: what it decorates shares one line
		if f.Text.Lines != nil {
			l = f.Text.Lines[i]
		}
		base := y + f.Text.Ascent
		ln := decorLine{
			style: s,
			at:    display.Snap(base+l.Below) + down,
			from:  x - l.Before,
			thick: thickness(s.Decoration, f.Text.Match.Face, s.FontSize, through),
			color: col,
		}
		p.line(&ln, f, x, display.Snap(base)+down, through)
	}
}

// decorLine is what a box gives to its text on one line: at is its own baseline, from where its dots or dashes begin.
type decorLine struct {
	style    *style.Style
	at, from float64
	thick    float64
	color    style.Color
}

// line paints the lines of one decoration. base is the baseline of the text.
func (p *Painter) line(ln *decorLine, f *layout.Fragment, x, base float64, through bool) {
	s, at := ln.style, ln.at
	d := s.Decoration
	if through != d.Through && (through || !d.Underline && !d.Overline) {
		return
	}
	face := f.Text.Match.Face
	size := s.FontSize
	thick := ln.thick
	draw := func(y float64) {
		if through || f.Text.Style.SkipInk == style.None || f.Text.Upright {
			p.rule(ln, x, y, f.W)
			return
		}
		for _, part := range clear(f.Text, x, base, y, f.W, thick) {
			p.rule(ln, part[0], y, part[1]-part[0])
		}
	}
	if through {
		y := at - face.XHeight*size/2
		if face.StrikePos > 0 {
			y = at - face.StrikePos*size
		}
		draw(y)
		return
	}
	if d.Underline {
		y := at + math.Max(face.UnderlinePos*size, thick)
		if face.UnderlinePos == 0 {
			y = at + size/9
		}
		if o := s.UnderlineOffset; o.Kind == style.Length {
			y = at + o.Px + thick/2
		}
		if s.UnderlinePosition.String() == "under" {
			y = at + face.Descent*size + thick/2
		}
		draw(y)
	}
	if d.Overline {
		draw(at - face.Ascent*size + thick/2)
	}
}

// thickness is that of a decoration's line, in px (CSS Text Decoration 4, §2.4). What the font asks for is
// often too thin for print: unless it is asked for, a line has at least a sixteenth of the font's size.
func thickness(d style.Decoration, face *font.Face, size float64, through bool) float64 {
	own := face.UnderlineSize
	if through && face.StrikeSize > 0 {
		own = face.StrikeSize
	}
	switch {
	case d.Thickness.Kind == style.Length:
		return math.Max(d.Thickness.Px, 0.25)
	case d.Thickness.Kind == style.FromFont && own > 0:
		return math.Max(own*size, 0.25)
	}
	return max(face.UnderlineSize*size, size/16, 0.5)
}

// clear gives the parts of an underline or overline that keep clear of the
// glyphs (CSS Text Decoration 4, §2.7). Ideographs are crossed.
func clear(t *layout.TextRun, x, base, y, w, thick float64) [][2]float64 {
	face := t.Match.Face
	scale := t.Size / face.Upem
	lo, hi := (base-y-thick/2)/scale, (base-y+thick/2)/scale
	end := x + w
	var parts [][2]float64
	from, pen := x, x
	for _, run := range t.Runs {
		for i := range run.Glyphs {
			g := &run.Glyphs[i]
			at := pen + float64(g.XOff)*scale
			pen += g.Advance * scale
			if g.Chars > 0 {
				pen += t.LetterSpacing
				if r, _ := utf8.DecodeRuneInString(run.Text[min(int(g.Cluster), len(run.Text)):]); r == ' ' || r == 0xA0 {
					pen += t.WordSpacing
				} else if t.Style.SkipInk == style.Auto && r >= 0x2E80 {
					continue
				}
			}
			left, right, ok := face.Ink(g.ID, lo, hi)
			if !ok {
				continue
			}
			stop := at + left*scale - thick
			if stop-from > thick { // slivers are left out
				parts = append(parts, [2]float64{from, stop})
			}
			from = math.Max(from, at+right*scale+thick)
		}
	}
	if end-from > thick || from == x {
		parts = append(parts, [2]float64{from, end})
	}
	return parts
}

// rule draws a part of a decoration line centred on y. Dots and dashes go on where those before it ended.
func (p *Painter) rule(ln *decorLine, x, y, w float64) {
	kind, thick, col := ln.style.Decoration.Style, ln.thick, ln.color
	path := &display.Path{}
	switch kind {
	case style.Wavy:
		step := thick * 3
		path.MoveTo(x, y)
		up := -1.0
		for at := x; at < x+w; at += step {
			end := math.Min(at+step, x+w)
			path.CurveTo(at+(end-at)/3, y+up*thick*2, at+2*(end-at)/3, y+up*thick*2, end, y)
			up = -up
		}
		p.C.Stroke(path, display.Solid(col), display.Stroke{Width: thick})
		return
	case style.Dotted, style.Dashed:
		path.MoveTo(x, y)
		path.LineTo(x+w, y)
		st := display.Stroke{Width: thick, Dash: []float64{3 * thick, 2 * thick}, DashOffset: math.Mod(x-ln.from, 5*thick)}
		if kind == style.Dotted { // the first dot begins with the line
			st.Dash, st.Cap, st.DashOffset = []float64{0, 2 * thick}, 1, math.Mod(x-ln.from+1.5*thick, 2*thick)
		}
		p.C.Stroke(path, display.Solid(col), st)
		return
	case style.Double:
		path.Rect(display.Rect{X: x, Y: y + thick, W: w, H: thick})
		path.Rect(display.Rect{X: x, Y: y - thick, W: w, H: thick})
	default:
		path.Rect(display.Rect{X: x, Y: y - thick/2, W: w, H: thick})
	}
	p.C.Fill(path, display.Solid(col), false)
}
