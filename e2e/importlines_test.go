package e2e

import (
	"context"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
)

// Records are imported together with the lines that belong to them, from a file of their own.
func TestImportWithLines(t *testing.T) {
	s := start(t)
	ctx := browser(t)
	logIn(t, ctx, s)
	visit(t, ctx, s, "/records")
	upload(t, ctx, "invoices.csv", "number,customer\nA-7,Anna\nA-8,Bo\n")
	until(t, ctx, "document.querySelector('[data-test=lines]')")

	lines := filepath.Join(t.TempDir(), "lines.csv")
	require.NoError(t, os.WriteFile(lines, []byte("invoice,text\nA-7,Berth\nA-7,Power\nA-8,Slip\n"), 0o600))
	do(t, ctx, chromedp.SetUploadFiles(".conventions input[type=file]", []string{lines}))
	says(t, ctx, "which names the record that it belongs to, is missing")
	fill(t, ctx, "#import-line-key", "invoice")
	do(t, ctx, chromedp.Evaluate[chromedp.Void]("document.querySelector('#import-line-key').dispatchEvent(new Event('change'))"))
	says(t, ctx, "First record: 2 lines")
	press(t, ctx, "[data-test=import]")
	until(t, ctx, "[...document.querySelectorAll('.field')].some(f => f.innerText === 'Anna')")
	sets, err := s.Client.RecordSets(context.Background(), client.Find{})
	require.NoError(t, err)
	r, err := s.Client.Record(context.Background(), sets.Items[0].ID, 1)
	require.NoError(t, err)
	assert.JSONEq(t, `{"number": "A-7", "customer": "Anna", "lines": [{"invoice": "A-7", "text": "Berth"}, {"invoice": "A-7", "text": "Power"}]}`, string(r.Data))
}
