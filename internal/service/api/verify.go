package api

import (
	"errors"
	"net/http"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/public"
	"oliveledger/internal/service/store"
)

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
		if void || d.State == store.Void {
			v.State = public.Void
		}
	}
	return a.verdict(c, status, v)
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
