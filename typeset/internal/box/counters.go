package box

import (
	"strconv"
	"strings"

	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// instance is one counter in scope (CSS Lists 3, §4.2): it lives until the
// element that encloses its creator is left.
type instance struct {
	value int
	scope *markup.Node
	step  int // -1 in a reversed list
}

type counters struct {
	live  map[string][]instance
	stack []*markup.Node
}

func (c *counters) enter(n *markup.Node, s *style.Style) {
	if c.live == nil {
		c.live = map[string][]instance{}
	}
	var parent *markup.Node
	if len(c.stack) > 0 {
		parent = c.stack[len(c.stack)-1]
	}
	if n != nil {
		c.stack = append(c.stack, n)
	}
	for _, op := range s.CounterReset {
		in := instance{value: op.Value, scope: parent, step: 1}
		if n != nil && op.Name == "list-item" && n.Name == "ol" {
			if v, err := strconv.Atoi(strings.TrimSpace(n.Attr("start"))); err == nil {
				in.value = v - 1
			} else if n.Has("reversed") {
				in.value = 0
				for i := n.First; i != nil; i = i.Next {
					if i.Name == "li" {
						in.value++
					}
				}
				in.value++
			}
			if n.Has("reversed") {
				in.step = -1
				if n.Has("start") {
					in.value += 2
				}
			}
		}
		list := c.live[op.Name]
		if k := len(list); k > 0 && list[k-1].scope == parent {
			list[k-1] = in
		} else {
			list = append(list, in)
		}
		c.live[op.Name] = list
	}
	listItem := s.Display.ListItem
	for _, op := range s.CounterIncrement {
		if op.Name == "list-item" {
			listItem = false
		}
		c.at(op.Name, parent).value += op.Value
	}
	if listItem {
		in := c.at("list-item", parent)
		if in.step == 0 {
			in.step = 1
		}
		in.value += in.step
		if n != nil && n.Name == "li" {
			if v, err := strconv.Atoi(strings.TrimSpace(n.Attr("value"))); err == nil {
				in.value = v
			}
		}
	}
	for _, op := range s.CounterSet {
		c.at(op.Name, parent).value = op.Value
	}
}

// at returns the innermost instance, made here when there is none.
func (c *counters) at(name string, scope *markup.Node) *instance {
	list := c.live[name]
	if len(list) == 0 {
		list = append(list, instance{scope: scope, step: 1})
		c.live[name] = list
	}
	return &list[len(list)-1]
}

func (c *counters) leave(n *markup.Node) {
	c.stack = c.stack[:len(c.stack)-1]
	for name, list := range c.live {
		k := len(list)
		for k > 0 && list[k-1].scope == n {
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
