package box

import "oliveledger/typeset/internal/style"

// firstLine gives the style of a block's ::first-line to the box that holds
// that line: the block itself or the first block inside it (CSS Pseudo 4,
// §2.1.1).
func firstLine(b *Box) {
	if b.FirstLine == nil || b.Inline {
		return
	}
	for _, c := range b.Children {
		if c.OutOfFlow() {
			continue
		}
		if c.Kind != Element || !c.IsBlockLevel() || c.Style.Display.Inner != style.Flow && c.Style.Display.Inner != style.FlowRoot {
			return
		}
		line := *style.OnFirstLine(c.Style, b.Style, b.FirstLine)
		line.Own = b.FirstLine.Own
		if own := c.FirstLine; own != nil {
			inner := style.OnFirstLine(own, b.Style, b.FirstLine)
			inner.Own = own.Own
			line = *inner
		}
		c.FirstLine = &line
		return
	}
}
