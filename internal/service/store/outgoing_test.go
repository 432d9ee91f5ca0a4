package store_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service/store"
)

// issued keeps a document that is issued.
func issued(t *testing.T, st *store.Store, name string) *store.Document {
	t.Helper()
	d := &store.Document{Name: name, State: store.Issued, Author: "ida", Data: "{}", CreatedAt: time.Now()}
	require.NoError(t, st.Add(d, nil))
	return d
}

func TestShares(t *testing.T) {
	st := open(t)
	d, other := issued(t, st, "card.pdf"), issued(t, st, "other.pdf")
	past, next := time.Now().Add(-time.Minute), time.Now().Add(time.Hour)
	for _, x := range []store.Share{
		{Hash: "free", DocumentID: d.ID},
		{Hash: "twice", DocumentID: d.ID, Limit: 2},
		{Hash: "ended", DocumentID: d.ID, ExpiresAt: &past},
		{Hash: "lasts", DocumentID: d.ID, ExpiresAt: &next},
		{Hash: "other", DocumentID: other.ID},
	} {
		require.NoError(t, st.AddShare(&x))
	}
	for _, c := range []struct {
		hash string
		uses int // -1 when it opens nothing
	}{{"free", 0}, {"free", 1}, {"twice", 0}, {"twice", 1}, {"twice", -1}, {"ended", -1}, {"lasts", 0}, {"never", -1}} {
		x, found, err := st.UseShare(c.hash)
		if c.uses < 0 {
			require.ErrorIs(t, err, store.ErrNotFound, c.hash)
			continue
		}
		require.NoError(t, err, c.hash)
		assert.Equal(t, d.ID, found.ID)
		shares, _, err := st.Shares(d.ID, store.Page{Limit: 9})
		require.NoError(t, err)
		for _, s := range shares {
			if s.ID == x.ID {
				assert.Equal(t, c.uses+1, s.Uses, c.hash)
			}
		}
	}
	_, all, err := st.Shares(0, store.Page{Limit: 9})
	require.NoError(t, err)
	assert.Equal(t, int64(5), all)
	_, own, err := st.Shares(d.ID, store.Page{Limit: 9})
	require.NoError(t, err)
	assert.Equal(t, int64(4), own)

	x, _, err := st.UseShare("lasts")
	require.NoError(t, err)
	x, err = st.RevokeShare(x.ID)
	require.NoError(t, err)
	assert.True(t, x.Revoked)
	_, _, err = st.UseShare("lasts")
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = st.RevokeShare(99)
	require.ErrorIs(t, err, store.ErrNotFound)
}

// TestDeliveryTries: a delivery waits, is claimed, fails and waits again, until it arrives or is given up.
func TestDeliveryTries(t *testing.T) {
	st := open(t)
	d := issued(t, st, "card.pdf")
	send := &store.Delivery{DocumentID: d.ID, Kind: "mail", To: "ida@harbour.test"}
	require.NoError(t, st.AddDelivery(send))
	assert.Equal(t, store.Waiting, send.State)

	claim := func() *store.Delivery {
		t.Helper()
		got, err := st.ClaimDelivery(time.Minute)
		require.NoError(t, err)
		return got
	}
	got := claim()
	require.NotNil(t, got)
	assert.Equal(t, send.ID, got.ID)
	assert.Equal(t, store.Claimed, got.State)
	assert.Equal(t, 1, got.Tries)
	assert.Nil(t, claim(), "someone works on it")
	_, err := st.RetryDelivery(got.ID)
	require.ErrorContains(t, err, "is claimed; only a failed one is tried again")

	require.NoError(t, st.EndDelivery(got, 1500*time.Millisecond, strings.Repeat("x", 2000), time.Hour))
	assert.Equal(t, store.Waiting, got.State)
	assert.Nil(t, claim(), "it has to wait")
	kept, err := st.Delivery(send.ID)
	require.NoError(t, err)
	require.Len(t, kept.History, 1)
	assert.Equal(t, 1500, kept.History[0].Took)
	assert.Equal(t, 901, len([]rune(kept.Error)), "an endless message is cut")

	require.NoError(t, st.EndDelivery(got, 0, "no such address", store.Never))
	assert.Equal(t, store.Failed, got.State)
	again, err := st.RetryDelivery(send.ID)
	require.NoError(t, err)
	assert.Equal(t, store.Waiting, again.State)
	assert.Zero(t, again.Tries)
	got = claim()
	require.NotNil(t, got)
	require.NoError(t, st.EndDelivery(got, 0, "", time.Hour))
	assert.Equal(t, store.Done, got.State)
	assert.NotNil(t, got.SentAt)
	sent, err := st.Document(d.ID)
	require.NoError(t, err)
	assert.Equal(t, store.Sent, sent.State)
	assert.Equal(t, d.Revision+1, sent.Revision)
	_, err = st.RetryDelivery(send.ID)
	require.ErrorContains(t, err, "is done")
	_, err = st.RetryDelivery(99)
	require.ErrorIs(t, err, store.ErrNotFound)

	for state, want := range map[string]int64{"": 1, store.Done: 1, store.Failed: 0} {
		_, n, err := st.Deliveries(d.ID, 0, state, store.Page{Limit: 5})
		require.NoError(t, err)
		assert.Equal(t, want, n, state)
	}
	_, n, err := st.Deliveries(d.ID+1, 0, "", store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Zero(t, n)
}

// TestAnAbandonedDelivery: what was claimed by someone who is gone is claimed again when its lease has ended.
func TestAnAbandonedDelivery(t *testing.T) {
	st := open(t)
	require.NoError(t, st.AddDelivery(&store.Delivery{DocumentID: issued(t, st, "a.pdf").ID, Kind: "folder", To: "x"}))
	first, err := st.ClaimDelivery(-time.Second)
	require.NoError(t, err)
	require.NotNil(t, first)
	second, err := st.ClaimDelivery(time.Minute)
	require.NoError(t, err)
	require.NotNil(t, second)
	assert.Equal(t, first.ID, second.ID)
	assert.Equal(t, 2, second.Tries)
}

// TestDeliveriesInLists: a list of documents tells how the newest delivery of each stands.
func TestDeliveriesInLists(t *testing.T) {
	st := open(t)
	a, b := issued(t, st, "a.pdf"), issued(t, st, "b.pdf")
	issued(t, st, "c.pdf")
	for _, d := range []*store.Document{a, a, b} {
		require.NoError(t, st.AddDelivery(&store.Delivery{DocumentID: d.ID, Kind: "folder", To: "x"}))
		if d == b {
			break
		}
		got, err := st.ClaimDelivery(time.Minute)
		require.NoError(t, err)
		failure, pause := "no", store.Never
		if got.ID > 1 {
			failure, pause = "", 0
		}
		require.NoError(t, st.EndDelivery(got, 0, failure, pause))
	}
	list, _, err := st.Documents(store.DocumentFilter{}, store.Page{Limit: 5})
	require.NoError(t, err)
	require.Len(t, list, 3)
	assert.Equal(t, []string{"", store.Waiting, store.Done}, []string{list[0].Delivery, list[1].Delivery, list[2].Delivery})
	list, _, err = st.Documents(store.DocumentFilter{Search: "nothing such"}, store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Empty(t, list)
}

// TestVoidIsNotSent: a document that is void by now stays so when a delivery of it arrives.
func TestVoidIsNotSent(t *testing.T) {
	st := open(t)
	d := issued(t, st, "a.pdf")
	require.NoError(t, st.AddDelivery(&store.Delivery{DocumentID: d.ID, Kind: "folder", To: "x"}))
	got, err := st.ClaimDelivery(time.Minute)
	require.NoError(t, err)
	_, err = st.MakeVoid(d.ID, 0, "ida", "a wrong name")
	require.NoError(t, err)
	require.NoError(t, st.EndDelivery(got, 0, "", 0))
	now, err := st.Document(d.ID)
	require.NoError(t, err)
	assert.Equal(t, store.Void, now.State)
}

// TestHooksAreTold: each webhook is told of what it asks for, while it is not paused, at its present address.
func TestHooksAreTold(t *testing.T) {
	st := open(t)
	all := &store.Hook{Address: "https://a.test/", Events: []string{store.DocumentIssued, store.DeliveryFailed}}
	paused := &store.Hook{Address: "https://b.test/", Events: []string{store.DocumentIssued}, Paused: true}
	other := &store.Hook{Address: "https://c.test/", Events: []string{store.BatchEnded}}
	for _, h := range []*store.Hook{all, paused, other} {
		require.NoError(t, st.AddHook(h))
	}
	d := issued(t, st, "a.pdf")
	list, n, err := st.Deliveries(0, all.ID, "", store.Page{Limit: 5})
	require.NoError(t, err)
	require.Equal(t, int64(1), n)
	assert.Equal(t, store.DocumentIssued, list[0].Event)
	assert.Equal(t, d.ID, list[0].DocumentID)
	for _, h := range []*store.Hook{paused, other} {
		_, n, err = st.Deliveries(0, h.ID, "", store.Page{Limit: 5})
		require.NoError(t, err)
		assert.Zero(t, n, h.Address)
	}
	_, n, err = st.Deliveries(0, 0, "", store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Zero(t, n, "messages are no deliveries of the document")

	_, err = st.SaveHook(all.ID, 7, func(h *store.Hook) {})
	require.ErrorIs(t, err, store.ErrChanged)
	h, err := st.SaveHook(all.ID, 1, func(h *store.Hook) { h.Address = "https://new.test/" })
	require.NoError(t, err)
	assert.Equal(t, 2, h.Revision)
	list, _, err = st.Deliveries(0, all.ID, "", store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Equal(t, "https://new.test/", list[0].To, "also what waits")

	tested, err := st.TestHook(all.ID, "ida")
	require.NoError(t, err)
	assert.Equal(t, store.HookTested, tested.Event)
	_, err = st.TestHook(99, "ida")
	require.ErrorIs(t, err, store.ErrNotFound)
	got, err := st.ClaimDelivery(time.Minute)
	require.NoError(t, err)
	require.NoError(t, st.EndDelivery(got, 0, "", 0))
	now, err := st.Document(d.ID)
	require.NoError(t, err)
	assert.Equal(t, store.Issued, now.State, "a message is no delivery: nothing is sent")
	_, err = st.RetryDelivery(got.ID)
	require.NoError(t, err, "it can be told again")

	_, err = st.RemoveHook(all.ID)
	require.NoError(t, err)
	list, _, err = st.Deliveries(0, all.ID, store.Failed, store.Page{Limit: 5})
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, "the webhook was removed", list[0].Error)
	_, err = st.RemoveHook(all.ID)
	require.ErrorIs(t, err, store.ErrNotFound)
	hooks, n, err := st.Hooks(store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Equal(t, int64(2), n)
	assert.Equal(t, paused.ID, hooks[0].ID)
}
