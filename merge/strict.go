package merge

import (
	"errors"
	"fmt"
	"strconv"
	"strings"
	"text/template/parse"
)

// Functions that templates call without writing them: they stand for fields.
const (
	fieldName = "field"
	maybeName = "maybe"
	showName  = "show"
	shownName = "shown"
	eachName  = "each"
	anyName   = "eachOrNone"
)

// makeStrict writes a template's fields as calls of functions that know what the field is
// used for. Where it is tested ({{if .note}}, {{with .note}}, and the arguments of and, or
// and not), a record may lack it; where it is shown or computed with, that is an error
// which names it.
func makeStrict(tree *parse.Tree) error {
	if tree == nil {
		return nil
	}
	s := &strict{tree: tree}
	s.list(tree.Root)
	return errors.Join(s.errs...)
}

type strict struct {
	tree *parse.Tree
	errs []error
}

func (s *strict) list(l *parse.ListNode) {
	if l == nil {
		return
	}
	for _, n := range l.Nodes {
		switch x := n.(type) {
		case *parse.ActionNode:
			if len(x.Pipe.Decl) == 0 {
				s.shown(x.Pipe)
			} else {
				s.pipe(x.Pipe, false)
			}
		case *parse.IfNode:
			s.branch(&x.BranchNode, true)
		case *parse.WithNode:
			s.branch(&x.BranchNode, true)
		case *parse.RangeNode:
			each := eachName
			if x.ElseList != nil {
				each = anyName
			}
			s.branch(&x.BranchNode, x.ElseList != nil)
			x.Pipe.Cmds = append(x.Pipe.Cmds, s.call(x.Pipe.Position(), each))
		case *parse.TemplateNode:
			s.pipe(x.Pipe, false)
		}
	}
}

func (s *strict) branch(b *parse.BranchNode, test bool) {
	s.pipe(b.Pipe, test)
	s.list(b.List)
	s.list(b.ElseList)
}

// shown writes an action that shows a value.
func (s *strict) shown(p *parse.PipeNode) {
	if first := p.Cmds[0]; len(p.Cmds) == 1 && len(first.Args) == 1 {
		if base, names := fieldOf(first.Args[0]); len(names) > 0 {
			first.Args = s.fieldCall(showName, s.argument(base, false), names).Args
			return
		}
	}
	s.pipe(p, false)
	last := p.Cmds[len(p.Cmds)-1]
	if name, ok := last.Args[0].(*parse.IdentifierNode); ok && (name.Ident == "html" || name.Ident == "urlquery") {
		return // the library wants them last
	}
	p.Cmds = append(p.Cmds, s.call(p.Position(), shownName, s.text(p.Position(), variableName(last))))
}

// variableName is the name of a variable that is shown alone.
func variableName(c *parse.CommandNode) string {
	if v, ok := c.Args[0].(*parse.VariableNode); ok && len(c.Args) == 1 {
		return strings.Join(v.Ident, ".")
	}
	return ""
}

func (s *strict) pipe(p *parse.PipeNode, test bool) {
	if p == nil {
		return
	}
	for _, c := range p.Cmds {
		s.command(c, test && len(p.Cmds) == 1)
	}
}

func (s *strict) command(c *parse.CommandNode, test bool) {
	if name, ok := c.Args[0].(*parse.IdentifierNode); ok {
		test = name.Ident == "and" || name.Ident == "or" || name.Ident == "not"
	} else if base, names := fieldOf(c.Args[0]); len(names) > 0 {
		if len(c.Args) > 1 {
			where, _ := s.tree.ErrorContext(c)
			s.errs = append(s.errs, fmt.Errorf("%s: a field takes no arguments: %s", lineOnly(where), c))
			return
		}
		c.Args = s.fieldCall(lookupName(test), s.argument(base, false), names).Args
		return
	}
	for i := range c.Args {
		c.Args[i] = s.argument(c.Args[i], test)
	}
}

func lookupName(test bool) string {
	if test {
		return maybeName
	}
	return fieldName
}

// argument writes a node that stands among others.
func (s *strict) argument(n parse.Node, test bool) parse.Node {
	if p, ok := n.(*parse.PipeNode); ok {
		s.pipe(p, test)
		return p
	}
	base, names := fieldOf(n)
	if len(names) == 0 {
		return n
	}
	call := s.fieldCall(lookupName(test), s.argument(base, false), names)
	return &parse.PipeNode{NodeType: parse.NodePipe, Pos: n.Position(), Cmds: []*parse.CommandNode{call}}
}

// fieldOf splits what leads to a field into what it is of and the names.
func fieldOf(n parse.Node) (base parse.Node, names []string) {
	switch x := n.(type) {
	case *parse.FieldNode:
		return &parse.DotNode{NodeType: parse.NodeDot, Pos: x.Pos}, x.Ident
	case *parse.VariableNode:
		if len(x.Ident) > 1 {
			return &parse.VariableNode{NodeType: parse.NodeVariable, Pos: x.Pos, Ident: x.Ident[:1]}, x.Ident[1:]
		}
	case *parse.ChainNode:
		return x.Node, x.Field
	}
	return n, nil
}

func (s *strict) fieldCall(function string, base parse.Node, names []string) *parse.CommandNode {
	args := []parse.Node{base}
	for _, n := range names {
		args = append(args, s.text(base.Position(), n))
	}
	return s.call(base.Position(), function, args...)
}

func (s *strict) call(pos parse.Pos, function string, args ...parse.Node) *parse.CommandNode {
	name := parse.NewIdentifier(function).SetPos(pos).SetTree(s.tree)
	return &parse.CommandNode{NodeType: parse.NodeCommand, Pos: pos, Args: append([]parse.Node{name}, args...)}
}

func (s *strict) text(pos parse.Pos, v string) *parse.StringNode {
	return &parse.StringNode{NodeType: parse.NodeString, Pos: pos, Quoted: strconv.Quote(v), Text: v}
}
