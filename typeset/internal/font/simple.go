package font

import (
	"encoding/binary"
	"slices"
)

// Simple is the font program of a face for some characters of the Basic Multilingual Plane,
// with a table that leads from these to its glyphs, as fonts whose text has one byte for each
// character need (PDF 2, §9.6.5.4). It is nil for a face without TrueType outlines.
func (f *Face) Simple(chars []rune) []byte {
	if f.CFF || f.tables["glyf"] == nil || f.tables["loca"] == nil {
		return nil
	}
	used, glyphs := map[uint32]bool{}, map[rune]uint32{}
	for _, r := range chars {
		if g := f.Glyph(r); g != 0 {
			used[g], glyphs[r] = true, g
		}
	}
	tables, ids := f.subsetTables(used, 0)
	at := map[rune]int{}
	for r, g := range glyphs {
		at[r] = ids[g]
	}
	return assembled(append([]table{{"cmap", cmapOf(at)}}, tables...))
}

// cmapOf is a character map with one subtable of format 4 for Unicode on Windows, a segment
// for each character (OpenType, cmap).
func cmapOf(glyphs map[rune]int) []byte {
	var chars []rune
	for r := range glyphs {
		chars = append(chars, r)
	}
	slices.Sort(chars)
	n := len(chars) + 1
	list := func(of func(i int) uint16) (b []byte) {
		for i := range n {
			b = binary.BigEndian.AppendUint16(b, of(i))
		}
		return b
	}
	char := func(i int) uint16 {
		if i == len(chars) { // the last segment
			return 0xFFFF
		}
		return uint16(chars[i])
	}
	delta := func(i int) uint16 {
		if i == len(chars) {
			return 1
		}
		return uint16(glyphs[chars[i]]) - char(i)
	}
	power, log := 1, 0
	for power*2 <= n {
		power, log = power*2, log+1
	}
	var b []byte
	for _, v := range []int{0, 1, 3, 1, 0, 12, 4, 16 + 8*n, 0, 2 * n, 2 * power, log, 2 * (n - power)} {
		b = binary.BigEndian.AppendUint16(b, uint16(v))
	}
	b = append(append(b, list(char)...), 0, 0)
	b = append(append(b, list(char)...), list(delta)...)
	return append(b, list(func(int) uint16 { return 0 })...)
}
