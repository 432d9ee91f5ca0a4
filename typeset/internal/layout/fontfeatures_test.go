package layout

import (
	"encoding/binary"
	"strings"
	"testing"

	"github.com/go-fonts/liberation/liberationsansregular"
	gtfont "github.com/go-text/typesetting/font"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/font"
)

// be writes numbers of 16 bits.
func be(list ...int) (out []byte) {
	for _, v := range list {
		out = binary.BigEndian.AppendUint16(out, uint16(v))
	}
	return out
}

// feature makes a “GSUB” table with one feature, whose lookup of a type has one subtable.
func feature(tag string, kind int, sub []byte) []byte {
	out := be(1, 0, 10, 30, 44)
	out = append(append(out, be(1)...), "DFLT"...)
	out = append(out, be(8, 4, 0, 0, 0xFFFF, 1, 0)...)
	out = append(append(out, be(1)...), tag...)
	out = append(out, be(8, 0, 1, 0)...)
	return append(append(out, be(1, 4, kind, 0, 1, 8)...), sub...)
}

// signs is a face in which “a b” is one glyph, and an “x” that stands upright is wider.
func signs(t *testing.T, table func(glyph func(rune) int) []byte) *font.Face {
	t.Helper()
	plain, err := font.Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	gsub := table(func(r rune) int { return int(plain.Glyph(r)) })
	data := append([]byte(nil), liberationsansregular.TTF...)
	at := strings.Index(string(data[:1024]), "GSUB")
	require.Positive(t, at)
	binary.BigEndian.PutUint32(data[at+8:], uint32(len(data)))
	binary.BigEndian.PutUint32(data[at+12:], uint32(len(gsub)))
	f, err := font.Parse(append(data, gsub...), nil)
	require.NoError(t, err)
	return f
}

// setIn measures #x set in a face.
func setIn(t *testing.T, face *font.Face, html, sheet string) placed {
	t.Helper()
	l, root := tree(t, html, "#x { display: inline-block; font: 10px/10px Signs } "+sheet)
	l.Fonts.Add(&font.Source{Family: "Signs", WeightMin: 400, WeightMax: 400, StretchMin: 100, StretchMax: 100, Open: func([]gtfont.Variation) (*font.Face, error) { return face, nil }})
	page, _ := l.LayPage(root, 400, 300, 0, 0, nil)
	list := readPlaced(t, strings.TrimSpace(dump(page)), "\n")
	require.Len(t, list, 1)
	return list[0]
}

// TestSpacesInLigatures: words that the font makes one glyph are set as one, on one line.
func TestSpacesInLigatures(t *testing.T) {
	face := signs(t, func(glyph func(rune) int) []byte {
		sub := be(1, 8, 1, 14, 1, 1, glyph('a'), 1, 4, glyph('W'), 3, glyph(' '), glyph('b'))
		return feature("liga", 4, sub)
	})
	assert.True(t, face.LigatesSpaces())
	w := func(text string) float64 { return setIn(t, face, "<i id=x>"+text+"</i>", "").w }
	wide := setIn(t, face, "<i id=x>W</i>", "").w
	for _, text := range []string{"a b", "a  b", "<b style='font-weight: 400'>a b</b>"} {
		assert.InDelta(t, wide, w(text), 0.01, text)
	}
	assert.InDelta(t, w("c W c W"), w("c a b c a b"), 0.01, "among other words")
	assert.InDelta(t, w("W W<b style='color: red'> W W</b>"), w("a b a b<b style='color: red'> a b a b</b>"), 0.01, "one style after another")
	for _, text := range []string{"a c", "b a", "a<b style='padding: 1px'></b> b"} {
		assert.Greater(t, w(text), wide, text)
	}
	assert.Equal(t, 10.0, setIn(t, face, "<i id=x>a b</i>", "#x { width: 1px }").h, "it is not broken")
	assert.Equal(t, 20.0, setIn(t, face, "<i id=x>a b a b</i>", "#x { width: 1px }").h)
	assert.Equal(t, 20.0, setIn(t, face, "<i id=x>a b</i>", "#x { width: 1px; font-feature-settings: 'liga' off }").h)

	plain, err := font.Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	assert.False(t, plain.LigatesSpaces())
}

// TestFormsForVerticalLines: letters that stand upright take the forms that a font has for
// them; those that lie do not (CSS Fonts 4, §6.3).
func TestFormsForVerticalLines(t *testing.T) {
	shown := func(sheet string) uint32 {
		t.Helper()
		face := signs(t, func(glyph func(rune) int) []byte {
			return feature("vert", 1, be(2, 8, 1, glyph('W'), 1, 1, glyph('x')))
		})
		l, root := tree(t, "<i id=x>x</i>", "i { font: 10px Signs } "+sheet)
		l.Fonts.Add(&font.Source{Family: "Signs", WeightMin: 400, WeightMax: 400, StretchMin: 100, StretchMax: 100, Open: func([]gtfont.Variation) (*font.Face, error) { return face, nil }})
		page, _ := l.LayPage(root, 400, 300, 0, 0, nil)
		id := uint32(0)
		var walk func(f *Fragment)
		walk = func(f *Fragment) {
			if f.Text != nil {
				id = f.Text.Runs[0].Glyphs[0].ID
			}
			for _, k := range f.Kids {
				walk(k.F)
			}
		}
		walk(page)
		for _, r := range "xW" {
			if face.Glyph(r) == id {
				return uint32(r)
			}
		}
		return 0
	}
	assert.Equal(t, uint32('x'), shown(""))
	assert.Equal(t, uint32('x'), shown("body { writing-mode: vertical-rl }"))
	assert.Equal(t, uint32('W'), shown("body { writing-mode: vertical-rl; text-orientation: upright }"))
	assert.Equal(t, uint32('x'), shown("body { writing-mode: vertical-rl; text-orientation: upright } i { font-feature-settings: 'vert' off }"), "the style may take them back")
}

// TestFontsOfPictures: a font whose letters are pictures is told, as they would be blank.
func TestFontsOfPictures(t *testing.T) {
	data := append([]byte(nil), liberationsansregular.TTF...)
	at := strings.Index(string(data[:1024]), "gasp")
	require.Positive(t, at)
	copy(data[at:], "CBDT")
	face, err := font.Parse(data, nil)
	require.NoError(t, err)
	l, root := tree(t, "<p>x", "p { font-family: Signs }")
	var told []string
	l.Tell = func(code, message string, _ *box.Box) { told = append(told, code+": "+message) }
	l.Fonts.Add(&font.Source{Family: "Signs", WeightMin: 400, WeightMax: 400, StretchMin: 100, StretchMax: 100, Open: func([]gtfont.Variation) (*font.Face, error) { return face, nil }})
	l.LayPage(root, 400, 300, 0, 0, nil)
	assert.Equal(t, []string{"face-pictures: the font “Signs” keeps its letters as pictures (CBDT), which are not read: they are blank or without colours; take its version with COLR outlines"}, told)
}
