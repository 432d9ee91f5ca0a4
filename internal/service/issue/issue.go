// Package issue makes documents in the service: it merges records into template
// versions, sets them, and keeps the PDF with its rows.
package issue

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"io/fs"
	"maps"
	"strings"
	"testing/fstest"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"oliveledger/internal/service/blob"
	"oliveledger/internal/service/store"
	"oliveledger/internal/setting"
	"oliveledger/merge"
	"oliveledger/record"
	"oliveledger/typeset"
)

// Maker makes documents.
type Maker struct {
	Store  *store.Store
	Blobs  blob.Store
	Public string // address that people outside reach the service at
	Limits typeset.Limits

	opened *lru.Cache[string, *Template]
	fonts  *lru.Cache[int, []*typeset.Font] // by the state of the shelf
}

// New makes a maker. public is the address that printed links lead to.
func New(st *store.Store, blobs blob.Store, public string, limits typeset.Limits) *Maker {
	opened, err := lru.New[string, *Template](64)
	if err != nil {
		panic(err) // the size is positive
	}
	fonts, err := lru.New[int, []*typeset.Font](4)
	if err != nil {
		panic(err) // the size is positive
	}
	return &Maker{Store: st, Blobs: blobs, Public: strings.TrimRight(public, "/"), Limits: limits, opened: opened, fonts: fonts}
}

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

// FilesOf are the files of a version.
func FilesOf(v store.Version) Files {
	f := Files{}
	for _, x := range v.Files {
		f[x.Path] = x.Content
	}
	return f
}

// Template is a parsed template with its files.
type Template struct {
	Name    string
	Version int
	Files   Files
	*merge.Template
}

// Open parses files as a template.
func Open(name string, files Files) (*Template, error) {
	t, err := merge.Open(name, files.FS())
	if err != nil {
		return nil, err
	}
	return &Template{Name: name, Files: files, Template: t}, nil
}

// On is the template with the date that the function today gives.
func (t *Template) On(date time.Time) (*Template, error) {
	dated, err := t.Template.On(date)
	if err != nil {
		return nil, err
	}
	out := *t
	out.Template = dated
	return &out, nil
}

// Open finds a version of a template; 0 is the newest. Versions do not change,
// so that what is parsed is kept.
func (m *Maker) Open(name string, version int) (*Template, error) {
	if version == 0 {
		t, err := m.template(name)
		if err != nil {
			return nil, err
		}
		version = t.Latest
	}
	key := fmt.Sprint(name, "/", version)
	if found, ok := m.opened.Get(key); ok {
		return found, nil
	}
	found, err := m.read(name, version)
	if err == nil {
		m.opened.Add(key, found)
	}
	return found, err
}

func (m *Maker) template(name string) (store.Template, error) {
	t, err := m.Store.Template(name)
	if err != nil {
		err = fmt.Errorf("template %q: %w", name, err)
	}
	return t, err
}

// read gets a version from the database and parses it.
func (m *Maker) read(name string, version int) (*Template, error) {
	t, err := m.template(name)
	if err != nil {
		return nil, err
	}
	v, err := m.Store.Version(t, version)
	if err != nil {
		return nil, fmt.Errorf("template %q, version %d: %w", name, version, err)
	}
	found, err := Open(name, FilesOf(v))
	if err != nil {
		return nil, err
	}
	found.Version = v.Number
	return found, nil
}

// Pages is what setting a page gave.
type Pages struct {
	HTML  []byte
	PDF   []byte
	Shelf int // state of the fonts
	*typeset.Document
}

// shelf gives the fonts that all templates can name, as they were in a state of
// the shelf.
func (m *Maker) shelf(ctx context.Context, state int) ([]*typeset.Font, error) {
	if list, ok := m.fonts.Get(state); ok || state == 0 {
		return list, nil
	}
	rows, err := m.Store.FontsAt(state)
	if err != nil {
		return nil, err
	}
	var list []*typeset.Font
	for _, f := range rows {
		data, err := m.Blobs.Get(ctx, f.SHA256)
		if err != nil {
			return nil, fmt.Errorf("the font %s is on the shelf, but its file cannot be read: %w", f.File, err)
		}
		font, err := typeset.OpenFont(f.File, data)
		if err != nil {
			return nil, err
		}
		list = append(list, font)
	}
	m.fonts.Add(state, list)
	return list, nil
}

// Now is the state of the font shelf.
const Now = -1

// Set merges a record into a template and sets it with the fonts of a state of the
// shelf. change may change the options.
func (m *Maker) Set(ctx context.Context, t *Template, r record.Record, shelf int, change func(*typeset.Options)) (*Pages, error) {
	merged, err := t.Merge(r)
	if err != nil {
		return nil, err
	}
	o := typeset.Options{Name: t.Manifest.Page, Loader: typeset.Files(t.Files), Limits: m.Limits}
	if change != nil {
		change(&o)
	}
	if err := setting.Apply(t.Template, &o); err != nil {
		return nil, err
	}
	p, err := m.pages(ctx, merged.HTML, o, shelf)
	if err != nil {
		return nil, err
	}
	differences, err := setting.Differences(t.Template, r)
	if err != nil {
		return nil, err
	}
	p.Findings = append(differences, p.Findings...)
	setting.Trace(p.Findings, merged, o.Name)
	setting.TraceBreaks(p.Frames, merged, o.Name)
	return p, nil
}

// SetHTML sets a posted page. It loads nothing but the fonts of the shelf.
func (m *Maker) SetHTML(ctx context.Context, html string, shelf int, change func(*typeset.Options)) (*Pages, error) {
	o := typeset.Options{Name: "page.html", Limits: m.Limits}
	if change != nil {
		change(&o)
	}
	return m.pages(ctx, []byte(html), o, shelf)
}

func (m *Maker) pages(ctx context.Context, html []byte, o typeset.Options, shelf int) (p *Pages, err error) {
	if shelf == Now {
		if shelf, err = m.Store.Shelf(); err != nil {
			return nil, err
		}
	}
	if o.Fonts, err = m.shelf(ctx, shelf); err != nil {
		return nil, err
	}
	var out bytes.Buffer
	doc, err := typeset.Set(ctx, html, o, &out)
	if err != nil {
		return nil, err
	}
	return &Pages{html, out.Bytes(), shelf, doc}, nil
}

// Order says how a document is to be made.
type Order struct {
	Template *Template
	Record   record.Record
	Set      uint64 // that the record is of; 0 for none
	Batch    uint64
	Series   string // that gives it a number
	Draft    bool   // it waits to be approved
	Author   string
}

// Make makes and keeps one document.
func (m *Maker) Make(ctx context.Context, o Order) (*store.Document, error) {
	d, set, err := m.Prepare(ctx, o)
	if err != nil {
		return nil, err
	}
	return d, m.Store.Add(d, set)
}

// Prepare gives the row of a document and how its pages are set.
func (m *Maker) Prepare(ctx context.Context, o Order) (*store.Document, store.Setting, error) {
	data, err := json.Marshal(o.Record.Data)
	if err != nil {
		return nil, nil, err
	}
	d := &store.Document{Template: o.Template.Name, Version: o.Template.Version, RecordSetID: o.Set, Record: o.Record.Number, BatchID: o.Batch, Series: o.Series,
		Data: string(data), RecordSHA256: store.SumOf(string(data)), State: store.Issued, Author: o.Author, CreatedAt: time.Now().Truncate(time.Second)}
	m.address(d)
	if o.Draft {
		d.State = store.Drafted
	}
	return d, m.setting(ctx, o.Template, o.Record, Now), nil
}

// address gives a document its public page.
func (m *Maker) address(d *store.Document) {
	d.Code = Secret()
	d.Verify = m.Public + "/verify/" + d.Code
}

// setting sets a record's document with its number and keeps the bytes.
func (m *Maker) setting(ctx context.Context, t *Template, r record.Record, shelf int) store.Setting {
	return func(d *store.Document) error {
		r := WithDocument(r, d)
		t, err := t.On(d.CreatedAt) // the day that it was made on is today, also when it is set again
		if err != nil {
			return err
		}
		p, err := m.Set(ctx, t, r, shelf, nil)
		if err != nil {
			return err
		}
		if d.Name, err = t.FileName(r); err != nil {
			return err
		}
		return m.keep(ctx, d, p)
	}
}

func (m *Maker) keep(ctx context.Context, d *store.Document, p *Pages) error {
	findings, err := json.Marshal(p.Findings)
	if err != nil {
		return err
	}
	d.Title, d.Pages, d.Bytes, d.Findings, d.Shelf = p.Title, p.Document.Pages, len(p.PDF), string(findings), p.Shelf
	d.SHA256, err = m.Blobs.Put(ctx, p.PDF)
	return err
}

// WithDocument gives the record the field “document”: what the ledger knows of
// the document that is made of it.
func WithDocument(r record.Record, d *store.Document) record.Record {
	about := map[string]any{"number": d.Number, "code": d.Code, "state": d.State, "issued": "", "verify": d.Verify}
	if d.State == store.Drafted {
		about["number"] = "DRAFT" // it gets one when it is issued
	}
	if d.IssuedAt != nil {
		about["issued"] = d.IssuedAt.UTC().Format(time.DateOnly)
	}
	data := maps.Clone(r.Data)
	data["document"] = about
	r.Data = data
	return r
}

// MakeHTML sets and keeps a posted page.
func (m *Maker) MakeHTML(ctx context.Context, html, name, author string) (*store.Document, error) {
	name = merge.SafeName(name)
	if name == "" {
		name = "page.pdf"
	}
	d := &store.Document{Name: name, Data: html, RecordSHA256: store.SumOf(html), State: store.Issued, Author: author}
	m.address(d)
	return d, m.Store.Add(d, m.settingHTML(ctx, html, Now))
}

func (m *Maker) settingHTML(ctx context.Context, html string, shelf int) store.Setting {
	return func(d *store.Document) error {
		p, err := m.SetHTML(ctx, html, shelf, nil)
		if err != nil {
			return err
		}
		return m.keep(ctx, d, p)
	}
}

// Again is how the pages of a document that was kept are set once more, from
// what its row holds.
func (m *Maker) Again(ctx context.Context, d *store.Document) (store.Setting, error) {
	if d.Template == "" {
		return m.settingHTML(ctx, d.Data, d.Shelf), nil
	}
	t, err := m.Open(d.Template, d.Version)
	if err != nil {
		return nil, err
	}
	r, err := Decode([]byte(d.Data), d.Record)
	if err != nil {
		return nil, err
	}
	return m.setting(ctx, t, r, d.Shelf), nil
}

// Same sets an issued document again and tells whether the bytes are those that
// were issued.
func (m *Maker) Same(ctx context.Context, d store.Document) (bool, error) {
	set, err := m.Again(ctx, &d)
	if err != nil {
		return false, err
	}
	again := d
	again.State = store.Issued // as it was when it was set
	if err := set(&again); err != nil {
		return false, err
	}
	return again.SHA256 == d.SHA256, nil
}

// Decode reads a record's JSON; numbers keep their digits.
func Decode(data []byte, number int) (record.Record, error) {
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.UseNumber()
	out := record.Record{Number: number}
	err := dec.Decode(&out.Data)
	if err == nil && out.Data == nil {
		err = fmt.Errorf("it is null")
	}
	return out, err
}

// Secret makes an unguessable text.
func Secret() string {
	b := make([]byte, 24)
	rand.Read(b)
	return base64.RawURLEncoding.EncodeToString(b)
}
