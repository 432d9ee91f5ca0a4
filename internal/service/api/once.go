package api

import (
	"bytes"
	"errors"
	"io"
	"net/http"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/store"
)

// once answers a request that comes again with the same Idempotency-Key as it
// was answered the first time, and does nothing again. One that was refused is looked at anew. What the request does and its answer are one
// transaction: after a crash there are both, or neither. An answer with a secret is
// not kept: it is told that there was one.
func (a *API) once(secret bool, do handler) echo.HandlerFunc {
	return func(c *echo.Context) error {
		key := c.Request().Header.Get("Idempotency-Key")
		if key == "" {
			return do(a, c)
		}
		if len(key) > 200 {
			return bad("an Idempotency-Key has at most 200 characters")
		}
		body, err := io.ReadAll(c.Request().Body)
		if err != nil {
			return err
		}
		key = store.SumOf(who(c).Email + "\n" + c.Request().Method + " " + c.Request().URL.RequestURI() + "\n" + key)
		if err := a.Store.ForgetAnswers(); err != nil {
			return err
		}
		var out *answering
		err = a.Store.Together(func(st *store.Store) error { // it may be begun again
			known, err := st.BeginAnswer(key, store.SumOf(string(body)))
			switch {
			case err != nil:
				return err
			case known != nil && known.Body != store.SumOf(string(body)):
				return echo.NewHTTPError(http.StatusUnprocessableEntity, "this Idempotency-Key came with another body before")
			case known != nil:
				out = replayed(known)
				return nil
			}
			within := *a
			within.Store = st
			c.Request().Body = io.NopCloser(bytes.NewReader(body))
			if out, err = within.first(c, do); err != nil {
				return err
			}
			return st.EndAnswer(out.toKeep(key, secret))
		})
		if errors.Is(err, store.ErrWorkedOn) {
			c.Response().Header().Set("Retry-After", "1")
			return echo.NewHTTPError(http.StatusConflict, "the first request with this Idempotency-Key is still worked on")
		}
		if err != nil && !errors.Is(err, errNotKept) {
			return err
		}
		return out.send(c.Response())
	}
}

// errNotKept undoes what a request did whose answer may be another one next time.
var errNotKept = errors.New("the answer is not kept")

// first does what a request asks within a transaction, and gives its answer.
func (a *API) first(c *echo.Context, do handler) (*answering, error) {
	outer := c.Response()
	out := &answering{below: outer, header: outer.Header().Clone(), status: http.StatusOK}
	c.SetResponse(out)
	defer c.SetResponse(outer)
	err := do(a, c)
	if store.Passing(err) {
		return nil, err
	}
	if err != nil {
		a.problem(c, err)
	}
	if out.status >= 400 { // nothing was done, and next time it may be
		return out, errNotKept
	}
	return out, nil
}

// answering is an answer that is not sent yet.
type answering struct {
	below  http.ResponseWriter
	header http.Header
	status int
	body   bytes.Buffer
}

func (w *answering) Header() http.Header         { return w.header }
func (w *answering) WriteHeader(status int)      { w.status = status }
func (w *answering) Write(b []byte) (int, error) { return w.body.Write(b) }

// Unwrap lets the framework find the response below.
func (w *answering) Unwrap() http.ResponseWriter { return w.below }

// replayed is an answer that was given before.
func replayed(known *store.Answer) *answering {
	out := &answering{header: http.Header{"Content-Type": {known.Type}, "Idempotent-Replayed": {"true"}}, status: known.Status}
	out.body.Write(known.Answer)
	return out
}

// toKeep is what will be answered when the request comes again.
func (w *answering) toKeep(key string, secret bool) store.Answer {
	if secret && w.status < 300 {
		const told = "this was made by the first request with this Idempotency-Key; its secret is told only once"
		return store.Answer{Key: key, Status: http.StatusConflict, Type: "application/problem+json", Answer: problemJSON(http.StatusConflict, told)}
	}
	return store.Answer{Key: key, Status: w.status, Type: w.header.Get("Content-Type"), Answer: w.body.Bytes()}
}

func (w *answering) send(to http.ResponseWriter) error {
	for name, values := range w.header {
		to.Header()[name] = values
	}
	to.WriteHeader(w.status)
	_, err := to.Write(w.body.Bytes())
	return err
}
