package bind

import (
	"bytes"
	"fmt"
	"regexp"
	"sort"
	"strings"

	"oliveledger/typeset/internal/pdfread"
)

// ErrPassword tells that a file opens with a password only, and that the one given is not it.
var ErrPassword = pdfread.ErrPassword

// Report tells what is in a PDF file.
type Report struct {
	Version     string       `json:"version"`
	Pages       int          `json:"pages"`
	Sizes       []PageSize   `json:"sizes"`
	Title       string       `json:"title"`
	Author      string       `json:"author"`
	Subject     string       `json:"subject"`
	Keywords    string       `json:"keywords"`
	Language    string       `json:"language"`
	Created     string       `json:"created"`
	Tagged      bool         `json:"tagged"`
	Standards   []string     `json:"standards"` // that its metadata claims
	Encrypted   bool         `json:"encrypted"`
	Outline     int          `json:"outline"` // entries
	Fields      int          `json:"fields"`  // form fields
	Fonts       []Font       `json:"fonts"`
	Attachments []Attachment `json:"attachments"`
	Damaged     bool         `json:"damaged"` // its table of objects was lost and is rebuilt
}

// PageSize is a size and the pages that have it, in mm.
type PageSize struct {
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
	Pages  int     `json:"pages"`
}

// Font is a font that pages use.
type Font struct {
	Name     string `json:"name"`
	Type     string `json:"type"`
	Embedded bool   `json:"embedded"`
	Subset   bool   `json:"subset"`
}

// Attachment is a file inside the PDF.
type Attachment struct {
	Name string `json:"name"`
	Size int    `json:"size"`
}

// Inspect reads a PDF file and tells what is in it.
func Inspect(data []byte, password string) (*Report, error) {
	f, err := pdfread.Open(data, password)
	if err != nil {
		return nil, err
	}
	pages, err := f.Pages()
	if err != nil {
		return nil, err
	}
	root, info := f.Dict(f.Trailer["Root"]), f.Dict(f.Trailer["Info"])
	r := &Report{
		Version: version(data), Pages: len(pages), Damaged: f.Rebuilt, Encrypted: f.Trailer["Encrypt"] != nil,
		Title: textOf(info["Title"], f), Author: textOf(info["Author"], f), Subject: textOf(info["Subject"], f), Keywords: textOf(info["Keywords"], f),
		Created: textOf(info["CreationDate"], f), Language: textOf(root["Lang"], f),
		Tagged: f.Resolve(f.Dict(root["MarkInfo"])["Marked"]) == true,
	}
	r.sizes(pages)
	r.fonts(f, pages)
	r.standards(f, root)
	m := newImporter(f, nil, nil)
	where := map[int]int{}
	for i, p := range pages {
		where[p.Ref.Num] = i
	}
	r.Outline = len(m.outline(1, where, nil))
	fields, _ := f.Resolve(f.Dict(root["AcroForm"])["Fields"]).(pdfread.Array)
	r.Fields = len(fields)
	for _, a := range m.attached() {
		r.Attachments = append(r.Attachments, Attachment{a.Name, len(a.Data)})
	}
	return r, nil
}

func version(data []byte) string {
	i := bytes.Index(data[:min(len(data), 1024)], []byte("%PDF-"))
	if i < 0 || i+8 > len(data) {
		return ""
	}
	return string(data[i+5 : i+8])
}

func (r *Report) sizes(pages []pdfread.Page) {
	count := map[string]int{}
	for _, p := range pages {
		w, h := size(p)
		w, h = w*25.4/96, h*25.4/96
		key := fmt.Sprintf("%.1f %.1f", w, h)
		if _, ok := count[key]; !ok {
			count[key] = len(r.Sizes)
			r.Sizes = append(r.Sizes, PageSize{Width: w, Height: h})
		}
		r.Sizes[count[key]].Pages++
	}
}

var subsetName = regexp.MustCompile(`^[A-Z]{6}\+`)

// fonts lists the fonts of all pages and of the forms on them.
func (r *Report) fonts(f *pdfread.File, pages []pdfread.Page) {
	seen := map[string]bool{}
	visited := map[pdfread.Ref]bool{}
	var resources func(d pdfread.Dict, depth int)
	resources = func(d pdfread.Dict, depth int) {
		if d == nil || depth > 10 {
			return
		}
		for _, o := range f.Dict(d["Font"]) {
			font := f.Dict(o)
			name, _ := f.Resolve(font["BaseFont"]).(pdfread.Name)
			kind, _ := f.Resolve(font["Subtype"]).(pdfread.Name)
			desc := f.Dict(font["FontDescriptor"])
			if kids, ok := f.Resolve(font["DescendantFonts"]).(pdfread.Array); ok && len(kids) > 0 {
				inner := f.Dict(kids[0])
				desc = f.Dict(inner["FontDescriptor"])
				if k, ok := f.Resolve(inner["Subtype"]).(pdfread.Name); ok {
					kind = k
				}
			}
			if key := subsetName.ReplaceAllString(string(name), "") + string(kind); !seen[key] {
				seen[key] = true
				embedded := kind == "Type3" || desc["FontFile"] != nil || desc["FontFile2"] != nil || desc["FontFile3"] != nil
				r.Fonts = append(r.Fonts, Font{Name: subsetName.ReplaceAllString(string(name), ""), Type: string(kind), Embedded: embedded, Subset: subsetName.MatchString(string(name))})
			}
		}
		for _, o := range f.Dict(d["XObject"]) {
			if ref, ok := o.(pdfread.Ref); ok {
				if visited[ref] {
					continue
				}
				visited[ref] = true
			}
			resources(f.Dict(f.Dict(o)["Resources"]), depth+1)
		}
	}
	for _, p := range pages {
		resources(f.Dict(p.Dict["Resources"]), 0)
	}
	sort.Slice(r.Fonts, func(i, j int) bool { return r.Fonts[i].Name < r.Fonts[j].Name })
}

var claims = regexp.MustCompile(`pdf(a|ua)id:(part|conformance)(?:>|=")([0-9A-Z]+)`)

// standards are those that the metadata names.
func (r *Report) standards(f *pdfread.File, root pdfread.Dict) {
	s, ok := f.Resolve(root["Metadata"]).(*pdfread.Stream)
	if !ok {
		return
	}
	data, err := f.Decode(s)
	if err != nil {
		return
	}
	archive, access := claimed(data)
	if archive != "" {
		r.Standards = append(r.Standards, "PDF/A-"+archive)
	}
	if access != "" {
		r.Standards = append(r.Standards, "PDF/UA-"+access)
	}
}

// claimsAccess tells whether a file says that it keeps to PDF/UA.
func claimsAccess(f *pdfread.File, root pdfread.Dict) bool {
	s, ok := f.Resolve(root["Metadata"]).(*pdfread.Stream)
	if !ok {
		return false
	}
	data, err := f.Decode(s)
	_, access := claimed(data)
	return err == nil && access != ""
}

// claimed are the parts of PDF/A and PDF/UA that metadata name.
func claimed(data []byte) (archive, access string) {
	for _, m := range claims.FindAllSubmatch(data, -1) {
		switch v := string(m[3]); {
		case string(m[1]) == "ua":
			access = v
		case string(m[2]) == "part":
			archive = v + archive
		default:
			archive += strings.ToLower(v)
		}
	}
	return archive, access
}
