package layout

import "slices"

// shift says that what was to stand at a place in a container, or further down, has moved.
type shift struct{ at, by float64 }

// shifts are what breaks have added to a flex container or grid, or taken from it, in the
// order of the places. They lead from the container as if nothing were cut to all its
// parts together.
type shifts []shift

// note adds a shift, if it is another than the last.
func (s *shifts) note(at, by float64) {
	if n := len(*s); n == 0 && by == 0 || n > 0 && (*s)[n-1].by == by {
		return
	}
	*s = append(slices.Clip(*s), shift{at, by})
}

// moved is where a place has come to.
func (s shifts) moved(y float64) float64 {
	by := 0.0
	for _, m := range s {
		if atMost(m.at, y) {
			by = m.by
		}
	}
	return y + by
}

// follow moves what waits in a container to where its parts are: its static position and its
// area end where the rows in them do.
func (w outOfFlow) follow(s shifts) outOfFlow {
	if !w.planned || len(s) == 0 {
		return w
	}
	end := s.moved(w.y + w.h)
	w.y = s.moved(w.y)
	w.h = end - w.y
	if w.area != nil {
		area := *w.area
		area.y = s.moved(w.area.y)
		area.h = s.moved(w.area.y+w.area.h) - area.y
		w.area = &area
	}
	return w
}

// keep has the last part of a container remember them, if positioned boxes may wait in it.
func (s shifts) keep(f *Fragment) {
	if f.Box.Style.HoldsPositioned() && len(s) > 0 {
		f.carry().shifts = s
	}
}
