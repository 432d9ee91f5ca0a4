package api

import (
	"errors"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/public"
	"oliveledger/internal/service/store"
	"oliveledger/typeset/sign"
)

// filesRemembered is of how many files it stays known who has signed them.
const filesRemembered = 1000

// verifyPage tells anyone who has a document's code whether it is genuine.
func (a *API) verifyPage(c *echo.Context) error {
	d, err := a.Store.DocumentByCode(c.Param("code"))
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return err
	}
	v := public.Verdict{}
	issued, void := false, false
	if err == nil && d.IssuedAt != nil {
		if issued, void, err = a.Store.Standing(d); err != nil {
			return err
		}
	}
	status := http.StatusNotFound
	if issued {
		status = http.StatusOK
		v = public.Verdict{State: public.Genuine, Number: d.Number, Issued: *d.IssuedAt, Pages: d.Pages, SHA256: d.SHA256}
		v.Signed = a.signers(c, d)
		if void || d.State == store.Void {
			v.State = public.Void
		}
	}
	return a.verdict(c, status, v)
}

// signers tells who has signed a document. A file is read once: its bytes, and so its signatures, stay as they are.
func (a *API) signers(c *echo.Context, d store.Document) (list []public.Signer) {
	if known, ok := a.signed.Get(d.SHA256); ok || d.ErasedAt != nil {
		return known
	}
	leave, err := pass(c, a.reading)
	if err != nil {
		return nil // the verdict is more than who has signed
	}
	defer leave()
	data, err := a.Blobs.Get(c.Request().Context(), d.SHA256)
	if err == nil {
		var found []sign.Signature
		found, err = sign.Signatures(data, "", sign.Trust{})
		for _, s := range found {
			if s.Level == sign.OnlyStamped { // nobody signs it
				continue
			}
			list = append(list, public.Signer{Name: strings.TrimPrefix(s.Signer, "CN="), Holds: s.Holds})
		}
	}
	if err != nil && !errors.Is(err, sign.ErrPassword) { // what opens with a password only is never signed
		a.Log.Warn("the signatures of a document could not be read", "document", d.ID, "error", err)
		return nil
	}
	a.signed.Add(d.SHA256, list)
	return list
}

// verdict answers with a public page.
func (a *API) verdict(c *echo.Context, status int, v public.Verdict) error {
	page, err := public.Page(v, c.Request())
	if err != nil {
		return err
	}
	c.Response().Header().Set("Cache-Control", "no-store")
	c.Response().Header().Set("Vary", "Accept-Language")
	return c.HTMLBlob(status, page)
}
