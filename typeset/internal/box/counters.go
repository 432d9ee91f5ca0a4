package box

import (
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/memory"
	"oliveledger/typeset/internal/style"
)

// instance is one counter in scope. It lives until the element or
// pseudo-element that it belongs to is left.
type instance struct {
	value    int
	scope    *scope
	under    *scope // what is around the element that has made it
	reversed bool
}

// scope is an element or pseudo-element that is being entered.
type scope struct{ holds bool } // counters have been made in it

type counters struct {
	live   map[string][]instance
	stack  []*scope
	scopes memory.Slab[scope]
}

// enter applies an element's counter properties (CSS Lists 3, §4). start gives
// the first value of a reversed counter.
func (c *counters) enter(s *style.Style, start func(name string) int) {
	if c.live == nil {
		c.live = map[string][]instance{}
	}
	var parent *scope
	if len(c.stack) > 0 {
		parent = c.stack[len(c.stack)-1]
	}
	own := c.scopes.New()
	c.stack = append(c.stack, own)
	for _, op := range s.CounterReset {
		in := instance{value: op.Value, scope: parent, under: parent, reversed: op.Reversed}
		if op.Reversed && !op.HasValue {
			in.value = start(op.Name)
		}
		list := c.live[op.Name]
		k := len(list)
		if k > 0 && list[k-1].under == parent { // made by a sibling before, or here (§4.4.1)
			list, k = list[:k-1], k-1
		}
		if k > 0 { // siblings inherit it only when their parent has none
			in.scope = own
		}
		in.scope.hold()
		c.live[op.Name] = append(list, in)
	}
	for _, op := range increments(s, c.isReversed("list-item")) {
		c.at(op.Name, parent).value += op.Value
	}
	for _, op := range s.CounterSet {
		c.at(op.Name, parent).value = op.Value
	}
}

// increments are what a style adds to counters, with the step that every list
// item takes unless it is told otherwise (CSS Lists 3, §4.6).
func increments(s *style.Style, reversed bool) []style.CounterOp {
	if !s.Display.ListItem {
		return s.CounterIncrement
	}
	for _, op := range s.CounterIncrement {
		if op.Name == "list-item" {
			return s.CounterIncrement
		}
	}
	step := style.CounterOp{Name: "list-item", Value: 1}
	if reversed {
		step.Value = -1
	}
	return append([]style.CounterOp{step}, s.CounterIncrement...)
}

func (c *counters) isReversed(name string) bool {
	list := c.live[name]
	return len(list) > 0 && list[len(list)-1].reversed
}

// copied gives counters as they stand now.
func copied(live map[string][]instance) map[string][]instance {
	out := map[string][]instance{}
	for name, list := range live {
		out[name] = append([]instance(nil), list...)
	}
	return out
}

// at returns the innermost instance, made here when there is none.
func (c *counters) at(name string, own *scope) *instance {
	list := c.live[name]
	if len(list) == 0 {
		own.hold()
		list = append(list, instance{scope: own, under: own})
		c.live[name] = list
	}
	return &list[len(list)-1]
}

func (s *scope) hold() {
	if s != nil {
		s.holds = true
	}
}

func (c *counters) leave() {
	own := c.stack[len(c.stack)-1]
	c.stack = c.stack[:len(c.stack)-1]
	if !own.holds {
		return
	}
	for name, list := range c.live {
		k := len(list)
		for k > 0 && list[k-1].scope == own {
			k--
		}
		if k < len(list) {
			c.live[name] = list[:k]
		}
	}
}

func (c *counters) value(name string) int {
	list := c.live[name]
	if len(list) == 0 {
		return 0
	}
	return list[len(list)-1].value
}

func (c *counters) all(name string) []int {
	list := c.live[name]
	if len(list) == 0 {
		return []int{0}
	}
	out := make([]int, len(list))
	for i := range list {
		out[i] = list[i].value
	}
	return out
}

// reversedStart is the first value of a reversed counter that gives none: the
// last element that counts then gets its own step (CSS Lists 3, §4.4.2). n is
// the element that makes the counter, s its style.
func (b *Builder) reversedStart(name string, n *markup.Node, s, parent *style.Style) int {
	sum := &countdown{b: b, name: name}
	sum.element(n, s, true)
	if len(b.counters.live[name]) == 0 { // following siblings count too
		for k := n.Next; k != nil && !sum.done; k = k.Next {
			if k.Kind == markup.Element {
				sum.element(k, b.Styles.Style(k, "", parent), false)
			}
		}
	}
	return sum.total + sum.last
}

// countdown adds up what elements take from a counter.
type countdown struct {
	b           *Builder
	name        string
	total, last int
	done        bool
}

func (c *countdown) element(n *markup.Node, s *style.Style, owner bool) {
	if s == nil || s.Display.Outer == style.None || c.done {
		return
	}
	c.step(s, owner)
	for _, op := range s.CounterReset {
		if op.Name == c.name && !owner {
			return // what is inside counts for the new one
		}
	}
	c.pseudo(n, "marker", s)
	c.pseudo(n, "before", s)
	for k := n.First; k != nil && !c.done; k = k.Next {
		if k.Kind == markup.Element {
			c.element(k, c.b.Styles.Style(k, "", s), false)
		}
	}
	c.pseudo(n, "after", s)
}

func (c *countdown) pseudo(n *markup.Node, which string, parent *style.Style) {
	s := c.b.Styles.Style(n, which, parent)
	if s != nil && s.Content.Kind == style.List && s.Display.Outer != style.None && !c.done {
		c.step(s, false)
	}
}

func (c *countdown) step(s *style.Style, owner bool) {
	for _, op := range s.CounterReset {
		if op.Name == c.name && !owner {
			return
		}
	}
	v := 0
	for _, op := range increments(s, true) {
		if op.Name == c.name {
			v -= op.Value
		}
	}
	if v != 0 {
		c.last = v
	}
	for _, op := range s.CounterSet {
		if op.Name == c.name {
			c.total, c.done = c.total+op.Value, true
			return
		}
	}
	c.total += v
}
