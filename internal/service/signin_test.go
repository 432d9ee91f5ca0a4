package service_test

import (
	"crypto/rand"
	"crypto/rsa"
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/go-jose/go-jose/v4"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service"
	"oliveledger/internal/service/api"
	"oliveledger/internal/servicetest"
)

// provider is a stand-in for one of OpenID Connect: whoever comes is signed in at once.
type provider struct {
	*httptest.Server
	key    *rsa.PrivateKey
	claims map[string]any // of the next sign-in, beside those that are always there
	asked  url.Values     // by the browser that was sent last
}

func newProvider(t *testing.T) *provider {
	t.Helper()
	key, err := rsa.GenerateKey(rand.Reader, 2048)
	require.NoError(t, err)
	p := &provider{key: key}
	mux := http.NewServeMux()
	answer := func(w http.ResponseWriter, v any) {
		w.Header().Set("Content-Type", "application/json")
		assert.NoError(t, json.NewEncoder(w).Encode(v))
	}
	mux.HandleFunc("/.well-known/openid-configuration", func(w http.ResponseWriter, _ *http.Request) {
		answer(w, map[string]any{"issuer": p.URL, "authorization_endpoint": p.URL + "/authorize", "token_endpoint": p.URL + "/token", "jwks_uri": p.URL + "/keys", "id_token_signing_alg_values_supported": []string{"RS256"}})
	})
	mux.HandleFunc("/keys", func(w http.ResponseWriter, _ *http.Request) {
		answer(w, jose.JSONWebKeySet{Keys: []jose.JSONWebKey{{Key: key.Public(), KeyID: "k", Algorithm: "RS256", Use: "sig"}}})
	})
	mux.HandleFunc("/authorize", func(w http.ResponseWriter, r *http.Request) {
		p.asked = r.URL.Query()
		http.Redirect(w, r, p.asked.Get("redirect_uri")+"?code=good&state="+url.QueryEscape(p.asked.Get("state")), http.StatusFound)
	})
	mux.HandleFunc("/token", func(w http.ResponseWriter, r *http.Request) {
		sum := sha256.Sum256([]byte(r.FormValue("code_verifier")))
		if r.FormValue("code") != "good" || base64.RawURLEncoding.EncodeToString(sum[:]) != p.asked.Get("code_challenge") {
			http.Error(w, `{"error":"invalid_grant"}`, http.StatusBadRequest)
			return
		}
		answer(w, map[string]any{"access_token": "x", "token_type": "Bearer", "id_token": p.token(t)})
	})
	p.Server = httptest.NewServer(mux)
	t.Cleanup(p.Close)
	return p
}

// token is what the provider says of who has signed in.
func (p *provider) token(t *testing.T) string {
	signer, err := jose.NewSigner(jose.SigningKey{Algorithm: jose.RS256, Key: jose.JSONWebKey{Key: p.key, KeyID: "k"}}, nil)
	require.NoError(t, err)
	claims := map[string]any{"iss": p.URL, "aud": "olive", "sub": "1", "exp": time.Now().Add(time.Minute).Unix(), "iat": time.Now().Unix(), "nonce": p.asked.Get("nonce"), "email_verified": true}
	for name, v := range p.claims {
		claims[name] = v
	}
	raw, err := json.Marshal(claims)
	require.NoError(t, err)
	signed, err := signer.Sign(raw)
	require.NoError(t, err)
	text, err := signed.CompactSerialize()
	require.NoError(t, err)
	return text
}

// TestSignInThroughAProvider comes in through a provider, and is kept out where what it says is not to be trusted.
func TestSignInThroughAProvider(t *testing.T) {
	p := newProvider(t)
	s := servicetest.Start(t, t.TempDir(), func(c *service.Config) {
		c.SignIn = &api.SignIn{Issuer: p.URL, Client: "olive", Secret: "secret", Name: "Harbour login"}
	})
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	browser := &http.Client{Jar: jar, CheckRedirect: func(r *http.Request, _ []*http.Request) error {
		if !strings.Contains(r.URL.Path, "sign-in") && r.URL.Path != "/authorize" {
			return http.ErrUseLastResponse // in the console
		}
		return nil
	}}
	signIn := func() (to, body string) {
		res, err := browser.Get(s.URL + "/api/v1/sign-in")
		require.NoError(t, err)
		defer res.Body.Close()
		raw, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		return res.Header.Get("Location"), string(raw)
	}
	refusal := func() string {
		page, err := url.Parse(s.URL + "/log-in")
		require.NoError(t, err)
		for _, c := range browser.Jar.Cookies(page) {
			if c.Name == "olive-refused" {
				text, err := url.PathUnescape(c.Value)
				require.NoError(t, err)
				return text
			}
		}
		return ""
	}
	session := func() int {
		res, err := browser.Get(s.URL + "/api/v1/session")
		require.NoError(t, err)
		res.Body.Close()
		return res.StatusCode
	}
	_, way, _ := ask(t, s, http.MethodGet, "/api/v1/sign-in/way", "")
	assert.JSONEq(t, `{"name":"Harbour login"}`, way)

	for what, x := range map[string]struct {
		claims map[string]any
		say    string
	}{
		"nobody who is known":     {map[string]any{"email": "stranger@quay.test"}, "is not known here"},
		"an address like another": {map[string]any{"email": strings.Replace(s.Email, "e", "é", 1)}, "is not known here"},
		"an unconfirmed address":  {map[string]any{"email": s.Email, "email_verified": false}, "has not confirmed"},
		"for another service":     {map[string]any{"email": s.Email, "aud": "other"}, "cannot be trusted"},
		"from another provider":   {map[string]any{"email": s.Email, "iss": "https://else.test"}, "cannot be trusted"},
		"too old":                 {map[string]any{"email": s.Email, "exp": time.Now().Add(-time.Hour).Unix()}, "cannot be trusted"},
		"of another sign-in":      {map[string]any{"email": s.Email, "nonce": "else"}, "not for this sign-in"},
		"no address":              {nil, "has not confirmed"},
	} {
		p.claims = x.claims
		to, body := signIn()
		assert.Equal(t, "/log-in", to, "%s: %s", what, body)
		assert.Contains(t, refusal(), x.say, what)
		assert.Equal(t, http.StatusUnauthorized, session(), what)
	}

	p.claims = map[string]any{"email": strings.ToUpper(s.Email)}
	to, body := signIn()
	assert.Equal(t, "/", to, body)
	assert.Equal(t, http.StatusOK, session())

	jar, err = cookiejar.New(nil)
	require.NoError(t, err)
	browser.Jar = jar
	res, err := browser.Get(s.URL + "/api/v1/sign-in/return?code=good&state=x")
	require.NoError(t, err)
	res.Body.Close()
	assert.Contains(t, refusal(), "begun in another browser")
	assert.Equal(t, http.StatusUnauthorized, session())
}

// TestNoProvider asks for sign-in where there is none.
func TestNoProvider(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	_, way, _ := ask(t, s, http.MethodGet, "/api/v1/sign-in/way", "")
	assert.JSONEq(t, `{"name":""}`, way)
	status, _, _ := ask(t, s, http.MethodGet, "/api/v1/sign-in", "")
	assert.Equal(t, http.StatusNotFound, status)
	conf := service.Config{Listen: "127.0.0.1:0", SignIn: &api.SignIn{Issuer: "https://x.test"}}
	assert.ErrorContains(t, conf.Check(), "--sign-in-client")
}
