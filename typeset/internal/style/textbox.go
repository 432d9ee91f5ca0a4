package style

// TextBoxTrim is text-box-trim: at which block sides lines end with their text instead of
// their leading.
type TextBoxTrim struct{ Start, End bool }

// TextEdge is how far text reaches, which is what text-box-edge measures.
type TextEdge byte

// The edges of text; over it TextEdgeAuto is the ascent, under it the descent.
const (
	TextEdgeAuto TextEdge = iota
	TextEdgeCap
	TextEdgeEx
	TextEdgeAlphabetic
	TextEdgeIdeographic
)

// TextBoxEdge is text-box-edge: the edges over and under the text of a line.
type TextBoxEdge struct{ Over, Under TextEdge }

// defineTextBox registers what sets boxes flush with their text (CSS Inline 3, §5.2).
func defineTextBox() {
	define("text-box-trim", false, func(s *Style) *TextBoxTrim { return &s.TextBoxTrim }, parseTextBoxTrim)
	define("text-box-edge", true, func(s *Style) *TextBoxEdge { return &s.TextBoxEdge }, parseTextBoxEdge)
	short("text-box", "text-box-trim text-box-edge", func(v *values, set func(string, any)) bool {
		if v.word("normal") {
			set("text-box-trim", fixed(TextBoxTrim{}))
			set("text-box-edge", fixed(TextBoxEdge{}))
			return v.done()
		}
		trim, edge := any(fixed(TextBoxTrim{true, true})), any(fixed(TextBoxEdge{}))
		trimmed, edged := false, false
		for !v.done() {
			if x, ok := try(v, parseTextBoxTrim); ok && !trimmed {
				trim, trimmed = x, true
			} else if x, ok := try(v, parseTextBoxEdge); ok && !edged {
				edge, edged = x, true
			} else {
				return false
			}
		}
		set("text-box-trim", trim)
		set("text-box-edge", edge)
		return trimmed || edged
	})
}

func parseTextBoxTrim(v *values) (spec[TextBoxTrim], bool) {
	for name, trim := range map[string]TextBoxTrim{"none": {}, "trim-start": {Start: true}, "trim-end": {End: true}, "trim-both": {true, true}} {
		if v.word(name) {
			return fixed(trim), true
		}
	}
	return nil, false
}

// edgesOf are the words that stand for both edges: text under what has no such edge of its
// own.
var edgesOf = map[string]TextBoxEdge{
	"text": {}, "cap": {Over: TextEdgeCap}, "ex": {Over: TextEdgeEx},
	"ideographic": {TextEdgeIdeographic, TextEdgeIdeographic}, "ideographic-ink": {TextEdgeIdeographic, TextEdgeIdeographic},
}

// underEdges are the words for the edge under the text alone.
var underEdges = map[string]TextEdge{
	"text": TextEdgeAuto, "alphabetic": TextEdgeAlphabetic, "ideographic": TextEdgeIdeographic, "ideographic-ink": TextEdgeIdeographic,
}

func parseTextBoxEdge(v *values) (spec[TextBoxEdge], bool) {
	if v.word("auto") {
		return fixed(TextBoxEdge{}), true
	}
	for name, edge := range edgesOf {
		if !v.word(name) {
			continue
		}
		for name, under := range underEdges {
			if v.word(name) {
				edge.Under = under
				return fixed(edge), true
			}
		}
		return fixed(edge), true
	}
	return nil, false
}
