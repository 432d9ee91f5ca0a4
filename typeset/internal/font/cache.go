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

// memoryKey finds a file by where its bytes are, which stay there while the key is kept.
type memoryKey struct {
	first *byte
	size  int
	axes  string
}

type parsedFile struct {
	data []byte
	face *Face
}

var (
	parseSeed = maphash.MakeSeed()
	parsed    = memory.Of[parseKey, parsedFile](parsedFaces)

	parsedMemory = memory.Of[memoryKey, *Face](parsedFaces)
)

// Parsed is Parse with a memory of the files read last, by their content. The
// bytes must not change afterwards.
func Parsed(data []byte, axes []gtfont.Variation) (*Face, error) {
	if len(data) == 0 {
		return Parse(data, axes)
	}
	same := memoryKey{&data[0], len(data), axesKey(axes)}
	if f, ok := parsedMemory.Get(same); ok {
		return f, nil
	}
	f, err := parsedAnew(data, axes)
	if err == nil {
		parsedMemory.Add(same, f)
	}
	return f, err
}

// parsedAnew is Parsed for bytes that may stand elsewhere in memory than before.
func parsedAnew(data []byte, axes []gtfont.Variation) (*Face, error) {
	key := parseKey{maphash.Bytes(parseSeed, data), len(data), axesKey(axes)}
	if f, ok := parsed.Get(key); ok && bytes.Equal(f.data, data) {
		return f.face, nil
	}
	f, err := Parse(data, axes)
	if err == nil {
		parsed.Add(key, parsedFile{data, f})
	}
	return f, err
}

func axesKey(axes []gtfont.Variation) string {
	if len(axes) == 0 {
		return ""
	}
	return fmt.Sprint(axes)
}
