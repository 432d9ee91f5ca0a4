package pdf

import (
	"bytes"
	"fmt"
	"sort"
	"unicode/utf16"

	"oliveledger/typeset/internal/font"
)

func (w *Writer) font(f *font.Face) *embedded {
	e := w.fonts[fontKey{f}]
	if e == nil {
		e = &embedded{id: w.alloc(), name: fmt.Sprintf("F%d", len(w.order)+1), face: f, used: map[uint32]bool{}, texts: map[uint32]string{}}
		w.fonts[fontKey{f}] = e
		w.order = append(w.order, e)
	}
	return e
}

// use marks a glyph as drawn and remembers its text; false when the glyph
// already stands for other text.
func (e *embedded) use(g uint32, s string) bool {
	e.used[g] = true
	if s == "" {
		return true
	}
	old, ok := e.texts[g]
	if !ok {
		e.texts[g] = s
		return true
	}
	return old == s
}

// subsetTag makes the six letters before a subset's name (§9.6.4).
func subsetTag(glyphs []uint32) string {
	h := uint64(1469598103934665603)
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

// writeFont writes a face as a composite font with two-byte glyph numbers
// (§9.7).
func (w *Writer) writeFont(e *embedded) {
	glyphs := make([]uint32, 0, len(e.used))
	for g := range e.used {
		glyphs = append(glyphs, g)
	}
	sort.Slice(glyphs, func(i, j int) bool { return glyphs[i] < glyphs[j] })
	f := e.face
	sub := f.Subset(e.used)
	name := subsetTag(glyphs) + "+" + f.Name

	file := w.alloc()
	key, dict := "FontFile2", fmt.Sprintf("/Length1 %d", len(sub.Data))
	if sub.CFF {
		key, dict = "FontFile3", "/Subtype/CIDFontType0C"
	}
	w.stream(file, dict, sub.Data, true)

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
	var widths bytes.Buffer
	for _, g := range glyphs {
		fmt.Fprintf(&widths, "%d[%s]", g, em(f.GlyphAdvance(g)))
	}
	cid := w.alloc()
	if sub.CFF {
		w.object(cid, fmt.Sprintf("<</Type/Font/Subtype/CIDFontType0/BaseFont/%s/CIDSystemInfo<</Registry(Adobe)/Ordering(Identity)/Supplement 0>>/FontDescriptor %s/DW 1000/W[%s]>>", name, desc, widths.Bytes()))
	} else {
		var m []byte
		if n := len(glyphs); n > 0 {
			m = make([]byte, 2*(int(glyphs[n-1])+1))
		}
		for _, g := range glyphs {
			id := sub.NewID[g]
			m[2*g], m[2*g+1] = byte(id>>8), byte(id)
		}
		mapping := w.alloc()
		w.stream(mapping, "", m, true)
		w.object(cid, fmt.Sprintf("<</Type/Font/Subtype/CIDFontType2/BaseFont/%s/CIDSystemInfo<</Registry(Adobe)/Ordering(Identity)/Supplement 0>>/FontDescriptor %s/DW 1000/W[%s]/CIDToGIDMap %s>>", name, desc, widths.Bytes(), mapping))
	}
	uni := w.alloc()
	w.stream(uni, "", e.toUnicode(glyphs), true)
	w.object(e.id, fmt.Sprintf("<</Type/Font/Subtype/Type0/BaseFont/%s/Encoding/Identity-H/DescendantFonts[%s]/ToUnicode %s>>", name, cid, uni))
}

// toUnicode writes the CMap that gives glyphs their text back (§9.10.3).
func (e *embedded) toUnicode(glyphs []uint32) []byte {
	var b bytes.Buffer
	b.WriteString("/CIDInit/ProcSet findresource begin\n12 dict begin\nbegincmap\n/CIDSystemInfo<</Registry(Adobe)/Ordering(UCS)/Supplement 0>>def\n/CMapName/Adobe-Identity-UCS def\n/CMapType 2 def\n1 begincodespacerange\n<0000><FFFF>\nendcodespacerange\n")
	var lines []string
	for _, g := range glyphs {
		if s := e.texts[g]; s != "" {
			l := fmt.Sprintf("<%04X><", g)
			for _, u := range utf16.Encode([]rune(s)) {
				l += fmt.Sprintf("%04X", u)
			}
			lines = append(lines, l+">\n")
		}
	}
	for len(lines) > 0 {
		n := min(len(lines), 100)
		fmt.Fprintf(&b, "%d beginbfchar\n", n)
		for _, l := range lines[:n] {
			b.WriteString(l)
		}
		b.WriteString("endbfchar\n")
		lines = lines[n:]
	}
	b.WriteString("endcmap\nCMapName currentdict/CMap defineresource pop\nend\nend\n")
	return b.Bytes()
}
