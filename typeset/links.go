package typeset

import (
	"fmt"
	"net/url"
	"strings"

	"oliveledger/typeset/internal/markup"
)

// lostLinks finds the links to places of the document that no element of it names (HTML, §7.4.6.4), and tells the
// first to each place. Those without a name lead to the top.
func (s *setting) lostLinks(doc *markup.Node) (lost map[*markup.Node]bool) {
	var wanted []string // places, in the order of the links to them
	links := map[string][]*markup.Node{}
	doc.Walk(func(n *markup.Node) bool {
		if n.Name == "a" && n.Has("href") {
			place, inside := strings.CutPrefix(strings.TrimSpace(n.Attr("href")), "#")
			if inside && place != "" && !strings.EqualFold(place, "top") {
				if links[place] == nil {
					wanted = append(wanted, place)
				}
				links[place] = append(links[place], n)
			}
		}
		return true
	})
	if len(wanted) == 0 {
		return nil
	}
	named := map[string]bool{}
	doc.Walk(func(n *markup.Node) bool {
		if n.ID != "" {
			named[n.ID] = true
		}
		if n.Name == "a" {
			named[n.Attr("name")] = true
		}
		return true
	})
	lost = map[*markup.Node]bool{}
	for _, place := range wanted {
		decoded, err := url.PathUnescape(place)
		if !named[place] && (err != nil || !named[decoded]) {
			for _, n := range links[place] {
				lost[n] = true
			}
			s.tellAt(links[place][0], "link-lost", Warning, fmt.Sprintf("the link to “#%s” leads nowhere: no element has that id", place), fmt.Sprintf("give its target id=\"%s\"", place))
		}
	}
	return lost
}
