package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/url"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"oliveledger/merge"
	"oliveledger/typeset"
)

// renderFlags are the options of olive render.
type renderFlags struct {
	out, to, within string
	addCSS, baseCSS []string
	medium          string
	watch           bool
	proof           string
	several         bool // documents are made, not one
	hosts           []string
	quiet           bool
	file            fileFlags
	records         recordFlags
	batch           batchFlags
}

func renderCommand() *cobra.Command {
	var f renderFlags
	c := &cobra.Command{
		Use:   "render PAGE.html… -o OUT.pdf | render TEMPLATE --records FILE --to DIR",
		Short: "Set a page, or one document for each record of a file",
		Long: `Sets HTML pages as PDF, or merges each record of a file into a template folder and
sets one PDF for each. It needs no service.

A page is a file, a folder of pages, an address of the web, or - for standard
input; several pages go to the folder that --to names. Scripts in pages do not
run. What a page loads from other hosts needs --allow-host.

A run over records goes on past those that fail. A journal in the folder lets
--resume go on with a run that was stopped, without making a document twice.

Exit code: 0 when all went well, 1 when a document failed, 2 for wrong use.`,
		Example: `  olive render page.html -o page.pdf --paper "A4 landscape" --margins "18mm 16mm"
  olive render pages/ --to out/
  olive render templates/invoice --records invoices.json --to out/ --report out/report.html
  olive render templates/invoice --records orders.xlsx --lines-sheet Lines --key number --bind all.pdf`,
		Args: atLeastOne("pages or a template folder"),
		RunE: func(c *cobra.Command, args []string) error {
			if f.medium != "print" && f.medium != "screen" {
				return usage("--medium is print or screen, not %q", f.medium)
			}
			if f.watch {
				return f.watched(c, args)
			}
			return f.run(c, args)
		},
	}
	fl := c.Flags()
	fl.StringVarP(&f.out, "output", "o", "", "PDF file to write, for a single page")
	fl.StringVar(&f.to, "to", "", "folder that gets one PDF for each record or page")
	fl.StringArrayVar(&f.addCSS, "add-css", nil, "style sheet after the page's own (repeatable)")
	fl.StringArrayVar(&f.baseCSS, "base-css", nil, "style sheet before the page's own, whose rules win over it (repeatable)")
	fl.StringVar(&f.within, "within", "", "folder that addresses may resolve inside (default: the page's own)")
	fl.BoolVar(&f.watch, "watch", false, "render again when a file beside the page, or of the template, changes")
	fl.StringVar(&f.proof, "proof", "", "PDF file that gets a copy with page areas and findings drawn onto it; a folder where several documents are made")
	f.records.add(fl)
	fl.StringSliceVar(&f.hosts, "allow-host", nil, "host that pages, style sheets, pictures and fonts may be loaded from (repeatable)")
	f.batch.add(fl)
	f.file.add(fl)
	fl.StringVar(&f.medium, "medium", "print", "medium whose rules apply: print or screen")
	fl.BoolVarP(&f.quiet, "quiet", "q", false, "do not print findings and progress")
	return c
}

// options reads the style sheets and opens the folder of a page.
func (f *renderFlags) options(page string) (typeset.Options, *typeset.Folder, error) {
	o := typeset.Options{Medium: f.medium}
	if err := f.file.apply(&o); err != nil {
		return o, nil, err
	}
	within := f.within
	if within == "" {
		within = filepath.Dir(page)
	}
	rel, err := relativeTo(within, page)
	if err != nil {
		return o, nil, usage("%s does not lie inside the folder %s; widen --within", page, within)
	}
	o.Name = rel
	for _, list := range []struct {
		names []string
		to    *[]typeset.Sheet
	}{{f.addCSS, &o.Add}, {f.baseCSS, &o.Base}} {
		for _, name := range list.names {
			text, err := os.ReadFile(name)
			if err != nil {
				return o, nil, usage("the style sheet %s cannot be read: %v", name, errors.Unwrap(err))
			}
			at, err := relativeTo(within, name)
			if err != nil {
				at = filepath.Base(name)
			}
			*list.to = append(*list.to, typeset.Sheet{Name: at, Text: string(text)})
		}
	}
	folder, err := typeset.OpenFolder(within)
	if err != nil {
		return o, nil, usage("the folder %s cannot be opened: %v", within, errors.Unwrap(err))
	}
	o.Loader = folder
	if len(f.hosts) > 0 {
		o.Loader = &typeset.Web{Hosts: f.hosts, Local: folder}
	}
	return o, folder, nil
}

// relativeTo gives the slash path of a file inside a folder.
func relativeTo(dir, file string) (string, error) {
	a, err := filepath.Abs(dir)
	if err != nil {
		return "", err
	}
	b, err := filepath.Abs(file)
	if err != nil {
		return "", err
	}
	rel, err := filepath.Rel(a, b)
	if err != nil {
		return "", err
	}
	if rel == ".." || strings.HasPrefix(rel, ".."+string(filepath.Separator)) {
		return "", errors.New("outside")
	}
	return filepath.ToSlash(rel), nil
}

// address renders a page of the web. Its host is allowed, as it is named; others
// need --allow-host. Scripts of the page do not run.
func (f *renderFlags) address(c *cobra.Command, page string) error {
	if f.out == "" {
		return usage("a page of the web needs -o FILE")
	}
	u, err := url.Parse(page)
	if err != nil || u.Host == "" {
		return usage("%q is no address", page)
	}
	o, folder, err := f.options("page.html")
	if err != nil {
		return err
	}
	defer folder.Close()
	web := &typeset.Web{Hosts: append([]string{u.Host}, f.hosts...), Private: []string{u.Host}}
	o.Name, o.Loader = page, web
	html, err := web.Load(c.Context(), page)
	if err != nil {
		return fmt.Errorf("%s: %w", page, err)
	}
	return f.set(c, html, o, page, f.out)
}

// run renders what the arguments name.
func (f *renderFlags) run(c *cobra.Command, args []string) error {
	if len(args) == 1 && (strings.HasPrefix(args[0], "https://") || strings.HasPrefix(args[0], "http://")) {
		return f.address(c, args[0])
	}
	if len(args) == 1 && args[0] != "-" {
		st, err := os.Stat(args[0])
		if err != nil {
			return usage("%s: there is no such page or template folder", args[0])
		}
		if st.IsDir() && (f.records.given() || isTemplate(args[0])) {
			return f.template(c, args[0])
		}
		if !st.IsDir() && f.to == "" {
			return f.page(c, args[0], f.out)
		}
	}
	if f.records.given() {
		return usage("records need one template folder, not pages")
	}
	if len(args) == 1 && args[0] == "-" {
		return f.page(c, "-", f.out)
	}
	return f.pages(c, args)
}

func isTemplate(dir string) bool {
	_, err := os.Stat(filepath.Join(dir, merge.ManifestName))
	return err == nil
}

// pages sets several pages, and those in folders.
func (f *renderFlags) pages(c *cobra.Command, args []string) error {
	if f.to == "" || f.out != "" {
		return usage("several pages need --to DIR for their PDF files, and no -o")
	}
	var list []string
	for _, a := range args {
		st, err := os.Stat(a)
		if err != nil {
			return usage("%s: there is no such page or folder", a)
		}
		if !st.IsDir() {
			list = append(list, a)
			continue
		}
		for _, pattern := range []string{"*.html", "*.htm"} {
			found, err := filepath.Glob(filepath.Join(a, pattern))
			if err != nil {
				return err
			}
			list = append(list, found...)
		}
	}
	if len(list) == 0 {
		return usage("there is no .html file in %s", strings.Join(args, ", "))
	}
	if err := makeFolder(f.to); err != nil {
		return err
	}
	if err := f.proofFolder(); err != nil {
		return err
	}
	failed := 0
	taken := map[string]string{}
	for _, page := range list {
		out := filepath.Join(f.to, strings.TrimSuffix(filepath.Base(page), filepath.Ext(page))+".pdf")
		if other, clash := taken[out]; clash {
			return usage("%s and %s would both become %s", other, page, out)
		}
		taken[out] = page
		if err := f.page(c, page, out); err != nil {
			failed++
			fmt.Fprintln(c.ErrOrStderr(), "olive:", err)
		}
	}
	if failed > 0 {
		fmt.Fprintf(c.ErrOrStderr(), "olive: %d of %d pages failed\n", failed, len(list))
		return errSome
	}
	return nil
}

func (f *renderFlags) page(c *cobra.Command, page, out string) error {
	stdin := page == "-"
	if out == "" {
		if stdin {
			return usage("a page from standard input needs -o FILE")
		}
		out = strings.TrimSuffix(page, filepath.Ext(page)) + ".pdf"
	}
	var html []byte
	var err error
	if stdin {
		page = "page.html"
		html, err = io.ReadAll(io.LimitReader(c.InOrStdin(), 256<<20))
	} else {
		html, err = os.ReadFile(page)
	}
	if err != nil {
		return usage("%s cannot be read: %v", page, errors.Unwrap(err))
	}
	o, folder, err := f.options(page)
	if err != nil {
		return err
	}
	defer folder.Close()
	return f.set(c, html, o, page, out)
}

// set writes one page and tells what was found.
func (f *renderFlags) set(c *cobra.Command, html []byte, o typeset.Options, page, out string) error {
	doc, err := writeDocument(c.Context(), html, o, out)
	if err != nil {
		return fmt.Errorf("%s: %w", page, err)
	}
	if f.proof != "" {
		data, err := os.ReadFile(out)
		if err != nil {
			return fmt.Errorf("%s cannot be read: %w", out, errors.Unwrap(err))
		}
		if err := writeProof(c.Context(), data, f.proofName(out), doc); err != nil {
			return err
		}
	}
	if !f.quiet {
		for _, x := range doc.Findings {
			fmt.Fprintln(c.ErrOrStderr(), x)
		}
		fmt.Fprintf(c.OutOrStdout(), "%s: %s\n", out, pages(doc.Pages))
	}
	return nil
}

// proofFolder makes the folder that the proofs of several documents go to.
func (f *renderFlags) proofFolder() error {
	f.several = true
	if f.proof == "" {
		return nil
	}
	if strings.EqualFold(filepath.Ext(f.proof), ".pdf") {
		return usage("--proof names a folder when several documents are made, not the file %s", f.proof)
	}
	return makeFolder(f.proof)
}

// makeFolder makes the folder that documents go to.
func makeFolder(dir string) error {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return usage("the folder %s cannot be made: %v", dir, errors.Unwrap(err))
	}
	return nil
}

func pages(n int) string { return plural(n, "page") }

// plural is a number of things.
func plural(n int, thing string) string {
	if n == 1 {
		return "1 " + thing
	}
	return fmt.Sprintf("%d %ss", n, thing)
}

// writeDocument sets a page into a file.
func writeDocument(ctx context.Context, html []byte, o typeset.Options, out string) (doc *typeset.Document, err error) {
	err = writeWhole(out, func(w io.Writer) error {
		doc, err = typeset.Set(ctx, html, o, w)
		return err
	})
	return doc, err
}

// writeWhole writes a file that appears under its name only when it is whole.
func writeWhole(out string, write func(io.Writer) error) error {
	tmp, err := os.CreateTemp(filepath.Dir(out), ".olive-*.pdf")
	if err != nil {
		return fmt.Errorf("the folder of %s cannot be written to: %w", out, err)
	}
	defer os.Remove(tmp.Name())
	if err = write(tmp); err == nil {
		err = tmp.Chmod(0o644)
	}
	if e := tmp.Close(); err == nil {
		err = e
	}
	if err != nil {
		return err
	}
	return os.Rename(tmp.Name(), out)
}
