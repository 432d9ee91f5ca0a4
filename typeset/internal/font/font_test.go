package font

import (
	"strconv"
	"sync"
	"testing"

	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/go-text/typesetting/language"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMatching(t *testing.T) {
	s := NewSet()
	m := s.Primary(Query{Families: []string{"No Such", "Arial"}, Weight: 700, Stretch: 100, Italic: true}).Match
	assert.Equal(t, "LiberationSans-BoldItalic", m.Face.Name)
	assert.False(t, m.Bold || m.Oblique != 0)
	m, ok := s.For(Query{Families: []string{"serif"}, Weight: 400, Stretch: 100}, 'م')
	assert.True(t, ok)
	assert.Contains(t, m.Face.Name, "DejaVu")
	for _, pick := range []func() (Match, bool){
		func() (Match, bool) { return s.For(Query{Weight: 700, Stretch: 100}, '\U000E0FFF') },
		func() (Match, bool) { return s.ForEmoji(Query{Weight: 700, Stretch: 100}, '\U000E0FFF', true) },
	} {
		m, ok = pick()
		assert.False(t, ok)
		require.NotNil(t, m.Face, "there is a face to draw a box with")
		assert.Equal(t, 700.0, m.Face.Weight)
	}
	assert.Nil(t, s.Local("No Such Bold"))
}

// TestWidthsOfGlyphs: they are rounded as the table of widths in a file is, also of glyphs that are none.
func TestWidthsOfGlyphs(t *testing.T) {
	f, err := Parse(plainFont(t), nil)
	require.NoError(t, err)
	for _, g := range []uint32{0, f.Glyph('A'), uint32(f.NumGlyphs) - 1, uint32(f.NumGlyphs), EmptyID} {
		for range 2 { // the second time it is remembered
			assert.InDelta(t, f.GlyphAdvance(g), f.GlyphWidth(g), 1e-7, "glyph %d", g)
		}
	}
	assert.NotZero(t, f.GlyphWidth(f.Glyph('A')))
}

func TestShapeAndSubset(t *testing.T) {
	f, err := Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	run := f.Shape("office", language.Latin, "", false, "")
	chars, used := 0, map[uint32]bool{}
	for _, g := range run.Glyphs {
		chars += int(g.Chars)
		used[g.ID] = true
	}
	assert.Equal(t, 6, chars, "every byte belongs to one cluster")
	assert.Same(t, run, f.Shape("office", language.Latin, "", false, ""), "words are shaped once")
	sub := f.Subset(used, 0)
	assert.Less(t, len(sub.Data), 6000)
	again, err := Parse(sub.Data, nil)
	if err == nil { // a subset for PDF has no cmap, but its tables are sound
		assert.Equal(t, len(used)+1, again.NumGlyphs)
	}
	assert.Equal(t, checksum(sub.Data), uint32(0xB1B0AFBA))
}

func FuzzParse(f *testing.F) {
	f.Add([]byte("wOF2"))
	f.Add([]byte("wOFF"))
	f.Add(plainFont(f))
	f.Fuzz(func(t *testing.T, b []byte) {
		if face, err := Parse(b, nil); err == nil {
			face.shape("Office", Context{}, shaping{})
			face.Subset(map[uint32]bool{1: true}, 0)
		}
	})
}

func TestParsedOnce(t *testing.T) {
	m := NewSet().Primary(Query{Families: []string{"serif"}, Weight: 400, Stretch: 100})
	a, err := Parsed(m.Face.data, nil)
	require.NoError(t, err)
	b, err := Parsed(append([]byte(nil), m.Face.data...), nil)
	require.NoError(t, err)
	assert.Same(t, a, b, "the content counts")
	_, err = Parsed([]byte("no font"), nil)
	assert.Error(t, err)
}

func TestInk(t *testing.T) {
	f, err := Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	lo, hi := -0.14*f.Upem, -0.08*f.Upem
	for r, below := range map[rune]bool{'p': true, 'g': true, 'j': true, 'a': false, 'x': false, 'l': false} {
		g := f.Glyph(r)
		left, right, ok := f.Ink(g, lo, hi)
		assert.Equal(t, below, ok, string(r))
		if ok {
			assert.Less(t, left, right)
			assert.LessOrEqual(t, right-left, f.GlyphAdvance(g)*f.Upem)
		}
	}
	left, right, ok := f.Ink(f.Glyph('p'), lo, hi)
	assert.True(t, ok && right-left < 0.2*f.Upem, "only the stem of p goes below: %f to %f", left, right)
}

// Words are remembered by how they are shaped, up to a bound, and by many at once.
func TestWords(t *testing.T) {
	f := NewSet().Primary(Query{Families: []string{"serif"}, Weight: 400, Stretch: 100}).Face
	a, b := f.Words(language.Latin, "en", false, ""), f.Words(language.Latin, "en", false, "-kern")
	assert.Same(t, a, f.Words(language.Latin, "en", false, ""))
	assert.NotSame(t, a, b)
	assert.Same(t, a.Shape("AVA"), a.Shape("AVA"), "once shaped, it is there")
	assert.Less(t, a.Shape("AVA").Width, b.Shape("AVA").Width, "kerning counts")
	assert.Same(t, a.Shape("Quay"), f.ShapeIn(Context{}, "Quay", language.Latin, "en", false, ""))
	arabic := f.ShapeIn(Context{Before: "\u0633"}, "\u0633", language.Arabic, "", true, "")
	assert.Same(t, arabic, f.ShapeIn(Context{Before: "\u0633"}, "\u0633", language.Arabic, "", true, ""))
	var all sync.WaitGroup
	for k := range 4 {
		all.Add(1)
		go func() {
			defer all.Done()
			for i := range maxCached / 3 {
				text := strconv.Itoa(i*7 + k)
				if run := a.Shape(text); len(run.Glyphs) != len(text) || run.Text != text {
					t.Errorf("%q became %q with %d glyphs", text, run.Text, len(run.Glyphs))
				}
			}
		}()
	}
	all.Wait()
	f.mu.RLock()
	assert.LessOrEqual(t, f.kept, maxCached)
	f.mu.RUnlock()
	assert.Equal(t, "Quay", a.Shape("Quay").Text, "what was forgotten is shaped again")
}

// TestSpacesAreKerned: a space and the letters beside it are as wide as when they are shaped
// together.
func TestSpacesAreKerned(t *testing.T) {
	set := NewSet()
	face := set.Primary(Query{Families: []string{"Liberation Sans"}, Weight: 400}).Face
	w := face.Words(language.Latin, "", false, "")
	kerned := 0
	for _, pair := range []string{"A A", "P T", "o n", "1 2", "Y ."} {
		r := []rune(pair)
		want := w.Shape(pair).Width - w.Shape(string(r[0])).Width - w.Shape(string(r[2])).Width
		got := w.Space(r[0], r[2])
		assert.InDelta(t, want, got.Width, 1e-6, pair)
		if got.Width != w.Shape(" ").Width {
			kerned++
		}
		assert.Same(t, got, w.Space(r[0], r[2]), "it is remembered")
	}
	assert.Positive(t, kerned, "this face kerns capitals with spaces")
	none := face.Words(language.Latin, "", false, "-kern")
	assert.Equal(t, none.Shape(" ").Width, none.Space('A', 'A').Width)
}
