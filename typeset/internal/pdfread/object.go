// Package pdfread reads PDF files (ISO 32000-1, and AES-256 of 32000-2): their
// objects, pages and streams. Files may be damaged or hostile: the reader
// bounds what it takes, and rebuilds a lost cross-reference table.
package pdfread

import (
	"fmt"
	"sort"
	"strconv"
)

// Object is one of nil, bool, int64, float64, String, Name, Array, Dict,
// *Stream and Ref.
type Object any

// String is a string's bytes.
type String []byte

// Name is a name without its slash.
type Name string

// Array is a list of objects.
type Array []Object

// Dict is a dictionary.
type Dict map[Name]Object

// Ref leads to an indirect object.
type Ref struct{ Num, Gen int }

// Stream is a dictionary with data, still encoded by its filters.
type Stream struct {
	Dict Dict
	Raw  []byte
}

// Append writes an object in PDF's syntax. ref gives the number that a
// reference gets in the new file.
func Append(b []byte, o Object, ref func(Ref) int) []byte {
	switch v := o.(type) {
	case bool:
		return strconv.AppendBool(b, v)
	case int64:
		return strconv.AppendInt(b, v, 10)
	case float64:
		return strconv.AppendFloat(b, v, 'f', -1, 64)
	case String:
		return fmt.Appendf(b, "<%X>", []byte(v))
	case Name:
		return appendName(b, v)
	case Array:
		b = append(b, '[')
		for i, x := range v {
			if i > 0 {
				b = append(b, ' ')
			}
			b = Append(b, x, ref)
		}
		return append(b, ']')
	case Dict:
		return append(AppendEntries(append(b, "<<"...), v, ref), ">>"...)
	case Ref:
		return append(strconv.AppendInt(b, int64(ref(v)), 10), " 0 R"...)
	}
	return append(b, "null"...)
}

// AppendEntries writes the entries of a dictionary, in the order of their keys.
func AppendEntries(b []byte, d Dict, ref func(Ref) int) []byte {
	keys := make([]string, 0, len(d))
	for k := range d {
		keys = append(keys, string(k))
	}
	sort.Strings(keys)
	for _, k := range keys {
		b = append(appendName(b, Name(k)), ' ')
		b = Append(b, d[Name(k)], ref)
	}
	return b
}

func appendName(b []byte, n Name) []byte {
	b = append(b, '/')
	for i := range len(n) {
		if c := n[i]; c > ' ' && c < 127 && !delimiter(c) && c != '#' {
			b = append(b, c)
		} else {
			b = fmt.Appendf(b, "#%02X", c)
		}
	}
	return b
}
