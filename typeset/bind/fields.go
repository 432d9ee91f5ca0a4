package bind

import (
	"fmt"
	"maps"
	"slices"

	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/pdfread"
	"oliveledger/typeset/internal/tag"
)

// form is the form of the whole (§12.7): the fields of all sources.
type form struct {
	names map[string]int     // how many fields at the top have a name
	fonts map[string]pdf.Ref // that fields ask for by these names
	tops  []pdf.Ref          // the fields that stand at the top of their source's form
	draws bool               // viewers are to draw what fields show
}

func newForm() *form { return &form{names: map[string]int{}, fonts: map[string]pdf.Ref{}} }

// name tells a field at the top from those of other sources that have its name: fields of
// one name would share their value.
func (f *form) name(s string) string {
	if f.names[s]++; f.names[s] > 1 {
		return f.name(fmt.Sprintf("%s (%d)", s, f.names[s]))
	}
	return s
}

// sourceFields are the fields of one source that its pages in the whole show.
type sourceFields struct {
	m    *importer
	form *form
	own  pdfread.Dict // the source's form
	kept map[int]*keptField
}

// keptField is a field of a source, on its way into the whole.
type keptField struct {
	id   pdf.Ref
	dict pdfread.Dict
	up   *keptField // nil at the top
	kids []pdf.Ref
	page *pdf.Page // that shows it as a widget
	rect string    // where, in points
}

func newSourceFields(m *importer, f *form) *sourceFields {
	own := m.f.Dict(m.f.Dict(m.f.Trailer["Root"])["AcroForm"])
	return &sourceFields{m: m, form: f, own: own, kept: map[int]*keptField{}}
}

const deepestField = 30

// field gives a field of the source, with those above it, its place in the whole; nil for
// what is no field, and for signatures, which the whole cannot keep. A place for one stays.
func (s *sourceFields) field(r pdfread.Ref, depth int) *keptField {
	if k := s.kept[r.Num]; k != nil {
		return k
	}
	d := s.m.f.Dict(r)
	if d == nil || depth > deepestField {
		return nil
	}
	k := &keptField{dict: d}
	if up, ok := d["Parent"].(pdfread.Ref); ok {
		if k.up = s.field(up, depth+1); k.up == nil {
			return nil
		}
	} else if d["T"] == nil {
		return nil
	}
	if kind := s.inherited(k, "FT"); d["Kids"] == nil && kind == nil || kind == pdfread.Name("Sig") && s.inherited(k, "V") != nil {
		return nil
	}
	k.id = s.m.w.Alloc()
	if k.up != nil {
		k.up.kids = append(k.up.kids, k.id)
	} else {
		s.form.tops = append(s.form.tops, k.id)
	}
	s.kept[r.Num] = k
	return k
}

// inherited is an entry of a field, or of the nearest above it that has one.
func (s *sourceFields) inherited(k *keptField, name pdfread.Name) pdfread.Object {
	for ; k != nil; k = k.up {
		if v := k.dict[name]; v != nil {
			return s.m.f.Resolve(v)
		}
	}
	return nil
}

// widget keeps a widget of a source's page as the field that it is, on a page of the whole.
// It gives false for one that is none, that stands on another page already, or whose page is
// turned: its looks are drawn.
func (s *sourceFields) widget(on *pdf.Page, o pdfread.Object, p pdfread.Page) bool {
	r, ok := o.(pdfread.Ref)
	if !ok || p.Turn != 0 || s.own == nil {
		return false
	}
	k := s.field(r, 0)
	if k == nil || k.page != nil {
		return false
	}
	at, _ := s.m.rect(k.dict["Rect"])
	x, y := at.X-p.Media[0], at.Y-p.Media[1]
	k.page, k.rect = on, fmt.Sprintf("/Rect[%g %g %g %g]", x, y, x+at.W, y+at.H)
	return true
}

// write writes the fields once all pages are there. Actions stay behind: they may name
// pages and fields of the source.
func (s *sourceFields) write() {
	for _, num := range slices.Sorted(maps.Keys(s.kept)) {
		k := s.kept[num]
		entries := s.m.entries(k.dict, "Kids", "T", "Rect", "A", "AA") + k.rect
		if k.page != nil {
			var e *tag.Element
			if s.m.structure != nil {
				e = s.m.structure.links[num].e
			}
			entries += s.m.w.KeptWidget(k.page, k.id, e)
		}
		switch {
		case k.up != nil:
			entries += fmt.Sprintf("/Parent %s", k.up.id)
			if k.dict["T"] != nil {
				entries += "/T" + pdf.Text(textOf(k.dict["T"], s.m.f))
			}
		default:
			entries += "/T" + pdf.Text(s.form.name(textOf(k.dict["T"], s.m.f)))
			for _, name := range []pdfread.Name{"DA", "Q"} { // what the form has for all its fields
				if k.dict[name] == nil && s.own[name] != nil {
					entries += string(pdfread.AppendEntries(nil, pdfread.Dict{name: s.own[name]}, s.m.ref))
				}
			}
		}
		if len(k.kids) > 0 {
			entries += "/Kids["
			for _, kid := range k.kids {
				entries += kid.String() + " "
			}
			entries += "]"
		}
		s.m.w.RawObject(k.id, "<<"+entries+">>")
	}
	if len(s.kept) == 0 {
		return
	}
	for name, o := range s.m.f.Dict(s.m.f.Dict(s.own["DR"])["Font"]) {
		if r, ok := o.(pdfread.Ref); ok && s.form.fonts[string(name)] == 0 {
			s.form.fonts[string(name)] = pdf.Ref(s.m.ref(r))
		}
	}
	s.form.draws = s.form.draws || s.m.f.Resolve(s.own["NeedAppearances"]) == true
	s.m.flush()
}
