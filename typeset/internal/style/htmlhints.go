package style

import (
	"cmp"
	"fmt"
	"strconv"
	"strings"

	"oliveledger/typeset/internal/markup"
)

// hints writes what the attributes of an element of HTML say as declarations (HTML, §15.3).
type hints struct {
	n     *markup.Node
	b     strings.Builder
	align string // its attribute
}

// hintsOf are the elements whose attributes say something, beside those that all have.
var hintsOf = eachName(map[string]func(*hints){
	"body":                                 (*hints).body,
	"table":                                (*hints).table,
	"thead tbody tfoot tr col colgroup":    (*hints).tablePart,
	"td th":                                (*hints).cell,
	"caption":                              (*hints).caption,
	"input":                                (*hints).input,
	"img iframe object embed video canvas": (*hints).embedded,
	"font":                                 (*hints).font,
	"hr":                                   (*hints).rule,
	"p h1 h2 h3 h4 h5 h6 div":              (*hints).paragraph,
	"br":                                   (*hints).lineBreak,
	"ol ul li":                             (*hints).list,
})

func eachName(list map[string]func(*hints)) map[string]func(*hints) {
	out := map[string]func(*hints){}
	for names, put := range list {
		for name := range strings.FieldsSeq(names) {
			out[name] = put
		}
	}
	return out
}

// all puts what the element's attributes say.
func (h *hints) all() {
	switch d := strings.ToLower(h.n.Attr("dir")); d {
	case "ltr", "rtl":
		h.put("direction", d)
	case "auto":
		h.put("direction", DirOf(h.n))
	}
	if put := hintsOf[h.n.Name]; put != nil {
		put(h)
	}
}

// put adds a declaration, if there is a value.
func (h *hints) put(prop, value string) {
	if value != "" {
		h.b.WriteString(prop + ":" + value + ";")
	}
}

// color puts what an attribute says of a colour.
func (h *hints) color(prop, attribute string) { h.put(prop, legacyColor(h.n.Attr(attribute))) }

// extent puts the width or the height of the attribute of that name; zero says nothing.
func (h *hints) extent(prop string) {
	if v := dimension(h.n.Attr(prop)); v != "0px" {
		h.put(prop, v)
	}
}

// image puts the picture behind the element.
func (h *hints) image() {
	if u := h.n.Attr("background"); u != "" {
		h.put("background-image", `url("`+u+`")`)
	}
}

// bodyMargins are the margins of the page by their attributes. As browsers read them, the left one is
// the right one's, too.
var bodyMargins = [][2]string{
	{"margin-top", "topmargin"},
	{"margin-bottom", "topmargin"},
	{"margin-bottom", "bottommargin"},
	{"margin-top", "marginheight"},
	{"margin-bottom", "marginheight"},
	{"margin-left", "leftmargin"},
	{"margin-right", "leftmargin"},
	{"margin-right", "rightmargin"},
	{"margin-left", "marginwidth"},
	{"margin-right", "marginwidth"},
}

func (h *hints) body() {
	h.color("background-color", "bgcolor")
	h.color("color", "text")
	h.image()
	for _, m := range bodyMargins {
		h.put(m[0], dimension(h.n.Attr(m[1])))
	}
}

func (h *hints) table() {
	if h.n.Quirks() { // HTML, §15.3.10
		for p := range strings.FieldsSeq("font-weight font-style font-variant font-size line-height white-space text-align") {
			h.put(p, "initial")
		}
	}
	switch h.align {
	case "left", "right":
		h.put("float", h.align)
	case "center":
		h.put("margin-left", "auto")
		h.put("margin-right", "auto")
	}
	h.put("border-spacing", dimension(h.n.Attr("cellspacing")))
	h.tableLines()
	h.color("background-color", "bgcolor")
	h.color("border-color", "bordercolor")
	h.extent("width")
	h.extent("height")
	h.image()
}

// beginPart puts what all parts of a table have in common.
func (h *hints) beginPart() {
	h.color("background-color", "bgcolor")
	h.image()
	h.extent("height")
	h.extent("width")
	h.alignWithin()
	switch v := strings.ToLower(h.n.Attr("valign")); v {
	case "top", "middle", "bottom", "baseline":
		h.put("vertical-align", v)
	}
}

func (h *hints) tablePart() {
	h.beginPart()
	h.partLines()
}

func (h *hints) cell() {
	h.beginPart()
	if h.n.Has("nowrap") {
		h.put("white-space", "nowrap")
	}
	if t := ancestor(h.n, "table"); t != nil {
		h.put("padding", dimension(t.Attr("cellpadding")))
		if br := t.Attr("border"); t.Has("border") && br != "0" && !t.Has("rules") {
			h.put("border-width", "1px")
			h.put("border-style", drawn(t, "inset"))
		}
	}
	h.color("border-color", "bordercolor")
	h.partLines()
}

// partLines puts the lines that the table's attribute rules asks for; cells in a table with rules
// have no others.
func (h *hints) partLines() {
	sides := ruledSides(h.n)
	if len(sides) > 0 {
		h.put("border-width", "1px")
	}
	for _, side := range sides {
		h.put("border-"+side+"-style", "solid")
	}
}

func (h *hints) caption() {
	if h.align == "bottom" {
		h.put("caption-side", "bottom")
	}
}

func (h *hints) input() {
	switch strings.ToLower(h.n.Attr("type")) {
	case "range":
		h.put("background", slider(h.n))
	case "color":
		h.put("background-color", cmp.Or(legacyColor(h.n.Attr("value")), "black"))
	case "image":
		h.embedded()
	}
}

func (h *hints) embedded() {
	h.extent("width")
	h.extent("height")
	wide, high := dimension(h.n.Attr("width")), dimension(h.n.Attr("height"))
	if strings.HasSuffix(wide, "px") && strings.HasSuffix(high, "px") && h.n.Name != "iframe" && h.n.Name != "embed" {
		h.put("aspect-ratio", "auto "+strings.TrimSuffix(wide, "px")+"/"+strings.TrimSuffix(high, "px"))
	}
	for _, m := range [][2]string{{"margin-left", "hspace"}, {"margin-right", "hspace"}, {"margin-top", "vspace"}, {"margin-bottom", "vspace"}} {
		h.put(m[0], dimension(h.n.Attr(m[1])))
	}
	if v := dimension(h.n.Attr("border")); v != "" && v != "0px" {
		h.put("border", v+" solid")
	}
	switch h.align {
	case "left", "right":
		h.put("float", h.align)
	case "top", "middle":
		h.put("vertical-align", h.align)
	case "bottom":
		h.put("vertical-align", "baseline")
	}
}

func (h *hints) font() {
	h.color("color", "color")
	h.put("font-family", h.n.Attr("face"))
	h.put("font-size", fontSizeAttr(h.n.Attr("size")))
}

func (h *hints) rule() {
	h.color("color", "color")
	h.extent("width")
	solid := h.n.Has("noshade") || h.n.Has("color")
	if v, err := strconv.ParseFloat(h.n.Attr("size"), 64); err == nil && v >= 1 {
		switch {
		case solid:
			h.put("border-width", fmt.Sprintf("%gpx", v/2))
		case v == 1:
			h.put("border-bottom-width", "0")
		default:
			h.put("height", fmt.Sprintf("%gpx", v-2))
		}
	}
	switch h.align {
	case "left":
		h.put("margin-left", "0")
	case "right":
		h.put("margin-right", "0")
		h.put("margin-left", "auto")
	}
	if solid {
		h.put("border-style", "solid")
	}
}

func (h *hints) paragraph() {
	if h.n.Name == "div" {
		h.alignWithin()
		return
	}
	switch h.align {
	case "left", "right", "center", "justify":
		h.put("text-align", h.align)
	}
}

// alignWithin aligns the text of an element and the boxes in it (HTML, §15.3.3, §15.3.8: to align descendants).
func (h *hints) alignWithin() {
	switch h.align {
	case "left", "right":
		h.put("text-align", "-webkit-"+h.align)
	case "center", "middle":
		h.put("text-align", "-webkit-center")
	case "justify":
		h.put("text-align", h.align)
	}
}

func (h *hints) lineBreak() {
	switch c := strings.ToLower(h.n.Attr("clear")); c {
	case "left", "right":
		h.put("clear", c)
	case "all", "both":
		h.put("clear", "both")
	}
}

// markers are the kinds of lists by their attribute type.
var markers = map[string]string{"1": "decimal", "a": "lower-alpha", "A": "upper-alpha", "i": "lower-roman", "I": "upper-roman", "disc": "disc", "circle": "circle", "square": "square", "none": "none"}

func (h *hints) list() {
	h.put("list-style-type", markers[h.n.Attr("type")])
	h.countItems()
}

// countItems turns start, reversed and value into counters (HTML, §15.3.8).
func (h *hints) countItems() {
	n, put := h.n, h.put
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

// tableLines puts the borders that a table's attributes border, rules and frame ask for.
func (h *hints) tableLines() {
	n, put := h.n, h.put
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

// Sides of a part of a table.
var (
	across    = []string{"left", "right"}
	down      = []string{"top", "bottom"}
	allAround = []string{"top", "bottom", "left", "right"}
)

// ruledSides are the sides of a part of a table on which its attribute rules asks for lines.
func ruledSides(n *markup.Node) []string {
	rules := ""
	if t := ancestor(n, "table"); t != nil {
		rules = strings.ToLower(t.Attr("rules"))
	}
	switch n.Name {
	case "td", "th":
		switch rules {
		case "all":
			return allAround
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
