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
		if n.Name == "canvas" { // its bitmap is as large as these say (HTML, §4.12.5)
			if v := n.Number("width", w); v >= 0 {
				w = v
			}
			if v := n.Number("height", h); v >= 0 {
				h = v
			}
		}
		p := &picture.Picture{W: w, H: h}
		if n.Name != "iframe" && w > 0 && h > 0 {
			p.Ratio = w / h
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
	if p := n.Parent; p != nil && p.Name == "picture" {
		for s := p.First; s != nil && s != n; s = s.Next {
			if s.Name == "source" && s.Has("srcset") && style.MatchMediaText(s.Attr("media"), b.Styles.Env()) && knownType(s.Attr("type")) {
				return sharpest(s.Attr("srcset"), n.Attr("src"))
			}
		}
	}
	return sharpest(n.Attr("srcset"), n.Attr("src"))
}

// sharpest is the candidate with most pixels of a srcset attribute (HTML, §4.8.4.2.2);
// without one it is src.
func sharpest(set, src string) string {
	best, density := src, 0.0
	for set != "" {
		set = strings.TrimLeft(set, " \t\n\f\r,")
		end := strings.IndexAny(set, " \t\n\f\r") // an address may hold commas, though not at its end
		if end < 0 {
			end = len(set)
		}
		address, rest := set[:end], set[end:]
		descriptors := ""
		if bare := strings.TrimRight(address, ","); bare != address {
			address = bare
		} else {
			descriptors, rest, _ = strings.Cut(rest, ",")
		}
		set = rest
		if d := densityOf(descriptors); address != "" && d > density {
			best, density = address, d
		}
	}
	return best
}

// densityOf is the width or density that descriptors of a candidate name.
func densityOf(descriptors string) float64 {
	for f := range strings.FieldsSeq(descriptors) {
		if v, err := strconv.ParseFloat(strings.TrimRight(f, "xw"), 64); err == nil && !strings.HasSuffix(f, "h") {
			return v
		}
	}
	return 1
}

func knownType(t string) bool {
	switch t {
	case "", "image/png", "image/jpeg", "image/gif", "image/webp", "image/svg+xml", "image/bmp":
		return true
	}
	return false
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
