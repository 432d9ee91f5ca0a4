package api

import (
	"io"
	"net/http"
	"path"
	"strings"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/press"
	"oliveledger/internal/service/store"
)

func (a *API) listFonts(c *echo.Context) error { return list(c, a.Store.Fonts) }

// addFont puts a font file on the shelf.
func (a *API) addFont(c *echo.Context) error {
	name := path.Base(strings.TrimSpace(c.QueryParam("name")))
	if name == "." || name == "/" {
		return bad("the font needs the name of its file: ?name=…")
	}
	data, err := io.ReadAll(c.Request().Body)
	if err != nil {
		return err
	}
	font, err := a.Maker.Press.Font(c.Request().Context(), press.FontFile{Name: name, Data: data})
	if err != nil {
		return unprocessable(err)
	}
	sum, err := a.Blobs.Put(c.Request().Context(), data)
	if err != nil {
		return err
	}
	f := store.ShelfFont{File: name, Family: font.Family, MinWeight: int(font.MinWeight), MaxWeight: int(font.MaxWeight), Italic: font.Italic, Bytes: len(data), SHA256: sum, Author: who(c).Email}
	err = a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.AddFont(&f)
		return event("font.added", "font", f.ID, "%s: %s", f.File, f.Family), err
	})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, f)
}

// withdrawFont takes a font off the shelf.
func (a *API) withdrawFont(c *echo.Context) error {
	err := a.act(c, func(st *store.Store) (store.Event, error) {
		f, err := find(c, st.WithdrawFont)
		return event("font.withdrawn", "font", f.ID, "%s: %s", f.File, f.Family), err
	})
	if err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}
