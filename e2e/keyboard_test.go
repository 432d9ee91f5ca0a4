package e2e

import (
	"context"
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
)

// keys sends keys to whatever has the keyboard.
func keys(t testing.TB, ctx context.Context, text string, options ...chromedp.KeyOption) {
	t.Helper()
	do(t, ctx, chromedp.KeyEvent(text, options...))
}

// taken sends a key that the page takes for itself. A keyboard then writes no
// character; the browser's stand-in for one would write it, where the page has
// moved on to.
func taken(t testing.TB, ctx context.Context, key string) {
	t.Helper()
	do(t, ctx, chromedp.Evaluate[chromedp.Void](fmt.Sprintf("document.activeElement.dispatchEvent(new KeyboardEvent('keydown', { key: %q, code: %q, bubbles: true, cancelable: true }))", key, key)))
}

// tabTo goes from field to field until one of that kind has the keyboard. What has
// it must be seen to have it.
func tabTo(t testing.TB, ctx context.Context, kind string) {
	t.Helper()
	for range 60 {
		keys(t, ctx, kb.Tab)
		if value[bool](t, ctx, fmt.Sprintf("!!document.activeElement?.matches(%q)", kind)) {
			assert.True(t, value[bool](t, ctx, `(() => { const s = getComputedStyle(document.activeElement); const around = document.activeElement.closest('.el-input__wrapper'); return s.outlineStyle !== 'none' || s.boxShadow !== 'none' || !!around && getComputedStyle(around).boxShadow !== 'none' })()`), "%s shows no sign that it has the keyboard", kind)
			return
		}
	}
	t.Fatalf("no way by Tab to %s; the keyboard is at %s", kind, value[string](t, ctx, "document.activeElement.outerHTML.slice(0, 200)"))
}

// TestKeyboard does the work of a person without a mouse: log in, find a
// document, look at it and make it void, and open a template.
func TestKeyboard(t *testing.T) {
	s := start(t)
	_, err := s.Client.AddSeries(context.Background(), client.Series{Name: "invoices", Pattern: "N-{number:3}", Next: 1})
	require.NoError(t, err)
	made, err := s.Client.Issue(context.Background(), client.Order{Template: "mooring-invoice", RecordSet: 3, Records: []int{1, 2, 3}, Series: "invoices"}, "")
	require.NoError(t, err)
	ctx := browser(t)
	do(t, ctx, chromedp.Navigate(s.URL+"/templates"))
	until(t, ctx, "document.querySelector('#password')")
	tabTo(t, ctx, "#email")
	keys(t, ctx, s.Email)
	tabTo(t, ctx, "#password")
	keys(t, ctx, s.Password)
	keys(t, ctx, kb.Enter)
	until(t, ctx, "document.querySelectorAll('.item').length === 3")

	keys(t, ctx, "?")
	until(t, ctx, "document.querySelector('.el-dialog')?.getClientRects().length")
	keys(t, ctx, kb.Escape)
	until(t, ctx, "!document.querySelector('.el-dialog')?.getClientRects().length")

	keys(t, ctx, "4", chromedp.KeyModifiers(chromedp.ModifierAlt))
	until(t, ctx, "location.pathname === '/documents' && document.querySelectorAll('a.save').length === 3")
	taken(t, ctx, "/")
	until(t, ctx, "document.activeElement?.matches('.search input')")
	keys(t, ctx, "N-002")
	until(t, ctx, "document.querySelectorAll('a.save').length === 1")
	tabTo(t, ctx, "button.name")
	keys(t, ctx, kb.Enter)
	until(t, ctx, "document.querySelector('.panel canvas')")
	tabTo(t, ctx, "[data-test=void]")
	keys(t, ctx, kb.Enter)
	until(t, ctx, "document.activeElement?.matches('.el-message-box input')")
	keys(t, ctx, "wrong berth")
	taken(t, ctx, "Enter")
	until(t, ctx, "!document.querySelector('[data-test=void]')")
	until(t, ctx, "![...document.querySelectorAll('.is-message-box')].some(o => o.getClientRects().length)")
	d, err := s.Client.Document(context.Background(), made[1].ID)
	require.NoError(t, err)
	assert.Equal(t, "void", d.State)

	keys(t, ctx, "1", chromedp.KeyModifiers(chromedp.ModifierAlt))
	until(t, ctx, "location.pathname === '/templates' && document.querySelectorAll('.item').length === 3")
	tabTo(t, ctx, ".item a, a.item, .item button")
	keys(t, ctx, kb.Enter)
	until(t, ctx, "document.querySelector('.cm-content')")
	onlyHere(t, ctx, s)
}
