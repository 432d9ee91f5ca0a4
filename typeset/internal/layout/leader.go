package layout

import (
	"math"
	"strings"

	"oliveledger/typeset/internal/font"
)

// shareLeaders gives the width that a line has left to its leaders
// (Generated Content for Paged Media, §5).
func shareLeaders(units []unit, free float64) float64 {
	n := 0
	for i := range units {
		if units[i].kind == leafTab && units[i].box.Leader {
			n++
		}
	}
	if n == 0 {
		return free
	}
	for i := range units {
		if u := &units[i]; u.kind == leafTab && u.box.Leader {
			u.w += free / float64(n)
		}
	}
	return 0
}

// leader repeats its text over its width. The pieces stand on a grid counted
// from the line's end, so that those of lines below each other agree.
func (b *lineBuilder) leader(u *unit, parent *Fragment, x, py, baseline float64) {
	s := u.box.Style
	m := b.st.l.look(s).first
	one := m.Face.Shape(u.box.Text, 0, s.Lang, false, "")
	step := one.Width * s.FontSize / m.Face.Upem
	if step <= 0 {
		return
	}
	n := int(math.Floor(u.w/step + 1e-6))
	if n <= 0 || strings.TrimSpace(u.box.Text) == "" {
		return
	}
	ascent, descent, _ := b.st.l.metrics(m.Match, s.FontSize)
	w := float64(n) * step
	runs := make([]*font.Run, n)
	for i := range runs {
		runs[i] = one
	}
	f := &Fragment{
		Box: u.box, W: w, H: ascent + descent, Baseline: Indefinite, LastBaseline: Indefinite,
		Text: &TextRun{Match: m.Match, Style: s, Decor: u.box.Decor, Size: s.FontSize, Runs: runs, Ascent: ascent},
	}
	parent.add(f, x+u.w-w, baseline+b.shift(u.in)-ascent-py, 0, 0)
}
