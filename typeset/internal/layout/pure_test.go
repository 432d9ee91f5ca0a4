package layout

import (
	"fmt"
	"math/rand"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/box"
)

// place writes down where a fragment and all that it holds stand.
func place(b *strings.Builder, f *Fragment, x, y float64) {
	if f.Text != nil {
		for _, r := range f.Text.Runs {
			fmt.Fprintf(b, "%q ", r.Text)
		}
	}
	fmt.Fprintf(b, "%.3f,%.3f %.3f×%.3f %v\n", x, y, f.W, f.H, f.Border)
	for _, k := range f.Kids {
		place(b, k.F, x+k.X, y+k.Y)
	}
}

// everywhere lays a document out on pages of a width, and describes all of them.
func everywhere(t *testing.T, l *Layout, root *box.Box, width float64) string {
	t.Helper()
	var b strings.Builder
	var at *Break
	var over Leftover
	for range 1000 {
		page, rest := l.LayPage(root, width, 200, 0, 0, at)
		require.NotNil(t, page)
		l.SettleAll(page, width, 200)
		l.PutLate(page, &over, 200)
		over.Take(page)
		place(&b, page, 0, 0)
		if rest == nil && over.Empty() {
			break
		}
		if rest == nil {
			rest = Nothing(root)
		}
		at = rest
	}
	return b.String()
}

// TestLayoutIsPure lays random documents out at several widths, one after the other. At a width that comes
// again everything stands where it stood, and where it stands in a layout that has seen nothing else.
func TestLayoutIsPure(t *testing.T) {
	docs := []string{
		"<div style='display:flex;flex-wrap:wrap;margin-trim:inline'>" + strings.Repeat("<p style='width:110px;margin:10px'>a</p>", 4) + "</div>",
		"<div style='display:grid;grid-template-columns:repeat(auto-fill,90px);margin-trim:block inline'>" + strings.Repeat("<p style='margin:10px'>a</p>", 7) + "</div>",
	}
	for seed := range int64(200) {
		g := &grower{r: rand.New(rand.NewSource(seed))}
		g.element(1 + g.r.Intn(5))
		docs = append(docs, g.b.String())
	}
	for _, html := range docs {
		l, root := tree(t, html, "body { font: 10px/1.2 sans-serif }")
		first := everywhere(t, l, root, 500)
		everywhere(t, l, root, 300)
		narrow := everywhere(t, l, root, 120)
		if !assert.Equal(t, first, everywhere(t, l, root, 500), html) {
			return
		}
		fresh, same := tree(t, html, "body { font: 10px/1.2 sans-serif }")
		if !assert.Equal(t, everywhere(t, fresh, same, 120), narrow, html) {
			return
		}
	}
}
