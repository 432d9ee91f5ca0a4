package e2e

import (
	"context"
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// pointAt clicks a place of the first page, in parts of its width and height.
func pointAt(t testing.TB, ctx context.Context, across, down float64) {
	t.Helper()
	do(t, ctx, chromedp.Evaluate[chromedp.Void](fmt.Sprintf(`(() => {
		const p = document.querySelector('.stage .page'), b = p.getBoundingClientRect()
		p.dispatchEvent(new MouseEvent('click', { bubbles: true, clientX: b.left + b.width * %g, clientY: b.top + b.height * %g }))
	})()`, across, down)))
}

// TestInspect asks what stands at a place of a page, follows a rule to its source, and changes a value there.
func TestInspect(t *testing.T) {
	s := start(t)
	ctx := browser(t)
	logIn(t, ctx, s)
	visit(t, ctx, s, "/templates/mooring-invoice")
	until(t, ctx, drawn)
	press(t, ctx, "[data-test=ask]")
	says(t, ctx, "Click on a page.")
	pointAt(t, ctx, 0.2, 0.5)
	until(t, ctx, "document.querySelectorAll('[data-test=element] .path button').length > 3")
	until(t, ctx, "document.querySelectorAll('[data-test=box]').length === 4")
	look(t, ctx, "inspect")
	path := value[string](t, ctx, "[...document.querySelectorAll('[data-test=element] .path .mono')].map(b => b.innerText).join(' ')")
	assert.Contains(t, path, "<html> <body>")
	lost := value[int](t, ctx, "document.querySelectorAll('[data-test=element] .declaration.lost').length")
	won := value[int](t, ctx, "document.querySelectorAll('[data-test=element] .declaration.won').length")
	assert.Positive(t, won, "some rule takes effect (%d are lost)", lost)

	const places = "JSON.stringify([...document.querySelectorAll('[data-test=box]')].map(b => b.style.cssText))"
	was := value[string](t, ctx, places)
	click(t, ctx, "[data-test=element] .path button", "<tr>")
	says(t, ctx, "It has no box of its own here.")
	click(t, ctx, "[data-test=element] .path button", "<table class=lines>")
	until(t, ctx, fmt.Sprintf("document.querySelectorAll('[data-test=box]').length === 4 && %s !== %q", places, was))
	click(t, ctx, "[data-test=element] .rule .textLink", "style.css:")
	until(t, ctx, "document.querySelector('.files [aria-selected=true]')?.innerText === 'style.css'")

	// a value that is changed here is changed in the source, and on the page
	const width = "document.querySelector('[data-test=element] input[aria-label=width]')"
	until(t, ctx, width)
	do(t, ctx, chromedp.Evaluate[chromedp.Void]("(() => { const i = "+width+"; i.value = '80%'; i.dispatchEvent(new Event('change')) })()"))
	until(t, ctx, "document.querySelector('.cm-content').innerText.includes('.lines { width: 80%')")
	until(t, ctx, "document.querySelector('.drawing')?.getAttribute('aria-label').includes(', 520')")
	look(t, ctx, "inspect-changed")
	click(t, ctx, "label", "Inspect")
	until(t, ctx, "!document.querySelector('[data-test=element], [data-test=box]')")
}
