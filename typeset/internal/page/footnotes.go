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
	area *box.Box
	at   *layout.Break
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
	return frag, rest, foot
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
	if over != nil { // they follow what is left
		b, at = over.area.With(notes), over.at
	} else if len(notes) > 0 {
		b = st.noteBox(ctx, s, notes)
	} else {
		return &layout.Fragment{W: area.W}, true
	}
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
	st.over = &overrun{b, rest}
	return out, fits && rest.Child == len(b.Children)-1 && rest.Inner != nil
}

// footnoteArea names the variant of its style that is set.
type footnoteArea struct{}

// noteBox is the box of the footnote area with the notes in it.
func (st *Setter) noteBox(ctx style.PageContext, s *style.Style, notes []*box.Box) *box.Box {
	var blocks [][]style.Decl
	for i := range st.Styles.Pages {
		if r := &st.Styles.Pages[i]; r.Matches(ctx) && len(r.Margins["footnote"]) > 0 {
			blocks = append(blocks, r.Margins["footnote"])
		}
	}
	area := st.Styles.PageStyle(s, blocks)
	look := st.Styles.Variant(area, footnoteArea{}, func() *style.Style {
		c := *area
		c.Display = style.Display{Outer: style.Block, Inner: style.FlowRoot}
		c.BoxDecorationBreak = style.Clone // what is left of a note has a rule above it too
		return &c
	})
	b := &box.Box{Style: look, Anon: true, Children: slices.Clone(notes)}
	b.Inline = !slices.ContainsFunc(notes, (*box.Box).IsBlockLevel)
	return b
}
