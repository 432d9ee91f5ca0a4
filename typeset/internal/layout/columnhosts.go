package layout

import "oliveledger/typeset/internal/box"

// host stands for the part of a transformed box in a column that the box itself does not reach,
// and has no height there: each part of a box is transformed for itself (CSS Transforms 1, §3).
type host struct {
	f    *Fragment
	x, y float64
	col  *columnPlace
	part *Fragment // of the same box, that it stands beside
}

// host is the fragment that what is placed at y in column c belongs to, with its place: the part p
// of its containing block, or the part in c of the transformed box around that.
func (r *resolver) host(p piece, c *columnPlace, y float64) (*Fragment, float64, float64) {
	if c == p.col || r.f == nil {
		return p.f, p.x, p.y
	}
	around, ok := p, p.f.Box.Style.Transformed()
	if !ok {
		around, ok = r.transformed(p, c)
	}
	if !ok || around.col == c {
		return around.f, around.x, around.y
	}
	for _, h := range r.hosts {
		if h.part.Box == around.f.Box && h.col.x == c.x && h.col.y == c.y {
			return h.f, h.x, h.y
		}
	}
	f := &Fragment{Box: around.f.Box, W: around.f.W, Baseline: Indefinite, LastBaseline: Indefinite, Continued: true, Cut: true}
	x := c.x + around.x - around.col.x
	r.f.add(f, x, y, 0, 0)
	r.hosts = append(r.hosts, host{f, x, y, c, around.f})
	return f, x, y
}

// transformed is a part of the innermost transformed box around p, the one in column c if there
// is one, or else p itself.
func (r *resolver) transformed(p piece, c *columnPlace) (piece, bool) {
	var inner *box.Box
	var holds *Fragment
	for _, b := range r.fixed.order {
		for _, q := range r.fixed.parts[b] {
			if b.Style.Transformed() && r.within(q.f, p.f) && (inner == nil || r.within(holds, q.f)) {
				inner, holds = b, q.f
			}
		}
	}
	if inner == nil {
		return p, false
	}
	around := r.fixed.parts[inner][0]
	for _, q := range r.fixed.parts[inner] {
		if q.col == c {
			around = q
		}
	}
	return around, true
}

// within tells whether c is among the descendants of f, or of a host that stands for it.
func (r *resolver) within(f, c *Fragment) bool {
	if f.holds(c) {
		return true
	}
	for _, h := range r.hosts {
		if h.part == f && (h.f == c || h.f.holds(c)) {
			return true
		}
	}
	return false
}
