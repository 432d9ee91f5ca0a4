package layout

import "unicode/utf8"

// charClass sorts the characters of plain text by how lines end beside them.
type charClass uint8

const (
	otherChar charClass = iota
	spaceChar
	letterChar
	digitChar
	stopChar // of the class IS of UAX #14
	openChar
	closeChar
	hyphenChar
	slashChar
	quoteChar
	percentChar
	currencyChar
	dashChar
	lineFeed
)

var charClasses = func() (classes [0x80]charClass) {
	put := func(chars string, c charClass) {
		for i := range len(chars) {
			classes[chars[i]] = c
		}
	}
	put(" ", spaceChar)
	put("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ_#&@*=", letterChar)
	put("0123456789", digitChar)
	put(".,:;", stopChar)
	put("(", openChar)
	put(")", closeChar)
	put("-", hyphenChar)
	put("/", slashChar)
	put("'", quoteChar)
	put("%", percentChar)
	put("$", currencyChar)
	put("\n", lineFeed)
	return classes
}()

// classOf is the class of a character. Letters are those of Latin scripts, and the
// no-break space and the middle dot, which hold both sides as they do.
func classOf(r rune) charClass {
	switch {
	case r < 0x80:
		return charClasses[r]
	case r == 0xA0, r == '·', r >= 0xC0 && r < 0x250 && r != '×' && r != '÷':
		return letterChar
	case r == '’':
		return quoteChar
	case r == '€':
		return currencyChar
	case r == '–':
		return dashChar
	}
	return otherChar
}

// sticks gives, for each class, those that may follow it so that a line may end
// between the two after a space or a line feed, and nowhere else.
var sticks = [...]uint16{
	spaceChar:    of(spaceChar, letterChar, digitChar, openChar, hyphenChar, currencyChar, dashChar, lineFeed),
	letterChar:   of(spaceChar, letterChar, digitChar, stopChar, openChar, closeChar, hyphenChar, quoteChar, currencyChar, dashChar, lineFeed),
	digitChar:    of(spaceChar, letterChar, digitChar, stopChar, openChar, closeChar, hyphenChar, slashChar, percentChar, currencyChar, dashChar, lineFeed),
	stopChar:     of(spaceChar, letterChar, digitChar, stopChar, lineFeed),
	openChar:     of(letterChar, digitChar),
	closeChar:    of(spaceChar, letterChar, stopChar, closeChar, lineFeed),
	hyphenChar:   of(spaceChar, digitChar),
	slashChar:    of(digitChar),
	quoteChar:    of(letterChar),
	percentChar:  of(spaceChar, stopChar, closeChar, lineFeed),
	currencyChar: of(spaceChar, letterChar, digitChar, stopChar),
	lineFeed:     of(spaceChar, letterChar, digitChar, openChar, hyphenChar, currencyChar, dashChar, lineFeed),
	dashChar:     of(spaceChar, lineFeed),
}

func of(classes ...charClass) (set uint16) {
	for _, c := range classes {
		set |= 1 << c
	}
	return set
}

// breaksAtSpaces tells whether lines of text may end after its spaces and line feeds
// and nowhere else (UAX #14). Most text is so; for other text it takes the whole algorithm.
func breaksAtSpaces(t string) bool {
	before := spaceChar
	for i := 0; i < len(t); {
		r, n := rune(t[i]), 1
		if r >= utf8.RuneSelf {
			r, n = utf8.DecodeRuneInString(t[i:])
		}
		class := classOf(r)
		if sticks[before]&(1<<class) == 0 {
			return false
		}
		before = class
		i += n
	}
	return true
}
