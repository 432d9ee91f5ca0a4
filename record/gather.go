package record

import (
	"fmt"
	"maps"
	"reflect"
	"slices"
)

// Gather makes one record of rows that follow each other and have the same key, as spreadsheets
// of invoices have a row for each line. Fields of the rows under Into, such as lines.text, become
// the entries of its list; the others are the record's, and stand in its first row at least.
type Gather struct {
	Key  string // field, with dots; a row without it belongs to the record above
	Into string // field that holds what a row has of its own, and gets the list of that
	Name string // of the file, for messages
}

func (g Gather) fault(format string, args ...any) error {
	return &RowError{Name: g.Name, Err: fmt.Errorf(format, args...)}
}

// Each reads rows and hands out the records. Rows of one key that stand apart, or that differ in
// what they say of the record, are an error which names both rows.
func (g Gather) Each(rows Source, visit func(Record) error) error {
	var now *gathered
	seen := map[string]int{} // the first row of each key
	n := 0
	end := func() error {
		if now == nil {
			return nil
		}
		n++
		now.Number = n
		Put(now.Data, g.Into, now.lines)
		return visit(now.Record)
	}
	err := rows(func(r Record) error {
		v, ok := r.Field(g.Key)
		if !ok {
			return g.fault("row %d: the field %q, which tells what record a row belongs to, is missing%s", r.Number, g.Key, alike(r.Data, g.Key))
		}
		key := ""
		if v != nil {
			key = fmt.Sprint(v)
		}
		line, err := g.lineOf(r)
		if err != nil {
			return err
		}
		if now != nil && (key == "" || key == now.key) {
			now.lines = append(now.lines, line)
			return now.agrees(g, r)
		}
		switch before := seen[key]; {
		case key == "":
			return g.fault("row %d: the field %q, which tells what record a row belongs to, is empty in the first row", r.Number, g.Key)
		case before > 0:
			return g.fault("rows %d and %d have the same %s, %s, and stand apart: sort the rows by it", before, r.Number, g.Key, key)
		}
		if err := end(); err != nil {
			return err
		}
		seen[key] = r.Number
		now = &gathered{Record: r, key: key, lines: []any{line}}
		return nil
	})
	if err != nil {
		return err
	}
	return end()
}

// gathered is a record that rows are added to.
type gathered struct {
	Record
	key   string
	lines []any
}

// lineOf takes what a row has of its own out of it.
func (g Gather) lineOf(r Record) (any, error) {
	v, ok := r.Field(g.Into)
	line, isMap := v.(map[string]any)
	if !ok || !isMap {
		return nil, g.fault("row %d: no field begins with %q: name those of the lines so, such as %s.text", r.Number, g.Into+".", g.Into)
	}
	Put(r.Data, g.Into, nil)
	return line, nil
}

// agrees tells whether a further row says the same of the record, or nothing.
func (now *gathered) agrees(g Gather, r Record) error {
	return same(now.Data, r.Data, "", func(field string, a, b any) error {
		return g.fault("rows %d and %d have the same %s, %s, but differ in %s: “%v” and “%v”", now.Number, r.Number, g.Key, now.key, field, a, b)
	})
}

// same compares the fields of b that are filled with those of a, level by level.
func same(a, b map[string]any, within string, differ func(field string, a, b any) error) error {
	for _, name := range slices.Sorted(maps.Keys(b)) {
		x, y := a[name], b[name]
		in, xMap := x.(map[string]any)
		deep, yMap := y.(map[string]any)
		var err error
		switch {
		case y == nil || y == "" || reflect.DeepEqual(x, y):
		case xMap && yMap:
			err = same(in, deep, within+name+".", differ)
		default:
			err = differ(within+name, x, y)
		}
		if err != nil {
			return err
		}
	}
	return nil
}
