package api

import (
	"archive/zip"
	"errors"
	"fmt"
	"mime"
	"strconv"
	"strings"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/store"
	"oliveledger/typeset/bind"
)

// Documents that are sent together, as a ZIP file or bound into one PDF: those of a batch, or some that were chosen.

// documents goes through some, in their order.
type documents func(func(store.Document) error) error

// named are the documents that a request names: ids=3,5.
func (a *API) named(c *echo.Context) (documents, error) {
	var list []store.Document
	for text := range strings.SplitSeq(c.QueryParam("ids"), ",") {
		id, err := strconv.ParseUint(strings.TrimSpace(text), 10, 64)
		if err != nil {
			return nil, bad("ids %q are not numbers of documents with commas between them", c.QueryParam("ids"))
		}
		if len(list) == maxAtOnce {
			return nil, bad("at most %d documents are sent together", maxAtOnce)
		}
		d, err := a.Store.Document(id)
		if err == nil {
			err = within(c, d.Template, false)
		}
		if err == nil && d.ErasedAt != nil {
			err = gone(d)
		}
		if err != nil {
			return nil, fmt.Errorf("document %d: %w", id, err)
		}
		list = append(list, d)
	}
	return func(each func(store.Document) error) error {
		for _, d := range list {
			if err := each(d); err != nil {
				return err
			}
		}
		return nil
	}, nil
}

// chosenZIP sends some documents in one file.
func (a *API) chosenZIP(c *echo.Context) error {
	list, err := a.named(c)
	if err != nil {
		return err
	}
	return a.sendZIP(c, "documents.zip", list)
}

// chosenPDF sends some documents bound into one PDF.
func (a *API) chosenPDF(c *echo.Context) error {
	list, err := a.named(c)
	if err != nil {
		return err
	}
	return a.sendBound(c, "documents.pdf", list)
}

// batchZIP sends all documents of a batch in one file.
func (a *API) batchZIP(c *echo.Context) error {
	b, err := a.batch(c)
	if err != nil {
		return err
	}
	return a.sendZIP(c, fmt.Sprintf("batch-%d.zip", b.ID), a.ofBatch(b))
}

// batchPDF sends all documents of a batch bound into one PDF.
func (a *API) batchPDF(c *echo.Context) error {
	b, err := a.batch(c)
	if err != nil {
		return err
	}
	return a.sendBound(c, fmt.Sprintf("batch-%d.pdf", b.ID), a.ofBatch(b))
}

func (a *API) ofBatch(b store.Batch) documents {
	return func(each func(store.Document) error) error { return a.Store.EachDocument(b.ID, each) }
}

func (a *API) sendZIP(c *echo.Context, name string, list documents) error {
	sendsFile(c, "application/zip", name)
	z := zip.NewWriter(c.Response())
	used := map[string]int{}
	err := list(func(d store.Document) error {
		data, err := a.Blobs.Get(c.Request().Context(), d.SHA256)
		if err != nil {
			return err
		}
		name := d.Name
		if used[name]++; used[name] > 1 {
			name = fmt.Sprintf("%d-%s", used[name], name)
		}
		w, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Store, Modified: d.CreatedAt}) // PDFs are deflated inside
		if err != nil {
			return err
		}
		_, err = w.Write(data)
		return err
	})
	if err != nil { // a cut file is no ZIP: the reader tells
		return err
	}
	return z.Close()
}

// maxBound bounds the documents that are bound into one file at once.
const maxBound = 5000

func (a *API) sendBound(c *echo.Context, name string, list documents) error {
	var sources []bind.Source
	err := list(func(d store.Document) error {
		if len(sources) == maxBound {
			return unprocessableText("the batch has more than %d documents; take the ZIP", maxBound)
		}
		data, err := a.Blobs.Get(c.Request().Context(), d.SHA256)
		sources = append(sources, bind.Source{Name: d.Name, Title: titleOf(d), Data: data})
		return err
	})
	if err != nil {
		return err
	}
	if len(sources) == 0 {
		return errors.Join(store.ErrNotFound)
	}
	sendsFile(c, "application/pdf", name)
	_, err = bind.Bind(c.Request().Context(), sources, bind.Options{RightHand: flag(c, "right-hand")}, c.Response())
	return err
}

// sendsFile tells what comes, and the name that it is to be saved under.
func sendsFile(c *echo.Context, kind, name string) {
	h := c.Response().Header()
	h.Set("Content-Type", kind)
	h.Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": name}))
}

func titleOf(d store.Document) string {
	if d.Title != "" {
		return d.Title
	}
	return d.Name
}
