package service_test

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"mime/multipart"
	"net/http"
	"net/url"
	"os"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/servicetest"
	"oliveledger/typeset"
)

var template = fstest.MapFS{
	"page.html":     {Data: []byte(`<link rel=stylesheet href=a.css><h1>{{.name}}</h1>{{money .price}} <p>{{default . "document.number" "none"}} {{qr .document.verify}}`)},
	"a.css":         {Data: []byte(`h1 { color: teal }`)},
	"dot.png":       {Data: []byte("\x89PNG")},
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

// status is that of a problem.
func status(t *testing.T, err error) int {
	t.Helper()
	var p *client.Problem
	require.ErrorAs(t, err, &p)
	return p.Status
}

// people imports records of people and returns the set's number.
func people(t *testing.T, s *servicetest.Running, n int) uint64 {
	t.Helper()
	var b strings.Builder
	b.WriteString("name,price\n")
	for i := range n {
		b.WriteString("Skipper " + string(rune('A'+i%26)) + string(rune('a'+i/26%26)) + string(rune('a'+i/676)) + ",10\n")
	}
	set, err := s.Client.Import(context.Background(), "people.csv", nil, strings.NewReader(b.String()))
	require.NoError(t, err)
	require.Equal(t, n, set.Count)
	return set.ID
}

func TestService(t *testing.T) {
	data := t.TempDir()
	s := servicetest.Start(t, data)
	ctx := context.Background()
	key := []string{"Authorization", "Bearer " + s.Key}

	t.Run("lists refuse what they do not know", func(t *testing.T) {
		for path, want := range map[string]string{
			"/documents?sort=colour":      `cannot be sorted by \"colour\"; it can by id, name`,
			"/documents?sort=-name":       "",
			"/documents?templat=x":        `there is no parameter \"templat\"; there are template, state`,
			"/documents?state=issud":      `there is no state \"issud\"; there are draft, approved, issued, sent, void`,
			"/documents?state=issued":     "",
			"/documents?state=&search=":   "",
			"/batches?state=running":      "",
			"/batches?state=runing":       "there is no state",
			"/templates?offset=0&limit=5": "",
		} {
			res, body := call(t, http.MethodGet, s.URL+"/api/v1"+path, "", key...)
			if want == "" {
				assert.Equal(t, http.StatusOK, res.StatusCode, path)
			} else {
				assert.Equal(t, http.StatusBadRequest, res.StatusCode, path)
				assert.Contains(t, body, want, path)
			}
		}
	})

	t.Run("nothing works without a key or a log-in", func(t *testing.T) {
		for _, path := range []string{"/templates", "/record-sets", "/documents", "/documents/1/pdf", "/session", "/people", "/events", "/nothing"} {
			for _, h := range [][]string{nil, {"Authorization", "Bearer wrong"}, {"Cookie", "olive_session=wrong"}} {
				res, body := call(t, http.MethodGet, s.URL+"/api/v1"+path, "", h...)
				if path == "/nothing" {
					assert.Equal(t, 404, res.StatusCode)
				} else {
					assert.Equal(t, 401, res.StatusCode, path)
				}
				assert.Equal(t, "application/problem+json", res.Header.Get("Content-Type"))
				assert.NotEmpty(t, res.Header.Get("X-Request-Id"))
				var p map[string]any
				require.NoError(t, json.Unmarshal([]byte(body), &p))
				assert.NotEmpty(t, p["detail"])
			}
		}
		for _, path := range []string{"/healthz", "/readyz", "/metrics", "/api/v1/openapi.json"} {
			res, _ := call(t, http.MethodGet, s.URL+path, "")
			assert.Equal(t, 200, res.StatusCode, path)
		}
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
		changed := fstest.MapFS{}
		for name, f := range template {
			changed[name] = f
		}
		changed["a.css"] = &fstest.MapFile{Data: []byte("h1 { color: olive }")}
		delete(changed, "dot.png")
		v, err = s.Client.Push(ctx, "card", "second", changed)
		require.NoError(t, err)
		assert.Equal(t, 2, v.Version)
		list, err := s.Client.Templates(ctx, client.Find{Search: "car"})
		require.NoError(t, err)
		require.Len(t, list.Items, 1)
		assert.Equal(t, "A card", list.Items[0].Title)
		versions, err := s.Client.Versions(ctx, "card", client.Find{})
		require.NoError(t, err)
		assert.Equal(t, "first", versions.Items[1].Note)
		old, err := s.Client.Template(ctx, "card", 1)
		require.NoError(t, err)
		assert.Contains(t, string(old.Files["a.css"].Bytes()), "teal")
		assert.Contains(t, old.Fields, "price")
		diff, err := s.Client.Difference(ctx, "card", 1, 2)
		require.NoError(t, err)
		require.Len(t, diff.Items, 2)
		assert.Contains(t, diff.Items[0].Lines, "-h1 { color: teal }\n+h1 { color: olive }")
		assert.Equal(t, "removed", diff.Items[1].Change)
		dot, err := s.Client.Asset(ctx, "card", 1, "dot.png")
		require.NoError(t, err)
		assert.Equal(t, "\x89PNG", string(dot))
		_, err = s.Client.Push(ctx, "card", "", fstest.MapFS{"page.html": {Data: []byte("\n{{.x")}})
		assert.Equal(t, 422, status(t, err))
		assert.ErrorContains(t, err, "line 2")
		_, err = s.Client.Push(ctx, "Not A Name", "", template)
		assert.Equal(t, 400, status(t, err))
		_, err = s.Client.Template(ctx, "card", 9)
		assert.Equal(t, 404, status(t, err))
	})

	t.Run("a draft leaves what is published alone", func(t *testing.T) {
		broken := fstest.MapFS{"page.html": {Data: []byte("{{.x")}}
		d, err := s.Client.SaveDraft(ctx, "card", 0, broken)
		require.NoError(t, err)
		assert.NotEmpty(t, d.Fault)
		_, err = s.Client.Publish(ctx, "card", "")
		assert.Equal(t, 422, status(t, err))
		again, err := s.Client.SaveDraft(ctx, "card", d.Revision, fstest.MapFS{"page.html": {Data: []byte("<p>{{.name}}")}})
		require.NoError(t, err)
		_, err = s.Client.SaveDraft(ctx, "card", d.Revision, broken)
		assert.Equal(t, 412, status(t, err), "someone else has saved meanwhile")
		assert.Greater(t, again.Revision, d.Revision)
		pdf, err := s.Client.Render(ctx, client.Rendering{Template: "card"})
		require.NoError(t, err)
		assert.True(t, bytes.HasPrefix(pdf, []byte("%PDF")))
		v, err := s.Client.Publish(ctx, "card", "plain")
		require.NoError(t, err)
		assert.Equal(t, 3, v.Version)
		_, err = s.Client.Draft(ctx, "card")
		assert.Equal(t, 404, status(t, err), "it has become the version")
		_, err = s.Client.SaveDraft(ctx, "idea", 0, broken)
		require.NoError(t, err)
		require.NoError(t, s.Client.DropDraft(ctx, "idea"))
		_, err = s.Client.Draft(ctx, "idea")
		assert.Equal(t, 404, status(t, err))
	})

	var set uint64
	t.Run("records", func(t *testing.T) {
		in, err := s.Client.Import(ctx, "people.csv", map[string]string{"fields": `{"cost": "price", "secret": ""}`}, strings.NewReader("name,cost,secret\nÅsa,10,x\nZoë,20,y\n"))
		require.NoError(t, err)
		set = in.ID
		assert.Equal(t, 2, in.Count)
		_, err = s.Client.Import(ctx, "bad.json", nil, strings.NewReader("[{},\n{"))
		assert.ErrorContains(t, err, "line 2")
		look, err := s.Client.Preview(ctx, "look.csv", nil, strings.NewReader("a;b\n1;2\n"))
		require.NoError(t, err)
		assert.JSONEq(t, `{"a":"1","b":"2"}`, string(look.Preview[0]))
		some, err := s.Client.Import(ctx, "some.ndjson", map[string]string{"skip-bad": "1"}, strings.NewReader("{\"a\":1}\n{no\n{\"a\":2}\n"))
		require.NoError(t, err)
		assert.Equal(t, 2, some.Count)
		require.Len(t, some.Bad, 1)
		assert.Contains(t, some.Bad[0], "line 2")
		require.NoError(t, s.Client.DropRecordSet(ctx, some.ID))
		sets, err := s.Client.RecordSets(ctx, client.Find{})
		require.NoError(t, err)
		assert.Len(t, sets.Items, 1, "a bad file leaves nothing")
		list, err := s.Client.Records(ctx, set, client.Find{Search: "Zoë"})
		require.NoError(t, err)
		require.Len(t, list.Items, 1)
		assert.NotContains(t, string(list.Items[0].Data), "secret")
		r, err := s.Client.Record(ctx, set, 1)
		require.NoError(t, err)
		next, err := s.Client.SaveRecord(ctx, set, 1, r.Revision, json.RawMessage(`{"name":"Åsa","price":11.50}`))
		require.NoError(t, err)
		assert.Contains(t, string(next.Data), "11.50", "amounts keep their digits")
		_, err = s.Client.SaveRecord(ctx, set, 1, r.Revision, json.RawMessage(`{}`))
		assert.Equal(t, 412, status(t, err))
		_, err = s.Client.SaveRecord(ctx, set, 1, 0, json.RawMessage(`[]`))
		assert.Equal(t, 400, status(t, err))
		more, err := s.Client.AddRecord(ctx, set, json.RawMessage(`{"name":"Ömer","price":1}`))
		require.NoError(t, err)
		assert.Equal(t, 3, more.Number)
		for sort, want := range map[string][]int{"size": {3, 2, 1}, "-size": {1, 2, 3}, "-number": {3, 2, 1}} {
			list, err := s.Client.Records(ctx, set, client.Find{Sort: sort})
			require.NoError(t, err)
			var got []int
			for _, r := range list.Items {
				got = append(got, r.Number)
			}
			assert.Equal(t, want, got, sort)
		}
		_, err = s.Client.Records(ctx, set, client.Find{Sort: "CHAR_LENGTH(data)"})
		assert.ErrorContains(t, err, `cannot be sorted by "CHAR_LENGTH(data)"; it can by number, label, size`)
		res, _ := call(t, http.MethodGet, s.URL+"/api/v1/record-sets/1/records?limit=x", "", key...)
		assert.Equal(t, 400, res.StatusCode)
	})

	t.Run("renderings keep nothing", func(t *testing.T) {
		for _, r := range []client.Rendering{{Template: "card", Version: 1}, {Template: "card", RecordSet: set, Number: 2}, {Template: "card", Record: json.RawMessage(`{"name":"x","price":2}`)}, {HTML: "<p>posted"}} {
			pdf, err := s.Client.Render(ctx, r)
			require.NoError(t, err)
			assert.True(t, bytes.HasPrefix(pdf, []byte("%PDF")))
		}
		full, err := s.Client.RenderInFull(ctx, client.Rendering{HTML: "<img src=http://10.0.0.1/x.png><p>far", Paper: "A5", Watermark: "DRAFT"})
		require.NoError(t, err)
		assert.Equal(t, 1, full.Pages)
		assert.Contains(t, full.HTML, "far")
		require.NotEmpty(t, full.Findings, "nothing is loaded from other hosts, and that is told")
		_, err = s.Client.Render(ctx, client.Rendering{Template: "card", Record: json.RawMessage(`{"price":2}`)})
		assert.ErrorContains(t, err, `"name"`)
		_, err = s.Client.Render(ctx, client.Rendering{Template: "card", RecordSet: set, Number: 9})
		assert.ErrorContains(t, err, "no such record")
		res, body := call(t, http.MethodPost, s.URL+"/api/v1/renderings", `{"tempalte":"card"}`, key...)
		assert.Equal(t, 400, res.StatusCode)
		assert.Contains(t, body, "tempalte", "a field that is not known is told")
		list, err := s.Client.Documents(ctx, client.Find{})
		require.NoError(t, err)
		assert.Zero(t, list.Total)
	})

	t.Run("a point of a page is told of, with places in the template's files", func(t *testing.T) {
		full, err := s.Client.RenderInFull(ctx, client.Rendering{Template: "card", Version: 1, Probe: &typeset.Probe{Page: 1, X: 90, Y: 100}})
		require.NoError(t, err)
		require.NotEmpty(t, full.Probed)
		h1 := full.Probed[len(full.Probed)-1]
		assert.Equal(t, []any{"<h1>", "page.html", 1, 33}, []any{h1.Element, h1.File, h1.Line, h1.Column})
		assert.Equal(t, typeset.AppliedRule{
			Selector: "h1", Origin: "page", File: "a.css", Line: 1, Column: 1,
			Declarations: []typeset.AppliedDeclaration{{Property: "color", Value: "teal", Fate: "won", Line: 1, Column: 6}},
		}, h1.Rules[0])
		full, err = s.Client.RenderInFull(ctx, client.Rendering{Template: "card", Version: 1})
		require.NoError(t, err)
		assert.Empty(t, full.Probed)
	})

	t.Run("a link that leads nowhere tells people so", func(t *testing.T) {
		res, body := call(t, http.MethodGet, s.URL+"/s/gone", "", "Accept", "text/html,*/*")
		assert.Equal(t, 404, res.StatusCode)
		assert.Contains(t, res.Header.Get("Content-Type"), "text/html")
		assert.Contains(t, body, "this link does not lead to a document, or has ended. Ask whoever sent it")
		res, body = call(t, http.MethodGet, s.URL+"/s/gone", "")
		assert.Equal(t, 404, res.StatusCode)
		assert.Contains(t, body, `"detail"`)
	})

	t.Run("a plain form gets a PDF back", func(t *testing.T) {
		res, err := http.PostForm(s.URL+"/api/v1/renderings", url.Values{"key": {s.Key}, "template": {"card"}, "name": {"From a form"}, "price": {"3"}})
		require.NoError(t, err)
		defer res.Body.Close()
		assert.Equal(t, 200, res.StatusCode)
		assert.Equal(t, "application/pdf", res.Header.Get("Content-Type"))
		assert.Equal(t, "1", res.Header.Get("Olive-Pages"))
		assert.Contains(t, res.Header.Get("Olive-Limits"), "pages=5000")

		res, err = http.PostForm(s.URL+"/api/v1/renderings", url.Values{"key": {s.Key}, "html": {"<p>x"}, "paper": {"A5"}, "header": {"{date}"}, "date": {"2026-05-31"}, "watermark": {"DRAFT"}})
		require.NoError(t, err)
		defer res.Body.Close()
		assert.Equal(t, 200, res.StatusCode)
		res, text := call(t, http.MethodPost, s.URL+"/api/v1/renderings", url.Values{"key": {s.Key}, "html": {"x"}, "date": {"soon"}}.Encode(), "Content-Type", "application/x-www-form-urlencoded")
		assert.Equal(t, 400, res.StatusCode)
		assert.Contains(t, text, "is a day such as 2026-05-31")

		var body bytes.Buffer // a form with files, and fields of fields
		form := multipart.NewWriter(&body)
		for name, value := range map[string]string{"key": s.Key, "customer.name": "Ann", "customer.town": "Tidewell"} {
			require.NoError(t, form.WriteField(name, value))
		}
		for name, text := range map[string]string{"page.html": `<title>{{.customer.name}} of {{.customer.town}}</title>x`, "template.yaml": "title: t\n"} {
			f, err := form.CreateFormFile("files", name)
			require.NoError(t, err)
			f.Write([]byte(text))
		}
		require.NoError(t, form.Close())
		res, text = call(t, http.MethodPost, s.URL+"/api/v1/renderings", body.String(), "Content-Type", form.FormDataContentType(), "Accept", "application/json")
		assert.Equal(t, 200, res.StatusCode, text)
		assert.Contains(t, text, `"title":"Ann of Tidewell"`)

		body.Reset() // a form with a page
		form = multipart.NewWriter(&body)
		require.NoError(t, form.WriteField("key", s.Key))
		f, err := form.CreateFormFile("html", "page.html")
		require.NoError(t, err)
		f.Write([]byte("<p>sent as a file"))
		require.NoError(t, form.Close())
		res, text = call(t, http.MethodPost, s.URL+"/api/v1/renderings", body.String(), "Content-Type", form.FormDataContentType())
		assert.Equal(t, 200, res.StatusCode)
		assert.True(t, strings.HasPrefix(text, "%PDF"))
	})

	t.Run("documents are kept", func(t *testing.T) {
		_, err := s.Client.Push(ctx, "card", "as it was", template)
		require.NoError(t, err)
		made, err := s.Client.Issue(ctx, client.Order{Template: "card", RecordSet: set, Records: []int{1, 2}}, "")
		require.NoError(t, err)
		require.Len(t, made, 2)
		list, err := s.Client.Documents(ctx, client.Find{Search: "Zo", Filter: map[string]string{"state": "issued", "template": "card", "from": "2020-01-01"}})
		require.NoError(t, err)
		require.Equal(t, 1, list.Total)
		assert.Equal(t, "Zoë.pdf", list.Items[0].Name)
		assert.Equal(t, 4, list.Items[0].Version)
		pdf, err := s.Client.PDF(ctx, made[0].ID)
		require.NoError(t, err)
		assert.Len(t, pdf, made[0].Bytes)
		res, body := call(t, http.MethodGet, s.URL+"/api/v1/documents/2/pdf?download=1", "", key...)
		assert.Equal(t, "application/pdf", res.Header.Get("Content-Type"))
		assert.Equal(t, "attachment; filename*=utf-8''Zo%C3%AB.pdf", res.Header.Get("Content-Disposition"))
		assert.Equal(t, "private, no-cache", res.Header.Get("Cache-Control"))
		assert.True(t, strings.HasPrefix(body, "%PDF"))
		res, _ = call(t, http.MethodGet, s.URL+"/api/v1/documents/2/pdf", "", append(key, "If-None-Match", res.Header.Get("ETag"))...)
		assert.Equal(t, 304, res.StatusCode)
		_, err = s.Client.Issue(ctx, client.Order{Template: "card", RecordSet: set, Records: []int{7}}, "")
		assert.ErrorContains(t, err, "no such record")
		_, err = s.Client.Issue(ctx, client.Order{}, "")
		assert.Equal(t, 400, status(t, err))
		_, err = s.Client.PDF(ctx, 999)
		assert.Equal(t, 404, status(t, err))
		one, err := s.Client.Issue(ctx, client.Order{HTML: "<title>T</title>x", Name: "../up"}, "")
		require.NoError(t, err)
		assert.Equal(t, "-up", one[0].Name)
		res, _ = call(t, http.MethodGet, one[0].Verify, "")
		assert.Equal(t, 200, res.StatusCode, "posted pages have a public page, too")
	})

	t.Run("the same order is done once", func(t *testing.T) {
		before, err := s.Client.Documents(ctx, client.Find{})
		require.NoError(t, err)
		o := client.Order{Template: "card", Record: json.RawMessage(`{"name":"Once","price":1}`)}
		first, err := s.Client.Issue(ctx, o, "order-1")
		require.NoError(t, err)
		second, err := s.Client.Issue(ctx, o, "order-1")
		require.NoError(t, err)
		assert.Equal(t, first[0].ID, second[0].ID)
		o.Name = "another"
		_, err = s.Client.Issue(ctx, o, "order-1")
		assert.Equal(t, 422, status(t, err))
		after, err := s.Client.Documents(ctx, client.Find{})
		require.NoError(t, err)
		assert.Equal(t, before.Total+1, after.Total)
	})

	t.Run("keys have scopes and end", func(t *testing.T) {
		k, err := s.Client.NewKey(ctx, client.KeyOrder{Name: "reader", Scopes: []string{"read"}, Days: 30})
		require.NoError(t, err)
		require.NotNil(t, k.Expires)
		reader := s.As(t, k.Secret)
		_, err = reader.Templates(ctx, client.Find{})
		require.NoError(t, err)
		_, err = reader.Push(ctx, "card", "", template)
		assert.Equal(t, 403, status(t, err))
		_, err = reader.Keys(ctx, client.Find{})
		assert.Equal(t, 403, status(t, err))
		_, err = s.Client.NewKey(ctx, client.KeyOrder{Name: "odd", Scopes: []string{"fly"}})
		assert.Equal(t, 400, status(t, err))
		require.NoError(t, s.Client.RevokeKey(ctx, k.ID))
		_, err = reader.Templates(ctx, client.Find{})
		assert.Equal(t, 401, status(t, err))
	})

	t.Run("people have roles", func(t *testing.T) {
		text := func(s string) *string { return &s }
		p, err := s.Client.AddPerson(ctx, client.PersonInput{Email: text("mara@harbour.example"), Name: text("Mara"), Role: text("reader"), Password: text("long enough")})
		require.NoError(t, err)
		_, err = s.Client.AddPerson(ctx, client.PersonInput{Email: text("mara@harbour.example"), Name: text("Mara"), Role: text("reader"), Password: text("long enough")})
		assert.Equal(t, 409, status(t, err))
		_, err = s.Client.AddPerson(ctx, client.PersonInput{Email: text("x@harbour.example"), Name: text("X"), Role: text("king"), Password: text("long enough")})
		assert.Equal(t, 400, status(t, err))
		res, body := call(t, http.MethodPost, s.URL+"/api/v1/session", `{"email":"mara@harbour.example","password":"long enough"}`)
		require.Equal(t, 200, res.StatusCode)
		assert.Contains(t, body, `"scopes":["read"]`)
		as := "olive_session=" + res.Cookies()[0].Value
		res, _ = call(t, http.MethodPost, s.URL+"/api/v1/documents", `{"html":"x"}`, "Cookie", as, "X-Olive-Console", "1")
		assert.Equal(t, 403, res.StatusCode)
		off := true
		_, err = s.Client.SetPerson(ctx, p.ID, client.PersonInput{Disabled: &off})
		require.NoError(t, err)
		res, _ = call(t, http.MethodGet, s.URL+"/api/v1/session", "", "Cookie", as)
		assert.Equal(t, 401, res.StatusCode, "who may not log in any more is logged out")
		list, err := s.Client.People(ctx, client.Find{Sort: "email"})
		require.NoError(t, err)
		_, err = s.Client.SetPerson(ctx, list.Items[0].ID, client.PersonInput{Role: text("reader")})
		assert.Equal(t, 409, status(t, err), "the last keeper stays one")
		events, err := s.Client.Events(ctx, client.Find{Filter: map[string]string{"kind": "person"}})
		require.NoError(t, err)
		assert.Equal(t, "person.changed", events.Items[0].Action)
	})

	t.Run("a restart keeps all", func(t *testing.T) {
		before, err := s.Client.Documents(ctx, client.Find{})
		require.NoError(t, err)
		s.Stop(t)
		again := servicetest.Start(t, data)
		after, err := again.Client.Documents(ctx, client.Find{})
		require.NoError(t, err)
		assert.Equal(t, before.Total, after.Total)
		require.NoError(t, os.Chmod(data, 0o700))
	})
}
