package cli

import (
	"context"
	"fmt"
	"io"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"oliveledger/client"
)

func seriesCommand() *cobra.Command {
	return group("series", "Number series without gaps", func(r *remote) []*cobra.Command {
		var s client.Series
		var pattern string
		var next int
		add := r.command("add NAME", "Add a number series", func(ctx context.Context, args []string) error {
			s.Name = args[0]
			x, err := r.AddSeries(ctx, s)
			if err != nil {
				return err
			}
			return r.said(x, "%s: %s from %d", x.Name, x.Pattern, x.Next)
		})
		add.Example = "  olive series add invoices --pattern 'QL-{year}-{number:4}'"
		add.Flags().StringVar(&s.Pattern, "pattern", "{number}", "how numbers look: {number}, {number:4} and {year} stand for their parts")
		add.Flags().IntVar(&s.Next, "next", 1, "the first number")
		change := r.command("change SERIES", "Change the pattern or the next number of a series", func(ctx context.Context, args []string) error {
			id, err := number(args[0], "series", "olive series list")
			if err != nil {
				return err
			}
			x, err := r.SetSeries(ctx, id, pattern, next)
			if err != nil {
				return err
			}
			return r.said(x, "%s: %s, next %d", x.Name, x.Pattern, x.Next)
		})
		change.Flags().StringVar(&pattern, "pattern", "", "another pattern")
		change.Flags().IntVar(&next, "next", 0, "another next number; never one that was given")
		return []*cobra.Command{add, change, r.command("list", "List number series", func(ctx context.Context, _ []string) error {
			l, err := r.SeriesList(ctx, client.Find{})
			if err != nil {
				return err
			}
			return rows(r, l, "ID | NAME | PATTERN | NEXT", func(x client.Series) []any { return []any{x.ID, x.Name, x.Pattern, x.Next} })
		})}
	})
}

func ledgerCommand() *cobra.Command {
	return group("ledger", "The ledger of every document that was issued", func(r *remote) []*cobra.Command {
		var find client.Find
		to := ""
		export := r.command("export", "Write the ledger with its signed heads into a file, to be checked without this program (docs/audit)", func(ctx context.Context, _ []string) error {
			return r.save(to, func(w io.Writer) error { return r.ExportLedger(ctx, w) })
		})
		export.Flags().StringVarP(&to, "output", "o", "ledger.ndjson", "file to write, - for standard output")
		page := ""
		head := r.command("head", "Set a page with the newest signed head, to be printed and kept away from the service", func(ctx context.Context, _ []string) error {
			return r.save(page, func(w io.Writer) error { return r.PrintHead(ctx, w) })
		})
		head.Flags().StringVarP(&page, "output", "o", "ledger-head.pdf", "file to write, - for standard output")
		from := 1
		verify := r.command("verify", "Check the ledger's chain, its documents and the stored bytes", func(ctx context.Context, _ []string) error {
			v, err := r.VerifyLedgerFrom(ctx, from)
			if err != nil {
				return err
			}
			err = r.print(v, func(w *tabwriter.Writer) {
				for _, f := range v.Faults {
					fmt.Fprintln(w, f.Message)
				}
				if v.Sound {
					fmt.Fprintf(w, "The ledger is sound: %s, all documents as they were issued.\n", plural(v.Rows, "row"))
					if v.Signed > 0 {
						fmt.Fprintf(w, "The first %d are signed with the key %s.\n", v.Signed, v.Key)
					}
					if v.Witnessed != nil {
						fmt.Fprintf(w, "The first %d were there on %s, says %s.\n", v.Witnessed.Rows, v.Witnessed.At.UTC().Format("2006-01-02 15:04 UTC"), v.Witnessed.Who)
					}
				} else {
					fmt.Fprintf(w, "%s in %s.\n", plural(len(v.Faults), "fault"), plural(v.Rows, "row"))
				}
			})
			if err == nil && !v.Sound {
				return errSome
			}
			return err
		})
		verify.Flags().IntVar(&from, "from", 1, "row to begin at, when those before it were checked")
		return []*cobra.Command{
			listing(r.command("list", "List the ledger, newest first", func(ctx context.Context, _ []string) error {
				l, err := r.Ledger(ctx, find)
				if err != nil {
					return err
				}
				return rows(r, l, "ROW | WHAT | DOCUMENT | NUMBER | NAME | PAGES | WHO | WHEN | CHECKSUM", func(e client.Entry) []any {
					return []any{e.ID, e.Kind, e.Document, e.Number, e.Name, e.Pages, e.Who, fmt.Sprintf("%.16s", e.At), fmt.Sprintf("%.12s…", e.Checksum)}
				})
			}), &find, "document"),
			verify,
			export,
			head,
		}
	})
}

func keyCommand() *cobra.Command {
	return group("key", "Keys for programs", func(r *remote) []*cobra.Command {
		var order client.KeyOrder
		var find client.Find
		add := r.command("add NAME", "Make a key; its secret is told only now", func(ctx context.Context, args []string) error {
			order.Name = args[0]
			k, err := r.NewKey(ctx, order)
			if err != nil {
				return err
			}
			return r.said(k, "%s\nkey %d: %s", k.Secret, k.ID, k.Scopes)
		})
		add.Flags().StringSliceVar(&order.Scopes, "scopes", nil, "what it may do: read, render, design, records, issue, approve, send, keep (default: all that you may)")
		add.Flags().StringSliceVar(&order.Templates, "template", nil, "template that it is limited to, with documents of it (repeatable; default: all)")
		add.Flags().IntVar(&order.Days, "days", 0, "days until it ends (0: never)")
		return []*cobra.Command{
			add,
			listing(r.command("list", "List keys", func(ctx context.Context, _ []string) error {
				l, err := r.Keys(ctx, find)
				if err != nil {
					return err
				}
				return rows(r, l, "KEY | NAME | SCOPES | TEMPLATES | UNTIL | REVOKED | MADE", func(k client.Key) []any {
					return []any{k.ID, k.Name, k.Scopes, k.Limited, dayOf(k.Expires), k.Revoked, day(k.Created)}
				})
			}), &find),
			r.command("revoke KEY", "End a key", func(ctx context.Context, args []string) error {
				n, err := number(args[0], "key", "olive key list")
				if err != nil {
					return err
				}
				return r.RevokeKey(ctx, n)
			}),
		}
	})
}

func personCommand() *cobra.Command {
	return group("person", "People who may log in", func(r *remote) []*cobra.Command {
		var email, name, role, password string
		var disabled bool
		var find client.Find
		input := func(c *cobra.Command) (in client.PersonInput) {
			for option, to := range map[string]struct {
				from *string
				to   **string
			}{"email": {&email, &in.Email}, "name": {&name, &in.Name}, "role": {&role, &in.Role}, "password": {&password, &in.Password}} {
				if c.Flags().Changed(option) {
					*to.to = to.from
				}
			}
			if c.Flags().Changed("disabled") {
				in.Disabled = &disabled
			}
			return in
		}
		options := func(c *cobra.Command) *cobra.Command {
			f := c.Flags()
			f.StringVar(&email, "email", "", "email address, to log in with")
			f.StringVar(&name, "name", "", "name")
			f.StringVar(&role, "role", "", "keeper, maker, sender or reader")
			f.StringVar(&password, "password", "", "password, at least 10 characters")
			f.BoolVar(&disabled, "disabled", false, "may not log in")
			return c
		}
		var add, change *cobra.Command
		add = options(r.command("add", "Add a person: --email --name --role --password", func(ctx context.Context, _ []string) error {
			p, err := r.AddPerson(ctx, input(add))
			if err != nil {
				return err
			}
			return r.said(p, "person %d: %s, %s", p.ID, p.Name, p.Role)
		}))
		change = options(r.command("change PERSON", "Change a person", func(ctx context.Context, args []string) error {
			id, err := number(args[0], "person", "olive person list")
			if err != nil {
				return err
			}
			p, err := r.SetPerson(ctx, id, input(change))
			if err != nil {
				return err
			}
			return r.said(p, "person %d: %s, %s", p.ID, p.Name, p.Role)
		}))
		return []*cobra.Command{
			add, change,
			listing(r.command("list", "List people", func(ctx context.Context, _ []string) error {
				l, err := r.People(ctx, find)
				if err != nil {
					return err
				}
				return rows(r, l, "PERSON | NAME | EMAIL | ROLE | DISABLED", func(p client.Person) []any { return []any{p.ID, p.Name, p.Email, p.Role, p.Disabled} })
			}), &find),
		}
	})
}

func setupCommand() *cobra.Command {
	r := &remote{}
	return r.flags(r.command("setup", "Show what a service is set up for", func(ctx context.Context, _ []string) error {
		s, err := r.Setup(ctx)
		if err != nil {
			return err
		}
		return r.print(s, func(w *tabwriter.Writer) {
			fmt.Fprintf(w, "address\t%s\ndeliveries\t%s\nhosts\t%s\nlimits\t%d pages, %d s, %d renderings at once\n", s.Public, strings.Join(s.Ways, ", "), strings.Join(s.Hosts, ", "), s.MaxPages, s.Seconds, s.AtOnce)
		})
	}))
}

func eventCommand() *cobra.Command {
	return group("event", "Who did what", func(r *remote) []*cobra.Command {
		var find client.Find
		return []*cobra.Command{listing(r.command("list", "List events, newest first", func(ctx context.Context, _ []string) error {
			l, err := r.Events(ctx, find)
			if err != nil {
				return err
			}
			return events(r, l)
		}), &find, "kind", "ref", "who")}
	})
}
