package paint

import (
	"strconv"
	"strings"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// field draws a form control as one that can be filled in, in place of its
// static contents. It tells whether the fragment is such a control.
func (p *Painter) field(f *layout.Fragment, x, y float64) bool {
	if p.Fields == nil || f.Box == nil || f.Box.Node == nil || f.Box.Rare().Pseudo != "" || f.Text != nil || f.Box.Style.Visibility != style.Visible {
		return false
	}
	n := f.Box.Node
	if name := n.Attr(SignatureHere); name != "" {
		p.signature(f, name, x, y)
		return false
	}
	if !p.FillIn {
		return false
	}
	out, ok := control(n)
	if !ok {
		return false
	}
	if !p.Fields[n] { // once, however many phases of painting pass it
		p.Fields[n] = true
		out.Box, out.Size = frame(f, x, y).Inset(f.Border[0], f.Border[1], f.Border[2], f.Border[3]), f.Box.Style.FontSize
		out.Label = label(n, out.Name)
		if p.Tags != nil && !p.Tags.Unread(n, p.Number) {
			p.C.Tag(p.Tags.Field(n, f.Box.Order, out.Label), f.Box.Order)
		}
		p.C.Field(out)
		p.C.Tag(nil, 0)
	}
	return true
}

// SignatureHere is the attribute of elements that are the place of a signature; its value is the field's name.
const SignatureHere = "data-signature"

// signature makes an element the place of a signature: what it shows is how the signature looks.
func (p *Painter) signature(f *layout.Fragment, name string, x, y float64) {
	n := f.Box.Node
	if p.Fields[n] {
		return
	}
	p.Fields[n] = true
	out := display.Field{Kind: display.SignatureField, Name: name, Label: label(n, name), Box: frame(f, x, y)}
	if p.Tags != nil && !p.Tags.Unread(n, p.Number) {
		p.C.Tag(p.Tags.Signature(n, f.Box.Order, out.Label), f.Box.Order)
	}
	p.C.Field(out)
	p.C.Tag(nil, 0)
}

// label is what a control is for: words that it brings along, those of its
// label, or its name.
func label(n *markup.Node, name string) string {
	for _, from := range []string{"aria-label", "title"} {
		if s := strings.TrimSpace(n.Attr(from)); s != "" {
			return s
		}
	}
	root := n
	for ; root.Parent != nil; root = root.Parent {
		if root.Name == "label" {
			return words(root)
		}
	}
	said := ""
	root.Walk(func(l *markup.Node) bool {
		if said == "" && l.Name == "label" && n.ID != "" && l.Attr("for") == n.ID {
			said = words(l)
		}
		return said == ""
	})
	if said == "" {
		return name
	}
	return said
}

// words are what a label says, without what the controls in it hold.
func words(label *markup.Node) string {
	var list []string
	label.Walk(func(n *markup.Node) bool {
		if n.Kind == markup.Text {
			list = append(list, strings.Fields(n.Text)...)
		}
		return n.Name != "select" && n.Name != "textarea" && n.Name != "button"
	})
	return strings.Join(list, " ")
}

// choices lists the options of a select element and those that are chosen: all that say so where there may be
// several, else the last; without any, a menu shows its first (HTML, §4.10.7).
func choices(n *markup.Node, f display.Field) (options [][2]string, chosen []int) {
	n.Walk(func(o *markup.Node) bool {
		if o.Name != "option" {
			return true
		}
		label := words(o)
		value := label
		if o.Has("value") {
			value = o.Attr("value")
		}
		if o.Has("selected") {
			if !f.Several {
				chosen = nil
			}
			chosen = append(chosen, len(options))
		}
		options = append(options, [2]string{value, label})
		return false
	})
	if chosen == nil && !f.List && len(options) > 0 {
		chosen = []int{0}
	}
	return options, chosen
}

// control reads what a form control asks for (HTML, §4.10).
func control(n *markup.Node) (display.Field, bool) {
	name := n.Attr("name")
	if name == "" {
		name = n.ID
	}
	f := display.Field{Name: name, Value: n.Attr("value"), ReadOnly: n.Has("readonly") || n.Has("disabled"), Required: n.Has("required")}
	if v, err := strconv.Atoi(n.Attr("maxlength")); err == nil && v > 0 {
		f.MaxLength = v
	}
	switch n.Name {
	case "textarea":
		f.Multiline, f.Value = true, strings.TrimPrefix(n.Content(), "\n")
	case "select":
		f.Kind = display.ChoiceField
		f.Several = n.Has("multiple")
		f.List = f.Several || n.Count("size", 1) > 1
		f.Options, f.Chosen = choices(n, f)
	case "input":
		switch strings.ToLower(n.Attr("type")) {
		case "checkbox":
			f.Kind, f.Checked = display.CheckField, n.Has("checked")
		case "radio":
			f.Kind, f.Checked = display.RadioField, n.Has("checked")
		case "password":
			f.Password, f.Value = true, "" // which is not for whoever opens the file
		case "submit", "reset", "button", "image", "hidden", "file", "color", "range":
			return f, false
		}
	default:
		return f, false
	}
	return f, true
}
