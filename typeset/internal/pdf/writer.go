// Package pdf writes PDF 1.7 files (ISO 32000-1): objects, pages, fonts,
// pictures, outlines. The same calls give the same bytes.
package pdf

import (
	"bytes"
	"crypto/md5"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"io"
	"slices"
	"strconv"
	"strings"
	"unicode/utf16"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/memory"
	"oliveledger/typeset/internal/tag"
	"oliveledger/typeset/internal/watch"
)

// Ref is an object number.
type Ref int32

func (r Ref) String() string { return strconv.Itoa(int(r)) + " 0 R" }

// place of an object in the file (§7.5.8): an offset, or a slot in an object
// stream.
type place struct {
	offset int64
	stream Ref
	slot   int32
}

// Writer writes one document. Errors stick: the first is told by Close.
type Writer struct {
	out    io.Writer
	n      int64
	err    error
	print  []byte             // checksums of the streams
	places memory.List[place] // by object number; 0 is unused

	packs packs

	pages       []*Page
	fonts       map[fontKey]*embedded
	order       []*embedded
	widened     int // how many fonts with wider letters are asked for
	images      map[string]Ref
	heads       heads
	drawings    map[drawingKey]Ref
	profiles    map[[32]byte]Ref // colour profiles, by their SHA-256
	states      map[string]Ref
	meshes      map[string]Ref // of conic gradients, by how they look
	anchors     map[string]anchor
	Info        Info
	Outline     []OutlineItem
	Lang        string
	Profile     Profile
	Attach      []Attachment
	Watch       *watch.Watch
	HideOutline bool // it is not shown when the file is opened
	sealed      *sealed
	fields      []field
	Kept        KeptFields // from other files
	FormFace    *font.Face // that people fill in fields with; nil for none, where there are no fields
	formFont    *formFont
	form        string // the catalog\'s entry for them
	cmyk        bool   // some colour is CMYK's
	tags        *tag.Tree
	structure   *structure
	Small       bool    // objects are packed well, which takes longer: for files of many documents
	deepest     int     // states that are saved at a time, at most
	faults      []Fault // that stand against a claim
	Unclaimed   bool    // the metadata do not say that all can be read aloud
}

const producer = "Olive Ledger"

// Info is the document information dictionary.
type Info struct {
	Title, Author, Subject, Keywords, Creator string
	Date                                      string // D:YYYYMMDDHHmmSS…, empty for none
}

// OutlineItem is one bookmark. Level counts from 1.
type OutlineItem struct {
	Title  string
	Level  int
	Page   int
	Y      float64 // px from the top of the page
	Closed bool    // what is below it is folded away
}

type anchor struct {
	page int
	x, y float64
}

// New starts a document.
func New(out io.Writer) *Writer {
	w := &Writer{out: out, fonts: map[fontKey]*embedded{}, images: map[string]Ref{}, drawings: map[drawingKey]Ref{}, profiles: map[[32]byte]Ref{}, states: map[string]Ref{}, meshes: map[string]Ref{}, anchors: map[string]anchor{}}
	w.places.Add(place{})
	w.write([]byte("%PDF-1.7\n%\xE2\xE3\xCF\xD3\n"))
	return w
}

// Tagged makes the document tell its structure; call it before the first page.
func (w *Writer) Tagged(t *tag.Tree) {
	w.tags, w.structure = t, &structure{}
}

// IsTagged tells whether the document has a structure tree.
func (w *Writer) IsTagged() bool { return w.structure != nil }

func (w *Writer) write(b []byte) {
	if w.err != nil {
		return
	}
	n, err := w.out.Write(b)
	w.n += int64(n)
	w.err = err
}

func (w *Writer) alloc() Ref {
	w.places.Add(place{})
	return Ref(w.places.Len() - 1)
}

// stands tells where an object is in the file.
func (w *Writer) stands(id Ref, p place) { *w.places.At(int(id)) = p }

// objects is how objects are packed.
func (w *Writer) objects() packing {
	if w.Small {
		return well
	}
	return quick
}

// stream writes a stream object.
func (w *Writer) stream(id Ref, dict string, data []byte, how packing) {
	if how = how.suits(len(data)); how == unpacked {
		w.rawStream(id, dict, data)
		return
	}
	how.deflating(data, func(z []byte) { w.deflated(id, dict, z) })
}

// deflated writes a stream whose data is deflated already.
func (w *Writer) deflated(id Ref, dict string, data []byte) {
	w.rawStream(id, dict+"/Filter/FlateDecode", data)
}

// mostFile bounds a file in bytes.
const mostFile = 2 << 30

func (w *Writer) rawStream(id Ref, dict string, data []byte) {
	if w.sealed != nil && !strings.HasPrefix(dict, "/Type/XRef") {
		data = w.sealed.encrypt(data)
	}
	if w.n > mostFile {
		panic(watch.Stopped{Err: fmt.Errorf("the file grows beyond %d MB; look for drawings or filters inside each other", mostFile>>20)})
	}
	w.stands(id, place{offset: w.n})
	w.write(fmt.Appendf(nil, "%d 0 obj\n<<%s/Length %d>>stream\n", id, dict, len(data)))
	w.write(data)
	w.write([]byte("\nendstream\nendobj\n"))
	w.print = binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(w.print, crc32.ChecksumIEEE(data)), crc32.Checksum(data, castagnoli))
}

// castagnoli is a polynomial that processors know, as they know that of IEEE.
var castagnoli = crc32.MakeTable(crc32.Castagnoli)

// text is a PDF text string (§7.9.2.2).
func text(s string) string {
	ascii := true
	for i := range len(s) {
		ascii = ascii && s[i] >= 32 && s[i] < 127
	}
	var b bytes.Buffer
	if ascii {
		b.WriteByte('(')
		for i := range len(s) {
			if s[i] == '(' || s[i] == ')' || s[i] == '\\' {
				b.WriteByte('\\')
			}
			b.WriteByte(s[i])
		}
		b.WriteByte(')')
		return b.String()
	}
	b.WriteString("<FEFF")
	for _, u := range utf16.Encode([]rune(s)) {
		fmt.Fprintf(&b, "%04X", u)
	}
	b.WriteByte('>')
	return b.String()
}

// Close writes what was put off, the cross-reference stream and the trailer.
func (w *Writer) Close() error {
	if w.structure != nil {
		for _, e := range w.tags.Cells() {
			w.structure.know(e)
		}
	}
	w.faults = w.accessFaults()
	tree := w.alloc()
	w.form = w.acroForm()
	for _, p := range w.pages {
		w.finishPage(p, tree)
	}
	for _, f := range w.order {
		w.writeFont(f)
	}
	kids := make([]byte, 0, 8*len(w.pages))
	for _, p := range w.pages {
		kids = append(kids, p.id.String()...)
		kids = append(kids, ' ')
	}
	w.object(tree, fmt.Sprintf("<</Type/Pages/Count %d/Kids[%s]>>", len(w.pages), kids))
	root := w.alloc()
	w.object(root, w.catalog(tree))
	info := w.alloc()
	w.object(info, w.info())
	w.flushPacks()
	w.xref(root, info)
	if w.err == nil {
		w.err = w.beyondProfile()
	}
	return w.err
}

func (w *Writer) catalog(tree Ref) string {
	s := "<</Type/Catalog/Pages " + tree.String() + "/Metadata " + w.metadata().String()
	if w.Lang != "" {
		s += "/Lang" + text(w.Lang)
	}
	if len(w.Outline) > 0 {
		s += "/Outlines " + w.outline().String()
		if !w.HideOutline {
			s += "/PageMode/UseOutlines"
		}
	}
	if w.structure != nil {
		s += "/MarkInfo<</Marked true>>/StructTreeRoot " + w.structTree(w.tags.Root).String()
	}
	if w.Info.Title != "" {
		s += "/ViewerPreferences<</DisplayDocTitle true>>"
	}
	if w.Profile != Plain {
		s += w.outputIntent()
	}
	names := ""
	if d := w.dests(); d != "" {
		names += "/Dests " + d
	}
	if files, associated := w.attachments(); files != "" {
		names += "/EmbeddedFiles<</Names[" + files + "]>>"
		s += "/AF[" + associated + "]"
	}
	if names != "" {
		s += "/Names<<" + names + ">>"
	}
	return s + w.labels() + w.form + ">>"
}

// dests is the name tree of the anchors (§12.3.2.3).
func (w *Writer) dests() string {
	used := map[string]bool{}
	for _, p := range w.pages {
		for _, l := range p.links {
			if place, inside := strings.CutPrefix(l.to.Address, "#"); inside {
				if name, ok := w.anchorOf(place); ok {
					used[name] = true
				}
			}
		}
	}
	var list []dest
	for n, a := range w.anchors {
		if used[n] {
			list = append(list, dest{text(n), a})
		}
	}
	if len(list) == 0 {
		return ""
	}
	slices.SortFunc(list, func(a, b dest) int { return strings.Compare(a.name, b.name) })
	var s strings.Builder
	s.WriteString("<</Names[")
	for _, d := range list {
		p := w.pages[d.page]
		fmt.Fprintf(&s, "%s[%s/XYZ %s %s null]", d.name, p.id, num(d.x*0.75), num((p.h-d.y)*0.75))
	}
	s.WriteString("]>>")
	id := w.alloc()
	w.object(id, s.String())
	return id.String()
}

// dest is a place that links lead to, by its name as the file has it.
type dest struct {
	name string
	anchor
}

func (w *Writer) info() string {
	s := "<</Producer(" + producer + ")"
	for _, f := range []struct{ key, value string }{{"Title", w.Info.Title}, {"Author", w.Info.Author}, {"Subject", w.Info.Subject}, {"Keywords", w.Info.Keywords}, {"Creator", w.Info.Creator}} {
		if f.value != "" {
			s += "/" + f.key + text(f.value)
		}
	}
	if w.Info.Date != "" {
		s += "/CreationDate" + text(w.Info.Date) + "/ModDate" + text(w.Info.Date)
	}
	return s + ">>"
}

// outline writes the outline tree (§12.3.3).
func (w *Writer) outline() Ref {
	type node struct {
		id                              Ref
		item                            OutlineItem
		parent, first, last, prev, next int
		count                           int
	}
	nodes := []node{{id: w.alloc(), parent: -1, first: -1, last: -1, prev: -1, next: -1}}
	stack := []int{0}
	for _, it := range w.Outline {
		for len(stack) > 1 && nodes[stack[len(stack)-1]].item.Level >= it.Level {
			stack = stack[:len(stack)-1]
		}
		p := stack[len(stack)-1]
		i := len(nodes)
		nodes = append(nodes, node{id: w.alloc(), item: it, parent: p, first: -1, last: -1, prev: nodes[p].last, next: -1})
		if nodes[p].last >= 0 {
			nodes[nodes[p].last].next = i
		} else {
			nodes[p].first = i
		}
		nodes[p].last = i
		for q := p; q >= 0; q = nodes[q].parent { // those that can be seen count
			nodes[q].count++
			if q > 0 && nodes[q].item.Closed {
				break
			}
		}
		stack = append(stack, i)
	}
	ref := func(key string, i int) string {
		if i < 0 {
			return ""
		}
		return "/" + key + " " + nodes[i].id.String()
	}
	for i, n := range nodes {
		s := "<<" + ref("First", n.first) + ref("Last", n.last)
		if n.count > 0 {
			if n.item.Closed {
				n.count = -n.count
			}
			s += "/Count " + strconv.Itoa(n.count)
		}
		if i > 0 && n.item.Page < len(w.pages) {
			p := w.pages[n.item.Page]
			s += ref("Parent", n.parent) + ref("Prev", n.prev) + ref("Next", n.next) + "/Title" + text(n.item.Title) +
				fmt.Sprintf("/Dest[%s/XYZ 0 %s null]", p.id, num((p.h-n.item.Y)*0.75))
		}
		w.object(n.id, s+">>")
	}
	return nodes[0].id
}

// xref writes the cross-reference stream (§7.5.8).
func (w *Writer) xref(root, info Ref) {
	encrypt := ""
	if w.sealed != nil {
		e := w.alloc()
		w.stands(e, place{offset: w.n})
		w.write([]byte(fmt.Sprintf("%d 0 obj\n%s\nendobj\n", e, w.sealed.dict())))
		encrypt = "/Encrypt " + e.String()
	}
	id := w.alloc()
	w.stands(id, place{offset: w.n})
	start := w.n
	data, row := w.entries()
	packing := w.objects().suits(len(data))
	predictor := ""
	if packing != unpacked { // entries differ little from those before
		k := period(data, row)
		for w.places.Len()%k > 0 { // whole rows: numbers that are free
			w.alloc()
			data = append(data, make([]byte, row)...)
		}
		predictor = fmt.Sprintf("/DecodeParms<</Predictor 12/Columns %d>>", k*row)
		data = predict(data, k*row)
	}
	sum := md5.Sum(w.print) // the identifier comes from the contents alone
	dict := fmt.Sprintf("/Type/XRef/Size %d/W[1 %d 2]/Root %s/Info %s/ID[<%X><%X>]%s%s", w.places.Len(), row-3, root, info, sum, sum, encrypt, predictor)
	w.stream(id, dict, data, packing)
	w.write(fmt.Appendf(nil, "startxref\n%d\n%%%%EOF\n", start))
}

// entries tell where the objects are, in rows of so many bytes: the kind, an offset or the
// number of a stream, and the slot in it.
func (w *Writer) entries() (data []byte, row int) {
	wide := 2 // bytes of an offset or the number of a stream
	for w.n>>(8*wide) > 0 || w.places.Len()>>(8*wide) > 0 {
		wide++
	}
	row = 1 + wide + 2
	data = make([]byte, 0, row*w.places.Len())
	for i := range w.places.Len() {
		p := w.places.At(i)
		kind, at, slot := byte(1), uint64(p.offset), uint16(0)
		switch {
		case i == 0 || p.offset == 0 && p.stream == 0:
			kind = 0
		case p.stream != 0:
			kind, at, slot = 2, uint64(p.stream), uint16(p.slot)
		}
		data = append(data, kind)
		for k := wide - 1; k >= 0; k-- {
			data = append(data, byte(at>>(8*k)))
		}
		data = binary.BigEndian.AppendUint16(data, slot)
	}
	return data, row
}

// fontKey names a font of a document: a face with its own widths, or with letters that are wider by some font units.
type fontKey struct {
	face  *font.Face
	wider int
}

// embedded is a face in use and the glyphs that it has drawn.
type embedded struct {
	id    Ref
	name  string
	face  *font.Face
	wider int // font units that each letter is wider by than the face has it
	drawn drawn

	aliases []alias // their codes follow the glyphs of the face
	codes   map[alias]uint32
}

var _ display.Canvas = (*Content)(nil)

// Alloc, RawObject, RawStream and Deflated let other files' objects be copied
// in. Alloc takes a number for an object that follows.
func (w *Writer) Alloc() Ref { return w.alloc() }

// RawObject writes an object that is no stream.
func (w *Writer) RawObject(id Ref, body string) { w.object(id, body) }

// RawStream writes a stream whose data is packed already.
func (w *Writer) RawStream(id Ref, entries string, data []byte) {
	w.stream(id, entries, data, unpacked)
}

// Deflated writes a stream and packs its data.
func (w *Writer) Deflated(id Ref, entries string, data []byte) { w.stream(id, entries, data, well) }
