package store_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service/store"
)

func TestOverviewOfNothing(t *testing.T) {
	o, err := open(t).Overview(time.Now().Add(-time.Hour))
	require.NoError(t, err)
	text, err := json.Marshal(o)
	require.NoError(t, err)
	assert.JSONEq(t, `{"waiting":0,"approved":0,"failedDeliveries":0,"failed":[],"batches":[],"drafts":[],"days":[],"recent":[],"templates":0,"recordSets":0}`, string(text))
}

func TestOverview(t *testing.T) {
	st := open(t)
	day := time.Date(2026, 5, 31, 12, 0, 0, 0, time.UTC)
	add := func(name, state string, issued time.Time) *store.Document {
		d := &store.Document{Name: name, State: state, Author: "keeper", CreatedAt: day}
		if !issued.IsZero() {
			d.IssuedAt = &issued
		}
		require.NoError(t, st.DB().Create(d).Error)
		return d
	}
	add("waits.pdf", store.Drafted, time.Time{})
	add("waits-too.pdf", store.Drafted, time.Time{})
	add("may.pdf", store.Approved, time.Time{})
	add("old.pdf", store.Issued, day.AddDate(0, 0, -40))
	add("one.pdf", store.Issued, day.AddDate(0, 0, -1))
	add("two.pdf", store.Sent, day)
	add("three.pdf", store.Void, day)
	last := add("four.pdf", store.Issued, day)
	require.NoError(t, st.DB().Create(&store.Delivery{DocumentID: last.ID, Kind: "mail", To: "a@b.example", State: store.Failed}).Error)
	require.NoError(t, st.AddDelivery(&store.Delivery{DocumentID: last.ID, Kind: "mail", To: "a@b.example", State: store.Waiting}))
	_, err := st.SaveDraft("card", "Ada", map[string][]byte{"page.html": []byte("<p>")}, 0)
	require.NoError(t, err)

	// a batch under way, one that ended well, one that ended with a failure, and one that did so long ago
	running := numbered(t, st, "", 2)
	ended := func(at time.Time, failed bool) *store.Batch {
		b := numbered(t, st, "", 2)
		if failed {
			require.NoError(t, st.DB().Model(&store.BatchItem{}).Where("batch_id = ? AND record = 1", b.ID).Update("state", store.Failed).Error)
		}
		require.NoError(t, st.DB().Model(b).Updates(map[string]any{"state": store.Done, "ended_at": at}).Error)
		return b
	}
	ended(day, false)
	failed := ended(day, true)
	ended(day.AddDate(0, 0, -40), true)

	o, err := st.Overview(day.AddDate(0, 0, -31))
	require.NoError(t, err)
	assert.Equal(t, []int64{2, 1, 1, 1, 4}, []int64{o.Waiting, o.Approved, o.FailedDeliveries, o.Templates, o.RecordSets})
	assert.Equal(t, []store.Day{{Day: "2026-05-30", Documents: 1}, {Day: "2026-05-31", Documents: 3}}, o.Days)
	require.Len(t, o.Failed, 1)
	assert.Equal(t, last.ID, o.Failed[0].DocumentID)
	require.Len(t, o.Batches, 2)
	assert.Equal(t, []uint64{failed.ID, running.ID}, []uint64{o.Batches[0].ID, o.Batches[1].ID})
	assert.Equal(t, 1, o.Batches[0].Failures)
	require.Len(t, o.Drafts, 1)
	assert.Equal(t, []string{"card", "card", "Ada"}, []string{o.Drafts[0].Name, o.Drafts[0].Title, o.Drafts[0].Author})
	assert.Len(t, o.Recent, 8)
	assert.Equal(t, last.ID, o.Recent[0].ID)
}
