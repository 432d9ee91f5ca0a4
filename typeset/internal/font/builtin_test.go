package font

import (
	"bytes"
	"testing"

	"github.com/go-fonts/dejavu/dejavusans"
	"github.com/go-fonts/dejavu/dejavusansbold"
	"github.com/go-fonts/dejavu/dejavusansboldoblique"
	"github.com/go-fonts/dejavu/dejavusansmono"
	"github.com/go-fonts/dejavu/dejavusansmonobold"
	"github.com/go-fonts/dejavu/dejavusansmonoboldoblique"
	"github.com/go-fonts/dejavu/dejavusansmonooblique"
	"github.com/go-fonts/dejavu/dejavusansoblique"
	"github.com/go-fonts/dejavu/dejavuserif"
	"github.com/go-fonts/dejavu/dejavuserifbold"
	"github.com/go-fonts/dejavu/dejavuserifbolditalic"
	"github.com/go-fonts/dejavu/dejavuserifitalic"
	"github.com/go-fonts/liberation/liberationmonobold"
	"github.com/go-fonts/liberation/liberationmonobolditalic"
	"github.com/go-fonts/liberation/liberationmonoitalic"
	"github.com/go-fonts/liberation/liberationmonoregular"
	"github.com/go-fonts/liberation/liberationsansbold"
	"github.com/go-fonts/liberation/liberationsansbolditalic"
	"github.com/go-fonts/liberation/liberationsansitalic"
	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/go-fonts/liberation/liberationserifbold"
	"github.com/go-fonts/liberation/liberationserifbolditalic"
	"github.com/go-fonts/liberation/liberationserifitalic"
	"github.com/go-fonts/liberation/liberationserifregular"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/packed"
)

// The files that come with the binary are, to the byte, those that their makers publish.
func TestBuiltinFacesAreUnchanged(t *testing.T) {
	made := map[string][]byte{
		"LiberationSans-Regular":     liberationsansregular.TTF,
		"LiberationSans-Bold":        liberationsansbold.TTF,
		"LiberationSans-Italic":      liberationsansitalic.TTF,
		"LiberationSans-BoldItalic":  liberationsansbolditalic.TTF,
		"LiberationSerif-Regular":    liberationserifregular.TTF,
		"LiberationSerif-Bold":       liberationserifbold.TTF,
		"LiberationSerif-Italic":     liberationserifitalic.TTF,
		"LiberationSerif-BoldItalic": liberationserifbolditalic.TTF,
		"LiberationMono-Regular":     liberationmonoregular.TTF,
		"LiberationMono-Bold":        liberationmonobold.TTF,
		"LiberationMono-Italic":      liberationmonoitalic.TTF,
		"LiberationMono-BoldItalic":  liberationmonobolditalic.TTF,
		"DejaVuSans":                 dejavusans.TTF,
		"DejaVuSans-Bold":            dejavusansbold.TTF,
		"DejaVuSans-Oblique":         dejavusansoblique.TTF,
		"DejaVuSans-BoldOblique":     dejavusansboldoblique.TTF,
		"DejaVuSerif":                dejavuserif.TTF,
		"DejaVuSerif-Bold":           dejavuserifbold.TTF,
		"DejaVuSerif-Italic":         dejavuserifitalic.TTF,
		"DejaVuSerif-BoldItalic":     dejavuserifbolditalic.TTF,
		"DejaVuSansMono":             dejavusansmono.TTF,
		"DejaVuSansMono-Bold":        dejavusansmonobold.TTF,
		"DejaVuSansMono-Oblique":     dejavusansmonooblique.TTF,
		"DejaVuSansMono-BoldOblique": dejavusansmonoboldoblique.TTF,
	}
	held, err := faceFiles.ReadDir("faces")
	require.NoError(t, err)
	assert.Len(t, held, len(made))
	for name, want := range made {
		got, err := packed.Read(faceFiles, "faces/"+name+".ttf")
		require.NoError(t, err, name)
		assert.True(t, bytes.Equal(want, got), name)
	}
}

// Each family has its four faces in the order of regular, bold, italic and both.
func TestBuiltinFamilies(t *testing.T) {
	require.Len(t, builtins(), 6)
	for key, faces := range builtins() {
		require.Len(t, faces, 4, key)
		for i, s := range faces {
			f, err := s.Open(nil)
			require.NoError(t, err, key)
			assert.Equal(t, s.Family, f.Family, key)
			assert.Equal(t, i == 1 || i == 3, f.Weight == 700, key)
			assert.Equal(t, i >= 2, f.Italic, key)
		}
	}
}
