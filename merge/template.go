// Package merge fills templates with records: a template folder and a record
// become HTML, ready to be set.
package merge

import (
	"bytes"
	"errors"
	"fmt"
	"html/template"
	"io/fs"
	"maps"
	"path"
	"regexp"
	"slices"
	"sort"
	"strings"
	"sync"
	text "text/template"
	"text/template/parse"
	"time"

	"github.com/goccy/go-yaml"
	"github.com/santhosh-tekuri/jsonschema/v6"

	"oliveledger/record"
)

// ManifestName is the file of a template folder that holds its defaults.
const ManifestName = "template.yaml"

// Manifest is what a template says of itself.
type Manifest struct {
	Title    string   `yaml:"title" json:"title"`             // of the template, and of its documents
	Page     string   `yaml:"page" json:"page"`               // the markup; default page.html
	Parts    []string `yaml:"parts" json:"parts,omitempty"`   // files with layouts and blocks that the page uses
	Styles   []string `yaml:"styles" json:"styles,omitempty"` // style sheets, in order; those that the page links itself may be left out
	Fonts    []Font   `yaml:"fonts" json:"fonts,omitempty"`   // faces that the template brings
	PDF      Defaults `yaml:"pdf" json:"pdf"`                 // default options of the PDF
	Schema   string   `yaml:"schema" json:"schema"`           // JSON Schema that every record must keep
	Sample   string   `yaml:"sample" json:"sample"`           // a sample record
	FileName string   `yaml:"filename" json:"filename"`       // pattern over the record
	Currency string   `yaml:"currency" json:"currency"`       // ISO 4217 code
	Locale   string   `yaml:"locale" json:"locale"`           // BCP 47 tag
	TimeZone string   `yaml:"timezone" json:"timezone"`       // IANA name; default UTC
	Colors   []string `yaml:"colors" json:"colors,omitempty"` // of charts, as CSS writes them
	Totals   []Total  `yaml:"totals" json:"totals,omitempty"` // numbers of a record that follow from its other fields
	Given    Given    `yaml:"given" json:"given,omitempty"`   // fields of a record that does not bring them, such as who writes the invoices
	Approval bool     `yaml:"approval" json:"approval"`       // in the service: documents wait to be approved by someone else
	Keep     Period   `yaml:"keep" json:"keep"`               // in the service: how long documents must be kept
	Signed   string   `yaml:"signed" json:"signed"`           // in the service: the place on the page for its signature, or “unseen”
	Rounding string   `yaml:"rounding" json:"rounding"`       // of money: half-up, half-even or down; default half-up
}

// Template is a template folder, parsed and ready to merge. It may be used
// from many goroutines.
type Template struct {
	Manifest   Manifest
	Name       string
	page       *template.Template
	file       *text.Template
	schema     *jsonschema.Schema
	fields     []string
	given      map[string]any
	files      fs.FS
	datesToday bool // it calls today
	soft       bool // fields that a record lacks are empty instead of an error
	functions  template.FuncMap
	tools      *tools
	totals     []worked
	unlinked   []string // style sheets that the page does not link
	sources    map[string]string
	indexing   sync.Once
	index      map[*byte]sourceText
}

// maxFile bounds one file of a template that is parsed.
const maxFile = 16 << 20

// Open reads a template folder.
func Open(name string, files fs.FS) (*Template, error) {
	t := &Template{Name: name, files: files, sources: map[string]string{}, Manifest: Manifest{Page: "page.html", Currency: "EUR", Locale: "en"}}
	raw, err := fs.ReadFile(files, ManifestName)
	switch {
	case err == nil && len(bytes.TrimSpace(raw)) == 0:
	case err == nil:
		dec := yaml.NewDecoder(bytes.NewReader(raw), yaml.Strict())
		if err := dec.Decode(&t.Manifest); err != nil {
			return nil, fmt.Errorf("%s: %w", path.Join(name, ManifestName), err)
		}
	case !errors.Is(err, fs.ErrNotExist):
		return nil, err
	}
	if err := t.Manifest.Keep.Check(); err != nil {
		return nil, fmt.Errorf("%s: keep: %w", path.Join(name, ManifestName), err)
	}
	src, err := fs.ReadFile(files, t.Manifest.Page)
	if err != nil {
		return nil, fmt.Errorf("%s: the template's page cannot be read: %w", path.Join(name, t.Manifest.Page), err)
	}
	if len(src) > maxFile {
		return nil, fmt.Errorf("%s: the page has %d bytes; at most %d are allowed", path.Join(name, t.Manifest.Page), len(src), maxFile)
	}
	if t.given, err = t.Manifest.readGiven(); err != nil {
		return nil, fmt.Errorf("%s: %w", path.Join(name, ManifestName), err)
	}
	tools, err := t.Manifest.tools(files)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", path.Join(name, ManifestName), err)
	}
	t.tools, t.functions = tools, tools.functions()
	maps.Copy(t.functions, template.FuncMap{fieldName: t.field, maybeName: t.maybe, showName: t.show, shownName: t.shown, eachName: t.each, anyName: t.eachOrNone})
	t.page = template.New(t.Manifest.Page).Funcs(t.functions)
	if err := t.addParts(files); err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	t.sources[t.Manifest.Page] = string(src)
	if _, err = t.page.Parse(string(src)); err != nil { // last: its blocks replace those of layouts
		return nil, fmt.Errorf("%s: %s", name, plain(err))
	}
	if err := t.readSchema(files); err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	pattern := t.Manifest.FileName
	if pattern == "" {
		pattern = "{{.RecordNumber}}.pdf"
	}
	t.file, err = text.New("filename").Funcs(t.functions).Parse(pattern)
	if err != nil {
		return nil, fmt.Errorf("%s: filename: %s", path.Join(name, ManifestName), plain(err))
	}
	t.fields = t.Manifest.usedFields(t.page, t.file)
	for _, p := range t.page.Templates() {
		err = errors.Join(err, makeStrict(p.Tree))
	}
	if err = errors.Join(err, makeStrict(t.file.Tree)); err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	t.datesToday = slices.ContainsFunc(t.trees(), func(tree *parse.Tree) bool { return calls(tree, "today") })
	if err := t.readTotals(); err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	for _, s := range t.Manifest.Styles {
		if !strings.Contains(string(src), s) {
			t.unlinked = append(t.unlinked, s)
		}
	}
	for _, f := range t.Manifest.Fonts {
		if f.Family == "" || f.File == "" {
			return nil, fmt.Errorf("%s: a font has a family and a file", path.Join(name, ManifestName))
		}
	}
	return t, nil
}

// addParts parses the files that the page's layouts and blocks stand in.
func (t *Template) addParts(files fs.FS) error {
	for _, p := range t.Manifest.Parts {
		src, err := fs.ReadFile(files, p)
		if err != nil {
			return fmt.Errorf("the part %s cannot be read: %w", p, err)
		}
		if len(src) > maxFile {
			return fmt.Errorf("%s has %d bytes; at most %d are allowed", p, len(src), maxFile)
		}
		t.sources[p] = string(src)
		if _, err := t.page.New(p).Parse(string(src)); err != nil {
			return errors.New(plain(err))
		}
	}
	return nil
}

// Merge fills the template with a record.
func (t *Template) Merge(r record.Record) (*Merged, error) {
	if err := t.Check(r); err != nil {
		return nil, err
	}
	data, err := t.values(r)
	if err != nil {
		return nil, err
	}
	m := &Merged{template: t}
	if err := t.page.Execute(m, data); err != nil {
		return nil, t.explain(r, err)
	}
	return m, nil
}

// FileName is the name of the document that a record makes, safe on every
// file system.
func (t *Template) FileName(r record.Record) (string, error) {
	data, err := t.values(r)
	if err != nil {
		return "", err
	}
	data["RecordNumber"] = fmt.Sprintf("%05d", r.Number)
	var b strings.Builder
	if err := t.file.Execute(&b, data); err != nil {
		return "", t.explain(r, err)
	}
	name := SafeName(b.String())
	if name == "" {
		return "", fmt.Errorf("%s: the file name comes out empty", r.Name())
	}
	if !strings.HasSuffix(strings.ToLower(name), ".pdf") {
		name += ".pdf"
	}
	return name, nil
}

// On is the template with the date that the function today gives; without one it is that
// of the clock.
func (t *Template) On(date time.Time) (*Template, error) {
	if date.IsZero() || !t.datesToday {
		return t, nil
	}
	dated, err := Open(t.Name, t.files)
	if err != nil {
		return nil, err
	}
	dated.tools.run = date
	if t.soft {
		dated.Soften()
	}
	return dated, nil
}

// Text fills a short pattern, such as the subject of a mail, with a record.
func (t *Template) Text(pattern string, r record.Record) (string, error) {
	p, err := t.file.Clone()
	if err != nil {
		return "", err
	}
	if p, err = p.New("text").Parse(pattern); err != nil {
		return "", errors.New(plain(err))
	}
	if err := makeStrict(p.Tree); err != nil {
		return "", err
	}
	data, err := t.values(r)
	if err != nil {
		return "", err
	}
	var b strings.Builder
	if err := p.Execute(&b, data); err != nil {
		return "", t.explain(r, err)
	}
	return b.String(), nil
}

// reserved names of common file systems.
var reserved = regexp.MustCompile(`(?i)^(con|prn|aux|nul|com\d|lpt\d)(\..*)?$`)

// SafeName makes one path element that every file system takes.
func SafeName(s string) string {
	s = strings.Map(func(r rune) rune {
		if r < 32 || strings.ContainsRune(`/\:*?"<>|`, r) || r == 0x7f {
			return '-'
		}
		return r
	}, s)
	s = strings.Trim(s, " .")
	if reserved.MatchString(s) {
		s = "_" + s
	}
	for len(s) > 180 { // room for endings, in bytes
		r := []rune(s)
		s = string(r[:len(r)-1])
	}
	return s
}

// SampleRecord is the template's sample record, or an empty one.
func (t *Template) SampleRecord() (record.Record, error) {
	if t.Manifest.Sample == "" {
		return record.Record{Number: 1, Data: map[string]any{}}, nil
	}
	f, err := t.files.Open(t.Manifest.Sample)
	if err != nil {
		return record.Record{}, fmt.Errorf("the sample record cannot be read: %w", err)
	}
	defer f.Close()
	var out record.Record
	stop := errors.New("one is enough")
	err = record.Each(f, record.Options{Format: record.JSON}, func(r record.Record) error { out = r; return stop })
	if err != nil && !errors.Is(err, stop) {
		return record.Record{}, fmt.Errorf("%s: %w", t.Manifest.Sample, err)
	}
	return out, nil
}

// Fields lists the field names that a record has, with dots between levels.
func Fields(data map[string]any) []string {
	var out []string
	var walk func(prefix string, v any)
	walk = func(prefix string, v any) {
		switch x := v.(type) {
		case map[string]any:
			for k, e := range x {
				walk(strings.TrimPrefix(prefix+"."+k, "."), e)
			}
		case []any:
			out = append(out, prefix)
			if len(x) > 0 {
				walk(prefix+"[]", x[0])
			}
		default:
			out = append(out, prefix)
		}
	}
	walk("", data)
	sort.Strings(out)
	return out
}
