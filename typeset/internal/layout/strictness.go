package layout

import (
	"strings"

	"golang.org/x/text/language"

	"oliveledger/typeset/internal/style"
)

// Characters before which CSS Text 3, §5.3 allows a line to end by how strict it
// is to be.
const (
	// smallKana are those of the class CJ of UAX #14: small kana and marks of prolonged sound.
	smallKana = "ぁぃぅぇぉっゃゅょゎゕゖァィゥェォッャュョヮヵヶーㇰㇱㇲㇳㇴㇵㇶㇷㇸㇹㇺㇻㇼㇽㇾㇿｧｨｩｪｫｬｭｮｯｰ"
	// iterationMarks repeat the character before them.
	iterationMarks = "々〻ゝゞヽヾ"
	// waves are hyphen-like characters of Chinese and Japanese.
	waves = "〜゠"
	// centered punctuation of Chinese and Japanese.
	centered = "・：；･‼⁇⁈⁉！？"
	// hyphens that end no line in strict text.
	hyphens = "\u2010\u2013"
	// inseparable dots.
	inseparable = "‥…"
	postfixes   = "°‰′″℃％￠"
	prefixes    = "№±€＄￡￥"
)

// breaksBetween tells whether line-break allows a line to end between two
// characters where UAX #14 does not. alike tells that word-break treats all
// letters as ideographs.
func breaksBetween(a, b rune, s *style.Style, alike bool) bool {
	loose := s.LineBreak == style.Loose
	if !loose && s.LineBreak != style.Normal || !wordChar(a) && !eastAsian(a) {
		return false
	}
	has := func(set string) bool { return strings.ContainsRune(set, b) }
	switch {
	case has(smallKana):
		return true
	case has(waves):
		return eastAsianLanguage(s.Lang)
	case !loose:
		return false
	case has(iterationMarks), has(inseparable) && (a == b || eastAsian(a)):
		return true
	case has(hyphens):
		return eastAsian(a) || alike
	}
	return eastAsianLanguage(s.Lang) && (has(centered) || has(postfixes) || strings.ContainsRune(prefixes, a))
}

// eastAsianLanguage tells whether text is written as Chinese or Japanese is (CSS Text 3, appendix E).
func eastAsianLanguage(lang string) bool {
	tag, err := language.Parse(lang)
	if err != nil {
		return false
	}
	script, _ := tag.Script()
	switch script.String() {
	case "Jpan", "Hrkt", "Hira", "Kana", "Hani", "Hans", "Hant", "Hanb", "Bopo":
		return true
	}
	return false
}
