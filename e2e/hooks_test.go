package e2e

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"sync/atomic"
	"testing"
	"testing/fstest"

	"github.com/chromedp/chromedp"

	"oliveledger/client"
	"oliveledger/internal/service"
	"oliveledger/internal/servicetest"
)

// TestWebhooks adds a webhook, sends it a test while it refuses, and again when it does not.
func TestWebhooks(t *testing.T) {
	var open atomic.Bool
	books := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		if !open.Load() {
			http.Error(w, "the books are closed", http.StatusForbidden)
		}
	}))
	defer books.Close()
	s := servicetest.Start(t, t.TempDir(), func(c *service.Config) {
		c.DeliverHosts, c.WebhookSecret = []string{strings.TrimPrefix(books.URL, "http://")}, "a secret"
	})
	ctx := browser(t)
	enter(t, ctx, s)
	visit(t, ctx, s, "/settings?tab=hooks")
	says(t, ctx, "No webhooks yet.")
	fill(t, ctx, "#pane-hooks input[aria-label=Address]", "https://elsewhere.example/")
	click(t, ctx, "#pane-hooks button", "Add a webhook")
	says(t, ctx, "nothing may be sent to the host elsewhere.example")
	fill(t, ctx, "#pane-hooks input[aria-label=Address]", books.URL+"/in")
	click(t, ctx, "#pane-hooks button", "Add a webhook")
	says(t, ctx, "Document issued, Document made void, Delivery arrived")
	look(t, ctx, "webhooks")

	click(t, ctx, "button", "Messages")
	says(t, ctx, "It was told nothing yet.")
	click(t, ctx, "button", "Send a test")
	says(t, ctx, "403 Forbidden: the books are closed")
	open.Store(true)
	click(t, ctx, "button", "Send again")
	until(t, ctx, "document.querySelector('.el-drawer .el-tag')?.innerText === 'done'")
	_, err := s.Client.Push(t.Context(), "card", "", fstest.MapFS{"page.html": {Data: []byte("<p>{{.name}}")}})
	if err == nil {
		_, err = s.Client.Issue(t.Context(), client.Order{Template: "card", Record: []byte(`{"name":"Ida"}`)}, "")
	}
	if err != nil {
		t.Fatal(err)
	}
	visit(t, ctx, s, "/settings?tab=hooks&hook=1")
	says(t, ctx, "document 1")
	until(t, ctx, "document.querySelectorAll('.el-drawer .el-tag--success').length === 2")
	look(t, ctx, "webhook-messages")
	do(t, ctx, chromedp.EmulateViewport(400, 820))
	look(t, ctx, "webhook-messages-narrow")
	until(t, ctx, "document.querySelector('.el-drawer').getBoundingClientRect().left === 0")
	click(t, ctx, "a", "document 1")
	until(t, ctx, "location.pathname === '/documents' && document.querySelector('.el-drawer, .el-dialog, aside')")
}
