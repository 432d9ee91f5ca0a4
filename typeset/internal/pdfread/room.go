package pdfread

// Room tells how many bytes of the file each object takes, by its number. Objects of an object stream share
// what the stream takes, by the length that they have in it. What is left of the length of the file are its
// header, its cross-reference sections, and what nothing leads to any more.
func (f *File) Room() map[int]float64 {
	out := map[int]float64{}
	at := map[int]int{} // numbers by offsets
	for num, p := range f.places {
		if p.stream == 0 && p.offset > 0 && p.offset < len(f.data) {
			at[p.offset] = num
		}
	}
	for offset, num := range at {
		out[num] = float64(f.ends(offset, num) - offset)
	}
	for num, p := range f.places { // so that all object streams are unpacked
		if p.stream != 0 {
			f.load(num)
		}
	}
	for stream, k := range f.packs {
		whole := out[stream]
		delete(out, stream)
		for i, num := range k.nums {
			end := len(k.data)
			if i+1 < len(k.start) {
				end = k.start[i+1]
			}
			if p := f.places[num]; p.stream == stream && len(k.data) > 0 {
				out[num] += whole * float64(end-k.start[i]) / float64(len(k.data)-k.start[0])
			}
		}
	}
	return out
}

// ends is the offset after an object.
func (f *File) ends(offset, num int) int {
	l := &lexer{data: f.data, pos: offset}
	l.word() // number
	l.word() // generation
	if !l.take("obj") {
		return offset
	}
	if s, ok := f.load(num).(*Stream); ok {
		if _, err := l.object(0); err == nil && l.take("stream") {
			l.pos += len(f.body(s.Dict, l.pos))
			for l.pos < len(f.data) && !l.take("endstream") {
				l.pos++
			}
		}
	} else if _, err := l.object(0); err != nil {
		return offset
	}
	l.take("endobj")
	return min(l.pos, len(f.data))
}
