package layout

import (
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/style"
)

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
