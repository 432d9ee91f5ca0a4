package cli

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"fmt"
	"hash/maphash"
	"os"
	"path/filepath"
	"runtime"
	"strings"
	"sync"
	"time"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"
	"golang.org/x/term"

	"oliveledger/internal/setting"
	"oliveledger/merge"
	"oliveledger/record"
	"oliveledger/typeset"
)

// batchFlags are the options of a run over records.
type batchFlags struct {
	clash, report, bind, asOne  string
	resume, rightHand, stop     bool
	soft, attachRecord, keepAll bool
	numbers                     string
}

func (f *batchFlags) add(fl *pflag.FlagSet) {
	fl.StringVar(&f.clash, "clash", "refuse", "when two records ask for one file name: refuse, number or overwrite")
	fl.StringVar(&f.report, "report", "", "file that gets the report of the run: .json, or .html to read")
	fl.BoolVar(&f.resume, "resume", false, "go on with a stopped run in the same folder")
	fl.BoolVar(&f.stop, "stop-on-error", false, "end the run at the first record that fails")
	fl.StringVar(&f.bind, "bind", "", "PDF file that all documents are bound into, with an outline entry each")
	fl.BoolVar(&f.rightHand, "right-hand", false, "every bound document begins on a right-hand page")
	fl.StringVar(&f.asOne, "as-one", "", "merge all records into one document, as the list .records, and write this PDF: label sheets")
	fl.StringVar(&f.numbers, "only", "", "records to make, by their place: 1,4-7")
	fl.BoolVar(&f.soft, "soft", false, "missing fields are empty instead of an error")
	fl.BoolVar(&f.attachRecord, "attach-record", false, "each PDF carries its record as record.json")
	fl.BoolVar(&f.keepAll, "keep-merged", false, "keep the merged HTML of each document beside it")
}

func (f *batchFlags) check() error {
	switch f.clash {
	case "refuse", "number", "overwrite":
	default:
		return usage("--clash is refuse, number or overwrite, not %q", f.clash)
	}
	if ext := strings.ToLower(filepath.Ext(f.report)); f.report != "" && ext != ".json" && ext != ".html" {
		return usage("--report names a .json or .html file, not %q", f.report)
	}
	return nil
}

func (f *renderFlags) template(c *cobra.Command, dir string) error {
	if err := f.checkTemplate(); err != nil {
		return err
	}
	t, err := f.openTemplate(dir)
	if err != nil {
		return err
	}
	if f.out != "" {
		return f.oneDocument(c, t, dir)
	}
	if f.to != "" {
		if err := makeFolder(f.to); err != nil {
			return err
		}
	}
	if f.batch.asOne == "" {
		if err := f.proofFolder(); err != nil {
			return err
		}
	}
	return f.allRecords(c, t, dir)
}

// checkTemplate looks at what was asked of a template folder.
func (f *renderFlags) checkTemplate() error {
	b := &f.batch
	switch {
	case f.out != "" && (f.to != "" || b.bind != "" || b.asOne != "" || b.report != ""):
		return usage("-o names one document; it does not go with --to, --bind, --as-one and --report")
	case f.out != "":
	case !f.records.given():
		return usage("a template folder needs records: --records FILE, or --database and --query; -o FILE.pdf alone takes its sample")
	case f.to == "" && b.bind == "" && b.asOne == "":
		return usage("a template folder needs --to DIR, --bind FILE.pdf, --as-one FILE.pdf, or -o FILE.pdf for one record")
	case b.asOne != "" && (f.to != "" || b.bind != "" || b.report != ""):
		return usage("--as-one makes one document of all records; it does not go with --to, --bind and --report, which need one for each")
	case b.resume && f.to == "":
		return usage("--resume needs the folder of the stopped run: --to DIR")
	}
	return b.check()
}

// openTemplate opens a template folder as it is on the day that was named.
func (f *renderFlags) openTemplate(dir string) (*merge.Template, error) {
	t, err := merge.Open(dir, os.DirFS(dir))
	if err != nil {
		return nil, err
	}
	if f.batch.soft {
		t.Soften()
	}
	date, err := dateOf(f.date)
	if err != nil {
		return nil, err
	}
	return t.On(date)
}

// allRecords sets a template with each of its records, or one document of them all.
func (f *renderFlags) allRecords(c *cobra.Command, t *merge.Template, dir string) error {
	o, folder, err := f.templateOptions(t, dir)
	if err != nil {
		return err
	}
	defer folder.Close()
	run := &batchRun{f: f, t: t, o: o, c: c, names: map[uint64]int32{}, start: time.Now(), told: map[typeset.Finding]bool{}}
	if st, err := os.Stat(f.records.file); err == nil {
		run.size = st.Size()
	}
	if run.wanted, err = choiceOf(f.batch.numbers); err != nil {
		return err
	}
	source, err := f.records.source(c, f.quiet, run.badRow, run.counted)
	if err != nil {
		return err
	}
	if f.batch.asOne != "" {
		return run.asOne(source)
	}
	if f.to != "" {
		if run.journal, err = openJournal(f.to, dir, f.batch.resume); err != nil {
			return err
		}
	}
	err = run.all(source)
	if run.journal != nil {
		run.journal.close(err == nil)
	}
	return err
}

// templateOptions are the options of a template's documents, with its own defaults.
func (f *renderFlags) templateOptions(t *merge.Template, dir string) (typeset.Options, *typeset.Folder, error) {
	o, folder, err := f.options(filepath.Join(dir, t.Manifest.Page))
	if err != nil {
		return o, nil, err
	}
	if err := setting.Apply(t, &o); err != nil {
		folder.Close()
		return o, nil, err
	}
	return o, folder, nil
}

// oneDocument makes the document of one record: the one that --only names, the only one
// of its file, or the template's sample.
func (f *renderFlags) oneDocument(c *cobra.Command, t *merge.Template, dir string) error {
	r, err := f.onlyRecord(c, t, dir)
	if err != nil {
		return err
	}
	merged, err := f.merge(c, t, r)
	if err != nil {
		return err
	}
	o, folder, err := f.templateOptions(t, dir)
	if err != nil {
		return err
	}
	defer folder.Close()
	if f.batch.attachRecord {
		attachRecord(&o, r)
	}
	differences, err := setting.Differences(t, r)
	if err != nil {
		return err
	}
	if !f.quiet {
		tellFindings(c.ErrOrStderr(), differences)
	}
	if err := f.setMerged(c, merged.HTML, o, merged, r.Name(), f.out); err != nil {
		return err
	}
	if f.fail.breached(differences) {
		return errSome
	}
	return nil
}

// merge fills a template with a record within the time that a document may take.
func (f *renderFlags) merge(c *cobra.Command, t *merge.Template, r record.Record) (*merge.Merged, error) {
	defer f.limits.guard(r.Name(), c.ErrOrStderr())()
	return t.Merge(r)
}

func (f *renderFlags) onlyRecord(c *cobra.Command, t *merge.Template, dir string) (out record.Record, err error) {
	if !f.records.given() {
		return t.SampleRecord()
	}
	wanted, err := choiceOf(f.batch.numbers)
	if err != nil {
		return out, err
	}
	source, err := f.records.source(c, f.quiet, nil, nil)
	if err != nil {
		return out, err
	}
	n := 0
	err = source(func(r record.Record) error {
		if !wanted.takes(r.Number) {
			return nil
		}
		if n++; n > 1 {
			return usage("-o names one document, but %s holds several records; use --to DIR, or choose one with --only", f.records.name())
		}
		out = r
		return nil
	})
	if err == nil && n == 0 {
		err = cmp.Or(wanted.beyond(f.records.name()), fmt.Errorf("%s holds no records", f.records.name()))
	}
	return out, err
}

// batchRun is one template over one source of records.
type batchRun struct {
	f       *renderFlags
	t       *merge.Template
	o       typeset.Options
	c       *cobra.Command
	start   time.Time
	size    int64
	wanted  choice
	severe  int // documents with findings that --fail-at names
	journal *journal

	mu                           sync.Mutex
	names                        map[uint64]int32 // digests of the file names taken, so that a million take little, with their records
	done, failed, pages, resumed int
	read                         int64
	told                         map[typeset.Finding]bool
	lines                        []outcome // for the report, in the order they ended
	bound                        []boundDocument
	printed                      time.Time
}

var nameSeed = maphash.MakeSeed()

// taken is the digest of a file name; file systems may not tell letter case
// apart.
func taken(name string) uint64 { return maphash.String(nameSeed, strings.ToLower(name)) }

// outcome is what became of one record.
type outcome struct {
	Record   int               `json:"record"`
	Line     int               `json:"line,omitempty"`
	Name     string            `json:"name"`
	File     string            `json:"file,omitempty"`
	Pages    int               `json:"pages,omitempty"`
	Bytes    int64             `json:"bytes,omitempty"`
	Resumed  bool              `json:"resumed,omitempty"`
	Findings []typeset.Finding `json:"findings,omitempty"`
	Error    string            `json:"error,omitempty"`
}

// counted hears of what is read of the record file.
func (b *batchRun) counted(n int) {
	b.mu.Lock()
	b.read += int64(n)
	b.mu.Unlock()
}

// badRow counts a row that cannot be read as a record that failed.
func (b *batchRun) badRow(e *record.RowError) error {
	b.fail(outcome{Line: e.Line, Name: fmt.Sprintf("line %d", e.Line), Error: e.Error()}, e)
	if b.f.batch.stop {
		return errSome
	}
	return nil
}

// fail counts a record that failed, and tells why.
func (b *batchRun) fail(out outcome, err error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.failed++
	b.note(out)
	b.clear()
	fmt.Fprintln(b.c.ErrOrStderr(), "olive:", err)
}

// note keeps what became of a record, when a report is asked for.
func (b *batchRun) note(out outcome) {
	if b.f.batch.report != "" || b.f.json {
		b.lines = append(b.lines, out)
	}
}

// all makes the documents on all cores.
func (b *batchRun) all(source record.Source) error {
	ctx, cancel := context.WithCancel(b.c.Context())
	defer cancel()
	queue := make(chan record.Record, 2*runtime.NumCPU())
	var wg sync.WaitGroup
	for range runtime.NumCPU() {
		wg.Add(1)
		go func() {
			defer wg.Done()
			for r := range queue {
				if !b.one(ctx, r) && b.f.batch.stop {
					cancel()
				}
			}
		}()
	}
	err := source(func(r record.Record) error {
		if !b.wanted.takes(r.Number) {
			return nil
		}
		select {
		case queue <- r:
			return nil
		case <-ctx.Done():
			return errStopped
		}
	})
	close(queue)
	wg.Wait()
	b.mu.Lock()
	b.clear()
	b.mu.Unlock()
	if err := b.writeReport(err); err != nil {
		return err
	}
	return b.finish(err)
}

var errStopped = errors.New("stopped")

// finish tells how the run went.
func (b *batchRun) finish(err error) error {
	switch {
	case errors.Is(err, errStopped) && b.failed > 0 && b.f.batch.stop:
		return errSome
	case errors.Is(err, errStopped):
		hint := ""
		if b.f.to != "" {
			hint = "; the same command with --resume goes on"
		}
		return fmt.Errorf("stopped after %s%s", plural(b.done, "document"), hint)
	case errors.Is(err, errSome):
		return err
	case err != nil:
		return err
	}
	if err := b.wanted.beyond(b.f.records.name()); err != nil {
		return err
	}
	if b.done == 0 && b.failed == 0 && b.resumed == 0 {
		return fmt.Errorf("%s holds no records", b.f.records.name())
	}
	if err := b.bind(); err != nil {
		return err
	}
	switch {
	case b.f.json:
		if err := writeJSON(b.c.OutOrStdout(), b.lines); err != nil {
			return err
		}
	case !b.f.quiet && b.done+b.resumed > 0:
		b.summary()
	}
	if b.failed > 0 {
		fmt.Fprintf(b.c.ErrOrStderr(), "olive: %d of %s failed\n", b.failed, plural(b.done+b.failed+b.resumed, "document"))
		return errSome
	}
	if b.severe > 0 {
		fmt.Fprintf(b.c.ErrOrStderr(), "olive: findings of severity %s or above in %s\n", b.f.fail.name, plural(b.severe, "document"))
		return errSome
	}
	return nil
}

func (b *batchRun) summary() {
	where := b.f.to
	if where == "" {
		where = b.f.batch.bind
	}
	seconds := time.Since(b.start).Seconds()
	fmt.Fprintf(b.c.OutOrStdout(), "%s, %s, in %s (%.1f s, %.0f a second)\n", plural(b.done, "document"), pages(b.pages), where, seconds, float64(b.done)/max(seconds, 1e-3))
	if b.resumed > 0 {
		fmt.Fprintf(b.c.OutOrStdout(), "already there: %s\n", plural(b.resumed, "document"))
	}
}

// one makes the document of one record and tells whether it went well.
func (b *batchRun) one(ctx context.Context, r record.Record) bool {
	out, err := b.make(ctx, r)
	if err != nil && ctx.Err() != nil { // stopped in the middle: not its fault
		return true
	}
	if err != nil {
		out.Error, out.File = err.Error(), ""
		b.fail(out, fmt.Errorf("%s: %w", b.f.records.name(), err))
		return false
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	b.note(out)
	if out.Resumed {
		b.resumed++
		return true
	}
	b.done++
	b.pages += out.Pages
	if b.f.fail.breached(out.Findings) {
		b.severe++
	}
	if !b.f.quiet {
		b.tell(out.Findings)
	}
	b.bar()
	return true
}

// tell prints findings, each once for the whole run.
func (b *batchRun) tell(list []typeset.Finding) {
	for _, x := range list {
		x.Page = 0
		key := x
		key.Line, key.Column, key.Rect = 0, 0, [4]float64{}
		if !b.told[key] {
			b.told[key] = true
			b.clear()
			fmt.Fprintln(b.c.ErrOrStderr(), x)
		}
	}
}

func (b *batchRun) make(ctx context.Context, r record.Record) (outcome, error) {
	out := outcome{Record: r.Number, Line: r.Line, Name: r.Name()}
	name, err := b.t.FileName(r)
	if err != nil {
		return out, err
	}
	if name, err = b.take(name, r); err != nil {
		return out, err
	}
	out.File = name
	sum := ""
	if b.journal != nil {
		sum = checksum(r)
		if e, ok := b.journal.made(sum, name); ok {
			out.Resumed, out.Pages, out.Bytes = true, e.Pages, e.Bytes
			return out, b.keep(r, name, nil)
		}
	}
	defer b.f.limits.guard(r.Name(), b.c.ErrOrStderr())()
	merged, err := b.t.Merge(r)
	if err != nil {
		return out, err
	}
	if b.f.batch.keepAll && b.f.to != "" {
		if err := os.WriteFile(filepath.Join(b.f.to, strings.TrimSuffix(name, ".pdf")+".html"), merged.HTML, 0o644); err != nil {
			return out, fmt.Errorf("the merged page could not be kept: %w", errors.Unwrap(err))
		}
	}
	var pdf bytes.Buffer
	doc, err := typeset.Set(ctx, merged.HTML, b.withRecord(r), &pdf)
	if err != nil {
		return out, fmt.Errorf("%s: %w", r.Name(), err)
	}
	setting.Trace(doc.Findings, merged, b.o.Name)
	differences, err := setting.Differences(b.t, r)
	if err != nil {
		return out, err
	}
	doc.Findings = append(differences, doc.Findings...)
	if b.f.proof != "" {
		if err := writeProof(ctx, pdf.Bytes(), b.f.proofName(name), doc); err != nil {
			return out, err
		}
	}
	out.Pages, out.Bytes, out.Findings = doc.Pages, int64(pdf.Len()), doc.Findings
	if b.f.to != "" {
		if err := writeBytes(filepath.Join(b.f.to, name), pdf.Bytes()); err != nil {
			return out, err
		}
		if err := b.journal.add(entry{Sum: sum, File: name, Pages: out.Pages, Bytes: out.Bytes}); err != nil {
			return out, err
		}
	}
	return out, b.keep(r, name, pdf.Bytes())
}

// take reserves a file name for a record.
func (b *batchRun) take(name string, r record.Record) (string, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	first, clash := b.names[taken(name)]
	if clash && b.f.batch.clash == "refuse" {
		return "", fmt.Errorf("%s: its file name %s is that of record %d; use a field in “filename” that differs, or --clash number", r.Name(), name, first)
	}
	if clash && b.f.batch.clash == "number" {
		stem := strings.TrimSuffix(name, ".pdf")
		for n := 2; clash; n++ {
			name = fmt.Sprintf("%s-%d.pdf", stem, n)
			_, clash = b.names[taken(name)]
		}
	}
	b.names[taken(name)] = int32(r.Number)
	return name, nil
}

// withRecord gives the options of one document.
func (b *batchRun) withRecord(r record.Record) typeset.Options {
	o := b.o
	if b.f.batch.attachRecord {
		attachRecord(&o, r)
	}
	return o
}

func attachRecord(o *typeset.Options, r record.Record) {
	o.Attach = append(o.Attach[:len(o.Attach):len(o.Attach)], typeset.Attachment{Name: "record.json", Type: "application/json", Data: asJSON(r.Data)})
}

// terminal is the error stream when it is a terminal.
func (b *batchRun) terminal() *os.File {
	if f, ok := b.c.ErrOrStderr().(*os.File); ok && term.IsTerminal(int(f.Fd())) && !b.f.quiet {
		return f
	}
	return nil
}

func (b *batchRun) clear() {
	if t := b.terminal(); t != nil {
		fmt.Fprint(t, "\r\x1b[K")
	}
}

// bar shows how much of the record file has been read, the rate and the time
// left: as a bar on a terminal, else as a plain line now and then.
func (b *batchRun) bar() {
	if b.f.quiet {
		return
	}
	passed := time.Since(b.start)
	share := 0.0
	if b.size > 0 {
		share = min(float64(b.read)/float64(b.size), 1)
	}
	made := b.done + b.failed
	rate := float64(made) / max(passed.Seconds(), 1e-3)
	left := ""
	if share > 0.02 && share < 1 && passed > time.Second {
		left = fmt.Sprintf("  %s left", time.Duration(float64(passed)*(1/share-1)).Round(time.Second))
	}
	failed := ""
	if b.failed > 0 {
		failed = fmt.Sprintf("  %d failed", b.failed)
	}
	t := b.terminal()
	if t == nil {
		const every = 10 * time.Second
		if time.Since(b.printed) > every && passed > every {
			b.printed = time.Now()
			fmt.Fprintf(b.c.ErrOrStderr(), "%s%s  %.0f/s%s\n", plural(made, "document"), failed, rate, left)
		}
		return
	}
	if time.Since(b.printed) < 50*time.Millisecond {
		return
	}
	b.printed = time.Now()
	const width = 30
	full := int(share * width)
	fmt.Fprintf(t, "\r\x1b[K%s%s %3.0f %%  %d documents  %.0f/s%s%s", strings.Repeat("█", full), strings.Repeat("░", width-full), share*100, b.done, rate, left, failed)
}
