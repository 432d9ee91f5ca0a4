package style

import (
	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// underTree lets the rules of a shadow tree lose against those around it: their
// layers come before all of the outer tree's (Cascade 5, §6.1, context).
const underTree = 1 << 21

// shadowRules finds the rules of shadow trees that match n: those of the tree
// that it is in, of the one that it hosts, and of the one it is slotted in.
func (r *Resolver) shadowRules(n *markup.Node, pseudo string) {
	if n.Inner {
		r.tryIndex(r.trees[n.Root()][pseudo], n)
	}
	if tree := n.ShadowRoot(); tree != nil {
		if ix := r.trees[tree][pseudo]; ix != nil {
			for _, list := range [][]*rule{ix.steady.rest, ix.loose.rest} {
				for _, x := range list {
					if r.matcher.matchHost(x.sel, len(x.sel.Compounds)-1, n) {
						r.addFromTree(x)
					}
				}
			}
		}
	}
	if slot := n.Slot(); slot != nil && pseudo == "" {
		if ix := r.trees[slot.Root()]["slotted"]; ix != nil {
			ix.each(func(x *rule) {
				if arg, err := css.ParseSelectors(x.sel.PseudoArg, false, false); err == nil && r.matcher.anyMatch(arg, n, nil) && r.matcher.matches(x.sel, slot, nil) {
					r.addFromTree(x)
				}
			})
		}
	}
}

func (r *Resolver) addFromTree(x *rule) {
	m := x.match
	m.layer -= underTree
	r.matched = append(r.matched, &m)
}

// each visits all rules of an index.
func (ix *ruleIndex) each(visit func(*rule)) {
	for _, b := range []ruleBuckets{ix.steady, ix.loose} {
		for _, m := range []map[string][]*rule{b.ids, b.classes, b.tags, {"": b.rest}} {
			for _, list := range m {
				for _, x := range list {
					visit(x)
				}
			}
		}
	}
}

// matchHost matches a compound of a shadow tree's selector against the host,
// which has no features but those that :host asks for (Selectors 4, §3.2.1).
func (m *matcher) matchHost(sel *css.Selector, i int, host *markup.Node) bool {
	able, ok := m.hostCompound(&sel.Compounds[i], host)
	return i == 0 && able && ok
}

// hostCompound tells whether a compound may speak of a host at all, and
// whether it matches.
func (m *matcher) hostCompound(c *css.Compound, host *markup.Node) (able, ok bool) {
	if c.Tag != "" || len(c.Tests) == 0 {
		return false, false
	}
	ok = true
	for i := range c.Tests {
		t := &c.Tests[i]
		a, hits := false, false
		switch {
		case t.Kind != css.TestPseudo:
		case t.Name == "host":
			a, hits = true, len(t.List) == 0 || m.anyMatch(t.List, host, nil)
		case t.Name == "host-context":
			a = true
			for n := host; n != nil && !hits; n = n.Parent {
				hits = n.Kind == markup.Element && m.anyMatch(t.List, n, nil)
			}
		case t.Name == "is", t.Name == "where", t.Name == "not":
			for k := range t.List {
				if s := &t.List[k]; len(s.Compounds) == 1 {
					can, hit := m.hostCompound(&s.Compounds[0], host)
					a, hits = a || can, hits || can && hit
				}
			}
			hits = hits != (t.Name == "not")
		}
		if !a {
			return false, false
		}
		ok = ok && hits
	}
	return true, ok
}
