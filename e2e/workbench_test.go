package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestWorkbenchTools places fields, looks closer, goes to a page and shows two records side by side.
func TestWorkbenchTools(t *testing.T) {
	s := start(t)
	ctx := browser(t)
	logIn(t, ctx, s)
	visit(t, ctx, s, "/templates/mooring-invoice")
	until(t, ctx, drawn)

	press(t, ctx, "[data-test=palette]")
	until(t, ctx, "document.querySelectorAll('.palette button').length > 50")
	look(t, ctx, "workbench-palette")
	editor(t, ctx, "v.dispatch({ selection: { anchor: v.state.doc.toString().indexOf('</body>') } })")
	click(t, ctx, ".palette button", ".number")
	source := func() string {
		return value[string](t, ctx, "(() => { const c = document.querySelector('.cm-content'); return (c.cmTile?.view ?? c.cmView.view).state.doc.toString() })()")
	}
	assert.Contains(t, source(), "{{.number}}</body>")
	until(t, ctx, "document.querySelector('.tools').innerText.includes('draft kept')")
	press(t, ctx, "[data-test=palette]")
	until(t, ctx, "!document.querySelector('.palette')")

	visit(t, ctx, s, "/templates/season-report")
	until(t, ctx, drawn)
	width := func() float64 {
		return value[float64](t, ctx, "document.querySelector('.stage canvas').getBoundingClientRect().width")
	}
	fits := width()
	press(t, ctx, "[data-test=larger]")
	until(t, ctx, "parseFloat(document.querySelector('[data-test=fit]').innerText) > 0")
	assert.Greater(t, width(), fits)
	press(t, ctx, "[data-test=smaller]")
	press(t, ctx, "[data-test=smaller]")
	assert.Less(t, width(), fits)
	press(t, ctx, "[data-test=fit]")
	assert.InDelta(t, fits, width(), 1)

	fill(t, ctx, "[data-test=turn] input", "4")
	do(t, ctx, evaluate("document.querySelector('[data-test=turn] input').dispatchEvent(new Event('change'))"))
	until(t, ctx, "Math.abs(document.querySelectorAll('.page')[3].getBoundingClientRect().top - document.querySelector('.stage').getBoundingClientRect().top) < 80")
	until(t, ctx, "document.querySelectorAll('.stage canvas')[3].width > 300") // it is drawn when it comes into view

	visit(t, ctx, s, "/templates/mooring-invoice")
	until(t, ctx, drawn)
	click(t, ctx, "[role=tab]", "Record")
	until(t, ctx, "document.querySelector('.step')")
	press(t, ctx, ".step .el-select__wrapper")
	click(t, ctx, ".el-select-dropdown__item", "invoices.json")
	until(t, ctx, "document.querySelector('.step').innerText.includes('Record 1 of')")
	press(t, ctx, "[data-test=beside]")
	until(t, ctx, "document.querySelector('[data-test=other]')?.innerText.includes('Record 2 of')")
	until(t, ctx, "document.querySelectorAll('.sheets').length === 2 && [...document.querySelectorAll('.sheets')].every(s => s.querySelector('[data-test=took]') && !s.querySelector('[data-test=busy]'))")
	look(t, ctx, "workbench-two")
	pictures := func() []any {
		return value[[]any](t, ctx, "[...document.querySelectorAll('.sheets')].map(s => s.querySelector('canvas').toDataURL())")
	}()
	assert.NotEqual(t, pictures[0], pictures[1], "two records look different")
	press(t, ctx, "[data-test=other] [data-test=longest]")
	until(t, ctx, "/Record (?!2 )\\d+ of 64/.test(document.querySelector('[data-test=other]').innerText)")
	press(t, ctx, "[data-test=beside]")
	until(t, ctx, "document.querySelectorAll('.sheets').length === 1")
}
