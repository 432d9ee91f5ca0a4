package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"sync"
	"time"

	"github.com/coreos/go-oidc/v3/oidc"
	"github.com/labstack/echo/v5"
	"golang.org/x/oauth2"

	"oliveledger/internal/service/issue"
	"oliveledger/internal/service/store"
)

// SignIn is sign-in through a provider that people have an account with (OpenID Connect Core 1.0, the
// authorization code flow with PKCE, RFC 7636). Only people who are known here by the address that the
// provider has confirmed come in.
type SignIn struct {
	Issuer, Client, Secret string
	Name                   string // of the provider, as people know it

	mu       sync.Mutex
	provider *oidc.Provider
}

// paths of sign-in; the provider sends people back to the second.
const (
	signInPath = "/api/v1/sign-in"
	returnPath = signInPath + "/return"
)

const (
	logInPage     = "/log-in"
	refusedCookie = "olive-refused"
	begunCookie   = "olive-sign-in"
	begunTime     = 10 * time.Minute // to sign in with the provider
)

// open asks the provider for its addresses and keys, once it answers.
func (s *SignIn) open(ctx context.Context) (*oidc.Provider, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.provider != nil {
		return s.provider, nil
	}
	// the keys are asked for anew when they change, also after this request
	p, err := oidc.NewProvider(oidc.ClientContext(context.WithoutCancel(ctx), &http.Client{Timeout: 10 * time.Second}), s.Issuer)
	if err != nil {
		return nil, echo.NewHTTPError(http.StatusBadGateway, fmt.Sprintf("%s does not answer as a provider of OpenID Connect: %v", s.Issuer, err))
	}
	s.provider = p
	return p, nil
}

func (s *SignIn) config(p *oidc.Provider, public string) *oauth2.Config {
	return &oauth2.Config{ClientID: s.Client, ClientSecret: s.Secret, Endpoint: p.Endpoint(), RedirectURL: public + returnPath, Scopes: []string{oidc.ScopeOpenID, "email"}}
}

// Way is what the log-in page shows of sign-in through a provider.
type Way struct {
	Name string `json:"name"` // empty when there is none
}

func (a *API) signInWay(c *echo.Context) error {
	if a.SignIn == nil {
		return c.JSON(http.StatusOK, Way{})
	}
	return c.JSON(http.StatusOK, Way{a.SignIn.Name})
}

// signIn sends a browser to the provider. What it must bring back stands in a cookie.
func (a *API) signIn(c *echo.Context) error {
	if a.SignIn == nil {
		return echo.NewHTTPError(http.StatusNotFound, "no provider is set up for sign-in")
	}
	p, err := a.SignIn.open(c.Request().Context())
	if err != nil {
		return err
	}
	state, nonce, verifier := issue.Secret(), issue.Secret(), oauth2.GenerateVerifier()
	c.SetCookie(&http.Cookie{Name: begunCookie, Value: state + "." + nonce + "." + verifier, Path: signInPath, HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: a.overTLS(c), MaxAge: int(begunTime.Seconds())})
	return c.Redirect(http.StatusFound, a.SignIn.config(p, a.Maker.Public).AuthCodeURL(state, oidc.Nonce(nonce), oauth2.S256ChallengeOption(verifier)))
}

// signedIn takes people back from the provider. Who may not come in is told why on the log-in page.
func (a *API) signedIn(c *echo.Context) error {
	if a.SignIn == nil {
		return echo.NewHTTPError(http.StatusNotFound, "no provider is set up for sign-in")
	}
	c.SetCookie(&http.Cookie{Name: begunCookie, Path: signInPath, MaxAge: -1})
	if wait := a.doors.addresses.begin(c.RealIP()); wait > 0 {
		return a.refused(c, "too many failed tries; wait a moment")
	}
	p, err := a.signer(c)
	var refusal *store.Refusal
	if errors.As(err, &refusal) {
		if err := a.Store.Note(by(c, event("log-in.failed", "person", p.Email, "through %s, from %s: %s", a.SignIn.Name, c.RealIP(), refusal.Reason))); err != nil {
			return err
		}
		return a.refused(c, refusal.Reason)
	}
	if err != nil {
		return err
	}
	a.doors.addresses.passed(c.RealIP())
	if err := a.begin(c, p); err != nil {
		return err
	}
	return c.Redirect(http.StatusFound, "/")
}

// refused tells why in a cookie that the log-in page reads: in an address, anyone could have it say
// anything.
func (a *API) refused(c *echo.Context, why string) error {
	c.SetCookie(&http.Cookie{Name: refusedCookie, Value: url.PathEscape(why), Path: logInPage, SameSite: http.SameSiteLaxMode, Secure: a.overTLS(c), MaxAge: 60})
	return c.Redirect(http.StatusFound, logInPage)
}

// signer finds out who has signed in.
func (a *API) signer(c *echo.Context) (p store.Person, err error) {
	refuse := func(format string, args ...any) error { return &store.Refusal{Reason: fmt.Sprintf(format, args...)} }
	cookie, err := c.Cookie(begunCookie)
	if err != nil {
		return p, refuse("the sign-in took too long, or was begun in another browser; try again")
	}
	begun := strings.Split(cookie.Value, ".")
	if len(begun) != 3 || begun[0] != c.QueryParam("state") {
		return p, refuse("the sign-in was begun in another window; try again")
	}
	if why := c.QueryParam("error"); why != "" {
		return p, refuse("%s says: %.200s", a.SignIn.Name, why)
	}
	ctx := c.Request().Context()
	provider, err := a.SignIn.open(ctx)
	if err != nil {
		return p, err
	}
	token, err := a.SignIn.config(provider, a.Maker.Public).Exchange(ctx, c.QueryParam("code"), oauth2.VerifierOption(begun[2]))
	if err != nil {
		return p, refuse("%s does not take the sign-in: %v", a.SignIn.Name, err)
	}
	raw, _ := token.Extra("id_token").(string)
	signed, err := provider.Verifier(&oidc.Config{ClientID: a.SignIn.Client}).Verify(ctx, raw)
	if err != nil {
		return p, refuse("what %s says of you cannot be trusted: %v", a.SignIn.Name, err)
	}
	var told struct {
		Email    string `json:"email"`
		Verified bool   `json:"email_verified"`
	}
	if err := signed.Claims(&told); err != nil || signed.Nonce != begun[1] {
		return p, refuse("what %s says of you is not for this sign-in; try again", a.SignIn.Name)
	}
	if told.Email == "" || !told.Verified {
		return p, refuse("%s has not confirmed your email address", a.SignIn.Name)
	}
	p, err = a.Store.PersonByEmail(told.Email)
	if errors.Is(err, store.ErrNotFound) || err == nil && (p.Disabled || !strings.EqualFold(p.Email, told.Email)) {
		return store.Person{Email: shortened(told.Email, mostEmail)}, refuse("%s is not known here; ask a keeper", told.Email)
	}
	return p, err
}
