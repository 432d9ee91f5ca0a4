package style

// EmphasisPlace is text-emphasis-position: the side in horizontal lines and
// that in vertical ones (CSS Text Decoration 4, §3.3).
type EmphasisPlace struct{ Under, Left bool }

// EmphasisOver tells whether emphasis marks stand on the over side of lines.
func (s *Style) EmphasisOver() bool {
	switch s.WritingMode {
	case VerticalRl, VerticalLr, SidewaysRl:
		return !s.EmphasisAt.Left
	case SidewaysLr:
		return s.EmphasisAt.Left
	}
	return !s.EmphasisAt.Under
}
