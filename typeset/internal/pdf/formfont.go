package pdf

import (
	"fmt"
	"strings"

	"golang.org/x/text/encoding/charmap"

	"oliveledger/typeset/internal/font"
)

// formFont is the font that people fill in fields with (§12.7.4.3): of one byte for each
// character, embedded whole for these.
type formFont struct {
	id   Ref
	face *font.Face
}

// formFontName is what fields call it by.
const formFontName = "Form"

// firstChar is the first byte that stands for a character in a form's font.
const firstChar = 32

// fieldResources are those of what fields show; empty when no face was given for them.
func (w *Writer) fieldResources() string {
	if w.FormFace == nil {
		return "<<>>"
	}
	if w.formFont == nil {
		w.formFont = &formFont{w.alloc(), w.FormFace}
	}
	return fmt.Sprintf("<</Font<</%s %s>>>>", formFontName, w.formFont.id)
}

// writeFormFont writes the font of fields, if any has used it.
func (w *Writer) writeFormFont() {
	if w.formFont == nil {
		return
	}
	f := w.formFont.face
	var chars []rune
	var widths strings.Builder
	for b := firstChar; b < 256; b++ {
		r := charmap.Windows1252.DecodeByte(byte(b))
		chars = append(chars, r)
		widths.WriteString(num(f.Advance(r)*1000) + " ")
	}
	program := f.Simple(chars)
	file, desc := w.alloc(), w.alloc()
	name := subsetTag([]uint32{uint32(len(program))}, 0) + "+" + f.Name
	w.stream(file, fmt.Sprintf("/Length1 %d", len(program)), program, well)
	em := func(v float64) string { return num(v * 1000) }
	w.object(desc, fmt.Sprintf("<</Type/FontDescriptor/FontName/%s/Flags 32/FontBBox[%s %s %s %s]/ItalicAngle %s/Ascent %s/Descent %s/CapHeight %s/StemV 80/FontFile2 %s>>",
		name, em(f.Box[0]), em(f.Box[1]), em(f.Box[2]), em(f.Box[3]), num(f.ItalicAngle), em(f.Ascent), em(-f.Descent), em(f.CapHeight), file))
	w.object(w.formFont.id, fmt.Sprintf("<</Type/Font/Subtype/TrueType/BaseFont/%s/Encoding/WinAnsiEncoding/FirstChar %d/LastChar 255/Widths[%s]/FontDescriptor %s>>", name, firstChar, widths.String(), desc))
}
