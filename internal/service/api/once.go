package api

import (
	"bytes"
	"io"
	"net/http"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/store"
)

// once answers a request that comes again with the same Idempotency-Key as it
// was answered the first time, and does nothing again. An answer with a secret is
// not kept: it is told that there was one.
func (a *API) once(secret bool, next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		key := c.Request().Header.Get("Idempotency-Key")
		if key == "" {
			return next(c)
		}
		if len(key) > 200 {
			return bad("an Idempotency-Key has at most 200 characters")
		}
		body, err := io.ReadAll(c.Request().Body)
		if err != nil {
			return err
		}
		c.Request().Body = io.NopCloser(bytes.NewReader(body))
		key = store.SumOf(who(c).Email + "\n" + c.Request().Method + " " + c.Request().URL.RequestURI() + "\n" + key)
		known, err := a.Store.BeginAnswer(key, store.SumOf(string(body)))
		switch {
		case err != nil:
			return err
		case known == nil:
			return a.first(c, key, secret, next)
		case known.Body != store.SumOf(string(body)):
			return echo.NewHTTPError(http.StatusUnprocessableEntity, "this Idempotency-Key came with another body before")
		case known.Status == 0:
			c.Response().Header().Set("Retry-After", "1")
			return echo.NewHTTPError(http.StatusConflict, "the first request with this Idempotency-Key is still worked on")
		}
		c.Response().Header().Set("Idempotent-Replayed", "true")
		return c.Blob(known.Status, known.Type, known.Answer)
	}
}

// first does what a request asks and keeps its answer. An answer that may be
// another one next time is not kept.
func (a *API) first(c *echo.Context, key string, secret bool, next echo.HandlerFunc) error {
	out := c.Response()
	copied := &copier{ResponseWriter: out}
	c.SetResponse(copied)
	defer c.SetResponse(out)
	keep := false
	defer func() { // also when it panics
		if !keep {
			copied.status = 0
		}
		status, kind, body := copied.status, out.Header().Get("Content-Type"), copied.body.Bytes()
		if secret && status < 300 && status != 0 {
			status, kind, body = http.StatusConflict, "application/problem+json", problemJSON(http.StatusConflict, "this was made by the first request with this Idempotency-Key; its secret is told only once")
		}
		if err := a.Store.EndAnswer(key, status, kind, body); err != nil {
			a.Log.Error("an answer could not be kept", "error", err)
		}
	}()
	if err := next(c); err != nil {
		a.problem(c, err)
	}
	keep = copied.status < 500 && copied.status != http.StatusTooManyRequests
	return nil
}

// copier keeps what goes through it.
type copier struct {
	http.ResponseWriter
	status int
	body   bytes.Buffer
}

func (w *copier) WriteHeader(status int) {
	w.status = status
	w.ResponseWriter.WriteHeader(status)
}

func (w *copier) Write(b []byte) (int, error) {
	if w.status == 0 {
		w.status = http.StatusOK
	}
	w.body.Write(b)
	return w.ResponseWriter.Write(b)
}

// Unwrap lets the framework find the response below.
func (w *copier) Unwrap() http.ResponseWriter { return w.ResponseWriter }
