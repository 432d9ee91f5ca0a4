package box

import "oliveledger/typeset/internal/style"

// fieldset puts what a field set with a legend holds, other than the legend, into its
// content box: that box scrolls, is a flex or grid container or has columns in place of
// the field set, whose legend stands in its border (HTML, §15.3.13).
func (b *Builder) fieldset(f *Box) {
	if f.Node.Name != "fieldset" || f.Node.Foreign {
		return
	}
	var legend *Box
	var rest []*Box
	for _, c := range f.Children {
		if legend == nil && c.Node != nil && c.Node.Name == "legend" && c.Rare().Pseudo == "" && c.Kind == Element && !c.OutOfFlow() {
			legend = c
		} else {
			rest = append(rest, c)
		}
	}
	if across, down := f.Style.SizeContained(); legend == nil || len(rest) == 0 || across || down { // its own size is not that of what it holds
		return
	}
	outer, inner := fieldsetStyles(f.Style)
	l := *legend
	l.Style = inset(legend.Style, f.Style.Padding)
	f.Style = outer
	content := &Box{Style: inner, Children: rest, Order: f.Order, Anon: true}
	f.Children = []*Box{&l, content}
}

// fieldsetStyles parts the style of a field set into that of its border and that of its content box.
func fieldsetStyles(s *style.Style) (outer, inner *style.Style) {
	flow := style.Display{Outer: style.Block, Inner: style.FlowRoot}
	o, i := *s, *style.Anonymous(s, flow)
	o.Display.Inner = style.FlowRoot
	if s.Display.Inner == style.Flex || s.Display.Inner == style.Grid {
		i.Display.Inner = s.Display.Inner
	}
	plain := i // the initial values of what moves
	for _, m := range []struct{ from, to *style.Style }{{s, &i}, {&plain, &o}} {
		m.to.Padding = m.from.Padding
		m.to.OverflowX, m.to.OverflowY, m.to.TextOverflow = m.from.OverflowX, m.from.OverflowY, m.from.TextOverflow
		m.to.AlignContent, m.to.AlignItems = m.from.AlignContent, m.from.AlignItems
		m.to.JustifyContent, m.to.JustifyItems = m.from.JustifyContent, m.from.JustifyItems
		m.to.RowGap, m.to.ColumnGap = m.from.RowGap, m.from.ColumnGap
		m.to.FlexDirection, m.to.FlexWrap = m.from.FlexDirection, m.from.FlexWrap
		m.to.GridColumns, m.to.GridRows, m.to.GridAreas = m.from.GridColumns, m.from.GridRows, m.from.GridAreas
		m.to.GridAutoColumns, m.to.GridAutoRows = m.from.GridAutoColumns, m.from.GridAutoRows
		m.to.GridAutoFlow, m.to.GridDense = m.from.GridAutoFlow, m.from.GridDense
		m.to.ColumnCount, m.to.ColumnWidth, m.to.ColumnFill = m.from.ColumnCount, m.from.ColumnWidth, m.from.ColumnFill
		m.to.ColumnHeight, m.to.ColumnWrap, m.to.ColumnRule = m.from.ColumnHeight, m.from.ColumnWrap, m.from.ColumnRule
	}
	if !s.Height.IsAuto() {
		i.Height = style.Size{Kind: style.Length, LP: style.LP{Pct: 100, Rel: true}}
		i.BoxSizing = style.BorderBox
	}
	if s.BoxSizing != style.BorderBox {
		across := s.Padding[style.Left].Px + s.Padding[style.Right].Px
		down := s.Padding[style.Top].Px + s.Padding[style.Bottom].Px
		widen(across, &o.Width, &o.MinWidth, &o.MaxWidth)
		widen(down, &o.Height, &o.MinHeight, &o.MaxHeight)
	}
	return &o, &i
}

// inset is the style of a legend that keeps clear of the padding beside it by its margins.
func inset(legend *style.Style, padding [4]style.LP) *style.Style {
	s := *legend
	for _, side := range []int{style.Left, style.Right} {
		if m := &s.Margin[side]; m.Kind == style.Length {
			m.Px, m.Pct = m.Px+padding[side].Px, m.Pct+padding[side].Pct
		}
	}
	return &s
}

// widen adds to sizes that are lengths.
func widen(by float64, sizes ...*style.Size) {
	for _, s := range sizes {
		if s.Kind == style.Length {
			s.Px += by
		}
	}
}
