package service_test

import (
	"context"
	"encoding/json"
	"net/http"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/servicetest"
)

// TestKeeping erases what was kept as long as it must be: the pages and the record go, the rows stay and
// the ledger is sound. What is held, or has time left, stays whole.
func TestKeeping(t *testing.T) {
	data := t.TempDir()
	s := servicetest.Start(t, data)
	ctx := context.Background()
	files := fstest.MapFS{"page.html": {Data: []byte("<p>{{.name}}")}, "template.yaml": {Data: []byte("keep: 10 years\n")}}
	_, err := s.Client.Push(ctx, "kept", "", files)
	require.NoError(t, err)
	_, err = s.Client.Push(ctx, "forever", "", fstest.MapFS{"page.html": {Data: []byte("<p>{{.name}}")}})
	require.NoError(t, err)
	issue := func(template, name string) client.Document {
		list, err := s.Client.Issue(ctx, client.Order{Template: template, Record: json.RawMessage(`{"name":"` + name + `"}`)}, "")
		require.NoError(t, err)
		return list[0]
	}
	old, held, young, endless := issue("kept", "old"), issue("kept", "held"), issue("kept", "young"), issue("forever", "endless")
	require.NotNil(t, old.Keep)
	assert.WithinDuration(t, time.Now().AddDate(10, 0, 0), *old.Keep, 48*time.Hour)
	assert.Nil(t, endless.Keep)
	db := base(t, data).Store.DB()
	require.NoError(t, db.Exec("UPDATE documents SET keep_until = NOW() - INTERVAL 1 DAY WHERE id IN (?, ?)", old.ID, held.ID).Error)
	_, err = s.Client.HoldDocument(ctx, held.ID, "a lawsuit")
	require.NoError(t, err)
	link, err := s.Client.Share(ctx, client.ShareOrder{Document: old.ID})
	require.NoError(t, err)

	e, err := s.Client.Erase(ctx, true)
	require.NoError(t, err)
	require.Equal(t, 1, e.Total)
	assert.Equal(t, old.ID, e.Documents[0].ID)
	_, err = s.Client.PDF(ctx, old.ID)
	require.NoError(t, err, "only looked")
	e, err = s.Client.Erase(ctx, false)
	require.NoError(t, err)
	require.Equal(t, 1, e.Total)
	assert.NotNil(t, e.Documents[0].Erased)

	_, err = s.Client.PDF(ctx, old.ID)
	assert.Equal(t, http.StatusGone, status(t, err))
	res, _ := call(t, http.MethodGet, link.Address, "")
	assert.Equal(t, http.StatusGone, res.StatusCode)
	_, err = base(t, data).Blobs.Get(ctx, old.SHA256)
	assert.Error(t, err, "its bytes are gone")
	for _, d := range []client.Document{held, young, endless} {
		_, err = s.Client.PDF(ctx, d.ID)
		assert.NoError(t, err)
	}
	v, err := s.Client.VerifyLedger(ctx)
	require.NoError(t, err)
	assert.True(t, v.Sound, "%v", v.Faults)
	assert.Equal(t, 4, v.Rows)
	res, body := call(t, http.MethodGet, old.Verify, "")
	assert.Equal(t, 200, res.StatusCode)
	assert.Contains(t, body, "is genuine", "the ledger still knows it")
	history, err := s.Client.History(ctx, old.ID, client.Find{})
	require.NoError(t, err)
	assert.Equal(t, "document.erased", history.Items[0].Action)
	answer, _, _ := withKey(t, s, http.MethodPost, "/api/v1/documents/1/repetition", "")
	assert.Equal(t, http.StatusConflict, answer, "nothing to set it from")
	_, err = s.Client.HoldDocument(ctx, old.ID, "too late")
	assert.Equal(t, http.StatusConflict, status(t, err))

	_, err = s.Client.HoldDocument(ctx, held.ID, "")
	require.NoError(t, err)
	e, err = s.Client.Erase(ctx, false)
	require.NoError(t, err)
	assert.Equal(t, 1, e.Total)
	e, err = s.Client.Erase(ctx, false)
	require.NoError(t, err)
	assert.Zero(t, e.Total, "nothing is erased twice")
}

// TestErasedTwins erases one of two documents with the same bytes: the other one keeps them.
func TestErasedTwins(t *testing.T) {
	data := t.TempDir()
	s := servicetest.Start(t, data)
	ctx := context.Background()
	var twins []client.Document
	for range 2 {
		list, err := s.Client.Issue(ctx, client.Order{HTML: "<p>the same"}, "")
		require.NoError(t, err)
		twins = append(twins, list[0])
	}
	require.Equal(t, twins[0].SHA256, twins[1].SHA256)
	require.NoError(t, base(t, data).Store.DB().Exec("UPDATE documents SET keep_until = NOW() - INTERVAL 1 DAY WHERE id = ?", twins[0].ID).Error)
	e, err := s.Client.Erase(ctx, false)
	require.NoError(t, err)
	require.Equal(t, 1, e.Total)
	_, err = s.Client.PDF(ctx, twins[1].ID)
	assert.NoError(t, err)
}
