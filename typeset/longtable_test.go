package typeset

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// wordsOf sets a page and reads its words back.
func wordsOf(t *testing.T, html string, o Options) (words map[string]int, pages int) {
	t.Helper()
	var out bytes.Buffer
	doc, err := Set(context.Background(), []byte(html), o, &out)
	require.NoError(t, err)
	text := tool(t, out.Bytes(), "pdftotext", "-layout", "FILE", "-")
	words = map[string]int{}
	for _, w := range strings.Fields(text) {
		words[w]++
	}
	return words, doc.Pages
}

// TestLongTables sets tables so long that rows are forgotten once they are
// written: each row is on the pages once, heads and feet on each page, also
// when the document is set more than once, cells span rows, or footnotes make
// pages be set again.
func TestLongTables(t *testing.T) {
	const n = 5600
	row := func(i int) string { return fmt.Sprintf("<tr><td>row%d<td>sum%d", i, i%7) }
	rows := func(each func(int) string) string {
		var b strings.Builder
		for i := range n {
			b.WriteString(each(i))
		}
		return b.String()
	}
	const head, foot = "<thead><tr><th>HEAD<th>x</thead>", "<tfoot><tr><td>FOOT<td>x</tfoot>"
	const css = "<!DOCTYPE html><style>@page { size: A4; margin: 10mm } td, th { padding: 0; font-size: 8px; line-height: 10px } "
	for name, html := range map[string]string{
		"plain":   css + "</style><table>" + head + foot + "<tbody>" + rows(row) + "</table>",
		"borders": css + "table { border-collapse: collapse } td { border: 1px solid }</style><table>" + head + foot + "<tbody>" + rows(row) + "</table>",
		"spanning cells": css + "</style><table>" + head + foot + "<tbody>" + rows(func(i int) string {
			return strings.Replace(row(i), "<tr>", map[bool]string{true: "<tr><td rowspan=3>span", false: "<tr>"}[i%3 == 0], 1)
		}) + "</table>",
		"set in rounds": css + "a::after { content: target-counter('#end', page) }</style><a>end</a><table>" + head + foot + "<tbody>" + rows(row) + "</table><p id=end>END",
		"footnotes": css + "i { float: footnote }</style><table>" + head + foot + "<tbody>" + rows(func(i int) string {
			return row(i) + map[bool]string{true: fmt.Sprintf("<i>note%d</i>", i), false: ""}[i%500 == 0]
		}) + "</table>",
		"two columns": css + "div { columns: 2; column-fill: auto }</style><div><table>" + head + foot + "<tbody>" + rows(row) + "</table></div>",
		"two tables":  css + "</style><table>" + head + foot + "<tbody>" + rows(row) + "</table><table><tr><td>AFTER</table>",
	} {
		t.Run(name, func(t *testing.T) {
			words, pages := wordsOf(t, html, Options{})
			require.Greater(t, pages, 20)
			for i := range n {
				require.Equal(t, 1, words[fmt.Sprintf("row%d", i)], "row %d", i)
			}
			if name == "two columns" {
				assert.InDelta(t, 2*pages, words["HEAD"], 1)
			} else {
				assert.InDelta(t, pages, words["HEAD"], 1)
				assert.Equal(t, words["HEAD"], words["FOOT"])
			}
			for i := 0; name == "footnotes" && i < n; i += 500 {
				assert.Equal(t, 1, words[fmt.Sprintf("note%d", i)], "note %d", i)
			}
			if name == "two tables" {
				assert.Equal(t, 1, words["AFTER"])
			}
		})
	}
	t.Run("running sums", func(t *testing.T) {
		html := css + "td.a { -olive-add: total attr(data-v number) } </style><table>" + head + "<tbody>" + rows(func(i int) string { return fmt.Sprintf("<tr><td>row%d<td class=a data-v=1>1", i) }) + "</table>"
		words, _ := wordsOf(t, html, Options{FitPages: 30})
		for i := range n {
			require.Equal(t, 1, words[fmt.Sprintf("row%d", i)])
		}
	})
}

// TestTimeWithinAPage ends a page that would take hours before its first page
// is done.
func TestTimeWithinAPage(t *testing.T) {
	html := strings.Repeat("<div style='display: grid; grid-template-columns: min-content auto'>", 40) + strings.Repeat("<div style='display: flex'><div style='display: inline-grid'>x</div></div>", 2000)
	start := time.Now()
	_, err := Set(context.Background(), []byte(html), Options{Limits: Limits{Time: 300 * time.Millisecond}}, io.Discard)
	if err == nil {
		t.Skip("this machine sets the page in time")
	}
	assert.ErrorContains(t, err, "took longer than 300ms")
	assert.Less(t, time.Since(start), 20*time.Second)
}
