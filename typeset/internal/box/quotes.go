package box

import (
	"strings"

	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// quoteMarks are the quotation marks of quotes: auto by language (Unicode CLDR,
// delimiters): outer and inner pairs, four runes each. All others use those of
// English.
var quoteMarks = func() map[string][]string {
	out := map[string][]string{}
	for marks, languages := range map[string]string{
		"“”‘’": "en",
		"„“‚‘": "de cs sk sl is lb hsb dsb mk lt bs-cyrl de-li",
		"„“‘’": "bg",
		"„“«»": "et ka",
		"„“‘‘": "sr",
		"„”‚’": "hr agq ff",
		"„”‘’": "bs",
		"„”«»": "pl ro nmg",
		"„”»«": "hu",
		"«»«»": "fr hy yav",
		"«»‹›": "fr-ch de-ch am fa gsw jgo kkj mzn rm wae",
		"«»”“": "fr-ca",
		"«»“”": "es it ca el pt-pt ast bm br dyo kab mg mua nnh sg sq",
		"«»‘’": "nb nn no dua ksf rw",
		"«»„“": "ru uk be bas ky os sah",
		"«»„”": "shi zgh",
		"””’’": "sv fi da fo he lag rn se sn yi",
		"”“’‘": "ar ur",
		"“”«»": "ewo",
		"“”“”": "tk",
		"“”’‘": "uz",
		"‘’‘’": "nl",
		"‘’“”": "cy fur ia ti xh",
		"「」『』": "ja zh-hant zh-tw zh-hk",
	} {
		for _, l := range strings.Fields(languages) {
			out[l] = strings.Split(marks, "")
		}
	}
	return out
}()

// marksOf gives the quotation marks of a language tag.
func marksOf(lang string) []string {
	for tag := strings.ToLower(lang); tag != ""; {
		if m := quoteMarks[tag]; m != nil {
			return m
		}
		cut := strings.LastIndexByte(tag, '-')
		if cut < 0 {
			break
		}
		tag = tag[:cut]
	}
	return quoteMarks["en"]
}

// quoteLanguage is the language around a quotation, whose marks it takes
// (CSS Content 3, §3.1).
func quoteLanguage(n *markup.Node) string {
	for p := n.Parent; p != nil; p = p.Parent {
		if p.Has("lang") {
			return p.Attr("lang")
		}
	}
	return n.Attr("lang")
}

// QuotesIn gives the quotation marks of a style: pairs from the outermost in, by the
// language when the style names none.
func QuotesIn(s *style.Style, lang string) []string {
	if s.Quotes != nil {
		return *s.Quotes
	}
	return marksOf(lang)
}

// QuoteMark opens or closes a quotation inside of depth others, by one of the keywords of
// content, and gives its mark (CSS Content 3, §3).
func QuoteMark(which string, depth *int, marks []string) string {
	at := func(depth, side int) string {
		if len(marks) == 0 || depth < 0 {
			return ""
		}
		i := min(2*depth, len(marks)-2)
		return marks[i+side]
	}
	switch which {
	case "open-quote":
		*depth++
		return at(*depth-1, 0)
	case "close-quote":
		if *depth > 0 {
			*depth--
			return at(*depth, 1)
		}
	case "no-open-quote":
		*depth++
	case "no-close-quote":
		*depth = max(*depth-1, 0)
	}
	return ""
}
