package timestamp_test

import (
	"context"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/standin"
	"oliveledger/internal/timestamp"
)

// authority is a stand-in with a client that trusts it.
func authority(t *testing.T) (*standin.Timestamps, string, *timestamp.Authority) {
	t.Helper()
	dir := t.TempDir()
	server, err := standin.NewTimestamps(dir)
	require.NoError(t, err)
	front := httptest.NewServer(server)
	t.Cleanup(front.Close)
	roots := filepath.Join(dir, standin.RootFile)
	a, err := timestamp.Open(front.URL, roots)
	require.NoError(t, err)
	return server, roots, a
}

func TestAsk(t *testing.T) {
	server, roots, a := authority(t)
	at := time.Date(2026, 5, 31, 9, 30, 0, 0, time.UTC)
	server.Now = func() time.Time { return at }
	data := []byte("the head of a ledger\n")
	token, err := a.Ask(context.Background(), data)
	require.NoError(t, err)
	assert.Equal(t, at, token.At)
	assert.Equal(t, "CN=Stand-in for time stamps", token.By)
	again, err := a.Read(token.Raw, data)
	require.NoError(t, err)
	assert.Equal(t, token, again)

	_, err = a.Read(token.Raw, []byte("another head\n"))
	assert.ErrorContains(t, err, "over something else")
	for i := len(token.Raw) - 1; i > 0; i -= 40 { // a bit anywhere
		forged := append([]byte{}, token.Raw...)
		forged[i] ^= 1
		if read, err := a.Read(forged, data); err == nil {
			assert.Equal(t, at, read.At, "a changed byte at %d changes what it says", i)
		}
	}
	_, _, other := authority(t)
	_, err = other.Read(token.Raw, data)
	assert.ErrorContains(t, err, "not from an authority that is trusted")

	t.Run("openssl agrees", func(t *testing.T) {
		dir := t.TempDir()
		for name, content := range map[string][]byte{"head.txt": data, "head.token": token.Raw} {
			require.NoError(t, os.WriteFile(filepath.Join(dir, name), content, 0o600))
		}
		c := exec.Command("openssl", "ts", "-verify", "-data", "head.txt", "-in", "head.token", "-token_in", "-CAfile", roots)
		c.Dir = dir
		out, err := c.CombinedOutput()
		assert.NoError(t, err, string(out))
	})
}

// TestNoToken asks servers that give none.
func TestNoToken(t *testing.T) {
	for _, test := range []struct {
		name, wants string
		answer      http.HandlerFunc
	}{
		{"an error", "it answers 503", func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(http.StatusServiceUnavailable) }},
		{"no ASN.1", "gave no token", func(w http.ResponseWriter, _ *http.Request) { _, _ = io.WriteString(w, "<html>welcome</html>") }},
		{"nothing", "gave no token", func(http.ResponseWriter, *http.Request) {}},
	} {
		t.Run(test.name, func(t *testing.T) {
			front := httptest.NewServer(test.answer)
			defer front.Close()
			a, err := timestamp.Open(front.URL, "")
			require.NoError(t, err)
			_, err = a.Ask(context.Background(), []byte("head"))
			assert.ErrorContains(t, err, test.wants)
		})
	}
	t.Run("the answer to another", func(t *testing.T) {
		server, roots, _ := authority(t)
		var first []byte
		front := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			rec := httptest.NewRecorder()
			server.ServeHTTP(rec, r)
			if first == nil {
				first = rec.Body.Bytes()
			}
			_, _ = w.Write(first)
		}))
		defer front.Close()
		a, err := timestamp.Open(front.URL, roots)
		require.NoError(t, err)
		_, err = a.Ask(context.Background(), []byte("head"))
		require.NoError(t, err)
		_, err = a.Ask(context.Background(), []byte("head"))
		assert.ErrorContains(t, err, "another request than ours")
	})
}

func TestOpen(t *testing.T) {
	empty := filepath.Join(t.TempDir(), "empty.pem")
	require.NoError(t, os.WriteFile(empty, nil, 0o600))
	for _, test := range []struct{ address, roots, wants string }{
		{"quay.test", "", "is not the address of a time-stamp server"},
		{"ftp://quay.test", "", "is not the address of a time-stamp server"},
		{"https://quay.test", empty, "holds no certificate"},
		{"https://quay.test", empty + "x", "cannot be read"},
	} {
		_, err := timestamp.Open(test.address, test.roots)
		assert.ErrorContains(t, err, test.wants)
	}
}
