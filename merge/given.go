package merge

import (
	"encoding/json"
	"fmt"
	"maps"

	"oliveledger/record"
)

// Given are fields that a template gives to records which do not bring them.
type Given map[string]any

// GobEncode writes the fields as JSON, as they may hold anything.
func (g Given) GobEncode() ([]byte, error) { return json.Marshal(map[string]any(g)) }

// GobDecode reads what GobEncode has written.
func (g *Given) GobDecode(text []byte) error { return json.Unmarshal(text, (*map[string]any)(g)) }

// readGiven reads the fields that the manifest gives as fields of a record are read.
func (m Manifest) readGiven() (map[string]any, error) {
	if len(m.Given) == 0 {
		return nil, nil
	}
	text, err := json.Marshal(m.Given)
	if err != nil {
		return nil, fmt.Errorf("given: %w", err)
	}
	r, err := record.FromJSON(text, 1)
	if err != nil {
		return nil, fmt.Errorf("given: %w", err)
	}
	return r.Data, nil
}

// completed is the data of a record, with the fields that the template gives where the record does not bring them. The
// record stays as it is.
func completed(data, given map[string]any) map[string]any {
	if len(given) == 0 {
		return data
	}
	out := maps.Clone(given)
	for name, v := range data {
		group, ok := v.(map[string]any)
		if ours, both := given[name].(map[string]any); ok && both {
			out[name] = completed(group, ours)
			continue
		}
		out[name] = v
	}
	return out
}

// values is a record's data as the template sees it.
func (t *Template) values(r record.Record) (map[string]any, error) {
	data, err := values(completed(r.Data, t.given))
	if err != nil {
		return nil, fmt.Errorf("%s: %w", r.Name(), err)
	}
	return data, nil
}
