package api

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"maps"
	"mime"
	"net/http"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/labstack/echo/v5"
	"github.com/pmezard/go-difflib/difflib"

	"oliveledger/internal/service/issue"
	"oliveledger/internal/service/store"
	"oliveledger/merge"
)

// FileInput is one file of a template in JSON: its text, or its bytes in base64.
type FileInput struct {
	Text   *string `json:"text,omitempty"`   // its contents, for files of text
	Base64 []byte  `json:"base64,omitempty"` // its bytes, for other files
}

func fileInput(path string, data []byte) FileInput {
	if isText(path) && utf8.Valid(data) {
		text := string(data)
		return FileInput{Text: &text}
	}
	return FileInput{Base64: data}
}

func (f FileInput) bytes() []byte {
	if f.Text != nil {
		return []byte(*f.Text)
	}
	return f.Base64
}

// TemplateInput are the files of a template folder by path.
type TemplateInput struct {
	Note  string               `json:"note,omitempty"` // what has changed
	Files map[string]FileInput `json:"files"`          // by their paths
}

// TemplateFiles is a version or draft of a template with its files.
type TemplateFiles struct {
	Name     string               `json:"name"`               // that it is called by
	Title    string               `json:"title"`              // as it is shown
	Latest   int                  `json:"latest"`             // the newest version; 0 when none is published
	Version  int                  `json:"version"`            // 0 of a draft
	Revision int                  `json:"revision"`           // of a draft
	Note     string               `json:"note"`               // what has changed
	Author   string               `json:"author"`             // who made this version
	Created  time.Time            `json:"created"`            // when this version was made
	Files    map[string]FileInput `json:"files"`              // by their paths
	Manifest *merge.Manifest      `json:"manifest,omitempty"` // when it can be read
	Fields   []string             `json:"fields,omitempty"`   // that the page uses
	Fault    string               `json:"fault,omitempty"`    // why the files are no template
}

// Published tells of a new version.
type Published struct {
	Name    string `json:"name"`    // of the template
	Title   string `json:"title"`   // of the template
	Version int    `json:"version"` // that was made
}

// FileDifference is how one file differs between two versions.
type FileDifference struct {
	Path   string `json:"path"`            // of the file in the template
	Change string `json:"change"`          // added, removed or changed
	Lines  string `json:"lines,omitempty"` // of text files: a unified diff
}

var templateName = regexp.MustCompile(`^[a-z0-9][a-z0-9-]{0,99}$`)

func checkTemplateName(name string) error {
	if !templateName.MatchString(name) {
		return bad("a template's name has small letters, digits and hyphens, at most 100: %q does not do", name)
	}
	return nil
}

func (a *API) listTemplates(c *echo.Context) error {
	return list(c, func(p store.Page) ([]store.Template, int64, error) {
		return a.Store.Templates(c.QueryParam("search"), p)
	})
}

// present shows files as JSON.
func (a *API) present(c *echo.Context, t store.Template, files issue.Files) (TemplateFiles, error) {
	out := TemplateFiles{Name: t.Name, Title: t.Title, Latest: t.Latest, Files: map[string]FileInput{}}
	for p, data := range files {
		out.Files[p] = fileInput(p, data)
	}
	about, err := a.Maker.About(c.Request().Context(), issue.Of(t.Name, files))
	switch {
	case c.Request().Context().Err() != nil:
		return out, err
	case err != nil:
		out.Fault = err.Error()
	default:
		out.Manifest, out.Fields = &about.Manifest, about.Fields
	}
	return out, nil
}

// version finds the version that a path names; without one, the newest.
func (a *API) version(c *echo.Context, param string) (t store.Template, v store.Version, err error) {
	if err = within(c, c.Param("name"), false); err != nil {
		return t, v, err
	}
	if t, err = a.Store.Template(c.Param("name")); err != nil {
		return t, v, err
	}
	number := 0
	if n := c.Param(param); n != "" {
		if number, err = strconv.Atoi(n); err != nil {
			return t, v, bad("%q is not a version number", n)
		}
	}
	v, err = a.Store.Version(t, number)
	return t, v, err
}

func (a *API) getTemplate(c *echo.Context) error {
	t, v, err := a.version(c, "number")
	if err != nil {
		return err
	}
	out, err := a.present(c, t, issue.FilesOf(v))
	if err != nil {
		return err
	}
	out.Version, out.Note, out.Author, out.Created = v.Number, v.Note, v.Author, v.CreatedAt
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
	if err := within(c, c.Param("name"), false); err != nil {
		return err
	}
	t, err := a.Store.Template(c.Param("name"))
	if err != nil {
		return err
	}
	return list(c, func(p store.Page) ([]store.Version, int64, error) { return a.Store.Versions(t, p) })
}

// templateInput reads a ZIP of a template folder, or its files as JSON.
func templateInput(c *echo.Context) (files issue.Files, note string, err error) {
	note = c.QueryParam("note")
	if strings.HasPrefix(c.Request().Header.Get("Content-Type"), "application/zip") {
		body, err := io.ReadAll(c.Request().Body)
		if err != nil {
			return nil, "", err
		}
		files, err = unzip(body)
		return files, note, err
	}
	if c.Request().ContentLength == 0 { // the draft is meant
		return nil, note, nil
	}
	in, err := read[TemplateInput](c)
	if err != nil {
		return nil, "", err
	}
	if in.Note != "" {
		note = in.Note
	}
	files, err = inputFiles(in.Files)
	return files, note, err
}

func inputFiles(in map[string]FileInput) (issue.Files, error) {
	files := issue.Files{}
	for p, f := range in {
		if !fs.ValidPath(p) || p == "." || len(p) > 250 {
			return nil, bad("%q is not a path inside a template", p)
		}
		files[p] = f.bytes()
	}
	return files, nil
}

// publish makes files the next version of a template.
func (a *API) publish(c *echo.Context) error {
	name := c.Param("name")
	if err := checkTemplateName(name); err != nil {
		return err
	}
	files, note, err := templateInput(c)
	if err != nil {
		return err
	}
	if len(files) == 0 { // what is being edited
		t, err := a.Store.Template(name)
		if err != nil {
			return err
		}
		d, err := a.Store.Draft(t)
		if err != nil {
			return fmt.Errorf("a draft of %s: %w", name, err)
		}
		contents, err := d.Contents()
		if err != nil {
			return err
		}
		files = contents
	}
	about, err := a.Maker.About(c.Request().Context(), issue.Of(name, files))
	if err != nil {
		return unprocessable(err)
	}
	title := about.Manifest.Title
	if title == "" {
		title = name
	}
	v := &store.Version{Note: note, Author: who(c).Email}
	for _, p := range slices.Sorted(maps.Keys(files)) {
		v.Files = append(v.Files, store.VersionFile{Path: p, Content: files[p]})
	}
	var row store.Template
	err = a.act(c, func(st *store.Store) (_ store.Event, err error) {
		row, err = st.Publish(name, title, v)
		return event("template.published", "template", name, "version %d: %s", v.Number, note), err
	})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, Published{row.Name, row.Title, v.Number})
}

func (a *API) getDraft(c *echo.Context) error {
	t, err := a.Store.Template(c.Param("name"))
	if err != nil {
		return err
	}
	d, err := a.Store.Draft(t)
	if errors.Is(err, store.ErrNotFound) && flag(c, "or-version") {
		return a.getTemplate(c)
	}
	if err != nil {
		return err
	}
	return a.answerDraft(c, t, d)
}

func (a *API) answerDraft(c *echo.Context, t store.Template, d store.Draft) error {
	contents, err := d.Contents()
	if err != nil {
		return err
	}
	out, err := a.present(c, t, contents)
	if err != nil {
		return err
	}
	out.Revision, out.Author, out.Created = d.Revision, d.Author, d.UpdatedAt
	return answer(c, http.StatusOK, d.Revision, out)
}

// saveDraft keeps files that are being edited. They need not be right yet, and
// what is published stays as it is.
func (a *API) saveDraft(c *echo.Context) error {
	name := c.Param("name")
	if err := checkTemplateName(name); err != nil {
		return err
	}
	rev, err := revision(c)
	if err != nil {
		return err
	}
	files, _, err := templateInput(c)
	if err != nil {
		return err
	}
	if len(files) == 0 {
		return bad("a draft needs “files”")
	}
	d, err := a.Store.SaveDraft(name, who(c).Email, files, rev)
	if err != nil {
		return err
	}
	t, err := a.Store.Template(name)
	if err != nil {
		return err
	}
	return a.answerDraft(c, t, d)
}

func (a *API) dropDraft(c *echo.Context) error {
	t, err := a.Store.Template(c.Param("name"))
	if err != nil {
		return err
	}
	err = a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.DropDraft(t)
		return event("draft.dropped", "template", t.Name, ""), err
	})
	if err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

// difference tells how a version differs from another.
func (a *API) difference(c *echo.Context) error {
	_, v, err := a.version(c, "number")
	if err != nil {
		return err
	}
	_, w, err := a.version(c, "other")
	if err != nil {
		return err
	}
	from, to := issue.FilesOf(v), issue.FilesOf(w)
	out := List[FileDifference]{Items: []FileDifference{}}
	paths := slices.Sorted(maps.Keys(from))
	for p := range to {
		if _, both := from[p]; !both {
			paths = append(paths, p)
		}
	}
	slices.Sort(paths)
	for _, p := range paths {
		before, had := from[p]
		after, has := to[p]
		if had && has && bytes.Equal(before, after) {
			continue
		}
		d := FileDifference{Path: p, Change: "changed"}
		switch {
		case !had:
			d.Change = "added"
		case !has:
			d.Change = "removed"
		}
		if isText(p) {
			d.Lines, err = difflib.GetUnifiedDiffString(difflib.UnifiedDiff{A: difflib.SplitLines(string(before)), B: difflib.SplitLines(string(after)), FromFile: fmt.Sprintf("%s (version %d)", p, v.Number), ToFile: fmt.Sprintf("%s (version %d)", p, w.Number), Context: 3})
			if err != nil {
				return err
			}
		}
		out.Items = append(out.Items, d)
	}
	out.Total = int64(len(out.Items))
	return c.JSON(http.StatusOK, out)
}

// getAsset gives one file of a version as it is.
func (a *API) getAsset(c *echo.Context) error {
	_, v, err := a.version(c, "number")
	if err != nil {
		return err
	}
	name := c.Param("*")
	data, ok := issue.FilesOf(v)[name]
	if !ok {
		return fmt.Errorf("the file %s: %w", name, store.ErrNotFound)
	}
	kind := harmless[strings.ToLower(path.Ext(name))]
	h := c.Response().Header()
	h.Set("Content-Security-Policy", "sandbox; default-src 'none'")
	if kind == "" { // a browser that opens it could run what it holds
		kind = "application/octet-stream"
		h.Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": path.Base(name)}))
	}
	return c.Blob(http.StatusOK, kind, data)
}

// harmless are the types of files that a browser shows without running anything.
var harmless = map[string]string{
	".png": "image/png", ".jpg": "image/jpeg", ".jpeg": "image/jpeg", ".gif": "image/gif", ".webp": "image/webp", ".css": "text/css; charset=utf-8",
	".txt": "text/plain; charset=utf-8", ".json": "application/json", ".woff": "font/woff", ".woff2": "font/woff2", ".ttf": "font/ttf", ".otf": "font/otf", ".pdf": "application/pdf",
}

// maxTemplate bounds a template's files together.
const maxTemplate = 128 << 20

func unzip(body []byte) (issue.Files, error) {
	z, err := zip.NewReader(bytes.NewReader(body), int64(len(body)))
	if err != nil {
		return nil, bad("the body is not a ZIP file: %v", err)
	}
	files, total := issue.Files{}, int64(0)
	for _, f := range z.File {
		if f.FileInfo().IsDir() {
			continue
		}
		if !fs.ValidPath(f.Name) || len(f.Name) > 250 {
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

// raw is a JSON value that is passed on as it is.
type raw = json.RawMessage
