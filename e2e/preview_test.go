package e2e

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
)

// BenchmarkPreview changes the markup of a one-page document in the workbench and
// measures, in the page, how long it takes until the change is shown; the pause
// that lets a person type on is part of it.
func BenchmarkPreview(b *testing.B) {
	s := start(b)
	ctx := browser(b)
	logIn(b, ctx, s)
	visit(b, ctx, s, "/templates/mooring-invoice")
	until(b, ctx, drawn)
	var ms []float64
	for b.Loop() {
		editor(b, ctx, fmt.Sprintf(`window.previewMS = 0; const at = v.state.doc.toString().indexOf('<h1>') + 4; const t0 = performance.now(); let seen = false
			v.dispatch({ changes: { from: at, insert: '%d' } })
			const look = () => { const busy = document.querySelector('[data-test=busy]'); if (busy) seen = true; else if (seen) return void (window.previewMS = performance.now() - t0); requestAnimationFrame(look) }
			look()`, len(ms)%10))
		until(b, ctx, "window.previewMS > 0")
		ms = append(ms, value[float64](b, ctx, "window.previewMS"))
	}
	slices.Sort(ms)
	b.ReportMetric(ms[len(ms)/2], "p50-ms")
	b.ReportMetric(ms[len(ms)*99/100], "p99-ms")
}

// TestBreaksLeadToTheSource: why a page ends is written where it does, and leads to what
// comes next.
func TestBreaksLeadToTheSource(t *testing.T) {
	s := start(t)
	ctx := browser(t)
	logIn(t, ctx, s)
	visit(t, ctx, s, "/templates/season-report")
	until(t, ctx, drawn)
	press(t, ctx, "[data-test=breaks]")
	until(t, ctx, "document.querySelectorAll('[data-test=ending]').length > 3")
	assert.Contains(t, value[string](t, ctx, "document.querySelector('[data-test=ending]').innerText"), "a forced break before <section>")
	press(t, ctx, "[data-test=ending]")
	until(t, ctx, "document.querySelector('.cm-activeLine')?.innerText.includes('<section>')")
}
