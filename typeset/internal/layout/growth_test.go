package layout

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/watch"
)

// pagesOf sets all pages of 400 by 300 px and hands each to look.
func pagesOf(t *testing.T, l *Layout, page func(from *Break) (*Fragment, *Break), look func(*Fragment)) {
	t.Helper()
	for at, n := (*Break)(nil), 0; ; n++ {
		require.Less(t, n, 5000)
		f, rest := page(at)
		require.NotNil(t, f)
		look(f)
		if rest == nil {
			return
		}
		at = rest
	}
}

// Four times as much takes about four times the steps, whatever holds it: what an
// earlier page has worked out is not worked out again.
func TestWorkGrowsAsTheDocumentDoes(t *testing.T) {
	list := func(n int, item string) string {
		var b strings.Builder
		for i := range n {
			fmt.Fprintf(&b, item, i)
		}
		return b.String()
	}
	for name, html := range map[string]func(n int) string{
		"blocks": func(n int) string { return list(n, "<p>Berth %d") },
		"rows":   func(n int) string { return "<table>" + list(n, "<tr><td>%d<td>Berth") + "</table>" },
		"flex column": func(n int) string {
			return "<main style='display:flex;flex-direction:column'>" + list(n, "<p>%d") + "</main>"
		},
		"flex lines": func(n int) string {
			return "<main style='display:flex;flex-wrap:wrap'>" + list(n, "<p style='width:90px'>%d") + "</main>"
		},
		"grid": func(n int) string {
			return "<main style='display:grid;grid-template-columns:1fr 1fr'>" + list(n, "<p>%d") + "</main>"
		},
		"columns":     func(n int) string { return "<main style='columns:2'>" + list(n, "<p>Berth %d") + "</main>" },
		"floats":      func(n int) string { return list(n, "<p style='float:left;width:80px'>%d</p>") },
		"a float":     func(n int) string { return "<main style='float:left;width:200px'>" + list(n, "<p>%d") + "</main>" },
		"a flex item": func(n int) string { return "<div style='display:flex'><main>" + list(n, "<p>%d") + "</main><p>x</div>" },
		"lines":       func(n int) string { return "<p>" + list(n, "berth %d, the next, ") },
		"positioned boxes": func(n int) string {
			return list(n, "<p style='position:relative'>x<i style='position:absolute;right:0'>%d</i>")
		},
	} {
		steps := func(n int) (checks int) {
			l, root := tree(t, html(n), "p { margin: 0; font: 10px/20px monospace }")
			l.Watch = &watch.Watch{Check: func() error { checks++; return nil }}
			pagesOf(t, l, func(from *Break) (*Fragment, *Break) { return l.LayPage(root, 400, 300, 0, 0, from) }, func(*Fragment) {})
			return checks
		}
		assert.LessOrEqual(t, steps(16_000), 6*max(steps(4000), 1), name)
	}
}

// Pages of different widths put other items side by side; each item is set once all
// the same.
func TestRowsChangeWithThePage(t *testing.T) {
	for _, css := range []string{"display: flex; flex-wrap: wrap", "display: grid; grid-template-columns: repeat(auto-fill, 80px)"} {
		var items strings.Builder
		for i := range 60 {
			fmt.Fprintf(&items, "<p>w%d", i)
		}
		l, root := tree(t, "<main>"+items.String()+"</main>", "main { "+css+" } p { margin: 0; width: 80px; font: 10px/40px monospace }")
		widths, n := []float64{400, 250, 330, 90}, 0
		var got []string
		pagesOf(t, l, func(from *Break) (*Fragment, *Break) {
			n++
			return l.LayPage(root, widths[(n-1)%len(widths)], 130, 0, 0, from)
		}, func(f *Fragment) {
			for line := range strings.Lines(texts(f)) {
				got = append(got, line[strings.IndexByte(line, 'w'):])
			}
		})
		seen := map[string]bool{}
		for _, w := range got {
			assert.False(t, seen[w], "%s twice: %s", w, css)
			seen[w] = true
		}
		assert.Len(t, seen, 60, css)
	}
}

// The rows of a long table are let go of once they are written, but for those that
// come again, and what reaches over the break.
func TestWrittenRowsAreLetGo(t *testing.T) {
	var rows strings.Builder
	const n = longTable + 1000
	for i := range n {
		fmt.Fprintf(&rows, "<tr><td>Berth %d<td>x", i)
	}
	l, root := tree(t, "<table><thead><tr><th>Head<th>x</thead>"+rows.String()+"</table>", "td, th { padding: 0; font: 10px/20px monospace }")
	boxes := func() int {
		seen := map[*box.Box]bool{}
		inAll(root, func(b *box.Box) { seen[b] = true })
		return len(seen)
	}
	require.Greater(t, boxes(), 4*n)
	count, most := 0, 0
	number := regexp.MustCompile(`Berth (\d+)`)
	for at := (*Break)(nil); ; {
		f, rest := l.LayPage(root, 400, 300, 0, 0, at)
		require.NotNil(t, f)
		got := texts(f)
		assert.Contains(t, got, "Head")
		for _, m := range number.FindAllStringSubmatch(got, -1) {
			require.Equal(t, strconv.Itoa(count), m[1], "rows that use memory again show their own words")
			count++
		}
		if rest == nil {
			break
		}
		l.Written(root, rest)
		if at = rest; count > n/2 {
			most = max(most, boxes())
		}
	}
	assert.Equal(t, n, count, "no row is lost or comes twice")
	assert.Less(t, most, 5*n/2, "half of the rows are gone by then")
	assert.Less(t, boxes(), 200)
}
