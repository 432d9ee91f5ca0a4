package paint

import (
	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/style"
)

// Outside gives the boxes whose fragments lie outside stacking contexts that they belong
// to, with the boxes that make those, the innermost last: a positioned box inside one with opacity is laid
// out in a containing block further up, and yet painted as a part of the group
// (CSS Positioned Layout 3, §4; CSS Color 4, §15.2).
type Outside map[*box.Box][]*box.Box

// FindOutside walks all boxes below root.
func FindOutside(root *box.Box) Outside {
	found := Outside{}
	found.look(root, nil, nil)
	return found
}

// look walks the children of b, with the stacking contexts below the containing blocks of
// absolutely positioned boxes and of fixed ones.
func (o Outside) look(b *box.Box, absolute, fixed []*box.Box) {
	for _, c := range b.Children {
		if c.Kind == box.Text || c.Kind == box.LineBreak {
			continue
		}
		switch s := c.Style; {
		case !c.Positioned():
		case s.Position == style.FixedKey:
			o.add(c, fixed)
		default:
			o.add(c, absolute)
		}
		inAbsolute, inFixed := absolute, fixed
		if stackingStyle(c.Style) || b.Style.Display.IsFlexOrGrid() && !c.Style.ZIndex.Auto {
			inAbsolute = append(absolute[:len(absolute):len(absolute)], c)
			inFixed = append(fixed[:len(fixed):len(fixed)], c)
		}
		if c.Style.HoldsPositioned() {
			inAbsolute = nil
		}
		if c.Style.HoldsFixed() {
			inFixed = nil
		}
		o.look(c, inAbsolute, inFixed)
	}
}

func (o Outside) add(b *box.Box, groups []*box.Box) {
	if len(groups) > 0 {
		o[b] = groups
	}
}

// adopt finds those fragments in f, and hands them to the context they belong to.
func (p *Painter) adopt(f *layout.Fragment, x, y float64) {
	type home struct {
		f     *layout.Fragment
		clips int
	}
	homes := map[*box.Box]home{}
	var away []entry
	var walk func(f *layout.Fragment, x, y float64, clips []clip)
	walk = func(f *layout.Fragment, x, y float64, clips []clip) {
		if c := overflowClip(f, x, y); c != nil {
			clips = append(clips[:len(clips):len(clips)], clip{c})
		}
		for _, k := range f.Kids {
			b := k.F.Box
			if k.F.Text != nil {
				continue
			}
			if b != nil && !k.F.Line {
				if homes[b].f == nil {
					homes[b] = home{k.F, len(clips)}
				}
				if len(p.Outside[b]) > 0 {
					away = append(away, entry{f: k.F, x: x + k.X, y: y + k.Y, z: b.Look().ZIndex.V, clips: clips, flat: !stacks(k.F)})
				}
			}
			walk(k.F, x+k.X, y+k.Y, clips)
		}
	}
	walk(f, x, y, nil)
	p.adopted, p.away = map[*layout.Fragment][]entry{}, map[*layout.Fragment]int{}
	for _, e := range away {
		groups := p.Outside[e.f.Box]
		for i := len(groups) - 1; i >= 0; i-- {
			// what clips the context and not the box would cut it as well
			if h := homes[groups[i]]; h.f != nil && h.clips <= len(e.clips) {
				e.clips = e.clips[h.clips:]
				p.adopted[h.f] = append(p.adopted[h.f], e)
				p.away[e.f] = i + 1
				break
			}
		}
	}
}

// faded paints what belongs to groups that are not on this page, or cannot hold it, with
// the look of those.
func (p *Painter) faded(f *layout.Fragment, draw func()) {
	groups := p.Outside[f.Box]
	alpha, blend := 1.0, style.Normal
	for _, b := range groups[min(p.away[f], len(groups)):] {
		s := b.Look()
		alpha *= s.Opacity
		if s.BlendMode != style.Normal {
			blend = s.BlendMode
		}
	}
	if alpha == 1 && blend == style.Normal {
		draw()
		return
	}
	p.group(p.C, display.Group{Alpha: alpha, Blend: display.BlendMode(blend)}, draw)
}
