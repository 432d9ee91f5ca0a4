// Package api serves the HTTP API: one file for each resource.
package api

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net/http"
	"strconv"
	"strings"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"oliveledger/internal/service/blob"
	"oliveledger/internal/service/store"
)

// API answers requests.
type API struct {
	Store   *store.Store
	Blobs   *blob.Folder
	Log     *slog.Logger
	Console fs.FS
	Slots   chan struct{} // how many renderings go on at once

	throttle throttle
}

// maxBody bounds what a request may carry.
const maxBody = 256 << 20

// Handler makes the routes.
func (a *API) Handler() http.Handler {
	e := echo.New()
	e.HTTPErrorHandler = a.problem
	e.Use(middleware.Recover(), middleware.BodyLimit(maxBody), headers)
	e.GET("/healthz", func(c *echo.Context) error {
		if err := a.Store.Ping(); err != nil {
			return echo.NewHTTPError(http.StatusServiceUnavailable, "the database does not answer")
		}
		return c.String(http.StatusOK, "ok\n")
	})
	v1 := e.Group("/api/v1")
	v1.POST("/session", a.logIn)
	in := v1.Group("", a.authenticate)
	in.GET("/session", a.whoAmI)
	in.DELETE("/session", a.logOut)
	in.POST("/keys", a.addKey)
	in.GET("/templates", a.listTemplates)
	in.GET("/templates/:name", a.getTemplate)
	in.PUT("/templates/:name", a.publishTemplate)
	in.GET("/templates/:name/versions", a.listVersions)
	in.GET("/templates/:name/versions/:number", a.getTemplate)
	in.GET("/record-sets", a.listRecordSets)
	in.POST("/record-sets", a.importRecords)
	in.GET("/record-sets/:id", a.getRecordSet)
	in.GET("/record-sets/:id/records", a.listRecords)
	in.GET("/record-sets/:id/records/:number", a.getRecord)
	in.POST("/renderings", a.render)
	in.POST("/documents", a.issue)
	in.GET("/documents", a.listDocuments)
	in.GET("/documents/:id", a.getDocument)
	in.GET("/documents/:id/pdf", a.getPDF)
	v1.Any("/*", func(*echo.Context) error { return echo.NewHTTPError(http.StatusNotFound, "there is no such resource") })
	e.GET("/*", a.console)
	return e
}

// headers keep pages from doing what they need not.
func headers(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		h := c.Response().Header()
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("X-Frame-Options", "SAMEORIGIN")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Content-Security-Policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; worker-src 'self' blob:; font-src 'self' data: blob:; connect-src 'self' blob:; object-src 'none'; frame-ancestors 'self'; base-uri 'self'")
		return next(c)
	}
}

// console serves the web console; unknown paths are views of its own.
func (a *API) console(c *echo.Context) error {
	name := strings.TrimPrefix(c.Request().URL.Path, "/")
	if name != "" {
		if f, err := a.Console.Open(name); err == nil {
			defer f.Close()
			if st, err := f.Stat(); err == nil && !st.IsDir() {
				if strings.HasPrefix(name, "assets/") {
					c.Response().Header().Set("Cache-Control", "public, max-age=31536000, immutable")
				}
				http.ServeContent(c.Response(), c.Request(), name, st.ModTime(), f.(io.ReadSeeker))
				return nil
			}
		}
	}
	page, err := fs.ReadFile(a.Console, "index.html")
	if err != nil {
		return echo.NewHTTPError(http.StatusNotFound, "the console is not part of this build; run make build")
	}
	c.Response().Header().Set("Cache-Control", "no-cache")
	return c.HTMLBlob(http.StatusOK, page)
}

// Problem is an error as the API tells it (RFC 9457).
type Problem struct {
	Type   string `json:"type"`
	Title  string `json:"title"`
	Status int    `json:"status"`
	Detail string `json:"detail"`
}

func (a *API) problem(c *echo.Context, err error) {
	status, detail := http.StatusInternalServerError, "something went wrong in the service; its log tells more"
	var known interface{ StatusCode() int }
	switch {
	case errors.Is(err, store.ErrNotFound):
		status, detail = http.StatusNotFound, "there is no such thing here"
	case errors.As(err, &known):
		status = known.StatusCode()
		detail = err.Error()
		var he *echo.HTTPError
		if errors.As(err, &he) {
			detail = he.Message
		}
		if status == http.StatusRequestEntityTooLarge {
			detail = fmt.Sprintf("the request is larger than %d MiB", maxBody>>20)
		}
	default:
		a.Log.Error("request failed", "path", c.Request().URL.Path, "error", err)
	}
	c.Response().Header().Set("Content-Type", "application/problem+json")
	body := Problem{Type: "about:blank", Title: http.StatusText(status), Status: status, Detail: detail}
	if e := c.JSON(status, body); e != nil {
		a.Log.Error("the answer could not be written", "error", e)
	}
}

func bad(format string, args ...any) error {
	return echo.NewHTTPError(http.StatusBadRequest, fmt.Sprintf(format, args...))
}

func unprocessable(err error) error {
	return echo.NewHTTPError(http.StatusUnprocessableEntity, err.Error())
}

func idParam(c *echo.Context, name string) (uint64, error) {
	v, err := strconv.ParseUint(c.Param(name), 10, 63)
	if err != nil {
		return 0, bad("%q is not a number", c.Param(name))
	}
	return v, nil
}

// pageOf reads offset and limit.
func pageOf(c *echo.Context) (offset, limit int, err error) {
	limit = 50
	if v := c.QueryParam("offset"); v != "" {
		if offset, err = strconv.Atoi(v); err != nil || offset < 0 {
			return 0, 0, bad("offset %q is not a number from 0", v)
		}
	}
	if v := c.QueryParam("limit"); v != "" {
		if limit, err = strconv.Atoi(v); err != nil || limit < 1 || limit > 500 {
			return 0, 0, bad("limit %q is not a number from 1 to 500", v)
		}
	}
	return offset, limit, nil
}
