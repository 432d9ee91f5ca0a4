package style

import "oliveledger/typeset/internal/css"

// Our own additions bear the prefix -olive-, as CSS 2.2, §4.1.2.1 asks:
// running sums count in decimals, which counters cannot. docs/css.md tells how
// they are written.

// definePaged registers what ties elements to the pages they stand on
// (CSS Generated Content for Paged Media; Generated Content 3).
func definePaged() {
	define("string-set", false, func(s *Style) *[]NamedContent { return &s.StringSet }, parseStringSet)
	define("bookmark-level", false, func(s *Style) *int { return &s.BookmarkLevel }, func(v *values) (spec[int], bool) {
		if v.word("none") {
			return fixed(0), true
		}
		n, ok := v.integer()
		return n, ok && n(nil) > 0
	})
	define("bookmark-label", false, func(s *Style) *[]ContentItem { return &s.BookmarkLabel }, func(v *values) (spec[[]ContentItem], bool) {
		if v.word("none") {
			return fixed([]ContentItem{}), true
		}
		return contentList(v)
	})
	define("-olive-add", false, func(s *Style) *[]NamedContent { return &s.Adds }, parseStringSet)
	words("-olive-pages", false, "auto balance", func(s *Style) *Keyword { return &s.Pages })
	words("-olive-show-in", false, "all first not-first last not-last", func(s *Style) *Keyword { return &s.ShowIn })
	words("footnote-policy", false, "auto line block", func(s *Style) *Keyword { return &s.FootnotePolicy })
	words("footnote-display", false, "block inline compact", func(s *Style) *Keyword { return &s.FootnoteDisplay })
	define("-olive-fit", false, func(s *Style) *float64 { return &s.Fit }, parseFit)
	words("bookmark-state", false, "open closed", func(s *Style) *Keyword { return &s.BookmarkState })
}

// LeastFit is how far -olive-fit: shrink goes when it is not told: smaller
// text can hardly be read.
const LeastFit = 0.4

// NoFit is the least scale of boxes that are not scaled down to fit in any case.
const NoFit = -1

func parseFit(v *values) (spec[float64], bool) {
	switch {
	case v.word("auto"):
		return fixed(0.0), true
	case v.word("none"):
		return fixed(float64(NoFit)), true
	case !v.word("shrink"):
		return nil, false
	case v.done():
		return fixed(LeastFit), true
	}
	n, ok := v.number(true)
	return func(c *Computer) float64 { return min(max(n(c), 0.01), 1) }, ok
}

// parsePosition reads position; running(name) takes an element out of the flow
// and keeps it for margin boxes.
func parsePosition(v *values) (spec[Keyword], bool) {
	if t := v.peek(); t.Kind == css.Function && t.Text == "running" {
		in := &values{list: css.Words(t.Args)}
		name, ok := in.customIdent("none")
		if !ok || !in.done() {
			return nil, false
		}
		v.pos++
		return func(c *Computer) Keyword { // the name goes with the keyword
			c.S.Running = name
			return Running
		}, true
	}
	k, ok := v.oneOf("static relative absolute fixed sticky")
	return fixed(k), ok
}

// contentList reads items up to a comma or the end.
func contentList(v *values) (spec[[]ContentItem], bool) {
	var items []spec[ContentItem]
	for !v.done() && v.peek().Kind != css.Comma {
		it, ok := v.contentItem()
		if !ok {
			return nil, false
		}
		items = append(items, it)
	}
	return all(items), len(items) > 0
}

func parseStringSet(v *values) (spec[[]NamedContent], bool) {
	if v.word("none") {
		return fixed[[]NamedContent](nil), true
	}
	var names []string
	var lists []spec[[]ContentItem]
	for {
		name, ok := v.customIdent("none")
		if !ok {
			return nil, false
		}
		items, ok := contentList(v)
		if !ok {
			return nil, false
		}
		names, lists = append(names, name), append(lists, items)
		if !v.comma() {
			break
		}
	}
	return func(c *Computer) []NamedContent {
		out := make([]NamedContent, len(names))
		for i := range names {
			out[i] = NamedContent{names[i], lists[i](c)}
		}
		return out
	}, true
}

// pagedContent reads the functions of content that know about pages and about
// other places of the document.
func pagedContent(name string, in *values) (spec[ContentItem], bool) {
	switch name {
	case "content":
		it := ContentItem{Kind: ContentContents, Text: "text"}
		if k, ok := in.oneOf("text before after first-letter marker"); ok {
			it.Text = k.String()
		}
		return fixed(it), true
	case "string", "element":
		it := ContentItem{Kind: ContentString, Which: First}
		if name == "element" {
			it.Kind = ContentElement
		}
		var ok bool
		if it.Text, ok = in.customIdent("none"); !ok {
			return nil, false
		}
		if in.comma() {
			if it.Which, ok = in.oneOf("first start last first-except"); !ok {
				return nil, false
			}
		}
		return fixed(it), true
	case "-olive-sum":
		it := ContentItem{Kind: ContentSum, Which: Carried, Separator: "0.##"}
		var ok bool
		if it.Text, ok = in.customIdent("none"); !ok {
			return nil, false
		}
		for in.comma() {
			if k, ok := in.oneOf("brought carried page"); ok {
				it.Which = k
			} else if it.Separator, ok = in.str(); !ok {
				return nil, false
			}
		}
		return fixed(it), true
	case "leader":
		it := ContentItem{Kind: ContentLeader}
		if k, ok := in.oneOf("dotted solid space"); ok {
			it.Text = map[Keyword]string{Dotted: ".", Solid: "_", Space: " "}[k]
			return fixed(it), true
		}
		var ok bool
		it.Text, ok = in.str()
		return fixed(it), ok && it.Text != ""
	case "target-counter", "target-counters", "target-text":
		return targetContent(name, in)
	}
	return nil, false
}

// targetContent reads target-counter(), target-counters() and target-text();
// the place is given as an address, a string or an attribute.
func targetContent(name string, in *values) (spec[ContentItem], bool) {
	var at spec[ContentItem]
	if u, ok := in.url(); ok {
		at = fixed(ContentItem{Kind: ContentText, Text: u})
	} else if it, ok := in.contentItem(); ok {
		at = it
	} else {
		return nil, false
	}
	it := ContentItem{Kind: ContentTargetText, Text: "text", Style: ListType{Name: "decimal"}}
	var ok bool
	if name == "target-text" {
		if in.comma() {
			k, ok := in.oneOf("content before after first-letter")
			if !ok {
				return nil, false
			}
			if it.Text = k.String(); it.Text == "content" {
				it.Text = "text"
			}
		}
	} else {
		it.Kind = ContentTargetCounter
		if !in.comma() {
			return nil, false
		}
		if it.Text, ok = in.customIdent("none"); !ok {
			return nil, false
		}
		if name == "target-counters" {
			it.Kind = ContentTargetCounters
			if !in.comma() {
				return nil, false
			}
			if it.Separator, ok = in.str(); !ok {
				return nil, false
			}
		}
		if in.comma() {
			lt, ok := in.listType()
			if !ok {
				return nil, false
			}
			it.Style = lt(nil)
		}
	}
	return func(c *Computer) ContentItem {
		out := it
		target := at(c)
		out.Target = &target
		return out
	}, true
}
