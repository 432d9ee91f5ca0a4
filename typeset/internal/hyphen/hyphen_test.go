package hyphen

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestWords(t *testing.T) {
	for _, c := range []struct{ lang, want string }{
		{"en", "hy-phen-ation"},
		{"en-US", "com-puter"},
		{"en-GB", "hy-phen-a-tion"},
		{"de", "Ha-fen-meis-ter"},
		{"de-AT", "Rech-nung"},
		{"fr", "or-di-na-teur"},
		{"es", "or-de-na-dor"},
		{"it", "cal-co-la-to-re"},
		{"nl", "ver-ant-woor-de-lijk"},
		{"pl", "od-po-wie-dzial-ność"},
		{"pt", "com-pu-ta-dor"},
		{"sv", "hamn-av-gift"},
	} {
		assert.Equal(t, c.want, strings.ReplaceAll(Insert(strings.ReplaceAll(c.want, "-", ""), c.lang, Limits{}), "\u00AD", "-"), c.lang)
	}
}

func TestWordsLeftAlone(t *testing.T) {
	for _, s := range []string{"NATO", "iPhone", "berth12number", "ship", "of", "office@harbour", "hy\u00ADphenation", ""} {
		assert.Equal(t, s, Insert(s, "en", Limits{}))
	}
	assert.Equal(t, "hyphenation", Insert("hyphenation", "ja", Limits{}))
	assert.False(t, Supports("tlh"))
	for lang := range languages {
		d := dictionaryOf(lang)
		if assert.NotNil(t, d, lang) {
			assert.Greater(t, len(d.values), 200, lang)
		}
	}
}

func TestLimits(t *testing.T) {
	for limits, want := range map[Limits]string{
		{}: "ex-am-ple", {Word: 7}: "ex-am-ple", {Word: 8}: "example", {Before: 3}: "exam-ple", {Before: 5}: "example", {After: 4}: "ex-ample", {After: 6}: "example", {Before: 3, After: 4}: "example",
	} {
		assert.Equal(t, want, strings.ReplaceAll(Insert("example", "en", limits), "\u00AD", "-"), "%v", limits)
	}
	assert.Equal(t, "in\u00ADto", Insert("into", "en", Limits{Word: 4, After: 2}), "shorter than is usual")
}
