package css

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestDeclarationsAreRead: what a style attribute comes to (CSS Syntax 3, §5.5). Declarations that
// do not parse are left out, and no others with them.
func TestDeclarationsAreRead(t *testing.T) {
	for text, want := range map[string]string{
		"a:b":                "a:b",
		"a:b;":               "a:b",
		"a:b;c:d":            "a:b; c:d",
		" a : b ":            "a:b",
		"A:B":                "a:B",
		"--A:B":              "--A:B",
		"--a:{b:c}":          "--a:{b:c}",
		"--a:":               "--a:",
		"--a:;":              "--a:",
		"a:":                 "",
		"a:;b:c":             "b:c",
		"a b:c":              "",
		"a:b!important":      "a:b IMPORTANT",
		"a:b ! important":    "a:b IMPORTANT",
		"a:b !IMPORTANT":     "a:b IMPORTANT",
		"a:b!important c":    "",
		"a:b!nope":           "",
		"a:b;;c:d":           "a:b; c:d",
		":b":                 "",
		"a:b c":              "a:b c",
		"a:b,c":              "a:b,c",
		"a:b(c,d)":           "a:b(c,d)",
		"a:\"x;y\"":          "a:\"x;y\"",
		"a:'x}y'":            "a:\"x}y\"",
		"a:url(x;y)":         "a:url(\"x;y\")",
		"a:(b;c);d:e":        "a:(b;c); d:e",
		"a:[b;c];d:e":        "a:[b;c]; d:e",
		"a:{b;c};d:e":        "a:{b;c}; d:e",
		"a:b/*c;d*/;e:f":     "a:b; e:f",
		"/*x*/a:b":           "a:b",
		"a/*x*/:b":           "a:b",
		"1a:b;c:d":           "c:d",
		"@x;a:b":             "a:b",
		"@x{a:b}c:d":         "c:d",
		"a:b;&c{d:e}":        "a:b",
		"a:\"x\ny;c:d":       "c:d",
		"a:\\62;c:d":         "a:b; c:d",
		"\\61:b":             "a:b",
		"a:b}c:d":            "",
		"a:b]c;d:e":          "d:e",
		"a:b)c;d:e":          "d:e",
		"-a:b":               "-a:b",
		"_a:b":               "_a:b",
		"é:b":                "é:b",
		"a:<!--b -->":        "a:<!--b -->",
		"a:b-->c":            "a:b-->c",
		"a:#f00":             "a:#f00",
		"a:#":                "a:#",
		"a:@b":               "a:@b",
		"a:1e3":              "a:1e3",
		"a:1e":               "a:1e",
		"a:1e+2x":            "a:1e+2x",
		"a:+1":               "a:+1",
		"a:-1.5":             "a:-1.5",
		"a:.5":               "a:.5",
		"a:1.":               "a:1.",
		"a:1%":               "a:1%",
		"a:1PX":              "a:1px",
		"a:1e3px":            "a:1e3px",
		"a:u+1":              "a:u/**/+1",
		"a:url(":             "a:url(\"\")",
		"a:url(x":            "a:url(\"x\")",
		"a:url( x )":         "a:url(\"x\")",
		"a:url(x y);b:c":     "b:c",
		"a:url('x'":          "a:url(\"x\")",
		"a:\"x":              "a:\"x\"",
		"a:f(":               "a:f()",
		"a:f(1;2)":           "a:f(1;2)",
		"a:calc(1px+2px)":    "a:calc(1px/**/+2px)",
		"a:calc(1px + -2px)": "a:calc(1px + -2px)",
		"a:1--2":             "a:1--2",
		"a:--x":              "a:--x",
		"a:var(--x,)":        "a:var(--x,)",
		"a:var( --x , 1 )":   "a:var( --x , 1 )",
		"a:$b":               "a:$b",
		"a:*b":               "a:*b",
		"a:b|c":              "a:b|c",
		"a:a||b":             "a:a||b",
		"a:a~=b":             "a:a~=b",
		"a:<b":               "a:<b",
		"a:>b":               "a:>b",
	} {
		assert.Equal(t, want, declarations(ParseDeclarations(text)), text)
	}
}

// TestRulesAreRead: what a style sheet comes to (CSS Syntax 3, §5.4, CSS Nesting 1), and what is told of it.
func TestRulesAreRead(t *testing.T) {
	for text, want := range map[string]string{
		"a{b:c}":                          "a{b:c}",
		"a,b{c:d}":                        "a,b{c:d}",
		"a{}":                             "a{}",
		"a{b:c":                           "a{b:c}",
		"a":                               " !a rule without a block",
		"a{b:c}}d{e:f}":                   "a{b:c} }d{e:f}",
		"a{b:c;d}e{f:g}":                  "a{b:c} e{f:g} !a declaration that does not parse",
		"a{b{c:d}}":                       "a{b{c:d}}",
		"a{b:c;&:d{e:f}g:h}":              "a{b:c; &:d{e:f}; g:h}",
		"a{@media x{b:c}}":                "a{@media x{b:c}}",
		"@import 'x';a{b:c}":              "@import \"x\" a{b:c}",
		"@import url(x) screen;":          "@import url(\"x\") screen",
		"@media x{a{b:c}d{e:f}}":          "@media x{a{b:c}; d{e:f}}",
		"@media x":                        "@media x",
		"@media x{":                       "@media x{}",
		"@media x;a{b:c}":                 "@media x a{b:c}",
		"@charset \"x\";a{b:c}":           "@charset \"x\" a{b:c}",
		"@font-face{a:b}":                 "@font-face{a:b}",
		"@page{a:b;@top-left{c:d}}":       "@page{a:b; @top-left{c:d}}",
		"@page x:first{a:b}":              "@page x:first{a:b}",
		"@unknown x{y}z{a:b}":             "@unknown x{} z{a:b} !a declaration that does not parse",
		"@unknown x;z{a:b}":               "@unknown x z{a:b}",
		"<!--a{b:c}-->d{e:f}":             "a{b:c} d{e:f}",
		"{a:b}c{d:e}":                     "{a:b} c{d:e}",
		"a[x=\"}\"]{b:c}":                 "a[x=\"}\"]{b:c}",
		"a:not(b,c){d:e}":                 "a:not(b,c){d:e}",
		"a{b:c}/*x":                       "a{b:c}",
		"/*x*/a{b:c}/*y*/":                "a{b:c}",
		"a{b:url(x)}":                     "a{b:url(\"x\")}",
		"a{b:c!important}":                "a{b:c IMPORTANT}",
		"@layer a,b;@layer a{c{d:e}}":     "@layer a,b @layer a{c{d:e}}",
		"@supports (a:b){c{d:e}}":         "@supports (a:b){c{d:e}}",
		"@keyframes x{from{a:b}50%{c:d}}": "@keyframes x{from{a:b}; 50%{c:d}}",
		"a{b:c};d{e:f}":                   "a{b:c} ;d{e:f}",
		"a{;b:c;}":                        "a{b:c}",
		"a{b:c;}":                         "a{b:c}",
		"a\\{b{c:d}":                      "a\\{b{c:d}",
		"a{b:\"}\"}c{d:e}":                "a{b:\"}\"} c{d:e}",
		"a(b{c:d}":                        " !a rule without a block",
		"a{b:(c}d{e:f}":                   "a{b:(c}d{e:f})}",
		"a{--x:{b:c}}":                    "a{--x:{b:c}}",
		"a{--x:{;}d:e}":                   "a{--x:{;}d:e}",
		"a{b:{c}d:e}":                     "a{b:{}; d:e} !a declaration that does not parse",
		"@a{b:c}":                         "@a{b:c}",
		"a{b:hover{c:d}}":                 "a{b:hover{c:d}}",
		"a{>b{c:d}}":                      "a{>b{c:d}}",
		"a{& + &{b:c}}":                   "a{& + &{b:c}}",
		"a{b:c;d{e:f};g:h}":               "a{b:c; d{e:f}; g:h}",
	} {
		s := ParseSheet("x.css", text)
		got := rules(s.Rules)
		for _, f := range s.Bad {
			got += " !" + f.What
		}
		assert.Equal(t, want, got, text)
	}
}

// declarations writes what was read so that what is important, and where one ends, is seen.
func declarations(list []Declaration) string {
	var out []string
	for _, d := range list {
		text := d.Name + ":" + Text(d.Value)
		if d.Important {
			text += " IMPORTANT"
		}
		out = append(out, text)
	}
	return strings.Join(out, "; ")
}

// rules writes rules in their order, with the declarations between those nested in them.
func rules(list []Rule) string {
	var out []string
	for _, r := range list {
		text := Text(r.Prelude)
		if r.At != "" {
			text = strings.TrimSpace("@" + r.At + " " + text)
		}
		if r.HasBody {
			var body []string
			from := 0
			add := func(to int) {
				if to > from {
					body = append(body, declarations(r.Decls[from:to]))
				}
				from = to
			}
			for i, n := range r.DeclsBefore {
				add(n)
				body = append(body, rules(r.Rules[i:i+1]))
			}
			add(len(r.Decls))
			text += "{" + strings.Join(body, "; ") + "}"
		}
		out = append(out, text)
	}
	return strings.Join(out, " ")
}
