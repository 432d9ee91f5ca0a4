package layout

import (
	"fmt"
	"maps"
	"math/rand"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/box"
)

// ordinary makes pages of what documents are made of: columns made by floats and closed
// by a clear, flex, grid, tables, lists, columns, boxes in lines, breaks forced and
// avoided. All its words are different, and narrow enough to fit wherever they stand.
type ordinary struct {
	r     *rand.Rand
	words int
}

func (g *ordinary) pick(list ...string) string { return list[g.r.Intn(len(list))] }

// text is n words that come nowhere else.
func (g *ordinary) text(n int) string {
	var b strings.Builder
	for range n {
		g.words++
		fmt.Fprintf(&b, "w%d ", g.words)
	}
	return b.String()
}

func (g *ordinary) look() string {
	var s []string
	for _, c := range []struct {
		often float64
		css   string
	}{
		{.12, "break-inside:avoid"},
		{.05, "break-after:page"},
		{.05, "break-before:page"},
		{.08, "break-after:avoid"},
		{.3, g.pick("padding:2px", "padding:12px", "padding:25px")},
		{.3, g.pick("margin:0", "margin:16px 0", "margin:40px 4px")},
		{.15, "border:1px solid"},
		{.06, g.pick("min-height:40px", "min-height:150px") + ";break-inside:avoid"},
	} {
		if g.r.Float64() < c.often {
			s = append(s, c.css)
		}
	}
	return strings.Join(s, ";")
}

func (g *ordinary) para() string {
	return fmt.Sprintf("<p style='%s'>%s</p>", g.look(), g.text([]int{1, 5, 20, 60}[g.r.Intn(4)]))
}

func (g *ordinary) several(depth, n int) string {
	var b strings.Builder
	for range 1 + g.r.Intn(n) {
		b.WriteString(g.block(depth))
	}
	return b.String()
}

func (g *ordinary) times(n int, part func() string) string {
	var b strings.Builder
	for range n {
		b.WriteString(part())
	}
	return b.String()
}

func (g *ordinary) block(depth int) string {
	if depth <= 0 {
		return g.para()
	}
	in := depth - 1
	side := g.pick("left", "right")
	switch g.r.Intn(14) {
	case 0:
		return fmt.Sprintf("<div class=row style='%s'><div style='float:left;width:58%%'>%s</div><div style='float:%s;width:38%%'>%s</div></div>%s", g.look(), g.several(in, 4), side, g.several(in, 3), g.para())
	case 1:
		return fmt.Sprintf("<div><div style='float:%s;width:30%%;margin:4px'>%s</div>%s</div><div style='clear:both'></div>", side, g.several(in, 2), g.several(in, 4))
	case 2:
		item := func() string {
			return fmt.Sprintf("<div style='flex:%s;min-width:0'>%s</div>", g.pick("1", "2", "0 0 30%"), g.several(in, 3))
		}
		return fmt.Sprintf("<div style='display:flex;gap:%s;align-items:%s;%s'>%s</div>", g.pick("0", "10px"), g.pick("stretch", "flex-start", "center"), g.look(), g.times(2+g.r.Intn(2), item))
	case 3:
		return fmt.Sprintf("<div style='display:flex;flex-direction:column;gap:8px;%s'>%s</div>", g.look(), g.several(in, 5))
	case 4:
		item := func() string {
			return fmt.Sprintf("<div style='width:%s;%s'>%s</div>", g.pick("30%", "45%"), g.look(), g.text(3+g.r.Intn(30)))
		}
		return "<div style='display:flex;flex-wrap:wrap;gap:6px'>" + g.times(3+g.r.Intn(9), item) + "</div>"
	case 5:
		item := func() string { return fmt.Sprintf("<div style='%s'>%s</div>", g.look(), g.several(in, 2)) }
		return fmt.Sprintf("<div style='display:grid;grid-template-columns:%s;gap:%s'>%s</div>", g.pick("1fr 1fr", "1fr 2fr", "repeat(3,1fr)"), g.pick("0", "10px"), g.times(2+g.r.Intn(6), item))
	case 6, 7:
		return g.table(in)
	case 8:
		item := func() string {
			return fmt.Sprintf("<li style='%s'>%s</li>", g.look(), g.text([]int{2, 15, 50}[g.r.Intn(3)]))
		}
		return "<ul>" + g.times(2+g.r.Intn(8), item) + "</ul>"
	case 9:
		return "<div style='columns:2'>" + g.times(2+g.r.Intn(6), g.para) + "</div>"
	case 10:
		return fmt.Sprintf("<div>%s<span style='display:inline-block;width:60%%;%s'>%s</span> %s</div>", g.text(4), g.look(), g.text(g.r.Intn(200)), g.text(4))
	case 11:
		return fmt.Sprintf("<div style='overflow:auto;height:%dpx;%s'>%s</div>", 120+g.r.Intn(300), g.look(), g.text(1+g.r.Intn(6)))
	case 12:
		return "<section style='break-inside:avoid'>" + g.para() + g.para() + "</section>"
	}
	return fmt.Sprintf("<div style='%s'>%s</div>", g.look(), g.several(in, 5))
}

func (g *ordinary) table(in int) string {
	columns, rows, span := 2+g.r.Intn(3), []int{2, 6, 25}[g.r.Intn(3)], 0
	var b strings.Builder
	for r := range rows {
		fmt.Fprintf(&b, "<tr style='%s'>", g.pick("", "break-inside:avoid"))
		for c := range columns {
			attr := ""
			if c == 0 && span > 0 {
				span--
				continue
			}
			if c == 0 && r+1 < rows && g.r.Float64() < .12 {
				span = 1 + g.r.Intn(min(4, rows-r-1))
				attr = fmt.Sprintf(" rowspan=%d", span+1)
			}
			if in > 0 && g.r.Float64() < .04 {
				fmt.Fprintf(&b, "<td%s>%s</td>", attr, g.several(in, 1))
			} else {
				fmt.Fprintf(&b, "<td%s>%s</td>", attr, g.text([]int{1, 4, 25}[g.r.Intn(3)]))
			}
		}
		b.WriteString("</tr>")
	}
	return fmt.Sprintf("<table style='width:100%%;border-collapse:%s' border=1>%s</table>", g.pick("collapse", "separate"), b.String())
}

// pageWords is where the words of a page stand: each with the y of its line's ends.
func pageWords(f *Fragment, y float64, note func(word string, top, bottom float64)) {
	if f.Text != nil {
		for _, r := range f.Text.Runs {
			if w := strings.TrimSpace(r.Text); w != "" {
				note(w, y, y+f.H)
			}
		}
	}
	for _, k := range f.Kids {
		pageWords(k.F, y+k.Y, note)
	}
}

// offPaper sets a random page and tells what is wrong with it: each word is to be on paper
// once, none cut by a page's end, and no page without words.
func offPaper(t *testing.T, seed int64, depth int) string {
	const w, h = 500, 650
	g := &ordinary{r: rand.New(rand.NewSource(seed))}
	var b strings.Builder
	for range 3 + g.r.Intn(5) {
		b.WriteString(g.block(depth))
	}
	l, root := tree(t, b.String(), "body { font: 11px/1.2 sans-serif } .row::after { content: ''; display: table; clear: both } td { padding: 2px 4px }")
	pages, wrong := wordsByPage(l, root, w, h)
	seen := map[string]int{}
	for _, words := range pages {
		for _, word := range words {
			seen[word]++
		}
	}
	for i := 1; i <= g.words && len(pages) > 0; i++ {
		if n := seen[fmt.Sprintf("w%d", i)]; n != 1 {
			return fmt.Sprintf("w%d stands %d times", i, n)
		}
	}
	return wrong
}

// wordsByPage sets a document on pages of w by h px, and tells what is wrong: pages that do not end, have no words or cut
// some.
func wordsByPage(l *Layout, root *box.Box, w, h float64) (pages [][]string, wrong string) {
	l.Viewport = [2]float64{w, h}
	var at *Break
	for n := 1; ; n++ {
		page, rest := l.LayPage(root, w, h, 0, 0, at)
		if page == nil || n > 500 || rest != nil && at != nil && SamePlace(at, rest) {
			return nil, fmt.Sprintf("page %d does not end", n)
		}
		l.SettleAll(page, w, h)
		var words []string
		pageWords(page, 0, func(word string, _, bottom float64) {
			words = append(words, word)
			if bottom > h+1 {
				wrong = fmt.Sprintf("%s is cut on page %d", word, n)
			}
		})
		if len(words) == 0 && (rest != nil || n > 1) {
			wrong = fmt.Sprintf("page %d has no words", n)
		}
		pages = append(pages, words)
		if at = rest; rest == nil {
			return pages, wrong
		}
	}
}

// TestEdgesAreNotAlone: where only the lower edges of boxes in boxes have no room, the last of what they hold goes on with
// them (CSS Break 4, §4.1), whatever kinds of boxes they are.
func TestEdgesAreNotAlone(t *testing.T) {
	kinds := map[string]string{
		"block": `<div class=e>%s</div>`, "flex": `<div class=e style="display:flex"><div>%s</div></div>`, "column": `<div class=e style="display:flex;flex-direction:column">%s</div>`,
		"grid": `<div class=e style="display:grid"><div>%s</div></div>`, "table": `<table class=e><tr><td>%s</table>`, "rows": `<table class=e><tr><td>r<tr><td>%s</table>`,
		"float": `<div class=e style="float:left">%s</div><div style="clear:both"></div>`, "columns": `<div class=e style="columns:1">%s</div>`, "legend": `<fieldset class=e>%s</fieldset>`,
	}
	bare := map[string]string{
		"nothing": "%s", "flow-root": `<div style="display:flow-root">%s</div>`, "bare flex": `<div style="display:flex"><div>%s</div></div>`, "bare grid": `<div style="display:grid">%s</div>`,
		"unseen padding": `<div style="padding-bottom:10px">%s</div>`, "bare columns": `<div style="columns:1">%s</div>`, "bare table": `<table><tr><td>%s</table>`,
	}
	maps.Copy(bare, kinds)
	for outer, around := range kinds {
		for inner, within := range bare {
			for _, looks := range []string{"", ".e { border-bottom: 12px solid }", ".m { margin-bottom: 11px }", ".m { margin-bottom: 11px } .e { padding-bottom: 12px }"} {
				if strings.Contains(looks, ".m") && (outer == "columns" || outer == "column" && (strings.HasSuffix(inner, "table") || inner == "columns")) {
					continue // tables and columns that are items themselves still part from their edges where they end in margins
				}
				for tall := 30; tall < 64; tall += 2 {
					html := fmt.Sprintf(strings.Replace(around, "%s", strings.Replace(within, "%s", `<p>a</p><p style="height:%dpx">b</p><p class=m>c</p>`, 1), 1), tall)
					l, root := tree(t, html, "body { margin: 0; font: 10px/20px serif } p, fieldset { margin: 0; padding: 0 } .e { border: 1px solid; width: 90px; box-sizing: border-box } table { border-spacing: 0 } td { padding: 0 }"+looks)
					_, wrong := wordsByPage(l, root, 200, 101)
					assert.Empty(t, wrong, "%s in %s, %d px %s", inner, outer, tall, looks)
				}
			}
		}
	}
}

// TestEdgesOfManyBoxes: nested boxes whose contents have no good place to break are done, however many there are.
func TestEdgesOfManyBoxes(t *testing.T) {
	const deep = 40
	for open, closing := range map[string]string{"<div class=e>": "</div>", "<div class=e style='display:flex'><div>": "</div></div>", "<table class=e><tr><td>": "</table>"} {
		for _, looks := range []string{"", "; margin-bottom: 11px"} {
			for tall := 0; tall < 60; tall += 3 {
				l, root := tree(t, strings.Repeat(open, deep)+fmt.Sprintf("<p style='padding-top:%dpx%s'>a<br>b<br>c<br>d</p>", tall, looks)+strings.Repeat(closing, deep),
					"body { margin: 0; font: 10px/20px serif } p { margin: 0; orphans: 9; widows: 9 } .e { border: 1px solid } table { border-spacing: 0 } td { padding: 0 }")
				pages, _ := wordsByPage(l, root, 300, 160)
				assert.Len(t, slices.Concat(pages...), 4, "%s %d px", open, tall)
			}
		}
	}
}

// TestAllIsOnPaper holds random documents, plain and nested, to what any document may ask
// for. What is left are pages of very deep nesting that have an unseen edge to themselves.
func TestAllIsOnPaper(t *testing.T) {
	for depth, c := range map[int]struct{ documents, whole int }{1: {150, 149}, 2: {150, 147}, 3: {60, 56}} {
		whole := 0
		for seed := range int64(c.documents) {
			if wrong := offPaper(t, seed, depth); wrong == "" {
				whole++
			} else {
				t.Logf("depth %d, seed %d: %s", depth, seed, wrong)
			}
		}
		assert.GreaterOrEqual(t, whole, c.whole, "depth %d", depth)
	}
}

// FuzzNoWordIsLost: whatever the nesting, each word is on paper once.
func FuzzNoWordIsLost(f *testing.F) {
	f.Add(int64(1), 2)
	f.Fuzz(func(t *testing.T, seed int64, depth int) {
		depth = max(0, min(depth, 4))
		assert.NotContains(t, offPaper(t, seed, depth), "times", "seed %d, depth %d", seed, depth)
	})
}
