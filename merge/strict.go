package merge

import (
	"fmt"
	"strconv"
	"strings"
	"text/template/parse"
)

// strictName is the function that guards values which are shown as they are.
const strictName = "shown"

// guard makes every action that shows a field alone, {{.name}}, an error when the
// field is null or empty: a hole in a document that nobody asked for. Tests,
// default and the other functions take such values as before.
func guard(tree *parse.Tree) {
	if tree != nil {
		guardList(tree, tree.Root)
	}
}

func guardList(tree *parse.Tree, l *parse.ListNode) {
	if l == nil {
		return
	}
	for _, n := range l.Nodes {
		switch x := n.(type) {
		case *parse.ActionNode:
			guardPipe(tree, x.Pipe)
		case *parse.IfNode:
			guardList(tree, x.List)
			guardList(tree, x.ElseList)
		case *parse.WithNode:
			guardList(tree, x.List)
			guardList(tree, x.ElseList)
		case *parse.RangeNode:
			guardList(tree, x.List)
			guardList(tree, x.ElseList)
		}
	}
}

func guardPipe(tree *parse.Tree, p *parse.PipeNode) {
	if len(p.Decl) > 0 || len(p.Cmds) != 1 || len(p.Cmds[0].Args) != 1 {
		return
	}
	cmd := p.Cmds[0]
	name := ""
	switch x := cmd.Args[0].(type) {
	case *parse.FieldNode:
		name = strings.Join(x.Ident, ".")
	case *parse.VariableNode:
		name = strings.Join(x.Ident, ".")
	default:
		return
	}
	pos := cmd.Position()
	text := &parse.StringNode{NodeType: parse.NodeString, Pos: pos, Quoted: strconv.Quote(name), Text: name}
	cmd.Args = []parse.Node{parse.NewIdentifier(strictName).SetPos(pos).SetTree(tree), text, cmd.Args[0]}
}

// shown lets a value through that is not null and not empty.
func (t *Template) shown(name string, v any) (any, error) {
	if t.Soft {
		if v == nil {
			return "", nil
		}
		return v, nil
	}
	switch v {
	case nil:
		return nil, fmt.Errorf("the field %q is null; give it a value, or write what stands for it with default", name)
	case "":
		return nil, fmt.Errorf("the field %q is empty; give it a value, or write what stands for it with default", name)
	}
	return v, nil
}
