package box

import (
	"math"
	"slices"
	"strings"

	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// control gives form controls their static contents (HTML, §15.5).
func (b *Builder) control(n *markup.Node, s *style.Style) ([]*Box, bool) {
	if n.Foreign {
		return nil, false
	}
	switch n.Name {
	case "input":
		return b.input(n, s), true
	case "textarea":
		mean := b.Styles.Fonts().Metrics(s).Mean * s.FontSize
		rows := float64(n.Count("rows", 2)) * style.LineHeightPx(s, b.Styles.Fonts())
		return b.field(n, s, strings.TrimPrefix(n.Content(), "\n"), room{math.Ceil(float64(n.Count("cols", 20))*mean) + scrollBar, rows}), true
	case "select":
		if n.Has("multiple") || n.Count("size", 1) > 1 {
			return b.listBox(n, s), true
		}
		return b.dropDown(n, s), true
	case "progress", "meter":
		return []*Box{b.bar(n, s)}, true
	}
	return nil, false
}

// controlStyle is the style of an element that may be a form control: one is atomic
// in its line, and what it holds is set as a block, whatever its display asks for
// (HTML, §15.5.1).
func (b *Builder) controlStyle(n *markup.Node, s *style.Style) *style.Style {
	if n.Name == "input" && s.Appearance != style.None && ticks(n) { // they have no padding
		of := s
		s = b.Styles.Variant(of, ticked{}, func() *style.Style {
			v := *of
			v.Padding = [4]style.LP{}
			return &v
		})
	}
	d := s.Display
	if n.Foreign || d.Inner == style.FlowRoot || d.Outer != style.Inline && d.Inner == style.Flow {
		return s
	}
	switch n.Name {
	case "input", "select", "textarea", "meter", "progress":
		d.Inner = style.FlowRoot
		return b.Styles.Displayed(s, d)
	case "button":
		if d.Inner == style.Flow {
			d.Inner = style.FlowRoot
			return b.Styles.Displayed(s, d)
		}
	}
	return s
}

// ticks tells whether an input is a box to tick.
func ticks(n *markup.Node) bool {
	t := n.Attr("type")
	return strings.EqualFold(t, "checkbox") || strings.EqualFold(t, "radio")
}

// scrollBar is the room that a text area has for a scroll bar, in px, as browsers have it.
const scrollBar = 15

// controlText is a text in a control; an empty one keeps its line.
func (b *Builder) controlText(n *markup.Node, s *style.Style, text string) *Box {
	if text == "" {
		text = "\u200B"
	}
	return &Box{Kind: Text, Node: n, Order: b.order, Style: s, Text: text}
}

func (b *Builder) input(n *markup.Node, s *style.Style) []*Box {
	t, v := strings.ToLower(n.Attr("type")), n.Attr("value")
	switch t {
	case "checkbox", "radio", "range", "color":
		return nil
	case "image": // what stands in the place of its picture is there already
		return nil
	case "submit", "reset", "button":
		if v == "" {
			v = map[string]string{"submit": "Submit", "reset": "Reset"}[t]
		}
		return []*Box{b.controlText(n, s, v)}
	case "file":
		return append(b.fileButton(n, s), b.controlText(n, s, "No file chosen"))
	case "password":
		v = strings.Repeat("•", len([]rune(v)))
	}
	if em, ok := pickers[t]; ok {
		return b.field(n, s, v, room{w: math.Round(em * s.FontSize)})
	}
	m := b.Styles.Fonts().Metrics(s) // characters of the mean width, one of the greatest, as browsers have it
	return b.field(n, s, v, room{w: math.Round(m.Mean*s.FontSize)*float64(n.Count("size", 20)-1) + math.Round(m.Widest*s.FontSize)})
}

// pickers are the widths of controls for dates and times, in em, as browsers have them.
var pickers = map[string]float64{"date": 8.7, "month": 10.97, "time": 7.1, "week": 10.4, "datetime-local": 15.17}

// Variants of a control's style, by the part of it.
type (
	fieldValue struct{ whole bool }
	room       struct{ w, h float64 } // px; h is 0 for that of the text
	option     struct{ height, above, lead, trail float64 }
	unseen     struct{}
	chosen     struct{}
	ticked     struct{}
)

// field is what a control with a line or an area of text holds. It is as large as the
// room is, however long the text.
func (b *Builder) field(n *markup.Node, s *style.Style, text string, r room) []*Box {
	if text == "" && n.Attr("placeholder") != "" {
		text = n.Attr("placeholder")
		if p := b.Styles.Style(n, "placeholder", s); p != nil {
			s = p
		}
	}
	block := style.Display{Outer: style.Block, Inner: style.FlowRoot}
	value := b.Styles.Variant(s, fieldValue{r.h == 0}, func() *style.Style {
		v := style.Anonymous(s, block)
		if v.Contain.Inline = true; r.h > 0 { // over the room, which it may be longer than
			v.Height = style.Size{Kind: style.Length}
		}
		return v
	})
	spacer := b.Styles.Variant(s, r, func() *style.Style {
		v := style.Anonymous(s, block)
		v.Width = style.Size{Kind: style.Length, LP: style.Px(r.w)}
		v.Height = style.Size{Kind: style.Length, LP: style.Px(r.h)}
		v.MaxWidth = style.Size{Kind: style.Length, LP: style.LP{Pct: 100}}
		return v
	})
	return []*Box{{Style: value, Anon: true, Children: []*Box{b.controlText(n, value, text)}}, {Style: spacer, Anon: true}}
}

// options lists those of a select element, and which of them is chosen; -1 for none.
func options(n *markup.Node) (list []string, at int) {
	at = -1
	n.Walk(func(o *markup.Node) bool {
		if o.Name == "option" {
			if o.Has("selected") {
				at = len(list)
			}
			list = append(list, strings.Join(strings.Fields(o.Content()), " "))
		}
		return true
	})
	return list, at
}

// dropDown shows the option that is chosen. The control is as wide as the longest one.
func (b *Builder) dropDown(n *markup.Node, s *style.Style) []*Box {
	list, at := options(n)
	shown := ""
	if len(list) > 0 {
		shown = list[max(at, 0)]
	}
	look := option{above: 1, lead: 4, trail: 16}
	if s.Appearance == style.None { // without the arrow
		look = option{}
	}
	value := b.option(n, s, look, shown)
	if icon := b.Styles.Style(n, "picker-icon", s); icon != nil && s.Appearance != style.None {
		of := value.Style
		value.Style = b.Styles.Variant(of, icon, func() *style.Style {
			v := *of
			v.Background = icon.Background
			edge := s.Padding[style.Right].Px // the arrow stands at the edge of the control, whatever its padding is
			v.Padding[style.Right].Px += edge
			v.Margin[style.Right] = style.Size{Kind: style.Length, LP: style.Px(-edge)}
			return &v
		})
	}
	var out []*Box
	slices.SortStableFunc(list, func(x, y string) int { return len(y) - len(x) })
	list = slices.DeleteFunc(list, func(t string) bool { return t == shown })
	for _, longest := range list[:min(len(list), 3)] { // by their letters: that is about their width
		o := b.option(n, s, look, longest)
		of := o.Style
		o.Style = b.Styles.Variant(of, unseen{}, func() *style.Style {
			v := *of
			v.Height, v.Visibility = style.Size{Kind: style.Length}, style.Hidden
			v.Padding[style.Top], v.Padding[style.Bottom] = style.LP{}, style.LP{}
			return &v
		})
		o.Children[0].Style = o.Style
		out = append(out, o)
	}
	return append(out, value)
}

// option is one line of a select element: as high as letters are, whatever the line
// height is, unless the element looks like any other.
func (b *Builder) option(n *markup.Node, s *style.Style, look option, text string) *Box {
	m := b.Styles.Fonts().Metrics(s)
	if s.Appearance != style.None {
		look.height = math.Round(m.Ascent*s.FontSize) + math.Round(m.Descent*s.FontSize)
	}
	line := b.Styles.Variant(s, look, func() *style.Style {
		v := style.Anonymous(s, style.Display{Outer: style.Block, Inner: style.FlowRoot})
		if look.height > 0 {
			v.LineHeight = style.LineHeight{Kind: style.LineLength, V: look.height}
		}
		v.Padding = [4]style.LP{style.Px(look.above), style.Px(look.trail), style.Px(look.above), style.Px(look.lead)}
		return v
	})
	return &Box{Style: line, Anon: true, Children: []*Box{b.controlText(n, line, text)}}
}

// listBox shows all options: on paper nobody scrolls.
func (b *Builder) listBox(n *markup.Node, s *style.Style) []*Box {
	list, at := options(n)
	least := n.Count("size", 1)
	if n.Has("multiple") && !n.Has("size") {
		least = 4
	}
	var out []*Box
	for i := range max(len(list), least) {
		text := ""
		if i < len(list) {
			text = list[i]
		}
		o := b.option(n, s, option{above: 1, lead: 2, trail: 2}, text)
		if i == at {
			of := o.Style
			o.Style = b.Styles.Variant(of, chosen{}, func() *style.Style {
				v := *of
				v.BackgroundColor = style.RGB8(0xCE, 0xCE, 0xCE)
				return &v
			})
		}
		out = append(out, o)
	}
	return out
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
	part := map[string]string{"progress": "-webkit-progress-value", "meter": "-webkit-meter-optimum-value"}[n.Name]
	if own := b.Styles.Style(n, part, s); own != nil { // the name that style sheets have for it
		m.BackgroundColor, m.Background, m.Radius = own.BackgroundColor, own.Background, own.Radius
	}
	m.Width = style.Size{Kind: style.Length, LP: style.LP{Pct: 100 * share}}
	m.Height = style.Size{Kind: style.Length, LP: style.LP{Pct: 100}}
	return &Box{Style: m, Anon: true}
}

// IsControl tells whether a box is a form control that is as wide as what it holds, also
// where other blocks fill their container (HTML, §15.5.1).
func (b *Box) IsControl() bool {
	if b.Node == nil || b.Node.Foreign || b.Rare().Pseudo != "" || b.Kind != Element {
		return false
	}
	switch b.Node.Name {
	case "button", "input", "select", "textarea":
		return true
	}
	return false
}
