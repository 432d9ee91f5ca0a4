package api_test

import (
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service"
	"oliveledger/internal/service/api"
	"oliveledger/internal/servicetest"
)

// TestPagesOfTheWebAreCopied begins a template with a page of a host that is allowed, and with none of another.
func TestPagesOfTheWebAreCopied(t *testing.T) {
	pages := http.NewServeMux()
	pages.HandleFunc("/card.html", func(w http.ResponseWriter, _ *http.Request) {
		_, _ = w.Write([]byte("<title>Berth card</title><link rel=stylesheet href=card.css><img src=lost.png>"))
	})
	pages.HandleFunc("/card.css", func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write([]byte("p { color: teal }")) })
	pages.HandleFunc("/large", func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write(make([]byte, 9<<20)) })
	quay, other := httptest.NewServer(pages), httptest.NewServer(pages)
	defer quay.Close()
	defer other.Close()
	s := servicetest.Start(t, t.TempDir(), func(c *service.Config) { c.PageHosts = []string{strings.TrimPrefix(quay.URL, "http://")} })
	copied := func(address string) (int, string) {
		in, err := json.Marshal(api.PageAddress{Address: address})
		require.NoError(t, err)
		status, out := asking(t, http.MethodPost, s.URL+"/api/v1/page-copies", s.Key, string(in))
		return status, string(out)
	}
	status, text := copied(quay.URL + "/card.html")
	require.Equal(t, http.StatusOK, status, text)
	var out api.PageCopy
	require.NoError(t, json.Unmarshal([]byte(text), &out))
	assert.Equal(t, "Berth card", out.Title)
	assert.Equal(t, "p { color: teal }", *out.Files["card.css"].Text)
	assert.Contains(t, *out.Files["page.html"].Text, `href="card.css"`)
	assert.Equal(t, []string{quay.URL + "/lost.png was not brought: " + strings.TrimPrefix(quay.URL, "http://") + " answered 404 Not Found"}, out.Notes)

	for address, want := range map[string]string{
		other.URL + "/card.html": "the host " + strings.TrimPrefix(other.URL, "http://") + " is not allowed; hosts are allowed with --page-host",
		quay.URL + "/large":      "it is larger than 8388608 bytes",
		"card.html":              "“card.html” is not an address such as https://",
	} {
		status, text := copied(address)
		assert.Equal(t, http.StatusUnprocessableEntity, status)
		assert.Contains(t, text, want)
	}
}
