package style

import (
	"cmp"
	"fmt"
	"strconv"
	"strings"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// presentation adds what attributes say about style (HTML, §15.3): author
// rules of no specificity, before all others.
func (r *Resolver) presentation(n *markup.Node) {
	if len(n.Attrs) == 0 {
		switch n.Name {
		case "td", "th", "tr", "thead", "tbody", "tfoot", "colgroup": // attributes of the table may count
			if t := ancestor(n, "table"); t == nil || len(t.Attrs) == 0 {
				return
			}
		case "input", "textarea", "table":
		default:
			return
		}
	}
	var b strings.Builder
	if n.Foreign {
		for _, a := range n.Attrs {
			if presents(n, a.Name) {
				value := a.Value
				if unitless[a.Name] {
					value = inPx(value)
				}
				b.WriteString(a.Name + ":" + value + ";")
			}
		}
	} else {
		htmlHints(n, &b)
	}
	if b.Len() == 0 {
		return
	}
	text := b.String()
	in, seen := r.inlined["hint "+text]
	if !seen {
		in.decls = newSheet("", r.pageBase, "").parseBlock(css.ParseDeclarations(text)).decls // what does not parse has no effect
		r.inlined["hint "+text] = in
	}
	r.matched = append(r.matched, &match{decls: in.decls, origin: Author, layer: -1, hint: true})
}

// presents tells whether an attribute of an SVG element is a property, too: the size
// of an svg element is one where the element stands in HTML (SVG 2, §8.3).
func presents(n *markup.Node, attribute string) bool {
	if attribute == "width" || attribute == "height" {
		return n.Name == "svg" && n.Parent != nil && !n.Parent.Foreign
	}
	return attributeProperties[attribute]
}

// unitless lists the attributes of SVG whose lengths need no unit, unlike the
// properties of the same name (SVG 1.1, §4.2).
var unitless = map[string]bool{"font-size": true, "letter-spacing": true, "word-spacing": true, "width": true, "height": true, "transform-origin": true}

// inPx adds the unit to the numbers of an attribute that have none.
func inPx(value string) string {
	words := strings.Fields(value)
	for i, w := range words {
		if _, err := strconv.ParseFloat(w, 64); err == nil {
			words[i] += "px"
		}
	}
	return strings.Join(words, " ")
}

// slider draws a range control with its thumb where the value is (HTML, §4.10.5.1.13).
func slider(n *markup.Node) string {
	lo, hi := n.Number("min", 0), n.Number("max", 100)
	at := 0.0
	if hi > lo {
		at = (min(max(n.Number("value", (lo+hi)/2), lo), hi) - lo) / (hi - lo)
	}
	middle := fmt.Sprintf("calc(8px + (100%% - 16px) * %g)", at)
	return "radial-gradient(circle 8px at " + middle + ", #0075FF 7.4px, transparent 7.9px), " +
		"linear-gradient(#0075FF, #0075FF) 0 50% / " + middle + " 6px no-repeat, linear-gradient(#D8D8D8, #D8D8D8) 50% 50% / 100% 6px no-repeat"
}

// dimension reads a length attribute (HTML, §2.3.4.4).
func dimension(s string) string {
	s = strings.TrimSpace(s)
	end := 0
	for end < len(s) && (s[end] >= '0' && s[end] <= '9' || s[end] == '.') {
		end++
	}
	if end == 0 {
		return ""
	}
	if _, err := strconv.ParseFloat(s[:end], 64); err != nil {
		return ""
	}
	if end < len(s) && s[end] == '%' {
		return s[:end] + "%"
	}
	return s[:end] + "px"
}

func legacyColor(s string) string {
	s = strings.TrimSpace(s)
	if _, ok := namedColors[strings.ToLower(s)]; ok || strings.HasPrefix(s, "#") && (len(s) == 7 || len(s) == 4) {
		return s
	}
	if len(s) == 6 {
		if _, ok := hexColor(s); ok {
			return "#" + s
		}
	}
	return ""
}

func htmlHints(n *markup.Node, b *strings.Builder) {
	put := func(prop, value string) {
		if value != "" {
			b.WriteString(prop + ":" + value + ";")
		}
	}
	color := func(prop, attr string) { put(prop, legacyColor(n.Attr(attr))) }
	length := func(prop, attr string) {
		if v := dimension(n.Attr(attr)); v != "" && v != "0px" || prop != "width" && prop != "height" {
			put(prop, v)
		}
	}
	image := func() {
		if u := n.Attr("background"); u != "" {
			put("background-image", `url("`+u+`")`)
		}
	}
	align := strings.ToLower(n.Attr("align"))
	switch d := strings.ToLower(n.Attr("dir")); d {
	case "ltr", "rtl":
		put("direction", d)
	case "auto":
		put("direction", DirOf(n))
	}
	switch n.Name {
	case "body":
		color("background-color", "bgcolor")
		color("color", "text")
		image()
		// as browsers read them: the left margin is the right one's, too
		for _, m := range [][2]string{{"margin-top", "topmargin"}, {"margin-bottom", "topmargin"}, {"margin-bottom", "bottommargin"}, {"margin-top", "marginheight"}, {"margin-bottom", "marginheight"},
			{"margin-left", "leftmargin"}, {"margin-right", "leftmargin"}, {"margin-right", "rightmargin"}, {"margin-left", "marginwidth"}, {"margin-right", "marginwidth"}} {
			put(m[0], dimension(n.Attr(m[1])))
		}
	case "table":
		if n.Quirks() { // HTML, §15.3.10
			for _, p := range []string{"font-weight", "font-style", "font-variant", "font-size", "line-height", "white-space", "text-align"} {
				put(p, "initial")
			}
		}
		tableHints(n, put, align)
		color("background-color", "bgcolor")
		color("border-color", "bordercolor")
		length("width", "width")
		length("height", "height")
		image()
	case "thead", "tbody", "tfoot", "tr", "td", "th", "col", "colgroup":
		color("background-color", "bgcolor")
		image()
		length("height", "height")
		length("width", "width")
		cellAlign(put, align, n)
		if n.Name == "td" || n.Name == "th" {
			if n.Has("nowrap") {
				put("white-space", "nowrap")
			}
			if t := ancestor(n, "table"); t != nil {
				put("padding", dimension(t.Attr("cellpadding")))
				if br := t.Attr("border"); t.Has("border") && br != "0" && !t.Has("rules") {
					put("border-width", "1px")
					put("border-style", drawn(t, "inset"))
				}
			}
			color("border-color", "bordercolor")
		}
		put("border-width", ruled(n))
		for _, side := range ruledSides(n) {
			put("border-"+side+"-style", "solid")
		}
	case "caption":
		if align == "bottom" {
			put("caption-side", "bottom")
		}
	case "img", "iframe", "object", "embed", "video", "canvas", "input":
		if n.Name == "input" {
			switch strings.ToLower(n.Attr("type")) {
			case "range":
				put("background", slider(n))
			case "color":
				put("background-color", cmp.Or(legacyColor(n.Attr("value")), "black"))
			}
		}
		if n.Name != "input" || strings.EqualFold(n.Attr("type"), "image") {
			length("width", "width")
			length("height", "height")
			w, h := dimension(n.Attr("width")), dimension(n.Attr("height"))
			if strings.HasSuffix(w, "px") && strings.HasSuffix(h, "px") && n.Name != "iframe" && n.Name != "embed" {
				put("aspect-ratio", "auto "+strings.TrimSuffix(w, "px")+"/"+strings.TrimSuffix(h, "px"))
			}
			for s := range strings.FieldsSeq("margin-left margin-right") {
				put(s, dimension(n.Attr("hspace")))
			}
			for s := range strings.FieldsSeq("margin-top margin-bottom") {
				put(s, dimension(n.Attr("vspace")))
			}
			if v := dimension(n.Attr("border")); v != "" && v != "0px" {
				put("border", v+" solid")
			}
			switch align {
			case "left", "right":
				put("float", align)
			case "top", "middle", "bottom":
				put("vertical-align", map[string]string{"top": "top", "middle": "middle", "bottom": "baseline"}[align])
			}
		}
	case "font":
		color("color", "color")
		put("font-family", n.Attr("face"))
		if v := fontSizeAttr(n.Attr("size")); v != "" {
			put("font-size", v)
		}
	case "hr":
		color("color", "color")
		length("width", "width")
		if v, err := strconv.ParseFloat(n.Attr("size"), 64); err == nil && v >= 1 {
			switch {
			case n.Has("noshade") || n.Has("color"):
				put("border-width", fmt.Sprintf("%gpx", v/2))
			case v == 1:
				put("border-bottom-width", "0")
			default:
				put("height", fmt.Sprintf("%gpx", v-2))
			}
		}
		switch align {
		case "left":
			put("margin-left", "0")
		case "right":
			put("margin-right", "0")
			put("margin-left", "auto")
		}
		if n.Has("noshade") || n.Has("color") {
			put("border-style", "solid")
		}
	case "p", "h1", "h2", "h3", "h4", "h5", "h6", "div":
		if align == "center" && n.Name == "div" {
			align = "-webkit-center"
		}
		if align == "left" || align == "right" || align == "center" || align == "justify" || align == "-webkit-center" {
			put("text-align", align)
		}
	case "br":
		switch c := strings.ToLower(n.Attr("clear")); c {
		case "left", "right":
			put("clear", c)
		case "all", "both":
			put("clear", "both")
		}
	case "ol", "ul", "li":
		t := map[string]string{"1": "decimal", "a": "lower-alpha", "A": "upper-alpha", "i": "lower-roman", "I": "upper-roman", "disc": "disc", "circle": "circle", "square": "square", "none": "none"}[n.Attr("type")]
		put("list-style-type", t)
		countItems(n, put)
	}
}

// countItems turns start, reversed and value into counters (HTML, §15.3.8).
func countItems(n *markup.Node, put func(string, string)) {
	number := func(name string) (int, bool) {
		v, err := strconv.Atoi(strings.TrimSpace(n.Attr(name)))
		return v, err == nil
	}
	start, given := number("start")
	switch {
	case n.Name == "li":
		if v, ok := number("value"); ok {
			put("counter-set", "list-item "+strconv.Itoa(v))
		}
	case n.Name == "ol" && n.Has("reversed") && given:
		put("counter-reset", "reversed(list-item) "+strconv.Itoa(start+1))
	case n.Name == "ol" && n.Has("reversed"):
		put("counter-reset", "reversed(list-item)")
	case n.Name == "ol" && given:
		put("counter-reset", "list-item "+strconv.Itoa(start-1))
	}
}

func ancestor(n *markup.Node, name string) *markup.Node {
	for p := n.Parent; p != nil; p = p.Parent {
		if p.Name == name {
			return p
		}
	}
	return nil
}

// drawn is the style of the borders that a table's attributes ask for: a colour
// of their own makes them solid.
func drawn(table *markup.Node, style string) string {
	if table.Has("bordercolor") {
		return "solid"
	}
	return style
}

func cellAlign(put func(string, string), align string, n *markup.Node) {
	switch align {
	case "left", "right", "justify":
		put("text-align", align)
	case "center":
		put("text-align", "-webkit-center")
	}
	switch v := strings.ToLower(n.Attr("valign")); v {
	case "top", "middle", "bottom", "baseline":
		put("vertical-align", v)
	}
}

func tableHints(n *markup.Node, put func(string, string), align string) {
	switch align {
	case "left", "right":
		put("float", align)
	case "center":
		put("margin-left", "auto")
		put("margin-right", "auto")
	}
	if v := dimension(n.Attr("cellspacing")); v != "" {
		put("border-spacing", v)
	}
	if n.Has("border") && n.Attr("border") != "0" {
		w := dimension(n.Attr("border"))
		if w == "" {
			w = "1px"
		}
		put("border-width", w)
		put("border-style", drawn(n, "outset"))
	}
	switch strings.ToLower(n.Attr("rules")) {
	case "none", "groups", "rows", "cols", "all":
		put("border-collapse", "collapse")
	}
	if sides, known := frames[strings.ToLower(n.Attr("frame"))]; known {
		if !n.Has("border") {
			put("border-width", "1px")
		}
		put("border-style", "hidden")
		for side := range strings.FieldsSeq(sides) {
			put("border-"+side+"-style", drawn(n, "outset"))
		}
	}
}

// ruledSides are the sides of a part of a table on which its attribute rules asks for lines.
func ruledSides(n *markup.Node) []string {
	rules := ""
	if t := ancestor(n, "table"); t != nil {
		rules = strings.ToLower(t.Attr("rules"))
	}
	across, down := []string{"left", "right"}, []string{"top", "bottom"}
	switch n.Name {
	case "td", "th":
		switch rules {
		case "all":
			return append(down, across...)
		case "cols":
			return across
		}
	case "tr":
		if rules == "rows" {
			return down
		}
	case "thead", "tbody", "tfoot":
		if rules == "groups" {
			return down
		}
	case "colgroup":
		if rules == "groups" {
			return across
		}
	}
	return nil
}

// ruled is the width of those lines; cells in a table with rules have no others.
func ruled(n *markup.Node) string {
	if len(ruledSides(n)) > 0 {
		return "1px"
	}
	return ""
}

// frames are the sides of a table that its attribute frame asks for lines on.
var frames = map[string]string{"void": "", "above": "top", "below": "bottom", "hsides": "top bottom", "lhs": "left", "rhs": "right", "vsides": "left right", "box": "top right bottom left", "border": "top right bottom left"}

func fontSizeAttr(s string) string {
	s = strings.TrimSpace(s)
	if s == "" {
		return ""
	}
	n, err := strconv.Atoi(strings.TrimPrefix(s, "+"))
	if err != nil {
		return ""
	}
	if s[0] == '+' || s[0] == '-' {
		n += 3
	}
	return []string{"x-small", "small", "medium", "large", "x-large", "xx-large", "xxx-large"}[min(max(n, 1), 7)-1]
}
