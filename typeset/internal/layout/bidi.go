package layout

import (
	"slices"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/unicode/bidi"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// needsBidi tells whether text holds anything that runs right to left.
func needsBidi(t string) bool {
	for i := 0; i < len(t); {
		if t[i] < 0x80 {
			i++
			continue
		}
		r, n := utf8.DecodeRuneInString(t[i:])
		if r >= 0x590 && r <= 0x8FF || r >= 0x200E && r <= 0x200F || r >= 0x202A && r <= 0x202E || r >= 0x2066 && r <= 0x2069 || r >= 0xFB1D && r <= 0xFDFF || r >= 0xFE70 && r <= 0xFEFF || r >= 0x10800 && r <= 0x10FFF || r >= 0x1E800 && r <= 0x1EFFF {
			return true
		}
		i += n
	}
	return false
}

// firstStrongRTL tells whether the first character with a direction runs from right to left;
// text without any has the direction that is given.
func firstStrongRTL(t string, otherwise bool) bool {
	for _, r := range t {
		p, _ := bidi.LookupRune(r)
		switch p.Class() {
		case bidi.L:
			return false
		case bidi.R, bidi.AL:
			return true
		}
	}
	return otherwise
}

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
	p.bidi = p.rtl || needsBidi(p.text)
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
	rtl = firstStrongRTL(string(runes), rtl)
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
		pr, _ := bidi.LookupRune(r)
		classes, runes, offset = append(classes, pr.Class()), append(runes, r), append(offset, at)
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
			lv := bidiLevels(classes[start:i], runes[start:i], b)
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

// bidiLevels is the Unicode bidirectional algorithm (UAX #9) up to rule L1
// for one paragraph.
func bidiLevels(classes []bidi.Class, runes []rune, base uint8) []uint8 {
	n := len(classes)
	levels := make([]uint8, n)
	cls := append([]bidi.Class(nil), classes...)
	match := isolatePairs(classes)
	type entry struct {
		level    uint8
		override bidi.Class // ON for none
		isolate  bool
	}
	const none = bidi.ON
	stack := []entry{{base, none, false}}
	overIsolate, overEmbed, valid := 0, 0, 0
	removed := make([]bool, n)
	next := func(rtl bool) uint8 {
		l := stack[len(stack)-1].level
		if rtl {
			return (l + 1) | 1
		}
		return (l + 2) &^ 1
	}
	for i, c := range classes { // X1 to X8
		top := stack[len(stack)-1]
		switch c {
		case bidi.RLE, bidi.LRE, bidi.RLO, bidi.LRO:
			removed[i] = true
			levels[i] = top.level
			nl := next(c == bidi.RLE || c == bidi.RLO)
			if nl <= 125 && overIsolate == 0 && overEmbed == 0 {
				o := none
				if c == bidi.RLO {
					o = bidi.R
				} else if c == bidi.LRO {
					o = bidi.L
				}
				stack = append(stack, entry{nl, o, false})
			} else if overIsolate == 0 {
				overEmbed++
			}
		case bidi.RLI, bidi.LRI, bidi.FSI:
			levels[i] = top.level
			if top.override != none {
				cls[i] = top.override
			}
			rtl := c == bidi.RLI
			if c == bidi.FSI {
				end := n
				if match[i] >= 0 {
					end = match[i]
				}
				rtl = firstStrongClass(classes[i+1 : end])
			}
			nl := next(rtl)
			if nl <= 125 && overIsolate == 0 && overEmbed == 0 {
				valid++
				stack = append(stack, entry{nl, none, true})
			} else {
				overIsolate++
			}
		case bidi.PDI:
			if overIsolate > 0 {
				overIsolate--
			} else if valid > 0 {
				overEmbed = 0
				for !stack[len(stack)-1].isolate {
					stack = stack[:len(stack)-1]
				}
				stack = stack[:len(stack)-1]
				valid--
			}
			top = stack[len(stack)-1]
			levels[i] = top.level
			if top.override != none {
				cls[i] = top.override
			}
		case bidi.PDF:
			removed[i] = true
			levels[i] = top.level
			if overIsolate > 0 {
			} else if overEmbed > 0 {
				overEmbed--
			} else if !top.isolate && len(stack) > 1 {
				stack = stack[:len(stack)-1]
			}
		case bidi.BN:
			removed[i] = true
			levels[i] = top.level
		case bidi.B:
			levels[i] = base // it ends all embeddings (X8)
		default:
			levels[i] = top.level
			if top.override != none {
				cls[i] = top.override
			}
		}
	}
	explicit := slices.Clone(levels)
	for _, seq := range isolatingRuns(classes, levels, removed, match) { // X10
		resolveRun(seq, cls, levels, explicit, runes, classes, base, removed)
	}
	for i := range levels { // what was removed takes the level before it
		if removed[i] {
			levels[i] = base
			if i > 0 {
				levels[i] = levels[i-1]
			}
		}
	}
	ending := true
	for i := n - 1; i >= 0; i-- { // L1: separators, and white space before them and at the end
		switch c := classes[i]; c {
		case bidi.S, bidi.B:
			ending = true
		case bidi.WS, bidi.PDI, bidi.LRI, bidi.RLI, bidi.FSI:
		default:
			ending = ending && removed[i]
		}
		if ending {
			levels[i] = base
		}
	}
	return levels
}

func firstStrongClass(list []bidi.Class) bool {
	depth := 0
	for _, c := range list {
		switch c {
		case bidi.LRI, bidi.RLI, bidi.FSI:
			depth++
		case bidi.PDI:
			depth--
		case bidi.L:
			if depth == 0 {
				return false
			}
		case bidi.R, bidi.AL:
			if depth == 0 {
				return true
			}
		}
	}
	return false
}

// isolatePairs finds for each isolate initiator its PDI (BD9).
func isolatePairs(classes []bidi.Class) []int {
	out := make([]int, len(classes))
	var stack []int
	for i, c := range classes {
		out[i] = -1
		switch c {
		case bidi.LRI, bidi.RLI, bidi.FSI:
			stack = append(stack, i)
		case bidi.PDI:
			if k := len(stack); k > 0 {
				out[stack[k-1]], out[i] = i, stack[k-1]
				stack = stack[:k-1]
			}
		}
	}
	return out
}

// isolatingRuns splits the text into isolating run sequences (BD13).
func isolatingRuns(classes []bidi.Class, levels []uint8, removed []bool, match []int) [][]int {
	var runs [][]int
	runOf := make([]int, len(classes))
	for i := range classes {
		if removed[i] {
			continue
		}
		if k := len(runs); k > 0 && levels[runs[k-1][len(runs[k-1])-1]] == levels[i] {
			runs[k-1] = append(runs[k-1], i)
		} else {
			runs = append(runs, []int{i})
		}
		runOf[i] = len(runs) - 1
	}
	used := make([]bool, len(runs))
	var out [][]int
	for r := range runs {
		first := runs[r][0]
		if used[r] || classes[first] == bidi.PDI && match[first] >= 0 {
			continue
		}
		var seq []int
		for at := r; ; {
			used[at] = true
			seq = append(seq, runs[at]...)
			last := seq[len(seq)-1]
			isIso := classes[last] == bidi.LRI || classes[last] == bidi.RLI || classes[last] == bidi.FSI
			if !isIso || match[last] < 0 {
				break
			}
			at = runOf[match[last]]
			if used[at] {
				break
			}
		}
		out = append(out, seq)
	}
	return out
}

// resolveRun applies W1 to W7, N0 to N2 and I1, I2 to one sequence.
// The sides of a sequence look at explicit, the levels before any was resolved (X10).
func resolveRun(seq []int, cls []bidi.Class, levels, explicit []uint8, runes []rune, orig []bidi.Class, base uint8, removed []bool) {
	level := levels[seq[0]]
	dirOf := func(l uint8) bidi.Class {
		if l&1 == 1 {
			return bidi.R
		}
		return bidi.L
	}
	prevLevel, nextLevel := base, base
	for i := seq[0] - 1; i >= 0; i-- {
		if !removed[i] {
			prevLevel = explicit[i]
			break
		}
	}
	last := seq[len(seq)-1]
	if c := orig[last]; c != bidi.LRI && c != bidi.RLI && c != bidi.FSI {
		for i := last + 1; i < len(levels); i++ {
			if !removed[i] {
				nextLevel = explicit[i]
				break
			}
		}
	}
	sos, eos := dirOf(max(level, prevLevel)), dirOf(max(level, nextLevel))
	at := func(k int) bidi.Class {
		if k < 0 {
			return sos
		}
		if k >= len(seq) {
			return eos
		}
		return cls[seq[k]]
	}
	set := func(k int, c bidi.Class) { cls[seq[k]] = c }
	isolate := func(c bidi.Class) bool {
		return c == bidi.LRI || c == bidi.RLI || c == bidi.FSI || c == bidi.PDI
	}
	strong := sos
	for k := range seq { // W1, W2, W3
		switch c := at(k); c {
		case bidi.NSM:
			p := at(k - 1)
			if isolate(p) {
				p = bidi.ON
			}
			set(k, p)
		}
		switch at(k) {
		case bidi.L, bidi.R, bidi.AL:
			strong = at(k)
		case bidi.EN:
			if strong == bidi.AL {
				set(k, bidi.AN)
			}
		}
	}
	for k := range seq {
		if at(k) == bidi.AL {
			set(k, bidi.R)
		}
	}
	for k := range seq { // W4
		if c := at(k); k > 0 && k+1 < len(seq) {
			if a, b := at(k-1), at(k+1); a == b && (c == bidi.ES && a == bidi.EN || c == bidi.CS && (a == bidi.EN || a == bidi.AN)) {
				set(k, a)
			}
		}
	}
	for k := 0; k < len(seq); k++ { // W5
		if at(k) != bidi.ET {
			continue
		}
		j := k
		for j < len(seq) && at(j) == bidi.ET {
			j++
		}
		if at(k-1) == bidi.EN && k > 0 || j < len(seq) && at(j) == bidi.EN {
			for i := k; i < j; i++ {
				set(i, bidi.EN)
			}
		}
		k = j - 1
	}
	strong = sos
	for k := range seq { // W6, W7
		switch at(k) {
		case bidi.ET, bidi.ES, bidi.CS:
			set(k, bidi.ON)
		case bidi.L, bidi.R:
			strong = at(k)
		case bidi.EN:
			if strong == bidi.L {
				set(k, bidi.L)
			}
		}
	}
	pairBrackets(seq, cls, runes, orig, dirOf(level), sos)
	neutral := func(c bidi.Class) bool {
		return c == bidi.B || c == bidi.S || c == bidi.WS || c == bidi.ON || isolate(c)
	}
	side := func(c bidi.Class) bidi.Class {
		if c == bidi.EN || c == bidi.AN {
			return bidi.R
		}
		return c
	}
	for k := 0; k < len(seq); k++ { // N1, N2
		if !neutral(at(k)) {
			continue
		}
		j := k
		for j < len(seq) && neutral(at(j)) {
			j++
		}
		d := dirOf(level)
		if a, b := side(at(k-1)), side(at(j)); a == b {
			d = a
		}
		for i := k; i < j; i++ {
			set(i, d)
		}
		k = j - 1
	}
	for _, i := range seq { // I1, I2
		switch c := cls[i]; {
		case level&1 == 0 && c == bidi.R:
			levels[i]++
		case level&1 == 0 && (c == bidi.AN || c == bidi.EN):
			levels[i] += 2
		case level&1 == 1 && (c == bidi.L || c == bidi.AN || c == bidi.EN):
			levels[i]++
		}
	}
}

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

// pairBrackets is rule N0.
func pairBrackets(seq []int, cls []bidi.Class, runes []rune, orig []bidi.Class, embed, sos bidi.Class) {
	type open struct {
		r rune
		k int
	}
	var stack []open
	var pairs [][2]int
	for k, i := range seq {
		if cls[i] != bidi.ON {
			continue
		}
		r := bracket(runes[i])
		if strings.ContainsRune(openers, r) && r != '«' && r != '‹' {
			if len(stack) == 63 {
				break
			}
			for x, o := range openerRunes {
				if o == r {
					stack = append(stack, open{closerRunes[x], k})
				}
			}
		} else if strings.ContainsRune(closers, r) {
			for s := len(stack) - 1; s >= 0; s-- {
				if stack[s].r == r {
					pairs = append(pairs, [2]int{stack[s].k, k})
					stack = stack[:s]
					break
				}
			}
		}
	}
	for i := 1; i < len(pairs); i++ {
		for j := i; j > 0 && pairs[j][0] < pairs[j-1][0]; j-- {
			pairs[j], pairs[j-1] = pairs[j-1], pairs[j]
		}
	}
	strongOf := func(c bidi.Class) bidi.Class {
		switch c {
		case bidi.L:
			return bidi.L
		case bidi.R, bidi.EN, bidi.AN:
			return bidi.R
		}
		return bidi.ON
	}
	for _, p := range pairs {
		found := bidi.Class(bidi.ON)
		for k := p[0] + 1; k < p[1]; k++ {
			if s := strongOf(cls[seq[k]]); s == embed {
				found = embed
				break
			} else if s != bidi.ON {
				found = s
			}
		}
		if found == bidi.ON {
			continue
		}
		if found != embed {
			before := sos
			for k := p[0] - 1; k >= 0; k-- {
				if s := strongOf(cls[seq[k]]); s != bidi.ON {
					before = s
					break
				}
			}
			if before != found {
				found = embed
			}
		}
		for _, at := range p {
			cls[seq[at]] = found
			for k := at + 1; k < len(seq) && orig[seq[k]] == bidi.NSM; k++ { // marks go with the bracket
				cls[seq[k]] = found
			}
		}
	}
}

// reorder gives the visual order of leaves by their levels (rule L2).
func reorder(levels []uint8) []int {
	n := len(levels)
	order := make([]int, n)
	high, low := uint8(0), uint8(255)
	for i, l := range levels {
		order[i] = i
		high = max(high, l)
		if l&1 == 1 {
			low = min(low, l)
		}
	}
	for lv := high; lv >= low && lv > 0; lv-- {
		for i := 0; i < n; {
			if levels[order[i]] < lv {
				i++
				continue
			}
			j := i
			for j < n && levels[order[j]] >= lv {
				j++
			}
			for a, b := i, j-1; a < b; a, b = a+1, b-1 {
				order[a], order[b] = order[b], order[a]
			}
			i = j
		}
	}
	return order
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
