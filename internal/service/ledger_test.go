package service_test

import (
	"context"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/service"
	"oliveledger/internal/service/backup"
	"oliveledger/internal/servicetest"
)

// base connects to what a running service uses.
func base(t *testing.T, data string) *service.Base {
	t.Helper()
	b, err := service.JoinBase(context.Background(), service.Config{Data: data})
	require.NoError(t, err)
	return b
}

func TestLedger(t *testing.T) {
	data := t.TempDir()
	s := servicetest.Start(t, data)
	ctx := context.Background()
	_, err := s.Client.Push(ctx, "card", "", template)
	require.NoError(t, err)
	set := people(t, s, 6)
	_, err = s.Client.AddSeries(ctx, client.Series{Name: "cards", Pattern: "QL-{year}-{number:4}", Next: 7})
	require.NoError(t, err)
	_, err = s.Client.AddSeries(ctx, client.Series{Name: "odd", Pattern: "QL-{month}"})
	assert.Equal(t, 400, status(t, err))

	made, err := s.Client.Issue(ctx, client.Order{Template: "card", RecordSet: set, Records: []int{1, 2}, Series: "cards"}, "")
	require.NoError(t, err)
	require.Len(t, made, 2)
	assert.Regexp(t, `^QL-20\d\d-0007$`, made[0].Number)
	assert.Regexp(t, `^QL-20\d\d-0008$`, made[1].Number)

	t.Run("a document that fails draws no number", func(t *testing.T) {
		_, err := s.Client.Issue(ctx, client.Order{Template: "card", Record: []byte(`{"price": 1}`), Series: "cards"}, "")
		assert.Equal(t, 422, status(t, err))
		next, err := s.Client.Issue(ctx, client.Order{Template: "card", RecordSet: set, Records: []int{3}, Series: "cards"}, "")
		require.NoError(t, err)
		assert.Regexp(t, `-0009$`, next[0].Number)
		list, err := s.Client.SeriesList(ctx, client.Find{})
		require.NoError(t, err)
		_, err = s.Client.SetSeries(ctx, list.Items[0].ID, "", 3)
		assert.Equal(t, 409, status(t, err), "a number that was given is not given again")
	})

	t.Run("the same record and version give the same bytes", func(t *testing.T) {
		same, err := s.Client.Repeat(ctx, made[0].ID)
		require.NoError(t, err)
		assert.True(t, same)
	})

	t.Run("a draft is approved by someone else, then issued", func(t *testing.T) {
		d, err := s.Client.Issue(ctx, client.Order{Template: "card", RecordSet: set, Records: []int{4}, Series: "cards", Draft: true}, "")
		require.NoError(t, err)
		id := d[0].ID
		assert.Equal(t, "draft", d[0].State)
		assert.Empty(t, d[0].Number)
		_, err = s.Client.SetDocument(ctx, id, 0, "issued", "")
		assert.Equal(t, 409, status(t, err))
		_, err = s.Client.SetDocument(ctx, id, 0, "approved", "")
		assert.ErrorContains(t, err, "someone else")
		k, err := s.Client.NewKey(ctx, client.KeyOrder{Name: "another key of mine"})
		require.NoError(t, err)
		_, err = s.As(t, k.Secret).SetDocument(ctx, id, 0, "approved", "")
		assert.ErrorContains(t, err, "through a key of yours")
		other := s.Someone(t, "second@example.org")
		_, err = other.SetDocument(ctx, id, d[0].Revision+5, "approved", "")
		assert.Equal(t, 412, status(t, err))
		_, err = other.SetDocument(ctx, id, d[0].Revision, "approved", "")
		require.NoError(t, err)
		_, err = s.Client.Share(ctx, client.ShareOrder{Document: id})
		assert.Equal(t, 409, status(t, err), "only what is issued goes out")
		issued, err := s.Client.SetDocument(ctx, id, 0, "issued", "")
		require.NoError(t, err)
		assert.Regexp(t, `-0010$`, issued.Number)
		history, err := s.Client.History(ctx, id, client.Find{})
		require.NoError(t, err)
		require.Len(t, history.Items, 3)
		assert.Equal(t, "document.approved", history.Items[1].Action)
	})

	t.Run("anyone with the code can ask whether it is genuine", func(t *testing.T) {
		d, err := s.Client.Document(ctx, made[1].ID)
		require.NoError(t, err)
		res, body := call(t, http.MethodGet, d.Verify, "")
		assert.Equal(t, 200, res.StatusCode)
		assert.Contains(t, body, "is genuine")
		assert.Contains(t, body, d.Number)
		assert.NotContains(t, body, "Skipper", "it shows no contents")
		_, err = s.Client.SetDocument(ctx, d.ID, 0, "void", "")
		assert.Equal(t, 400, status(t, err), "a reason is needed")
		_, err = s.Client.SetDocument(ctx, d.ID, 0, "void", "wrong berth")
		require.NoError(t, err)
		_, body = call(t, http.MethodGet, d.Verify, "")
		assert.Contains(t, body, "is void")
		db := base(t, data).Store.DB()
		require.NoError(t, db.Exec("UPDATE documents SET state = 'issued' WHERE id = ?", d.ID).Error)
		_, body = call(t, http.MethodGet, d.Verify, "")
		assert.Contains(t, body, "is void", "the ledger counts, not what a row was set to")
		require.NoError(t, db.Exec("UPDATE documents SET state = 'void' WHERE id = ?", d.ID).Error)
		res, _ = call(t, http.MethodGet, s.URL+"/verify/nothing", "")
		assert.Equal(t, 404, res.StatusCode)
	})

	t.Run("share links end", func(t *testing.T) {
		link, err := s.Client.Share(ctx, client.ShareOrder{Document: made[0].ID, Limit: 2, Download: true})
		require.NoError(t, err)
		for range 2 {
			res, body := call(t, http.MethodGet, link.Address, "")
			require.Equal(t, 200, res.StatusCode)
			assert.Equal(t, "private, no-store", res.Header.Get("Cache-Control"))
			assert.True(t, strings.HasPrefix(res.Header.Get("Content-Disposition"), "attachment"))
			assert.True(t, strings.HasPrefix(body, "%PDF"))
		}
		res, _ := call(t, http.MethodGet, link.Address, "")
		assert.Equal(t, 404, res.StatusCode, "its limit is reached")
		link, err = s.Client.Share(ctx, client.ShareOrder{Document: made[0].ID})
		require.NoError(t, err)
		require.NoError(t, s.Client.RevokeShare(ctx, link.ID))
		res, _ = call(t, http.MethodGet, link.Address, "")
		assert.Equal(t, 404, res.StatusCode)
		list, err := s.Client.Shares(ctx, client.Find{})
		require.NoError(t, err)
		assert.Equal(t, 2, list.Items[1].Uses)
	})

	t.Run("a back-up holds everything", func(t *testing.T) {
		name := filepath.Join(t.TempDir(), "backup.zip")
		f, err := os.Create(name)
		require.NoError(t, err)
		b := base(t, data)
		n, err := backup.Write(ctx, b.Store, b.Blobs, f)
		require.NoError(t, err)
		assert.Equal(t, 4, n.Blobs)
		st, err := f.Stat()
		require.NoError(t, err)
		_, err = backup.Read(ctx, b.Store, b.Blobs, f, st.Size())
		assert.ErrorContains(t, err, "data already")
		fresh, err := service.OpenBase(ctx, service.Config{Data: t.TempDir()})
		require.NoError(t, err)
		defer fresh.Close()
		back, err := backup.Read(ctx, fresh.Store, fresh.Blobs, f, st.Size())
		require.NoError(t, err)
		assert.Equal(t, n, back)
		v, err := fresh.Store.Verify(1, func(sum string) error { _, err := fresh.Blobs.Get(ctx, sum); return err })
		require.NoError(t, err)
		assert.Empty(t, v.Faults)
		assert.Equal(t, 5, v.Rows)
		old, err := b.Store.Document(made[0].ID)
		require.NoError(t, err)
		now, err := fresh.Store.Document(made[0].ID)
		require.NoError(t, err)
		assert.Equal(t, old, now)
	})

	t.Run("every change of the past is found", func(t *testing.T) {
		sound, err := s.Client.VerifyLedger(ctx)
		require.NoError(t, err)
		assert.True(t, sound.Sound)
		assert.Equal(t, 5, sound.Rows)
		rest, err := s.Client.VerifyLedgerFrom(ctx, 4)
		require.NoError(t, err)
		assert.True(t, rest.Sound)
		assert.Equal(t, []int{2, 5}, []int{rest.Rows, rest.Last})
		_, err = s.Client.VerifyLedgerFrom(ctx, 99)
		assert.Equal(t, 409, status(t, err))
		db := base(t, data).Store.DB()
		spoil := func(say, change, mend string) {
			require.NoError(t, db.Exec(change).Error)
			v, err := s.Client.VerifyLedger(ctx)
			require.NoError(t, err)
			require.False(t, v.Sound, say)
			assert.Contains(t, v.Faults[0].Message, say)
			require.NoError(t, db.Exec(mend).Error)
		}
		for _, guard := range []string{"ledger_unchanged", "ledger_complete"} { // as someone would who may change tables
			require.NoError(t, db.Exec("DROP TRIGGER "+guard).Error)
		}
		spoil("has been changed", "UPDATE ledger SET pages = pages + 1 WHERE id = 2", "UPDATE ledger SET pages = pages - 1 WHERE id = 2")
		spoil("not what was issued", "UPDATE documents SET data = CONCAT(data, ' ') WHERE id = 1", "UPDATE documents SET data = LEFT(data, CHAR_LENGTH(data) - 1) WHERE id = 1")
		spoil("not what was issued", "UPDATE documents SET name = CONCAT(name, 'x') WHERE id = 1", "UPDATE documents SET name = LEFT(name, CHAR_LENGTH(name) - 1) WHERE id = 1")
		spoil("its state says that it counts", "UPDATE documents SET state = 'issued' WHERE state = 'void'", "UPDATE documents SET state = 'void' WHERE id IN (SELECT document_id FROM ledger WHERE kind = 'void')")
		spoil("but no row says so", "UPDATE documents SET state = 'void' WHERE id = 1", "UPDATE documents SET state = 'issued' WHERE id = 1")
		spoil("the counter has been changed", "UPDATE series SET next = next + 1", "UPDATE series SET next = next - 1")
		spoil("the counter has been changed", "UPDATE series SET next = next - 1", "UPDATE series SET next = next + 1")
		spoil("at the end are missing", "UPDATE ledger_head SET count = 9", "UPDATE ledger_head SET count = 5")
		d, err := s.Client.Document(ctx, made[0].ID)
		require.NoError(t, err)
		file := filepath.Join(data, "blobs", d.SHA256[:2], d.SHA256)
		require.NoError(t, os.Chmod(file, 0o600))
		require.NoError(t, os.WriteFile(file, []byte("%PDF forged"), 0o600))
		v, err := s.Client.VerifyLedger(ctx)
		require.NoError(t, err)
		require.Len(t, v.Faults, 1)
		assert.Contains(t, v.Faults[0].Message, "have changed")
		_, err = s.Client.PDF(ctx, d.ID)
		assert.Equal(t, 500, status(t, err))
		require.NoError(t, db.Exec("DELETE FROM ledger WHERE id = 3").Error)
		v, err = s.Client.VerifyLedger(ctx)
		require.NoError(t, err)
		assert.Contains(t, v.Faults[1].Message, "rows are missing")
	})
}
