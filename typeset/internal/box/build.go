package box

import (
	"fmt"
	"maps"
	"math"
	"strconv"
	"strings"

	"github.com/shopspring/decimal"

	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/memory"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/watch"
)

// Builder makes the box tree of one document.
type Builder struct {
	Styles   *style.Resolver
	Pictures func(address string, n *markup.Node) *picture.Picture // nil when it cannot be had
	Inline   func(svg *markup.Node, s *style.Style) *picture.Picture

	Known     *Places               // of the round before; nil in the first
	Watched   map[*markup.Node]bool // nodes whose pages the next round needs
	Tell      func(code, message string)
	Noted     bool // some box has notes
	Footnotes bool // some box calls a footnote
	ByPage    bool // footnotes are numbered anew on each page

	PageCounters bool // margin boxes show counters of the document

	counters   counters
	ids        map[string]*markup.Node
	pending    []*Running // that no box has followed yet
	sums       map[string]decimal.Decimal
	before     map[string]decimal.Decimal // the sums where the table around began
	snapshots  map[*markup.Node]map[string][]int
	generated  map[*markup.Node]map[string]string
	notesBelow []*Box         // footnotes
	notePage   int            // of the last one, when they are numbered by page
	inMargin   map[string]int // counters of the page whose margin box is made
	quotes     int
	depth      int
	order      int32
	groups     markerGroups
	vertical   bool // some box has a vertical writing mode
	lettered   bool // some block has an initial letter

	boxes memory.Slab[Box]
	lists memory.Slab[*Box]
}

// maxDepth bounds how deep boxes nest.
const maxDepth = 1500

// Build makes the tree of a document's root element; nil when it shows nothing.
func (b *Builder) Build(root *markup.Node) *Box {
	b.counters, b.quotes, b.order, b.pending = counters{}, 0, 0, nil
	b.sums = map[string]decimal.Decimal{}
	b.notesBelow, b.notePage, b.groups = nil, 0, markerGroups{}
	b.counters.live = map[string][]instance{"footnote": {{}}} // no element ends it
	if b.ids == nil {
		b.ids = indexIDs(root)
	}
	list := b.element(nil, root, style.Initial(), nil)
	if len(list) == 0 {
		return nil
	}
	r := list[0]
	b.rest(r)
	openPage(r)
	b.arrange(r)
	for _, n := range b.notesBelow {
		b.arrange(n)
	}
	b.Footnotes = len(b.notesBelow) > 0
	if b.vertical {
		orient(r)
	}
	return r
}

// Inset makes the boxes of an element that is set apart from the tree around it, as a
// block: HTML inside a drawing. s is the element's style.
func (b *Builder) Inset(n *markup.Node, s *style.Style) *Box {
	b.sums = map[string]decimal.Decimal{}
	b.counters.live = map[string][]instance{}
	block := *style.Anonymous(s, style.Display{Outer: style.Block, Inner: style.FlowRoot})
	list := b.generate(nil, n, &block, s, nil)
	if len(list) == 0 {
		return nil
	}
	b.arrange(list[0])
	if b.vertical {
		orient(list[0])
	}
	return list[0]
}

// openPage gives overflow of the root, or of the body when the root has none,
// to the page, which cuts at its own edges (CSS Overflow 3, §3.3).
func openPage(root *Box) {
	if root.Node == nil || root.Node.Name != "html" {
		return
	}
	from := root
	if !from.clips() && root.Style.Contain == (style.Containment{}) {
		for _, c := range root.Children {
			if c.Kind == Element && c.Node != nil && c.Node.Name == "body" && c.Style.Contain == (style.Containment{}) {
				from = c
			}
		}
	}
	if from.clips() {
		s := *from.Style
		s.OverflowX, s.OverflowY = style.Visible, style.Visible
		from.Style = &s
	}
}

func (b *Box) clips() bool {
	return b.Style.OverflowX != style.Visible || b.Style.OverflowY != style.Visible
}

// element appends the boxes of one element.
func (b *Builder) element(to []*Box, n *markup.Node, parent *style.Style, decor *Decor) []*Box {
	s := b.Styles.Style(n, "", parent)
	if s.Display.Outer == style.None {
		return to
	}
	if s.Position == style.Running {
		b.run(n, s, parent)
		return to
	}
	if s.Float == style.Footnote {
		return append(to, b.footnote(n, s, parent)...)
	}
	return b.generate(to, n, s, parent, decor)
}

// generate appends the boxes of an element that is displayed with style s.
func (b *Builder) generate(to []*Box, n *markup.Node, s, parent *style.Style, decor *Decor) []*Box {
	s = b.controlStyle(n, s)
	d := s.Display
	b.vertical = b.vertical || s.WritingMode.Vertical()
	if b.depth++; b.depth > maxDepth {
		b.depth--
		return to
	}
	defer func() { b.depth-- }()
	b.counters.enter(s, func(name string) int { return b.reversedStart(name, n, s, parent) })
	defer b.counters.leave()

	b.order++
	box := b.boxes.New()
	box.Node, box.Style, box.Order = n, s, b.order
	b.remember(n)
	b.notes(box, n, s)
	if s.Position == style.Absolute || s.Position == style.FixedKey || s.Float != style.None || d.Outer == style.Inline && d.Inner != style.Flow {
		decor = nil // decorations do not reach into these (Text Decoration 3, §2.1)
	}
	if d.Outer != style.Contents {
		decor = withDecor(decor, s)
	}
	if n.Name == "br" && !n.Foreign {
		return append(to, &Box{Kind: LineBreak, Node: n, Style: s})
	}
	if b.replaced(box) {
		return append(to, box)
	}
	if b.pictured(box) {
		return append(to, box)
	}
	if d.Inner == style.Table {
		defer func(old map[string]decimal.Decimal) { b.before = old }(b.before)
		b.before = maps.Clone(b.sums)
	}
	group, around := b.enterScroller(n, s)
	defer func() { b.groups = around }()
	kids := b.kids(box, n, s, decor)
	if d.Outer == style.Contents {
		for _, k := range kids {
			if k.Kind == Element && box.Rare().Notes != nil {
				moveNotes(box, k)
			}
		}
		return append(to, kids...)
	}
	if d.Outer != style.Inline || d.Inner == style.FlowRoot {
		kids = b.firstLetter(kids, n, "first-letter", s)
	}
	if n.Name == "ruby" && d.Outer == style.Inline && d.Inner == style.Flow {
		kids = b.ruby(kids, s)
	}
	box.Children = kids
	sink(box)
	b.fieldset(box)
	if (d.Outer != style.Inline || d.Inner == style.FlowRoot) && b.Styles.Style(n, "first-line", s) != nil {
		box.SetRare(func(r *Rare) { r.lineOf = &[]*markup.Node{n} })
	}
	box.readSpans(n)
	return b.withMarkers(to, box, group)
}

// pictured makes a box a picture when its content is one and nothing else (Content 3, §1.1).
func (b *Builder) pictured(box *Box) bool {
	items := box.Style.Content.Items
	if box.Style.Content.Kind != style.List || len(items) != 1 || items[0].Kind != style.ContentImage {
		return false
	}
	p := b.image(items[0].Image, box.Node, box.Style)
	if p == nil {
		return false
	}
	box.Kind, box.Picture = Replaced, p
	return true
}

// kids are the boxes within an element: its marker when that stands in the line, what its pseudo-elements say, and its
// contents. A box that is not replaced after all has those that stand for it already.
func (b *Builder) kids(box *Box, n *markup.Node, s *style.Style, decor *Decor) []*Box {
	kids := box.Children
	if s.Display.ListItem {
		if m := b.marker(n, s); m != nil {
			if outside(s) {
				box.SetRare(func(r *Rare) { r.Marker = m })
			} else {
				if m.Style.Width.IsAuto() { // a symbol's is given
					m.Style = b.Styles.Displayed(m.Style, style.Display{Outer: style.Inline, Inner: style.Flow})
				}
				kids = append(kids, m)
			}
		}
	}
	kids = append(kids, b.pseudo(n, "before", s, decor)...)
	if s.Content.Kind != style.None && s.ContentVisibility != style.Hidden {
		kids = b.contents(kids, n, s, decor)
	}
	return append(kids, b.pseudo(n, "after", s, decor)...)
}

// readSpans takes over how many columns and rows a cell or a column reaches over.
func (b *Box) readSpans(n *markup.Node) {
	switch n.Name {
	case "td", "th":
		b.ColSpan, b.RowSpan = int16(spanAttr(n, "colspan", 1000)), int32(spanAttr(n, "rowspan", 65534))
		if b.RowSpan == 0 {
			b.RowSpan = -1
		}
	case "col", "colgroup":
		b.ColSpan = int16(spanAttr(n, "span", 1000))
	}
}

func spanAttr(n *markup.Node, name string, most int) int {
	s := n.Attr(name)
	if s == "" {
		return 1
	}
	v, err := strconv.Atoi(strings.TrimSpace(s))
	if err != nil || v < 0 || v == 0 && name != "rowspan" {
		return 1
	}
	return min(v, most)
}

func withDecor(up *Decor, s *style.Style) *Decor {
	if s.Decoration.Lines() {
		return &Decor{Up: up, Style: s}
	}
	return up
}

// contents appends the boxes of an element's children.
func (b *Builder) contents(kids []*Box, n *markup.Node, s *style.Style, decor *Decor) []*Box {
	if list, ok := b.control(n, s); ok {
		return append(kids, list...)
	}
	if n.Name == "wbr" && !n.Foreign { // a place where a line may end (HTML, §4.5.28)
		b.order++
		return append(kids, &Box{Kind: Text, Node: n, Order: b.order, Style: s, Text: "\u200B", Decor: decor})
	}
	if kids == nil {
		count := 0
		for c := n.First; c != nil; c = c.Next {
			count++
		}
		kids = b.lists.Slice(count)[:0]
	}
	closed := n.Name == "details" && !n.Has("open") && !n.Foreign // its elements are hidden by the style sheet
	hidden := false                                               // what it holds, rather than only the space between elements
	for c := range n.Flat() {
		switch c.Kind {
		case markup.Text:
			hidden = hidden || closed && strings.TrimSpace(c.Text) != ""
			if c.Text != "" && !closed {
				if len(b.pending) > 0 && strings.TrimSpace(c.Text) != "" {
					kids = append(kids, b.milestone(s))
				}
				b.order++
				text := b.boxes.New()
				text.Kind, text.Node, text.Order, text.Style, text.Text, text.Decor = Text, n, b.order, s, c.Text, decor
				kids = append(kids, text)
			}
		case markup.Element:
			had := len(kids)
			kids = b.element(kids, c, s, decor)
			hidden = hidden || closed && len(kids) == had
		}
	}
	if hidden && b.Tell != nil {
		b.Tell("details-closed", fmt.Sprintf("what the closed <details>%s holds is not on paper, where nobody can open it; give it the attribute open", summaryOf(n)))
	}
	return kids
}

// summaryOf quotes the summary of a details element, if it has one.
func summaryOf(n *markup.Node) string {
	for c := n.First; c != nil; c = c.Next {
		if c.Name == "summary" {
			return " “" + strings.Join(strings.Fields(c.Content()), " ") + "”"
		}
	}
	return ""
}

// pseudo generates ::before or ::after.
func (b *Builder) pseudo(n *markup.Node, which string, parent *style.Style, decor *Decor) []*Box {
	s := b.Styles.Style(n, which, parent)
	if s == nil || s.Content.Kind == style.Normal || s.Content.Kind == style.None || s.Display.Outer == style.None {
		return nil
	}
	b.counters.enter(s, func(name string) int { return 0 })
	defer b.counters.leave()
	if s.Position == style.Absolute || s.Position == style.FixedKey || s.Float != style.None || s.Display.Outer == style.Inline && s.Display.Inner != style.Flow {
		decor = nil
	}
	decor = withDecor(decor, s)
	b.order++
	box := &Box{Node: n, Style: s, rare: &Rare{Pseudo: which}, Order: b.order}
	if s.Display.ListItem {
		if m := b.marker(n, s); m != nil {
			box.SetRare(func(r *Rare) { r.Marker = m })
		}
	}
	box.Children = b.content(n, which, s, decor)
	b.rememberText(n, which, box.Children)
	box.Children = b.firstLetter(box.Children, n, which+"::first-letter", s)
	if s.Display.Outer == style.Contents {
		return box.Children
	}
	return []*Box{box}
}

// firstLetter gives the first letter of a block with style s the look that a
// pseudo-element of n asks for.
func (b *Builder) firstLetter(kids []*Box, n *markup.Node, pseudo string, s *style.Style) []*Box {
	if b.Styles.Style(n, pseudo, s) == nil {
		return kids
	}
	return firstLetter(kids, func(in *style.Style, letter string) *style.Style {
		own := b.Styles.Style(n, pseudo, in)
		b.lettered = b.lettered || own.InitialLetter.Size > 0
		return b.Styles.InitialLetter(own, s, letter)
	})
}

// content generates the items of the content property (CSS Content 3).
func (b *Builder) content(n *markup.Node, which string, s *style.Style, decor *Decor) []*Box {
	var kids []*Box
	var parts []string // of the text that comes last
	size := 0
	text := func(t string) {
		if t == "" {
			return
		}
		if size += len(t); size > mostGenerated {
			panic(watch.Stopped{Err: fmt.Errorf("the property “content” of ::%s gives a single element more than %d MB of text", which, mostGenerated>>20)})
		}
		if k := len(kids); k > 0 && kids[k-1].Kind == Text && !kids[k-1].Leader && kids[k-1].Rare().Sum == nil {
			if len(parts) == 0 {
				parts = append(parts, kids[k-1].Text)
			}
			parts = append(parts, t)
			return
		}
		kids = append(kids, &Box{Kind: Text, Node: n, rare: &Rare{Pseudo: which}, Order: b.order, Style: s, Text: t, Decor: decor})
	}
	for i := range s.Content.Items {
		it := &s.Content.Items[i]
		if it.Kind == style.ContentImage || it.Kind == style.ContentLeader || it.Kind == style.ContentSum {
			joinText(kids, &parts)
		}
		switch it.Kind {
		case style.ContentImage:
			if p := b.image(it.Image, n, s); p != nil {
				kids = append(kids, &Box{Kind: Replaced, Style: style.Anonymous(s, style.Display{Outer: style.Inline, Inner: style.Flow}), Picture: p})
			}
		case style.ContentLeader:
			kids = append(kids, &Box{Kind: Text, Node: n, rare: &Rare{Pseudo: which}, Order: b.order, Style: s, Text: it.Text, Leader: true, Decor: decor})
		case style.ContentSum:
			kids = append(kids, &Box{Kind: Text, Node: n, rare: &Rare{Pseudo: which, Sum: &Sum{it.Text, it.Separator, it.Which, b.before[it.Text]}}, Order: b.order, Style: s, Text: b.itemText(it, n, s), Decor: decor})
		default:
			text(b.itemText(it, n, s))
		}
	}
	joinText(kids, &parts)
	return kids
}

// mostGenerated bounds the text that one element's content may give, in bytes.
const mostGenerated = 8 << 20

// joinText gives the last box the parts of its text that have been found.
func joinText(kids []*Box, parts *[]string) {
	if len(*parts) > 0 {
		kids[len(kids)-1].Text = strings.Join(*parts, "")
		*parts = nil
	}
}

// image is the picture of a CSS image that stands as content.
func (b *Builder) image(im *style.Image, n *markup.Node, s *style.Style) *picture.Picture {
	if im == nil || im.Kind != style.ImageURL {
		return nil
	}
	p := b.Pictures(im.URL, n)
	if p != nil {
		p = p.Turned(s.ImageOrientation != style.None)
	}
	if p != nil && im.Density > 0 && im.Density != 1 {
		q := *p
		q.W, q.H = p.W/im.Density, p.H/im.Density
		return &q
	}
	return p
}

// quote opens or closes a quotation (CSS Content 3, §3).
func (b *Builder) quote(which string, n *markup.Node, s *style.Style) string {
	return QuoteMark(which, &b.quotes, QuotesIn(s, quoteLanguage(n)))
}

// symbol makes the style of a marker that of a symbol, if it is one: spacing leaves it
// alone, and inside its item it has the room that browsers give it, its own width and
// what keeps it from the text.
func (b *Builder) symbol(marker, item *style.Style) {
	var w float64
	switch item.ListType.Name {
	case "disc", "circle", "square":
		ascent := math.Round(b.Styles.Fonts().Metrics(item).Ascent * item.FontSize)
		w = math.Floor((math.Floor(ascent*2/3)+1)/2) + 1 + item.FontSize
	case "disclosure-open", "disclosure-closed":
		w = item.FontSize * 1.06
	default:
		return
	}
	marker.LetterSpacing, marker.WordSpacing = style.LP{}, style.LP{}
	if !outside(item) {
		marker.Width = style.Size{Kind: style.Length, LP: style.Px(w)}
	}
}

// outside tells whether the marker of a list item of this style stands beside it.
func outside(s *style.Style) bool {
	return s.ListPosition == style.Outside && (s.Display.Outer != style.Inline || s.Display.Inner == style.FlowRoot)
}

// markerImage is the image that marks a list item of style s, in a marker of style ms; nil without one. It is 1em
// square when it has no size of its own (CSS Lists 3, §3.3).
func (b *Builder) markerImage(n *markup.Node, s, ms *style.Style) *Box {
	is := style.Anonymous(ms, style.Display{Outer: style.Inline, Inner: style.Flow})
	p := b.image(s.ListImage, n, s)
	switch {
	case p != nil:
	case s.ListImage == nil || s.ListImage.Kind == style.ImageURL:
		return nil
	default: // a gradient or a colour is the background of a picture that is empty
		p = &picture.Picture{}
		is.Background = style.Initial().Background
		is.Background.Images = []*style.Image{s.ListImage.In(s.Color)}
	}
	if p.W == 0 && p.H == 0 {
		q := *p
		q.W, q.H = s.FontSize, s.FontSize
		p = &q
	}
	is.Margin[style.Right] = style.Size{Kind: style.Length, LP: style.Px(s.FontSize * 0.5)}
	return &Box{Kind: Replaced, Style: is, Picture: p}
}

// marker generates the marker of a list item (CSS Lists 3, §3).
func (b *Builder) marker(n *markup.Node, s *style.Style) *Box {
	ms := b.Styles.Style(n, "marker", s)
	if ms == nil {
		ms = style.Anonymous(s, style.Display{Outer: style.Inline, Inner: style.Flow})
	}
	if ms.Content.Kind == style.None {
		return nil
	}
	c := *ms
	c.Display = style.Display{Outer: style.Inline, Inner: style.FlowRoot}
	if c.Collapse = style.Preserve; outside(s) {
		c.Wrap = style.Nowrap
	}
	c.TextIndent = style.Indent{}
	c.Direction = s.Direction
	m := &Box{Style: &c, rare: &Rare{Pseudo: "marker"}, Node: n}
	if ms.Content.Kind == style.List {
		m.Children = b.content(n, "marker", &c, nil)
	} else if k := b.markerImage(n, s, &c); k != nil {
		m.Children = []*Box{k}
	} else {
		b.symbol(&c, s)
		t := b.Styles.Counters.Marker(s.ListType, b.counters.value("list-item"))
		if t == "" {
			return nil
		}
		m.Children = []*Box{{Kind: Text, Node: n, rare: &Rare{Pseudo: "marker"}, Order: b.order, Style: &c, Text: t}}
	}
	if len(m.Children) == 0 {
		return nil
	}
	m.Inline = true
	return m
}
