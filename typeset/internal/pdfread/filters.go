package pdfread

import (
	"bytes"
	"encoding/ascii85"
	"errors"
	"fmt"
	"io"

	"github.com/klauspost/compress/zlib"
	"golang.org/x/image/tiff/lzw"
)

// maxDecoded bounds what one stream may unpack to.
const maxDecoded = 256 << 20

// Decode undoes a stream's filters (§7.4). Those of pictures are left alone:
// asking for them is an error.
func (f *File) Decode(s *Stream) ([]byte, error) {
	filters := f.list(s.Dict["Filter"])
	params := f.list(s.Dict["DecodeParms"])
	data := s.Raw
	for i, x := range filters {
		name, _ := x.(Name)
		var p Dict
		if i < len(params) {
			p, _ = f.Resolve(params[i]).(Dict)
		}
		var err error
		if data, err = f.filter(name, p, data); err != nil {
			return nil, err
		}
	}
	return data, nil
}

// list gives an array's resolved objects; one object counts as a list of one.
func (f *File) list(o Object) []Object {
	switch v := f.Resolve(o).(type) {
	case nil:
		return nil
	case Array:
		out := make([]Object, len(v))
		for i := range v {
			out[i] = f.Resolve(v[i])
		}
		return out
	default:
		return []Object{v}
	}
}

func (f *File) filter(name Name, p Dict, data []byte) ([]byte, error) {
	switch name {
	case "FlateDecode", "Fl":
		z, err := zlib.NewReader(bytes.NewReader(data))
		if err != nil {
			return nil, fmt.Errorf("a stream does not unpack: %w", err)
		}
		out, err := limited(z)
		if err != nil && len(out) == 0 {
			return nil, err
		}
		return f.predicted(out, p)
	case "LZWDecode", "LZW":
		if early, ok := f.Resolve(p["EarlyChange"]).(int64); ok && early == 0 {
			return nil, errors.New("LZW streams without early change are not read")
		}
		out, err := limited(lzw.NewReader(bytes.NewReader(data), lzw.MSB, 8))
		if err != nil && len(out) == 0 {
			return nil, err
		}
		return f.predicted(out, p)
	case "ASCIIHexDecode", "AHx":
		l := &lexer{data: append([]byte("<"), data...)}
		return l.hex(), nil
	case "ASCII85Decode", "A85":
		if i := bytes.Index(data, []byte("~>")); i >= 0 {
			data = data[:i]
		}
		return limited(ascii85.NewDecoder(bytes.NewReader(data)))
	case "RunLengthDecode", "RL":
		return runs(data)
	case "Crypt":
		return data, nil
	}
	return nil, fmt.Errorf("streams packed as %s are not read here", name)
}

// runs undoes the run-length filter (§7.4.5). What there is of a stream that was
// cut off is given.
func runs(data []byte) (out []byte, err error) {
	for i := 0; i < len(data) && data[i] != 128; {
		n := int(data[i])
		i++
		if n < 128 {
			end := min(i+n+1, len(data))
			out = append(out, data[i:end]...)
			i = end
		} else if i < len(data) {
			out = append(out, bytes.Repeat(data[i:i+1], 257-n)...)
			i++
		}
		if len(out) > maxDecoded {
			return nil, errLarge
		}
	}
	return out, nil
}

var errLarge = errors.New("a stream unpacks to more than 256 MiB")

func limited(r io.Reader) ([]byte, error) {
	out, err := io.ReadAll(io.LimitReader(r, maxDecoded+1))
	if len(out) > maxDecoded {
		return nil, errLarge
	}
	return out, err
}

// predicted undoes PNG's predictors (§7.4.4.4).
func (f *File) predicted(data []byte, p Dict) ([]byte, error) {
	number := func(key Name, otherwise int64) int {
		if v, ok := f.Resolve(p[key]).(int64); ok && v > 0 && v < 1<<20 {
			return int(v)
		}
		return int(otherwise)
	}
	kind := number("Predictor", 1)
	if kind < 10 {
		if kind == 2 {
			return nil, errors.New("TIFF predictors are not read")
		}
		return data, nil
	}
	bits := number("Colors", 1) * number("BitsPerComponent", 8)
	step, row := max(bits/8, 1), (bits*number("Columns", 1)+7)/8
	out := make([]byte, 0, len(data))
	prev := make([]byte, row)
	for len(data) > 1 {
		how := data[0]
		line := bytes.Clone(data[1:min(row+1, len(data))])
		data = data[len(line)+1:]
		for i := range line {
			var left, up, corner int
			if i >= step {
				left, corner = int(line[i-step]), int(prev[i-step])
			}
			up = int(prev[i])
			switch how {
			case 1:
				line[i] += byte(left)
			case 2:
				line[i] += byte(up)
			case 3:
				line[i] += byte((left + up) / 2)
			case 4:
				line[i] += byte(paeth(left, up, corner))
			}
		}
		out = append(out, line...)
		copy(prev, line)
	}
	return out, nil
}

func paeth(a, b, c int) int {
	abs := func(v int) int { return max(v, -v) }
	p := a + b - c
	pa, pb, pc := abs(p-a), abs(p-b), abs(p-c)
	switch {
	case pa <= pb && pa <= pc:
		return a
	case pb <= pc:
		return b
	}
	return c
}
