package record

import (
	"bufio"
	"bytes"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

var encodings = map[string]encoding.Encoding{
	"utf-8": nil, "utf8": nil,
	"utf-16": unicode.UTF16(unicode.LittleEndian, unicode.UseBOM), "utf-16le": unicode.UTF16(unicode.LittleEndian, unicode.UseBOM),
	"utf-16be":     unicode.UTF16(unicode.BigEndian, unicode.UseBOM),
	"windows-1252": charmap.Windows1252, "latin1": charmap.Windows1252, "iso-8859-1": charmap.Windows1252,
}

// decoded gives the text of a file as UTF-8, without a byte order mark.
func decoded(r io.Reader, o *Options) (io.Reader, error) {
	in := bufio.NewReaderSize(r, 1<<16)
	head, _ := in.Peek(1 << 10)
	name := strings.ToLower(o.Encoding)
	if name == "" {
		name = wideEncoding(head)
		if name != "" {
			o.note("the file is read as %s", strings.ToUpper(name))
		}
	}
	if name == "" {
		skipMark(in, head)
		return &sniffer{in: in, o: o}, nil
	}
	enc, ok := encodings[name]
	switch {
	case !ok:
		return nil, fmt.Errorf("the encoding %q is not known; it is utf-8, utf-16, utf-16be or windows-1252", o.Encoding)
	case enc == nil:
		skipMark(in, head)
		return &sniffer{in: in, o: o, strict: true}, nil
	}
	return enc.NewDecoder().Reader(in), nil
}

func skipMark(in *bufio.Reader, head []byte) {
	if bytes.HasPrefix(head, []byte("\xEF\xBB\xBF")) {
		in.Discard(3)
	}
}

// wideEncoding finds UTF-16 by its mark, or by the zero bytes of plain text.
func wideEncoding(head []byte) string {
	switch {
	case bytes.HasPrefix(head, []byte("\xFF\xFE")):
		return "utf-16le"
	case bytes.HasPrefix(head, []byte("\xFE\xFF")):
		return "utf-16be"
	case len(head) < 4:
		return ""
	}
	zeros := [2]int{}
	for i, b := range head {
		if b == 0 {
			zeros[i%2]++
		}
	}
	switch most := len(head) * 2 / 5; {
	case zeros[1] > most:
		return "utf-16le"
	case zeros[0] > most:
		return "utf-16be"
	}
	return ""
}

// sniffer passes UTF-8 on. At the first byte that is none it takes the rest as
// Windows-1252, unless the text before had shown that it is UTF-8.
type sniffer struct {
	in     *bufio.Reader
	o      *Options
	strict bool
	wide   bool // a character of several bytes was seen
	latin  bool
	out    []byte
	line   int
	err    error // that comes after out
}

func (s *sniffer) Read(p []byte) (int, error) {
	for len(s.out) == 0 {
		if s.err != nil {
			return 0, s.err
		}
		s.err = s.more()
	}
	n := copy(p, s.out)
	s.out = s.out[n:]
	return n, nil
}

// more takes the next piece of the file.
func (s *sniffer) more() error {
	chunk, err := s.in.Peek(1 << 12)
	if len(chunk) == 0 {
		return err
	}
	n := 0
	for n < len(chunk) {
		if s.latin || chunk[n] < utf8.RuneSelf {
			if s.latin {
				s.out = utf8.AppendRune(s.out, charmap.Windows1252.DecodeByte(chunk[n]))
			} else {
				s.out = append(s.out, chunk[n])
			}
			if chunk[n] == '\n' {
				s.line++
			}
			n++
			continue
		}
		if r, size := utf8.DecodeRune(chunk[n:]); r != utf8.RuneError || size > 1 {
			s.out = append(s.out, chunk[n:n+size]...)
			s.wide = true
			n += size
			continue
		}
		if !utf8.FullRune(chunk[n:]) && n > 0 { // the rest comes with the next piece
			break
		}
		if s.wide || s.strict {
			return s.o.fail(s.line+1, 0, "there is a byte that is no UTF-8; save the file in one encoding, or name its own")
		}
		s.latin = true
		s.o.note("the file is not UTF-8; it is read as Windows-1252 from line %d on", s.line+1)
	}
	s.in.Discard(n)
	return nil
}
