package layout

import (
	"math"
	"strings"
	"unicode/utf8"

	"github.com/go-text/typesetting/language"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/style"
)

// plain is the content of a box that holds nothing but words, in one style and
// face. Most cells of a table, headings and fields are so. While they fit on one
// line they need no leaves.
type plain struct {
	text     *box.Box
	runs     []*font.Run // words and the spaces between them
	min, max float64
}

// plainOf is the plain content of b, or nil; it is looked for once for each box.
func (l *Layout) plainOf(b *box.Box) *plain {
	m := l.memo(b)
	if !m.plainKnown {
		m.plain, m.plainKnown = l.makePlain(b), true
	}
	return m.plain
}

func (l *Layout) makePlain(b *box.Box) *plain {
	look, text := l.plainWords(b)
	if look == nil {
		return nil
	}
	p := l.plains.New()
	p.runs = l.runs.Slice(2*strings.Count(text, " ") + 1)[:0]
	l.setPlain(p, b.Children[0], look, text, nil)
	return p
}

// setPlain makes p of a box's text. It uses again the room that p has for words, and
// runs that are no longer of use.
func (l *Layout) setPlain(p *plain, of *box.Box, look *textLook, text string, old []font.Run) {
	l.tellSynthetic(look.first.Match, of)
	*p = plain{text: of, runs: p.runs[:0]}
	before := ""
	for word := range strings.SplitSeq(text, " ") {
		var memory *font.Run
		if len(old) > 0 {
			memory, old = &old[0], old[1:]
		}
		run := look.words(word).ShapeInto(word, memory)
		space := look.spaceBetween(before, word)
		before = word
		p.add(look, run.Width, space)
		if space != nil {
			p.runs = append(p.runs, space)
		}
		p.runs = append(p.runs, run)
	}
}

// plainWords is the text of a box with plain content and how it looks; nil of any
// other box.
func (l *Layout) plainWords(b *box.Box) (look *textLook, text string) {
	if len(b.Children) != 1 || b.Rare().FirstLine != nil {
		return nil, ""
	}
	k := b.Children[0]
	if k.Kind != box.Text || k.Leader || k.Rare().Sum != nil || !l.look(b.Style).plainBlock {
		return nil, ""
	}
	look = l.look(k.Style)
	text = collapsed(k.Text)
	if !look.plainText || text == "" || !breaksAtSpaces(text) || !look.has(text) {
		return nil, ""
	}
	return look, text
}

// plainSizes are the content sizes of a box with plain content. Nothing is kept of
// what it has found.
func (l *Layout) plainSizes(b *box.Box) (lo, hi float64, ok bool) {
	look, text := l.plainWords(b)
	if look == nil {
		return 0, 0, false
	}
	var p plain
	before := ""
	for word := range strings.SplitSeq(text, " ") {
		p.add(look, look.words(word).Width(word), look.spaceBetween(before, word))
		before = word
	}
	return p.min, p.max, true
}

// spaceBetween is the space between two words; nil before the first one.
func (k *textLook) spaceBetween(a, b string) *font.Run {
	if a == "" {
		return nil
	}
	before, _ := utf8.DecodeLastRuneInString(a)
	after, _ := utf8.DecodeRuneInString(b)
	return k.latin.Space(before, after)
}

// add takes in a word of a width in font units, and the space before it; nil for none.
func (p *plain) add(look *textLook, units float64, space *font.Run) {
	scale := look.size / look.first.Face.Upem
	if space != nil {
		p.max += space.Width * scale
	}
	w := units * scale
	p.min, p.max = math.Max(p.min, w), p.max+w
	if !wraps(look.s) {
		p.min = p.max
	}
}

// plainBlock tells whether lines in a block of this style need nothing special.
func plainBlock(s *style.Style) bool {
	return s.Direction == style.Ltr && s.WritingMode == style.HorizontalTb && (s.UnicodeBidi == style.Normal || s.UnicodeBidi == style.Isolate) &&
		s.TextIndent.IsZero() && s.HangingPunctuation == style.HangingPunctuation{} &&
		s.TextAlign != style.JustifyAll && s.TextAlignLast == style.Auto
}

// plainText tells whether text of this style needs nothing special but to collapse
// its white space.
func plainText(s *style.Style) bool {
	return s.Collapse == style.CollapseSpace && s.TextTransform.Case == style.None && !s.TextTransform.FullWidth && s.FontCaps == style.Normal &&
		s.LetterSpacing.IsZero() && s.WordSpacing.IsZero() && s.EmphasisMark == "" && s.Hyphens != style.Auto &&
		s.WordBreak == style.Normal && s.LineBreak == style.Auto && !minBreaks(s) && s.EmojiVariant() == "" && s.WritingMode == style.HorizontalTb
}

// plainFace tells whether a face needs nothing special, and nothing to be told of.
func plainFace(m font.Match) bool {
	return !m.Face.LigatesSpaces() && m.Face.Pictures() == ""
}

// collapsed is text with its white space collapsed, and none at its ends.
func collapsed(t string) string {
	t = strings.Trim(t, " \t\n\r\f")
	for i := range len(t) {
		switch t[i] {
		case ' ':
			if t[i+1] != ' ' {
				continue
			}
		case '\t', '\n', '\r', '\f':
		default:
			continue
		}
		return strings.Join(strings.FieldsFunc(t, func(r rune) bool { return strings.ContainsRune(" \t\n\r\f", r) }), " ")
	}
	return t
}

// has tells whether the first face of a look has all characters of a text.
func (k *textLook) has(text string) bool {
	for i := 0; i < len(text); {
		r, n := rune(text[i]), 1
		if r >= utf8.RuneSelf {
			r, n = utf8.DecodeRuneInString(text[i:])
		} else if k.first.ASCII {
			i++
			continue
		}
		if r != ' ' && k.wants(r, font.AnyLook) || font.Selects(r) {
			return false
		}
		i += n
	}
	return true
}

// words is the memory for a word by its script, which is Latin where it has a letter.
func (k *textLook) words(word string) *font.Words {
	for _, r := range word {
		if font.Script(r) != 0 {
			return k.latin
		}
	}
	return k.common
}

// plainFont works out what plain text of a look needs to know of its first face.
func (k *textLook) plainFont(l *Layout) {
	face := k.first.Face
	k.size = l.sizeOf(k.s, face)
	features := k.first.Features(k.features)
	k.latin, k.common = face.Words(language.Latin, k.s.Lang, false, features), face.Words(0, k.s.Lang, false, features)
}

// plainLine sets the content of b as one line when it is plain and fits. It
// returns the height of the line.
func (l *Layout) plainLine(f *Fragment, b *box.Box, in flowSpace) (h float64, ok bool) {
	p := l.plainOf(b)
	if p == nil || in.clamp != nil || in.trim != (textTrim{}) || in.floats != nil || !l.oneLine(p, b, in) {
		return 0, false
	}
	return l.setLine(f, b, p, in, l.oneLiners.New()), true
}

// oneLine tells whether plain content fits on one line, and that on the page.
func (l *Layout) oneLine(p *plain, b *box.Box, in flowSpace) bool {
	strut := l.look(b.Style).strut
	return atMost(p.max, in.w) && atMost(strut.below+strut.above, in.left)
}

// setLine sets plain content as one line in f and returns its height.
func (l *Layout) setLine(f *Fragment, b *box.Box, p *plain, in flowSpace, made *plainFragment) float64 {
	strut := l.look(b.Style).strut
	h := strut.below + strut.above
	line := &made.line
	line.Line, line.W, line.H, line.Baseline, line.Kids = true, in.w, h, strut.above, made.kids[:1]
	text, run := &made.text, &made.run
	look := l.look(p.text.Style)
	asc, desc, _ := l.metrics(look.first.Match, look.size)
	*run = TextRun{Match: look.first.Match, Style: look.s, Decor: p.text.Decor, Size: look.size, Runs: p.runs, Ascent: asc}
	text.Box, text.W, text.H, text.Text, text.Baseline, text.LastBaseline = p.text, p.max, asc+desc, run, asc, asc
	x := lineStart(b.Style.TextAlign, false, (in.x+in.w)-in.x-p.max)
	made.kids[0] = Kid{x, strut.above - asc, text}
	if f.Kids == nil {
		f.Kids = made.outer[:0]
	}
	f.add(line, in.x, in.y, 0, 0)
	f.Baseline, f.LastBaseline, f.apart = in.y+strut.above, in.y+strut.above, true
	return h
}

// plainCell tells whether a cell of this style is as tall as what it holds; its
// height belongs to the row.
func plainCell(s *style.Style) bool {
	w, h := s.SizeContained()
	return !w && !h && s.Display.Outer == style.TableCell && s.Display.Inner != style.Flex && s.Display.Inner != style.Grid && s.Display.Inner != style.Table &&
		s.MinHeight.IsAuto() && s.MaxHeight.Kind == style.None && s.AspectRatio.Ratio == 0 && s.AlignContent.Kind == style.Normal &&
		s.MaxLines == 0 && s.TextBoxTrim == (style.TextBoxTrim{}) && s.Fit <= 0 && !s.Multicol()
}

// plainCell sets a cell that holds one line of plain text, with the border that the
// table gives it; nil when it holds something else, or the page has no room for it.
// The room of a row that is used again takes it in, if there is one.
func (l *Layout) plainCell(b *box.Box, border [4]float64, sp Space, room *cellRoom) *Fragment {
	if !l.isPlainCell(b) || known(sp.FixedH) {
		return nil
	}
	l.Watch.Step()
	e := l.edges(b, sp.W)
	e.border = border
	in := flowSpace{w: math.Max(sp.FixedW-e.inlineEdges(), 0), h: Indefinite, x: e.left(), y: e.top(), left: sp.BlockLeft - e.blockEdges()}
	p := l.plainIn(b, room)
	if p == nil || !l.oneLine(p, b, in) {
		return nil
	}
	var f *Fragment
	var made *plainFragment
	if room != nil {
		f, made = &room.cell, &room.plainFragment
	} else {
		f, made = l.fragments.New(), l.oneLiners.New()
	}
	h := l.setLine(f, b, p, in, made)
	f.Box, f.W, f.H, f.Border, f.Padding = b, sp.FixedW, e.top()+h+e.bottom(), e.border, e.padding
	return f
}

// plainIn is the plain content of a cell, kept in the room for the cell if there is one.
func (l *Layout) plainIn(b *box.Box, room *cellRoom) *plain {
	if room == nil {
		return l.plainOf(b)
	}
	look, text := l.plainWords(b)
	if look == nil {
		return nil
	}
	if n := strings.Count(text, " ") + 1; n > len(room.runs) {
		room.runs = make([]font.Run, n)
	}
	l.setPlain(&room.content, b.Children[0], look, text, room.runs)
	return &room.content
}

// isPlainCell tells whether a box is a cell with inline content that may be plain.
func (l *Layout) isPlainCell(b *box.Box) bool {
	return b.Inline && b.Rare().Marker == nil && !b.Turned() && l.look(b.Style).plainCell
}

// cellRoom is memory for a cell with plain content in one line. Rows of long tables
// use again that of rows which stand on written pages.
type cellRoom struct {
	cell    Fragment
	content plain
	runs    []font.Run // of its words
	plainFragment
}

// rowRoom is memory for a row of n cells.
func (l *Layout) rowRoom(n int) []cellRoom {
	last := len(l.written) - 1
	if last < 0 || len(l.written[last]) != n {
		return make([]cellRoom, n)
	}
	room := l.written[last]
	l.written = l.written[:last]
	for i := range room {
		room[i] = cellRoom{content: plain{runs: room[i].content.runs}, runs: room[i].runs}
	}
	return room
}

// plainFragment is a line with its text in one piece of memory.
type plainFragment struct {
	line        Fragment
	outer, kids [1]Kid // of the box around the line, and of the line
	text        Fragment
	run         TextRun
}
