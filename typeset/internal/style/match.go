package style

import (
	"strings"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// Select finds the elements at or below a node that a selector list matches,
// in document order.
func Select(root *markup.Node, text string) ([]*markup.Node, error) {
	list, err := css.ParseSelectors(css.Trim(css.ParseValues(text)), false, false)
	if err != nil {
		return nil, err
	}
	var out []*markup.Node
	m := &matcher{}
	root.Walk(func(n *markup.Node) bool {
		for i := range list {
			if n.Kind == markup.Element && m.matches(&list[i], n, nil) {
				out = append(out, n)
				break
			}
		}
		return true
	})
	return out, nil
}

// matches tests sel against n from right to left (Selectors 4).
func (m *matcher) matches(sel *css.Selector, n *markup.Node, scope *markup.Node) bool {
	return m.matchAt(sel, len(sel.Compounds)-1, n, scope)
}

func (m *matcher) matchAt(sel *css.Selector, i int, n, scope *markup.Node) bool {
	c := &sel.Compounds[i]
	if !m.matchCompound(c, n, scope) {
		return false
	}
	if i == 0 {
		switch c.Comb {
		case css.None:
			return true
		default: // relative to the scope, in :has()
			return relatedToScope(c.Comb, n, scope)
		}
	}
	switch c.Comb {
	case css.Child:
		p := n.Parent
		if host := p.Host(); host != nil {
			return m.matchHost(sel, i-1, host)
		}
		return p != nil && p.Kind == markup.Element && m.matchAt(sel, i-1, p, scope)
	case css.Descendant:
		p := n.Parent
		for ; p != nil && p.Kind == markup.Element; p = p.Parent {
			if m.matchAt(sel, i-1, p, scope) {
				return true
			}
		}
		if p != nil && p.Host() != nil {
			return m.matchHost(sel, i-1, p.Host())
		}
	case css.Next:
		p := n.PrevElement()
		return p != nil && m.matchAt(sel, i-1, p, scope)
	case css.Later:
		return m.matchEarlier(sel, i-1, n, scope)
	}
	return false
}

func relatedToScope(comb css.Combinator, n, scope *markup.Node) bool {
	switch comb {
	case css.Child:
		return n.Parent == scope
	case css.Next:
		return n.PrevElement() == scope
	case css.Later:
		for p := n.PrevElement(); p != nil; p = p.PrevElement() {
			if p == scope {
				return true
			}
		}
		return false
	}
	for p := n.Parent; p != nil; p = p.Parent {
		if p == scope {
			return true
		}
	}
	return false
}

func (m *matcher) matchCompound(c *css.Compound, n, scope *markup.Node) bool {
	if c.Tag != "" && c.Tag != "*" && c.Tag != n.Name && (!n.Foreign || c.Raw != n.Name) {
		return false
	}
	for i := range c.Tests {
		if !m.matchTest(&c.Tests[i], n, scope) {
			return false
		}
	}
	return true
}

func (m *matcher) matchTest(t *css.Test, n, scope *markup.Node) bool {
	switch t.Kind {
	case css.TestID:
		return n.ID == t.Name
	case css.TestClass:
		return n.HasClass(t.Name)
	case css.TestAttr:
		return matchAttr(t, n)
	case css.TestNesting:
		return scope == n || scope == nil && n.Parent != nil && n.Parent.Kind == markup.Document
	}
	return m.matchPseudo(t, n, scope)
}

// Attributes whose values HTML compares without letter case (HTML, §4.16.2).
var caselessAttrs = map[string]bool{
	"type": true, "lang": true, "dir": true, "align": true, "valign": true, "charset": true, "checked": true,
	"disabled": true, "readonly": true, "method": true, "media": true, "rel": true, "shape": true, "scope": true, "target": true, "http-equiv": true, "bgcolor": true, "color": true, "language": true, "nowrap": true,
}

func matchAttr(t *css.Test, n *markup.Node) bool {
	name := t.Name
	v, ok := n.Lookup(name)
	if !ok && !n.Foreign {
		name = strings.ToLower(name)
		v, ok = n.Lookup(name)
	}
	if !ok {
		return false
	}
	want := t.Value
	if t.Flag == 'i' || t.Flag == 0 && !n.Foreign && caselessAttrs[name] {
		v, want = strings.ToLower(v), strings.ToLower(want)
	}
	switch t.Op {
	case 0:
		return true
	case '=':
		return v == want
	case '~':
		if want == "" || strings.ContainsAny(want, " \t\n") {
			return false
		}
		for w := range strings.FieldsSeq(v) {
			if w == want {
				return true
			}
		}
		return false
	case '|':
		return v == want || strings.HasPrefix(v, want+"-")
	case '^':
		return want != "" && strings.HasPrefix(v, want)
	case '$':
		return want != "" && strings.HasSuffix(v, want)
	}
	return want != "" && strings.Contains(v, want)
}

func (m *matcher) anyMatch(list []css.Selector, n, scope *markup.Node) bool {
	for i := range list {
		if m.matches(&list[i], n, scope) {
			return true
		}
	}
	return false
}

// matchPseudo is a table of the pseudo-classes: one case each.
func (m *matcher) matchPseudo(t *css.Test, n, scope *markup.Node) bool {
	switch t.Name {
	case "is", "where":
		return m.anyMatch(t.List, n, scope)
	case "not":
		return !m.anyMatch(t.List, n, scope)
	case "has":
		return m.matchHas(t.List, n)
	case "root":
		return n.Parent != nil && n.Parent.Kind == markup.Document
	case "scope":
		return n == scope || scope == nil && n.Parent != nil && n.Parent.Kind == markup.Document
	case "empty":
		for c := n.First; c != nil; c = c.Next {
			if c.Kind == markup.Element || c.Text != "" {
				return false
			}
		}
		return true
	case "first-child":
		return n.PrevElement() == nil
	case "last-child":
		return n.NextElement() == nil
	case "only-child":
		return n.PrevElement() == nil && n.NextElement() == nil
	case "first-of-type":
		return m.index(n, false, peers{name: n.Name}) == 1
	case "last-of-type":
		return m.index(n, true, peers{name: n.Name}) == 1
	case "only-of-type":
		return m.index(n, false, peers{name: n.Name}) == 1 && m.index(n, true, peers{name: n.Name}) == 1
	case "nth-child", "nth-last-child":
		if t.List != nil && !m.anyMatch(t.List, n, scope) {
			return false
		}
		p := peers{}
		if t.List != nil {
			p.of, p.scope = t, scope
		}
		return nth(t.A, t.B, m.index(n, t.Name == "nth-last-child", p))
	case "nth-of-type", "nth-last-of-type":
		return nth(t.A, t.B, m.index(n, t.Name == "nth-last-of-type", peers{name: n.Name}))
	case "link", "any-link":
		return n.Has("href") && (n.Name == "a" || n.Name == "area")
	case "lang":
		return matchLang(t.Idents, langOf(n))
	case "dir":
		return len(t.Idents) == 1 && t.Idents[0] == DirOf(n)
	case "defined":
		return !strings.Contains(n.Name, "-") || n.Foreign
	case "open":
		return n.Has("open") && (n.Name == "details" || n.Name == "dialog")
	}
	return matchForm(t.Name, n)
}

func (m *matcher) matchHas(list []css.Selector, n *markup.Node) bool {
	for i := range list {
		s := &list[i]
		first := s.Compounds[0].Comb
		rel := *s
		if first == css.None {
			rel.Compounds = append([]css.Compound(nil), s.Compounds...)
			rel.Compounds[0].Comb = css.Descendant
		}
		found := false
		visit := func(x *markup.Node) bool {
			if found {
				return false
			}
			if x != n && x.Kind == markup.Element && m.matches(&rel, x, n) {
				found = true
			}
			return true
		}
		if first == css.Next || first == css.Later {
			for x := n.NextElement(); x != nil && !found; x = x.NextElement() {
				x.Walk(visit)
			}
		} else {
			n.Walk(visit)
		}
		if found {
			return true
		}
	}
	return false
}

func nth(a, b, i int) bool {
	if a == 0 {
		return i == b
	}
	return (i-b)%a == 0 && (i-b)/a >= 0
}

func langOf(n *markup.Node) string {
	for ; n != nil; n = n.Parent {
		if l, ok := n.Lookup("lang"); ok {
			return l
		}
		if l, ok := n.Lookup("xml:lang"); ok {
			return l
		}
	}
	return ""
}

// matchLang is the extended filtering of RFC 4647, §3.3.2.
func matchLang(ranges []string, lang string) bool {
	lang = strings.ToLower(lang)
	for _, r := range ranges {
		if r == "" {
			if lang == "" {
				return true
			}
			continue
		}
		if lang == "" {
			continue
		}
		want, have := strings.Split(r, "-"), strings.Split(lang, "-")
		if want[0] != "*" && want[0] != have[0] {
			continue
		}
		i, j := 1, 1
		for i < len(want) && j < len(have) {
			switch {
			case want[i] == "*":
				i++
			case want[i] == have[j]:
				i++
				j++
			case len(have[j]) == 1:
				j = len(have)
			default:
				j++
			}
		}
		if i == len(want) {
			return true
		}
	}
	return false
}

// DirOf gives the directionality of an element (HTML, §3.2.6.4).
func DirOf(n *markup.Node) string {
	for ; n != nil && n.Kind == markup.Element; n = n.Parent {
		switch strings.ToLower(n.Attr("dir")) {
		case "ltr":
			return "ltr"
		case "rtl":
			return "rtl"
		case "auto":
			return firstStrong(n.Content())
		}
		if n.Name == "bdi" {
			return firstStrong(n.Content())
		}
	}
	return "ltr"
}

// matchForm is a table, too: of the pseudo-classes of form controls.
func matchForm(name string, n *markup.Node) bool {
	control := n.Name == "input" || n.Name == "button" || n.Name == "select" || n.Name == "textarea" || n.Name == "option" || n.Name == "optgroup" || n.Name == "fieldset"
	field := n.Name == "input" || n.Name == "select" || n.Name == "textarea"
	switch name {
	case "enabled":
		return control && !disabled(n)
	case "disabled":
		return control && disabled(n)
	case "checked":
		return n.Name == "input" && n.Has("checked") || n.Name == "option" && n.Has("selected")
	case "required":
		return field && n.Has("required")
	case "optional":
		return field && !n.Has("required")
	case "read-write", "read-only":
		editable := (n.Name == "textarea" || n.Name == "input" && textual(n)) && !n.Has("readonly") && !disabled(n) || n.Has("contenteditable")
		return editable == (name == "read-write")
	case "placeholder-shown":
		return field && n.Has("placeholder") && n.Attr("value") == ""
	case "default":
		return n.Name == "input" && n.Has("checked") || n.Name == "option" && n.Has("selected")
	case "indeterminate":
		return n.Name == "progress" && !n.Has("value")
	case "valid":
		return field && !(n.Has("required") && n.Attr("value") == "")
	case "invalid":
		return field && n.Has("required") && n.Attr("value") == ""
	}
	return false
}

// textual tells whether an input is a line of text (HTML, §15.5.4).
func textual(n *markup.Node) bool {
	switch strings.ToLower(n.Attr("type")) {
	case "checkbox", "radio", "button", "submit", "reset", "image", "range", "color", "hidden", "file":
		return false
	}
	return true
}

// disabled tells whether a control is disabled, itself or by what is around it. What stands in the
// first legend of a fieldset is not disabled with it (HTML, §4.10.19.5).
func disabled(n *markup.Node) bool {
	if n.Has("disabled") {
		return true
	}
	for in, p := n, n.Parent; p != nil; in, p = p, p.Parent {
		switch {
		case !p.Has("disabled"):
		case p.Name == "fieldset" && in != p.Find("legend"), p.Name == "optgroup" && n.Name == "option":
			return true
		}
	}
	return false
}
