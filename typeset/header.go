package typeset

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"
)

// OptionError is an option whose value cannot be used.
type OptionError struct {
	Option string // as Options names it, in lower case
	Reason string
}

func (e *OptionError) Error() string { return e.Option + ": " + e.Reason }

// placeholder is a word in braces, perhaps with a format.
var placeholder = regexp.MustCompile(`\{([a-z]+)(?::([^{}]*))?\}`)

// running turns header and footer text into CSS. Bars part it into what stands
// left, in the middle and right; {page}, {pages}, {title} and {date} are filled in.
func (s *setting) running(option, text, side, title string) (string, error) {
	if n := strings.Count(text, "|") + 1; n > len(sides) {
		return "", &OptionError{option, fmt.Sprintf("%q has %d parts; at most three, left | middle | right, have room", text, n)}
	}
	var b strings.Builder
	for i, p := range parted(text) {
		if p == "" {
			continue
		}
		content, err := s.runningContent(option, p, title)
		if err != nil {
			return "", err
		}
		fmt.Fprintf(&b, "@%s-%s{font-size:9pt;content:%s!important}", side, sides[i], content)
	}
	return b.String(), nil
}

// sides of the sheet that have margin boxes, above and below.
var sides = []string{"left", "center", "right"}

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
	for _, r := range [][3]string{{"header", s.o.Header, "top"}, {"footer", s.o.Footer, "bottom"}} {
		for i, p := range parted(r[1]) {
			if name := r[2] + "-" + sides[i]; p != "" && s.styles.FillsMargin(name, optionSheet) {
				tell(r[0], "the @"+name)
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
