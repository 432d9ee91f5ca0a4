package merge

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/shopspring/decimal"
)

// entries reads a value as a list.
func entries(v any) ([]any, error) {
	switch x := v.(type) {
	case []any:
		return x, nil
	case []map[string]any:
		out := make([]any, len(x))
		for i := range x {
			out[i] = x[i]
		}
		return out, nil
	case nil:
		return nil, errors.New("there is no value where a list should be")
	}
	return nil, fmt.Errorf("%s is not a list", called(v))
}

// records reads a value as a list of records.
func records(v any) ([]map[string]any, error) {
	list, err := entries(v)
	if err != nil {
		return nil, err
	}
	out := make([]map[string]any, len(list))
	for i, e := range list {
		m, ok := e.(map[string]any)
		if !ok {
			return nil, fmt.Errorf("entry %d of the list is %s, not a record", i+1, called(e))
		}
		out[i] = m
	}
	return out, nil
}

// field of an entry, with dots between levels.
func field(m map[string]any, i int, path string) (any, error) {
	v, _, err := lookup(m, namesOf(path))
	if missing := (*fieldError)(nil); errors.As(err, &missing) {
		missing.in = fmt.Sprintf("entry %d of the list: ", i+1)
	}
	return v, err
}

func fieldAmount(m map[string]any, i int, path string) (decimal.Decimal, error) {
	v, err := field(m, i, path)
	if err != nil {
		return decimal.Zero, err
	}
	d, err := amount(v)
	if err != nil {
		return d, fmt.Errorf("entry %d of the list: the field %q: %w", i+1, path, err)
	}
	return d, nil
}

// amounts of a list: a field of every entry, or the entries themselves.
func amounts(list any, path []string) ([]decimal.Decimal, error) {
	if len(path) == 0 {
		items, err := entries(list)
		if err != nil {
			return nil, err
		}
		out := make([]decimal.Decimal, len(items))
		for i, v := range items {
			if out[i], err = amount(v); err != nil {
				return nil, fmt.Errorf("entry %d of the list: %w", i+1, err)
			}
		}
		return out, nil
	}
	items, err := records(list)
	if err != nil {
		return nil, err
	}
	out := make([]decimal.Decimal, len(items))
	for i, m := range items {
		if out[i], err = fieldAmount(m, i, path[0]); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// sum adds up a field of every entry of a list, or the entries themselves.
func sum(list any, path ...string) (Number, error) {
	total := decimal.Zero
	all, err := amounts(list, path)
	for _, d := range all {
		total = total.Add(d)
	}
	return numberOf(total), err
}

// least is the smallest of a list's numbers, dates or texts.
func (t *tools) least(list any, path ...string) (any, error) { return t.extreme(list, path, -1) }

// greatest is the largest of a list's numbers, dates or texts.
func (t *tools) greatest(list any, path ...string) (any, error) { return t.extreme(list, path, 1) }

func (t *tools) extreme(list any, path []string, sign int) (any, error) {
	var all []any
	var err error
	if len(path) > 0 {
		all, err = pluck(list, path[0])
	} else {
		all, err = entries(list)
	}
	if err != nil {
		return nil, err
	}
	if len(all) == 0 {
		return nil, errors.New("the list is empty")
	}
	best := all[0]
	for i, v := range all {
		c, err := t.order(v, best)
		if err != nil {
			return nil, fmt.Errorf("entry %d of the list: %w", i+1, err)
		}
		if c*sign > 0 {
			best = v
		}
	}
	return best, nil
}

// running gives the sums up to each entry.
func running(list any, path ...string) ([]any, error) {
	all, err := amounts(list, path)
	out := make([]any, len(all))
	total := decimal.Zero
	for i, d := range all {
		total = total.Add(d)
		out[i] = numberOf(total)
	}
	return out, err
}

func count(list any) (int, error) {
	switch x := list.(type) {
	case map[string]any:
		return len(x), nil
	case absent:
		return 0, nil
	}
	items, err := entries(list)
	return len(items), err
}

// groupBy gathers entries by a field, in the order in which values first occur: records
// with a Key and Entries.
func groupBy(list any, path string) ([]any, error) {
	items, err := records(list)
	if err != nil {
		return nil, err
	}
	var out []any
	at := map[string]map[string]any{}
	for i, m := range items {
		v, err := field(m, i, path)
		if err != nil {
			return nil, err
		}
		k := fmt.Sprint(v)
		if at[k] == nil {
			at[k] = map[string]any{"Key": v, "Entries": []any{}}
			out = append(out, at[k])
		}
		at[k]["Entries"] = append(at[k]["Entries"].([]any), m)
	}
	return out, nil
}

// sortBy orders entries by fields, the first of which counts most: numbers and dates by
// size, all else as text. A minus before a field turns its order round.
func (t *tools) sortBy(list any, path string, more ...string) ([]any, error) {
	items, err := records(list)
	if err != nil {
		return nil, err
	}
	paths := append([]string{path}, more...)
	signs := make([]int, len(paths))
	for i, p := range paths {
		signs[i] = 1
		if name, down := strings.CutPrefix(p, "-"); down {
			paths[i], signs[i] = name, -1
		}
	}
	type keyed struct {
		item map[string]any
		keys []any
	}
	all := make([]keyed, len(items))
	for i, m := range items {
		all[i] = keyed{m, make([]any, len(paths))}
		for k, p := range paths {
			if all[i].keys[k], err = field(m, i, p); err != nil {
				return nil, err
			}
		}
	}
	slices.SortStableFunc(all, func(a, b keyed) int {
		for k := range paths {
			if c := t.compare(a.keys[k], b.keys[k]); c != 0 {
				return c * signs[k]
			}
		}
		return 0
	})
	out := make([]any, len(all))
	for i := range all {
		out[i] = all[i].item
	}
	return out, nil
}

// where keeps the entries whose field stands in a relation to a value: where
// .lines "price" ">" 100. The relations are =, !=, <, <=, > and >=.
func (t *tools) where(list any, path, relation string, value any) ([]any, error) {
	items, err := records(list)
	if err != nil {
		return nil, err
	}
	out := []any{}
	for i, m := range items {
		v, err := field(m, i, path)
		if err != nil {
			return nil, err
		}
		keep, err := t.holds(v, relation, value)
		if err != nil {
			return nil, fmt.Errorf("entry %d of the list: the field %q: %w", i+1, path, err)
		}
		if keep {
			out = append(out, m)
		}
	}
	return out, nil
}

// holds tells whether a relation holds between two values.
func (t *tools) holds(a any, relation string, b any) (bool, error) {
	switch relation {
	case "=":
		return t.equal(a, b)
	case "!=":
		is, err := t.equal(a, b)
		return !is, err
	case "<", "<=", ">", ">=":
		c, err := t.order(a, b)
		return err == nil && (c < 0 && relation[0] == '<' || c > 0 && relation[0] == '>' || c == 0 && len(relation) == 2), err
	}
	return false, fmt.Errorf("the relation %q is not =, !=, <, <=, > or >=", relation)
}

// pluck takes one field of every entry.
func pluck(list any, path string) ([]any, error) {
	items, err := records(list)
	if err != nil {
		return nil, err
	}
	out := make([]any, len(items))
	for i, m := range items {
		if out[i], err = field(m, i, path); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// chunk cuts a list into pieces of n entries.
func chunk(list, size any) ([]any, error) {
	items, err := entries(list)
	if err != nil {
		return nil, err
	}
	n, err := whole(size)
	if err != nil {
		return nil, err
	}
	if n < 1 {
		return nil, errors.New("a piece of a list has at least one entry")
	}
	out := []any{}
	for part := range slices.Chunk(items, n) {
		out = append(out, part)
	}
	return out, nil
}

// columns shares a list among n columns, from top to bottom.
func columns(list, number any) ([]any, error) {
	items, err := entries(list)
	if err != nil {
		return nil, err
	}
	n, err := whole(number)
	if err != nil {
		return nil, err
	}
	if n < 1 {
		return nil, errors.New("there is at least one column")
	}
	return chunk(items, max((len(items)+n-1)/n, 1))
}

// texts reads a value as a list of texts.
func texts(list any) ([]string, error) {
	items, err := entries(list)
	if err != nil {
		return nil, err
	}
	out := make([]string, len(items))
	for i, v := range items {
		if out[i], err = textOf(v); err != nil {
			return nil, fmt.Errorf("entry %d of the list: %w", i+1, err)
		}
	}
	return out, nil
}

func join(list any, by string) (string, error) {
	parts, err := texts(list)
	return strings.Join(parts, by), err
}

// enumerate writes a list of texts as the language does: Ann, Ben and Cy.
func (t *tools) enumerate(list any) (string, error) {
	parts, err := texts(list)
	return t.locale.listed(parts), err
}

// listed joins texts by the language's patterns, from the last two on (UTS 35, List
// Patterns).
func (l *locale) listed(parts []string) string {
	put := func(pattern, a, b string) string { return strings.NewReplacer("{0}", a, "{1}", b).Replace(pattern) }
	n := len(parts)
	switch n {
	case 0:
		return ""
	case 1:
		return parts[0]
	case 2:
		return put(l.List[0], parts[0], parts[1])
	}
	out := put(l.List[3], parts[n-2], parts[n-1])
	for i := n - 3; i > 0; i-- {
		out = put(l.List[2], parts[i], out)
	}
	return put(l.List[1], parts[0], out)
}

func split(v any, by string) ([]any, error) {
	text, err := textOf(v)
	var out []any
	for part := range strings.SplitSeq(text, by) {
		out = append(out, strings.TrimSpace(part))
	}
	return out, err
}

// shorten cuts a text at a word's end, so that it has at most n characters with
// the dots that show it.
func shorten(v, length any) (string, error) {
	text, err := textOf(v)
	if err != nil {
		return "", err
	}
	n, err := whole(length)
	if err != nil {
		return "", err
	}
	r := []rune(text)
	if n < 2 {
		return "", errors.New("a shortened text has at least 2 characters")
	}
	if len(r) <= n {
		return text, nil
	}
	cut := string(r[:n-1])
	if i := strings.LastIndexAny(cut, " \n\t"); i > len(cut)/2 {
		cut = cut[:i]
	}
	return strings.TrimRight(cut, " ,;:.–-") + "…", nil
}

// has tells whether a record has a field that is not empty.
func has(data map[string]any, path string) bool {
	v, ok, err := lookup(data, namesOf(path))
	return ok && err == nil && v != nil && v != any("")
}

// fallback gives def when the record has no such field, or an empty one.
func fallback(data map[string]any, path string, def any) any {
	if has(data, path) {
		v, _, _ := lookup(data, namesOf(path))
		return v
	}
	return def
}

// choose picks the text that stands after the value: choose .state "open" "To
// pay" "paid" "Paid" "Unknown". The last one, without a value, is for all others.
func (t *tools) choose(v any, pairs ...any) (any, error) {
	for i := 0; i+1 < len(pairs); i += 2 {
		if is, err := t.equal(v, pairs[i]); is || err != nil {
			return pairs[i+1], err
		}
	}
	if len(pairs)%2 == 1 {
		return pairs[len(pairs)-1], nil
	}
	return nil, fmt.Errorf("there is no choice for %s; add one for all others at the end", called(v))
}
