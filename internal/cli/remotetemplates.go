package cli

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"oliveledger/client"
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
		return []*cobra.Command{
			pushTemplate(r), draftTemplate(r), publishTemplate(r), getTemplate(r), listTemplates(r),
			r.command("versions NAME", "List the versions of a template", func(ctx context.Context, args []string) error {
				l, err := r.Versions(ctx, args[0], client.Find{})
				if err != nil {
					return err
				}
				return rows(r, l, "VERSION | AUTHOR | PUBLISHED | NOTE", func(v client.Version) []any { return []any{v.Number, v.Author, day(v.Created), v.Note} })
			}),
			templateDifference(r),
			r.command("drop-draft NAME", "Forget the draft of a template", func(ctx context.Context, args []string) error { return r.DropDraft(ctx, args[0]) }),
		}
	})
}

// nameOption adds the option that gives a folder of a template another name.
func nameOption(c *cobra.Command, name *string) {
	c.Flags().StringVar(name, "name", "", "name of the template (default: the folder's)")
}

// noteOption adds the option that tells why there is another version.
func noteOption(c *cobra.Command, note *string) {
	c.Flags().StringVar(note, "note", "", "what has changed")
}

func pushTemplate(r *remote) *cobra.Command {
	var name, note string
	c := r.command("push FOLDER", "Publish a template folder as the next version", func(ctx context.Context, args []string) error {
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
	c.Example = "  olive template push templates/invoice --note \"new footer\""
	nameOption(c, &name)
	noteOption(c, &note)
	return c
}

func draftTemplate(r *remote) *cobra.Command {
	var name string
	c := r.command("draft FOLDER", "Send a template folder as its draft; what is published stays", func(ctx context.Context, args []string) error {
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
	nameOption(c, &name)
	return c
}

func publishTemplate(r *remote) *cobra.Command {
	var note string
	c := r.command("publish NAME", "Publish the draft of a template", func(ctx context.Context, args []string) error {
		t, err := r.Publish(ctx, args[0], note)
		if err != nil {
			return err
		}
		return r.said(t, "%s: version %d", t.Name, t.Version)
	})
	noteOption(c, &note)
	return c
}

func getTemplate(r *remote) *cobra.Command {
	var to string
	var version int
	c := r.command("get NAME", "Save a version's files to a folder", func(ctx context.Context, args []string) error {
		t, err := r.Template(ctx, args[0], version)
		if err != nil {
			return err
		}
		into := firstOf(to, args[0])
		for path, f := range t.Files {
			if !filepath.IsLocal(path) {
				return fmt.Errorf("the file %q does not stay in the folder", path)
			}
			at := filepath.Join(into, filepath.FromSlash(path))
			if err := os.MkdirAll(filepath.Dir(at), 0o755); err != nil {
				return err
			}
			if err := os.WriteFile(at, f.Bytes(), 0o644); err != nil {
				return err
			}
		}
		return r.said(t, "%s: %s of version %d", into, plural(len(t.Files), "file"), t.Version)
	})
	c.Flags().IntVar(&version, "version", 0, "which version (default: the newest)")
	c.Flags().StringVar(&to, "to", "", "folder to write (default: the template's name)")
	return c
}

func listTemplates(r *remote) *cobra.Command {
	var find client.Find
	return listing(r.command("list", "List templates", func(ctx context.Context, _ []string) error {
		l, err := r.Templates(ctx, find)
		if err != nil {
			return err
		}
		return rows(r, l, "NAME | TITLE | VERSION | CHANGED", func(t client.Template) []any { return []any{t.Name, t.Title, t.Latest, day(t.Updated)} })
	}), &find, "search")
}

func templateDifference(r *remote) *cobra.Command {
	return r.command("diff NAME FROM TO", "Show how two versions differ", func(ctx context.Context, args []string) error {
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
	})
}
