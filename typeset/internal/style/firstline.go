package style

import "slices"

// OnFirstLine gives a style as it is on the first formatted line of a block:
// what it inherited from the block comes from ::first-line instead
// (CSS Pseudo 4, §2.1). line is the style of ::first-line.
func OnFirstLine(s, block, line *Style) *Style {
	out := *s
	take(&out.Color, s.Color, block.Color, line.Color)
	take(&out.FontSize, s.FontSize, block.FontSize, line.FontSize)
	take(&out.FontWeight, s.FontWeight, block.FontWeight, line.FontWeight)
	take(&out.FontStyle, s.FontStyle, block.FontStyle, line.FontStyle)
	take(&out.FontStretch, s.FontStretch, block.FontStretch, line.FontStretch)
	take(&out.FontCaps, s.FontCaps, block.FontCaps, line.FontCaps)
	take(&out.FontKerning, s.FontKerning, block.FontKerning, line.FontKerning)
	take(&out.SizeAdjust, s.SizeAdjust, block.SizeAdjust, line.SizeAdjust)
	take(&out.LineHeight, s.LineHeight, block.LineHeight, line.LineHeight)
	take(&out.TextTransform, s.TextTransform, block.TextTransform, line.TextTransform)
	takeLP(&out.LetterSpacing, s.LetterSpacing, block.LetterSpacing, line.LetterSpacing)
	takeLP(&out.WordSpacing, s.WordSpacing, block.WordSpacing, line.WordSpacing)
	takeList(&out.Families, s.Families, block.Families, line.Families)
	for i := range out.FontVariants {
		takeList(&out.FontVariants[i], s.FontVariants[i], block.FontVariants[i], line.FontVariants[i])
	}
	takeList(&out.FontFeatures, s.FontFeatures, block.FontFeatures, line.FontFeatures)
	takeList(&out.FontVariations, s.FontVariations, block.FontVariations, line.FontVariations)
	takeList(&out.TextShadow, s.TextShadow, block.TextShadow, line.TextShadow)
	return &out
}

// take sets a field to the line's value where s has the block's.
func take[T comparable](to *T, s, block, line T) {
	if s == block {
		*to = line
	}
}

func takeLP(to *LP, s, block, line LP) {
	if s.Fn == nil && block.Fn == nil && s.Px == block.Px && s.Pct == block.Pct {
		*to = line
	}
}

func takeList[T comparable](to *[]T, s, block, line []T) {
	if slices.Equal(s, block) {
		*to = line
	}
}
