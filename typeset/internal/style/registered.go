package style

import (
	"slices"
	"strings"

	"oliveledger/typeset/internal/css"
)

// registration is what an @property rule says of a custom property (CSS Properties and
// Values API 1, §2).
type registration struct {
	syntax   syntax
	written  string // the syntax
	inherits bool
	initial  []css.Token // nil: the property has no value until one is given
}

// registrations are those of a document, by name.
type registrations map[string]*registration

// propertyRule reads an @property rule; the last valid one for a name holds.
func (a *adder) propertyRule(r *css.Rule) {
	w := css.Words(r.Prelude)
	if len(w) != 1 || w[0].Kind != css.Ident || !customName(w[0].Text) {
		a.tell(a.sheet.Sheet, r.Pos, "css-value", "@property needs a name that begins with two hyphens; the rule was left out")
		return
	}
	reg, why := register(r.Decls)
	if reg == nil {
		a.tell(a.sheet.Sheet, r.Pos, "css-value", "@property "+w[0].Text+" "+why+"; the rule was left out")
		return
	}
	if a.registered == nil {
		a.registered = registrations{}
	}
	a.registered[w[0].Text] = reg
}

// register reads the descriptors of a rule, or tells what is wrong with them (§2.1 to §2.4).
func register(list []css.Declaration) (reg *registration, why string) {
	reg = &registration{}
	hasSyntax, hasInherits := false, false
	for _, d := range list {
		words := css.Words(d.Value)
		switch strings.ToLower(d.Name) {
		case "syntax":
			if len(words) != 1 || words[0].Kind != css.String {
				return nil, "needs a syntax in quotes"
			}
			var ok bool
			if reg.syntax, ok = parseSyntax(words[0].Text); !ok {
				return nil, "has a syntax that is not understood"
			}
			reg.written, hasSyntax = words[0].Text, true
		case "inherits":
			if len(words) != 1 || !words[0].Is("true") && !words[0].Is("false") {
				return nil, "needs inherits: true or false"
			}
			reg.inherits, hasInherits = words[0].Is("true"), true
		case "initial-value":
			reg.initial = css.Trim(d.Value)
			if reg.initial == nil {
				reg.initial = []css.Token{}
			}
		}
	}
	switch {
	case !hasSyntax:
		return nil, "has no syntax"
	case !hasInherits:
		return nil, "does not say whether it inherits"
	case reg.syntax == nil: // anything goes, also nothing
	case reg.initial == nil:
		return nil, "has no initial-value"
	case !reg.syntax.accepts(reg.initial) || dependent(reg.initial):
		return nil, "has an initial-value that its syntax does not allow"
	}
	return reg, ""
}

// dependent tells whether a value depends on the element it stands on.
func dependent(list []css.Token) bool {
	return hasSubstitution(list) || slices.ContainsFunc(list, func(t css.Token) bool {
		return t.Kind == css.Dimension && relative[strings.ToLower(t.Unit)] || dependent(t.Args)
	})
}

// initialOf is the value of a property that nothing sets; nothing for one that is not
// registered.
func (r registrations) initialOf(name string) ([]css.Token, bool) {
	if reg := r[name]; reg != nil && reg.initial != nil {
		return reg.initial, true
	}
	return nil, false
}

// inherited is what the children of an element see of its custom properties.
func (r registrations) inherited(v *Vars) *Vars {
	if v == nil || len(r) == 0 {
		return v
	}
	if v.down == nil {
		v.down = v
		for name := range v.vals {
			if reg := r[name]; reg != nil && !reg.inherits {
				v.down = v.without(r)
				break
			}
		}
	}
	return v.down
}

// without leaves out the properties that do not inherit.
func (v *Vars) without(r registrations) *Vars {
	out := &Vars{vals: make(map[string][]css.Token, len(v.vals))}
	for name, t := range v.vals {
		if reg := r[name]; reg == nil || reg.inherits {
			out.vals[name] = t
		}
	}
	out.down = out
	return out
}

// custom is the value of a custom property on the element.
func (c *Computer) custom(name string) ([]css.Token, bool) {
	if v, ok := c.S.Vars.Get(name); ok {
		return v, true
	}
	return c.resolver.registered.initialOf(name)
}

// computeCustom turns lengths of registered properties that count from the element's font
// into px, since children inherit what they come to (§2.4). set lists what the element sets.
func (c *Computer) computeCustom(set map[string][]css.Token) {
	for name := range set {
		reg := c.resolver.registered[name]
		if reg == nil || reg.syntax == nil {
			continue
		}
		if v, ok := c.S.Vars.vals[name]; ok {
			c.S.Vars.vals[name] = c.absolute(v)
		}
	}
}

// absolute is a value with lengths by the font in px.
func (c *Computer) absolute(list []css.Token) []css.Token {
	out := slices.Clone(list)
	for i, t := range out {
		if t.Kind == css.Dimension && relative[strings.ToLower(t.Unit)] {
			out[i].Num, out[i].Unit = t.Num*c.unit(strings.ToLower(t.Unit)), "px"
		}
		out[i].Args = c.absolute(t.Args)
	}
	return out
}
