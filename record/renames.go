package record

import "strings"

// Renames gives fields of a file other names, which may have dots; an empty one leaves the field out.
type Renames map[string]string

// Apply gives a record's data with the other names.
func (m Renames) Apply(data map[string]any) map[string]any {
	if len(m) == 0 {
		return data
	}
	out := map[string]any{}
	inner := map[string]any{} // fields that go into others, once those are there
	for k, v := range data {
		to, ok := m[k]
		switch {
		case !ok:
			out[k] = v
		case strings.Contains(to, "."):
			inner[to] = v
		case to != "":
			out[to] = v
		}
	}
	for to, v := range inner {
		Put(out, to, v)
	}
	return out
}
