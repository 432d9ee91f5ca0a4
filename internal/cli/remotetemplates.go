package cli

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"oliveledger/client"
	"oliveledger/record"
)

// templateFolder opens a template folder and finds its name.
func templateFolder(dir, name string) (string, error) {
	if st, err := os.Stat(dir); err != nil || !st.IsDir() {
		return "", usage("%s is not a template folder", dir)
	}
	if name != "" {
		return name, nil
	}
	abs, err := filepath.Abs(dir)
	return filepath.Base(abs), err
}

func templateCommand() *cobra.Command {
	return group("template", "Templates in the service: versions, drafts, differences", func(r *remote) []*cobra.Command {
		var name, note, to string
		var version int
		var find client.Find
		push := r.command("push FOLDER", "Publish a template folder as the next version", func(ctx context.Context, args []string) error {
			as, err := templateFolder(args[0], name)
			if err != nil {
				return err
			}
			t, err := r.Push(ctx, as, note, os.DirFS(args[0]))
			if err != nil {
				return err
			}
			return r.said(t, "%s: version %d", t.Name, t.Version)
		})
		push.Example = "  olive template push templates/invoice --note \"new footer\""
		draft := r.command("draft FOLDER", "Send a template folder as its draft; what is published stays", func(ctx context.Context, args []string) error {
			as, err := templateFolder(args[0], name)
			if err != nil {
				return err
			}
			t, err := r.SaveDraft(ctx, as, 0, os.DirFS(args[0]))
			if err != nil {
				return err
			}
			if t.Fault != "" {
				fmt.Fprintln(r.errs, "warning: it cannot be published yet:", t.Fault)
			}
			return r.said(t, "%s: draft %d", t.Name, t.Revision)
		})
		publish := r.command("publish NAME", "Publish the draft of a template", func(ctx context.Context, args []string) error {
			t, err := r.Publish(ctx, args[0], note)
			if err != nil {
				return err
			}
			return r.said(t, "%s: version %d", t.Name, t.Version)
		})
		for _, c := range []*cobra.Command{push, draft} {
			c.Flags().StringVar(&name, "name", "", "name of the template (default: the folder's)")
		}
		for _, c := range []*cobra.Command{push, publish} {
			c.Flags().StringVar(&note, "note", "", "what has changed")
		}
		get := r.command("get NAME", "Save a version's files to a folder", func(ctx context.Context, args []string) error {
			t, err := r.Template(ctx, args[0], version)
			if err != nil {
				return err
			}
			if to == "" {
				to = args[0]
			}
			for path, f := range t.Files {
				if !filepath.IsLocal(path) {
					return fmt.Errorf("the file %q does not stay in the folder", path)
				}
				at := filepath.Join(to, filepath.FromSlash(path))
				if err := os.MkdirAll(filepath.Dir(at), 0o755); err != nil {
					return err
				}
				if err := os.WriteFile(at, f.Bytes(), 0o644); err != nil {
					return err
				}
			}
			return r.said(t, "%s: %s of version %d", to, plural(len(t.Files), "file"), t.Version)
		})
		get.Flags().IntVar(&version, "version", 0, "which version (default: the newest)")
		get.Flags().StringVar(&to, "to", "", "folder to write (default: the template's name)")
		return []*cobra.Command{
			push, draft, publish, get,
			listing(r.command("list", "List templates", func(ctx context.Context, _ []string) error {
				l, err := r.Templates(ctx, find)
				if err != nil {
					return err
				}
				return rows(r, l, "NAME | TITLE | VERSION | CHANGED", func(t client.Template) []any { return []any{t.Name, t.Title, t.Latest, day(t.Updated)} })
			}), &find, "search"),
			r.command("versions NAME", "List the versions of a template", func(ctx context.Context, args []string) error {
				l, err := r.Versions(ctx, args[0], client.Find{})
				if err != nil {
					return err
				}
				return rows(r, l, "VERSION | AUTHOR | PUBLISHED | NOTE", func(v client.Version) []any { return []any{v.Number, v.Author, day(v.Created), v.Note} })
			}),
			r.command("diff NAME FROM TO", "Show how two versions differ", func(ctx context.Context, args []string) error {
				from, err := strconv.Atoi(args[1])
				to, err2 := strconv.Atoi(args[2])
				if err := errors.Join(err, err2); err != nil {
					return usage("versions are numbers; “olive template versions %s” lists them", args[0])
				}
				l, err := r.Difference(ctx, args[0], from, to)
				if err != nil {
					return err
				}
				return r.print(l, func(w *tabwriter.Writer) {
					if len(l.Items) == 0 {
						fmt.Fprintln(w, "The versions are the same.")
					}
					for _, d := range l.Items {
						fmt.Fprintf(w, "%s: %s\n%s", d.Path, d.Change, d.Lines)
					}
				})
			}),
			r.command("drop-draft NAME", "Forget the draft of a template", func(ctx context.Context, args []string) error { return r.DropDraft(ctx, args[0]) }),
		}
	})
}

func recordSetCommand() *cobra.Command {
	return group("record-set", "Record sets in the service: import, look, change", func(r *remote) []*cobra.Command {
		var name string
		var skip, preview bool
		var find, inside client.Find
		var records recordFlags
		imp := r.command("import FILE", "Send a file of records: JSON, NDJSON, CSV, TSV, YAML, XML or XLSX", nil)
		imp.RunE = func(c *cobra.Command, args []string) error {
			if err := r.connect(c); err != nil {
				return err
			}
			records.file = args[0]
			if name == "" {
				name = filepath.Base(args[0])
			}
			body, err := records.asLines(c, skip)
			if err != nil {
				return err
			}
			defer body.Close()
			read := r.Import
			if preview {
				read = r.Preview
			}
			s, err := read(c.Context(), name, map[string]string{"format": string(record.NDJSON)}, body)
			if err != nil {
				return err
			}
			if preview {
				return r.print(s, func(w *tabwriter.Writer) {
					for _, x := range s.Preview {
						fmt.Fprintln(w, string(x))
					}
					fmt.Fprintf(w, "%s; nothing was kept\n", plural(s.Count, "record"))
				})
			}
			return r.said(s, "record set %d: %s, %s", s.ID, s.Name, plural(s.Count, "record"))
		}
		f := imp.Flags()
		f.StringVar(&name, "name", "", "name of the record set (default: the file's)")
		f.BoolVar(&skip, "skip-bad", false, "go on past rows that cannot be read")
		f.BoolVar(&preview, "preview", false, "keep nothing; show the first records")
		records.addReading(f)
		set := func(arg string) (uint64, error) { return number(arg, "record set", "olive record-set list") }
		return []*cobra.Command{
			imp,
			listing(r.command("list", "List record sets", func(ctx context.Context, _ []string) error {
				l, err := r.RecordSets(ctx, find)
				if err != nil {
					return err
				}
				return rows(r, l, "SET | NAME | RECORDS | AUTHOR | IMPORTED", func(s client.RecordSet) []any { return []any{s.ID, s.Name, s.Count, s.Author, day(s.Created)} })
			}), &find, "search"),
			listing(r.command("records SET", "List the records of a set", func(ctx context.Context, args []string) error {
				id, err := set(args[0])
				if err != nil {
					return err
				}
				l, err := r.Records(ctx, id, inside)
				if err != nil {
					return err
				}
				return rows(r, l, "RECORD | LABEL | FAULT", func(x client.Record) []any { return []any{x.Number, x.Label, x.Fault} })
			}), &inside, "search", "template"),
			r.command("show SET RECORD", "Show a record", func(ctx context.Context, args []string) error {
				id, n, err := setAndRecord(args)
				if err != nil {
					return err
				}
				x, err := r.Record(ctx, id, n)
				if err != nil {
					return err
				}
				return r.print(x, func(w *tabwriter.Writer) { fmt.Fprintln(w, string(x.Data)) })
			}),
			r.command("change SET RECORD FILE", "Put the JSON in a file (or - for standard input) in place of a record", func(ctx context.Context, args []string) error {
				id, n, err := setAndRecord(args)
				if err != nil {
					return err
				}
				data, err := jsonFile(args[2])
				if err != nil {
					return err
				}
				x, err := r.SaveRecord(ctx, id, n, 0, data)
				if err != nil {
					return err
				}
				return r.said(x, "%s", x.Label)
			}),
			r.command("add SET FILE", "Add the JSON in a file (or - for standard input) as a record", func(ctx context.Context, args []string) error {
				id, err := set(args[0])
				if err != nil {
					return err
				}
				data, err := jsonFile(args[1])
				if err != nil {
					return err
				}
				x, err := r.AddRecord(ctx, id, data)
				if err != nil {
					return err
				}
				return r.said(x, "%s", x.Label)
			}),
			r.command("drop SET", "Forget a set with its records; documents stay", func(ctx context.Context, args []string) error {
				id, err := set(args[0])
				if err != nil {
					return err
				}
				return r.DropRecordSet(ctx, id)
			}),
		}
	})
}

func setAndRecord(args []string) (uint64, int, error) {
	id, err := number(args[0], "record set", "olive record-set list")
	if err != nil {
		return 0, 0, err
	}
	n, err := number(args[1], "record", "olive record-set records "+args[0])
	return id, int(n), err
}

// jsonFile reads a file that holds JSON.
func jsonFile(name string) (json.RawMessage, error) {
	var data []byte
	var err error
	if name == "-" {
		data, err = io.ReadAll(os.Stdin)
	} else if data, err = os.ReadFile(name); err != nil {
		return nil, usage("%s cannot be read: %v", name, errors.Unwrap(err))
	}
	if err == nil && !json.Valid(data) {
		return nil, usage("%s does not hold JSON", name)
	}
	return data, err
}
