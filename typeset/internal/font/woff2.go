package font

import (
	"bytes"
	"encoding/binary"
	"errors"
	"io"

	"github.com/andybalholm/brotli"
)

var errWOFF2 = errors.New("the WOFF2 file is damaged")

// knownTags of WOFF 2.0, §4.1.
var knownTags = []string{
	"cmap", "head", "hhea", "hmtx", "maxp", "name", "OS/2", "post", "cvt ", "fpgm", "glyf", "loca", "prep", "CFF ", "VORG", "EBDT", "EBLC",
	"gasp", "hdmx", "kern", "LTSH", "PCLT", "VDMX", "vhea", "vmtx", "BASE", "GDEF", "GPOS", "GSUB", "EBSC", "JSTF", "MATH", "CBDT", "CBLC", "COLR", "CPAL",
	"SVG ", "sbix", "acnt", "avar", "bdat", "bloc", "bsln", "cvar", "fdsc", "feat", "fmtx", "fvar", "gvar", "hsty", "just", "lcar", "mort", "morx", "opbd",
	"prop", "trak", "Zapf", "Silf", "Glat", "Gloc", "Feat", "Sill",
}

// cursor reads big-endian values and remembers that it ran out.
type cursor struct {
	b   []byte
	pos int
	bad bool
}

func (c *cursor) bytes(n int) []byte {
	if n < 0 || c.pos+n > len(c.b) {
		c.bad = true
		return make([]byte, max(min(n, 1<<16), 0))
	}
	c.pos += n
	return c.b[c.pos-n : c.pos]
}

func (c *cursor) u8() int  { return int(c.bytes(1)[0]) }
func (c *cursor) u16() int { return int(binary.BigEndian.Uint16(c.bytes(2))) }
func (c *cursor) u32() int { return int(binary.BigEndian.Uint32(c.bytes(4))) }

// base128 is UIntBase128 of §4.1.
func (c *cursor) base128() int {
	v := 0
	for range 5 {
		b := c.u8()
		v = v<<7 | b&0x7f
		if b&0x80 == 0 {
			return v
		}
	}
	c.bad = true
	return 0
}

// short255 is 255UInt16 of §4.1.
func (c *cursor) short255() int {
	switch b := c.u8(); b {
	case 253:
		return c.u16()
	case 255:
		return c.u8() + 253
	case 254:
		return c.u8() + 506
	default:
		return b
	}
}

type woff2Table struct {
	tag         string
	size        int
	transformed bool
}

// unpackWOFF2 follows WOFF File Format 2.0.
func unpackWOFF2(data []byte) ([]byte, error) {
	c := &cursor{b: data, pos: 4}
	flavor := c.u32()
	c.u32()
	n := c.u16()
	c.u16()
	c.u32()
	compressed := c.u32()
	c.bytes(24)
	if flavor == 0x74746366 {
		return nil, errors.New("a WOFF2 font collection is not supported: give one font a file")
	}
	var dir []woff2Table
	total := 0
	for range n {
		flags := c.u8()
		t := woff2Table{}
		if flags&63 == 63 {
			t.tag = string(c.bytes(4))
		} else if flags&63 < len(knownTags) {
			t.tag = knownTags[flags&63]
		} else {
			return nil, errWOFF2
		}
		version := flags >> 6
		t.size = c.base128()
		t.transformed = (t.tag == "glyf" || t.tag == "loca") && version == 0 || t.tag != "glyf" && t.tag != "loca" && version != 0
		if t.transformed {
			t.size = c.base128()
		}
		total += t.size
		dir = append(dir, t)
	}
	if total > maxFontBytes {
		return nil, errTooLarge
	}
	plain, err := io.ReadAll(io.LimitReader(brotli.NewReader(bytes.NewReader(c.bytes(compressed))), int64(total)))
	if err != nil || c.bad || len(plain) < total {
		return nil, errWOFF2
	}
	raw := map[string][]byte{}
	var tables []table
	at := 0
	var glyf, loca, hmtx []byte
	for _, t := range dir {
		body := plain[at : at+t.size]
		at += t.size
		switch {
		case t.tag == "glyf" && t.transformed:
			glyf = body
		case t.tag == "loca" && t.transformed:
			loca = body
		case t.tag == "hmtx" && t.transformed:
			hmtx = body
		default:
			raw[t.tag] = body
			tables = append(tables, table{t.tag, body})
		}
	}
	if (glyf == nil) != (loca == nil) || hmtx != nil && glyf == nil { // the forms of the others tell of the glyphs (§5.3, §5.4)
		return nil, errWOFF2
	}
	if glyf != nil {
		g, err := rebuildGlyf(glyf)
		if err != nil {
			return nil, err
		}
		tables = append(tables, table{"glyf", g.glyf}, table{"loca", g.loca})
		if head := raw["head"]; len(head) >= 54 {
			binary.BigEndian.PutUint16(head[50:], 1) // long offsets
		}
		if hmtx != nil {
			h, err := rebuildHmtx(hmtx, u16(raw["hhea"], 34), g.xMin)
			if err != nil {
				return nil, err
			}
			tables = append(tables, table{"hmtx", h})
		}
	}
	return assemble(uint32(flavor), tables), nil
}

type glyfTables struct {
	glyf, loca []byte
	xMin       []int
}

// rebuildGlyf undoes the transform of §5.1.
func rebuildGlyf(b []byte) (*glyfTables, error) {
	c := &cursor{b: b}
	c.u16()
	options := c.u16()
	n := c.u16()
	c.u16()
	var sizes [7]int
	for i := range sizes {
		sizes[i] = c.u32()
	}
	var streams [7]*cursor
	for i := range sizes {
		streams[i] = &cursor{b: c.bytes(sizes[i])}
	}
	if c.bad {
		return nil, errWOFF2
	}
	contours, points, flags, glyphs, composites, boxes, instructions := streams[0], streams[1], streams[2], streams[3], streams[4], streams[5], streams[6]
	bitmap := boxes.bytes((n + 31) / 32 * 4)
	var overlap []byte
	if options&1 != 0 {
		overlap = c.bytes((n + 7) / 8)
	}
	out := &glyfTables{}
	var g bytes.Buffer
	for i := range n {
		out.loca = binary.BigEndian.AppendUint32(out.loca, uint32(g.Len()))
		hasBox := bitmap[i/8]&(0x80>>(i%8)) != 0
		count := int(int16(contours.u16()))
		xMin := 0
		switch {
		case count == 0:
		case count > 0:
			over := overlap != nil && overlap[i/8]&(0x80>>(i%8)) != 0
			xMin = simpleGlyph(&g, count, points, flags, glyphs, boxes, instructions, hasBox, over)
		default:
			box := boxes.bytes(8)
			xMin = int(i16(box, 0))
			binary.Write(&g, binary.BigEndian, int16(-1))
			g.Write(box)
			compositeGlyph(&g, composites, glyphs, instructions)
		}
		out.xMin = append(out.xMin, xMin)
		for g.Len()%4 != 0 {
			g.WriteByte(0)
		}
		if g.Len() > maxFontBytes {
			return nil, errTooLarge
		}
	}
	out.loca = binary.BigEndian.AppendUint32(out.loca, uint32(g.Len()))
	out.glyf = g.Bytes()
	for _, s := range streams {
		if s.bad {
			return nil, errWOFF2
		}
	}
	return out, nil
}

func simpleGlyph(g *bytes.Buffer, contours int, points, flags, glyphs, boxes, instructions *cursor, hasBox, overlap bool) int {
	var ends []int
	total := 0
	for range contours {
		total += points.short255()
		ends = append(ends, total-1)
		if total > 1<<16 || points.bad {
			points.bad = true
			return 0
		}
	}
	xs, ys, on := make([]int, total), make([]int, total), make([]bool, total)
	x, y := 0, 0
	for i := range total {
		f := flags.u8()
		on[i] = f&0x80 == 0
		dx, dy := triplet(f&0x7f, glyphs)
		x, y = x+dx, y+dy
		xs[i], ys[i] = x, y
	}
	code := instructions.bytes(glyphs.short255())
	box := [4]int{1 << 15, 1 << 15, -1 << 15, -1 << 15}
	for i := range xs {
		box = [4]int{min(box[0], xs[i]), min(box[1], ys[i]), max(box[2], xs[i]), max(box[3], ys[i])}
	}
	if hasBox {
		b := boxes.bytes(8)
		for i := range box {
			box[i] = int(i16(b, 2*i))
		}
	}
	put := func(v int) { binary.Write(g, binary.BigEndian, int16(v)) }
	put(contours)
	for _, v := range box {
		put(v)
	}
	for _, e := range ends {
		put(e)
	}
	put(len(code))
	g.Write(code)
	for i := range on { // coordinates as words: simple, and subsets deflate well
		var f byte
		if on[i] {
			f = 1
		}
		if i == 0 && overlap {
			f |= 0x40
		}
		g.WriteByte(f)
	}
	for _, c := range [][]int{xs, ys} {
		last := 0
		for _, v := range c {
			put(v - last)
			last = v
		}
	}
	return box[0]
}

// triplet decodes one point (§5.2).
func triplet(f int, c *cursor) (dx, dy int) {
	sign := func(flag, v int) int {
		if flag&1 != 0 {
			return v
		}
		return -v
	}
	switch {
	case f < 10:
		return 0, sign(f, (f&14)<<7+c.u8())
	case f < 20:
		return sign(f, ((f-10)&14)<<7+c.u8()), 0
	case f < 84:
		b0, b := f-20, c.u8()
		return sign(f, 1+b0&0x30+b>>4), sign(f>>1, 1+b0&0x0c<<2+b&0x0f)
	case f < 120:
		b0, b, b2 := f-84, c.u8(), c.u8()
		return sign(f, 1+b0/12<<8+b), sign(f>>1, 1+b0%12>>2<<8+b2)
	case f < 124:
		b, b2, b3 := c.u8(), c.u8(), c.u8()
		return sign(f, b<<4+b2>>4), sign(f>>1, b2&0x0f<<8+b3)
	}
	b, b2, b3, b4 := c.u8(), c.u8(), c.u8(), c.u8()
	return sign(f, b<<8+b2), sign(f>>1, b3<<8+b4)
}

// compositeGlyph copies the component records of a composite.
func compositeGlyph(g *bytes.Buffer, composites, glyphs, instructions *cursor) {
	hasCode := false
	for !composites.bad {
		flags := composites.u16()
		size := 2 + componentSize(flags)
		hasCode = hasCode || flags&compInstructions != 0
		binary.Write(g, binary.BigEndian, uint16(flags))
		g.Write(composites.bytes(size))
		if flags&compMore == 0 {
			break
		}
	}
	if hasCode {
		n := glyphs.short255()
		binary.Write(g, binary.BigEndian, uint16(n))
		g.Write(instructions.bytes(n))
	}
}

// Flags of composite glyphs (OpenType, “glyf”).
const (
	compWords        = 0x0001
	compScale        = 0x0008
	compMore         = 0x0020
	compXYScale      = 0x0040
	compTwoByTwo     = 0x0080
	compInstructions = 0x0100
)

// componentSize is the length of a component's arguments and transform.
func componentSize(flags int) int {
	n := 2
	if flags&compWords != 0 {
		n = 4
	}
	switch {
	case flags&compScale != 0:
		n += 2
	case flags&compXYScale != 0:
		n += 4
	case flags&compTwoByTwo != 0:
		n += 8
	}
	return n
}

// rebuildHmtx undoes the transform of §5.4.
func rebuildHmtx(b []byte, metrics int, xMin []int) ([]byte, error) {
	c := &cursor{b: b}
	flags := c.u8()
	n := len(xMin)
	if metrics > n {
		return nil, errWOFF2
	}
	advances := make([]int, metrics)
	for i := range advances {
		advances[i] = c.u16()
	}
	bearings := make([]int, n)
	for i := range bearings {
		if i < metrics && flags&1 != 0 || i >= metrics && flags&2 != 0 {
			bearings[i] = xMin[i]
		} else {
			bearings[i] = c.u16()
		}
	}
	var out []byte
	for i := range n {
		if i < metrics {
			out = binary.BigEndian.AppendUint16(out, uint16(advances[i]))
		}
		out = binary.BigEndian.AppendUint16(out, uint16(bearings[i]))
	}
	if c.bad {
		return nil, errWOFF2
	}
	return out, nil
}
