package bind

import (
	"bytes"
	"encoding/base64"
	"image"
	"image/color"
	"image/png"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset"
)

// noise is a picture that cannot be packed: 64 × 64 px of chance.
func noise(t *testing.T) string {
	t.Helper()
	m := image.NewRGBA(image.Rect(0, 0, 64, 64))
	r := rand.New(rand.NewPCG(1, 2))
	for i := range 64 * 64 {
		m.Set(i%64, i/64, color.RGBA{uint8(r.Uint32()), uint8(r.Uint32()), uint8(r.Uint32()), 255})
	}
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, m))
	return "data:image/png;base64," + base64.StdEncoding.EncodeToString(out.Bytes())
}

func sizesOf(t *testing.T, pdf []byte, password string) map[string]Part {
	t.Helper()
	list, err := Sizes(pdf, password)
	require.NoError(t, err)
	by, sum := map[string]Part{}, 0
	for i, p := range list {
		by[p.What] = p
		sum += p.Bytes
		if i > 0 {
			assert.GreaterOrEqual(t, list[i-1].Bytes, p.Bytes, "the largest come first")
		}
	}
	assert.Equal(t, len(pdf), sum, "nothing is left out or counted twice")
	assert.Len(t, by, len(list))
	return by
}

// TestSizes asks what takes the bytes of files whose parts are known.
func TestSizes(t *testing.T) {
	const head = `<html lang=en><title>Sizes</title><style>@page { size: A6; margin: 10mm } i { display: block; height: 9px; background: conic-gradient(red, blue) }</style>`
	plain := set(t, head+`<h1>Tide</h1><p>High water</p>`, typeset.Options{})
	rich := set(t, head+`<h1>Tide</h1><a href="https://quay.test">link</a><i></i><img alt=x src="`+noise(t)+`"><p style="break-before:page">`+strings.Repeat("High water at the quay. ", 40),
		typeset.Options{Attach: []typeset.Attachment{{Name: "data.csv", Type: "text/csv", Data: bytes.Repeat([]byte("a,b;"), 3)}}})
	few, many := sizesOf(t, plain, ""), sizesOf(t, rich, "")

	assert.NotContains(t, few, partPictures)
	assert.NotContains(t, few, partAttached)
	assert.GreaterOrEqual(t, many[partPictures].Bytes, 64*64*3, "a picture of chance takes all its bytes")
	assert.Equal(t, 1, many[partPictures].Objects)
	assert.Positive(t, many[partAttached].Bytes)
	assert.Positive(t, many[partLinks].Objects)
	assert.Positive(t, many[partColors].Objects)
	assert.Equal(t, 2, many[partContents].Objects, "a stream for each page")
	assert.Equal(t, 1, few[partContents].Objects)
	for _, what := range []string{partPages, partFonts, partStructure, partOutline, partMetadata, partTable} {
		assert.Positive(t, few[what].Bytes, what)
		assert.Positive(t, many[what].Bytes, what)
	}
	assert.Greater(t, many[partStructure].Objects, few[partStructure].Objects)
}

// TestSizesOfOtherFiles reads those that are protected, bound, or damaged.
func TestSizesOfOtherFiles(t *testing.T) {
	a := pages(t, "a", 3)
	closed := set(t, "<p>Behind a lock", typeset.Options{Protect: &typeset.Protection{Open: "tern", Owner: "gull"}})
	_, err := Sizes(closed, "")
	require.Error(t, err)
	assert.Positive(t, sizesOf(t, closed, "tern")[partContents].Bytes)

	all, _ := bound(t, Options{}, Source{Name: "a", Data: a}, Source{Name: "b", Data: pages(t, "b", 2)})
	assert.Equal(t, 5, sizesOf(t, all, "")[partContents].Objects)

	broken := bytes.Replace(a, []byte("startxref"), []byte("startxxxx"), 1)
	assert.Equal(t, 3, sizesOf(t, broken, "")[partContents].Objects, "the table is made anew")
	_, err = Sizes([]byte("no PDF"), "")
	assert.Error(t, err)
}
