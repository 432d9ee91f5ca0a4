package cli

import (
	"context"
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"oliveledger/client"
)

func batchCommand() *cobra.Command {
	return group("batch", "Batches in the service: documents of many records", func(r *remote) []*cobra.Command {
		return []*cobra.Command{
			startBatch(r), tryBatch(r), getBatch(r),
			setBatch(r, "pause", "Make no more documents until it is resumed", "paused"),
			setBatch(r, "resume", "Go on with a paused batch", "running"),
			setBatch(r, "cancel", "End a batch; its documents stay", "cancelled"),
			listBatches(r),
			r.ofBatch("watch", "Follow a batch until it has ended", r.watch),
			r.ofBatch("retry", "Give what failed another turn", func(ctx context.Context, id uint64) error {
				b, err := r.RetryBatch(ctx, id)
				return r.toldBatch(b, err)
			}),
			batchItems(r),
		}
	})
}

// ofBatch is a command that takes the number of a batch.
func (r *remote) ofBatch(use, short string, run func(ctx context.Context, id uint64) error) *cobra.Command {
	return r.command(use+" BATCH", short, func(ctx context.Context, args []string) error {
		id, err := number(args[0], "batch", "olive batch list")
		if err != nil {
			return err
		}
		return run(ctx, id)
	})
}

// toldBatch says how far a batch has come, unless asking for it failed.
func (r *remote) toldBatch(b client.Batch, err error) error {
	if err != nil {
		return err
	}
	return r.said(b, "batch %d: %s, %d of %d made", b.ID, b.State, b.Done, b.Total)
}

// orderBatch is a command that takes what a batch is to make.
func (r *remote) orderBatch(use, short string, run func(ctx context.Context, o client.BatchOrder) error) (c *cobra.Command, o *client.BatchOrder) {
	o = &client.BatchOrder{}
	c = r.command(use+" TEMPLATE", short, func(ctx context.Context, args []string) error {
		if o.RecordSet == 0 {
			return usage("say which record set: --set N; “olive record-set list” tells the number")
		}
		o.Template = args[0]
		return run(ctx, *o)
	})
	f := c.Flags()
	f.Uint64Var(&o.RecordSet, "set", 0, "number of the record set")
	f.IntSliceVar(&o.Records, "records", nil, "numbers of records in the set (default: all)")
	f.IntVar(&o.Version, "version", 0, "version of the template (default: the newest)")
	f.StringVar(&o.Series, "series", "", "number series that gives the documents numbers")
	f.BoolVar(&o.Draft, "draft", false, "the documents wait to be approved")
	return c, o
}

func startBatch(r *remote) *cobra.Command {
	var watch bool
	var once string
	c, o := r.orderBatch("start", "Make documents of the records of a set", func(ctx context.Context, o client.BatchOrder) error {
		b, err := r.StartBatch(ctx, o, once)
		if err != nil {
			return err
		}
		if watch {
			return r.watch(ctx, b.ID)
		}
		return r.said(b, "batch %d: %s; “olive batch watch %d” follows it", b.ID, plural(b.Total, "document"), b.ID)
	})
	c.Example = "  olive batch start mooring-invoice --set 1 --series invoices --watch"
	f := c.Flags()
	f.IntVar(&o.Priority, "priority", 0, "the higher, the sooner")
	f.BoolVar(&watch, "watch", false, "follow it until it has ended")
	f.StringVar(&once, "once", "", "a key: the same order with it is done once, however often it is sent")
	return c
}

func tryBatch(r *remote) *cobra.Command {
	c, _ := r.orderBatch("try", "Set the first ten documents of a batch and keep nothing: their numbers, names and what fails", func(ctx context.Context, o client.BatchOrder) error {
		l, err := r.TryBatch(ctx, o)
		if err != nil {
			return err
		}
		return rows(r, l, "RECORD | NUMBER | FILE | PAGES | FINDINGS | ERROR", func(x client.Trial) []any {
			return []any{x.Record, firstOf(x.Number, "–"), x.Name, x.Pages, len(x.Findings), x.Error}
		})
	})
	return c
}

func getBatch(r *remote) *cobra.Command {
	var zip, pdf string
	var rightHand bool
	c := r.ofBatch("get", "Save all documents of a batch: --zip FILE or --pdf FILE", func(ctx context.Context, id uint64) error {
		if (zip == "") == (pdf == "") {
			return usage("give --zip FILE for one file each, or --pdf FILE for all bound into one")
		}
		kind := "zip"
		if pdf != "" {
			kind = "pdf"
		}
		if err := r.save(zip+pdf, func(w io.Writer) error { return r.BatchFile(ctx, id, kind, rightHand, w) }); err != nil {
			return err
		}
		b, err := r.Batch(ctx, id)
		if err == nil && !b.Ended() {
			fmt.Fprintf(r.errs, "warning: batch %d is %s: the file has the documents that are made so far (%d of %d)\n", id, b.State, b.Done, b.Total)
		}
		return err
	})
	f := c.Flags()
	f.StringVar(&zip, "zip", "", "ZIP file to write, - for standard output")
	f.StringVar(&pdf, "pdf", "", "PDF file that all documents are bound into, - for standard output")
	f.BoolVar(&rightHand, "right-hand", false, "every bound document begins on a right-hand page")
	return c
}

func setBatch(r *remote, use, short, state string) *cobra.Command {
	return r.ofBatch(use, short, func(ctx context.Context, id uint64) error {
		b, err := r.SetBatch(ctx, id, state, nil)
		return r.toldBatch(b, err)
	})
}

func listBatches(r *remote) *cobra.Command {
	var find client.Find
	return listing(r.command("list", "List batches, newest first", func(ctx context.Context, _ []string) error {
		l, err := r.Batches(ctx, find)
		if err != nil {
			return err
		}
		return rows(r, l, "BATCH | TEMPLATE | SET | STATE | MADE | FAILED | OF | STARTED", func(b client.Batch) []any {
			return []any{b.ID, fmt.Sprintf("%s %d", b.Template, b.Version), b.RecordSet, b.State, b.Done, b.Failed, b.Total, day(b.Created)}
		})
	}), &find, "state")
}

func batchItems(r *remote) *cobra.Command {
	var find client.Find
	return listing(r.ofBatch("items", "List a batch's records: --state failed tells what went wrong", func(ctx context.Context, id uint64) error {
		l, err := r.Items(ctx, id, find)
		if err != nil {
			return err
		}
		return rows(r, l, "RECORD | STATE | TRIES | DOCUMENT | ERROR", func(x client.Item) []any { return []any{x.Record, x.State, x.Tries, x.Document, x.Error} })
	}), &find, "state")
}

// watch follows a batch. The exit code tells whether some documents failed.
func (r *remote) watch(ctx context.Context, id uint64) error {
	b, err := r.Follow(ctx, id, func(b client.Batch) {
		if !r.json {
			fmt.Fprintf(r.errs, "%s: %d of %d made, %d failed\n", b.State, b.Done, b.Total, b.Failed)
		}
	})
	if err != nil {
		return err
	}
	if err := r.said(b, "batch %d: %s, %s made, %d failed", b.ID, b.State, plural(b.Done, "document"), b.Failed); err != nil {
		return err
	}
	if b.Failed > 0 {
		return errSome
	}
	return nil
}
