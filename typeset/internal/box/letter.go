package box

import (
	"unicode"
	"unicode/utf8"

	"oliveledger/typeset/internal/style"
)

// firstLetter gives the first letter of a block its own inline box
// (CSS Pseudo 4, §2.2).
func firstLetter(kids []*Box, s *style.Style) []*Box {
	out, _ := splitLetter(kids, s)
	return out
}

func splitLetter(kids []*Box, s *style.Style) ([]*Box, bool) {
	for i, k := range kids {
		switch {
		case k.Kind == Text:
			from, to := letterSpan(k.Text)
			if to == from {
				if from < len(k.Text) || !blank(k) {
					return kids, true
				}
				continue
			}
			letter := &Box{Style: s, Pseudo: "first-letter", Children: []*Box{{Kind: Text, Style: s, Text: k.Text[from:to], Decor: withDecor(k.Decor, s)}}}
			parts := []*Box{}
			if from > 0 {
				head := *k
				head.Text = k.Text[:from]
				parts = append(parts, &head)
			}
			parts = append(parts, letter)
			if to < len(k.Text) {
				tail := *k
				tail.Text = k.Text[to:]
				parts = append(parts, &tail)
			}
			out := append(append(append([]*Box(nil), kids[:i]...), parts...), kids[i+1:]...)
			return out, true
		case k.Kind == LineBreak || k.Kind == Replaced || k.IsAtomic():
			return kids, true
		case k.Pseudo == "marker" || k.OutOfFlow():
			continue
		case k.Style.Display.Inner != style.Flow && k.Style.Display.Inner != style.FlowRoot:
			return kids, true
		default:
			sub, done := splitLetter(k.Children, s)
			if done {
				k.Children = sub
				return kids, true
			}
		}
	}
	return kids, false
}

// letterSpan finds the first letter with the punctuation around it.
func letterSpan(t string) (from, to int) {
	for from < len(t) {
		r, n := utf8.DecodeRuneInString(t[from:])
		if !unicode.IsSpace(r) {
			break
		}
		from += n
	}
	to = from
	seen := false
	for to < len(t) {
		r, n := utf8.DecodeRuneInString(t[to:])
		punct := unicode.In(r, unicode.Ps, unicode.Pe, unicode.Pi, unicode.Pf, unicode.Po)
		switch {
		case punct:
		case seen && unicode.In(r, unicode.Mn, unicode.Mc, unicode.Me):
		case !seen && !unicode.IsSpace(r):
			seen = true
		default:
			if !seen {
				return from, from
			}
			return from, to
		}
		to += n
	}
	if !seen {
		return from, from
	}
	return from, to
}
