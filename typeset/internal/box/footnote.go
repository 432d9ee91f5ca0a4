package box

import (
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// noteBelow names the variant of a footnote's style that stands at the foot of the page.
type noteBelow struct{}

// Notes are the nodes of the footnotes that the tree holds.
func (b *Builder) Notes() map[*markup.Node]bool {
	nodes := map[*markup.Node]bool{}
	for _, note := range b.notesBelow {
		nodes[note.Node] = true
	}
	return nodes
}

// footnote makes the call of a footnote, which stands in the text, and the
// note itself, which waits for the foot of the page
// (Generated Content for Paged Media, §2).
func (b *Builder) footnote(n *markup.Node, s, parent *style.Style) []*Box {
	at := b.counters.at("footnote", nil)
	if b.ByPage { // what page it is on is known from the round before
		if p := b.page(n); p != b.notePage {
			b.notePage, at.value = p, 0
		}
	}
	counts := true
	for _, op := range s.CounterIncrement {
		counts = counts && op.Name != "footnote"
	}
	if counts {
		at.value++
	}
	look := b.Styles.Variant(s, noteBelow{}, func() *style.Style {
		c := *s
		c.Float = style.None
		c.Display = style.Display{Outer: style.Block, Inner: style.Flow}
		if c.FootnoteDisplay == style.Inline {
			c.Display.Outer = style.Inline
		}
		return &c
	})
	list := b.generate(nil, n, look, parent, nil)
	if len(list) == 0 {
		return nil
	}
	note := list[0]
	note.Children = append(b.pseudo(n, "footnote-marker", look, nil), note.Children...)
	if s.FootnoteDisplay != style.Block { // others may follow in its line
		b.order++
		note.Children = append(note.Children, &Box{Kind: Text, Node: n, Order: b.order, Style: look, Text: " "})
	}
	b.notesBelow = append(b.notesBelow, note)
	inline := b.Styles.Anonymous(parent, style.Display{Outer: style.Inline, Inner: style.Flow})
	call := b.pseudo(n, "footnote-call", inline, nil)
	if len(call) == 0 {
		call = []*Box{{Style: inline, rare: &Rare{Pseudo: "footnote-call"}, Node: n}}
	}
	call[0].SetRare(func(r *Rare) { r.Footnote = note })
	return call
}
