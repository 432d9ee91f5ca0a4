package pdfread

import (
	"unicode/utf16"

	"golang.org/x/text/encoding/charmap"
)

// Text reads a text string (§7.9.2.2): UTF-16 or UTF-8 with their marks, or PDFDocEncoding, which is read as
// Windows-1252.
func (s String) Text() string {
	if len(s) >= 2 && s[0] == 0xFE && s[1] == 0xFF {
		var u []uint16
		for i := 2; i+1 < len(s); i += 2 {
			u = append(u, uint16(s[i])<<8|uint16(s[i+1]))
		}
		return string(utf16.Decode(u))
	}
	if len(s) >= 3 && s[0] == 0xEF && s[1] == 0xBB && s[2] == 0xBF {
		return string(s[3:])
	}
	out, err := charmap.Windows1252.NewDecoder().Bytes(s)
	if err != nil {
		return string(s)
	}
	return string(out)
}

// TextOf makes a text string.
func TextOf(s string) String {
	out := String(s)
	for i := range len(s) {
		if s[i] < ' ' || s[i] > '~' {
			out = String{0xFE, 0xFF}
			for _, u := range utf16.Encode([]rune(s)) {
				out = append(out, byte(u>>8), byte(u))
			}
			return out
		}
	}
	return out
}
