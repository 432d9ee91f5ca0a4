package style

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/markup"
)

// TestSiblings matches structural selectors among many siblings, where places
// are looked up, and among few, where they are counted: both must agree.
func TestSiblings(t *testing.T) {
	for _, size := range []int{1, 2, nearby - 1, nearby, nearby + 1, 3*nearby + 1} {
		var page strings.Builder
		page.WriteString("<!DOCTYPE html><ul>")
		for i := range size {
			fmt.Fprintf(&page, "<li id=i%d class=c%d></li>text", i+1, i%3)
			if i%5 == 0 {
				page.WriteString("<template></template>")
			}
		}
		doc, err := markup.ParseHTML([]byte(page.String() + "</ul>"))
		require.NoError(t, err)
		of := func(selector string, want func(i int) bool) { // i from 1, among the li
			t.Helper()
			found, err := Select(doc, selector)
			require.NoError(t, err)
			var have, expected []string
			for _, n := range found {
				have = append(have, n.ID)
			}
			for i := range size {
				if want(i + 1) {
					expected = append(expected, fmt.Sprint("i", i+1))
				}
			}
			assert.Equal(t, expected, have, "%s among %d", selector, size)
		}
		of("li:nth-of-type(2n)", func(i int) bool { return i%2 == 0 })
		of("li:nth-of-type(3n+1)", func(i int) bool { return i%3 == 1 })
		of("li:nth-last-of-type(-n+2)", func(i int) bool { return i > size-2 })
		of("li:nth-last-of-type(5n+2)", func(i int) bool { return (size-i)%5 == 1 })
		of("li:nth-last-child(4n of .c2)", func(i int) bool { return i%3 == 0 && (size/3-i/3)%4 == 3 })
		of("li:last-of-type", func(i int) bool { return i == size })
		of("li:only-of-type", func(int) bool { return size == 1 })
		of("li:nth-child(2 of .c1)", func(i int) bool { return i == 5 })
		of("li:nth-last-child(1 of .c0)", func(i int) bool { return i == (size-1)/3*3+1 })
		of("li.c1 ~ li.c0", func(i int) bool { return i > 2 && i%3 == 1 })
		of("#i1 ~ li:not(#i2 ~ li)", func(i int) bool { return i == 2 })
		of("#i99 ~ li", func(int) bool { return false })
		of("ul :nth-child(1)", func(i int) bool { return i == 1 })
	}
}
