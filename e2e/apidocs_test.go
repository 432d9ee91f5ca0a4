package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// TestAPIPage opens the page that describes the API, and tries a request with the session of the console.
func TestAPIPage(t *testing.T) {
	s := start(t)
	ctx := browser(t)
	logIn(t, ctx, s)
	do(t, ctx, chromedp.Navigate(s.URL+"/api.html"))
	until(t, ctx, "document.querySelectorAll('.opblock-tag').length > 10")
	look(t, ctx, "api")
	press(t, ctx, "#operations-tag-setup .expand-operation, [data-tag=setup] .expand-operation")
	until(t, ctx, "document.querySelector('[data-path=\"/setup\"]')")
	press(t, ctx, "#operations-setup-getSetup .opblock-summary-control")
	press(t, ctx, "#operations-setup-getSetup .execute")
	until(t, ctx, "document.querySelector('#operations-setup-getSetup tr.response .response-col_status')?.innerText.startsWith('200')")
	look(t, ctx, "api-tried")
	hosts := value[[]string](t, ctx, "[...new Set(performance.getEntriesByType('resource').map(r => new URL(r.name).origin))]")
	assert.Equal(t, []string{s.URL}, hosts, "nothing is asked of other hosts")
}
