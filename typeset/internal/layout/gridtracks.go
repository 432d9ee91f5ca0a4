package layout

import (
	"math"
	"slices"
	"sort"

	"oliveledger/typeset/internal/style"
)

// gridTrack is a row or column while its size is found (Grid 1, §12.3).
type gridTrack struct {
	style.Track
	size, limit float64
	empty       bool // a collapsed auto-fit track

	planned, incurred float64
	growable          bool // its limit was infinite before this step
	reached           bool // by the items that a step looks at
}

// gridAxis is one direction of a grid: its tracks and lines.
type gridAxis struct {
	tracks   []gridTrack
	gap      float64
	names    [][]string // of the explicit lines
	explicit int
	off      int           // implicit tracks before the explicit grid
	auto     []style.Track // of implicit tracks
	pos      []float64     // where each track starts, from the content edge
	sub      bool          // the tracks are those of the grid around
	flip     bool          // and run the other way
}

// contributor is an item that asks for room in tracks. Items of a subgrid
// stand among those of the grid around; before and after are the margins,
// borders and padding that lie between them and its lines (Grid 2, §9).
type contributor struct {
	g             *gridBox
	it            *gridItem // nil for the bare edge of a subgrid
	at, span      int
	before, after float64
	want          contribution
	asked         bool
}

// contribution is what an item asks of its tracks, margins included (§12.5).
type contribution struct{ least, minC, maxC float64 }

// constraint is what the container's own size is found for.
type constraint int

const (
	fitting constraint = iota
	forMinContent
	forMaxContent
)

// trackSizing is one run of the track sizing algorithm (§12.3).
type trackSizing struct {
	ax    *gridAxis
	size  float64 // of the content box, or Auto
	floor float64 // the least size of the content box
	under constraint
	align style.Align
	list  []contributor
	ask   func(*contributor) contribution

	on, open []*gridTrack // memory for growing tracks
}

func (z *trackSizing) run() {
	tracks := z.ax.tracks
	for i := range tracks { // §12.4
		t := &tracks[i]
		t.size, t.limit = 0, inf
		if t.empty {
			t.limit = 0
			continue
		}
		if v := t.Min.Resolve(z.size); known(v) {
			t.size = v
		}
		if v := t.Max.Resolve(z.size); known(v) && t.Flex == 0 && !t.Fit {
			t.limit = math.Max(v, t.size)
		}
	}
	z.intrinsic()
	z.maximise()
	z.expand()
	if known(z.size) || z.floor > 0 {
		size := z.size
		if !known(size) {
			size = z.floor
		}
		stretchTracks(tracks, size-sumTracks(tracks, z.ax.gap), z.align)
	}
}

func (z *trackSizing) contentSized(s style.Size) bool {
	return s.Kind != style.Length || s.HasPct() && !known(z.size)
}

func (z *trackSizing) minIntrinsic(t *gridTrack) bool { return !t.empty && z.contentSized(t.Min) }
func (z *trackSizing) maxIntrinsic(t *gridTrack) bool {
	return !t.empty && t.Flex == 0 && (t.Fit || z.contentSized(t.Max))
}

// intrinsic sizes tracks by their contents (§12.5).
func (z *trackSizing) intrinsic() {
	any := false
	for i := range z.ax.tracks {
		t := &z.ax.tracks[i]
		any = any || z.minIntrinsic(t) || z.maxIntrinsic(t)
	}
	if any {
		var plain, flexible []*contributor
		for i := range z.list {
			c := &z.list[i]
			if slices.ContainsFunc(z.spanned(c), func(t gridTrack) bool { return t.Flex > 0 }) {
				flexible = append(flexible, c)
			} else if slices.ContainsFunc(z.spanned(c), func(t gridTrack) bool { return z.minIntrinsic(&t) || z.maxIntrinsic(&t) }) {
				plain = append(plain, c)
			}
		}
		sort.SliceStable(plain, func(i, j int) bool { return plain[i].span < plain[j].span })
		for len(plain) > 0 {
			n := sort.Search(len(plain), func(i int) bool { return plain[i].span > plain[0].span })
			z.fit(plain[:n], false)
			plain = plain[n:]
		}
		z.fit(flexible, true)
	}
	for i := range z.ax.tracks {
		if t := &z.ax.tracks[i]; math.IsInf(t.limit, 1) {
			t.limit = t.size
		}
	}
}

func (z *trackSizing) spanned(c *contributor) []gridTrack { return z.ax.tracks[c.at : c.at+c.span] }

func (z *trackSizing) wants(c *contributor) contribution {
	if !c.asked {
		c.want, c.asked = z.ask(c), true
	}
	return c.want
}

// limited keeps a size under the most that fixed tracks allow; fits takes the arguments
// of fit-content() for such.
func (z *trackSizing) limited(c *contributor, v float64, fits bool) float64 {
	most := z.gaps(c)
	for _, t := range z.spanned(c) {
		m := t.Max.Resolve(z.size)
		if !known(m) || t.Flex > 0 || t.Fit && !fits || t.empty {
			return v
		}
		most += m
	}
	return math.Min(v, most)
}

func (z *trackSizing) gaps(c *contributor) float64 {
	n := 0
	for _, t := range z.spanned(c) {
		if !t.empty {
			n++
		}
	}
	return z.ax.gap * float64(max(n-1, 0))
}

// fit grows tracks for a group of items that are looked at together (§12.5,
// steps 2 to 4).
func (z *trackSizing) fit(group []*contributor, flexible bool) {
	if len(group) == 0 {
		return
	}
	of := func(min ...style.Keyword) func(*gridTrack) bool {
		return func(t *gridTrack) bool {
			return z.minIntrinsic(t) && slices.Contains(min, t.Min.Kind) && (!flexible || t.Flex > 0)
		}
	}
	// percentages that cannot be resolved act as auto
	auto := []style.Keyword{style.Auto, style.Length}
	all := slices.Concat(auto, []style.Keyword{style.MinContent, style.MaxContent})
	z.grow(group, growth{on: of(all...), want: func(c *contributor) float64 {
		return z.wants(c).least
	}, flexible: flexible, beyond: z.maxIntrinsic})
	z.grow(group, growth{on: of(style.MinContent, style.MaxContent), want: func(c *contributor) float64 { return z.wants(c).minC }, flexible: flexible, beyond: z.maxIntrinsic})
	largest := func(t *gridTrack) bool { return z.maxIntrinsic(t) && t.Max.Kind != style.MinContent }
	if z.under == forMaxContent {
		limited := func(c *contributor) float64 { return z.limited(c, z.wants(c).maxC, true) }
		z.grow(group, growth{on: of(slices.Concat(auto, []style.Keyword{style.MaxContent})...), want: limited, flexible: flexible, beyond: largest})
	}
	z.grow(group, growth{on: of(style.MaxContent), want: func(c *contributor) float64 { return z.wants(c).maxC }, flexible: flexible, beyond: largest})
	for i := range z.ax.tracks {
		t := &z.ax.tracks[i]
		t.limit = math.Max(t.limit, t.size)
		t.growable = false
	}
	if flexible {
		return
	}
	z.grow(group, growth{limits: true, on: z.maxIntrinsic, want: func(c *contributor) float64 { return z.wants(c).minC }})
	z.grow(group, growth{limits: true, on: largest, want: func(c *contributor) float64 { return z.wants(c).maxC }, growable: true})
}

// growth says which sizes one step grows, and for what.
type growth struct {
	on       func(*gridTrack) bool
	want     func(*contributor) float64
	beyond   func(*gridTrack) bool // tracks that grow past their limits first
	limits   bool                  // growth limits grow, not base sizes
	growable bool                  // limits made finite in the last step may go on
	flexible bool                  // by flex factors
}

// grow shares out what a group of items needs beyond what their tracks have
// (§12.5.1).
func (z *trackSizing) grow(group []*contributor, g growth) {
	for _, c := range group {
		span := z.spanned(c)
		space := g.want(c) - z.gaps(c)
		on := z.on[:0]
		for i := range span {
			t := &span[i]
			t.incurred, t.reached = 0, true
			space -= t.of(g.limits)
			if g.on(t) {
				on = append(on, t)
			}
		}
		z.on = on
		if space <= 0 || len(on) == 0 {
			continue
		}
		if g.flexible {
			shareByFlex(on, space)
		} else {
			z.share(on, span, space, g)
		}
		for _, t := range on {
			t.planned = math.Max(t.planned, t.incurred)
		}
	}
	for i := range z.ax.tracks {
		t := &z.ax.tracks[i]
		switch {
		case !g.limits:
			t.size += t.planned
		case math.IsInf(t.limit, 1):
			if g.on(t) && t.reached {
				t.limit = t.size + t.planned
				t.growable = true
			}
		default:
			t.limit += t.planned
		}
		t.planned, t.reached = 0, false
	}
}

// of is the size that a step grows.
func (t *gridTrack) of(limit bool) float64 {
	if limit && !math.IsInf(t.limit, 1) {
		return t.limit
	}
	return t.size
}

// share gives equal parts up to the limits, then past them.
func (z *trackSizing) share(on []*gridTrack, span []gridTrack, space float64, g growth) {
	room := func(t *gridTrack) float64 {
		switch {
		case !g.limits:
			return t.limit - t.size
		case t.Fit: // up to the limit of fit-content()
			return math.Max(math.Max(t.Max.Of(z.size), t.size)-t.of(true), 0)
		case math.IsInf(t.limit, 1) || g.growable && t.growable:
			return inf
		}
		return 0
	}
	z.open = append(z.open[:0], on...)
	open := z.open
	for len(open) > 0 && space > 1e-9 {
		each := space / float64(len(open))
		next := open[:0]
		for _, t := range open {
			d := math.Min(each, room(t)-t.incurred)
			t.incurred += d
			space -= d
			if d == each {
				next = append(next, t)
			}
		}
		if len(next) == len(open) {
			return
		}
		open = next
	}
	if space <= 1e-9 {
		return
	}
	past := on
	if g.beyond != nil {
		var some []*gridTrack
		for _, t := range on {
			if g.beyond(t) {
				some = append(some, t)
			}
		}
		if len(some) > 0 {
			past = some
		}
	} else {
		past = slices.DeleteFunc(slices.Clone(on), func(t *gridTrack) bool { return t.Fit })
	}
	for _, t := range past {
		t.incurred += space / float64(len(past))
	}
}

func shareByFlex(on []*gridTrack, space float64) {
	sum := 0.0
	for _, t := range on {
		sum += t.Flex
	}
	for _, t := range on {
		if sum > 1e-6 {
			t.incurred = space * t.Flex / sum
		} else {
			t.incurred = space / float64(len(on))
		}
	}
}

// maximise grows base sizes to their limits (§12.6).
func (z *trackSizing) maximise() {
	if z.under == forMinContent {
		return
	}
	tracks := z.ax.tracks
	size := z.size
	if !known(size) {
		size = inf
	}
	for range len(tracks) + 1 {
		free := size - sumTracks(tracks, z.ax.gap)
		var open []*gridTrack
		for i := range tracks {
			if t := &tracks[i]; t.Flex == 0 && !t.empty && t.size < t.limit-1e-6 {
				open = append(open, t)
			}
		}
		if free <= 1e-6 || len(open) == 0 {
			return
		}
		for _, t := range open {
			t.size = math.Min(t.size+free/float64(len(open)), t.limit)
		}
	}
}

// expand sizes the flexible tracks (§12.7).
func (z *trackSizing) expand() {
	tracks := z.ax.tracks
	if z.under == forMinContent || !slices.ContainsFunc(tracks, func(t gridTrack) bool { return t.Flex > 0 }) {
		return
	}
	fr := 0.0
	if known(z.size) {
		fr = findFr(tracks, z.size, z.ax.gap)
	} else {
		for i := range tracks {
			if t := &tracks[i]; t.Flex > 0 {
				fr = math.Max(fr, t.size/math.Max(t.Flex, 1))
			}
		}
		for i := range z.list {
			c := &z.list[i]
			if span := z.spanned(c); slices.ContainsFunc(span, func(t gridTrack) bool { return t.Flex > 0 }) {
				fr = math.Max(fr, findFr(span, z.wants(c).maxC, z.ax.gap))
			}
		}
		sum := z.ax.gap * float64(max(countUsed(tracks)-1, 0))
		for i := range tracks {
			sum += math.Max(tracks[i].size, fr*tracks[i].Flex)
		}
		if sum < z.floor { // §12.7, last step: the container's least size
			fr = findFr(tracks, z.floor, z.ax.gap)
		}
	}
	for i := range tracks {
		if t := &tracks[i]; t.Flex > 0 {
			t.size = math.Max(t.size, fr*t.Flex)
		}
	}
}

// findFr finds the size of one fr (§12.7.1).
func findFr(tracks []gridTrack, size, gap float64) float64 {
	rigid := make([]bool, len(tracks))
	for range len(tracks) + 1 {
		left, sum := size-gap*float64(max(countUsed(tracks)-1, 0)), 0.0
		for i := range tracks {
			if t := &tracks[i]; t.Flex > 0 && !rigid[i] {
				sum += t.Flex
			} else {
				left -= t.size
			}
		}
		fr := math.Max(left, 0) / math.Max(sum, 1)
		again := false
		for i := range tracks {
			if t := &tracks[i]; t.Flex > 0 && !rigid[i] && fr*t.Flex < t.size-1e-6 {
				rigid[i], again = true, true
			}
		}
		if !again {
			return fr
		}
	}
	return 0
}

// stretchTracks grows auto tracks into free space (§12.8).
func stretchTracks(tracks []gridTrack, free float64, a style.Align) {
	if free <= 0 || a.Kind != style.Normal && a.Kind != style.Stretch {
		return
	}
	var autos []*gridTrack
	for i := range tracks {
		if t := &tracks[i]; !t.empty && t.Flex == 0 && t.Max.IsAuto() && !t.Fit {
			autos = append(autos, t)
		}
	}
	for _, t := range autos {
		t.size += free / float64(len(autos))
	}
}

func countUsed(tracks []gridTrack) (n int) {
	for i := range tracks {
		if !tracks[i].empty {
			n++
		}
	}
	return n
}

func sumTracks(tracks []gridTrack, gap float64) (sum float64) {
	for i := range tracks {
		sum += tracks[i].size
	}
	return sum + gap*float64(max(countUsed(tracks)-1, 0))
}

// settle gives the start of each track (§10.5); rtl counts from the right.
func (ax *gridAxis) settle(size float64, a style.Align, rtl bool) {
	switch a.Kind {
	case style.Normal, style.Stretch, style.Baseline:
		a.Kind = style.Start
	case style.LeftSide, style.RightSide:
		left := a.Kind == style.LeftSide
		a.Kind = style.Start
		if left == rtl {
			a.Kind = style.End
		}
	}
	x, step := distribute(a, size-sumTracks(ax.tracks, ax.gap), countUsed(ax.tracks), ax.gap, false)
	ax.pos = make([]float64, len(ax.tracks))
	for i, t := range ax.tracks {
		ax.pos[i] = x
		if rtl {
			ax.pos[i] = size - x - t.size
		}
		if !t.empty {
			x += t.size + step
		}
	}
}

// area gives the near edge and the size of an item's tracks.
func (ax *gridAxis) area(at, span int) (start, size float64) {
	start, end := inf, -inf
	for i := at; i < at+span; i++ {
		start, end = math.Min(start, ax.pos[i]), math.Max(end, ax.pos[i]+ax.tracks[i].size)
	}
	return start, end - start
}
