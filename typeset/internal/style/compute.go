package style

import (
	"hash/maphash"
	"slices"
	"strings"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// Computer is the state while one style is computed.
type Computer struct {
	S, Parent    *Style
	em           float64 // what em stands for: the parent's size while font-size is computed
	isRoot       bool
	lineHeightOf *Style
	given        float64 // what size stands for in calc-size()
	resolver     *Resolver
	node         *markup.Node
	measured     bool               // a length depended on the document's fonts
	pseudo       bool               // it is a pseudo-element of node
	apart        bool               // the style holds for this element alone
	channels     map[string]float64 // of the colour that another is made from
}

// Style computes the style of an element, or of its pseudo-element when
// pseudo is not "". It returns nil for a ::before or ::after that no rule
// gives content.
func (r *Resolver) Style(n *markup.Node, pseudo string, parent *Style) *Style {
	s := r.styleOf(n, pseudo, parent)
	if pseudo == "" {
		r.contain(n, s)
	}
	return s
}

func (r *Resolver) styleOf(n *markup.Node, pseudo string, parent *Style) *Style {
	r.gather(n, pseudo)
	if pseudo != "" && len(r.matched) == 0 {
		return nil
	}
	isRoot := n.Parent != nil && n.Parent.Kind == markup.Document && pseudo == ""
	if isRoot {
		r.root, _ = r.cascade(n, parent, isRoot, pseudo)
		return r.root
	}
	of := r.typical(n, pseudo)
	if of == nil {
		s, _ := r.cascade(n, parent, isRoot, pseudo)
		return s
	}
	as := shapeStyle{parent: parent, root: r.root, width: r.env.Width, height: r.env.Height, document: r.document, style: of.style.style}
	if of.style != as {
		var shared bool
		if as.style, shared = r.cascade(n, parent, isRoot, pseudo); !shared {
			return as.style
		}
		of.style = as
	}
	return as.style
}

// gather finds all declarations for an element, in rules and in its attributes.
func (r *Resolver) gather(n *markup.Node, pseudo string) {
	r.matched = r.matched[:0]
	r.collect(n, pseudo)
	if pseudo != "" {
		return
	}
	r.presentation(n)
	if text, ok := n.Lookup("style"); ok {
		r.matched = append(r.matched, &match{decls: r.inline(n, text), origin: Author, layer: 1 << 20, inline: true})
	}
}

// PageStyle computes a page context or margin box from its declarations.
func (r *Resolver) PageStyle(parent *Style, blocks [][]Decl) *Style {
	r.matched = r.matched[:0]
	for i, b := range blocks {
		r.matched = append(r.matched, &match{decls: b, origin: Author, order: i, layer: 1 << 20})
	}
	s, _ := r.cascade(nil, parent, false, "page")
	return s
}

// Anonymous makes the style of an anonymous box: inherited values only.
func Anonymous(parent *Style, d Display) *Style {
	s := &Style{Inherited: parent.Inherited, Own: initial.Own, Vars: parent.Vars}
	s.Display = d
	for i := range s.Border { // no line, no width
		s.Border[i].Width = 0
	}
	s.Outline.Width, s.ColumnRule.Width = 0, 0
	return s
}

// Initial is the style that the root element inherits from.
func Initial() *Style { return initial }

// inline reads a style attribute. What is off in it is told for each element.
func (r *Resolver) inline(n *markup.Node, text string) []Decl {
	in, seen := r.inlined[text]
	if !seen {
		notice := r.notice
		r.notice = func(n Notice) { in.told = append(in.told, n) }
		a := &adder{Resolver: r, sheet: newSheet(styleAttribute, r.pageBase, ""), origin: Author}
		in.decls = a.parseDecls(css.ParseDeclarations(text))
		r.notice = notice
		r.inlined[text] = in
	}
	if r.notice != nil {
		for _, t := range in.told {
			t.Node = n
			r.notice(t)
		}
	}
	return in.decls
}

// collect finds the rules that match, from the default sheet and the others.
func (r *Resolver) collect(n *markup.Node, pseudo string) {
	if !n.Inner && n.Tree == nil {
		m := r.matchesOf(r.shapes.of(n), n, pseudo)
		r.matched = append(r.matched, m.list...)
		r.try(m.loose, n)
		return
	}
	r.tryIndex(r.ua[pseudo], n)
	r.shadowRules(n, pseudo)
	if !n.Inner {
		r.tryIndex(r.index[pseudo], n)
	}
}

func (r *Resolver) tryIndex(ix *ruleIndex, n *markup.Node) {
	if ix != nil {
		r.try(ix.loose.candidates(ix.steady.candidates(nil, n), n), n)
	}
}

// candidates appends the rules that may match n by its type, id and classes.
func (ix *ruleBuckets) candidates(list []*rule, n *markup.Node) []*rule {
	if n.ID != "" {
		list = append(list, ix.ids[n.ID]...)
	}
	for i, c := range n.Class {
		if slices.Index(n.Class[:i], c) < 0 {
			list = append(list, ix.classes[c]...)
		}
	}
	list = append(list, ix.tags[n.Name]...)
	if n.Foreign {
		if low := strings.ToLower(n.Name); low != n.Name {
			list = append(list, ix.tags[low]...)
		}
	}
	return append(list, ix.rest...)
}

func (r *Resolver) try(list []*rule, n *markup.Node) {
	for _, x := range list {
		if x.attribute && len(n.Attrs) == 0 {
			continue
		}
		r.Watch.Step()
		if x.container != nil && !r.fulfilled(x.container, n, x.sel.Pseudo != "") {
			continue
		}
		if x.scope != nil {
			if hops, ok := x.scope.find(&r.matcher, x.sel, n); ok {
				m := x.match
				m.hops = hops
				r.matched = append(r.matched, &m)
			}
		} else if r.matcher.matches(x.sel, n, nil) {
			r.matched = append(r.matched, &x.match)
		}
	}
}

func before(a, b *match) bool {
	switch {
	case a.origin != b.origin:
		return a.origin < b.origin
	case a.hint != b.hint:
		return a.hint
	case a.inline != b.inline:
		return b.inline
	case a.layer != b.layer:
		return a.layer < b.layer
	case a.spec != b.spec:
		return css.Less(a.spec, b.spec)
	}
	if a.hops != b.hops { // the nearer scope wins; no scope is the farthest
		return a.hops > b.hops
	}
	return a.order < b.order
}

// inOrder sorts what matched, the strongest last.
func inOrder(matched []*match) {
	slices.SortStableFunc(matched, func(a, b *match) int {
		switch {
		case before(a, b):
			return -1
		case before(b, a):
			return 1
		}
		return 0
	})
}

// cascade sorts what matched and computes the style, or finds one that has
// come out of the same rules under the same parent. shared tells whether others
// with the same rules have the same style.
func (r *Resolver) cascade(n *markup.Node, parent *Style, isRoot bool, pseudo string) (s *Style, shared bool) {
	inOrder(r.matched)
	lang := parent.Lang // an empty attribute says that the language is not known (HTML, §3.2.6.2)
	if n != nil && pseudo == "" {
		if l, ok := n.Lookup("lang"); ok {
			lang = l
		} else if l, ok := n.Lookup("xml:lang"); ok {
			lang = l
		}
	}
	key := shareKey{parent, r.root, hashOf(r.matched), r.env.Width, r.env.Height}
	if isRoot {
		key.root = nil
	}
	for _, list := range [2][]*sharedStyle{r.shared[key], r.measured[key]} {
		for _, s := range list {
			if s.lang == lang && s.root == isRoot && sameBlocks(s.key, r.matched) {
				return s.style, true
			}
		}
	}
	c := &Computer{S: &Style{Inherited: parent.Inherited, Own: initial.Own}, Parent: parent, resolver: r, node: n, isRoot: isRoot, pseudo: pseudo != ""}
	c.S.Lang = lang
	usesAttr := c.run(r.matched)
	c.adjust(isRoot)
	if c.apart = c.apart || usesAttr; !c.apart {
		keys := make([]*Decl, len(r.matched))
		for i, m := range r.matched {
			if len(m.decls) > 0 {
				keys[i] = &m.decls[0]
			}
		}
		styles := r.shared
		if c.S.measured = c.measured || parent.measured; c.S.measured {
			styles = r.measured
		}
		styles[key] = append(styles[key], &sharedStyle{lang, isRoot, keys, c.S})
		r.count++
	}
	return c.S, !c.apart
}

// blocksSeed begins the hashes of what matches elements.
var blocksSeed = maphash.MakeSeed()

// hashOf is alike for the same blocks of declarations in the same order.
func hashOf(matched []*match) uint64 {
	const prime = 1099511628211 // of FNV
	h := uint64(0)
	for _, m := range matched {
		var first *Decl
		if len(m.decls) > 0 {
			first = &m.decls[0]
		}
		h = (h ^ maphash.Comparable(blocksSeed, first)) * prime
	}
	return h
}

func sameBlocks(a []*Decl, b []*match) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		var p *Decl
		if len(b[i].decls) > 0 {
			p = &b[i].decls[0]
		}
		if a[i] != p {
			return false
		}
	}
	return true
}

func anyAttr(custom map[string][]css.Token) bool {
	for _, t := range custom {
		if mentionsAttr(t) {
			return true
		}
	}
	return false
}

// mentionsAttr tells whether attr() stands somewhere in a value.
func mentionsAttr(list []css.Token) bool {
	for i := range list {
		if t := &list[i]; t.Kind == css.Function && t.Text == "attr" || mentionsAttr(t.Args) {
			return true
		}
	}
	return false
}

// set applies one value; pending substitutions are resolved first, as values
// of the property that was declared: p itself or a flow-relative one.
func (c *Computer) set(p *property, declared PropID, value any) (usesAttr bool) {
	if pend, ok := value.(*pending); ok {
		value, usesAttr = c.substituted(pend, declared)
	}
	if k, ok := value.(wide); ok {
		from := initial
		if k == wideInherit || k != wideInitial && p.inherited {
			from = c.Parent
		}
		p.copy(c.S, from)
		return usesAttr
	}
	p.apply(c, value)
	return usesAttr
}

// substituted gives the longhand's value after var() is replaced; a value
// that becomes invalid behaves as unset (CSS Variables 1, §3.1).
func (c *Computer) substituted(p *pending, prop PropID) (any, bool) {
	toks, ok := substitute(p.tokens, c.custom, c.node)
	usesAttr := mentionsAttr(p.tokens)
	if !ok {
		return wideUnset, usesAttr
	}
	text := css.Text(toks)
	cache := c.resolver.replaced[p]
	vals, seen := cache[text]
	if !seen {
		vals = map[PropID]any{}
		if toks = css.Trim(toks); len(toks) > 0 && !parseInto(p.prop, toks, p.sheet.base, func(id PropID, x any) { vals[id] = x }) {
			vals = map[PropID]any{}
			c.tellInvalid(p, toks)
		}
		if cache == nil {
			cache = map[string]map[PropID]any{}
			c.resolver.replaced[p] = cache
		}
		cache[text] = vals
	}
	if x, ok := vals[prop]; ok {
		return x, usesAttr
	}
	return wideUnset, usesAttr
}

// adjust makes values fit each other after the cascade.
func (c *Computer) adjust(isRoot bool) {
	c.S.dropUnseenLines()
	c.S.pairOverflow()
	c.turnFloats()
	c.alignTables()
	c.settleDisplay(isRoot)
	switch c.S.Display.Outer {
	case TableCell, TableRow, TableRowGroup, TableHeaderGroup, TableFooterGroup, TableColumn, TableColumnGroup: // which have no ratio (Sizing 4, §4.1)
		c.S.AspectRatio = AspectRatio{}
	}
	if c.S.JustifyItems.Kind == Legacy { // Box Alignment 3, §7.1
		c.S.JustifyItems = Align{Kind: Normal}
		if c.Parent.JustifyItems.Legacy {
			c.S.JustifyItems = c.Parent.JustifyItems
		}
	}
}

// dropUnseenLines takes the width from lines that are not drawn (Backgrounds 3, §4.3).
func (s *Style) dropUnseenLines() {
	for i := range s.Border {
		if s.Border[i].Style == None || s.Border[i].Style == Hidden {
			s.Border[i].Width = 0
		}
	}
	if s.Outline.Style == None {
		s.Outline.Width = 0
	}
	if s.ColumnRule.Style == None || s.ColumnRule.Style == Hidden {
		s.ColumnRule.Width = 0
	}
}

// pairOverflow makes both axes show what overflows, or neither (Overflow 3, §3.1).
func (s *Style) pairOverflow() {
	visible := func(k Keyword) bool { return k == Visible || k == ClipText }
	if visible(s.OverflowX) == visible(s.OverflowY) {
		return
	}
	for _, o := range []*Keyword{&s.OverflowX, &s.OverflowY} {
		if *o == Visible {
			*o = Auto
		} else if *o == ClipText {
			*o = Hidden
		}
	}
}

// turnFloats gives flow-relative floats and clearance their sides (Logical 1, §2.2).
func (c *Computer) turnFloats() {
	for _, k := range []*Keyword{&c.S.Float, &c.S.Clear} {
		switch *k {
		case InlineStart, InlineEnd:
			if (*k == InlineStart) == (c.Parent.Direction != Rtl) {
				*k = LeftSide
			} else {
				*k = RightSide
			}
		}
	}
}

// alignTables aligns heads of columns and rows, and the contents of tables (HTML, §15.3.10).
func (c *Computer) alignTables() {
	s := c.S
	if s.TextAlign == XHeadCell { // centred unless the table says otherwise
		s.TextAlign = c.Parent.TextAlign
		if s.TextAlign == Start {
			s.TextAlign = Center
		}
	}
	// a table is aligned by what is around it; its contents are not
	if s.Display.Inner == Table && (s.TextAlign == XWebkitCenter || s.TextAlign == XWebkitLeft || s.TextAlign == XWebkitRight) {
		s.TextAlign = Start
	}
}

// settleDisplay makes blocks of what is out of the flow or an item (Display 3, §2.7), and formatting contexts of
// their own where that is asked for.
func (c *Computer) settleDisplay(isRoot bool) {
	s := c.S
	away := s.Position == Absolute || s.Position == FixedKey
	if away {
		s.Float = None
	}
	shown := s.Display.Outer != None && s.Display.Outer != Contents
	switch {
	case shown && (isRoot || s.Float != None || away || s.Position == Running):
		s.WasInline = s.Display.Outer == Inline
		s.Display = s.Display.Blockified()
	case isRoot && s.Display.Outer == Contents:
		s.Display = Display{Outer: Block, Inner: FlowRoot}
	}
	if s.MaxLines > 0 && s.Display.Inner == Flex && s.BoxOrient == Vertical { // Overflow 4, §5.5
		s.Display.Inner = FlowRoot
	} else if s.Continue == XWebkitLegacy {
		s.MaxLines = 0
	}
	if c.Parent.Display.IsFlexOrGrid() && shown {
		s.Display = s.Display.Blockified()
	}
	if !isRoot && s.WritingMode != c.Parent.WritingMode && s.Display.Inner == Flow && (s.Display.Outer == Inline || s.Display.Outer == Block) {
		s.Display.Inner = FlowRoot // Writing Modes 4, §3.2
	}
}

// Blockified gives the block-level like of a display type.
func (d Display) Blockified() Display {
	switch d.Outer {
	case Inline, RunIn:
		d.Outer = Block
	case TableCell, TableRow, TableRowGroup, TableHeaderGroup, TableFooterGroup, TableColumn, TableColumnGroup, TableCaption:
		d = Display{Outer: Block, Inner: Flow}
	}
	return d
}

// IsFlexOrGrid tells whether children are flex or grid items.
func (d Display) IsFlexOrGrid() bool { return d.Inner == Flex || d.Inner == Grid }
