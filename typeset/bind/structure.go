package bind

import (
	"regexp"

	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/pdfread"
	"oliveledger/typeset/internal/tag"
)

// structure is what a source says of the structure of its pages (§14.7), as elements of
// the whole.
type structure struct {
	m     *importer
	roles pdfread.Dict           // standard roles of the file's own
	marks map[int][]mark         // of each page, by the page's number
	links map[int]elementInOrder // what annotations belong to, by their number
	order int32
	seen  map[int]bool
}

// mark is a stretch of marked content on a page, or in a form that the page shows.
type mark struct {
	form int // 0 for the page itself
	mcid int
	elementInOrder
}

type elementInOrder struct {
	e     *tag.Element
	order int32
}

const (
	deepestElement = 200
	mostElements   = 2_000_000
)

// structureOf reads the structure tree of a source; nil when it has none. Its elements
// stand below part, in the order that begins after last.
func (m *importer) structureOf(part *tag.Element, last int32) *structure {
	root := m.f.Dict(m.f.Dict(m.f.Trailer["Root"])["StructTreeRoot"])
	if root == nil {
		return nil
	}
	s := &structure{m: m, roles: m.f.Dict(root["RoleMap"]), marks: map[int][]mark{}, links: map[int]elementInOrder{}, order: last, seen: map[int]bool{}}
	s.walk(root["K"], part, 0, 0)
	return s
}

// walk reads what an element holds: others, marked content or annotations. page is the
// number of the page that content is on which names none.
func (s *structure) walk(o pdfread.Object, around *tag.Element, page, depth int) {
	if depth > deepestElement || s.order > mostElements {
		return
	}
	if r, ok := o.(pdfread.Ref); ok {
		if s.seen[r.Num] {
			return
		}
		s.seen[r.Num] = true
	}
	switch x := s.m.f.Resolve(o).(type) {
	case pdfread.Array:
		for _, k := range x {
			s.walk(k, around, page, depth+1)
		}
	case int64:
		s.note(around, page, 0, int(x))
	case pdfread.Dict:
		if r, ok := x["Pg"].(pdfread.Ref); ok {
			page = r.Num
		}
		switch {
		case x["Type"] == pdfread.Name("MCR"):
			form, _ := x["Stm"].(pdfread.Ref)
			s.note(around, page, form.Num, int(s.m.f.Number(x["MCID"])))
		case x["Type"] == pdfread.Name("OBJR"):
			if r, ok := x["Obj"].(pdfread.Ref); ok {
				s.order++
				s.links[r.Num] = elementInOrder{around, s.order}
			}
		case x["S"] != nil:
			s.order++
			e := s.element(x, around)
			s.walk(x["K"], e, page, depth+1)
		}
	}
}

func (s *structure) note(e *tag.Element, page, form, mcid int) {
	s.order++
	s.marks[page] = append(s.marks[page], mark{form, mcid, elementInOrder{e, s.order}})
}

var roleName = regexp.MustCompile(`^[A-Za-z][A-Za-z0-9]*$`)

func (s *structure) element(d pdfread.Dict, around *tag.Element) *tag.Element {
	role, _ := s.m.f.Resolve(d["S"]).(pdfread.Name)
	for range 8 { // a role may stand for one that stands for another
		standard, ok := s.m.f.Resolve(s.roles[role]).(pdfread.Name)
		if !ok || standard == role {
			break
		}
		role = standard
	}
	if !roleName.MatchString(string(role)) || role == "Document" {
		role = "Part"
	}
	e := &tag.Element{Role: string(role), Parent: around, Order: s.order, Details: &tag.Details{}}
	e.Lang, e.Alt, e.Actual = textOf(d["Lang"], s.m.f), textOf(d["Alt"], s.m.f), textOf(d["ActualText"], s.m.f)
	e.Attributes = s.attributes(d["A"])
	return e
}

// attributes are those of an element, such as what a table's cell spans. Of several
// dictionaries the first is taken.
func (s *structure) attributes(o pdfread.Object) string {
	o = s.m.f.Resolve(o)
	if list, ok := o.(pdfread.Array); ok && len(list) > 0 {
		o = s.m.f.Resolve(list[0])
	}
	d, ok := o.(pdfread.Dict)
	if !ok {
		return ""
	}
	return s.m.entries(d)
}

// place says, once a source's page stands on one of the whole, which elements its marked
// content belongs to.
func (s *structure) place(p *pdf.Page, source int, own *pdf.Imported, forms map[int]*pdf.Imported) {
	for _, k := range s.marks[source] {
		in := own
		if k.form != 0 {
			in = forms[k.form]
		}
		if in != nil {
			in.Belongs(p, k.mcid, k.e, k.order)
		}
	}
}
