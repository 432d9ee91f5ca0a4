package layout

import (
	"fmt"
	"math/rand"
	"strings"
)

// scatterer makes random pages out of all kinds of boxes. Its words have no direction of their own, or else a number.
type scatterer struct {
	r        *rand.Rand
	b        strings.Builder
	n        int // elements made
	numbered bool
	words    int
}

func (g *scatterer) word(long int) string {
	if g.words++; g.numbered {
		return fmt.Sprintf("w%d", g.words)
	}
	return strings.Repeat("=", long)
}

func (g *scatterer) pick(list ...string) string { return list[g.r.Intn(len(list))] }

func (g *scatterer) length() string {
	return g.pick("0", "1px", "7px", "20px", "45px", "80px", "150px", "10%", "33%", "100%", "2em", "calc(20% + 5px)")
}

func (g *scatterer) size() string {
	return g.pick(g.length(), g.length(), g.length(), "auto", "min-content", "max-content", "fit-content")
}

func (g *scatterer) side() string { return g.pick("left", "right", "top", "bottom") }

func (g *scatterer) line() string {
	return g.pick("1", "2", "3", "-1", "auto", "span 2", "-2", "span 3")
}

func (g *scatterer) track() string {
	return g.pick("1fr", "40px", "auto", "min-content", "max-content", "25%", "minmax(30px,1fr)", "fit-content(60px)", "minmax(min-content,50px)", "2fr")
}

func (g *scatterer) place() string {
	return g.pick("start", "end", "center", "stretch", "normal", "flex-start", "flex-end", "self-start", "self-end", "left", "right")
}

func (g *scatterer) spread() string {
	return g.pick("start", "end", "center", "stretch", "space-between", "space-around", "space-evenly", "normal", "flex-end")
}

// style is a declaration that any element may have.
func (g *scatterer) style() string {
	switch g.r.Intn(34) {
	case 0, 1:
		return "width:" + g.size()
	case 2:
		return "height:" + g.size()
	case 3:
		return g.pick("min", "max") + "-" + g.pick("width", "height") + ":" + g.size()
	case 4:
		return "margin:" + g.length()
	case 5, 6:
		return "margin-" + g.side() + ":" + g.pick(g.length(), "auto", "-6px", "-20px")
	case 7:
		return "padding-" + g.side() + ":" + g.length()
	case 8:
		return "border-" + g.side() + ":" + g.pick("1", "3", "6") + "px solid"
	case 9:
		return "border:2px solid"
	case 10, 11:
		return "float:" + g.pick("left", "right", "none")
	case 12:
		return "clear:" + g.pick("left", "right", "both")
	case 13:
		return "position:relative;" + g.side() + ":" + g.length()
	case 14:
		return "position:absolute;" + g.side() + ":" + g.length()
	case 15:
		return "position:absolute;" + g.side() + ":" + g.length() + ";" + g.side() + ":" + g.length()
	case 16:
		return "overflow:" + g.pick("hidden", "auto", "clip")
	case 17:
		return "text-align:" + g.pick("left", "right", "center", "justify", "start", "end", "justify;text-align-last:right")
	case 18:
		return "text-indent:" + g.pick("1em", "-8px", "20%", "9px hanging", "9px each-line")
	case 19:
		return "line-height:" + g.pick("1", "2", "9px", "0")
	case 20:
		return "font-size:" + g.pick("8px", "20px", "150%")
	case 21:
		return "vertical-align:" + g.pick("top", "bottom", "middle", "sub", "super", "5px", "-4px", "20%", "text-top", "text-bottom")
	case 22:
		return "direction:" + g.pick("rtl", "ltr")
	case 23:
		return "columns:" + g.pick("2", "3", "50px", "2;column-gap:5px", "2;column-fill:auto", "2;column-rule:1px solid")
	case 24:
		return "display:" + g.pick("inline-block", "flow-root", "inline", "list-item;list-style-position:inside", "contents", "inline-table", "table-cell", "block", "inline-flex", "inline-grid")
	case 25:
		return "break-" + g.pick("before", "after", "inside") + ":" + g.pick("avoid", "page", "column")
	case 26:
		return g.pick("aspect-ratio:2", "box-sizing:border-box", "contain:size", "column-span:all", "box-decoration-break:clone", "margin-trim:block inline", "visibility:hidden", "text-box-trim:trim-both", "orphans:3", "widows:4")
	case 27:
		return "white-space:" + g.pick("pre", "pre-wrap", "nowrap", "pre-line", "break-spaces")
	case 28:
		return g.pick("align", "justify") + "-self:" + g.place()
	case 29:
		return g.pick("align", "justify") + "-items:" + g.place()
	case 30:
		return g.pick("align", "justify") + "-content:" + g.spread()
	case 31:
		return g.pick("flex:1", "flex:1 1 40px", "flex:none", "flex-basis:60px", "flex-shrink:0", "flex-grow:2", "order:1", "order:-1", "flex:0 1 content")
	case 32:
		return g.pick("grid-column:", "grid-row:") + g.line() + "/" + g.line()
	}
	return g.pick("gap:5px", "gap:4px 10%", "letter-spacing:2px", "word-spacing:5px", "text-wrap:balance", "text-wrap:pretty", "overflow-wrap:anywhere", "word-break:break-all")
}

func (g *scatterer) styles(most int) string {
	var s []string
	for range g.r.Intn(most) {
		s = append(s, g.style())
	}
	return strings.Join(s, ";")
}

func (g *scatterer) text() {
	for range 1 + g.r.Intn(9) {
		switch g.r.Intn(24) {
		case 0:
			g.b.WriteString("<br>")
		case 1:
			fmt.Fprintf(&g.b, "<canvas style='width:%s;height:%s;%s'></canvas>", g.length(), g.length(), g.styles(3))
		case 2:
			fmt.Fprintf(&g.b, "<span style='display:inline-block;%s'>%s</span>", g.styles(4), g.word(2))
		case 3:
			fmt.Fprintf(&g.b, "<span style='%s'>%s %s </span>", g.styles(4), g.word(2), g.word(2))
		default:
			g.b.WriteString(g.word(1+g.r.Intn(7)) + " ")
		}
	}
}

// holder is what a box makes of its children.
func (g *scatterer) holder() string {
	switch g.r.Intn(6) {
	case 0:
		return "display:flex;flex-flow:" + g.pick("row", "row-reverse", "column", "column-reverse") + " " + g.pick("nowrap", "wrap", "wrap-reverse")
	case 1:
		s := "display:grid;grid-template-columns:"
		for range 1 + g.r.Intn(3) {
			s += g.track() + " "
		}
		if g.r.Intn(2) == 0 {
			s += ";grid-template-rows:" + g.track() + " " + g.track()
		}
		return s + g.pick("", ";grid-auto-flow:column", ";grid-auto-flow:dense", ";grid-auto-rows:30px", ";grid-auto-columns:1fr")
	case 2:
		return "position:relative"
	}
	return ""
}

func (g *scatterer) table(depth int) {
	fmt.Fprintf(&g.b, "<table style='%s;%s'>", g.pick("", "border-collapse:collapse", "border-spacing:5px 2px", "table-layout:fixed;width:200px"), g.styles(4))
	if g.r.Intn(4) == 0 {
		fmt.Fprintf(&g.b, "<caption style='caption-side:%s;%s'>%s %s</caption>", g.pick("top", "bottom"), g.styles(3), g.word(2), g.word(2))
	}
	if g.r.Intn(4) == 0 {
		fmt.Fprintf(&g.b, "<col style='%s'><col style='width:%s'>", g.styles(3), g.length())
	}
	if g.r.Intn(3) == 0 {
		fmt.Fprintf(&g.b, "<thead><tr style='%s'><th>%s</th><th>%s</th></tr></thead>", g.styles(3), g.word(2), g.word(3))
	}
	for range 1 + g.r.Intn(4) {
		fmt.Fprintf(&g.b, "<tr style='%s'>", g.styles(2))
		for range 1 + g.r.Intn(3) {
			fmt.Fprintf(&g.b, "<td colspan=%s rowspan=%s style='%s'>", g.pick("1", "1", "2"), g.pick("1", "1", "2"), g.styles(3))
			g.element(depth - 1)
			g.b.WriteString("</td>")
		}
		g.b.WriteString("</tr>")
	}
	g.b.WriteString("</table>")
}

func (g *scatterer) element(depth int) {
	g.n++
	if depth <= 0 || g.n > 60 {
		g.text()
		return
	}
	if g.r.Intn(8) == 0 {
		g.table(depth)
		return
	}
	fmt.Fprintf(&g.b, "<div style='%s;%s'>", g.holder(), g.styles(4))
	for range 1 + g.r.Intn(4) {
		if g.r.Intn(3) == 0 {
			g.text()
		} else {
			g.element(depth - 1 - g.r.Intn(2))
		}
	}
	g.b.WriteString("</div>")
}

// scattered is a random page.
func scattered(seed int64) string {
	g := &scatterer{r: rand.New(rand.NewSource(seed))}
	return g.page()
}

func (g *scatterer) page() string {
	for range 1 + g.r.Intn(2) {
		g.element(1 + g.r.Intn(4))
	}
	return g.b.String()
}
