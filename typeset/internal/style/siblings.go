package style

import (
	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// matcher matches selectors in one document. It remembers what it counted among
// many siblings, so that :nth-child() stays linear on the rows of a long table.
type matcher struct {
	tallies map[peers]*tally
	firsts  map[part]*markup.Node
}

// peers are the siblings that a structural pseudo-class counts: all elements of
// a parent, those of one type, or those that a list of selectors matches.
type peers struct {
	parent *markup.Node
	name   string    // of the type, or ""
	of     *css.Test // with the list, or nil
	scope  *markup.Node
}

// tally gives peers their numbers.
type tally struct {
	at  map[*markup.Node]int // from 1
	all int
}

// part is the beginning of a selector, up to a compound, as the children of one
// parent may match it.
type part struct {
	sel           *css.Selector
	upTo          int
	parent, scope *markup.Node
}

const (
	// nearby is how many siblings are walked by rather than numbered.
	nearby = 16
	// mostTallies bounds how many parents are remembered.
	mostTallies = 1000
)

func (m *matcher) counts(p peers, n *markup.Node) bool {
	return (p.name == "" || n.Name == p.name) && (p.of == nil || m.anyMatch(p.of.List, n, p.scope))
}

// index is the place of n, one of p, among them: from 1, from the first or from
// the last.
func (m *matcher) index(n *markup.Node, fromEnd bool, p peers) int {
	i := 1
	x := n
	for range nearby {
		if fromEnd {
			x = x.NextElement()
		} else {
			x = x.PrevElement()
		}
		if x == nil {
			return i
		}
		if m.counts(p, x) {
			i++
		}
	}
	t := m.tally(p, n)
	if fromEnd {
		return t.all - t.at[n] + 1
	}
	return t.at[n]
}

func (m *matcher) tally(p peers, n *markup.Node) *tally {
	p.parent = n.Parent
	if t := m.tallies[p]; t != nil {
		return t
	}
	t := &tally{at: map[*markup.Node]int{}}
	for x := n.Parent.First; x != nil; x = x.Next {
		if x.Kind == markup.Element && m.counts(p, x) {
			t.all++
			t.at[x] = t.all
		}
	}
	if m.tallies == nil || len(m.tallies) >= mostTallies {
		m.tallies = map[peers]*tally{}
	}
	m.tallies[p] = t
	return t
}

// matchEarlier tells whether a sibling before n matches sel up to compound i.
func (m *matcher) matchEarlier(sel *css.Selector, i int, n, scope *markup.Node) bool {
	x := n
	for range nearby {
		if x = x.PrevElement(); x == nil {
			return false
		}
		if m.matchAt(sel, i, x, scope) {
			return true
		}
	}
	first := m.first(part{sel, i, n.Parent, scope})
	if first == nil {
		return false
	}
	t := m.tally(peers{}, n)
	return t.at[first] < t.at[n]
}

// first is the first child of a parent that matches a part of a selector.
func (m *matcher) first(p part) *markup.Node {
	x, seen := m.firsts[p]
	if seen {
		return x
	}
	for x = p.parent.First; x != nil; x = x.Next {
		if x.Kind == markup.Element && m.matchAt(p.sel, p.upTo, x, p.scope) {
			break
		}
	}
	if m.firsts == nil || len(m.firsts) >= mostTallies {
		m.firsts = map[part]*markup.Node{}
	}
	m.firsts[p] = x
	return x
}
