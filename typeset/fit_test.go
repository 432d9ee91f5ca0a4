package typeset

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// fitted sets a page of 400 by 300 px with margins of 20 px, and returns its words, and its
// findings by code.
func fitted(t *testing.T, html string) (map[string]place, map[string][]Finding) {
	t.Helper()
	html = "<!DOCTYPE html><title>t</title><style>@page { size: 400px 300px; margin: 20px } body { margin: 0; font: 10px/12px sans-serif } td { white-space: nowrap } .w { width: 600px }</style>" + html
	pdf, _ := pdfOf(t, html, Options{})
	return places(t, pdf), told(t, html)
}

// What the sheet's edge would cut is set smaller, and told of: the box that has to shrink
// least, on all its pages.
func TestWhatTheSheetWouldCutIsFitted(t *testing.T) {
	row := "<tr>" + strings.Repeat("<td>column", 11) + "<td>last"
	for name, c := range map[string]struct{ html, box string }{
		"a table":                                  {"<table>" + row + "</table>", "<table>"},
		"in a box that goes on":                    {"<div><p>x<table>" + row + "</table>" + strings.Repeat("<p>y", 30) + "</div>", "<table>"},
		"a block of its own width":                 {"<div class=w><p style='text-align: right'>last</div>", "<div class=w>"},
		"the items of a grid":                      {"<div style='display: grid; grid-template-columns: 1fr 1fr'><p>x</p><table>" + row + "</table></div>", "<div>"},
		"of which the wide one is on a later page": {"<div style='display: grid; grid-template-columns: 1fr 1fr'><p style='height: 250px'>x</p><p>y</p><p>x</p><table>" + row + "</table></div>", "<div>"},
		"the items of a flex container":            {"<main style='display: flex'><p>x</p><table>" + row + "</table></main>", "<main>"},
		"a table in a cell":                        {"<table class=o><tr><td>x<td><table>" + row + "</table></table>", "<table class=o>"},
		"beside a float":                           {"<div style='float: left; width: 50px; height: 20px'></div><main style='display: flex'><p>x</p><table>" + row + "</table></main>", "<main>"},
		"what reaches out of its own least width":  {"<div style='display: grid; grid-template-columns: 1fr 1fr'><p>x</p><div><div style='width: 160px'><div style='width: 230px'><p style='text-align: right'>last</div></div></div></div>", "<div>"},
	} {
		t.Run(name, func(t *testing.T) {
			at, told := fitted(t, "<p>before</p>"+c.html)
			last := at["last"]
			assert.Greater(t, last.x1, 300.0)
			assert.Less(t, last.x1, 400.0)
			assert.InDelta(t, at["before"].y1-at["before"].y, 12, 3, "the text around keeps its size")
			if assert.Len(t, told["content-fitted"], 1) {
				f := told["content-fitted"][0]
				assert.Regexp(t, "^"+c.box+` is set at \d\d %: the sheet’s edge would cut it$`, f.Message)
				assert.Equal(t, Note, f.Severity)
			}
			assert.Empty(t, told["content-off"])
		})
	}
}

// What is off the sheet on purpose, or would be no smaller, is left alone.
func TestWhatIsNotFitted(t *testing.T) {
	row := "<tr>" + strings.Repeat("<td>column", 12)
	for name, html := range map[string]string{
		"asked not to":           "<table style='-olive-fit: none'>" + row + "</table>",
		"beyond the margin only": "<div style='width: 375px; text-align: right'>last</div>",
		"positioned":             "<div style='position: absolute; left: 500px'>last</div>",
		"clipped":                "<div style='overflow: hidden'><table>" + row + "</table></div>",
		"transformed":            "<div style='transform: translateX(500px)'>last</div>",
		"columns in excess":      "<div style='columns: 2; height: 20px; column-fill: auto'>" + strings.Repeat("<p style='margin: 0'>last", 8) + "</div>",
		"far too wide":           "<table>" + strings.Repeat(row, 1) + strings.Repeat("<td>column", 40) + "</table>",
		"hidden":                 "<table style='visibility: hidden'>" + row + "</table>",
	} {
		_, told := fitted(t, html)
		assert.Empty(t, told["content-fitted"], name)
	}
	_, told := fitted(t, "<table style='-olive-fit: none'>"+row+"</table>")
	assert.NotEmpty(t, told["content-wide"], "it is told all the same")
}
