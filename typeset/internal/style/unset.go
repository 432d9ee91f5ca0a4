package style

import (
	"slices"
	"strings"

	"github.com/agext/levenshtein"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// customs tells which custom properties declarations set, and which they cannot do without.
type customs struct {
	set   map[string]bool
	asked []askedCustom
}

// askedCustom is a place that asks for a custom property and has nothing to put in its stead.
type askedCustom struct {
	name, property string
	sheet          *css.Sheet     // that it stands in, for
	sels           []css.Selector // what it holds for; nil for pages
	node           *markup.Node   // or whose style attribute it stands in
	pos            int
}

// add reads declarations; of says where they stand.
func (c *customs) add(decls []css.Declaration, of askedCustom) {
	for _, d := range decls {
		if strings.HasPrefix(d.Name, "--") {
			if c.set == nil {
				c.set = map[string]bool{}
			}
			c.set[d.Name] = true
		}
		for _, name := range neededVars(d.Value) {
			of.name, of.property, of.pos = name, d.Name, d.Pos
			c.asked = append(c.asked, of)
		}
	}
}

// neededVars lists the names in var() without a fallback.
func neededVars(list []css.Token) (names []string) {
	for i := range list {
		t := &list[i]
		if t.Kind != css.Function || t.Text != "var" {
			names = append(names, neededVars(t.Args)...)
			continue
		}
		if w := css.Words(t.Args); len(w) == 1 && w[0].Kind == css.Ident {
			names = append(names, w[0].Text)
		}
	}
	return names
}

// Unset tells of the custom properties that something in a document asks for and nobody sets, each once: the
// declarations that ask for them hold as if they were not there (CSS Variables 1, §3.1).
func (r *Resolver) Unset(doc *markup.Node) (told []Notice) {
	own := styleAttributes(doc)
	var missing []askedCustom
	for _, a := range slices.Concat(r.customs.asked, own.asked) {
		if !r.customs.set[a.name] && !own.set[a.name] && r.registered[a.name] == nil {
			missing = append(missing, a)
		}
	}
	done := map[string]bool{}
	for _, a := range r.inUse(doc, missing) {
		if done[a.name] {
			continue
		}
		done[a.name] = true
		like := meant(a, r.customs.set, own.set)
		if like == "" && strings.HasPrefix(a.property, "--") { // frameworks leave such to those who use them
			continue
		}
		n := Notice{Code: "variable-unset", Message: a.property + " has no effect: nothing sets " + a.name, Node: a.node}
		if like != "" {
			n.Message += "; did you mean " + like + "?"
		}
		if a.sheet != nil {
			n.Sheet = a.sheet.Name
			n.Line, n.Col = a.sheet.Line(a.pos)
		}
		told = append(told, n)
	}
	return told
}

// styleAttributes reads the style attributes with custom properties, of those with the same text the first.
func styleAttributes(doc *markup.Node) (c customs) {
	seen := map[string]bool{}
	doc.Walk(func(n *markup.Node) bool {
		if text := n.Attr("style"); strings.Contains(text, "--") && !seen[text] {
			seen[text] = true
			c.add(css.ParseDeclarations(text), askedCustom{node: n})
		}
		return true
	})
	return c
}

// inUse gives those of the places that hold for something in a document.
func (r *Resolver) inUse(doc *markup.Node, places []askedCustom) []askedCustom {
	if len(places) == 0 {
		return nil
	}
	held := make([]bool, len(places))
	for i, a := range places {
		held[i] = a.sels == nil
	}
	doc.Walk(func(n *markup.Node) bool {
		if n.Kind != markup.Element {
			return true
		}
		for i, a := range places {
			if !held[i] {
				r.Watch.Step()
				held[i] = r.matcher.anyMatch(a.sels, n, nil)
			}
		}
		return true
	})
	var list []askedCustom
	for i, a := range places {
		if held[i] {
			list = append(list, a)
		}
	}
	return list
}

// mostUnlike is by how many letters a name may differ from the one that was meant.
const mostUnlike = 2

// meant is the custom property whose name differs least from one that is not set; "" where none is like it.
func meant(a askedCustom, sets ...map[string]bool) string {
	best, least := "", mostUnlike+1
	for _, set := range sets {
		for name := range set {
			if d := levenshtein.Distance(name, a.name, nil); name != a.property && d < len(a.name)/2 && (d < least || d == least && name < best) {
				best, least = name, d
			}
		}
	}
	return best
}
