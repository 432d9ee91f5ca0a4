package typeset

import (
	"bytes"
	"context"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestWebLoadsFromAllowedHostsOnly(t *testing.T) {
	other := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { w.Write([]byte("secret")) }))
	defer other.Close()
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch r.URL.Path {
		case "/style.css":
			w.Write([]byte("p { color: red }"))
		case "/away":
			http.Redirect(w, r, other.URL, http.StatusFound)
		case "/round":
			http.Redirect(w, r, "/round", http.StatusFound)
		case "/large":
			w.Write(bytes.Repeat([]byte("x"), 2000))
		default:
			http.NotFound(w, r)
		}
	}))
	defer s.Close()
	host := strings.TrimPrefix(s.URL, "http://")
	web := &Web{Hosts: []string{host}, Private: []string{host}, Limit: 1000, Local: Files{"a.css": []byte("local")}}
	ctx := context.Background()
	data, err := web.Load(ctx, s.URL+"/style.css")
	require.NoError(t, err)
	assert.Equal(t, "p { color: red }", string(data))
	data, err = web.Load(ctx, "a.css")
	require.NoError(t, err)
	assert.Equal(t, "local", string(data))
	for address, want := range map[string]string{
		s.URL + "/gone":             "404",
		s.URL + "/away":             "is not allowed",
		s.URL + "/round":            "on and on",
		s.URL + "/large":            "larger than 1000 bytes",
		other.URL:                   "is not allowed",
		"file:///etc/passwd":        "begin with file:",
		"ftp://" + host + "/x":      "begin with ftp:",
		"http://a:b@" + host + "/x": "name and password",
		"http://127.0.0.1:1/":       "is not allowed",
	} {
		_, err := web.Load(ctx, address)
		assert.ErrorContains(t, err, want, address)
	}
	web.Private = nil
	_, err = web.Load(ctx, s.URL+"/style.css")
	assert.ErrorContains(t, err, "private network")
	var out bytes.Buffer
	doc, err := Set(ctx, []byte(`<link rel=stylesheet href="/style.css"><p>x`), Options{Name: s.URL + "/page.html", Loader: &Web{Hosts: []string{host}, Private: []string{host}}}, &out)
	require.NoError(t, err)
	assert.Empty(t, doc.Findings, "the sheet beside the page was loaded")
}
