package merge

import (
	"errors"
	"fmt"
	"html/template"
	"reflect"
)

// tolerant are the functions that answer for a missing field themselves.
var tolerant = map[string]bool{
	"has": true, "default": true, "choose": true, fieldName: true, maybeName: true, showName: true, shownName: true, eachName: true, anyName: true,
	"eq": true, "ne": true, "len": true, "count": true,
}

// Soften makes fields that a record lacks empty instead of an error. It is called before
// the first merge.
func (t *Template) Soften() {
	t.soft = true
	soft := template.FuncMap{}
	for name, f := range t.functions {
		if !tolerant[name] {
			soft[name] = softened(f)
		}
	}
	t.page.Funcs(soft)
	t.file.Funcs(soft)
}

// softened makes a function whose result is absent when one of its arguments is, or when
// it finds a field missing.
func softened(function any) func(args ...any) (any, error) {
	f := reflect.ValueOf(function)
	return func(args ...any) (any, error) {
		in := make([]reflect.Value, len(args))
		for i, a := range args {
			if _, gone := a.(absent); gone {
				return absent(nil), nil
			}
			var err error
			if in[i], err = argumentOf(f.Type(), i, a); err != nil {
				return nil, err
			}
		}
		if n := f.Type().NumIn(); len(in) < n-1 || len(in) < n && !f.Type().IsVariadic() {
			return nil, fmt.Errorf("the function takes %d values, not %d", n, len(in))
		}
		out := f.Call(in)
		if len(out) < 2 || out[1].IsNil() {
			return out[0].Interface(), nil
		}
		err := out[1].Interface().(error)
		if missing := (*fieldError)(nil); errors.As(err, &missing) {
			return absent(nil), nil
		}
		return nil, err
	}
}

// argumentOf is a value as the i-th parameter of a function.
func argumentOf(f reflect.Type, i int, v any) (reflect.Value, error) {
	var want reflect.Type
	switch {
	case f.IsVariadic() && i >= f.NumIn()-1:
		want = f.In(f.NumIn() - 1).Elem()
	case i < f.NumIn():
		want = f.In(i)
	default:
		return reflect.Value{}, fmt.Errorf("the function takes %d values, not more", f.NumIn())
	}
	if v == nil && want.Kind() == reflect.Interface {
		return reflect.Zero(want), nil
	}
	if got := reflect.ValueOf(v); got.IsValid() && got.Type().AssignableTo(want) {
		return got, nil
	}
	return reflect.Value{}, fmt.Errorf("%s is not what the function takes", called(v))
}
