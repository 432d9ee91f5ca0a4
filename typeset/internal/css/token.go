// Package css turns CSS text into tokens, rules, selectors and component
// values. It knows no document and no property.
package css

import (
	"strconv"
	"strings"
	"unicode/utf8"
)

// Kind tells what a Token is (CSS Syntax 3, §4 and §5).
type Kind uint8

const (
	Ident Kind = iota
	Function
	AtKeyword
	Hash
	String
	BadString
	URL
	BadURL
	Delim
	Number
	Percentage
	Dimension
	Space
	CDO
	CDC
	Colon
	Semicolon
	Comma
	Bracket // a simple block in [ ]
	Paren   // a simple block in ( )
	Brace   // a simple block in { }
	closer  // ] ) } before the tree is built
	EOF
)

// Token is a component value: a preserved token, a function or a simple block
// with its contents in Args.
type Token struct {
	Kind Kind
	ID   bool    // Hash: it is a valid identifier; Number: it was written as an integer
	Text string  // identifier, function name (lower case), string, URL, delimiter
	Unit string  // Dimension: unit in lower case
	Num  float64 // Number, Percentage, Dimension
	Args []Token
	Pos  int // byte offset in the source
}

// Is tells whether t is the identifier name, in any letter case.
func (t Token) Is(name string) bool { return t.Kind == Ident && strings.EqualFold(t.Text, name) }

// IsDelim tells whether t is the delimiter c.
func (t Token) IsDelim(c byte) bool { return t.Kind == Delim && t.Text[0] == c }

// Lower is the token's text in lower case (ASCII).
func (t Token) Lower() string { return lower(t.Text) }

// lower lowers the letters A to Z only: other letters are never equal to them
// (CSS Values 4, §2.1).
func lower(s string) string {
	for i := range len(s) {
		if s[i] >= 'A' && s[i] <= 'Z' {
			b := []byte(s)
			for ; i < len(b); i++ {
				if b[i] >= 'A' && b[i] <= 'Z' {
					b[i] += 'a' - 'A'
				}
			}
			return string(b)
		}
	}
	return s
}

// lexer is the tokenizer of CSS Syntax 3, §4.3.
type lexer struct {
	s   string
	pos int
}

// preprocess follows CSS Syntax 3, §3.3.
func preprocess(s string) string {
	if strings.ContainsAny(s, "\r\f\x00") {
		s = strings.NewReplacer("\r\n", "\n", "\r", "\n", "\f", "\n", "\x00", "\uFFFD").Replace(s)
	}
	return strings.TrimPrefix(s, "\uFEFF")
}

func (l *lexer) at(i int) byte {
	if l.pos+i < len(l.s) {
		return l.s[l.pos+i]
	}
	return 0
}

func isNewline(c byte) bool { return c == '\n' }
func isSpace(c byte) bool   { return c == ' ' || c == '\t' || c == '\n' }
func isDigit(c byte) bool   { return c >= '0' && c <= '9' }
func isHex(c byte) bool {
	return isDigit(c) || c >= 'a' && c <= 'f' || c >= 'A' && c <= 'F'
}

func isNameStart(c byte) bool {
	return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '_' || c >= 0x80
}
func isName(c byte) bool { return isNameStart(c) || isDigit(c) || c == '-' }

// validEscape follows §4.3.8: at the end of the text it is one, too.
func (l *lexer) validEscape(i int) bool { return l.at(i) == '\\' && !isNewline(l.at(i+1)) }

// startsIdent follows §4.3.9.
func (l *lexer) startsIdent(i int) bool {
	switch c := l.at(i); {
	case c == '-':
		return isNameStart(l.at(i+1)) || l.at(i+1) == '-' || l.validEscape(i+1)
	case isNameStart(c):
		return true
	default:
		return l.validEscape(i)
	}
}

// startsNumber follows §4.3.10.
func (l *lexer) startsNumber() bool {
	c := l.at(0)
	if c == '+' || c == '-' {
		return isDigit(l.at(1)) || l.at(1) == '.' && isDigit(l.at(2))
	}
	return isDigit(c) || c == '.' && isDigit(l.at(1))
}

func (l *lexer) comments() {
	for l.at(0) == '/' && l.at(1) == '*' {
		end := strings.Index(l.s[l.pos+2:], "*/")
		if end < 0 {
			l.pos = len(l.s)
			return
		}
		l.pos += end + 4
	}
}

func (l *lexer) next() Token {
	l.comments()
	start := l.pos
	t := l.token()
	t.Pos = start
	return t
}

func (l *lexer) token() Token {
	if l.pos >= len(l.s) {
		return Token{Kind: EOF}
	}
	c := l.s[l.pos]
	switch {
	case isSpace(c):
		for isSpace(l.at(0)) {
			l.pos++
		}
		return Token{Kind: Space, Text: " "}
	case c == '"' || c == '\'':
		return l.str(c)
	case c == '#' && (isName(l.at(1)) || l.validEscape(1)):
		l.pos++
		id := l.startsIdent(0)
		return Token{Kind: Hash, ID: id, Text: l.name()}
	case l.startsNumber():
		return l.number()
	case c == '-' && l.at(1) == '-' && l.at(2) == '>':
		l.pos += 3
		return Token{Kind: CDC}
	case l.startsIdent(0):
		return l.identLike()
	case c == '<' && strings.HasPrefix(l.s[l.pos:], "<!--"):
		l.pos += 4
		return Token{Kind: CDO}
	case c == '@':
		l.pos++
		if l.startsIdent(0) {
			return Token{Kind: AtKeyword, Text: lower(l.name())}
		}
		return Token{Kind: Delim, Text: "@"}
	}
	l.pos++
	switch c {
	case ':':
		return Token{Kind: Colon}
	case ';':
		return Token{Kind: Semicolon}
	case ',':
		return Token{Kind: Comma}
	case '[':
		return Token{Kind: Bracket}
	case '(':
		return Token{Kind: Paren}
	case '{':
		return Token{Kind: Brace}
	case ']', ')', '}':
		return Token{Kind: closer, Text: string(c)}
	}
	return Token{Kind: Delim, Text: string(c)}
}

func (l *lexer) number() Token {
	start := l.pos
	integer := true
	if c := l.at(0); c == '+' || c == '-' {
		l.pos++
	}
	for isDigit(l.at(0)) {
		l.pos++
	}
	if l.at(0) == '.' && isDigit(l.at(1)) {
		integer = false
		l.pos++
		for isDigit(l.at(0)) {
			l.pos++
		}
	}
	if e := l.at(0); e == 'e' || e == 'E' {
		i := 1
		if s := l.at(1); s == '+' || s == '-' {
			i = 2
		}
		if isDigit(l.at(i)) {
			integer = false
			l.pos += i
			for isDigit(l.at(0)) {
				l.pos++
			}
		}
	}
	text := l.s[start:l.pos]
	num, _ := strconv.ParseFloat(text, 64)
	if num > 1e30 {
		num = 1e30
	} else if num < -1e30 {
		num = -1e30
	}
	if l.startsIdent(0) {
		return Token{Kind: Dimension, ID: integer, Num: num, Text: text, Unit: lower(l.name())}
	}
	if l.at(0) == '%' {
		l.pos++
		return Token{Kind: Percentage, Num: num, Text: text}
	}
	return Token{Kind: Number, ID: integer, Num: num, Text: text}
}

func (l *lexer) identLike() Token {
	name := l.name()
	if l.at(0) != '(' {
		return Token{Kind: Ident, Text: name}
	}
	l.pos++
	low := lower(name)
	if low == "url" {
		i := 0
		for isSpace(l.at(i)) {
			i++
		}
		if c := l.at(i); c != '"' && c != '\'' {
			return l.url()
		}
	}
	return Token{Kind: Function, Text: low}
}

// url follows §4.3.6.
func (l *lexer) url() Token {
	for isSpace(l.at(0)) {
		l.pos++
	}
	var b strings.Builder
	for l.pos < len(l.s) {
		c := l.s[l.pos]
		switch {
		case c == ')':
			l.pos++
			return Token{Kind: URL, Text: b.String()}
		case isSpace(c):
			for isSpace(l.at(0)) {
				l.pos++
			}
			if l.pos >= len(l.s) || l.at(0) == ')' {
				l.pos = min(l.pos+1, len(l.s))
				return Token{Kind: URL, Text: b.String()}
			}
			return l.badURL()
		case c == '"' || c == '\'' || c == '(' || c < 0x20 || c == 0x7f:
			return l.badURL()
		case c == '\\':
			if !l.validEscape(0) {
				return l.badURL()
			}
			l.pos++
			b.WriteRune(l.escape())
		default:
			b.WriteByte(c)
			l.pos++
		}
	}
	return Token{Kind: URL, Text: b.String()}
}

func (l *lexer) badURL() Token {
	for l.pos < len(l.s) {
		if l.validEscape(0) {
			l.pos++
			l.escape()
			continue
		}
		l.pos++
		if l.s[l.pos-1] == ')' {
			break
		}
	}
	return Token{Kind: BadURL}
}

// str follows §4.3.5.
func (l *lexer) str(quote byte) Token {
	l.pos++
	start := l.pos
	for l.pos < len(l.s) && l.s[l.pos] != quote && l.s[l.pos] != '\\' && !isNewline(l.s[l.pos]) {
		l.pos++
	}
	if l.at(0) == quote { // no escape: no copy
		l.pos++
		return Token{Kind: String, Text: l.s[start : l.pos-1]}
	}
	var b strings.Builder
	b.WriteString(l.s[start:l.pos])
	for l.pos < len(l.s) {
		c := l.s[l.pos]
		switch {
		case c == quote:
			l.pos++
			return Token{Kind: String, Text: b.String()}
		case isNewline(c):
			return Token{Kind: BadString}
		case c == '\\':
			l.pos++
			if l.pos >= len(l.s) {
				continue
			}
			if isNewline(l.s[l.pos]) {
				l.pos++
				continue
			}
			b.WriteRune(l.escape())
		default:
			b.WriteByte(c)
			l.pos++
		}
	}
	return Token{Kind: String, Text: b.String()}
}

func (l *lexer) name() string {
	start := l.pos
	for l.pos < len(l.s) && isName(l.s[l.pos]) {
		l.pos++
	}
	if !l.validEscape(0) {
		return l.s[start:l.pos]
	}
	var b strings.Builder
	b.WriteString(l.s[start:l.pos])
	for {
		switch {
		case l.pos < len(l.s) && isName(l.s[l.pos]):
			b.WriteByte(l.s[l.pos])
			l.pos++
		case l.validEscape(0):
			l.pos++
			b.WriteRune(l.escape())
		default:
			return b.String()
		}
	}
}

// escape reads the code point after a backslash (§4.3.7); none stands for one that cannot be shown.
func (l *lexer) escape() rune {
	if !isHex(l.at(0)) {
		r, n := utf8.DecodeRuneInString(l.s[l.pos:])
		l.pos += n
		return r
	}
	start := l.pos
	for l.pos < len(l.s) && l.pos-start < 6 && isHex(l.s[l.pos]) {
		l.pos++
	}
	v, _ := strconv.ParseUint(l.s[start:l.pos], 16, 32)
	if isSpace(l.at(0)) {
		l.pos++
	}
	if v == 0 || v > utf8.MaxRune || v >= 0xD800 && v <= 0xDFFF {
		return utf8.RuneError
	}
	return rune(v)
}
