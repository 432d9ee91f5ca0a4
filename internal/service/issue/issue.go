// Package issue makes documents in the service: it merges records into template
// versions, sets them, and keeps the PDF with its rows.
package issue

import (
	"context"
	"crypto/rand"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"oliveledger/internal/press"
	"oliveledger/internal/service/blob"
	"oliveledger/internal/service/clock"
	"oliveledger/internal/service/store"
	"oliveledger/merge"
	"oliveledger/typeset"
)

// Maker makes documents.
type Maker struct {
	Store  *store.Store
	Blobs  blob.Store
	Press  *press.Pool
	Public string // address that people outside reach the service at
	Limits typeset.Limits
	Signer *Signer // nil for none

	opened *lru.Cache[string, *Template]
	abouts *lru.Cache[string, *press.About]
	shelf  *lru.Cache[int, []store.ShelfFont] // fonts by the state of the shelf
}

// New makes a maker. public is the address that printed links lead to.
func New(st *store.Store, blobs blob.Store, p *press.Pool, public string, limits typeset.Limits) *Maker {
	opened, err := lru.New[string, *Template](64)
	if err != nil {
		panic(err) // the size is positive
	}
	abouts, err := lru.New[string, *press.About](64)
	if err != nil {
		panic(err) // the size is positive
	}
	shelf, err := lru.New[int, []store.ShelfFont](4)
	if err != nil {
		panic(err) // the size is positive
	}
	return &Maker{Store: st, Blobs: blobs, Press: p, Public: strings.TrimRight(public, "/"), Limits: limits, opened: opened, abouts: abouts, shelf: shelf}
}

// Pages is what setting a page gave.
type Pages struct {
	Shelf int // state of the fonts
	*press.Pages
}

// fonts gives those that all templates can name, as they were in a state of the shelf.
func (m *Maker) fonts(state int) ([]store.ShelfFont, error) {
	if list, ok := m.shelf.Get(state); ok || state == 0 {
		return list, nil
	}
	list, err := m.Store.FontsAt(state)
	if err == nil {
		m.shelf.Add(state, list)
	}
	return list, err
}

// Now is the state of the font shelf.
const Now = -1

// Set sets a page with the fonts of a state of the shelf. A template that is given is the page's.
func (m *Maker) Set(ctx context.Context, t *Template, p press.Page, shelf int) (*Pages, error) {
	if shelf == Now {
		var err error
		if shelf, err = m.Store.Shelf(); err != nil {
			return nil, err
		}
	}
	fonts, err := m.fonts(shelf)
	if err != nil {
		return nil, err
	}
	for _, f := range fonts {
		p.Fonts = append(p.Fonts, f.SHA256)
	}
	if t != nil {
		p.Template = t.Key
	}
	p.Limits = m.Limits
	set, err := m.Press.Set(ctx, p, m.goods(t, fonts))
	if err != nil {
		return nil, err
	}
	return &Pages{shelf, set}, nil
}

// goods supplies a template's files and the shelf's fonts.
func (m *Maker) goods(t *Template, fonts []store.ShelfFont) press.Supply {
	return func(ctx context.Context, key string) (press.Goods, error) {
		if t != nil && key == t.Key {
			return press.Goods{Key: key, Name: t.Name, Files: t.Files}, nil
		}
		for _, f := range fonts {
			if f.SHA256 == key {
				data, err := m.Blobs.Get(ctx, key)
				if err != nil {
					err = fmt.Errorf("the font %s is on the shelf, but its file cannot be read: %w", f.File, err)
				}
				return press.Goods{Key: key, Name: f.File, Font: data}, err
			}
		}
		return press.Goods{}, fmt.Errorf("there are no goods %q", key)
	}
}

// About tells of a template, or why its files are none. The key stands for the files, so that what is found
// out of them is kept.
func (m *Maker) About(ctx context.Context, t *Template) (*press.About, error) {
	if known, ok := m.abouts.Get(t.Key); ok {
		return known, nil
	}
	about, err := m.Press.About(ctx, t.Key, m.goods(t, nil))
	if err == nil {
		m.abouts.Add(t.Key, about)
	}
	return about, err
}

// Fill fills patterns with what a document was made of.
func (m *Maker) Fill(ctx context.Context, t *Template, d *store.Document, patterns []string) ([]string, error) {
	return m.Press.Fill(ctx, press.Texts{Template: t.Key, Record: recordOf(d), Patterns: patterns}, m.goods(t, nil))
}

// Check tells for each record what the template's schema does not allow.
func (m *Maker) Check(ctx context.Context, t *Template, rows []store.Record) ([]string, error) {
	in := press.Checks{Template: t.Key}
	for _, r := range rows {
		in.Records = append(in.Records, press.Record{Number: r.Number, Data: []byte(r.Data)})
	}
	return m.Press.Check(ctx, in, m.goods(t, nil))
}

// Order says how a document is to be made.
type Order struct {
	Template *Template
	Record   int    // its place in its set
	Data     string // the record as JSON, as json.Marshal writes it
	Set      uint64 // that the record is of; 0 for none
	Batch    uint64
	Series   string // that gives it a number
	Draft    bool   // it waits to be approved
	Shelf    int    // the state of the fonts that it is set with, or Now
	Author   string
	Person   uint64 // behind the author
}

// Prepare gives the row of a document and how its pages are set.
func (m *Maker) Prepare(ctx context.Context, o Order) (*store.Document, store.Setting) {
	d := &store.Document{
		Template: o.Template.Name, Version: o.Template.Version, RecordSetID: o.Set, Record: o.Record, BatchID: o.Batch, Series: o.Series,
		Data: o.Data, RecordSHA256: store.SumOf(o.Data), State: store.Issued, Author: o.Author, PersonID: o.Person, CreatedAt: clock.Now().Truncate(time.Second),
	}
	m.address(d)
	if o.Draft {
		d.State = store.Drafted
	}
	return d, m.setting(ctx, o.Template, o.Shelf)
}

// Try sets the pages of a document as they would be if it were issued now with a number, and keeps nothing.
func (m *Maker) Try(ctx context.Context, o Order, number string) (*Pages, error) {
	d, _ := m.Prepare(ctx, o)
	if d.State == store.Issued {
		d.Number, d.IssuedAt = number, &d.CreatedAt
	}
	return m.pages(ctx, o.Template, d, o.Shelf)
}

// address gives a document its public page.
func (m *Maker) address(d *store.Document) {
	d.Code = Secret()
	d.Verify = m.Public + "/verify/" + d.Code
}

// setting sets a record's document with its number, signs it and keeps the bytes.
func (m *Maker) setting(ctx context.Context, t *Template, shelf int) store.Setting {
	return func(d *store.Document) error {
		p, err := m.pages(ctx, t, d, shelf)
		if err != nil {
			return err
		}
		d.Name = p.Name
		if end := p.Keep.End(issuedAt(d)); !end.IsZero() {
			d.KeepUntil = &end
		}
		return m.keep(ctx, d, p)
	}
}

// pages sets the pages of a record's document. The day that it was made on is today, also when it is set again.
func (m *Maker) pages(ctx context.Context, t *Template, d *store.Document, shelf int) (*Pages, error) {
	if t == nil {
		return m.Set(ctx, nil, press.Page{HTML: []byte(d.Data)}, shelf)
	}
	r := recordOf(d)
	return m.Set(ctx, t, press.Page{Record: &r, Today: d.CreatedAt, Options: press.Options{Named: true}}, shelf)
}

// issuedAt is when a document was issued, or made.
func issuedAt(d *store.Document) time.Time {
	if d.IssuedAt != nil {
		return *d.IssuedAt
	}
	return d.CreatedAt
}

func (m *Maker) keep(ctx context.Context, d *store.Document, p *Pages) error {
	findings, err := json.Marshal(p.Findings)
	if err != nil {
		return err
	}
	file, err := m.signed(ctx, d, p)
	if err != nil {
		return err
	}
	d.Title, d.Pages, d.Bytes, d.Findings, d.Shelf = p.Title, p.Document.Pages, len(file), string(findings), p.Shelf
	if d.SHA256, err = m.Blobs.Put(ctx, file); err != nil {
		return &Unkept{err}
	}
	return nil
}

// Unkept is a document that was set, and whose bytes could not be kept.
type Unkept struct{ error }

func (u *Unkept) Unwrap() error { return u.error }

// recordOf is what a document is made of, with the field “document”: what the ledger knows of it.
func recordOf(d *store.Document) press.Record {
	about := map[string]string{"number": d.Number, "code": d.Code, "state": d.State, "issued": "", "verify": d.Verify}
	if d.State == store.Drafted {
		about["number"] = "DRAFT" // it gets one when it is issued
	}
	if d.IssuedAt != nil {
		about["issued"] = d.IssuedAt.UTC().Format(time.DateOnly)
	}
	return press.Record{Number: d.Record, Data: []byte(d.Data), Document: about}
}

// PrepareHTML gives the row of a posted page, and how it is set.
func (m *Maker) PrepareHTML(ctx context.Context, html, name, author string) (*store.Document, store.Setting) {
	name = merge.SafeName(name)
	if name == "" {
		name = "page.pdf"
	}
	d := &store.Document{Name: name, Data: html, RecordSHA256: store.SumOf(html), State: store.Issued, Author: author}
	m.address(d)
	return d, m.settingHTML(ctx, Now)
}

func (m *Maker) settingHTML(ctx context.Context, shelf int) store.Setting {
	return func(d *store.Document) error {
		p, err := m.pages(ctx, nil, d, shelf)
		if err != nil {
			return err
		}
		return m.keep(ctx, d, p)
	}
}

// Again is how the pages of a document that was kept are set once more, from
// what its row holds.
func (m *Maker) Again(ctx context.Context, d *store.Document) (store.Setting, error) {
	t, err := m.madeOf(d)
	if err != nil {
		return nil, err
	}
	if t == nil {
		return m.settingHTML(ctx, d.Shelf), nil
	}
	return m.setting(ctx, t, d.Shelf), nil
}

// madeOf is the template that a document was made of; nil for a page that was posted.
func (m *Maker) madeOf(d *store.Document) (*Template, error) {
	if d.ErasedAt != nil {
		return nil, &store.Refusal{Reason: fmt.Sprintf("document %d was erased: the record that it was made of is gone", d.ID)}
	}
	if d.Template == "" {
		return nil, nil
	}
	return m.Open(d.Template, d.Version)
}

// Same sets an issued document again and tells whether the bytes are those that
// were issued, up to the signature.
func (m *Maker) Same(ctx context.Context, d store.Document) (bool, error) {
	t, err := m.madeOf(&d)
	if err != nil {
		return false, err
	}
	again := d
	again.State = store.Issued // as it was when it was set
	p, err := m.pages(ctx, t, &again, d.Shelf)
	if err != nil {
		return false, err
	}
	if p.Signed == "" {
		return store.SumOf(string(p.PDF)) == d.SHA256, nil
	}
	issued, err := m.Blobs.Get(ctx, d.SHA256)
	if err != nil {
		return false, err
	}
	return m.signedFrom(issued, p.PDF)
}

// Secret makes an unguessable text.
func Secret() string {
	b := make([]byte, 24)
	rand.Read(b)
	return base64.RawURLEncoding.EncodeToString(b)
}
