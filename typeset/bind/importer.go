package bind

import (
	"fmt"
	"math"
	"strings"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/pdfread"
)

// importer copies objects of one file into another.
type importer struct {
	f         *pdfread.File
	w         *pdf.Writer
	ids       map[int]pdf.Ref
	queue     []pdfread.Ref
	there     shared // of all files of the whole
	digests   map[int]objectDigest
	structure *structure                // nil for a source without
	forms     map[int]*pdf.Imported     // copied forms with marked content, by their number in the source
	names     map[string]pdfread.Object // named destinations; nil until asked for
	fields    *sourceFields
}

func newImporter(f *pdfread.File, w *pdf.Writer, there shared) *importer {
	return &importer{f: f, w: w, ids: map[int]pdf.Ref{}, there: there, digests: map[int]objectDigest{}, forms: map[int]*pdf.Imported{}}
}

// ref gives an object its number in the new file and remembers to copy it.
func (m *importer) ref(r pdfread.Ref) int {
	if id, ok := m.ids[r.Num]; ok {
		return int(id)
	}
	d, ok := m.digestOf(r, 0)
	if id, there := m.there[d]; ok && there {
		m.ids[r.Num] = id
		return int(id)
	}
	id := m.w.Alloc()
	m.ids[r.Num] = id
	if ok {
		m.there[d] = id
	}
	m.queue = append(m.queue, r)
	return int(id)
}

// flush copies what has been referred to, and what that refers to.
func (m *importer) flush() {
	for len(m.queue) > 0 {
		r := m.queue[0]
		m.queue = m.queue[1:]
		switch o := m.f.Resolve(r).(type) {
		case *pdfread.Stream:
			more := ""
			if o.Dict["StructParents"] != nil && m.structure != nil {
				if in := m.w.Import(m.ids[r.Num]); in != nil {
					m.forms[r.Num] = in
					more = fmt.Sprintf("/StructParents %d", in.Key())
				}
			}
			m.w.RawStream(m.ids[r.Num], m.entries(o.Dict, "Length")+more, o.Raw)
		case pdfread.Dict:
			if t := o["Type"]; t == pdfread.Name("Page") || t == pdfread.Name("Pages") || t == pdfread.Name("Catalog") {
				m.w.RawObject(m.ids[r.Num], "null") // the old tree stays behind
				continue
			}
			m.w.RawObject(m.ids[r.Num], "<<"+m.entries(o)+">>")
		default:
			m.w.RawObject(m.ids[r.Num], string(pdfread.Append(nil, o, m.ref)))
		}
	}
}

// entries writes a dictionary without what leads back into the old file.
func (m *importer) entries(d pdfread.Dict, without ...pdfread.Name) string {
	c := pdfread.Dict{}
	for k, v := range d {
		c[k] = v
	}
	for _, k := range append(without, "Parent", "StructParent", "StructParents", "P", "Metadata", "PieceInfo") {
		delete(c, k)
	}
	return string(pdfread.AppendEntries(nil, c, m.ref))
}

// page takes a page's contents as a form, with its marked content where both files are
// tagged.
func (m *importer) page(p pdfread.Page) (pdf.Ref, *pdf.Imported, error) {
	data, err := m.f.Contents(p)
	if err != nil {
		return 0, nil, err
	}
	dict := fmt.Sprintf("/Type/XObject/Subtype/Form/BBox[%g %g %g %g]", p.Media[0], p.Media[1], p.Media[2], p.Media[3]) + m.look(p)
	id := m.w.Alloc()
	var marks *pdf.Imported
	if m.structure != nil {
		if marks = m.w.Import(id); marks != nil {
			dict += fmt.Sprintf("/StructParents %d", marks.Key())
		}
	}
	m.w.Deflated(id, dict, data)
	m.flush()
	return id, marks, nil
}

// look is what a page's contents need: its resources, and how it is composed.
func (m *importer) look(p pdfread.Page) string {
	entries := "/Resources<<" + m.entries(m.f.Dict(p.Dict["Resources"])) + ">>"
	if g := m.f.Dict(p.Dict["Group"]); g != nil {
		entries += "/Group<<" + m.entries(g) + ">>"
	}
	return entries
}

// asItIs tells whether a page can stand in the whole as it is: it lies straight, nothing is laid on
// it, and what it shows is tagged unless nothing is.
func (m *importer) asItIs(p pdfread.Page, tagged bool) bool {
	return p.Turn == 0 && p.Media[0] == 0 && p.Media[1] == 0 && p.Dict["Annots"] == nil && (m.structure != nil || !tagged)
}

// take makes a page of the whole of a page as it is.
func (m *importer) take(to *pdf.Page, p pdfread.Page) error {
	data, err := m.f.Contents(p)
	if err != nil {
		return err
	}
	marks := to.Take(m.look(p), data)
	m.flush()
	if marks != nil {
		m.structure.place(to, p.Ref.Num, marks, m.forms)
	}
	return nil
}

// annotations keeps links as links and fields as fields, and draws what else can be seen,
// such as stamps.
func (m *importer) annotations(c *pdf.Content, page *pdf.Page, p pdfread.Page, where map[int]int) {
	list, _ := m.f.Resolve(p.Dict["Annots"]).(pdfread.Array)
	on := placed(p)
	for _, o := range list {
		a := m.f.Dict(o)
		r, ok := m.rect(a["Rect"])
		if !ok {
			continue
		}
		if flags := int(m.f.Number(a["F"])); flags&2 != 0 {
			continue
		}
		if m.f.Resolve(a["Subtype"]) == pdfread.Name("Link") {
			path := &display.Path{}
			path.Rect(r)
			if address := m.address(a, where); address != "" {
				if r, ok := o.(pdfread.Ref); ok && m.structure != nil {
					if at, tagged := m.structure.links[r.Num]; tagged {
						c.Tag(at.e, at.order)
					}
				}
				c.Link(path.Transform(on).Bounds(), display.Link{Address: address, Text: textOf(a["Contents"], m.f)})
				c.Tag(nil, 0)
			}
			continue
		}
		if m.f.Resolve(a["Subtype"]) != pdfread.Name("Widget") || !m.fields.widget(page, o, p) {
			m.appearance(c, a, r, on)
		}
	}
}

func (m *importer) rect(o pdfread.Object) (display.Rect, bool) {
	a, ok := m.f.Resolve(o).(pdfread.Array)
	if !ok || len(a) < 4 {
		return display.Rect{}, false
	}
	x0, y0, x1, y1 := m.f.Number(a[0]), m.f.Number(a[1]), m.f.Number(a[2]), m.f.Number(a[3])
	return display.Rect{X: math.Min(x0, x1), Y: math.Min(y0, y1), W: math.Abs(x1 - x0), H: math.Abs(y1 - y0)}, true
}

// appearance draws an annotation's normal appearance (§12.5.5).
func (m *importer) appearance(c *pdf.Content, a pdfread.Dict, r display.Rect, on display.Matrix) {
	o := m.f.Resolve(m.f.Dict(a["AP"])["N"])
	if states, ok := o.(pdfread.Dict); ok {
		state, _ := m.f.Resolve(a["AS"]).(pdfread.Name)
		o = m.f.Resolve(states[state])
	}
	s, ok := o.(*pdfread.Stream)
	if !ok {
		return
	}
	box, ok := m.rect(s.Dict["BBox"])
	if !ok || box.W <= 0 || box.H <= 0 {
		return
	}
	id := m.w.Alloc()
	m.w.RawStream(id, "/Type/XObject/Subtype/Form"+m.entries(s.Dict, "Length", "Type", "Subtype"), s.Raw)
	m.flush()
	form := display.Identity
	if list, ok := m.f.Resolve(s.Dict["Matrix"]).(pdfread.Array); ok && len(list) == 6 {
		for i := range form {
			form[i] = m.f.Number(list[i])
		}
	}
	path := &display.Path{}
	path.Rect(box)
	seen := path.Transform(form).Bounds()
	if seen.W <= 0 || seen.H <= 0 {
		return
	}
	kx, ky := r.W/seen.W, r.H/seen.H
	c.Form(id, on.Mul(display.Matrix{kx, 0, 0, ky, r.X - seen.X*kx, r.Y - seen.Y*ky}))
}

// address is where a link leads: an outside address, or a leaf of the whole.
func (m *importer) address(a pdfread.Dict, where map[int]int) string {
	dest := a["Dest"]
	if act := m.f.Dict(a["A"]); act != nil {
		if uri, ok := m.f.Resolve(act["URI"]).(pdfread.String); ok {
			address := string(uri)
			if id, ok := strings.CutPrefix(address, leafAddress); ok { // of the table of contents
				return "#leaf-" + id
			}
			return address
		}
		if dest == nil {
			dest = act["D"]
		}
	}
	if leaf, ok := m.leaf(dest, where); ok {
		return "#" + anchor(leaf)
	}
	return ""
}

// leaf is the page that a destination leads to.
func (m *importer) leaf(dest pdfread.Object, where map[int]int) (int, bool) {
	o := m.f.Resolve(dest)
	switch v := o.(type) {
	case pdfread.String:
		o = m.named(string(v))
	case pdfread.Name:
		o = m.named(string(v))
	}
	if d, ok := o.(pdfread.Dict); ok {
		o = m.f.Resolve(d["D"])
	}
	list, ok := o.(pdfread.Array)
	if !ok || len(list) == 0 {
		return 0, false
	}
	r, ok := list[0].(pdfread.Ref)
	if !ok {
		return 0, false
	}
	leaf, ok := where[r.Num]
	return leaf, ok
}

// named finds a named destination (§12.3.2.3).
func (m *importer) named(name string) pdfread.Object {
	if m.names == nil {
		m.names = map[string]pdfread.Object{}
		root := m.f.Dict(m.f.Trailer["Root"])
		for k, v := range m.f.Dict(root["Dests"]) {
			m.names[string(k)] = v
		}
		m.tree(m.names, m.f.Dict(root["Names"])["Dests"], 0)
	}
	return m.f.Resolve(m.names[name])
}

// tree reads a name tree (§7.9.6).
func (m *importer) tree(names map[string]pdfread.Object, o pdfread.Object, depth int) {
	d := m.f.Dict(o)
	if d == nil || depth > 30 || len(names) > 1<<20 {
		return
	}
	list, _ := m.f.Resolve(d["Names"]).(pdfread.Array)
	for i := 0; i+1 < len(list); i += 2 {
		if key, ok := m.f.Resolve(list[i]).(pdfread.String); ok {
			names[string(key)] = list[i+1]
		}
	}
	kids, _ := m.f.Resolve(d["Kids"]).(pdfread.Array)
	for _, k := range kids {
		m.tree(names, k, depth+1)
	}
}

// outline reads the entries of a file's own outline that lead to leaves.
func (m *importer) outline(level int, where map[int]int, leaves []leaf) (list []pdf.OutlineItem) {
	seen := map[int]bool{}
	var walk func(o pdfread.Object, level int)
	walk = func(o pdfread.Object, level int) {
		for ; o != nil && len(list) < 100_000; o = m.f.Dict(o)["Next"] {
			if r, ok := o.(pdfread.Ref); ok {
				if seen[r.Num] {
					return
				}
				seen[r.Num] = true
			}
			d := m.f.Dict(o)
			if d == nil || level > 40 {
				return
			}
			dest := d["Dest"]
			if dest == nil {
				dest = m.f.Dict(d["A"])["D"]
			}
			if leaf, ok := m.leaf(dest, where); ok {
				list = append(list, pdf.OutlineItem{Title: textOf(d["Title"], m.f), Level: level, Page: leaf})
			}
			walk(d["First"], level+1)
		}
	}
	walk(m.f.Dict(m.f.Dict(m.f.Trailer["Root"])["Outlines"])["First"], level)
	return list
}

// textOf reads a text string: UTF-16 with its mark, else about Latin-1
// (§7.9.2.2).
func textOf(o pdfread.Object, f *pdfread.File) string {
	s, ok := f.Resolve(o).(pdfread.String)
	if !ok {
		return ""
	}
	return s.Text()
}
