package typeset

import (
	"io"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func fontFile(t *testing.T, name string) FontFile {
	t.Helper()
	data, err := os.ReadFile("../demo/templates/mooring-invoice/fonts/" + name)
	require.NoError(t, err)
	return FontFile{Name: name, Data: data}
}

func TestFactsOfFonts(t *testing.T) {
	for name, want := range map[string]FontFacts{
		"source-sans-3-latin-400-normal.woff2":  {"Source Sans 3", 400, 400, false},
		"source-serif-4-latin-700-normal.woff2": {"Source Serif 4", 700, 700, false},
	} {
		got, err := fontFile(t, name).Facts()
		require.NoError(t, err)
		assert.Equal(t, want, got)
	}
	_, err := FontFile{Name: "note.ttf", Data: []byte("a letter")}.Facts()
	assert.ErrorContains(t, err, "note.ttf: the font file is too short")
}

// TestFontsOfTheCaller are named by their family, without @font-face.
func TestFontsOfTheCaller(t *testing.T) {
	html := bare + `<p style="font-family: 'Source Serif 4', serif">plain <b>bold</b></p>`
	pdf, _ := pdfOf(t, html, Options{})
	assert.NotContains(t, tool(t, pdf, "pdffonts", "FILE"), "SourceSerif")
	pdf, doc := pdfOf(t, html, Options{Fonts: []FontFile{fontFile(t, "source-serif-4-latin-700-normal.woff2")}})
	assert.Contains(t, tool(t, pdf, "pdffonts", "FILE"), "SourceSerif")
	assert.Empty(t, doc.Findings)
	_, err := Set(t.Context(), []byte(html), Options{Fonts: []FontFile{{Name: "x.otf", Data: []byte("OTTO")}}}, io.Discard)
	assert.ErrorContains(t, err, "x.otf")
}
