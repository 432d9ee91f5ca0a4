package witness_test

import (
	"bytes"
	"context"
	"encoding/base64"
	"encoding/json"
	"log/slog"
	"net"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service"
	"oliveledger/internal/service/deliver"
	"oliveledger/internal/service/seal"
	"oliveledger/internal/service/store"
	"oliveledger/internal/service/witness"
	"oliveledger/internal/standin"
	"oliveledger/internal/timestamp"
)

// harbour is a ledger with those who see its heads.
type harbour struct {
	store  *store.Store
	keeper *witness.Keeper
	stamps *standin.Timestamps
	mails  string
}

func open(t *testing.T) *harbour {
	t.Helper()
	b, err := service.OpenBase(context.Background(), service.Config{Data: t.TempDir()})
	require.NoError(t, err)
	t.Cleanup(b.Close)
	b.Store.Seal, err = seal.Open(t.TempDir(), "")
	require.NoError(t, err)

	dir := t.TempDir()
	stamps, err := standin.NewTimestamps(dir)
	require.NoError(t, err)
	front := httptest.NewServer(stamps)
	t.Cleanup(front.Close)
	b.Store.Stamps, err = timestamp.Open(front.URL, filepath.Join(dir, standin.RootFile))
	require.NoError(t, err)

	post, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { post.Close() })
	mails := t.TempDir()
	go func() { _ = (&standin.Mail{Folder: mails}).Serve(post) }() // until it is closed
	mail, err := deliver.NewMail("smtp+plain://"+post.Addr().String(), "Harbour office <office@quay.test>")
	require.NoError(t, err)
	k := &witness.Keeper{Store: b.Store, Mail: mail, To: "notary@quay.test", Every: time.Hour, Log: slog.New(slog.DiscardHandler)}
	return &harbour{b.Store, k, stamps, mails}
}

// issue adds a document, and signs the head.
func (h *harbour) issue(t *testing.T, name string) {
	t.Helper()
	d := &store.Document{Name: name, Data: "{}", RecordSHA256: store.SumOf("{}"), State: store.Issued, Author: "keeper", CreatedAt: time.Now()}
	require.NoError(t, h.store.Add(d, func(*store.Document) error { return nil }))
	require.NoError(t, h.store.SealHead())
}

func (h *harbour) verify(t *testing.T) store.Verification {
	t.Helper()
	v, err := h.store.Verify(1, func(string) error { return nil })
	require.NoError(t, err)
	return v
}

func (h *harbour) mailed(t *testing.T) (texts []string) {
	t.Helper()
	list, err := filepath.Glob(filepath.Join(h.mails, "*.eml"))
	require.NoError(t, err)
	for _, name := range list {
		text, err := os.ReadFile(name)
		require.NoError(t, err)
		texts = append(texts, string(text))
	}
	return texts
}

func TestHeadsAreShown(t *testing.T) {
	h, ctx := open(t), context.Background()
	require.NoError(t, h.keeper.Show(ctx), "there is nothing to show yet")
	assert.Empty(t, h.mailed(t))
	h.issue(t, "one.pdf")
	assert.Nil(t, h.verify(t).Witnessed)

	require.NoError(t, h.keeper.Show(ctx))
	v := h.verify(t)
	assert.True(t, v.Sound, "%v", v.Faults)
	require.NotNil(t, v.Witnessed)
	assert.EqualValues(t, 1, v.Witnessed.Rows)
	assert.Equal(t, "CN=Stand-in for time stamps", v.Witnessed.Who)
	assert.WithinDuration(t, time.Now(), v.Witnessed.At, 5*time.Second)
	mails := h.mailed(t)
	require.Len(t, mails, 1)
	head, err := h.store.NewestHead()
	require.NoError(t, err)
	assert.Contains(t, mails[0], "Subject: The ledger on "+head.At[:10]+" ("+head.Checksum[:12]+")")
	assert.Contains(t, mails[0], "checksum  "+head.Checksum[:40])
	assert.Contains(t, mails[0], "ledger-head.json")

	h.issue(t, "two.pdf")
	require.NoError(t, h.keeper.Show(ctx))
	assert.Len(t, h.mailed(t), 1, "a witness sees one head an hour")
	h.keeper.Every = 0
	require.NoError(t, h.keeper.Show(ctx))
	require.NoError(t, h.keeper.Show(ctx), "each head once")
	assert.Len(t, h.mailed(t), 2)
	assert.EqualValues(t, 2, h.verify(t).Witnessed.Rows)
	last, err := h.store.LastWitness()
	require.NoError(t, err)
	assert.Equal(t, "notary@quay.test", last.Who)

	t.Run("an export holds what they said", func(t *testing.T) {
		var b bytes.Buffer
		require.NoError(t, h.store.Export(&b))
		kinds := map[string]int{}
		for line := range strings.Lines(b.String()) {
			var is struct {
				Witness *struct{ Kind, Checksum, Signed, Token string }
			}
			require.NoError(t, json.Unmarshal([]byte(line), &is))
			if is.Witness == nil {
				continue
			}
			kinds[is.Witness.Kind]++
			if is.Witness.Kind == store.ByStamp && is.Witness.Checksum == head.Checksum {
				token, err := base64.StdEncoding.DecodeString(is.Witness.Token)
				require.NoError(t, err)
				_, err = h.store.Stamps.Read(token, head.Head().Text())
				assert.NoError(t, err, "the token is over the text of the head, as docs/audit says")
			}
		}
		assert.Equal(t, map[string]int{store.ByStamp: 2, store.ByMail: 2}, kinds)
	})
}

// TestFalseWitnesses are told by the verification.
func TestFalseWitnesses(t *testing.T) {
	h, ctx := open(t), context.Background()
	h.keeper.Every = 0
	h.issue(t, "one.pdf")
	h.stamps.Now = func() time.Time { return time.Now().Add(-time.Hour) }
	require.NoError(t, h.keeper.Show(ctx))
	v := h.verify(t)
	assert.False(t, v.Sound)
	require.Len(t, v.Faults, 1)
	assert.Contains(t, v.Faults[0].Message, "the clock of the service was ahead")

	h.stamps.Now = time.Now
	h.issue(t, "two.pdf")
	head, err := h.store.NewestHead()
	require.NoError(t, err)
	token, err := h.store.Stamps.Ask(ctx, []byte("another head"))
	require.NoError(t, err)
	require.NoError(t, h.store.AddWitness(&store.Witness{HeadID: head.ID, Kind: store.ByStamp, Who: token.By, At: token.At, Token: token.Raw}))
	v = h.verify(t)
	require.Len(t, v.Faults, 2)
	assert.Contains(t, v.Faults[1].Message, "over the head of 2 rows")
	assert.Contains(t, v.Faults[1].Message, "the time stamp is over something else")
	assert.Nil(t, v.Witnessed)
	assert.ErrorContains(t, h.store.DB().Exec("DELETE FROM head_witnesses").Error, "never deleted")
	assert.ErrorContains(t, h.store.DB().Exec("UPDATE head_witnesses SET who = 'me'").Error, "never changed")
}

// TestSilentWitness does not answer: nothing is kept, and the next turn asks again.
func TestSilentWitness(t *testing.T) {
	h, ctx := open(t), context.Background()
	h.issue(t, "one.pdf")
	stamps := h.store.Stamps
	var err error
	h.store.Stamps, err = timestamp.Open("http://127.0.0.1:1", "")
	require.NoError(t, err)
	assert.ErrorContains(t, h.keeper.Show(ctx), "the time-stamp server http://127.0.0.1:1")
	h.store.Stamps = stamps
	assert.Nil(t, h.verify(t).Witnessed)

	working, stop := context.WithCancel(ctx)
	done := make(chan struct{})
	go func() { h.keeper.Run(working); close(done) }()
	assert.Eventually(t, func() bool {
		w, err := h.store.LastWitness()
		return err == nil && w != nil && w.Who == "notary@quay.test"
	}, 10*time.Second, 20*time.Millisecond)
	stop()
	<-done
	assert.NotNil(t, h.verify(t).Witnessed)
}
