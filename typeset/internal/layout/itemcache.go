package layout

import "oliveledger/typeset/internal/box"

// cached is a fragment set before in the same space.
type cached struct {
	sp     Space
	frag   *Fragment
	refits int // how often boxes had been scaled down, or no more
}

// mostCached is how many fragments are kept of an item: its size is asked for in a few
// spaces, again and again.
const mostCached = 4

// layUncut sets an item of a flex container or grid in a space that does not cut it, or
// finds it as it was set there before.
func (l *Layout) layUncut(b *box.Box, sp Space) *Fragment {
	m := l.memo(b)
	if sp.sub == nil {
		for _, c := range m.cache {
			if c.refits == l.refits && sameSpace(c.sp, sp) {
				return c.frag
			}
		}
	}
	f, _ := l.Lay(b, sp, nil)
	if f == nil {
		f = &Fragment{Box: b, Baseline: Indefinite, LastBaseline: Indefinite}
	}
	if f.carried != nil { // it hands on to who adds it what it has in columns, once
		return f
	}
	if len(m.cache) >= mostCached {
		m.cache = m.cache[1:]
	}
	m.cache = append(m.cache, cached{sp, f, l.refits})
	return f
}
