package font

import (
	"math/rand/v2"
	"os"
	"path/filepath"
	"testing"

	"github.com/go-fonts/dejavu/dejavusans"
	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/go-fonts/liberation/liberationserifitalic"
	"github.com/go-text/typesetting/language"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Numbers set from pairs are what the shaper makes of them, whatever font and features.
func TestNumbersAreShapedAlike(t *testing.T) {
	files := map[string][]byte{"sans": liberationsansregular.TTF, "serif": liberationserifitalic.TTF, "dejavu": dejavusans.TTF}
	more, err := filepath.Glob("../../../demo/templates/*/fonts/*.woff2")
	require.NoError(t, err)
	require.NotEmpty(t, more)
	for _, name := range more {
		files[name], err = os.ReadFile(name)
		require.NoError(t, err)
	}
	for name, data := range files {
		face, err := Parse(data, nil)
		require.NoError(t, err, name)
		for _, features := range []Features{"", "tnum", "onum -kern", "frac", "smcp zero", "-liga ss01=2"} {
			for _, script := range []language.Script{0, language.Latin} {
				set := sameNumbers(t, name, face, shaping{script, "en", false, features})
				if features == "" && face.Glyph('0') != 0 {
					assert.Greater(t, set, 100, "%s: numbers that needed no shaper", name)
				}
			}
		}
	}
}

// sameNumbers holds random words against the shaper, and counts those that were set
// without it.
func sameNumbers(t *testing.T, name string, face *Face, how shaping) (set int) {
	n := newNumbers(face, how)
	require.NotNil(t, n, name)
	random := rand.New(rand.NewPCG(1, 2))
	sets := []string{"0123456789", "0123456789.,-:/+%", "01479TAVfil.,-/x€ ’–", "0123456789abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ.,:;!?'\"()[]{}<>*#&@^`~_|\\$£€·−"}
	var again Run
	for range 400 {
		chars := []rune(sets[random.IntN(len(sets))])
		word := make([]rune, 1+random.IntN(9))
		for i := range word {
			word[i] = chars[random.IntN(len(chars))]
		}
		got := &again
		if !n.shape(string(word), got) {
			continue
		}
		set++
		require.Equal(t, face.shape(string(word), Context{}, how), got, "%s %v %q", name, how, string(word))
		var run Run
		require.True(t, n.set(string(word), &run))
		require.Equal(t, got.Width, run.Width)
		require.Empty(t, run.Glyphs, "a run without room for glyphs is only measured")
	}
	return set
}
