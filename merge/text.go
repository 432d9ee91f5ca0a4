package merge

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/cases"
)

func (t *tools) upper(v any) (string, error) {
	s, err := textOf(v)
	return cases.Upper(t.tag).String(s), err
}

func (t *tools) lower(v any) (string, error) {
	s, err := textOf(v)
	return cases.Lower(t.tag).String(s), err
}

// mostPadding bounds widths and precisions in a format.
const mostPadding = 1000

// printf formats as Go does; what a verb cannot print is an error.
func printf(format string, args ...any) (string, error) {
	n := 0
	for _, c := range format {
		if c >= '0' && c <= '9' {
			n = min(n*10+int(c-'0'), mostPadding+1)
		} else {
			n = 0
		}
		if n > mostPadding {
			return "", fmt.Errorf("the format %q asks for more than %d characters", shortened(format), mostPadding)
		}
	}
	args = slices.Clone(args)
	for i, a := range args {
		s, err := textOf(a)
		if err != nil {
			return "", err
		}
		if n, err := readNumber(s); err == nil && !isNumber(a) { // it takes the verbs of numbers, too
			args[i] = n
		}
	}
	out := fmt.Sprintf(format, args...)
	if i := strings.Index(out, "%!"); i >= 0 && !strings.Contains(format, "%!") {
		return "", fmt.Errorf("the format %q does not fit: %s", format, shortened(out[i:]))
	}
	return out, nil
}

// printed joins values as text.
func printed(how func(...any) string) func(args ...any) (string, error) {
	return func(args ...any) (string, error) {
		for _, a := range args {
			if _, err := textOf(a); err != nil {
				return "", err
			}
		}
		return how(args...), nil
	}
}

// length is how many entries a list, fields a record or characters a text has.
func length(v any) (int, error) {
	if s, ok := v.(string); ok {
		return utf8.RuneCountInString(s), nil
	}
	return count(v)
}

// index takes entries of lists, from 0, and fields of records, one within the other.
func index(v any, keys ...any) (any, error) {
	for _, k := range keys {
		if m, ok := v.(map[string]any); ok {
			name, err := textOf(k)
			if err != nil {
				return nil, err
			}
			if v, _, err = lookup(m, []string{name}); err != nil {
				return nil, err
			}
			continue
		}
		list, err := entries(v)
		if err != nil {
			return nil, err
		}
		i, err := whole(k)
		if err != nil {
			return nil, err
		}
		if i < 0 || i >= len(list) {
			return nil, fmt.Errorf("there is no entry %d in a list of %d; the first is 0", i, len(list))
		}
		v = list[i]
	}
	return v, nil
}

// part is a list's entries, or a text's characters, from one place up to before another.
func part(v any, places ...any) (any, error) {
	text, isText := v.(string)
	letters := []rune(text)
	list, err := entries(v)
	if err != nil && !isText {
		return nil, err
	}
	size := len(list)
	if isText {
		size = len(letters)
	}
	bounds := [2]int{0, size}
	if len(places) > 2 {
		return nil, errors.New("a part has a beginning and an end, and no more")
	}
	for i, p := range places {
		if bounds[i], err = whole(p); err != nil {
			return nil, err
		}
	}
	if bounds[0] < 0 || bounds[1] > size || bounds[0] > bounds[1] {
		return nil, fmt.Errorf("there is no part from %d to %d of %d", bounds[0], bounds[1], size)
	}
	if isText {
		return string(letters[bounds[0]:bounds[1]]), nil
	}
	return list[bounds[0]:bounds[1]], nil
}
