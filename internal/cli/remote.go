package cli

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"oliveledger/internal/client"
	"oliveledger/internal/service"
	"oliveledger/record"
)

// remote are the options of commands that talk to a service.
type remote struct {
	server, key, data string
	json              bool
}

func (r *remote) flags(c *cobra.Command) *cobra.Command {
	f := c.Flags()
	f.StringVar(&r.server, "server", envOr("OLIVE_SERVER", "http://"+DefaultAddress), "address of the service (or OLIVE_SERVER)")
	f.StringVar(&r.key, "key", os.Getenv("OLIVE_KEY"), "key for the service (or OLIVE_KEY; default: the first key in --data)")
	f.StringVar(&r.data, "data", "data", "data folder of a service on this machine, to find its first key")
	f.BoolVar(&r.json, "json", false, "print JSON")
	return c
}

func envOr(name, def string) string {
	if v := os.Getenv(name); v != "" {
		return v
	}
	return def
}

func (r *remote) client() (*client.Client, error) {
	key := r.key
	if key == "" {
		raw, err := os.ReadFile(filepath.Join(r.data, service.FirstLogin))
		if err != nil {
			return nil, usage("a key is needed: give --key, set OLIVE_KEY, or point --data at the service's data folder")
		}
		for line := range strings.SplitSeq(string(raw), "\n") {
			if v, ok := strings.CutPrefix(line, "key: "); ok {
				key = strings.TrimSpace(v)
			}
		}
	}
	return client.New(r.server, key), nil
}

// print writes v as JSON when asked, else lets table write it.
func (r *remote) print(c *cobra.Command, v any, table func(w *tabwriter.Writer)) error {
	if r.json {
		enc := json.NewEncoder(c.OutOrStdout())
		enc.SetIndent("", "  ")
		return enc.Encode(v)
	}
	w := tabwriter.NewWriter(c.OutOrStdout(), 0, 4, 2, ' ', 0)
	table(w)
	return w.Flush()
}

func pushCommand() *cobra.Command {
	r := &remote{}
	var name, note string
	c := &cobra.Command{
		Use:     "push TEMPLATE",
		Short:   "Send a template folder to the service as its next version",
		Example: "  olive push templates/invoice --note \"new footer\"",
		Args:    exactly(1, "one template folder"),
		RunE: func(c *cobra.Command, args []string) error {
			if st, err := os.Stat(args[0]); err != nil || !st.IsDir() {
				return usage("%s is not a template folder", args[0])
			}
			if name == "" {
				abs, err := filepath.Abs(args[0])
				if err != nil {
					return err
				}
				name = filepath.Base(abs)
			}
			cl, err := r.client()
			if err != nil {
				return err
			}
			t, err := cl.Push(c.Context(), name, note, os.DirFS(args[0]))
			if err != nil {
				return err
			}
			return r.print(c, t, func(w *tabwriter.Writer) { fmt.Fprintf(w, "%s: version %d\n", t.Name, t.Version) })
		},
	}
	c.Flags().StringVar(&name, "name", "", "name of the template (default: the folder's)")
	c.Flags().StringVar(&note, "note", "", "what has changed")
	return r.flags(c)
}

func importCommand() *cobra.Command {
	r := &remote{}
	var name string
	c := &cobra.Command{
		Use:   "import FILE",
		Short: "Send a file of records to the service",
		Args:  exactly(1, "one record file"),
		RunE: func(c *cobra.Command, args []string) error {
			format, err := record.FormatOf(args[0])
			if err != nil {
				return usageError{err}
			}
			f, err := os.Open(args[0])
			if err != nil {
				return usage("%s cannot be read: %v", args[0], errors.Unwrap(err))
			}
			defer f.Close()
			if name == "" {
				name = filepath.Base(args[0])
			}
			cl, err := r.client()
			if err != nil {
				return err
			}
			s, err := cl.Import(c.Context(), name, string(format), f)
			if err != nil {
				return err
			}
			return r.print(c, s, func(w *tabwriter.Writer) { fmt.Fprintf(w, "record set %d: %s, %d records\n", s.ID, s.Name, s.Count) })
		},
	}
	c.Flags().StringVar(&name, "name", "", "name of the record set (default: the file's)")
	return r.flags(c)
}

func issueCommand() *cobra.Command {
	r := &remote{}
	var set uint64
	var records []int
	c := &cobra.Command{
		Use:     "issue TEMPLATE --set N [--records 1,2,3]",
		Short:   "Make documents in the service from a template and a record set",
		Example: "  olive issue invoice --set 1",
		Args:    exactly(1, "the name of a template"),
		RunE: func(c *cobra.Command, args []string) error {
			if set == 0 {
				return usage("say which record set: --set N; “olive import” tells the number")
			}
			cl, err := r.client()
			if err != nil {
				return err
			}
			list, err := cl.Issue(c.Context(), client.Order{Template: args[0], RecordSet: set, Records: records})
			if err != nil {
				return err
			}
			failed := 0
			for _, d := range list {
				if d.Error != "" {
					failed++
					fmt.Fprintln(c.ErrOrStderr(), "olive:", d.Error)
				}
			}
			err = r.print(c, list, func(w *tabwriter.Writer) { fmt.Fprintf(w, "%d documents made, %d failed\n", len(list)-failed, failed) })
			if err == nil && failed > 0 {
				return errSome
			}
			return err
		},
	}
	c.Flags().Uint64Var(&set, "set", 0, "number of the record set")
	c.Flags().IntSliceVar(&records, "records", nil, "record numbers (default: all)")
	return r.flags(c)
}

func documentsCommand() *cobra.Command {
	r := &remote{}
	var search string
	var limit int
	c := &cobra.Command{
		Use:   "documents",
		Short: "List the documents in the service, newest first",
		Args:  exactly(0, "no arguments"),
		RunE: func(c *cobra.Command, _ []string) error {
			cl, err := r.client()
			if err != nil {
				return err
			}
			list, total, err := cl.Documents(c.Context(), search, limit)
			if err != nil {
				return err
			}
			return r.print(c, list, func(w *tabwriter.Writer) {
				fmt.Fprintln(w, "ID\tNAME\tTEMPLATE\tPAGES\tKB\tMADE")
				for _, d := range list {
					fmt.Fprintf(w, "%d\t%s\t%s %d\t%d\t%d\t%s\n", d.ID, d.Name, d.Template, d.Version, d.Pages, (d.Bytes+1023)/1024, d.Created.Local().Format("2006-01-02 15:04"))
				}
				fmt.Fprintf(w, "%d of %d\n", len(list), total)
			})
		},
	}
	c.Flags().StringVar(&search, "search", "", "part of a name or title")
	c.Flags().IntVar(&limit, "limit", 50, "how many to list, at most 500")
	return r.flags(c)
}

func downloadCommand() *cobra.Command {
	r := &remote{}
	var out string
	c := &cobra.Command{
		Use:   "download ID",
		Short: "Save a document from the service",
		Args:  exactly(1, "the number of a document"),
		RunE: func(c *cobra.Command, args []string) error {
			id, err := strconv.ParseUint(args[0], 10, 63)
			if err != nil {
				return usage("%q is not the number of a document; “olive documents” lists them", args[0])
			}
			cl, err := r.client()
			if err != nil {
				return err
			}
			d, err := cl.Document(c.Context(), id)
			if err != nil {
				return err
			}
			data, err := cl.PDF(c.Context(), id)
			if err != nil {
				return err
			}
			if out == "" {
				out = d.Name
			}
			if err := os.WriteFile(out, data, 0o644); err != nil {
				return err
			}
			return r.print(c, d, func(w *tabwriter.Writer) { fmt.Fprintf(w, "%s: %s\n", out, pages(d.Pages)) })
		},
	}
	c.Flags().StringVarP(&out, "output", "o", "", "file to write (default: the document's name)")
	return r.flags(c)
}

func keyCommand() *cobra.Command {
	r := &remote{}
	c := &cobra.Command{
		Use:   "key NAME",
		Short: "Make a key for a program; it is shown once",
		Args:  exactly(1, "a name for the key"),
		RunE: func(c *cobra.Command, args []string) error {
			cl, err := r.client()
			if err != nil {
				return err
			}
			k, err := cl.NewKey(c.Context(), args[0])
			if err != nil {
				return err
			}
			return r.print(c, map[string]string{"name": args[0], "key": k}, func(w *tabwriter.Writer) { fmt.Fprintln(w, k) })
		},
	}
	return r.flags(c)
}
