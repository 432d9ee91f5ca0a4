package typeset

import (
	"fmt"
	"strings"

	gtfont "github.com/go-text/typesetting/font"

	"oliveledger/typeset/internal/font"
)

// FontFile is a font that pages can name by its family, as if it were installed:
// TrueType, OpenType, WOFF or WOFF2. The data must not change.
type FontFile struct {
	Name string // of the file, for messages
	Data []byte
}

// FontFacts is what a font file says of itself.
type FontFacts struct {
	Family    string
	LeastBold float64 // the weights that it can be set in, from 1 to 1000
	MostBold  float64
	Italic    bool
}

// Facts reads what a font file says of itself. It fails when the file is no font
// that can be set.
func (f FontFile) Facts() (FontFacts, error) {
	face, err := font.Parsed(f.Data, nil)
	if err != nil {
		return FontFacts{}, fmt.Errorf("%s: %w", f.Name, err)
	}
	if face.Family == "" {
		return FontFacts{}, fmt.Errorf("%s: the font does not name its family", f.Name)
	}
	least, most := face.Weights()
	return FontFacts{withoutWeight(face.Family), least, most, face.Italic}, nil
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
func (s *setting) installed() error {
	for _, f := range s.o.Fonts {
		facts, err := f.Facts()
		if err != nil {
			return err
		}
		s.fonts.Add(&font.Source{Family: facts.Family, WeightMin: facts.LeastBold, WeightMax: facts.MostBold, StretchMin: 100, StretchMax: 100, Italic: facts.Italic,
			Open: func(axes []gtfont.Variation) (*font.Face, error) { return font.Parsed(f.Data, axes) }})
	}
	return nil
}
