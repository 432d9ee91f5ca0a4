package layout

import (
	"strings"
	"unicode"

	"golang.org/x/text/cases"
	"golang.org/x/text/language"
	"golang.org/x/text/width"

	"oliveledger/typeset/internal/style"
)

// transform applies text-transform (CSS Text 3, §2.1). mid tells whether the text before
// ended in the middle of a word, and then whether this one does.
func transform(t string, s *style.Style, mid *bool) string {
	switch s.TextTransform.Case {
	case style.Uppercase:
		t = upper(t, s.Lang)
	case style.Lowercase:
		t = lower(t, s.Lang)
	case style.Capitalize:
		t = capitalize(t, s.Lang, mid)
	}
	if s.TextTransform.FullWidth {
		t = width.Widen.String(t)
	}
	return t
}

func lower(t, lang string) string { return cases.Lower(language.Make(lang)).String(t) }

func upper(t, lang string) string {
	if lang == "el" || strings.HasPrefix(lang, "el-") {
		t = greekDiaeresis.Replace(t)
	}
	return cases.Upper(language.Make(lang)).String(t)
}

// greekDiaeresis has letters with a diaeresis as capitals: the library takes it away with the
// accents, though it stays (CSS Text 3, §2.1.2).
var greekDiaeresis = strings.NewReplacer("ϊ", "Ϊ", "ϋ", "Ϋ", "ΐ", "Ϊ", "ΰ", "Ϋ")

// capitalize gives words their title case. In Dutch, “ij” is one letter.
func capitalize(t, lang string, mid *bool) string {
	var b strings.Builder
	dutch := lang == "nl" || strings.HasPrefix(lang, "nl-")
	skip := 0
	for i, r := range t {
		letter := unicode.IsLetter(r) || unicode.IsNumber(r) || unicode.Is(unicode.Mn, r)
		switch {
		case i < skip:
		case letter && !*mid && dutch && strings.HasPrefix(strings.ToLower(t[i:]), "ij"):
			b.WriteString("IJ")
			skip = i + len("ij")
		case letter && !*mid:
			b.WriteString(cases.Title(language.Und, cases.NoLower).String(string(r)))
		default:
			b.WriteRune(r)
		}
		if letter {
			*mid = true
		} else if r != '\'' && r != '’' {
			*mid = false
		}
	}
	return b.String()
}
