package service_test

import (
	"context"
	"io"
	"log/slog"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/service"
	"oliveledger/internal/servicetest"
)

// TestDatabaseIsStartedAgain kills the private database: the service goes on with another.
func TestDatabaseIsStartedAgain(t *testing.T) {
	data := t.TempDir()
	s := servicetest.Start(t, data, func(c *service.Config) { c.Log = slog.New(slog.NewTextHandler(io.Discard, nil)) })
	pid, err := os.ReadFile(filepath.Join(data, "database", "socket.pid"))
	require.NoError(t, err)
	n, err := strconv.Atoi(strings.TrimSpace(string(pid)))
	require.NoError(t, err)
	server, err := os.FindProcess(n)
	require.NoError(t, err)
	require.NoError(t, server.Kill())
	until(t, "the database", func() bool {
		status, _, _ := ask(t, s, http.MethodGet, "/readyz", "")
		return status == http.StatusOK
	})
	docs, err := s.Client.Issue(context.Background(), client.Order{HTML: "<p>Quay"}, "")
	require.NoError(t, err)
	assert.Len(t, docs, 1)
}

// TestOneServiceForAFolder starts a second service on the same data.
func TestOneServiceForAFolder(t *testing.T) {
	data := t.TempDir()
	servicetest.Start(t, data)
	err := service.Run(context.Background(), service.Config{Listen: "127.0.0.1:0", Data: data, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	assert.ErrorContains(t, err, "in use by another service (process "+strconv.Itoa(os.Getpid())+")")
}

// TestNoRoom takes the room for documents away, and gives it back.
func TestNoRoom(t *testing.T) {
	if _, err := exec.LookPath("mount"); err != nil || os.Getuid() != 0 {
		t.Skip("a small disk needs mount and root")
	}
	data := t.TempDir()
	blobs := filepath.Join(data, "blobs")
	require.NoError(t, os.MkdirAll(blobs, 0o700))
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", "size=3m", "tmpfs", blobs).CombinedOutput(); err != nil {
		t.Skipf("no small disk can be made here: %s", out)
	}
	t.Cleanup(func() { exec.Command("umount", "-l", blobs).Run() })
	s := servicetest.Start(t, data, func(c *service.Config) { c.Log = slog.New(slog.NewTextHandler(io.Discard, nil)) })
	filler := filepath.Join(blobs, "filler")
	require.Error(t, os.WriteFile(filler, make([]byte, 4<<20), 0o600))
	status, body, _ := ask(t, s, http.MethodGet, "/readyz", "")
	assert.Equal(t, http.StatusServiceUnavailable, status)
	assert.Contains(t, body, "no space left")
	_, err := s.Client.Issue(context.Background(), client.Order{HTML: "<p>Quay"}, "")
	assert.ErrorContains(t, err, "no space left")
	assert.ErrorContains(t, err, "507")
	require.NoError(t, os.Remove(filler))
	_, err = s.Client.Issue(context.Background(), client.Order{HTML: "<p>Quay"}, "")
	assert.NoError(t, err)
	status, _, _ = ask(t, s, http.MethodGet, "/readyz", "")
	assert.Equal(t, http.StatusOK, status)
}

// TestEndsSoon stops a service while a page that does not end is being set.
func TestEndsSoon(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	answered := make(chan int)
	go func() {
		r, _ := http.NewRequest(http.MethodPost, s.URL+"/api/v1/renderings", strings.NewReader(`{"files":{"page.html":{"text":"{{range 90000}}{{range 90000}}{{end}}{{end}}"}}}`))
		r.Header.Set("Authorization", "Bearer "+s.Key)
		r.Header.Set("Content-Type", "application/json")
		res, err := http.DefaultClient.Do(r)
		if err != nil {
			answered <- 0
			return
		}
		res.Body.Close()
		answered <- res.StatusCode
	}()
	time.Sleep(time.Second)
	start := time.Now()
	s.Stop(t)
	assert.Less(t, time.Since(start), 10*time.Second)
	assert.Equal(t, http.StatusServiceUnavailable, <-answered)
}
