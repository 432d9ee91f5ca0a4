package pdf

import (
	"fmt"
	"slices"
	"strconv"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/memory"
	"oliveledger/typeset/internal/tag"
)

// stream of marked content: a page, or a form with its own numbers.
type marked struct {
	page     Ref
	form     Ref // 0 for the page itself
	elements []*tag.Element
	key      int // in the parent tree
}

// item is what a structure element holds directly: a stretch of marked content,
// an annotation, or another element.
type item struct {
	owner      int32 // the element's Index - 1
	order, seq int32
	mcid       int32
	page, form Ref // of marked content; form is 0 on the page itself
	object     Ref // an annotation
	kid        Ref
}

// structure gathers the items of elements while pages are drawn.
type structure struct {
	known memory.List[*tag.Element] // by their Index - 1, parents before their children
	items memory.List[item]         // in the order in which they are drawn
	sets  []*marked
	links []linkParent
	loose bool // some link is no part of it
	first Ref  // of the elements' objects, which follow each other
}

type linkParent struct {
	key int
	e   *tag.Element
}

// Tag says which element what follows belongs to; nil stands for decoration.
// order is the place of the text in the document.
func (c *Content) Tag(e *tag.Element, order int32) {
	c.tag, c.order = e, order
}

// Cover notes where an element is seen, for its BBox (§14.8.5.4.3).
func (c *Content) Cover(e *tag.Element, box display.Rect) {
	if c.w.structure == nil {
		return
	}
	at := c.ctm.Bounds(box) // in points, from the lower left corner
	e.Cover(tag.Extent{Page: int32(c.page.id), X0: at.X, Y0: at.Y, X1: at.X + at.W, Y1: at.Y + at.H})
}

// mark opens a marked-content sequence for what is drawn next (§14.6).
func (c *Content) mark() {
	s := c.w.structure
	if s == nil || c.marks == nil || c.open && c.opened == c.tag {
		return
	}
	c.unmark()
	c.open, c.opened = true, c.tag
	if c.tag == nil {
		c.op(artifact(c.furniture))
		return
	}
	c.sequence(c.tag.Role, "")
}

// Furniture says what is drawn from here on for no element.
func (c *Content) Furniture(kind display.Furniture) {
	if kind != c.furniture {
		c.unmark()
	}
	c.furniture = kind
}

// artifact begins the marked content of what is no part of the document itself (§14.8.2.2).
func artifact(kind display.Furniture) string {
	switch kind {
	case display.NoFurniture:
		return "/Artifact BMC"
	case display.Aside:
		return "/Artifact<</Type/Pagination>>BDC"
	}
	return "/Artifact<</Type/Pagination/Subtype/" + string(kind) + ">>BDC"
}

// tagged tells whether what is drawn belongs to an element.
func (c *Content) tagged() bool {
	return c.w.structure != nil && c.marks != nil && c.open && c.opened != nil
}

// markAs opens a sequence for what is drawn next, which stands for text. Its text is told on
// the sequence itself: readers take one inside for the end of that around it.
func (c *Content) markAs(text string) {
	c.open, c.opened = true, c.tag
	c.sequence("Span", "/ActualText"+actual(text))
}

// sequence begins marked content of the element at hand.
func (c *Content) sequence(role, more string) {
	n := len(c.marks.elements)
	c.marks.elements = append(c.marks.elements, c.tag)
	c.buf = append(c.buf, '/')
	c.buf = append(c.buf, role...)
	c.buf = append(c.buf, "<</MCID "...)
	c.buf = strconv.AppendInt(c.buf, int64(n), 10)
	c.buf = append(c.buf, more...)
	c.buf = append(c.buf, ">>BDC\n"...)
	c.w.structure.add(c.tag, item{order: c.order, page: c.marks.page, form: c.marks.form, mcid: int32(n)})
}

func (c *Content) unmark() {
	if c.open {
		c.op("EMC")
		c.open = false
	}
}

func (s *structure) add(e *tag.Element, it item) {
	it.owner, it.seq = s.know(e), int32(s.items.Len()+1)
	s.items.Add(it)
}

// know gives an element, and those around it, a place in the list.
func (s *structure) know(e *tag.Element) int32 {
	if e.Index == 0 {
		if e.Parent != nil {
			s.know(e.Parent)
		}
		s.known.Add(e)
		e.Index = int32(s.known.Len())
	}
	return e.Index - 1
}

// marks starts the numbering of a page's or form's marked content.
func (w *Writer) marks(page, form Ref) *marked {
	if w.structure == nil {
		return nil
	}
	m := &marked{page: page, form: form, key: len(w.structure.sets)}
	w.structure.sets = append(w.structure.sets, m)
	return m
}

// parentKey gives a link's annotation its place in the parent tree.
func (s *structure) parentKey(e *tag.Element, annotation, page Ref) int {
	key := len(s.sets) + len(s.links)
	s.links = append(s.links, linkParent{key, e})
	s.add(e, item{order: e.Order, page: page, object: annotation})
	return key
}

// structTree writes the structure tree and returns its root (§14.7).
func (w *Writer) structTree(root *tag.Element) Ref {
	s := w.structure
	s.know(root)
	tree := w.alloc()
	for i := range s.known.Len() {
		if id := w.alloc(); i == 0 {
			s.first = id
		}
	}
	var d []byte
	all, ends := s.held()
	start := int32(0)
	var notes []string
	var refs []Ref
	for i, end := range ends {
		e, list := *s.known.At(i), all[start:end]
		start = end
		if len(list) > 1 {
			slices.SortStableFunc(list, func(a, b item) int {
				if a.order != b.order {
					return int(a.order - b.order)
				}
				return int(a.seq - b.seq) // children have none: they come first
			})
		}
		d = append(d[:0], "<</S/"...)
		d = append(d, e.Role...)
		if e.Role == "Note" { // it has a name of its own (PDF/UA-1, §7.9)
			notes = append(notes, fmt.Sprintf("(note-%06d)", len(notes)+1))
			d = append(append(d, "/ID"...), notes[len(notes)-1]...)
			refs = append(refs, s.ref(e))
		}
		parent := tree
		if e.Parent != nil {
			parent = s.ref(e.Parent)
		}
		d = appendRef(append(d, "/P "...), parent)
		page := Ref(0)
		for _, it := range list {
			if it.page != 0 {
				page = it.page
				d = appendRef(append(d, "/Pg "...), page)
				break
			}
		}
		d = appendItems(d, list, page)
		d = append(appendDetails(d, e.Details), ">>"...)
		w.objectOf(s.ref(e), d)
	}
	w.object(tree, fmt.Sprintf("<</Type/StructTreeRoot/K %s/ParentTree %s/ParentTreeNextKey %d%s>>", s.ref(root), w.parentTree(), len(s.sets)+len(s.links), w.noteTree(notes, refs)))
	return tree
}

// noteTree is the entry of the structure tree's root that leads from the names of notes to their elements (§14.7.2).
func (w *Writer) noteTree(names []string, refs []Ref) string {
	if len(names) == 0 {
		return ""
	}
	var list []byte
	for i, name := range names {
		list = append(appendRef(append(append(list, name...), ' '), refs[i]), ' ')
	}
	id := w.alloc()
	w.object(id, "<</Names["+string(list)+"]>>")
	return "/IDTree " + id.String()
}

// appendItems writes what an element holds; page is the one that it names.
func appendItems(d []byte, list []item, page Ref) []byte {
	if len(list) == 1 {
		return list[0].appendTo(append(d, "/K "...), page)
	}
	d = append(d, "/K["...)
	for i := range list {
		if i > 0 {
			d = append(d, ' ')
		}
		d = list[i].appendTo(d, page)
	}
	return append(d, ']')
}

func appendDetails(d []byte, more *tag.Details) []byte {
	if more.Lang != "" {
		d = append(append(d, "/Lang"...), text(more.Lang)...)
	}
	if more.Alt != "" {
		d = append(append(d, "/Alt"...), text(more.Alt)...)
	}
	if more.Actual != "" {
		d = append(append(d, "/ActualText"...), text(more.Actual)...)
	}
	if more.Attributes != "" {
		d = append(append(append(d, "/A<<"...), more.Attributes...), ">>"...)
	}
	if x := more.Extent; x.Page != 0 {
		d = fmt.Appendf(d, "/A<</O/Layout/Placement/Block/BBox[%s %s %s %s]>>", num(x.X0), num(x.Y0), num(x.X1), num(x.Y1))
	}
	return d
}

// held gives the items of all elements, one element after the other, and where those
// of each end. The place of an element among what its parent holds is that of its
// first contents.
func (s *structure) held() (all []item, ends []int32) {
	parents := func(do func(up int32, e *tag.Element)) {
		for i := range s.known.Len() {
			if e := *s.known.At(i); e.Parent != nil {
				do(e.Parent.Index-1, e)
			}
		}
	}
	ends = make([]int32, s.known.Len())
	for i := range s.items.Len() {
		ends[s.items.At(i).owner]++
	}
	parents(func(up int32, _ *tag.Element) { ends[up]++ })
	total := int32(0)
	for i, n := range ends { // where they begin, at first
		ends[i], total = total, total+n
	}
	all = make([]item, total)
	put := func(it item) {
		all[ends[it.owner]] = it
		ends[it.owner]++
	}
	for i := range s.items.Len() {
		put(*s.items.At(i))
	}
	parents(func(up int32, e *tag.Element) { put(item{owner: up, order: e.Order, kid: s.ref(e)}) })
	return all, ends
}

func (s *structure) ref(e *tag.Element) Ref { return s.first + Ref(e.Index-1) }

// parentTree leads from marked content to its elements (§14.7.4.4).
func (w *Writer) parentTree() Ref {
	var nums, refs []byte
	for _, m := range w.structure.sets {
		refs = append(refs[:0], '[')
		for i, e := range m.elements {
			if i > 0 {
				refs = append(refs, ' ')
			}
			if e == nil { // of a file that was brought
				refs = append(refs, "null"...)
				continue
			}
			refs = appendRef(refs, w.structure.ref(e))
		}
		list := w.alloc()
		w.objectOf(list, append(refs, ']'))
		nums = append(appendRef(append(strconv.AppendInt(nums, int64(m.key), 10), ' '), list), ' ')
	}
	for _, l := range w.structure.links {
		nums = append(appendRef(append(strconv.AppendInt(nums, int64(l.key), 10), ' '), w.structure.ref(l.e)), ' ')
	}
	id := w.alloc()
	w.object(id, "<</Nums["+string(nums)+"]>>")
	return id
}

// appendTo writes an item of a K array; page is the one that its element names.
func (it *item) appendTo(d []byte, page Ref) []byte {
	switch {
	case it.kid != 0:
		d = appendRef(d, it.kid)
	case it.object != 0:
		d = appendRef(append(d, "<</Type/OBJR/Obj "...), it.object)
		d = append(appendRef(append(d, "/Pg "...), it.page), ">>"...)
	case it.form != 0 || it.page != page:
		d = append(d, "<</Type/MCR"...)
		if it.page != page { // else it is that of the element
			d = appendRef(append(d, "/Pg "...), it.page)
		}
		if it.form != 0 {
			d = appendRef(append(d, "/Stm "...), it.form)
		}
		d = append(strconv.AppendInt(append(d, "/MCID "...), int64(it.mcid), 10), ">>"...)
	default:
		d = strconv.AppendInt(d, int64(it.mcid), 10)
	}
	return d
}

func appendRef(d []byte, r Ref) []byte {
	return append(strconv.AppendInt(d, int64(r), 10), " 0 R"...)
}
