package style

import (
	"slices"
	"strings"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// Fate is what became of a declaration that holds for an element.
type Fate int8

const (
	Lost    Fate = iota // others are stronger, for all that it says
	Partly              // others are stronger for some of the longhands that it stands for
	Won                 // it takes effect
	Dropped             // it is not understood, and was left out
)

// Applied is a rule that holds for an element, as its sheet has it.
type Applied struct {
	Selector string // as it is written; “” for an attribute
	Origin   Origin
	Inline   bool // it stands in the style attribute
	Hint     bool // it stands for other attributes, such as bgcolor
	Sheet    string
	Line     int // of the rule, from 1; 0 for attributes
	Col      int
	Decls    []AppliedDecl
}

// AppliedDecl is a declaration of such a rule.
type AppliedDecl struct {
	Name, Value string
	Important   bool
	Fate        Fate
	Line, Col   int // from 1; 0 in attributes
}

// Explain lists the rules that hold for an element, the strongest first, and tells which of their declarations took
// effect. look is the element's style. Rules for its pseudo-elements are left out, and those of the cascade's levels for
// important declarations stand where the rule's others stand.
func (r *Resolver) Explain(n *markup.Node, look *Style) []Applied {
	r.gather(n, "")
	inOrder(r.matched)
	matched := strongest(r.matched)
	x := explaining{wins: map[string]*AppliedDecl{}, look: look}
	out, from := make([]Applied, len(matched)), make([]*written, len(matched))
	for i, m := range matched {
		from[i] = r.writtenFor(n, m)
		out[i] = applied(m, from[i])
	}
	for _, l := range levels(matched) {
		i := slices.Index(matched, l.match)
		x.level(&out[i], from[i], l.important)
	}
	x.fates()
	slices.Reverse(out)
	return out
}

// strongest leaves out what a rule's other selectors have brought in as well.
func strongest(matched []*match) (out []*match) {
	for i, m := range matched {
		again := func(o *match) bool { return m.from != nil && o.from == m.from }
		if !slices.ContainsFunc(matched[i+1:], again) {
			out = append(out, m)
		}
	}
	return out
}

// writtenFor is the text of what matched; that of attributes is read once more.
func (r *Resolver) writtenFor(n *markup.Node, m *match) *written {
	switch {
	case m.from != nil:
		return m.from
	case m.inline:
		return &written{sheet: newSheet(styleAttribute, r.pageBase, ""), decls: css.ParseDeclarations(n.Attr("style"))}
	}
	return &written{sheet: newSheet("", r.pageBase, ""), decls: css.ParseDeclarations(r.attributeRules(n))}
}

// applied tells where a rule stands, and what it holds.
func applied(m *match, from *written) Applied {
	a := Applied{Origin: m.origin, Inline: m.inline, Hint: m.hint}
	if from.rule != nil {
		a.Selector, a.Sheet = strings.TrimSpace(css.Text(from.rule.Prelude)), from.sheet.Name
		a.Line, a.Col = from.sheet.Line(from.rule.Pos)
	}
	for _, d := range from.decls {
		x := AppliedDecl{Name: d.Name, Value: strings.TrimSpace(css.Text(d.Value)), Important: d.Important}
		if from.rule != nil {
			x.Line, x.Col = from.sheet.Line(d.Pos)
		}
		a.Decls = append(a.Decls, x)
	}
	return a
}

// explaining is the state while declarations are followed through the cascade.
type explaining struct {
	wins  map[string]*AppliedDecl // by property
	look  *Style
	all   []*AppliedDecl
	asked [][]string // the properties that each of these stands for
}

// level follows a rule's declarations that are important, or those that are not.
func (x *explaining) level(a *Applied, from *written, important bool) {
	for i := range a.Decls {
		d := &a.Decls[i]
		if d.Important != important {
			continue
		}
		list, bad := from.sheet.longhands(from.decls[i], nil)
		if bad != nil {
			d.Fate = Dropped
			continue
		}
		var names []string
		for _, l := range list {
			name := x.property(l)
			names, x.wins[name] = append(names, name), d
		}
		x.all, x.asked = append(x.all, d), append(x.asked, names)
	}
}

// property names what a longhand is about: a flow-relative one is about the physical one that it stands for.
func (x *explaining) property(d Decl) string {
	if d.Prop < 0 {
		return d.Custom
	}
	p := properties[d.Prop]
	if p.logical != nil {
		p = properties[p.logical(x.look)]
	}
	return p.name
}

// fates tells what became of each declaration, once all were followed.
func (x *explaining) fates() {
	for i, d := range x.all {
		won := 0
		for _, name := range x.asked[i] {
			if x.wins[name] == d {
				won++
			}
		}
		switch won {
		case 0:
			d.Fate = Lost
		case len(x.asked[i]):
			d.Fate = Won
		default:
			d.Fate = Partly
		}
	}
}
