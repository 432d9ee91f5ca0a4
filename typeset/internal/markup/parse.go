package markup

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"

	"golang.org/x/net/html"
	"golang.org/x/net/html/charset"
	"golang.org/x/text/runes"
	"golang.org/x/text/transform"

	"oliveledger/typeset/internal/memory"
)

// maxDepth bounds how deep elements may nest.
const maxDepth = 4000

// ParseHTML parses a page. The encoding comes from a byte order mark or a
// meta element; without either the text is taken as UTF-8 when it is valid.
func ParseHTML(data []byte) (*Node, error) {
	kind := "text/html"
	if rest, ok := bytes.CutPrefix(data, []byte("\xEF\xBB\xBF")); ok {
		data, kind = rest, kind+"; charset=utf-8"
	} else if _, _, certain := charset.DetermineEncoding(data, kind); !certain && utf8.Valid(data) {
		kind += "; charset=utf-8"
	}
	doc, err := parse(data, kind)
	deep := false
	if err != nil && strings.Contains(err.Error(), "open stack of elements") { // the parser has no other sign of it
		if data, deep = shallow(data); deep {
			doc, err = parse(data, kind)
		}
	}
	if err != nil {
		return nil, err
	}
	root := &Node{Kind: Document, quirks: quirky(doc), deep: deep, Details: noDetails}
	var c converter
	if err := c.children(root, doc, 0); err != nil {
		return nil, err
	}
	return root, nil
}

// parse decodes a page and parses it. Scripts do not run, so that noscript
// counts.
func parse(data []byte, kind string) (*html.Node, error) {
	r, err := decoded(data, kind)
	if err != nil {
		return nil, err
	}
	doc, err := html.ParseWithOptions(r, html.ParseOptionEnableScripting(false))
	if err != nil {
		return nil, fmt.Errorf("the page does not parse: %w", err)
	}
	return doc, nil
}

// decoded reads a page as well-formed UTF-8.
func decoded(data []byte, kind string) (io.Reader, error) {
	if strings.HasSuffix(kind, "charset=utf-8") && utf8.Valid(data) {
		return bytes.NewReader(data), nil
	}
	r, err := charset.NewReader(bytes.NewReader(data), kind)
	switch {
	case errors.Is(err, io.EOF):
		return bytes.NewReader(nil), nil
	case err != nil:
		return nil, fmt.Errorf("the page's encoding is not known: %w", err)
	}
	return transform.NewReader(r, runes.ReplaceIllFormed()), nil // as browsers do (Encoding, §8.1.1)
}

// quirky tells whether a document's type asks for quirks mode
// (HTML, §13.2.6.4.1).
func quirky(doc *html.Node) bool {
	for c := doc.FirstChild; c != nil; c = c.NextSibling {
		if c.Type != html.DoctypeNode {
			continue
		}
		public, system := "", false
		for _, a := range c.Attr {
			switch a.Key {
			case "public":
				public = strings.ToLower(a.Val)
			case "system":
				system = true
			}
		}
		if c.Data != "html" || !system && (strings.HasPrefix(public, "-//w3c//dtd html 4.01 transitional//") || strings.HasPrefix(public, "-//w3c//dtd html 4.01 frameset//")) {
			return true
		}
		return slices.ContainsFunc(oldTypes, func(t string) bool { return strings.HasPrefix(public, t) })
	}
	return true
}

// oldTypes are beginnings of public identifiers of old document types.
var oldTypes = []string{
	"-//w3c//dtd html 3", "-//w3c//dtd html 4.0 ", "-//w3c//dtd w3 html", "-//w3o//", "-//w3c//dtd html experimental", "-//ietf//dtd html",
	"-//netscape comm. corp.//", "-//microsoft//", "-//softquad", "-//webtechs//", "html",
}

// converter turns the parser's nodes into ours and numbers them.
type converter struct {
	count int32
	nodes memory.Slab[Node]
}

func (v *converter) children(to *Node, from *html.Node, depth int) error {
	if depth > maxDepth {
		return fmt.Errorf("elements nest deeper than %d levels", maxDepth)
	}
	for c := from.FirstChild; c != nil; c = c.NextSibling {
		switch c.Type {
		case html.TextNode:
			v.count++
			n := v.nodes.New()
			n.Kind, n.Text, n.Index, n.Details = Text, c.Data, v.count, noDetails
			to.append(n)
		case html.ElementNode:
			v.count++
			n := v.nodes.New()
			n.Kind, n.Name, n.Index, n.Foreign, n.Inner, n.Details = Element, c.Data, v.count, c.Namespace != "", to.Inner || to.Kind == Shadow, noDetails
			var attrs []Attr
			for _, a := range c.Attr {
				name := a.Key
				if a.Namespace != "" {
					name = a.Namespace + ":" + a.Key
				}
				attrs = append(attrs, Attr{name, a.Val})
			}
			if declares(n.Name, attrs) && to.Kind == Element && to.ShadowRoot() == nil {
				n = &Node{Kind: Shadow, Tree: &Tree{Host: to}, Details: noDetails}
				to.tree().Shadow = n
			} else {
				n.describe(attrs)
				to.append(n)
			}
			if err := v.children(n, c, depth+1); err != nil {
				return err
			}
		}
	}
	if to.ShadowRoot() != nil {
		to.assign()
	}
	return nil
}

// ParseXML parses an XML document such as an SVG file. Names lose their
// prefix, except xlink:href.
func ParseXML(data []byte) (*Node, error) {
	dec := xml.NewDecoder(bytes.NewReader(data))
	dec.Strict = false
	dec.Entity = xml.HTMLEntity
	dec.CharsetReader = charset.NewReaderLabel
	root := &Node{Kind: Document, Details: noDetails}
	at, depth := root, 0
	for {
		tok, err := dec.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("line %d: %w", lineAt(data, dec.InputOffset()), err)
		}
		switch t := tok.(type) {
		case xml.StartElement:
			if depth++; depth > maxDepth {
				return nil, fmt.Errorf("elements nest deeper than %d levels", maxDepth)
			}
			n := &Node{Kind: Element, Name: t.Name.Local, Foreign: true, Details: noDetails}
			var attrs []Attr
			for _, a := range t.Attr {
				name := a.Name.Local
				if strings.HasSuffix(a.Name.Space, "xlink") {
					name = "xlink:" + name
				} else if a.Name.Space == "xmlns" || a.Name.Local == "xmlns" {
					continue
				}
				attrs = append(attrs, Attr{name, a.Value})
			}
			n.describe(attrs)
			at.append(n)
			at = n
		case xml.EndElement:
			if at.Parent != nil {
				at = at.Parent
				depth--
			}
		case xml.CharData:
			at.append(&Node{Kind: Text, Text: string(t), Details: noDetails})
		}
	}
	if root.First == nil {
		return nil, errors.New("there is no element in it")
	}
	return root, nil
}

func lineAt(data []byte, offset int64) int {
	return 1 + bytes.Count(data[:min(int(offset), len(data))], []byte("\n"))
}
