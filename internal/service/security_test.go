package service_test

import (
	"bytes"
	"context"
	"crypto/x509"
	"encoding/json"
	"encoding/pem"
	"fmt"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"runtime"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/service"
	"oliveledger/internal/servicetest"
)

// ask sends a request as it is, and gives status and body of the answer.
func ask(t *testing.T, s *servicetest.Running, method, path, body string, headers ...string) (int, string, http.Header) {
	t.Helper()
	res, text := call(t, method, s.URL+path, body, headers...)
	return res.StatusCode, text, res.Header
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

// TestStoredScript opens files of a template that a browser would run.
func TestStoredScript(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	script := []byte(`<html xmlns="http://www.w3.org/1999/xhtml"><script>alert(1)</script></html>`)
	files := fstest.MapFS{"page.html": {Data: []byte("<p>x")}, "x.xml": {Data: script}, "x.svg": {Data: script}, "x.html": {Data: script}, "x.xhtml": {Data: script}, "logo.png": {Data: []byte("png")}}
	_, err := s.Client.Push(context.Background(), "card", "", files)
	require.NoError(t, err)
	for name := range files {
		status, _, head := withKey(t, s, http.MethodGet, "/api/v1/templates/card/versions/1/assets/"+name, "")
		require.Equal(t, http.StatusOK, status, name)
		assert.Equal(t, "sandbox; default-src 'none'", head.Get("Content-Security-Policy"), name)
		assert.Equal(t, "nosniff", head.Get("X-Content-Type-Options"))
		if name == "logo.png" {
			assert.Equal(t, "image/png", head.Get("Content-Type"))
			continue
		}
		assert.Equal(t, "application/octet-stream", head.Get("Content-Type"), name)
		assert.Contains(t, head.Get("Content-Disposition"), "attachment", name)
	}
}

// TestSecretsAreToldOnce asks again for what holds a secret, and looks for codes in the log.
func TestSecretsAreToldOnce(t *testing.T) {
	var log syncBuffer
	s := servicetest.Start(t, t.TempDir(), func(c *service.Config) { c.Log = slog.New(slog.NewTextHandler(&log, nil)) })
	status, first, _ := withKey(t, s, http.MethodPost, "/api/v1/keys", `{"name":"till"}`, "Idempotency-Key", "k1")
	require.Equal(t, http.StatusCreated, status)
	var made struct{ Key string }
	require.NoError(t, json.Unmarshal([]byte(first), &made))
	status, again, _ := withKey(t, s, http.MethodPost, "/api/v1/keys", `{"name":"till"}`, "Idempotency-Key", "k1")
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, again, "told only once")
	var kept int64
	require.NoError(t, base(t, s.Data).Store.DB().Raw("SELECT COUNT(*) FROM answers WHERE INSTR(answer, ?)", made.Key).Scan(&kept).Error)
	assert.Zero(t, kept)
	for _, days := range []string{"-5", "99999"} {
		status, body, _ := withKey(t, s, http.MethodPost, "/api/v1/keys", `{"name":"till","days":`+days+`}`)
		assert.Equal(t, http.StatusBadRequest, status, body)
	}

	docs, err := s.Client.Issue(context.Background(), client.Order{HTML: "<p>x"}, "")
	require.NoError(t, err)
	share, err := s.Client.Share(context.Background(), client.ShareOrder{Document: docs[0].ID})
	require.NoError(t, err)
	code := share.Address[strings.LastIndex(share.Address, "/")+1:]
	status, _, _ = ask(t, s, http.MethodGet, "/s/"+code, "")
	assert.Equal(t, http.StatusOK, status)
	assert.NotContains(t, log.String(), code)
	assert.Contains(t, log.String(), "path=/s/:code")
}

// syncBuffer is a buffer that several may write to.
type syncBuffer struct {
	mu  sync.Mutex
	buf bytes.Buffer
}

func (b *syncBuffer) Write(p []byte) (int, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.buf.Write(p)
}

func (b *syncBuffer) String() string {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.buf.String()
}

// TestNewPasswordEndsSessions changes the password of someone who is logged in.
func TestNewPasswordEndsSessions(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	body := fmt.Sprintf(`{"email":%q,"password":%q}`, s.Email, s.Password)
	status, _, head := ask(t, s, http.MethodPost, "/api/v1/session", body)
	require.Equal(t, http.StatusOK, status)
	cookie, _, _ := strings.Cut(head.Get("Set-Cookie"), ";")
	status, _, _ = ask(t, s, http.MethodGet, "/api/v1/session", "", "Cookie", cookie)
	require.Equal(t, http.StatusOK, status)
	status, answer, _ := withKey(t, s, http.MethodPatch, "/api/v1/people/1", `{"password":"another-password"}`)
	require.Equal(t, http.StatusOK, status, answer)
	status, _, _ = ask(t, s, http.MethodGet, "/api/v1/session", "", "Cookie", cookie)
	assert.Equal(t, http.StatusUnauthorized, status)
}

// TestLookingIsNotRendering asks with a key that may only look.
func TestLookingIsNotRendering(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	for scopes, want := range map[string]int{"read": http.StatusForbidden, "render": http.StatusOK, "design": http.StatusOK} {
		k, err := s.Client.NewKey(context.Background(), client.KeyOrder{Name: "key", Scopes: strings.Fields(scopes)})
		require.NoError(t, err)
		for path, body := range map[string]string{"/renderings": `{"html":"<p>x"}`, "/record-previews?name=x.json": `{"a":1}`} {
			status, answer, _ := ask(t, s, http.MethodPost, "/api/v1"+path, body, "Authorization", "Bearer "+k.Secret, "Content-Type", "application/json")
			assert.Equal(t, want, status, "%s %s: %s", scopes, path, answer)
		}
	}
}

// TestApprovalIsDemanded makes documents, and a batch, whose template or series wants a second person, without asking
// for drafts.
func TestApprovalIsDemanded(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	ctx := context.Background()
	_, err := s.Client.Push(ctx, "strict", "", fstest.MapFS{"page.html": {Data: []byte("<p>{{.name}}")}, "template.yaml": {Data: []byte("approval: true\n")}})
	require.NoError(t, err)
	_, err = s.Client.Push(ctx, "card", "", template)
	require.NoError(t, err)
	status, body, _ := withKey(t, s, http.MethodPost, "/api/v1/number-series", `{"name":"strict","pattern":"S-{number}","approval":true}`)
	require.Equal(t, http.StatusCreated, status, body)
	set := people(t, s, 2)
	for _, o := range []client.Order{{Template: "strict", RecordSet: set, Records: []int{1}}, {Template: "card", RecordSet: set, Records: []int{1}, Series: "strict"}} {
		docs, err := s.Client.Issue(ctx, o, "")
		require.NoError(t, err)
		assert.Equal(t, "draft", docs[0].State)
		assert.Empty(t, docs[0].Number)
	}
	b, err := s.Client.StartBatch(ctx, client.BatchOrder{Template: "card", RecordSet: set, Series: "strict"}, "")
	require.NoError(t, err)
	_, err = s.Client.Follow(ctx, b.ID, func(client.Batch) {})
	require.NoError(t, err)
	list, err := s.Client.Documents(ctx, client.Find{Filter: map[string]string{"state": "draft"}})
	require.NoError(t, err)
	assert.Equal(t, 4, list.Total)
	_, err = s.Client.SetDocument(ctx, list.Items[0].ID, 0, "approved", "")
	assert.ErrorContains(t, err, "made by you", "what a batch of mine made is mine")
	status, body, _ = withKey(t, s, http.MethodPatch, "/api/v1/number-series/1", `{"approval":false}`)
	require.Equal(t, http.StatusOK, status, body)
	docs, err := s.Client.Issue(ctx, client.Order{Template: "card", RecordSet: set, Records: []int{1}, Series: "strict"}, "")
	require.NoError(t, err)
	assert.Equal(t, "S-1", docs[0].Number)
}

// TestOverTLS reaches the service through its own TLS, and logs in there.
func TestOverTLS(t *testing.T) {
	dir := t.TempDir()
	made := httptest.NewUnstartedServer(nil)
	made.StartTLS()
	defer made.Close()
	pair := made.TLS.Certificates[0]
	key, err := x509.MarshalPKCS8PrivateKey(pair.PrivateKey)
	require.NoError(t, err)
	file, keyFile := filepath.Join(dir, "c.pem"), filepath.Join(dir, "k.pem")
	require.NoError(t, os.WriteFile(file, pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: pair.Certificate[0]}), 0o600))
	require.NoError(t, os.WriteFile(keyFile, pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: key}), 0o600))
	s := servicetest.Start(t, t.TempDir(), func(c *service.Config) { c.Certificate, c.PrivateKey = file, keyFile })
	assert.True(t, strings.HasPrefix(s.URL, "https://"))
	res, err := made.Client().Post(s.URL+"/api/v1/session", "application/json", strings.NewReader(fmt.Sprintf(`{"email":%q,"password":%q}`, s.Email, s.Password)))
	require.NoError(t, err)
	defer res.Body.Close()
	require.Equal(t, http.StatusOK, res.StatusCode)
	assert.True(t, res.Cookies()[0].Secure)
	assert.ErrorContains(t, (&service.Config{Listen: "127.0.0.1:0", Certificate: file}).Check(), "go together")
}

// TestOwnAccount lists and ends one's own log-ins, and changes one's own password.
func TestOwnAccount(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	enter := func(password string) string {
		status, _, head := ask(t, s, http.MethodPost, "/api/v1/session", fmt.Sprintf(`{"email":%q,"password":%q}`, s.Email, password), "User-Agent", "Browser "+strings.Repeat("ü", 300))
		require.Equal(t, http.StatusOK, status)
		cookie, _, _ := strings.Cut(head.Get("Set-Cookie"), ";")
		return cookie
	}
	first, second, third := enter(s.Password), enter(s.Password), enter(s.Password)
	as := func(cookie, method, path, body string) (int, string) {
		status, answer, _ := ask(t, s, method, "/api/v1"+path, body, "Cookie", cookie, "X-Olive-Console", "1")
		return status, answer
	}
	status, body := as(first, http.MethodGet, "/sessions", "")
	require.Equal(t, http.StatusOK, status, body)
	var list struct {
		Items []struct {
			Name, Agent, Address string
			This                 bool
		}
	}
	require.NoError(t, json.Unmarshal([]byte(body), &list))
	require.Len(t, list.Items, 3)
	others := []string{}
	for _, x := range list.Items {
		assert.Equal(t, "127.0.0.1", x.Address)
		assert.True(t, strings.HasPrefix(x.Agent, "Browser "))
		if !x.This {
			others = append(others, x.Name)
		}
	}
	require.Len(t, others, 2)
	status, body = as(first, http.MethodDelete, "/sessions/"+others[0], "")
	assert.Equal(t, http.StatusNoContent, status, body)
	status, _ = as(first, http.MethodDelete, "/sessions/"+others[0], "")
	assert.Equal(t, http.StatusNotFound, status)
	left := 0
	for _, c := range []string{second, third} {
		if status, _ := as(c, http.MethodGet, "/session", ""); status == http.StatusOK {
			left++
		}
	}
	assert.Equal(t, 1, left)

	status, _ = as(first, http.MethodPut, "/password", `{"old":"wrong","new":"a new long password"}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	status, body = as(first, http.MethodPut, "/password", fmt.Sprintf(`{"old":%q,"new":"short"}`, s.Password))
	assert.Equal(t, http.StatusBadRequest, status, body)
	status, body = as(first, http.MethodPut, "/password", fmt.Sprintf(`{"old":%q,"new":"a new long password"}`, s.Password))
	require.Equal(t, http.StatusNoContent, status, body)
	for _, c := range []string{second, third} {
		status, _ := as(c, http.MethodGet, "/session", "")
		assert.Equal(t, http.StatusUnauthorized, status, "the others have ended")
	}
	status, _ = as(first, http.MethodGet, "/session", "")
	assert.Equal(t, http.StatusOK, status)
	enter("a new long password")
	status, _, _ = withKey(t, s, http.MethodGet, "/api/v1/sessions", "")
	assert.Equal(t, http.StatusForbidden, status, "a key has no account")
}

// TestKeyOfATemplate tries every way of the API with a key that is limited to one template.
func TestKeyOfATemplate(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	ctx := context.Background()
	for _, name := range []string{"card", "other"} {
		_, err := s.Client.Push(ctx, name, "", template)
		require.NoError(t, err)
	}
	set := people(t, s, 2)
	foreign, err := s.Client.Issue(ctx, client.Order{Template: "other", RecordSet: set, Records: []int{1}}, "")
	require.NoError(t, err)
	batch, err := s.Client.StartBatch(ctx, client.BatchOrder{Template: "other", RecordSet: set}, "")
	require.NoError(t, err)
	status, body, _ := withKey(t, s, http.MethodPost, "/api/v1/keys", `{"name":"till","templates":["none"]}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status, body)
	key, err := s.Client.NewKey(ctx, client.KeyOrder{Name: "till", Templates: []string{"card"}})
	require.NoError(t, err)
	assert.Equal(t, "card", key.Limited)
	own := s.As(t, key.Secret)
	made, err := own.Issue(ctx, client.Order{Template: "card", RecordSet: set, Records: []int{1}}, "")
	require.NoError(t, err)
	_, err = own.PDF(ctx, made[0].ID)
	require.NoError(t, err)
	list, err := own.Documents(ctx, client.Find{Filter: map[string]string{"template": "card"}})
	require.NoError(t, err)
	assert.Equal(t, 1, list.Total)
	_, err = own.Render(ctx, client.Rendering{Template: "card", Record: json.RawMessage(`{"name":"Ann","price":1}`)})
	require.NoError(t, err)
	_, err = own.Template(ctx, "card", 1)
	require.NoError(t, err)

	for _, r := range [][3]string{
		{http.MethodGet, "/templates", ""},
		{http.MethodGet, "/templates/other", ""},
		{http.MethodGet, "/templates/other/versions", ""},
		{http.MethodGet, "/templates/other/versions/1/assets/page.html", ""},
		{http.MethodPost, "/renderings", `{"template":"other"}`},
		{http.MethodPost, "/renderings", `{"html":"<p>x"}`},
		{http.MethodPost, "/renderings", `{"template":"card","files":{"page.html":{"text":"x"}}}`},
		{http.MethodPost, "/documents", `{"template":"other","record":{}}`},
		{http.MethodPost, "/documents", `{"template":"card","html":"<p>x"}`},
		{http.MethodPost, "/batches", `{"template":"other","recordSet":1}`},
		{http.MethodGet, "/documents", ""},
		{http.MethodGet, "/documents?template=other", ""},
		{http.MethodGet, fmt.Sprint("/documents/", foreign[0].ID), ""},
		{http.MethodGet, fmt.Sprint("/documents/", foreign[0].ID, "/pdf"), ""},
		{http.MethodGet, fmt.Sprint("/documents/", foreign[0].ID, "/history"), ""},
		{http.MethodGet, fmt.Sprint("/batches/", batch.ID), ""},
		{http.MethodGet, fmt.Sprint("/batches/", batch.ID, "/zip"), ""},
		{http.MethodGet, fmt.Sprint("/batches/", batch.ID, "/items"), ""},
		{http.MethodGet, "/record-sets", ""},
		{http.MethodGet, "/keys", ""},
		{http.MethodPost, "/keys", `{"name":"more"}`},
		{http.MethodGet, "/ledger", ""},
		{http.MethodGet, "/batches", ""},
		{http.MethodGet, "/events", ""},
		{http.MethodGet, "/share-links", ""},
	} {
		status, body, _ := ask(t, s, r[0], "/api/v1"+r[1], r[2], "Authorization", "Bearer "+key.Secret, "Content-Type", "application/json")
		assert.Equal(t, http.StatusForbidden, status, "%s %s: %s", r[0], r[1], body)
		assert.Contains(t, body, "limited to the templates card")
	}
}

// TestLargeBodies sends more at once than there is room for: they wait for each other, and the service stays small.
func TestLargeBodies(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	page := fmt.Sprintf(`{"html":"<!--%s--><p>x"}`, strings.Repeat("x", 40<<20))
	var all sync.WaitGroup
	for range 6 {
		all.Go(func() {
			status, body, _ := withKey(t, s, http.MethodPost, "/api/v1/renderings", page)
			assert.Contains(t, []int{http.StatusOK, http.StatusServiceUnavailable}, status, body)
		})
	}
	all.Wait()
	status, body, _ := withKey(t, s, http.MethodPost, "/api/v1/renderings", `{"html":"`+strings.Repeat("x", 97<<20)+`"}`)
	assert.Equal(t, http.StatusRequestEntityTooLarge, status)
	assert.Contains(t, body, "96 MiB as JSON")
	var held runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&held)
	assert.Less(t, held.Sys, uint64(1<<30))
}
