package page

import (
	"cmp"
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/style"
)

// Balanced pages (our -olive-pages: balanced, docs/css.md) are chosen together instead of
// one after the other. Each stretch of pages up to a forced break or the end is first set
// as full as it goes. Where that leaves its last page nearly empty, or gaps, the last
// pages of the stretch are chosen anew among breaks a little further up, so that no page
// is added and the sum of what they lack is least. The choice is a dynamic programme over
// pages: of the breaks that come out for a page only the best few are followed.

const (
	balancedPages = 8    // of a stretch, from its end, that are chosen anew
	followed      = 5    // breaks after each page that are followed
	wellFilled    = 0.35 // part of a page: a last page that holds less looks forgotten
	wideGap       = 0.12 // part of a page: a smaller gap is not worth a choice
)

// shorter are the parts of a page's height that are tried.
var shorter = []float64{1, 0.94, 0.88, 0.82, 0.76, 0.7}

// course is a way to set some pages of a stretch.
type course struct {
	turn  turn // after them
	cost  float64
	ended bool // the stretch ends with them
	kept  []float64
	held  float64 // how much they hold, in pages: it tells places in the document apart
}

// balance gives the room, in px of layout, that pages keep free at their end, by index. It
// is nothing for documents that do not ask for it.
func (st *Setter) balance(root *box.Box) map[int]float64 {
	if root.Look().Pages != style.Balance || st.Continuous || st.Footnotes {
		return nil
	}
	free := map[int]float64{}
	start := turn{index: 1, name: layout.PageName(root)}
	for {
		var turns []turn
		cost := 0.0
		t, more := start, true
		for more {
			if t = st.skipBlank(t); st.Check() != nil || st.MaxPages > 0 && t.index > st.MaxPages {
				return nil
			}
			turns = append(turns, t)
			c := st.fill(root, course{turn: t}, 1)
			cost, more = cost+c.cost, !c.ended
			if c.turn.at == nil { // the document ends
				st.even(root, turns, cost, free)
				return free
			}
			t = c.turn
		}
		st.even(root, turns, cost, free)
		start = t
	}
}

// skipBlank is the next page with contents.
func (st *Setter) skipBlank(t turn) turn {
	if t.context(leftward(st.rootStyle)).Blank {
		return t.past()
	}
	return t
}

// even chooses the last pages of a stretch anew, which begin at turns and cost so much as
// they are.
func (st *Setter) even(root *box.Box, turns []turn, cost float64, free map[int]float64) {
	turns = turns[max(len(turns)-balancedPages, 0):]
	if len(turns) < 2 || cost < wideGap*wideGap {
		return
	}
	list := []course{{turn: turns[0]}}
	var best *course
	for range turns {
		var next []course
		for _, from := range list {
			for _, part := range shorter {
				c := st.fill(root, from, part)
				switch {
				case !c.ended:
					next = append(next, c)
				case best == nil || c.cost < best.cost-1e-9:
					best = &c
				}
			}
		}
		list = mostPromising(next)
	}
	if best == nil {
		return
	}
	for i, kept := range best.kept {
		if kept > 0 {
			free[turns[i].index] = kept
		}
	}
}

// mostPromising are the best choices that lead to different places.
func mostPromising(list []course) (out []course) {
	slices.SortStableFunc(list, func(a, b course) int { return cmp.Compare(a.cost, b.cost) })
	for _, c := range list {
		same := func(o course) bool { return math.Abs(o.held-c.held) < 1e-6 }
		if len(out) < followed && !slices.ContainsFunc(out, same) {
			out = append(out, c)
		}
	}
	return out
}

// fill sets one more page to a part of its height.
func (st *Setter) fill(root *box.Box, from course, part float64) course {
	t := st.skipBlank(from.turn)
	area := st.look(t.context(leftward(st.rootStyle))).box.area()
	k := st.scale(area)
	w, h := area.W/k, area.H/k
	kept := h * (1 - part)
	st.Layout.Viewport = [2]float64{w, h}
	frag, rest := st.Layout.LayPage(root, w, h, 0, kept, t.at)
	out := course{cost: from.cost, kept: append(slices.Clone(from.kept), kept)}
	if frag == nil {
		out.ended = true
		return out
	}
	filled := min(layout.Filled(frag)/h, 1)
	out.held = from.held + filled
	if rest == nil || rest.Innermost().Forced != 0 {
		out.ended = true
		if lack := wellFilled - filled; lack > 0 {
			out.cost += 4 * lack * lack
		}
	} else {
		gap := 1 - filled
		out.cost += gap * gap
		if rest.Innermost().Penalty > 0 || rest.Penalty > 0 {
			out.cost++
		}
	}
	if rest != nil {
		out.turn = t.next(root, rest)
	}
	return out
}
