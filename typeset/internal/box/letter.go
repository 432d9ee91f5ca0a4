package box

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/go-text/typesetting/segmenter"

	"oliveledger/typeset/internal/style"
)

// firstLetter gives the first letter of a block its own inline box
// (CSS Pseudo 4, §2.2). styleIn gives its style by that of its text, which it
// inherits from, and by the letter.
func firstLetter(kids []*Box, styleIn func(in *style.Style, letter string) *style.Style) []*Box {
	out, _ := splitLetter(kids, styleIn)
	return out
}

func splitLetter(kids []*Box, styleIn func(in *style.Style, letter string) *style.Style) ([]*Box, bool) {
	for i, k := range kids {
		switch {
		case k.Kind == Text:
			from, to := letterSpan(k.Text, k.Style.Lang)
			if k.Style.Collapse != style.CollapseSpace && strings.Contains(k.Text[:from], "\n") {
				return kids, true // the first line is empty
			}
			if to == from {
				if from < len(k.Text) || !blank(k) {
					return kids, true
				}
				continue
			}
			s := styleIn(k.Style, k.Text[from:to])
			letter := &Box{Style: s, rare: &Rare{Pseudo: "first-letter"}, Children: []*Box{{Kind: Text, Node: k.Node, Order: k.Order, Style: s, Text: k.Text[from:to], Decor: withDecor(k.Decor, s)}}}
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
		case k.Rare().Pseudo == "marker" || k.OutOfFlow():
			continue
		case k.Kind == LineBreak || k.Kind == Replaced || k.IsAtomic() || k.Node != nil && k.Node.Name == "img":
			return kids, true // words in place of a picture are its own
		case k.Style.Display.Inner != style.Flow && k.Style.Display.Inner != style.FlowRoot:
			return kids, true
		default:
			sub, done := splitLetter(k.Children, styleIn)
			if done {
				k.Children = sub
				return kids, true
			}
		}
	}
	return kids, false
}

// letterSpan finds the first letter with the punctuation before it, spaces
// between included, and what follows it (CSS Pseudo 4, §2.2.1).
func letterSpan(t, lang string) (from, to int) {
	for from < len(t) {
		r, n := utf8.DecodeRuneInString(t[from:])
		if !unicode.IsSpace(r) || r == '\u00A0' {
			break
		}
		from += n
	}
	to = from
	seen := false
	for to < len(t) {
		r, n := utf8.DecodeRuneInString(t[to:])
		switch {
		case seen && quoting(r):
		case seen:
			return from, to
		case quoting(r) || unicode.Is(unicode.Pd, r) || to > from && unicode.Is(unicode.Zs, r) && r != '\u3000':
		case unicode.IsSpace(r):
			return from, from
		default:
			seen = true
			n = cluster(t[to:], lang)
		}
		to += n
	}
	return from, to // of punctuation alone too, as browsers have it
}

// quoting tells whether punctuation clings to the letter on either side.
func quoting(r rune) bool {
	return unicode.In(r, unicode.Ps, unicode.Pe, unicode.Pi, unicode.Pf, unicode.Po)
}

// cluster is the length of the first user-perceived character of t; Dutch takes
// ij for one letter.
func cluster(t, lang string) int {
	if l := strings.ToLower(lang); (l == "nl" || strings.HasPrefix(l, "nl-")) && (strings.HasPrefix(t, "IJ") || strings.HasPrefix(t, "ij")) {
		return 2
	}
	var seg segmenter.Segmenter
	_ = seg.InitWithString(t) // it takes any text
	if it := seg.GraphemeIterator(); it.Next() {
		return len(string(it.Grapheme().Text))
	}
	return len(t)
}

// clearedLetter is the style of a block that stands below the initial letter of the block before it, by the letter's side.
type clearedLetter style.Keyword

// clearLetters has blocks that begin with an initial letter stand below that of the block before them, where it is taller
// than its block (CSS Inline 3, §7.10.1).
func (b *Builder) clearLetters(kids []*Box) {
	if !b.lettered {
		return
	}
	var above *Box // the letter of the block before
	for _, k := range kids {
		if k.OutOfFlow() || blank(k) {
			continue
		}
		letter := initialLetterOf(k)
		if letter != nil && above != nil && k.Style.Clear == style.None {
			of, side := k.Style, above.Style.Float
			k.Style = b.Styles.Variant(of, clearedLetter(side), func() *style.Style {
				v := *of
				v.Clear = side
				return &v
			})
		}
		above = letter
	}
}

// initialLetterOf is the initial letter that a block begins with, or nil.
func initialLetterOf(b *Box) *Box {
	for b.Kind == Element && len(b.Children) > 0 {
		b = b.Children[0]
		if b.Rare().Pseudo == "first-letter" && b.Style.InitialLetter.Size > 0 && b.Floats() {
			return b
		}
	}
	return nil
}
