package merge

import (
	"cmp"
	"errors"
	"fmt"
	"strings"
	"time"
)

// comparisons are the tests of templates over all that a record holds: numbers, text
// that is a number where the other side is one, and dates.
func (t *tools) comparisons() map[string]any {
	ordered := func(holds func(c int) bool) func(a, b any) (bool, error) {
		return func(a, b any) (bool, error) {
			c, err := t.order(a, b)
			return err == nil && holds(c), err
		}
	}
	return map[string]any{
		"eq": t.equalsAny, "ne": func(a, b any) (bool, error) { is, err := t.equal(a, b); return !is, err },
		"lt": ordered(func(c int) bool { return c < 0 }), "le": ordered(func(c int) bool { return c <= 0 }),
		"gt": ordered(func(c int) bool { return c > 0 }), "ge": ordered(func(c int) bool { return c >= 0 }),
	}
}

// equalsAny tells whether a value is one of several.
func (t *tools) equalsAny(v any, others ...any) (bool, error) {
	if len(others) == 0 {
		return false, errors.New("there is nothing to compare with")
	}
	for _, o := range others {
		if is, err := t.equal(v, o); is || err != nil {
			return is, err
		}
	}
	return false, nil
}

// equal compares two values. Text is only equal to a number that it spells; two texts
// are equal letter by letter.
func (t *tools) equal(a, b any) (bool, error) {
	for _, v := range []any{a, b} {
		switch v.(type) {
		case []any, map[string]any:
			return false, fmt.Errorf("%s cannot be compared", called(v))
		}
	}
	if a == nil || b == nil {
		return a == nil && b == nil, nil
	}
	if isNumber(a) || isNumber(b) {
		x, errX := amount(a)
		y, errY := amount(b)
		return errX == nil && errY == nil && x.Equal(y), nil
	}
	if isTime(a) || isTime(b) {
		x, errX := t.moment(a)
		y, errY := t.moment(b)
		return errX == nil && errY == nil && x.Equal(y), nil
	}
	if isAnswer(a) || isAnswer(b) { // true is “true” or “TRUE” in files without types
		return strings.EqualFold(fmt.Sprint(a), fmt.Sprint(b)), nil
	}
	return fmt.Sprint(a) == fmt.Sprint(b), nil
}

// order compares two values by size: numbers, dates, or text letter by letter. Two texts
// that are both numbers or both dates are compared as such, as files without types have
// them.
func (t *tools) order(a, b any) (int, error) {
	for _, v := range []any{a, b} {
		switch v.(type) {
		case nil:
			return 0, errors.New("there is no value to compare")
		case []any, map[string]any, bool:
			return 0, fmt.Errorf("%s cannot be compared by size", called(v))
		}
	}
	x, errX := amount(a)
	y, errY := amount(b)
	switch {
	case errX == nil && errY == nil:
		return x.Cmp(y), nil
	case isNumber(a):
		return 0, fmt.Errorf("%s is not a number", called(b))
	case isNumber(b):
		return 0, fmt.Errorf("%s is not a number", called(a))
	}
	from, errFrom := t.moment(a)
	to, errTo := t.moment(b)
	switch {
	case errFrom == nil && errTo == nil:
		return from.Compare(to), nil
	case isTime(a), isTime(b):
		return 0, errors.Join(errFrom, errTo)
	}
	return cmp.Compare(fmt.Sprint(a), fmt.Sprint(b)), nil
}

// compare orders values of any kinds for sorting: those that cannot be compared by size
// by their text.
func (t *tools) compare(a, b any) int {
	if c, err := t.order(a, b); err == nil {
		return c
	}
	return strings.Compare(fmt.Sprint(a), fmt.Sprint(b))
}

func isAnswer(v any) bool { _, is := v.(bool); return is }

func isNumber(v any) bool {
	switch v.(type) {
	case Number, int, float64:
		return true
	}
	return false
}

func isTime(v any) bool {
	_, is := v.(time.Time)
	return is
}
