package e2e

import (
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
)

// scripts has the browser run the scripts of pages, or none.
func scripts(run bool) chromedp.Action[chromedp.Void] {
	return func(ctx context.Context, t *chromedp.Target) (chromedp.Void, error) {
		_, err := cdp.Call(ctx, t, emulation.SetScriptExecutionDisabled, emulation.SetScriptExecutionDisabledParams{Value: !run})
		return chromedp.Void{}, err
	}
}

// TestGenuine asks on the public page whether a file is the document that was issued.
func TestGenuine(t *testing.T) {
	s := start(t)
	ctx, bg := browser(t), context.Background()
	raw, err := os.ReadFile("../demo/templates/mooring-invoice/sample.json")
	require.NoError(t, err)
	made, err := s.Client.Issue(bg, client.Order{Template: "mooring-invoice", Record: json.RawMessage(raw)}, "")
	require.NoError(t, err)
	pdf, err := s.Client.PDF(bg, made[0].ID)
	require.NoError(t, err)
	dir := t.TempDir()
	same, other := filepath.Join(dir, "same.pdf"), filepath.Join(dir, "other.pdf")
	require.NoError(t, os.WriteFile(same, pdf, 0o600))
	require.NoError(t, os.WriteFile(other, append(pdf, '\n'), 0o600))

	do(t, ctx, chromedp.Navigate(made[0].Verify))
	until(t, ctx, "document.querySelector('#compare:not([hidden])')")
	look(t, ctx, "genuine")
	do(t, ctx, chromedp.SetUploadFiles("#compare input", []string{other}))
	until(t, ctx, "document.querySelector('#result.other')?.textContent.includes('other.pdf: This file is another one')")
	do(t, ctx, chromedp.SetUploadFiles("#compare input", []string{same}))
	until(t, ctx, "document.querySelector('#result.same')?.textContent.includes('same.pdf: This file is that document')")
	look(t, ctx, "genuine-same")
	assert.LessOrEqual(t, value[float64](t, ctx, "document.documentElement.scrollWidth"), 1280.0)

	do(t, ctx, scripts(false), chromedp.Navigate(made[0].Verify))
	look(t, ctx, "genuine-no-script")
	var plain string
	plain, err = chromedp.Run(ctx, chromedp.Text("main"))
	require.NoError(t, err)
	assert.Contains(t, plain, "This document is genuine")
	assert.Contains(t, plain, made[0].SHA256)
	assert.Contains(t, plain, "To compare a file, make its SHA-256")
	assert.NotContains(t, plain, "Choose a PDF", "it would do nothing")
}
