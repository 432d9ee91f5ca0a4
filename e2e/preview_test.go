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

// TestFindOnThePages: what is sought is marked on each page where it stands, and looked at one by one.
func TestFindOnThePages(t *testing.T) {
	s := start(t)
	ctx := browser(t)
	logIn(t, ctx, s)
	visit(t, ctx, s, "/templates/season-report")
	until(t, ctx, drawn)
	fill(t, ctx, "[data-test=seek]", "harbour")
	until(t, ctx, "/^1 of \\d+$/.test(document.querySelector('[data-test=hits]')?.innerText)")
	n := value[int](t, ctx, "+document.querySelector('[data-test=hits]').innerText.split(' ')[2]")
	assert.Greater(t, n, 3)
	assert.GreaterOrEqual(t, value[int](t, ctx, "document.querySelectorAll('[data-test=hit]').length"), n, "one that goes over a line has two")
	press(t, ctx, "[data-test=nextHit]")
	until(t, ctx, "document.querySelector('[data-test=hits]').innerText.startsWith('2 of ')")
	seen := `(() => { const b = document.querySelector('.hit.looked').getBoundingClientRect(), s = document.querySelector('.stage').getBoundingClientRect(); return b.width > 10 && b.top >= s.top && b.bottom <= s.bottom })()`
	until(t, ctx, seen)
	look(t, ctx, "find-on-pages")
	fill(t, ctx, "[data-test=seek]", "no such word")
	until(t, ctx, "document.querySelector('[data-test=hits]').innerText === 'not there'")
	assert.Zero(t, value[int](t, ctx, "document.querySelectorAll('[data-test=hit]').length"))
}
