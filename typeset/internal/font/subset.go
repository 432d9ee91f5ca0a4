package font

import (
	"encoding/binary"
	"math"
	"sort"
)

// Subset is a font file cut down to some glyphs, ready to embed.
type Subset struct {
	Data  []byte
	CFF   bool           // an OpenType file with CFF outlines
	NewID map[uint32]int // old glyph → glyph in Data
}

// Subset keeps the glyphs used; glyph 0 is always there. New numbers are
// given in ascending order of the old ones. Glyphs that have a width are wider by so many font units than in the face,
// which Widens tells whether they can be.
func (f *Face) Subset(used map[uint32]bool, wider int) *Subset {
	if !f.Widens() {
		return f.whole(used)
	}
	tables, ids := f.subsetTables(used, wider)
	return &Subset{Data: assembled(tables), NewID: ids}
}

// Widens tells whether the glyphs of a subset can be wider than those of the face: its outlines are those of TrueType.
func (f *Face) Widens() bool { return !f.CFF && f.tables["glyf"] != nil && f.tables["loca"] != nil }

// subsetTables are the tables of a TrueType font with the glyphs used, and the numbers that
// these have there.
func (f *Face) subsetTables(used map[uint32]bool, wider int) (tables []table, ids map[uint32]int) {
	keep := map[uint32]bool{0: true}
	var visit func(g uint32, depth int)
	visit = func(g uint32, depth int) {
		if keep[g] && g != 0 || depth > 8 {
			return
		}
		keep[g] = true
		for _, c := range f.components(g) {
			visit(c, depth+1)
		}
	}
	for g := range used {
		visit(g, 0)
	}
	old := make([]uint32, 0, len(keep))
	for g := range keep {
		old = append(old, g)
	}
	sort.Slice(old, func(i, j int) bool { return old[i] < old[j] })
	ids = map[uint32]int{}
	for i, g := range old {
		ids[g] = i
	}
	var glyf, loca, hmtx []byte
	for _, g := range old {
		loca = binary.BigEndian.AppendUint32(loca, uint32(len(glyf)))
		glyf = append(glyf, f.renumbered(g, ids)...)
		for len(glyf)%4 != 0 {
			glyf = append(glyf, 0)
		}
		adv, lsb := f.metrics(g)
		if adv > 0 {
			adv = min(adv+wider, math.MaxUint16)
		}
		hmtx = binary.BigEndian.AppendUint16(hmtx, uint16(adv))
		hmtx = binary.BigEndian.AppendUint16(hmtx, uint16(lsb))
	}
	loca = binary.BigEndian.AppendUint32(loca, uint32(len(glyf)))
	copyOf := func(name string) []byte { return append([]byte(nil), f.tables[name]...) }
	head, hhea, maxp := copyOf("head"), copyOf("hhea"), copyOf("maxp")
	if len(head) >= 54 {
		binary.BigEndian.PutUint32(head[8:], 0)
		binary.BigEndian.PutUint16(head[50:], 1)
	}
	if len(hhea) >= 36 {
		binary.BigEndian.PutUint16(hhea[34:], uint16(len(old)))
	}
	if len(maxp) >= 6 {
		binary.BigEndian.PutUint16(maxp[4:], uint16(len(old)))
	}
	return []table{{"head", head}, {"hhea", hhea}, {"maxp", maxp}, {"hmtx", hmtx}, {"loca", loca}, {"glyf", glyf}}, ids
}

// assembled is a TrueType file of tables.
func assembled(tables []table) []byte {
	data := assemble(0x00010000, tables)
	if len(data) > 12 {
		fixHead(data)
	}
	return data
}

// fixHead sets the checksum of the whole file.
func fixHead(data []byte) {
	sum := 0xB1B0AFBA - checksum(data)
	if h := sfntTables(data)["head"]; len(h) >= 12 {
		binary.BigEndian.PutUint32(h[8:], sum)
	}
}

// whole embeds the file as it is: glyph numbers stay.
func (f *Face) whole(used map[uint32]bool) *Subset {
	s := &Subset{NewID: map[uint32]int{0: 0}, CFF: f.CFF}
	for g := range used {
		s.NewID[g] = int(g)
	}
	if f.CFF {
		s.Data = f.subsetCFF(used)
		return s
	}
	s.Data = f.data
	return s
}

func (f *Face) metrics(g uint32) (advance, bearing int) {
	hmtx, n := f.tables["hmtx"], u16(f.tables["hhea"], 34)
	if n == 0 {
		return 0, 0
	}
	i := int(g)
	if i < n {
		advance, bearing = u16(hmtx, 4*i), u16(hmtx, 4*i+2)
	} else {
		advance, bearing = u16(hmtx, 4*(n-1)), u16(hmtx, 4*n+2*(i-n))
	}
	if len(f.coords) > 0 {
		advance = int(f.GlyphAdvance(g)*f.Upem + 0.5)
	}
	return advance, bearing
}

func (f *Face) glyph(g uint32) []byte {
	glyf, loca := f.tables["glyf"], f.tables["loca"]
	var a, b int
	if u16(f.tables["head"], 50) == 0 {
		a, b = 2*u16(loca, int(2*g)), 2*u16(loca, int(2*g)+2)
	} else {
		a, b = int(u32(loca, int(4*g))), int(u32(loca, int(4*g)+4))
	}
	if a < 0 || b > len(glyf) || a >= b {
		return nil
	}
	return glyf[a:b]
}

// eachComponent visits the offsets of a composite's component records.
func eachComponent(b []byte, visit func(at int)) {
	if len(b) < 12 || int16(u16(b, 0)) >= 0 {
		return
	}
	for at := 10; at+4 <= len(b); {
		flags := u16(b, at)
		visit(at)
		at += 4 + componentSize(flags)
		if flags&compMore == 0 {
			return
		}
	}
}

func (f *Face) components(g uint32) (out []uint32) {
	b := f.glyph(g)
	eachComponent(b, func(at int) { out = append(out, uint32(u16(b, at+2))) })
	return out
}

// renumbered is the glyph's data with its components numbered anew. A glyph of
// a variable font is drawn from its outline at the coordinates in use.
func (f *Face) renumbered(g uint32, ids map[uint32]int) []byte {
	if len(f.coords) > 0 {
		return f.flattened(g)
	}
	b := append([]byte(nil), f.glyph(g)...)
	eachComponent(b, func(at int) { binary.BigEndian.PutUint16(b[at+2:], uint16(ids[uint32(u16(b, at+2))])) })
	return b
}

// flattened writes an outline of quadratic curves as a simple glyph.
func (f *Face) flattened(g uint32) []byte {
	type pt struct {
		x, y int
		on   bool
	}
	var contours [][]pt
	add := func(x, y float32, on bool) {
		if n := len(contours); n > 0 {
			contours[n-1] = append(contours[n-1], pt{int(round(x)), int(round(y)), on})
		}
	}
	for _, s := range f.Outline(g) {
		a := s.ArgsSlice()
		switch len(a) {
		case 1:
			if s.Op == 0 {
				contours = append(contours, nil)
			}
			add(a[0].X, a[0].Y, true)
		case 2:
			add(a[0].X, a[0].Y, false)
			add(a[1].X, a[1].Y, true)
		case 3: // glyf outlines have no cubic curves
			add(a[2].X, a[2].Y, true)
		}
	}
	if len(contours) == 0 {
		return nil
	}
	var out []byte
	put := func(v int) { out = binary.BigEndian.AppendUint16(out, uint16(v)) }
	box := [4]int{1 << 15, 1 << 15, -1 << 15, -1 << 15}
	var all []pt
	var ends []int
	for _, c := range contours {
		if n := len(c); n > 1 && c[0] == c[n-1] {
			c = c[:n-1]
		}
		all = append(all, c...)
		ends = append(ends, len(all)-1)
	}
	for _, p := range all {
		box = [4]int{min(box[0], p.x), min(box[1], p.y), max(box[2], p.x), max(box[3], p.y)}
	}
	put(len(contours))
	for _, v := range box {
		put(v)
	}
	for _, e := range ends {
		put(e)
	}
	put(0)
	for _, p := range all {
		if p.on {
			out = append(out, 1)
		} else {
			out = append(out, 0)
		}
	}
	last := pt{}
	for _, p := range all {
		put(p.x - last.x)
		last = p
	}
	last = pt{}
	for _, p := range all {
		put(p.y - last.y)
		last = p
	}
	return out
}

func round(v float32) float32 {
	if v < 0 {
		return float32(int(v - 0.5))
	}
	return float32(int(v + 0.5))
}
