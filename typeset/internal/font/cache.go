package font

import (
	"bytes"
	"fmt"
	"hash/maphash"

	gtfont "github.com/go-text/typesetting/font"

	"oliveledger/typeset/internal/memory"
)

// parsedFaces is how many font files are kept parsed for the next document:
// unpacking WOFF2 takes longer than setting an invoice.
const parsedFaces = 64

// parseKey finds a file quickly; its bytes are compared besides.
type parseKey struct {
	sum  uint64
	size int
	axes string
}

type parsedFile struct {
	data []byte
	face *Face
}

var (
	parseSeed = maphash.MakeSeed()
	parsed    = memory.Of[parseKey, parsedFile](parsedFaces)
)

// Parsed is Parse with a memory of the files read last, by their content. The
// bytes must not change afterwards.
func Parsed(data []byte, axes []gtfont.Variation) (*Face, error) {
	key := parseKey{maphash.Bytes(parseSeed, data), len(data), fmt.Sprint(axes)}
	if f, ok := parsed.Get(key); ok && bytes.Equal(f.data, data) {
		return f.face, nil
	}
	f, err := Parse(data, axes)
	if err == nil {
		parsed.Add(key, parsedFile{data, f})
	}
	return f, err
}
