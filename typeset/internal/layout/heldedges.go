package layout

import (
	"math"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// hold sets contents again for the sake of a lower edge that has no room, so that the last of them goes on together with it
// (CSS Break 4, §4.1): set is told where the contents are to end at the latest, and tells whether they broke well before
// that. Of ends, which come from the lowest place on the page to the highest, those are tried that differ. Deep within
// contents that are set again boxes try their first end alone: else the tries of nested boxes would multiply.
func (l *Layout) hold(ends []float64, set func(end float64) bool) bool {
	const deep = 2
	l.holding++
	defer func() { l.holding-- }()
	last := inf
	for i, end := range ends {
		if i > 0 && (l.holding > deep || atMost(last, end)) {
			continue
		}
		if last = end; set(end) {
			return true
		}
	}
	return false
}

// seenEnd is how far down what is seen of the contents of a fragment reaches, from its top: lines, pictures, and boxes with
// an edge. Where tight is set, boxes end right below what is seen in them, as they do where margins end with a page.
func (f *Fragment) seenEnd(tight bool) (y float64) { return seenOf(f.Kids, tight) }

func seenOf(kids []Kid, tight bool) (y float64) {
	for _, k := range kids {
		y = math.Max(y, k.Y+k.F.seen(tight))
	}
	return y
}

func (f *Fragment) seen(tight bool) float64 {
	switch {
	case f.Line || f.Text != nil || f.Picture || f.Box != nil && f.Box.Kind == box.Replaced:
		return f.H
	case f.Box == nil || f.Border == [4]float64{} && !paints(f.Box):
		return f.seenEnd(tight)
	case tight:
		return f.seenEnd(true) + f.Padding[style.Bottom] + f.Border[style.Bottom]
	}
	return f.H
}
