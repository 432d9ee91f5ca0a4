package style

import (
	"strings"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// shape is what selectors commonly ask of an element: its type, id and classes,
// and those of the elements around it. Elements of one shape match the same
// steady rules, so that the rows of a table, and the documents of a template,
// are matched once.
type shape struct {
	kids    map[traits]*shape
	latest  traits // of the child that was asked for last
	child   *shape
	matched []shapeMatches
	style   shapeStyle
}

// traits is a shape as its parent tells it from others.
type traits struct {
	name, id, class string
	foreign         bool
}

// shapeMatches are the rules for an element, or a pseudo-element of it: the steady
// ones that match, and the loose ones that may.
type shapeMatches struct {
	pseudo string
	list   []*match
	loose  []*rule
}

// shapeStyle is the style that an element of the shape has when it matches no
// more than the steady rules.
type shapeStyle struct {
	parent, root  *Style
	width, height float64
	document      int
	style         *Style
}

// mostShapes bounds how many shapes are remembered.
const mostShapes = 20_000

// shapes finds the shapes of nodes. Styles are asked for from the root down, so
// that the way to the last node leads to the next one's parent.
type shapes struct {
	top   *shape
	count int
	path  []shapedNode
}

type shapedNode struct {
	n *markup.Node
	s *shape
}

func (t *shapes) of(n *markup.Node) *shape {
	if t.top == nil || t.count > mostShapes {
		*t = shapes{top: &shape{}}
	}
	for len(t.path) > 0 {
		at := t.path[len(t.path)-1]
		if at.n == n {
			return at.s
		}
		if at.n == n.Parent {
			break
		}
		t.path = t.path[:len(t.path)-1]
	}
	up := t.top
	if len(t.path) > 0 {
		up = t.path[len(t.path)-1].s
	} else if p := n.Parent; p != nil && p.Kind == markup.Element {
		up = t.of(p)
	}
	s := t.below(up, traits{n.Name, n.ID, n.Attr("class"), n.Foreign})
	t.path = append(t.path, shapedNode{n, s})
	return s
}

func (t *shapes) below(up *shape, l traits) *shape {
	if up.child != nil && up.latest == l {
		return up.child
	}
	s := up.kids[l]
	if s == nil {
		if up.kids == nil {
			up.kids = map[traits]*shape{}
		}
		s = &shape{}
		up.kids[l] = s
		t.count++
	}
	up.latest, up.child = l, s
	return s
}

// steady tells whether the elements of a shape agree on a selector: it asks for
// nothing but types, ids and classes of elements and of those around them.
func steady(s *css.Selector) bool {
	for i := range s.Compounds {
		c := &s.Compounds[i]
		switch c.Comb {
		case css.None, css.Child, css.Descendant:
		default:
			return false
		}
		for k := range c.Tests {
			if !steadyTest(&c.Tests[k]) {
				return false
			}
		}
	}
	return true
}

func steadyTest(t *css.Test) bool {
	switch t.Kind {
	case css.TestID, css.TestClass:
		return true
	case css.TestPseudo:
		switch strings.ToLower(t.Name) {
		case "root":
			return true
		case "is", "where", "not":
			for i := range t.List {
				if !steady(&t.List[i]) {
					return false
				}
			}
			return true
		}
	}
	return false
}

// typical gives the shape of an element that matched nothing but its steady
// rules, and to which no attribute adds anything.
func (r *Resolver) typical(n *markup.Node, pseudo string) *shape {
	if pseudo != "" || n.Inner || n.Tree != nil || n.Has("lang") || n.Has("xml:lang") {
		return nil
	}
	s := r.shapes.of(n)
	if len(r.matched) != len(r.matchesOf(s, n, "").list) {
		return nil
	}
	return s
}

// matchesOf gives the rules for an element n of shape s.
func (r *Resolver) matchesOf(s *shape, n *markup.Node, pseudo string) *shapeMatches {
	for i := range s.matched {
		if s.matched[i].pseudo == pseudo {
			return &s.matched[i]
		}
	}
	had := len(r.matched)
	var loose []*rule
	for _, index := range []map[string]*ruleIndex{r.ua, r.index} {
		if ix := index[pseudo]; ix != nil {
			r.try(ix.steady.candidates(nil, n), n)
			loose = ix.loose.candidates(loose, n)
		}
	}
	list := append([]*match(nil), r.matched[had:]...)
	r.matched = r.matched[:had]
	s.matched = append(s.matched, shapeMatches{pseudo, list, loose})
	return &s.matched[len(s.matched)-1]
}
