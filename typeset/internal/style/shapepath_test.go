package style

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/css"
)

// pathData writes segments as SVG's path data, percentages with the letter of their axis.
func pathData(list []ShapeSegment) string {
	var words []string
	for _, s := range list {
		words = append(words, string(s.Letter))
		for _, a := range s.Args {
			if a.LP.Pct != 0 {
				words = append(words, fmt.Sprintf("%g%%%c", a.LP.Pct, "xyb"[a.Axis]))
			} else {
				words = append(words, fmt.Sprint(a.LP.Px))
			}
		}
	}
	return strings.Join(words, " ")
}

// TestShapeFunction holds shape() against SVG's path data (CSS Shapes 2, §3.4).
func TestShapeFunction(t *testing.T) {
	for in, want := range map[string]string{
		"from 1px 2px, move to 3px 4px":                              "M 1 2 M 3 4",
		"from left bottom, line by 10% 20%":                          "M 0 100%y l 10%x 20%y",
		"from 0 0, hline to right, vline to center":                  "M 0 0 H 100%x V 50%y",
		"from 0 0, hline by 5%, vline by -1px, close":                "M 0 0 h 5%x v -1 Z",
		"from 0 0, curve to 9px 9px with 1px 2px":                    "M 0 0 Q 1 2 9 9",
		"from 0 0, curve by 9px 9px with 1px 2px / 3px 4px":          "M 0 0 c 1 2 3 4 9 9",
		"from 0 0, smooth to 9px 9px":                                "M 0 0 T 9 9",
		"from 0 0, smooth by 9px 9px with 1px 2px":                   "M 0 0 s 1 2 9 9",
		"from 0 0, arc to 9px 9px of 5px":                            "M 0 0 A 5 5 0 0 0 9 9",
		"from 0 0, arc by 9px 9px of 5% 6% large cw rotate 0.25turn": "M 0 0 a 5%x 6%y 90 1 1 9 9",
		"from 0 0, arc to 9px 9px of 5%":                             "M 0 0 A 5%b 5%b 0 0 0 9 9",
	} {
		s := styled(t, div(""), "#x { clip-path: shape("+in+") }")
		require.NotNil(t, s.ClipPath, in)
		assert.Equal(t, want, pathData(s.ClipPath.Segments), in)
	}
	for _, wrong := range []string{
		"", "from 1px 1px", "from 0 0, close, ", "line to 1px 1px", "from 0 0, line 1px 1px", "from 0 0, hline to top", "from 0 0, curve to 1px 1px",
		"from 0 0, arc to 1px 1px", "from 0 0, arc to 1px 1px of 2px up", "from 0 0, turn to 1px 1px",
	} {
		assert.False(t, Supports("clip-path", css.ParseValues("shape("+wrong+")")), wrong)
	}
	assert.Equal(t, Evenodd, styled(t, div(""), "#x { clip-path: shape(evenodd from 0 0, line to 1px 1px) }").ClipPath.Rule)
}

func TestClipTakesCommasOrNone(t *testing.T) {
	for value, ok := range map[string]bool{"rect(1px, 2px, 3px, 4px)": true, "rect(1px 2px 3px 4px)": true, "rect(1px, 2px, 3px 4px)": false, "rect(1px, 2px, 3px)": false} {
		assert.Equal(t, ok, Supports("clip", css.ParseValues(value)), value)
	}
}
