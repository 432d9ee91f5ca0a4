package linear

import (
	"math/bits"

	"oliveledger/typeset/internal/pdfread"
)

// hintTables are the hints of a file: of its pages, from sharedAt on of what several of them show, and from outlineAt on
// of its outline, if it has one.
type hintTables struct {
	table               []byte
	sharedAt, outlineAt int
}

// entries are those of the stream that holds the hints (F.4).
func (h hintTables) entries() pdfread.Dict {
	d := pdfread.Dict{"S": int64(h.sharedAt)}
	if h.outlineAt > 0 {
		d["O"] = int64(h.outlineAt)
	}
	return d
}

// pageHints is what a viewer is told of a page (F.4.1).
type pageHints struct {
	objects, length int
	shared          []int // what it shows that stands elsewhere: places in the table of those
}

// measure makes the hints. The first page and what it shows stand from at to end.
func (w *writer) measure(at, end int) hintTables {
	pages := []pageHints{{objects: len(w.parts.first), length: end - at}}
	identifiers := map[int]int{}
	for _, num := range append(append([]int(nil), w.parts.first...), w.parts.shared...) {
		identifiers[num] = len(identifiers)
	}
	for i, list := range w.parts.pages {
		p := pageHints{objects: len(list), length: w.length(list...)}
		for _, num := range w.parts.uses[i] {
			p.shared = append(p.shared, identifiers[num])
		}
		pages = append(pages, p)
		end += p.length
	}
	b := &bitWriter{}
	pageTable(b, pages, at)
	h := hintTables{sharedAt: len(b.out)}
	w.sharedTable(b, end)
	if len(w.parts.outline) > 0 {
		h.outlineAt = len(b.out)
		w.outlineTable(b, end+w.length(w.parts.shared...))
	}
	h.table = b.out
	return h
}

// outlineTable tells where the outline is (F.4.5). What is left after the shared objects begins at rest.
func (w *writer) outlineTable(b *bitWriter, rest int) {
	root := w.parts.outline[0]
	at := rest // the outline is what comes first there
	if p, ok := w.places[w.numbers[root]]; ok {
		at = p.offset
	}
	b.put(32, w.numbers[root])
	b.put(32, at)
	b.put(32, len(w.parts.outline))
	b.put(32, w.length(w.parts.outline...))
}

// pageTable writes the page offset hint table (F.4.1). The first page begins at first.
func pageTable(b *bitWriter, pages []pageHints, first int) {
	objects := spanOf(pages, func(p pageHints) int { return p.objects })
	length := spanOf(pages, func(p pageHints) int { return p.length })
	shared, identifier := 0, 0
	for _, p := range pages {
		shared = max(shared, len(p.shared))
		for _, id := range p.shared {
			identifier = max(identifier, id)
		}
	}
	b.put(32, objects.least)
	b.put(32, first)
	b.put(16, objects.bits)
	b.put(32, length.least)
	b.put(16, length.bits)
	b.put(32, 0) // where contents begin in a page is told to be its beginning, and their length to be its own
	b.put(16, 0)
	b.put(32, length.least)
	b.put(16, length.bits)
	b.put(16, bits.Len(uint(shared)))
	b.put(16, bits.Len(uint(identifier)))
	b.put(16, 0) // in which part of the contents something is used is not told
	b.put(16, 1)
	column := func(width int, value func(p pageHints) int) {
		for _, p := range pages {
			b.put(width, value(p))
		}
		b.flush()
	}
	column(objects.bits, func(p pageHints) int { return p.objects - objects.least })
	column(length.bits, func(p pageHints) int { return p.length - length.least })
	column(bits.Len(uint(shared)), func(p pageHints) int { return len(p.shared) })
	for _, p := range pages {
		for _, id := range p.shared {
			b.put(bits.Len(uint(identifier)), id)
		}
	}
	b.flush()
	column(length.bits, func(p pageHints) int { return p.length - length.least })
}

// sharedTable writes the shared object hint table (F.4.2): all that the first page shows, and what several others do,
// which stands from at on.
func (w *writer) sharedTable(b *bitWriter, at int) {
	var lengths []int
	for _, list := range [][]int{w.parts.first, w.parts.shared} {
		for _, num := range list {
			lengths = append(lengths, w.length(num))
		}
	}
	length := spanOf(lengths, func(n int) int { return n })
	if len(w.parts.shared) == 0 {
		b.put(32, 0)
		b.put(32, 0)
	} else {
		b.put(32, w.numbers[w.parts.shared[0]])
		b.put(32, at)
	}
	b.put(32, len(w.parts.first))
	b.put(32, len(lengths))
	b.put(16, 0) // each is told by itself
	b.put(32, length.least)
	b.put(16, length.bits)
	for _, n := range lengths {
		b.put(length.bits, n-length.least)
	}
	b.flush()
	for range lengths {
		b.put(1, 0) // without a checksum
	}
	b.flush()
}

// span is the least of some numbers, and how many bits tell by how much the others are more.
type span struct{ least, bits int }

func spanOf[T any](list []T, value func(T) int) span {
	lo, hi := value(list[0]), value(list[0])
	for _, x := range list {
		lo, hi = min(lo, value(x)), max(hi, value(x))
	}
	return span{lo, bits.Len(uint(hi - lo))}
}

// bitWriter packs numbers, the highest bit first.
type bitWriter struct {
	out  []byte
	free int // bits of the last byte that hold nothing yet
}

func (b *bitWriter) put(width, v int) {
	for i := width - 1; i >= 0; i-- {
		if b.free == 0 {
			b.out, b.free = append(b.out, 0), 8
		}
		b.free--
		b.out[len(b.out)-1] |= byte(v>>i&1) << b.free
	}
}

// flush goes on with the next byte.
func (b *bitWriter) flush() { b.free = 0 }
