package setting

import (
	"bytes"
	"context"
	"os"
	"regexp"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/merge"
	"oliveledger/record"
	"oliveledger/typeset"
)

var (
	recipe   = regexp.MustCompile("(?ms)^## ([^\n]+)\n.*?^```html\n(.*?)^```")
	cookbook = regexp.MustCompile("(?ms)^```json\n(.*?)^```")
)

// Every recipe of the cookbook merges with its record and sets without a finding.
func TestCookbook(t *testing.T) {
	page, err := os.ReadFile("../../docs/cookbook.md")
	require.NoError(t, err)
	var r record.Record
	js := cookbook.FindSubmatch(page)[1]
	require.NoError(t, record.Each(bytes.NewReader(js), record.Options{Format: record.JSON}, func(x record.Record) error { r = x; return nil }))
	recipes := recipe.FindAllSubmatch(page, -1)
	require.Len(t, recipes, strings.Count(string(page), "\n## "))
	for _, x := range recipes {
		tpl, err := merge.Open("t", fstest.MapFS{"page.html": {Data: x[2]}})
		require.NoError(t, err, "%s", x[1])
		m, err := tpl.Merge(r)
		require.NoError(t, err, "%s", x[1])
		var pdf bytes.Buffer
		doc, err := typeset.Set(context.Background(), m.HTML, typeset.Options{Name: "page.html"}, &pdf)
		require.NoError(t, err, "%s", x[1])
		assert.Empty(t, doc.Findings, "%s", x[1])
		assert.NotEmpty(t, doc.Title, "%s", x[1])
		if dir := os.Getenv("OLIVE_COOKBOOK"); dir != "" { // for a look
			require.NoError(t, os.WriteFile(dir+"/"+strings.ReplaceAll(string(x[1]), " ", "-")+".pdf", pdf.Bytes(), 0o644))
		}
	}
}
