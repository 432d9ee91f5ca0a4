package page

import (
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/style"
)

// mostNotes is the part of a page's height that footnotes may take; what goes
// beyond it moves to the next page.
const mostNotes = 0.7

// overrun is a footnote area that did not fit its page.
type overrun struct {
	area  *box.Box
	at    *layout.Break
	limit float64 // of the area's height
}

// withNotes sets one page and the footnotes that are called on it. Notes take
// room, which may push their calls to the next page: the body is set again
// with the room that is left.
func (st *Setter) withNotes(root *box.Box, ctx style.PageContext, s *style.Style, area display.Rect, at *layout.Break) (frag *layout.Fragment, rest *layout.Break, foot *layout.Fragment) {
	frag, rest = st.Layout.LayPage(root, area.W, area.H, st.top(), st.kept[ctx.Index], at)
	if !st.Footnotes || frag == nil {
		return frag, rest, nil
	}
	called, over := calls(frag), st.over
	if len(called) == 0 && over == nil {
		return frag, rest, nil
	}
	most := area.H * mostNotes
	whole, _ := st.footArea(ctx, s, area, called, over, most)
	frag, rest = st.Layout.LayPage(root, area.W, area.H, st.top(), whole.H, at)
	if slices.Equal(calls(frag), called) {
		foot = whole
	} else {
		frag, rest, foot = st.fewerNotes(root, ctx, s, area, at, frag, whole, over)
	}
	if st.over == nil {
		return frag, rest, foot
	}
	return st.byPolicy(root, ctx, s, area, at, over, frag, rest, foot)
}

// byPolicy sets a page again whose last note does not fit when that note asks
// for its line or block to move to the next page with it
// (Generated Content for Paged Media, §2.8).
func (st *Setter) byPolicy(root *box.Box, ctx style.PageContext, s *style.Style, area display.Rect, at *layout.Break, over *overrun, frag *layout.Fragment, rest *layout.Break, foot *layout.Fragment) (*layout.Fragment, *layout.Break, *layout.Fragment) {
	called := calls(frag)
	if len(called) == 0 || called[len(called)-1].Style.FootnotePolicy == style.Auto {
		return frag, rest, foot
	}
	note := called[len(called)-1]
	top, ok := topOf(frag, note, note.Style.FootnotePolicy == style.Block, 0, 0)
	if !ok || top < st.top()+1 { // the page would be left empty
		return frag, rest, foot
	}
	cut := st.over
	less, more := st.Layout.LayPage(root, area.W, area.H, st.top(), area.H-top, at)
	if less == nil || slices.Contains(calls(less), note) {
		return frag, rest, foot
	}
	fits, begun := st.footArea(ctx, s, area, calls(less), over, area.H*mostNotes)
	if !begun {
		st.over = cut
		return frag, rest, foot
	}
	return less, more, fits
}

// topOf is where the line or the block with the call of a note begins on a
// page. The line or block around f begins at around.
func topOf(f *layout.Fragment, note *box.Box, block bool, y, around float64) (float64, bool) {
	switch {
	case f.Box != nil && f.Box.Rare().Footnote == note && f.Text == nil:
		return around, true
	case f.Line && !block, block && f.Box != nil && f.Box.Kind == box.Element && !f.Box.Anon && f.Box.IsBlockLevel():
		around = y
	}
	for _, k := range f.Kids {
		if top, ok := topOf(k.F, note, block, y+k.Y, around); ok {
			return top, true
		}
	}
	return 0, false
}

// fewerNotes sets a page some of whose calls have moved on to make room for
// notes: it finds the least room that holds the beginning of each note whose
// call stays.
func (st *Setter) fewerNotes(root *box.Box, ctx style.PageContext, s *style.Style, area display.Rect, at *layout.Break, frag, whole *layout.Fragment, over *overrun) (_ *layout.Fragment, rest *layout.Break, foot *layout.Fragment) {
	most := area.H * mostNotes
	fewer, _ := st.footArea(ctx, s, area, calls(frag), over, most)
	const steps = 6
	for k := range steps + 1 {
		room := fewer.H + (whole.H-fewer.H)*float64(k)/steps
		frag, rest = st.Layout.LayPage(root, area.W, area.H, st.top(), room, at)
		f, begun := st.footArea(ctx, s, area, calls(frag), over, room+0.01)
		if foot = f; begun {
			break
		}
	}
	return frag, rest, st.moreNotes(ctx, s, area, frag, foot, over)
}

// moreNotes lets the notes of a page go on into the room that its body has left free.
func (st *Setter) moreNotes(ctx style.PageContext, s *style.Style, area display.Rect, frag, foot *layout.Fragment, over *overrun) *layout.Fragment {
	left := st.over
	room := min(area.H-layout.Filled(frag), area.H*mostNotes)
	if left == nil || room < foot.H+1 {
		return foot
	}
	if more, begun := st.footArea(ctx, s, area, calls(frag), over, room); begun && more.H > foot.H {
		return more
	}
	st.over = left
	return foot
}

// calls lists the footnotes that are called in a fragment, in its order.
func calls(f *layout.Fragment) (list []*box.Box) {
	if b := f.Box; b != nil && b.Rare().Footnote != nil && !f.Continued && f.Text == nil {
		list = append(list, b.Rare().Footnote)
	}
	for _, k := range f.Kids {
		if k.F.Text == nil {
			list = append(list, calls(k.F)...)
		}
	}
	return list
}

// footArea sets the footnote area: what is left from the page before, then the
// notes of this one, as far as most px allow. begun tells that each note has
// at least its beginning here.
func (st *Setter) footArea(ctx style.PageContext, s *style.Style, area display.Rect, notes []*box.Box, over *overrun, most float64) (out *layout.Fragment, begun bool) {
	st.over = nil
	var b *box.Box
	var at *layout.Break
	var limit, full float64
	if over != nil { // they follow what is left, which has no margin above it
		b, at, full = over.area.With(st.inLines(notes, area.W)), over.at, over.limit
		limit = full - over.area.Style.Margin[style.Top].Of(area.W)
	} else if len(notes) > 0 {
		b, full = st.noteBox(ctx, s, notes, area)
		limit = full
	} else {
		return &layout.Fragment{W: area.W}, true
	}
	most = min(most, limit)
	out, rest := st.Layout.LayPage(b, area.W, area.H, 0, area.H-most, at)
	if out == nil {
		return &layout.Fragment{W: area.W}, true
	}
	st.Layout.SettleAll(out, area.W, area.H)
	k := out.Kids[0]
	out.H = k.Y + k.F.H
	if m := b.Style.Margin[style.Bottom]; m.Kind == style.Length && rest == nil {
		out.H += m.Of(area.W)
	}
	out.H = min(out.H, area.H)
	fits := layout.Bottom(out) <= most+0.5 // a first line is set even where there is no room for it
	if rest == nil {
		return out, fits
	}
	st.over = &overrun{b, rest, full}
	return out, fits && rest.Child == len(b.Children)-1 && rest.Inner != nil
}

// footnoteArea names the variant of its style that is set.
type footnoteArea struct{}

// noteBox is the box of the footnote area with the notes in it, and how tall it may be.
func (st *Setter) noteBox(ctx style.PageContext, s *style.Style, notes []*box.Box, area display.Rect) (*box.Box, float64) {
	var blocks [][]style.Decl
	for i := range st.Styles.Pages {
		if r := &st.Styles.Pages[i]; r.Matches(ctx) && len(r.Margins["footnote"]) > 0 {
			blocks = append(blocks, r.Margins["footnote"])
		}
	}
	own := st.Styles.PageStyle(s, blocks)
	look := st.Styles.Variant(own, footnoteArea{}, func() *style.Style {
		c := *own
		c.Display = style.Display{Outer: style.Block, Inner: style.FlowRoot}
		c.BoxDecorationBreak = style.Clone         // what is left of a note has a rule above it too
		c.MaxHeight = style.Size{Kind: style.None} // what goes beyond it goes on
		return &c
	})
	limit := area.H
	if own.MaxHeight.Kind == style.Length {
		limit = min(limit, own.MaxHeight.Of(area.H)+edgesAround(own, area.W))
	}
	return &box.Box{Style: look, Anon: true, Children: st.inLines(notes, area.W)}, limit
}

// edgesAround is what the edges of a footnote area add to the height that is set for it.
func edgesAround(s *style.Style, w float64) (h float64) {
	for _, side := range []int{style.Top, style.Bottom} {
		if m := s.Margin[side]; m.Kind == style.Length {
			h += m.Of(w)
		}
		if s.BoxSizing != style.BorderBox {
			h += s.Border[side].Width + s.Padding[side].Of(w)
		}
	}
	return h
}

// inLines puts notes that are to stand beside each other into lines of their own: inline
// ones, and compact ones that share a line with a neighbour
// (Generated Content for Paged Media, §2.6).
func (st *Setter) inLines(notes []*box.Box, width float64) (list []*box.Box) {
	var line *box.Box
	for i, note := range notes {
		inline := !note.IsBlockLevel()
		if st.sharesLine(notes, i, i+1, width) || st.sharesLine(notes, i-1, i, width) {
			c := *note
			c.Style = st.Styles.Displayed(note.Style, style.Display{Outer: style.Inline, Inner: style.Flow})
			c.Inline, c.Memo = false, nil
			note, inline = &c, true
		}
		if !inline {
			list, line = append(list, note), nil
			continue
		}
		if line == nil {
			line = &box.Box{Style: st.Styles.Anonymous(note.Style, style.Display{Outer: style.Block, Inner: style.Flow}), Anon: true, Inline: true}
			list = append(list, line)
		}
		line.Children = append(line.Children, note)
	}
	return list
}

// sharesLine tells whether two notes that follow each other are compact and fit in one line.
func (st *Setter) sharesLine(notes []*box.Box, i, next int, width float64) bool {
	if i < 0 || next >= len(notes) {
		return false
	}
	total := 0.0
	for _, note := range notes[i : next+1] {
		if note.Style.FootnoteDisplay != style.Compact || !note.Inline {
			return false
		}
		_, w := st.Layout.Intrinsic(note)
		total += w
	}
	return total <= width
}
