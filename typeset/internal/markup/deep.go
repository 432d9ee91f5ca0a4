package markup

import (
	"bytes"
	"strings"

	"golang.org/x/net/html"
)

// deepest is how many elements may stand inside each other; the parser takes
// 512, of which tables need some that the source does not name.
const deepest = 480

// void lists the elements without contents (HTML, §13.1.2).
var void = map[string]bool{"area": true, "base": true, "br": true, "col": true, "embed": true, "hr": true, "img": true, "input": true, "link": true, "meta": true, "source": true, "track": true, "wbr": true}

// shallow takes out the tags of elements that nest too deep; what they hold
// stays, as in browsers, which have such a limit too. It tells whether it took
// out any.
func shallow(source []byte) ([]byte, bool) {
	var out bytes.Buffer
	var open []string
	cut := false
	z := html.NewTokenizer(bytes.NewReader(source))
	for {
		kind := z.Next()
		if kind == html.ErrorToken {
			return out.Bytes(), cut
		}
		raw := bytes.Clone(z.Raw())
		switch kind {
		case html.StartTagToken:
			tag, _ := z.TagName()
			name := string(tag)
			if n := len(open); n > 0 && open[n-1] == name && impliesEnd(name) {
				open = open[:n-1]
			}
			if void[name] {
				break
			}
			open = append(openRows(open, name), name)
			if len(open) > deepest && !holdsRawText(name) {
				cut = true
				continue
			}
		case html.EndTagToken:
			tag, _ := z.TagName()
			if string(tag) == "table" {
				open = closeRows(open)
			}
			if n := len(open); n > 0 && open[n-1] == string(tag) {
				open = open[:n-1]
				if n > deepest && !holdsRawText(string(tag)) {
					continue
				}
			}
		}
		out.Write(raw)
	}
}

// openRows adds what the parser puts around rows and cells that stand directly
// in a table (HTML, §13.2.6.4.9).
func openRows(open []string, name string) []string {
	top := func(want string) bool { return len(open) > 0 && open[len(open)-1] == want }
	row, cell := name == "tr", name == "td" || name == "th"
	if (row || cell) && top("table") {
		open = append(open, "tbody")
	}
	if cell && (top("tbody") || top("thead") || top("tfoot")) {
		open = append(open, "tr")
	}
	return open
}

// closeRows ends the parts of a table whose end tags were left out.
func closeRows(open []string) []string {
	n := len(open)
	for n > 0 && strings.Contains(" td th tr tbody thead tfoot ", " "+open[n-1]+" ") {
		n--
	}
	if n > 0 && open[n-1] == "table" {
		return open[:n]
	}
	return open
}

// impliesEnd tells whether a start tag ends an element of its own name.
func impliesEnd(name string) bool {
	return strings.Contains(" li p td th tr dt dd option ", " "+name+" ")
}

// holdsRawText tells whether what stands in an element is no markup.
func holdsRawText(name string) bool {
	return strings.Contains(" script style textarea title xmp iframe noembed noframes ", " "+name+" ")
}
