package font

import (
	"testing"

	gtfont "github.com/go-text/typesetting/font"
	"github.com/stretchr/testify/assert"
)

// TestEmojiLooks holds when a character is to have colours (CSS Fonts 4, §6.12; UTS 51).
func TestEmojiLooks(t *testing.T) {
	const smile, info, digit, letter = '\U0001F600', 'ℹ', '3', 'a'
	for _, c := range []struct {
		r, next rune
		variant string
		want    int
	}{
		{smile, 0, "", AnyLook},
		{smile, 'x', "", AnyLook},
		{smile, 0, "emoji", ColorLook},
		{smile, 0, "text", PlainLook},
		{smile, 0, "unicode", ColorLook},
		{info, 0, "", AnyLook},
		{info, 0, "emoji", ColorLook},
		{info, 0, "text", PlainLook},
		{info, 0, "unicode", PlainLook},
		{smile, plainSelector, "emoji", PlainLook},
		{info, colorSelector, "text", ColorLook},
		{smile, plainSelector, "", PlainLook},
		{info, colorSelector, "", ColorLook},
		{digit, 0, "emoji", AnyLook},
		{digit, keycap, "emoji", ColorLook},
		{digit, colorSelector, "", ColorLook},
		{digit, plainSelector, "emoji", PlainLook},
		{digit, keycap, "", AnyLook},
		{letter, colorSelector, "emoji", AnyLook},
		{letter, 0, "text", AnyLook},
		{0x4E00, 0, "emoji", AnyLook},
	} {
		assert.Equal(t, c.want, EmojiLook(c.r, c.next, c.variant), "%c %U %q", c.r, c.next, c.variant)
	}
	assert.True(t, Selects(plainSelector) && Selects(colorSelector) && !Selects('a'))
}

// TestEmojiFaces: a face with colours, or without, is preferred; where there is none the
// first that has the character serves.
func TestEmojiFaces(t *testing.T) {
	s := NewSet()
	add := func(family string, colors bool) {
		s.Add(&Source{Family: family, WeightMin: 400, WeightMax: 400, StretchMin: 100, StretchMax: 100, Open: func([]gtfont.Variation) (*Face, error) {
			f, err := Parse(plainFont(t), nil)
			if err == nil && colors {
				c := colored()
				f.tables["COLR"], f.tables["CPAL"] = c.tables["COLR"], c.tables["CPAL"]
			}
			return f, err
		}})
	}
	add("Plain", false)
	add("Coloured", true)
	family := func(colors bool, families ...string) string {
		m, ok := s.ForEmoji(Query{Families: families, Weight: 400, Stretch: 100}, 'A', colors)
		assert.True(t, ok)
		return m.Family()
	}
	assert.Equal(t, "Coloured", family(true, "Plain", "Coloured"))
	assert.Equal(t, "Plain", family(false, "Coloured", "Plain"))
	assert.Equal(t, "Plain", family(true, "Plain"), "the first that has it")
}
