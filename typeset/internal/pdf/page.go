package pdf

import (
	"cmp"
	"fmt"
	"net/url"
	"slices"
	"sort"
	"strings"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/tag"
)

// Page is one page; its body may be drawn long before its margins.
type Page struct {
	w        *Writer
	id       Ref
	number   int
	width, h float64 // px
	contents []Ref
	res      resources
	Bleed    float64 // px that backgrounds reach beyond the sheet
	Around   float64 // px of room around the sheet, for bleed and marks
	Label    int     // the number that viewers show
	Turn     int     // degrees clockwise by which viewers and printers turn the sheet, a multiple of 90
	links    []link
	widgets  []Ref
	marks    *marked
	taken    string // entries of the page of another file whose contents these are; "" for a page drawn here
}

type link struct {
	box display.Rect
	to  display.Link
	tag *tag.Element
}

// resources collects what the contents of a page or form name.
type resources struct {
	fonts, states, objects, shadings, patterns map[string]Ref
}

func (r *resources) add(m *map[string]Ref, name string, id Ref) string {
	if *m == nil {
		*m = map[string]Ref{}
	}
	(*m)[name] = id
	return name
}

func (r *resources) String() string {
	var b strings.Builder
	b.WriteString("<<")
	for _, g := range []struct {
		key string
		m   map[string]Ref
	}{{"Font", r.fonts}, {"ExtGState", r.states}, {"XObject", r.objects}, {"Shading", r.shadings}, {"Pattern", r.patterns}} {
		if len(g.m) == 0 {
			continue
		}
		names := make([]string, 0, len(g.m))
		for n := range g.m {
			names = append(names, n)
		}
		sort.Strings(names)
		b.WriteString("/" + g.key + "<<")
		for _, n := range names {
			b.WriteString("/" + n + " " + g.m[n].String())
		}
		b.WriteString(">>")
	}
	b.WriteString(">>")
	return b.String()
}

// AddPage starts a page of a size in px.
func (w *Writer) AddPage(width, height float64) *Page {
	p := &Page{w: w, id: w.alloc(), number: len(w.pages), width: width, h: height}
	p.marks = w.marks(p.id, 0)
	w.pages = append(w.pages, p)
	return p
}

// Draw adds contents to the page, over what is there. They are written at
// once.
func (p *Page) Draw(draw func(display.Canvas)) {
	c := &Content{w: p.w, page: p, res: &p.res, marks: p.marks, buf: takeRoom()}
	c.under(display.Matrix{0.75, 0, 0, -0.75, 0, p.h * 0.75})
	defer func() { giveRoom(c.buf) }()
	c.op("q 0.75 0 0 -0.75 0", num(p.h*0.75), "cm")
	draw(c)
	c.unmark()
	c.op("Q")
	p.contents = append(p.contents, p.w.contents(c.buf, quick)...)
}

// anchorAt names a place on the page, in px from its upper left corner. The first of a name counts.
func (p *Page) anchorAt(name string, x, y float64) {
	if _, there := p.w.anchors[name]; !there {
		p.w.anchors[name] = anchor{p.number, x, y}
	}
}

// Mark is a place between what is drawn on a page so far and what comes.
func (p *Page) Mark() int { return len(p.contents) }

// DrawAt draws at a mark: under what was drawn after it.
func (p *Page) DrawAt(mark int, draw func(display.Canvas)) {
	before := len(p.contents)
	p.Draw(draw)
	added := slices.Clone(p.contents[before:])
	p.contents = slices.Insert(p.contents[:before], mark, added...)
}

func (w *Writer) finishPage(p *Page, tree Ref) {
	var contents strings.Builder
	for _, c := range p.contents {
		contents.WriteString(c.String() + " ")
	}
	entries := p.taken
	if entries == "" {
		entries = "/Resources" + p.res.String()
	}
	s := fmt.Sprintf("<</Type/Page/Parent %s%s%s/Contents[%s]", tree, p.boxes(), entries, strings.TrimSpace(contents.String()))
	if len(p.links)+len(p.widgets) > 0 {
		s += "/Annots["
		for _, id := range p.widgets {
			s += id.String() + " "
		}
		for _, l := range p.links {
			s += w.annotation(p, l) + " "
		}
		s += "]"
	}
	if p.Turn != 0 {
		s += fmt.Sprintf("/Rotate %d", p.Turn)
	}
	if p.marks != nil {
		s += fmt.Sprintf("/StructParents %d/Tabs/S", p.marks.key)
	}
	w.object(p.id, s+">>")
}

// boxes are the media box and, where there is room around the sheet, the
// bleed and trim boxes (§14.11.2). The sheet's corner stays the origin.
func (p *Page) boxes() string {
	box := func(name string, by float64) string {
		return fmt.Sprintf("/%s[%s %s %s %s]", name, num(-by*0.75), num(-by*0.75), num((p.width+by)*0.75), num((p.h+by)*0.75))
	}
	if p.Around == 0 {
		return box("MediaBox", 0)
	}
	return box("MediaBox", p.Around) + box("BleedBox", p.Bleed) + box("TrimBox", 0)
}

// anchorOf is the name of the anchor that is meant by the fragment of an address: as it is written, or without its
// percent-encoding (HTML, §7.4.6.4).
func (w *Writer) anchorOf(fragment string) (name string, ok bool) {
	if _, ok := w.anchors[fragment]; ok {
		return fragment, true
	}
	name, err := url.PathUnescape(fragment)
	if err != nil {
		return "", false
	}
	_, ok = w.anchors[name]
	return name, ok
}

// annotation writes a link (§12.5.6.5). One that leads to a place which is not there is left out.
func (w *Writer) annotation(p *Page, l link) string {
	action := "/A<</S/URI/URI" + text(l.to.Address) + ">>"
	if place, inside := strings.CutPrefix(l.to.Address, "#"); inside {
		name, ok := w.anchorOf(place)
		switch {
		case ok:
			action = "/Dest" + text(name)
		case place == "" || strings.EqualFold(place, "top"):
			action = fmt.Sprintf("/Dest[%s/XYZ 0 %s null]", w.pages[0].id, num(w.pages[0].h*0.75))
		default:
			return ""
		}
	}
	id := w.alloc()
	b := l.box
	if w.structure != nil {
		action += "/Contents" + text(cmp.Or(l.to.Text, l.to.Address))
		if l.tag != nil {
			action += fmt.Sprintf("/StructParent %d", w.structure.parentKey(l.tag, id, p.id))
		}
	}
	w.object(id, fmt.Sprintf("<</Type/Annot/Subtype/Link/Border[0 0 0]/F 4/Rect[%s %s %s %s]%s>>", num(b.X*0.75), num((p.h-b.Y-b.H)*0.75), num((b.X+b.W)*0.75), num((p.h-b.Y)*0.75), action))
	return id.String()
}
