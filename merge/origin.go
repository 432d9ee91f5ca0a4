package merge

import (
	"bytes"
	"errors"
	"sort"
	"strings"
	"text/template/parse"
)

// Merged is a template filled with one record.
type Merged struct {
	HTML     []byte
	template *Template
	writes   []write
}

// write is a stretch of the merged page: text of the template, or what an action
// gave.
type write struct {
	start int
	first *byte // of the slice that was written; it tells the template's texts apart
}

// mostMerged bounds a merged page, so that a merge ends.
const mostMerged = 256 << 20

// Write takes a stretch from the template while it is filled.
func (m *Merged) Write(p []byte) (int, error) {
	if len(p) == 0 {
		return 0, nil
	}
	if len(m.HTML)+len(p) > mostMerged {
		return 0, errors.New("the merged page grows beyond 256 MiB")
	}
	m.writes = append(m.writes, write{len(m.HTML), &p[0]})
	m.HTML = append(m.HTML, p...)
	return len(p), nil
}

// Origin is the place in the template's files that a place in the merged page
// comes from. Lines and columns count from 1, columns in bytes. What an action
// gave comes from that action. The file is empty when the place is not known.
func (m *Merged) Origin(line, column int) (file string, fromLine, fromColumn int) {
	at := offset(m.HTML, line, column)
	if at < 0 {
		return "", 0, 0
	}
	texts := m.template.texts()
	k := sort.Search(len(m.writes), func(i int) bool { return m.writes[i].start > at }) - 1
	for ; k >= 0; k-- {
		t, ok := texts[m.writes[k].first]
		if !ok {
			continue
		}
		source := m.template.sources[t.file]
		fromLine, fromColumn = lineOf(source, t.in(source, min(at-m.writes[k].start, len(t.node.Text))))
		return t.file, fromLine, fromColumn
	}
	return "", 0, 0
}

// offset is the byte at a line and column, or -1.
func offset(text []byte, line, column int) int {
	at := 0
	for ; line > 1; line-- {
		n := bytes.IndexByte(text[at:], '\n')
		if n < 0 {
			return -1
		}
		at += n + 1
	}
	if at += column - 1; line < 1 || at < 0 || at > len(text) {
		return -1
	}
	return at
}

func lineOf(text string, at int) (line, column int) {
	before := text[:min(at, len(text))]
	return strings.Count(before, "\n") + 1, len(before) - strings.LastIndexByte(before, '\n')
}

// sourceText is a text between actions, and the file that it stands in.
type sourceText struct {
	node *parse.TextNode
	file string
}

// comments are those of HTML, style sheets and scripts.
var comments = [][2]string{{"<!--", "-->"}, {"/*", "*/"}, {"//", "\n"}}

// in is where n bytes into the text stand in the source of its file. Comments
// are not among the text: the library takes them out.
func (t sourceText) in(source string, n int) int {
	at := int(t.node.Pos)
	for i := 0; i < n && at < len(source); {
		switch skip := dropped(source[at:], t.node.Text[i:]); {
		case skip > 0:
			at += skip
		case source[at] == t.node.Text[i]:
			at, i = at+1, i+1
		case t.node.Text[i] == ' ' || t.node.Text[i] == '\n': // it stands for a comment
			i++
		default:
			at++
		}
	}
	return at
}

// dropped is the length of the comment that source begins with, when text does
// not have it.
func dropped(source string, text []byte) int {
	for _, c := range comments {
		if strings.HasPrefix(source, c[0]) && !bytes.HasPrefix(text, []byte(c[0])) {
			if end := strings.Index(source[len(c[0]):], c[1]); end >= 0 {
				return len(c[0]) + end + len(c[1])
			}
			return len(source)
		}
	}
	return 0
}

// texts finds the template's texts by their first byte, which is the very one
// that is written when they are.
func (t *Template) texts() map[*byte]sourceText {
	t.indexing.Do(func() {
		t.index = map[*byte]sourceText{}
		for _, p := range t.page.Templates() {
			if p.Tree != nil && p.Tree.Root != nil {
				t.indexTexts(p.Tree.ParseName, p.Tree.Root)
			}
		}
	})
	return t.index
}

func (t *Template) indexTexts(file string, list *parse.ListNode) {
	if list == nil {
		return
	}
	for _, n := range list.Nodes {
		switch x := n.(type) {
		case *parse.TextNode:
			if len(x.Text) > 0 {
				t.index[&x.Text[0]] = sourceText{x, file}
			}
		case *parse.IfNode:
			t.indexTexts(file, x.List)
			t.indexTexts(file, x.ElseList)
		case *parse.WithNode:
			t.indexTexts(file, x.List)
			t.indexTexts(file, x.ElseList)
		case *parse.RangeNode:
			t.indexTexts(file, x.List)
			t.indexTexts(file, x.ElseList)
		}
	}
}
