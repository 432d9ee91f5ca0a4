package e2e

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/service"
)

// TestHeldAndErased holds a document in the console, lets it go, and looks at it when it is erased.
func TestHeldAndErased(t *testing.T) {
	s := start(t)
	bg := context.Background()
	made, err := s.Client.Issue(bg, client.Order{Template: "mooring-invoice", RecordSet: 3, Records: []int{1}}, "")
	require.NoError(t, err)
	require.NotNil(t, made[0].Keep, "the template says how long")
	ctx := browser(t)
	logIn(t, ctx, s)
	visit(t, ctx, s, "/documents?document=1")
	says(t, ctx, "Kept until")
	press(t, ctx, "[data-test=hold]")
	until(t, ctx, "document.querySelector('.el-message-box input')")
	fill(t, ctx, ".el-message-box input", "a lawsuit")
	click(t, ctx, ".el-message-box button", "Hold")
	says(t, ctx, "a lawsuit")
	click(t, ctx, "[data-test=hold]", "Release")
	until(t, ctx, "!document.body.innerText.includes('Held')")

	base, err := service.JoinBase(bg, service.Config{Data: s.Data})
	require.NoError(t, err)
	require.NoError(t, base.Store.DB().Exec("UPDATE documents SET keep_until = NOW() - INTERVAL 1 DAY").Error)
	e, err := s.Client.Erase(bg, false)
	require.NoError(t, err)
	require.Equal(t, 1, e.Total)
	visit(t, ctx, s, "/documents?document=1")
	says(t, ctx, "The ledger still has its row.")
	assert.False(t, value[bool](t, ctx, "!!document.querySelector('.panel canvas')"))

	visit(t, ctx, s, "/ledger")
	press(t, ctx, "[data-test=check]")
	says(t, ctx, "The ledger is sound: 1 rows")
}
