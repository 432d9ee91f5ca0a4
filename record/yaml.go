package record

import (
	"bufio"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"

	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"
)

// eachYAML reads YAML documents, or the entries of one whose top level is a
// list. Documents, and entries that begin with a dash in the first column, are
// read one by one.
func eachYAML(r io.Reader, o Options, visit func(Record) error) error {
	y := &yamlReader{Options: &o, visit: visit}
	sc := bufio.NewScanner(r)
	sc.Buffer(make([]byte, 1<<16), maxLine)
	line := 0
	for sc.Scan() {
		line++
		text := sc.Text()
		begins := strings.HasPrefix(text, "- ") || text == "-"
		mark := text == "---" || text == "..." || strings.HasPrefix(text, "--- ")
		if (mark || begins && y.list && o.Path == "") && !y.blockText {
			if err := y.flush(); err != nil {
				return err
			}
			y.first = line
			if mark {
				y.list = false
				continue
			}
		}
		if !y.seen() {
			y.first = line
			y.list = begins
		}
		y.buf.WriteString(text)
		y.buf.WriteByte('\n')
	}
	if err := lineError(sc); err != nil {
		return err
	}
	if err := y.flush(); err != nil {
		return err
	}
	if y.n == 0 && !y.failed {
		return o.fail(0, 0, "the file holds no record; it should hold a mapping, or a list of mappings")
	}
	return nil
}

type yamlReader struct {
	*Options
	visit     func(Record) error
	buf       bytes.Buffer
	first     int // the line that buf begins with
	n         int
	list      bool // the document is a list
	blockText bool
	failed    bool
}

// seen tells whether the piece so far holds more than comments.
func (y *yamlReader) seen() bool {
	for l := range bytes.Lines(y.buf.Bytes()) {
		if l = bytes.TrimSpace(l); len(l) > 0 && l[0] != '#' && l[0] != '%' {
			return true
		}
	}
	return false
}

// flush reads the piece that is complete.
func (y *yamlReader) flush() error {
	if !y.seen() {
		y.buf.Reset()
		return nil
	}
	text := bytes.Clone(y.buf.Bytes())
	y.buf.Reset()
	var file *ast.File
	err := tooNested(text)
	if err == nil {
		file, err = parser.ParseBytes(text, 0)
	}
	if err != nil {
		y.n++
		y.failed = true
		return y.bad(y.fail(y.first, 0, "%s", firstLine(err.Error())))
	}
	for _, doc := range file.Docs {
		if doc.Body == nil {
			continue
		}
		c := &yamlValues{anchors: map[string]anchored{}}
		v, err := c.value(doc.Body, 0)
		if err == nil && y.Path != "" {
			v, err = dig(v, y.Path)
		}
		if err != nil {
			y.n++
			y.failed = true
			if err := y.bad(y.fail(y.first, 0, "%w", err)); err != nil {
				return err
			}
			continue
		}
		if err := y.records(v); err != nil {
			return err
		}
	}
	return nil
}

// tooNested finds text that nests so deeply that parsing it would take all there is of memory. What
// stands in quotes is looked at alike: brackets without their ends are rare there, too.
func tooNested(text []byte) error {
	flow, run := 0, 0 // open brackets; marks of entries one after the other, as in “- - -”
	for i, b := range text {
		switch b {
		case '[', '{':
			flow++
		case ']', '}':
			flow = max(flow-1, 0)
		case '-', '?', ':':
			if i+1 < len(text) && text[i+1] == ' ' {
				run++
			}
		case ' ':
		default:
			run = 0
		}
		if flow > maxDepth || run > maxDepth {
			return fmt.Errorf("the record nests deeper than %d levels", maxDepth)
		}
	}
	return nil
}

func (y *yamlReader) records(v any) error {
	list, isList := v.([]any)
	if !isList {
		list = []any{v}
	}
	for _, e := range list {
		y.n++
		data, ok := e.(map[string]any)
		if !ok {
			y.failed = true
			if err := y.bad(y.fail(y.first, 0, "entry %d is not a mapping", y.n)); err != nil {
				return err
			}
			continue
		}
		if err := y.emit(Record{y.n, y.first, data}, y.visit); err != nil {
			return err
		}
	}
	return nil
}

func firstLine(s string) string {
	s, _, _ = strings.Cut(s, "\n")
	return s
}

// dig goes down the fields of a path.
func dig(v any, path string) (any, error) {
	for name := range strings.SplitSeq(path, ".") {
		m, ok := v.(map[string]any)
		if !ok {
			return nil, fmt.Errorf("what should hold the field %q is not a mapping (the way to the records is %q)", name, path)
		}
		if v, ok = m[name]; !ok {
			return nil, fmt.Errorf("there is no field %q on the way %q to the records", name, path)
		}
	}
	return v, nil
}

// yamlValues turns nodes into values. Numbers keep the digits that they were
// written with, which the library's own decoding would not.
type yamlValues struct {
	anchors map[string]anchored
	made    int // values, as many times as they stand in the record
}

// anchored is a value that aliases repeat.
type anchored struct {
	value any
	size  int // how many values it is made of
}

// mostValues bounds what aliases can blow up.
const mostValues = 2_000_000

var errTooMany = fmt.Errorf("the record holds more than %d values", mostValues)

func (c *yamlValues) value(n ast.Node, depth int) (any, error) {
	if c.made++; c.made > mostValues {
		return nil, errTooMany
	}
	if depth > maxDepth {
		return nil, fmt.Errorf("the record nests deeper than %d levels", maxDepth)
	}
	switch x := n.(type) {
	case *ast.MappingNode:
		m := map[string]any{}
		for _, v := range x.Values {
			if err := c.pair(m, v, depth); err != nil {
				return nil, err
			}
		}
		return m, nil
	case *ast.MappingValueNode:
		m := map[string]any{}
		return m, c.pair(m, x, depth)
	case *ast.SequenceNode:
		list := make([]any, 0, len(x.Values))
		for _, v := range x.Values {
			e, err := c.value(v, depth+1)
			if err != nil {
				return nil, err
			}
			list = append(list, e)
		}
		return list, nil
	case *ast.StringNode:
		return x.Value, nil
	case *ast.LiteralNode:
		return x.Value.Value, nil
	case *ast.BoolNode:
		return x.Value, nil
	case *ast.NullNode:
		return nil, nil
	case *ast.IntegerNode:
		return yamlNumber(x.Token.Value, fmt.Sprint(x.Value)), nil
	case *ast.FloatNode:
		return yamlNumber(x.Token.Value, fmt.Sprint(x.Value)), nil
	case *ast.AnchorNode:
		before := c.made
		v, err := c.value(x.Value, depth+1)
		c.anchors[x.Name.String()] = anchored{v, c.made - before}
		return v, err
	case *ast.AliasNode:
		v, ok := c.anchors[x.Value.String()]
		if !ok {
			return nil, fmt.Errorf("the alias *%s has no anchor before it", x.Value.String())
		}
		if c.made += v.size; c.made > mostValues {
			return nil, errTooMany
		}
		return v.value, nil
	case *ast.TagNode:
		if s, ok := x.Value.(*ast.StringNode); ok || x.Start.Value == "!!str" {
			if ok {
				return s.Value, nil
			}
			return x.Value.GetToken().Value, nil
		}
		return c.value(x.Value, depth+1)
	}
	return n.GetToken().Value, nil
}

func (c *yamlValues) pair(m map[string]any, n *ast.MappingValueNode, depth int) error {
	v, err := c.value(n.Value, depth+1)
	if err != nil {
		return err
	}
	if n.Key.IsMergeKey() {
		return mergeInto(m, v)
	}
	key := n.Key.GetToken().Value
	if s, ok := n.Key.(*ast.StringNode); ok {
		key = s.Value
	}
	m[key] = v
	return nil
}

// mergeInto puts the fields of a mapping, or of each of a list of them, into another that lacks them: the
// first wins (YAML's merge key).
func mergeInto(m map[string]any, v any) error {
	switch x := v.(type) {
	case map[string]any:
		for k, e := range x {
			if _, set := m[k]; !set {
				m[k] = e
			}
		}
		return nil
	case []any:
		for _, e := range x {
			if err := mergeInto(m, e); err != nil {
				return err
			}
		}
		return nil
	}
	return errors.New("what << merges is not a mapping")
}

// yamlNumber keeps a number as written when JSON would write it so too. Digits with a zero
// before them are a code: it is text, as in the other formats, and no octal number.
func yamlNumber(written, value string) any {
	if plainNumber.MatchString(written) {
		return json.Number(written)
	}
	if leadingZeros.MatchString(written) {
		return written
	}
	if plainNumber.MatchString(value) {
		return json.Number(value)
	}
	return written
}
