package layout

import (
	"slices"
	"unicode/utf8"

	"oliveledger/typeset/internal/bidi"
	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// directionTurn is where in the text lines begin that run from right to left, or no longer
// do.
type directionTurn struct {
	at  int
	rtl bool
}

// rtlAt tells whether the line that begins at a place in the text runs from right to left:
// with unicode-bidi: plaintext each paragraph has its own direction (Writing Modes 4,
// §2.4.2).
func (p *para) rtlAt(at int) bool {
	rtl := p.rtl
	for _, t := range p.turns {
		if t.at > at {
			break
		}
		rtl = t.rtl
	}
	return rtl
}

// resolveBidi decides whether the bidi algorithm is needed at all.
func (p *para) resolveBidi(b *box.Box, controls []control) {
	p.bidi = p.rtl || bidi.Needed(p.text)
	for _, c := range controls {
		if c.r == '\u202B' || c.r == '\u2067' || c.r == '\u202E' {
			p.bidi = true
		}
	}
	if b.Style.UnicodeBidi == style.BidiOverride || b.Style.UnicodeBidi == style.IsolateOverride {
		p.bidi = true
	}
}

// turnAt notes the direction of a paragraph, whose runes stand at offsets in the text, and
// gives its level.
func (p *para) turnAt(runes []rune, offset []int) (level uint8) {
	at := slices.IndexFunc(offset, func(i int) bool { return i >= 0 })
	if at < 0 {
		return 0
	}
	rtl := p.outer // neutral characters alone go as the paragraph before does
	if n := len(p.turns); n > 0 {
		rtl = p.turns[n-1].rtl
	}
	rtl = bidi.FirstStrongRTL(string(runes), rtl)
	p.turns = append(p.turns, directionTurn{offset[at], rtl})
	if rtl {
		return 1
	}
	return 0
}

// openControls are the controls of inline boxes that are open.
type openControls []rune

// note takes in a control that opens, or one that closes the last.
func (o *openControls) note(control rune) {
	switch control {
	case '\u202C', '\u2069':
		if n := len(*o); n > 0 {
			*o = (*o)[:n-1]
		}
	default:
		*o = append(*o, control)
	}
}

// levels gives the embedding level of each byte of the text, or nil when all
// of it runs from left to right.
func (p *para) levels(c *collector) []uint8 {
	if !p.bidi {
		return nil
	}
	// the text with the controls of the inline boxes put in
	var classes []bidi.Class
	var runes []rune
	var offset []int // byte offset in p.text, -1 for a control
	ci := 0
	put := func(r rune, at int) {
		classes, runes, offset = append(classes, bidi.ClassOf(r)), append(runes, r), append(offset, at)
	}
	var open openControls
	if v := c.root.Style.UnicodeBidi; v == style.BidiOverride || v == style.IsolateOverride {
		control := '\u202D'
		if p.rtl {
			control = '\u202E'
		}
		put(control, -1)
		open.note(control)
	}
	for i := 0; i <= len(p.text); {
		for ci < len(c.controls) && c.controls[ci].at == i {
			put(c.controls[ci].r, -1)
			open.note(c.controls[ci].r)
			ci++
		}
		if i == len(p.text) {
			break
		}
		r, n := utf8.DecodeRuneInString(p.text[i:])
		put(r, i)
		if r == '\n' { // what is open goes on in the next paragraph (Writing Modes 4, §2.4.2)
			for _, control := range open {
				put(control, -1)
			}
		}
		i += n
	}
	base := uint8(0)
	if p.rtl {
		base = 1
	}
	levels := make([]uint8, len(p.text)+1)
	levels[len(p.text)] = base
	// each line of preserved text is a paragraph of its own
	start := 0
	for i := 0; i <= len(runes); i++ {
		if i == len(runes) || runes[i] == '\n' {
			b := base
			if c.root.Style.UnicodeBidi == style.Plaintext {
				b = p.turnAt(runes[start:i], offset[start:i])
			}
			lv := bidi.Levels(classes[start:i], runes[start:i], b)
			for k, v := range lv {
				if at := offset[start+k]; at >= 0 {
					for n := range utf8.RuneLen(runes[start+k]) {
						levels[at+n] = v
					}
				}
			}
			if i < len(runes) && offset[i] >= 0 {
				levels[offset[i]] = b
			}
			start = i + 1
		}
	}
	return levels
}

// levelBetween is the level of what has no text of its own, as of a neutral between its
// neighbours (UAX #9, N1 and N2).
func (p *para) levelBetween(levels []uint8, at int) uint8 {
	before := levels[len(p.text)]
	if at > 0 {
		before = levels[at-1]
	}
	return min(before, levels[at])
}
