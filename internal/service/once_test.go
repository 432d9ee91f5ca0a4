package service_test

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/servicetest"
)

// TestSameKey sends requests again with the same Idempotency-Key: at the same time, with another body,
// and after one that was refused.
func TestSameKey(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	ctx := context.Background()
	_, err := s.Client.Push(ctx, "card", "", template)
	require.NoError(t, err)
	_, err = s.Client.AddSeries(ctx, client.Series{Name: "cards", Pattern: "C-{number:3}"})
	require.NoError(t, err)
	order := func(body, key string) (int, string, http.Header) {
		return withKey(t, s, http.MethodPost, "/api/v1/documents", body, "Idempotency-Key", key)
	}
	const one = `{"template":"card","series":"cards","record":{"name":"Ann","price":1}}`

	t.Run("at the same time", func(t *testing.T) {
		var mu sync.Mutex
		var all sync.WaitGroup
		bodies := map[string]bool{}
		for range 8 {
			all.Go(func() {
				for {
					status, body, _ := order(one, "k1")
					if status == http.StatusConflict {
						time.Sleep(10 * time.Millisecond)
						continue
					}
					assert.Equal(t, http.StatusCreated, status, body)
					mu.Lock()
					bodies[body] = true
					mu.Unlock()
					return
				}
			})
		}
		all.Wait()
		assert.Len(t, bodies, 1, "all got the same answer")
		status, _, head := order(one, "k1")
		assert.Equal(t, http.StatusCreated, status)
		assert.Equal(t, "true", head.Get("Idempotent-Replayed"))
		list, err := s.Client.Documents(ctx, client.Find{})
		require.NoError(t, err)
		assert.Equal(t, 1, list.Total)
		events, _, _ := withKey(t, s, http.MethodGet, "/api/v1/documents/1/history", "")
		assert.Equal(t, 200, events)
	})

	t.Run("with another body", func(t *testing.T) {
		status, _, _ := order(strings.Replace(one, "Ann", "Bob", 1), "k1")
		assert.Equal(t, http.StatusUnprocessableEntity, status)
	})

	t.Run("what was refused can be done later", func(t *testing.T) {
		body := strings.Replace(one, `"cards"`, `"later"`, 1)
		status, text, head := order(body, "k2")
		assert.Equal(t, http.StatusUnprocessableEntity, status, text)
		assert.Contains(t, text, "no number series")
		assert.Equal(t, "application/problem+json", head.Get("Content-Type"))
		_, err := s.Client.AddSeries(ctx, client.Series{Name: "later", Pattern: "L-{number}"})
		require.NoError(t, err)
		status, text, _ = order(body, "k2")
		assert.Equal(t, http.StatusCreated, status, text)
	})

	t.Run("what cannot be kept leaves nothing", func(t *testing.T) {
		db := base(t, s.Data).Store.DB()
		require.NoError(t, db.Exec("ALTER TABLE events RENAME TO events_away").Error)
		status, _, _ := order(one, "k3")
		assert.Equal(t, http.StatusInternalServerError, status)
		require.NoError(t, db.Exec("ALTER TABLE events_away RENAME TO events").Error)
		status, body, head := order(one, "k3")
		assert.Equal(t, http.StatusCreated, status)
		assert.Empty(t, head.Get("Idempotent-Replayed"))
		assert.Contains(t, body, `"C-002"`, "no number is lost")
	})

	t.Run("several at once have numbers in their order, and one that fails costs none", func(t *testing.T) {
		set, err := s.Client.Import(ctx, "people.ndjson", nil, strings.NewReader(`{"name":"a","price":1}
{"price":1}
{"name":"c","price":1}
{"name":"d","price":1}
{"price":4}`))
		require.NoError(t, err)
		status, body, _ := order(fmt.Sprintf(`{"template":"card","series":"cards","recordSet":%d,"records":[1,2,3,4,5]}`, set.ID), "k4")
		require.Equal(t, http.StatusCreated, status, body)
		var made struct {
			Items  []client.Document
			Failed int
		}
		require.NoError(t, json.Unmarshal([]byte(body), &made))
		assert.Equal(t, 2, made.Failed)
		require.Len(t, made.Items, 5)
		for i, want := range []string{"C-003", "", "C-004", "C-005", ""} {
			if want == "" {
				assert.Contains(t, made.Items[i].Error, "name")
				continue
			}
			assert.Equal(t, want, made.Items[i].Number)
		}
		v, err := s.Client.VerifyLedger(ctx)
		require.NoError(t, err)
		assert.True(t, v.Sound, "%v", v.Faults)
		next, err := s.Client.Issue(ctx, client.Order{Template: "card", Series: "cards", Record: json.RawMessage(`{"name":"e","price":1}`)}, "")
		require.NoError(t, err)
		assert.Equal(t, "C-006", next[0].Number)
	})
}

// end stops a service and the database that it started. One that is killed leaves a database that still
// writes into its folder for a while.
func end(service *exec.Cmd) {
	_ = service.Process.Signal(os.Interrupt)
	late := time.AfterFunc(30*time.Second, func() { _ = service.Process.Kill() })
	defer late.Stop()
	_ = service.Wait()
}

// TestKilledInTheMiddle ends the service with SIGKILL while it works on a request. The same request, sent
// again to the one that is started then, makes one document and is answered.
func TestKilledInTheMiddle(t *testing.T) {
	olive := filepath.Join(t.TempDir(), "olive")
	out, err := exec.Command("go", "build", "-o", olive, "../../cmd/olive").CombinedOutput()
	require.NoError(t, err, string(out))
	data := t.TempDir()
	start := func() (*exec.Cmd, *client.Client) {
		c := exec.Command(olive, "serve", "--data", data, "--listen", "127.0.0.1:0", "--workers", "0")
		require.NoError(t, c.Start())
		t.Cleanup(func() { end(c) })
		var address, key []byte
		until(t, "the service", func() bool {
			var err error
			address, err = os.ReadFile(filepath.Join(data, "address.txt"))
			if err != nil {
				return false
			}
			res, err := http.Get(strings.TrimSpace(string(address)) + "/readyz")
			if err != nil {
				return false
			}
			res.Body.Close()
			return res.StatusCode == http.StatusOK
		})
		login, err := os.ReadFile(filepath.Join(data, "first-login.txt"))
		require.NoError(t, err)
		_, rest, _ := strings.Cut(string(login), "key:")
		key = []byte(strings.Fields(rest)[0])
		return c, client.New(strings.TrimSpace(string(address)), string(key))
	}
	process, c := start()
	ctx := context.Background()
	_, err = c.Push(ctx, "card", "", template)
	require.NoError(t, err)
	_, err = c.AddSeries(ctx, client.Series{Name: "cards", Pattern: "C-{number:3}"})
	require.NoError(t, err)
	const rounds = 4
	for round := range rounds {
		order, name := client.Order{Template: "card", Series: "cards", Record: json.RawMessage(fmt.Sprintf(`{"name":"skipper %d","price":1}`, round))}, fmt.Sprint("order ", round)
		going := c
		go func() { _, _ = going.Issue(ctx, order, name) }() // it is cut off
		time.Sleep(time.Duration(rand.IntN(60)) * time.Millisecond)
		require.NoError(t, process.Process.Kill())
		_ = process.Wait()
		require.NoError(t, os.Remove(filepath.Join(data, "address.txt")))
		process, c = start()
		made, err := c.Issue(ctx, order, name)
		require.NoError(t, err)
		require.Equal(t, fmt.Sprintf("C-%03d", round+1), made[0].Number)
	}
	list, err := c.Documents(ctx, client.Find{})
	require.NoError(t, err)
	assert.Equal(t, rounds, list.Total)
	v, err := c.VerifyLedger(ctx)
	require.NoError(t, err)
	assert.True(t, v.Sound, "%v", v.Faults)
}
