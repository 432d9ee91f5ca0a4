package style

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/css"
)

// TestSyntax: CSS Properties and Values API 1, §5.
func TestSyntax(t *testing.T) {
	for _, c := range []struct {
		syntax, value string
		want          bool
	}{
		{"*", "anything { at all }", true},
		{"<length>", "3px", true},
		{"<length>", "0", true},
		{"<length>", "3", false},
		{"<length>", "3deg", false},
		{"<length>", "50%", false},
		{"<length>", "calc(1px + 2em)", true},
		{"<length-percentage>", "50%", true},
		{"<length> | auto", "auto", true},
		{"<length> | auto", "none", false},
		{"<length>+", "1px 2px", true},
		{"<length>", "1px 2px", false},
		{"<length>#", "1px, 2px", true},
		{"<length>#", "1px 2px", false},
		{"<integer>", "3", true},
		{"<integer>", "3.5", false},
		{"<number>", "3.5", true},
		{"<percentage>", "3%", true},
		{"<color>", "#0000", true},
		{"<color>", "rgb(1 2 3)", true},
		{"<color>", "3px", false},
		{"<angle>", "1turn", true},
		{"<time>", "2s", true},
		{"<time>", "2px", false},
		{"<resolution>", "2dppx", true},
		{"<image>", "linear-gradient(red, blue)", true},
		{"<image>", "red", false},
		{"<url>", "url(x.png)", true},
		{"<transform-list>", "rotate(3deg) scale(2)", true},
		{"<transform-function>", "rotate(3deg) scale(2)", false},
		{"<custom-ident>", "name", true},
		{"<custom-ident>", "inherit", false},
		{"<string>", "'x'", true},
		{"<length>", "", false},
	} {
		s, ok := parseSyntax(c.syntax)
		assert.True(t, ok, c.syntax)
		assert.Equal(t, c.want, s.accepts(css.ParseValues(c.value)), "%s as %s", c.value, c.syntax)
	}
	for _, bad := range []string{"", "<colour>", "<transform-list>+", "a b", "inherit", "<length> |"} {
		_, ok := parseSyntax(bad)
		assert.False(t, ok, bad)
	}
}

// TestRegisteredProperties: CSS Properties and Values API 1, §2.
func TestRegisteredProperties(t *testing.T) {
	const html = "<!DOCTYPE html><div id=up><p id=x>x</p></div>"
	for _, c := range []struct {
		name, sheet string
		want        float64 // the width of x
	}{
		{"an initial value", `@property --w { syntax: "<length>"; inherits: false; initial-value: 7px } #x { width: var(--w) }`, 7},
		{"is there for any syntax", `@property --w { syntax: "*"; inherits: false; initial-value: 7px } #x { width: var(--w, 9px) }`, 7},
		{"none without one", `@property --w { syntax: "*"; inherits: false } #x { width: var(--w, 9px) }`, 9},
		{"what does not inherit", `@property --w { syntax: "<length>"; inherits: false; initial-value: 7px } #up { --w: 20px } #x { width: var(--w) }`, 7},
		{"what does", `@property --w { syntax: "<length>"; inherits: true; initial-value: 7px } #up { --w: 20px } #x { width: var(--w) }`, 20},
		{"inherit by name", `@property --w { syntax: "<length>"; inherits: false; initial-value: 7px } #up { --w: 20px } #x { --w: inherit; width: var(--w) }`, 20},
		{"initial by name", `@property --w { syntax: "<length>"; inherits: true; initial-value: 7px } #up { --w: 20px } #x { --w: initial; width: var(--w) }`, 7},
		{"unset", `@property --w { syntax: "<length>"; inherits: true; initial-value: 7px } #up { --w: 20px } #x { --w: unset; width: var(--w) }`, 20},
		{"a value of another type is none", `@property --w { syntax: "<length>"; inherits: true; initial-value: 7px } #up { --w: 20px } #x { --w: red; width: var(--w) }`, 20},
		{"also through var()", `@property --w { syntax: "<length>"; inherits: false; initial-value: 7px } #x { --c: red; --w: var(--c); width: var(--w) }`, 7},
		{"a cycle", `@property --w { syntax: "<length>"; inherits: false; initial-value: 7px } #x { --w: var(--v); --v: var(--w); width: var(--w) }`, 7},
		{"lengths by the font are computed where they are set", `@property --w { syntax: "<length>"; inherits: true; initial-value: 7px } #up { font-size: 10px; --w: 2em } #x { font-size: 30px; width: var(--w) }`, 20},
		{"others are not", `#up { font-size: 10px; --w: 2em } #x { font-size: 30px; width: var(--w) }`, 60},
		{"the last rule holds", `@property --w { syntax: "<length>"; inherits: true; initial-value: 7px } @property --w { syntax: "<length>"; inherits: true; initial-value: 8px } #x { width: var(--w) }`, 8},
		{"a bad rule does not", `@property --w { syntax: "<length>"; inherits: true; initial-value: 7px } @property --w { syntax: "<length>"; inherits: true; initial-value: 8em } #x { width: var(--w) }`, 7},
		{"one inside a layer", `@layer a { @property --w { syntax: "<length>"; inherits: true; initial-value: 7px } } #x { width: var(--w) }`, 7},
	} {
		assert.InDelta(t, c.want, styled(t, html, c.sheet).Width.Of(200), 1e-9, c.name)
	}
}

// TestBadRegistrationsAreTold with what is wrong with them.
func TestBadRegistrationsAreTold(t *testing.T) {
	for rule, want := range map[string]string{
		`@property w { syntax: "*"; inherits: true }`:                                   "needs a name",
		`@property --w { inherits: true }`:                                              "has no syntax",
		`@property --w { syntax: length; inherits: true }`:                              "needs a syntax in quotes",
		`@property --w { syntax: "<lenght>"; inherits: true }`:                          "has a syntax that is not understood",
		`@property --w { syntax: "*" }`:                                                 "does not say whether it inherits",
		`@property --w { syntax: "*"; inherits: yes }`:                                  "needs inherits: true or false",
		`@property --w { syntax: "<length>"; inherits: true }`:                          "has no initial-value",
		`@property --w { syntax: "<length>"; inherits: true; initial-value: red }`:      "has an initial-value that its syntax does not allow",
		`@property --w { syntax: "<length>"; inherits: true; initial-value: var(--a) }`: "has an initial-value that its syntax does not allow",
	} {
		var told []Notice
		r := NewResolver(Env{Medium: "print"}, plainFonts{}, nil, func(n Notice) { told = append(told, n) })
		r.AddSheet(ParseSheet("test.css", "", rule), Author, nil, nil)
		if assert.Len(t, told, 1, rule) {
			assert.Contains(t, told[0].Message, want)
			assert.Equal(t, "css-value", told[0].Code)
		}
	}
}
