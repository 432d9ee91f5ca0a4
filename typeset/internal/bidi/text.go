// Package bidi is the Unicode bidirectional algorithm (UAX #9) over plain slices: classes of characters
// in, embedding levels and visual order out.
package bidi

import (
	"unicode/utf8"

	ucd "golang.org/x/text/unicode/bidi"
)

// Class is the bidirectional class of a character.
type Class = ucd.Class

// ClassOf looks a character's class up.
func ClassOf(r rune) Class {
	p, _ := ucd.LookupRune(r)
	return p.Class()
}

// Needed tells whether text holds anything that runs right to left.
func Needed(t string) bool {
	for i := 0; i < len(t); {
		if t[i] < 0x80 {
			i++
			continue
		}
		r, n := utf8.DecodeRuneInString(t[i:])
		if r >= 0x590 && r <= 0x8FF || r >= 0x200E && r <= 0x200F || r >= 0x202A && r <= 0x202E || r >= 0x2066 && r <= 0x2069 || r >= 0xFB1D && r <= 0xFDFF || r >= 0xFE70 && r <= 0xFEFF || r >= 0x10800 && r <= 0x10FFF || r >= 0x1E800 && r <= 0x1EFFF {
			return true
		}
		i += n
	}
	return false
}

// FirstStrongRTL tells whether the first character with a direction runs from right to left;
// text without any has the direction that is given.
func FirstStrongRTL(t string, otherwise bool) bool {
	for _, r := range t {
		switch ClassOf(r) {
		case ucd.L:
			return false
		case ucd.R, ucd.AL:
			return true
		}
	}
	return otherwise
}
