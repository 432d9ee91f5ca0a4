// Package markup turns HTML and XML text into a node tree.
package markup

import (
	"math"
	"strconv"
	"strings"
)

// Kind tells what a Node is.
type Kind uint8

const (
	Document Kind = iota
	Element
	Text
	Shadow // the root of a shadow tree
)

// Attr is one attribute of an element.
type Attr struct{ Name, Value string }

// Details are what few nodes have. Nodes without any share one, as large tables
// have very many of them.
type Details struct {
	Attrs []Attr
	ID    string
	Class []string
}

var noDetails = &Details{}

// Node is an element, a piece of text, or the document. It does not change
// once parsed.
type Node struct {
	Kind    Kind
	Foreign bool   // in the SVG or MathML namespace, or from an XML file
	Inner   bool   // in a shadow tree
	quirks  bool   // of a document: it asks for the rendering of old pages
	deep    bool   // of a document: elements nested too deep, and were left out
	Index   int32  // place in the document, from 1; 0 in XML files
	Name    string // tag name; lower case in HTML
	Text    string // of a Text node
	*Details

	Parent, Prev, Next, First, Last *Node
	Tree                            *Tree // nil without shadow trees
}

// Quirks tells whether the node's document has no document type, or an old one,
// and asks for the rendering of its time (HTML, §13.2.6.4.1).
func (n *Node) Quirks() bool {
	for n.Parent != nil {
		n = n.Parent
	}
	return n.quirks
}

// TooDeep tells whether elements of the document were left out because they nest
// too deep. What they hold is there.
func (n *Node) TooDeep() bool { return n.deep }

// Elements counts the elements at and below n.
func (n *Node) Elements() (count int) {
	n.Walk(func(c *Node) bool {
		if c.Kind == Element {
			count++
		}
		return true
	})
	return count
}

// Attr returns the value of an attribute, "" when it is not there.
func (n *Node) Attr(name string) string {
	v, _ := n.Lookup(name)
	return v
}

// Lookup returns the value of an attribute and whether it is there.
func (n *Node) Lookup(name string) (string, bool) {
	for i := range n.Attrs {
		if n.Attrs[i].Name == name {
			return n.Attrs[i].Value, true
		}
	}
	return "", false
}

// Count is the value of an attribute as a count from 1 to 1000, or otherwise.
func (n *Node) Count(name string, otherwise int) int {
	if v, err := strconv.Atoi(strings.TrimSpace(n.Attr(name))); n.Has(name) && err == nil && v > 0 {
		return min(v, 1000)
	}
	return otherwise
}

// Number is the value of an attribute as a number, or fallback when it is none
// (HTML, §2.3.4.3).
func (n *Node) Number(name string, fallback float64) float64 {
	v, err := strconv.ParseFloat(n.Attr(name), 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		return fallback
	}
	return v
}

// Has tells whether the attribute is there.
func (n *Node) Has(name string) bool {
	_, ok := n.Lookup(name)
	return ok
}

// HasClass tells whether the element has the class.
func (n *Node) HasClass(name string) bool {
	for _, c := range n.Class {
		if c == name {
			return true
		}
	}
	return false
}

func (n *Node) append(c *Node) {
	c.Parent = n
	c.Prev = n.Last
	if n.Last != nil {
		n.Last.Next = c
	} else {
		n.First = c
	}
	n.Last = c
}

// describe gives a node its attributes and fills in what is looked up often.
func (n *Node) describe(attrs []Attr) {
	if len(attrs) == 0 {
		return
	}
	n.Details = &Details{Attrs: attrs}
	n.ID = n.Attr("id")
	if c := n.Attr("class"); c != "" {
		n.Class = strings.Fields(c)
	}
}

// Content is all text below n.
func (n *Node) Content() string {
	if n.Kind == Text {
		return n.Text
	}
	var b strings.Builder
	n.Walk(func(c *Node) bool {
		if c.Kind == Text {
			b.WriteString(c.Text)
		}
		return true
	})
	return b.String()
}

// Walk visits n and all below it in document order; a visit that returns
// false leaves out what is below the node.
func (n *Node) Walk(visit func(*Node) bool) {
	if !visit(n) {
		return
	}
	for c := n.First; c != nil; c = c.Next {
		c.Walk(visit)
	}
}

// Find returns the first element with the tag name at or below n.
func (n *Node) Find(name string) *Node {
	if n.Kind == Element && n.Name == name {
		return n
	}
	for c := n.First; c != nil; c = c.Next {
		if f := c.Find(name); f != nil {
			return f
		}
	}
	return nil
}

// NextElement is the next sibling that is an element.
func (n *Node) NextElement() *Node {
	for c := n.Next; c != nil; c = c.Next {
		if c.Kind == Element {
			return c
		}
	}
	return nil
}

// PrevElement is the previous sibling that is an element.
func (n *Node) PrevElement() *Node {
	for c := n.Prev; c != nil; c = c.Prev {
		if c.Kind == Element {
			return c
		}
	}
	return nil
}
