package typeset

import (
	"bytes"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"

	"golang.org/x/net/html"
)

// OptionError is an option whose value cannot be used.
type OptionError struct {
	Option string // as Options names it, in lower case
	Reason string
}

func (e *OptionError) Error() string { return e.Option + ": " + e.Reason }

// placeholder is a word in braces, perhaps with a format.
var placeholder = regexp.MustCompile(`\{([a-z]+)(?::([^{}]*))?\}`)

// margin is what options say of the boxes above, or below, the page area.
type margin struct {
	option, side      string // header, top
	text, first, html string
	rule              bool
}

func (s *setting) margins() []margin {
	return []margin{{"header", "top", s.o.Header, s.o.FirstHeader, s.o.HeaderHTML, s.o.HeaderRule}, {"footer", "bottom", s.o.Footer, s.o.FirstFooter, s.o.FooterHTML, s.o.FooterRule}}
}

// running turns header and footer text into CSS. Bars part it into what stands
// left, in the middle and right; {page}, {pages}, {title} and {date} are filled in.
func (s *setting) running(m margin, text, title string) (string, error) {
	if m.html != "" {
		return fmt.Sprintf("@%s-left{content:none!important}@%s-right{content:none!important}@%s-center{content:element(%s)!important;width:100%%;text-align:start;%s}", m.side, m.side, m.side, runningName(m), m.line()), nil
	}
	if text == "" && !m.rule {
		return "", nil
	}
	if n := strings.Count(text, "|") + 1; n > len(sides) {
		return "", &OptionError{m.option, fmt.Sprintf("%q has %d parts; at most three, left | middle | right, have room", text, n)}
	}
	parts := append(parted(text), "", "")
	var b strings.Builder
	for i, side := range sides {
		switch {
		case parts[i] != "":
			content, err := s.runningContent(m.option, parts[i], title)
			if err != nil {
				return "", err
			}
			fmt.Fprintf(&b, "@%s-%s{font-size:9pt;content:%s!important;%s}", m.side, side, content, m.line())
		case m.rule: // the line goes on over boxes without text
			fmt.Fprintf(&b, `@%s-%s{content:"";%s}`, m.side, side, m.line())
		}
	}
	return b.String(), nil
}

// firstRunning is running on the first page, which has nothing of the others.
func (s *setting) firstRunning(m margin, title string) (string, error) {
	var none strings.Builder
	for _, side := range sides {
		fmt.Fprintf(&none, "@%s-%s{content:none!important}", m.side, side)
	}
	if m.first == "none" {
		return none.String(), nil
	}
	if m.html != "" { // whose box is as wide as the page area
		fmt.Fprintf(&none, "@%s-center{width:auto;text-align:center}", m.side)
	}
	m.html = ""
	text, err := s.running(m, m.first, title)
	return none.String() + text, err
}

// line is the style of a rule between the margin and the page area.
func (m *margin) line() string {
	switch {
	case !m.rule:
		return ""
	case m.side == "top":
		return "border-bottom:.5pt solid #888;vertical-align:bottom;padding-bottom:2mm;margin-bottom:4mm"
	}
	return "border-top:.5pt solid #888;vertical-align:top;padding-top:2mm;margin-top:4mm"
}

// runningName is the name of the element that stands in the margins.
func runningName(m margin) string { return "olive-" + m.option }

// withRunning puts the bodies of headers and footers into the page, as elements that stand
// in its margins. The lines of the source stay what they are.
func (s *setting) withRunning(source []byte) []byte {
	var out strings.Builder
	for _, m := range s.margins() {
		if m.html != "" {
			fill := strings.NewReplacer("\n", " ", "\r", " ", "{page}", `<span class="olive-page"></span>`, "{pages}", `<span class="olive-pages"></span>`, "{date}", s.day(""))
			fmt.Fprintf(&out, `<div style="position:running(%s)">%s</div>`, runningName(m), fill.Replace(m.html))
		}
	}
	if out.Len() == 0 {
		return source
	}
	out.WriteString(`<style>.olive-page::before{content:counter(page)}.olive-pages::before{content:counter(pages)}</style>`)
	at := contentsBegin(source)
	return slices.Concat(source[:at], []byte(out.String()), source[at:])
}

// headElements are those that may stand before a page's contents (HTML, §4.2).
var headElements = []string{"html", "head", "title", "meta", "link", "style", "script", "base", "noscript", "template"}

// contentsBegin is where the contents of a page begin, in bytes of its source: behind its
// body's tag, or where the first element stands that is none of the head's.
func contentsBegin(source []byte) int {
	z := html.NewTokenizer(bytes.NewReader(source))
	at, inHead := 0, ""
	for {
		kind := z.Next()
		size := len(z.Raw())
		name, _ := z.TagName()
		switch {
		case kind == html.ErrorToken:
			return at
		case kind == html.StartTagToken && string(name) == "body":
			return at + size
		case kind == html.StartTagToken || kind == html.SelfClosingTagToken:
			if !slices.Contains(headElements, string(name)) {
				return at
			}
			inHead = string(name)
		case kind == html.EndTagToken:
			inHead = ""
		case kind == html.TextToken && inHead != "title" && inHead != "style" && inHead != "script" && len(bytes.TrimSpace(z.Raw())) > 0:
			return at
		}
		at += size
	}
}

// parted is what stands at each side; text without bars stands in the middle.
func parted(text string) []string {
	parts := strings.Split(text, "|")
	if len(parts) == 1 {
		return []string{"", strings.TrimSpace(text)}
	}
	for i := range parts {
		parts[i] = strings.TrimSpace(parts[i])
	}
	return parts
}

// sides of the sheet that have margin boxes, above and below.
var sides = []string{"left", "center", "right"}

// optionSheet is the name of the style sheet that options become.
const optionSheet = "options"

// replacing tells what of the page's own rules options take the place of.
func (s *setting) replacing() {
	tell := func(option, what string) {
		s.tell("option-wins", Note, fmt.Sprintf("the option %s replaces %s of the page's own @page rules", option, what), "leave the option out to keep it")
	}
	if s.o.Paper != "" && s.styles.SetsPage("size", optionSheet) {
		tell("paper", "the size")
	}
	if s.o.Margins != "" && s.styles.SetsPage("margin", optionSheet) {
		tell("margins", "the margin")
	}
	for _, m := range s.margins() {
		parts := append(parted(m.text), "", "")
		for i, side := range sides {
			if name := m.side + "-" + side; (parts[i] != "" || m.html != "") && s.styles.FillsMargin(name, optionSheet) {
				tell(m.option, "the @"+name)
			}
		}
	}
}

func (s *setting) runningContent(option, text, title string) (string, error) {
	var out []string
	add := func(t string) {
		if t != "" {
			out = append(out, cssString(t))
		}
	}
	at := 0
	for _, m := range placeholder.FindAllStringSubmatchIndex(text, -1) {
		add(text[at:m[0]])
		at = m[1]
		name, format := text[m[2]:m[3]], ""
		if m[4] >= 0 {
			format = text[m[4]:m[5]]
		}
		switch {
		case name == "date":
			add(s.day(format))
		case m[4] >= 0:
			return "", &OptionError{option, fmt.Sprintf("{%s} takes no format", name)}
		case name == "title":
			add(title)
		case slices.Contains([]string{"page", "pages"}, name):
			out = append(out, "counter("+name+")")
		default:
			return "", &OptionError{option, fmt.Sprintf("{%s} is not known; there are {page}, {pages}, {title} and {date}", name)}
		}
	}
	add(text[at:])
	if len(out) == 0 {
		return `""`, nil
	}
	return strings.Join(out, " "), nil
}

// day writes the document's date, or today's, in a layout that shows 2 January 2006.
func (s *setting) day(layout string) string {
	date := s.o.Date
	if date.IsZero() {
		date = time.Now()
	}
	if layout == "" {
		layout = time.DateOnly
	}
	return date.Format(layout)
}
