package api

import (
	"context"
	"io"
	"net/http"
	"strings"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"
)

// What the body of a request may be, in bytes.
const (
	MaxBody        = 256 << 20 // a file: records, a font, a ZIP of a template
	maxJSON        = 96 << 20  // JSON or a form, which takes several times as much while it is read
	maxUnknownBody = 8 << 10   // from one who is not known yet

	bodiesAtOnce = 128 << 20 // all that are held in memory
	smallBody    = 1 << 20   // those that are not counted
)

// limitBody ends requests that carry too much.
func limitBody(known bool, next echo.HandlerFunc) echo.HandlerFunc {
	unknown, json, file := middleware.BodyLimit(maxUnknownBody)(next), middleware.BodyLimit(maxJSON)(next), middleware.BodyLimit(MaxBody)(next)
	return func(c *echo.Context) error {
		switch {
		case !known:
			return unknown(c)
		case isFile(c):
			return file(c)
		}
		return json(c)
	}
}

// isFile tells whether a body is a file by itself.
func isFile(c *echo.Context) bool {
	kind := c.Request().Header.Get("Content-Type")
	return strings.HasPrefix(kind, "application/zip") || strings.HasPrefix(kind, "application/octet-stream") || !strings.Contains(kind, "json") && !strings.Contains(kind, "form")
}

// weighed has requests with large bodies wait until there is memory for them.
func (a *API) weighed(streams bool, next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		size := c.Request().ContentLength
		if size >= 0 && size <= smallBody || streams && c.Request().Header.Get("Idempotency-Key") == "" {
			return next(c)
		}
		if size < 0 || size > bodiesAtOnce {
			size = bodiesAtOnce
		}
		ctx, cancel := context.WithTimeout(c.Request().Context(), maxWait)
		defer cancel()
		if a.bodies.Acquire(ctx, size) != nil {
			c.Response().Header().Set("Retry-After", "2")
			return echo.NewHTTPError(http.StatusServiceUnavailable, "too many large requests at once; try again in a moment")
		}
		defer a.bodies.Release(size)
		return next(c)
	}
}

// patience is how long the next part of a request's body may be in coming.
const patience = 30 * time.Second

// patient ends requests whose bodies do not come.
func patient(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		r.Body = &patientBody{r.Body, http.NewResponseController(c.Response())}
		return next(c)
	}
}

type patientBody struct {
	io.ReadCloser
	connection *http.ResponseController
}

// Read waits for the next part, but not for ever. Afterwards the server may wait for the caller to go away.
func (b *patientBody) Read(p []byte) (int, error) {
	_ = b.connection.SetReadDeadline(time.Now().Add(patience)) // what has no deadline is no connection
	n, err := b.ReadCloser.Read(p)
	_ = b.connection.SetReadDeadline(time.Time{})
	return n, err
}
