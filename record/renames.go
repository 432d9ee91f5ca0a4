package record

// Renames gives fields of a file other names; an empty one leaves the field out.
type Renames map[string]string

// Apply gives a record's data with the other names.
func (m Renames) Apply(data map[string]any) map[string]any {
	if len(m) == 0 {
		return data
	}
	out := map[string]any{}
	for k, v := range data {
		to, ok := m[k]
		if !ok {
			to = k
		}
		if to != "" {
			out[to] = v
		}
	}
	return out
}
