package service_test

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"net/http"
	"os"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/client"
	"oliveledger/internal/servicetest"
)

var template = fstest.MapFS{
	"page.html":     {Data: []byte(`<link rel=stylesheet href=a.css><h1>{{.name}}</h1>{{money .price}}`)},
	"a.css":         {Data: []byte(`h1 { color: teal }`)},
	"template.yaml": {Data: []byte("title: A card\nfilename: '{{.name}}.pdf'\nsample: sample.json\n")},
	"sample.json":   {Data: []byte(`{"name": "Sample", "price": 1}`)},
}

// call makes a request with a header or two, and reads the answer.
func call(t *testing.T, method, url, body string, headers ...string) (*http.Response, string) {
	t.Helper()
	req, err := http.NewRequest(method, url, strings.NewReader(body))
	require.NoError(t, err)
	for i := 0; i+1 < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	return res, string(data)
}

func TestService(t *testing.T) {
	data := t.TempDir()
	s := servicetest.Start(t, data)
	ctx := context.Background()

	t.Run("nothing works without a key or a log-in", func(t *testing.T) {
		for _, path := range []string{"/templates", "/record-sets", "/documents", "/documents/1/pdf", "/session", "/nothing"} {
			for _, h := range [][]string{nil, {"Authorization", "Bearer wrong"}, {"Cookie", "olive_session=wrong"}} {
				res, body := call(t, http.MethodGet, s.URL+"/api/v1"+path, "", h...)
				if path == "/nothing" {
					assert.Equal(t, 404, res.StatusCode)
				} else {
					assert.Equal(t, 401, res.StatusCode, path)
				}
				assert.Equal(t, "application/problem+json", res.Header.Get("Content-Type"))
				var p map[string]any
				require.NoError(t, json.Unmarshal([]byte(body), &p))
				assert.NotEmpty(t, p["detail"])
			}
		}
		res, _ := call(t, http.MethodGet, s.URL+"/healthz", "")
		assert.Equal(t, 200, res.StatusCode)
	})

	t.Run("log in and out", func(t *testing.T) {
		login := func(password string) (*http.Response, string) {
			return call(t, http.MethodPost, s.URL+"/api/v1/session", `{"email":"`+s.Email+`","password":"`+password+`"}`, "Content-Type", "application/json")
		}
		res, _ := login("wrong")
		assert.Equal(t, 401, res.StatusCode)
		res, _ = login(s.Password)
		require.Equal(t, 200, res.StatusCode)
		cookie := res.Cookies()[0]
		assert.True(t, cookie.HttpOnly)
		assert.Equal(t, http.SameSiteStrictMode, cookie.SameSite)
		as := "olive_session=" + cookie.Value
		res, body := call(t, http.MethodGet, s.URL+"/api/v1/session", "", "Cookie", as)
		assert.Equal(t, 200, res.StatusCode)
		assert.Contains(t, body, s.Email)
		res, _ = call(t, http.MethodPost, s.URL+"/api/v1/keys", `{"name":"x"}`, "Cookie", as, "Content-Type", "application/json")
		assert.Equal(t, 403, res.StatusCode, "another site's form cannot make changes")
		res, _ = call(t, http.MethodDelete, s.URL+"/api/v1/session", "", "Cookie", as, "X-Olive-Console", "1")
		assert.Equal(t, 204, res.StatusCode)
		res, _ = call(t, http.MethodGet, s.URL+"/api/v1/session", "", "Cookie", as)
		assert.Equal(t, 401, res.StatusCode)
		for range 5 {
			login("wrong")
		}
		res, _ = login("wrong")
		assert.Equal(t, 429, res.StatusCode)
		assert.NotEmpty(t, res.Header.Get("Retry-After"))
	})

	t.Run("templates have versions", func(t *testing.T) {
		v, err := s.Client.Push(ctx, "card", "first", template)
		require.NoError(t, err)
		assert.Equal(t, 1, v.Version)
		v, err = s.Client.Push(ctx, "card", "second", template)
		require.NoError(t, err)
		assert.Equal(t, 2, v.Version)
		list, err := s.Client.Templates(ctx)
		require.NoError(t, err)
		require.Len(t, list, 1)
		assert.Equal(t, "A card", list[0].Title)
		_, body := call(t, http.MethodGet, s.URL+"/api/v1/templates/card/versions", "", "Authorization", "Bearer "+s.Key)
		assert.Contains(t, body, `"note":"first"`)
		_, body = call(t, http.MethodGet, s.URL+"/api/v1/templates/card/versions/1", "", "Authorization", "Bearer "+s.Key)
		assert.Contains(t, body, "teal")
		_, err = s.Client.Push(ctx, "card", "", fstest.MapFS{"page.html": {Data: []byte("\n{{.x")}})
		var p *client.Problem
		require.ErrorAs(t, err, &p)
		assert.Equal(t, 422, p.Status)
		assert.Contains(t, p.Detail, "line 2")
		_, err = s.Client.Push(ctx, "Not A Name", "", template)
		require.ErrorAs(t, err, &p)
		assert.Equal(t, 400, p.Status)
	})

	var set client.RecordSet
	t.Run("records", func(t *testing.T) {
		var err error
		set, err = s.Client.Import(ctx, "people.csv", "csv", strings.NewReader("name,price\nÅsa,10\nZoë,20\n"))
		require.NoError(t, err)
		assert.Equal(t, 2, set.Count)
		_, err = s.Client.Import(ctx, "bad", "json", strings.NewReader("[{},\n{"))
		assert.ErrorContains(t, err, "line 2")
		sets, err := s.Client.RecordSets(ctx)
		require.NoError(t, err)
		assert.Len(t, sets, 1, "a bad file leaves nothing")
		_, body := call(t, http.MethodGet, s.URL+"/api/v1/record-sets/1/records?offset=1&limit=1", "", "Authorization", "Bearer "+s.Key)
		assert.Contains(t, body, "Zoë")
		assert.NotContains(t, body, "Åsa")
		_, body = call(t, http.MethodGet, s.URL+"/api/v1/record-sets/1/records/1", "", "Authorization", "Bearer "+s.Key)
		assert.Contains(t, body, "Åsa")
		res, _ := call(t, http.MethodGet, s.URL+"/api/v1/record-sets/1/records?limit=x", "", "Authorization", "Bearer "+s.Key)
		assert.Equal(t, 400, res.StatusCode)
	})

	t.Run("renderings keep nothing", func(t *testing.T) {
		for _, o := range []client.Order{{Template: "card"}, {Template: "card", RecordSet: set.ID, Records: []int{2}}, {Template: "card", Record: json.RawMessage(`{"name":"x","price":2}`)}, {HTML: "<p>posted"}} {
			pdf, err := s.Client.Render(ctx, o)
			require.NoError(t, err)
			assert.True(t, bytes.HasPrefix(pdf, []byte("%PDF")))
		}
		_, err := s.Client.Render(ctx, client.Order{Template: "card", Record: json.RawMessage(`{"price":2}`)})
		assert.ErrorContains(t, err, `"name"`)
		_, err = s.Client.Render(ctx, client.Order{Template: "card", RecordSet: set.ID, Records: []int{9}})
		assert.ErrorContains(t, err, "no such record")
		_, total, err := s.Client.Documents(ctx, "", 10)
		require.NoError(t, err)
		assert.Zero(t, total)
	})

	t.Run("documents are kept", func(t *testing.T) {
		made, err := s.Client.Issue(ctx, client.Order{Template: "card", RecordSet: set.ID})
		require.NoError(t, err)
		require.Len(t, made, 2)
		list, total, err := s.Client.Documents(ctx, "Zo", 10)
		require.NoError(t, err)
		require.Equal(t, 1, total)
		assert.Equal(t, "Zoë.pdf", list[0].Name)
		assert.Equal(t, 2, list[0].Version)
		pdf, err := s.Client.PDF(ctx, made[0].ID)
		require.NoError(t, err)
		assert.Len(t, pdf, made[0].Bytes)
		res, body := call(t, http.MethodGet, s.URL+"/api/v1/documents/2/pdf?download=1", "", "Authorization", "Bearer "+s.Key)
		assert.Equal(t, "application/pdf", res.Header.Get("Content-Type"))
		assert.Equal(t, "attachment; filename*=utf-8''Zo%C3%AB.pdf", res.Header.Get("Content-Disposition"))
		assert.Equal(t, "private, no-cache", res.Header.Get("Cache-Control"))
		assert.True(t, strings.HasPrefix(body, "%PDF"))
		res, _ = call(t, http.MethodGet, s.URL+"/api/v1/documents/2/pdf", "", "Authorization", "Bearer "+s.Key, "If-None-Match", res.Header.Get("ETag"))
		assert.Equal(t, 304, res.StatusCode)
		_, err = s.Client.Issue(ctx, client.Order{Template: "card", RecordSet: set.ID, Records: []int{7}})
		assert.ErrorContains(t, err, "no such record")
		_, err = s.Client.Issue(ctx, client.Order{})
		assert.Error(t, err)
		_, err = s.Client.PDF(ctx, 999)
		assert.ErrorContains(t, err, "404")
		one, err := s.Client.Issue(ctx, client.Order{HTML: "<title>T</title>x", Name: "../up"})
		require.NoError(t, err)
		assert.Equal(t, "-up", one[0].Name)
	})

	t.Run("a changed file is told", func(t *testing.T) {
		d, err := s.Client.Document(ctx, 1)
		require.NoError(t, err)
		path := data + "/blobs/" + d.SHA256[:2] + "/" + d.SHA256
		require.NoError(t, os.Chmod(path, 0o600))
		require.NoError(t, os.WriteFile(path, []byte("%PDF forged"), 0o600))
		_, err = s.Client.PDF(ctx, 1)
		assert.ErrorContains(t, err, "500")
	})

	t.Run("keys for programs", func(t *testing.T) {
		key, err := s.Client.NewKey(ctx, "second")
		require.NoError(t, err)
		_, err = client.New(s.URL, key).Templates(ctx)
		assert.NoError(t, err)
	})

	t.Run("a restart keeps all", func(t *testing.T) {
		s.Stop(t)
		again := servicetest.Start(t, data)
		_, total, err := again.Client.Documents(ctx, "", 10)
		require.NoError(t, err)
		assert.Equal(t, 3, total)
	})
}
