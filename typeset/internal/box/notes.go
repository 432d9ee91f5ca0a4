package box

import (
	"fmt"
	"maps"
	"strings"

	"github.com/shopspring/decimal"

	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// Notes are what a page should know of a box that begins on it.
type Notes struct {
	Strings  []NamedText // string-set
	Running  []*Running
	Bookmark *Bookmark
	Adds     []Amount   // to running sums
	Page     *int       // the page counter is set to it
	Counters []Numbered // counters as the box leaves them
}

// NamedText is a named string as it stands at an element.
type NamedText struct{ Name, Text string }

// Numbered is a counter's value.
type Numbered struct {
	Name  string
	Value int
}

// Amount is what a box adds to a running sum.
type Amount struct {
	Name  string
	Value decimal.Decimal
}

// Bookmark is an entry of the document's outline.
type Bookmark struct {
	Level  int
	Label  string
	Closed bool
}

// Running is an element that left the flow for margin boxes
// (Generated Content for Paged Media, §1.2).
type Running struct {
	Name     string
	node     *markup.Node
	parent   *style.Style
	counters map[string][]instance
}

// Sum marks generated text that shows a running sum.
type Sum struct {
	Name, Pattern string
	Which         style.Keyword
	Before        decimal.Decimal // where the table around begins
}

// Total is a running sum: before a page or part of a table, and with it.
type Total struct{ Brought, Carried decimal.Decimal }

// Part is what -olive-sum() shows of a running sum.
func (t Total) Part(which style.Keyword) decimal.Decimal {
	switch which {
	case style.Brought:
		return t.Brought
	case style.PageKey:
		return t.Carried.Sub(t.Brought)
	}
	return t.Carried
}

// Places is what an earlier round of setting the same document found out.
type Places struct {
	Pages  int                  // of the document
	Number map[*markup.Node]int // the page counter where a node begins
	Sizes  style.ContainerSizes // of the elements that styles may ask about
}

// Equal tells whether two rounds found the same.
func (p *Places) Equal(o *Places) bool {
	return p.Pages == o.Pages && maps.Equal(p.Number, o.Number) && maps.Equal(p.Sizes, o.Sizes)
}

// watch asks for the place of a node in the next round.
func (b *Builder) watch(n *markup.Node) {
	if b.Watched == nil {
		b.Watched = map[*markup.Node]bool{}
	}
	b.Watched[n] = true
}

func (b *Builder) page(n *markup.Node) int {
	b.watch(n)
	if b.Known == nil {
		return 0
	}
	return b.Known.Number[n]
}

// notes gathers what pages should know of an element's box.
func (b *Builder) notes(box *Box, n *markup.Node, s *style.Style) {
	var t Notes
	t.Running, b.pending = b.pending, nil
	for _, set := range s.StringSet {
		t.Strings = append(t.Strings, NamedText{set.Name, b.plain(set.Items, n, s)})
	}
	for _, add := range s.Adds {
		if v, err := decimal.NewFromString(strings.TrimSpace(b.plain(add.Items, n, s))); err == nil {
			t.Adds = append(t.Adds, Amount{add.Name, v})
			b.sums[add.Name] = b.sums[add.Name].Add(v)
		} else if b.Tell != nil {
			b.Tell("sum-value", fmt.Sprintf("what -olive-add adds to “%s” is no number: “%s”; write it with a full stop before the decimals", add.Name, b.plain(add.Items, n, s)))
		}
	}
	if s.BookmarkLevel > 0 && box.Rare().Pseudo == "" {
		label := collapse(n.Content())
		if s.BookmarkLabel != nil {
			label = b.plain(s.BookmarkLabel, n, s)
		}
		if label != "" {
			t.Bookmark = &Bookmark{s.BookmarkLevel, label, s.BookmarkState == style.Closed}
		}
	}
	for _, list := range [][]style.CounterOp{s.CounterReset, s.CounterSet} {
		for _, op := range list {
			if op.Name == "page" {
				v := op.Value
				t.Page = &v
			}
		}
	}
	if b.PageCounters {
		for _, list := range [][]style.CounterOp{s.CounterReset, s.CounterSet, s.CounterIncrement} {
			for _, op := range list {
				t.Counters = append(t.Counters, Numbered{op.Name, b.counters.value(op.Name)})
			}
		}
	}
	if t.Strings != nil || t.Running != nil || t.Adds != nil || t.Bookmark != nil || t.Page != nil || t.Counters != nil {
		kept := t
		box.SetRare(func(r *Rare) { r.Notes = &kept }) // t itself stays off the heap for the many boxes without notes
		b.Noted = true
	}
}

// sink moves the notes of boxes that have no fragment of their own to the
// first box in them.
func sink(box *Box) {
	switch box.Style.Display.Outer {
	case style.TableRow, style.TableRowGroup, style.TableHeaderGroup, style.TableFooterGroup:
	default:
		return
	}
	if box.Rare().Notes == nil {
		return
	}
	for _, k := range box.Children {
		if k.Kind == Element {
			moveNotes(box, k)
			sink(k)
			return
		}
	}
}

// moveNotes gives the notes of one box to another.
func moveNotes(from, to *Box) {
	to.SetRare(func(r *Rare) { r.Notes = from.Rare().Notes.join(r.Notes) })
	from.SetRare(func(r *Rare) { r.Notes = nil })
}

func (t *Notes) join(o *Notes) *Notes {
	if o == nil {
		return t
	}
	out := *t
	out.Strings = append(out.Strings, o.Strings...)
	out.Running = append(out.Running, o.Running...)
	out.Adds = append(out.Adds, o.Adds...)
	out.Counters = append(out.Counters, o.Counters...)
	if o.Bookmark != nil {
		out.Bookmark = o.Bookmark
	}
	if o.Page != nil {
		out.Page = o.Page
	}
	return &out
}

// run keeps an element for margin boxes; the box that follows tells its place.
func (b *Builder) run(n *markup.Node, s, parent *style.Style) {
	b.pending = append(b.pending, &Running{Name: s.Running, node: n, parent: parent, counters: copied(b.counters.live)})
}

// milestone is an empty box in a line that tells the place of running elements which text
// follows.
func (b *Builder) milestone(parent *style.Style) *Box {
	b.order++
	m := &Box{Style: b.Styles.Anonymous(parent, style.Display{Outer: style.Inline, Inner: style.Flow}), Order: b.order}
	m.SetRare(func(r *Rare) { r.Notes = &Notes{Running: b.pending} })
	b.pending, b.Noted = nil, true
	return m
}

// rest gives running elements without a box after them to the last box.
func (b *Builder) rest(root *Box) {
	if len(b.pending) == 0 {
		return
	}
	last := root
	for {
		i := len(last.Children) - 1
		for i >= 0 && last.Children[i].Kind != Element {
			i--
		}
		if i < 0 {
			break
		}
		last = last.Children[i]
	}
	last.SetRare(func(r *Rare) { r.Notes = (&Notes{Running: b.pending}).join(r.Notes) })
	b.pending, b.Noted = nil, true
}

// stood names the variant of a running element's style that stands in a margin.
type stood struct{}

// Margin makes the boxes of a running element for one page. counters holds
// what page and pages stand for there.
func (b *Builder) Margin(r *Running, counters map[string]int) []*Box {
	live, stack, pending := b.counters.live, b.counters.stack, b.pending
	defer func() { b.counters.live, b.counters.stack, b.pending = live, stack, pending }()
	b.counters.live, b.counters.stack = copied(r.counters), nil
	b.inMargin = counters
	defer func() { b.inMargin = nil }()
	running := b.Styles.Style(r.node, "", r.parent)
	s := b.Styles.Variant(running, stood{}, func() *style.Style {
		s := *running
		s.Position = style.Static
		return &s
	})
	return b.generate(nil, r.node, s, r.parent, nil)
}

// Arrange finishes a tree that was put together outside of Build.
func (b *Builder) Arrange(root *Box) { b.arrange(root) }

// plain is the text of content items, as string-set and bookmarks take it.
func (b *Builder) plain(items []style.ContentItem, n *markup.Node, s *style.Style) string {
	var out strings.Builder
	for i := range items {
		out.WriteString(b.itemText(&items[i], n, s))
	}
	return collapse(out.String())
}

// itemText is the text that a content item stands for.
func (b *Builder) itemText(it *style.ContentItem, n *markup.Node, s *style.Style) string {
	number := func(v int) string { return b.Styles.Counters.Text(it.Style, v) }
	switch it.Kind {
	case style.ContentText:
		return it.Text
	case style.ContentAttr:
		name := it.Text
		if !n.Foreign { // names of HTML attributes have no letter case
			name = strings.ToLower(name)
		}
		return n.Attr(name)
	case style.ContentCounter:
		return number(b.counter(it.Text, n))
	case style.ContentCounters:
		if _, ok := b.inMargin[it.Text]; ok {
			return number(b.counter(it.Text, n))
		}
		var parts []string
		for _, v := range b.counters.all(it.Text) {
			parts = append(parts, number(v))
		}
		return strings.Join(parts, it.Separator)
	case style.ContentQuote:
		return b.quote(it.Text, n, s)
	case style.ContentContents:
		return b.partOf(n, it.Text)
	case style.ContentSum:
		return style.Number(b.sums[it.Text], it.Separator)
	case style.ContentTargetCounter, style.ContentTargetCounters, style.ContentTargetText:
		return b.targetText(it, n, s)
	}
	return ""
}

// counter is a counter's value; page and pages are known from the round before.
func (b *Builder) counter(name string, n *markup.Node) int {
	if v, ok := b.inMargin[name]; ok {
		return v
	}
	switch name {
	case "page":
		return b.page(n)
	case "pages":
		b.watch(n)
		if b.Known != nil {
			return b.Known.Pages
		}
	}
	return b.counters.value(name)
}

// targetText is what target-counter() and its like show
// (Generated Content for Paged Media, §4).
func (b *Builder) targetText(it *style.ContentItem, n *markup.Node, s *style.Style) string {
	address := b.itemText(it.Target, n, s)
	_, id, found := strings.Cut(address, "#")
	target := b.ids[id]
	if !found || target == nil {
		if b.Tell != nil {
			b.Tell("target-missing", fmt.Sprintf("nothing in the page has the id that “%s” leads to; the cross reference stays empty", address))
		}
		return ""
	}
	switch it.Kind {
	case style.ContentTargetText:
		return collapse(b.partOf(target, it.Text))
	case style.ContentTargetCounter:
		if it.Text == "page" {
			return b.Styles.Counters.Text(it.Style, b.page(target))
		}
	}
	b.watch(target)
	values := b.snapshots[target][it.Text]
	if len(values) == 0 {
		values = []int{0}
	}
	if it.Kind == style.ContentTargetCounter {
		values = values[len(values)-1:]
	}
	parts := make([]string, len(values))
	for i, v := range values {
		parts[i] = b.Styles.Counters.Text(it.Style, v)
	}
	return strings.Join(parts, it.Separator)
}

// partOf is the text of an element that content() names.
func (b *Builder) partOf(n *markup.Node, part string) string {
	switch part {
	case "before", "after", "marker":
		b.watch(n)
		return b.generated[n][part]
	case "first-letter":
		for _, r := range collapse(n.Content()) {
			return string(r)
		}
		return ""
	}
	return n.Content()
}

// remember keeps what cross references ask about a node; the next round of
// building finds it.
func (b *Builder) remember(n *markup.Node) {
	if !b.Watched[n] {
		return
	}
	values := map[string][]int{}
	for name := range b.counters.live {
		values[name] = b.counters.all(name)
	}
	if b.snapshots == nil {
		b.snapshots = map[*markup.Node]map[string][]int{}
	}
	b.snapshots[n] = values
}

func (b *Builder) rememberText(n *markup.Node, which string, kids []*Box) {
	if !b.Watched[n] {
		return
	}
	var t strings.Builder
	for _, k := range kids {
		t.WriteString(k.Text)
	}
	if b.generated == nil {
		b.generated = map[*markup.Node]map[string]string{}
	}
	of := b.generated[n]
	if of == nil {
		of = map[string]string{}
		b.generated[n] = of
	}
	of[which] = t.String()
}

// collapse makes each run of white space one space and trims the ends.
func collapse(s string) string { return strings.Join(strings.Fields(s), " ") }

// indexIDs finds the elements that addresses within the page lead to.
func indexIDs(root *markup.Node) map[string]*markup.Node {
	ids := map[string]*markup.Node{}
	root.Walk(func(n *markup.Node) bool {
		if n.ID != "" && ids[n.ID] == nil {
			ids[n.ID] = n
		}
		return true
	})
	return ids
}
