package merge

import (
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// place is the line and column, from 1, of a part of a text.
func place(t *testing.T, text, part string) (line, column int) {
	t.Helper()
	at := strings.Index(text, part)
	require.GreaterOrEqual(t, at, 0, "%q in %q", part, text)
	return lineOf(text, at)
}

func TestMergedTextIsTracedToItsFile(t *testing.T) {
	const page = `{{template "frame" .}}
{{define "body"}}
<h1>Heading</h1>
<!-- a comment
  of two lines -->
<style>
  /* gone as well */ .late { color: red }
</style>
{{range .lines}}
  <p class="line">{{.what}} <b>bold</b></p>
{{- end}}
<em>after</em> {{if .lines}}<i>some</i>{{else}}none{{end}}
{{end}}`
	const frame = "{{define \"frame\"}}<main>\n{{block \"body\" .}}{{end}}\n</main>\n<footer>foot</footer>{{end}}"
	files := fstest.MapFS{
		ManifestName: {Data: []byte("parts: [parts/frame.html]\n")}, "page.html": {Data: []byte(page)}, "parts/frame.html": {Data: []byte(frame)},
	}
	tpl, err := Open("t", files)
	require.NoError(t, err)
	m, err := tpl.Merge(rec(t, `{"lines": [{"what": "rope"}, {"what": "buoy\nand chain"}, {"what": "oar"}]}`))
	require.NoError(t, err)
	html := string(m.HTML)

	for part, source := range map[string]string{"<h1>": page, "<style>": page, ".late": page, "<em>after": page, "<i>some": page, "<main>": frame, "</main>": frame, "<footer>": frame} {
		file := "page.html"
		if source == frame {
			file = "parts/frame.html"
		}
		line, column := place(t, html, part)
		gotFile, gotLine, gotColumn := m.Origin(line, column)
		wantLine, wantColumn := place(t, source, part)
		assert.Equal(t, []any{file, wantLine, wantColumn}, []any{gotFile, gotLine, gotColumn}, part)
	}

	rowLine, rowColumn := place(t, page, `<b>bold`)
	at := 0
	for range 3 { // each turn of the loop comes from the same place
		n := strings.Index(html[at:], "<b>bold")
		require.GreaterOrEqual(t, n, 0)
		line, column := lineOf(html, at+n)
		file, gotLine, gotColumn := m.Origin(line, column)
		assert.Equal(t, []any{"page.html", rowLine, rowColumn}, []any{file, gotLine, gotColumn})
		at += n + 1
	}

	line, column := place(t, html, "and chain")
	_, gotLine, gotColumn := m.Origin(line, column)
	wantLine, wantColumn := place(t, page, `{{.what}}`)
	assert.Equal(t, []int{wantLine, wantColumn}, []int{gotLine, gotColumn}, "what a field gives comes from its action")

	for _, where := range [][2]int{{0, 1}, {1, 0}, {99, 1}, {1, 9999}} {
		file, _, _ := m.Origin(where[0], where[1])
		assert.Empty(t, file, "%v is not in the page", where)
	}
}
