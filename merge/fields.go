package merge

import (
	"html/template"
	"slices"
	"strings"
	text "text/template"
	"text/template/parse"
)

// Fields lists the fields of a record that the template uses, with dots between
// levels and [] after lists: customer.name, lines[].price.
func (t *Template) Fields() []string { return t.fields }

func (m Manifest) usedFields(page *template.Template, file *text.Template) []string {
	u := &usage{trees: map[string]*parse.Tree{}, seen: map[string]bool{}, done: map[string]bool{}}
	for _, p := range page.Templates() {
		u.trees[p.Name()] = p.Tree
	}
	if page.Tree != nil {
		u.list(page.Tree.Root, "")
	}
	if file.Tree != nil {
		u.list(file.Tree.Root, "")
	}
	for _, x := range m.Totals { // they are compared
		if x.Each != "" {
			x.Field = x.Each + "[]." + x.Field
		}
		u.seen[x.Field] = true
	}
	delete(u.seen, "RecordNumber")
	out := make([]string, 0, len(u.seen))
	for f := range u.seen {
		out = append(out, f)
	}
	slices.Sort(out)
	return out
}

// usage walks through a template; at is the path that the dot stands for.
type usage struct {
	trees map[string]*parse.Tree
	seen  map[string]bool
	done  map[string]bool // blocks by name and dot, against endless recursion
	vars  map[string]string
}

func (u *usage) list(l *parse.ListNode, at string) {
	if l == nil {
		return
	}
	for _, n := range l.Nodes {
		u.node(n, at)
	}
}

func (u *usage) node(n parse.Node, at string) {
	switch x := n.(type) {
	case *parse.ActionNode:
		u.pipe(x.Pipe, at)
	case *parse.IfNode:
		u.pipe(x.Pipe, at)
		u.list(x.List, at)
		u.list(x.ElseList, at)
	case *parse.WithNode:
		path, ok := u.pipe(x.Pipe, at)
		if !ok {
			path = unknown
		}
		u.list(x.List, path)
		u.list(x.ElseList, at)
	case *parse.RangeNode:
		path, ok := u.pipe(x.Pipe, at)
		inner := path + "[]"
		if !ok {
			inner = unknown
		}
		if vars := x.Pipe.Decl; len(vars) > 0 {
			u.set(vars[len(vars)-1].Ident[0], inner)
		}
		u.list(x.List, inner)
		u.list(x.ElseList, at)
	case *parse.TemplateNode:
		path, ok := at, true
		if x.Pipe != nil {
			path, ok = u.pipe(x.Pipe, at)
		}
		if tree := u.trees[x.Name]; tree != nil && ok && !u.done[x.Name+" "+path] {
			u.done[x.Name+" "+path] = true
			u.list(tree.Root, path)
		}
	}
}

// unknown is a dot whose place in the record cannot be told.
const unknown = "\x00"

func (u *usage) set(name, path string) {
	if u.vars == nil {
		u.vars = map[string]string{}
	}
	u.vars[name] = path
}

// pipe notes what a pipeline uses, and tells the path that it leads to when it
// is a field alone.
func (u *usage) pipe(p *parse.PipeNode, at string) (path string, ok bool) {
	for _, c := range p.Cmds {
		path, ok = u.command(c, at)
	}
	if len(p.Cmds) != 1 {
		ok = false
	}
	if ok && len(p.Decl) == 1 {
		u.set(p.Decl[0].Ident[0], path)
	}
	return path, ok
}

func (u *usage) command(c *parse.CommandNode, at string) (path string, ok bool) {
	last, any := "", false // the path before, which is "" for the record itself
	for i, a := range c.Args {
		switch x := a.(type) {
		case *parse.DotNode:
			path, ok = at, true
		case *parse.FieldNode:
			path, ok = u.use(at, x.Ident), true
		case *parse.VariableNode:
			path, ok = u.variable(x)
		case *parse.ChainNode:
			if pipe, isPipe := x.Node.(*parse.PipeNode); isPipe {
				u.pipe(pipe, at)
			}
		case *parse.PipeNode:
			path, ok = u.pipe(x, at)
		case *parse.StringNode: // sum .lines "price": a field of the list before
			if i > 0 && any && last != unknown && plainName(x.Text) {
				name, isIdent := c.Args[0].(*parse.IdentifierNode)
				if isIdent && ofList[name.Ident] && last != "" {
					u.use(last+"[]", strings.Split(x.Text, "."))
				} else if isIdent && ofRecord[name.Ident] {
					u.use(last, strings.Split(x.Text, "."))
				}
			}
			continue
		}
		if ok {
			last, any = path, true
		}
	}
	if name, called := c.Args[0].(*parse.IdentifierNode); called && sameEntries[name.Ident] && any {
		return last, true
	}
	return path, ok && len(c.Args) == 1
}

// Functions that give entries of the list before it.
var sameEntries = map[string]bool{"sortBy": true, "where": true, "priced": true}

// Functions that name a field of the list, or of the record, before it.
var (
	ofList   = map[string]bool{"sum": true, "sortBy": true, "groupBy": true, "where": true, "least": true, "greatest": true, "running": true, "taxes": true, "priced": true, "pluck": true, "bars": true, "line": true, "pie": true}
	ofRecord = map[string]bool{"has": true, "default": true}
)

func plainName(s string) bool {
	return s != "" && strings.Trim(s, "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_.") == ""
}

func (u *usage) variable(x *parse.VariableNode) (string, bool) {
	base, ok := "", x.Ident[0] == "$"
	if !ok {
		base, ok = u.vars[x.Ident[0]]
	}
	if !ok {
		return "", false
	}
	if len(x.Ident) == 1 {
		return base, true
	}
	return u.use(base, x.Ident[1:]), true
}

// use notes a field and its parents.
func (u *usage) use(at string, names []string) string {
	path := at
	for _, n := range names {
		if path != "" {
			path += "."
		}
		path += n
	}
	if !strings.Contains(path, unknown) {
		u.seen[path] = true
	}
	return path
}
