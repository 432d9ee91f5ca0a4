package e2e

import (
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// evaluate runs a script in the page.
func evaluate(js string) chromedp.Action[chromedp.Void] { return chromedp.Evaluate[chromedp.Void](js) }

// barriers are what axe-core finds in the page as it is now: rules with the elements that break them.
func barriers(t *testing.T, axe string, run func(string), get func(string) string) []string {
	t.Helper()
	run(axe)
	run("window.axeSays = undefined; axe.run(document, { resultTypes: ['violations'] }).then(r => { window.axeSays = r.violations.map(v => v.id + ': ' + v.nodes.map(n => n.target.join(' ') + ' ' + (n.any[0]?.message ?? '')).join(' | ')) })")
	var list []string
	require.NoError(t, json.Unmarshal([]byte(get("JSON.stringify(window.axeSays)")), &list))
	return list
}

// TestNoBarriers looks at every view and the dialogs that open in them with axe-core, light and dark.
func TestNoBarriers(t *testing.T) {
	raw, err := os.ReadFile("../console/node_modules/axe-core/axe.min.js")
	require.NoError(t, err, "make build installs it")
	axe := string(raw)
	s := start(t)
	ctx := browser(t)
	run := func(js string) { do(t, ctx, evaluate(js)) }
	get := func(js string) string {
		until(t, ctx, "window.axeSays !== undefined")
		return value[string](t, ctx, js)
	}
	check := func(name string) {
		run("document.querySelectorAll('.el-message').forEach(e => e.remove())")
		until(t, ctx, "!document.querySelector('.el-loading-mask:not([style*=none])') && !document.getAnimations().some(a => a.playState === 'running' && a.effect?.getTiming().iterations !== Infinity)")
		assert.Empty(t, barriers(t, axe, run, get), name)
	}
	do(t, ctx, chromedp.Navigate(s.URL+"/log-in"))
	until(t, ctx, "document.querySelector('#password')")
	check("log-in")
	logIn(t, ctx, s)
	for _, theme := range []string{"light", "dark"} {
		run("localStorage.setItem('olive.theme', '" + theme + "')")
		for _, v := range []struct{ path, ready, dialog, open string }{
			{"/", "document.querySelector('[data-test=steps], .chart, h1')", "", ""},
			{"/templates", "document.querySelectorAll('.item canvas').length === 3", "[data-test=new]", "document.querySelectorAll('.starters canvas').length > 3"},
			{"/templates/mooring-invoice", drawn, "[data-test=palette]", "document.querySelector('.palette')"},
			{"/templates/course-certificate", drawn, "[data-test=ask]", "document.querySelector('[data-test=element]')"},
			{"/templates/season-report", drawn, "[data-test=batch]", "document.querySelector('.el-dialog')"},
			{"/records", "document.querySelectorAll('.el-table__row').length > 2", "", ""},
			{"/batches", "document.querySelector('h1')", "", ""},
			{"/documents", "document.querySelector('h1')", "", ""},
			{"/ledger", "document.querySelector('h1')", "[data-test=check]", "true"},
			{"/settings", "document.querySelectorAll('.el-table__row').length > 0", "", ""},
		} {
			visit(t, ctx, s, v.path)
			until(t, ctx, v.ready)
			name := strings.Join([]string{theme, v.path}, " ")
			check(name)
			if v.dialog != "" {
				press(t, ctx, v.dialog)
				until(t, ctx, v.open)
				check(name + " with what opens")
			}
		}
	}
}
