package layout

import (
	"slices"

	"oliveledger/typeset/internal/style"
)

// placement is where an item lies in one direction, in explicit lines from 0.
// An open one has only its span.
type placement struct {
	open       bool
	start, end int
}

// placer runs the placement algorithm (Grid 1, §8.5).
type placer struct {
	g     *gridBox
	wants [][2]placement // for each item, by axis
	taken []stretches    // of the minor axis, by major track
	major int            // the axis that grows as items are placed
	size  [2]int         // tracks of the implicit grid
}

// place gives every item its tracks and adds the implicit ones.
func (g *gridBox) place() {
	p := &placer{g: g, major: blockAxis}
	if g.s.GridAutoFlow == style.Column {
		p.major = inlineAxis
	}
	for _, b := range inOrder(g.b) {
		it := &gridItem{b: b}
		at := b.Style.GridPlace
		want := [2]placement{g.axis[inlineAxis].resolve(at[1], at[3]), g.axis[blockAxis].resolve(at[0], at[2])}
		for ax := range want {
			w := &want[ax]
			if names := subgridList(b, ax); w.open && at[1-ax].Auto && at[3-ax].Auto && names != nil {
				w.end = max(len(expandNames(*names, 0))-1, 1)
			}
			if g.axis[ax].sub {
				w.clamp(len(g.axis[ax].tracks))
			}
			it.span[ax] = max(w.end-w.start, 1)
		}
		p.wants = append(p.wants, want)
		g.items = append(g.items, it)
	}
	p.run()
}

// clamp keeps a placement inside a subgrid, which has no implicit tracks
// (Grid 2, §9).
func (w *placement) clamp(n int) {
	if w.open {
		w.end = min(w.end, n)
		return
	}
	w.start = min(max(w.start, 0), n-1)
	w.end = min(max(w.end, w.start+1), n)
}

func (p *placer) run() {
	for ax := range p.size { // tracks before the explicit grid
		for i := range p.wants {
			if w := p.wants[i][ax]; !w.open {
				p.g.axis[ax].off = max(p.g.axis[ax].off, -w.start)
			}
		}
		p.size[ax] = p.g.axis[ax].off + p.g.axis[ax].explicit
	}
	minor := 1 - p.major
	start := func(i, ax int) int { return p.wants[i][ax].start + p.g.axis[ax].off }
	for i, it := range p.g.items { // both lines known
		if w := p.wants[i]; !w[0].open && !w[1].open {
			p.put(it, start(i, p.major), start(i, minor))
		}
	}
	cursor := map[int]int{}
	for i, it := range p.g.items { // locked to a major line
		if w := p.wants[i]; w[p.major].open || !w[minor].open {
			continue
		}
		at, x := start(i, p.major), 0
		if !p.g.s.GridDense {
			x = cursor[at]
		}
		for !p.free(it, at, x) {
			x++
		}
		p.put(it, at, x)
		cursor[at] = x + it.span[minor]
	}
	for i, it := range p.g.items { // the implicit grid is wide enough for all spans
		end := it.span[minor]
		if !p.wants[i][minor].open {
			end += start(i, minor)
		}
		p.size[minor] = max(p.size[minor], end)
	}
	at, x := 0, 0
	for i, it := range p.g.items {
		w := p.wants[i]
		if !w[p.major].open {
			continue
		}
		if p.g.s.GridDense {
			at, x = 0, 0
		}
		if !w[minor].open {
			if start(i, minor) < x {
				at++
			}
			x = start(i, minor)
			for !p.free(it, at, x) {
				at++
			}
		} else {
			for x+it.span[minor] > p.size[minor] && x > 0 || !p.free(it, at, x) {
				if x++; x+it.span[minor] > p.size[minor] {
					at, x = at+1, 0
				}
			}
		}
		p.put(it, at, x)
	}
	for ax := range p.size {
		p.g.axis[ax].implicit(p.size[ax])
	}
}

// put places an item and marks its tracks. A subgrid that has no room left is not made larger: what comes then is
// held at its end, over other items (Grid 2, §9).
func (p *placer) put(it *gridItem, major, minor int) {
	within := func(ax, at int) int {
		if !p.g.axis[ax].sub {
			return at
		}
		w := placement{start: at, end: at + it.span[ax]}
		w.clamp(len(p.g.axis[ax].tracks))
		it.span[ax] = w.end - w.start
		return w.start
	}
	major, minor = within(p.major, major), within(1-p.major, minor)
	m, n := it.span[p.major], it.span[1-p.major]
	it.at[p.major], it.at[1-p.major] = major, minor
	for len(p.taken) < major+m {
		p.taken = append(p.taken, nil)
	}
	for y := major; y < major+m; y++ {
		p.taken[y] = p.taken[y].with(minor, minor+n)
	}
	p.size[p.major], p.size[1-p.major] = max(p.size[p.major], major+m), max(p.size[1-p.major], minor+n)
}

func (p *placer) free(it *gridItem, major, minor int) bool {
	for y := major; y < min(major+it.span[p.major], len(p.taken)); y++ {
		p.g.l.Watch.Step()
		if p.taken[y].meet(minor, minor+it.span[1-p.major]) {
			return false
		}
	}
	return true
}

// stretches are the taken tracks of a row or column: from start to before end,
// ascending and apart.
type stretches [][2]int

// after is the first stretch that ends at i or later.
func (s stretches) after(i int) int {
	k, _ := slices.BinarySearchFunc(s, i, func(t [2]int, i int) int { return t[1] - i })
	return k
}

// meet tells whether some track from a to before b is taken.
func (s stretches) meet(a, b int) bool {
	k := s.after(a + 1)
	return k < len(s) && s[k][0] < b
}

// with takes the tracks from a to before b; those that touch become one.
func (s stretches) with(a, b int) stretches {
	i := s.after(a)
	j := i
	for ; j < len(s) && s[j][0] <= b; j++ {
		a, b = min(a, s[j][0]), max(b, s[j][1])
	}
	return slices.Replace(s, i, j, [2]int{a, b})
}

// implicit adds the tracks around the explicit grid (§7.5).
func (ax *gridAxis) implicit(total int) {
	if ax.sub {
		return
	}
	var out []gridTrack
	for i := -ax.off; i < 0; i++ {
		out = append(out, ax.implicitTrack(i))
	}
	out = append(out, ax.tracks...)
	for i := 0; len(out) < total; i++ {
		out = append(out, ax.implicitTrack(i))
	}
	ax.tracks = out
}

// implicitTrack is the i-th track after the explicit grid; those before it
// count from -1 down.
func (ax *gridAxis) implicitTrack(i int) gridTrack {
	n := len(ax.auto)
	return gridTrack{Track: ax.auto[((i%n)+n)%n]}
}

// line resolves a grid line to an index from 0 (§8.3).
func (ax *gridAxis) line(l style.GridLine, end bool) (int, bool) {
	if l.Auto || l.Span > 0 {
		return 0, false
	}
	if l.Name == "" {
		if l.Num > 0 {
			return l.Num - 1, true
		}
		return ax.explicit + 1 + l.Num, true
	}
	if l.Num == 0 {
		name := l.Name + "-start"
		if end {
			name = l.Name + "-end"
		}
		for i, list := range ax.names {
			if slices.Contains(list, name) {
				return i, true
			}
		}
	}
	return ax.named(l.Name, l.Num), true
}

// named finds the n-th line of a name, from the end when n is negative. Lines
// beyond the grid are taken to have the name.
func (ax *gridAxis) named(name string, n int) int {
	if n == 0 {
		n = 1
	}
	if n > 0 {
		for i := range ax.names {
			if slices.Contains(ax.names[i], name) {
				if n--; n == 0 {
					return i
				}
			}
		}
		return ax.explicit + n
	}
	for i := len(ax.names) - 1; i >= 0; i-- {
		if slices.Contains(ax.names[i], name) {
			if n++; n == 0 {
				return i
			}
		}
	}
	return n
}

// resolve makes a placement of two lines (§8.3.1).
func (ax *gridAxis) resolve(a, b style.GridLine) placement {
	s, okS := ax.line(a, false)
	e, okE := ax.line(b, true)
	switch {
	case okS && okE:
		if s > e {
			s, e = e, s
		}
		return placement{start: s, end: max(e, s+1)}
	case okS:
		if b.Span > 0 && b.Name != "" {
			return placement{start: s, end: ax.spanNamed(b, s, 1)}
		}
		return placement{start: s, end: s + max(b.Span, 1)}
	case okE:
		if a.Span > 0 && a.Name != "" {
			return placement{start: ax.spanNamed(a, e, -1), end: e}
		}
		return placement{start: e - max(a.Span, 1), end: e}
	}
	if a.Auto {
		a = b
	}
	if a.Name != "" { // a span to a name has nowhere to start from
		return placement{open: true, end: 1}
	}
	return placement{open: true, end: max(a.Span, 1)}
}

// spanNamed finds the line that a span to a named line reaches.
func (ax *gridAxis) spanNamed(l style.GridLine, from, step int) int {
	left := l.Span
	for i := from + step; i >= 0 && i < len(ax.names); i += step {
		for _, n := range ax.names[i] {
			if n == l.Name {
				left--
			}
		}
		if left == 0 {
			return i
		}
	}
	if step > 0 {
		return max(ax.explicit, from) + left
	}
	return -left
}
