package box

import (
	"strconv"
	"strings"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
)

// replaced fills in a box whose contents come from elsewhere; false for
// ordinary elements.
func (b *Builder) replaced(x *Box) bool {
	n := x.Node
	if n.Foreign {
		if n.Name == "svg" && (n.Parent == nil || !n.Parent.Foreign) {
			x.Kind = Replaced
			x.Picture = b.Inline(n, x.Style)
			return true
		}
		return false
	}
	switch n.Name {
	case "img":
		return b.img(x, b.source(n))
	case "input":
		if strings.EqualFold(n.Attr("type"), "image") {
			return b.img(x, n.Attr("src"))
		}
	case "object", "embed":
		if src := n.Attr("data") + n.Attr("src"); src != "" {
			if p := b.Pictures(src, n); p != nil {
				x.Kind, x.Picture = Replaced, shown(p, x.Style)
				return true
			}
		}
	case "iframe", "video", "canvas":
		w, h := 300.0, 150.0
		p := &picture.Picture{W: w, H: h, Ratio: w / h}
		if n.Name == "iframe" {
			p.Ratio = 0
		}
		if poster := n.Attr("poster"); poster != "" {
			if q := b.Pictures(poster, n); q != nil {
				p = q
			}
		}
		x.Kind, x.Picture = Replaced, p
		return true
	}
	return false
}

// img falls back to the alternative text when there is no picture
// (HTML, §15.4.2).
func (b *Builder) img(x *Box, src string) bool {
	alt := x.Node.Attr("alt")
	if src != "" {
		if p := b.Pictures(src, x.Node); p != nil {
			x.Kind, x.Picture = Replaced, shown(p, x.Style)
			return true
		}
	}
	if alt != "" {
		x.Children = []*Box{{Kind: Text, Node: x.Node, Order: x.Order, Style: x.Style, Text: alt}}
		if x.Style.Display.Outer == style.Inline && (x.Style.Width.Kind == style.Length || x.Style.Height.Kind == style.Length) {
			s := *x.Style
			s.Display.Inner = style.FlowRoot
			x.Style = &s
			x.Children[0].Style = &s
		}
		return false
	}
	x.Kind, x.Picture = Replaced, &picture.Picture{}
	return true
}

// source picks the sharpest picture of srcset and picture (HTML, §4.8.4).
func (b *Builder) source(n *markup.Node) string {
	best, density := n.Attr("src"), 0.0
	try := func(set string) {
		for part := range strings.SplitSeq(set, ",") {
			f := strings.Fields(part)
			if len(f) == 0 {
				continue
			}
			d := 1.0
			if len(f) > 1 {
				v, err := strconv.ParseFloat(strings.TrimRight(f[1], "xw"), 64)
				if err == nil {
					d = v
				}
			}
			if d > density {
				best, density = f[0], d
			}
		}
	}
	if p := n.Parent; p != nil && p.Name == "picture" {
		for s := p.First; s != nil && s != n; s = s.Next {
			if s.Name == "source" && s.Has("srcset") && style.MatchMediaText(s.Attr("media"), b.Styles.Env()) && knownType(s.Attr("type")) {
				try(s.Attr("srcset"))
				return best
			}
		}
	}
	if set := n.Attr("srcset"); set != "" && !strings.Contains(set, "data:") {
		try(set)
	}
	return best
}

func knownType(t string) bool {
	switch t {
	case "", "image/png", "image/jpeg", "image/gif", "image/webp", "image/svg+xml", "image/bmp":
		return true
	}
	return false
}

// control gives form controls their static contents (HTML, §15.5).
func (b *Builder) control(n *markup.Node, s *style.Style) ([]*Box, bool) {
	if n.Foreign {
		return nil, false
	}
	text := func(t string) []*Box {
		if t == "" {
			t = "\u200B"
		}
		return []*Box{{Kind: Text, Node: n, Order: b.order, Style: s, Text: t}}
	}
	switch n.Name {
	case "input":
		t := strings.ToLower(n.Attr("type"))
		v := n.Attr("value")
		switch t {
		case "checkbox", "radio":
			return nil, true
		case "submit", "reset":
			if v == "" {
				v = map[string]string{"submit": "Submit", "reset": "Reset"}[t]
			}
		case "password":
			v = strings.Repeat("•", len([]rune(v)))
		case "range", "color":
			return nil, true
		case "file":
			return append(b.fileButton(n, s), text("No file chosen")...), true
		}
		if v == "" {
			v = n.Attr("placeholder")
		}
		return text(v), true
	case "textarea":
		v := strings.TrimPrefix(n.Content(), "\n")
		if v == "" {
			v = n.Attr("placeholder")
		}
		return text(v), true
	case "select":
		var first, chosen *markup.Node
		n.Walk(func(c *markup.Node) bool {
			if c.Name == "option" {
				if first == nil {
					first = c
				}
				if c.Has("selected") {
					chosen = c
				}
			}
			return true
		})
		if chosen == nil {
			chosen = first
		}
		if chosen == nil {
			return text(""), true
		}
		return text(strings.Join(strings.Fields(chosen.Content()), " ")), true
	case "progress", "meter":
		return []*Box{b.bar(n, s)}, true
	}
	return nil, false
}

// fileButton is the ::file-selector-button of a control for files (CSS Pseudo 4, §6).
func (b *Builder) fileButton(n *markup.Node, parent *style.Style) []*Box {
	const pseudo = "file-selector-button"
	s := b.Styles.Style(n, pseudo, parent)
	if s == nil || s.Display.Outer == style.None {
		return nil
	}
	label := &Box{Kind: Text, Node: n, rare: &Rare{Pseudo: pseudo}, Order: b.order, Style: s, Text: "Choose file"}
	return []*Box{{Node: n, rare: &Rare{Pseudo: pseudo}, Order: b.order, Style: s, Children: []*Box{label}}}
}

// bar is the filled part of a progress or meter element.
func (b *Builder) bar(n *markup.Node, s *style.Style) *Box {
	lo, hi := n.Number("min", 0), n.Number("max", 1)
	share := 0.0
	if hi > lo {
		share = min(max((n.Number("value", 0)-lo)/(hi-lo), 0), 1)
	}
	m := style.Anonymous(s, style.Display{Outer: style.Block, Inner: style.FlowRoot})
	m.BackgroundColor = style.RGB8(0, 0x75, 0xFF)
	m.Width = style.Size{Kind: style.Length, LP: style.LP{Pct: 100 * share}}
	m.Height = style.Size{Kind: style.Length, LP: style.LP{Pct: 100}}
	return &Box{Style: m, Anon: true}
}

// shown is the picture as its style wants it: turned, and cut to
// object-view-box.
func shown(p *picture.Picture, s *style.Style) *picture.Picture {
	p = p.Turned(s.ImageOrientation != style.None)
	if v := s.ObjectViewBox; v != nil && p.W > 0 && p.H > 0 {
		return p.Part(display.Rect{W: p.W, H: p.H}.Inset(v.Inset[0].Of(p.H), v.Inset[1].Of(p.W), v.Inset[2].Of(p.H), v.Inset[3].Of(p.W)))
	}
	return p
}
