package pdf

import (
	"bytes"
	"fmt"
	"strconv"
)

// Objects that are no streams are written into object streams (§7.5.7). A long document has
// ten thousands that differ in their numbers alone: cells, rows, pages. Those are put into
// streams of their own, each as long as the others, so that the predictor of PNG's rows takes
// each from the one before and leaves next to nothing to deflate.

const (
	mostMixed = 200  // objects in a stream of different ones
	mostAlike = 1000 // objects in a stream of those alike
	worth     = 4    // objects of a shape from which on they are put together
	leastPack = 1500 // bytes of objects alike that are worth a stream of their own
	mostShape = 400  // bytes up to which objects are compared
	mostKinds = 4096 // shapes that are remembered
)

// pack is an object stream in the making.
type pack struct {
	body    []byte
	at      []int // where the objects begin
	ids     []Ref
	columns int // bytes of a row, to which objects are padded; 0 where they differ
}

func (p *pack) add(id Ref, body []byte) {
	if p.body == nil {
		p.body = takeRoom()
		p.at, p.ids = make([]int, 0, mostMixed), make([]Ref, 0, mostMixed)
	}
	p.at = append(p.at, len(p.body))
	p.ids = append(p.ids, id)
	p.body = append(p.body, body...)
	p.body = append(p.body, '\n')
}

// packs are the object streams that a document is writing.
type packs struct {
	mixed pack
	seen  map[uint64]int // how many objects of a shape there have been
	alike map[uint64]*pack
	order []*pack // those of alike
}

// of finds the stream for an object.
func (p *packs) of(body []byte) *pack {
	key, columns := shape(body)
	if key == 0 {
		return &p.mixed
	}
	if in := p.alike[key]; in != nil {
		return in
	}
	if p.seen == nil {
		p.seen, p.alike = map[uint64]int{}, map[uint64]*pack{}
	}
	if p.seen[key] > 0 || len(p.seen) < mostKinds {
		p.seen[key]++
	}
	if p.seen[key] < worth {
		return &p.mixed
	}
	in := &pack{columns: columns}
	p.alike[key] = in
	p.order = append(p.order, in)
	return in
}

// shape is a number for what is left of an object without its numbers, 0 for one that is not
// worth comparing. Lists of references are of one shape, in rows of a reference each.
func shape(body []byte) (key uint64, columns int) {
	const offset, prime = 14695981039346656037, 1099511628211 // FNV-1a
	if len(body) == 0 || len(body) > mostShape && body[0] != '[' {
		return 0, 0
	}
	if body[0] == '[' && bytes.HasSuffix(body, []byte(" R]")) && !bytes.ContainsAny(body, "(</") {
		columns = bytes.IndexByte(body, 'R') + 1
		return uint64(columns), columns
	}
	if body[0] != '<' {
		return 0, 0
	}
	key = offset
	digit := false
	for _, c := range body {
		if c >= '0' && c <= '9' {
			if digit {
				continue
			}
			digit, c = true, '0'
		} else {
			digit = false
		}
		key = (key ^ uint64(c)) * prime
	}
	return key, 0
}

// object puts a plain object into an object stream.
func (w *Writer) object(id Ref, body string) { w.objectOf(id, []byte(body)) }

// objectOf is object for a body that is built in memory used again.
func (w *Writer) objectOf(id Ref, body []byte) {
	w.pack(w.packs.of(body), id, body)
}

// pack puts an object into a stream, which is written when it is full.
func (w *Writer) pack(p *pack, id Ref, body []byte) {
	p.add(id, body)
	most := mostAlike
	if p == &w.packs.mixed {
		most = mostMixed
	}
	if len(p.ids) >= most {
		w.flush(p)
	}
}

// flushPacks writes what waits.
func (w *Writer) flushPacks() {
	mixed := &w.packs.mixed
	for _, p := range w.packs.order {
		if len(p.body) >= leastPack {
			w.flush(p)
		}
		for i, id := range p.ids {
			w.pack(mixed, id, bytes.TrimSuffix(p.object(i), []byte("\n")))
		}
		giveRoom(p.body)
	}
	w.flush(mixed)
	giveRoom(mixed.body)
	w.packs = packs{}
}

// object is one that waits, and the line end after it.
func (p *pack) object(i int) []byte {
	end := len(p.body)
	if i+1 < len(p.at) {
		end = p.at[i+1]
	}
	return p.body[p.at[i]:end]
}

// flush writes an object stream, and empties it.
func (w *Writer) flush(p *pack) {
	if len(p.ids) == 0 {
		return
	}
	id := w.alloc()
	for i, o := range p.ids {
		w.stands(o, place{stream: id, slot: int32(i)})
	}
	dict := fmt.Sprintf("/Type/ObjStm/N %d", len(p.ids))
	if p == &w.packs.mixed {
		data, first := p.lines()
		w.stream(id, fmt.Sprintf("%s/First %d", dict, first), data, w.objects())
		giveRoom(data)
	} else {
		data, first, columns := p.rows()
		w.stream(id, fmt.Sprintf("%s/First %d/DecodeParms<</Predictor 12/Columns %d>>", dict, first, columns), predict(data, columns), well)
		giveRoom(data)
	}
	p.body, p.at, p.ids = p.body[:0], p.at[:0], p.ids[:0]
}

// lines are an object stream's data as they come, and where the first object is in them.
func (p *pack) lines() (data []byte, first int) {
	data = takeRoom()
	for i, o := range p.ids {
		data = append(strconv.AppendInt(data, int64(o), 10), ' ')
		data = append(strconv.AppendInt(data, int64(p.at[i]), 10), ' ')
	}
	first = len(data)
	return append(data, p.body...), first
}

// rows are the same with all that belongs together below each other: an object begins a row,
// and so does each group of entries of the head.
func (p *pack) rows() (data []byte, first, columns int) {
	columns = p.columns
	longest := 0
	for i := range p.ids {
		longest = max(longest, len(p.object(i)))
	}
	if columns == 0 {
		columns = longest
	}
	padded := func(n int) int { return (n + columns - 1) / columns * columns }
	total := 0
	for i := range p.ids {
		total += padded(len(p.object(i)))
	}
	entry := len(strconv.Itoa(int(p.ids[len(p.ids)-1]))) + len(strconv.Itoa(total)) + 2
	across := max(columns/entry, 1)
	data = takeRoom()
	pad := func(to int) {
		for len(data) < to {
			data = append(data, ' ')
		}
	}
	offset := 0
	for i, o := range p.ids {
		begun := len(data)
		data = append(strconv.AppendInt(data, int64(o), 10), ' ')
		data = append(strconv.AppendInt(data, int64(offset), 10), ' ')
		offset += padded(len(p.object(i)))
		if pad(begun + entry); (i+1)%across == 0 || i+1 == len(p.ids) {
			pad(padded(len(data)))
		}
	}
	first = len(data)
	for i := range p.ids {
		data = append(data, p.object(i)...)
		pad(padded(len(data)))
	}
	return data, first, columns
}

// period is after how many rows of so many bytes data repeats best: a table of five columns
// has six objects a row.
func period(data []byte, row int) int {
	most, sample := min(len(data)/row/100, 80), 1<<15
	data = data[len(data)/2:]
	data = data[:min(len(data), sample)]
	best, least := 1, len(data)+1
	for k := 1; k <= most; k++ {
		differ := 0
		for i := k * row; i < len(data); i++ {
			if data[i] != data[i-k*row] {
				differ++
			}
		}
		if differ < least*9/10 {
			best, least = k, differ
		}
	}
	return best
}
