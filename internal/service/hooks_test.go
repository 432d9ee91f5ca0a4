package service_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/service"
	"oliveledger/internal/service/deliver"
	"oliveledger/internal/servicetest"
)

// listener is a webhook that keeps what it is told, in order.
type listener struct {
	*httptest.Server
	mu     sync.Mutex
	heard  []deliver.Notice
	ids    []string
	refuse bool
}

// listening starts a webhook.
func listening(t *testing.T) *listener {
	t.Helper()
	l := &listener{}
	l.Server = httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		l.mu.Lock()
		defer l.mu.Unlock()
		body, err := io.ReadAll(r.Body)
		assert.NoError(t, err)
		if l.refuse || r.Method == http.MethodPut {
			http.Error(w, "not here", http.StatusNotFound)
			return
		}
		assert.Equal(t, deliver.Sign("a secret", r.Header.Get("webhook-id"), r.Header.Get("webhook-timestamp"), body), r.Header.Get("webhook-signature"))
		var n deliver.Notice
		assert.NoError(t, json.Unmarshal(body, &n))
		l.heard, l.ids = append(l.heard, n), append(l.ids, r.Header.Get("webhook-id"))
	}))
	t.Cleanup(l.Close)
	return l
}

// told is what was heard, a line for each message.
func (l *listener) told() (out []string) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for _, n := range l.heard {
		line := n.Type
		if d := n.Data.Document; d != nil {
			line += fmt.Sprintf(" document %d %s", d.ID, d.Name)
			if d.Reason != "" {
				line += ": " + d.Reason
			}
		}
		if d := n.Data.Delivery; d != nil {
			line += fmt.Sprintf(" by %s, %s", d.Kind, d.State)
		}
		if b := n.Data.Batch; b != nil {
			line += fmt.Sprintf(" batch %d %s %d of %d", b.ID, b.State, b.Finished, b.Total)
		}
		if n.Data.Hook != 0 {
			line += fmt.Sprintf(" hook %d", n.Data.Hook)
		}
		out = append(out, line)
	}
	return out
}

// TestHooks lets things happen, and asks what webhooks were told of them.
func TestHooks(t *testing.T) {
	all, some := listening(t), listening(t)
	dir := t.TempDir()
	s := servicetest.Start(t, t.TempDir(), func(c *service.Config) {
		c.DeliverHosts, c.WebhookSecret = []string{strings.TrimPrefix(all.URL, "http://"), strings.TrimPrefix(some.URL, "http://")}, "a secret"
		c.DeliverFolder = filepath.Join(dir, "out")
	})
	ctx := context.Background()
	heard := func(l *listener, want ...string) {
		t.Helper()
		until(t, want[len(want)-1], func() bool { return len(l.told()) >= len(want) })
		assert.Equal(t, want, l.told())
	}
	first, err := s.Client.AddHook(ctx, client.HookInput{Address: all.URL + "/all", Events: []string{"document.issued", "document.void", "delivery.done", "delivery.failed", "batch.ended"}})
	require.NoError(t, err)
	second, err := s.Client.AddHook(ctx, client.HookInput{Address: some.URL, Events: []string{"document.void"}})
	require.NoError(t, err)
	_, err = s.Client.Push(ctx, "card", "", template)
	require.NoError(t, err)

	made, err := s.Client.Issue(ctx, client.Order{Template: "card", Record: json.RawMessage(`{"name":"Zoe","price":2}`)}, "")
	require.NoError(t, err)
	want := []string{"document.issued document 1 Zoe.pdf"}
	heard(all, want...)
	doc := all.heard[0].Data.Document
	assert.Equal(t, []any{made[0].SHA256, "card", 1, "issued"}, []any{doc.SHA256, doc.Template, doc.Version, doc.State})

	deliver := func(kind, to string) {
		t.Helper()
		_, err := s.Client.Deliver(ctx, client.DeliveryOrder{Document: 1, Kind: kind, To: to}, "")
		require.NoError(t, err)
	}
	deliver("folder", "")
	want = append(want, "delivery.done document 1 Zoe.pdf by folder, done")
	heard(all, want...)
	deliver("webdav", some.URL+"/bills/")
	want = append(want, "delivery.failed document 1 Zoe.pdf by webdav, failed")
	heard(all, want...)
	now, err := s.Client.Document(ctx, 1)
	require.NoError(t, err)
	_, err = s.Client.SetDocument(ctx, 1, now.Revision, "void", "wrong boat")
	require.NoError(t, err)
	want = append(want, "document.void document 1 Zoe.pdf: wrong boat")
	heard(all, want...)
	heard(some, want[3])

	b, err := s.Client.StartBatch(ctx, client.BatchOrder{Template: "card", RecordSet: people(t, s, 2)}, "")
	require.NoError(t, err)
	until(t, "the batch's messages", func() bool { return len(all.told()) == 7 })
	got := all.told()[4:]
	slices.Sort(got[:2]) // two workers may have kept them in either order
	assert.Contains(t, got[0], "document.issued document 2 ")
	assert.Contains(t, got[1], "document.issued document 3 ")
	assert.Equal(t, fmt.Sprintf("batch.ended batch %d done 2 of 2", b.ID), got[2])
	assert.Equal(t, b.ID, all.heard[4].Data.Document.Batch)

	t.Run("what was told is listed, and is told again under the same name", func(t *testing.T) {
		list, err := s.Client.Deliveries(ctx, client.Find{Filter: map[string]string{"hook": strconv.FormatUint(first.ID, 10)}})
		require.NoError(t, err)
		require.Len(t, list.Items, 7)
		assert.Equal(t, "batch.ended", list.Items[0].Event)
		assert.Equal(t, b.ID, list.Items[0].About)
		_, err = s.Client.RetryDelivery(ctx, list.Items[6].ID)
		require.NoError(t, err)
		until(t, "the message again", func() bool { return len(all.told()) == 8 })
		assert.Equal(t, []string{all.heard[0].Type, all.heard[0].Timestamp, all.ids[0]}, []string{all.heard[7].Type, all.heard[7].Timestamp, all.ids[7]})
		assert.Equal(t, "void", all.heard[7].Data.Document.State, "it tells how the document is now")
		list, err = s.Client.Deliveries(ctx, client.Find{})
		require.NoError(t, err)
		assert.Len(t, list.Items, 2, "deliveries of documents are listed apart")
	})
	t.Run("one that is paused is told nothing, but for a test", func(t *testing.T) {
		paused := true
		h, err := s.Client.SetHook(ctx, second.ID, second.Revision, client.HookInput{Paused: &paused, Events: []string{"document.issued"}})
		require.NoError(t, err)
		assert.Equal(t, []any{true, []string{"document.issued"}, some.URL}, []any{h.Paused, h.Events, h.Address})
		_, err = s.Client.SetHook(ctx, second.ID, second.Revision, client.HookInput{Paused: &paused})
		assert.Equal(t, http.StatusPreconditionFailed, status(t, err), "someone else has changed it")
		_, err = s.Client.Issue(ctx, client.Order{Template: "card", Record: json.RawMessage(`{"name":"Ida","price":2}`)}, "")
		require.NoError(t, err)
		_, err = s.Client.TestHook(ctx, second.ID)
		require.NoError(t, err)
		heard(some, want[3], fmt.Sprintf("hook.tested hook %d", second.ID))
	})
	t.Run("one that refuses is seen to fail", func(t *testing.T) {
		some.mu.Lock()
		some.refuse = true
		some.mu.Unlock()
		d, err := s.Client.TestHook(ctx, second.ID)
		require.NoError(t, err)
		until(t, "the failure", func() bool {
			d, err = s.Client.Delivery(ctx, d.ID)
			require.NoError(t, err)
			return d.State == "failed"
		})
		assert.Contains(t, d.Error, "404 Not Found: not here")
		for _, n := range all.told() {
			assert.NotContains(t, n, "by webhook", "webhooks are not told of webhooks")
		}
	})
	t.Run("one that is removed is told nothing more", func(t *testing.T) {
		require.NoError(t, s.Client.RemoveHook(ctx, second.ID))
		hooks, err := s.Client.Hooks(ctx, client.Find{})
		require.NoError(t, err)
		require.Len(t, hooks.Items, 1)
		_, err = s.Client.TestHook(ctx, second.ID)
		assert.Equal(t, http.StatusNotFound, status(t, err))
	})
	for why, in := range map[string]client.HookInput{
		`nothing called \"boat.sunk\" happens`: {Address: all.URL, Events: []string{"boat.sunk"}},
		"nothing may be sent to the host":      {Address: "https://elsewhere.example/", Events: []string{"document.void"}},
		"a webhook needs":                      {Address: all.URL},
	} {
		_, err := s.Client.AddHook(ctx, in)
		assert.ErrorContains(t, err, strings.ReplaceAll(why, `\`, ""))
	}
}
