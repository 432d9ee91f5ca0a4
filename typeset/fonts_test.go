package typeset

import (
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func openFont(t *testing.T, name string) *Font {
	t.Helper()
	data, err := os.ReadFile("../demo/templates/mooring-invoice/fonts/" + name)
	require.NoError(t, err)
	f, err := OpenFont(name, data)
	require.NoError(t, err)
	return f
}

func TestFactsOfFonts(t *testing.T) {
	for name, want := range map[string]Font{
		"source-sans-3-latin-400-normal.woff2":  {Family: "Source Sans 3", MinWeight: 400, MaxWeight: 400},
		"source-serif-4-latin-700-normal.woff2": {Family: "Source Serif 4", MinWeight: 700, MaxWeight: 700},
	} {
		got := openFont(t, name)
		assert.Equal(t, want, Font{Family: got.Family, MinWeight: got.MinWeight, MaxWeight: got.MaxWeight, Italic: got.Italic})
	}
	_, err := OpenFont("note.ttf", []byte("a letter"))
	assert.ErrorContains(t, err, "note.ttf: the font file is too short")
}

// TestFontsOfTheCaller are named by their family, without @font-face.
func TestFontsOfTheCaller(t *testing.T) {
	html := bare + `<p style="font-family: 'Source Serif 4', serif">plain <b>bold</b></p>`
	pdf, _ := pdfOf(t, html, Options{})
	assert.NotContains(t, tool(t, pdf, "pdffonts", "FILE"), "SourceSerif")
	pdf, doc := pdfOf(t, html, Options{Fonts: []*Font{openFont(t, "source-serif-4-latin-700-normal.woff2")}})
	assert.Contains(t, tool(t, pdf, "pdffonts", "FILE"), "SourceSerif")
	assert.Empty(t, doc.Findings)
	_, err := OpenFont("x.otf", []byte("OTTO"))
	assert.ErrorContains(t, err, "x.otf")
}
