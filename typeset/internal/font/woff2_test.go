package font

import (
	"bytes"
	"encoding/binary"
	"maps"
	"slices"
	"testing"

	"github.com/andybalholm/brotli"
	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	gtfont "github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"
)

// packing is a WOFF2 file under way (WOFF 2.0, §4 and §5).
type packing struct {
	dir, body []byte
	tables    int
	claimed   int // bytes that the directory says to be more than there are
}

// base128Of writes UIntBase128.
func base128Of(v int) (out []byte) {
	out = []byte{byte(v & 0x7f)}
	for v >>= 7; v > 0; v >>= 7 {
		out = append([]byte{byte(v&0x7f) | 0x80}, out...)
	}
	return out
}

// short255Of writes 255UInt16.
func short255Of(v int) []byte {
	switch {
	case v < 253:
		return []byte{byte(v)}
	case v < 506:
		return []byte{255, byte(v - 253)}
	case v < 762:
		return []byte{254, byte(v - 506)}
	}
	return append([]byte{253}, be(v)...)
}

// add takes a table in; one that is transformed was of size bytes before.
func (p *packing) add(tag string, data []byte, size int, transformed bool) {
	i := slices.Index(knownTags, tag)
	if i < 0 {
		i = 63
	}
	if (tag == "glyf" || tag == "loca") != transformed {
		i |= 0xc0 // version 3: as it is; of others 0 means that
		if transformed {
			i ^= 0x80
		}
	}
	p.dir = append(p.dir, byte(i))
	if i&63 == 63 {
		p.dir = append(p.dir, tag...)
	}
	p.dir = append(p.dir, base128Of(size)...)
	if transformed {
		p.dir = append(p.dir, base128Of(len(data)+p.claimed)...)
	}
	p.body = append(p.body, data...)
	p.tables++
}

// file writes the file down.
func (p *packing) file(t *testing.T) []byte {
	var packed bytes.Buffer
	w := brotli.NewWriter(&packed)
	_, err := w.Write(p.body)
	require.NoError(t, err)
	require.NoError(t, w.Close())
	out := append([]byte("wOF2"), 0, 1, 0, 0, 0, 0, 0, 0)
	out = append(out, be(p.tables, 0, 0, 0)...)
	out = binary.BigEndian.AppendUint32(out, uint32(packed.Len()))
	out = append(out, make([]byte, 24)...)
	return append(append(out, p.dir...), packed.Bytes()...)
}

// glyfStreams are the parts of a transformed table of glyphs: counts of contours, of points, flags, coordinates, composites,
// boxes and instructions (§5.1).
type glyfStreams [7][]byte

// point writes what leads from a point to the next one (§5.2).
func (g *glyfStreams) point(dx, dy int, on bool) {
	size := func(v int) int { return max(v, -v) }
	signs := 0
	if dx >= 0 {
		signs |= 1
	}
	if dy >= 0 {
		signs |= 2
	}
	flag, x, y := 0, size(dx), size(dy)
	var rest []byte
	switch {
	case x == 0 && y < 1280:
		flag, rest = y>>8<<1|signs>>1, []byte{byte(y)}
	case y == 0 && x < 1280:
		flag, rest = 10+(x>>8<<1|signs&1), []byte{byte(x)}
	case x > 0 && x <= 64 && y > 0 && y <= 64:
		flag, rest = 20+((x-1)&0x30)+((y-1)&0x30)>>2+signs, []byte{byte((x-1)&15<<4 | (y-1)&15)}
	case x > 0 && x <= 768 && y > 0 && y <= 768:
		flag, rest = 84+12*((x-1)>>8)+4*((y-1)>>8)+signs, []byte{byte(x - 1), byte(y - 1)}
	case x < 4096 && y < 4096:
		flag, rest = 120+signs, []byte{byte(x >> 4), byte(x&15<<4 | y>>8), byte(y)}
	default:
		flag, rest = 124+signs, append(be(x), be(y)...)
	}
	if !on {
		flag |= 0x80
	}
	g[2] = append(g[2], byte(flag))
	g[3] = append(g[3], rest...)
}

// simple writes a glyph of contours. It tells whether the glyph's box is that of its points.
func (g *glyfStreams) simple(glyph []byte, contours int) bool {
	at, before := 10, -1
	for range contours {
		end := u16(glyph, at)
		g[1] = append(g[1], short255Of(end-before)...)
		before, at = end, at+2
	}
	n, code := before+1, u16(glyph, at)
	at += 2
	g[6] = append(g[6], glyph[at:at+code]...)
	at += code
	flags := make([]byte, 0, n)
	for len(flags) < n {
		f := glyph[at]
		at++
		flags = append(flags, f)
		if f&8 != 0 {
			flags = append(flags, bytes.Repeat([]byte{f}, int(glyph[at]))...)
			at++
		}
	}
	along := func(short, same byte) []int {
		moves := make([]int, n)
		for i, f := range flags {
			switch {
			case f&short != 0:
				moves[i] = int(glyph[at])
				if f&same == 0 {
					moves[i] = -moves[i]
				}
				at++
			case f&same == 0:
				moves[i] = int(i16(glyph, at))
				at += 2
			}
		}
		return moves
	}
	xs, ys := along(2, 16), along(4, 32)
	x, y, low, high := 0, 0, [2]int{1 << 15, 1 << 15}, [2]int{-1 << 15, -1 << 15}
	for i, f := range flags {
		g.point(xs[i], ys[i], f&1 != 0)
		x, y = x+xs[i], y+ys[i]
		low, high = [2]int{min(low[0], x), min(low[1], y)}, [2]int{max(high[0], x), max(high[1], y)}
	}
	g[3] = append(g[3], short255Of(code)...)
	return bytes.Equal(glyph[2:10], be(low[0], low[1], high[0], high[1]))
}

// composite writes a glyph of other glyphs.
func (g *glyfStreams) composite(glyph []byte) {
	from, at, flags := 10, 10, compMore
	for flags&compMore != 0 {
		flags = u16(glyph, at)
		at += 4 + componentSize(flags)
	}
	g[4] = append(g[4], glyph[from:at]...)
	if flags&compInstructions != 0 {
		code := u16(glyph, at)
		g[3] = append(g[3], short255Of(code)...)
		g[6] = append(g[6], glyph[at+2:at+2+code]...)
	}
}

// glyphOf is what a font with long offsets says of a glyph.
func glyphOf(tables map[string][]byte, i int) []byte {
	return tables["glyf"][u32(tables["loca"], 4*i):u32(tables["loca"], 4*i+4)]
}

// transformedGlyf is the table of glyphs in its transformed form. Where boxed is set, each glyph brings its own box; else only
// those whose box is not that of their points.
func transformedGlyf(tables map[string][]byte, boxed bool) []byte {
	n := u16(tables["maxp"], 4)
	var g glyfStreams
	bitmap := make([]byte, (n+31)/32*4)
	var boxes []byte
	for i := range n {
		glyph := glyphOf(tables, i)
		if len(glyph) == 0 {
			g[0] = append(g[0], 0, 0)
			continue
		}
		g[0] = append(g[0], glyph[:2]...)
		own := true
		if contours := int(i16(glyph, 0)); contours < 0 {
			g.composite(glyph)
		} else {
			own = !g.simple(glyph, contours)
		}
		if own || boxed {
			bitmap[i/8] |= 0x80 >> (i % 8)
			boxes = append(boxes, glyph[2:10]...)
		}
	}
	g[5] = append(bitmap, boxes...)
	out := be(0, 0, n, 1)
	for _, s := range g {
		out = binary.BigEndian.AppendUint32(out, uint32(len(s)))
	}
	return append(out, bytes.Join(g[:], nil)...)
}

// transformedHmtx is the table of widths without the bearings that glyphs' boxes tell.
func transformedHmtx(tables map[string][]byte) []byte {
	out := []byte{3}
	for i := range u16(tables["hhea"], 34) {
		out = append(out, tables["hmtx"][4*i:4*i+2]...)
	}
	return out
}

// packedFont makes a WOFF2 file, with the tables in a transformed form that are named.
func packedFont(t *testing.T, tables map[string][]byte, boxed bool, transform ...string) []byte {
	var p packing
	for _, tag := range slices.Sorted(maps.Keys(tables)) {
		data, transformed := tables[tag], slices.Contains(transform, tag)
		switch {
		case !transformed:
		case tag == "glyf":
			data = transformedGlyf(tables, boxed)
		case tag == "loca":
			data = []byte{}
		case tag == "hmtx":
			data = transformedHmtx(tables)
		}
		p.add(tag, data, len(tables[tag]), transformed)
	}
	return p.file(t)
}

// fontForPacking gives the tables of a font whose bearings are those that its glyphs' boxes tell.
func fontForPacking(t *testing.T) map[string][]byte {
	tables := sfntTables(liberationsansregular.TTF)
	require.Equal(t, 1, u16(tables["head"], 50), "long offsets")
	tables["hmtx"] = bytes.Clone(tables["hmtx"])
	long := u16(tables["hhea"], 34)
	for i := range u16(tables["maxp"], 4) {
		at := 4*i + 2
		if i >= long {
			at = 2 * (long + i)
		}
		copy(tables["hmtx"][at:at+2], []byte{0, 0})
		if glyph := glyphOf(tables, i); len(glyph) > 0 {
			copy(tables["hmtx"][at:at+2], glyph[2:4])
		}
	}
	return tables
}

func fileOf(tables map[string][]byte) []byte {
	var list []table
	for _, tag := range slices.Sorted(maps.Keys(tables)) {
		list = append(list, table{tag, tables[tag]})
	}
	return assemble(1<<16, list)
}

func unpacked(t *testing.T, data []byte) []byte {
	t.Helper()
	plain, err := unpackWOFF2(data)
	require.NoError(t, err)
	return plain
}

// TestWOFF2 takes a font back out of each form that it can be packed in.
func TestWOFF2(t *testing.T) {
	tables := fontForPacking(t)
	plain, err := Parse(fileOf(tables), nil)
	require.NoError(t, err)
	for name, data := range map[string][]byte{
		"as it is":                   packedFont(t, tables, false),
		"glyphs":                     packedFont(t, tables, false, "glyf", "loca"),
		"glyphs with their boxes":    packedFont(t, tables, true, "glyf", "loca"),
		"glyphs and widths":          packedFont(t, tables, true, "glyf", "loca", "hmtx"),
		"glyphs and widths by boxes": packedFont(t, tables, false, "glyf", "loca", "hmtx"),
	} {
		t.Run(name, func(t *testing.T) {
			f, err := Parse(data, nil)
			require.NoError(t, err)
			require.Equal(t, plain.NumGlyphs, f.NumGlyphs)
			assert.Equal(t, plain.Name, f.Name)
			assert.Equal(t, plain.Box, f.Box)
			a, b := gtfont.NewFace(plain.font), gtfont.NewFace(f.font)
			for g := range ot.GID(plain.NumGlyphs) {
				require.Equal(t, a.GlyphData(g), b.GlyphData(g), "glyph %d", g)
				require.Equal(t, a.HorizontalAdvance(g), b.HorizontalAdvance(g), "glyph %d", g)
			}
			hmtx := sfntTables(unpacked(t, data))["hmtx"]
			assert.Equal(t, tables["hmtx"], hmtx, "with the bearings")
		})
	}
}

// TestDamagedWOFF2: what is not whole is told, and nothing is made of it.
func TestDamagedWOFF2(t *testing.T) {
	tables := fontForPacking(t)
	whole := packedFont(t, tables, true, "glyf", "loca", "hmtx")
	short := packing{}
	short.add("head", tables["head"], len(tables["head"])+1, false)
	large := packing{}
	large.add("head", nil, maxFontBytes+1, false)
	unknown := packing{}
	unknown.add("Quay", nil, 0, false)
	cut := packing{claimed: 1}
	cut.add("hmtx", tables["hmtx"], len(tables["hmtx"]), true)
	collection := bytes.Clone(whole)
	copy(collection[4:], "ttcf")
	for name, c := range map[string]struct {
		data []byte
		want string
	}{
		"widths without glyphs":      {packedFont(t, tables, true, "hmtx"), "damaged"},
		"places without glyphs":      {packedFont(t, tables, true, "loca"), "damaged"},
		"glyphs without places":      {packedFont(t, tables, true, "glyf"), "damaged"},
		"a directory that ends":      {whole[:60], "damaged"},
		"a stream that ends":         {whole[:len(whole)-9], "damaged"},
		"less than the directory":    {short.file(t), "damaged"},
		"less in a transformed form": {cut.file(t), "damaged"},
		"too large":                  {large.file(t), "larger than 64 MB"},
		"no table that is needed":    {unknown.file(t), "cmap"},
		"a collection":               {collection, "collection"},
	} {
		_, err := Parse(c.data, nil)
		assert.ErrorContains(t, err, c.want, name)
	}
	plain := sfntTables(unpacked(t, unknown.file(t)))
	assert.Contains(t, plain, "Quay")

	glyphs := transformedGlyf(tables, true)
	for n := 0; n < len(glyphs); n += 997 {
		_, err := rebuildGlyf(glyphs[:n])
		assert.ErrorIs(t, err, errWOFF2, "%d bytes", n)
	}
	widths := transformedHmtx(tables)
	metrics := u16(tables["hhea"], 34)
	bearings := make([]int, u16(tables["maxp"], 4))
	for n := 1; n < len(widths); n += 97 {
		_, err := rebuildHmtx(widths[:n], metrics, bearings)
		assert.ErrorIs(t, err, errWOFF2, "%d bytes", n)
	}
	_, err := rebuildHmtx(widths, len(bearings)+1, bearings)
	assert.ErrorIs(t, err, errWOFF2, "more widths than glyphs")
}
