package typeset

import (
	"math"

	"oliveledger/typeset/internal/inspect"
	"oliveledger/typeset/internal/page"
	"oliveledger/typeset/internal/style"
)

// Probe asks what stands at a point of a page.
type Probe struct {
	Page int     `json:"page"` // from 1
	X    float64 `json:"x"`    // in px from the left of the sheet
	Y    float64 `json:"y"`    // in px from its top
}

// Probed is an element that stands at a point, and the rules that hold for it. Sizes are px of the sheet; sides are
// top, right, bottom and left.
type Probed struct {
	Element string        `json:"element"`          // such as <td class=sum>
	File    string        `json:"file,omitempty"`   // where its tag stands
	Line    int           `json:"line,omitempty"`   // of the tag
	Column  int           `json:"column,omitempty"` // of the tag
	Box     [4]float64    `json:"box"`              // left, top, width and height of its border box; all 0 where it has none, as rows of tables have
	Margin  [4]float64    `json:"margin"`           // auto margins count as 0
	Border  [4]float64    `json:"border"`           // widths of its borders
	Padding [4]float64    `json:"padding"`          // between its borders and what it holds
	Rules   []AppliedRule `json:"rules"`            // the strongest first
}

// AppliedRule is a rule that holds for an element.
type AppliedRule struct {
	Selector     string               `json:"selector"`                                           // as it is written; empty for attributes
	Origin       string               `json:"origin" oneof:"page user default inline attributes"` // page, user (before the page's own), default, inline (the style attribute) or attributes (others)
	File         string               `json:"file,omitempty"`                                     // that it stands in
	Line         int                  `json:"line,omitempty"`                                     // of the rule
	Column       int                  `json:"column,omitempty"`                                   // of the rule
	Declarations []AppliedDeclaration `json:"declarations"`                                       // in their order
}

// AppliedDeclaration is what a rule says, and what became of it.
type AppliedDeclaration struct {
	Property  string `json:"property"`                             // as it is written
	Value     string `json:"value"`                                // as it is written
	Important bool   `json:"important,omitempty"`                  // it is marked !important
	Fate      string `json:"fate" oneof:"won partly lost dropped"` // won, partly (another rule sets some of what it stands for), lost or dropped (it is not understood)
	Line      int    `json:"line,omitempty"`                       // in the rule's file
	Column    int    `json:"column,omitempty"`                     // in the rule's file
}

// fates are the words for what became of declarations.
var fates = map[style.Fate]string{style.Won: "won", style.Partly: "partly", style.Lost: "lost", style.Dropped: "dropped"}

// probed tells of the elements at a point; nothing when none was asked about.
func (s *setting) probed(p *page.Probe) []Probed {
	if p == nil {
		return nil
	}
	out := []Probed{}
	look := style.Initial()
	for _, h := range p.Hits {
		at := s.place(h.Node)
		if h.Box != nil {
			look = h.Box.Style
		}
		e := Probed{
			Element: inspect.NameOf(h.Node), File: s.o.Name, Line: at.Line, Column: at.Column,
			Box: rounded([4]float64{h.Rect.X, h.Rect.Y, h.Rect.W, h.Rect.H}), Margin: rounded(h.Margin), Border: rounded(h.Border), Padding: rounded(h.Padding), Rules: []AppliedRule{},
		}
		for _, a := range s.styles.Explain(h.Node, look) {
			e.Rules = append(e.Rules, s.appliedRule(a))
		}
		out = append(out, e)
	}
	return out
}

// rounded are sizes to a hundredth of a px.
func rounded(list [4]float64) [4]float64 {
	for i, v := range list {
		list[i] = math.Round(v*100) / 100
	}
	return list
}

// appliedRule is a rule with its places in the sources.
func (s *setting) appliedRule(a style.Applied) AppliedRule {
	r := AppliedRule{Selector: a.Selector, Origin: originOf(a), Declarations: []AppliedDeclaration{}}
	known := a.Line > 0 && a.Origin != style.UserAgent
	if known {
		r.File, r.Line, r.Column = s.inSheet(a.Sheet, a.Line, a.Col)
	}
	for _, d := range a.Decls {
		x := AppliedDeclaration{Property: d.Name, Value: d.Value, Important: d.Important, Fate: fates[d.Fate]}
		if known {
			_, x.Line, x.Column = s.inSheet(a.Sheet, d.Line, d.Col)
		}
		r.Declarations = append(r.Declarations, x)
	}
	return r
}

func originOf(a style.Applied) string {
	switch {
	case a.Inline:
		return "inline"
	case a.Hint:
		return "attributes"
	case a.Origin == style.UserAgent:
		return "default"
	case a.Origin == style.User:
		return "user"
	}
	return "page"
}
