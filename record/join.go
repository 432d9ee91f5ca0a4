package record

import (
	"fmt"
	"maps"
	"slices"
	"strings"
)

// Source hands out records one by one.
type Source func(visit func(Record) error) error

// File is the source of a file's records.
func File(name string, o Options) Source {
	return func(visit func(Record) error) error { return EachFile(name, o, visit) }
}

// Join says how the rows of two sources belong together, such as invoices and
// their lines.
type Join struct {
	Key     string // field of the parent record, with dots
	LineKey string // field of the lines; the same when empty
	Into    string // field of the parent that gets the list of its lines
}

var unspaced = strings.NewReplacer(" ", "", "_", "", "-", "")

// PlainName is a field's name without what people forget: case, spaces and dashes.
func PlainName(s string) string { return strings.ToLower(unspaced.Replace(s)) }

// alike suggests a field whose name differs in nothing but case, spaces and dashes.
func alike(data map[string]any, name string) string {
	for _, k := range slices.Sorted(maps.Keys(data)) {
		if PlainName(k) == PlainName(name) {
			return fmt.Sprintf("; did you mean %q?", k)
		}
	}
	return ""
}

// Each reads the parents, each with the list of its lines. The lines are held
// in memory, the parents are not. Lines that no parent has are told through
// lost, with the first key.
func (j Join) Each(parents, lines Source, lost func(n int, key string), visit func(Record) error) error {
	if j.LineKey == "" {
		j.LineKey = j.Key
	}
	byKey := map[string][]any{}
	used := map[string]bool{}
	var order []string
	err := lines(func(r Record) error {
		v, ok := r.Field(j.LineKey)
		if !ok || v == nil {
			return fmt.Errorf("line %d of the lines: the field %q, which names the record that it belongs to, is missing%s", r.Line, j.LineKey, alike(r.Data, j.LineKey))
		}
		key := fmt.Sprint(v)
		if byKey[key] == nil {
			order = append(order, key)
		}
		byKey[key] = append(byKey[key], r.Data)
		return nil
	})
	if err != nil {
		return err
	}
	err = parents(func(r Record) error {
		v, ok := r.Field(j.Key)
		if !ok || v == nil {
			return fmt.Errorf("%s: the field %q, which its lines are found by, is missing%s", r.Name(), j.Key, alike(r.Data, j.Key))
		}
		key := fmt.Sprint(v)
		list := byKey[key]
		if list == nil {
			list = []any{}
		}
		used[key] = true
		Put(r.Data, j.Into, list)
		return visit(r)
	})
	if err != nil {
		return err
	}
	n, first := 0, ""
	for _, key := range order {
		if !used[key] {
			n += len(byKey[key])
			if first == "" {
				first = key
			}
		}
	}
	if n > 0 && lost != nil {
		lost(n, first)
	}
	return nil
}
