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
	if s.SynthesisCaps == style.None || c.l.Fonts.Primary(query(s)).Face.HasFeature(feature) {
		return false
	}
	plain := *s
	plain.FontCaps = style.Normal
	plain.TextTransform.Case = style.None
	small := plain
	small.FontSize *= smallCapsScale
	var part [3]*box.Box // by what their letters are
	for kind := range part {
		b := *k
		b.Style, b.Memo = &plain, nil
		if kind != asTheyAre {
			b.Style = &small
		}
		if kind == smallLetters {
			b.SetRare(func(r *box.Rare) { r.Lowered = true })
		}
		part[kind] = &b
	}
	add := func(text string, kind int) {
		if text == "" {
			return
		}
		if kind == smallLetters {
			text = upper(text, s.Lang)
		}
		b := *part[kind]
		b.Text = text
		c.addText(&b, in)
	}
	start, was := 0, asTheyAre
	for i, r := range t {
		if kind := letterKind(r, all); kind != was {
			add(t[start:i], was)
			start, was = i, kind
		}
	}
	add(t[start:], was)
	return true
}

// What letters are to small capitals.
const (
	asTheyAre    = iota
	smallLetters // to be made capitals, which stand for them
	capitals     // to be made smaller
)

func letterKind(r rune, all bool) int {
	switch {
	case unicode.IsLower(r):
		return smallLetters
	case all && unicode.IsUpper(r):
		return capitals
	}
	return asTheyAre
}
