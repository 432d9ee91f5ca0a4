// Package pagecopy brings a page of the web, with its style sheets and pictures, as files that a
// template can begin with.
package pagecopy

import (
	"bytes"
	"context"
	"fmt"
	"net/url"
	"path"
	"regexp"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"oliveledger/typeset"
)

// PageFile is the name that the page itself gets.
const PageFile = "page.html"

// The most that is brought with a page: files, and bytes of all of them.
const (
	mostFiles = 60
	mostBytes = 24 << 20
)

// Copy is a page with what belongs to it.
type Copy struct {
	Title string
	Files map[string][]byte
	Notes []string // what could not be brought
}

// Fetch copies the page at an address. What it names is given the names of the files; what cannot
// be had keeps its address, and is noted.
func Fetch(ctx context.Context, load typeset.Loader, address string) (*Copy, error) {
	base, err := url.Parse(address)
	if err != nil || base.Host == "" {
		return nil, fmt.Errorf("“%s” is not an address such as https://harbour.example/invoice.html", address)
	}
	data, err := load.Load(ctx, address)
	if err != nil {
		return nil, err
	}
	doc, err := html.Parse(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("the page cannot be read: %w", err)
	}
	f := &fetcher{ctx: ctx, load: load, names: map[string]string{}, size: len(data), Copy: Copy{Files: map[string][]byte{}}}
	f.element(doc, &base)
	var out bytes.Buffer
	if err := html.Render(&out, doc); err != nil {
		return nil, fmt.Errorf("the page cannot be written: %w", err)
	}
	f.Files[PageFile] = out.Bytes()
	return &f.Copy, ctx.Err()
}

// fetcher brings what a page names.
type fetcher struct {
	Copy
	ctx   context.Context
	load  typeset.Loader
	names map[string]string // of files by address; empty for what cannot be had
	size  int
}

// element brings what an element and those in it name. A base element moves the base.
func (f *fetcher) element(n *html.Node, base **url.URL) {
	next := (*html.Node)(nil)
	for k := n.FirstChild; k != nil; k = next {
		next = k.NextSibling
		if k.DataAtom == atom.Base {
			if u, err := (*base).Parse(attribute(k, "href")); err == nil {
				*base = u
			}
			n.RemoveChild(k)
			continue
		}
		f.element(k, base)
	}
	switch n.DataAtom {
	case atom.Title:
		if n.FirstChild != nil && f.Title == "" {
			f.Title = strings.TrimSpace(n.FirstChild.Data)
		}
	case atom.Link:
		if strings.EqualFold(attribute(n, "rel"), "stylesheet") {
			f.rename(n, "href", *base, true)
		}
	case atom.Img:
		f.rename(n, "src", *base, false)
	case atom.Style:
		if n.FirstChild != nil {
			n.FirstChild.Data = f.sheet(n.FirstChild.Data, *base)
		}
	}
}

func attribute(n *html.Node, name string) string {
	for _, a := range n.Attr {
		if a.Key == name {
			return a.Val
		}
	}
	return ""
}

// rename brings what an attribute names.
func (f *fetcher) rename(n *html.Node, name string, base *url.URL, sheet bool) {
	for i, a := range n.Attr {
		if a.Key == name && a.Val != "" {
			n.Attr[i].Val = f.file(a.Val, base, sheet)
		}
	}
}

// file brings what a reference names, and gives what it is called from now on.
func (f *fetcher) file(ref string, base *url.URL, sheet bool) string {
	at, err := base.Parse(strings.TrimSpace(ref))
	if err != nil || at.Scheme != "http" && at.Scheme != "https" {
		return ref // data: and the like need no file
	}
	at.Fragment = ""
	address := at.String()
	name, known := f.names[address]
	if !known {
		name = f.bring(at, sheet)
		f.names[address] = name
	}
	if name == "" {
		return address
	}
	return name
}

// bring loads a file and gives its name, or none and a note.
func (f *fetcher) bring(at *url.URL, sheet bool) string {
	address := at.String()
	lost := func(why string) string {
		f.Notes = append(f.Notes, address+" was not brought: "+why)
		return ""
	}
	if len(f.Files) >= mostFiles {
		return lost(fmt.Sprintf("a page may bring %d files", mostFiles))
	}
	data, err := f.load.Load(f.ctx, address)
	if err != nil {
		return lost(err.Error())
	}
	if f.size += len(data); f.size > mostBytes {
		return lost(fmt.Sprintf("a page may bring %d MB", mostBytes>>20))
	}
	name := f.free(at)
	f.Files[name] = data
	if sheet {
		f.names[address] = name // sheets may name each other
		f.Files[name] = []byte(f.sheet(string(data), at))
	}
	return name
}

var (
	unsafe    = regexp.MustCompile(`[^a-z0-9._-]+`)
	reference = regexp.MustCompile(`(?i)(@import\s+)(["'])([^"'\n]+)["']|url\(\s*(?:"([^"\n]*)"|'([^'\n]*)'|([^"'()\s]+))\s*\)`)
)

// free is a name for a file that no other has.
func (f *fetcher) free(at *url.URL) string {
	name := strings.Trim(unsafe.ReplaceAllString(strings.ToLower(path.Base(at.Path)), "-"), "-.")
	if name == "" || name == PageFile {
		name = "file"
	}
	ending := path.Ext(name)
	stem := strings.TrimSuffix(name, ending)
	for i := 2; ; i++ {
		if _, taken := f.Files[name]; !taken {
			return name
		}
		name = fmt.Sprintf("%s-%d%s", stem, i, ending)
	}
}

// sheet brings what a style sheet names.
func (f *fetcher) sheet(text string, base *url.URL) string {
	return reference.ReplaceAllStringFunc(text, func(all string) string {
		m := reference.FindStringSubmatch(all)
		if m[3] != "" {
			return m[1] + `"` + f.file(m[3], base, true) + `"`
		}
		ref := m[4] + m[5] + m[6]
		if ref == "" || strings.HasPrefix(ref, "#") {
			return all
		}
		return `url("` + f.file(ref, base, strings.HasSuffix(strings.ToLower(ref), ".css")) + `")`
	})
}
