// Package e2e tries the console in a browser, on the real service with the
// demo's data.
package e2e

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/client"
	"oliveledger/internal/servicetest"
)

// start gives a service that holds the demo's data.
func start(t *testing.T) *servicetest.Running {
	t.Helper()
	s := servicetest.Start(t, t.TempDir())
	ctx := context.Background()
	for _, name := range []string{"mooring-invoice", "course-certificate", "season-report"} {
		_, err := s.Client.Push(ctx, name, "as shipped", os.DirFS("../demo/templates/"+name))
		require.NoError(t, err)
	}
	for _, name := range []string{"season", "certificates", "invoices"} {
		f, err := os.Open("../demo/records/" + name + ".json")
		require.NoError(t, err)
		_, err = s.Client.Import(ctx, name+".json", nil, f)
		require.NoError(t, err)
		f.Close()
	}
	return s
}

// browser opens a tab of its own.
func browser(t *testing.T) context.Context {
	t.Helper()
	opts := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath("/usr/bin/chromium"), chromedp.NoSandbox, chromedp.WindowSize(1280, 800),
		chromedp.Flag("disable-background-networking", true), chromedp.Flag("disable-component-update", true), chromedp.Flag("disable-sync", true), chromedp.Flag("disable-quic", true))
	alloc, stop := chromedp.NewExecAllocator(context.Background(), opts...)
	t.Cleanup(stop)
	tab, stopTab := chromedp.NewContext(alloc)
	t.Cleanup(stopTab)
	do(t, tab, chromedp.Navigate("about:blank")) // the browser lives as long as this context
	ctx, cancel := context.WithTimeout(tab, 8*time.Minute)
	t.Cleanup(cancel)
	return ctx
}

func do(t *testing.T, ctx context.Context, steps ...chromedp.Action[chromedp.Void]) {
	t.Helper()
	require.NoError(t, chromedp.Do(ctx, steps...))
}

// value evaluates an expression in the page.
func value[T any](t *testing.T, ctx context.Context, js string) T {
	t.Helper()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[T](js))
	require.NoError(t, err)
	return v
}

// until waits for an expression to become true.
func until(t *testing.T, ctx context.Context, js string) {
	t.Helper()
	for end := time.Now().Add(90 * time.Second); time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
		if value[bool](t, ctx, "!!("+js+")") {
			return
		}
	}
	t.Fatalf("this did not become true: %s\n%s", js, value[string](t, ctx, "document.body.innerText"))
}

func logIn(t *testing.T, ctx context.Context, s *servicetest.Running) {
	t.Helper()
	do(t, ctx, chromedp.Navigate(s.URL+"/templates"))
	until(t, ctx, "document.querySelector('#password')")
	do(t, ctx, chromedp.SendKeys("#email", s.Email), chromedp.SendKeys("#password", s.Password), chromedp.Click("form button[type=submit]"))
	until(t, ctx, "document.querySelectorAll('.item').length === 3")
}

const drawn = "document.querySelectorAll('.stage canvas').length > 0 && document.querySelector('[data-test=took]') && !document.querySelector('[data-test=busy]')"

func TestConsole(t *testing.T) {
	s := start(t)
	ctx := browser(t)

	do(t, ctx, chromedp.Navigate(s.URL+"/documents"))
	until(t, ctx, "location.pathname === '/log-in'")
	do(t, ctx, chromedp.SendKeys("#email", s.Email), chromedp.SendKeys("#password", "wrong"), chromedp.Click("form button[type=submit]"))
	until(t, ctx, "document.querySelector('.el-alert--error')")
	logIn(t, ctx, s)

	// open a template, change its markup, see the page change
	until(t, ctx, "!document.querySelector('.el-loading-mask')") // it would catch the click while it fades
	do(t, ctx, chromedp.Click("a.item[href='/templates/mooring-invoice']"))
	until(t, ctx, "location.pathname === '/templates/mooring-invoice'")
	until(t, ctx, drawn)
	picture := func() string { return value[string](t, ctx, "document.querySelector('.stage canvas').toDataURL()") }
	before := picture()
	do(t, ctx, chromedp.Evaluate[chromedp.Void](`(() => { const v = document.querySelector('.cm-content').cmTile?.view ?? document.querySelector('.cm-content').cmView.view;
		const text = v.state.doc.toString(); const at = text.indexOf('<h1>') + 4; v.dispatch({ changes: { from: at, insert: 'Lantern ' } }) })()`))
	until(t, ctx, "document.querySelector('.tools .el-tag')")
	for end := time.Now().Add(20 * time.Second); picture() == before && time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
	}
	assert.NotEqual(t, before, picture(), "the preview shows the change")

	// a mistake is told, and the last good page stays
	do(t, ctx, chromedp.Evaluate[chromedp.Void](`(() => { const c = document.querySelector('.cm-content'); const v = c.cmTile?.view ?? c.cmView.view; v.dispatch({ changes: { from: 0, insert: '{{.nothing}}' } }) })()`))
	until(t, ctx, "document.querySelector('.sheets .el-alert--error')?.innerText.includes('nothing')")
	do(t, ctx, chromedp.Evaluate[chromedp.Void](`(() => { const c = document.querySelector('.cm-content'); const v = c.cmTile?.view ?? c.cmView.view; v.dispatch({ changes: { from: 0, to: 12, insert: '' } }) })()`))
	until(t, ctx, "!document.querySelector('.sheets .el-alert--error')")

	// publish, then make the documents of a record set
	do(t, ctx, chromedp.Click(".tools .el-button:not(.el-button--primary)"))
	until(t, ctx, "document.querySelector('.el-message-box input')")
	do(t, ctx, chromedp.SendKeys(".el-message-box input", "a lantern"), chromedp.Click(".el-message-box__btns .el-button--primary"))
	until(t, ctx, "document.querySelector('.tools').innerText.includes('version 2')")
	until(t, ctx, "![...document.querySelectorAll('.el-overlay')].some(o => o.offsetParent !== null || getComputedStyle(o).display !== 'none')")
	do(t, ctx, chromedp.Click(".tools .el-button--primary"))
	until(t, ctx, "document.querySelector('[data-test=make]') && !document.querySelector('[data-test=make]').disabled")
	do(t, ctx, chromedp.Click("[data-test=make]"))
	until(t, ctx, "document.body.innerText.includes('64 documents made')")

	// find one and download it
	do(t, ctx, chromedp.Navigate(s.URL+"/documents"))
	until(t, ctx, "document.querySelectorAll('a.save').length === 20")
	do(t, ctx, chromedp.SendKeys(".search input", "0009"))
	until(t, ctx, "document.querySelectorAll('a.save').length === 1")
	do(t, ctx, chromedp.Evaluate[chromedp.Void]("fetch(document.querySelector('a.save').href).then(r => r.text()).then(s => { window.saved = s.slice(0, 5) }); 0"))
	until(t, ctx, "window.saved")
	assert.Equal(t, "%PDF-", value[string](t, ctx, "window.saved"))
	list, total, err := s.Client.Documents(context.Background(), "", 1)
	require.NoError(t, err)
	assert.Equal(t, 64, total)
	data, err := s.Client.PDF(context.Background(), list[0].ID)
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(data, []byte("%PDF-1.7")))

	// no request leaves for another host
	hosts := value[[]string](t, ctx, "[...new Set(performance.getEntriesByType('resource').map(r => new URL(r.name).origin))]")
	for _, h := range hosts {
		assert.True(t, h == s.URL || h == "null", h)
	}

	do(t, ctx, chromedp.Click(".bar .el-button"))
	until(t, ctx, "location.pathname === '/log-in'")
}

// TestScreenshots makes the pictures in docs/screenshots when it is asked to.
func TestScreenshots(t *testing.T) {
	dir := os.Getenv("OLIVE_SCREENSHOTS")
	if dir == "" {
		t.Skip("made by make screenshots")
	}
	s := start(t)
	_, err := s.Client.Issue(context.Background(), client.Order{Template: "mooring-invoice", RecordSet: 3, Records: []int{1, 2, 3, 5, 9, 12, 15, 21, 26}})
	require.NoError(t, err)
	ctx := browser(t)
	shot := func(name string) {
		time.Sleep(700 * time.Millisecond)
		png, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(dir, name+".png"), png, 0o644))
	}
	do(t, ctx, chromedp.EmulateViewport(1280, 800), chromedp.Navigate(s.URL+"/log-in"))
	until(t, ctx, "document.querySelector('#password')")
	shot("console-log-in")
	logIn(t, ctx, s)
	time.Sleep(time.Second)
	shot("console-templates")
	do(t, ctx, chromedp.Navigate(s.URL+"/templates/mooring-invoice"))
	until(t, ctx, drawn)
	shot("console-workbench")
	for _, place := range []string{"records", "documents"} {
		do(t, ctx, chromedp.Navigate(s.URL+"/"+place))
		until(t, ctx, "document.querySelectorAll('.el-table__row').length > 2")
		shot("console-" + place)
	}
	assert.False(t, strings.Contains(fmt.Sprint(value[string](t, ctx, "document.body.innerText")), "undefined"))
}
