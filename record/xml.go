package record

import (
	"encoding/xml"
	"errors"
	"io"
	"slices"
	"strings"

	"golang.org/x/net/html/charset"
)

// eachElement reads XML. Records are the elements at the path, or all children
// of the root. Attributes and child elements become fields; one that occurs
// again becomes a list.
func eachElement(r io.Reader, o Options, visit func(Record) error) error {
	dec := xml.NewDecoder(r)
	dec.CharsetReader = charset.NewReaderLabel
	x := &xmlReader{Options: &o, dec: dec}
	var way []string
	if o.Path != "" {
		way = strings.Split(strings.Trim(o.Path, "/"), "/")
	}
	var open []string
	n := 0
	for {
		tok, err := dec.Token()
		if errors.Is(err, io.EOF) {
			if n == 0 {
				if o.Path != "" {
					return o.fail(0, 0, "there is no element on the way %q to the records", o.Path)
				}
				return o.fail(0, 0, "the file holds no record; they are the children of its root element")
			}
			return nil
		}
		if err != nil {
			return x.broken(err)
		}
		switch t := tok.(type) {
		case xml.StartElement:
			here := append(open, t.Name.Local)
			if !(way == nil && len(here) == 2 || way != nil && slices.Equal(here, way)) {
				open = here
				continue
			}
			n++
			line, _ := dec.InputPos()
			v, err := x.element(t, 0)
			if err != nil {
				return err
			}
			data, ok := v.(map[string]any)
			if !ok {
				if err := o.bad(o.fail(line, 0, "the element <%s> holds text alone, no fields", t.Name.Local)); err != nil {
					return err
				}
				continue
			}
			if err := o.emit(Record{n, line, data}, visit); err != nil {
				return err
			}
		case xml.EndElement:
			open = open[:len(open)-1]
		}
	}
}

type xmlReader struct {
	*Options
	dec *xml.Decoder
}

func (x *xmlReader) broken(err error) error {
	line, column := x.dec.InputPos()
	var se *xml.SyntaxError
	if errors.As(err, &se) {
		return x.fail(se.Line, column, "%s", se.Msg)
	}
	return x.fail(line, column, "%w", err)
}

// element reads the rest of an element: its text, or its fields.
func (x *xmlReader) element(start xml.StartElement, depth int) (any, error) {
	if depth > maxDepth {
		line, _ := x.dec.InputPos()
		return nil, x.fail(line, 0, "elements nest deeper than %d levels", maxDepth)
	}
	fields := map[string]any{}
	for _, a := range start.Attr {
		if a.Name.Space != "xmlns" && a.Name.Local != "xmlns" {
			fields[a.Name.Local] = a.Value
		}
	}
	var text strings.Builder
	for {
		tok, err := x.dec.Token()
		if err != nil {
			return nil, x.broken(err)
		}
		switch t := tok.(type) {
		case xml.StartElement:
			v, err := x.element(t, depth+1)
			if err != nil {
				return nil, err
			}
			x.add(fields, t.Name.Local, v)
		case xml.CharData:
			text.Write(t)
		case xml.EndElement:
			s := strings.TrimSpace(text.String())
			if len(fields) == 0 && !slices.Contains(x.Lists, start.Name.Local) {
				return s, nil
			}
			if s != "" {
				if len(fields) == 0 {
					return s, nil
				}
				fields["text"] = s
			}
			return fields, nil
		}
	}
}

func (x *xmlReader) add(fields map[string]any, name string, v any) {
	old, again := fields[name]
	switch list, isList := old.([]any); {
	case isList:
		fields[name] = append(list, v)
	case again:
		fields[name] = []any{old, v}
	case slices.Contains(x.Lists, name):
		fields[name] = []any{v}
	default:
		fields[name] = v
	}
}
