package font

import (
	"sort"
	"strings"
)

// Layer is one shape of a colour glyph and the palette entry that it is filled
// with; Foreground stands for the colour of the text (OpenType, COLR).
type Layer struct {
	Glyph uint32
	Entry int
}

// Foreground is the entry that stands for the colour of the text.
const Foreground = 0xFFFF

// Palette is a list of colours as red, green, blue and alpha, and for which
// backgrounds it is made (OpenType, CPAL).
type Palette struct {
	Colors      [][4]uint8
	Light, Dark bool
}

// HasColors tells whether glyphs of the face have colours of their own that are known:
// plain layers, or graphs of paints.
func (f *Face) HasColors() bool {
	t := f.tables["COLR"]
	return len(f.tables["CPAL"]) >= 12 && (len(t) >= 14 && u16(t, 2) > 0 || hasGraphs(t))
}

// Pictures names the table in which the face keeps pictures of its glyphs, where these are
// all that it has of colours: they are not read. It is "" for other faces.
func (f *Face) Pictures() string {
	for _, tag := range []string{"CBDT", "sbix", "SVG "} {
		if len(f.tables[tag]) > 0 && !f.HasColors() {
			return strings.TrimSpace(tag)
		}
	}
	return ""
}

// Layers gives the layers of a colour glyph, the lowest first; nil for a plain
// glyph.
func (f *Face) Layers(g uint32) []Layer {
	t := f.tables["COLR"]
	if !f.HasColors() {
		return nil
	}
	n, base, layers, total := u16(t, 2), offset(t, 4), offset(t, 8), u16(t, 12)
	if base+n*6 > len(t) || layers+total*4 > len(t) {
		return nil
	}
	i := sort.Search(n, func(i int) bool { return u16(t, base+i*6) >= int(g) })
	if i == n || u16(t, base+i*6) != int(g) {
		return nil
	}
	first, count := u16(t, base+i*6+2), u16(t, base+i*6+4)
	if first+count > total {
		return nil
	}
	out := make([]Layer, count)
	for k := range out {
		at := layers + (first+k)*4
		out[k] = Layer{uint32(u16(t, at)), u16(t, at+2)}
	}
	return out
}

// Palettes gives the palettes of the face; damaged ones are left out.
func (f *Face) Palettes() (list []Palette) {
	t := f.tables["CPAL"]
	entries, n, records, first := u16(t, 2), u16(t, 4), u16(t, 6), offset(t, 8)
	types := 0
	if u16(t, 0) >= 1 {
		types = offset(t, 12+2*n)
	}
	for i := range n {
		if 12+2*i+2 > len(t) {
			return list
		}
		start := u16(t, 12+2*i)
		if start+entries > records || first+(start+entries)*4 > len(t) {
			return list
		}
		p := Palette{Colors: make([][4]uint8, entries)}
		for k := range p.Colors {
			c := t[first+(start+k)*4:]
			p.Colors[k] = [4]uint8{c[2], c[1], c[0], c[3]}
		}
		if at := types + 4*i; types > 0 && at+4 <= len(t) {
			p.Light, p.Dark = t[at+3]&1 != 0, t[at+3]&2 != 0
		}
		list = append(list, p)
	}
	return list
}

// offset reads an offset or a count of 32 bits.
func offset(b []byte, at int) int { return int(u32(b, at)) }
