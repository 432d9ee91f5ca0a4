package layout

import (
	"fmt"
	"math/rand"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// stayer makes random pages whose lines all have room on a page: nothing in them is
// taller than a page and could not be cut.
type stayer struct {
	r *rand.Rand
	b strings.Builder
}

func (g *stayer) pick(list ...string) string { return list[g.r.Intn(len(list))] }

func (g *stayer) look() string {
	var s []string
	for range g.r.Intn(4) {
		s = append(s, g.pick("margin:5px 0", "margin:20px 0", "margin-top:30px", "margin-bottom:25px", "padding:8px", "padding:15px", "border:1px solid", "border:4px solid",
			"break-inside:avoid", "break-before:avoid", "break-after:avoid", "orphans:3", "widows:3", "min-height:50px", "box-decoration-break:clone", "position:relative"))
	}
	return strings.Join(s, ";")
}

func (g *stayer) words() string { return strings.Repeat("word ", 1+g.r.Intn(25)) }

func (g *stayer) element(depth int) {
	kids := func(n int, open, end string) {
		for range 1 + g.r.Intn(n) {
			g.b.WriteString(open)
			g.element(depth - 1)
			g.b.WriteString(end)
		}
	}
	look := g.look()
	if depth == 0 {
		fmt.Fprintf(&g.b, "<p style='%s'>%s</p>", look, g.words())
		return
	}
	item := fmt.Sprintf("<div style='%s;%s'>", g.pick("", "flex:1", "width:60px"), g.look())
	switch g.r.Intn(6) {
	case 0:
		fmt.Fprintf(&g.b, "<table style='width:100%%;border-collapse:%s;%s'>", g.pick("collapse", "separate"), look)
		for range 1 + g.r.Intn(5) {
			fmt.Fprintf(&g.b, "<tr><td>%s<td>", g.words())
			g.element(depth - 1)
		}
		g.b.WriteString("</table>")
	case 1:
		fmt.Fprintf(&g.b, "<div style='display:flex;%s;%s'>", g.pick("", "flex-wrap:wrap", "flex-direction:column"), look)
		kids(3, item, "</div>")
		g.b.WriteString("</div>")
	case 2:
		fmt.Fprintf(&g.b, "<div style='display:grid;grid-template-columns:%s;%s'>", g.pick("1fr 1fr", "60px 1fr", "auto auto"), look)
		kids(4, item, "</div>")
		g.b.WriteString("</div>")
	default:
		fmt.Fprintf(&g.b, "<div style='%s'>", look)
		kids(3, "", "")
		g.b.WriteString("</div>")
	}
}

// lowest is how far down the lowest text of a fragment reaches, whose top is at y.
func lowest(f *Fragment, y float64) float64 {
	low := 0.0
	if f.Text != nil {
		low = y + f.H
	}
	for _, k := range f.Kids {
		low = max(low, lowest(k.F, y+k.Y))
	}
	return low
}

// TestLinesStayOnTheirPage: where a line has no room left, it begins the next page,
// whatever it stands in.
func TestLinesStayOnTheirPage(t *testing.T) {
	for seed := range int64(300) {
		g := &stayer{r: rand.New(rand.NewSource(seed))}
		for range 4 {
			g.element(1 + g.r.Intn(3))
		}
		l, root := tree(t, g.b.String(), "body { margin: 0; font: 16px/20px sans-serif } p { margin: 0 }")
		var at *Break
		for n := 1; ; n++ {
			page, rest := l.LayPage(root, 340, 300, 0, 0, at)
			require.NotNil(t, page)
			if !assert.LessOrEqual(t, lowest(page, 0), 301.0, "seed %d, page %d: %s", seed, n, g.b.String()) {
				return
			}
			if at = rest; rest == nil {
				break
			}
			require.Less(t, n, 1000, "seed %d does not end", seed)
		}
	}
}
