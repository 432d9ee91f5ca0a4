package typeset

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestAllocations bounds how many objects a document takes once the program is warm: what grows with each row, word or
// page shows here before it shows in time. The bounds stand a tenth above what was counted.
func TestAllocations(t *testing.T) {
	invoice, folder := mergedInvoice(t)
	for _, c := range []struct {
		name string
		page []byte
		o    Options
		most float64
	}{
		{"invoice", invoice, Options{Name: "page.html", Loader: folder}, 4700},
		{"table of 200 rows", rows(200), Options{}, 10_500},
		{"report of 31 pages", report(5), Options{}, 68_500},
	} {
		t.Run(c.name, func(t *testing.T) {
			var out bytes.Buffer
			set := func() {
				out.Reset()
				_, err := Set(t.Context(), c.page, c.o, &out)
				require.NoError(t, err)
			}
			set() // what is kept for later documents is made now
			assert.LessOrEqual(t, testing.AllocsPerRun(3, set), c.most)
		})
	}
}
