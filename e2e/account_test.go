package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// TestAccount is the way of a person who changes their password and ends a log-in that they left open elsewhere.
func TestAccount(t *testing.T) {
	s := start(t)
	elsewhere, ctx := browser(t), browser(t)
	logIn(t, elsewhere, s)
	logIn(t, ctx, s)

	press(t, ctx, "[data-test=me]")
	press(t, ctx, "[data-test=my-account]")
	until(t, ctx, "document.querySelectorAll('[data-test=account] .el-table__row').length === 2")
	says(t, ctx, "Chromium, Linux")
	press(t, ctx, "[data-test=account] .textLink")
	until(t, ctx, "document.querySelectorAll('[data-test=account] .el-table__row').length === 1")
	do(t, elsewhere, chromedp.Navigate(s.URL+"/documents"))
	until(t, elsewhere, "location.pathname === '/log-in'")

	fill(t, ctx, "input[aria-label='Present password']", "wrong")
	fill(t, ctx, "input[aria-label='New password']", "quay and lantern")
	click(t, ctx, "[data-test=account] button", "Change")
	says(t, ctx, "the present password is another one")
	fill(t, ctx, "input[aria-label='Present password']", s.Password)
	click(t, ctx, "[data-test=account] button", "Change")
	says(t, ctx, "Password changed")
	require.True(t, value[bool](t, ctx, "document.querySelector('[data-test=account]') !== null"), "one is still logged in")

	s.Password = "quay and lantern"
	logIn(t, elsewhere, s)
}

// TestApprovalOfASeries has a series demand a second person.
func TestApprovalOfASeries(t *testing.T) {
	s := start(t)
	ctx := browser(t)
	logIn(t, ctx, s)
	visit(t, ctx, s, "/settings")
	click(t, ctx, ".el-tabs__item", "Number series")
	fill(t, ctx, "#pane-series input[aria-label=Name]", "strict")
	press(t, ctx, "#pane-series .el-checkbox")
	click(t, ctx, "#pane-series button", "Add a series")
	until(t, ctx, "document.querySelector('#pane-series .el-switch.is-checked')")
	press(t, ctx, "#pane-series .el-switch")
	until(t, ctx, "document.querySelector('#pane-series .el-table__row .el-switch:not(.is-checked)')")
}
