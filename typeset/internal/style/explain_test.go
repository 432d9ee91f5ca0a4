package style

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/markup"
)

// explained lists the rules for the element with the id x: a line for each, the strongest first, with the fates of its
// declarations.
func explained(t *testing.T, html, user, author string) string {
	t.Helper()
	doc, err := markup.ParseHTML([]byte(html))
	require.NoError(t, err)
	r := NewResolver(Env{Medium: "print", Width: 800, Height: 600}, plainFonts{}, nil, nil)
	r.AddSheet(ParseSheet("user.css", "", user), User, nil, nil)
	r.AddSheet(ParseSheet("page.css", "", author), Author, nil, nil)
	r.Finish()
	var out []string
	doc.Walk(func(n *markup.Node) bool {
		if n.ID != "x" {
			return true
		}
		for _, a := range r.Explain(n, r.Style(n, "", Initial())) {
			if a.Origin != UserAgent {
				out = append(out, ruleLine(a))
			}
		}
		return false
	})
	return strings.Join(out, "\n")
}

// ruleLine is a rule as a line.
func ruleLine(a Applied) string {
	head := a.Selector
	switch {
	case a.Inline:
		head = "style"
	case a.Hint:
		head = "attributes"
	default:
		head += fmt.Sprintf(" (%s:%d:%d)", a.Sheet, a.Line, a.Col)
	}
	var list []string
	for _, d := range a.Decls {
		text := d.Name + ": " + d.Value
		if d.Important {
			text += " !important"
		}
		if d.Line > 0 {
			text += fmt.Sprintf(" @%d", d.Line)
		}
		list = append(list, text+" "+[]string{"lost", "partly", "won", "dropped"}[d.Fate])
	}
	return head + ": " + strings.Join(list, ", ")
}

func TestExplain(t *testing.T) {
	const p = "<!DOCTYPE html><p id=x class=a>x"
	for _, test := range []struct{ name, html, user, author, want string }{
		{"the stronger selector wins", p, "", "p { color: red }\n.a { color: blue; width: 2px }", ".a (page.css:2:1): color: blue @2 won, width: 2px @2 won\np (page.css:1:1): color: red @1 lost"},
		{"the later one of two", p, "", "p { color: red; color: blue }", "p (page.css:1:1): color: red @1 lost, color: blue @1 won"},
		{"a shorthand that loses a part", p, "", "p { margin: 1px 2px }\n.a { margin-left: 3px }", ".a (page.css:2:1): margin-left: 3px @2 won\np (page.css:1:1): margin: 1px 2px @1 partly"},
		{"important", p, "", "p { color: red !important }\n.a { color: blue }", ".a (page.css:2:1): color: blue @2 lost\np (page.css:1:1): color: red !important @1 won"},
		{"flow-relative and physical", p, "", "p { margin-left: 1px }\n.a { margin-inline-start: 2px }", ".a (page.css:2:1): margin-inline-start: 2px @2 won\np (page.css:1:1): margin-left: 1px @1 lost"},
		{"what is not understood", p, "", "p { colour: red;\n color: rde }", "p (page.css:1:1): colour: red @1 dropped, color: rde @2 dropped"},
		{"a list of selectors counts once", p, "", "p, .a, #x { color: red }", "p, .a, #x (page.css:1:1): color: red @1 won"},
		{"attributes", "<!DOCTYPE html><p id=x align=center style='color: red; text-align: left'>x", "", "p { color: blue }", "style: color: red won, text-align: left won\np (page.css:1:1): color: blue @1 lost\nattributes: text-align: center lost"},
		{"a user's sheet", p, "p { color: red }", ".b { color: blue }", "p (user.css:1:1): color: red @1 won"},
		{"variables", p, "", "p { --c: red; color: var(--c); margin: var(--m) }", "p (page.css:1:1): --c: red @1 won, color: var(--c) @1 won, margin: var(--m) @1 won"},
		{"nested rules", p, "", "body { color: red;\n .a { width: 1px } }", ".a (page.css:2:2): width: 1px @2 won"},
		{"layers", p, "", "@layer base, top;\n@layer top { p { color: red } }\n@layer base { .a { color: blue } }", "p (page.css:2:14): color: red @2 won\n.a (page.css:3:15): color: blue @3 lost"},
		{"what does not match", p, "", "h1 { color: red } .a::before { content: 'x' } @media screen { p { color: red } }", ""},
	} {
		t.Run(test.name, func(t *testing.T) { assert.Equal(t, test.want, explained(t, test.html, test.user, test.author)) })
	}
}
