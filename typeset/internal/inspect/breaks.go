package inspect

import (
	"fmt"
	"math"

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

// ending tells why the page ends where it does.
func (in *inspector) ending() Ending {
	rest := in.p.Rest
	filled := math.Max(layout.Filled(in.p.Frag), in.p.Above)
	end := Ending{Y: math.Min(in.bottom, in.p.Sheet.Y+in.p.Sheet.H), Room: math.Max(in.p.H-in.p.Foot-filled, 0)}
	if rest == nil {
		return end
	}
	end.Next = layout.NextBox(in.p.Root, rest)
	last := rest.Innermost()
	switch {
	case end.Next == nil:
		end.Why = "the page is full"
	case last.Forced != 0:
		end.Why = fmt.Sprintf("a forced break before %s", Name(end.Next))
		end.Advice = "its break-before or page, or the break-after of what stands before, asks for it"
	case last.Lines > 0:
		end.Why = fmt.Sprintf("the page is full; %s goes on after its line %d", Name(end.Next), last.Lines)
		end.Advice = "orphans and widows say how many lines stay together"
	default:
		end.Why, end.Advice = cause(end.Next)
		end.whole = true
	}
	return end
}

// Measure adds by how much what comes next is too tall for the room that was left, once
// the page that it stands on is set.
func (e *Ending) Measure(page *layout.Fragment) {
	if !e.whole || e.Next == nil || page == nil {
		return
	}
	f := fragmentOf(page, e.Next)
	if f == nil {
		return
	}
	if f.Continued {
		e.Why, e.Advice = fmt.Sprintf("the page is full; %s goes on", Name(e.Next)), ""
		return
	}
	if over := f.H - e.Room; over >= 1 {
		e.Why += fmt.Sprintf("; it is %.0f px tall, %.0f px more than was left", f.H, over)
	}
}

// fragmentOf is the first part of a box on a page.
func fragmentOf(f *layout.Fragment, b *box.Box) *layout.Fragment {
	if f.Box == b {
		return f
	}
	for _, k := range f.Kids {
		if k.F.Text == nil {
			if found := fragmentOf(k.F, b); found != nil {
				return found
			}
		}
	}
	return nil
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
