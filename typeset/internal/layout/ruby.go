package layout

import (
	"math"
	"strings"
	"unicode"
	"unicode/utf8"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/orientation"
	"oliveledger/typeset/internal/style"
)

// ruby sets a base with its annotation over it. The annotation stands on the
// ascent of the base and makes the line taller only where its leading has no
// room (CSS Ruby 1, §4).
func (l *Layout) ruby(b *box.Box, sp Space) *Fragment {
	base, note := b.Children[0], b.Children[1]
	_, w := l.sizes(base)
	_, nw := l.sizes(note)
	w = math.Max(w, nw)
	in := newSpace(w, Indefinite)
	in.FixedW = w
	f := &Fragment{Box: b, W: w, Baseline: Indefinite, LastBaseline: Indefinite}
	under, _ := l.Lay(base, in, nil)
	over, _ := l.Lay(note, in, nil)
	if under == nil || over == nil {
		return f
	}
	t := l.look(base.Style).strut
	ascent, descent := t.ascent, t.descent
	baseline := under.Baseline
	if !known(baseline) {
		baseline = under.H
	}
	top := baseline - ascent - over.H
	if note.Style.RubyUnder {
		top = baseline + descent
	}
	down := math.Max(-top, 0)
	f.H = math.Max(under.H, top+over.H) + down
	f.Baseline, f.LastBaseline = baseline+down, baseline+down
	f.add(under, 0, down, 0, 0)
	f.add(over, 0, top+down, 0, 0)
	return f
}

// emphasis is the mark of a style and what it measures (CSS Text Decoration 3,
// §3): it is set as an annotation of half the size.
type emphasis struct {
	style        style.Style
	match        font.Match
	run          *font.Run
	above, below float64 // of the mark's line box around its baseline
	ascent       float64 // of the mark's own face
	top          float64 // from its baseline up to the top of its text
	upright      bool
}

func (l *Layout) emphasisOf(s *style.Style) *emphasis {
	e := &emphasis{style: *s}
	e.style.FontSize, e.style.EmphasisMark = s.FontSize/2, ""
	e.style.LineHeight = style.LineHeight{}
	e.style.Color = s.EmphasisColor.Or(s.Color)
	first := l.Fonts.Primary(query(&e.style))
	t := l.strutOf(&e.style, first.Match)
	e.above, e.below, e.ascent = t.above, t.below, t.ascent
	e.match = first.Match
	r, _ := utf8.DecodeRuneInString(s.EmphasisMark)
	if first.Wants(r) {
		if m, ok := l.Fonts.For(query(&e.style), r); ok {
			e.match = m
			t := l.strutOf(&e.style, m)
			e.above, e.below = math.Max(e.above, t.above), math.Max(e.below, t.below)
		}
	}
	asc, desc, _ := l.metrics(e.match, e.style.FontSize)
	e.ascent, e.top = asc, asc
	e.run = e.match.Face.Shape(s.EmphasisMark, 0, s.Lang, false, "")
	if central(s) {
		e.top = (asc + desc) / 2
		if e.upright = s.Orientation == style.Upright || orientation.Upright(r); e.upright {
			e.run = stacked(e.run, e.match.Face)
		}
	}
	return e
}

// marked tells whether a character takes an emphasis mark (§3.1).
func marked(r rune) bool {
	if unicode.IsSpace(r) || unicode.IsControl(r) || unicode.Is(unicode.Z, r) || unicode.Is(unicode.Cf, r) {
		return false
	}
	return !unicode.IsPunct(r) || strings.ContainsRune("#%‰‱٪؉؊&﹠＆⁊@﹫＠§¶⁋", r)
}

// emphasise adds the marks of a word whose first glyph stands at x.
func (b *lineBuilder) emphasise(u *unit, parent *Fragment, x, py, baseline, letter float64) {
	s := u.box.Style
	e := b.st.l.emphasisOf(s)
	t := b.st.l.look(s).strut
	ascent, descent := t.ascent, t.descent
	at := baseline + b.shift(u.in)
	if s.EmphasisOver() {
		at -= ascent + e.below
	} else {
		at += descent + e.above
	}
	w := e.run.Width * e.style.FontSize / e.match.Face.Upem
	for i := range u.run.Glyphs {
		g := &u.run.Glyphs[i]
		adv := g.Advance*s.FontSize/u.match.Face.Upem + letter
		if g.Chars > 0 && int(g.Cluster) < len(u.run.Text) {
			if r, _ := utf8.DecodeRuneInString(u.run.Text[g.Cluster:]); marked(r) {
				f := &Fragment{
					Box: &box.Box{Kind: box.Text, Style: &e.style}, W: w, H: e.above + e.below, Baseline: Indefinite, LastBaseline: Indefinite,
					Text: &TextRun{Match: e.match, Style: &e.style, Size: e.style.FontSize, Runs: []*font.Run{e.run}, Ascent: e.ascent, Upright: e.upright},
				}
				parent.add(f, x+(adv-letter-w)/2, at-e.top-py, 0, 0)
			}
		}
		x += adv
	}
}
