package merge

import (
	"strconv"
	"strings"
	"sync"
	"unicode"

	"github.com/shopspring/decimal"
	"golang.org/x/text/language"
	"golang.org/x/text/message"

	"oliveledger/merge/cldr"
)

const nbsp = "\u00A0"

// locale is how a language writes numbers and dates.
type locale struct {
	cldr.Locale
	tag                language.Tag
	primary, secondary int // digits of the group before the point, and of those before it
	leastGrouped       int // digits that the first group has at least
	currencies         sync.Map
}

// localeOf finds how a language writes; ok is false where there are no words for it.
func localeOf(tag language.Tag) (l *locale, ok bool) {
	found, ok := cldr.Find(tag)
	l = &locale{Locale: found, tag: tag, primary: 3, secondary: 3, leastGrouped: 1}
	whole, _, _ := strings.Cut(found.Decimal, ".")
	if groups := strings.Split(whole, ","); len(groups) > 1 {
		l.primary = len(groups[len(groups)-1])
		l.secondary = l.primary
		if len(groups) > 2 {
			l.secondary = len(groups[len(groups)-2])
		}
	}
	if n, err := strconv.Atoi(found.LeastGrouped); err == nil {
		l.leastGrouped = n
	}
	return l, ok
}

func (l *locale) printer() *message.Printer { return message.NewPrinter(l.tag) }

// digits writes an amount that is not negative; the digits are exact.
func (l *locale) digits(d decimal.Decimal, places int) string {
	whole, frac, _ := strings.Cut(d.StringFixed(int32(places)), ".")
	var b strings.Builder
	for i, c := range whole {
		if i > 0 && l.groupEnds(len(whole)-i, len(whole)) {
			b.WriteString(l.Group)
		}
		b.WriteRune(l.digit(c))
	}
	if frac != "" {
		b.WriteString(l.Point)
		for _, c := range frac {
			b.WriteRune(l.digit(c))
		}
	}
	return b.String()
}

// groupEnds tells whether a group of digits ends where so many of all are left.
func (l *locale) groupEnds(left, all int) bool {
	return all >= l.primary+l.leastGrouped && left >= l.primary && (left-l.primary)%l.secondary == 0
}

func (l *locale) digit(c rune) rune {
	if c >= '0' && c <= '9' {
		return []rune(l.Zero)[0] + c - '0'
	}
	return c
}

// filled puts digits, and a sign such as that of a currency, into a pattern of numbers. A
// sign that is a word stands apart from the digits.
func filled(pattern, digits, sign string) string {
	pattern, _, _ = strings.Cut(pattern, ";") // negative numbers have our minus
	const inDigits = "#,.0"
	start, end := strings.IndexAny(pattern, inDigits), strings.LastIndexAny(pattern, inDigits)+1
	before, after := pattern[:start], pattern[end:]
	if letters := strings.TrimFunc(sign, func(r rune) bool { return !unicode.IsLetter(r) }); letters == sign {
		if strings.HasSuffix(before, "¤") {
			before += nbsp
		}
		if strings.HasPrefix(after, "¤") {
			after = nbsp + after
		}
	}
	put := func(part string) string { return strings.ReplaceAll(strings.ReplaceAll(part, "%", sign), "¤", sign) }
	return strings.ReplaceAll(put(before)+digits+put(after), " ", nbsp)
}
