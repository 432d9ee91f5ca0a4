package css

import (
	"strconv"
	"strings"
)

// Text writes component values back as CSS (CSS Syntax 3, §9).
func Text(list []Token) string {
	var b strings.Builder
	for i, t := range list {
		if i > 0 && needsGap(list[i-1], t) {
			b.WriteString("/**/")
		}
		write(&b, t)
	}
	return b.String()
}

func needsGap(a, b Token) bool {
	word := func(k Kind) bool {
		return k == Ident || k == Number || k == Dimension || k == Percentage || k == AtKeyword || k == Hash
	}
	return word(a.Kind) && (word(b.Kind) || b.Kind == Function || b.Kind == URL)
}

func write(b *strings.Builder, t Token) {
	switch t.Kind {
	case Ident:
		b.WriteString(escapeIdent(t.Text))
	case Function:
		b.WriteString(t.Text + "(" + Text(t.Args) + ")")
	case AtKeyword:
		b.WriteString("@" + t.Text)
	case Hash:
		b.WriteString("#" + t.Text)
	case String:
		b.WriteString(quote(t.Text))
	case URL:
		b.WriteString("url(" + quote(t.Text) + ")")
	case Number:
		b.WriteString(number(t))
	case Percentage:
		b.WriteString(number(t) + "%")
	case Dimension:
		b.WriteString(number(t) + t.Unit)
	case Space:
		b.WriteByte(' ')
	case Colon:
		b.WriteByte(':')
	case Semicolon:
		b.WriteByte(';')
	case Comma:
		b.WriteByte(',')
	case Bracket:
		b.WriteString("[" + Text(t.Args) + "]")
	case Paren:
		b.WriteString("(" + Text(t.Args) + ")")
	case Brace:
		b.WriteString("{" + Text(t.Args) + "}")
	case CDO:
		b.WriteString("<!--")
	case CDC:
		b.WriteString("-->")
	case Delim:
		b.WriteString(t.Text)
	}
}

func number(t Token) string {
	if t.Text != "" {
		return t.Text
	}
	return strconv.FormatFloat(t.Num, 'f', -1, 64)
}

func quote(s string) string {
	return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\a `).Replace(s) + `"`
}

// escapeIdent follows CSSOM, §2.1 (serialize an identifier).
func escapeIdent(s string) string {
	var b strings.Builder
	for i := range len(s) {
		switch c := s[i]; {
		case isDigit(c) && (i == 0 || i == 1 && s[0] == '-'):
			b.WriteString(`\3` + string(c) + " ")
		case !isName(c):
			b.WriteByte('\\')
			b.WriteByte(c)
		default:
			b.WriteByte(c)
		}
	}
	return b.String()
}
