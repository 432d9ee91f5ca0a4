package style

import (
	"slices"
	"strings"

	"oliveledger/typeset/internal/css"
)

// PropID numbers the longhand properties in the order they are computed.
type PropID int16

// property is one longhand: how its value is parsed, and set on a Style.
type property struct {
	name      string
	id        PropID
	inherited bool
	early     bool // others depend on it
	parse     func(*values) (any, bool)
	apply     func(*Computer, any)
	copy      func(dst, src *Style)
	logical   func(*Style) PropID // a flow-relative property: what it stands for
}

var (
	properties []*property
	byName     = map[string]*property{}
	shorthands = map[string]*shorthand{}
	aliases    = map[string]string{}
	hasLogical = map[PropID]bool{} // physical properties that a flow-relative one may stand for
)

// shorthand spreads a value over longhands.
type shorthand struct {
	name  string
	longs []string
	parse func(v *values, set func(name string, value any)) bool
}

// wide is a CSS-wide keyword (CSS Cascade 5, §7.3).
type wide uint8

const (
	wideInitial wide = iota + 1
	wideInherit
	wideUnset
	wideRevert
	wideRevertLayer
)

var wideKeywords = map[string]wide{"initial": wideInitial, "inherit": wideInherit, "unset": wideUnset, "revert": wideRevert, "revert-layer": wideRevertLayer}

// define registers a longhand whose computed value is at get(style).
func define[T any](name string, inherited bool, get func(*Style) *T, parse func(*values) (spec[T], bool)) *property {
	p := &property{
		name: name, id: PropID(len(properties)), inherited: inherited,
		parse: func(v *values) (any, bool) { return parse(v) },
		apply: func(c *Computer, x any) { *get(c.S) = x.(spec[T])(c) },
		copy:  func(dst, src *Style) { *get(dst) = *get(src) },
	}
	properties = append(properties, p)
	byName[name] = p
	return p
}

// words registers a property whose values are keywords.
func words(name string, inherited bool, set string, get func(*Style) *Keyword) *property {
	return define(name, inherited, get, func(v *values) (spec[Keyword], bool) {
		k, ok := v.oneOf(set)
		return fixed(k), ok
	})
}

// flowRelative registers a property that stands for a physical one, which
// depends on the writing mode (CSS Logical Properties 1).
func flowRelative(name string, like string, target func(*Style) string) {
	p := *byName[like]
	p.name, p.id = name, PropID(len(properties))
	p.logical = func(s *Style) PropID { return byName[target(s)].id }
	properties = append(properties, &p)
	byName[name] = &p
	for _, mode := range []Keyword{HorizontalTb, VerticalRl, VerticalLr, SidewaysLr} {
		for _, dir := range []Keyword{Ltr, Rtl} {
			hasLogical[p.logical(&Style{Inherited: Inherited{WritingMode: mode, Direction: dir}})] = true
		}
	}
}

func short(name string, longs string, parse func(v *values, set func(string, any)) bool) {
	shorthands[name] = &shorthand{name, strings.Fields(longs), parse}
}

// Decl is a declaration of one longhand, ready for the cascade.
type Decl struct {
	Prop      PropID
	Value     any // a spec of the property's type, wide, or *pending
	Important bool
	Custom    string // name of a custom property; Prop is then -1
	Tokens    []css.Token
}

// pending is a value that holds var() or another substitution, kept until the
// custom properties are known (CSS Variables 1, §3).
type pending struct {
	tokens []css.Token
	prop   string // the property or shorthand as written
	sheet  *Sheet // that it stands in
	pos    int
}

// Unknown tells why a declaration was dropped.
type Unknown struct {
	Name, Value string
	BadValue    bool // the property is known, the value is not
}

// longhands appends the longhands of a declaration of this sheet to out.
func (s *Sheet) longhands(d css.Declaration, out []Decl) ([]Decl, *Unknown) {
	if strings.HasPrefix(d.Name, "--") {
		if !customName(d.Name) || !validSubstitution(d.Value) {
			return out, unknown(d)
		}
		return append(out, Decl{Prop: -1, Custom: d.Name, Tokens: d.Value, Important: d.Important}), nil
	}
	name := d.Name
	if a, ok := aliases[name]; ok {
		name = a
	}
	if hasSubstitution(d.Value) {
		if !validSubstitution(d.Value) {
			return out, unknown(d)
		}
		pend := &pending{tokens: d.Value, prop: name, sheet: s, pos: d.Pos}
		ids := longhandIDs(name)
		if ids == nil {
			return out, unknown(d)
		}
		for _, id := range ids {
			out = append(out, Decl{Prop: id, Value: pend, Important: d.Important})
		}
		return out, nil
	}
	found := false
	ok := parseInto(name, d.Value, s.base, func(id PropID, value any) {
		found = true
		out = append(out, Decl{Prop: id, Value: value, Important: d.Important})
	})
	if !ok || !found {
		return out, unknown(d)
	}
	return out, nil
}

func unknown(d css.Declaration) *Unknown {
	name := d.Name
	if a, ok := aliases[name]; ok {
		name = a
	}
	known := byName[name] != nil || shorthands[name] != nil
	if !known && (strings.HasPrefix(name, "-") || noLoss(name, d.Value)) || forOneBrowser(d.Value) {
		return nil
	}
	return &Unknown{Name: d.Name, Value: css.Text(d.Value), BadValue: known}
}

// forOneBrowser tells a value that begins with a browser's prefix, such as -moz-box. A name of two hyphens
// is one's own: var() is forgotten around it.
func forOneBrowser(value []css.Token) bool {
	return len(value) > 0 && value[0].Kind == css.Ident && strings.HasPrefix(value[0].Text, "-") && !customName(value[0].Text)
}

// ignored properties, and those that begin as ignoredGroups do, have no meaning on
// paper; leaving them out is no loss.
var (
	ignored = func() map[string]bool {
		m := map[string]bool{}
		for name := range strings.FieldsSeq("cursor pointer-events user-select resize caret-color touch-action transition animation will-change speak color-scheme " +
			"text-rendering text-size-adjust shape-rendering font-smooth src backface-visibility transform-style forced-color-adjust behavior " +
			"interpolate-size overflow-anchor") {
			m[name] = true
		}
		return m
	}()
	ignoredGroups = []string{"transition-", "animation-", "scroll-", "scrollbar-", "overscroll-", "view-transition-"}
)

// noLoss tells whether a declaration that is left out would change nothing on paper.
func noLoss(name string, value []css.Token) bool {
	if name == "zoom" {
		return slices.Contains([]string{"1", "1.0", "100%", "normal"}, css.Text(value))
	}
	return ignored[name] || slices.ContainsFunc(ignoredGroups, func(group string) bool { return strings.HasPrefix(name, group) })
}

// parseInto parses value for a longhand or shorthand; nothing is set unless
// all of it parses.
func parseInto(name string, list []css.Token, base string, set func(PropID, any)) bool {
	w := css.Words(list)
	if len(w) == 1 && w[0].Kind == css.Ident {
		if k, ok := wideKeywords[w[0].Lower()]; ok {
			for _, id := range longhandIDs(name) {
				set(id, k)
			}
			return true
		}
	}
	v := &values{list: w, base: base}
	if p := byName[name]; p != nil {
		x, ok := p.parse(v)
		if !ok || !v.done() {
			return false
		}
		set(p.id, x)
		return true
	}
	sh := shorthands[name]
	if sh == nil {
		return false
	}
	vals := map[string]any{}
	if !sh.parse(v, func(n string, x any) { vals[n] = x }) || !v.done() {
		return false
	}
	for _, n := range sh.longs {
		x, ok := vals[n]
		if !ok {
			x = wideInitial
		}
		set(byName[n].id, x)
	}
	return true
}

func longhandIDs(name string) []PropID {
	if p := byName[name]; p != nil {
		return []PropID{p.id}
	}
	if name == "all" {
		var ids []PropID
		for _, p := range properties {
			if p.name != "direction" && p.name != "unicode-bidi" && p.logical == nil {
				ids = append(ids, p.id)
			}
		}
		return ids
	}
	sh := shorthands[name]
	if sh == nil {
		return nil
	}
	ids := make([]PropID, len(sh.longs))
	for i, n := range sh.longs {
		ids[i] = byName[n].id
	}
	return ids
}

// Supports tells whether a declaration would be taken (CSS Conditional 3, §6).
func Supports(name string, value []css.Token) bool {
	name = strings.ToLower(name)
	if strings.HasPrefix(name, "--") {
		return customName(name) && validSubstitution(value)
	}
	if a, ok := aliases[name]; ok {
		name = a
	}
	if hasSubstitution(value) {
		return longhandIDs(name) != nil && validSubstitution(value)
	}
	if name == "all" && len(css.Words(value)) == 1 {
		return isWide(css.Words(value)[0].Text)
	}
	return parseInto(name, value, "", func(PropID, any) {})
}

func init() {
	defineFont()
	defineText()
	defineBox()
	definePaint()
	defineEffects()
	defineLayout()
	defineSVG()
	definePage()
	definePaged()
}

// IsProperty tells whether a declaration is of the named longhand.
func IsProperty(d Decl, name string) bool { return d.Prop >= 0 && properties[d.Prop].name == name }
