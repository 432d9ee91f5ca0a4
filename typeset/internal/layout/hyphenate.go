package layout

import (
	"strings"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/hyphen"
	"oliveledger/typeset/internal/style"
)

// hyphenate puts soft hyphens into the words of the text that was gathered, also into those
// that inline elements stand in.
func (c *collector) hyphenate() {
	var at []int // where they go
	for i := 0; i < len(c.spans); i++ {
		if !c.hyphenates(i) {
			continue
		}
		first, end := &c.spans[i], c.spans[i].end
		for i+1 < len(c.spans) && c.goesOn(first, i+1) {
			i++
			end = c.spans[i].end
		}
		text := string(c.text.Bytes()[first.start:end])
		at = append(at, inserted(text, c.l.hyphenated(text, first.box.Style, first.box), first.start)...)
	}
	if len(at) > 0 {
		c.insert(at)
	}
}

func (c *collector) hyphenates(i int) bool {
	s := &c.spans[i]
	return s.kind == leafText && s.box.Style.Hyphens == style.Auto
}

// goesOn tells whether a span is one more part of the words of another: what is out of the
// flow does not part them, nor does an inline box.
func (c *collector) goesOn(first *span, i int) bool {
	switch s := &c.spans[i]; s.kind {
	case leafOut, leafFloat, leafPhantom:
		return true
	case leafText:
		a, b := first.box.Style, s.box.Style
		return b.Hyphens == style.Auto && a.Lang == b.Lang && a.HyphenLimits == b.HyphenLimits
	}
	return false
}

const softHyphen = "\u00AD"

// inserted lists the places, in text that begins at start, before which soft hyphens were put.
func inserted(text, hyphenated string, start int) (at []int) {
	i := 0
	for j := 0; j < len(hyphenated); {
		if strings.HasPrefix(hyphenated[j:], softHyphen) && !strings.HasPrefix(text[i:], softHyphen) {
			at = append(at, start+i)
			j += len(softHyphen)
			continue
		}
		i, j = i+1, j+1
	}
	return at
}

// insert puts soft hyphens before places of the text, in their order. One between two spans
// ends the first.
func (c *collector) insert(at []int) {
	old := c.text.String()
	c.text.Reset()
	from := 0
	for _, p := range at {
		c.text.WriteString(old[from:p])
		c.text.WriteString(softHyphen)
		from = p
	}
	c.text.WriteString(old[from:])
	k := 0
	moved := func(p int) int {
		for k > 0 && at[k-1] > p {
			k--
		}
		for k < len(at) && at[k] <= p {
			k++
		}
		return p + k*len(softHyphen)
	}
	for i := range c.spans {
		c.spans[i].start, c.spans[i].end = moved(c.spans[i].start), moved(c.spans[i].end)
	}
	for i := range c.controls {
		c.controls[i].at = moved(c.controls[i].at)
	}
}

// hyphenated puts soft hyphens where the language of the text allows them
// (CSS Text 3, §6.1).
func (l *Layout) hyphenated(t string, s *style.Style, b *box.Box) string {
	if hyphen.Supports(s.Lang) {
		return hyphen.Insert(t, s.Lang, hyphen.Limits{Word: s.HyphenLimits[0], Before: s.HyphenLimits[1], After: s.HyphenLimits[2]})
	}
	if l.Tell != nil && strings.TrimSpace(t) != "" {
		if s.Lang == "" {
			l.Tell("hyphens-language", "words are not hyphenated: the page does not say what language it is in; give its html element a lang attribute", b)
		} else {
			l.Tell("hyphens-language", "words are not hyphenated: there are no patterns for the language “"+s.Lang+"”", b)
		}
	}
	return t
}
