package pdf

import (
	"cmp"
	"fmt"
	"strings"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/unicode/norm"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/tag"
)

// field is a form field that waits for the end of the document.
type field struct {
	display.Field
	page *Page
	box  display.Rect // on the page, in px
	tag  *tag.Element
}

// Field adds an interactive form field (§12.7).
func (c *Content) Field(f display.Field) {
	c.w.fields = append(c.w.fields, field{f, c.page, c.toPage().Bounds(f.Box), c.tag})
}

// Flags of fields (tables 221, 226, 228, 230).
const (
	fieldReadOnly = 1 << 0
	fieldRequired = 1 << 1
	textMultiline = 1 << 12
	textPassword  = 1 << 13
	buttonNoOff   = 1 << 14
	buttonRadio   = 1 << 15
	choiceCombo   = 1 << 17
	choiceSeveral = 1 << 21
	widgetPrint   = 4
)

// acroForm writes the fields and returns the catalog's entry. Radio buttons of
// one name are one field with several widgets.
func (w *Writer) acroForm() string {
	if len(w.fields)+len(w.Kept.Tops) == 0 {
		return ""
	}
	tree := fieldTree{w: w, ends: map[string]bool{}, above: map[string]*fieldNode{}}
	for i := range w.fields {
		tree.ends[w.fields[i].Name] = true
	}
	groups := map[string]*radioGroup{}
	var order []*radioGroup
	names := map[string]int{}
	for i := range w.fields {
		f := &w.fields[i]
		if f.Kind == display.RadioField {
			name := cmp.Or(f.Name, fmt.Sprintf("field %d", i+1)) // those without a name are no group
			f.Label = cmp.Or(f.Label, name)
			g := groups[name]
			if g == nil {
				g = &radioGroup{id: w.alloc(), name: name}
				groups[name] = g
				order = append(order, g)
			}
			g.add(w, f)
			continue
		}
		id := w.alloc()
		name := f.Name
		if names[name]++; names[name] > 1 || name == "" { // names are told apart
			name = fmt.Sprintf("%s %d", cmp.Or(name, "field"), i+1)
		}
		f.Label = cmp.Or(f.Label, name)
		w.object(id, "<<"+w.widget(f, id)+tree.add(name, id)+w.fieldValue(f)+">>")
		f.page.widgets = append(f.page.widgets, id)
	}
	for _, g := range order {
		w.object(g.id, fmt.Sprintf("<</FT/Btn/Ff %d%s/V/%s/Kids[%s]%s>>", buttonRadio|buttonNoOff, tree.add(g.name, g.id), cmp.Or(g.value, off), g.kids, g.values()))
	}
	tree.write()
	entry := w.formEntry(tree.tops)
	w.writeFormFont()
	return entry
}

// off is the state of a button that is not on (§12.7.4.2.3).
const off = "Off"

type radioGroup struct {
	id         Ref
	name, kids string
	value      string   // the state of the button that is on
	exported   []string // what each button stands for
	told       bool     // the states do not say that
}

// values are what the buttons stand for where their states cannot say it (§12.7.4.2.4).
func (g *radioGroup) values() string {
	if !g.told {
		return ""
	}
	var list strings.Builder
	for _, v := range g.exported {
		list.WriteString(text(v))
	}
	return "/Opt[" + list.String() + "]"
}

func (g *radioGroup) add(w *Writer, f *field) {
	id := w.alloc()
	value := cmp.Or(f.Value, "on") // as HTML has it
	state := nameOf(value)
	if state == off || state == "" {
		state = fmt.Sprintf("choice%d", len(g.exported)+1)
		g.told = true
	}
	g.exported = append(g.exported, value)
	now := off
	if f.Checked {
		now, g.value = state, state
	}
	w.object(id, fmt.Sprintf("<<%s/Parent %s/AS/%s/AP<</N<</%s %s/Off %s>>>>>>", w.widget(f, id), g.id, now, state, w.tick(f, discMark), w.tick(f, "")))
	f.page.widgets = append(f.page.widgets, id)
	g.kids += id.String() + " "
}

// widget is what all fields say about their place, on the page and in the
// structure (§12.7.3.1, §14.7.4.3).
func (w *Writer) widget(f *field, id Ref) string {
	b := f.box
	said := ""
	if f.Label != "" {
		said = "/TU" + text(f.Label)
	}
	if w.structure != nil && f.tag != nil {
		said += fmt.Sprintf("/StructParent %d", w.structure.parentKey(f.tag, id, f.page.id))
	}
	return said + fmt.Sprintf("/Type/Annot/Subtype/Widget/F %d/P %s/Rect[%s %s %s %s]", widgetPrint, f.page.id,
		num(b.X*0.75), num((f.page.h-b.Y-b.H)*0.75), num((b.X+b.W)*0.75), num((f.page.h-b.Y)*0.75))
}

func (w *Writer) fieldValue(f *field) string {
	flags := 0
	if f.ReadOnly {
		flags |= fieldReadOnly
	}
	if f.Required {
		flags |= fieldRequired
	}
	size := num(f.Size * 0.75)
	switch f.Kind {
	case display.SignatureField: // its look is that of the page
		return fmt.Sprintf("/FT/Sig/AP<</N %s>>", w.tick(f, ""))
	case display.CheckField:
		now := off
		if f.Checked {
			now = "Yes"
		}
		return fmt.Sprintf("/FT/Btn/Ff %d/V/%s/AS/%s/AP<</N<</Yes %s/Off %s>>>>", flags, now, now, w.tick(f, tickMark), w.tick(f, ""))
	case display.ChoiceField:
		return w.choice(f, flags)
	}
	if f.Multiline {
		flags |= textMultiline
	}
	if f.Password {
		flags |= textPassword
	}
	s := fmt.Sprintf("/FT/Tx/Ff %d/V%s/DA(/Form %s Tf 0 g)/AP<</N %s>>", flags, text(f.Value), size, w.shown(f, f.Value))
	if f.MaxLength > 0 {
		s += fmt.Sprintf("/MaxLen %d", f.MaxLength)
	}
	return s
}

// shown draws a field's text for viewers that do not draw it themselves.
func (w *Writer) shown(f *field, value string) Ref {
	wide, high, size := f.box.W*0.75, f.box.H*0.75, f.Size*0.75
	y := (high-size)/2 + size*0.22
	if f.Multiline {
		y = high - size*1.1
	}
	var b strings.Builder
	fmt.Fprintf(&b, "/Tx BMC q 0 0 %s %s re W n BT /Form %s Tf 0 g %s TL 2 %s Td ", num(wide), num(high), num(size), num(size*1.15), num(y))
	for line := range strings.SplitSeq(value, "\n") {
		fmt.Fprintf(&b, "<%X> Tj T* ", latin(line))
	}
	b.WriteString("ET Q EMC")
	return w.fieldLook(f, b.String())
}

// fieldLook is how a field with text looks in viewers that do not draw it themselves.
func (w *Writer) fieldLook(f *field, content string) Ref {
	id := w.alloc()
	w.stream(id, fmt.Sprintf("/Type/XObject/Subtype/Form/BBox[0 0 %s %s]/Resources%s", num(f.box.W*0.75), num(f.box.H*0.75), w.fieldResources()), []byte(content), well)
	return id
}

// latin encodes text for the standard fonts; characters that they lack lose
// their accents, or become a question mark. The field's value keeps them.
func latin(s string) []byte {
	var out []byte
	for _, r := range s {
		if c, ok := charmap.Windows1252.EncodeRune(r); ok {
			out = append(out, c)
		} else if base := []rune(norm.NFD.String(string(r))); base[0] < 128 {
			out = append(out, byte(base[0]))
		} else {
			out = append(out, '?')
		}
	}
	return out
}

// A mark is what a button shows when it is on, in a square of 1 by 1.
const (
	tickMark = "0.15 w 0.2 0.5 m 0.42 0.25 l 0.82 0.75 l S"
	discMark = "0.75 0.5 m 0.75 0.638 0.638 0.75 0.5 0.75 c 0.362 0.75 0.25 0.638 0.25 0.5 c 0.25 0.362 0.362 0.25 0.5 0.25 c 0.638 0.25 0.75 0.362 0.75 0.5 c f"
)

// tick draws the state of a button: a mark, or nothing.
func (w *Writer) tick(f *field, mark string) Ref {
	wide, high := f.box.W*0.75, f.box.H*0.75
	content := ""
	if mark != "" {
		size := min(wide, high)
		content = fmt.Sprintf("q %s 0 0 %[1]s %s %s cm %s Q", num(size), num((wide-size)/2), num((high-size)/2), mark)
	}
	id := w.alloc()
	w.stream(id, fmt.Sprintf("/Type/XObject/Subtype/Form/BBox[0 0 %s %s]/Resources<<>>", num(wide), num(high)), []byte(content), well)
	return id
}
