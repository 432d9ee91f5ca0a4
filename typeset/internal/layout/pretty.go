package layout

import (
	"maps"
	"math"

	"oliveledger/typeset/internal/style"
)

// What whole-paragraph breaking looks at: lines no shorter than a share of the
// room, a few ends for each line, and paragraphs of bounded length.
const (
	shortestLine = 0.6
	endsPerLine  = 6
	mostPretty   = 4000 // leaves
	hyphenCost   = 0.004
	stubCost     = 0.15 // of a last line that is almost empty
)

// pretty chooses all line ends of a paragraph together, so that its lines come
// out even and the last is no stub (CSS Text 4, §6.2): the cheapest way from the
// first line to the end, where a line costs the square of the share of it that
// stays empty. The result is the room that each line is given, by its start.
func (st *lineState) pretty() {
	if w := st.b.Style.WrapStyle; w != style.Pretty && w != style.AvoidOrphans || st.in.floats != nil || st.p.floats || len(st.p.leaves) > mostPretty || st.in.w <= 0 {
		return
	}
	s := &paragraph{st: st, known: map[cursor]lineEnd{}}
	s.from(st.at, st.first)
	st.rooms = map[cursor]float64{}
	for at := st.at; ; {
		end, ok := s.known[at]
		if !ok || end.room == 0 {
			return
		}
		st.rooms[at] = end.room
		at = end.next
	}
}

// lineEnd is the best way to end a line.
type lineEnd struct {
	room float64 // the width that makes the line end there; 0 for none
	next cursor
	cost float64 // of this line and all that follow
}

type paragraph struct {
	st    *lineState
	known map[cursor]lineEnd
}

// from finds the cheapest lines from a place to the paragraph's end.
func (s *paragraph) from(at cursor, first bool) float64 {
	if at.leaf >= len(s.st.p.leaves) {
		return 0
	}
	if end, ok := s.known[at]; ok {
		return end.cost
	}
	best := lineEnd{cost: math.Inf(1)}
	avail := s.st.in.w
	room := avail
	for range endsPerLine {
		try := *s.st
		try.at, try.first, try.after, try.rooms = at, first, false, nil
		try.floated = maps.Clone(s.st.floated)
		units, next, _, forced, _ := try.fill(room, 0)
		if next == at || next.leaf < at.leaf {
			break
		}
		width := try.lineWidth(trimEnd(units))
		last := forced || next.leaf >= len(s.st.p.leaves)
		cost := lineCost(width, avail, last, endsInHyphen(units)) + s.from(next, forced && s.st.b.Style.TextIndent.EachLine)
		if cost < best.cost {
			best = lineEnd{room, next, cost}
		}
		room = width - 2*rounding // what is as wide fits
		if room < shortestLine*avail || forced {
			break
		}
	}
	s.known[at] = best
	return best.cost
}

func lineCost(width, avail float64, last, hyphen bool) float64 {
	empty := math.Max(avail-width, 0) / avail
	cost := empty * empty
	if last {
		cost = 0
		if stub := 0.25 - width/avail; stub > 0 {
			cost = stubCost * stub * 4
		}
	}
	if hyphen {
		cost += hyphenCost
	}
	return cost
}

func endsInHyphen(units []unit) bool {
	n := contentEnd(units)
	return n > 0 && units[n-1].hyphen
}
