package timestamp_test

import (
	"io"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/timestamp"
)

// TestFetch asks as an authority of certificates is asked: without a question for what lies at an address, else about one.
func TestFetch(t *testing.T) {
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		body, _ := io.ReadAll(r.Body)
		switch r.URL.Path {
		case "/gone":
			http.NotFound(w, r)
		case "/endless":
			_, _ = w.Write(make([]byte, 33<<20))
		default:
			_, _ = io.WriteString(w, r.Method+" "+r.Header.Get("Content-Type")+" "+string(body))
		}
	}))
	defer s.Close()
	for _, c := range []struct{ address, question, want, says string }{
		{s.URL, "", "GET  ", ""},
		{s.URL, "one", "POST application/ocsp-request one", ""},
		{s.URL + "/gone", "", "", "the authority at " + s.URL + "/gone: it answers 404 Not Found"},
		{s.URL + "/endless", "", "", "it answers with more than 32 MB"},
		{"http://127.0.0.1:1/", "", "", "connection refused"},
		{"ldap://harbour.test/", "", "", "is not an address of the web"},
	} {
		var question []byte
		if c.question != "" {
			question = []byte(c.question)
		}
		got, err := timestamp.Fetch(t.Context(), c.address, question)
		if c.says != "" {
			require.ErrorContains(t, err, c.says)
			continue
		}
		require.NoError(t, err)
		assert.Equal(t, c.want, string(got))
	}
}
