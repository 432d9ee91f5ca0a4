package css

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/internal/golden"
)

// TestWhatTextIsCutInto holds what short texts are cut into: each shows one turn of the tokenizer (CSS Syntax 3, §4.3).
func TestWhatTextIsCutInto(t *testing.T) {
	var out strings.Builder
	for _, text := range []string{
		"a", "z", "A", "Z", "_", "-a", "-z", "--", "---", "-", "-1", "--1", "-.", "-.5", "-\\61", "-é", "\u0080", "@a", "@-", "@", "@-a", "@1", "#a", "#1", "#-", "#", "#\\61", "#\\\n", "# a",
		"\\", "\\\n", "a\\", "a\\\nb", "\\61", "\\61 b", "\\61  b", "\\000061b", "\\0000611", "\\0", "\\d800", "\\dfff", "\\d7ff", "\\e000", "\\10ffff", "\\110000", "\\g", "\\é",
		"0", "9", "/", ":", "+1", "+", "+.", "+.5", "+a", "1.5", "1.", "1..2", ".5", ".", ".a", "1e2", "1E+2", "1e-2", "1e", "1e+", "1e-", "1ex", "1.5e2", "1e400", "-1e400", "1e30", "2e30", "-2e30", "1a", "1-a", "1--a", "1-", "1\\61", "1%", "1 %", "+1px",
		"a(", "a (", "A()", "url(", "URL(x)", "url( x )", "url( x", "url(x", "url(x y)z", "url(x(y)z", "url(x'y)z", "url(x\"y)z", "url(x\x1f)z", "url(x )z", "url(\x7f)z", "url(x\\29 y)z", "url(x\\\ny)z", "url( 'x')", "url('x' y)", "url(a b\\)c)d", "url(a b",
		"'a'", "\"a\"", "'a", "'a\nb'", "'a\\\nb'", "'a\\", "'a\\62 c'", "'a\\'b'", "'a\"b'", "'a\\\n", "''",
		"<!--", "<!-", "<", "-->", "--", "->", "/*a*/b", "/*a", "/**/", "/*", "/", "/ *", "a/*b*/c", "/*/b*/c", "  a", "a \t\n b", "(a", "[a]b", "{a}b", "a)b", "[a(b]c)d", "!", "%", "&", "u+1",
	} {
		fmt.Fprintf(&out, "%q → %s\n", text, tokenTexts(ParseValues(text)))
	}
	golden.Compare(t, "testdata/tokens.txt", out.String())
}

// tokenTexts lists tokens: the kind of each, with its text, number and what is in it.
func tokenTexts(list []Token) string {
	var words []string
	for _, t := range list {
		w := fmt.Sprintf("%d@%d", t.Kind, t.Pos)
		if t.Text != "" {
			w += fmt.Sprintf("%q", t.Text)
		}
		if t.Kind == Number || t.Kind == Percentage || t.Kind == Dimension {
			w += fmt.Sprintf("=%g%s", t.Num, t.Unit)
		}
		if t.ID {
			w += "!"
		}
		if t.Args != nil {
			w += "[" + tokenTexts(t.Args) + "]"
		}
		words = append(words, w)
	}
	return strings.Join(words, " ")
}

// TestWhatSelectorsAsk holds what selectors ask for, and why others are none (Selectors 4). What is refused beyond that where
// lists do not forgive is marked.
func TestWhatSelectorsAsk(t *testing.T) {
	var out strings.Builder
	for _, text := range []string{
		"a", "*", "A", "a|b", "*|b", "|b", "a|*", "|*", "a|", "|", "*|", "a| b", "|.c", "a||b", "a b", "a  b", "a>b", "a > b", "a+b", "a~b", "a>", "a >", ">a", "> a", "a>>b", "a> >b", "+", "", " ", "a,b", "a,", ",a", "a, b", "a b c",
		"#a", "#1", "#", ".a", ".", ".1", ". a", "a.b.c", "a#b.c", "*.a", ".a*", ".a b", "a*", "aa", "a1", "1a", "a%", "'a'", "a!", "&", "&a", "a&", "& &", "& > a",
		"[a]", "[]", "[a", "[a]b", "[|a]", "[a|b]", "[*|a]", "[a|]", "[|]", "[*]", "[1]", "[a=b]", "[a='b']", "[a=1]", "[a=]", "[a==b]", "[a~=b]", "[a|=b]", "[a^=b]", "[a$=b]", "[a*=b]", "[a!=b]", "[a~b]", "[a~ =b]", "[a~]", "[a=b i]", "[a=b S]", "[a='b'i]", "[a=b x]", "[a=b i i]", "[a=b i s]", "[ a = b ]", "[a b]", "[a|b=c]", "[|a=c]", "[a=b][c]",
		":hover", ":HOVER", ":", "::", ":1", "::1", ": hover", ":nope", ":nope()", ":-webkit-x", ":-moz-x", ":-ms-x", ":-o-x", "a:hover:focus", ":hover a",
		":before", "::before", "::BEFORE", ":after", ":first-line", ":first-letter", ":marker", "::marker", ":before()", "::nope", "::-webkit-x", "::-moz-x", "::before:hover", "::before.a", "::before#a", "::before[a]", "::before a", "::before > a", "::before::marker", "a::before", "::part(a)", "::slotted(a, b)", "::highlight(x)", "::before::nope",
		":is(a)", ":is(a,b#c)", ":is()", ":is(a,:nope)", ":is(:nope)", ":is(::before)", ":where(a#b)", ":matches(a)", ":-webkit-any(a)", ":-moz-any(a)", ":not(a)", ":not(a,b.c)", ":not()", ":not(:nope)", ":not(::before)", ":not(a, ::before)", ":has(a)", ":has(> a)", ":has(>)", ":has()", ":has(:nope)", ":is(:is(:nope))", ":is(a:not(:is(:nope)))", ":has(:is(:nope))", ":where(:nope)",
		":nth-child(2n+1)", ":nth-child(odd)", ":nth-child(EVEN)", ":nth-child(n)", ":nth-child(+n)", ":nth-child(-n)", ":nth-child(-n+3)", ":nth-child(n-2)", ":nth-child(2n - 1)", ":nth-child(2n+ 1)", ":nth-child(2n +1)", ":nth-child(+5)", ":nth-child(-5)", ":nth-child(5)", ":nth-child(2 n)", ":nth-child(+ n)", ":nth-child(2n1)", ":nth-child(2n + -1)", ":nth-child(2.5n)", ":nth-child(2n+1.5)", ":nth-child(1.5)", ":nth-child()", ":nth-child(x)", ":nth-child(n n)", ":nth-child(99999999999)", ":nth-child(-99999999999n)", ":nth-child(2n/**/+1)", ":nth-child",
		":nth-child(2 of a)", ":nth-child(2 of)", ":nth-child(2 of a,b#c)", ":nth-child(of a)", ":nth-child(2 of :nope)", ":nth-of-type(2 of a)", ":nth-of-type(2)", ":nth-last-child(2 of a)", ":nth-last-of-type(n)",
		":host", ":host(a)", ":host()", ":host(a,b)", ":host(:nope)", ":host-context(a)", ":lang(de)", ":lang(de, 'FR')", ":lang(*)", ":lang('*-CH')", ":lang()", ":lang(1)", ":dir(ltr)", ":state(x)", ":nth-col(n)",
	} {
		list, err := ParseSelectors(ParseValues(text), false, false)
		fmt.Fprintf(&out, "%q", text)
		for _, s := range list {
			fmt.Fprintf(&out, "\n  %s", selectorText(s))
		}
		if err != nil {
			fmt.Fprintf(&out, " is refused: %v", err)
		} else if err := CheckSelectors(ParseValues(text)); err != nil {
			fmt.Fprintf(&out, "\n  strictly refused: %v", err)
		}
		out.WriteString("\n")
	}
	golden.Compare(t, "testdata/selectors.txt", out.String())
}

// TestDeepNesting: blocks and rules are read as deep as maxDepth, and what lies deeper is passed over, to its end.
func TestDeepNesting(t *testing.T) {
	deep := func(levels int) string {
		return strings.Repeat("(", levels) + "a" + strings.Repeat(")", levels) + " b"
	}
	depthOf := func(list []Token) (n int) {
		for len(list) > 0 && list[0].Kind == Paren {
			list, n = list[0].Args, n+1
		}
		if len(list) > 0 && list[0].Is("a") {
			return n
		}
		return -n
	}
	for levels, want := range map[int]int{maxDepth: maxDepth, maxDepth + 1: -maxDepth - 1, maxDepth + 9: -maxDepth - 1} {
		list := ParseValues(deep(levels))
		assert.Equal(t, want, depthOf(list), "%d", levels)
		assert.True(t, list[len(list)-1].Is("b"), "%d: what follows is read", levels)
	}
	inner := func(levels int) int { // how deep rules are read
		sheet := ParseSheet("", strings.Repeat("a{b:c;", levels)+strings.Repeat("}", levels)+"d{e:f}")
		assert.Len(t, sheet.Rules, 2)
		n := 0
		for rules := sheet.Rules[:1]; len(rules) > 0 && len(rules[0].Decls) > 0; rules = rules[0].Rules {
			n++
		}
		return n
	}
	assert.Equal(t, 5, inner(5))
	assert.Equal(t, maxDepth, inner(maxDepth))
	assert.Equal(t, maxDepth, inner(maxDepth+7))
}
