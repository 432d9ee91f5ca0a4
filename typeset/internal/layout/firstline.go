package layout

import (
	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/style"
)

// firstLine is the block b as its first line sees it: with the styles of
// ::first-line, and an inline box around all for its background.
func (l *Layout) firstLine(b *box.Box) *box.Box {
	m := l.memo(b)
	if m.firstLine != nil {
		return m.firstLine
	}
	line := b.Rare().FirstLine
	around := style.Anonymous(line, style.Display{Outer: style.Inline, Inner: style.Flow})
	around.BackgroundColor, around.Background = line.BackgroundColor, line.Background
	out := *b
	out.Memo = nil
	out.Style = style.OnFirstLine(b.Style, b.Style, line)
	var decor *box.Decor
	if line.Decoration.Lines() {
		decor = &box.Decor{Style: line}
	}
	inside := &box.Box{Node: b.Node, Style: around, Children: restyled(b.Children, b.Style, line, decor)}
	inside.SetRare(func(r *box.Rare) { r.Pseudo = "first-line" })
	out.Children = []*box.Box{inside}
	m.firstLine = &out
	return m.firstLine
}

// restyled copies inline boxes and text for the first line; all else stays the
// same box, as it stands on one line only.
func restyled(kids []*box.Box, block, line *style.Style, decor *box.Decor) []*box.Box {
	out := make([]*box.Box, len(kids))
	for i, k := range kids {
		out[i] = k
		inline := k.Kind == box.Element && !k.IsAtomic() && !k.IsBlockLevel()
		if k.OutOfFlow() || k.Kind != box.Text && !inline {
			continue
		}
		c := *k
		c.Memo = nil
		c.Style = style.OnFirstLine(k.Style, block, line)
		c.Children = restyled(k.Children, block, line, decor)
		if k.Kind == box.Text && decor != nil {
			c.Decor = &box.Decor{Up: decor, Style: decor.Style}
			if k.Decor != nil {
				c.Decor = &box.Decor{Up: k.Decor, Style: decor.Style}
			}
		}
		out[i] = &c
	}
	return out
}

// moveTo finds the place of a cursor in another preparation of the same text.
func (p *para) moveTo(at cursor, to *para) cursor {
	if at.leaf >= len(p.leaves) {
		return cursor{leaf: len(to.leaves)}
	}
	if len(p.leaves) == len(to.leaves) {
		return at
	}
	pos := p.leaves[at.leaf].start + at.off
	for i := range to.leaves {
		if lf := &to.leaves[i]; lf.end > pos || lf.start >= pos {
			return cursor{leaf: i, off: max(pos-lf.start, 0)}
		}
	}
	return cursor{leaf: len(to.leaves)}
}
