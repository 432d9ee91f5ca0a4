package merge

import (
	"errors"
	"fmt"
	"strings"

	"github.com/agext/levenshtein"

	"oliveledger/record"
)

// absent is what a field that a record lacks is where templates are merged softly: it
// shows as nothing, is no test's truth, and what is computed from it is absent, too.
type absent []struct{}

func (absent) String() string { return "" }

// fieldError is a field that cannot be used as the template does.
type fieldError struct {
	in   string // the entry of a list that it is a field of, if any
	path string // with dots, as the template writes it
	what string // is missing, is null, …
}

func (e *fieldError) Error() string { return fmt.Sprintf("%sthe field %q %s", e.in, e.path, e.what) }

// lookup follows names from a value to a field of it. ok is false when the record lacks
// the field, and the error then says so.
func lookup(from any, names []string) (v any, ok bool, err error) {
	v = from
	for i, name := range names {
		switch x := v.(type) {
		case map[string]any:
			next, has := x[name]
			if !has {
				return nil, false, &fieldError{"", strings.Join(names[:i+1], "."), "is missing; " + likely(x, name) + "add it to the record, or test for it with {{with}} or has"}
			}
			v = next
		case nil:
			return nil, false, &fieldError{"", strings.Join(names[:i+1], "."), "is missing: what should hold it is empty"}
		case absent:
			return nil, false, &fieldError{"", strings.Join(names[:i+1], "."), "is missing"}
		default:
			return nil, true, &fieldError{"", strings.Join(names[:i+1], "."), "cannot be there: what should hold it is " + called(v) + ", not a record"}
		}
	}
	return v, true, nil
}

// likely suggests the field that was meant.
func likely(data map[string]any, name string) string {
	best := closest(data, name)
	if best == "" {
		return ""
	}
	return fmt.Sprintf("did you mean %q? Otherwise ", best)
}

// closest is the field whose name differs least from one that is missing; "" when none is
// like it.
func closest(data map[string]any, name string) string {
	best, least := "", 3
	for k := range data {
		d := levenshtein.Distance(record.PlainName(k), record.PlainName(name), nil)
		if d <= (len(name)+1)/3 && (d < least || d == least && k < best) {
			best, least = k, d
		}
	}
	return best
}

// field is a field that the template computes with.
func (t *Template) field(from any, names ...string) (any, error) {
	v, ok, err := lookup(from, names)
	if !ok && t.soft {
		return absent(nil), nil
	}
	return v, err
}

// maybe is a field that the template tests: one that is missing is nothing.
func (t *Template) maybe(from any, names ...string) (any, error) {
	v, ok, err := lookup(from, names)
	if !ok {
		return nil, nil
	}
	return v, err
}

// show is a field that the template shows as it is: a hole in the document is an error.
func (t *Template) show(from any, names ...string) (any, error) {
	v, err := t.field(from, names...)
	if err != nil {
		return nil, err
	}
	return t.shown(strings.Join(names, "."), v)
}

// shown lets a value through that can be shown as text. The name is that of its field, or
// empty for what was worked out.
func (t *Template) shown(name string, v any) (any, error) {
	if t.soft && v == nil {
		return "", nil
	}
	what := ""
	switch x := v.(type) {
	case nil:
		what = "is null; give it a value, or write what stands for it with default"
	case string:
		if x == "" && name != "" && !t.soft {
			what = "is empty; give it a value, or write what stands for it with default"
		}
	case []any:
		what = fmt.Sprintf("is a list of %d and cannot be shown as text; go through it with range, or use join", len(x))
	case map[string]any:
		what = "is a record and cannot be shown as text; name one of its fields"
	}
	switch {
	case what == "":
		return v, nil
	case name == "":
		return nil, errors.New("what is to be shown " + what)
	}
	return nil, &fieldError{"", name, what}
}

// mostRepeats bounds what a number in range asks for.
const mostRepeats = 100_000

// eachOrNone is what range goes through that says what stands for nothing.
func (t *Template) eachOrNone(v any) (any, error) {
	if v == nil {
		return nil, nil
	}
	return t.each(v)
}

// each is what range goes through: a list, a record or so many numbers.
func (t *Template) each(v any) (any, error) {
	switch x := v.(type) {
	case nil:
		if t.soft {
			return nil, nil
		}
		return nil, errors.New("there is no list to go through; it is null")
	case string, bool:
		return nil, fmt.Errorf("%s is not a list", called(v))
	case Number, int:
		n, err := whole(x)
		if err == nil && n > mostRepeats {
			err = fmt.Errorf("%d repeats are too many; at most %d are allowed", n, mostRepeats)
		}
		return n, err
	}
	return v, nil
}
