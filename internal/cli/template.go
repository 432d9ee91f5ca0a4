package cli

import (
	"cmp"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"oliveledger/internal/setting"
	"oliveledger/merge"
	"oliveledger/merge/starter"
	"oliveledger/record"
	"oliveledger/typeset"
)

func newCommand() *cobra.Command {
	var kind string
	var list strings.Builder
	for _, s := range starter.Names {
		fmt.Fprintf(&list, "  %-12s %s\n", s.Name, s.What)
	}
	c := &cobra.Command{
		Use:     "new FOLDER --from STARTER",
		Short:   "Make a template folder to begin with",
		Long:    "Makes a template folder from one of the starters:\n\n" + list.String(),
		Example: "  olive new templates/invoice --from invoice",
		Args:    exactly(1, "the folder to make"),
		RunE: func(c *cobra.Command, args []string) error {
			if err := starter.Copy(kind, args[0]); err != nil {
				return usageError{err}
			}
			fmt.Fprintf(c.OutOrStdout(), "%s: a template made from the starter %s\ntry: olive render %s -o %s.pdf\n", args[0], kind, args[0], filepath.Base(args[0]))
			return nil
		},
	}
	c.Flags().StringVar(&kind, "from", "invoice", "starter to copy")
	return c
}

func mergeCommand() *cobra.Command {
	var out string
	var place int
	var soft bool
	var day string
	var f recordFlags
	var limits limitFlags
	c := &cobra.Command{
		Use:   "merge TEMPLATE [--records FILE] [-o PAGE.html]",
		Short: "Fill a template with one record and show the HTML",
		Long: `Fills a template with a record and writes the HTML, without setting it. Without
records the template's sample is taken. Style sheets and pictures stay addresses
in the template's folder.`,
		Args: exactly(1, "one template folder"),
		RunE: func(c *cobra.Command, args []string) error {
			if err := limits.begin(c.ErrOrStderr()); err != nil {
				return err
			}
			if info, err := os.Stat(args[0]); err == nil && !info.IsDir() {
				return usage("%s is a file; merge takes a template folder", args[0])
			}
			t, err := merge.Open(args[0], os.DirFS(args[0]))
			if err != nil {
				return err
			}
			if soft {
				t.Soften()
			}
			date, err := dateOf(day)
			if err != nil {
				return err
			}
			if t, err = t.On(date); err != nil {
				return err
			}
			r, err := f.one(c, t, args[0], place)
			if err != nil {
				return err
			}
			defer limits.guard(r.Name(), c.ErrOrStderr())()
			merged, err := t.Merge(r)
			if err != nil {
				return err
			}
			_, err = output{c.OutOrStdout(), c.ErrOrStderr()}.write(out, writing(merged.HTML))
			return err
		},
	}
	f.add(c.Flags())
	limits.add(c.Flags())
	c.Flags().StringVarP(&out, "output", "o", standardOutput, "file to write, - for standard output")
	c.Flags().IntVar(&place, "record", 1, "place of the record in its file")
	c.Flags().StringVar(&day, "date", "", "date of the run, which the function today gives: 2026-05-31 (default: today)")
	c.Flags().BoolVar(&soft, "soft", false, "missing fields are empty instead of an error")
	return c
}

// one reads the record at a place, or the template's sample when no records are
// named.
func (f *recordFlags) one(c *cobra.Command, t *merge.Template, dir string, place int) (out record.Record, err error) {
	if !f.given() {
		return t.SampleRecord()
	}
	source, err := f.source(c, false, nil, nil)
	if err != nil {
		return out, err
	}
	n := 0
	err = source(func(r record.Record) error {
		n = r.Number
		if r.Number == place {
			out = r
			return errFound
		}
		return nil
	})
	switch {
	case errors.Is(err, errFound):
		return out, nil
	case err != nil:
		return out, err
	}
	return out, fmt.Errorf("there is no record %d in %s; it holds %d", place, f.name(), n)
}

var errFound = errors.New("found")

// checkFlags are the options of olive check.
type checkFlags struct {
	fail    failing
	json    bool
	date    string
	records recordFlags
}

func checkCommand() *cobra.Command {
	var f checkFlags
	c := &cobra.Command{
		Use:   "check TEMPLATE [--records FILE]",
		Short: "Check a template, and records against it, without making documents",
		Long: `Checks the manifest, the markup, the schema and the sample record of a template,
merges and sets the sample without keeping it, and tells all findings, grouped by
their code. With records, each is merged too, but not set.

Exit code: 0 when no finding is as severe as --fail-at, 1 otherwise.`,
		Args: exactly(1, "one template folder"),
		RunE: func(c *cobra.Command, args []string) error {
			if _, given, err := f.fail.level(); err != nil || !given {
				return cmp.Or(err, usage("--fail-at is note, warning or error"))
			}
			if st, err := os.Stat(args[0]); err != nil || !st.IsDir() {
				return usage("%s: there is no such template folder", args[0])
			}
			list, err := f.check(c, args[0])
			if err != nil {
				return err
			}
			if f.json {
				if err := writeJSON(c.OutOrStdout(), emptyList(list)); err != nil {
					return err
				}
			} else {
				printGrouped(c.OutOrStdout(), args[0], list)
			}
			if f.fail.breached(list) {
				return errSome
			}
			return nil
		},
	}
	f.records.add(c.Flags())
	f.fail.add(c.Flags(), "error", "the check")
	c.Flags().StringVar(&f.date, "date", "", "date of the run, which the function today gives: 2026-05-31 (default: today)")
	c.Flags().BoolVar(&f.json, "json", false, "print the findings as JSON")
	return c
}

// check collects what there is to know of a template.
func (f *checkFlags) check(c *cobra.Command, dir string) (list []typeset.Finding, err error) {
	add := func(code string, s typeset.Severity, message, file, advice string) {
		list = append(list, typeset.Finding{Code: code, Severity: s, Message: message, File: file, Advice: advice})
	}
	date, err := dateOf(f.date)
	if err != nil {
		return nil, err
	}
	t, err := merge.Open(dir, os.DirFS(dir))
	if err != nil {
		add("template", typeset.Error, err.Error(), "", "")
		return list, nil
	}
	if t, err = t.On(date); err != nil {
		return nil, err
	}
	sample, err := t.SampleRecord()
	switch {
	case err != nil:
		add("sample", typeset.Error, err.Error(), merge.ManifestName, "")
		return list, nil
	case t.Manifest.Sample == "":
		add("sample", typeset.Note, "the template has no sample record, so that its page cannot be tried", merge.ManifestName, "add one and name it in “sample”")
	default:
		list = append(list, f.sample(c, t, dir, sample)...)
	}
	if !f.records.given() {
		return list, nil
	}
	bad := func(e *record.RowError) error {
		add("record", typeset.Error, e.Error(), "", "")
		return nil
	}
	source, err := f.records.source(c, f.json, bad, nil)
	if err != nil {
		return nil, err
	}
	names := map[string]string{}
	err = source(func(r record.Record) error {
		if _, err := t.Merge(r); err != nil {
			add("record", typeset.Error, err.Error(), f.records.name(), "")
			return c.Context().Err()
		}
		differences, err := setting.Differences(t, r)
		list = append(list, differences...)
		if err != nil {
			add("record", typeset.Error, err.Error(), f.records.name(), "")
		}
		name, err := t.FileName(r)
		first, clash := names[strings.ToLower(name)]
		switch {
		case err != nil:
			add("file-name", typeset.Error, err.Error(), f.records.name(), "")
		case clash:
			add("file-name", typeset.Error, fmt.Sprintf("%s: its file name %s is that of %s", r.Name(), name, first), f.records.name(), "use a field in “filename” that differs, or render with --clash number")
		default:
			names[strings.ToLower(name)] = r.Name()
		}
		return c.Context().Err()
	})
	return list, err
}

// sample tries the template with its sample record.
func (f *checkFlags) sample(c *cobra.Command, t *merge.Template, dir string, r record.Record) (list []typeset.Finding) {
	fail := func(code string, err error) []typeset.Finding {
		return append(list, typeset.Finding{Code: code, Severity: typeset.Error, Message: err.Error(), File: t.Manifest.Sample})
	}
	if _, err := t.FileName(r); err != nil {
		list = fail("file-name", err)
	}
	merged, err := t.Merge(r)
	if err != nil {
		return fail("record", err)
	}
	list = append(list, unusedFields(t, r.Data, "of the sample", t.Manifest.Sample)...)
	list = append(list, unusedFields(t, t.Manifest.Given, "that the template gives", merge.ManifestName)...)
	render := renderFlags{medium: "print", file: fileFlags{leastScale: 0.5}}
	o, folder, err := render.templateOptions(t, dir)
	if err != nil {
		return fail("template", err)
	}
	defer folder.Close()
	doc, err := typeset.Set(c.Context(), merged.HTML, o, io.Discard)
	if err != nil {
		return fail("page", err)
	}
	setting.Trace(doc.Findings, merged, o.Name)
	differences, err := setting.Differences(t, r)
	if err != nil {
		return fail("record", err)
	}
	return append(append(list, differences...), doc.Findings...)
}

// unusedFields tells of fields, which a file of the template brings, that its page does not use.
func unusedFields(t *merge.Template, data map[string]any, whose, file string) (list []typeset.Finding) {
	used := t.Fields()
	for _, name := range merge.Fields(data) {
		if !slices.ContainsFunc(used, func(u string) bool {
			return u == name || strings.HasPrefix(name, u+".") || strings.HasPrefix(name, u+"[]") || strings.HasPrefix(u, name+".") || strings.HasPrefix(u, name+"[]")
		}) {
			list = append(list, typeset.Finding{Code: "field-unused", Severity: typeset.Note, Message: "the field “" + name + "” " + whose + " is not used by the template", File: file, Advice: "leave it out, or look for a misspelt name"})
		}
	}
	return list
}

// printGrouped prints findings by their code, the most severe first.
func printGrouped(w io.Writer, name string, list []typeset.Finding) {
	if len(list) == 0 {
		fmt.Fprintf(w, "%s: nothing to tell\n", name)
		return
	}
	byCode := map[string][]typeset.Finding{}
	var codes []string
	for _, x := range list {
		if byCode[x.Code] == nil {
			codes = append(codes, x.Code)
		}
		byCode[x.Code] = append(byCode[x.Code], x)
	}
	slices.SortStableFunc(codes, func(a, b string) int { return int(byCode[b][0].Severity - byCode[a][0].Severity) })
	counts := [3]int{}
	for _, code := range codes {
		group := byCode[code]
		fmt.Fprintf(w, "%s (%s, %d)\n", code, group[0].Severity, len(group))
		tw := tabwriter.NewWriter(w, 2, 8, 2, ' ', 0)
		for _, x := range group {
			counts[x.Severity]++
			where := x.File
			if x.Line > 0 {
				where += fmt.Sprintf(":%d", x.Line)
			}
			if x.Page > 0 {
				where = strings.TrimSpace(fmt.Sprintf("%s page %d", where, x.Page))
			}
			fmt.Fprintf(tw, "  %s\t%s\n", where, x.Message)
			if x.Advice != "" {
				fmt.Fprintf(tw, "  \t→ %s\n", x.Advice)
			}
		}
		tw.Flush()
	}
	fmt.Fprintf(w, "%s, %s, %s\n", plural(counts[2], "error"), plural(counts[1], "warning"), plural(counts[0], "note"))
}
