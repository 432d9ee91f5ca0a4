package box

import "oliveledger/typeset/internal/style"

// orient notes the writing mode of each box and the frame that its style is
// expressed in: that of the box around it (Writing Modes 4, §7).
func orient(root *Box) {
	mode := root.Style.WritingMode
	if root.Node != nil && root.Node.Name == "html" { // the body's mode is the page's (§8)
		for _, c := range root.Children {
			if c.Node != nil && c.Node.Name == "body" && c.Kind == Element {
				mode = c.Style.WritingMode
			}
		}
	}
	root.Mode, root.Frame = mode, style.HorizontalTb
	orientChildren(root, mode)
}

func orientChildren(b *Box, mode style.Keyword) {
	for _, c := range b.Children {
		c.orient(mode)
	}
	if b.Rare().Marker != nil {
		b.Rare().Marker.orient(mode)
	}
}

// orient puts a box into the frame of mode and its children into its own.
func (b *Box) orient(frame style.Keyword) {
	inline := b.Kind == Element && !b.IsAtomic() && !b.IsBlockLevel()
	b.Frame, b.Mode = frame, b.Style.WritingMode
	if inline || b.Kind == Text || b.Kind == LineBreak || tablePart(b) || b.Kind == Replaced {
		b.Mode = frame // they flow as what is around them
	}
	if b.Kind != Text && frame.Vertical() {
		b.SetRare(func(r *Rare) { r.Physical = b.Style })
		b.Style = b.Style.InFlow(frame, inline)
	}
	orientChildren(b, b.Mode)
}

// tablePart tells whether the table's writing mode holds for a box.
func tablePart(b *Box) bool {
	switch b.Style.Display.Outer {
	case style.TableRow, style.TableRowGroup, style.TableHeaderGroup, style.TableFooterGroup, style.TableColumn, style.TableColumnGroup:
		return true
	}
	return false
}

// Look is the style that painting goes by: sides as they are on the page.
func (b *Box) Look() *style.Style {
	if b.Rare().Physical != nil {
		return b.Rare().Physical
	}
	return b.Style
}

// Turned tells whether what is inside flows in another way than what is around.
func (b *Box) Turned() bool { return b.Mode != b.Frame }

// InFrame is the box with its style expressed in another frame.
func (b *Box) InFrame(frame style.Keyword) *Box {
	if b.Frame == frame {
		return b
	}
	out := *b
	out.Memo = nil
	out.Frame = frame
	out.SetRare(func(r *Rare) { r.Physical = b.Look() })
	out.Style = out.Rare().Physical.InFlow(frame, false)
	return &out
}
