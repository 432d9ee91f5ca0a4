package bidi

import (
	"slices"

	ucd "golang.org/x/text/unicode/bidi"
)

// deepest is the highest level that text may be embedded at (BD2).
const deepest = 125

// none stands for no override.
const none Class = ucd.ON

// Levels gives the embedding levels of the characters of one paragraph, up to rule L1 as if it were one
// line. base is the level of the paragraph: 0 from left to right, 1 from right to left.
func Levels(classes []Class, runes []rune, base uint8) []uint8 {
	p := &paragraph{
		classes: classes, now: slices.Clone(classes), runes: runes, base: base,
		levels: make([]uint8, len(classes)), removed: make([]bool, len(classes)), match: isolatePairs(classes),
	}
	p.embed()
	p.explicit = slices.Clone(p.levels)
	for _, seq := range isolatingRuns(classes, p.levels, p.removed, p.match) { // X10
		p.resolve(seq)
	}
	p.fillRemoved()
	p.resetEnds()
	return p.levels
}

// paragraph is one whose levels are worked out.
type paragraph struct {
	classes  []Class // as they are in the text
	now      []Class // as rules have changed them
	runes    []rune
	base     uint8
	levels   []uint8
	explicit []uint8 // the levels before any was resolved, which sides of a sequence look at (X10)
	removed  []bool  // what plays no part after rule X9
	match    []int   // of isolates

	stack                              []embedding
	overIsolates, overEmbeds, isolates int // that had no room on the stack; and those that had
}

// embedding is a directional status (X1).
type embedding struct {
	level    uint8
	override Class
	isolate  bool
}

func (p *paragraph) top() embedding { return p.stack[len(p.stack)-1] }

func (p *paragraph) pop() { p.stack = p.stack[:len(p.stack)-1] }

// push enters a level for text of a direction, and tells whether there is room.
func (p *paragraph) push(rtl bool, override Class, isolate bool) bool {
	level := (p.top().level + 2) &^ 1
	if rtl {
		level = (p.top().level + 1) | 1
	}
	if level > deepest || p.overIsolates > 0 || p.overEmbeds > 0 {
		return false
	}
	p.stack = append(p.stack, embedding{level, override, isolate})
	return true
}

// takeLevel gives a character the level, and the class, that text has here.
func (p *paragraph) takeLevel(i int) {
	top := p.top()
	p.levels[i] = top.level
	if top.override != none {
		p.now[i] = top.override
	}
}

// embed follows embeddings, overrides and isolates (X1 to X8).
func (p *paragraph) embed() {
	p.stack = []embedding{{p.base, none, false}}
	for i, c := range p.classes {
		switch c {
		case ucd.RLE, ucd.LRE, ucd.RLO, ucd.LRO:
			p.removed[i], p.levels[i] = true, p.top().level
			p.beginEmbedding(c)
		case ucd.RLI, ucd.LRI, ucd.FSI:
			p.takeLevel(i)
			p.beginIsolate(i)
		case ucd.PDI:
			p.endIsolate()
			p.takeLevel(i)
		case ucd.PDF:
			p.removed[i], p.levels[i] = true, p.top().level
			p.endEmbedding()
		case ucd.BN:
			p.removed[i], p.levels[i] = true, p.top().level
		case ucd.B:
			p.levels[i] = p.base // it ends all embeddings (X8)
		default:
			p.takeLevel(i)
		}
	}
}

func (p *paragraph) beginEmbedding(c Class) {
	override := none
	switch c {
	case ucd.RLO:
		override = ucd.R
	case ucd.LRO:
		override = ucd.L
	}
	if !p.push(c == ucd.RLE || c == ucd.RLO, override, false) && p.overIsolates == 0 {
		p.overEmbeds++
	}
}

func (p *paragraph) beginIsolate(i int) {
	rtl := p.classes[i] == ucd.RLI
	if p.classes[i] == ucd.FSI {
		end := len(p.classes)
		if p.match[i] >= 0 {
			end = p.match[i]
		}
		rtl = firstStrongClass(p.classes[i+1 : end])
	}
	if p.push(rtl, none, true) {
		p.isolates++
	} else {
		p.overIsolates++
	}
}

func (p *paragraph) endIsolate() {
	switch {
	case p.overIsolates > 0:
		p.overIsolates--
	case p.isolates > 0:
		p.overEmbeds = 0
		for !p.top().isolate {
			p.pop()
		}
		p.pop()
		p.isolates--
	}
}

func (p *paragraph) endEmbedding() {
	switch {
	case p.overIsolates > 0:
	case p.overEmbeds > 0:
		p.overEmbeds--
	case !p.top().isolate && len(p.stack) > 1:
		p.pop()
	}
}

// fillRemoved gives what was removed the level before it.
func (p *paragraph) fillRemoved() {
	for i := range p.levels {
		if !p.removed[i] {
			continue
		}
		p.levels[i] = p.base
		if i > 0 {
			p.levels[i] = p.levels[i-1]
		}
	}
}

// resetEnds gives separators, and white space before them and at the end, the paragraph's level (L1).
func (p *paragraph) resetEnds() {
	ending := true
	for i := len(p.levels) - 1; i >= 0; i-- {
		switch p.classes[i] {
		case ucd.S, ucd.B:
			ending = true
		case ucd.WS, ucd.PDI, ucd.LRI, ucd.RLI, ucd.FSI:
		default:
			ending = ending && p.removed[i]
		}
		if ending {
			p.levels[i] = p.base
		}
	}
}
