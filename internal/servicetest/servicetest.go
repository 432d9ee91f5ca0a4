// Package servicetest starts the real service on loopback for tests.
package servicetest

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"oliveledger/client"
	"oliveledger/internal/press"
	"oliveledger/internal/service"
)

// the test's own program is what the service starts its processes from
func init() { press.Child() }

// Running is a service with its first log-in.
type Running struct {
	URL, Email, Password, Key string
	Data                      string // its folder
	Client                    *client.Client
	stop                      context.CancelFunc
	done                      chan error
}

// Start starts a service in a folder; it ends with the test. change may change
// how it runs.
func Start(t testing.TB, data string, change ...func(*service.Config)) *Running {
	t.Helper()
	conf := service.Config{Listen: "127.0.0.1:0", Data: data, Log: slog.New(slog.NewTextHandler(t.Output(), &slog.HandlerOptions{Level: slog.LevelWarn}))}
	for _, c := range change {
		c(&conf)
	}
	ctx, stop := context.WithCancel(context.Background())
	r := &Running{Data: data, stop: stop, done: make(chan error, 1)}
	ready := make(chan string, 1)
	conf.Ready = func(a string) { ready <- a }
	go func() { r.done <- service.Run(ctx, conf) }()
	select {
	case r.URL = <-ready:
	case err := <-r.done:
		stop()
		t.Fatalf("the service did not start: %v", err)
	case <-time.After(2 * time.Minute):
		stop()
		t.Fatal("the service did not start in two minutes")
	}
	t.Cleanup(func() { r.Stop(t) })
	raw, err := os.ReadFile(filepath.Join(data, service.FirstLogin))
	if err != nil {
		t.Fatal(err)
	}
	for line := range strings.SplitSeq(string(raw), "\n") {
		key, value, _ := strings.Cut(line, ": ")
		switch key {
		case "email":
			r.Email = value
		case "password":
			r.Password = value
		case "key":
			r.Key = value
		}
	}
	r.Client = r.As(t, r.Key)
	return r
}

// Stop ends the service and waits for it.
func (r *Running) Stop(t testing.TB) {
	if r.stop == nil {
		return
	}
	r.stop()
	r.stop = nil
	if err := <-r.done; err != nil {
		t.Errorf("the service ended with %v", err)
	}
}

// As is a client with a key. What the service answers is held against the
// description that it gives of itself.
func (r *Running) As(t testing.TB, key string) *client.Client {
	c := client.New(r.URL, key)
	c.HTTP.Transport = &described{t: t, server: r.URL}
	return c
}

// Someone adds another keeper, and gives a client with a key that the person has made.
func (r *Running) Someone(t testing.TB, email string) *client.Client {
	t.Helper()
	const password = "a long password"
	r.post(t, "/people", map[string]any{"email": email, "name": email, "role": "keeper", "password": password}, nil)
	jar, err := cookiejar.New(nil)
	if err != nil {
		t.Fatal(err)
	}
	var key struct{ Key string }
	r.post(t, "/session", map[string]any{"email": email, "password": password}, jar)
	if err := json.Unmarshal(r.post(t, "/keys", map[string]any{"name": email}, jar), &key); err != nil {
		t.Fatal(err)
	}
	return r.As(t, key.Key)
}

// post sends JSON, with the first key or as the person whose session a jar holds.
func (r *Running) post(t testing.TB, path string, in any, jar http.CookieJar) []byte {
	t.Helper()
	body, err := json.Marshal(in)
	if err != nil {
		t.Fatal(err)
	}
	q, err := http.NewRequest(http.MethodPost, r.URL+"/api/v1"+path, bytes.NewReader(body))
	if err != nil {
		t.Fatal(err)
	}
	q.Header.Set("X-Olive-Console", "1")
	if jar == nil {
		q.Header.Set("Authorization", "Bearer "+r.Key)
	}
	res, err := (&http.Client{Jar: jar}).Do(q)
	if err != nil {
		t.Fatal(err)
	}
	defer res.Body.Close()
	out, err := io.ReadAll(res.Body)
	if err != nil || res.StatusCode >= 300 {
		t.Fatalf("%s: %s: %s %v", path, res.Status, out, err)
	}
	return out
}
