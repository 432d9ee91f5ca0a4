package cli

import (
	"context"
	"fmt"
	"io"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"oliveledger/client"
)

func documentCommand() *cobra.Command {
	return group("document", "Documents in the service: make, find, approve, issue, void", func(r *remote) []*cobra.Command {
		return append(keepingCommands(r), makeDocument(r), getDocument(r),
			changeDocument(r, "approve", "Approve a draft", "approved", nil),
			changeDocument(r, "issue", "Issue an approved document", "issued", nil),
			voidDocument(r), listDocuments(r),
			r.ofDocument("show", "Show what is known of a document", func(ctx context.Context, id uint64) error {
				d, err := r.Document(ctx, id)
				if err != nil {
					return err
				}
				return r.print(d, func(w *tabwriter.Writer) { printDocument(w, d) })
			}),
			r.ofDocument("history", "Show what happened to a document", func(ctx context.Context, id uint64) error {
				l, err := r.History(ctx, id, client.Find{Limit: 500})
				if err != nil {
					return err
				}
				return events(r, l)
			}),
			r.ofDocument("repeat", "Set a document again and compare the bytes", func(ctx context.Context, id uint64) error {
				same, err := r.Repeat(ctx, id)
				if err != nil {
					return err
				}
				if err := r.said(map[string]bool{"same": same}, "%s", map[bool]string{true: "The bytes are the same.", false: "The bytes differ."}[same]); err != nil {
					return err
				}
				if !same {
					return errSome
				}
				return nil
			}),
		)
	})
}

// ofDocument is a command with the number of a document.
func (r *remote) ofDocument(use, short string, run func(ctx context.Context, id uint64) error) *cobra.Command {
	return r.command(use+" DOCUMENT", short, func(ctx context.Context, args []string) error {
		id, err := number(args[0], "document", "olive document list")
		if err != nil {
			return err
		}
		return run(ctx, id)
	})
}

func makeDocument(r *remote) *cobra.Command {
	var o client.Order
	var file, once string
	c := r.command("make TEMPLATE", "Make documents of some records; “olive batch start” makes many", func(ctx context.Context, args []string) error {
		o.Template = args[0]
		if file != "" {
			data, err := jsonFile(file)
			if err != nil {
				return err
			}
			o.Record = data
		}
		list, err := r.Issue(ctx, o, once)
		if err != nil {
			return err
		}
		failed := 0
		for _, d := range list {
			if d.Error != "" {
				failed++
				fmt.Fprintln(r.errs, "olive:", d.Error)
			}
		}
		err = r.print(list, func(w *tabwriter.Writer) {
			for _, d := range list {
				if d.Error == "" {
					fmt.Fprintf(w, "document %d\t%s\t%s\t%s\n", d.ID, d.Number, d.Name, d.State)
				}
			}
		})
		if err == nil && failed > 0 {
			return errSome
		}
		return err
	})
	c.Example = "  olive document make mooring-invoice --set 1 --records 1,2,3\n  olive document make letter --record letter.json --series letters"
	f := c.Flags()
	f.Uint64Var(&o.RecordSet, "set", 0, "number of the record set")
	f.IntSliceVar(&o.Records, "records", nil, "numbers of records in the set")
	f.StringVar(&file, "record", "", "file with one record as JSON, - for standard input")
	f.IntVar(&o.Version, "version", 0, "version of the template (default: the newest)")
	f.StringVar(&o.Series, "series", "", "number series that gives them numbers")
	f.BoolVar(&o.Draft, "draft", false, "they wait to be approved")
	f.StringVar(&once, "once", "", "a key: the same order with it is done once, however often it is sent")
	return c
}

func getDocument(r *remote) *cobra.Command {
	out := ""
	c := r.ofDocument("get", "Save a document's PDF", func(ctx context.Context, id uint64) error {
		name := out
		if name == "" {
			d, err := r.Document(ctx, id)
			if err != nil {
				return err
			}
			name = d.Name
		}
		data, err := r.PDF(ctx, id)
		if err != nil {
			return err
		}
		return r.save(name, writing(data))
	})
	c.Flags().StringVarP(&out, "output", "o", "", "file to write, - for standard output (default: the document's name)")
	return c
}

// changeDocument is a command that gives a document another state, for a reason if one is
// asked for.
func changeDocument(r *remote, use, short, to string, reason *string) *cobra.Command {
	return r.ofDocument(use, short, func(ctx context.Context, id uint64) error {
		why := ""
		if reason != nil {
			why = *reason
		}
		d, err := r.SetDocument(ctx, id, 0, to, why)
		if err != nil {
			return err
		}
		return r.said(d, "document %d: %s %s", d.ID, d.State, d.Number)
	})
}

func voidDocument(r *remote) *cobra.Command {
	reason := ""
	c := changeDocument(r, "void", "Make a document void", "void", &reason)
	c.Flags().StringVar(&reason, "reason", "", "why it does not count any more")
	return c
}

func listDocuments(r *remote) *cobra.Command {
	var find client.Find
	return listing(r.command("list", "List documents, newest first", func(ctx context.Context, _ []string) error {
		l, err := r.Documents(ctx, find)
		if err != nil {
			return err
		}
		return rows(r, l, "ID | NUMBER | NAME | STATE | TEMPLATE | PAGES | KB | MADE", func(d client.Document) []any {
			return []any{d.ID, d.Number, d.Name, d.State, fmt.Sprintf("%s %d", d.Template, d.Version), d.Pages, kb(d.Bytes), day(d.Created)}
		})
	}), &find, "search", "state", "template", "batch", "from", "to")
}

// printDocument lists what is known of a document.
func printDocument(w io.Writer, d client.Document) {
	fmt.Fprintf(w, "name\t%s\ntitle\t%s\nstate\t%s\n", d.Name, d.Title, d.State)
	if d.Number != "" {
		fmt.Fprintf(w, "number\t%s\n", d.Number)
	}
	if d.Template != "" {
		fmt.Fprintf(w, "template\t%s, version %d\nrecord\t%d\n", d.Template, d.Version, d.Record)
	}
	fmt.Fprintf(w, "pages\t%d\nsize\t%d KB\nmade\t%s by %s\nSHA-256\t%s\nverify\t%s\n", d.Pages, kb(d.Bytes), day(d.Created), d.Author, d.SHA256, d.Verify)
	if d.Keep != nil {
		fmt.Fprintf(w, "kept until\t%s\n", dayOf(d.Keep))
	}
	if d.Hold != "" {
		fmt.Fprintf(w, "held\t%s\n", d.Hold)
	}
	if d.Erased != nil {
		fmt.Fprintf(w, "erased\t%s\n", dayOf(d.Erased))
	}
	if d.Reason != "" {
		fmt.Fprintf(w, "void because\t%s\n", d.Reason)
	}
}

func events(r *remote, l client.List[client.Event]) error {
	return rows(r, l, "WHEN | WHO | WHAT | OF | DETAIL", func(e client.Event) []any {
		return []any{day(e.At), e.Who, e.Action, e.Kind + " " + e.Ref, e.Detail}
	})
}

func deliveryCommand() *cobra.Command {
	return group("delivery", "Bring documents to people: mail, webhook, folder, WebDAV, S3", func(r *remote) []*cobra.Command {
		var o client.DeliveryOrder
		var once string
		var find client.Find
		send := r.ofDocument("send", "Bring a document somewhere", func(ctx context.Context, id uint64) error {
			o.Document = id
			d, err := r.Deliver(ctx, o, once)
			if err != nil {
				return err
			}
			return r.said(d, "delivery %d waits for its turn; “olive delivery show %d” tells how it went", d.ID, d.ID)
		})
		send.Example = "  olive delivery send 12 --by mail --to '{{.customer.email}}' --subject 'Invoice {{.number}}' --body 'Dear {{.customer.name}}, …'"
		f := send.Flags()
		f.StringVar(&o.Kind, "by", "mail", "mail, webhook, folder, webdav or s3")
		f.StringVar(&o.To, "to", "", "mail address, address of the web, or folder; may hold fields of the record")
		f.StringVar(&o.Subject, "subject", "", "subject of the mail (default: the document's title); may hold fields")
		f.StringVar(&o.Body, "body", "", "text of the mail; may hold fields")
		f.StringVar(&once, "once", "", "a key: the same order with it is done once, however often it is sent")
		id := func(arg string) (uint64, error) { return number(arg, "delivery", "olive delivery list") }
		return []*cobra.Command{
			send,
			listing(r.command("list", "List deliveries, newest first", func(ctx context.Context, _ []string) error {
				l, err := r.Deliveries(ctx, find)
				if err != nil {
					return err
				}
				return rows(r, l, "DELIVERY | DOCUMENT | BY | TO | STATE | TRIES | SENT | ERROR", func(d client.Delivery) []any {
					return []any{d.ID, d.Document, d.Kind, d.To, d.State, d.Tries, dayOf(d.Sent), d.Error}
				})
			}), &find, "document", "state"),
			r.command("show DELIVERY", "Show each try of a delivery", func(ctx context.Context, args []string) error {
				n, err := id(args[0])
				if err != nil {
					return err
				}
				d, err := r.Delivery(ctx, n)
				if err != nil {
					return err
				}
				return r.print(d, func(w *tabwriter.Writer) {
					fmt.Fprintf(w, "document %d by %s to %s: %s\n", d.Document, d.Kind, d.To, d.State)
					for _, t := range d.History {
						fmt.Fprintf(w, "%s\t%d ms\t%s\n", day(t.At), t.MS, firstOf(t.Error, "arrived"))
					}
				})
			}),
			r.command("retry DELIVERY", "Try a failed delivery again", func(ctx context.Context, args []string) error {
				n, err := id(args[0])
				if err != nil {
					return err
				}
				d, err := r.RetryDelivery(ctx, n)
				if err != nil {
					return err
				}
				return r.said(d, "delivery %d: %s", d.ID, d.State)
			}),
		}
	})
}

func shareCommand() *cobra.Command {
	return group("share", "Links that let anyone who has them read a document", func(r *remote) []*cobra.Command {
		var o client.ShareOrder
		var find client.Find
		mk := r.ofDocument("make", "Make a link; its address is told only now", func(ctx context.Context, id uint64) error {
			o.Document = id
			s, err := r.Client.Share(ctx, o)
			if err != nil {
				return err
			}
			return r.said(s, "%s\nlink %d, until %s", s.Address, s.ID, dayOf(s.Expires))
		})
		f := mk.Flags()
		f.IntVar(&o.Days, "days", 30, "days until it ends")
		f.IntVar(&o.Limit, "limit", 0, "how often it can be used (0: no limit)")
		f.BoolVar(&o.Download, "download", false, "the PDF is saved instead of shown")
		return []*cobra.Command{
			mk,
			listing(r.command("list", "List links, newest first", func(ctx context.Context, _ []string) error {
				l, err := r.Shares(ctx, find)
				if err != nil {
					return err
				}
				return rows(r, l, "LINK | DOCUMENT | USED | LIMIT | UNTIL | REVOKED | AUTHOR", func(s client.Share) []any {
					return []any{s.ID, s.Document, s.Uses, s.Limit, dayOf(s.Expires), s.Revoked, s.Author}
				})
			}), &find, "document"),
			r.command("revoke LINK", "End a link", func(ctx context.Context, args []string) error {
				n, err := number(args[0], "link", "olive share list")
				if err != nil {
					return err
				}
				return r.RevokeShare(ctx, n)
			}),
		}
	})
}
