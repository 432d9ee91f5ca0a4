package layout

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// texts writes what is read, and where: x,y w “text”.
func texts(f *Fragment) string {
	var b strings.Builder
	var walk func(f *Fragment, x, y float64)
	walk = func(f *Fragment, x, y float64) {
		if f.Text != nil {
			fmt.Fprintf(&b, "%.3f,%.3f %.3f “", x, y, f.W)
			for _, r := range f.Text.Runs {
				b.WriteString(r.Text)
			}
			b.WriteString("”\n")
		}
		for _, k := range f.Kids {
			walk(k.F, x+k.X, y+k.Y)
		}
	}
	walk(f, 0, 0)
	return b.String()
}

// Plain text is set as text is that takes the long way, as an empty element in it has
// it do.
func TestPlainTextIsSetAsOther(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	pick := func(list ...string) string { return list[r.IntN(len(list))] }
	text := func() string {
		words := make([]string, 1+r.IntN(5))
		for i := range words {
			words[i] = pick("Quay", "mooring", "12.50", "2026-01-31", "-7", "E26", "(see", "below)", "it's", "4%", "$3", "Zoë", "–", "€", "12\u00A0m", "fi", "AV")
			if r.IntN(20) == 0 {
				words[i] = pick("a-b", "winter/spring", "x\u00ADy", "Ω")
			}
		}
		return pick("", " ", "\n  ") + strings.Join(words, pick(" ", " ", "\n", "  ")) + pick("", " ", "\n")
	}
	plainly := 0
	for i := range 400 {
		css := fmt.Sprintf("table { width: %s; border-collapse: %s } td, p { text-align: %s; padding: %dpx; border: %dpx solid; font: %s %dpx/%s %s; white-space: %s } td { vertical-align: %s; height: %s; width: %s } p { margin: 3px; text-indent: %s; direction: %s }",
			pick("auto", "100%", "90px"), pick("collapse", "separate"), pick("left", "right", "center", "justify", "end"), r.IntN(5), r.IntN(3), pick("", "bold", "italic"), 8+r.IntN(9), pick("normal", "1.5", "20px"), pick("serif", "sans-serif", "monospace"),
			pick("normal", "normal", "nowrap", "pre-line"), pick("top", "middle", "bottom", "baseline"), pick("auto", "auto", "40px"), pick("auto", "auto", "60px"), pick("0", "0", "7px"), pick("ltr", "ltr", "rtl"))
		cells := []string{text(), text(), text()}
		page := func(end string) string {
			l, root := tree(t, fmt.Sprintf("<table><tr><td>%s%s<td>%s%s</table><p>%s%[2]s</p>", cells[0], end, cells[1], end, cells[2]), css)
			f, rest := l.LayPage(root, 400, 900, 0, 0, nil)
			require.NotNil(t, f)
			require.Nil(t, rest)
			if end == "" && l.plainOf(root.Children[0].Children[1]) != nil {
				plainly++
			}
			return texts(f)
		}
		assert.Equal(t, page("<i></i>"), page(""), "%d: %q, %s", i, cells, css)
	}
	assert.Greater(t, plainly, 100, "texts that are plain")
}

// A text that has no room on its line, or a page, is not lost.
func TestPlainTextThatDoesNotFit(t *testing.T) {
	l, root := tree(t, "<table><tr><td>Quay and Lantern Harbour</table>", "table { width: 60px } td { font: 10px/20px monospace }")
	f, _ := l.LayPage(root, 400, 300, 0, 0, nil)
	assert.Equal(t, 3, strings.Count(texts(f), "\n"), texts(f))
	l, root = tree(t, "<p>Quay</p><p>Lantern</p>", "p { margin: 0; font: 10px/60px monospace }")
	f, rest := l.LayPage(root, 400, 100, 0, 0, nil)
	require.NotNil(t, rest)
	assert.Contains(t, texts(f), "Quay")
	f, rest = l.LayPage(root, 400, 100, 0, 0, rest)
	assert.Nil(t, rest)
	assert.Contains(t, texts(f), "Lantern")
}
