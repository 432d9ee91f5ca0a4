package api

import (
	"reflect"
	"regexp"
	"strings"

	"oliveledger/internal/service/deliver"
)

// ShownField is a field of a struct that the description shows.
type ShownField struct{ Type, Field, JSON string }

// Operation names the way into the API that a request takes, as the description has it.
func Operation(method, path string) string {
	for _, r := range routes() {
		pattern, _ := pathOf(r.path)
		form := regexp.MustCompile("^" + regexp.MustCompile(`\\\{[a-z]+\\\}`).ReplaceAllString(regexp.QuoteMeta(pattern), "[^/]+") + "$")
		if r.method == method && form.MatchString(path) {
			return method + " " + pattern
		}
	}
	return ""
}

// Common tells of fields that mean the same wherever they stand.
func Common(field string) string { return common[field] }

// Shown lists the fields that bodies have, of all routes and of the messages to webhooks.
func Shown() (list []ShownField) {
	seen := map[reflect.Type]bool{}
	var visit func(t reflect.Type)
	visit = func(t reflect.Type) {
		switch t.Kind() {
		case reflect.Pointer, reflect.Slice, reflect.Array, reflect.Map:
			visit(t.Elem())
		case reflect.Struct:
			if seen[t] || t == timeType || t.Implements(textType) {
				return
			}
			seen[t] = true
			for i := range t.NumField() {
				f := t.Field(i)
				name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
				if name == "-" || !f.IsExported() && !f.Anonymous {
					continue
				}
				visit(f.Type)
				if !f.Anonymous {
					kind, _, _ := strings.Cut(t.Name(), "[")
					list = append(list, ShownField{kind, f.Name, name})
				}
			}
		}
	}
	visit(reflect.TypeFor[deliver.Notice]())
	for _, r := range routes() {
		for _, v := range []any{r.in, r.out} {
			if v != nil && reflect.TypeOf(v) != rawType {
				visit(reflect.TypeOf(v))
			}
		}
	}
	visit(reflect.TypeFor[Problem]())
	return list
}
