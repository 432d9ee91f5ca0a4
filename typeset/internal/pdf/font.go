package pdf

import (
	"encoding/binary"
	"fmt"
	"math"
	"slices"
	"strconv"
	"unicode/utf16"
	"unicode/utf8"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/memory"
)

func (w *Writer) font(key fontKey) *embedded {
	e := w.fonts[key]
	if e == nil && key.wider > 0 {
		if w.widened++; w.widened > mostWidened {
			return w.font(fontKey{face: key.face})
		}
	}
	if e == nil {
		e = &embedded{id: w.alloc(), name: fmt.Sprintf("F%d", len(w.order)+1), face: key.face, wider: key.wider}
		w.fonts[key] = e
		w.order = append(w.order, e)
	}
	return e
}

// wide is the letter spacing, in parts of the font size, from which on readers take the
// letters of a word for words.
const wide = 0.1

// mostWidened is how many fonts with wider letters a document may have.
const mostWidened = 32

// fontOf names the font that draws a text. Letters that are set so wide that readers would take them for words are
// drawn with a font whose letters are that wide: there is nothing between them then. Faces that are embedded as they
// are have no such fonts.
func fontOf(t *display.Text) fontKey {
	key := fontKey{face: t.Face}
	if !setWide(t) || !t.Face.Widens() {
		return key
	}
	const most = math.MaxUint16 / 2 // a font file holds widths of 16 bits
	if wider := math.Round(t.LetterSpacing / t.Size * t.Face.Upem); wider <= most {
		key.wider = int(wider)
	}
	return key
}

// setWide tells whether readers would take the letters of a text for words.
func setWide(t *display.Text) bool { return t.Size > 0 && t.LetterSpacing >= wide*t.Size && !t.Copy }

// width is how far a glyph goes on in the font, in em.
func (e *embedded) width(g uint32) float64 {
	w := e.face.GlyphAdvance(g)
	if w > 0 {
		w += float64(e.wider) / e.face.Upem
	}
	return w
}

// drawn is what a document has drawn of a face, by glyph.
type drawn struct {
	places []uint16 // of glyphs in the list, from 1; 0 for those not drawn
	list   []drawnGlyph
}

type drawnGlyph struct {
	glyph uint32
	text  string // that it stands for
}

// at is what is known of a glyph that is drawn.
func (d *drawn) at(g uint32) *drawnGlyph {
	if n := int(g) + 1; n > len(d.places) {
		d.places = slices.Grow(d.places, n-len(d.places))
		d.places = d.places[:cap(d.places)]
	}
	p := &d.places[g]
	if *p == 0 {
		d.list = append(d.list, drawnGlyph{glyph: g})
		*p = uint16(len(d.list))
	}
	return &d.list[*p-1]
}

// find is at, but nil for a glyph that is not drawn.
func (d *drawn) find(g uint32) *drawnGlyph {
	if int(g) >= len(d.places) || d.places[g] == 0 {
		return nil
	}
	return &d.list[d.places[g]-1]
}

// alias is a second code of a glyph that stands for other text than the first one does: a small
// capital for a small letter, a box for each of the characters that the face lacks.
type alias struct {
	glyph uint32
	text  string
}

// mostCodes is how many codes of two bytes there are.
const mostCodes = 1 << 16

// code marks a glyph as drawn, and gives the code that stands for it and its text; false when
// the face has no code left, or cannot have two for a glyph.
func (e *embedded) code(g uint32, text string) (code uint32, ok bool) {
	d := e.drawn.at(g)
	if d.text == "" {
		d.text = text
	}
	if text == "" || d.text == text {
		return g, true
	}
	a := alias{g, text}
	if code, ok := e.codes[a]; ok {
		return code, true
	}
	code = uint32(e.face.NumGlyphs + len(e.aliases))
	if e.face.CFF || code >= mostCodes {
		return g, false
	}
	if e.codes == nil {
		e.codes = map[alias]uint32{}
	}
	e.codes[a] = code
	e.aliases = append(e.aliases, a)
	return code, true
}

// subsetTag makes the six letters before a subset's name (§9.6.4).
func subsetTag(glyphs []uint32, wider int) string {
	h := uint64(1469598103934665603) ^ uint64(wider)
	for _, g := range glyphs {
		h = (h ^ uint64(g)) * 1099511628211
	}
	var b [6]byte
	for i := range b {
		b[i] = byte('A' + h%26)
		h /= 26
	}
	return string(b[:])
}

// program is a subset of a face, ready to be written into files.
type program struct {
	glyphs  []uint32          // of the face, ascending
	ascii   map[uint32]string // what glyphs stand for that only other documents draw
	tag     string
	cff     bool
	size    int            // of the font file
	file    []byte         // deflated
	newID   map[uint32]int // from glyphs of the face to those of the file; nil for CFF
	mapping []byte         // the same as the file has it, deflated
	widths  string
}

// programKey names a subset: the font and its glyphs.
type programKey struct {
	font   fontKey
	glyphs string
}

// keptPrograms is how many subsets are kept for the next document.
const keptPrograms = 256

var programs = memory.Of[programKey, *program](keptPrograms)

// mostASCII is how many printable ASCII characters a document may draw with a
// face before all of them are put into its subset. Documents that look alike
// then share a subset, which is made once. The rule looks at nothing but the
// document, so that its bytes stay the same.
const mostASCII = 24

// subset gives the glyphs that a document needs of a face.
func (e *embedded) subset() []uint32 {
	ascii := make([]uint32, 0, '~'-' '+1)
	n := 0
	for r := ' '; r <= '~'; r++ {
		if g := e.face.Glyph(r); g != 0 {
			ascii = append(ascii, g)
			if e.drawn.find(g) != nil {
				n++
			}
		}
	}
	glyphs := make([]uint32, 0, len(e.drawn.list)+len(ascii))
	for i := range e.drawn.list {
		glyphs = append(glyphs, e.drawn.list[i].glyph)
	}
	if n >= mostASCII {
		glyphs = append(glyphs, ascii...)
	}
	slices.Sort(glyphs)
	return slices.Compact(glyphs)
}

// programOf finds or makes the subset that a document needs.
func (w *Writer) programOf(e *embedded) *program {
	glyphs := e.subset()
	name := make([]byte, 0, 4*len(glyphs))
	for _, g := range glyphs {
		name = binary.BigEndian.AppendUint32(name, g)
	}
	key := programKey{fontKey{e.face, e.wider}, string(name)}
	if p, ok := programs.Get(key); ok {
		return p
	}
	ascii := map[uint32]string{}
	for r := ' '; r <= '~'; r++ {
		ascii[e.face.Glyph(r)] = string(r)
	}
	used := make(map[uint32]bool, len(glyphs))
	for _, g := range glyphs {
		used[g] = true
	}
	sub := e.face.Subset(used, e.wider)
	p := &program{glyphs: glyphs, ascii: ascii, tag: subsetTag(glyphs, e.wider), cff: sub.CFF, size: len(sub.Data), file: deflate(sub.Data)}
	p.widths = e.widthsOf(glyphs)
	if !sub.CFF && len(glyphs) > 0 {
		p.newID = sub.NewID
		p.mapping = deflate(p.mapTo(int(glyphs[len(glyphs)-1]) + 1))
	}
	programs.Add(key, p)
	return p
}

// mapTo gives the table from so many codes to the glyphs of the file (§9.7.4.2).
func (p *program) mapTo(codes int) []byte {
	m := make([]byte, 2*codes)
	for _, g := range p.glyphs {
		binary.BigEndian.PutUint16(m[2*g:], uint16(p.newID[g]))
	}
	return m
}

// mappingOf is the table with the aliases that a document has, deflated.
func (e *embedded) mappingOf(p *program) []byte {
	if len(e.aliases) == 0 {
		return p.mapping
	}
	first := e.face.NumGlyphs
	m := p.mapTo(first + len(e.aliases))
	for i, a := range e.aliases {
		binary.BigEndian.PutUint16(m[2*(first+i):], uint16(p.newID[a.glyph]))
	}
	return deflate(m)
}

// widthsWith are the widths of a subset and of the aliases.
func (e *embedded) widthsWith(p *program) string {
	if len(e.aliases) == 0 {
		return p.widths
	}
	b := append([]byte(p.widths), strconv.Itoa(e.face.NumGlyphs)...)
	for i, a := range e.aliases {
		b = append(b, ' ')
		if i == 0 {
			b[len(b)-1] = '['
		}
		b = appendNum(b, e.width(a.glyph)*1000)
	}
	return string(append(b, ']'))
}

// widthsOf lists the widths of glyphs, in ascending order, as the W array of a font has
// them (§9.7.4.3): those of glyphs that follow each other are in one list.
func (e *embedded) widthsOf(glyphs []uint32) string {
	var b []byte
	for i, g := range glyphs {
		if i > 0 && glyphs[i-1] == g-1 {
			b = append(b, ' ')
		} else {
			if i > 0 {
				b = append(b, ']')
			}
			b = append(strconv.AppendUint(b, uint64(g), 10), '[')
		}
		b = appendNum(b, e.width(g)*1000)
	}
	if len(glyphs) > 0 {
		b = append(b, ']')
	}
	return string(b)
}

// writeFont writes a face as a composite font with two-byte glyph numbers
// (§9.7).
func (w *Writer) writeFont(e *embedded) {
	f, p := e.face, w.programOf(e)
	name := p.tag + "+" + f.Name
	if e.wider > 0 { // it is another font
		name += fmt.Sprintf("-Wider%d", e.wider)
	}

	file := w.alloc()
	key, dict := "FontFile2", fmt.Sprintf("/Length1 %d", p.size)
	if p.cff {
		key, dict = "FontFile3", "/Subtype/CIDFontType0C"
	}
	w.deflated(file, dict, p.file)

	flags := 4
	if f.Fixed {
		flags |= 1
	}
	if f.Italic {
		flags |= 64
	}
	em := func(v float64) string { return num(v * 1000) }
	desc := w.alloc()
	w.object(desc, fmt.Sprintf("<</Type/FontDescriptor/FontName/%s/Flags %d/FontBBox[%s %s %s %s]/ItalicAngle %s/Ascent %s/Descent %s/CapHeight %s/StemV %d/%s %s>>",
		name, flags, em(f.Box[0]), em(f.Box[1]), em(f.Box[2]), em(f.Box[3]), num(f.ItalicAngle), em(f.Ascent), em(-f.Descent), em(f.CapHeight), 80, key, file))

	// glyph numbers in the content are those of the face: a map leads to the
	// numbers in the subset
	cid := w.alloc()
	if p.cff {
		w.object(cid, fmt.Sprintf("<</Type/Font/Subtype/CIDFontType0/BaseFont/%s/CIDSystemInfo<</Registry(Adobe)/Ordering(Identity)/Supplement 0>>/FontDescriptor %s/DW 1000/W[%s]>>", name, desc, p.widths)) // which has no aliases
	} else {
		mapping := w.alloc()
		w.deflated(mapping, "", e.mappingOf(p))
		w.object(cid, fmt.Sprintf("<</Type/Font/Subtype/CIDFontType2/BaseFont/%s/CIDSystemInfo<</Registry(Adobe)/Ordering(Identity)/Supplement 0>>/FontDescriptor %s/DW 1000/W[%s]/CIDToGIDMap %s>>", name, desc, e.widthsWith(p), mapping))
	}
	uni := w.alloc()
	w.deflated(uni, "", w.unicodeOf(e, p))
	w.object(e.id, fmt.Sprintf("<</Type/Font/Subtype/Type0/BaseFont/%s/Encoding/Identity-H/DescendantFonts[%s]/ToUnicode %s>>", name, cid, uni))
}

// unicodes keeps CMaps, deflated, for the next document, by what they hold.
var unicodes = memory.Of[string, []byte](keptPrograms)

// unicodeOf gives the CMap of a face, deflated. Characters that only share the
// subset are in it too, so that documents with one subset have one CMap.
func (w *Writer) unicodeOf(e *embedded, p *program) []byte {
	first := uint32(e.face.NumGlyphs)
	codes := slices.Clone(p.glyphs)
	for i := range e.aliases {
		codes = append(codes, first+uint32(i))
	}
	body := toUnicode(codes, func(g uint32) string {
		if g >= first {
			return e.aliases[g-first].text
		}
		d := e.drawn.find(g)
		switch {
		case d != nil && d.text != "":
			return d.text
		case p.ascii[g] != "":
			return p.ascii[g]
		case d != nil: // what is drawn has a value in any case (PDF/UA-1, §7.21.7)
			return "\u200B"
		}
		return ""
	})
	key := string(body)
	if z, ok := unicodes.Get(key); ok {
		return z
	}
	z := deflate(body)
	unicodes.Add(key, z)
	return z
}

// toUnicode writes the CMap that gives glyphs their text back (§9.10.3).
func toUnicode(glyphs []uint32, text func(uint32) string) []byte {
	const hex = "0123456789ABCDEF"
	digits := func(b []byte, v uint16) []byte {
		return append(b, hex[v>>12], hex[v>>8&15], hex[v>>4&15], hex[v&15])
	}
	const head = "/CIDInit/ProcSet findresource begin\n12 dict begin\nbegincmap\n/CIDSystemInfo<</Registry(Adobe)/Ordering(UCS)/Supplement 0>>def\n/CMapName/Adobe-Identity-UCS def\n/CMapType 2 def\n1 begincodespacerange\n<0000><FFFF>\nendcodespacerange\n"
	b := append(make([]byte, 0, len(head)+16*len(glyphs)+200), head...)
	told := make([]uint32, 0, len(glyphs))
	for _, g := range glyphs {
		if text(g) != "" {
			told = append(told, g)
		}
	}
	for part := range slices.Chunk(told, 100) {
		b = append(strconv.AppendInt(b, int64(len(part)), 10), " beginbfchar\n"...)
		for _, g := range part {
			b = append(digits(append(b, '<'), uint16(g)), "><"...)
			for _, r := range text(g) {
				if hi, lo := utf16.EncodeRune(r); hi != utf8.RuneError {
					b = digits(digits(b, uint16(hi)), uint16(lo))
				} else {
					b = digits(b, uint16(r))
				}
			}
			b = append(b, ">\n"...)
		}
		b = append(b, "endbfchar\n"...)
	}
	return append(b, "endcmap\nCMapName currentdict/CMap defineresource pop\nend\nend\n"...)
}
