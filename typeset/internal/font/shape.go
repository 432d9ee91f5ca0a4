package font

import (
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	gtfont "github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/harfbuzz"
	"github.com/go-text/typesetting/language"
)

// Glyph is one glyph of a shaped run, measured in font units. Very many are kept.
type Glyph struct {
	Advance    float64
	XOff, YOff float32
	ID         uint32
	Cluster    int32 // byte offset of its first character in the run's text
	Chars      int32 // bytes of text that the cluster covers; 0 inside a cluster
}

// Run is shaped text: glyphs in visual order.
type Run struct {
	Glyphs []Glyph
	Width  float64 // font units
	Text   string
}

// Features asks for OpenType features: a string such as "smcp -liga ss01=2".
type Features string

type shaper struct {
	font *harfbuzz.Font
	buf  *harfbuzz.Buffer
}

// missing is shown in the place of characters that a font lacks: a white square. The
// font's own sign for that may be empty, and files for the archive must not use it.
const missing = '\u25A1'

// shape shapes text anew; that of a font which turns out to be damaged letter by letter.
func (f *Face) shape(text string, around Context, how shaping) (run *Run) {
	defer func() {
		if recover() != nil {
			run = f.unshaped(text, how)
		}
	}()
	return f.shapeAnew(text, around, how)
}

func (f *Face) shapeAnew(text string, around Context, how shaping) *Run {
	s := f.pool.Get().(*shaper)
	s.buf.Clear()
	if around == (Context{}) {
		for i, r := range text {
			s.buf.AddRune(r, i)
		}
	} else {
		s.addWithin(text, around)
	}
	dir := harfbuzz.LeftToRight
	if how.rtl {
		dir = harfbuzz.RightToLeft
	}
	s.buf.Props = harfbuzz.SegmentProperties{Direction: dir, Script: how.script, Language: language.NewLanguage(how.lang)}
	s.buf.ClusterLevel = harfbuzz.MonotoneGraphemes
	s.buf.Shape(s.font, parseFeatures(how.features))
	run := &Run{Text: text, Glyphs: make([]Glyph, len(s.buf.Info))}
	for i, info := range s.buf.Info {
		p := s.buf.Pos[i]
		glyph, advance := uint32(info.Glyph), float64(p.XAdvance)
		if glyph == 0 {
			if box := f.Glyph(missing); box != 0 {
				glyph, advance = box, f.GlyphAdvance(box)*f.Upem
			}
		}
		run.Glyphs[i] = Glyph{ID: glyph, Advance: advance, XOff: float32(p.XOffset), YOff: float32(p.YOffset), Cluster: int32(info.Cluster)}
		run.Width += advance
	}
	run.clusters(how.rtl)
	f.pool.Put(s)
	return run
}

// addWithin fills the buffer with text that has others around it.
func (s *shaper) addWithin(text string, around Context) {
	before, own := []rune(around.Before), []rune(text)
	all := append(append(before, own...), []rune(around.After)...)
	s.buf.AddRunes(all, len(before), len(own))
	at := 0
	for i, r := range own { // clusters are counted in bytes of the text
		s.buf.Info[i].Cluster = at
		at += utf8.RuneLen(r)
	}
}

// Joins tells whether letters of a script change their shape by their
// neighbours.
func Joins(s language.Script) bool {
	switch s {
	case language.Arabic, language.Syriac, language.Nko, language.Mongolian, language.Mandaic, language.Phags_Pa, language.Adlam, language.Hanifi_Rohingya, language.Manichaean, language.Psalter_Pahlavi, language.Sogdian, language.Chorasmian:
		return true
	}
	return false
}

// clusters fills in how many bytes of text each cluster covers.
func (r *Run) clusters(rtl bool) {
	next := int32(len(r.Text))
	set := func(i int) {
		g := &r.Glyphs[i]
		if g.Cluster < next {
			g.Chars = next - g.Cluster
			next = g.Cluster
		}
	}
	if rtl {
		for i := range r.Glyphs {
			set(i)
		}
		return
	}
	for i := len(r.Glyphs) - 1; i >= 0; i-- {
		set(i)
	}
}

func parseFeatures(f Features) []harfbuzz.Feature {
	if f == "" {
		return nil
	}
	var out []harfbuzz.Feature
	for w := range strings.FieldsSeq(string(f)) {
		value := uint32(1)
		if w[0] == '-' {
			w, value = w[1:], 0
		}
		if name, n, ok := strings.Cut(w, "="); ok {
			w, value = name, 0
			for _, c := range n {
				if c >= '0' && c <= '9' {
					value = value*10 + uint32(c-'0')
				}
			}
		}
		if len(w) == 4 {
			out = append(out, harfbuzz.Feature{Tag: ot.MustNewTag(w), Value: value, Start: 0, End: harfbuzz.FeatureGlobalEnd})
		}
	}
	return out
}

// variations reads features as axes: "wdth=75 GRAD=-50".
func (f Features) variations() (list []gtfont.Variation) {
	for w := range strings.FieldsSeq(string(f)) {
		name, value, _ := strings.Cut(w, "=")
		v, err := strconv.ParseFloat(value, 32)
		if err == nil && len(name) == 4 {
			list = append(list, gtfont.Variation{Tag: ot.MustNewTag(name), Value: float32(v)})
		}
	}
	return list
}

// Script of a character; common and inherited ones give 0, to be taken from
// their neighbours.
func Script(r rune) language.Script {
	if r < 0x80 {
		if r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' {
			return language.Latin
		}
		return 0
	}
	s := language.LookupScript(r)
	if s == language.Common || s == language.Inherited || s == language.Unknown {
		return 0
	}
	return s
}

// ignorable are the characters that have the property Default_Ignorable_Code_Point (UAX #44), and controls.
var ignorable = &unicode.RangeTable{
	R16: []unicode.Range16{
		{0x00, 0x1F, 1},
		{0x7F, 0x9F, 1},
		{0xAD, 0xAD, 1},
		{0x34F, 0x34F, 1},
		{0x61C, 0x61C, 1},
		{0x115F, 0x1160, 1},
		{0x17B4, 0x17B5, 1},
		{0x180B, 0x180F, 1},
		{0x200B, 0x200F, 1},
		{0x202A, 0x202E, 1},
		{0x2060, 0x206F, 1},
		{0x3164, 0x3164, 1},
		{0xFE00, 0xFE0F, 1},
		{0xFEFF, 0xFEFF, 1},
		{0xFFA0, 0xFFA0, 1},
		{0xFFF0, 0xFFF8, 1},
	},
	R32:         []unicode.Range32{{0x1BCA0, 0x1BCA3, 1}, {0x1D173, 0x1D17A, 1}, {0xE0000, 0xE0FFF, 1}},
	LatinOffset: 3,
}

// Ignorable tells whether a character needs no glyph of its own.
func Ignorable(r rune) bool {
	if r < 0xAD { // most of what is asked
		return r < 0x20 || r >= 0x7F && r <= 0x9F
	}
	return unicode.Is(ignorable, r)
}

// Saying gives the run as one whose glyphs stand for other text of the same length in bytes,
// letter by letter; the run itself where the lengths differ.
func (r *Run) Saying(text string) *Run {
	if len(text) != len(r.Text) {
		return r
	}
	out := *r
	out.Text = text
	return &out
}

// Seen gives the run with what has no glyph of its own made part of the cluster before it, or
// of the one after it: nothing is set between them.
func (r *Run) Seen() *Run {
	out := *r
	out.Glyphs = make([]Glyph, 0, len(r.Glyphs))
	before := int32(0) // bytes that wait for a cluster
	for _, g := range r.Glyphs {
		unseen := g.Chars > 0 && strings.IndexFunc(r.Text[g.Cluster:g.Cluster+g.Chars], func(c rune) bool { return !Ignorable(c) }) < 0
		switch n := len(out.Glyphs); {
		case !unseen:
			g.Cluster, g.Chars = g.Cluster-before, g.Chars+before
			out.Glyphs, before = append(out.Glyphs, g), 0
		case n > 0 && out.Glyphs[n-1].Cluster+out.Glyphs[n-1].Chars == g.Cluster && out.Glyphs[n-1].Chars > 0:
			out.Glyphs[n-1].Chars += g.Chars
			out.Width -= g.Advance
		default:
			before += g.Chars
			out.Width -= g.Advance
		}
	}
	if before > 0 {
		return r
	}
	return &out
}

// As gives the run as one that stands for other text, such as the hyphen at a
// line's end for a soft hyphen.
func (r *Run) As(text string) *Run {
	out := *r
	out.Text = text
	out.Glyphs = append([]Glyph(nil), r.Glyphs...)
	for i := range out.Glyphs {
		g := &out.Glyphs[i]
		g.Cluster, g.Chars = 0, 0
		if i == 0 {
			g.Chars = int32(len(text))
		}
	}
	return &out
}
