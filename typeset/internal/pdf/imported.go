package pdf

import (
	"slices"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/tag"
)

// Imported is a form that was copied from another file, with marked content of its own.
type Imported struct {
	w   *Writer
	set *marked
}

// Import gives a form that is copied in a place in the parent tree; nil when the document
// is not tagged.
func (w *Writer) Import(form Ref) *Imported {
	set := w.marks(0, form)
	if set == nil {
		return nil
	}
	return &Imported{w, set}
}

// Key is the form's entry StructParents.
func (i *Imported) Key() int { return i.set.key }

// mostMarks bounds the numbers of marked content, which a damaged file may make large.
const mostMarks = 1 << 20

// Belongs says which element a stretch of the form's marked content belongs to, on the
// page that shows the form.
func (i *Imported) Belongs(p *Page, mcid int, e *tag.Element, order int32) {
	if mcid < 0 || mcid > mostMarks {
		return
	}
	if more := mcid + 1 - len(i.set.elements); more > 0 {
		i.set.elements = append(i.set.elements, slices.Repeat([]*tag.Element{nil}, more)...)
	}
	i.set.elements[mcid] = e
	i.w.structure.add(e, item{order: order, page: p.id, form: i.set.form, mcid: int32(mcid)})
}

// Take gives a page, on which nothing is drawn, the contents of a page of another file, with that one's
// entries: its resources at least. Their marked content gets its place in the parent tree as that of a
// form does.
func (p *Page) Take(entries string, contents []byte) *Imported {
	p.taken = entries
	p.contents = append(p.contents, p.w.contents(contents, well)...)
	if p.marks == nil {
		return nil
	}
	return &Imported{p.w, p.marks}
}

// Anchor names the page as a place that links lead to.
func (p *Page) Anchor(name string) { p.anchorAt(name, 0, 0) }

// TaggedForm draws a form whose contents say themselves what they belong to.
func (c *Content) TaggedForm(id Ref, m display.Matrix) {
	c.unmark()
	c.put(id, m)
}
