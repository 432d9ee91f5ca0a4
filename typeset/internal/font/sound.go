package font

import (
	"encoding/binary"
	"errors"
	"fmt"

	ot "github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/language"
)

// counted are tables that begin with how many parts they have, in 32 bits, where that count is believed
// before it is looked whether there is room for so many (OpenType and Apple's TrueType reference).
var counted = []struct {
	tag       string
	version   uint16 // of the table in which it is so; any when 0
	at, least int    // where the count is, and the fewest bytes that a part takes
}{
	{"kern", 1, 4, 8},
	{"kerx", 0, 4, 12},
	{"morx", 0, 4, 16},
	{"mort", 0, 4, 12},
	{"sbix", 0, 4, 4},
	{"CBLC", 0, 4, 48},
	{"EBLC", 0, 4, 48},
	{"bloc", 0, 4, 48},
}

// unfounded tells which table of a font claims more parts than it has room for.
func unfounded(tables map[string][]byte) error {
	for _, c := range counted {
		t := tables[c.tag]
		if len(t) < c.at+4 || c.version != 0 && binary.BigEndian.Uint16(t) != c.version {
			continue
		}
		if n := uint64(binary.BigEndian.Uint32(t[c.at:])); n*uint64(c.least) > uint64(len(t)) {
			return fmt.Errorf("the font is damaged: its table %q claims %d parts and has room for %d", c.tag, n, len(t)/c.least)
		}
	}
	return nil
}

// errDamaged is a font whose tables contradict each other.
var errDamaged = errors.New("the font is damaged: its tables contradict each other")

// trial are texts that make a shaper look into most of what a font has.
var trial = []struct {
	text   string
	script language.Script
	rtl    bool
}{{"Office fjord AVÄ 1/2", language.Latin, false}, {"لا إله", language.Arabic, true}}

// try sets some text with a font, so that a damaged one fails when it is loaded and not in the middle of
// a page.
func (f *Face) try() {
	face := f.pool.Get().(*shaper).font.Face()
	for _, t := range trial {
		for _, g := range f.shapeAnew(t.text, Context{}, shaping{script: t.script, lang: "en", rtl: t.rtl}).Glyphs {
			face.GlyphExtents(ot.GID(g.ID))
		}
	}
}

// unshaped sets text of a damaged font letter by letter.
func (f *Face) unshaped(text string, how shaping) *Run {
	run := &Run{Text: text}
	for i, r := range text {
		advance := f.Advance(r) * f.Upem
		run.Glyphs = append(run.Glyphs, Glyph{ID: f.Glyph(r), Advance: advance, Cluster: int32(i)})
		run.Width += advance
	}
	if how.rtl {
		for i, j := 0, len(run.Glyphs)-1; i < j; i, j = i+1, j-1 {
			run.Glyphs[i], run.Glyphs[j] = run.Glyphs[j], run.Glyphs[i]
		}
	}
	run.clusters(how.rtl)
	return run
}
