package e2e

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestManyRecords scrolls through a set of more records than the service gives at once: the list grows as its end
// comes into view, and what is changed far down is kept.
func TestManyRecords(t *testing.T) {
	s := start(t)
	ctx := browser(t)
	const n = 1250
	var b strings.Builder
	for i := range n {
		fmt.Fprintf(&b, "{\"number\":\"B-%04d\",\"name\":\"Skipper %d\",\"berth\":%d}\n", i+1, i+1, i)
	}
	set, err := s.Client.Import(t.Context(), "berths.ndjson", nil, strings.NewReader(b.String()))
	require.NoError(t, err)
	logIn(t, ctx, s)
	visit(t, ctx, s, fmt.Sprintf("/records?set=%d", set.ID))
	until(t, ctx, "document.querySelector('[data-test=end]')?.textContent.includes('of 1250')")
	assert.Less(t, value[int](t, ctx, "document.querySelectorAll('.grid .el-table__row').length"), n, "not all at once")
	const all = "document.querySelector('[data-test=end]').textContent.includes('1250 of 1250')"
	for range 30 {
		if value[bool](t, ctx, all) {
			break
		}
		shown := value[int](t, ctx, "document.querySelectorAll('.grid .el-table__row').length")
		value[bool](t, ctx, "(document.querySelector('[data-test=end]').scrollIntoView(), true)")
		until(t, ctx, fmt.Sprintf("document.querySelectorAll('.grid .el-table__row').length > %d || %s", shown, all)) // the last may have come since
	}
	require.True(t, value[bool](t, ctx, all))
	says(t, ctx, "Skipper 1250")
	look(t, ctx, "records-end")
	value[bool](t, ctx, "(() => { const c = document.querySelector('[aria-label=\"name 1249\"]'); c.focus(); c.innerText = 'Jon Wick'; c.blur(); return true })()")
	require.Eventually(t, func() bool {
		r, err := s.Client.Record(t.Context(), set.ID, 1249)
		return err == nil && strings.Contains(string(r.Data), "Jon Wick")
	}, 20*time.Second, 50*time.Millisecond)
}
