package pdfread

import (
	"bytes"
	"errors"
	"fmt"
	"strconv"
)

// File is a PDF file whose structure has been read.
type File struct {
	Trailer Dict
	Rebuilt bool // its cross-reference table was lost or wrong

	data    []byte
	before  int // bytes before its header
	start   int // of its last cross-reference section
	places  map[int]place
	objects map[int]Object
	loading map[int]bool
	packs   map[int]*pack
	crypt   *crypt
}

// place of an object: an offset, or a slot in an object stream.
type place struct {
	offset int
	stream int
	slot   int
	gen    int
}

// pack is an unpacked object stream.
type pack struct {
	data  []byte
	nums  []int
	start []int
}

// ErrPassword tells that a file opens with a password only.
var ErrPassword = errors.New("the file opens with a password only")

// maxObjects bounds the objects of one file.
const maxObjects = 8 << 20

// Open reads the structure of a file. The password may be empty.
func Open(data []byte, password string) (*File, error) {
	start := bytes.Index(data[:min(len(data), 1024)], []byte("%PDF-"))
	if start < 0 {
		return nil, errors.New("it is no PDF file: it does not begin with %PDF-")
	}
	f := &File{data: data[start:], before: start}
	if f.readXref() != nil {
		if err := f.rebuild(); err != nil {
			return nil, err
		}
	}
	if err := f.unlock(password); err != nil {
		return nil, err
	}
	// the catalog of a protected file is read once it is unlocked
	if n, _ := f.PageCount(); n == 0 && !f.Rebuilt {
		if err := f.rebuild(); err != nil {
			return nil, err
		}
		if err := f.unlock(password); err != nil {
			return nil, err
		}
	}
	if f.root() == nil {
		return nil, errors.New("the file has no catalog, and none could be found again")
	}
	return f, nil
}

func (f *File) reset() {
	f.places, f.objects, f.loading, f.packs = map[int]place{}, map[int]Object{}, map[int]bool{}, map[int]*pack{}
	f.crypt = nil
}

func (f *File) root() Dict {
	d, _ := f.Resolve(f.Trailer["Root"]).(Dict)
	return d
}

// Resolve follows references to the object itself; what cannot be read is nil.
func (f *File) Resolve(o Object) Object {
	for range 32 {
		r, ok := o.(Ref)
		if !ok {
			return o
		}
		o = f.load(r.Num)
	}
	return nil
}

// Dict resolves an object that should be a dictionary.
func (f *File) Dict(o Object) Dict {
	switch v := f.Resolve(o).(type) {
	case Dict:
		return v
	case *Stream:
		return v.Dict
	}
	return nil
}

func (f *File) load(num int) Object {
	if o, ok := f.objects[num]; ok {
		return o
	}
	if f.loading[num] {
		return nil
	}
	f.loading[num] = true
	defer delete(f.loading, num)
	p, ok := f.places[num]
	if !ok {
		return nil
	}
	var o Object
	var err error
	if p.stream != 0 {
		o, err = f.packed(p, num)
	} else {
		o, err = f.at(p.offset, num, p.gen)
	}
	if err != nil {
		o = nil
	}
	f.objects[num] = o
	return o
}

// at reads the indirect object at an offset.
func (f *File) at(offset, num, gen int) (Object, error) {
	if offset < 0 || offset >= len(f.data) {
		return nil, errSyntax
	}
	l := &lexer{data: f.data, pos: offset}
	n, err := strconv.Atoi(l.word())
	if err != nil || n != num {
		return nil, errSyntax
	}
	if _, err := strconv.Atoi(l.word()); err != nil || !l.take("obj") {
		return nil, errSyntax
	}
	o, err := l.object(0)
	if err != nil {
		return nil, err
	}
	d, ok := o.(Dict)
	if !ok || !l.take("stream") {
		return f.crypt.open(o, num, gen), nil
	}
	if l.pos < len(l.data) && l.data[l.pos] == '\r' {
		l.pos++
	}
	if l.pos < len(l.data) && l.data[l.pos] == '\n' {
		l.pos++
	}
	raw := f.body(d, l.pos)
	s := &Stream{Dict: d, Raw: raw}
	return f.crypt.open(s, num, gen), nil
}

// body is a stream's data; where its length is wrong, the end is looked for.
func (f *File) body(d Dict, start int) []byte {
	if n, ok := f.Resolve(d["Length"]).(int64); ok && n >= 0 && n <= int64(len(f.data)-start) {
		end := start + int(n)
		l := &lexer{data: f.data, pos: end}
		if l.take("endstream") {
			return f.data[start:end]
		}
	}
	end := bytes.Index(f.data[start:], []byte("endstream"))
	if end < 0 {
		return f.data[start:]
	}
	return bytes.TrimSuffix(bytes.TrimSuffix(f.data[start:start+end], []byte("\n")), []byte("\r"))
}

// packed reads an object of an object stream (§7.5.7).
func (f *File) packed(p place, num int) (Object, error) {
	k := f.packs[p.stream]
	if k == nil {
		s, ok := f.load(p.stream).(*Stream)
		if !ok {
			return nil, errSyntax
		}
		data, err := f.Decode(s)
		if err != nil {
			return nil, err
		}
		n, _ := f.Resolve(s.Dict["N"]).(int64)
		first, _ := f.Resolve(s.Dict["First"]).(int64)
		if n < 0 || n > maxObjects || first < 0 || first > int64(len(data)) {
			return nil, errSyntax
		}
		k = &pack{data: data}
		l := &lexer{data: data[:first]}
		for range n {
			a, err1 := strconv.Atoi(l.word())
			b, err2 := strconv.Atoi(l.word())
			if err1 != nil || err2 != nil {
				break
			}
			k.nums, k.start = append(k.nums, a), append(k.start, int(first)+b)
		}
		f.packs[p.stream] = k
	}
	for i, n := range k.nums {
		if n == num && k.start[i] >= 0 && k.start[i] <= len(k.data) {
			return (&lexer{data: k.data, pos: k.start[i]}).object(0)
		}
	}
	return nil, errSyntax
}

// readXref follows the cross-reference sections from the end of the file back
// (§7.5.4, §7.5.8).
func (f *File) readXref() error {
	f.reset()
	f.Trailer = nil
	tail := f.data[max(len(f.data)-2048, 0):]
	i := bytes.LastIndex(tail, []byte("startxref"))
	if i < 0 {
		return errSyntax
	}
	l := &lexer{data: tail, pos: i + len("startxref")}
	at, err := strconv.Atoi(l.word())
	if err != nil {
		return err
	}
	f.start = at
	seen := map[int]bool{}
	next := []int{at}
	for len(next) > 0 {
		at, next = next[0], next[1:]
		if seen[at] || at <= 0 || at >= len(f.data) {
			if len(seen) == 0 {
				return errSyntax
			}
			continue
		}
		seen[at] = true
		d, err := f.section(at)
		if err != nil {
			return err
		}
		if f.Trailer == nil {
			f.Trailer = d
		}
		for _, key := range []Name{"XRefStm", "Prev"} {
			if v, ok := d[key].(int64); ok {
				next = append(next, int(v))
			}
		}
	}
	return nil
}

func (f *File) section(at int) (Dict, error) {
	l := &lexer{data: f.data, pos: at}
	if !l.take("xref") {
		return f.xrefStream(at)
	}
	for {
		if l.take("trailer") {
			o, err := l.object(0)
			d, ok := o.(Dict)
			if err != nil || !ok {
				return nil, errSyntax
			}
			return d, nil
		}
		first, err1 := strconv.Atoi(l.word())
		n, err2 := strconv.Atoi(l.word())
		if err1 != nil || err2 != nil || n < 0 || n > maxObjects || first < 0 {
			return nil, errSyntax
		}
		for i := range n {
			offset, err1 := strconv.Atoi(l.word())
			gen, err2 := strconv.Atoi(l.word())
			kind := l.word()
			if err1 != nil || err2 != nil {
				return nil, errSyntax
			}
			if _, known := f.places[first+i]; kind == "n" && !known {
				f.places[first+i] = place{offset: offset, gen: gen}
			} else if kind == "f" && !known {
				f.places[first+i] = place{offset: -1}
			}
		}
	}
}

func (f *File) xrefStream(at int) (Dict, error) {
	l := &lexer{data: f.data, pos: at}
	num, err := strconv.Atoi(l.word())
	if err != nil {
		return nil, errSyntax
	}
	o, err := f.at(at, num, 0)
	s, ok := o.(*Stream)
	if err != nil || !ok || s.Dict["Type"] != Name("XRef") {
		return nil, errSyntax
	}
	data, err := f.Decode(s)
	if err != nil {
		return nil, err
	}
	var w [3]int
	widths, _ := s.Dict["W"].(Array)
	for i := range w {
		if i < len(widths) {
			v, _ := widths[i].(int64)
			if v < 0 || v > 8 {
				return nil, errSyntax
			}
			w[i] = int(v)
		}
	}
	size, _ := s.Dict["Size"].(int64)
	index, _ := s.Dict["Index"].(Array)
	if index == nil {
		index = Array{int64(0), size}
	}
	row := w[0] + w[1] + w[2]
	if row == 0 {
		return nil, errSyntax
	}
	field := func(n int) (v int) {
		for _, b := range data[:n] {
			v = v<<8 | int(b)
		}
		data = data[n:]
		return v
	}
	for i := 0; i+1 < len(index); i += 2 {
		first, _ := index[i].(int64)
		n, _ := index[i+1].(int64)
		for k := int64(0); k < n && len(data) >= row; k++ {
			kind := 1
			if w[0] > 0 {
				kind = field(w[0])
			}
			a, b := field(w[1]), field(w[2])
			id := int(first + k)
			if _, known := f.places[id]; known || len(f.places) > maxObjects {
				continue
			}
			switch kind {
			case 0:
				f.places[id] = place{offset: -1}
			case 1:
				f.places[id] = place{offset: a, gen: b}
			case 2:
				f.places[id] = place{stream: a, slot: b}
			}
		}
	}
	return s.Dict, nil
}

// rebuild finds the objects by looking through the whole file, as its table
// is lost.
func (f *File) rebuild() error {
	f.reset()
	f.Rebuilt = true
	f.Trailer = Dict{}
	var streams []int
	for pos := 0; ; {
		i := bytes.Index(f.data[pos:], []byte(" obj"))
		if i < 0 {
			break
		}
		at := pos + i
		pos = at + 4
		num, gen, start, ok := f.header(at)
		if !ok || len(f.places) > maxObjects {
			continue
		}
		f.places[num] = place{offset: start, gen: gen} // the last one counts
		delete(f.objects, num)
		l := &lexer{data: f.data, pos: pos}
		o, err := l.object(0)
		if d, ok := o.(Dict); err == nil && ok {
			switch d["Type"] {
			case Name("Catalog"):
				f.Trailer["Root"] = Ref{num, gen}
			case Name("ObjStm"):
				streams = append(streams, num)
			case Name("XRef"):
				f.adopt(d)
			}
		}
	}
	for pos := 0; ; {
		i := bytes.Index(f.data[pos:], []byte("trailer"))
		if i < 0 {
			break
		}
		pos += i + len("trailer")
		l := &lexer{data: f.data, pos: pos}
		if o, err := l.object(0); err == nil {
			if d, ok := o.(Dict); ok {
				f.adopt(d)
			}
		}
	}
	if f.Trailer["Encrypt"] == nil { // else their contents wait for the key
		f.unpackAll(streams)
	}
	if f.Trailer["Root"] == nil {
		return errors.New("the file is damaged: no page tree could be found in it")
	}
	return nil
}

// adopt takes what a trailer says, where nothing better is known.
func (f *File) adopt(d Dict) {
	for _, key := range []Name{"Root", "Info", "Encrypt", "ID"} {
		if d[key] != nil {
			f.Trailer[key] = d[key]
		}
	}
}

func (f *File) unpackAll(streams []int) {
	for _, num := range streams {
		if _, err := f.packed(place{stream: num}, -1); err != nil && f.packs[num] == nil {
			continue
		}
		for i, n := range f.packs[num].nums {
			if _, known := f.places[n]; !known {
				f.places[n] = place{stream: num, slot: i}
			}
			if d, ok := f.load(n).(Dict); ok && d["Type"] == Name("Catalog") {
				f.Trailer["Root"] = Ref{n, 0}
			}
		}
	}
}

// header reads "12 0" backwards from before " obj".
func (f *File) header(at int) (num, gen, start int, ok bool) {
	i := at
	digits := func() (v int, found bool) {
		end := i
		for i > 0 && f.data[i-1] >= '0' && f.data[i-1] <= '9' && end-i < 10 {
			i--
		}
		v, err := strconv.Atoi(string(f.data[i:end]))
		return v, err == nil
	}
	if gen, ok = digits(); !ok || i == 0 || !space(f.data[i-1]) {
		return 0, 0, 0, false
	}
	for i > 0 && space(f.data[i-1]) {
		i--
	}
	num, ok = digits()
	return num, gen, i, ok
}

// Page is one page with what it inherits.
type Page struct {
	Dict  Dict
	Ref   Ref
	Media [4]float64 // crop box, or media box
	Turn  int        // clockwise, in degrees
}

// maxPages bounds the page tree.
const maxPages = 200_000

// PageCount is how many pages the file has.
func (f *File) PageCount() (int, error) {
	pages, err := f.Pages()
	return len(pages), err
}

// Pages lists the pages in order (§7.7.3).
func (f *File) Pages() ([]Page, error) {
	root := f.root()
	if root == nil {
		return nil, errors.New("the file has no catalog")
	}
	var out []Page
	seen := map[int]bool{}
	var walk func(o Object, inherited Dict, depth int) error
	walk = func(o Object, inherited Dict, depth int) error {
		r, _ := o.(Ref)
		if r.Num != 0 && seen[r.Num] || depth > 60 {
			return nil
		}
		seen[r.Num] = r.Num != 0
		d := f.Dict(o)
		if d == nil {
			return nil
		}
		mine := Dict{}
		for _, key := range []Name{"Resources", "MediaBox", "CropBox", "Rotate"} {
			if v := inherited[key]; v != nil {
				mine[key] = v
			}
			if v := d[key]; v != nil {
				mine[key] = v
			}
		}
		if kids, ok := f.Resolve(d["Kids"]).(Array); ok && d["Type"] != Name("Page") {
			for _, k := range kids {
				if err := walk(k, mine, depth+1); err != nil {
					return err
				}
			}
			return nil
		}
		if len(out) >= maxPages {
			return fmt.Errorf("the file has more than %d pages", maxPages)
		}
		full := Dict{}
		for k, v := range d {
			full[k] = v
		}
		for k, v := range mine {
			full[k] = v
		}
		out = append(out, f.page(full, r))
		return nil
	}
	err := walk(root["Pages"], Dict{}, 0)
	return out, err
}

func (f *File) page(d Dict, r Ref) Page {
	p := Page{Dict: d, Ref: r, Media: [4]float64{0, 0, 612, 792}}
	box := func(o Object) ([4]float64, bool) {
		a, ok := f.Resolve(o).(Array)
		if !ok || len(a) < 4 {
			return [4]float64{}, false
		}
		var v [4]float64
		for i := range v {
			v[i] = f.Number(a[i])
		}
		v[0], v[2] = min(v[0], v[2]), max(v[0], v[2])
		v[1], v[3] = min(v[1], v[3]), max(v[1], v[3])
		return v, v[2]-v[0] > 0.1 && v[3]-v[1] > 0.1 && v[2]-v[0] < 1e6 && v[3]-v[1] < 1e6
	}
	if v, ok := box(d["MediaBox"]); ok {
		p.Media = v
	}
	if v, ok := box(d["CropBox"]); ok {
		v[0], v[1] = max(v[0], p.Media[0]), max(v[1], p.Media[1])
		v[2], v[3] = min(v[2], p.Media[2]), min(v[3], p.Media[3])
		if v[2] > v[0] && v[3] > v[1] {
			p.Media = v
		}
	}
	if v, ok := f.Resolve(d["Rotate"]).(int64); ok {
		p.Turn = int((v%360 + 360) % 360 / 90 * 90)
	}
	return p
}

// Number is a number's value, 0 for anything else.
func (f *File) Number(o Object) float64 {
	switch v := f.Resolve(o).(type) {
	case int64:
		return float64(v)
	case float64:
		return v
	}
	return 0
}

// Contents joins a page's content streams (§7.8.2).
func (f *File) Contents(p Page) ([]byte, error) {
	var out []byte
	for _, o := range f.list(p.Dict["Contents"]) {
		s, ok := o.(*Stream)
		if !ok {
			continue
		}
		data, err := f.Decode(s)
		if err != nil {
			return nil, err
		}
		if len(out)+len(data) > maxDecoded {
			return nil, errors.New("a page has more than 256 MiB of contents")
		}
		out = append(append(out, data...), '\n')
	}
	return out, nil
}
