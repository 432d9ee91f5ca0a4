package picture

import (
	"math"
	"strconv"
	"strings"
	"unicode/utf8"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// text draws a text element with its spans (SVG 2, §11).
func (d *Drawing) text(c display.Canvas, n *markup.Node, s *style.Style) {
	t := &svgText{d: d, c: c}
	t.stretch(n)
	t.walk(n, s, &positions{}, nil)
	t.flush()
}

// svgText is a text element while it is drawn.
type svgText struct {
	d     *Drawing
	c     display.Canvas
	x, y  float64
	chunk []piece // since the last absolute position
	space bool    // the last character is white space, which the next one joins
	path  *svgPath

	length float64 // that the next chunk is to have; 0 for its own
	scaled bool    // its glyphs are stretched for it, too
}

// piece is text that stands together: nothing in it is moved or turned by itself.
type piece struct {
	text   string
	s      *style.Style
	dx, y  float64
	turn   float64 // degrees
	turned bool
	decor  *decoration
}

// decoration is a line drawn along text, which all in an element share.
type decoration struct {
	up *decoration
	s  *style.Style
}

// positions are what places the characters of an element: its attributes one by one, baseline-shift all.
type positions struct {
	x, y, dx, dy, rotate []float64
	at                   int // characters so far
	raised               float64
	up                   *positions
}

// onOneLine has white space as SVG text collapses it (SVG 1.1, §10.15).
var onOneLine = strings.NewReplacer("\n", " ", "\t", " ", "\r", "")

// stretch takes in the length that a text is to have (SVG 2, §11.5).
func (t *svgText) stretch(n *markup.Node) {
	if v := length(n.Attr("textLength"), t.d.view[0]); v > 0 {
		t.length, t.scaled = v, n.Attr("lengthAdjust") == "spacingAndGlyphs"
	}
}

// lengths reads a list of lengths.
func lengths(text string, base float64, s *style.Style) (list []float64) {
	for _, v := range strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(" ,\n\t\r", r) }) {
		if em, ok := strings.CutSuffix(v, "em"); ok {
			f, _ := strconv.ParseFloat(em, 64)
			list = append(list, f*s.FontSize)
		} else if ex, ok := strings.CutSuffix(v, "ex"); ok {
			f, _ := strconv.ParseFloat(ex, 64)
			list = append(list, f*s.FontSize/2)
		} else {
			list = append(list, length(v, base))
		}
	}
	return list
}

func (t *svgText) walk(n *markup.Node, s *style.Style, up *positions, decor *decoration) {
	w, h := t.d.view[0], t.d.view[1]
	here := &positions{x: lengths(n.Attr("x"), w, s), y: lengths(n.Attr("y"), h, s), dx: lengths(n.Attr("dx"), w, s), dy: lengths(n.Attr("dy"), h, s), rotate: numbers(n.Attr("rotate")), up: up}
	if n.Name != "text" { // it moves only what stands in other text
		here.raised = up.raised + s.BaselineShift
	}
	if s.Decoration.Lines() {
		decor = &decoration{decor, s}
	}
	if n.Name == "textPath" {
		path := t.along(n)
		if path == nil {
			return
		}
		t.flush()
		here.x, here.y = nil, nil
		around := t.path // one inside another has no place in SVG, but stands in files
		t.path = path
		defer func() {
			t.flush()
			t.x, t.y = path.end()
			t.path = around
		}()
	}
	for k := n.First; k != nil; k = k.Next {
		switch {
		case k.Kind == markup.Text:
			t.add(t.collapse(k.Text, n, s), s, here, decor)
		case (k.Name == "tspan" || k.Name == "a" || k.Name == "textPath") && t.d.allowed(k):
			if ks := t.d.Styles.Style(k, "", s); ks.Display.Outer != style.None {
				if k.Has("textLength") {
					t.flush()
					t.stretch(k)
				}
				t.walk(k, ks, here, decor)
			}
		}
	}
}

// collapse is text with its white space as it is shown.
func (t *svgText) collapse(text string, n *markup.Node, s *style.Style) string {
	text = onOneLine.Replace(text)
	if s.Collapse != style.CollapseSpace || n.Attr("xml:space") == "preserve" {
		return text
	}
	var b strings.Builder
	for _, r := range text {
		blank := r == ' '
		if blank && (t.space || len(t.chunk) == 0 && b.Len() == 0) {
			continue
		}
		t.space = blank
		b.WriteRune(r)
	}
	return b.String()
}

// place is what the positions around a character say of it: the innermost counts.
type place struct {
	x, y, dx, dy, turn   float64
	hasX, hasY, hasTurn  bool
	movedByDX, movedByDY bool
}

func (p *positions) next() (out place) {
	pick := func(list []float64, at int, v *float64, has *bool) {
		if !*has && at < len(list) {
			*v, *has = list[at], true
		}
	}
	for l := p; l != nil; l = l.up {
		pick(l.x, l.at, &out.x, &out.hasX)
		pick(l.y, l.at, &out.y, &out.hasY)
		pick(l.dx, l.at, &out.dx, &out.movedByDX)
		pick(l.dy, l.at, &out.dy, &out.movedByDY)
		if n := len(l.rotate); n > 0 { // the last one holds for all that follow
			pick(l.rotate, min(l.at, n-1), &out.turn, &out.hasTurn)
		}
		l.at++
	}
	return out
}

// add appends text to the chunk, in pieces where characters are placed by themselves.
func (t *svgText) add(text string, s *style.Style, at *positions, decor *decoration) {
	fresh, from := true, 0 // where in the text the last piece begins
	give := func(end int) {
		if from < end {
			t.chunk[len(t.chunk)-1].text += text[from:end]
		}
		from = end
	}
	for i := range text {
		p := at.next()
		if (p.hasX || p.hasY) && t.path == nil {
			give(i)
			t.flush()
			if p.hasX {
				t.x = p.x
			}
			if p.hasY {
				t.y = p.y
			}
			fresh = true
		}
		t.y += p.dy
		if fresh || p.dx != 0 || p.dy != 0 || p.hasTurn {
			give(i)
			t.chunk = append(t.chunk, piece{s: s, y: t.y - at.raised, dx: p.dx, turn: p.turn, turned: p.turn != 0, decor: decor})
		}
		fresh = false
	}
	give(len(text))
}

// part is a stretch of a piece in one face.
type part struct {
	m   font.Match
	run *font.Run
	w   float64
	p   *piece
}

// parts shapes the pieces of the chunk. It returns their width besides.
func (t *svgText) parts() (parts []part, total float64) {
	for i := range t.chunk {
		p := &t.chunk[i]
		if i == len(t.chunk)-1 && p.s.Collapse == style.CollapseSpace {
			p.text = strings.TrimRight(p.text, " ")
		}
		q := font.Query{Families: p.s.Families, Weight: p.s.FontWeight, Stretch: p.s.FontStretch, Italic: p.s.FontStyle.Kind != style.Normal, Slant: p.s.FontStyle.Angle, Axes: font.Features(p.s.FontAxes())}
		start := 0
		var cur font.Match
		emit := func(end int) {
			if end > start {
				run := cur.Face.Shape(p.text[start:end], font.Script(firstRune(p.text[start:end])), p.s.Lang, false, "")
				w := run.Width*p.s.FontSize/cur.Face.Upem + p.s.LetterSpacing.Of(p.s.FontSize)*float64(len(run.Glyphs)) + p.s.WordSpacing.Of(p.s.FontSize)*float64(strings.Count(run.Text, " "))
				parts = append(parts, part{cur, run, w, p})
				total += w
			}
			start = end
		}
		for j, r := range p.text {
			m, _ := t.d.Fonts.For(q, r)
			if cur.Face != nil && m.Face != cur.Face {
				emit(j)
			}
			cur = m
		}
		if cur.Face != nil {
			emit(len(p.text))
		}
		total += p.dx
	}
	return parts, total
}

// flush draws the chunk, anchored at its position.
func (t *svgText) flush() {
	parts, total := t.parts()
	if len(parts) == 0 {
		t.chunk = nil
		return
	}
	spacing, wide := t.fit(parts, total)
	if t.length > 0 {
		total = t.length
	}
	x := t.x
	if t.path != nil {
		x = t.path.start
	}
	switch t.chunk[0].s.TextAnchor {
	case style.Middle:
		x -= total / 2
	case style.End:
		x -= total
	}
	draw := func() {
		var last *piece
		for _, p := range parts {
			if p.p != last {
				x += p.p.dx
				last = p.p
			}
			if t.path != nil {
				x = t.onPath(p, x, spacing)
				continue
			}
			t.draw(p, x, p.p.y, spacing)
			x += p.w + spacing*float64(len(p.run.Glyphs))
		}
	}
	if wide != 1 {
		t.d.in(t.c, display.Matrix{wide, 0, 0, 1, x * (1 - wide), 0}, draw)
	} else {
		draw()
	}
	if t.x = x; t.path != nil {
		t.path.start = x
	}
	t.chunk, t.length = nil, 0
}

// fit is the space after each glyph, or how much wider all is drawn, so that a chunk has
// the length that is asked for.
func (t *svgText) fit(parts []part, total float64) (spacing, wide float64) {
	glyphs := 0
	for _, p := range parts {
		glyphs += len(p.run.Glyphs)
	}
	switch {
	case t.length <= 0 || total <= 0:
	case t.scaled:
		return 0, t.length / total
	case glyphs > 1:
		return (t.length - total) / float64(glyphs-1), 1
	}
	return 0, 1
}

// draw draws a part at x on the baseline y.
func (t *svgText) draw(p part, x, y, spacing float64) {
	s := p.p.s
	if s.Visibility != style.Visible {
		return
	}
	shift := baseline(p.m.Face, s)
	if p.p.turned {
		sin, cos := math.Sincos(p.p.turn * math.Pi / 180)
		t.d.in(t.c, display.Matrix{cos, sin, -sin, cos, x, y}, func() { t.glyphs(p, 0, shift, spacing) })
		return
	}
	t.glyphs(p, x, y+shift, spacing)
}

// baseline is how far below its position the baseline of text lies (SVG 2, §11.10.2).
func baseline(f *font.Face, s *style.Style) float64 {
	switch s.DominantBaseline {
	case style.Middle:
		return f.XHeight * s.FontSize / 2
	case style.Central:
		return (f.Ascent - f.Descent) * s.FontSize / 2
	case style.Hanging:
		return f.Ascent * s.FontSize * 0.8
	case style.TextBeforeEdge:
		return f.Ascent * s.FontSize
	case style.TextAfterEdge, style.Ideographic:
		return -f.Descent * s.FontSize
	case style.Mathematical:
		return f.Ascent * s.FontSize / 2
	}
	return 0
}

func (t *svgText) glyphs(p part, x, y, spacing float64) {
	s, f := p.p.s, p.m.Face
	box := display.Rect{X: x, Y: y - f.Ascent*s.FontSize, W: p.w, H: (f.Ascent + f.Descent) * s.FontSize}
	w := p.w + spacing*float64(len(p.run.Glyphs))
	text := &display.Text{
		Face: f, Size: s.FontSize, Bold: p.m.Bold, Oblique: p.m.Oblique, X: x, Y: y, Runs: []*font.Run{p.run},
		LetterSpacing: s.LetterSpacing.Of(s.FontSize) + spacing, WordSpacing: s.WordSpacing.Of(s.FontSize),
	}
	t.decorate(p, x, y, w, false)
	for step := range strings.FieldsSeq(s.PaintOrder) {
		switch step {
		case "fill":
			if paint, ok := t.d.paint(s.Fill, s, s.FillOpacity, box); ok {
				text.Paint = paint
				t.c.Text(text)
			}
		case "stroke":
			if paint, ok := t.d.paint(s.Stroke, s, s.StrokeOpacity, box); ok {
				t.d.strokePath(t.c, text.Outline(), paint, s)
			}
		}
	}
	t.decorate(p, x, y, w, true)
}

// decorate draws the lines of text-decoration below the letters, or the one through
// them above (SVG 2, §11.12).
func (t *svgText) decorate(p part, x, y, w float64, through bool) {
	f := p.m.Face
	for l := p.p.decor; l != nil; l = l.up {
		size := l.s.FontSize
		line := func(at, thick float64) {
			path := &display.Path{}
			path.Rect(display.Rect{X: x, Y: y + at*size - thick*size/2, W: w, H: thick * size})
			if paint, ok := t.d.paint(l.s.Fill, l.s, l.s.FillOpacity, path.Bounds()); ok {
				t.c.Fill(path, paint, false)
			}
		}
		switch {
		case through:
			if l.s.Decoration.Through {
				line(-f.StrikePos+f.StrikeSize/2, f.StrikeSize)
			}
		default:
			if l.s.Decoration.Underline {
				line(f.UnderlinePos, f.UnderlineSize)
			}
			if l.s.Decoration.Overline {
				line(-f.Ascent, f.UnderlineSize)
			}
		}
	}
}

func firstRune(s string) rune {
	r, _ := utf8.DecodeRuneInString(s)
	return r
}
