package typeset

import (
	"fmt"
	"strings"

	gtfont "github.com/go-text/typesetting/font"

	"oliveledger/typeset/internal/font"
)

// Font is a font that pages can name by its family, as if it were installed. It is
// opened once and serves any number of documents at a time.
type Font struct {
	Family    string
	MinWeight float64 // the weights that it can be set in, from 1 to 1000
	MaxWeight float64
	Italic    bool

	data []byte
	face *font.Face
}

// OpenFont reads a font file: TrueType, OpenType, WOFF or WOFF2. The name is for
// messages; the data must not change. It fails when the file is no font that can
// be set.
func OpenFont(name string, data []byte) (*Font, error) {
	face, err := font.Parsed(data, nil)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	if face.Family == "" {
		return nil, fmt.Errorf("%s: the font does not name its family", name)
	}
	least, most := face.Weights()
	return &Font{Family: withoutWeight(face.Family), MinWeight: least, MaxWeight: most, Italic: face.Italic, data: data, face: face}, nil
}

// open gives the face, or the one that it becomes on axes.
func (f *Font) open(axes []gtfont.Variation) (*font.Face, error) {
	if len(axes) == 0 {
		return f.face, nil
	}
	return font.Parsed(f.data, axes)
}

// weightNames end the family of fonts that have more than four faces
// (OpenType, “name”: identifier 1).
var weightNames = []string{" Thin", " ExtraLight", " Extra Light", " Light", " Medium", " SemiBold", " Semi Bold", " ExtraBold", " Extra Bold", " Black", " Heavy"}

// withoutWeight is the family that all faces of a design share.
func withoutWeight(family string) string {
	for _, w := range weightNames {
		if short, ok := strings.CutSuffix(family, w); ok {
			return short
		}
	}
	return family
}

// installed adds the fonts that the caller brings. Those of the page's own
// @font-face rules come before them.
func (s *setting) installed() {
	for _, f := range s.o.Fonts {
		s.fonts.Add(&font.Source{Family: f.Family, WeightMin: f.MinWeight, WeightMax: f.MaxWeight, StretchMin: 100, StretchMax: 100, Italic: f.Italic, Open: f.open})
	}
}
