package merge

import (
	"errors"
	"fmt"
	"strconv"
	"strings"

	"github.com/shopspring/decimal"
	"golang.org/x/text/feature/plural"
)

// speller writes whole numbers below a million millions in words.
type speller struct {
	and  string // before the hundredths
	word func(n int64) string
}

var spellers = map[string]speller{"en": {"and", english}, "de": {"und", german}, "fr": {"et", french}, "es": {"con", spanish}, "it": {"e", italian}}

// inWords writes an amount as a cheque does: one hundred twenty-three and 45/100.
// Amounts are written in English, German, French, Spanish and Italian.
func (t *tools) inWords(v any, language ...string) (string, error) {
	d, err := amount(v)
	if err != nil {
		return "", err
	}
	base, _ := t.tag.Base()
	code := pick(language, base.String())
	s, ok := spellers[code]
	if !ok {
		return "", fmt.Errorf("amounts are written in words in en, de, fr, es and it, not in %q", code)
	}
	cheque := d.Exponent() < 0 // 1.00 keeps its 00/100
	d = d.Round(2)
	whole := d.Abs().IntPart()
	if d.Abs().GreaterThanOrEqual(decimal.New(1, 12)) {
		return "", errors.New("the amount is too large to be written in words")
	}
	out := s.word(whole)
	if cents := d.Abs().Sub(decimal.NewFromInt(whole)).Shift(2).IntPart(); cents > 0 || cheque {
		out += fmt.Sprintf(" %s %02d/100", s.and, cents)
	}
	if d.IsNegative() {
		out = map[string]string{"en": "minus ", "de": "minus ", "fr": "moins ", "es": "menos ", "it": "meno "}[code] + out
	}
	return out, nil
}

var (
	enSmall  = strings.Fields("zero one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen")
	enTens   = strings.Fields("- - twenty thirty forty fifty sixty seventy eighty ninety")
	deSmall  = strings.Fields("null eins zwei drei vier fünf sechs sieben acht neun zehn elf zwölf dreizehn vierzehn fünfzehn sechzehn siebzehn achtzehn neunzehn")
	deTens   = strings.Fields("- - zwanzig dreißig vierzig fünfzig sechzig siebzig achtzig neunzig")
	frSmall  = strings.Fields("zéro un deux trois quatre cinq six sept huit neuf dix onze douze treize quatorze quinze seize dix-sept dix-huit dix-neuf")
	frTens   = strings.Fields("- - vingt trente quarante cinquante soixante soixante quatre-vingt quatre-vingt")
	esSmall  = strings.Fields("cero uno dos tres cuatro cinco seis siete ocho nueve diez once doce trece catorce quince dieciséis diecisiete dieciocho diecinueve veinte veintiuno veintidós veintitrés veinticuatro veinticinco veintiséis veintisiete veintiocho veintinueve")
	esTens   = strings.Fields("- - - treinta cuarenta cincuenta sesenta setenta ochenta noventa")
	esHundre = strings.Fields("- ciento doscientos trescientos cuatrocientos quinientos seiscientos setecientos ochocientos novecientos")
	itSmall  = strings.Fields("zero uno due tre quattro cinque sei sette otto nove dieci undici dodici tredici quattordici quindici sedici diciassette diciotto diciannove")
	itTens   = strings.Fields("- - venti trenta quaranta cinquanta sessanta settanta ottanta novanta")
)

func english(n int64) string {
	switch {
	case n < 20:
		return enSmall[n]
	case n < 100:
		if n%10 == 0 {
			return enTens[n/10]
		}
		return enTens[n/10] + "-" + enSmall[n%10]
	case n < 1000:
		return tailed(enSmall[n/100]+" hundred", " ", n%100, english)
	case n < 1e6:
		return tailed(english(n/1000)+" thousand", " ", n%1000, english)
	case n < 1e9:
		return tailed(english(n/1e6)+" million", " ", n%1e6, english)
	}
	return tailed(english(n/1e9)+" billion", " ", n%1e9, english)
}

// tailed adds the words of what is left, if anything is.
func tailed(head, gap string, rest int64, word func(int64) string) string {
	if rest == 0 {
		return head
	}
	return head + gap + word(rest)
}

func german(n int64) string {
	one := func(n int64) string { // before a noun, one is ein
		if w := german(n); n%100 == 1 {
			return strings.TrimSuffix(w, "s")
		} else {
			return w
		}
	}
	switch {
	case n < 20:
		return deSmall[n]
	case n < 100:
		switch n % 10 {
		case 0:
			return deTens[n/10]
		case 1:
			return "einund" + deTens[n/10]
		}
		return deSmall[n%10] + "und" + deTens[n/10]
	case n < 1000:
		return tailed(one(n/100)+"hundert", "", n%100, german)
	case n < 1e6:
		return tailed(one(n/1000)+"tausend", "", n%1000, german)
	case n < 1e9:
		return tailed(counted(n/1e6, "eine Million", "Millionen", one), " ", n%1e6, german)
	}
	return tailed(counted(n/1e9, "eine Milliarde", "Milliarden", one), " ", n%1e9, german)
}

func counted(n int64, single, several string, word func(int64) string) string {
	if n == 1 {
		return single
	}
	return word(n) + " " + several
}

func french(n int64) string { return frenchPart(n, true) }

// frenchPart knows whether the number ends here: quatre-vingts and cents have
// an s only then.
func frenchPart(n int64, ends bool) string {
	inner := func(n int64) string { return frenchPart(n, false) }
	switch {
	case n < 20:
		return frSmall[n]
	case n < 70:
		switch n % 10 {
		case 0:
			return frTens[n/10]
		case 1:
			return frTens[n/10] + " et un"
		}
		return frTens[n/10] + "-" + frSmall[n%10]
	case n == 71:
		return "soixante et onze"
	case n < 80:
		return "soixante-" + frSmall[n-60]
	case n == 80:
		if ends {
			return "quatre-vingts"
		}
		return "quatre-vingt"
	case n < 100:
		return "quatre-vingt-" + frSmall[n-80]
	case n < 200:
		return tailed("cent", " ", n%100, func(r int64) string { return frenchPart(r, ends) })
	case n < 1000:
		if n%100 == 0 && ends {
			return frSmall[n/100] + " cents"
		}
		return tailed(frSmall[n/100]+" cent", " ", n%100, func(r int64) string { return frenchPart(r, ends) })
	case n < 2000:
		return tailed("mille", " ", n%1000, french)
	case n < 1e6:
		return tailed(inner(n/1000)+" mille", " ", n%1000, french)
	case n < 1e9:
		return tailed(counted(n/1e6, "un million", "millions", french), " ", n%1e6, french)
	}
	return tailed(counted(n/1e9, "un milliard", "milliards", french), " ", n%1e9, french)
}

func spanish(n int64) string {
	short := func(n int64) string { // before a noun, uno is un
		w := spanish(n)
		switch {
		case n%100 == 21:
			return strings.TrimSuffix(w, "veintiuno") + "veintiún"
		case n%10 == 1 && n%100 != 11:
			return strings.TrimSuffix(w, "o")
		}
		return w
	}
	switch {
	case n < 30:
		return esSmall[n]
	case n < 100:
		if n%10 == 0 {
			return esTens[n/10]
		}
		return esTens[n/10] + " y " + esSmall[n%10]
	case n == 100:
		return "cien"
	case n < 1000:
		return tailed(esHundre[n/100], " ", n%100, spanish)
	case n < 2000:
		return tailed("mil", " ", n%1000, spanish)
	case n < 1e6:
		return tailed(short(n/1000)+" mil", " ", n%1000, spanish)
	}
	return tailed(counted(n/1e6, "un millón", "millones", short), " ", n%1e6, spanish)
}

func italian(n int64) string {
	switch {
	case n < 20:
		return itSmall[n]
	case n < 100:
		ten := itTens[n/10]
		switch n % 10 {
		case 0:
			return ten
		case 1, 8: // the vowel falls
			return ten[:len(ten)-1] + itSmall[n%10]
		case 3:
			return ten + "tré"
		}
		return ten + itSmall[n%10]
	case n < 1000:
		head := "cento"
		if n/100 > 1 {
			head = itSmall[n/100] + "cento"
		}
		return tailed(head, "", n%100, italian)
	case n < 2000:
		return tailed("mille", "", n%1000, italian)
	case n < 1e6:
		return tailed(strings.ReplaceAll(italian(n/1000), "tré", "tre")+"mila", "", n%1000, italian)
	case n < 1e9:
		return tailed(counted(n/1e6, "un milione", "milioni", italian), " ", n%1e6, italian)
	}
	return tailed(counted(n/1e9, "un miliardo", "miliardi", italian), " ", n%1e9, italian)
}

// ordinal writes 1st, 2nd, 3rd in the template's language.
func (t *tools) ordinal(v any) (string, error) {
	n, err := whole(v)
	if err != nil {
		return "", err
	}
	return t.place(n), nil
}

func (t *tools) place(n int) string {
	base, _ := t.tag.Base()
	s := strconv.Itoa(n)
	switch base.String() {
	case "en":
		form := plural.Ordinal.MatchPlural(t.tag, n, 0, 0, 0, 0)
		return s + map[plural.Form]string{plural.One: "st", plural.Two: "nd", plural.Few: "rd"}[form] + map[bool]string{true: "th"}[form == plural.Other]
	case "fr":
		if n == 1 {
			return "1er"
		}
		return s + "e"
	case "es", "it", "pt":
		return s + "º"
	case "nl":
		return s + "e"
	case "sv":
		if n%10 <= 2 && n%10 > 0 && n%100/10 != 1 {
			return s + ":a"
		}
		return s + ":e"
	case "ja":
		return "第" + s
	}
	return s + "."
}

// plural picks the word that goes with a number: plural 3 "berth" "berths".
// Languages with more forms take them in the order one, few, many, other.
func (t *tools) plural(v any, forms ...string) (string, error) {
	d, err := amount(v)
	if err != nil {
		return "", err
	}
	if len(forms) == 0 {
		return "", errors.New("plural needs at least one word")
	}
	frac := max(-int(d.Exponent()), 0)
	whole := pluralOperand(d.Abs())
	part := int(d.Abs().Sub(d.Abs().Truncate(0)).Shift(int32(min(frac, 6))).IntPart())
	form := plural.Cardinal.MatchPlural(t.tag, whole, min(frac, 6), min(frac, 6), part, part)
	i, named := map[plural.Form]int{plural.One: 0, plural.Few: 1, plural.Many: 2}[form]
	if !named { // forms for none and two stand for all others
		i = len(forms) - 1
	}
	if form != plural.One && len(forms) < 3 || i >= len(forms) {
		i = len(forms) - 1
	}
	return forms[i], nil
}

// pluralOperand is the whole part of a number as rules for plurals take it: of one too large
// for an int its last digits, below others that make it no small number.
func pluralOperand(d decimal.Decimal) int {
	const digits = 10_000_000
	if d.LessThan(decimal.NewFromInt(1 << 53)) {
		return int(d.IntPart())
	}
	return digits + int(d.Truncate(0).Mod(decimal.NewFromInt(digits)).IntPart())
}
