package css

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTokens(t *testing.T) {
	for in, want := range map[string]string{
		"a b":                   "a b",
		"  a/* x */b ":          " a/**/b ",
		"12px":                  "12px",
		"1e3":                   "1e3",
		"-.5em":                 "-.5em",
		"+3":                    "+3",
		`"a\"b"`:                `"a\"b"`,
		`\31 23`:                `\31 23`,
		"url( x.png )":          `url("x.png")`,
		"url('x.png')":          `url("x.png")`,
		"calc(1px + (2em * 3))": "calc(1px + (2em * 3))",
		"#fff":                  "#fff",
		"a>b":                   "a>b",
		"[x=y]":                 "[x=y]",
		"50%":                   "50%",
		"--custom":              "--custom",
		"U+26":                  "U/**/+26",
		"@media":                "@media",
		"é":                     "é",
		"a\x00b":                "a\uFFFDb",
		"unclosed(1, (2":        "unclosed(1, (2))",
		"rgb(1 2 3 / 40%)":      "rgb(1 2 3 / 40%)",
		"\"new\\\nline\"":       `"newline"`,
	} {
		assert.Equal(t, want, Text(ParseValues(in)), in)
	}
}

func TestNumbersKeepTheirKind(t *testing.T) {
	toks := ParseValues("1 1.0 1e2 3px 4%")
	w := Words(toks)
	require.Len(t, w, 5)
	assert.True(t, w[0].ID, "1 is an integer")
	assert.False(t, w[1].ID)
	assert.Equal(t, 100.0, w[2].Num)
	assert.Equal(t, "px", w[3].Unit)
	assert.Equal(t, Percentage, w[4].Kind)
}

func TestSheet(t *testing.T) {
	s := ParseSheet("x.css", `
@import "a.css";
p { color: red !important; margin: 0 }
bad { : no; width: 1px }
@media print { h1 { top: 0 } }
.a { color: blue; &:hover { left: 1px } .b { right: 2px } bottom: 3px }
a { color: "unclosed
 }`)
	require.GreaterOrEqual(t, len(s.Rules), 5)
	assert.Equal(t, "import", s.Rules[0].At)
	p := s.Rules[1]
	require.Len(t, p.Decls, 2)
	assert.True(t, p.Decls[0].Important)
	assert.Equal(t, "red", Text(p.Decls[0].Value))
	assert.Len(t, s.Rules[2].Decls, 1, "what does not parse is left out alone")
	assert.Equal(t, "media", s.Rules[3].At)
	require.Len(t, s.Rules[3].Rules, 1)
	nested := s.Rules[4]
	assert.Len(t, nested.Decls, 2)
	assert.Len(t, nested.Rules, 2)
	assert.Equal(t, []int{1, 1}, nested.DeclsBefore)
	assert.NotEmpty(t, s.Bad)
}

func TestLineOfOffset(t *testing.T) {
	s := ParseSheet("x", "a{}\nb{}\n  c{}")
	line, col := s.Line(s.Rules[2].Pos)
	assert.Equal(t, 3, line)
	assert.Equal(t, 3, col)
}

func selectors(t *testing.T, in string) []Selector {
	t.Helper()
	list, err := ParseSelectors(ParseValues(in), false, false)
	require.NoError(t, err, in)
	return list
}

func TestSpecificity(t *testing.T) {
	for in, want := range map[string][3]int32{
		"*":                           {0, 0, 0},
		"li":                          {0, 0, 1},
		"ul li":                       {0, 0, 2},
		"h1 + *[rel=up]":              {0, 1, 1},
		"ul ol li.red":                {0, 1, 3},
		"#x34y":                       {1, 0, 0},
		"#s12:not(foo)":               {1, 0, 1},
		".foo :is(.bar, #baz)":        {1, 1, 0},
		":where(#a .b)":               {0, 0, 0},
		"p::first-line":               {0, 0, 2},
		"li:nth-child(2n+1 of .x #y)": {1, 2, 1},
		"a:hover":                     {0, 1, 1},
	} {
		assert.Equal(t, want, selectors(t, in)[0].Specificity, in)
	}
}

func TestBadSelectors(t *testing.T) {
	for _, in := range []string{"", "a,", "> a", "a >", "::nothing", ":unknown", "a::before b", "[=x]", "#1", ".", "a:not(::before)", ":nth-child(x)"} {
		_, err := ParseSelectors(ParseValues(in), false, false)
		assert.Error(t, err, in)
	}
}

func TestNth(t *testing.T) {
	for in, want := range map[string][2]int{"odd": {2, 1}, "even": {2, 0}, "3": {0, 3}, "n": {1, 0}, "-n+3": {-1, 3}, "2n + 1": {2, 1}, "+5n-2": {5, -2}} {
		a, b, ok := ParseNth(ParseValues(in))
		assert.True(t, ok, in)
		assert.Equal(t, want, [2]int{a, b}, in)
	}
	_, _, ok := ParseNth(ParseValues("2n 1"))
	assert.False(t, ok)
}

func TestDeepNestingEnds(t *testing.T) {
	deep := ""
	for range 100_000 {
		deep += "("
	}
	assert.NotPanics(t, func() { ParseValues(deep); ParseSheet("x", deep+"{") })
}

func FuzzSheet(f *testing.F) {
	for _, s := range []string{"a{b:c}", "@media x{a{}}", "a{&b{c:d}}", "\\", "url(", "\"", "/*", "a:not(:is(b,c))>d{}", "@page :first{@top-left{}}"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		sheet := ParseSheet("x", s)
		for _, r := range sheet.Rules {
			ParseSelectors(r.Prelude, true, false)
			line, col := sheet.Line(r.Pos)
			if line < 1 || col < 1 {
				t.Fatalf("place %d:%d", line, col)
			}
			Text(r.Prelude)
		}
	})
}
