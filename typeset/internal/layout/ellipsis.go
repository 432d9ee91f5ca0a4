package layout

import (
	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// clamp limits the lines of a block container and of the blocks in it
// (CSS Overflow 4, §5). The first pass finds out whether anything is left over;
// only then the last line takes the ellipsis and the rest is dropped.
type clamp struct {
	left int  // lines that may still be set
	over bool // there is more than fits
	text string
}

// done tells whether nothing more may be set.
func (c *clamp) done() bool { return c != nil && c.over && c.left == 0 }

// last tells whether the next line is the one that takes the ellipsis.
func (c *clamp) last() bool { return c != nil && c.over && c.left == 1 && c.text != "" }

// ellipsisText is what block-ellipsis or text-overflow shows.
const ellipsisText = "\u2026"

// cutsText tells whether lines that overflow b end in a mark.
func cutsText(b *box.Box) bool {
	s := b.Style
	return s.TextOverflow.Kind == style.Ellipsis && s.OverflowX != style.Visible
}

// mark is the unit of text that stands for what was cut off.
func (st *lineState) mark(text string) unit {
	s := st.b.Style
	q := query(s)
	m, ok := st.l.Fonts.For(q, []rune(text)[0])
	if !ok {
		m = st.l.Fonts.Primary(q).Match
		if text == ellipsisText {
			text = "..."
		}
	}
	lf := &leaf{kind: leafText, box: &box.Box{Kind: box.Text, Style: s, Text: text}, match: m}
	if st.p.rtl {
		lf.level = 1
	}
	st.l.measure(lf, text, text, features(s))
	return unit{leaf: lf, run: lf.run, w: lf.w, noOpen: true, noClose: true}
}

// truncate cuts a line so that text fits at its end. With whole set, it cuts
// between words where it can.
func (st *lineState) truncate(units []unit, avail float64, text string, whole bool) []unit {
	end := st.mark(text)
	room := avail - end.w
	x := st.indent()
	units = withoutEnd(units)
	kept, keptX, wordEnd := len(units), 0.0, -1
	for i := range units {
		u := &units[i]
		w := u.pre + u.w + u.post
		if w > 0 && exceeds(x+w, room) {
			kept, keptX = i, x
			break
		}
		x += w
		// also where text does not wrap, but for a hyphen only if there is room for it
		if u.canBreak && !u.soft || u.kind == leafSpace || u.soft && atMost(x+st.hyphenWidth(u.leaf), room) {
			wordEnd = i + 1
		}
	}
	out := append([]unit(nil), units[:kept]...)
	switch {
	case whole && wordEnd > 0 && kept < len(units) && !breaksAnywhere(units[kept].box.Style):
		out = out[:wordEnd]
		st.hyphenate(out)
	case kept < len(units) && units[kept].kind == leafText:
		u := units[kept]
		if n := st.cutWord(&u, room-keptX-u.pre, 0, kept == 0); n > 0 {
			out = append(out, u)
		}
	}
	return append(withoutEnd(out), end)
}

// breaksAnywhere tells whether text may be cut between any two letters.
func breaksAnywhere(s *style.Style) bool {
	return s.WordBreak == style.BreakAll || s.LineBreak == style.Anywhere
}

// withoutEnd leaves out the line breaks and spaces at the end.
func withoutEnd(units []unit) []unit {
	n := len(units)
	for n > 0 && (units[n-1].kind == leafBreak || units[n-1].kind == leafSpace) {
		n--
	}
	return units[:n]
}

// lineWidth is what units take, less the spaces that hang at their end.
func (st *lineState) lineWidth(units []unit) float64 {
	return st.indent() + st.unitsWidth(units) - hanging(units, 0, false)
}

// setClamped sets the contents of a block container with limited lines.
func (r *blockBox) setClamped() (float64, *Break) {
	f, in := r.f, r.in
	in.clamp = &clamp{left: r.s.MaxLines}
	h, rest := r.set(in)
	if !in.clamp.over {
		return h, rest
	}
	f.Kids, f.out, f.Baseline, f.LastBaseline = nil, nil, Indefinite, Indefinite
	in.clamp = &clamp{left: r.s.MaxLines, over: true, text: r.s.BlockEllipsis}
	return r.set(in)
}
