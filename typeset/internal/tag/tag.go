// Package tag makes the structure tree of a tagged PDF from the elements of a
// page: what is a heading, a list, a table cell, and in what order it is read
// (ISO 32000-1, §14.8; PDF/UA-1).
package tag

import (
	"fmt"
	"strconv"
	"strings"

	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/memory"
)

// Element is one structure element.
type Element struct {
	Role   string // a standard structure type
	Parent *Element
	Order  int32 // place in the document
	Index  int32 // given by the file that writes it, from 1
	holds  bool  // it may hold text itself
	*Details
}

// Details are what few elements have. Elements without any share one.
type Details struct {
	Lang       string // where it differs from around it
	Alt        string // replacement for what cannot be read
	Actual     string // the text that the contents stand for
	Attributes string // the body of a PDF attribute dictionary
	Extent     Extent // of a figure
}

// Extent is where an element is seen: the first page that shows it, from 1, and the place there.
type Extent struct {
	Page           int32
	X0, Y0, X1, Y1 float64
}

// Cover widens the extent of an element by what is drawn on a page, unless an earlier one shows it.
func (e *Element) Cover(x Extent) {
	at := &e.own().Extent
	switch at.Page {
	case 0:
		*at = x
	case x.Page:
		*at = Extent{x.Page, min(at.X0, x.X0), min(at.Y0, x.Y0), max(at.X1, x.X1), max(at.Y1, x.Y1)}
	}
}

var noDetails = &Details{}

// own gives an element details of its own.
func (e *Element) own() *Details {
	if e.Details == noDetails {
		e.Details = &Details{}
	}
	return e.Details
}

// Tree finds the elements of a document.
type Tree struct {
	Root    *Element
	Missing func(n *markup.Node)  // told of pictures without alternative text
	Lost    map[*markup.Node]bool // links that lead nowhere, which are none to a reader
	Notes   map[*markup.Node]bool // footnotes, which stand at their calls and are read there
	byNode  []*Element            // those of the nodes themselves, by Index
	parts   map[key]*Element      // those of what belongs to a node
	pageOf  map[*markup.Node]int
	cells   []*Element // of tables, as they are laid out

	elements memory.Slab[Element]
}

// Address is where an element leads that is a link; empty for one that is none on paper: without an address, or with
// one that is a script.
func Address(n *markup.Node) string {
	href := strings.TrimSpace(n.Attr("href"))
	if strings.HasPrefix(strings.ToLower(href), "javascript:") {
		return ""
	}
	return href
}

type key struct {
	n    *markup.Node
	part string
}

// at is the element made for a node, or a part of it, so far.
func (t *Tree) at(k key) *Element {
	if k.part != "" {
		return t.parts[k]
	}
	if i := int(k.n.Index); i < len(t.byNode) {
		return t.byNode[i]
	}
	return nil
}

func (t *Tree) put(k key, e *Element) {
	if k.part != "" {
		t.parts[k] = e
		return
	}
	if more := int(k.n.Index) + 1 - len(t.byNode); more > 0 {
		t.byNode = append(t.byNode, make([]*Element, max(more, len(t.byNode)))...)
	}
	t.byNode[k.n.Index] = e
}

// New starts a tree for the nodes of one document.
func New() *Tree {
	return &Tree{Root: &Element{Role: "Document", Details: noDetails}, parts: map[key]*Element{}, pageOf: map[*markup.Node]int{}}
}

// roles of HTML elements; those that are not listed belong to what is around
// them.
var roles = map[string]string{
	"h1": "H1", "h2": "H2", "h3": "H3", "h4": "H4", "h5": "H5", "h6": "H6", "p": "P", "pre": "P", "address": "P", "legend": "P",
	"article": "Art", "section": "Sect", "nav": "Sect", "aside": "Sect", "main": "Sect", "header": "Sect", "footer": "Sect",
	"div": "Div", "form": "Div", "fieldset": "Div", "details": "Div", "figure": "Div", "blockquote": "BlockQuote",
	"ul": "L", "ol": "L", "menu": "L", "dl": "L", "li": "LI", "dt": "LI", "dd": "LI",
	"table": "Table", "caption": "Caption", "figcaption": "Caption", "thead": "THead", "tbody": "TBody", "tfoot": "TFoot", "tr": "TR", "th": "TH", "td": "TD",
	"a": "Link", "q": "Quote", "code": "Code",
	"img": "Figure", "svg": "Figure", "picture": "Figure", "object": "Figure", "canvas": "Figure",
}

// holds are the roles that may hold text themselves; in others it is wrapped
// in a paragraph.
var holds = map[string]bool{
	"H1": true, "H2": true, "H3": true, "H4": true, "H5": true, "H6": true, "P": true, "Lbl": true, "LBody": true, "Caption": true,
	"TH": true, "TD": true, "Link": true, "Quote": true, "Code": true, "Note": true, "Reference": true, "Span": true,
}

// Text is the element that text of a node belongs to. part names the
// pseudo-element that generated it. White space alone makes no paragraph: the
// element is nil then.
func (t *Tree) Text(n *markup.Node, part string, order int32, blank bool) *Element {
	if n.Name == "img" { // it did not load: what stands for it is text like that around it
		n = n.Parent
	}
	e := t.of(n, part, order)
	if !e.holds {
		if blank && t.parts[key{n, "text"}] == nil {
			return nil
		}
		role := "P"
		if e.Role == "TR" { // generated beside its cells
			role = "TD"
		}
		e = t.child(key{n, "text"}, e, role, order)
	}
	return e
}

// Cell makes the element of a table's cell, which has its place in the row also when nothing
// is in it.
func (t *Tree) Cell(n *markup.Node, order int32) {
	if role := roles[n.Name]; (role == "TD" || role == "TH") && t.at(key{n, ""}) == nil {
		t.cells = append(t.cells, t.of(n, "", order))
	}
}

// Cells lists the cells that Cell has made.
func (t *Tree) Cells() []*Element { return t.cells }

// Figure is the element of a picture; nil when it is decoration: its
// alternative text is empty.
func (t *Tree) Figure(n *markup.Node, order int32) *Element {
	alt, given := Alternative(n)
	if given && alt == "" {
		return nil
	}
	k := key{n, ""}
	if e := t.at(k); e != nil {
		return e
	}
	if !given && t.Missing != nil {
		t.Missing(n)
	}
	e := t.child(k, t.of(n.Parent, "", order), "Figure", order)
	e.own().Alt = alt
	return e
}

// Field is the element of a form control that can be filled in; label says
// what it is for (§14.8.4.5).
func (t *Tree) Field(n *markup.Node, order int32, label string) *Element {
	e := t.child(key{n, ""}, t.of(n.Parent, "", order), "Form", order)
	e.own().Alt = label
	return e
}

// Signature is the element of a signature's place, inside the element that is its look.
func (t *Tree) Signature(n *markup.Node, order int32, label string) *Element {
	e := t.child(key{n, "signature"}, t.of(n, "", order), "Form", order)
	e.own().Alt = label
	return e
}

// Numbered tells how an item of a list is marked (§14.8.5.5), which styles may have changed.
func (t *Tree) Numbered(item *markup.Node, kind string) {
	if e := t.at(key{item.Parent, ""}); e != nil && e.Role == "L" && !strings.HasSuffix(e.Attributes, "/"+kind) {
		e.own().Attributes = listNumbering + kind
	}
}

const listNumbering = "/O/List/ListNumbering/"

// Alternative is the text that stands for a picture.
func Alternative(n *markup.Node) (text string, given bool) {
	for _, name := range []string{"alt", "aria-label"} {
		if n.Has(name) {
			return strings.TrimSpace(n.Attr(name)), true
		}
	}
	switch n.Attr("role") {
	case "presentation", "none":
		return "", true
	}
	if n.Attr("aria-hidden") == "true" {
		return "", true
	}
	if n.Name == "svg" {
		for _, name := range []string{"title", "desc"} {
			if x := n.Find(name); x != nil {
				return strings.Join(strings.Fields(x.Content()), " "), true
			}
		}
	}
	return "", false
}

// of finds or makes the element of a node.
func (t *Tree) of(n *markup.Node, part string, order int32) *Element {
	if n == nil || n.Kind != markup.Element {
		return t.Root
	}
	switch part {
	case "marker", "footnote-call", "footnote-marker":
	default:
		part = ""
	}
	k := key{n, part}
	if e := t.at(k); e != nil {
		e.first(order)
		return e
	}
	if t.Notes[n] {
		return t.note(n, part, order)
	}
	role := roles[n.Name]
	if role == "" && n.Name != "html" && n.Name != "body" && Language(n.Attr("lang")) != "" { // a language is told by an element
		role = "Span"
	}
	if n.Foreign && n.Name != "svg" {
		role = ""
	}
	if n.Name == "figcaption" {
		if pic := pictureOf(n); pic != nil {
			if e := t.Figure(pic, order); e != nil {
				return t.spoken(n, t.child(k, e, role, order))
			}
		}
		role = "P" // it is that of no picture alone
	}
	switch {
	case part == "marker":
		return t.child(k, t.around(n, order), "Lbl", order)
	case role == "":
		return t.of(n.Parent, "", order)
	case role == "Div" && n.Parent != nil && n.Parent.Name == "dl": // it groups a term and what is said of it
		return t.of(n.Parent, "", order)
	case role == "Link" && (Address(n) == "" || t.Lost[n]):
		return t.of(n.Parent, "", order)
	case role == "LI":
		part := "LBody"
		if n.Name == "dt" {
			part = "Lbl"
		}
		return t.spoken(n, t.child(k, t.around(n, order), part, order))
	}
	e := t.spoken(n, t.child(k, t.of(n.Parent, "", order), role, order))
	if a := attributes(n); a != "" {
		e.own().Attributes = a
	}
	return e
}

// note finds or makes the element of a footnote or one of its parts: the Reference where it is called, and the Note
// that follows it (§14.8.4.4.1), with its mark as Lbl.
func (t *Tree) note(n *markup.Node, part string, order int32) *Element {
	switch part {
	case "footnote-call":
		e := t.child(key{n, part}, t.of(n.Parent, "", order), "Reference", order)
		if note := t.at(key{n, ""}); note != nil {
			note.Order = e.Order
		}
		return e
	case "footnote-marker":
		e := t.child(key{n, part}, t.of(n, "", order), "Lbl", order)
		e.Order = 0 // before what the note says
		return e
	}
	if call := t.at(key{n, "footnote-call"}); call != nil {
		order = call.Order
	}
	return t.spoken(n, t.child(key{n, ""}, t.of(n.Parent, "", order), "Note", order))
}

// pictureOf is the only picture of the figure that a caption belongs to.
func pictureOf(caption *markup.Node) (pic *markup.Node) {
	if caption.Parent == nil || caption.Parent.Name != "figure" {
		return nil
	}
	several := false
	caption.Parent.Walk(func(n *markup.Node) bool {
		if roles[n.Name] != "Figure" || n.Kind != markup.Element || n.Name == "picture" {
			return true
		}
		several = several || pic != nil
		pic = n
		return false
	})
	if several {
		return nil
	}
	return pic
}

// spoken notes the language that the element of a node tells.
func (t *Tree) spoken(n *markup.Node, e *Element) *Element {
	if lang := Language(n.Attr("lang")); lang != "" {
		e.own().Lang = lang
	}
	return e
}

// around is the list item that a list element's label and body stand in: a term shares
// one with what is said of it.
func (t *Tree) around(n *markup.Node, order int32) *Element {
	if r := roles[n.Name]; r != "LI" {
		return t.of(n.Parent, "", order)
	}
	n = termOf(n)
	return t.child(key{n, "item"}, t.of(n.Parent, "", order), "LI", order)
}

// termOf is the first of the terms that a dt or dd belongs to; others stand for themselves.
func termOf(n *markup.Node) *markup.Node {
	if n.Name != "dt" && n.Name != "dd" {
		return n
	}
	first := n
	for p := n.Prev; p != nil; p = p.Prev {
		switch {
		case p.Kind != markup.Element:
		case p.Name == "dt":
			first = p
		case first.Name == "dt" || p.Name != "dd":
			return first
		}
	}
	return first
}

func (t *Tree) child(k key, parent *Element, role string, order int32) *Element {
	e := t.at(k)
	if e == nil {
		e = t.elements.New()
		e.Role, e.Parent, e.Order, e.holds, e.Details = role, parent, order, holds[role], noDetails
		t.put(k, e)
	}
	e.first(order)
	return e
}

// first moves an element, and those around it, to where its first contents
// are. A note stands where it is called.
func (e *Element) first(order int32) {
	for ; e != nil && e.Role != "Note" && order < e.Order; e = e.Parent {
		e.Order = order
	}
}

// Unread tells whether a node is no content of its own: it says that it is not
// to be read (aria-hidden), or is part of a table head or foot that an earlier
// page has shown already.
func (t *Tree) Unread(n *markup.Node, page int) bool {
	repeated, decided := false, false
	for ; n != nil && n.Kind == markup.Element; n = n.Parent {
		if n.Attr("aria-hidden") == "true" {
			return true
		}
		if decided {
			continue
		}
		switch n.Name {
		case "thead", "tfoot":
			first, known := t.pageOf[n]
			if !known {
				first = page
				t.pageOf[n] = page
			}
			repeated, decided = first != page, true
		case "table", "tbody":
			decided = true
		}
	}
	return repeated
}

// attributes are those of table cells and lists (§14.8.5).
func attributes(n *markup.Node) string {
	switch n.Name {
	case "ol":
		return listNumbering + numbering(n)
	case "ul", "menu", "dl": // terms are labels, which need some kind (ISO 14289-1 §7.6)
		return listNumbering + "Disc"
	case "th":
	case "td":
		if len(n.Attrs) == 0 {
			return ""
		}
	default:
		return ""
	}
	var b strings.Builder
	if n.Name == "th" {
		b.WriteString("/Scope/" + scope(n))
	}
	for _, x := range [][2]string{{"colspan", "ColSpan"}, {"rowspan", "RowSpan"}} {
		if !n.Has(x[0]) {
			continue
		}
		if v, err := strconv.Atoi(n.Attr(x[0])); err == nil && v > 1 {
			fmt.Fprintf(&b, "/%s %d", x[1], v)
		}
	}
	if b.Len() == 0 {
		return ""
	}
	return "/O/Table" + b.String()
}

// numbering is how an ordered list says that it counts.
func numbering(n *markup.Node) string {
	switch n.Attr("type") {
	case "a":
		return "LowerAlpha"
	case "A":
		return "UpperAlpha"
	case "i":
		return "LowerRoman"
	case "I":
		return "UpperRoman"
	}
	return "Decimal"
}

// scope tells what a header cell is the head of.
func scope(n *markup.Node) string {
	switch strings.ToLower(n.Attr("scope")) {
	case "row", "rowgroup":
		return "Row"
	case "col", "colgroup":
		return "Column"
	}
	row := n.Parent
	if row != nil && row.Parent != nil && row.Parent.Name == "thead" {
		return "Column"
	}
	for c := n.Prev; c != nil; c = c.Prev {
		if c.Kind == markup.Element {
			return "Column"
		}
	}
	for c := n.Next; c != nil; c = c.Next {
		if c.Kind == markup.Element && c.Name == "td" {
			return "Row"
		}
	}
	return "Column"
}
