package markup

import (
	"bytes"
	"strings"

	"golang.org/x/net/html"
)

// Place is where an element's tag stands in its source, from 1.
type Place struct{ Line, Column int }

// After is where the contents of an element begin whose tag stands at a place.
// The zero place is that of an element without a tag.
func After(source []byte, tag Place) Place {
	if tag.Line == 0 {
		return Place{}
	}
	at := 0
	for line := tag.Line; line > 1; line-- {
		at += bytes.IndexByte(source[at:], '\n') + 1
	}
	at += tag.Column - 1
	z := html.NewTokenizer(bytes.NewReader(source[at:]))
	z.Next()
	return tag.past(z.Raw())
}

// past is the place after a text that begins at p.
func (p Place) past(text []byte) Place {
	if n := bytes.Count(text, []byte("\n")); n > 0 {
		return Place{p.Line + n, len(text) - bytes.LastIndexByte(text, '\n')}
	}
	return Place{p.Line, p.Column + len(text)}
}

// Plus is the place that lies at q in a text that begins at p.
func (p Place) Plus(q Place) Place {
	switch {
	case p.Line == 0:
		return p
	case q.Line == 1:
		return Place{p.Line, p.Column + q.Column - 1}
	}
	return Place{p.Line + q.Line - 1, q.Column}
}

// lookAhead is how many tags a search for an element's own may pass over: the
// parser moves, drops and adds elements.
const lookAhead = 64

// Places finds the tags of elements in the source of their page. The parser does
// not keep them, so that the source is read once more: tags and elements are
// paired in their order, by name. Elements without a tag have no place.
func Places(doc *Node, source []byte) map[*Node]Place {
	type tag struct {
		name string
		at   Place
	}
	var tags []tag
	at := Place{1, 1}
	z := html.NewTokenizer(bytes.NewReader(source))
	for {
		kind := z.Next()
		if kind == html.ErrorToken {
			break
		}
		raw := z.Raw()
		here := at
		at = at.past(raw)
		if kind == html.StartTagToken || kind == html.SelfClosingTagToken {
			name, _ := z.TagName()
			tags = append(tags, tag{string(name), here})
		}
	}
	out := map[*Node]Place{}
	next := 0
	doc.Walk(func(n *Node) bool {
		if n.Kind != Element {
			return true
		}
		for i := next; i < len(tags) && i < next+lookAhead; i++ {
			if strings.EqualFold(tags[i].name, n.Name) {
				out[n], next = tags[i].at, i+1
				break
			}
		}
		return true
	})
	return out
}
