package client

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"strconv"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// asked is a service that notes what it is asked and answers with text.
func asked(t *testing.T, status int, answer string) (*Client, *string) {
	t.Helper()
	said := ""
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		body, _ := io.ReadAll(r.Body)
		said = r.Method + " " + strings.TrimPrefix(r.URL.RequestURI(), "/api/v1")
		for _, name := range []string{"If-Match", "Idempotency-Key", "Accept"} {
			if v := r.Header.Get(name); v != "" && (name != "Accept" || v != "*/*") {
				said += " " + name + "=" + v
			}
		}
		switch kind := r.Header.Get("Content-Type"); {
		case strings.HasPrefix(kind, "application/zip"):
			said += " zip"
		case len(body) > 0:
			said += " " + string(body)
		}
		assert.Equal(t, "Bearer key", r.Header.Get("Authorization"))
		w.WriteHeader(status)
		io.WriteString(w, answer)
	}))
	t.Cleanup(s.Close)
	return New(s.URL+"/", "key"), &said
}

// What each call asks the service for.
func TestCalls(t *testing.T) {
	ctx := context.Background()
	files := fstest.MapFS{"page.html": {Data: []byte("<p>x")}}
	find := Find{Search: "Ida", Sort: "-name", Offset: 50, Limit: 10, Filter: map[string]string{"state": "done", "template": ""}}
	two := 2
	for _, c := range []struct {
		want string
		call func(c *Client) error
	}{
		{"GET /session", func(c *Client) error { _, err := c.Me(ctx); return err }},
		{"GET /setup", func(c *Client) error { _, err := c.Setup(ctx); return err }},
		{"POST /templates/card/versions?note=first zip", func(c *Client) error { _, err := c.Push(ctx, "card", "first", files); return err }},
		{"PUT /templates/card/draft If-Match=\"3\" zip", func(c *Client) error { _, err := c.SaveDraft(ctx, "card", 3, files); return err }},
		{"GET /templates/card/draft", func(c *Client) error { _, err := c.Draft(ctx, "card"); return err }},
		{"DELETE /templates/card/draft", func(c *Client) error { return c.DropDraft(ctx, "card") }},
		{"GET /templates?limit=10&offset=50&search=Ida&sort=-name&state=done", func(c *Client) error { _, err := c.Templates(ctx, find); return err }},
		{"GET /templates", func(c *Client) error { _, err := c.Templates(ctx, Find{}); return err }},
		{"GET /templates/card", func(c *Client) error { _, err := c.Template(ctx, "card", 0); return err }},
		{"GET /templates/card/versions/2", func(c *Client) error { _, err := c.Template(ctx, "card", 2); return err }},
		{"GET /templates/card/versions?after=9", func(c *Client) error { _, err := c.Versions(ctx, "card", Find{After: 9}); return err }},
		{"GET /templates/card/versions/1/difference/2", func(c *Client) error { _, err := c.Difference(ctx, "card", 1, 2); return err }},
		{"GET /templates/card/versions/1/assets/img/a%20b.png", func(c *Client) error { _, err := c.Asset(ctx, "card", 1, "img/a b.png"); return err }},
		{"POST /record-sets?format=csv&name=bills.csv a,b", func(c *Client) error {
			_, err := c.Import(ctx, "bills.csv", map[string]string{"format": "csv"}, strings.NewReader("a,b"))
			return err
		}},
		{"POST /record-previews?name=bills.csv a,b", func(c *Client) error {
			_, err := c.Preview(ctx, "bills.csv", nil, strings.NewReader("a,b"))
			return err
		}},
		{"GET /record-sets", func(c *Client) error { _, err := c.RecordSets(ctx, Find{}); return err }},
		{"DELETE /record-sets/4", func(c *Client) error { return c.DropRecordSet(ctx, 4) }},
		{"GET /record-sets/4/records", func(c *Client) error { _, err := c.Records(ctx, 4, Find{}); return err }},
		{"GET /record-sets/4/records/5", func(c *Client) error { _, err := c.Record(ctx, 4, 5); return err }},
		{"PUT /record-sets/4/records/5 If-Match=\"2\" {\"a\":1}", func(c *Client) error { _, err := c.SaveRecord(ctx, 4, 5, 2, json.RawMessage(`{"a":1}`)); return err }},
		{"POST /record-sets/4/records {\"a\":1}", func(c *Client) error { _, err := c.AddRecord(ctx, 4, json.RawMessage(`{"a":1}`)); return err }},
		{"POST /erasures {\"onlyLook\":true}", func(c *Client) error { _, err := c.Erase(ctx, true); return err }},
		{"PUT /documents/6/hold {\"reason\":\"audit\"}", func(c *Client) error { _, err := c.HoldDocument(ctx, 6, "audit"); return err }},
		{"DELETE /documents/6/hold", func(c *Client) error { _, err := c.HoldDocument(ctx, 6, ""); return err }},
		{"GET /documents", func(c *Client) error { _, err := c.Documents(ctx, Find{}); return err }},
		{"GET /documents/6", func(c *Client) error { _, err := c.Document(ctx, 6); return err }},
		{"PATCH /documents/6 If-Match=\"3\" {\"reason\":\"wrong\",\"state\":\"void\"}", func(c *Client) error { _, err := c.SetDocument(ctx, 6, 3, "void", "wrong"); return err }},
		{"GET /documents/6/pdf", func(c *Client) error { _, err := c.PDF(ctx, 6); return err }},
		{"GET /documents/6/history", func(c *Client) error { _, err := c.History(ctx, 6, Find{}); return err }},
		{"POST /documents/6/repetition", func(c *Client) error { _, err := c.Repeat(ctx, 6); return err }},
		{"GET /batches", func(c *Client) error { _, err := c.Batches(ctx, Find{}); return err }},
		{"GET /batches/7", func(c *Client) error { _, err := c.Batch(ctx, 7); return err }},
		{`PATCH /batches/7 {"priority":null,"state":"paused"}`, func(c *Client) error { _, err := c.SetBatch(ctx, 7, "paused", nil); return err }},
		{`PATCH /batches/7 {"priority":2,"state":""}`, func(c *Client) error { _, err := c.SetBatch(ctx, 7, "", &two); return err }},
		{"POST /batches/7/retry", func(c *Client) error { _, err := c.RetryBatch(ctx, 7); return err }},
		{"GET /batches/7/items", func(c *Client) error { _, err := c.Items(ctx, 7, Find{}); return err }},
		{"GET /batches/7/zip", func(c *Client) error { return c.BatchFile(ctx, 7, "zip", false, io.Discard) }},
		{"GET /documents/zip?ids=3%2C5", func(c *Client) error { return c.DocumentsFile(ctx, []uint64{3, 5}, "zip", io.Discard) }},
		{"GET /batches/7/pdf?right-hand=1", func(c *Client) error { return c.BatchFile(ctx, 7, "pdf", true, io.Discard) }},
		{"GET /deliveries", func(c *Client) error { _, err := c.Deliveries(ctx, Find{}); return err }},
		{"GET /deliveries/8", func(c *Client) error { _, err := c.Delivery(ctx, 8); return err }},
		{"POST /deliveries/8/retry", func(c *Client) error { _, err := c.RetryDelivery(ctx, 8); return err }},
		{"GET /share-links", func(c *Client) error { _, err := c.Shares(ctx, Find{}); return err }},
		{"DELETE /share-links/9", func(c *Client) error { return c.RevokeShare(ctx, 9) }},
		{"GET /fonts", func(c *Client) error { _, err := c.Fonts(ctx, Find{}); return err }},
		{"POST /fonts?name=harbour.ttf face", func(c *Client) error { _, err := c.AddFont(ctx, "harbour.ttf", strings.NewReader("face")); return err }},
		{"DELETE /fonts/3", func(c *Client) error { return c.WithdrawFont(ctx, 3) }},
		{"GET /number-series", func(c *Client) error { _, err := c.SeriesList(ctx, Find{}); return err }},
		{"GET /ledger", func(c *Client) error { _, err := c.Ledger(ctx, Find{}); return err }},
		{"POST /ledger/verification?from=1", func(c *Client) error { _, err := c.VerifyLedger(ctx); return err }},
		{"GET /ledger/head", func(c *Client) error { return c.PrintHead(ctx, io.Discard) }},
		{"POST /ledger/verification?from=5", func(c *Client) error { _, err := c.VerifyLedgerFrom(ctx, 5); return err }},
		{"GET /ledger/export", func(c *Client) error { return c.ExportLedger(ctx, io.Discard) }},
		{"GET /keys", func(c *Client) error { _, err := c.Keys(ctx, Find{}); return err }},
		{"DELETE /keys/2", func(c *Client) error { return c.RevokeKey(ctx, 2) }},
		{"GET /people", func(c *Client) error { _, err := c.People(ctx, Find{}); return err }},
		{"GET /events", func(c *Client) error { _, err := c.Events(ctx, Find{}); return err }},
	} {
		service, said := asked(t, http.StatusOK, "{}")
		if assert.NoError(t, c.call(service), c.want) {
			assert.Equal(t, c.want, strings.TrimSpace(*said))
		}
	}
}

// Lists of more than one answer are read on, to their end or as far as asked for.
func TestLongLists(t *testing.T) {
	var asked []string
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		q := r.URL.Query()
		asked = append(asked, q.Get("offset")+" "+q.Get("limit"))
		offset, _ := strconv.Atoi(q.Get("offset"))
		limit, _ := strconv.Atoi(q.Get("limit"))
		part := List[Event]{Items: []Event{}, Total: 230}
		for i := offset; i < min(offset+limit, 230); i++ {
			part.Items = append(part.Items, Event{Ref: strconv.Itoa(i)})
		}
		assert.NoError(t, json.NewEncoder(w).Encode(part))
	}))
	defer s.Close()
	for limit, want := range map[int][]string{
		500: {" 100", "100 100", "200 100"},
		200: {" 100", "100 100"},
		150: {" 100", "100 50"},
		100: {" 100"},
	} {
		asked = nil
		l, err := New(s.URL, "key").Events(t.Context(), Find{Limit: limit})
		require.NoError(t, err)
		assert.Equal(t, want, asked, "%d rows", limit)
		assert.Len(t, l.Items, min(limit, 230))
		assert.Equal(t, 230, l.Total)
		assert.Equal(t, strconv.Itoa(len(l.Items)-1), l.Items[len(l.Items)-1].Ref, "in order, each once")
	}
}

// What a service says of a call is the error.
func TestProblems(t *testing.T) {
	for answer, want := range map[string]string{
		`{"title":"Not Found","status":404,"detail":"there is no such thing here"}`: "the service says: there is no such thing here (404 Not Found)",
		"a gateway's own words\n": "the service says: a gateway's own words (404 Not Found)",
		"":                        "the service says:  (404 Not Found)",
	} {
		c, _ := asked(t, http.StatusNotFound, answer)
		_, err := c.Document(t.Context(), 1)
		var p *Problem
		require.ErrorAs(t, err, &p)
		assert.Equal(t, want, err.Error())
		assert.Equal(t, http.StatusNotFound, p.Status)
	}
	_, err := New("http://127.0.0.1:1", "key").Me(t.Context())
	assert.ErrorContains(t, err, "the service at http://127.0.0.1:1 does not answer; is “olive serve” running?")
	c, _ := asked(t, http.StatusOK, "no JSON")
	_, err = c.Me(t.Context())
	assert.Error(t, err)
}

func TestFilesComeWhole(t *testing.T) {
	c, _ := asked(t, http.StatusOK, "%PDF-1.7")
	data, err := c.PDF(t.Context(), 1)
	require.NoError(t, err)
	assert.Equal(t, "%PDF-1.7", string(data))
	var out bytes.Buffer
	require.NoError(t, c.BatchFile(t.Context(), 1, "pdf", false, &out))
	assert.Equal(t, "%PDF-1.7", out.String())
	c, _ = asked(t, http.StatusConflict, `{"detail":"it is not done"}`)
	assert.ErrorContains(t, c.BatchFile(t.Context(), 1, "pdf", false, &out), "it is not done")
	assert.Equal(t, "%PDF-1.7", out.String(), "nothing is written of an error")
}

// Steps of a batch are told until it ends, also over a way that is cut.
func TestFollowing(t *testing.T) {
	turn := 0
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		turn++
		fmt.Fprintf(w, "event: batch\ndata: {\"state\":\"running\",\"done\":%d}\n\ndata: {}\n\n: still here\n\n", turn)
		if turn == 2 {
			fmt.Fprint(w, "data: {\"state\":\"done\",\"done\":3}\n\n")
		}
	}))
	t.Cleanup(s.Close)
	var steps []string
	last, err := New(s.URL, "key").Follow(t.Context(), 1, func(b Batch) { steps = append(steps, fmt.Sprintf("%s %d", b.State, b.Done)) })
	require.NoError(t, err)
	assert.Equal(t, []string{"running 1", "running 2", "done 3"}, steps)
	assert.True(t, last.Ended())

	ctx, stop := context.WithCancel(t.Context())
	turn = 10
	_, err = New(s.URL, "key").Follow(ctx, 1, func(Batch) { stop() })
	assert.Error(t, err, "who stops listening is told so")
}
