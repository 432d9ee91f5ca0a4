package style

import (
	"errors"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// scope is an @scope rule: its rules hold below an element that roots match,
// and not at or below one that limits match (CSS Cascade 6, §2.5).
type scope struct {
	roots, limits []css.Selector
	up            *scope
}

var errScope = errors.New("what follows the selectors")

// scopeRule adds the rules of @scope; without a prelude the whole tree is the
// scope.
func (a *adder) scopeRule(r *css.Rule, parent []css.Selector, layer string) {
	s, err := parseScope(css.Words(r.Prelude))
	if err != nil {
		a.tell(a.sheet.Sheet, r.Pos, "css-selector", "@scope "+css.Text(r.Prelude)+" was left out: "+err.Error()+" is not understood")
		return
	}
	if parent != nil {
		s.roots, s.limits = joined(s.roots, parent), joined(s.limits, parent)
	}
	s.up = a.scope
	inner := *a
	inner.scope = s
	inner.bodyOf(r, scopeItself, layer)
}

// scopeItself is what bare declarations in @scope apply to, ":where(:scope)".
var scopeItself = []css.Selector{{Compounds: []css.Compound{{Tests: []css.Test{{Kind: css.TestPseudo, Name: "scope"}}}}}}

// holds tells whether a rule stands directly in s: its selectors are relative
// to the scope, not to a style rule.
func (s *scope) holds(parent []css.Selector) bool {
	return s != nil && len(parent) == 1 && &parent[0] == &scopeItself[0]
}

// joined resolves what is relative to the style rule around.
func joined(sels, parent []css.Selector) []css.Selector {
	for i, s := range sels {
		if usesNesting(s) {
			sels[i] = nest(sels[i:i+1], parent)[0]
		}
	}
	return sels
}

// parseScope reads "(roots) to (limits)"; both parts may be missing.
func parseScope(w []css.Token) (s *scope, err error) {
	s = &scope{}
	if len(w) > 0 && w[0].Kind == css.Paren {
		if s.roots, err = css.ParseSelectors(w[0].Args, true, false); err != nil {
			return nil, err
		}
		w = w[1:]
	}
	if len(w) == 2 && w[0].Is("to") && w[1].Kind == css.Paren {
		if s.limits, err = css.ParseSelectors(w[1].Args, true, true); err != nil {
			return nil, err
		}
		w = w[2:]
	}
	if len(w) > 0 {
		return nil, errScope
	}
	return s, nil
}

// find gives the nearest scoping root of n that sel matches n with, as the
// number of generations up.
func (s *scope) find(m *matcher, sel *css.Selector, n *markup.Node) (hops int, ok bool) {
	itself := hasTest(*sel, func(t css.Test) bool {
		return t.Kind == css.TestNesting || t.Kind == css.TestPseudo && t.Name == "scope"
	})
	for root := n; root != nil && root.Kind == markup.Element; root = root.Parent {
		if root == n && !itself { // other selectors are relative to the root: they match below it
			hops++
			continue
		}
		if s.rootedAt(m, root) && !s.limited(m, n, root) && m.matches(sel, n, root) {
			return hops, true
		}
		hops++
	}
	return 0, false
}

func (s *scope) rootedAt(m *matcher, root *markup.Node) bool {
	if s.roots == nil {
		return root.Parent != nil && root.Parent.Kind != markup.Element
	}
	if s.up == nil {
		return m.anyMatch(s.roots, root, nil)
	}
	for i := range s.roots {
		if _, ok := s.up.find(m, &s.roots[i], root); ok {
			return true
		}
	}
	return false
}

func (s *scope) limited(m *matcher, n, root *markup.Node) bool {
	for x := n; x != nil; x = x.Parent {
		if m.anyMatch(s.limits, x, root) {
			return true
		}
		if x == root {
			return false
		}
	}
	return false
}
