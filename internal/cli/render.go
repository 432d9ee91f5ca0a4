package cli

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"oliveledger/internal/setting"
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
	quiet, json     bool
	subfolders      bool
	date            string
	fail            failing
	file            fileFlags
	limits          limitFlags
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
			if err := f.check(); err != nil {
				return err
			}
			if err := f.limits.begin(c.ErrOrStderr()); err != nil {
				return err
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
	f.limits.add(fl)
	fl.StringVar(&f.medium, "medium", "print", "medium whose rules apply: print or screen")
	fl.BoolVarP(&f.quiet, "quiet", "q", false, "do not print findings and progress")
	fl.BoolVar(&f.json, "json", false, "print what was made and found as JSON")
	f.fail.add(fl, "", "the command")
	fl.StringVar(&f.date, "date", "", "date of the run, which {date} and the function today give: 2026-05-31 (default: today)")
	fl.BoolVar(&f.subfolders, "subfolders", false, "take the pages in the subfolders of folders, too")
	return c
}

// check looks at options by themselves.
func (f *renderFlags) check() error {
	if f.medium != "print" && f.medium != "screen" {
		return usage("--medium is print or screen, not %q", f.medium)
	}
	if _, _, err := f.fail.level(); err != nil {
		return err
	}
	_, err := dateOf(f.date)
	return err
}

// dateOf reads the date of a run; none is the zero time.
func dateOf(s string) (time.Time, error) {
	if s == "" {
		return time.Time{}, nil
	}
	date, err := time.Parse(time.DateOnly, s)
	if err != nil {
		return date, usage("--date is a day such as 2026-05-31, not %q", s)
	}
	return date, nil
}

// onlyForRecords are the options that mean nothing for plain pages.
var onlyForRecords = []string{
	"clash", "report", "resume", "stop-on-error", "bind", "right-hand", "as-one", "only", "soft", "attach-record", "keep-merged",
	"format", "path", "sheet", "delimiter", "encoding", "list", "no-header", "typed", "decimal", "dates", "rename", "lines", "lines-sheet", "lines-in-rows", "key", "line-key", "into", "query", "lines-query", "param",
}

// plainPages refuses options that would do nothing.
func plainPages(c *cobra.Command) error {
	for _, name := range onlyForRecords {
		if c.Flags().Changed(name) {
			return usage("--%s means nothing for plain pages; it goes with a template folder and --records", name)
		}
	}
	return nil
}

// options reads the style sheets and opens the folder of a page.
func (f *renderFlags) options(page string) (typeset.Options, *typeset.Folder, error) {
	o := typeset.Options{Medium: f.medium}
	o.Date, _ = dateOf(f.date) // it was checked
	if err := f.file.apply(&o); err != nil {
		return o, nil, err
	}
	f.limits.apply(&o)
	within := f.within
	if within == "" {
		within = filepath.Dir(page)
	}
	if page == "-" { // its addresses are relative to the folder
		page = filepath.Join(within, "page.html")
	}
	rel, err := relativeTo(within, page)
	if err != nil {
		return o, nil, usage("%s does not lie inside the folder %s; widen --within", page, within)
	}
	o.Name = rel
	for _, list := range []struct {
		names []string
		to    *[]typeset.Sheet
	}{{f.addCSS, &o.AuthorSheets}, {f.baseCSS, &o.UserSheets}} {
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
		if !st.IsDir() && f.to == "" && !f.records.given() {
			if err := plainPages(c); err != nil {
				return err
			}
			return f.page(c, args[0], f.out)
		}
	}
	if f.records.given() {
		return usage("records need one template folder, not pages")
	}
	if err := plainPages(c); err != nil {
		return err
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
		found, err := f.pagesIn(a)
		if err != nil {
			return err
		}
		list = append(list, found...)
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
		out := filepath.Join(f.to, strings.TrimSuffix(f.under(args, page), filepath.Ext(page))+".pdf")
		if other, clash := taken[out]; clash {
			return usage("%s and %s would both become %s", other, page, out)
		}
		taken[out] = page
		if err := f.page(c, page, out); err != nil {
			failed++
			if !errors.Is(err, errSome) {
				fmt.Fprintln(c.ErrOrStderr(), "olive:", err)
			}
		}
	}
	if failed > 0 {
		fmt.Fprintf(c.ErrOrStderr(), "olive: %d of %s failed\n", failed, pages(len(list)))
		return errSome
	}
	return nil
}

// under is a page's path below the folder that it was found in.
func (f *renderFlags) under(args []string, page string) string {
	for _, dir := range args {
		if rel, err := relativeTo(dir, page); f.subfolders && err == nil && rel != "." {
			return filepath.FromSlash(rel)
		}
	}
	return filepath.Base(page)
}

// pagesIn lists the pages of a folder, in the order of their names.
func (f *renderFlags) pagesIn(dir string) (list []string, err error) {
	err = filepath.WalkDir(dir, func(name string, e fs.DirEntry, err error) error {
		switch ext := strings.ToLower(filepath.Ext(name)); {
		case err != nil:
			return usage("%s cannot be read: %v", name, errors.Unwrap(err))
		case e.IsDir() && name != dir && !f.subfolders:
			return fs.SkipDir
		case !e.IsDir() && (ext == ".html" || ext == ".htm"):
			list = append(list, name)
		}
		return nil
	})
	return list, err
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
		html, err = io.ReadAll(io.LimitReader(c.InOrStdin(), 256<<20))
	} else {
		html, err = os.ReadFile(page)
	}
	if err != nil {
		return usage("%s cannot be read: %v", page, errors.Unwrap(err))
	}
	name := page
	if stdin {
		name = "standard input"
	}
	if err := isPage(name, html); err != nil {
		return err
	}
	if first, n := unmerged(html); n > 0 && !f.quiet {
		fmt.Fprintf(c.ErrOrStderr(), "warning: %s holds %s such as %s, which stay as they are: a template is a folder with a %s, and is filled by olive render FOLDER --records FILE\n", name, plural(n, "unfilled action"), first, merge.ManifestName)
	}
	o, folder, err := f.options(page)
	if err != nil {
		return err
	}
	defer folder.Close()
	return f.set(c, html, o, name, out)
}

// set writes one page and tells what was found.
func (f *renderFlags) set(c *cobra.Command, html []byte, o typeset.Options, page, out string) error {
	return f.setMerged(c, html, o, nil, page, out)
}

// setMerged writes the page of a template, whose findings are told in its files.
func (f *renderFlags) setMerged(c *cobra.Command, html []byte, o typeset.Options, from *merge.Merged, page, out string) error {
	doc, err := f.write(c, html, o, out)
	if err != nil {
		return fmt.Errorf("%s: %w", page, err)
	}
	if from != nil {
		setting.Trace(doc.Findings, from, o.Name)
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
		tellFindings(c.ErrOrStderr(), doc.Findings)
	}
	told := c.OutOrStdout()
	if out == standardOutput {
		told = c.ErrOrStderr()
	}
	switch {
	case f.json:
		err = writeJSON(told, made{out, doc.Pages, doc.Title, emptyList(doc.Findings)})
	case !f.quiet:
		_, err = fmt.Fprintf(told, "%s: %s\n", out, pages(doc.Pages))
	}
	if err == nil && f.fail.breached(doc.Findings) {
		err = errSome
	}
	return err
}

// made is what --json tells of a document.
type made struct {
	File     string            `json:"file"`
	Pages    int               `json:"pages"`
	Title    string            `json:"title"`
	Findings []typeset.Finding `json:"findings"`
}

// emptyList is a list that JSON shows as one even where there is nothing.
func emptyList(list []typeset.Finding) []typeset.Finding {
	if list == nil {
		return []typeset.Finding{}
	}
	return list
}

func writeJSON(w io.Writer, v any) error {
	e := json.NewEncoder(w)
	e.SetIndent("", "  ")
	return e.Encode(v)
}

// write sets a page into a file, whose folder is made, or onto standard output.
func (f *renderFlags) write(c *cobra.Command, html []byte, o typeset.Options, out string) (*typeset.Document, error) {
	defer f.limits.guard(o.Name, c.ErrOrStderr())()
	if out == standardOutput {
		if f.proof != "" {
			return nil, usage("--proof needs a file; -o - writes to standard output")
		}
		var pdf bytes.Buffer
		doc, err := typeset.Set(c.Context(), html, o, &pdf)
		if err == nil {
			_, err = c.OutOrStdout().Write(pdf.Bytes())
		}
		return doc, err
	}
	if err := makeFolderOf(out); err != nil {
		return nil, err
	}
	return writeDocument(c.Context(), html, o, out)
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
