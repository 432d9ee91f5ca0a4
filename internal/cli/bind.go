package cli

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"html"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"strings"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"

	"oliveledger/typeset"
	"oliveledger/typeset/bind"
)

// bindFlags are the options of olive bind and olive stamp.
type bindFlags struct {
	out, title, contents, number string
	password                     string
	html, text, pages            string
	under                        bool
	protection                   fileFlags // of the new file
	unprotected, linearised      bool
}

// addWriting adds how the new file is written.
func (f *bindFlags) addWriting(fl *pflag.FlagSet) {
	addLinearised(fl, &f.linearised)
	fl.StringVar(&f.password, "password", "", "password of protected sources")
	f.protection.addProtection(fl)
	fl.BoolVar(&f.unprotected, "unprotected", false, "the new file needs no password, although a source does")
}

func bindCommand() *cobra.Command {
	var f bindFlags
	c := &cobra.Command{
		Use:   "bind SOURCE… -o OUT.pdf",
		Short: "Make one PDF of several PDF files and pages",
		Long: `Makes one PDF of several. A source is a PDF file or an HTML page, which is set
first. After = stands which of its pages are taken, in which order, and after @
by how many degrees they turn clockwise: report.pdf=1-3,last@90.

Links and outlines stay; each source becomes an entry of the outline.`,
		Example: `  olive bind cover.html invoices.pdf terms.pdf=1-2 -o all.pdf --contents Contents --number "{page} / {pages}"`,
		Args:    atLeastOne("PDF files or pages"),
		RunE: func(c *cobra.Command, args []string) error {
			if f.out == "" {
				return usage("-o names the PDF file to write")
			}
			var list []bind.Source
			for _, a := range args {
				s, err := f.source(c.Context(), a)
				if err != nil {
					return err
				}
				list = append(list, s)
			}
			return f.write(c, list, bind.Options{Title: f.title, Contents: f.contents, Number: f.number})
		},
	}
	fl := c.Flags()
	fl.StringVarP(&f.out, "output", "o", "", "PDF file to write, - for standard output")
	fl.StringVar(&f.title, "title", "", "title of the whole")
	fl.StringVar(&f.contents, "contents", "", "put a table of contents with this heading before all")
	fl.StringVar(&f.number, "number", "", "text at the foot of every page, with {page} and {pages}")
	f.addWriting(fl)
	return c
}

func stampCommand() *cobra.Command {
	var f bindFlags
	c := &cobra.Command{
		Use:   "stamp FILE.pdf -o OUT.pdf --text PAID | --html STAMP.html",
		Short: "Lay text or HTML over, or under, pages of a PDF",
		Long: `Lays text or HTML over the pages of a PDF file, or under them. The HTML is set on
a sheet of each page's size: place it with position: absolute. {page} and {pages}
are filled in.`,
		Example: `  olive stamp invoice.pdf -o paid.pdf --text PAID --pages 1`,
		Args:    exactly(1, "one PDF file"),
		RunE: func(c *cobra.Command, args []string) error {
			if f.out == "" || (f.html == "") == (f.text == "") {
				return usage("stamp needs -o OUT.pdf, and either --text or --html")
			}
			s, err := f.source(c.Context(), args[0])
			if err != nil {
				return err
			}
			o := bind.Overlay{Pages: f.pages, Under: f.under, HTML: []byte(stampPage(f.text))}
			if f.html != "" {
				if o.HTML, err = os.ReadFile(f.html); err != nil {
					return usage("%s cannot be read: %v", f.html, errors.Unwrap(err))
				}
				opts, folder, err := besides(f.html)
				if err != nil {
					return err
				}
				defer folder.Close()
				o.Options = opts
			}
			return f.write(c, []bind.Source{s}, bind.Options{Title: f.title, Overlays: []bind.Overlay{o}})
		},
	}
	fl := c.Flags()
	fl.StringVarP(&f.out, "output", "o", "", "PDF file to write, - for standard output")
	fl.StringVar(&f.text, "text", "", "text to stamp, such as PAID")
	fl.StringVar(&f.html, "html", "", "page to lay over the others")
	fl.StringVar(&f.pages, "pages", "", "pages that get it: 1,3-last (default: all)")
	fl.BoolVar(&f.under, "under", false, "lay it under the pages")
	fl.StringVar(&f.title, "title", "", "title of the new file")
	f.addWriting(fl)
	return c
}

func stampPage(text string) string {
	return `<!DOCTYPE html><style>@page{margin:0} html,body{margin:0;height:100%} p{position:absolute;top:14mm;right:12mm;margin:0;padding:2mm 5mm;border:1mm solid;border-radius:2mm;font:bold 26pt sans-serif;letter-spacing:.08em;color:rgb(170 20 20/.75);transform:rotate(-8deg)}</style><p>` + html.EscapeString(text)
}

// source reads one source: a file with its choice of pages and turn.
func (f *bindFlags) source(ctx context.Context, arg string) (bind.Source, error) {
	name, pages, _ := strings.Cut(arg, "=")
	rest := &pages
	if pages == "" {
		rest = &name
	}
	var turn string
	turned := false
	if i := strings.LastIndexByte(*rest, '@'); i >= 0 {
		*rest, turn, turned = (*rest)[:i], (*rest)[i+1:], true
	}
	s := bind.Source{Name: filepath.Base(name), Pages: pages, Password: f.password}
	if turned {
		v, err := strconv.Atoi(turn)
		if err != nil {
			return s, usage("%s: after @ stands a number of degrees", arg)
		}
		s.Turn = v
	}
	data, err := os.ReadFile(name)
	if err != nil {
		return s, usage("%s cannot be read: %v", name, errors.Unwrap(err))
	}
	if ext := strings.ToLower(filepath.Ext(name)); ext != ".html" && ext != ".htm" {
		s.Data = data
		return s, nil
	}
	opts, folder, err := besides(name)
	if err != nil {
		return s, err
	}
	defer folder.Close()
	var out bytes.Buffer
	doc, err := typeset.Set(ctx, data, opts, &out)
	if err != nil {
		return s, fmt.Errorf("%s: %w", name, err)
	}
	s.Data, s.Title = out.Bytes(), doc.Title
	return s, nil
}

// besides are the options of a page that loads what lies beside it.
func besides(page string) (typeset.Options, *typeset.Folder, error) {
	folder, err := typeset.OpenFolder(filepath.Dir(page))
	if err != nil {
		return typeset.Options{}, nil, usage("the folder of %s cannot be opened", page)
	}
	return typeset.Options{Name: filepath.Base(page), Loader: folder}, folder, nil
}

func (f *bindFlags) write(c *cobra.Command, list []bind.Source, o bind.Options) error {
	var opts typeset.Options
	if err := f.protection.protect(&opts); err != nil {
		return err
	}
	o.Protect, o.Unprotected, o.Linearised = opts.Protect, f.unprotected, f.linearised
	var r *bind.Result
	tell, err := output{c.OutOrStdout(), c.ErrOrStderr()}.write(f.out, func(w io.Writer) (err error) {
		r, err = bind.Bind(c.Context(), list, o, w)
		return err
	})
	if errors.Is(err, bind.ErrProtected) {
		return usage("%v; protect it with --owner-password or --open-password, or say --unprotected", err)
	}
	if err != nil {
		return err
	}
	for _, name := range r.Signed {
		fmt.Fprintf(c.ErrOrStderr(), "warning: %s is signed; the new file has other bytes and none of its signatures: sign it anew with olive sign\n", name)
	}
	for _, name := range r.Repairs {
		fmt.Fprintf(c.ErrOrStderr(), "warning: %s was damaged: its table of objects was lost and has been made anew; look at its pages\n", name)
	}
	fmt.Fprintf(tell, "%s: %s\n", f.out, pages(r.Pages))
	return nil
}
