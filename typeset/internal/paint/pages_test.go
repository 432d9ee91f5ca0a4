package paint

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/internal/golden"
)

// TestPages paints small pages, and compares every call with what is written beside them.
// To see what a change does, run with -update and look at the difference.
func TestPages(t *testing.T) {
	golden.Each(t, "testdata/looks", func(t *testing.T, _ string, html []byte) string {
		var got strings.Builder
		eachPage(t, string(html), 120, func(n int, paint func(c painting)) {
			s := &scribe{}
			paint(s)
			assert.Zero(t, s.depth, "each Save has its Restore")
			fmt.Fprintf(&got, "page %d\n%s", n, s.b.String())
		})
		return got.String()
	})
}
