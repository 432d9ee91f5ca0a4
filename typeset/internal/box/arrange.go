package box

import (
	"slices"
	"strings"

	"oliveledger/typeset/internal/style"
)

// arrange puts the children of b into the form that its display type needs,
// with anonymous boxes where they are missing (CSS 2.2, §9.2 and §17.2.1;
// Flexbox 1, §4; Grid 1, §6).
func (b *Builder) arrange(x *Box) {
	if x.Kind != Element {
		return
	}
	d := x.Style.Display
	switch {
	case d.Inner == style.Flex || d.Inner == style.Grid:
		x.Children = items(x)
	case d.Inner == style.Table:
		x.Children = tableParts(x)
	case d.Outer == style.TableRow:
		x.Children = wrapCells(x)
	case d.Outer == style.TableRowGroup || d.Outer == style.TableHeaderGroup || d.Outer == style.TableFooterGroup:
		x.Children = wrapRows(x)
	case d.Outer == style.Inline && d.Inner == style.Flow:
		x.Children = runIns(x.Children) // its table parts are in tables since its block was arranged
	case d.Outer == style.TableColumn || d.Outer == style.TableColumnGroup:
		x.Children = columnsOnly(x.Children)
		return
	default:
		x.Children = wrapTables(runIns(x.Children), x.Style)
		for _, c := range x.Children {
			wrapInLine(c)
		}
		flow(x)
		b.firstLine(x)
		b.clearLetters(x.Children)
	}
	for _, c := range x.Children {
		b.arrange(c)
	}
	if x.Rare().Marker != nil {
		b.arrange(x.Rare().Marker)
	}
	if d.Inner == style.Flow || d.Inner == style.FlowRoot {
		trimBlocks(x)
	}
}

func blank(b *Box) bool {
	if b.Kind != Text {
		return false
	}
	switch b.Style.Collapse {
	case style.CollapseSpace:
		return strings.Trim(b.Text, " \t\n\r\f") == ""
	case style.PreserveBreaks:
		return strings.Trim(b.Text, " \t\r\f") == ""
	case style.Discard:
		return onlySpace(b)
	}
	return b.Text == ""
}

// onlySpace tells whether a box is white space, be it preserved or not.
func onlySpace(b *Box) bool { return b.Kind == Text && strings.Trim(b.Text, " \t\n\r\f") == "" }

func allBlank(list []*Box) bool {
	for _, b := range list {
		if !blank(b) {
			return false
		}
	}
	return true
}

func anonymous(parent *style.Style, outer, inner style.Keyword, kids []*Box) *Box {
	return &Box{Style: style.Anonymous(parent, style.Display{Outer: outer, Inner: inner}), Children: kids, Anon: true}
}

// wrapInLine puts the table parts inside an inline box into tables in its line, before they are taken for
// blocks that the box is split around (CSS 2.2, §17.2.1).
func wrapInLine(b *Box) {
	if b.Kind != Element || b.OutOfFlow() || b.Style.Display.Outer != style.Inline || b.Style.Display.Inner != style.Flow {
		return
	}
	b.Children = wrapTables(b.Children, b.Style)
	for _, c := range b.Children {
		wrapInLine(c)
	}
}

// flow decides whether a block container holds lines or blocks, and wraps
// lines that stand between blocks.
func flow(x *Box) {
	kids := splitInlines(x.Children)
	hasBlock := false
	for _, k := range kids {
		if k.IsBlockLevel() && !k.OutOfFlow() {
			hasBlock = true
		}
	}
	if !hasBlock {
		hasInline := false
		for _, k := range kids {
			if !k.OutOfFlow() && !blank(k) {
				hasInline = true
			}
		}
		if hasInline {
			x.Children, x.Inline = kids, true
			return
		}
		// only floats, positioned boxes and white space
		var out []*Box
		for _, k := range kids {
			if k.OutOfFlow() {
				out = append(out, k)
			}
		}
		x.Children, x.Inline = out, false
		return
	}
	var out, run []*Box
	flush := func() {
		if len(run) == 0 {
			return
		}
		visible := false
		for _, r := range run {
			if !blank(r) && !r.OutOfFlow() {
				visible = true
			}
		}
		if visible {
			a := anonymous(x.Style, style.Block, style.Flow, run)
			a.Inline = true
			if t := &a.Style.TextIndent; !t.EachLine && !t.Hanging && slices.ContainsFunc(out, func(b *Box) bool { return !b.OutOfFlow() }) {
				*t = style.Indent{} // its first line is not that of the element (CSS Text 3, §8.1)
			}
			out = append(out, a)
		} else {
			for _, r := range run {
				if r.OutOfFlow() {
					out = append(out, r)
				}
			}
		}
		run = nil
	}
	for _, k := range kids {
		if k.IsBlockLevel() && !k.OutOfFlow() {
			flush()
			out = append(out, k)
			continue
		}
		run = append(run, k)
	}
	flush()
	x.Children, x.Inline = out, false
}

// splitInlines breaks inline boxes around the blocks inside them
// (CSS 2.2, §9.2.1.1).
func splitInlines(kids []*Box) []*Box {
	var out []*Box
	for i, k := range kids {
		if k.Kind == Element && !k.IsBlockLevel() && !k.IsAtomic() && !k.OutOfFlow() && holdsBlock(k) {
			if out == nil {
				out = append(make([]*Box, 0, len(kids)+2), kids[:i]...)
			}
			out = append(out, splitInline(k)...)
			continue
		}
		if out != nil {
			out = append(out, k)
		}
	}
	if out == nil {
		return kids
	}
	return out
}

func holdsBlock(b *Box) bool {
	for _, c := range b.Children {
		if c.OutOfFlow() {
			continue
		}
		if c.IsBlockLevel() {
			return true
		}
		if c.Kind == Element && !c.IsAtomic() && holdsBlock(c) {
			return true
		}
	}
	return false
}

func splitInline(b *Box) []*Box {
	var out []*Box
	var run []*Box
	first := true
	flush := func(last bool) {
		if len(run) == 0 && !first && !last {
			return
		}
		part := *b
		part.Children = run
		part.Split = Split{NoStart: !first || b.Split.NoStart, NoEnd: !last || b.Split.NoEnd}
		out = append(out, &part)
		run, first = nil, false
	}
	for _, c := range splitInlines(b.Children) {
		if c.IsBlockLevel() && !c.OutOfFlow() {
			flush(false)
			if b.Style.Position == style.Relative { // the block moves with its inline parent
				w := anonymous(b.Style, style.Block, style.Flow, []*Box{c})
				w.Style.Position, w.Style.Inset = b.Style.Position, b.Style.Inset
				c = w
			}
			out = append(out, c)
			continue
		}
		run = append(run, c)
	}
	flush(true)
	return out
}

// items makes each child of a flex or grid container an item.
func items(x *Box) []*Box {
	var out, run []*Box
	flush := func() {
		if len(run) > 0 && !allBlank(run) {
			out = append(out, anonymous(x.Style, style.Block, style.FlowRoot, run))
		}
		run = nil
	}
	for _, k := range x.Children {
		if k.Kind == Text || k.Kind == LineBreak {
			run = append(run, k)
			continue
		}
		if len(run) > 0 {
			flush()
		}
		out = append(out, k)
	}
	flush()
	// items made by display: contents or anonymous wrapping are blocks too
	for _, k := range out {
		if k.Kind != Text && k.Style.Display.Outer != style.Block && k.Style.Display.Outer != style.None {
			s := *k.Style
			s.Display = s.Display.Blockified()
			k.Style = &s
		}
	}
	return wrapTables(out, x.Style)
}

func isCell(b *Box) bool { return b.Kind != Text && b.Style.Display.Outer == style.TableCell }
func isRow(b *Box) bool  { return b.Kind != Text && b.Style.Display.Outer == style.TableRow }
func isGroup(b *Box) bool {
	if b.Kind == Text {
		return false
	}
	o := b.Style.Display.Outer
	return o == style.TableRowGroup || o == style.TableHeaderGroup || o == style.TableFooterGroup
}

func isCaption(b *Box) bool {
	return b.Kind != Text && b.Style.Display.Outer == style.TableCaption
}

func isColumn(b *Box) bool {
	return b.Kind != Text && (b.Style.Display.Outer == style.TableColumn || b.Style.Display.Outer == style.TableColumnGroup)
}

func columnsOnly(list []*Box) []*Box {
	var out []*Box
	for _, c := range list {
		if isColumn(c) {
			out = append(out, c)
		}
	}
	return out
}

// wrapRuns puts runs of children that do not belong where they are into an
// anonymous box; white space between proper children vanishes.
func wrapRuns(kids []*Box, proper func(*Box) bool, wrap func([]*Box) *Box) []*Box {
	if !slices.ContainsFunc(kids, func(k *Box) bool { return !proper(k) }) {
		return kids
	}
	var out, run []*Box
	flush := func() {
		if slices.ContainsFunc(run, func(b *Box) bool { return !onlySpace(b) }) {
			out = append(out, wrap(run))
		}
		run = nil
	}
	for _, k := range kids {
		if proper(k) {
			flush()
			out = append(out, k)
		} else {
			run = append(run, k)
		}
	}
	flush()
	return out
}

func wrapCells(row *Box) []*Box {
	return wrapRuns(row.Children, isCell, func(run []*Box) *Box {
		c := anonymous(row.Style, style.TableCell, style.FlowRoot, run)
		c.ColSpan, c.RowSpan = 1, 1
		return c
	})
}

func wrapRows(group *Box) []*Box {
	return wrapRuns(group.Children, isRow, func(run []*Box) *Box {
		return anonymous(group.Style, style.TableRow, style.Flow, run)
	})
}

func tableParts(t *Box) []*Box {
	proper := func(b *Box) bool { return isRow(b) || isGroup(b) || isCaption(b) || isColumn(b) }
	kids := wrapRuns(t.Children, proper, func(run []*Box) *Box {
		return anonymous(t.Style, style.TableRow, style.Flow, run)
	})
	// rows that stand alone go into a group
	return wrapRuns(kids, func(b *Box) bool { return !isRow(b) }, func(run []*Box) *Box {
		return anonymous(t.Style, style.TableRowGroup, style.Flow, run)
	})
}

// isTablePart tells whether a box stands in a table alone.
func isTablePart(b *Box) bool {
	return isCell(b) || isRow(b) || isGroup(b) || isCaption(b) || isColumn(b)
}

// wrapTables puts table parts that stand outside a table into one.
func wrapTables(kids []*Box, parent *style.Style) []*Box {
	found := false
	for _, k := range kids {
		found = found || isTablePart(k)
	}
	if !found {
		return kids
	}
	outer := style.Block
	if parent.Display.Outer == style.Inline && parent.Display.Inner == style.Flow {
		outer = style.Inline
	}
	var out, run []*Box
	flush := func() {
		end := len(run)
		for end > 0 && blank(run[end-1]) { // trailing space stays outside
			end--
		}
		if end > 0 {
			out = append(out, anonymous(parent, outer, style.Table, run[:end:end]))
		}
		out = append(out, run[end:]...)
		run = nil
	}
	for _, k := range kids {
		switch {
		case isTablePart(k):
			run = append(run, k)
		case blank(k) && len(run) > 0:
			run = append(run, k)
		default:
			flush()
			out = append(out, k)
		}
	}
	flush()
	return out
}
