package layout

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// boxCase is one page of boxCases.
type boxCase struct{ name, css, html, want string }

// lineless is for pages of boxes alone: their lines are as high as what stands on them.
const lineless = "body{font-size:0;line-height:0}i{display:inline-block}"

// small is for pages with text.
const small = "body{font:10px/12px 'Liberation Sans'}td{padding:1px}"

// placed is a box of a dump.
type placed struct {
	id         string
	x, y, w, h float64
}

func readPlaced(t *testing.T, text, between string) (list []placed) {
	t.Helper()
	for part := range strings.SplitSeq(text, between) {
		if part == "" {
			continue
		}
		var p placed
		_, err := fmt.Sscanf(part, "%s %g,%g %g×%g", &p.id, &p.x, &p.y, &p.w, &p.h)
		require.NoError(t, err, part)
		list = append(list, p)
	}
	return list
}

// near compares within a browser's smallest unit, 1/64 px, and what sums of it
// come to.
func near(a, b placed) bool {
	const most = 0.1
	return a.id == b.id && math.Abs(a.x-b.x) < most && math.Abs(a.y-b.y) < most && math.Abs(a.w-b.w) < most && math.Abs(a.h-b.h) < most
}

func TestBoxesStandWhereABrowserPutsThem(t *testing.T) {
	for _, c := range slices.Concat(boxCases, flowCases, flexCases, gridCases, tableCases, positionedCases, sizingCases, keywordCases, controlCases, shapeCases, rtlCases) {
		t.Run(c.name, func(t *testing.T) {
			got := readPlaced(t, laid(t, "<!DOCTYPE html><body>"+c.html, c.css), "\n")
			for _, want := range readPlaced(t, c.want, "; ") {
				found := false
				for i, g := range got {
					if near(want, g) {
						got, found = append(got[:i:i], got[i+1:]...), true
						break
					}
				}
				assert.True(t, found, "%+v is not among %+v", want, got)
			}
		})
	}
}
