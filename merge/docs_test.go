package merge

import (
	"html"
	"os"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var (
	functionRow = regexp.MustCompile("(?m)^\\| `([^`]+)` \\| ([^|]*?) ?\\|")
	markup      = regexp.MustCompile(`<[^>]*>`)
)

// Each row of the tables of functions gives what it says.
func TestFunctionsDoWhatTheirPageSays(t *testing.T) {
	page, err := os.ReadFile("../docs/templates.md")
	require.NoError(t, err)
	_, rest, _ := strings.Cut(string(page), "## Functions")
	section, _, _ := strings.Cut(rest, "## Totals")
	_, rest, _ = strings.Cut(section, "```json")
	js, tables, ok := strings.Cut(rest, "```")
	require.True(t, ok)
	rows := functionRow.FindAllStringSubmatch(tables, -1)
	require.Greater(t, len(rows), 50)
	called := map[string]bool{}
	for _, row := range rows {
		call, want := row[1], strings.TrimSpace(row[2])
		for _, word := range strings.FieldsFunc(call, func(r rune) bool { return strings.ContainsRune(" ()", r) }) {
			called[word] = true
		}
		if want == "" { // it needs files of its own
			continue
		}
		action := "{{" + call + "}}"
		switch {
		case strings.HasPrefix(call, "range taxes"):
			action += "{{.Rate}}: {{.Net}} + {{.Tax}} = {{.Gross}}; {{end}}"
		case strings.HasPrefix(call, "range groupBy"):
			action += "{{.Key}} {{count .Entries}}; {{end}}"
		case strings.HasPrefix(call, "if "):
			action += "yes{{else}}no{{end}}"
		}
		tpl, err := Open("t", folder(action, "locale: en\ncurrency: EUR\n"))
		require.NoError(t, err, call)
		tpl, err = tpl.On(time.Date(2026, 5, 31, 0, 0, 0, 0, time.UTC))
		require.NoError(t, err, call)
		m, err := tpl.Merge(rec(t, js))
		if !assert.NoError(t, err, call) {
			continue
		}
		if want == "*a drawing*" {
			assert.True(t, strings.HasPrefix(string(m.HTML), "<svg "), call)
			continue
		}
		got := html.UnescapeString(markup.ReplaceAllString(string(m.HTML), ""))
		assert.Equal(t, want, strings.TrimSpace(strings.ReplaceAll(got, "\u00A0", " ")), call)
	}
	tpl, err := Open("t", folder("", ""))
	require.NoError(t, err)
	for name := range tpl.functions {
		switch name {
		case fieldName, maybeName, showName, shownName, eachName, anyName:
		default:
			assert.True(t, called[name] || strings.Contains(tables, "`"+name+"`"), "the page tells nothing of %s", name)
		}
	}
}
