package bidi

import (
	"cmp"
	"slices"
	"strings"

	ucd "golang.org/x/text/unicode/bidi"
)

const openers, closers = "([{«‹⁅⁽₍❨❪❬❮❰❲❴⟦⟨⟪⟬⟮⦃⦅〈《「『【〔〖〘〚（［｛｟｢", ")]}»›⁆⁾₎❩❫❭❯❱❳❵⟧⟩⟫⟭⟯⦄⦆〉》」』】〕〗〙〛）］｝｠｣"

var openerRunes, closerRunes = []rune(openers), []rune(closers)

// bracket is the bracket that one stands for that means the same (canonically equivalent).
func bracket(r rune) rune {
	switch r {
	case '\u2329':
		return '〈'
	case '\u232A':
		return '〉'
	}
	return r
}

// mostOpen is how many brackets may be open at a time (BD16).
const mostOpen = 63

// pairs finds the brackets of the sequence that belong together, in the order of those that open (BD16).
func (s *sequence) pairs() (pairs [][2]int) {
	type open struct {
		closer rune
		k      int
	}
	var stack []open
	for k, i := range s.places {
		if s.now[i] != ucd.ON {
			continue
		}
		r := bracket(s.runes[i])
		if strings.ContainsRune(openers, r) && r != '«' && r != '‹' {
			if len(stack) == mostOpen {
				break
			}
			stack = append(stack, open{closerRunes[slices.Index(openerRunes, r)], k})
			continue
		}
		if !strings.ContainsRune(closers, r) {
			continue
		}
		for at := len(stack) - 1; at >= 0; at-- {
			if stack[at].closer == r {
				pairs = append(pairs, [2]int{stack[at].k, k})
				stack = stack[:at]
				break
			}
		}
	}
	slices.SortFunc(pairs, func(a, b [2]int) int { return cmp.Compare(a[0], b[0]) })
	return pairs
}

// brackets is N0: a pair has the direction of the text in it, or of that before it.
func (s *sequence) brackets() {
	for _, p := range s.pairs() {
		found := s.inside(p)
		if found == none {
			continue
		}
		for _, k := range p {
			s.set(k, found)
			for k++; k < len(s.places) && s.classes[s.places[k]] == ucd.NSM; k++ { // marks go with the bracket
				s.set(k, found)
			}
		}
	}
}

// inside is the direction of a pair of brackets, or none where it holds no strong text.
func (s *sequence) inside(p [2]int) Class {
	embedded, found := directionOf(s.level), none
	for k := p[0] + 1; k < p[1]; k++ {
		switch d := strongOf(s.at(k)); d {
		case embedded:
			return embedded
		case none:
		default:
			found = d
		}
	}
	if found == none {
		return none
	}
	for k := p[0] - 1; k >= 0; k-- {
		if d := strongOf(s.at(k)); d != none {
			if d == found {
				return found
			}
			return embedded
		}
	}
	if s.sos == found {
		return found
	}
	return embedded
}
