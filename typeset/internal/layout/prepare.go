package layout

import (
	"bytes"
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/segmenter"
	"golang.org/x/text/width"

	"oliveledger/typeset/internal/bidi"
	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/orientation"
	"oliveledger/typeset/internal/style"
)

// leafKind tells what a leaf of inline content is.
type leafKind uint8

const (
	leafText leafKind = iota
	leafSpace
	leafTab
	leafBreak   // forced
	leafAtomic  // inline-block, picture and the like
	leafFloat   // float that stands between the words
	leafOut     // positioned box
	leafPhantom // an empty inline box
)

// inlineBox is an inline box around leaves.
type inlineBox struct {
	box   *box.Box
	up    *inlineBox
	depth int
}

// leaf is the smallest thing that a line is made of.
type leaf struct {
	kind       leafKind
	start, end int // bytes of para.text
	in         *inlineBox
	box        *box.Box // text box, atomic, float or positioned box
	match      font.Match
	run        *font.Run
	w          float64
	opens      []*inlineBox // boxes that begin before this leaf
	closes     []*inlineBox // boxes that end after it
	canBreak   bool         // a line may end after it
	soft       bool         // ends in a soft hyphen
	upright    bool         // stands upright in a vertical line
	level      uint8
	script     language.Script
	collapse   bool // a space that vanishes at a line's end
	wraps      bool // a space that vanished after it lets the line end there
	hang       bool // a preserved space that may hang at a line's end
	other      bool // a space that separates no words
	before     bool // its letters may join the text before it
	after      bool // and after it
}

// para is the prepared inline content of a block container.
type para struct {
	text   string
	leaves []leaf
	rtl    bool
	outer  bool            // the direction of the box, where unicode-bidi is plaintext
	turns  []directionTurn // of unicode-bidi: plaintext, else nil
	bidi   bool
	min    float64
	max    float64
	sized  bool
	floats bool
	cuts   bool // boxes stand in its lines that a page's end may cut
	clones bool // inline boxes have their edges on each line
}

// prepare makes the inline content of b; it is done once for each box.
func (l *Layout) prepare(b *box.Box) *para {
	m := l.memo(b)
	if m.para != nil {
		return m.para
	}
	p := &para{rtl: isRTL(b)}
	c := &l.gather
	c.start(l, p, b)
	c.walk(b.Children, nil)
	c.flushOpens()
	c.hyphenate()
	p.text = c.text.String()
	if b.Style.UnicodeBidi == style.Plaintext {
		p.outer, p.rtl = p.rtl, bidi.FirstStrongRTL(p.text, p.rtl)
	}
	p.floats, p.cuts, p.clones = c.floats, c.cuts, c.clones
	p.resolveBidi(b, c.controls)
	l.shape(p, c)
	m.para = p
	return p
}

// collector walks inline boxes and gathers text with its white space
// processed (CSS Text 3, §4.1). One serves all, as its memory is used again.
type collector struct {
	l        *Layout
	p        *para
	root     *box.Box
	text     bytes.Buffer
	space    bool // the last character was a collapsible space
	pending  []*inlineBox
	spans    []span // stretches of text of one text box
	controls []control
	floats   bool
	cuts     bool
	clones   bool
	capState bool
}

func (c *collector) start(l *Layout, p *para, root *box.Box) {
	c.text.Reset()
	*c = collector{l: l, p: p, root: root, space: true, text: c.text, spans: c.spans[:0]}
}

// span is a stretch of text, or an object, before it is cut into leaves.
type span struct {
	kind       leafKind
	start, end int
	box        *box.Box
	in         *inlineBox
	opens      []*inlineBox
	closes     []*inlineBox
	collapse   bool
	wraps      bool
	newline    bool // a space that stands for the end of a line of the source
}

// control is a bidi control that an inline box adds at a place.
type control struct {
	at int
	r  rune
}

func (c *collector) flushOpens() {
	if len(c.pending) == 0 {
		return
	}
	in := c.pending[len(c.pending)-1]
	c.add(span{kind: leafPhantom, start: c.text.Len(), end: c.text.Len(), in: in})
}

func (c *collector) add(s span) {
	s.opens = append(s.opens, c.pending...)
	c.pending = nil
	c.spans = append(c.spans, s)
}

func (c *collector) walk(kids []*box.Box, in *inlineBox) {
	for _, k := range kids {
		switch {
		case k.Leader:
			c.text.WriteRune('\uFFFC')
			c.add(span{kind: leafTab, start: c.text.Len() - 3, end: c.text.Len(), box: k, in: in})
			c.space = false
		case k.Kind == box.Text:
			c.addText(k, in)
		case k.Kind == box.LineBreak:
			c.text.WriteByte('\n')
			c.add(span{kind: leafBreak, start: c.text.Len() - 1, end: c.text.Len(), box: k, in: in})
			c.space = true
		case k.Positioned():
			c.add(span{kind: leafOut, start: c.text.Len(), end: c.text.Len(), box: k, in: in})
		case k.Floats():
			c.floats = true
			c.add(span{kind: leafFloat, start: c.text.Len(), end: c.text.Len(), box: k, in: in})
		case k.IsAtomic() || k.IsBlockLevel():
			c.cuts = c.cuts || k.Kind == box.Element
			c.text.WriteRune('\uFFFC')
			c.add(span{kind: leafAtomic, start: c.text.Len() - 3, end: c.text.Len(), box: k, in: in})
			c.space = false
		default:
			c.inline(k, in)
		}
	}
}

func (c *collector) inline(k *box.Box, up *inlineBox) {
	in := &inlineBox{box: k, up: up}
	if up != nil {
		in.depth = up.depth + 1
	}
	c.clones = c.clones || k.Style.BoxDecorationBreak == style.Clone
	open, closing := bidiControls(k.Style)
	for _, r := range open {
		c.controls = append(c.controls, control{c.text.Len(), r})
	}
	c.pending = append(c.pending, in)
	before := len(c.spans)
	c.walk(k.Children, in)
	if len(c.spans) == before {
		c.flushOpens()
	}
	last := &c.spans[len(c.spans)-1]
	last.closes = append(last.closes, in)
	for _, r := range closing {
		c.controls = append(c.controls, control{c.text.Len(), r})
	}
}

// bidiControls gives the characters that unicode-bidi stands for
// (CSS Writing Modes 4, §2.4.2).
func bidiControls(s *style.Style) (open, closing string) {
	rtl := s.Direction == style.Rtl
	pick := func(l, r string) string {
		if rtl {
			return r
		}
		return l
	}
	switch s.UnicodeBidi {
	case style.Embed:
		return pick("\u202A", "\u202B"), "\u202C"
	case style.Isolate:
		return pick("\u2066", "\u2067"), "\u2069"
	case style.BidiOverride:
		return pick("\u202D", "\u202E"), "\u202C"
	case style.IsolateOverride:
		return "\u2068" + pick("\u202D", "\u202E"), "\u202C\u2069"
	case style.Plaintext:
		return "\u2068", "\u2069"
	}
	return "", ""
}

func (c *collector) addText(k *box.Box, in *inlineBox) {
	s := k.Style
	t := transform(k.Text, s, &c.capState)
	if s.WordSpace != "" {
		t = strings.ReplaceAll(t, "\u200B", s.WordSpace)
	}
	t = c.l.showControls(t, k)
	if c.smallCaps(k, in, t) {
		return
	}
	switch s.Collapse {
	case style.Discard:
		t = mapSpace(t, -1)
	case style.PreserveSpaces:
		t = mapSpace(t, ' ')
	}
	keepSpace := s.Collapse == style.Preserve || s.Collapse == style.BreakSpaces || s.Collapse == style.PreserveSpaces
	keepBreaks := keepSpace || s.Collapse == style.PreserveBreaks
	for i := 0; i < len(t); {
		j := i + wordRun(t[i:])
		if j > i {
			c.piece(k, in, t[i:j])
		}
		if i = j; i == len(t) {
			return
		}
		if n := endsLine(t[i:]); n > 0 {
			c.forced(k, in)
			i += n
			continue
		}
		newline := false
		if end := spaceRun(t, i); !keepBreaks {
			if c.joins(t, i, end, s.Lang) {
				i = end
				continue
			}
			newline = strings.IndexByte(t[i:end], '\n') >= 0
		}
		if keepBreaks && strings.HasPrefix(t[i:], "\r\n") {
			i++
		}
		c.addSpace(k, in, t[i], keepSpace, keepBreaks, newline)
		i++
	}
}

// wordRun is how much of a text stands before the first space or end of a line.
func wordRun(t string) int {
	for i := range len(t) {
		switch ch := t[i]; {
		case ch == ' ' || ch == '\t' || ch == '\n' || ch == '\r' || ch == '\f', ch >= 0x80 && endsLine(t[i:]) > 0:
			return i
		}
	}
	return len(t)
}

// addSpace adds a space, a tab or the end of a line as the style keeps them (Text 3, §4.1); newline tells that a line
// of the source ends in the spaces that it stands for.
func (c *collector) addSpace(k *box.Box, in *inlineBox, ch byte, keepSpace, keepBreaks, newline bool) {
	add := func(kind leafKind, ch byte, collapse bool) {
		c.text.WriteByte(ch)
		c.add(span{kind: kind, start: c.text.Len() - 1, end: c.text.Len(), box: k, in: in, collapse: collapse, newline: collapse && newline})
		c.space = collapse
	}
	switch {
	case keepBreaks && ch != ' ' && ch != '\t':
		c.forced(k, in)
	case keepSpace && ch == '\t':
		add(leafTab, '\t', false)
	case keepSpace:
		add(leafSpace, ' ', false)
	case !c.space:
		add(leafSpace, ' ', true)
	case wraps(k.Style): // it has no width, but lets the line end all the same (§4.1.1)
		if n := len(c.spans); n > 0 && c.spans[n-1].kind == leafSpace {
			c.spans[n-1].wraps = true
		}
	}
}

// mapSpace puts a character in the place of each of white space; -1 for none.
func mapSpace(t string, by rune) string {
	return strings.Map(func(r rune) rune {
		if strings.ContainsRune(" \t\n\r\f", r) {
			return by
		}
		return r
	}, t)
}

// forced adds a line break of the text itself.
func (c *collector) forced(k *box.Box, in *inlineBox) {
	c.text.WriteByte('\n')
	c.add(span{kind: leafBreak, start: c.text.Len() - 1, end: c.text.Len(), box: k, in: in})
	c.space = true
}

// lineEnds are the characters that end a line wherever they stand: line and
// paragraph separator (UAX #14, BK).
const lineEnds = "\u2028\u2029"

// endsLine is the length of one at the beginning of t, or 0.
func endsLine(t string) int {
	if t[0] < 0x80 {
		return 0
	}
	if r, n := utf8.DecodeRuneInString(t); strings.ContainsRune(lineEnds, r) {
		return n
	}
	return 0
}

// spaceRun is where the white space that begins at i ends.
func spaceRun(t string, i int) int {
	for i < len(t) && strings.IndexByte(" \t\n\r\f", t[i]) >= 0 {
		i++
	}
	return i
}

// joins tells whether the break of the source's lines within the white space
// from i to end leaves no space.
func (c *collector) joins(t string, i, end int, lang string) bool {
	return strings.IndexByte(t[i:end], '\n') >= 0 && joinLines(lastSeen(c.text.Bytes()), firstSeen(t[end:]), lang)
}

// joinLines tells whether lines of the source are joined without a space: beside a zero width
// space, between wide characters of East Asian scripts, and beside their punctuation in text
// of such a language (CSS Text 3, §4.1.3). 0 stands for no character.
func joinLines(before, after rune, lang string) bool {
	if before == '\u200B' || after == '\u200B' {
		return true
	}
	a, b := eastAsian(before), eastAsian(after)
	mark := a && unicode.Is(unicode.P, before) || b && unicode.Is(unicode.P, after)
	return a && b || mark && before != 0 && after != 0 && eastAsianLanguage(lang)
}

// unseen tells whether a character between two others says nothing of the space between them.
func unseen(r rune) bool { return font.Ignorable(r) && r != '\u200B' }

// lastSeen is the last character of a text that is seen, or a zero width space.
func lastSeen(t []byte) rune {
	for len(t) > 0 {
		r, n := utf8.DecodeLastRune(t)
		if !unseen(r) {
			return r
		}
		t = t[:len(t)-n]
	}
	return 0
}

// firstSeen is the first character of a text that is seen, or a zero width space.
func firstSeen(t string) rune {
	for _, r := range t {
		if !unseen(r) {
			return r
		}
	}
	return 0
}

func eastAsian(r rune) bool {
	if r < 0x1100 || unicode.Is(unicode.Hangul, r) {
		return false
	}
	switch width.LookupRune(r).Kind() {
	case width.EastAsianFullwidth, width.EastAsianWide, width.EastAsianHalfwidth:
		return true
	}
	return false
}

// otherSpace tells whether a character is a space of a width of its own. Such
// hang at a line's end (CSS Text 4, §4.3.2).
func otherSpace(r rune) bool {
	return r == 0x1680 || r >= 0x2000 && r <= 0x200A || r == 0x202F || r == 0x205F || r == 0x3000
}

// controlSign stands for a control character, which has no look of its own but
// must be seen (CSS Text 3, §4.1).
const controlSign = '\u25A1'

func (l *Layout) showControls(t string, b *box.Box) string {
	isControl := func(r rune) bool {
		return r < ' ' && r != '\t' && r != '\n' && r != '\r' && r != '\f' || r >= 0x7F && r < 0xA0
	}
	i := strings.IndexFunc(t, isControl)
	if i < 0 {
		return t
	}
	if l.Tell != nil {
		r, _ := utf8.DecodeRuneInString(t[i:])
		l.Tell("control-character", fmt.Sprintf("the text holds the control character U+%04X, shown as %c; take it out of the data", r, controlSign), b)
	}
	return strings.Map(func(r rune) rune {
		if isControl(r) {
			return controlSign
		}
		return r
	}, t)
}

// joinLast takes away the space before a text of another box that is to be joined to the line
// of the source before it.
func (c *collector) joinLast(t string) {
	n := len(c.spans)
	if n == 0 || !c.spans[n-1].newline || len(c.spans[n-1].opens)+len(c.spans[n-1].closes) > 0 {
		return
	}
	space := &c.spans[n-1]
	if joinLines(lastSeen(c.text.Bytes()[:space.start]), firstSeen(t), space.box.Style.Lang) {
		c.text.Truncate(space.start)
		c.spans = c.spans[:n-1]
	}
}

func (c *collector) piece(k *box.Box, in *inlineBox, t string) {
	c.joinLast(t)
	start := c.text.Len()
	c.text.WriteString(t)
	c.add(span{kind: leafText, start: start, end: c.text.Len(), box: k, in: in})
	c.space = false
}

// shape cuts the spans into leaves at break opportunities, faces, scripts and
// levels, and shapes them.
func (l *Layout) shape(p *para, c *collector) {
	breaks := opportunities(p.text, c)
	levels := p.levels(c)
	p.leaves = make([]leaf, 0, len(c.spans))
	for i := range c.spans {
		s := &c.spans[i]
		first := len(p.leaves)
		if s.kind == leafText {
			l.cut(p, s, breaks, levels, c.touches(i, -1), c.touches(i, 1))
		} else {
			lf := leaf{kind: s.kind, start: s.start, end: s.end, in: s.in, box: s.box, collapse: s.collapse, wraps: s.wraps}
			if levels != nil && s.start < len(levels) {
				lf.level = levels[s.start]
				if s.kind == leafOut {
					lf.level = p.levelBetween(levels, s.start)
				}
			} else if p.rtl {
				lf.level = 1
			}
			lf.canBreak = s.end > s.start && breaks.at(s.end)
			if s.kind == leafSpace {
				l.shapeSpace(&lf)
			}
			p.leaves = append(p.leaves, lf)
		}
		if len(p.leaves) > first {
			p.leaves[first].opens = s.opens
			p.leaves[len(p.leaves)-1].closes = s.closes
		}
	}
	l.kernSpaces(p)
	l.ligateSpaces(p)
	l.forbidBreaks(p, c.root.Style)
}

// kernSpaces fits the spaces between words in one face and size to the letters beside
// them, also across the edges of inline boxes that take no room.
func (l *Layout) kernSpaces(p *para) {
	var of *style.Style // of the space before; most share it
	var words *font.Words
	var size float64
	for i := range p.leaves {
		lf := &p.leaves[i]
		if lf.kind != leafSpace || lf.other || lf.level&1 != 0 {
			continue
		}
		if s := lf.box.Style; s != of {
			of, size = s, l.sizeOf(s, lf.match.Face)
			words = lf.match.Face.Words(language.Latin, s.Lang, false, lf.match.Features(l.look(s).features))
		}
		beside := func(k *leaf) bool {
			return k.kind == leafText && k.match.Face == lf.match.Face && k.level == lf.level && !k.upright && l.sizeOf(k.box.Style, k.match.Face) == size
		}
		var before, after rune
		if i > 0 && beside(&p.leaves[i-1]) && bare(p.leaves[i-1].closes) && bare(lf.opens) {
			before, _ = utf8.DecodeLastRuneInString(p.text[:p.leaves[i-1].end])
		}
		if i+1 < len(p.leaves) && beside(&p.leaves[i+1]) && bare(lf.closes) && bare(p.leaves[i+1].opens) {
			after, _ = utf8.DecodeRuneInString(p.text[p.leaves[i+1].start:])
		}
		run := words.Space(before, after)
		lf.w += (run.Width - lf.run.Width) * size / lf.match.Face.Upem
		lf.run = run
	}
}

func wraps(s *style.Style) bool { return s.Wrap == style.WrapText }

// forbidBreaks removes opportunities inside text that does not wrap.
func (l *Layout) forbidBreaks(p *para, root *style.Style) {
	for i := range p.leaves {
		lf := &p.leaves[i]
		if !lf.canBreak {
			continue
		}
		if lf.ofMarker() && (i+1 == len(p.leaves) || !p.leaves[i+1].ofMarker()) { // it stays with what it marks
			lf.canBreak = false
			continue
		}
		s := l.leafStyle(lf)
		if lf.collapse || strings.HasSuffix(p.text[:lf.end], "\u200B") { // what is not seen at the break decides about it itself (CSS Text 3, §5.1)
			lf.canBreak = wraps(s) || lf.wraps
			continue
		}
		if i+1 < len(p.leaves) {
			// the break stands between two leaves: their common parent decides
			n := &p.leaves[i+1]
			if n.in != lf.in {
				s = commonStyle(lf, n, root)
			}
		}
		if s == nil {
			s = root
		}
		if !wraps(s) {
			lf.canBreak = false
		}
	}
}

// ofMarker tells whether a leaf is text of a list item's marker.
func (lf *leaf) ofMarker() bool { return lf.box != nil && lf.box.Rare().Pseudo == "marker" }

// commonStyle is the style of the innermost inline box around both leaves, or
// of the block around all.
func commonStyle(a, b *leaf, root *style.Style) *style.Style {
	x, y := a.in, b.in
	for x != y {
		switch {
		case x == nil:
			y = y.up
		case y == nil || x.depth > y.depth:
			x = x.up
		case y.depth > x.depth:
			y = y.up
		default:
			x, y = x.up, y.up
		}
	}
	if x != nil {
		return x.box.Style
	}
	return root
}

func (l *Layout) leafStyle(lf *leaf) *style.Style {
	if lf.box != nil && (lf.kind == leafText || lf.kind == leafSpace || lf.kind == leafTab) {
		return lf.box.Style
	}
	if lf.in != nil {
		return lf.in.box.Style
	}
	return nil
}

// breakSet marks the byte offsets where a line may end. A nil set means: after
// spaces and line feeds only.
type breakSet struct {
	text  string
	marks []bool
}

func (s breakSet) at(i int) bool {
	if s.marks != nil {
		return i < len(s.marks) && s.marks[i]
	}
	if i == 0 {
		return false
	}
	switch s.text[i-1] {
	case ' ':
		return i < len(s.text) && s.text[i] != ' ' && s.text[i] != '\n'
	case '\t', '\n':
		return true
	}
	return false
}

// opportunities finds where lines may end (UAX #14). Text of plain words takes
// a short cut.
func opportunities(t string, c *collector) breakSet {
	custom := false
	for i := range c.spans {
		if b := c.spans[i].box; b != nil && (b.Kind == box.Text) && (b.Style.WordBreak != style.Normal || b.Style.LineBreak != style.Auto || b.Style.Collapse == style.BreakSpaces) {
			custom = true
		}
	}
	if !custom && breaksAtSpaces(t) {
		return breakSet{text: t}
	}
	marks := make([]bool, len(t)+1)
	var seg segmenter.Segmenter
	runes := []rune(t)
	seg.Init(asIdeographs(runes, c))
	at, ri := 0, 0
	it := seg.LineIterator()
	for it.Next() {
		line := it.Line()
		end := line.Offset + len(line.Text)
		for ri < end {
			at += utf8.RuneLen(runes[ri])
			ri++
		}
		marks[at] = true
	}
	if custom {
		customBreaks(t, marks, c, &seg)
	}
	aroundAtomics(t, marks, c)
	return breakSet{text: t, marks: marks}
}

// asIdeographs gives text in which letters, numbers and other characters of words are
// ideographs where word-break is break-all (CSS Text 3, §5.2).
func asIdeographs(runes []rune, c *collector) []rune {
	out := runes
	k, at := 0, 0
	for i, r := range runes {
		for k < len(c.spans) && c.spans[k].end <= at {
			k++
		}
		if k < len(c.spans) && c.spans[k].kind == leafText && c.spans[k].box.Style.WordBreak == style.BreakAll && ofWord(r) {
			if &out[0] == &runes[0] {
				out = slices.Clone(runes)
			}
			out[i] = '\u4E00'
		}
		at += utf8.RuneLen(r)
	}
	return out
}

// ofWord tells whether a character is of the classes AL, NU or SA of UAX #14.
func ofWord(r rune) bool {
	if r < utf8.RuneSelf {
		return r >= '0' && r <= '9' || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || strings.ContainsRune("#&*<=>@^_`~", r)
	}
	return (unicode.IsLetter(r) || unicode.IsNumber(r)) && !eastAsian(r)
}

// aroundAtomics lets lines end before and after atomic boxes, whatever stands
// beside them but glue other than the no-break space (CSS Text 3, §5.1).
func aroundAtomics(t string, marks []bool, c *collector) {
	for i := range c.spans {
		s := &c.spans[i]
		if s.kind != leafAtomic || s.box == nil {
			continue
		}
		if r, _ := utf8.DecodeLastRuneInString(t[:s.start]); s.start > 0 && !strings.ContainsRune(" \n", r) {
			marks[s.start] = !glue(r)
		}
		if r, _ := utf8.DecodeRuneInString(t[s.end:]); s.end < len(t) && !glue(r) {
			marks[s.end] = true
		}
	}
}

// glue tells whether a character holds an atomic box beside it on its line: those
// of the classes GL, but for the no-break space, WJ and ZWJ of UAX #14, and white
// space, which has its own rules.
func glue(r rune) bool {
	switch r {
	case ' ', '\n', 0x034F, 0x0F08, 0x0F0C, 0x0F12, 0x180E, 0x2007, 0x200D, 0x2011, 0x202F, 0x2060, 0xFEFF:
		return true
	}
	return r >= 0x035C && r <= 0x0362
}

// customBreaks applies word-break and line-break (CSS Text 3, §5).
func customBreaks(t string, marks []bool, c *collector, seg *segmenter.Segmenter) {
	graph := make([]bool, len(t)+1)
	runes := []rune(t)
	at, ri := 0, 0
	for it := seg.GraphemeIterator(); it.Next(); {
		g := it.Grapheme()
		for end := g.Offset + len(g.Text); ri < end; ri++ {
			at += utf8.RuneLen(runes[ri])
		}
		graph[at] = true
	}
	for _, s := range c.spans {
		if s.box == nil || s.box.Kind != box.Text {
			continue
		}
		st := s.box.Style
		switch {
		case st.LineBreak == style.Anywhere:
			for i := s.start + 1; i <= s.end; i++ {
				marks[i] = marks[i] || graph[i]
			}
		case st.WordBreak == style.KeepAll:
			for i := s.start + 1; i < s.end; i++ {
				a, _ := utf8.DecodeLastRuneInString(t[:i])
				b, _ := utf8.DecodeRuneInString(t[i:])
				if marks[i] && unicode.IsLetter(a) && unicode.IsLetter(b) {
					marks[i] = false
				}
			}
		}
		if s.kind == leafText && (st.LineBreak == style.Normal || st.LineBreak == style.Loose) {
			loosen(t, marks, &s)
		}
		if st.Collapse == style.BreakSpaces {
			breakSpaces(t, marks, &s)
		}
	}
}

// breakSpaces lets lines end after each space, be it preserved or of a width of its own
// (CSS Text 3, §3: break-spaces).
func breakSpaces(t string, marks []bool, s *span) {
	if s.kind == leafSpace || s.kind == leafTab {
		marks[s.end] = true
		return
	}
	for i, r := range t[s.start:s.end] {
		if otherSpace(r) && r != 0x2007 && r != 0x202F { // which never break
			marks[s.start+i+utf8.RuneLen(r)] = true
		}
	}
}

// loosen lets lines end where line-break allows it though UAX #14 does not.
func loosen(t string, marks []bool, s *span) {
	for i := s.start; i < s.end; {
		b, n := utf8.DecodeRuneInString(t[i:])
		if a, _ := utf8.DecodeLastRuneInString(t[:i]); i > 0 && !marks[i] {
			marks[i] = breaksBetween(a, b, s.box.Style, s.box.Style.WordBreak == style.BreakAll)
		}
		i += n
	}
}

func wordChar(r rune) bool {
	return unicode.IsLetter(r) || unicode.IsNumber(r) || unicode.Is(unicode.M, r) || unicode.IsSymbol(r)
}

// query is what a style asks of the fonts.
func query(s *style.Style) font.Query {
	return font.Query{Families: s.Families, Weight: s.FontWeight, Stretch: s.FontStretch, Italic: s.FontStyle.Kind != style.Normal, Slant: s.FontStyle.Angle, Axes: font.Features(s.FontAxes())}
}

// features collects the OpenType features of a style (CSS Fonts 4, §7.2).
func features(s *style.Style) font.Features {
	if s.FontKerning != style.None && !s.AsksVariants() && len(s.FontFeatures) == 0 && s.FontCaps == style.Normal && s.LetterSpacing.IsZero() {
		return ""
	}
	var b strings.Builder
	put := func(f string) { b.WriteString(f + " ") }
	if s.FontKerning == style.None {
		put("-kern")
	}
	if !s.LetterSpacing.IsZero() {
		put("-liga -clig")
	}
	switch s.FontCaps {
	case style.SmallCaps:
		put("smcp")
	case style.AllSmallCaps:
		put("smcp c2sc")
	case style.PetiteCaps:
		put("pcap")
	case style.AllPetiteCaps:
		put("pcap c2pc")
	case style.Unicase:
		put("unic")
	case style.TitlingCaps:
		put("titl")
	}
	for _, f := range s.VariantFeatures() {
		put(f)
	}
	put(style.FeatureList(s.FontFeatures))
	return font.Features(strings.TrimSpace(b.String()))
}

func (l *Layout) shapeSpace(lf *leaf) {
	s := lf.box.Style
	lf.match = l.look(s).first.Match
	lf.run = lf.match.Face.Shape(" ", language.Latin, "", false, "")
	space := lf.run.Width * l.sizeOf(s, lf.match.Face) / lf.match.Face.Upem
	lf.w = space + s.LetterSpacing.Of(s.FontSize) + s.WordSpacing.Of(space)
	lf.hang = (s.Collapse == style.Preserve || s.Collapse == style.PreserveSpaces) && wraps(s)
}

// tellSynthetic tells of a face that is thickened or slanted because its family
// has no bold or italic one (CSS Fonts 4, §5.3).
func (l *Layout) tellSynthetic(m font.Match, b *box.Box) {
	look, missing, s := "", "", b.Style
	switch bold, slant := m.Bold && s.SynthesisWeight != style.None, m.Oblique != 0 && s.Slants(); {
	case bold && slant:
		look, missing = "thickened and slanted", "bold italic"
	case bold:
		look, missing = "thickened", "bold"
	case slant:
		look, missing = "slanted", "italic"
	default:
		return
	}
	l.Tell("face-synthetic", "the font “"+m.Family()+"” has no "+missing+" face; another of its faces is "+look+" instead", b)
}

// tellPictures tells of a face whose coloured letters are pictures that are not read.
func (l *Layout) tellPictures(m font.Match, b *box.Box) {
	if table := m.Face.Pictures(); table != "" {
		l.Tell("face-pictures", "the font “"+m.Family()+"” keeps its letters as pictures ("+table+"), which are not read: they are blank or without colours; take its version with COLR outlines", b)
	}
}

// touches tells whether the text of span i has that of the one a step on right
// beside it: no edge of an inline box stands between them (CSS Text 3, §7.3).
func (c *collector) touches(i, step int) bool {
	for a, b := i, i+step; b >= 0 && b < len(c.spans); a, b = b, b+step {
		if !bare(c.spans[min(a, b)].closes) || !bare(c.spans[max(a, b)].opens) {
			return false
		}
		switch c.spans[b].kind {
		case leafText:
			return true
		case leafOut, leafFloat, leafPhantom:
		default:
			return false
		}
	}
	return false
}

// bare tells whether inline boxes have no edges.
func bare(list []*inlineBox) bool {
	for _, in := range list {
		s := in.box.Style
		for _, side := range []int{style.Left, style.Right} {
			if s.Border[side].Width != 0 || !s.Padding[side].IsZero() || !s.Margin[side].IsAuto() && !s.Margin[side].IsZero() {
				return false
			}
		}
	}
	return true
}

// cut makes the leaves of one stretch of text; before and after tell whether it
// may join what stands there.
func (l *Layout) cut(p *para, s *span, breaks breakSet, levels []uint8, before, after bool) {
	c := &cutter{l: l, p: p, s: s, look: l.look(s.box.Style), breaks: breaks, before: before, after: after, start: s.start, variant: s.box.Style.EmojiVariant()}
	for i := s.start; i < s.end; {
		if i > c.start && breaks.at(i) {
			c.emit(i)
		}
		r, n := utf8.DecodeRuneInString(p.text[i:s.end])
		level := uint8(0)
		if levels != nil {
			level = levels[i]
		} else if p.rtl {
			level = 1
		}
		c.take(r, i, n, level)
		i += n
	}
	c.emit(s.end)
}

// cutter cuts the text of a span into leaves of one face, script, direction and orientation each.
type cutter struct {
	l             *Layout
	p             *para
	s             *span
	look          *textLook
	breaks        breakSet
	before, after bool // letters join across the span's ends
	variant       string

	start    int  // of the leaf that is being made
	open     bool // it holds something
	textKind      // what all its characters are
}

// textKind is what the characters of a leaf have in common.
type textKind struct {
	match           font.Match
	script          language.Script // 0 while all of them go with any
	level           uint8
	upright, spaces bool
}

// emit makes a leaf of the text up to end.
func (c *cutter) emit(end int) {
	c.open = false
	if end <= c.start {
		return
	}
	st := c.s.box.Style
	lf := leaf{kind: leafText, start: c.start, end: end, in: c.s.in, box: c.s.box, match: c.match, script: c.script, level: c.level, canBreak: c.breaks.at(end), upright: c.upright}
	t := c.p.text[c.start:end]
	lf.soft = strings.HasSuffix(t, "\u00AD")
	if lf.soft && st.Hyphens == style.None {
		lf.canBreak, lf.soft = false, false
	}
	if c.spaces {
		lf.kind, lf.other, lf.hang = leafSpace, true, wraps(st) && st.Collapse != style.BreakSpaces
	}
	if font.Joins(c.script) {
		lf.before, lf.after = c.before || c.start > c.s.start, c.after || end < c.s.end
	}
	c.l.measure(&lf, c.p.text, t, c.look.features)
	c.l.tellSynthetic(lf.match, lf.box)
	c.l.tellPictures(lf.match, lf.box)
	c.p.leaves = append(c.p.leaves, lf)
	c.start = end
}

// take adds the character of n bytes at i; one that is of another kind begins another leaf.
func (c *cutter) take(r rune, i, n int, level uint8) {
	now := textKind{c.look.first.Match, font.Script(r), level, c.upright, otherSpace(r)}
	switch {
	case c.open && (font.Ignorable(r) || unicode.Is(unicode.Mn, r) && c.match.Face.Glyph(r) != 0):
		now.match, now.script = c.match, 0
	case font.Ignorable(r), r == ' ':
	default:
		now.match = c.faceFor(r, i+n)
	}
	if st := c.s.box.Style; central(st) && !font.Ignorable(r) && !unicode.Is(unicode.Mn, r) {
		now.upright = st.Orientation == style.Upright || orientation.Upright(r)
	}
	if c.open {
		common := now
		if now.script == 0 || c.script == 0 {
			common.script = c.script
		}
		if common != c.textKind {
			c.emit(i)
		}
	}
	if !c.open {
		c.open, c.textKind = true, now
	}
	if now.script != 0 {
		c.script = now.script
	}
}

// faceFor is the face of a character, which the one at next may ask to be drawn as a picture or as a letter.
func (c *cutter) faceFor(r rune, next int) font.Match {
	look := font.AnyLook
	if r == '#' || r >= '*' && r <= '9' || r > 0xA0 { // others are none
		after, _ := utf8.DecodeRuneInString(c.p.text[next:c.s.end])
		look = font.EmojiLook(r, after, c.variant)
	}
	if !c.look.wants(r, look) {
		return c.look.first.Match
	}
	var m font.Match
	var ok bool
	if look == font.AnyLook {
		m, ok = c.l.Fonts.For(c.look.query, r)
	} else {
		m, ok = c.l.Fonts.ForEmoji(c.look.query, r, look == font.ColorLook)
	}
	switch {
	case ok:
	case otherSpace(r): // the shaper makes it from the space that every font has
		m = c.look.first.Match
	default:
		c.l.lack(r, c.s.box)
	}
	return m
}

func (l *Layout) lack(r rune, b *box.Box) {
	if l.Lacks != nil {
		l.Lacks(r, b)
	}
}

// mostContext is how many bytes of text around a leaf its letters may look at.
const mostContext = 16

// context is the text around a leaf that its letters join.
func (lf *leaf) context(whole string) (c font.Context) {
	if lf.before {
		c.Before = whole[:lf.start]
		if cut := len(c.Before) - mostContext; cut > 0 {
			for !utf8.RuneStart(c.Before[cut]) {
				cut++
			}
			c.Before = c.Before[cut:]
		}
	}
	if lf.after {
		c.After = whole[lf.end:]
		if cut := mostContext; cut < len(c.After) {
			for !utf8.RuneStart(c.After[cut]) {
				cut--
			}
			c.After = c.After[:cut]
		}
	}
	return c
}

// measure shapes t, the text of a leaf of the whole, and sums its width.
func (l *Layout) measure(lf *leaf, whole, t string, feats font.Features) {
	s := lf.box.Style
	if lf.soft {
		t = strings.TrimSuffix(t, "\u00AD")
	}
	feats = lf.match.Features(feats)
	if lf.upright {
		feats = uprightFeatures(feats, s)
	}
	lf.run = lf.match.Face.ShapeIn(lf.context(whole), t, lf.script, s.Lang, lf.level&1 == 1, feats)
	if lf.upright {
		lf.run = stacked(lf.run, lf.match.Face)
	}
	if lf.spaced() {
		lf.run = lf.run.Seen()
	}
	if lf.box.Rare().Lowered {
		lf.run = lf.run.Saying(lower(lf.run.Text, s.Lang))
	}
	lf.w = lf.run.Width * l.sizeOf(s, lf.match.Face) / lf.match.Face.Upem
	if lf.spaced() {
		n := 0
		for i := range lf.run.Glyphs {
			if lf.run.Glyphs[i].Chars > 0 {
				n++
			}
		}
		lf.w += float64(n) * s.LetterSpacing.Of(s.FontSize)
	}
	if !s.WordSpacing.IsZero() {
		lf.w += float64(strings.Count(t, "\u00A0")) * s.WordSpacing.Of(s.FontSize)
	}
}

// spaced tells whether letters of a leaf are set apart. Those of scripts whose letters join
// are not (CSS Text 3, §8.2).
func (lf *leaf) spaced() bool {
	return !lf.box.Style.LetterSpacing.IsZero() && !font.Joins(lf.script)
}

// edge is the margin, border and padding where an inline box begins or ends.
func (l *Layout) edge(in *inlineBox, cbW float64, end bool) float64 {
	e := l.edges(in.box, cbW)
	side := style.Left
	if end != isRTL(in.box) {
		side = style.Right
	}
	return e.margin[side] + e.border[side] + e.padding[side]
}

func (l *Layout) opensWidth(lf *leaf, cbW float64) (w float64) {
	for _, in := range lf.opens {
		w += l.edge(in, cbW, false)
	}
	return w
}

func (l *Layout) closesWidth(lf *leaf, cbW float64) (w float64) {
	for _, in := range lf.closes {
		w += l.edge(in, cbW, true)
	}
	return w
}

// metrics are the font measures that lines are built of.
func (l *Layout) metrics(m font.Match, size float64) (ascent, descent, gap float64) {
	f := m.Face
	return f.Ascent * size, f.Descent * size, f.LineGap * size
}
