package layout

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/style"
)

func TestTransform(t *testing.T) {
	for _, c := range []struct {
		how            style.Keyword
		lang, in, want string
	}{
		{style.Uppercase, "de", "Straße", "STRASSE"},
		{style.Uppercase, "en", "ﬁsh ﬀ ﬃ ﬅ", "FISH FF FFI ST"},
		{style.Uppercase, "tr", "ilk ısı", "İLK ISI"},
		{style.Uppercase, "el", "Άνοιξη", "ΑΝΟΙΞΗ"},
		{style.Uppercase, "", "i", "I"},
		{style.Lowercase, "", "ΟΔΥΣΣΕΥΣ", "οδυσσευς"},
		{style.Lowercase, "az", "IĞDIR", "ığdır"},
		{style.Capitalize, "nl", "ijsland en ij-meer", "IJsland En IJ-Meer"},
		{style.Capitalize, "en", "ijs o'clock ǆur 1st", "Ijs O'clock ǅur 1st"},
		{style.None, "en", "Straße", "Straße"},
	} {
		s := *style.Initial() // which all share
		s.TextTransform.Case, s.Lang = c.how, c.lang
		mid := false
		assert.Equal(t, c.want, transform(c.in, &s, &mid), c.in)
	}
}

// A word that goes on in another element is not begun anew.
func TestCapitalizeGoesOn(t *testing.T) {
	s := *style.Initial()
	s.TextTransform.Case = style.Capitalize
	mid := false
	assert.Equal(t, "Har", transform("har", &s, &mid))
	assert.Equal(t, "bour Gate ", transform("bour gate ", &s, &mid))
	assert.Equal(t, "Open", transform("open", &s, &mid))
}

func TestFullWidth(t *testing.T) {
	s := *style.Initial()
	s.TextTransform.FullWidth = true
	mid := false
	assert.Equal(t, "Ａ１！　ア￥", transform("A1! ｱ¥", &s, &mid))
}
