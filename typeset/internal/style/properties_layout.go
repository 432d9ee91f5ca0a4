package style

import (
	"slices"
	"strings"
	"unicode"

	"oliveledger/typeset/internal/css"
)

const (
	contentPositions = "center start end flex-start flex-end"
	selfPositions    = contentPositions + " self-start self-end"
)

// parseAlign parses the values of CSS Box Alignment 3, §4.
func parseAlign(set string, leftRight bool) func(v *values) (spec[Align], bool) {
	return func(v *values) (spec[Align], bool) {
		var a Align
		if v.word("first") {
			k, ok := v.oneOf("baseline")
			return fixed(Align{Kind: k}), ok && strings.Contains(set, "baseline")
		}
		if v.word("last") {
			k, ok := v.oneOf("baseline")
			return fixed(Align{Kind: k, Last: true}), ok && strings.Contains(set, "baseline")
		}
		if v.word("legacy") {
			if !strings.Contains(set, "legacy") {
				return nil, false
			}
			if k, ok := v.oneOf("left right center"); ok {
				return fixed(Align{Kind: k, Legacy: true}), true
			}
			return fixed(Align{Kind: Legacy}), true
		}
		positions := set
		if k, ok := v.oneOf("safe unsafe"); ok {
			a.Safe, a.Unsafe = k == keyword("safe"), k == keyword("unsafe")
			positions = selfPositions
		}
		if leftRight {
			positions += " left right"
		}
		k, ok := v.oneOf(positions)
		if ok && strings.Contains(set, "legacy") && v.word("legacy") {
			a.Legacy = true
		}
		a.Kind = k
		return fixed(a), ok
	}
}

func defineLayout() {
	words("flex-direction", false, "row row-reverse column column-reverse", func(s *Style) *Keyword { return &s.FlexDirection })
	words("flex-wrap", false, "nowrap wrap wrap-reverse", func(s *Style) *Keyword { return &s.FlexWrap })
	anyOrder("flex-flow", "flex-direction flex-wrap")
	define("flex-grow", false, func(s *Style) *float64 { return &s.FlexGrow }, func(v *values) (spec[float64], bool) { return v.number(true) })
	define("flex-shrink", false, func(s *Style) *float64 { return &s.FlexShrink }, func(v *values) (spec[float64], bool) { return v.number(true) })
	define("flex-basis", false, func(s *Style) *Size { return &s.FlexBasis }, size("auto content "+sizeWords, true))
	short("flex", "flex-grow flex-shrink flex-basis", parseFlex)
	define("order", false, func(s *Style) *int { return &s.Order }, (*values).integer)
	const distribution = " space-between space-around space-evenly stretch"
	define("align-content", false, func(s *Style) *Align { return &s.AlignContent }, parseAlign("normal baseline "+contentPositions+distribution, false))
	define("justify-content", false, func(s *Style) *Align { return &s.JustifyContent }, parseAlign("normal "+contentPositions+distribution, true))
	define("align-items", false, func(s *Style) *Align { return &s.AlignItems }, parseAlign("normal stretch baseline "+selfPositions, false))
	define("justify-items", false, func(s *Style) *Align { return &s.JustifyItems }, parseAlign("normal stretch baseline legacy "+selfPositions, true))
	define("align-self", false, func(s *Style) *Align { return &s.AlignSelf }, parseAlign("auto normal stretch baseline "+selfPositions, false))
	define("justify-self", false, func(s *Style) *Align { return &s.JustifySelf }, parseAlign("auto normal stretch baseline "+selfPositions, true))
	for _, p := range []string{"content", "items", "self"} {
		place(p)
	}
	gap := func(v *values) (spec[Size], bool) {
		if v.word("normal") {
			return fixed(Size{Kind: Normal}), true
		}
		l, ok := v.lp(true)
		return func(c *Computer) Size { return Size{Kind: Length, LP: l(c)} }, ok
	}
	define("row-gap", false, func(s *Style) *Size { return &s.RowGap }, gap)
	define("column-gap", false, func(s *Style) *Size { return &s.ColumnGap }, gap)
	aliases["grid-row-gap"], aliases["grid-column-gap"], aliases["grid-gap"] = "row-gap", "column-gap", "gap"
	pair("gap", "row-gap", "column-gap")
	defineGrid()

	define("column-count", false, func(s *Style) *int { return &s.ColumnCount }, func(v *values) (spec[int], bool) {
		if v.word("auto") {
			return fixed(0), true
		}
		return positive(v)
	})
	define("column-width", false, func(s *Style) *Size { return &s.ColumnWidth }, func(v *values) (spec[Size], bool) {
		if v.word("auto") {
			return fixed(Size{Kind: Auto}), true
		}
		l, ok := v.length(true)
		return func(c *Computer) Size { return Size{Kind: Length, LP: LP{Px: l(c)}} }, ok
	})
	define("column-height", false, func(s *Style) *Size { return &s.ColumnHeight }, func(v *values) (spec[Size], bool) {
		if v.word("auto") {
			return fixed(Size{Kind: Auto}), true
		}
		l, ok := v.length(true)
		return func(c *Computer) Size { return Size{Kind: Length, LP: LP{Px: l(c)}} }, ok
	})
	words("column-wrap", false, "auto nowrap wrap", func(s *Style) *Keyword { return &s.ColumnWrap })
	short("columns", "column-width column-count column-height", func(v *values, set func(string, any)) bool {
		n := 0
		given := map[string]bool{}
		for !v.done() {
			if n > 0 && v.delim('/') {
				x, ok := byName["column-height"].parse(v)
				set("column-height", x)
				return ok && v.done()
			}
			name := "column-count"
			if !v.word("auto") {
				x, ok := try(v, byName[name].parse)
				if !ok {
					name = "column-width"
					x, ok = try(v, byName[name].parse)
				}
				if !ok || given[name] {
					return false
				}
				given[name] = true
				set(name, x)
			}
			n++
		}
		return n > 0 && n <= 2
	})
	words("column-fill", false, "auto balance balance-all", func(s *Style) *Keyword { return &s.ColumnFill })
	words("column-span", false, "none all", func(s *Style) *Keyword { return &s.ColumnSpan })
	define("column-rule-width", false, func(s *Style) *float64 { return &s.ColumnRule.Width }, lineWidth)
	words("column-rule-style", false, borderStyles, func(s *Style) *Keyword { return &s.ColumnRule.Style })
	define("column-rule-color", false, func(s *Style) *Color { return &s.ColumnRule.Color }, (*values).color)
	anyOrder("column-rule", "column-rule-width column-rule-style column-rule-color")

	const between = "auto avoid always all avoid-page page left right recto verso avoid-column column avoid-region region"
	words("break-before", false, between, func(s *Style) *Keyword { return &s.BreakBefore })
	words("break-after", false, between, func(s *Style) *Keyword { return &s.BreakAfter })
	words("break-inside", false, "auto avoid avoid-page avoid-column avoid-region", func(s *Style) *Keyword { return &s.BreakInside })
	for _, which := range []string{"before", "after", "inside"} {
		long := "break-" + which
		old := func(v *values, set func(string, any)) bool {
			k, ok := v.oneOf("auto always left right avoid")
			if k == keyword("always") {
				k = PageKey
			}
			set(long, fixed(k))
			return ok && (which != "inside" || k == Auto || k == Avoid)
		}
		short("page-break-"+which, long, old)
		short("-webkit-column-break-"+which, long, old)
	}
	words("box-decoration-break", false, "slice clone", func(s *Style) *Keyword { return &s.BoxDecorationBreak })
	aliases["-webkit-box-decoration-break"] = "box-decoration-break"
	define("page", false, func(s *Style) *string { return &s.Page }, func(v *values) (spec[string], bool) {
		if v.word("auto") {
			return fixed(""), true
		}
		n, ok := v.customIdent("")
		return fixed(n), ok
	})
	words("appearance", false, "none auto button textfield checkbox radio menulist listbox searchfield textarea meter progress-bar menulist-button", func(s *Style) *Keyword { return &s.Appearance })
	aliases["-webkit-appearance"], aliases["-moz-appearance"] = "appearance", "appearance"
}

func place(what string) {
	a, j := "align-"+what, "justify-"+what
	short("place-"+what, a+" "+j, func(v *values, set func(string, any)) bool {
		at := v.pos
		x, ok := byName[a].parse(v)
		if !ok {
			return false
		}
		set(a, x)
		once := v.done()
		if once {
			v.pos = at
		}
		y, ok := byName[j].parse(v)
		if !ok && once { // a baseline has no like in justify-content
			v.pos, y, ok = len(v.list), fixed(Align{Kind: Start}), true
		}
		set(j, y)
		return ok
	})
}

func parseFlex(v *values, set func(string, any)) bool {
	if v.word("none") {
		set("flex-grow", fixed(0.0))
		set("flex-shrink", fixed(0.0))
		set("flex-basis", fixed(Size{Kind: Auto}))
		return true
	}
	var grow, shrink, basis any
	for !v.done() {
		if x, ok := numberIf(v, grow == nil); ok {
			grow = x
			if y, ok := v.number(true); ok {
				shrink = y
			}
		} else if x, ok := byName["flex-basis"].parse(v); ok && basis == nil {
			basis = x
		} else {
			return false
		}
	}
	if grow == nil && basis == nil {
		return false
	}
	if basis == nil {
		basis = fixed(Size{Kind: Length, LP: LP{Rel: true}}) // 0 %, as browsers have it: in a column of auto height the contents count
	}
	if grow == nil {
		grow = fixed(1.0)
	}
	if shrink == nil {
		shrink = fixed(1.0)
	}
	set("flex-grow", grow)
	set("flex-shrink", shrink)
	set("flex-basis", basis)
	return true
}

// numberIf reads a number only where one may stand: after two numbers, a
// further 0 is the basis.
func numberIf(v *values, may bool) (spec[float64], bool) {
	if !may {
		return nil, false
	}
	return v.number(true)
}

// Track is one track size of a grid (CSS Grid 1, §7.2).
type Track struct {
	Min, Max Size
	Flex     float64 // fr; Max is then ignored
	Fit      bool    // fit-content(): Max holds the limit
}

// TrackItem is a track, or a repeat of tracks, with line names before it.
type TrackItem struct {
	Names  []string
	Track  Track
	Repeat int // 0: one track; n: n times; -1: auto-fill; -2: auto-fit
	Items  []TrackItem
	After  []string // names after the last track of a repeat
}

// TrackList is grid-template-rows or -columns.
type TrackList struct {
	Items   []TrackItem
	After   []string
	Subgrid bool
}

// GridLine is a grid-placement property (CSS Grid 1, §8.3).
type GridLine struct {
	Auto bool
	Span int
	Num  int
	Name string
}

func trackSize(v *values) (spec[Track], bool) {
	breadth := func(v *values) (spec[Size], spec[float64], bool) {
		if v.negative() {
			return nil, nil, false
		}
		if n, ok := v.num(dimFlex); ok {
			return nil, func(c *Computer) float64 { return n.eval(c).v }, true
		}
		s, ok := size("auto min-content max-content", true)(v)
		return s, nil, ok
	}
	t := v.peek()
	if t.Kind == css.Function && t.Text == "minmax" {
		in := &values{list: css.Words(t.Args)}
		lo, flex, ok := breadth(in)
		if !ok || flex != nil || !in.comma() {
			return nil, false
		}
		hi, flex, ok := breadth(in)
		if !ok || !in.done() {
			return nil, false
		}
		v.pos++
		return func(c *Computer) Track {
			if flex != nil {
				return Track{Min: lo(c), Max: Size{Kind: Auto}, Flex: max(flex(c), 1e-9)}
			}
			return Track{Min: lo(c), Max: hi(c)}
		}, true
	}
	if t.Kind == css.Function && t.Text == "fit-content" {
		s, ok := size("fit-content", true)(v)
		return func(c *Computer) Track {
			x := s(c)
			return Track{Min: Size{Kind: Auto}, Max: Size{Kind: Length, LP: x.LP}, Fit: true}
		}, ok
	}
	s, flex, ok := breadth(v)
	return func(c *Computer) Track {
		if flex != nil {
			return Track{Min: Size{Kind: Auto}, Max: Size{Kind: Auto}, Flex: max(flex(c), 1e-9)}
		}
		x := s(c)
		return Track{Min: x, Max: x}
	}, ok
}

// lineNames reads the names of one line, if there are any (CSS Grid 2, §7.2.2).
func lineNames(v *values) (names []string, ok bool) {
	if v.peek().Kind != css.Bracket {
		return nil, true
	}
	in := &values{list: css.Words(v.next().Args)}
	for !in.done() {
		name, ok := in.customIdent("span auto")
		if !ok {
			return nil, false
		}
		names = append(names, name)
	}
	return names, true
}

type trackSpec func(*Computer) TrackList

// trackList reads the tracks of a grid.
func trackList(v *values) (trackSpec, bool) {
	if v.word("none") {
		return fixed(TrackList{}), true
	}
	if v.word("subgrid") {
		items, ok := subgridNames(v, true)
		return fixed(TrackList{Subgrid: true, Items: items}), ok
	}
	start := v.pos
	tracks, ok := trackSizes(v, true)
	return tracks, ok && countable(v.list[start:v.pos])
}

// countable tells whether all tracks of a list are fixed, if some are repeated as often as there is room for; of such there
// may be one (CSS Grid 2, §7.2.3.2).
func countable(tracks []css.Token) bool {
	automatic, otherwise := 0, false
	for _, t := range tracks {
		switch {
		case t.Kind == css.Function && t.Text == "repeat":
			args := css.Words(t.Args)
			if args[0].Kind == css.Ident {
				automatic++
			} else if !isFixedList(t.Args) {
				otherwise = true
			}
		case t.Kind != css.Bracket && !isFixedTrack(t):
			otherwise = true
		}
	}
	return automatic == 0 || automatic == 1 && !otherwise
}

func trackSizes(v *values, allowRepeat bool) (trackSpec, bool) {
	var items []spec[TrackItem]
	for {
		names, ok := lineNames(v)
		if !ok {
			return nil, false
		}
		t := v.peek()
		if t.Kind == css.Function && t.Text == "repeat" && allowRepeat {
			in := &values{list: css.Words(t.Args)}
			n := 0
			if k, ok := in.oneOf("auto-fill auto-fit"); ok {
				n = -1
				if k.String() == "auto-fit" {
					n = -2
				}
			} else if x, ok := in.integer(); ok {
				if n = x(nil); n < 1 {
					return nil, false
				}
				n = min(n, 10000)
			} else {
				return nil, false
			}
			if !in.comma() {
				return nil, false
			}
			sub, ok := trackSizes(in, false)
			if !ok || !in.done() || n < 0 && !isFixedList(t.Args) {
				return nil, false
			}
			v.pos++
			items = append(items, func(c *Computer) TrackItem {
				l := sub(c)
				return TrackItem{Names: names, Repeat: n, Items: l.Items, After: l.After}
			})
			continue
		}
		tr, ok := trackSize(v)
		if !ok {
			return func(c *Computer) TrackList { return TrackList{Items: all(items)(c), After: names} }, len(items) > 0
		}
		items = append(items, func(c *Computer) TrackItem { return TrackItem{Names: names, Track: tr(c)} })
	}
}

// isFixedList tells whether the tracks that are repeated as often as there is room for have a
// length to count by (CSS Grid 2, §7.2.3.2); args are those of repeat().
func isFixedList(args []css.Token) bool {
	for i, t := range css.Words(args) {
		if i > 0 && t.Kind != css.Comma && t.Kind != css.Bracket && !isFixedTrack(t) {
			return false
		}
	}
	return true
}

func isFixedTrack(t css.Token) bool {
	return isFixedBreadth(t) || t.Kind == css.Function && t.Text == "minmax" && slices.ContainsFunc(t.Args, isFixedBreadth)
}

func isFixedBreadth(t css.Token) bool {
	switch t.Kind {
	case css.Dimension:
		return !strings.EqualFold(t.Unit, "fr")
	case css.Percentage, css.Number:
		return true
	case css.Function:
		return t.Text != "minmax" && t.Text != "fit-content"
	}
	return false
}

// subgridNames reads the line names of a subgrid, one item a line
// (CSS Grid 2, §9).
func subgridNames(v *values, allowRepeat bool) (items []TrackItem, ok bool) {
	for {
		t := v.peek()
		switch {
		case t.Kind == css.Bracket:
			var names []string
			for _, t := range css.Words(v.next().Args) {
				names = append(names, t.Text)
			}
			items = append(items, TrackItem{Names: names})
		case t.Kind == css.Function && t.Text == "repeat" && allowRepeat:
			in := &values{list: css.Words(v.next().Args)}
			it := TrackItem{Repeat: -1}
			if !in.word("auto-fill") {
				n, ok := in.integer()
				if !ok || n(nil) < 1 {
					return nil, false
				}
				it.Repeat = min(n(nil), 10000)
			}
			if !in.comma() {
				return nil, false
			}
			if it.Items, ok = subgridNames(in, false); !ok || len(it.Items) == 0 || !in.done() {
				return nil, false
			}
			items = append(items, it)
		default:
			return items, true
		}
	}
}

func gridLine(v *values) (spec[GridLine], bool) {
	if v.word("auto") {
		return fixed(GridLine{Auto: true}), true
	}
	var g GridLine
	span, num, n := false, false, 0
	for !v.done() && !v.peek().IsDelim('/') {
		if v.word("span") && !span {
			span = true
		} else if x, ok := v.integer(); ok && !num {
			num = true
			g.Num = x(nil)
			if g.Num == 0 {
				return nil, false
			}
		} else if name, ok := v.customIdent("span auto"); ok && g.Name == "" {
			g.Name = name
		} else {
			return nil, false
		}
		n++
	}
	if span {
		g.Span = 1
		if num {
			if g.Num < 1 {
				return nil, false
			}
			g.Span = min(g.Num, 10000)
		}
		g.Num = 0
		if !num && g.Name == "" {
			return nil, false
		}
	}
	g.Num = max(min(g.Num, 10000), -10000)
	return fixed(g), n > 0
}

func defineGrid() {
	tracks := func(v *values) (spec[TrackList], bool) {
		l, ok := trackList(v)
		return spec[TrackList](l), ok
	}
	define("grid-template-columns", false, func(s *Style) *TrackList { return &s.GridColumns }, tracks)
	define("grid-template-rows", false, func(s *Style) *TrackList { return &s.GridRows }, tracks)
	define("grid-template-areas", false, func(s *Style) *[][]string { return &s.GridAreas }, func(v *values) (spec[[][]string], bool) {
		if v.word("none") {
			return fixed[[][]string](nil), true
		}
		var rows [][]string
		for {
			s, ok := v.str()
			if !ok {
				break
			}
			rows = append(rows, areaRow(s))
		}
		return fixed(rows), validAreas(rows)
	})
	auto := func(v *values) (spec[[]Track], bool) {
		var out []spec[Track]
		for {
			t, ok := trackSize(v)
			if !ok {
				return all(out), len(out) > 0
			}
			out = append(out, t)
		}
	}
	define("grid-auto-columns", false, func(s *Style) *[]Track { return &s.GridAutoColumns }, auto)
	define("grid-auto-rows", false, func(s *Style) *[]Track { return &s.GridAutoRows }, auto)
	words("grid-auto-flow-axis", false, "row column", func(s *Style) *Keyword { return &s.GridAutoFlow })
	define("grid-auto-flow-dense", false, func(s *Style) *bool { return &s.GridDense }, func(v *values) (spec[bool], bool) { return nil, false })
	short("grid-auto-flow", "grid-auto-flow-axis grid-auto-flow-dense", func(v *values, set func(string, any)) bool {
		axis, dense := false, false
		for !v.done() {
			if k, ok := v.oneOf("row column"); ok && !axis {
				set("grid-auto-flow-axis", fixed(k))
				axis = true
			} else if !ok && !dense && v.word("dense") {
				set("grid-auto-flow-dense", fixed(true))
				dense = true
			} else {
				return false
			}
		}
		return axis || dense
	})
	for i, n := range []string{"grid-row-start", "grid-column-start", "grid-row-end", "grid-column-end"} {
		define(n, false, func(s *Style) *GridLine { return &s.GridPlace[i] }, gridLine)
	}
	lines := func(name string, longs ...string) {
		short(name, strings.Join(longs, " "), func(v *values, set func(string, any)) bool {
			var got []spec[GridLine]
			for {
				g, ok := gridLine(v)
				if !ok {
					return false
				}
				got = append(got, g)
				if !v.delim('/') {
					break
				}
			}
			if len(got) > len(longs) {
				return false
			}
			for i, l := range longs {
				if i < len(got) {
					set(l, got[i])
					continue
				}
				from := max(i-2, 0)
				if len(longs) == 2 {
					from = 0
				}
				if from >= len(got) {
					from = 0
				}
				g := got[from](nil)
				if g.Name == "" || g.Num != 0 || g.Span != 0 {
					g = GridLine{Auto: true}
				}
				set(l, fixed(g))
			}
			return true
		})
	}
	lines("grid-row", "grid-row-start", "grid-row-end")
	lines("grid-column", "grid-column-start", "grid-column-end")
	lines("grid-area", "grid-row-start", "grid-column-start", "grid-row-end", "grid-column-end")
	short("grid-template", "grid-template-rows grid-template-columns grid-template-areas", parseGridTemplate)
	short("grid", "grid-template-rows grid-template-columns grid-template-areas grid-auto-rows grid-auto-columns grid-auto-flow-axis grid-auto-flow-dense", parseGrid)
}

// areaRow reads the names of a row, "" for a cell without one. It is nil where they are none (CSS Grid 2, §7.3).
func areaRow(s string) []string {
	var row []string
	for f := range strings.FieldsSeq(s) {
		if strings.Trim(f, ".") == "" {
			f = ""
		}
		if strings.ContainsFunc(f, func(r rune) bool {
			return r < 0x80 && r != '-' && r != '_' && !unicode.IsLetter(r) && !unicode.IsDigit(r)
		}) {
			return nil
		}
		row = append(row, f)
	}
	return row
}

// validAreas tells whether each name fills one rectangle.
func validAreas(rows [][]string) bool {
	if len(rows) == 0 {
		return false
	}
	type rect struct{ r0, c0, r1, c1, n int }
	found := map[string]*rect{}
	for r, row := range rows {
		if len(row) != len(rows[0]) || len(row) == 0 {
			return false
		}
		for c, name := range row {
			if name == "" {
				continue
			}
			x := found[name]
			if x == nil {
				x = &rect{r, c, r, c, 0}
				found[name] = x
			}
			x.r0, x.c0, x.r1, x.c1 = min(x.r0, r), min(x.c0, c), max(x.r1, r), max(x.c1, c)
			x.n++
		}
	}
	for _, x := range found {
		if x.n != (x.r1-x.r0+1)*(x.c1-x.c0+1) {
			return false
		}
	}
	return true
}

func parseGridTemplate(v *values, set func(string, any)) bool {
	if len(v.list) == 1 && v.word("none") {
		return true // without a slash; none can be the rows as well
	}
	hasString := false
	for _, t := range v.list {
		hasString = hasString || t.Kind == css.String
	}
	if !hasString {
		rows, ok := trackList(v)
		if !ok || !v.delim('/') {
			return false
		}
		cols, ok := trackList(v)
		set("grid-template-rows", spec[TrackList](rows))
		set("grid-template-columns", spec[TrackList](cols))
		return ok
	}
	var items []spec[TrackItem]
	var areas [][]string
	var after []string
	for {
		before, ok := lineNames(v)
		if !ok {
			return false
		}
		names := append(after, before...)
		s, ok := v.str()
		if !ok {
			after = names
			break
		}
		areas = append(areas, areaRow(s))
		tr, ok := trackSize(v)
		if !ok {
			tr = fixed(Track{Min: Size{Kind: Auto}, Max: Size{Kind: Auto}})
		}
		items = append(items, func(c *Computer) TrackItem { return TrackItem{Names: names, Track: tr(c)} })
		if after, ok = lineNames(v); !ok {
			return false
		}
	}
	if !validAreas(areas) {
		return false
	}
	set("grid-template-areas", fixed(areas))
	set("grid-template-rows", func(c *Computer) TrackList { return TrackList{Items: all(items)(c), After: after} })
	if v.delim('/') {
		cols, ok := trackSizes(v, false)
		set("grid-template-columns", spec[TrackList](cols))
		return ok
	}
	return true
}

func parseGrid(v *values, set func(string, any)) bool {
	if at := v.pos; parseGridTemplate(v, set) && v.done() {
		return true
	} else {
		v.pos = at
	}
	flow := func(axis Keyword) bool {
		dense := v.word("dense")
		if !v.word("auto-flow") {
			return false
		}
		dense = v.word("dense") || dense
		set("grid-auto-flow-axis", fixed(axis))
		set("grid-auto-flow-dense", fixed(dense))
		name := "grid-auto-rows"
		if axis == Column {
			name = "grid-auto-columns"
		}
		if x, ok := try(v, byName[name].parse); ok {
			set(name, x)
		}
		return true
	}
	if v.peek().Is("auto-flow") || v.peek().Is("dense") {
		if !flow(Row) || !v.delim('/') {
			return false
		}
		cols, ok := trackList(v)
		set("grid-template-columns", spec[TrackList](cols))
		return ok
	}
	rows, ok := trackList(v)
	if !ok || !v.delim('/') {
		return false
	}
	set("grid-template-rows", spec[TrackList](rows))
	return flow(Column)
}
