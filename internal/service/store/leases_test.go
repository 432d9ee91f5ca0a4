package store_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service/store"
)

// TestLeasesGoByTheDatabase moves the database's clock while that of the service stays: the clocks of machines that
// share a database need not agree.
func TestLeasesGoByTheDatabase(t *testing.T) {
	st := open(t)
	pool, err := st.DB().DB()
	require.NoError(t, err)
	pool.SetMaxOpenConns(1) // the time is that of a connection
	begin := time.Now().Add(24 * time.Hour)
	after := func(d time.Duration) {
		t.Helper()
		require.NoError(t, st.DB().Exec(fmt.Sprintf("SET timestamp = %.3f", float64(begin.Add(d).UnixMilli())/1000)).Error)
	}
	after(0)

	t.Run("an item", func(t *testing.T) {
		numbered(t, st, "", 1)
		first := claim(t, st, "one", 1)
		require.Len(t, first, 1, "it waits since now, by the database's clock")
		after(59 * time.Second)
		assert.Empty(t, claim(t, st, "two", 1), "the lease of a minute holds")
		require.NoError(t, st.Hold("one", []uint64{first[0].Item.ID}, time.Minute))
		after(118 * time.Second)
		assert.Empty(t, claim(t, st, "two", 1), "it was made longer")
		after(120 * time.Second)
		second := claim(t, st, "two", 1)
		require.Len(t, second, 1, "the lease has ended")
		require.NoError(t, st.Fail(second[0], "the network", 10*time.Second))
		after(129 * time.Second)
		assert.Empty(t, claim(t, st, "two", 1), "it waits for its turn")
		after(131 * time.Second)
		assert.Len(t, claim(t, st, "two", 1), 1)
		require.NoError(t, st.GiveBack("two"))
		assert.Len(t, claim(t, st, "one", 1), 1, "what was given back is free at once")
	})
	t.Run("a delivery", func(t *testing.T) {
		after(0)
		take := func() *store.Delivery {
			d, err := st.ClaimDelivery(time.Minute)
			require.NoError(t, err)
			return d
		}
		b := numbered(t, st, "", 1)
		finish(t, st, claim(t, st, "one", 1))
		var document uint64
		require.NoError(t, st.DB().Raw("SELECT id FROM documents WHERE batch_id = ?", b.ID).Scan(&document).Error)
		require.NoError(t, st.AddDelivery(&store.Delivery{DocumentID: document, Kind: "mail", To: "skipper@quay.test"}))
		require.NotNil(t, take())
		after(59 * time.Second)
		assert.Nil(t, take(), "the lease of a minute holds")
		after(61 * time.Second)
		d := take()
		require.NotNil(t, d)
		require.NoError(t, st.EndDelivery(d, time.Second, "the post office is closed", time.Hour))
		after(3600 * time.Second)
		assert.Nil(t, take(), "it waits for its turn")
		after(3662 * time.Second)
		require.NotNil(t, take())
	})
}
