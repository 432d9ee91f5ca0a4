package cli

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"oliveledger/client"
	"oliveledger/record"
)

func recordSetCommand() *cobra.Command {
	return group("record-set", "Record sets in the service: import, look, change", func(r *remote) []*cobra.Command {
		return []*cobra.Command{
			importRecords(r), listRecordSets(r), listRecords(r),
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
			changeRecord(r), addRecord(r),
			r.command("drop SET", "Forget a set with its records; documents stay", func(ctx context.Context, args []string) error {
				id, err := setNumber(args[0])
				if err != nil {
					return err
				}
				return r.DropRecordSet(ctx, id)
			}),
		}
	})
}

func importRecords(r *remote) *cobra.Command {
	var name string
	var skip, preview bool
	var records recordFlags
	c := r.command("import FILE", "Send a file of records: JSON, NDJSON, CSV, TSV, YAML, XML or XLSX", nil)
	c.RunE = func(c *cobra.Command, args []string) error {
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
			return r.print(s, func(w *tabwriter.Writer) { printPreview(w, s) })
		}
		return r.said(s, "record set %d: %s, %s", s.ID, s.Name, plural(s.Count, "record"))
	}
	f := c.Flags()
	f.StringVar(&name, "name", "", "name of the record set (default: the file's)")
	f.BoolVar(&skip, "skip-bad", false, "go on past rows that cannot be read")
	f.BoolVar(&preview, "preview", false, "keep nothing; show the first records")
	records.addReading(f)
	return c
}

func printPreview(w io.Writer, s client.Imported) {
	for _, x := range s.Preview {
		fmt.Fprintln(w, string(x))
	}
	fmt.Fprintf(w, "%s; nothing was kept\n", plural(s.Count, "record"))
}

func listRecordSets(r *remote) *cobra.Command {
	var find client.Find
	return listing(r.command("list", "List record sets", func(ctx context.Context, _ []string) error {
		l, err := r.RecordSets(ctx, find)
		if err != nil {
			return err
		}
		return rows(r, l, "SET | NAME | RECORDS | AUTHOR | IMPORTED", func(s client.RecordSet) []any { return []any{s.ID, s.Name, s.Count, s.Author, day(s.Created)} })
	}), &find, "search")
}

func listRecords(r *remote) *cobra.Command {
	var find client.Find
	return listing(r.command("records SET", "List the records of a set", func(ctx context.Context, args []string) error {
		id, err := setNumber(args[0])
		if err != nil {
			return err
		}
		l, err := r.Records(ctx, id, find)
		if err != nil {
			return err
		}
		return rows(r, l, "RECORD | LABEL | FAULT", func(x client.Record) []any { return []any{x.Number, x.Label, x.Fault} })
	}), &find, "search", "template")
}

func changeRecord(r *remote) *cobra.Command {
	return r.command("change SET RECORD FILE", "Put the JSON in a file (or - for standard input) in place of a record", func(ctx context.Context, args []string) error {
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
	})
}

func addRecord(r *remote) *cobra.Command {
	return r.command("add SET FILE", "Add the JSON in a file (or - for standard input) as a record", func(ctx context.Context, args []string) error {
		id, err := setNumber(args[0])
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
	})
}

func setNumber(arg string) (uint64, error) { return number(arg, "record set", "olive record-set list") }

func setAndRecord(args []string) (uint64, int, error) {
	id, err := setNumber(args[0])
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
