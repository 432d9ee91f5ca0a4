package pdfread

import (
	"bytes"
	"errors"
	"strconv"
)

// maxDepth bounds how deep arrays and dictionaries nest.
const maxDepth = 200

var errSyntax = errors.New("the file does not follow PDF's syntax")

// lexer reads objects from bytes (§7.2, §7.3).
type lexer struct {
	data []byte
	pos  int
}

func space(c byte) bool {
	return c == ' ' || c == '\n' || c == '\r' || c == '\t' || c == '\f' || c == 0
}

func delimiter(c byte) bool {
	switch c {
	case '(', ')', '<', '>', '[', ']', '{', '}', '/', '%':
		return true
	}
	return false
}

func (l *lexer) skip() {
	for l.pos < len(l.data) {
		switch c := l.data[l.pos]; {
		case space(c):
			l.pos++
		case c == '%':
			for l.pos < len(l.data) && l.data[l.pos] != '\n' && l.data[l.pos] != '\r' {
				l.pos++
			}
		default:
			return
		}
	}
}

// word is the next run of regular characters.
func (l *lexer) word() string {
	l.skip()
	start := l.pos
	for l.pos < len(l.data) && !space(l.data[l.pos]) && !delimiter(l.data[l.pos]) {
		l.pos++
	}
	return string(l.data[start:l.pos])
}

// take consumes a keyword if it comes next.
func (l *lexer) take(word string) bool {
	l.skip()
	if bytes.HasPrefix(l.data[l.pos:], []byte(word)) {
		l.pos += len(word)
		return true
	}
	return false
}

// object reads one object; references are told from numbers by looking ahead.
func (l *lexer) object(depth int) (Object, error) {
	if depth > maxDepth {
		return nil, errors.New("objects nest too deep")
	}
	l.skip()
	if l.pos >= len(l.data) {
		return nil, errSyntax
	}
	switch c := l.data[l.pos]; {
	case c == '/':
		return l.name(), nil
	case c == '(':
		return l.literal(), nil
	case c == '[':
		return l.array(depth)
	case c == '<':
		if l.pos+1 < len(l.data) && l.data[l.pos+1] == '<' {
			return l.dict(depth)
		}
		return l.hex(), nil
	case c == '+' || c == '-' || c == '.' || c >= '0' && c <= '9':
		return l.number(), nil
	}
	switch w := l.word(); w {
	case "true":
		return true, nil
	case "false":
		return false, nil
	case "null":
		return nil, nil
	case "":
		l.pos++
	}
	return nil, errSyntax
}

func (l *lexer) number() Object {
	w := l.word()
	n, err := strconv.ParseInt(w, 10, 64)
	if err != nil {
		f, err := strconv.ParseFloat(w, 64)
		if err != nil {
			return int64(0)
		}
		return f
	}
	if n < 0 {
		return n
	}
	// a reference is two numbers and an R
	at := l.pos
	gen, err := strconv.Atoi(l.word())
	if err == nil && gen >= 0 && gen < 65536 && n < 1<<31 {
		l.skip()
		if l.pos < len(l.data) && l.data[l.pos] == 'R' && (l.pos+1 >= len(l.data) || space(l.data[l.pos+1]) || delimiter(l.data[l.pos+1])) {
			l.pos++
			return Ref{int(n), gen}
		}
	}
	l.pos = at
	return n
}

func (l *lexer) name() Name {
	l.pos++
	var b []byte
	for l.pos < len(l.data) {
		c := l.data[l.pos]
		if space(c) || delimiter(c) {
			break
		}
		if c == '#' && l.pos+2 < len(l.data) {
			if v, err := strconv.ParseUint(string(l.data[l.pos+1:l.pos+3]), 16, 8); err == nil {
				b = append(b, byte(v))
				l.pos += 3
				continue
			}
		}
		b = append(b, c)
		l.pos++
	}
	return Name(b)
}

func (l *lexer) literal() String {
	l.pos++
	var b []byte
	for open := 1; l.pos < len(l.data); l.pos++ {
		c := l.data[l.pos]
		switch c {
		case '(':
			open++
		case ')':
			if open--; open == 0 {
				l.pos++
				return b
			}
		case '\\':
			b = l.escape(b)
			continue
		case '\r':
			if l.pos+1 < len(l.data) && l.data[l.pos+1] == '\n' {
				l.pos++
			}
			c = '\n'
		}
		b = append(b, c)
	}
	return b
}

// escape reads what follows a backslash (table 3).
func (l *lexer) escape(b []byte) []byte {
	l.pos++
	if l.pos >= len(l.data) {
		return b
	}
	c := l.data[l.pos]
	switch {
	case c >= '0' && c <= '7':
		v := 0
		for n := 0; n < 3 && l.pos < len(l.data) && l.data[l.pos] >= '0' && l.data[l.pos] <= '7'; n++ {
			v = v*8 + int(l.data[l.pos]-'0')
			l.pos++
		}
		l.pos--
		return append(b, byte(v))
	case c == '\r':
		if l.pos+1 < len(l.data) && l.data[l.pos+1] == '\n' {
			l.pos++
		}
		return b
	case c == '\n':
		return b
	}
	if i := bytes.IndexByte([]byte("nrtbf"), c); i >= 0 {
		c = "\n\r\t\b\f"[i]
	}
	return append(b, c)
}

func (l *lexer) hex() String {
	l.pos++
	var b []byte
	half, have := byte(0), false
	for ; l.pos < len(l.data); l.pos++ {
		c := l.data[l.pos]
		if c == '>' {
			l.pos++
			break
		}
		v := byte(0)
		switch {
		case c >= '0' && c <= '9':
			v = c - '0'
		case c >= 'a' && c <= 'f':
			v = c - 'a' + 10
		case c >= 'A' && c <= 'F':
			v = c - 'A' + 10
		default:
			continue
		}
		if have {
			b = append(b, half<<4|v)
		} else {
			half = v
		}
		have = !have
	}
	if have {
		b = append(b, half<<4)
	}
	return b
}

func (l *lexer) array(depth int) (Object, error) {
	l.pos++
	out := Array{}
	for {
		l.skip()
		if l.pos >= len(l.data) {
			return nil, errSyntax
		}
		if l.data[l.pos] == ']' {
			l.pos++
			return out, nil
		}
		o, err := l.object(depth + 1)
		if err != nil {
			return nil, err
		}
		out = append(out, o)
	}
}

func (l *lexer) dict(depth int) (Object, error) {
	l.pos += 2
	out := Dict{}
	for {
		l.skip()
		if l.pos >= len(l.data) {
			return nil, errSyntax
		}
		if l.take(">>") {
			return out, nil
		}
		if l.data[l.pos] != '/' {
			return nil, errSyntax
		}
		key := l.name()
		v, err := l.object(depth + 1)
		if err != nil {
			return nil, err
		}
		out[key] = v
	}
}
