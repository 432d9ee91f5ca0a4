package service_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/client"
	"oliveledger/internal/service"
	"oliveledger/internal/servicetest"
)

// ask sends a request as it is, and gives status and body of the answer.
func ask(t *testing.T, s *servicetest.Running, method, path, body string, headers ...string) (int, string, http.Header) {
	t.Helper()
	r, err := http.NewRequest(method, s.URL+path, strings.NewReader(body))
	require.NoError(t, err)
	for i := 0; i < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	res, err := http.DefaultClient.Do(r)
	require.NoError(t, err)
	defer res.Body.Close()
	raw, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	return res.StatusCode, string(raw), res.Header
}

// withKey asks with the first key.
func withKey(t *testing.T, s *servicetest.Running, method, path, body string, headers ...string) (int, string, http.Header) {
	t.Helper()
	return ask(t, s, method, path, body, append(headers, "Authorization", "Bearer "+s.Key, "Content-Type", "application/json")...)
}

func logIn(t *testing.T, s *servicetest.Running, email, password string) int {
	t.Helper()
	body, err := json.Marshal(map[string]string{"email": email, "password": password})
	require.NoError(t, err)
	status, _, _ := ask(t, s, http.MethodPost, "/api/v1/session", string(body))
	return status
}

// TestGuessing guesses a password under names that the database takes for the same account.
func TestGuessing(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	for _, name := range []string{s.Email, s.Email + " ", strings.ToUpper(s.Email), strings.Replace(s.Email, "e", "é", 1), s.Email} {
		assert.Equal(t, http.StatusUnauthorized, logIn(t, s, name, "wrong"), name)
	}
	for _, name := range []string{s.Email, strings.Replace(s.Email, "e", "ê", 1), s.Email + "  "} {
		assert.Equal(t, http.StatusTooManyRequests, logIn(t, s, name, s.Password), name)
	}
}

func TestGuessingAtOnce(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	var mu sync.Mutex
	var all sync.WaitGroup
	seen := map[int]int{}
	for range 150 {
		all.Go(func() {
			status := logIn(t, s, s.Email, "wrong")
			mu.Lock()
			seen[status]++
			mu.Unlock()
		})
	}
	all.Wait()
	assert.LessOrEqual(t, seen[http.StatusUnauthorized], 5)
	assert.Equal(t, 150, seen[http.StatusUnauthorized]+seen[http.StatusTooManyRequests])

	for i := range 60 { // other accounts, from the same address
		logIn(t, s, fmt.Sprintf("nobody-%d@example.org", i), "wrong")
	}
	assert.Equal(t, http.StatusTooManyRequests, logIn(t, s, "another@example.org", "wrong"))
	status, body, _ := ask(t, s, http.MethodPost, "/api/v1/session", `{"email":"`+strings.Repeat("x", 5<<20)+`","password":"x"}`)
	assert.Equal(t, http.StatusRequestEntityTooLarge, status, body)
	assert.Contains(t, body, "8 KiB before log-in")
}

// TestNoActWithoutItsRow asks for what used to be done without an event that tells of it.
func TestNoActWithoutItsRow(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	ctx := context.Background()
	status, body, head := withKey(t, s, http.MethodPost, "/api/v1/keys", `{"name":"till","scopes":["read"]}`, "X-Request-Id", strings.Repeat("a", 80))
	require.Equal(t, http.StatusCreated, status, body)
	id := head.Get("X-Request-Id")
	assert.NotEqual(t, strings.Repeat("a", 80), id, "a name that does not fit gets another")
	status, events, _ := withKey(t, s, http.MethodGet, "/api/v1/events?kind=key", "")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, events, id)
	assert.Contains(t, events, "till: read")

	docs, err := s.Client.Issue(ctx, client.Order{HTML: "<p>x"}, "")
	require.NoError(t, err)
	d := docs[0]
	_, err = s.Client.SetDocument(ctx, d.ID, 0, "void", strings.Repeat("ä", 481))
	assert.ErrorContains(t, err, "the reason has 481 characters; there is room for 480")
	reason := strings.Repeat("ä", 480)
	_, err = s.Client.SetDocument(ctx, d.ID, 0, "void", reason)
	require.NoError(t, err)
	list, err := s.Client.History(ctx, d.ID, client.Find{})
	require.NoError(t, err)
	assert.Equal(t, reason, list.Items[0].Detail)

	// what cannot be told is not done
	db := base(t, s.Data).Store.DB()
	require.NoError(t, db.Exec("ALTER TABLE events RENAME TO events_away").Error)
	status, _, _ = withKey(t, s, http.MethodPost, "/api/v1/keys", `{"name":"untold"}`)
	assert.Equal(t, http.StatusInternalServerError, status)
	require.NoError(t, db.Exec("ALTER TABLE events_away RENAME TO events").Error)
	keys, err := s.Client.Keys(ctx, client.Find{})
	require.NoError(t, err)
	for _, k := range keys.Items {
		assert.NotEqual(t, "untold", k.Name)
	}
}

// TestHostileDocuments sends what used to end the service, or to hold it for good.
func TestHostileDocuments(t *testing.T) {
	s := servicetest.Start(t, t.TempDir(), func(c *service.Config) { c.MaxTime = 2 * time.Second })
	render := func(in map[string]any) (int, string) {
		body, err := json.Marshal(in)
		require.NoError(t, err)
		status, answer, _ := withKey(t, s, http.MethodPost, "/api/v1/renderings", string(body))
		return status, answer
	}
	loop := map[string]any{"files": map[string]any{"page.html": map[string]string{"text": "{{range 90000}}{{range 90000}}<p>{{end}}{{end}}"}}}
	for range 3 {
		status, answer := render(loop)
		assert.Equal(t, http.StatusUnprocessableEntity, status)
		assert.Contains(t, answer, "that a document may take")
	}
	preview := func(name string, data []byte) (int, string) {
		status, answer, _ := withKey(t, s, http.MethodPost, "/api/v1/record-previews?name="+name, string(data))
		return status, answer
	}
	status, answer := preview("deep.yaml", bytes.Repeat([]byte("["), 200_000))
	assert.Equal(t, http.StatusUnprocessableEntity, status, answer)
	status, answer = preview("dots.csv", append(bytes.Repeat([]byte("a."), 50_000), "a\n1\n"...))
	assert.Equal(t, http.StatusUnprocessableEntity, status, answer)
	status, answer, _ = withKey(t, s, http.MethodPost, "/api/v1/fonts?name=x.ttf", "\x00\x01\x00\x00\x00\x01\x00\x00\x00\x00\x00\x00kern\x00\x00\x00\x00\x00\x00\x00\x1c\xff\xff\xff\xff")
	assert.Equal(t, http.StatusUnprocessableEntity, status, answer)
	status, _ = render(map[string]any{"html": "<p>Quay"})
	assert.Equal(t, http.StatusOK, status, "it is still there")
}
