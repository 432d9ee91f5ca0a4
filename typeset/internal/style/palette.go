package style

import (
	"strconv"
	"strings"

	"oliveledger/typeset/internal/css"
)

// FontPalette is font-palette: which colours a colour font is set in
// (CSS Fonts 4, §9.1). Nil is the font's first palette.
type FontPalette struct {
	Light, Dark bool
	Rules       []*PaletteRule // of the name asked for, the last first
}

// For is the rule for a font family, if any.
func (p *FontPalette) For(family string) *PaletteRule {
	if p == nil {
		return nil
	}
	for _, r := range p.Rules {
		for _, f := range r.Families {
			if strings.EqualFold(f, family) {
				return r
			}
		}
	}
	return nil
}

// PaletteRule is an @font-palette-values rule (§9.2).
type PaletteRule struct {
	Families    []string
	Base        int
	Light, Dark bool
	Override    map[int]Color
}

func parsePalette(v *values) (spec[*FontPalette], bool) {
	switch {
	case v.word("normal"):
		return fixed[*FontPalette](nil), true
	case v.word("light"):
		return fixed(&FontPalette{Light: true}), true
	case v.word("dark"):
		return fixed(&FontPalette{Dark: true}), true
	}
	name, ok := v.customIdent("")
	if !ok || !strings.HasPrefix(name, "--") {
		return nil, false
	}
	return func(c *Computer) *FontPalette { return &FontPalette{Rules: c.resolver.palettes[name]} }, true
}

// paletteValues reads an @font-palette-values rule.
func (a *adder) paletteValues(r *css.Rule) {
	w := css.Words(r.Prelude)
	if len(w) != 1 || w[0].Kind != css.Ident || !strings.HasPrefix(w[0].Text, "--") {
		a.tell(a.sheet.Sheet, r.Pos, "css-value", "@font-palette-values needs a name that begins with two hyphens; the rule was left out")
		return
	}
	p := &PaletteRule{Override: map[int]Color{}}
	for _, d := range r.Decls {
		v := &values{list: css.Words(d.Value)}
		switch d.Name {
		case "font-family":
			if families, ok := parseFamilies(v); ok && v.done() {
				p.Families = families(nil)
			}
		case "base-palette":
			p.base(v)
		case "override-colors":
			if over, ok := overrides(d.Value); ok {
				p.Override = over
			}
		}
	}
	if a.palettes == nil {
		a.palettes = map[string][]*PaletteRule{}
	}
	a.palettes[w[0].Text] = append([]*PaletteRule{p}, a.palettes[w[0].Text]...)
}

func (p *PaletteRule) base(v *values) {
	switch {
	case v.word("light"):
		p.Light = true
	case v.word("dark"):
		p.Dark = true
	default:
		if n, err := strconv.Atoi(strings.TrimSpace(css.Text(v.list))); err == nil && n >= 0 {
			p.Base = n
		}
	}
}

// overrides reads pairs of an entry and an absolute colour.
func overrides(list []css.Token) (map[int]Color, bool) {
	out := map[int]Color{}
	for _, part := range css.Split(list) {
		w := css.Words(part)
		if len(w) != 2 {
			return nil, false
		}
		n, err := strconv.Atoi(strings.TrimSpace(css.Text(w[:1])))
		col, ok := parseColor(w[1])
		if err != nil || n < 0 || !ok {
			return nil, false
		}
		c := col(&Computer{S: &Style{}})
		if c.Space == Current {
			return nil, false
		}
		out[n] = c
	}
	return out, true
}
