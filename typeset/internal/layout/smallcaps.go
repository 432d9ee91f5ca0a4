package layout

import (
	"unicode"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// smallCapsScale is the size of small capitals that are made of capitals.
const smallCapsScale = 0.7

// smallCaps makes small capitals where the font has none: smaller capitals in
// place of small letters (CSS Fonts 4, §6.6). It tells whether it did.
func (c *collector) smallCaps(k *box.Box, in *inlineBox, t string) bool {
	s := k.Style
	feature, all := "smcp", false
	switch s.FontCaps {
	case style.SmallCaps, style.PetiteCaps:
	case style.AllSmallCaps, style.AllPetiteCaps:
		feature, all = "c2sc", true
	default:
		return false
	}
	if s.SynthesisCaps == style.None || c.l.Fonts.First(query(s)).Face.HasFeature(feature) {
		return false
	}
	plain := *s
	plain.FontCaps = style.Normal
	plain.TextTransform.Case = style.None
	small := plain
	small.FontSize *= smallCapsScale
	rest := *k
	add := func(text string, style *style.Style) {
		if text != "" {
			part := rest
			part.Style, part.Text, part.Memo = style, text, nil
			c.addText(&part, in)
		}
	}
	start, wasSmall := 0, false
	for i, r := range t {
		is := unicode.IsLower(r) || all && unicode.IsUpper(r)
		if is != wasSmall {
			c.caps(t[start:i], wasSmall, &plain, &small, s.Lang, add)
			start, wasSmall = i, is
		}
	}
	c.caps(t[start:], wasSmall, &plain, &small, s.Lang, add)
	return true
}

func (c *collector) caps(t string, isSmall bool, plain, small *style.Style, lang string, add func(string, *style.Style)) {
	if isSmall {
		add(upper(t, lang), small)
		return
	}
	add(t, plain)
}
