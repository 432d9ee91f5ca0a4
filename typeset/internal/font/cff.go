package font

import "encoding/binary"

// subsetCFF keeps the CFF table alone and blanks the glyphs that are not used,
// so that numbers and charset stay. A table that is not understood is
// embedded whole (Adobe Technical Note 5176).
func (f *Face) subsetCFF(used map[uint32]bool) []byte {
	src := f.tables["CFF "]
	c := &cursor{b: src}
	if len(src) < 4 {
		return src
	}
	c.pos = int(src[2])
	c.index() // names
	top := c.index()
	if c.bad || len(top) != 1 {
		return src
	}
	at := dictOffset(top[0], 17) // CharStrings
	if at <= 0 || at >= len(src) {
		return src
	}
	g := &cursor{b: src, pos: at}
	glyphs := g.index()
	if g.bad {
		return src
	}
	// blanked charstrings are shorter, but the index keeps its extent so that
	// no other offset changes; deflate makes the zeros vanish
	out := append([]byte(nil), src...)
	kept := make([][]byte, len(glyphs))
	size := 0
	for i, b := range glyphs {
		if i == 0 || used[uint32(i)] {
			kept[i] = b
		} else {
			kept[i] = []byte{14} // endchar
		}
		size += len(kept[i])
	}
	index := binary.BigEndian.AppendUint16(nil, uint16(len(kept)))
	index = append(index, 4)
	off := 1
	for _, b := range kept {
		index = binary.BigEndian.AppendUint32(index, uint32(off))
		off += len(b)
	}
	index = binary.BigEndian.AppendUint32(index, uint32(off))
	for _, b := range kept {
		index = append(index, b...)
	}
	if len(index) > g.pos-at {
		return src
	}
	copy(out[at:], index)
	clear(out[at+len(index) : g.pos])
	return out
}

// index reads an INDEX (§5).
func (c *cursor) index() [][]byte {
	n := c.u16()
	if n == 0 || c.bad {
		return nil
	}
	size := c.u8()
	offs := make([]int, n+1)
	for i := range offs {
		v := 0
		for _, b := range c.bytes(size) {
			v = v<<8 | int(b)
		}
		offs[i] = v
	}
	base := c.pos - 1
	var out [][]byte
	for i := range n {
		a, b := base+offs[i], base+offs[i+1]
		if a < 0 || b < a || b > len(c.b) {
			c.bad = true
			return nil
		}
		out = append(out, c.b[a:b])
	}
	c.pos = base + offs[n]
	return out
}

// dictOffset reads an integer operand of a DICT (§4).
func dictOffset(d []byte, op int) int {
	last := 0
	for i := 0; i < len(d); {
		b := int(d[i])
		switch {
		case b <= 21:
			if b == op {
				return last
			}
			if b == 12 {
				i++
			}
			i++
		case b == 28:
			last = int(int16(u16(d, i+1)))
			i += 3
		case b == 29:
			last = int(int32(u32(d, i+1)))
			i += 5
		case b == 30:
			for i++; i < len(d) && d[i]&0xf != 0xf && d[i]>>4 != 0xf; i++ {
			}
			i++
		case b >= 32 && b <= 246:
			last = b - 139
			i++
		case b >= 247 && b <= 250 && i+1 < len(d):
			last = (b-247)*256 + int(d[i+1]) + 108
			i += 2
		case b >= 251 && b <= 254 && i+1 < len(d):
			last = -(b-251)*256 - int(d[i+1]) - 108
			i += 2
		default:
			i++
		}
	}
	return 0
}
