package store_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service/store"
)

// TestSearch finds documents by what stands in them: whole words and beginnings, in any order, and numbers.
func TestSearch(t *testing.T) {
	st := open(t)
	for _, d := range []store.Document{
		{Number: "QL-2026-0042", Name: "invoice-ann.pdf", Title: "Invoice", Data: `{"customer":"Zoë D'Alembert","berth":"E26","town":"Caldermouth"}`},
		{Number: "QL-2026-0043", Name: "invoice-bob.pdf", Title: "Invoice", Data: `{"customer":"Bob Tidewell","berth":"C7","total":1250.75}`},
		{Name: "letter.pdf", Title: "A letter to the harbour", Data: `{"text":"船 請求書 100% off"}`},
	} {
		d.State, d.RecordSHA256 = store.Drafted, store.SumOf(d.Data)
		require.NoError(t, st.Add(&d, nil))
	}
	for text, want := range map[string][]string{
		"tidewell":       {"invoice-bob.pdf"},
		"TIDE":           {"invoice-bob.pdf"},
		"zoe":            {"invoice-ann.pdf"},
		"Alembert Zoë":   {"invoice-ann.pdf"},
		"E26":            {"invoice-ann.pdf"},
		"invoice":        {"invoice-bob.pdf", "invoice-ann.pdf"},
		"invoice bob":    {"invoice-bob.pdf"},
		"QL-2026-0042":   {"invoice-ann.pdf"},
		"0043":           {"invoice-bob.pdf"},
		"QL":             {"invoice-bob.pdf", "invoice-ann.pdf"},
		"le":             {"letter.pdf"},
		"the harbour":    {"letter.pdf"},
		"1250.75":        {"invoice-bob.pdf"},
		"請求":             {"letter.pdf"},
		"100%":           {"letter.pdf"},
		"+\"*( -":        nil,
		"nothing at all": nil,
	} {
		list, total, err := st.Documents(store.DocumentFilter{Search: text}, store.Page{Limit: 9})
		require.NoError(t, err, text)
		var names []string
		for _, d := range list {
			names = append(names, d.Name)
		}
		assert.Equal(t, want, names, text)
		assert.EqualValues(t, len(want), total, text)
	}
}
