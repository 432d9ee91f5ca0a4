package api

import (
	"context"
	"net/http"
	"time"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/pagecopy"
	"oliveledger/typeset"
)

// PageAddress names a page of the web.
type PageAddress struct {
	Address string `json:"address"` // of the page, on a host that --page-host allows
}

// PageCopy is a page of the web as files of a template.
type PageCopy struct {
	Title string               `json:"title"` // of the page; empty when it has none
	Files map[string]FileInput `json:"files"` // the page as page.html, with its style sheets, pictures and fonts
	Notes []string             `json:"notes"` // what could not be brought with it
}

// The most of a page that is copied, in bytes of one file, and how long that may take.
const (
	largestPart = 8 << 20
	copyTime    = time.Minute
)

// copyPage fetches a page that a template may begin with.
func (a *API) copyPage(c *echo.Context) error {
	in, err := read[PageAddress](c)
	if err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(c.Request().Context(), copyTime)
	defer cancel()
	found, err := pagecopy.Fetch(ctx, &typeset.Web{Hosts: a.PageHosts, Private: a.PageHosts, Limit: largestPart}, in.Address)
	if err != nil {
		return unprocessableText("the page cannot be copied: %v; hosts are allowed with --page-host", err)
	}
	out := PageCopy{Title: found.Title, Files: map[string]FileInput{}, Notes: append([]string{}, found.Notes...)}
	for name, data := range found.Files {
		out.Files[name] = fileInput(name, data)
	}
	return c.JSON(http.StatusOK, out)
}
