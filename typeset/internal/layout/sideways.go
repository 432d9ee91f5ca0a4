package layout

import (
	"math"
	"sort"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// cut cuts a set of placed children where the page ends: lines of a flex
// container, rows of a grid. What lies wholly above the end stays, what lies
// below moves on, and what is crossed is cut inside when it can be
// (Flexbox 1, §10; Grid 1, §10). The fragment's height is -1 when nothing fits.
func (x *flexBox) cut(f *Fragment, kids []flowKid, lines []*flexLine, from *Break, e edges) *Break {
	return x.l.cutPlaced(f, x.b, kids, from, x.sp, e, x.w, x.h)
}

// cutPlaced goes on from a break by moving everything up by what was used.
func (l *Layout) cutPlaced(f *Fragment, b *box.Box, kids []flowKid, from *Break, sp Space, e edges, w, h float64) *Break {
	put := func(k flowKid, y float64) {
		dx, dy := relative(k.b, w, h, isRTL(b))
		f.add(k.f, k.x, y, dx, dy)
	}
	if from == nil && (!sp.cutting() || f.H <= sp.Left+0.01 && reachOf(kids) <= sp.Left+0.01) && !l.forcedAmong(kids, sp) {
		for _, k := range kids {
			put(k, k.y)
		}
		return nil
	}
	clone := b.Style.BoxDecorationBreak == style.Clone
	topEdge, bottomEdge := 0.0, 0.0 // that each part has of its own
	if clone {
		topEdge, bottomEdge = e.top(), e.bottom()
	}
	used := 0.0
	parts := map[*box.Box]*Part{}
	if from != nil {
		used = from.Used
		parts = from.placed
		if !clone {
			f.Border[style.Top], f.Padding[style.Top] = 0, 0
		}
	}
	f.Before, f.Whole = used, f.H
	end := math.Max(sp.Left-bottomEdge, 0)
	sort.SliceStable(kids, func(i, j int) bool { return kids[i].y < kids[j].y })
	rest := &Break{placed: map[*box.Box]*Part{}}
	more := false
	limit := end // nothing below this is set here
	prevBottom, first := 0.0, true
	shift, growth, rowBottom := 0.0, 0.0, math.Inf(-1) // what items grew by as they were cut moves the rows below
	for i, k := range kids {
		p := parts[k.b]
		if p != nil && p.Done {
			rest.placed[k.b] = p
			continue
		}
		if k.y >= rowBottom-0.01 {
			shift, growth = shift+growth, 0
		}
		rowBottom = math.Max(rowBottom, k.y+k.f.H)
		y := k.y - used + shift
		planned := y + k.f.H
		var at *Break
		if p != nil {
			at = p.At
			y = topEdge
		} else if y < topEdge && from != nil {
			y = topEdge
		}
		if sp.cutting() && !first && y >= prevBottom-0.01 && i > 0 && p == nil {
			if forced := l.breakBetween(kids[i-1].b, k.b, sp.Column); forced != 0 && y < limit {
				limit, rest.Forced = y, forced
			}
		}
		if y >= limit-0.01 && !(sp.AtTop && first) {
			more = true
			limit = math.Min(limit, y)
			continue
		}
		frag, inner := k.f, (*Break)(nil)
		if at != nil || sp.cutting() && y+k.f.reach() > limit+0.01 {
			s := newSpace(w, h)
			s.FixedW = k.f.W
			s.Left, s.Page, s.Column = limit-y, sp.Page, sp.Column
			s.AtTop = sp.AtTop && y <= topEdge+0.01
			if k.b.Style.BreakInside == style.Avoid && !s.AtTop && k.f.H <= sp.Page {
				frag = nil
			} else {
				frag, inner = l.Lay(k.b, s, at)
			}
			if frag == nil || frag.H > limit-y+0.01 && inner == nil && !s.AtTop {
				if s.AtTop {
					s.Left = inf
					frag, inner = l.Lay(k.b, s, at)
				} else {
					more = true
					limit = math.Min(limit, math.Max(y, 0))
					continue
				}
			}
		}
		k.f = frag
		put(k, y)
		first = false
		prevBottom = math.Max(prevBottom, y+frag.H)
		if inner != nil {
			more = true
			rest.placed[k.b] = &Part{At: inner}
			rest.Appeal = max(rest.Appeal, inner.Appeal)
		} else {
			rest.placed[k.b] = &Part{Done: true}
			growth = math.Max(growth, y+frag.H-planned)
		}
	}
	if !more {
		if !known(h) { // rows grew as they were cut
			used -= shift + growth
		}
		f.H = math.Max(f.H-used, 0)
		if sp.cutting() && f.H > sp.Left+0.01 && sp.Left > 0 && known(h) {
			rest.Used = used + sp.Left
			f.H, f.Cut = sp.Left, true
			return rest
		}
		if from == nil { // it is whole after all
			f.Whole = 0
		}
		return nil
	}
	if first && !sp.AtTop {
		f.H = -1
		return nil
	}
	if math.IsInf(limit, 1) {
		limit = prevBottom
	}
	rest.Used = used + limit - shift - topEdge
	f.H, f.Cut = end+bottomEdge, true
	if math.IsInf(end, 1) {
		f.H = limit
	}
	if !clone {
		f.Border[style.Bottom], f.Padding[style.Bottom] = 0, 0
	}
	if b.Style.BreakInside == style.Avoid {
		rest.Appeal = 2
	}
	return rest
}

// reachOf is how far the lowest of placed children reaches.
func reachOf(kids []flowKid) (h float64) {
	for _, k := range kids {
		h = math.Max(h, k.y+k.f.reach())
	}
	return h
}

func (l *Layout) forcedAmong(kids []flowKid, sp Space) bool {
	if !sp.cutting() {
		return false
	}
	for i := 1; i < len(kids); i++ {
		if kids[i].y >= kids[i-1].y+kids[i-1].f.H-0.01 && l.breakBetween(kids[i-1].b, kids[i].b, sp.Column) != 0 {
			return true
		}
	}
	return false
}
