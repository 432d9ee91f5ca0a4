package e2e

import (
	"context"
	"sync"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// complaints gathers what a browser tells its developers: answers that are errors, and errors of scripts.
type complaints struct {
	mu   sync.Mutex
	list []string
}

func (c *complaints) add(text string) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.list = append(c.list, text)
}

// listen gathers the complaints of a tab from now on.
func listen(t *testing.T, ctx context.Context) *complaints {
	t.Helper()
	c := &complaints{}
	require.NoError(t, chromedp.Listen(ctx, func(ev any) {
		switch e := ev.(type) {
		case *log.EventEntryAdded:
			if e.Entry.Level == "error" {
				c.add(e.Entry.Text + " " + e.Entry.URL)
			}
		case *runtime.EventExceptionThrown:
			c.add(e.ExceptionDetails.Text)
		case *runtime.EventConsoleAPICalled:
			if e.Type == "error" || e.Type == "warning" {
				c.add(string(e.Args[0].Value) + e.Args[0].Description)
			}
		}
	}))
	require.NoError(t, chromedp.Do(ctx, func(ctx context.Context, t *chromedp.Target) (chromedp.Void, error) {
		_, err := cdp.Call(ctx, t, log.Enable, cdp.Empty{})
		return chromedp.Void{}, err
	}))
	return c
}

// TestABrowserHasNothingToComplainOf walks from the log-in through the views, begins a template with a pasted page, and brings the first records.
func TestABrowserHasNothingToComplainOf(t *testing.T) {
	s := start(t)
	ctx := browser(t)
	c := listen(t, ctx)
	logIn(t, ctx, s)
	visit(t, ctx, s, "/templates")
	press(t, ctx, "[data-test=new]")
	press(t, ctx, "[data-test=from-paste] input")
	fill(t, ctx, "#new-pasted", "<!DOCTYPE html><title>Berth card</title><h1>Berth</h1>")
	press(t, ctx, "[data-test=new-add]")
	until(t, ctx, drawn)
	visit(t, ctx, s, "/templates/mooring-invoice") // which has no draft
	until(t, ctx, drawn)
	for _, path := range []string{"/", "/batches", "/documents", "/ledger", "/settings", "/records"} {
		visit(t, ctx, s, path)
		until(t, ctx, "document.querySelector('h1') && !document.querySelector('.el-loading-mask:not([style*=none])')")
	}
	upload(t, ctx, "berths.csv", "number,boat.name\nB-1,Gull\n")
	press(t, ctx, "[data-test=import]")
	until(t, ctx, "[...document.querySelectorAll('.field')].some(f => f.innerText === 'Gull') && !document.querySelector('.el-overlay:not([style*=none])')")
	assert.Empty(t, c.list)

	files, err := s.Client.Draft(context.Background(), "berth-card")
	require.NoError(t, err)
	assert.Equal(t, "title: \"Berth card\"\npage: page.html\nsample: sample.json\n", *files.Files["template.yaml"].Text)
}
