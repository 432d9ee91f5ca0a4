package pdf

import (
	"testing"

	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/go-text/typesetting/language"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/font"
)

func TestCodesOfGlyphs(t *testing.T) {
	f, err := font.Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	e := &embedded{face: f}
	code := func(g uint32, text string) int {
		c, ok := e.code(g, text)
		require.True(t, ok)
		return int(c)
	}
	assert.Equal(t, 5, code(5, ""), "it stands for nothing yet")
	assert.Equal(t, 5, code(5, "a"))
	assert.Equal(t, f.NumGlyphs, code(5, "b"))
	assert.Equal(t, f.NumGlyphs+1, code(5, "c"))
	assert.Equal(t, 6, code(6, "a"), "another glyph may stand for the same")
	assert.Equal(t, f.NumGlyphs+2, code(6, "b"))
	assert.Equal(t, f.NumGlyphs, code(5, "b"), "the same text has the same code")
	assert.Equal(t, 5, code(5, "a"))
	assert.Equal(t, 5, code(5, ""))

	for name, face := range map[string]*font.Face{"no room": {NumGlyphs: mostCodes}, "CFF": {NumGlyphs: 10, CFF: true}} {
		e := &embedded{face: face}
		_, ok := e.code(5, "a")
		assert.True(t, ok, name)
		c, ok := e.code(5, "b")
		assert.False(t, ok, "%s: it says so beside the text", name)
		assert.Equal(t, uint32(5), c, name)
	}
}

// How the text of a cluster is parted among its glyphs.
func TestShares(t *testing.T) {
	f, err := font.Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	a, b, other := f.Glyph('a'), f.Glyph('b'), f.Glyph('%')
	for _, c := range []struct {
		name   string
		glyphs []uint32
		text   string
		want   []string
	}{
		{"each has its own", []uint32{a, b}, "ab", []string{"a", "b"}},
		{"turned around, as right-to-left is", []uint32{b, a}, "ab", []string{"b", "a"}},
		{"twice the same", []uint32{a, a}, "aa", []string{"a", "a"}},
		{"none is known, but there are as many", []uint32{other, other}, "né", []string{"n", "é"}},
		{"fewer glyphs than letters", []uint32{other, a}, "abc", []string{"abc", "\u200B"}},
		{"more glyphs than letters", []uint32{other, a, b}, "é", []string{"é", "\u200B", "\u200B"}},
	} {
		list := make([]font.Glyph, len(c.glyphs))
		for i, g := range c.glyphs {
			list[i].ID = g
		}
		assert.Equal(t, c.want, shares(f, list, c.text), c.name)
	}
}

func TestSaying(t *testing.T) {
	f, err := font.Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	run := f.Shape("QUAY", language.Latin, "", false, "")
	said := run.Saying("quay")
	assert.Equal(t, "quay", said.Text)
	assert.Equal(t, "QUAY", run.Text, "runs are shared")
	assert.Equal(t, run.Glyphs, said.Glyphs)
	assert.Same(t, run, run.Saying("quays"))
}
