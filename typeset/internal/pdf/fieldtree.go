package pdf

import (
	"fmt"
	"strings"
)

// fieldTree is the hierarchy of a form's fields: the name of a field is those of the nodes
// above it and its own, with full stops between (§12.7.4.2).
type fieldTree struct {
	w     *Writer
	tops  []Ref
	ends  map[string]bool       // the full names of fields, which hold no others
	above map[string]*fieldNode // by their full names
	order []*fieldNode
}

// fieldNode is a part of the names of several fields.
type fieldNode struct {
	id    Ref
	entry string // its name and the node above
	kids  string
}

// add puts a field into the tree. It gives the entries of its name and of the node above.
func (t *fieldTree) add(name string, id Ref) string {
	around, own := "", name
	if i := strings.LastIndexByte(name, '.'); i > 0 && i < len(name)-1 && !t.ends[name[:i]] {
		around, own = name[:i], name[i+1:]
	}
	own = strings.ReplaceAll(own, ".", " ")
	if around == "" {
		t.tops = append(t.tops, id)
		return "/T" + text(own)
	}
	up := t.above[around]
	if up == nil {
		up = &fieldNode{id: t.w.alloc()}
		up.entry = t.add(around, up.id)
		t.above[around] = up
		t.order = append(t.order, up)
	}
	up.kids += id.String() + " "
	return fmt.Sprintf("/T%s/Parent %s", text(own), up.id)
}

// write writes the nodes.
func (t *fieldTree) write() {
	for _, n := range t.order {
		t.w.object(n.id, "<<"+n.entry+"/Kids["+n.kids+"]>>")
	}
}
