package e2e

import (
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"

	"oliveledger/internal/service"
	"oliveledger/internal/service/api"
	"oliveledger/internal/servicetest"
)

// TestRefusedSignIn is the way of someone whose provider does not let them in: the log-in page tells why, once.
func TestRefusedSignIn(t *testing.T) {
	mux := http.NewServeMux()
	provider := httptest.NewServer(mux)
	defer provider.Close()
	mux.HandleFunc("/.well-known/openid-configuration", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "application/json")
		_, err := w.Write([]byte(`{"issuer":"` + provider.URL + `","authorization_endpoint":"` + provider.URL + `/authorize","token_endpoint":"` + provider.URL + `/token","jwks_uri":"` + provider.URL + `/keys"}`))
		assert.NoError(t, err)
	})
	mux.HandleFunc("/authorize", func(w http.ResponseWriter, r *http.Request) {
		http.Redirect(w, r, r.FormValue("redirect_uri")+"?error=access_denied&state="+r.FormValue("state"), http.StatusFound)
	})
	s := servicetest.Start(t, t.TempDir(), func(c *service.Config) {
		c.SignIn = &api.SignIn{Issuer: provider.URL, Client: "olive", Secret: "s", Name: "Harbour login"}
	})
	ctx := browser(t)
	do(t, ctx, chromedp.Navigate(s.URL+"/log-in"))
	click(t, ctx, "[data-test=way]", "Sign in with Harbour login")
	says(t, ctx, "Harbour login says: access_denied")
	do(t, ctx, chromedp.Navigate(s.URL+"/log-in"))
	until(t, ctx, "document.querySelector('[data-test=way]')")
	assert.False(t, value[bool](t, ctx, "document.body.innerText.includes('access_denied')"))
}
