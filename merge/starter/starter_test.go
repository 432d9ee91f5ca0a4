package starter

import (
	"io/fs"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/merge"
)

// A starter is whole: its sample keeps to its schema, fills it, and fits its own totals.
func TestStartersAreWhole(t *testing.T) {
	for _, s := range Names {
		dir := t.TempDir() + "/new"
		require.NoError(t, Copy(s.Name, dir))
		files := os.DirFS(dir)
		tpl, err := merge.Open(s.Name, files)
		require.NoError(t, err)
		assert.NotEmpty(t, tpl.Manifest.Schema, s.Name)
		r, err := tpl.SampleRecord()
		require.NoError(t, err)
		_, err = tpl.Merge(r)
		assert.NoError(t, err, s.Name)
		_, err = tpl.FileName(r)
		assert.NoError(t, err, s.Name)
		differences, err := tpl.Differences(r)
		assert.NoError(t, err)
		assert.Empty(t, differences, s.Name)
		assert.ErrorContains(t, Copy(s.Name, dir), "is not empty", "a starter overwrites nothing")
		asked := slices.IndexFunc(tpl.Fields(), func(f string) bool { return r.Data[strings.Split(f, ".")[0]] != nil })
		delete(r.Data, strings.Split(tpl.Fields()[asked], ".")[0])
		assert.Error(t, tpl.Check(r), "the schema of %s asks for its fields", s.Name)
	}
	assert.ErrorContains(t, Copy("nothing", t.TempDir()), "there is no starter")
}

// An invoice's lines and its sums come from the same numbers.
func TestInvoiceHasOneSource(t *testing.T) {
	files, err := Files("invoice")
	require.NoError(t, err)
	tpl, err := merge.Open("invoice", files)
	require.NoError(t, err)
	r, err := tpl.SampleRecord()
	require.NoError(t, err)
	first := r.Data["lines"].([]any)[0].(map[string]any)
	r.Data["lines"] = []any{first}
	first["quantity"], first["price"], first["tax"], first["amount"] = "4", "10", "10", "999"
	m, err := tpl.Merge(r)
	require.NoError(t, err)
	for _, want := range []string{"€40.00", "Tax 10% on €40.00", "€4.00", "€44.00"} {
		assert.Contains(t, string(m.HTML), want)
	}
	differences, err := tpl.Differences(r)
	require.NoError(t, err)
	assert.Equal(t, []string{`entry 1 of "lines": the field "amount" is 999, but round (multiply .quantity .price) 2 gives 40`}, differences)
	_, err = fs.Stat(files, "schema.json")
	assert.NoError(t, err)
}
