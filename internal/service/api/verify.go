package api

import (
	"bytes"
	"errors"
	"html/template"
	"net/http"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/store"
)

// verdict is what the public page tells of a document. It shows no contents.
type verdict struct {
	Genuine, Void bool
	Ended         string // why a share link leads nowhere
	Number, Day   string
	Pages         int
	SHA256        string
}

// verifyPage tells anyone who has a document's code whether it is genuine.
func (a *API) verifyPage(c *echo.Context) error {
	d, err := a.Store.DocumentByCode(c.Param("code"))
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return err
	}
	v := verdict{}
	issued, void := false, false
	if err == nil && d.IssuedAt != nil {
		if issued, void, err = a.Store.Standing(d); err != nil {
			return err
		}
	}
	if issued {
		void = void || d.State == store.Void
		v = verdict{Genuine: !void, Void: void, Number: d.Number, Day: d.IssuedAt.Format("2 January 2006"), Pages: d.Pages, SHA256: d.SHA256}
	}
	var out bytes.Buffer
	if err := verdictPage.Execute(&out, v); err != nil {
		return err
	}
	status := http.StatusOK
	if !v.Genuine && !v.Void {
		status = http.StatusNotFound
	}
	c.Response().Header().Set("Cache-Control", "no-store")
	return c.HTMLBlob(status, out.Bytes())
}

var verdictPage = template.Must(template.New("verdict").Parse(`<!DOCTYPE html>
<html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><meta name="robots" content="noindex">
<title>{{if .Genuine}}Genuine document{{else if .Void}}Void document{{else if .Ended}}No document here{{else}}Not known{{end}}</title>
<style>
:root { color-scheme: light dark } body { margin: 0; min-height: 100vh; display: grid; place-items: center; font: 16px/1.5 system-ui, sans-serif; background: light-dark(#f3f4ec, #1d2017); color: light-dark(#24261e, #e9eade) }
main { width: min(520px, calc(100vw - 80px)); padding: 40px; border-radius: 14px; background: light-dark(#fff, #282c20); border-top: 6px solid #55682f } main.void { border-color: #a45a00 } main.none { border-color: #a4262c }
h1 { margin: 0 0 6px; font-size: 26px } p { margin: 0 0 18px } dl { display: grid; grid-template-columns: auto 1fr; gap: 6px 22px; margin: 0 } dt { color: light-dark(#63665a, #b3b6a5) } dd { margin: 0; overflow-wrap: anywhere } .sum { font: 13px/1.45 ui-monospace, monospace }
</style>
<main class="{{if .Genuine}}good{{else if .Void}}void{{else}}none{{end}}">
{{if .Genuine}}<h1>This document is genuine</h1><p>It was issued here and has not been withdrawn.</p>
{{else if .Void}}<h1>This document is void</h1><p>It was issued here, but does not count any more.</p>
{{else if .Ended}}<h1>There is no document here</h1><p>Sorry: {{.Ended}}. Ask whoever sent it for another one.</p>
{{else}}<h1>No such document</h1><p>This code belongs to no document that was issued here. Look whether the address was typed as it is printed.</p>{{end}}
{{if or .Genuine .Void}}<dl>{{with .Number}}<dt>Number<dd>{{.}}{{end}}<dt>Issued<dd>{{.Day}}<dt>Pages<dd>{{.Pages}}<dt>SHA-256<dd class="sum">{{.SHA256}}</dl>{{end}}
</main></html>`))
