package css

import (
	"sort"
	"strings"
)

// maxDepth bounds how deep blocks, functions and rules may nest.
const maxDepth = 200

// Sheet is a parsed style sheet.
type Sheet struct {
	Name  string // where it came from, for findings
	Rules []Rule
	lines []int // offsets of line starts
	Bad   []Flaw
}

// Flaw is a part of a sheet that was dropped because it does not parse.
type Flaw struct {
	Pos  int
	What string
}

// Rule is a qualified rule or an at-rule with its block.
type Rule struct {
	At      string  // at-rule name in lower case; "" for a style rule
	Prelude []Token // selector or at-rule prelude
	Decls   []Declaration
	Rules   []Rule // nested rules, in order
	HasBody bool
	Pos     int
	// DeclsAfter holds, for each nested rule, how many declarations stood
	// before it, so that order can be kept (CSS Nesting 1, §4.1).
	DeclsBefore []int
}

// Declaration is name: value, before the property is known.
type Declaration struct {
	Name      string // lower case, except custom properties
	Value     []Token
	Important bool
	Pos       int
}

// Line turns a byte offset into a line and column, both from 1.
func (s *Sheet) Line(pos int) (line, col int) {
	i := sort.SearchInts(s.lines, pos+1) - 1
	if i < 0 {
		return 1, pos + 1
	}
	return i + 1, pos - s.lines[i] + 1
}

// ParseSheet parses a whole style sheet. It never fails: what does not parse
// is left out and told in Bad (CSS Syntax 3, §5).
func ParseSheet(name, text string) *Sheet {
	text = preprocess(text)
	s := &Sheet{Name: name, lines: []int{0}}
	for i := range len(text) {
		if text[i] == '\n' {
			s.lines = append(s.lines, i+1)
		}
	}
	p := &parser{toks: treeOf(text), sheet: s}
	s.Rules = p.rules(true)
	return s
}

// ParseDeclarations parses the contents of a style attribute.
func ParseDeclarations(text string) []Declaration {
	p := &parser{toks: treeOf(preprocess(text)), sheet: &Sheet{}}
	decls, _, _ := p.body(false)
	return decls
}

// ParseValues parses text as a list of component values.
func ParseValues(text string) []Token { return treeOf(preprocess(text)) }

// treeOf tokenizes text and nests blocks and functions (§5.4.7, §5.4.8).
func treeOf(text string) []Token {
	l := &lexer{s: text}
	toks, _ := l.nest(0, 0)
	return toks
}

func (l *lexer) nest(end byte, depth int) (list []Token, closed bool) {
	for {
		t := l.next()
		switch t.Kind {
		case EOF:
			return list, false
		case closer:
			if t.Text[0] == end {
				return list, true
			}
			if end == 0 { // a stray closer is an ordinary token at the top
				list = append(list, Token{Kind: Delim, Text: t.Text, Pos: t.Pos})
				continue
			}
			list = append(list, Token{Kind: Delim, Text: t.Text, Pos: t.Pos})
			continue
		case Function, Paren:
			t.Args = l.inner(')', depth)
		case Bracket:
			t.Args = l.inner(']', depth)
		case Brace:
			t.Args = l.inner('}', depth)
		}
		list = append(list, t)
	}
}

// inner reads a block's contents; below maxDepth it is read and thrown away.
func (l *lexer) inner(end byte, depth int) []Token {
	if depth < maxDepth {
		args, _ := l.nest(end, depth+1)
		return args
	}
	for level := 1; level > 0; {
		t := l.next()
		switch t.Kind {
		case EOF:
			return nil
		case Function, Paren, Bracket, Brace:
			level++
		case closer:
			level--
		}
	}
	return nil
}

type parser struct {
	toks  []Token
	pos   int
	sheet *Sheet
	depth int
}

func (p *parser) peek() Token {
	if p.pos < len(p.toks) {
		return p.toks[p.pos]
	}
	return Token{Kind: EOF}
}

func (p *parser) flaw(pos int, what string) {
	p.sheet.Bad = append(p.sheet.Bad, Flaw{pos, what})
}

// rules follows §5.4.1 (consume a list of rules).
func (p *parser) rules(top bool) []Rule {
	var list []Rule
	for p.pos < len(p.toks) {
		t := p.peek()
		switch {
		case t.Kind == Space || top && (t.Kind == CDO || t.Kind == CDC):
			p.pos++
		case t.Kind == AtKeyword:
			if r, ok := p.atRule(); ok {
				list = append(list, r)
			}
		default:
			if r, ok := p.qualified(); ok {
				list = append(list, r)
			}
		}
	}
	return list
}

func (p *parser) atRule() (Rule, bool) {
	t := p.peek()
	r := Rule{At: t.Text, Pos: t.Pos}
	p.pos++
	start := p.pos
	for p.pos < len(p.toks) {
		t := p.toks[p.pos]
		if t.Kind == Semicolon {
			r.Prelude = Trim(p.toks[start:p.pos])
			p.pos++
			return r, true
		}
		if t.Kind == Brace {
			r.Prelude = Trim(p.toks[start:p.pos])
			p.pos++
			p.block(&r, t)
			return r, true
		}
		p.pos++
	}
	r.Prelude = Trim(p.toks[start:p.pos])
	return r, true
}

func (p *parser) qualified() (Rule, bool) {
	start := p.pos
	r := Rule{Pos: p.peek().Pos}
	for p.pos < len(p.toks) {
		t := p.toks[p.pos]
		if t.Kind == Brace {
			r.Prelude = Trim(p.toks[start:p.pos])
			p.pos++
			p.block(&r, t)
			return r, true
		}
		p.pos++
	}
	p.flaw(r.Pos, "a rule without a block")
	return r, false
}

// block parses the contents of a rule's braces. At-rules that hold rules and
// those that hold declarations share one grammar (CSS Nesting 1).
func (p *parser) block(r *Rule, t Token) {
	r.HasBody = true
	if p.depth >= maxDepth {
		return
	}
	in := &parser{toks: t.Args, sheet: p.sheet, depth: p.depth + 1}
	r.Decls, r.Rules, r.DeclsBefore = in.body(true)
}

// body follows §5.4.4: declarations, with at-rules and nested rules between.
func (p *parser) body(nested bool) (decls []Declaration, rules []Rule, before []int) {
	for p.pos < len(p.toks) {
		t := p.peek()
		if t.Kind == Space || t.Kind == Semicolon {
			p.pos++
			continue
		}
		if t.Kind == AtKeyword {
			if r, ok := p.atRule(); ok && nested {
				rules, before = append(rules, r), append(before, len(decls))
			}
			continue
		}
		start := p.pos
		if d, ok := p.declaration(); ok {
			decls = append(decls, d)
			continue
		}
		after := p.pos
		p.pos = start
		if nested {
			if r, ok := p.nestedRule(); ok {
				rules, before = append(rules, r), append(before, len(decls))
				continue
			}
		}
		p.flaw(t.Pos, "a declaration that does not parse")
		p.pos = max(after, start+1)
	}
	return decls, rules, before
}

// nestedRule reads a rule whose block comes before the next semicolon.
func (p *parser) nestedRule() (Rule, bool) {
	for i := p.pos; i < len(p.toks); i++ {
		switch p.toks[i].Kind {
		case Semicolon:
			return Rule{}, false
		case Brace:
			return p.qualified()
		}
	}
	return Rule{}, false
}

// declaration follows §5.4.6. On failure the position is after the next
// semicolon.
func (p *parser) declaration() (Declaration, bool) {
	t := p.peek()
	end := p.pos
	for end < len(p.toks) && p.toks[end].Kind != Semicolon {
		end++
	}
	list := p.toks[p.pos:end]
	p.pos = min(end+1, len(p.toks))
	if t.Kind != Ident {
		return Declaration{}, false
	}
	i := 1
	for i < len(list) && list[i].Kind == Space {
		i++
	}
	if i >= len(list) || list[i].Kind != Colon {
		return Declaration{}, false
	}
	d := Declaration{Name: t.Text, Value: Trim(list[i+1:]), Pos: t.Pos}
	custom := strings.HasPrefix(t.Text, "--")
	if !custom {
		d.Name = t.Lower()
	}
	if n := len(d.Value); n >= 2 {
		// "!" and "important", with space between them allowed
		k := n - 2
		for k > 0 && d.Value[k].Kind == Space {
			k--
		}
		if d.Value[n-1].Is("important") && d.Value[k].IsDelim('!') {
			d.Important = true
			d.Value = Trim(d.Value[:k])
		}
	}
	for k, v := range d.Value {
		switch {
		case v.Kind == BadString || v.Kind == BadURL:
			return Declaration{}, false
		case v.Kind == Delim && strings.ContainsAny(v.Text, "!])}"):
			return Declaration{}, false
		case v.Kind == Brace && !custom && (k > 0 || len(d.Value) > 1):
			// "a:hover {…}" is a nested rule, not a declaration
			return Declaration{}, false
		}
	}
	if len(d.Value) == 0 && !custom {
		return Declaration{}, false
	}
	return d, true
}

// Trim drops white space at both ends.
func Trim(list []Token) []Token {
	for len(list) > 0 && list[0].Kind == Space {
		list = list[1:]
	}
	for len(list) > 0 && list[len(list)-1].Kind == Space {
		list = list[:len(list)-1]
	}
	return list
}

// Split cuts list at its commas and trims the parts.
func Split(list []Token) [][]Token {
	var parts [][]Token
	start := 0
	for i, t := range list {
		if t.Kind == Comma {
			parts = append(parts, Trim(list[start:i]))
			start = i + 1
		}
	}
	return append(parts, Trim(list[start:]))
}

// Words drops the white space between tokens.
func Words(list []Token) []Token {
	out := make([]Token, 0, len(list))
	for _, t := range list {
		if t.Kind != Space {
			out = append(out, t)
		}
	}
	return out
}
