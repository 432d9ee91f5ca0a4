package bidi

import ucd "golang.org/x/text/unicode/bidi"

// sequence is an isolating run sequence of a paragraph: characters by their places, all of one level.
type sequence struct {
	*paragraph
	places   []int
	level    uint8
	sos, eos Class // the directions at its start and its end
}

// resolve applies the rules W1 to W7, N0 to N2, I1 and I2 to one sequence.
func (p *paragraph) resolve(places []int) {
	s := &sequence{paragraph: p, places: places, level: p.levels[places[0]]}
	before, after := p.around(places)
	s.sos, s.eos = directionOf(max(s.level, before)), directionOf(max(s.level, after))
	s.marksAndDigits()
	s.separators()
	s.terminators()
	s.leftover()
	s.brackets()
	s.neutrals()
	s.implicit()
}

// around gives the levels of what stands before and after a sequence, the paragraph's at its ends (X10).
func (p *paragraph) around(places []int) (before, after uint8) {
	before, after = p.base, p.base
	for i := places[0] - 1; i >= 0; i-- {
		if !p.removed[i] {
			before = p.explicit[i]
			break
		}
	}
	last := places[len(places)-1]
	if isInitiator(p.classes[last]) {
		return before, after
	}
	for i := last + 1; i < len(p.levels); i++ {
		if !p.removed[i] {
			return before, p.explicit[i]
		}
	}
	return before, after
}

func directionOf(level uint8) Class {
	if level&1 == 1 {
		return ucd.R
	}
	return ucd.L
}

func isInitiator(c Class) bool { return c == ucd.LRI || c == ucd.RLI || c == ucd.FSI }

func isIsolate(c Class) bool { return isInitiator(c) || c == ucd.PDI }

// at is the class of a character of the sequence, or the direction beyond its ends.
func (s *sequence) at(k int) Class {
	switch {
	case k < 0:
		return s.sos
	case k >= len(s.places):
		return s.eos
	}
	return s.now[s.places[k]]
}

func (s *sequence) set(k int, c Class) { s.now[s.places[k]] = c }

// setAll sets the classes from one place to before another.
func (s *sequence) setAll(from, to int, c Class) {
	for k := from; k < to; k++ {
		s.set(k, c)
	}
}

// endOf is where characters that is holds for end.
func (s *sequence) endOf(from int, is func(Class) bool) int {
	for from < len(s.places) && is(s.at(from)) {
		from++
	}
	return from
}

// marksAndDigits is W1 to W3: marks go with what they stand on, digits after Arabic letters are
// Arabic, and these are right-to-left letters from here on.
func (s *sequence) marksAndDigits() {
	strong := s.sos
	for k := range s.places {
		if s.at(k) == ucd.NSM {
			on := s.at(k - 1)
			if isIsolate(on) {
				on = ucd.ON
			}
			s.set(k, on)
		}
		switch c := s.at(k); c {
		case ucd.L, ucd.R, ucd.AL:
			strong = c
		case ucd.EN:
			if strong == ucd.AL {
				s.set(k, ucd.AN)
			}
		}
	}
	for k := range s.places {
		if s.at(k) == ucd.AL {
			s.set(k, ucd.R)
		}
	}
}

// separators is W4: a single one between numbers of a kind belongs to them.
func (s *sequence) separators() {
	for k := 1; k+1 < len(s.places); k++ {
		a, c, b := s.at(k-1), s.at(k), s.at(k+1)
		if a == b && (c == ucd.ES && a == ucd.EN || c == ucd.CS && (a == ucd.EN || a == ucd.AN)) {
			s.set(k, a)
		}
	}
}

// terminators is W5: those beside European numbers belong to them.
func (s *sequence) terminators() {
	for k := 0; k < len(s.places); k++ {
		if s.at(k) != ucd.ET {
			continue
		}
		end := s.endOf(k, func(c Class) bool { return c == ucd.ET })
		if k > 0 && s.at(k-1) == ucd.EN || end < len(s.places) && s.at(end) == ucd.EN {
			s.setAll(k, end, ucd.EN)
		}
		k = end - 1
	}
}

// leftover is W6 and W7: other separators and terminators are neutral, and numbers after left-to-right
// text go as it does.
func (s *sequence) leftover() {
	strong := s.sos
	for k := range s.places {
		switch c := s.at(k); c {
		case ucd.ET, ucd.ES, ucd.CS:
			s.set(k, ucd.ON)
		case ucd.L, ucd.R:
			strong = c
		case ucd.EN:
			if strong == ucd.L {
				s.set(k, ucd.L)
			}
		}
	}
}

func isNeutral(c Class) bool {
	return c == ucd.B || c == ucd.S || c == ucd.WS || c == ucd.ON || isIsolate(c)
}

// strongOf is the direction that a class counts as beside neutrals: numbers as right to left. Neutrals
// have none.
func strongOf(c Class) Class {
	switch c {
	case ucd.L:
		return ucd.L
	case ucd.R, ucd.EN, ucd.AN:
		return ucd.R
	}
	return none
}

// neutrals is N1 and N2: between text of one direction they have that, and else that of the embedding.
func (s *sequence) neutrals() {
	for k := 0; k < len(s.places); k++ {
		if !isNeutral(s.at(k)) {
			continue
		}
		end := s.endOf(k, isNeutral)
		d := directionOf(s.level)
		if before, after := strongOf(s.at(k-1)), strongOf(s.at(end)); before == after {
			d = before
		}
		s.setAll(k, end, d)
		k = end - 1
	}
}

// implicit is I1 and I2: what runs against its level lies deeper.
func (s *sequence) implicit() {
	for _, i := range s.places {
		switch c := s.now[i]; {
		case s.level&1 == 0 && c == ucd.R:
			s.levels[i]++
		case s.level&1 == 0 && (c == ucd.AN || c == ucd.EN):
			s.levels[i] += 2
		case s.level&1 == 1 && (c == ucd.L || c == ucd.AN || c == ucd.EN):
			s.levels[i]++
		}
	}
}
