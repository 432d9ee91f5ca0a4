package markup

import (
	"iter"
	"strings"
)

// Tree holds how a node hangs together with a shadow tree (DOM, §4.8).
type Tree struct {
	Shadow   *Node   // of a host: the root of what it shows instead of its children
	Host     *Node   // of a shadow root
	Slot     *Node   // of a host's child: the slot that shows it
	Assigned []*Node // of a slot
}

func (n *Node) tree() *Tree {
	if n.Tree == nil {
		n.Tree = &Tree{}
	}
	return n.Tree
}

// ShadowRoot is the root of the shadow tree that n hosts, or nil.
func (n *Node) ShadowRoot() *Node {
	if n.Tree == nil {
		return nil
	}
	return n.Tree.Shadow
}

// Slot is the slot that shows n in its parent's shadow tree, or nil.
func (n *Node) Slot() *Node {
	if n.Tree == nil {
		return nil
	}
	return n.Tree.Slot
}

// Host is the element that a shadow root belongs to, or nil.
func (n *Node) Host() *Node {
	if n == nil || n.Tree == nil {
		return nil
	}
	return n.Tree.Host
}

// Root is the root of the tree that n is in: the document or a shadow root.
func (n *Node) Root() *Node {
	for n.Parent != nil {
		n = n.Parent
	}
	return n
}

// declares tells whether a template element in markup declares the shadow tree
// of its parent (HTML, §4.12.3).
func declares(name string, attrs []Attr) bool {
	if name != "template" {
		return false
	}
	for _, a := range attrs {
		if a.Name == "shadowrootmode" {
			return strings.EqualFold(a.Value, "open") || strings.EqualFold(a.Value, "closed")
		}
	}
	return false
}

// assign gives a host's children to the slots of its shadow tree
// (DOM, §4.2.2.3).
func (n *Node) assign() {
	slots := map[string]*Node{}
	n.Tree.Shadow.Walk(func(s *Node) bool {
		if name := s.Attr("name"); s.Kind == Element && s.Name == "slot" && slots[name] == nil {
			slots[name] = s
		}
		return true
	})
	for c := n.First; c != nil; c = c.Next {
		if s := slots[c.Attr("slot")]; s != nil {
			c.tree().Slot = s
			s.tree().Assigned = append(s.tree().Assigned, c)
		}
	}
}

// Flat iterates over the children of n that are shown: those of its shadow
// tree, those assigned to a slot, or its own (CSS Scoping 1, §3.5).
func (n *Node) Flat() iter.Seq[*Node] {
	return func(yield func(*Node) bool) {
		first := n.First
		if t := n.Tree; t != nil {
			for _, c := range t.Assigned {
				if !yield(c) {
					return
				}
			}
			if len(t.Assigned) > 0 {
				return
			}
			if t.Shadow != nil {
				first = t.Shadow.First
			}
		}
		for c := first; c != nil; c = c.Next {
			if !yield(c) {
				return
			}
		}
	}
}
