package layout

import (
	"math"

	"oliveledger/typeset/internal/style"
)

// explicitAxis writes out the tracks and line names of one direction
// (Grid 1, §7). size is that of the content box, or Auto; least is its minimum.
func (g *gridBox) explicitAxis(ax int, list style.TrackList, room trackRoom, auto []style.Track) {
	a := &g.axis[ax]
	a.auto = auto
	if a.sub {
		return
	}
	a.tracks, a.names = expand(list, room, a.gap)
	areas := g.s.GridAreas
	n := len(areas)
	if ax == inlineAxis && n > 0 {
		n = len(areas[0])
	}
	for explicit := len(a.tracks); len(a.tracks) < n; {
		a.tracks = append(a.tracks, a.implicitTrack(len(a.tracks)-explicit))
		a.names = append(a.names, nil)
	}
	g.nameAreas(ax)
	a.explicit = len(a.tracks)
}

// nameAreas adds the implicit line names of named areas (§7.3.2).
func (g *gridBox) nameAreas(ax int) {
	type extent struct{ start, end int }
	seen := map[string]*extent{}
	var order []string
	for r, row := range g.s.GridAreas {
		for c, name := range row {
			i := c
			if ax == blockAxis {
				i = r
			}
			switch e := seen[name]; {
			case name == "":
			case e == nil:
				seen[name] = &extent{i, i + 1}
				order = append(order, name)
			default:
				e.start, e.end = min(e.start, i), max(e.end, i+1)
			}
		}
	}
	a := &g.axis[ax]
	put := func(i int, name string) {
		if a.sub {
			i = min(i, a.explicit)
		}
		for len(a.names) <= i {
			a.names = append(a.names, nil)
		}
		a.names[i] = append(append([]string(nil), a.names[i]...), name)
	}
	for _, name := range order {
		put(seen[name].start, name+"-start")
		put(seen[name].end, name+"-end")
	}
}

// expand writes repeats out; auto repeats fill the size known (§7.2.3).
func expand(list style.TrackList, room trackRoom, gap float64) (tracks []gridTrack, names [][]string) {
	var pending []string
	add := func(t style.Track, n []string, fit bool) {
		names = append(names, append(pending, n...))
		pending = nil
		tracks = append(tracks, gridTrack{Track: t, empty: fit})
	}
	for _, it := range list.Items {
		if it.Repeat == 0 {
			add(it.Track, it.Names, false)
			continue
		}
		n := it.Repeat
		if n < 0 {
			n = autoRepeat(list, it, room, gap)
		}
		pending = append(pending, it.Names...)
		for range n {
			for _, t := range it.Items {
				add(t.Track, t.Names, it.Repeat == -2)
			}
			pending = append(pending, it.After...)
			if len(tracks) > 5000 {
				break
			}
		}
	}
	names = append(names, append(pending, list.After...))
	return tracks, names
}

// trackRoom is how large a grid is in one direction, or else how large it has to be and may be; Indefinite for what is
// not known.
type trackRoom struct{ size, least, most float64 }

func roomForTracks(size float64, least, most style.Size) trackRoom {
	return trackRoom{size, math.Max(least.Resolve(Indefinite), 0), most.Resolve(Indefinite)}
}

// autoRepeat is how often a repeat is written out: as often as it fits, or as it takes to fill the least size (§7.2.3.2).
func autoRepeat(list style.TrackList, rep style.TrackItem, room trackRoom, gap float64) int {
	size := room.size
	if !known(size) {
		size = room.most
	}
	atLeast := !known(size)
	if atLeast {
		size = room.least
	}
	fixed := func(t style.Track) float64 {
		if v := t.Max.Resolve(size); known(v) && t.Flex == 0 {
			if lo := t.Min.Resolve(size); known(lo) {
				return math.Max(v, lo)
			}
			return v
		}
		if v := t.Min.Resolve(size); known(v) {
			return v
		}
		return 0
	}
	other, n := 0.0, 0
	for _, it := range list.Items {
		if it.Repeat == 0 {
			other += fixed(it.Track)
			n++
		} else if it.Repeat > 0 {
			for _, t := range it.Items {
				other += fixed(t.Track) * float64(it.Repeat)
				n += it.Repeat
			}
		}
	}
	one := gap * float64(len(rep.Items))
	for _, t := range rep.Items {
		one += math.Max(fixed(t.Track), 1)
	}
	if !known(size) || one <= 0 {
		return 1
	}
	count := (size - other - gap*float64(n) + gap) / one
	if atLeast { // the fewest that reach the minimum
		return max(1, int(math.Ceil(count-1e-6)))
	}
	return max(1, int(math.Floor(count+1e-6)))
}

// expandNames writes out the line names of a subgrid; auto-fill fills up to n
// lines (Grid 2, §9).
func expandNames(list style.TrackList, n int) (names [][]string) {
	others := 0
	for _, it := range list.Items {
		if it.Repeat == 0 {
			others++
		} else if it.Repeat > 0 {
			others += it.Repeat * len(it.Items)
		}
	}
	for _, it := range list.Items {
		if it.Repeat == 0 {
			names = append(names, it.Names)
			continue
		}
		times := it.Repeat
		if times < 0 {
			times = max(n-others, 0) / max(len(it.Items), 1)
		}
		for range times {
			for _, x := range it.Items {
				names = append(names, x.Names)
			}
		}
	}
	return names
}
