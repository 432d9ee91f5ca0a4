package pdf

import "bytes"

// Pages of a kind begin alike: with a letter head, a running head, the heads of a table. The
// contents of a page may be several streams (§7.8.2), so what they share is written once.

const (
	leastHead = 400     // bytes from which on it is worth a stream of its own
	mostHead  = 4 << 10 // bytes of a page that are looked at
	mostHeads = 16      // kept to be found again
	recent    = 3       // contents before that are compared: a page may have its body, header and footer
)

// head is how pages begin.
type head struct {
	text []byte
	id   Ref
}

// heads knows how the pages of a document begin.
type heads struct {
	known []head
	last  [recent][]byte
	next  int // of last, to be written over
}

// contents writes what a page shows, and gives its streams.
func (w *Writer) contents(data []byte, how packing) []Ref {
	var list []Ref
	if h := w.headOf(data, how); h != nil {
		list, data = append(list, h.id), data[len(h.text):]
	}
	id := w.alloc()
	w.stream(id, "", data, how)
	return append(list, id)
}

// headOf finds the head that a page shares with pages before it; nil if there is none.
func (w *Writer) headOf(data []byte, how packing) *head {
	for i := range w.heads.known {
		if h := &w.heads.known[i]; bytes.HasPrefix(data, h.text) {
			return h
		}
	}
	if len(w.heads.known) == mostHeads {
		return nil
	}
	start := data[:min(len(data), mostHead)]
	n := 0
	for _, before := range w.heads.last {
		n = max(n, shared(start, before))
	}
	n = wholeLines(start[:n])
	w.heads.keep(start)
	if n < leastHead {
		return nil
	}
	h := head{bytes.Clone(start[:n]), w.alloc()}
	w.stream(h.id, "", h.text, how)
	w.heads.known = append(w.heads.known, h)
	return &w.heads.known[len(w.heads.known)-1]
}

// keep lets contents be compared with what comes.
func (h *heads) keep(start []byte) {
	h.last[h.next] = append(h.last[h.next][:0], start...)
	h.next = (h.next + 1) % recent
}

// shared is how many bytes two texts have in common at their beginnings.
func shared(a, b []byte) int {
	n := min(len(a), len(b))
	for i := range n {
		if a[i] != b[i] {
			return i
		}
	}
	return n
}

// wholeLines is how many bytes of contents are whole lines, outside of strings, arrays and
// pictures within: streams may only be parted between tokens, and a string of glyphs may have
// a line feed in it.
func wholeLines(data []byte) int {
	end, deep := 0, 0
	for i := 0; i < len(data); i++ {
		switch data[i] {
		case '(':
			i = endOfString(data, i)
		case '%':
			if n := bytes.IndexByte(data[i:], '\n'); n >= 0 {
				i += n - 1
			}
		case '[', '<':
			deep++
		case ']', '>':
			deep--
		case '\n':
			if deep == 0 {
				end = i + 1
			}
		case 'B':
			if beginsPicture(data, i) {
				return end
			}
		}
	}
	return end
}

// beginsPicture tells whether the operator of a picture within stands at a place (§8.9.7): what comes is no text.
func beginsPicture(data []byte, i int) bool {
	const white = " \t\r\n\f\x00"
	rest, ok := bytes.CutPrefix(data[i:], []byte("BI"))
	before := i == 0 || bytes.IndexByte([]byte(white), data[i-1]) >= 0
	return ok && before && (len(rest) == 0 || bytes.IndexByte([]byte(white+"/"), rest[0]) >= 0)
}

// endOfString is where the literal string ends that begins at a place (§7.3.4.2).
func endOfString(data []byte, i int) int {
	for deep := 0; i < len(data); i++ {
		switch data[i] {
		case '\\':
			i++
		case '(':
			deep++
		case ')':
			if deep--; deep == 0 {
				return i
			}
		}
	}
	return len(data)
}
