package font

import (
	"crypto/sha256"
	"fmt"

	gtfont "github.com/go-text/typesetting/font"
	lru "github.com/hashicorp/golang-lru/v2"
)

// parsedFaces is how many font files are kept parsed for the next document:
// unpacking WOFF2 takes longer than setting an invoice.
const parsedFaces = 64

type parseKey struct {
	sum  [sha256.Size]byte
	axes string
}

var parsed = func() *lru.Cache[parseKey, *Face] {
	c, err := lru.New[parseKey, *Face](parsedFaces)
	if err != nil { // the size is a constant above zero
		panic(err)
	}
	return c
}()

// Parsed is Parse with a memory of the files read last, by their content.
func Parsed(data []byte, axes []gtfont.Variation) (*Face, error) {
	key := parseKey{sha256.Sum256(data), fmt.Sprint(axes)}
	if f, ok := parsed.Get(key); ok {
		return f, nil
	}
	f, err := Parse(data, axes)
	if err == nil {
		parsed.Add(key, f)
	}
	return f, err
}
