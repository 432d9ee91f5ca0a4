package api

import (
	"cmp"
	_ "embed"
	"encoding"
	"encoding/json"
	"reflect"
	"regexp"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"oliveledger/typeset"
)

// schemas are the shapes of bodies by their name, made from Go's types.
type schemas map[string]any

var (
	timeType = reflect.TypeFor[time.Time]()
	rawType  = reflect.TypeFor[json.RawMessage]()
	textType = reflect.TypeFor[encoding.TextMarshaler]()
)

// of is the schema of a type; that of a named struct is kept under its name.
func (s schemas) of(t reflect.Type) object {
	switch {
	case t == timeType:
		return object{"type": "string", "format": "date-time"}
	case t == rawType: // what is passed on as it is: a record, unless its field tells something else
		return object{"type": "object", "additionalProperties": true}
	case t.Implements(textType):
		return object{"type": "string"}
	}
	switch t.Kind() {
	case reflect.Pointer:
		return s.of(t.Elem())
	case reflect.String:
		return object{"type": "string"}
	case reflect.Bool:
		return object{"type": "boolean"}
	case reflect.Float64:
		return object{"type": "number"}
	case reflect.Slice, reflect.Array:
		if t.Elem().Kind() == reflect.Uint8 {
			return object{"type": "string", "contentEncoding": "base64"}
		}
		return object{"type": "array", "items": s.of(t.Elem())}
	case reflect.Map:
		return object{"type": "object", "additionalProperties": s.of(t.Elem())}
	case reflect.Struct:
		return s.ref(t)
	case reflect.Interface: // anything
		return object{}
	}
	return object{"type": "integer"}
}

func (s schemas) ref(t reflect.Type) object {
	name := schemaName(t)
	if _, known := s[name]; !known {
		s[name] = object{} // for types that hold themselves
		props, required := object{}, []string{}
		s.fields(t, props, &required)
		s[name] = object{"type": "object", "properties": props, "required": required}
	}
	return object{"$ref": "#/components/schemas/" + name}
}

var generic = regexp.MustCompile(`^List\[.*[./](\w+)\]$`)

func schemaName(t reflect.Type) string {
	if m := generic.FindStringSubmatch(t.Name()); m != nil {
		return m[1] + "List"
	}
	return t.Name()
}

// fields adds the JSON fields of a struct, with those of structs inside it.
func (s schemas) fields(t reflect.Type, props object, required *[]string) {
	for i := range t.NumField() {
		f := t.Field(i)
		tag := f.Tag.Get("json")
		if f.Anonymous && tag == "" {
			inner := f.Type
			if inner.Kind() == reflect.Pointer {
				inner = inner.Elem()
				required = new([]string) // it may be missing
			}
			s.fields(inner, props, required)
			continue
		}
		name, opts, _ := strings.Cut(tag, ",")
		if name == "-" || !f.IsExported() {
			continue
		}
		if name == "" {
			name = f.Name
		}
		props[name] = s.described(t, f)
		if !strings.Contains(opts, "omit") {
			*required = append(*required, name)
		}
	}
}

// described is the schema of a field, with what it means and the values that it may have.
func (s schemas) described(t reflect.Type, f reflect.StructField) object {
	p := s.of(f.Type)
	if f.Tag.Get("holds") == "findings" {
		p = s.of(reflect.TypeFor[[]typeset.Finding]())
	}
	if _, isRef := p["$ref"]; isRef { // what stands beside a reference counts too (OpenAPI 3.1)
		p = object{"$ref": p["$ref"]}
	}
	if values := f.Tag.Get("oneof"); values != "" {
		one := p
		if items, isList := p["items"].(object); isList {
			one = items
		}
		one["enum"] = strings.Fields(values)
	}
	kind, _, _ := strings.Cut(t.Name(), "[")
	if text := cmp.Or(words[kind+"."+f.Name], common[f.Name]); text != "" {
		p["description"] = sentence(text)
	}
	return p
}

// common are fields that mean the same wherever they stand.
var common = map[string]string{
	"ID":           "its number, which never changes",
	"Author":       "who made it: a person's address, or “key” and the name of a key",
	"CreatedAt":    "when it was made",
	"Revision":     "counts its changes; the ETag is made of it",
	"RecordSetID":  "the set that its records are of; 0 for none",
	"RecordSet":    "the set that its records are of",
	"Version":      "of the template",
	"DocumentID":   "the document that it is about",
	"Document":     "the document that it is about",
	"SHA256":       "checksum of the file, in hex",
	"RecordSHA256": "checksum of the record as it was merged, in hex",
	"Bytes":        "size of the file",
	"Pages":        "how many it has",
	"Reason":       "why, in words",
}

// sentence is a comment as a sentence.
func sentence(text string) string {
	r, size := utf8.DecodeRuneInString(text)
	return strings.TrimSuffix(string(unicode.ToUpper(r))+text[size:], ".") + "."
}

//go:embed words.json
var wordsFile []byte

// words are the comments of structs' fields in the source, by the names of type and field. A test holds the two
// against each other, and writes the file.
var words = func() (out map[string]string) {
	if err := json.Unmarshal(wordsFile, &out); err != nil {
		panic("words.json: " + err.Error()) // it is built in
	}
	return out
}()
