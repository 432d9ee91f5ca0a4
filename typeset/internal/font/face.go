// Package font holds faces, matches them to styles, shapes text with them and
// cuts the subsets that go into a PDF.
package font

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"

	gtfont "github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/harfbuzz"
)

// Face is one font file at one point of its variation axes. It may be used
// from many goroutines at once.
type Face struct {
	Name                        string // PostScript-like name, without spaces
	Family                      string
	Upem                        float64
	Ascent                      float64 // of 1em, above the baseline
	Descent                     float64 // of 1em, below the baseline, positive
	LineGap                     float64
	XHeight, CapHeight          float64
	MeanWidth                   float64 // of the characters (OpenType, “OS/2”: xAvgCharWidth)
	UnderlinePos, UnderlineSize float64 // below the baseline, positive
	StrikePos, StrikeSize       float64 // above the baseline
	ItalicAngle                 float64
	Fixed, Italic               bool
	Weight                      float64
	Box                         [4]float64 // font bounding box, of 1em
	CFF                         bool       // outlines are in a CFF table
	NumGlyphs                   int

	data   []byte
	tables map[string][]byte
	font   *gtfont.Font
	coords []gtfont.Variation
	pool   sync.Pool

	ligates func() bool // words with a space between them

	common [commonRunes]uint32 // glyphs of the first characters
	widths []atomic.Uint64     // of glyphs, as bits; 0 is not known yet

	mu    sync.RWMutex
	words map[shaping]*Words
	kept  int // how many words they hold
	cmap  map[rune]uint32
	inks  map[inkKey][2]float64
}

// commonRunes is how many characters are looked up without a lock: those of
// Latin scripts.
const commonRunes = 0x250

// Parse reads a TrueType, OpenType, WOFF or WOFF2 file.
func Parse(data []byte, axes []gtfont.Variation) (f *Face, err error) {
	defer func() { // the library believes what tables say
		if recover() != nil {
			f, err = nil, errDamaged
		}
	}()
	if data, err = unpack(data); err != nil {
		return nil, err
	}
	tables := sfntTables(data)
	if err := unfounded(tables); err != nil {
		return nil, err
	}
	faces, err := gtfont.ParseTTC(bytes.NewReader(withoutGraphs(data, tables)))
	if err != nil || len(faces) == 0 {
		return nil, fmt.Errorf("the font does not parse: %w", err)
	}
	f = &Face{data: data, font: faces[0].Font, coords: axes, words: map[shaping]*Words{}, cmap: map[rune]uint32{}}
	f.tables = tables
	if f.font.Upem() == 0 {
		return nil, errors.New("the font has no units per em")
	}
	f.Upem = float64(f.font.Upem())
	f.describe()
	for r := range f.common {
		g, _ := f.font.NominalGlyph(rune(r))
		f.common[r] = uint32(g)
	}
	f.widths = make([]atomic.Uint64, f.NumGlyphs)
	f.pool.New = func() any {
		face := gtfont.NewFace(f.font)
		if len(f.coords) > 0 {
			face.SetVariations(f.coords)
		}
		return &shaper{font: harfbuzz.NewFont(face), buf: harfbuzz.NewBuffer()}
	}
	f.ligates = sync.OnceValue(f.findSpaceLigatures)
	f.try()
	return f, nil
}

// sfntTables reads the table directory (OpenType, “Organization of an
// OpenType Font”). Of a collection it takes the first font.
func sfntTables(data []byte) map[string][]byte {
	out := map[string][]byte{}
	at := 0
	if len(data) > 16 && string(data[:4]) == "ttcf" {
		at = int(binary.BigEndian.Uint32(data[12:]))
	}
	if at+12 > len(data) {
		return out
	}
	n := int(binary.BigEndian.Uint16(data[at+4:]))
	for i := range n {
		r := at + 12 + 16*i
		if r+16 > len(data) {
			break
		}
		off, size := uint64(binary.BigEndian.Uint32(data[r+8:])), uint64(binary.BigEndian.Uint32(data[r+12:]))
		if off+size <= uint64(len(data)) {
			out[string(data[r:r+4])] = data[off : off+size]
		}
	}
	return out
}

func i16(b []byte, at int) float64 {
	if at+2 > len(b) {
		return 0
	}
	return float64(int16(binary.BigEndian.Uint16(b[at:])))
}

func u16(b []byte, at int) int {
	if at+2 > len(b) {
		return 0
	}
	return int(binary.BigEndian.Uint16(b[at:]))
}

func u32(b []byte, at int) uint32 {
	if at+4 > len(b) {
		return 0
	}
	return binary.BigEndian.Uint32(b[at:])
}

func (f *Face) describe() {
	hhea, os2, head, post := f.tables["hhea"], f.tables["OS/2"], f.tables["head"], f.tables["post"]
	u := f.Upem
	asc, desc, gap := i16(hhea, 4), -i16(hhea, 6), i16(hhea, 8)
	const useTypo = 1 << 7
	if u16(os2, 62)&useTypo != 0 || asc == 0 && desc == 0 {
		if a, d := i16(os2, 68), -i16(os2, 70); a != 0 || d != 0 {
			asc, desc, gap = a, d, i16(os2, 72)
		}
	}
	if asc == 0 && desc == 0 {
		asc, desc = float64(u16(os2, 74)), float64(u16(os2, 76))
	}
	f.Ascent, f.Descent, f.LineGap = asc/u, desc/u, math.Max(gap, 0)/u
	if u16(os2, 0) >= 2 {
		f.XHeight, f.CapHeight = i16(os2, 86)/u, i16(os2, 88)/u
	}
	f.MeanWidth = i16(os2, 2) / u
	f.StrikeSize, f.StrikePos = i16(os2, 26)/u, i16(os2, 28)/u
	f.UnderlinePos, f.UnderlineSize = -i16(post, 8)/u, i16(post, 10)/u
	if len(post) >= 16 {
		f.ItalicAngle = float64(int32(u32(post, 4))) / 65536
		f.Fixed = u32(post, 12) != 0
	}
	f.Weight = float64(u16(os2, 4))
	f.Italic = u16(os2, 62)&1 != 0 || u16(head, 44)&2 != 0
	for i := range f.Box {
		f.Box[i] = i16(head, 36+2*i) / u
	}
	f.CFF = f.tables["CFF "] != nil
	f.NumGlyphs = u16(f.tables["maxp"], 4)
	d := f.font.Describe()
	f.Family = d.Family
	f.Name = postScriptName(f.tables["name"])
	if f.Name == "" {
		f.Name = "Font"
	}
	if f.Variable() { // each of its instances is a font of its own (OpenType, name ID 25)
		for _, v := range f.coords {
			f.Name += "_" + strconv.FormatFloat(float64(v.Value), 'f', -1, 32) + nameOf([]byte(v.Tag.String()))
		}
	}
	if f.XHeight == 0 {
		f.XHeight = f.glyphHeight('x', 0.5)
	}
	if f.CapHeight == 0 {
		f.CapHeight = f.glyphHeight('H', 0.7)
	}
}

// Depth is how far the glyph of a character reaches below the baseline, of 1em; 0 for one that does not.
func (f *Face) Depth(r rune) float64 {
	g, ok := f.font.NominalGlyph(r)
	if !ok {
		return 0
	}
	e, _ := gtfont.NewFace(f.font).GlyphExtents(g)
	return math.Max(-float64(e.YBearing+e.Height)/f.Upem, 0)
}

func (f *Face) glyphHeight(r rune, fallback float64) float64 {
	g, ok := f.font.NominalGlyph(r)
	if !ok {
		return fallback
	}
	if e, ok := gtfont.NewFace(f.font).GlyphExtents(g); ok && e.YBearing > 0 {
		return float64(e.YBearing) / f.Upem
	}
	return fallback
}

func postScriptName(name []byte) string {
	n, base := u16(name, 2), u16(name, 4)
	for i := range n {
		r := 6 + 12*i
		if u16(name, r+6) != 6 {
			continue
		}
		size, off := u16(name, r+8), base+u16(name, r+10)
		if off+size > len(name) {
			continue
		}
		if out := nameOf(name[off : off+size]); out != "" {
			return out
		}
	}
	return ""
}

// nameOf keeps the bytes that a PostScript name may have.
func nameOf(text []byte) string {
	return string(slices.DeleteFunc(slices.Clone(text), func(c byte) bool {
		return c <= 32 || c >= 127 || strings.IndexByte("[](){}<>/%#", c) >= 0
	}))
}

// Glyph returns the glyph of a character; 0 when the face has none.
func (f *Face) Glyph(r rune) uint32 {
	if r >= 0 && r < commonRunes {
		return f.common[r]
	}
	f.mu.RLock()
	g, ok := f.cmap[r]
	f.mu.RUnlock()
	if ok {
		return g
	}
	gid, _ := f.font.NominalGlyph(r)
	f.mu.Lock()
	f.cmap[r] = uint32(gid)
	f.mu.Unlock()
	return uint32(gid)
}

// Advance is the width of the glyph of a character, of 1em.
func (f *Face) Advance(r rune) float64 {
	g := f.Glyph(r)
	if g == 0 {
		return 0.5
	}
	return f.GlyphAdvance(g)
}

// GlyphAdvance is the width of a glyph, of 1em.
func (f *Face) GlyphAdvance(g uint32) float64 {
	s := f.pool.Get().(*shaper)
	defer f.pool.Put(s)
	return float64(s.font.Face().HorizontalAdvance(ot.GID(g))) / f.Upem
}

// Outline gives the path of a glyph in font units, y up. SVG text with paint
// servers and clipping by text use it.
func (f *Face) Outline(g uint32) []ot.Segment {
	s := f.pool.Get().(*shaper)
	defer f.pool.Put(s)
	o, _ := s.font.Face().GlyphDataOutline(ot.GID(g))
	return o.Segments
}

// Variable tells whether the face stands on a variable font.
func (f *Face) Variable() bool { return len(f.tables["fvar"]) > 0 }

// Weights is the range of weights that the face can be set in; one weight unless it varies.
func (f *Face) Weights() (least, most float64) {
	if lo, hi, ok := f.axis(axisWeight); ok {
		return lo, hi
	}
	return f.Weight, f.Weight
}

// The axes that styles set by themselves (OpenType, “Registered design-variation axes”).
var (
	axisWeight = ot.MustNewTag("wght")
	axisWidth  = ot.MustNewTag("wdth")
	axisSlant  = ot.MustNewTag("slnt")
)

// axis is the range of a variation axis (OpenType, “fvar”); ok is false without it.
func (f *Face) axis(tag gtfont.Tag) (least, most float64, ok bool) {
	t := f.tables["fvar"]
	at, n, size := u16(t, 4), u16(t, 8), u16(t, 10)
	for i := range n {
		a := at + i*size
		if a+16 <= len(t) && u32(t, a) == uint32(tag) {
			return float64(int32(u32(t, a+4))) / 65536, float64(int32(u32(t, a+12))) / 65536, true
		}
	}
	return 0, 0, false
}

// EmptyID is the glyph that draws nothing.
const EmptyID = 0xFFFFFFFF

// GlyphWidth is the width that a PDF viewer gives the glyph, of 1em: that of
// the embedded font, rounded as the width table is.
func (f *Face) GlyphWidth(g uint32) float64 {
	if int(g) >= len(f.widths) {
		return f.GlyphAdvance(g)
	}
	if bits := f.widths[g].Load(); bits != 0 {
		return math.Float64frombits(bits)
	}
	w := math.Round(f.GlyphAdvance(g)*1e7) / 1e7
	f.widths[g].Store(math.Float64bits(w))
	return w
}

// HasFeature tells whether the face substitutes glyphs by an OpenType feature.
func (f *Face) HasFeature(tag string) bool {
	want := ot.MustNewTag(tag)
	for _, feature := range f.font.GSUB.Features {
		if feature.Tag == want {
			return true
		}
	}
	return false
}
