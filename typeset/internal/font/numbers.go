package font

import (
	"slices"
	"strings"
	"sync/atomic"
	"unicode/utf8"

	gtfont "github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype/tables"
	"github.com/go-text/typesetting/language"
)

// numbers sets words with digits, which seldom come again, from what is known of
// their characters and pairs of them. It stands aside for characters to which a
// font does more than that.
type numbers struct {
	face  *Face
	how   shaping
	subs  []gtfont.GSUBLookup
	poss  []gtfont.GPOSLookup
	alone [numberChars]atomic.Pointer[Glyph]
	pairs [numberChars][numberChars]atomic.Pointer[pair]
}

// pair is what two characters side by side change in each other.
type pair struct{ first, second moved }

type moved struct{ advance, x int32 }

// notPlain and notPair stand for what is not to be set so.
var (
	notPlain = &Glyph{}
	notPair  = &pair{}
)

// numberChars is how many characters numbers may have, and one more for all others.
const numberChars = 0x7F - 0x20 + len(moreNumberChars)

var moreNumberChars = [...]rune{'\u00A0', '£', '€', '–', '−', '’', '\u202F', '·'}

// numberChar is the place of a character in tables; 0 is for others.
func numberChar(r rune) int {
	if r > 0x20 && r < 0x7F {
		return int(r) - 0x20
	}
	if i := slices.Index(moreNumberChars[:], r); r > 0x7F && i >= 0 {
		return 0x7F - 0x20 + i
	}
	return 0
}

// hasDigit tells whether a word has one of the digits 0 to 9.
func hasDigit(word string) bool {
	for i := range len(word) {
		if word[i] >= '0' && word[i] <= '9' {
			return true
		}
	}
	return false
}

// newNumbers is nil where a font may do more than a table of pairs can say.
func newNumbers(f *Face, how shaping) *numbers {
	font := f.font
	if how.rtl || how.script != 0 && how.script != language.Latin || len(font.Morx) > 0 || len(font.Kerx) > 0 || !font.Trak.IsEmpty() {
		return nil
	}
	for _, t := range font.Kern {
		if _, byPairs := t.Data.(gtfont.SimpleKerns); !byPairs {
			return nil
		}
	}
	n := &numbers{face: f, how: how}
	on := activeFeatures(how.features)
	for _, i := range lookupsOf(&font.GSUB.Layout, on) {
		if int(i) < len(font.GSUB.Lookups) {
			n.subs = append(n.subs, font.GSUB.Lookups[i])
		}
	}
	for _, i := range lookupsOf(&font.GPOS.Layout, on) {
		if int(i) < len(font.GPOS.Lookups) {
			n.poss = append(n.poss, font.GPOS.Lookups[i])
		}
	}
	return n
}

// commonFeatures are those that the shaper uses in left-to-right text unless it is
// told otherwise.
const commonFeatures = "rvrn ltra ltrm rand Harf HARF Buzz BUZZ abvm blwm ccmp locl mark mkmk rlig calt clig curs dist kern liga rclt"

func activeFeatures(asked Features) map[string]bool {
	on := map[string]bool{}
	for tag := range strings.FieldsSeq(commonFeatures) {
		on[tag] = true
	}
	for _, f := range parseFeatures(asked) {
		on[f.Tag.String()] = true
	}
	return on
}

// lookupsOf are the lookups of some features, in any script and language.
func lookupsOf(l *gtfont.Layout, on map[string]bool) (out []uint16) {
	required := map[uint16]bool{}
	for _, s := range l.Scripts {
		if s.DefaultLangSys != nil {
			required[s.DefaultLangSys.RequiredFeatureIndex] = true
		}
		for _, lang := range s.LangSys {
			required[lang.RequiredFeatureIndex] = true
		}
	}
	used := func(i int) bool { return on[l.Features[i].Tag.String()] || required[uint16(i)] }
	for i, f := range l.Features {
		if used(i) {
			out = append(out, f.LookupListIndices...)
		}
	}
	for _, v := range l.FeatureVariations {
		for _, s := range v.Substitutions.Substitutions {
			if int(s.FeatureIndex) < len(l.Features) && used(int(s.FeatureIndex)) {
				out = append(out, s.AlternateFeature.LookupListIndices...)
			}
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// plain tells whether a font does nothing with a glyph but to exchange it for
// another, whatever stands beside it, and to kern it by pairs.
func (n *numbers) plain(glyph uint16) bool {
	may := []uint16{glyph} // what it may be exchanged for
	for i := 0; i < len(may); i++ {
		g := may[i]
		if classes := n.face.font.GDEF.GlyphClassDef; classes != nil {
			if class, _ := classes.Class(g); class == markClass {
				return false
			}
		}
		for _, l := range n.subs {
			for _, t := range l.Subtables {
				at, covered := t.Cov().Index(g)
				if !covered {
					continue
				}
				to, ok := exchanged(t, g, at)
				if !ok {
					return false
				}
				if !slices.Contains(may, to) {
					may = append(may, to)
				}
			}
		}
		for _, l := range n.poss {
			for _, t := range l.Subtables {
				if _, covered := t.Cov().Index(g); covered && !(byPairs(t) && l.Flag&skipsGlyphs == 0) {
					return false
				}
			}
		}
	}
	return true
}

// markClass is the class of marks in the GDEF table.
const markClass = 3

// skipsGlyphs are the flags of lookups that may pass over base glyphs and ligatures.
const skipsGlyphs = 1<<1 | 1<<2 | 1<<4 | 0xFF00

// exchanged is the glyph that stands for another by a single substitution, g being
// covered at a place (OpenType, “GSUB”, lookup type 1).
func exchanged(t tables.GSUBLookup, g uint16, at int) (to uint16, ok bool) {
	single, ok := t.(tables.SingleSubs)
	if !ok {
		return 0, false
	}
	switch d := single.Data.(type) {
	case tables.SingleSubstData1:
		return g + uint16(d.DeltaGlyphID), true
	case tables.SingleSubstData2:
		if at < len(d.SubstituteGlyphIDs) {
			return d.SubstituteGlyphIDs[at], true
		}
	}
	return 0, false
}

// byPairs tells whether a lookup kerns pairs, and each of them by itself: where it
// moves the second glyph, that one begins no pair.
func byPairs(t tables.GPOSLookup) bool {
	p, ok := t.(tables.PairPos)
	if !ok {
		return false
	}
	switch d := p.Data.(type) {
	case tables.PairPosData1:
		return d.ValueFormat2 == 0
	case tables.PairPosData2:
		return d.ValueFormat2 == 0
	}
	return false
}

// glyph is the glyph of a character where it stands alone, or nil.
func (n *numbers) glyph(i int, r rune) *Glyph {
	if g := n.alone[i].Load(); g != nil {
		return g.orNil()
	}
	g := notPlain
	if id := n.face.Glyph(r); id != 0 && n.plain(uint16(id)) {
		if run := n.face.shape(string(r), Context{}, n.how); len(run.Glyphs) == 1 && run.Glyphs[0].XOff == 0 && run.Glyphs[0].YOff == 0 {
			g = &run.Glyphs[0]
		}
	}
	n.alone[i].Store(g)
	return g.orNil()
}

func (g *Glyph) orNil() *Glyph {
	if g == notPlain {
		return nil
	}
	return g
}

// pair is what two characters change in each other, or nil.
func (n *numbers) pair(i, k int, a, b rune) *pair {
	p := n.pairs[i][k].Load()
	if p == nil {
		p = n.shapePair(n.glyph(i, a), n.glyph(k, b), string(a)+string(b))
		n.pairs[i][k].Store(p)
	}
	if p == notPair {
		return nil
	}
	return p
}

func (n *numbers) shapePair(a, b *Glyph, text string) *pair {
	run := n.face.shape(text, Context{}, n.how)
	if len(run.Glyphs) != 2 {
		return notPair
	}
	x, y := &run.Glyphs[0], &run.Glyphs[1]
	if x.ID != a.ID || y.ID != b.ID || x.YOff != 0 || y.YOff != 0 || y.Cluster != a.Chars {
		return notPair
	}
	p := &pair{}
	p.first.advance, p.first.x = int32(x.Advance-a.Advance), int32(x.XOff)
	p.second.advance, p.second.x = int32(y.Advance-b.Advance), int32(y.XOff)
	return p
}

// shape makes a run of a word. It tells whether it could.
func (n *numbers) shape(word string, run *Run) bool {
	*run = Run{Text: word, Glyphs: slices.Grow(run.Glyphs[:0], utf8.RuneCountInString(word))}
	return n.set(word, run)
}

// set adds to the width of a run that of a word and, where the run has room for
// them, its glyphs. It tells whether it could.
func (n *numbers) set(word string, run *Run) bool {
	var last rune
	before := 0
	for at, r := range word {
		i := numberChar(r)
		if i == 0 {
			return false
		}
		alone := n.glyph(i, r)
		if alone == nil {
			return false
		}
		g := *alone
		g.Cluster = int32(at)
		run.Width += g.Advance
		if at > 0 {
			p := n.pair(before, i, last, r)
			if p == nil {
				return false
			}
			run.Width += float64(p.first.advance + p.second.advance)
			g.move(p.second)
			if k := len(run.Glyphs); k > 0 {
				run.Glyphs[k-1].move(p.first)
			}
		}
		if cap(run.Glyphs) > 0 {
			run.Glyphs = append(run.Glyphs, g)
		}
		before, last = i, r
	}
	return true
}

func (g *Glyph) move(by moved) {
	g.Advance += float64(by.advance)
	g.XOff += float32(by.x)
}
