package api

import (
	"bytes"
	"compress/gzip"
	"io"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/store"
)

// console serves the web console; unknown paths are views of its own.
func (a *API) console(c *echo.Context) error {
	name := strings.TrimPrefix(c.Request().URL.Path, "/")
	asset := strings.HasPrefix(name, "assets/")
	if data, packed, ok := consoleFile(a.Console, name); ok {
		if asset {
			c.Response().Header().Set("Cache-Control", "public, max-age=31536000, immutable") // its name changes with it
		}
		return sendPacked(c, name, data, packed)
	}
	if asset { // of another build: a page would not do instead
		return store.ErrNotFound
	}
	page, err := fs.ReadFile(a.Console, "index.html")
	if err != nil {
		return echo.NewHTTPError(http.StatusNotFound, "the console is not part of this build; run make build")
	}
	c.Response().Header().Set("Cache-Control", "no-cache")
	return c.HTMLBlob(http.StatusOK, page)
}

// consoleFile reads a file of the console; packed tells that its bytes are in gzip, as a build keeps most of them.
func consoleFile(files fs.FS, name string) (data []byte, packed, ok bool) {
	if data, err := fs.ReadFile(files, name+".gz"); err == nil {
		return data, true, true
	}
	data, err := fs.ReadFile(files, name)
	return data, false, err == nil
}

// sendPacked answers with a file: packed, if it is and the caller takes that (RFC 9110, §8.4 and §12.5.3).
func sendPacked(c *echo.Context, name string, data []byte, packed bool) error {
	kind := mime.TypeByExtension(path.Ext(name))
	if !packed {
		return c.Blob(http.StatusOK, kind, data)
	}
	h := c.Response().Header()
	h.Add("Vary", "Accept-Encoding")
	if takesGzip(c.Request().Header.Get("Accept-Encoding")) {
		h.Set("Content-Encoding", "gzip")
		return c.Blob(http.StatusOK, kind, data)
	}
	plain, err := gzip.NewReader(bytes.NewReader(data))
	if err != nil {
		return err
	}
	data, err = io.ReadAll(plain)
	if err != nil {
		return err
	}
	return c.Blob(http.StatusOK, kind, data)
}

// takesGzip tells whether a list of codings names gzip without refusing it.
func takesGzip(accepted string) bool {
	for coding := range strings.SplitSeq(accepted, ",") {
		name, weight, _ := strings.Cut(coding, ";")
		if strings.EqualFold(strings.TrimSpace(name), "gzip") {
			_, q, weighed := strings.Cut(weight, "q=")
			return !weighed || strings.Trim(strings.TrimSpace(q), "0.") != ""
		}
	}
	return false
}
