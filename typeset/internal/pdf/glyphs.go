package pdf

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"unicode/utf16"
	"unicode/utf8"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
)

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
		word := setWide(r.t) && r.face.wider == 0 && len(run.Glyphs) > 1
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
	same := r.encode(list, text) || word || r.t.Copy
	if !same {
		r.standFor(text)
	}
	for i := range list {
		r.put(run, &list[i], r.c.codes[i])
	}
	if !same {
		r.asDrawn()
	}
}

// encode finds the codes of glyphs, and tells whether these alone say their text to all readers.
func (r *glyphRuns) encode(list []font.Glyph, text string) (same bool) {
	r.c.codes = r.c.codes[:0]
	if len(list) == 1 {
		g := list[0].ID
		if g == uint32(font.EmptyID) {
			r.c.codes = append(r.c.codes, g)
			return true
		}
		code, ok := r.face.code(g, text)
		r.c.codes = append(r.c.codes, code)
		return ok
	}
	for i, share := range shares(r.t.Face, list, text) {
		code, _ := r.face.code(list[i].ID, share)
		r.c.codes = append(r.c.codes, code)
	}
	return false
}

// gap ends a text that another word follows with a space that is not seen.
func (r *glyphRuns) gap() {
	if g := r.t.Face.Glyph(' '); r.t.Gap && g != 0 && !r.t.Copy && r.c.w.structure != nil {
		code, _ := r.face.code(g, " ")
		r.start()
		r.c.buf = appendCode(r.c.buf, code)
	}
}

// put writes a glyph where it belongs.
func (r *glyphRuns) put(run *font.Run, g *font.Glyph, code uint32) {
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
	if d := at - r.pen; math.Abs(d) > r.slack() {
		c.buf = append(c.buf, ')')
		c.buf = appendNum(c.buf, -d/r.t.Size*1000)
		c.buf = append(c.buf, '(')
		r.pen, r.begun = at, len(c.buf)
	}
	if len(c.buf)-r.begun > mostString { // archives know no longer ones
		c.buf = append(c.buf, ")("...)
		r.begun = len(c.buf)
	}
	c.buf = appendCode(c.buf, code)
	r.pen += r.width(g.ID)
	if g.YOff != 0 {
		r.stop()
		c.place(r.skew, r.t.X+r.pen, r.t.Y)
	}
	r.advance(run, g)
}

// slack is how far from where it belongs a glyph may stand, in px: wider letters are so by whole font units.
func (r *glyphRuns) slack() float64 {
	if r.face.wider > 0 {
		return 1e-3 * r.t.Size
	}
	return 1e-4 * r.t.Size
}

// width is how far TJ goes on with a glyph, in px.
func (r *glyphRuns) width(g uint32) float64 {
	if r.face.wider > 0 {
		return r.face.width(g) * r.t.Size
	}
	return r.t.Face.GlyphWidth(g) * r.t.Size
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

// shares parts the text of a cluster among its glyphs, for readers that take each glyph for
// itself: a glyph stands for the character that the font gives it to; where not all do, one by
// one if there are as many, and else the first stands for all.
func shares(f *font.Face, list []font.Glyph, text string) []string {
	const nothing = "\u200B" // what is drawn has a value in any case (PDF/UA-1, §7.21.7)
	rest := []rune(text)
	each := make([]string, len(list))
	found := 0
	for i := range list {
		for k, r := range rest {
			if f.Glyph(r) == list[i].ID {
				each[i], found = string(r), found+1
				rest = slices.Delete(rest, k, k+1)
				break
			}
		}
	}
	all := []rune(text)
	for i := range each {
		switch {
		case found == len(list):
		case len(all) == len(list):
			each[i] = string(all[i])
		case i > 0:
			each[i] = nothing
		default:
			each[0] = text
		}
	}
	return each
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
