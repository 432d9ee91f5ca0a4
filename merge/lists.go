package merge

import (
	"cmp"
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
	return nil, fmt.Errorf("a %T is not a list", v)
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
			return nil, fmt.Errorf("entry %d of the list is not a record", i+1)
		}
		out[i] = m
	}
	return out, nil
}

// field of an entry, with dots between levels.
func field(m map[string]any, i int, path string) (any, error) {
	var v any = m
	for name := range strings.SplitSeq(path, ".") {
		in, ok := v.(map[string]any)
		if ok {
			v, ok = in[name]
		}
		if !ok {
			return nil, fmt.Errorf("entry %d of the list has no field %q", i+1, path)
		}
	}
	return v, nil
}

func fieldAmount(m map[string]any, i int, path string) (decimal.Decimal, error) {
	v, err := field(m, i, path)
	if err != nil {
		return decimal.Zero, err
	}
	d, err := amount(v)
	if err != nil {
		return d, fmt.Errorf("entry %d of the list: %w", i+1, err)
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
func sum(list any, path ...string) (decimal.Decimal, error) {
	total := decimal.Zero
	all, err := amounts(list, path)
	for _, d := range all {
		total = total.Add(d)
	}
	return total, err
}

func least(list any, path ...string) (decimal.Decimal, error) {
	return extreme(list, path, decimal.Decimal.LessThan)
}

func greatest(list any, path ...string) (decimal.Decimal, error) {
	return extreme(list, path, decimal.Decimal.GreaterThan)
}

func extreme(list any, path []string, better func(a, b decimal.Decimal) bool) (decimal.Decimal, error) {
	all, err := amounts(list, path)
	if err != nil {
		return decimal.Zero, err
	}
	if len(all) == 0 {
		return decimal.Zero, errors.New("the list is empty")
	}
	best := all[0]
	for _, d := range all[1:] {
		if better(d, best) {
			best = d
		}
	}
	return best, nil
}

// running gives the sums up to each entry.
func running(list any, path ...string) ([]decimal.Decimal, error) {
	all, err := amounts(list, path)
	for i := 1; i < len(all); i++ {
		all[i] = all[i].Add(all[i-1])
	}
	return all, err
}

func count(list any) (int, error) {
	if m, ok := list.(map[string]any); ok {
		return len(m), nil
	}
	items, err := entries(list)
	return len(items), err
}

// Group is the entries that share a value.
type Group struct {
	Key     any
	Entries []any
}

// groupBy gathers entries by a field, in the order in which values first occur.
func groupBy(list any, path string) ([]Group, error) {
	items, err := records(list)
	if err != nil {
		return nil, err
	}
	var out []Group
	at := map[string]int{}
	for i, m := range items {
		v, err := field(m, i, path)
		if err != nil {
			return nil, err
		}
		k := fmt.Sprint(v)
		n, ok := at[k]
		if !ok {
			n = len(out)
			at[k] = n
			out = append(out, Group{Key: v})
		}
		out[n].Entries = append(out[n].Entries, m)
	}
	return out, nil
}

// sortBy orders entries by a field: numbers by size, all else as text. A minus
// before the field turns the order round.
func sortBy(list any, path string) ([]any, error) {
	items, err := records(list)
	if err != nil {
		return nil, err
	}
	name, down := strings.CutPrefix(path, "-")
	keys := make([]any, len(items))
	order := make([]int, len(items))
	for i, m := range items {
		if keys[i], err = field(m, i, name); err != nil {
			return nil, err
		}
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		c := compare(keys[a], keys[b])
		if down {
			return -c
		}
		return c
	})
	out := make([]any, len(items))
	for i, k := range order {
		out[i] = items[k]
	}
	return out, nil
}

func compare(a, b any) int {
	x, errX := amount(a)
	y, errY := amount(b)
	if errX == nil && errY == nil {
		return x.Cmp(y)
	}
	return cmp.Compare(fmt.Sprint(a), fmt.Sprint(b))
}

// where keeps the entries whose field stands in a relation to a value: where
// .lines "price" ">" 100. The relations are =, !=, <, <=, > and >=.
func where(list any, path, relation string, value any) ([]any, error) {
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
		c := compare(v, value)
		keep, ok := map[string]bool{"=": c == 0, "!=": c != 0, "<": c < 0, "<=": c <= 0, ">": c > 0, ">=": c >= 0}[relation]
		if !ok {
			return nil, fmt.Errorf("the relation %q is not =, !=, <, <=, > or >=", relation)
		}
		if keep {
			out = append(out, m)
		}
	}
	return out, nil
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
func chunk(list any, n int) ([][]any, error) {
	items, err := entries(list)
	if err != nil {
		return nil, err
	}
	if n < 1 {
		return nil, errors.New("a piece of a list has at least one entry")
	}
	return slices.Collect(slices.Chunk(items, n)), nil
}

// columns shares a list among n columns, from top to bottom.
func columns(list any, n int) ([][]any, error) {
	items, err := entries(list)
	if err != nil {
		return nil, err
	}
	if n < 1 {
		return nil, errors.New("there is at least one column")
	}
	return chunk(items, max((len(items)+n-1)/n, 1))
}

func join(list any, by string) (string, error) {
	items, err := entries(list)
	if err != nil {
		return "", err
	}
	parts := make([]string, len(items))
	for i, v := range items {
		parts[i] = fmt.Sprint(v)
	}
	return strings.Join(parts, by), nil
}

func split(text, by string) []any {
	var out []any
	for part := range strings.SplitSeq(text, by) {
		out = append(out, strings.TrimSpace(part))
	}
	return out
}

// shorten cuts a text at a word's end, so that it has at most n characters with
// the dots that show it.
func shorten(text string, n int) (string, error) {
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
	v, err := field(data, 0, path)
	return err == nil && v != nil && v != ""
}

// fallback gives def when the record has no such field, or an empty one.
func fallback(data map[string]any, path string, def any) any {
	if has(data, path) {
		v, _ := field(data, 0, path)
		return v
	}
	return def
}

// choose picks the text that stands after the value: choose .state "open" "To
// pay" "paid" "Paid" "Unknown". The last one, without a value, is for all others.
func choose(v any, pairs ...any) (any, error) {
	for i := 0; i+1 < len(pairs); i += 2 {
		if fmt.Sprint(v) == fmt.Sprint(pairs[i]) {
			return pairs[i+1], nil
		}
	}
	if len(pairs)%2 == 1 {
		return pairs[len(pairs)-1], nil
	}
	return nil, fmt.Errorf("there is no choice for %q; add one for all others at the end", fmt.Sprint(v))
}
