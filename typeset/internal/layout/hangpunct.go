package layout

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// hangStart is how far the first character of the text hangs out of the first
// line, which begins with leaf from: an opening bracket or a quote (CSS Text 3, §8.2.1).
func (st *lineState) hangStart(from int) float64 {
	if !st.b.Style.HangingPunctuation.First || !st.first {
		return 0
	}
	for i := from; i < len(st.p.leaves); i++ {
		switch lf := &st.p.leaves[i]; lf.kind {
		case leafText:
			r, n := utf8.DecodeRuneInString(st.p.text[lf.start:lf.end])
			if unicode.In(r, unicode.Ps, unicode.Pi, unicode.Pf) || r == '"' || r == '\'' {
				return st.widthOf(lf, st.p.text[lf.start:lf.start+n])
			}
			return 0
		case leafPhantom, leafOut, leafFloat:
		case leafSpace:
			if !lf.collapse {
				return 0
			}
		default:
			return 0
		}
	}
	return 0
}

// hangEnd is how far the last character of a unit hangs when a line ends with
// it: a stop or a comma at any line's end, a closing bracket or a quote at that
// of the last line.
func (st *lineState) hangEnd(lf *leaf, last bool) float64 {
	h := &st.b.Style.HangingPunctuation
	if lf.kind != leafText || !h.Force && !h.Allow && !(h.Last && last) {
		return 0
	}
	r, n := utf8.DecodeLastRuneInString(st.p.text[lf.start:lf.end])
	stop := strings.ContainsRune(",.،۔、。，．﹐﹑﹒｡､", r)
	closing := unicode.In(r, unicode.Pe, unicode.Pi, unicode.Pf) || r == '"' || r == '\''
	if stop && (h.Force || h.Allow) || closing && h.Last && last {
		return st.widthOf(lf, st.p.text[lf.end-n:lf.end])
	}
	return 0
}

// hangs is what the punctuation at the end of a line takes from its width; free
// is the room that the line leaves.
func (st *lineState) hangs(units []unit, free float64, last bool) float64 {
	n := contentEnd(units)
	if n == 0 {
		return 0
	}
	w := st.hangEnd(units[n-1].leaf, last)
	if h := &st.b.Style.HangingPunctuation; h.Allow && !h.Force && !(h.Last && last) && atMost(0, free) {
		return 0 // it need not hang
	}
	return w
}
