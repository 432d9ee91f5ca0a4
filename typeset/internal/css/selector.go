package css

import (
	"errors"
	"fmt"
	"strings"
)

// Combinator joins a compound to the one on its left.
type Combinator byte

const (
	Descendant Combinator = ' '
	Child      Combinator = '>'
	Next       Combinator = '+'
	Later      Combinator = '~'
	None       Combinator = 0
)

// Selector is a complex selector: compounds from left to right.
type Selector struct {
	Compounds   []Compound
	Pseudo      string   // pseudo-element of the last compound, "" for none
	PseudoArg   []Token  // argument of a functional pseudo-element
	Specificity [3]int32 // Selectors 4, §17
	Relative    bool     // begins with a combinator (in :has and nesting)
}

// Compound is a set of simple selectors for one element.
type Compound struct {
	Comb  Combinator // how it is joined to the compound on its left
	Tag   string     // lower case; "" or "*" for any
	Raw   string     // the tag as written, for XML
	NS    string     // namespace: "*" or "" for any, "|" for none
	Tests []Test
}

// TestKind tells what a simple selector looks at.
type TestKind uint8

const (
	TestID TestKind = iota
	TestClass
	TestAttr
	TestPseudo
	TestNesting
)

// Test is one simple selector besides the type selector.
type Test struct {
	Kind   TestKind
	Name   string // id, class, attribute or pseudo-class name
	Value  string // attribute value
	Op     byte   // attribute operator: 0 = ~ | ^ $ *
	Flag   byte   // attribute flag: 0 i s
	List   []Selector
	A, B   int // an+b
	Idents []string
}

// ErrForeign tells that a selector speaks of the parts of one browser's
// widgets, which no other has; its rule is meant to be dropped.
var ErrForeign = errors.New("a selector of one browser")

// ParseSelectors parses a selector list (Selectors 4). An error names the
// part that is not understood. A forgiving list drops bad members instead.
func ParseSelectors(list []Token, forgiving, relative bool) ([]Selector, error) {
	var out []Selector
	for _, part := range Split(list) {
		if len(part) == 0 {
			if forgiving {
				continue
			}
			return nil, errors.New("an empty selector")
		}
		s, err := parseComplex(part, relative)
		if err != nil {
			if forgiving {
				continue
			}
			return nil, err
		}
		out = append(out, s)
	}
	return out, nil
}

// CheckSelectors parses a selector list and is strict inside :is() and :where()
// too, which forgive what they do not know (Conditional 4, §2.2).
func CheckSelectors(list []Token) error { return checkSelectors(list, false) }

func checkSelectors(list []Token, relative bool) error {
	if _, err := ParseSelectors(list, false, relative); err != nil {
		return err
	}
	for _, t := range list {
		if t.Kind != Function {
			continue
		}
		switch t.Text {
		case "is", "where", "not", "has":
			if err := checkSelectors(t.Args, t.Text == "has"); err != nil {
				return err
			}
		}
	}
	return nil
}

func parseComplex(list []Token, relative bool) (Selector, error) {
	var sel Selector
	i := 0
	first := true
	for i < len(list) {
		gap := false
		for i < len(list) && list[i].Kind == Space {
			gap = true
			i++
		}
		if i >= len(list) {
			break
		}
		c := None
		if t := list[i]; t.Kind == Delim && strings.ContainsAny(t.Text, ">+~") {
			c = Combinator(t.Text[0])
			i++
			for i < len(list) && list[i].Kind == Space {
				i++
			}
			if i >= len(list) {
				return sel, errors.New("a selector that ends in a combinator")
			}
		} else if gap && !first {
			c = Descendant
		}
		if first && c != None {
			if !relative {
				return sel, errors.New("a selector that begins with a combinator")
			}
			sel.Relative = true
		}
		if !first && c == None || sel.Pseudo != "" {
			return sel, errors.New("a compound after a pseudo-element")
		}
		cmp, n, err := parseCompound(list[i:], &sel)
		if err != nil {
			return sel, err
		}
		cmp.Comb = c
		sel.Compounds = append(sel.Compounds, cmp)
		i += n
		first = false
	}
	if len(sel.Compounds) == 0 {
		return sel, errors.New("an empty selector")
	}
	return sel, nil
}

// legacy pseudo-elements may be written with one colon (Selectors 4, §3.6.1).
var legacyPseudo = map[string]bool{"before": true, "after": true, "first-line": true, "first-letter": true}

var pseudoElements = map[string]bool{
	"before": true, "after": true, "first-line": true, "first-letter": true,
	"marker": true, "placeholder": true, "picker-icon": true, "selection": true, "backdrop": true, "footnote-call": true,
	"footnote-marker": true, "file-selector-button": true, "details-content": true, "target-text": true,
	"scroll-marker": true, "scroll-marker-group": true, "spelling-error": true, "grammar-error": true, "highlight": true, "cue": true, "part": true, "slotted": true,
}

func parseCompound(list []Token, sel *Selector) (Compound, int, error) {
	var c Compound
	i, err := c.parseType(list, sel)
	if err != nil {
		return c, 0, err
	}
	for i < len(list) {
		if t := list[i]; t.Kind == Space || t.Kind == Delim && strings.ContainsAny(t.Text, ">+~") {
			break
		}
		n, err := c.parseTest(list[i:], sel)
		if err != nil {
			return c, 0, err
		}
		i += n
	}
	if c.Raw == "" && len(c.Tests) == 0 && sel.Pseudo == "" {
		return c, 0, errors.New("an empty compound")
	}
	return c, i, nil
}

// parseType reads a type selector with its namespace, if there is one, and tells how many tokens it is.
func (c *Compound) parseType(list []Token, sel *Selector) (n int, err error) {
	at := func(k int) Token {
		if k < len(list) {
			return list[k]
		}
		return Token{Kind: EOF}
	}
	isType := func(t Token) bool { return t.Kind == Ident || t.IsDelim('*') }
	if isType(at(0)) && at(1).IsDelim('|') && isType(at(2)) {
		c.NS, n = at(0).Text, 2
	} else if at(0).IsDelim('|') && isType(at(1)) {
		c.NS, n = "|", 1
	}
	t := at(n)
	if !isType(t) {
		if n > 0 {
			return 0, errors.New("a namespace without a type selector")
		}
		return 0, nil
	}
	c.Raw, c.Tag = t.Text, t.Lower()
	if c.Tag != "*" {
		sel.Specificity[2]++
	}
	return n + 1, nil
}

// parseTest reads what else an element must be, and tells how many tokens it is.
func (c *Compound) parseTest(list []Token, sel *Selector) (n int, err error) {
	switch t := list[0]; {
	case t.Kind == Hash:
		if !t.ID {
			return 0, fmt.Errorf("the id #%s", t.Text)
		}
		if sel.Pseudo != "" {
			return 0, errors.New("an id after a pseudo-element")
		}
		c.Tests = append(c.Tests, Test{Kind: TestID, Name: t.Text})
		sel.Specificity[0]++
		return 1, nil
	case t.IsDelim('.'):
		if len(list) < 2 || list[1].Kind != Ident || sel.Pseudo != "" {
			return 0, errors.New("a class without a name")
		}
		c.Tests = append(c.Tests, Test{Kind: TestClass, Name: list[1].Text})
		sel.Specificity[1]++
		return 2, nil
	case t.Kind == Bracket:
		test, err := parseAttr(t.Args)
		if err != nil || sel.Pseudo != "" {
			return 0, errors.New("an attribute selector that does not parse")
		}
		c.Tests = append(c.Tests, test)
		sel.Specificity[1]++
		return 1, nil
	case t.IsDelim('&'):
		c.Tests = append(c.Tests, Test{Kind: TestNesting})
		return 1, nil
	case t.Kind == Colon:
		return parsePseudo(list, c, sel)
	}
	return 0, fmt.Errorf("%q in a selector", Text(list[:1]))
}

func parseAttr(list []Token) (Test, error) {
	w := Words(list)
	bad := errors.New("attribute")
	t := Test{Kind: TestAttr}
	if len(w) >= 2 && w[0].IsDelim('|') && w[1].Kind == Ident {
		w = w[1:]
	} else if len(w) >= 3 && (w[0].Kind == Ident || w[0].IsDelim('*')) && w[1].IsDelim('|') && w[2].Kind == Ident {
		w = w[2:]
	}
	if len(w) == 0 || w[0].Kind != Ident {
		return t, bad
	}
	t.Name = w[0].Text
	w = w[1:]
	if len(w) == 0 {
		return t, nil
	}
	if w[0].IsDelim('=') {
		t.Op = '='
		w = w[1:]
	} else if len(w) > 1 && w[0].Kind == Delim && strings.ContainsAny(w[0].Text, "~|^$*") && w[1].IsDelim('=') && w[1].Pos == w[0].Pos+1 {
		t.Op = w[0].Text[0]
		w = w[2:]
	} else {
		return t, bad
	}
	if len(w) == 0 || w[0].Kind != Ident && w[0].Kind != String {
		return t, bad
	}
	t.Value = w[0].Text
	if len(w) == 2 && (w[1].Is("i") || w[1].Is("s")) {
		t.Flag = w[1].Lower()[0]
	} else if len(w) > 1 {
		return t, bad
	}
	return t, nil
}

// Pseudo-classes that never match on paper, but are valid selectors.
var pseudoClasses = map[string]bool{
	"root": true, "empty": true, "first-child": true, "last-child": true,
	"only-child": true, "first-of-type": true, "last-of-type": true, "only-of-type": true, "link": true,
	"any-link": true, "visited": true, "hover": true, "active": true, "focus": true, "focus-visible": true,
	"focus-within": true, "target": true, "scope": true, "enabled": true, "disabled": true, "checked": true,
	"indeterminate": true, "required": true, "optional": true, "read-only": true, "read-write": true,
	"placeholder-shown": true, "default": true, "valid": true, "invalid": true, "in-range": true,
	"out-of-range": true, "defined": true, "host": true, "autofill": true, "user-valid": true, "user-invalid": true,
	"target-within": true, "blank": true, "fullscreen": true, "modal": true, "popover-open": true, "open": true,
	"playing": true, "paused": true, "first": true, "left": true, "right": true, "local-link": true, "current": true, "past": true, "future": true,
}

func parsePseudo(list []Token, c *Compound, sel *Selector) (int, error) {
	if len(list) < 2 {
		return 0, errors.New("a lone colon")
	}
	t := list[1]
	n := 2
	double := t.Kind == Colon
	if double {
		if len(list) < 3 {
			return 0, errors.New("a lone colon")
		}
		t = list[2]
		n = 3
	}
	if t.Kind != Ident && t.Kind != Function {
		return 0, errors.New("a colon without a name")
	}
	name := t.Lower()
	if double || legacyPseudo[name] && t.Kind == Ident {
		switch {
		case pseudoElements[name], strings.HasPrefix(name, "-webkit-"): // the latter are valid and match nothing (Selectors 4, §3.9)
		case strings.HasPrefix(name, "-"):
			return 0, ErrForeign
		default:
			return 0, fmt.Errorf("the pseudo-element ::%s", name)
		}
		if sel.Pseudo != "" {
			// ::before::marker and the like: valid, but nothing to match here
			name = sel.Pseudo + "::" + name
		}
		sel.Pseudo = name
		sel.PseudoArg = t.Args
		sel.Specificity[2]++
		return n, nil
	}
	test := Test{Kind: TestPseudo, Name: name}
	if t.Kind == Ident {
		if strings.HasPrefix(name, "-webkit-") || strings.HasPrefix(name, "-moz-") || strings.HasPrefix(name, "-ms-") {
			return 0, ErrForeign
		}
		if !pseudoClasses[name] {
			return 0, fmt.Errorf("the pseudo-class :%s", name)
		}
		c.Tests = append(c.Tests, test)
		sel.Specificity[1]++
		return n, nil
	}
	if err := parseFunctional(&test, t, sel); err != nil {
		return 0, err
	}
	c.Tests = append(c.Tests, test)
	return n, nil
}

func parseFunctional(test *Test, t Token, sel *Selector) (err error) {
	switch test.Name {
	case "is", "where", "matches", "-webkit-any", "-moz-any":
		test.List, err = ParseSelectors(t.Args, true, false)
		test.List = withoutPseudo(test.List)
		if test.Name != "where" {
			sel.addMost(test.List)
			test.Name = "is"
		}
	case "not":
		test.List, err = ParseSelectors(t.Args, false, false)
		if len(withoutPseudo(test.List)) != len(test.List) {
			return errors.New("a pseudo-element in :not()")
		}
		sel.addMost(test.List)
	case "has":
		test.List, err = ParseSelectors(t.Args, false, true)
		sel.addMost(test.List)
	case "nth-child", "nth-last-child", "nth-of-type", "nth-last-of-type":
		args := t.Args
		if i := indexIdent(args, "of"); i >= 0 && !strings.Contains(test.Name, "type") {
			if test.List, err = ParseSelectors(Trim(args[i+1:]), false, false); err != nil {
				return err
			}
			sel.addMost(test.List)
			args = args[:i]
		}
		var ok bool
		if test.A, test.B, ok = ParseNth(args); !ok {
			return fmt.Errorf("%q in :%s()", Text(t.Args), test.Name)
		}
		sel.Specificity[1]++
	case "host", "host-context":
		if test.List, err = ParseSelectors(t.Args, false, false); len(test.List) != 1 {
			return fmt.Errorf(":%s() takes one compound selector", test.Name)
		}
		sel.addMost(test.List)
		sel.Specificity[1]++
	case "lang", "dir", "state", "nth-col", "nth-last-col":
		for _, w := range Words(t.Args) {
			if w.Kind == Ident || w.Kind == String {
				test.Idents = append(test.Idents, strings.ToLower(w.Text))
			} else if w.IsDelim('*') {
				test.Idents = append(test.Idents, "*")
			}
		}
		if len(test.Idents) == 0 {
			return fmt.Errorf(":%s() without an argument", test.Name)
		}
		sel.Specificity[1]++
	default:
		return fmt.Errorf("the pseudo-class :%s()", test.Name)
	}
	return err
}

func withoutPseudo(list []Selector) []Selector {
	out := list[:0:0]
	for _, s := range list {
		if s.Pseudo == "" {
			out = append(out, s)
		}
	}
	return out
}

func (s *Selector) addMost(list []Selector) {
	var most [3]int32
	for _, x := range list {
		if Less(most, x.Specificity) {
			most = x.Specificity
		}
	}
	for i := range most {
		s.Specificity[i] += most[i]
	}
}

// Less orders specificities.
func Less(a, b [3]int32) bool {
	for i := range a {
		if a[i] != b[i] {
			return a[i] < b[i]
		}
	}
	return false
}

func indexIdent(list []Token, name string) int {
	for i, t := range list {
		if t.Is(name) {
			return i
		}
	}
	return -1
}

// ParseNth parses an+b (CSS Syntax 3, §6).
func ParseNth(list []Token) (a, b int, ok bool) {
	s := strings.ToLower(strings.TrimSpace(strings.ReplaceAll(Text(list), "/**/", "")))
	switch s {
	case "odd":
		return 2, 1, true
	case "even":
		return 2, 0, true
	}
	head, tail, hasN := strings.Cut(s, "n")
	if !hasN {
		b, ok = integer(s)
		return 0, b, ok
	}
	if strings.TrimSpace(head) != head {
		return 0, 0, false // a number and its n are one token
	}
	switch head {
	case "", "+":
		a = 1
	case "-":
		a = -1
	default:
		if a, ok = integer(head); !ok {
			return 0, 0, false
		}
	}
	tail = strings.TrimSpace(tail)
	if tail == "" {
		return a, 0, true
	}
	if tail[0] != '+' && tail[0] != '-' {
		return 0, 0, false
	}
	b, ok = integer(tail[:1] + strings.TrimSpace(tail[1:]))
	return a, b, ok
}

func integer(s string) (int, bool) {
	t := ParseValues(s)
	if len(t) != 1 || t[0].Kind != Number || !t[0].ID {
		return 0, false
	}
	return int(max(min(t[0].Num, 1e9), -1e9)), true
}
