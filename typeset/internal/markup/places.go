package markup

import (
	"bytes"
	"strings"

	"golang.org/x/net/html"
)

// Place is where an element's tag stands in its source, from 1.
type Place struct{ Line, Column int }

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
		if n := bytes.Count(raw, []byte("\n")); n > 0 {
			at = Place{at.Line + n, len(raw) - bytes.LastIndexByte(raw, '\n')}
		} else {
			at.Column += len(raw)
		}
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
