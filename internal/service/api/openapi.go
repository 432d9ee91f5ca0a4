package api

import (
	"encoding"
	"encoding/json"
	"net/http"
	"reflect"
	"regexp"
	"strconv"
	"strings"
	"time"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/store"
)

// object is a piece of the description.
type object = map[string]any

// describe serves the API's description (OpenAPI 3.1).
func (a *API) describe(c *echo.Context) error { return c.JSON(http.StatusOK, a.Describe()) }

// Describe makes the description from the table of routes.
func (a *API) Describe() map[string]any {
	s := schemas{}
	s.of(reflect.TypeFor[Problem]())
	paths := object{}
	for _, r := range routes() {
		path, params := pathOf(r.path)
		at, ok := paths[path].(object)
		if !ok {
			at = object{}
			paths[path] = at
		}
		at[strings.ToLower(r.method)] = s.operation(r, params)
	}
	return object{
		"openapi": "3.1.0",
		"info": object{
			"title": "Olive Ledger", "version": "1", "summary": "Merges records into templates, sets them as PDF and keeps the documents",
			"description": "Errors are problem+json (RFC 9457). Lists take offset, limit and sort. POST takes an Idempotency-Key: a request that comes twice with the same key is done once. What can be edited has an ETag, and edits hear If-Match. The header Olive-Limits tells how large and long requests may be.",
		},
		"servers":    []object{{"url": "/api/v1"}},
		"security":   []object{{"key": []string{}}, {"session": []string{}}},
		"paths":      paths,
		"components": object{"schemas": s, "securitySchemes": object{"key": object{"type": "http", "scheme": "bearer", "description": "A key with scopes: " + strings.Join(store.AllScopes, ", ")}, "session": object{"type": "apiKey", "in": "cookie", "name": cookieName}}},
	}
}

var pathParam = regexp.MustCompile(`:([a-z]+)|\*`)

// pathOf turns a route's path into that of the description.
func pathOf(path string) (string, []string) {
	var params []string
	out := pathParam.ReplaceAllStringFunc(path, func(p string) string {
		name := strings.TrimPrefix(p, ":")
		if name == "*" {
			name = "path"
		}
		params = append(params, name)
		return "{" + name + "}"
	})
	return out, params
}

func (s schemas) operation(r route, params []string) object {
	op := object{"summary": r.summary, "operationId": operationID(r), "tags": []string{strings.Split(r.path, "/")[1]}}
	if r.scope == "" {
		op["security"] = []object{}
	} else {
		op["description"] = "Needs the scope " + r.scope + "."
	}
	list := []object{}
	text := object{"type": "string"}
	for _, p := range params {
		list = append(list, object{"name": p, "in": "path", "required": true, "schema": text})
	}
	for _, q := range r.query {
		list = append(list, object{"name": q.name, "in": "query", "description": q.about, "schema": text})
	}
	if r.edits {
		list = append(list, object{"name": "If-Match", "in": "header", "description": "the ETag that the edit was made from", "schema": text})
	}
	if r.method == http.MethodPost && !r.repeatable {
		list = append(list, object{"name": "Idempotency-Key", "in": "header", "description": "the same key is done once", "schema": text})
	}
	if len(list) > 0 {
		op["parameters"] = list
	}
	body := s.content(r.in, r.accepts)
	if len(r.parts) > 0 {
		files := object{}
		for _, name := range r.parts {
			files[name] = object{"type": "string", "format": "binary"}
		}
		body["multipart/form-data"] = object{"schema": object{"type": "object", "properties": files, "required": r.parts[:1]}}
	}
	if len(body) > 0 {
		op["requestBody"] = object{"required": true, "content": body}
	}
	status := r.status
	if status == 0 {
		status = http.StatusOK
	}
	good := object{"description": http.StatusText(status)}
	if content := s.content(r.out, r.gives); len(content) > 0 {
		good["content"] = content
	}
	op["responses"] = object{strconv.Itoa(status): good, "default": object{"description": "a problem", "content": object{"application/problem+json": object{"schema": object{"$ref": "#/components/schemas/Problem"}}}}}
	return op
}

// operationID is a name made of method and path.
func operationID(r route) string {
	id := strings.ToLower(r.method)
	for part := range strings.FieldsFuncSeq(r.path, func(r rune) bool { return r == '/' || r == ':' || r == '-' || r == '*' }) {
		id += strings.ToUpper(part[:1]) + part[1:]
	}
	if strings.HasSuffix(r.path, "*") {
		id += "File"
	}
	return id
}

func (s schemas) content(v any, other string) object {
	out := object{}
	if v != nil {
		out["application/json"] = object{"schema": s.of(reflect.TypeOf(v))}
	}
	if other != "" {
		out[other] = object{"schema": object{"type": "string", "format": "binary"}}
		switch other {
		case "text/event-stream":
			out[other] = object{}
		case "multipart/form-data", "application/x-www-form-urlencoded":
			out[other] = object{"schema": s.form(reflect.TypeOf(v))}
		}
	}
	return out
}

// form is what a form may hold: the text and numbers of a JSON body, a key, and files. Its
// other fields are the record's, with dots between levels.
func (s schemas) form(t reflect.Type) object {
	fields := object{"key": object{"type": "string", "description": "in the place of Authorization"}}
	for i := range t.NumField() {
		f := t.Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		switch f.Type.Kind() {
		case reflect.String, reflect.Int:
			fields[name] = s.of(f.Type)
		}
	}
	file := object{"type": "string", "format": "binary"}
	fields["record"] = object{"description": "JSON, or a file of it"}
	fields["files"] = object{"type": "array", "items": file, "description": "files of the template, by their names"}
	return object{"type": "object", "properties": fields, "additionalProperties": object{"type": "string"}}
}

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
	case t == rawType:
		return object{}
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
		return object{"type": []string{"array", "null"}, "items": s.of(t.Elem())}
	case reflect.Map:
		return object{"type": "object", "additionalProperties": s.of(t.Elem())}
	case reflect.Struct:
		return s.ref(t)
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
		props[name] = s.of(f.Type)
		if !strings.Contains(opts, "omit") {
			*required = append(*required, name)
		}
	}
}
