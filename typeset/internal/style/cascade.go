package style

import (
	"slices"

	"oliveledger/typeset/internal/css"
)

// level is a rule's declarations that are important, or those that are not.
type level struct {
	*match
	important bool
}

// levels puts rules, which come in ascending order, in the order of the cascade: what is not important first, then
// what is, with origins and layers turned round (Cascade 5, §6.1).
func levels(matched []*match) []level {
	list := make([]level, 0, len(matched))
	hasImportant := false
	for _, m := range matched {
		list = append(list, level{m, false})
		hasImportant = hasImportant || slices.ContainsFunc(m.decls, func(d Decl) bool { return d.Important })
	}
	if !hasImportant {
		return list
	}
	turned := slices.Clone(matched)
	slices.SortStableFunc(turned, func(a, b *match) int {
		if a.origin != b.origin {
			return int(b.origin) - int(a.origin)
		}
		if a.inline == b.inline {
			return b.layer - a.layer
		}
		return 0
	})
	for _, m := range turned {
		list = append(list, level{m, true})
	}
	return list
}

// winner is the declaration that won for a property, and its place in the order: the level, and the place in that.
type winner struct {
	d         *Decl
	level, at int
}

// later tells whether a stands after b in the order of the cascade.
func (w winner) later(b winner) bool {
	if w.level != b.level {
		return w.level > b.level
	}
	return w.at > b.at
}

// cascade is the state while the winning declarations of an element are applied.
type cascade struct {
	*Computer
	levels   []level
	touched  []PropID // that some declaration is of, in the order of the properties
	custom   map[string][]css.Token
	usesAttr bool // an attribute took part
}

// run applies the winning declaration of each property (Cascade 5, §6). It tells whether an attribute took part.
func (c *Computer) run(matched []*match) (usesAttr bool) {
	k := cascade{Computer: c, levels: levels(matched)}
	wins := c.resolver.wins
	defer k.forget(wins) // also where a page takes too long and is ended in the middle
	k.find(wins)
	c.S.Vars = c.resolver.registered.inherited(c.Parent.Vars)
	if k.custom != nil {
		c.S.Vars = resolveVars(c.Parent.Vars, c.resolver.registered, k.custom, c.node, c.tellOfNode)
		k.usesAttr = anyAttr(k.custom)
	}
	c.em = c.Parent.FontSize
	if c.isRoot {
		c.em = initial.FontSize
	}
	for _, id := range k.touched {
		if properties[id].early {
			k.apply(id, wins[id])
		}
	}
	c.sizeOfFamily()
	c.em = c.S.FontSize
	c.computeCustom(k.custom)
	k.late(wins)
	return k.usesAttr
}

// forget clears wins for the next element.
func (k *cascade) forget(wins []winner) {
	for _, id := range k.touched {
		wins[id] = winner{}
	}
}

// find notes which declarations win, in wins by their properties, and the custom properties.
func (k *cascade) find(wins []winner) {
	for li, l := range k.levels {
		for i := range l.decls {
			d := &l.decls[i]
			switch {
			case d.Important != l.important:
			case d.Prop < 0:
				if k.custom == nil {
					k.custom = map[string][]css.Token{}
				}
				k.custom[d.Custom] = d.Tokens
			default:
				if wins[d.Prop].d == nil {
					k.touched = append(k.touched, d.Prop)
				}
				wins[d.Prop] = winner{d, li, i}
			}
		}
	}
	slices.Sort(k.touched)
}

// late applies what needs the font's size and the writing mode. Flow-relative properties take part as the physical
// ones they stand for.
func (k *cascade) late(wins []winner) {
	var final map[PropID]winner
	var ids []PropID
	for _, id := range k.touched {
		p := properties[id]
		if p.early {
			continue
		}
		to := id
		if p.logical != nil {
			to = p.logical(k.S)
		} else if !hasLogical[id] {
			k.apply(id, wins[id])
			continue
		}
		if final == nil {
			final = map[PropID]winner{}
		}
		old, ok := final[to]
		if !ok {
			ids = append(ids, to)
		}
		if !ok || wins[id].later(old) {
			final[to] = wins[id]
		}
	}
	for _, id := range ids {
		k.apply(id, final[id])
	}
}

// mostReverts is how often a declaration may give way to an earlier one that gives way itself.
const mostReverts = 10

// apply sets a property to the value that has won.
func (k *cascade) apply(id PropID, w winner) {
	value := w.d.Value
	for range mostReverts {
		to, ok := value.(wide)
		if !ok || to != wideRevert && to != wideRevertLayer {
			break
		}
		value = wideUnset
		if earlier, ok := k.before(w, to); ok {
			w, value = earlier, earlier.d.Value
		}
	}
	k.usesAttr = k.set(properties[id], w.d.Prop, value) || k.usesAttr
}

// before is the declaration that revert and revert-layer give way to (Cascade 5, §7.3).
func (k *cascade) before(w winner, to wide) (winner, bool) {
	here := k.levels[w.level]
	for li := w.level - 1; li >= 0; li-- {
		l := k.levels[li]
		if l.important || to == wideRevert && l.origin >= here.origin || to == wideRevertLayer && l.sameLayer(here) {
			continue
		}
		for i := len(l.decls) - 1; i >= 0; i-- {
			if d := &l.decls[i]; d.Prop == w.d.Prop && !d.Important {
				return winner{d, li, i}, true
			}
		}
	}
	return winner{}, false
}

// sameLayer tells whether two levels are of one layer.
func (l level) sameLayer(b level) bool {
	return l.origin == b.origin && l.layer == b.layer && l.inline == b.inline && l.hint == b.hint
}
