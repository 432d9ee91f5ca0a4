package merge

import (
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/record"
)

// withGiven has fields for records that do not bring them.
const withGiven = `
schema: schema.json
filename: '{{.house.name}} {{.number}}.pdf'
given:
  house: { name: Quay & Lantern, town: { code: "00457", name: Tidewell } }
  rate: 7.5
  tags: [deck, boat]
totals:
  - { field: total, is: 'multiply .net .rate' }
`

func TestGivenFields(t *testing.T) {
	files := folder(`{{.house.name}}, {{.house.town.code}} {{.house.town.name}}: {{multiply .rate 2}} {{join .tags "/"}}`, withGiven)
	files["schema.json"] = &fstest.MapFile{Data: []byte(`{"type": "object", "required": ["house", "rate"], "properties": {"rate": {"type": "number"}, "house": {"required": ["name", "town"]}}}`)}
	tmpl, err := Open("t", files)
	require.NoError(t, err)
	for name, c := range map[string]struct {
		data map[string]any
		page string
		file string
	}{
		"none of them":      {map[string]any{}, "Quay &amp; Lantern, 00457 Tidewell: 15 deck/boat", "Quay & Lantern 1.pdf"},
		"one of its own":    {map[string]any{"rate": 4}, "Quay &amp; Lantern, 00457 Tidewell: 8 deck/boat", "Quay & Lantern 1.pdf"},
		"one within":        {map[string]any{"house": map[string]any{"town": map[string]any{"name": "Outer Sands"}}}, "Quay &amp; Lantern, 00457 Outer Sands: 15 deck/boat", "Quay & Lantern 1.pdf"},
		"a list as a whole": {map[string]any{"tags": []any{"sail"}}, "Quay &amp; Lantern, 00457 Tidewell: 15 sail", "Quay & Lantern 1.pdf"},
	} {
		c.data["number"] = 1
		before := len(c.data)
		r := record.Record{Number: 1, Data: c.data}
		m, err := tmpl.Merge(r)
		require.NoError(t, err, name)
		assert.Equal(t, c.page, string(m.HTML), name)
		file, err := tmpl.FileName(r)
		require.NoError(t, err, name)
		assert.Equal(t, c.file, file, name)
		assert.Len(t, c.data, before, "the record stays as it is")
	}

	text, err := tmpl.Text("{{.rate}} of {{.house.town.name}}", record.Record{Data: map[string]any{}})
	require.NoError(t, err)
	assert.Equal(t, "7.5 of Tidewell", text)
	differences, err := tmpl.Differences(record.Record{Data: map[string]any{"net": 2, "total": 14}})
	require.NoError(t, err)
	assert.Len(t, differences, 1, "15 is what comes of the rate that is given")

	err = tmpl.Check(record.Record{Number: 1, Data: map[string]any{"rate": "low"}})
	assert.ErrorContains(t, err, "rate", "a field of its own counts, also where it is wrong")
	_, err = tmpl.Merge(record.Record{Number: 1, Data: map[string]any{"house": "a name"}})
	assert.Error(t, err, "a group that is none is not mended in silence")
}
