package pdf

import (
	"fmt"
	"math"
	"strings"
	"unicode/utf16"
	"unicode/utf8"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
)

// wide is the letter spacing, in parts of the font size, from which on readers take the
// letters of a word for words.
const wide = 0.1

// glyphRuns writes the runs of a text as TJ operators, with ActualText where a glyph
// stands for other text than before, and for words set so wide that readers would
// take them for single letters (§14.9.4).
type glyphRuns struct {
	c      *Content
	t      *display.Text
	face   *embedded
	skew   float64
	open   bool    // a string is
	begun  int     // where it begins
	x, pen float64 // where the next glyph belongs, and where TJ would put it, in px
	away   bool    // between two marked-content sequences, which stand outside of BT and ET
}

func (r *glyphRuns) write() {
	for _, run := range r.t.Runs {
		word := r.t.LetterSpacing >= wide*r.t.Size && len(run.Glyphs) > 1 && !r.t.Copy
		if word {
			r.standFor(strip(run.Text))
		}
		for rest := run.Glyphs; len(rest) > 0; {
			n := clusterLen(rest)
			r.cluster(run, rest[:n], word)
			rest = rest[n:]
		}
		if word {
			r.asDrawn()
		}
	}
	if r.away {
		r.back(r.c.mark)
	}
	r.gap()
	r.stop()
}

// cluster writes glyphs that belong together; in a word their text is told already.
func (r *glyphRuns) cluster(run *font.Run, list []font.Glyph, word bool) {
	text := clusterText(run, list)
	same := r.uses(list, text) || word || r.t.Copy
	if !same {
		r.standFor(text)
	}
	for i := range list {
		r.put(run, &list[i])
	}
	if !same {
		r.asDrawn()
	}
}

// uses notes glyphs in the font, and tells whether their text is what they stand for there.
func (r *glyphRuns) uses(list []font.Glyph, text string) bool {
	if len(list) == 1 {
		return list[0].ID == uint32(font.EmptyID) || r.face.use(list[0].ID, text)
	}
	for i := range list {
		r.face.use(list[i].ID, alone(r.t.Face, list[i].ID, text))
	}
	return false
}

// gap ends a text that another word follows with a space that is not seen.
func (r *glyphRuns) gap() {
	if g := r.t.Face.Glyph(' '); r.t.Gap && g != 0 && !r.t.Copy && r.c.w.structure != nil {
		r.face.use(g, " ")
		r.start()
		r.c.buf = appendCode(r.c.buf, g)
	}
}

// put writes a glyph where it belongs.
func (r *glyphRuns) put(run *font.Run, g *font.Glyph) {
	c, scale := r.c, r.t.Size/r.t.Face.Upem
	if g.ID == uint32(font.EmptyID) {
		r.x += g.Advance * scale
		return
	}
	if r.away {
		r.back(c.mark)
	}
	at := r.x + float64(g.XOff)*scale
	if g.YOff != 0 {
		r.stop()
		c.place(r.skew, r.t.X+at, r.t.Y-float64(g.YOff)*scale)
		r.pen = at
	}
	r.start()
	if d := at - r.pen; math.Abs(d) > 1e-4*r.t.Size {
		c.buf = append(c.buf, ')')
		c.buf = appendNum(c.buf, -d/r.t.Size*1000)
		c.buf = append(c.buf, '(')
		r.pen, r.begun = at, len(c.buf)
	}
	if len(c.buf)-r.begun > mostString { // archives know no longer ones
		c.buf = append(c.buf, ")("...)
		r.begun = len(c.buf)
	}
	c.buf = appendCode(c.buf, g.ID)
	r.pen += r.t.Face.GlyphWidth(g.ID) * r.t.Size
	if g.YOff != 0 {
		r.stop()
		c.place(r.skew, r.t.X+r.pen, r.t.Y)
	}
	r.advance(run, g)
}

// advance goes on to where the next glyph belongs.
func (r *glyphRuns) advance(run *font.Run, g *font.Glyph) {
	r.x += g.Advance * (r.t.Size / r.t.Face.Upem)
	if g.Chars == 0 {
		return
	}
	r.x += r.t.LetterSpacing
	if first, _ := utf8.DecodeRuneInString(run.Text[g.Cluster:]); r.t.WordSpacing != 0 && (first == ' ' || first == 0xA0) {
		r.x += r.t.WordSpacing
	}
}

// start begins a string, if none is open.
func (r *glyphRuns) start() {
	if !r.open {
		r.c.buf = append(r.c.buf, "[("...)
		r.open, r.begun = true, len(r.c.buf)
	}
}

func (r *glyphRuns) stop() {
	if r.open {
		r.c.buf = append(r.c.buf, ")]TJ\n"...)
		r.open = false
	}
}

// standFor says that what follows stands for other text than its glyphs do.
func (r *glyphRuns) standFor(text string) {
	if !r.away && !r.c.tagged() {
		r.stop()
		r.c.op("/Span<</ActualText" + actual(text) + ">>BDC")
		return
	}
	r.leave()
	r.back(func() { r.c.markAs(text) })
}

// asDrawn ends that.
func (r *glyphRuns) asDrawn() {
	if !r.c.tagged() {
		r.stop()
		r.c.op("EMC")
		return
	}
	r.leave()
}

// leave ends the text object, and the marked content that it stands in.
func (r *glyphRuns) leave() {
	r.stop()
	if !r.away {
		r.c.op("ET")
		r.c.unmark()
		r.away = true
	}
}

// back begins marked content, and a text object in it.
func (r *glyphRuns) back(begin func()) {
	begin()
	r.c.op("BT")
	r.c.place(r.skew, r.t.X+r.x, r.t.Y)
	r.pen, r.away = r.x, false
}

// clusterLen is how many of the glyphs that come next stand for the same characters.
func clusterLen(list []font.Glyph) int {
	n := 1
	for n < len(list) && list[n].Cluster == list[0].Cluster {
		n++
	}
	return n
}

// clusterText is what the glyphs of a cluster stand for together.
func clusterText(run *font.Run, list []font.Glyph) string {
	for i := range list {
		if g := &list[i]; g.Chars > 0 && int(g.Cluster+g.Chars) <= len(run.Text) {
			return strip(run.Text[g.Cluster : g.Cluster+g.Chars])
		}
	}
	return ""
}

// alone is the character of a cluster that a glyph of it stands for by itself: the one that
// the font gives it to, or else the first.
func alone(f *font.Face, glyph uint32, text string) string {
	for _, r := range text {
		if f.Glyph(r) == glyph {
			return string(r)
		}
	}
	for _, r := range text {
		return string(r)
	}
	return ""
}

func strip(s string) string {
	if len(s) == 1 || !strings.ContainsAny(s, "\u200B\u2060\uFEFF") {
		return s
	}
	return strings.Map(func(r rune) rune {
		if r == 0x200B || r == 0x2060 || r == 0xFEFF {
			return -1
		}
		return r
	}, s)
}

// appendCode writes a glyph's two bytes into a literal string (§7.3.4.2).
func appendCode(b []byte, g uint32) []byte {
	for _, ch := range [2]byte{byte(g >> 8), byte(g)} {
		switch ch {
		case '(', ')', '\\':
			b = append(b, '\\', ch)
		case '\r': // alone it would be read as a line feed
			b = append(b, '\\', 'r')
		default:
			b = append(b, ch)
		}
	}
	return b
}

func actual(s string) string {
	out := "<FEFF"
	for _, u := range utf16.Encode([]rune(s)) {
		out += fmt.Sprintf("%04X", u)
	}
	return out + ">"
}
