package merge

import (
	"errors"
	"fmt"
	"html/template"
	"regexp"
	"slices"
	"strconv"
	"strings"
	text "text/template"
	"text/template/parse"

	"oliveledger/record"
)

var wherePattern = regexp.MustCompile(`template: ?(([^:]+):(\d+)(?::\d+)?): `)

// explain says which record, which field and which line of the template an error of
// merging is about.
func (t *Template) explain(r record.Record, err error) error {
	msg := err.Error()
	where := t.Name
	var fields []string
	if m := wherePattern.FindStringSubmatch(msg); m != nil {
		where = strings.TrimPrefix(fmt.Sprintf("%s: %s line %s", t.Name, m[2], m[3]), ": ")
		fields = t.fieldsAt(m[1])
	}
	var missing *fieldError
	if errors.As(err, &missing) {
		return fmt.Errorf("%s: %w (%s)", r.Name(), missing, where)
	}
	return fmt.Errorf("%s: %s%s (%s)", r.Name(), named(fields), causeOf(err), where)
}

// causeOf is what a function said, or the library of what it could not do.
func causeOf(err error) string {
	if in := (text.ExecError{}); errors.As(err, &in) {
		if cause := errors.Unwrap(in.Err); cause != nil {
			return cause.Error()
		}
	}
	if in := (*template.Error)(nil); errors.As(err, &in) {
		return in.Description
	}
	what := err.Error()
	if i := strings.LastIndex(what, ">: "); i >= 0 {
		what = what[i+3:]
	}
	return what
}

// namesOf splits a field with dots.
func namesOf(path string) []string { return strings.Split(path, ".") }

// named begins a message about fields.
func named(fields []string) string {
	var quoted []string
	for _, f := range fields {
		if q := strconv.Quote(f); !slices.Contains(quoted, q) {
			quoted = append(quoted, q)
		}
	}
	switch n := len(quoted); n {
	case 0:
		return ""
	case 1:
		return "the field " + quoted[0] + ": "
	default:
		return "the fields " + strings.Join(quoted[:n-1], ", ") + " and " + quoted[n-1] + ": "
	}
}

// lineOnly is a place of the template without its column.
func lineOnly(where string) string {
	parts := strings.Split(where, ":")
	if len(parts) < 2 {
		return where
	}
	return parts[0] + " line " + parts[1]
}

// plain drops the library's prefix from a parse error.
func plain(err error) string {
	msg := err.Error()
	if m := wherePattern.FindStringSubmatch(msg); m != nil {
		return m[2] + " line " + m[3] + ": " + strings.Replace(msg, m[0], "", 1)
	}
	return msg
}

// fieldsAt lists the fields that the call at a place of the template takes.
func (t *Template) fieldsAt(place string) []string {
	for _, tree := range t.trees() {
		if !strings.HasPrefix(place, tree.ParseName+":") {
			continue
		}
		var found []string
		eachPipe(tree.Root, func(p *parse.PipeNode) {
			for i, c := range p.Cmds {
				if at, _ := tree.ErrorContext(c); at != place || found != nil {
					continue
				}
				found = fieldsOf(c.Args)
				if i > 0 {
					found = append(found, fieldsOf(p.Cmds[i-1].Args)...)
				}
			}
		})
		if len(found) > 0 {
			return found
		}
	}
	return nil
}

// trees are all parts of the template, and the pattern of its file names.
func (t *Template) trees() []*parse.Tree {
	list := []*parse.Tree{t.file.Tree}
	for _, p := range t.page.Templates() {
		if p.Tree != nil {
			list = append(list, p.Tree)
		}
	}
	return list
}

// calls tells whether a part of the template calls a function.
func calls(tree *parse.Tree, function string) (found bool) {
	eachPipe(tree.Root, func(p *parse.PipeNode) {
		for _, c := range p.Cmds {
			for _, a := range c.Args {
				name, ok := a.(*parse.IdentifierNode)
				found = found || ok && name.Ident == function
			}
		}
	})
	return found
}

// fieldsOf lists the fields among arguments.
func fieldsOf(args []parse.Node) (list []string) {
	if name, ok := args[0].(*parse.IdentifierNode); ok && (name.Ident == fieldName || name.Ident == maybeName) {
		var names []string
		for _, a := range args[2:] {
			names = append(names, a.(*parse.StringNode).Text)
		}
		return []string{strings.Join(names, ".")}
	}
	for _, a := range args {
		if p, ok := a.(*parse.PipeNode); ok && len(p.Cmds) == 1 && len(p.Cmds[0].Args) > 1 {
			list = append(list, fieldsOf(p.Cmds[0].Args)...)
		}
	}
	return list
}

// eachPipe visits all pipelines of a template, also those in parentheses.
func eachPipe(n parse.Node, visit func(*parse.PipeNode)) {
	branch := func(b *parse.BranchNode) {
		eachPipe(b.Pipe, visit)
		eachPipe(b.List, visit)
		if b.ElseList != nil {
			eachPipe(b.ElseList, visit)
		}
	}
	switch x := n.(type) {
	case *parse.ListNode:
		for _, k := range x.Nodes {
			eachPipe(k, visit)
		}
	case *parse.ActionNode:
		eachPipe(x.Pipe, visit)
	case *parse.IfNode:
		branch(&x.BranchNode)
	case *parse.WithNode:
		branch(&x.BranchNode)
	case *parse.RangeNode:
		branch(&x.BranchNode)
	case *parse.TemplateNode:
		if x.Pipe != nil {
			eachPipe(x.Pipe, visit)
		}
	case *parse.PipeNode:
		visit(x)
		for _, c := range x.Cmds {
			for _, a := range c.Args {
				eachPipe(a, visit)
			}
		}
	}
}
