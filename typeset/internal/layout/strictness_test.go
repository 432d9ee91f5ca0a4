package layout

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/style"
)

func TestBreaksBetween(t *testing.T) {
	for _, c := range []struct {
		a, b          rune
		lang          string
		alike         bool
		normal, loose bool
	}{
		{'文', 'っ', "ja", false, true, true},
		{'文', 'ー', "en", false, true, true},
		{'文', '々', "ja", false, false, true},
		{'文', '〜', "ja", false, true, true},
		{'文', '〜', "en", false, false, false},
		{'文', '！', "zh-Hans", false, false, true},
		{'文', '！', "ko", false, false, false},
		{'５', '％', "ja", false, false, true},
		{'№', '文', "ja", false, false, true},
		{'文', '\u2010', "ja", false, false, true},
		{'a', '\u2010', "en", false, false, false},
		{'a', '\u2010', "en", true, false, true},
		{'…', '…', "ja", false, false, false},
		{' ', 'っ', "ja", false, false, false},
	} {
		s := &style.Style{}
		s.Lang = c.lang
		s.LineBreak = style.Strict
		assert.False(t, breaksBetween(c.a, c.b, s, c.alike), "%c%c strict", c.a, c.b)
		s.LineBreak = style.Normal
		assert.Equal(t, c.normal, breaksBetween(c.a, c.b, s, c.alike), "%c%c normal in %s", c.a, c.b, c.lang)
		s.LineBreak = style.Loose
		assert.Equal(t, c.loose, breaksBetween(c.a, c.b, s, c.alike), "%c%c loose in %s", c.a, c.b, c.lang)
	}
}
