package style

import (
	"slices"
	"strings"

	"oliveledger/typeset/internal/css"
)

// MarginBoxes names the sixteen margin boxes (CSS Page 3, §5.1), clockwise
// from the top left corner.
var MarginBoxes = []string{
	"top-left-corner", "top-left", "top-center", "top-right", "top-right-corner",
	"right-top", "right-middle", "right-bottom", "bottom-right-corner", "bottom-right", "bottom-center", "bottom-left", "bottom-left-corner",
	"left-bottom", "left-middle", "left-top",
}

var isMarginBox = func() map[string]bool {
	m := map[string]bool{}
	for _, n := range MarginBoxes {
		m[n] = true
	}
	return m
}()

// PageSize is the computed size property of a page: px, or zero for auto.
type PageSize struct {
	W, H        float64
	Orientation string // portrait, landscape, or ""
}

// pageSizes in mm, portrait (CSS Page 3, §7.1).
var pageSizes = map[string][2]float64{
	"a3": {297, 420}, "a4": {210, 297}, "a5": {148, 210}, "b4": {250, 353}, "b5": {176, 250},
	"jis-b4": {257, 364}, "jis-b5": {182, 257}, "letter": {215.9, 279.4}, "legal": {215.9, 355.6}, "ledger": {279.4, 431.8},
	"a0": {841, 1189}, "a1": {594, 841}, "a2": {420, 594}, "a6": {105, 148}, "a7": {74, 105},
}

// ParsePageSize parses the value of size.
func ParsePageSize(text string) (PageSize, bool) {
	v := &values{list: css.Words(css.ParseValues(text))}
	s, ok := parsePageSize(v)
	if !ok || !v.done() {
		return PageSize{}, false
	}
	c := &Computer{S: initial, Parent: initial, em: 16, resolver: &Resolver{fonts: plainFonts{}}}
	return s(c), true
}

func parsePageSize(v *values) (spec[PageSize], bool) {
	var out PageSize
	named, any := false, false
	var w, h spec[float64]
	for !v.done() {
		any = true
		t := v.peek()
		if mm, ok := pageSizes[t.Lower()]; ok && t.Kind == css.Ident && !named {
			named = true
			out.W, out.H = mm[0]*96/25.4, mm[1]*96/25.4
			v.pos++
		} else if (t.Is("portrait") || t.Is("landscape")) && out.Orientation == "" {
			out.Orientation = t.Lower()
			v.pos++
		} else if t.Is("auto") && len(v.list) == 1 {
			v.pos++
		} else if l, ok := v.length(true); ok && w == nil {
			w = l
			h = l
			if m, ok := v.length(true); ok {
				h = m
			}
		} else {
			return nil, false
		}
	}
	if named && w != nil || !any || w != nil && out.Orientation != "" {
		return nil, false
	}
	return func(c *Computer) PageSize {
		s := out
		if w != nil {
			s.W, s.H = w(c), h(c)
		}
		if s.Orientation == "landscape" && s.W < s.H || s.Orientation == "portrait" && s.W > s.H {
			s.W, s.H = s.H, s.W
		}
		return s
	}, true
}

func (a *adder) pageRule(r *css.Rule, layer string) {
	for _, sel := range css.Split(r.Prelude) {
		p := PageRule{Origin: a.origin, Sheet: a.sheet.Name, Margins: map[string][]Decl{}, layer: a.layerRef(layer)}
		a.order++
		p.Order = a.order
		if !p.parseSelector(sel) {
			a.tell(a.sheet.Sheet, r.Pos, "css-selector", "the page selector “"+css.Text(r.Prelude)+"” is not understood; its rule was left out")
			return
		}
		p.Decls = a.ruleDecls(r.Decls, nil)
		for i := range r.Rules {
			if m := &r.Rules[i]; isMarginBox[m.At] || m.At == "footnote" {
				p.Margins[m.At] = append(p.Margins[m.At], a.ruleDecls(m.Decls, nil)...)
			}
		}
		a.Pages = append(a.Pages, p)
	}
}

func (p *PageRule) parseSelector(sel []css.Token) bool {
	for i := 0; i < len(sel); i++ {
		t := sel[i]
		switch {
		case t.Kind == css.Ident && i == 0:
			p.Name = t.Text
		case t.Kind == css.Colon && i+1 < len(sel):
			i++
			t = sel[i]
			name := strings.ToLower(t.Text)
			switch {
			case t.Kind == css.Ident && (name == "first" || name == "left" || name == "right" || name == "blank"):
				p.Pseudos = append(p.Pseudos, name)
			case t.Kind == css.Function && name == "nth":
				args, group := ofGroup(t.Args)
				a, b, ok := css.ParseNth(args)
				if !ok {
					return false
				}
				p.Nth, p.NthOf = &[2]int{a, b}, group
			default:
				return false
			}
		default:
			return false
		}
	}
	return true
}

// ofGroup splits what :nth() counts from the page group that it counts in, if it
// names one: “2 of chapter” (GCPM 3, §4.2).
func ofGroup(args []css.Token) (nth []css.Token, group string) {
	w := css.Words(args)
	n := len(w)
	if n < 3 || w[n-1].Kind != css.Ident || !w[n-2].Is("of") {
		return args, ""
	}
	return w[:n-2], w[n-1].Text
}

// specificity follows CSS Page 3, §4.3; the name of a page group counts as one of
// a page.
func (p *PageRule) specificity() [3]int32 {
	var s [3]int32
	if p.Name != "" || p.NthOf != "" {
		s[0]++
	}
	for _, x := range p.Pseudos {
		if x == "first" || x == "blank" {
			s[1]++
		} else {
			s[2]++
		}
	}
	if p.Nth != nil {
		s[1]++
	}
	return s
}

// PageContext tells which page a page rule is matched against.
type PageContext struct {
	Name  string
	Index int // from 1
	Left  bool
	Blank bool
	Group int // place among the pages of its page group, from 1
}

// HasMarginContent tells whether some margin box has content, which may show
// the document's counters.
func (r *Resolver) HasMarginContent() bool {
	for i := range r.Pages {
		for _, decls := range r.Pages[i].Margins {
			for j := range decls {
				if IsProperty(decls[j], "content") {
					return true
				}
			}
		}
	}
	return false
}

// FillsMargin tells whether the author's rules fill a margin box, those of one sheet
// aside.
func (r *Resolver) FillsMargin(name, aside string) bool {
	return slices.ContainsFunc(r.Pages, func(p PageRule) bool {
		return p.Origin == Author && p.Sheet != aside && slices.ContainsFunc(p.Margins[name], func(d Decl) bool { return IsProperty(d, "content") })
	})
}

// SetsPage tells whether the author's rules set a property of pages, or a longhand of
// it, those of one sheet aside.
func (r *Resolver) SetsPage(property, aside string) bool {
	return slices.ContainsFunc(r.Pages, func(p PageRule) bool {
		return p.Origin == Author && p.Sheet != aside && slices.ContainsFunc(p.Decls, func(d Decl) bool {
			return d.Prop >= 0 && (properties[d.Prop].name == property || strings.HasPrefix(properties[d.Prop].name, property+"-"))
		})
	})
}

// Matches tells whether the rule applies to a page.
func (p *PageRule) Matches(c PageContext) bool {
	if p.Name != "" && p.Name != c.Name {
		return false
	}
	for _, x := range p.Pseudos {
		ok := map[string]bool{"first": c.Index == 1, "left": c.Left, "right": !c.Left, "blank": c.Blank}[x]
		if !ok {
			return false
		}
	}
	if p.NthOf != "" {
		return p.NthOf == c.Name && c.Group > 0 && nth(p.Nth[0], p.Nth[1], c.Group)
	}
	return p.Nth == nil || nth(p.Nth[0], p.Nth[1], c.Index)
}

func definePage() {
	define("bleed", false, func(s *Style) *Size { return &s.Bleed }, size("auto", true))
	define("marks", false, func(s *Style) *bool { return &s.CropMarks }, func(v *values) (spec[bool], bool) {
		crop, cross := false, false
		if !v.word("none") {
			for !v.done() {
				switch {
				case v.word("crop") && !crop:
					crop = true
				case v.word("cross") && !cross:
					cross = true
				default:
					return nil, false
				}
			}
		}
		return func(c *Computer) bool { // one property, two marks
			c.S.CrossMarks = cross
			return crop
		}, true
	})
	words("page-orientation", false, "upright rotate-left rotate-right", func(s *Style) *Keyword { return &s.PageOrientation })
	define("size", false, func(s *Style) *PageSize { return &s.PageSize }, parsePageSize)
}
