package linear

import (
	"bytes"
	"compress/zlib"
	"fmt"
	"maps"
	"slices"
	"strconv"

	"oliveledger/typeset/internal/pdfread"
)

// packed is how many objects stand in an object stream.
const packed = 500

// writer puts the parts of a file in their order.
type writer struct {
	in      *pdfread.File
	parts   *parts
	version string

	numbers map[int]int   // of the objects of in, in the new file
	loose   []int         // of rest: objects that stand by themselves
	packs   [][]int       // of rest: those in object streams
	packAt  int           // number of the first object stream
	table   int           // number of the main cross-reference stream
	last    int           // up to here are the numbers of what stands from the second page on
	size    int           // one more than the highest number
	lengths map[int]int   // of the objects of in, as they stand in the new file
	places  map[int]place // by new number
	out     []byte
}

// place is where an object is: at an offset, or as the index-th of an object stream.
type place struct{ offset, stream, index int }

// number gives the objects their new numbers (F.3.1): from the second page on they count from 1, those in object streams
// last, and those before it have the numbers after them.
func (w *writer) number() {
	w.numbers, w.lengths, w.places = map[int]int{}, map[int]int{}, map[int]place{}
	next := 1
	give := func(list []int) {
		for _, num := range list {
			w.numbers[num] = next
			next++
		}
	}
	for _, list := range w.parts.pages {
		give(list)
	}
	give(w.parts.shared)
	var small []int
	for _, num := range w.parts.rest {
		if _, ok := w.in.Object(num).(*pdfread.Stream); ok || w.parts.plain[num] {
			w.loose = append(w.loose, num)
		} else {
			small = append(small, num)
		}
	}
	give(w.loose)
	w.packs, w.packAt = slices.Collect(slices.Chunk(small, packed)), next
	w.table = w.packAt + len(w.packs)
	next = w.table + 1
	give(small)
	w.last = next - 1
	next = w.last + 3 // after the dictionary of the file and the first cross-reference stream
	give(w.parts.document)
	next++ // the hints
	give(w.parts.first)
	w.size = next
}

// Numbers of what the new file has besides the objects of the old one.
func (w *writer) dictionary() int { return w.last + 1 }
func (w *writer) firstTable() int { return w.last + 2 }
func (w *writer) hints() int      { return w.last + 3 + len(w.parts.document) }

// ref is the number of what a reference of the old file leads to.
func (w *writer) ref(r pdfread.Ref) int { return w.numbers[r.Num] }

// body is an object as it stands in the file.
func (w *writer) body(num int) []byte {
	own := w.numbers[num]
	if s, ok := w.in.Object(num).(*pdfread.Stream); ok {
		return w.stream(own, maps.Clone(s.Dict), s.Raw, false)
	}
	b := append(strconv.AppendInt(nil, int64(own), 10), " 0 obj\n"...)
	return append(pdfread.Append(b, w.in.Object(num), w.ref), "\nendobj\n"...)
}

// write lays out the file (F.3). What is before the hints has the same length whatever it says, so that each can tell
// where the others are.
func (w *writer) write() ([]byte, error) {
	head := fmt.Sprintf("%%PDF-%s\n%%\xE2\xE3\xCF\xD3\n", w.version)
	tableAt := len(head) + len(w.fileDictionary(fileDictionary{}))
	documentAt := tableAt + len(w.frontTable(0))
	hintsAt := w.lay(documentAt, w.parts.document)
	// places that hints tell are as if the hints were not there (F.4.1)
	firstEnd := w.lay(hintsAt, w.parts.first)
	h := w.measure(hintsAt, firstEnd)
	hints := w.stream(w.hints(), h.entries(), h.table, false)

	at := w.lay(hintsAt+len(hints), w.parts.first) // now they are
	firstEnd = at
	w.places[w.hints()] = place{offset: hintsAt}
	w.places[w.dictionary()], w.places[w.firstTable()] = place{offset: len(head)}, place{offset: tableAt}
	for _, list := range w.parts.pages {
		at = w.lay(at, list)
	}
	at = w.lay(at, w.parts.shared)
	at = w.lay(at, w.loose)
	var packs [][]byte
	for i := range w.packs {
		own := w.packAt + i
		packs = append(packs, w.pack(own, w.packs[i]))
		w.places[own] = place{offset: at}
		at += len(packs[i])
	}
	w.places[w.table] = place{offset: at}
	main := w.mainTable()

	w.out = append(w.out, head...)
	w.out = append(w.out, w.fileDictionary(fileDictionary{
		length: at + len(main) + len(tail(tableAt)), hintsAt: hintsAt, hints: len(hints), firstEnd: firstEnd, mainAt: at,
	})...)
	w.out = append(w.out, w.frontTable(at)...)
	w.put(w.parts.document)
	w.out = append(w.out, hints...)
	w.put(w.parts.first)
	for _, list := range w.parts.pages {
		w.put(list)
	}
	w.put(w.parts.shared)
	w.put(w.loose)
	w.out = append(w.out, bytes.Join(packs, nil)...)
	w.out = append(w.out, main...)
	return append(w.out, tail(tableAt)...), nil
}

// lay notes where objects are that stand one after the other, and gives where they end.
func (w *writer) lay(at int, list []int) int {
	for _, num := range list {
		w.places[w.numbers[num]] = place{offset: at}
		at += w.length(num)
	}
	return at
}

// length is how many bytes objects take.
func (w *writer) length(list ...int) (sum int) {
	for _, num := range list {
		if w.lengths[num] == 0 {
			w.lengths[num] = len(w.body(num))
		}
		sum += w.lengths[num]
	}
	return sum
}

func (w *writer) put(list []int) {
	for _, num := range list {
		w.out = append(w.out, w.body(num)...)
	}
}

// fileDictionary is what the linearisation parameter dictionary tells (F.3.3).
type fileDictionary struct{ length, hintsAt, hints, firstEnd, mainAt int }

func (w *writer) fileDictionary(d fileDictionary) []byte {
	return fmt.Appendf(nil, "%d 0 obj\n<</Linearized 1/L %-10d/H[%-10d %-10d]/O %d/E %-10d/N %d/T %-10d>>\nendobj\n",
		w.dictionary(), d.length, d.hintsAt, d.hints, w.numbers[w.parts.first[0]], d.firstEnd, len(w.parts.pages)+1, d.mainAt)
}

// frontTable is the cross-reference stream of what stands before the second page. It leads to the main one.
func (w *writer) frontTable(main int) []byte {
	var rows []byte
	for num := w.dictionary(); num < w.size; num++ {
		rows = w.row(rows, num)
	}
	d := w.trailer()
	b := fmt.Appendf(nil, "%d 0 obj\n<<", w.firstTable())
	d["Type"], d["Index"] = pdfread.Name("XRef"), pdfread.Array{int64(w.dictionary()), int64(w.size - w.dictionary())}
	d["W"], d["Length"] = rowWidths, int64(len(rows))
	b = pdfread.AppendEntries(b, d, w.ref)
	b = fmt.Appendf(b, "/Prev %-10d>>\nstream\n", main)
	return append(append(b, rows...), "\nendstream\nendobj\nstartxref\n0\n%%EOF\n"...)
}

// mainTable is the cross-reference stream of all else.
func (w *writer) mainTable() []byte {
	rows := []byte{0, 0, 0, 0, 0, 0xFF, 0xFF}
	for num := 1; num <= w.last; num++ {
		rows = w.row(rows, num)
	}
	d := w.trailer()
	d["Type"], d["Size"], d["W"] = pdfread.Name("XRef"), int64(w.last+1), rowWidths
	return w.stream(w.table, d, rows, true)
}

// rowWidths are the widths of the columns of a cross-reference stream, in bytes.
var rowWidths = pdfread.Array{int64(1), int64(4), int64(2)}

func (w *writer) row(b []byte, num int) []byte {
	p := w.places[num]
	if p.stream > 0 {
		return append(b, 2, byte(p.stream>>24), byte(p.stream>>16), byte(p.stream>>8), byte(p.stream), byte(p.index>>8), byte(p.index))
	}
	return append(b, 1, byte(p.offset>>24), byte(p.offset>>16), byte(p.offset>>8), byte(p.offset), 0, 0)
}

func (w *writer) trailer() pdfread.Dict {
	d := pdfread.Dict{"Size": int64(w.size)}
	for _, key := range []pdfread.Name{"Root", "Info", "ID"} {
		if v := w.in.Trailer[key]; v != nil {
			d[key] = v
		}
	}
	return d
}

// pack is an object stream (§7.5.7).
func (w *writer) pack(own int, list []int) []byte {
	var index, bodies []byte
	for i, num := range list {
		w.places[w.numbers[num]] = place{stream: own, index: i}
		index = fmt.Appendf(index, "%d %d ", w.numbers[num], len(bodies))
		bodies = pdfread.Append(bodies, w.in.Object(num), w.ref)
		bodies = append(bodies, '\n')
	}
	d := pdfread.Dict{"Type": pdfread.Name("ObjStm"), "N": int64(len(list)), "First": int64(len(index))}
	return w.stream(own, d, append(index, bodies...), true)
}

// stream is a stream as it stands in the file.
func (w *writer) stream(own int, d pdfread.Dict, data []byte, deflate bool) []byte {
	if deflate {
		var b bytes.Buffer
		z, _ := zlib.NewWriterLevel(&b, zlib.BestCompression) // the level is one that there is
		_, _ = z.Write(data)                                  // into memory
		_ = z.Close()
		data, d["Filter"] = b.Bytes(), pdfread.Name("FlateDecode")
	}
	d["Length"] = int64(len(data))
	b := fmt.Appendf(nil, "%d 0 obj\n", own)
	b = append(pdfread.Append(b, d, w.ref), "\nstream\n"...)
	return append(append(b, data...), "\nendstream\nendobj\n"...)
}

func tail(tableAt int) []byte { return fmt.Appendf(nil, "startxref\n%d\n%%%%EOF\n", tableAt) }

func keys(d pdfread.Dict) []pdfread.Name { return slices.Sorted(maps.Keys(d)) }
