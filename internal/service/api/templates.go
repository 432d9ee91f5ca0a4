package api

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"io"
	"io/fs"
	"net/http"
	"path"
	"regexp"
	"strconv"
	"strings"
	"testing/fstest"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/store"
	"oliveledger/merge"
)

// Files are the contents of a template folder by path.
type Files map[string][]byte

// FS shows the files as a file system.
func (f Files) FS() fs.FS {
	m := fstest.MapFS{}
	for name, data := range f {
		m[name] = &fstest.MapFile{Data: data, Mode: 0o444}
	}
	return m
}

func filesOf(v store.Version) Files {
	f := Files{}
	for _, x := range v.Files {
		f[x.Path] = x.Content
	}
	return f
}

var templateName = regexp.MustCompile(`^[a-z0-9][a-z0-9-]{0,99}$`)

func (a *API) listTemplates(c *echo.Context) error {
	list, err := a.Store.Templates()
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, map[string]any{"items": notNil(list)})
}

func notNil[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// getTemplate gives a version with its files; text files as text, others as
// base64.
func (a *API) getTemplate(c *echo.Context) error {
	t, err := a.Store.Template(c.Param("name"))
	if err != nil {
		return err
	}
	number := 0
	if n := c.Param("number"); n != "" {
		if number, err = strconv.Atoi(n); err != nil {
			return bad("%q is not a version number", n)
		}
	}
	v, err := a.Store.Version(t, number)
	if err != nil {
		return err
	}
	files := map[string]any{}
	for _, f := range v.Files {
		if isText(f.Path) {
			files[f.Path] = map[string]string{"text": string(f.Content)}
		} else {
			files[f.Path] = map[string]any{"base64": f.Content}
		}
	}
	out := map[string]any{"name": t.Name, "title": t.Title, "latest": t.Latest, "version": v.Number, "note": v.Note, "author": v.Author, "created": v.CreatedAt, "files": files}
	if opened, err := merge.Open(t.Name, filesOf(v).FS()); err == nil {
		out["manifest"] = opened.Manifest
	}
	return c.JSON(http.StatusOK, out)
}

func isText(name string) bool {
	switch strings.ToLower(path.Ext(name)) {
	case ".html", ".htm", ".css", ".json", ".yaml", ".yml", ".txt", ".md", ".svg", ".csv", ".xml":
		return true
	}
	return false
}

func (a *API) listVersions(c *echo.Context) error {
	t, err := a.Store.Template(c.Param("name"))
	if err != nil {
		return err
	}
	list, err := a.Store.Versions(t)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, map[string]any{"items": notNil(list)})
}

// fileInput is one file in a JSON body.
type fileInput struct {
	Text   *string `json:"text"`
	Base64 []byte  `json:"base64"`
}

func (f fileInput) bytes() []byte {
	if f.Text != nil {
		return []byte(*f.Text)
	}
	return f.Base64
}

// publishTemplate takes a ZIP of a template folder, or its files as JSON, as
// the next version.
func (a *API) publishTemplate(c *echo.Context) error {
	name := c.Param("name")
	if !templateName.MatchString(name) {
		return bad("a template's name has small letters, digits and hyphens, at most 100: %q does not do", name)
	}
	note := c.QueryParam("note")
	files := Files{}
	if strings.HasPrefix(c.Request().Header.Get("Content-Type"), "application/zip") {
		body, err := io.ReadAll(c.Request().Body)
		if err != nil {
			return err
		}
		if files, err = unzip(body); err != nil {
			return unprocessable(err)
		}
	} else {
		var in struct {
			Note  string               `json:"note"`
			Files map[string]fileInput `json:"files"`
		}
		if err := json.NewDecoder(c.Request().Body).Decode(&in); err != nil {
			return bad("the body is not JSON with “files”: %v", err)
		}
		if in.Note != "" {
			note = in.Note
		}
		for p, f := range in.Files {
			if !fs.ValidPath(p) {
				return bad("%q is not a path inside a template", p)
			}
			files[p] = f.bytes()
		}
	}
	t, err := merge.Open(name, files.FS())
	if err != nil {
		return unprocessable(err)
	}
	title := t.Manifest.Title
	if title == "" {
		title = name
	}
	v := &store.Version{Note: note, Author: who(c).Email}
	for p, data := range files {
		v.Files = append(v.Files, store.VersionFile{Path: p, Content: data})
	}
	row, err := a.Store.Publish(name, title, v)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, map[string]any{"name": row.Name, "title": row.Title, "version": v.Number})
}

// maxTemplate bounds a template's files together.
const maxTemplate = 128 << 20

func unzip(body []byte) (Files, error) {
	z, err := zip.NewReader(bytes.NewReader(body), int64(len(body)))
	if err != nil {
		return nil, bad("the body is not a ZIP file: %v", err)
	}
	files, total := Files{}, int64(0)
	for _, f := range z.File {
		if f.FileInfo().IsDir() {
			continue
		}
		if !fs.ValidPath(f.Name) {
			return nil, bad("%q is not a path inside a template", f.Name)
		}
		r, err := f.Open()
		if err != nil {
			return nil, bad("%s does not unpack: %v", f.Name, err)
		}
		data, err := io.ReadAll(io.LimitReader(r, maxTemplate-total+1))
		r.Close()
		if err != nil {
			return nil, bad("%s does not unpack: %v", f.Name, err)
		}
		if total += int64(len(data)); total > maxTemplate {
			return nil, bad("the template's files are larger than %d MiB together", maxTemplate>>20)
		}
		files[f.Name] = data
	}
	return files, nil
}
