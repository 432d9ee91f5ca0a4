package cli

import (
	"errors"
	"mime"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/pflag"

	"oliveledger/typeset"
)

// fileFlags are what a person reaches for without writing CSS: paper, text in
// the margins, fitting, and what the PDF file itself says and allows.
type fileFlags struct {
	paper, margins, header, footer, watermark                             string
	firstHeader, firstFooter                                              string
	headerRule, footerRule                                                bool
	region                                                                string
	layoutWidth, leastScale                                               float64
	fitPages                                                              int
	continuous, untagged, noOutlinePane, fields, linearised, allowMissing bool
	title, author, subject, keywords                                      string
	archive                                                               string
	attach                                                                []string
	openPassword, ownerPassword                                           string
	fonts                                                                 string
	found                                                                 []*typeset.Font // in the folder of fonts
	allow                                                                 []string
}

func (f *fileFlags) add(fl *pflag.FlagSet) {
	fl.StringVar(&f.paper, "paper", "", `page size as CSS writes it: A4, "A5 landscape", "210mm 99mm"`)
	fl.StringVar(&f.margins, "margins", "", `page margins as CSS writes them: 20mm, "18mm 16mm"`)
	fl.StringVar(&f.header, "header", "", `text above every page: "left | middle | right" with {page}, {pages}, {title}, {date} or {date:02.01.2006}; @FILE.html takes the body of a page`)
	fl.StringVar(&f.footer, "footer", "", `text below every page, written as the header's`)
	fl.StringVar(&f.firstHeader, "first-header", "", "header of the first page; none for none there")
	fl.StringVar(&f.firstFooter, "first-footer", "", "footer of the first page; none for none there")
	fl.BoolVar(&f.headerRule, "header-rule", false, "a line below the header")
	fl.BoolVar(&f.footerRule, "footer-rule", false, "a line above the footer")
	fl.StringVar(&f.watermark, "watermark", "", "text across every page, such as DRAFT")
	fl.StringVar(&f.region, "region", "", "set only the first element that this selector matches")
	fl.Float64Var(&f.layoutWidth, "layout-width", 0, "lay the page out at this many px and scale it to the paper")
	fl.IntVar(&f.fitPages, "fit-pages", 0, "scale the document down until it has no more pages than this")
	fl.Float64Var(&f.leastScale, "least-scale", 0.5, "smallest scale of --fit-pages")
	fl.StringVar(&f.fonts, "fonts", "", "folder of font files (TTF, OTF, WOFF, WOFF2) that pages can name by their family")
	fl.BoolVar(&f.continuous, "continuous", false, "one page, as tall as the contents")
	fl.StringVar(&f.title, "title", "", "title of the document (default: the page's own)")
	fl.StringVar(&f.author, "author", "", "author of the document")
	fl.StringVar(&f.subject, "subject", "", "subject of the document")
	fl.StringVar(&f.keywords, "keywords", "", "keywords of the document")
	fl.BoolVar(&f.noOutlinePane, "no-outline-pane", false, "viewers do not open the outline by themselves")
	fl.BoolVar(&f.untagged, "untagged", false, "leave out the structure that screen readers need")
	fl.BoolVar(&f.fields, "fields", false, "make form controls fields that can be filled in")
	addLinearised(fl, &f.linearised)
	fl.StringVar(&f.archive, "archive", "", "archive profile: PDF/A-2u or PDF/A-3u")
	fl.BoolVar(&f.allowMissing, "allow-missing", false, "let an archive file hold boxes for characters that no font at hand has")
	fl.StringArrayVar(&f.attach, "attach", nil, "file that the PDF carries (repeatable)")
	f.addProtection(fl)
}

func addLinearised(fl *pflag.FlagSet, on *bool) {
	fl.BoolVar(on, "linearised", false, "order the file so that viewers on the web show the first page before they have the rest")
}

func (f *fileFlags) addProtection(fl *pflag.FlagSet) {
	fl.StringVar(&f.openPassword, "open-password", "", "password for opening the PDF")
	fl.StringVar(&f.ownerPassword, "owner-password", "", "password that lifts all limits of the PDF")
	fl.StringSliceVar(&f.allow, "allow", nil, "what readers may do without the owner's password: print, copy, edit, fill")
}

// readFonts reads the folder of fonts, once for all documents.
func (f *fileFlags) readFonts() error {
	if f.fonts == "" || f.found != nil {
		return nil
	}
	list, err := os.ReadDir(f.fonts)
	if err != nil {
		return usage("the folder of fonts %s cannot be read: %v", f.fonts, errors.Unwrap(err))
	}
	for _, e := range list {
		switch strings.ToLower(filepath.Ext(e.Name())) {
		case ".ttf", ".otf", ".woff", ".woff2":
		default:
			continue
		}
		data, err := os.ReadFile(filepath.Join(f.fonts, e.Name()))
		if err != nil {
			return usage("the font %s cannot be read: %v", e.Name(), errors.Unwrap(err))
		}
		font, err := typeset.OpenFont(e.Name(), data)
		if err != nil {
			return usage("%v", err)
		}
		f.found = append(f.found, font)
	}
	if f.found == nil {
		return usage("the folder %s holds no TTF, OTF, WOFF or WOFF2 file", f.fonts)
	}
	return nil
}

// apply puts the flags into options.
func (f *fileFlags) apply(o *typeset.Options) error {
	if err := f.readFonts(); err != nil {
		return err
	}
	o.Fonts = f.found
	o.Paper, o.Margins, o.Header, o.Footer, o.Watermark = f.paper, f.margins, f.header, f.footer, f.watermark
	o.FirstHeader, o.FirstFooter, o.HeaderRule, o.FooterRule = f.firstHeader, f.firstFooter, f.headerRule, f.footerRule
	for _, m := range []struct{ text, html *string }{{&o.Header, &o.HeaderHTML}, {&o.Footer, &o.FooterHTML}} {
		if _, ok := cutAt(*m.text); !ok {
			continue
		}
		body, err := named(*m.text, "page for the margins")
		if err != nil {
			return err
		}
		*m.text, *m.html = "", body
	}
	o.Selector, o.LayoutWidth, o.FitPages, o.LeastScale, o.Continuous = f.region, f.layoutWidth, f.fitPages, f.leastScale, f.continuous
	o.Title, o.Author, o.Subject, o.Keywords = f.title, f.author, f.subject, f.keywords
	o.HideOutline, o.Untagged, o.Archive, o.AllowMissing, o.Fields, o.Linearised = f.noOutlinePane, f.untagged, f.archive, f.allowMissing, f.fields, f.linearised
	for _, name := range f.attach {
		data, err := os.ReadFile(name)
		if err != nil {
			return usage("the attachment %s cannot be read: %v", name, errors.Unwrap(err))
		}
		o.Attach = append(o.Attach, typeset.Attachment{Name: filepath.Base(name), Type: mime.TypeByExtension(filepath.Ext(name)), Data: data})
	}
	return f.protect(o)
}

func (f *fileFlags) protect(o *typeset.Options) error {
	if f.openPassword == "" && f.ownerPassword == "" && len(f.allow) == 0 {
		return nil
	}
	p := typeset.Protection{Open: f.openPassword, Owner: f.ownerPassword}
	for _, a := range f.allow {
		switch strings.TrimSpace(a) {
		case "print":
			p.Print = true
		case "copy":
			p.Copy = true
		case "edit":
			p.Edit = true
		case "fill":
			p.Fill = true
		default:
			return usage("--allow takes print, copy, edit and fill, not %q", a)
		}
	}
	o.Protect = &p
	return nil
}
