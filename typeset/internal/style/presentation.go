package style

import (
	"strconv"
	"strings"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// presentation adds what attributes say about style (HTML, §15.3): author
// rules of no specificity, before all others.
func (r *Resolver) presentation(n *markup.Node) {
	text := r.attributeRules(n)
	if text == "" {
		return
	}
	in, seen := r.inlined["hint "+text]
	if !seen {
		in.decls = newSheet("", r.pageBase, "").parseBlock(css.ParseDeclarations(text)).decls // what does not parse has no effect
		r.inlined["hint "+text] = in
	}
	r.matched = append(r.matched, &match{decls: in.decls, origin: Author, layer: -1, hint: true})
}

// attributeRules are the declarations that an element's attributes stand for.
func (r *Resolver) attributeRules(n *markup.Node) string {
	if len(n.Attrs) == 0 {
		switch n.Name {
		case "td", "th", "tr", "thead", "tbody", "tfoot", "colgroup": // attributes of the table may count
			if t := ancestor(n, "table"); t == nil || len(t.Attrs) == 0 {
				return ""
			}
		case "input", "textarea", "table":
		default:
			return ""
		}
	}
	b := &r.hints.b
	b.Reset()
	if n.Foreign {
		for _, a := range n.Attrs {
			if presents(n, a.Name) {
				value := a.Value
				if unitless[a.Name] {
					value = inPx(value)
				}
				b.WriteString(a.Name + ":" + value + ";")
			}
		}
	} else {
		r.hints.n, r.hints.align = n, strings.ToLower(n.Attr("align"))
		r.hints.all()
	}
	return b.String()
}

// presents tells whether an attribute of an SVG element is a property, too: the size
// of an svg element is one where the element stands in HTML (SVG 2, §8.3).
func presents(n *markup.Node, attribute string) bool {
	if attribute == "width" || attribute == "height" {
		return n.Name == "svg" && n.Parent != nil && !n.Parent.Foreign
	}
	return attributeProperties[attribute]
}

// unitless lists the attributes of SVG whose lengths need no unit, unlike the
// properties of the same name (SVG 1.1, §4.2).
var unitless = map[string]bool{"font-size": true, "letter-spacing": true, "word-spacing": true, "width": true, "height": true, "transform-origin": true}

// inPx adds the unit to the numbers of an attribute that have none.
func inPx(value string) string {
	words := strings.Fields(value)
	for i, w := range words {
		if _, err := strconv.ParseFloat(w, 64); err == nil {
			words[i] += "px"
		}
	}
	return strings.Join(words, " ")
}
