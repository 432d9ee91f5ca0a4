package style

// ellipsis is the mark of auto and ellipsis.
const ellipsis = "\u2026"

// defineOverflow registers what marks text that is cut (CSS Overflow 4, §4, §5).
func defineOverflow() {
	define("text-overflow", false, func(s *Style) *TextOverflow { return &s.TextOverflow }, parseTextOverflow)
	define("max-lines", false, func(s *Style) *int { return &s.MaxLines }, func(v *values) (spec[int], bool) {
		if v.word("none") {
			return fixed(0), true
		}
		return positive(v)
	})
	define("block-ellipsis", false, func(s *Style) *string { return &s.BlockEllipsis }, parseBlockEllipsis)
	define("scroll-marker-group", false, func(s *Style) *Keyword { return &s.ScrollMarkers }, func(v *values) (spec[Keyword], bool) {
		k, ok := v.oneOf("none before after")
		return fixed(k), ok && (k == None || v.done() || v.word("links") || v.word("tabs")) // how one moves among them
	})
	words("continue", false, "auto discard collapse -webkit-legacy", func(s *Style) *Keyword { return &s.Continue })
	words("-webkit-box-orient", false, "horizontal vertical inline-axis block-axis", func(s *Style) *Keyword { return &s.BoxOrient })
	short("line-clamp", "max-lines block-ellipsis continue", parseLineClamp)
	short("-webkit-line-clamp", "max-lines block-ellipsis continue", func(v *values, set func(string, any)) bool {
		set("block-ellipsis", fixed(ellipsis))
		if v.word("none") {
			set("max-lines", fixed(0))
			set("continue", fixed(Auto))
			return true
		}
		n, ok := positive(v)
		set("max-lines", n)
		set("continue", fixed(XWebkitLegacy))
		return ok
	})
}

// parseTextOverflow reads one or two values; the last stands for the line's end.
func parseTextOverflow(v *values) (spec[TextOverflow], bool) {
	out, n := TextOverflow{}, 0
	for ; !v.done() && n < 2; n++ {
		if t, ok := v.str(); ok {
			out = TextOverflow{Ellipsis, t}
		} else if v.word("ellipsis") {
			out = TextOverflow{Ellipsis, ellipsis}
		} else if v.word("clip") {
			out = TextOverflow{Kind: ClipText}
		} else {
			return nil, false
		}
	}
	return fixed(out), n > 0
}

func parseBlockEllipsis(v *values) (spec[string], bool) {
	if v.word("auto") {
		return fixed(ellipsis), true
	}
	if v.word("none") || v.word("no-ellipsis") {
		return fixed(""), true
	}
	t, ok := v.str()
	return fixed(t), ok
}

func parseLineClamp(v *values, set func(string, any)) bool {
	lines, mark := any(fixed(0)), any(fixed(ellipsis))
	if v.word("none") {
		set("max-lines", lines)
		set("block-ellipsis", fixed(""))
		set("continue", fixed(Auto))
		return true
	}
	n := 0
	for ; !v.done(); n++ {
		if x, ok := try(v, positive); ok {
			lines = x
		} else if x, ok := try(v, parseBlockEllipsis); ok {
			mark = x
		} else if k, ok := v.oneOf("-webkit-legacy"); ok {
			set("continue", fixed(k))
			continue
		} else {
			return false
		}
		set("continue", fixed(CollapseSpace))
	}
	set("max-lines", lines)
	set("block-ellipsis", mark)
	return n > 0
}
