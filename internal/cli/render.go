package cli

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"runtime"
	"strings"
	"sync"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"oliveledger/merge"
	"oliveledger/record"
	"oliveledger/typeset"
)

// renderFlags are the options of olive render.
type renderFlags struct {
	out, to, records, within string
	addCSS, baseCSS          []string
	medium                   string
	quiet                    bool
	file                     fileFlags
}

func renderCommand() *cobra.Command {
	var f renderFlags
	c := &cobra.Command{
		Use:   "render PAGE.html -o OUT.pdf | render TEMPLATE --records FILE --to DIR",
		Short: "Set a page, or one document for each record of a file",
		Long: `Sets a plain HTML page as PDF, or merges each record of a file into a template
folder and sets one PDF for each. It needs no service.

Exit code: 0 when all went well, 1 when a document failed, 2 for wrong use.`,
		Example: `  olive render page.html -o page.pdf --paper "A4 landscape" --margins "18mm 16mm"
  olive render templates/invoice --records invoices.json --to out/`,
		Args: exactly(1, "one page or template folder"),
		RunE: func(c *cobra.Command, args []string) error {
			if f.medium != "print" && f.medium != "screen" {
				return usage("--medium is print or screen, not %q", f.medium)
			}
			st, err := os.Stat(args[0])
			if err != nil {
				return usage("%s: there is no such page or template folder", args[0])
			}
			if st.IsDir() {
				return f.template(c, args[0])
			}
			return f.page(c, args[0])
		},
	}
	fl := c.Flags()
	fl.StringVarP(&f.out, "output", "o", "", "PDF file to write, for a single page")
	fl.StringVar(&f.records, "records", "", "file of records: .json, .ndjson, .jsonl or .csv")
	fl.StringVar(&f.to, "to", "", "folder that gets one PDF for each record")
	fl.StringArrayVar(&f.addCSS, "add-css", nil, "style sheet after the page's own (repeatable)")
	fl.StringArrayVar(&f.baseCSS, "base-css", nil, "style sheet before the page's own, whose rules win over it (repeatable)")
	fl.StringVar(&f.within, "within", "", "folder that addresses may resolve inside (default: the page's own)")
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

func (f *renderFlags) page(c *cobra.Command, page string) error {
	if f.records != "" || f.to != "" {
		return usage("--records and --to need a template folder, and %s is a file", page)
	}
	out := f.out
	if out == "" {
		out = strings.TrimSuffix(page, filepath.Ext(page)) + ".pdf"
	}
	html, err := os.ReadFile(page)
	if err != nil {
		return usage("%s cannot be read: %v", page, errors.Unwrap(err))
	}
	o, folder, err := f.options(page)
	if err != nil {
		return err
	}
	defer folder.Close()
	doc, err := writeDocument(c.Context(), html, o, out)
	if err != nil {
		return fmt.Errorf("%s: %w", page, err)
	}
	if !f.quiet {
		for _, x := range doc.Findings {
			fmt.Fprintln(c.ErrOrStderr(), x)
		}
		fmt.Fprintf(c.OutOrStdout(), "%s: %s\n", out, pages(doc.Pages))
	}
	return nil
}

func pages(n int) string {
	if n == 1 {
		return "1 page"
	}
	return fmt.Sprintf("%d pages", n)
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

func (f *renderFlags) template(c *cobra.Command, dir string) error {
	switch {
	case f.records == "" || f.to == "":
		return usage("a template folder needs --records FILE and --to DIR")
	case f.out != "":
		return usage("-o names one file; use --to DIR for the documents of a template")
	}
	format, err := record.FormatOf(f.records)
	if err != nil {
		return usageError{err}
	}
	t, err := merge.Open(dir, os.DirFS(dir))
	if err != nil {
		return err
	}
	in, err := os.Open(f.records)
	if err != nil {
		return usage("the records %s cannot be read: %v", f.records, errors.Unwrap(err))
	}
	defer in.Close()
	if err := os.MkdirAll(f.to, 0o755); err != nil {
		return usage("the folder %s cannot be made: %v", f.to, errors.Unwrap(err))
	}
	o, folder, err := f.options(filepath.Join(dir, t.Manifest.Page))
	if err != nil {
		return err
	}
	defer folder.Close()
	run := &batchRun{f: f, t: t, o: o, c: c, used: map[string]int{}, start: time.Now(), size: fileSize(in)}
	return run.all(in, format)
}

func fileSize(f *os.File) int64 {
	if st, err := f.Stat(); err == nil {
		return st.Size()
	}
	return 0
}

// batchRun is one template over one file of records.
type batchRun struct {
	f     *renderFlags
	t     *merge.Template
	o     typeset.Options
	c     *cobra.Command
	used  map[string]int // file names taken, by record number
	start time.Time
	size  int64

	mu                  sync.Mutex
	done, failed, pages int
	read                int64
	told                map[string]bool
}

// tally counts the bytes of the record file that have been read.
type tally struct {
	r io.Reader
	b *batchRun
}

func (t tally) Read(p []byte) (int, error) {
	n, err := t.r.Read(p)
	t.b.mu.Lock()
	t.b.read += int64(n)
	t.b.mu.Unlock()
	return n, err
}

func (b *batchRun) all(in io.Reader, format record.Format) error {
	ctx := b.c.Context()
	queue := make(chan record.Record, 2*runtime.NumCPU())
	var wg sync.WaitGroup
	for range runtime.NumCPU() {
		wg.Add(1)
		go func() {
			defer wg.Done()
			for r := range queue {
				b.one(ctx, r)
			}
		}()
	}
	err := record.Each(tally{in, b}, format, func(r record.Record) error {
		select {
		case queue <- r:
			return nil
		case <-ctx.Done():
			return errors.New("stopped")
		}
	})
	close(queue)
	wg.Wait()
	b.progress(true)
	if err != nil {
		return fmt.Errorf("%s: %w", b.f.records, err)
	}
	if !b.f.quiet {
		fmt.Fprintf(b.c.OutOrStdout(), "%d documents, %s, in %s (%.1f s)\n", b.done, pages(b.pages), b.f.to, time.Since(b.start).Seconds())
	}
	if b.failed > 0 {
		fmt.Fprintf(b.c.ErrOrStderr(), "olive: %d of %d documents failed\n", b.failed, b.done+b.failed)
		return errSome
	}
	if b.done == 0 {
		return fmt.Errorf("%s holds no records", b.f.records)
	}
	return nil
}

// one makes the document of one record.
func (b *batchRun) one(ctx context.Context, r record.Record) {
	doc, err := b.make(ctx, r)
	b.mu.Lock()
	defer b.mu.Unlock()
	if err != nil {
		b.failed++
		b.clear()
		fmt.Fprintf(b.c.ErrOrStderr(), "olive: %s: %v\n", b.f.records, err)
		return
	}
	b.done++
	b.pages += doc.Pages
	if !b.f.quiet {
		for _, x := range doc.Findings {
			x.Page = 0
			if s := x.String(); !b.told[s] { // once for the whole run
				if b.told == nil {
					b.told = map[string]bool{}
				}
				b.told[s] = true
				b.clear()
				fmt.Fprintln(b.c.ErrOrStderr(), s)
			}
		}
	}
	b.bar()
}

func (b *batchRun) make(ctx context.Context, r record.Record) (*typeset.Document, error) {
	html, err := b.t.Merge(r)
	if err != nil {
		return nil, err
	}
	name, err := b.t.FileName(r)
	if err != nil {
		return nil, err
	}
	b.mu.Lock()
	first, clash := b.used[strings.ToLower(name)]
	if !clash {
		b.used[strings.ToLower(name)] = r.Number
	}
	b.mu.Unlock()
	if clash {
		return nil, fmt.Errorf("%s: its file name %s is that of record %d; use a field in “filename” that differs", r.Name(), name, first)
	}
	doc, err := writeDocument(ctx, html, b.o, filepath.Join(b.f.to, name))
	if err != nil {
		return nil, fmt.Errorf("%s: %w", r.Name(), err)
	}
	return doc, nil
}

// terminal is the error stream when it is a terminal.
func (b *batchRun) terminal() *os.File {
	if f, ok := b.c.ErrOrStderr().(*os.File); ok && term.IsTerminal(int(f.Fd())) && !b.f.quiet {
		return f
	}
	return nil
}

func (b *batchRun) progress(last bool) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if last {
		b.clear()
		return
	}
	b.bar()
}

func (b *batchRun) clear() {
	if t := b.terminal(); t != nil {
		fmt.Fprint(t, "\r\x1b[K")
	}
}

// bar draws the progress bar: how much of the record file has been read.
func (b *batchRun) bar() {
	t := b.terminal()
	if t == nil {
		return
	}
	const width = 30
	share := 0.0
	if b.size > 0 {
		share = min(float64(b.read)/float64(b.size), 1)
	}
	full := int(share * width)
	rate := float64(b.done+b.failed) / max(time.Since(b.start).Seconds(), 1e-3)
	line := bytes.NewBufferString("\r\x1b[K")
	fmt.Fprintf(line, "%s%s %3.0f %%  %d documents  %.0f/s", strings.Repeat("█", full), strings.Repeat("░", width-full), share*100, b.done, rate)
	if b.failed > 0 {
		fmt.Fprintf(line, "  %d failed", b.failed)
	}
	t.Write(line.Bytes())
}
