package e2e

import (
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/servicetest"
)

// look keeps a picture of the page in the folder that OLIVE_LOOK names, for whoever works on the console.
func look(t testing.TB, ctx context.Context, name string) {
	t.Helper()
	if dir := os.Getenv("OLIVE_LOOK"); dir != "" {
		capture(t, ctx, dir, name)
	}
}

// capture writes a picture of the page into a folder, once what moves has come to rest.
func capture(t testing.TB, ctx context.Context, dir, name string) {
	t.Helper()
	time.Sleep(time.Second)
	png, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(dir, name+".png"), png, 0o644))
}

// enter logs in and stays where that leads.
func enter(t testing.TB, ctx context.Context, s *servicetest.Running) {
	t.Helper()
	do(t, ctx, chromedp.EmulateViewport(1280, 800), chromedp.Navigate(s.URL+"/log-in"))
	until(t, ctx, "document.querySelector('#password')")
	do(t, ctx, chromedp.SendKeys("#email", s.Email), chromedp.SendKeys("#password", s.Password))
	press(t, ctx, "form button[type=submit]")
	until(t, ctx, "document.querySelector('header.bar')")
}

// mostAtFirst bounds what a browser loads to show the first view, in bytes as they are sent.
const mostAtFirst = 250_000

// TestFirstSteps opens an empty service: the first page teaches what to do, and is light; a template begins with one of ours.
func TestFirstSteps(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	ctx := browser(t)
	enter(t, ctx, s)
	until(t, ctx, "document.querySelectorAll('[data-test=steps] li').length === 3")
	look(t, ctx, "start-empty")
	do(t, ctx, chromedp.Navigate(s.URL+"/?again"))
	until(t, ctx, "document.querySelectorAll('[data-test=steps] li').length === 3")
	loaded := value[int](t, ctx, "performance.getEntriesByType('resource').reduce((sum, e) => sum + e.encodedBodySize, 0)")
	assert.Less(t, loaded, mostAtFirst, "bytes for the first view")
	assert.Greater(t, loaded, 10_000)

	click(t, ctx, "a", "Make a template")
	press(t, ctx, "[data-test=new]")
	until(t, ctx, "document.querySelectorAll('.starters label').length === 5")
	until(t, ctx, "[...document.querySelectorAll('.starters canvas')].filter(c => c.style.width === '240px').length === 5")
	look(t, ctx, "new-template")
	press(t, ctx, "[data-test=from-letter]")
	fill(t, ctx, "[data-test=new-name]", "Brief!")
	says(t, ctx, "small letters, digits and hyphens")
	assert.True(t, value[bool](t, ctx, "document.querySelector('[data-test=new-add]').disabled"))
	fill(t, ctx, "[data-test=new-name]", "brief")
	press(t, ctx, "[data-test=new-add]")
	until(t, ctx, "location.pathname === '/templates/brief'")
	until(t, ctx, drawn)
	visit(t, ctx, s, "/")
	until(t, ctx, "document.querySelector('[data-test=open] a[href=\"/templates/brief\"]')")
	until(t, ctx, "document.querySelector('[data-test=steps]').innerText.startsWith('✓')")

	// the same name is not given twice
	visit(t, ctx, s, "/templates")
	press(t, ctx, "[data-test=new]")
	fill(t, ctx, "[data-test=new-name]", "brief")
	says(t, ctx, "There is a template of this name already.")
	assert.True(t, value[bool](t, ctx, "document.querySelector('[data-test=new-add]').disabled"))
}

// TestStartPage looks for what waits and what has failed, and follows it to its place.
func TestStartPage(t *testing.T) {
	s := start(t)
	bg := context.Background()
	_, err := s.Client.SaveRecord(bg, 3, 7, 0, []byte(`{"number":"QL-2026-0007"}`)) // it lacks the rest
	require.NoError(t, err)
	b, err := s.Client.StartBatch(bg, client.BatchOrder{Template: "mooring-invoice", RecordSet: 3}, "")
	require.NoError(t, err)
	_, err = s.Client.Follow(bg, b.ID, func(client.Batch) {})
	require.NoError(t, err)
	_, err = s.Client.Issue(bg, client.Order{Template: "course-certificate", RecordSet: 2, Records: []int{1, 2}, Draft: true}, "")
	require.NoError(t, err)
	ctx := browser(t)
	enter(t, ctx, s)
	says(t, ctx, "2 documents wait to be approved")
	says(t, ctx, "1 failed")
	says(t, ctx, "Issued in the last 31 days · 63")
	assert.Equal(t, 31, value[int](t, ctx, "document.querySelectorAll('figure rect').length"))
	look(t, ctx, "start")
	do(t, ctx, chromedp.EmulateViewport(400, 820))
	look(t, ctx, "start-narrow")
	assert.LessOrEqual(t, value[int](t, ctx, "Math.max(...[...document.querySelectorAll('main *')].map(e => Math.round(e.getBoundingClientRect().right)))"), 400, "nothing is cut off")
	press(t, ctx, "[data-test=menu]")
	click(t, ctx, ".el-dropdown-menu__item", "Ledger")
	until(t, ctx, "location.pathname === '/ledger'")
	visit(t, ctx, s, "/")
	do(t, ctx, chromedp.Evaluate[chromedp.Void]("localStorage.setItem('olive.theme', 'dark'); localStorage.setItem('olive.language', 'de')"), chromedp.EmulateViewport(1280, 800))
	visit(t, ctx, s, "/")
	says(t, ctx, "2 Dokumente warten auf Freigabe")
	look(t, ctx, "start-dark")
	click(t, ctx, "a", "2 Dokumente warten auf Freigabe")
	until(t, ctx, "location.search === '?state=draft' && document.querySelectorAll('.el-table__row').length === 2")
}
