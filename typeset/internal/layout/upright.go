package layout

import (
	"unicode"

	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/style"
)

// standsUpright tells whether a character keeps its posture in a vertical line
// of mixed orientation (Unicode Standard Annex 50, in its broad strokes).
func standsUpright(r rune) bool {
	return unicode.In(r, unicode.Han, unicode.Hiragana, unicode.Katakana, unicode.Hangul, unicode.Bopomofo, unicode.Yi) ||
		r >= 0x3000 && r <= 0x303F || r >= 0xFF01 && r <= 0xFF60 || r >= 0x1F300 && r <= 0x1FAFF || r >= 0x2E80 && r <= 0x2FDF ||
		r >= 0x2150 && r <= 0x218F || r >= 0x2460 && r <= 0x24FF || r >= 0x25A0 && r <= 0x2767 && (r < 0x261A || r > 0x261F) || r >= 0x2B12 && r <= 0x2B2F
}

// uprightFeatures are the features of a style for letters that stand upright in a vertical
// line: the forms for that come before what the style asks for (CSS Fonts 4, §6.3, §7.2).
func uprightFeatures(f font.Features, s *style.Style) font.Features {
	if s.FontKerning == style.None {
		return "vert " + f
	}
	return "vert vkrn " + f
}

// stacked gives a run whose glyphs follow each other downwards, one em each.
func stacked(run *font.Run, face *font.Face) *font.Run {
	out := *run
	out.Glyphs = append([]font.Glyph(nil), run.Glyphs...)
	out.Width = 0
	for i := range out.Glyphs {
		if out.Glyphs[i].Chars > 0 {
			out.Glyphs[i].Advance = face.Upem
			out.Width += face.Upem
		}
	}
	return &out
}
