package inspect

import (
	"fmt"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/finding"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/style"
)

// breaks tells of what the end of a page looks like: a heading without its text,
// or a gap, and what is to blame for it.
func (in *inspector) breaks() {
	rest := in.p.Rest
	if rest == nil || in.lastBox == nil {
		return
	}
	forced := rest.Innermost().Forced != 0
	if h := heading(in.lastBox); h != nil && !forced && in.lastAt.Y > in.p.H*farDown {
		in.remark(finding.Warning, "heading-alone", fmt.Sprintf("the heading %s stands alone at the foot of the page", Name(h)), "give headings break-after: avoid", in.lastAt, h)
	}
	gap := in.p.H - in.p.Foot - in.bottom
	if forced || gap < in.p.H*halfEmpty {
		return
	}
	next := layout.NextBox(in.p.Root, rest)
	if next == nil {
		return
	}
	why, advice := cause(next)
	in.remark(finding.Note, "gap", fmt.Sprintf("the lower %.0f %% of the page are empty: %s", gap/in.p.H*100, why), advice, display.Rect{Y: in.bottom, W: in.p.W, H: gap}, next)
}

// cause tells why the box that comes next did not go onto the page, and what to
// do about it.
func cause(next *box.Box) (why, advice string) {
	switch s := next.Look(); {
	case next.Kind == box.Replaced || next.Picture != nil:
		return fmt.Sprintf("%s, which follows, is taller than the room left", Name(next)), "show it smaller, or let text stand before it"
	case s.BreakInside == style.Avoid || s.BreakInside == style.AvoidPage:
		return fmt.Sprintf("%s, which follows, is kept together by break-inside: avoid", Name(next)), "allow a break inside it when the gap is too large"
	case s.BreakBefore == style.Avoid || s.BreakAfter == style.Avoid:
		return fmt.Sprintf("%s, which follows, is kept with what is next to it", Name(next)), "allow a break there when the gap is too large"
	}
	return fmt.Sprintf("%s, which follows, does not fit", Name(next)), ""
}

// ending tells why the page ends where it does; "" on the last page.
func (in *inspector) ending() string {
	rest := in.p.Rest
	if rest == nil {
		return ""
	}
	next := layout.NextBox(in.p.Root, rest)
	last := rest.Innermost()
	switch {
	case next == nil:
		return "the page is full"
	case last.Forced != 0:
		return fmt.Sprintf("a forced break before %s", Name(next))
	case last.Lines > 0:
		return fmt.Sprintf("the page is full; %s goes on after its line %d", Name(next), last.Lines)
	}
	why, _ := cause(next)
	return why
}

func heading(b *box.Box) *box.Box {
	if b.Node == nil {
		return nil
	}
	switch b.Node.Name {
	case "h1", "h2", "h3", "h4", "h5", "h6":
		return b
	}
	return nil
}
