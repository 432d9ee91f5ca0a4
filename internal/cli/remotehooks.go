package cli

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"oliveledger/client"
)

// hookCommand keeps the webhooks that a service tells what happens.
func hookCommand() *cobra.Command {
	return group("hook", "Webhooks that are told what happens", func(r *remote) []*cobra.Command {
		var in client.HookInput
		var find client.Find
		of := func(use, short string, run func(ctx context.Context, id uint64) error) *cobra.Command {
			return r.command(use+" HOOK", short, func(ctx context.Context, args []string) error {
				id, err := number(args[0], "webhook", "olive hook list")
				if err != nil {
					return err
				}
				return run(ctx, id)
			})
		}
		add := r.command("add ADDRESS", "Add a webhook", func(ctx context.Context, args []string) error {
			in.Address = args[0]
			h, err := r.AddHook(ctx, in)
			if err != nil {
				return err
			}
			return r.said(h, "webhook %d is told of %s; “olive hook test %d” sends it a message", h.ID, strings.Join(h.Events, ", "), h.ID)
		})
		add.Flags().StringSliceVar(&in.Events, "events", []string{"document.issued", "document.void", "delivery.done", "delivery.failed", "batch.ended"}, "what it is told of")
		add.Example = "  olive hook add https://books.example.org/olive --events document.issued,document.void"
		paused := func(use, short string, value bool) *cobra.Command {
			return of(use, short, func(ctx context.Context, id uint64) error {
				h, err := r.SetHook(ctx, id, 0, client.HookInput{Paused: &value})
				if err != nil {
					return err
				}
				return r.said(h, "webhook %d: %s", h.ID, stateOfHook(h))
			})
		}
		return []*cobra.Command{
			add,
			r.command("list", "List the webhooks", func(ctx context.Context, _ []string) error {
				l, err := r.Hooks(ctx, client.Find{})
				if err != nil {
					return err
				}
				return rows(r, l, "HOOK | STATE | ADDRESS | EVENTS", func(h client.Hook) []any {
					return []any{h.ID, stateOfHook(h), h.Address, strings.Join(h.Events, ", ")}
				})
			}),
			listing(of("log", "List what a webhook was told, newest first; “olive delivery retry” tells it again", func(ctx context.Context, id uint64) error {
				find.Filter["hook"] = strconv.FormatUint(id, 10)
				l, err := r.Deliveries(ctx, find)
				if err != nil {
					return err
				}
				return rows(r, l, "DELIVERY | EVENT | ABOUT | STATE | TRIES | SENT | ERROR", func(d client.Delivery) []any {
					return []any{d.ID, d.Event, aboutOf(d), d.State, d.Tries, dayOf(d.Sent), d.Error}
				})
			}), &find, "state"),
			of("test", "Send a webhook a message that means nothing, to see whether it arrives", func(ctx context.Context, id uint64) error {
				d, err := r.TestHook(ctx, id)
				if err != nil {
					return err
				}
				return r.said(d, "delivery %d waits for its turn; “olive delivery show %d” tells how it went", d.ID, d.ID)
			}),
			paused("pause", "Tell a webhook nothing for now; it is not told later either", true),
			paused("resume", "Tell a webhook again what happens", false),
			of("remove", "Remove a webhook; what waits to be told fails", func(ctx context.Context, id uint64) error {
				return r.RemoveHook(ctx, id)
			}),
		}
	})
}

func stateOfHook(h client.Hook) string {
	if h.Paused {
		return "paused"
	}
	return "told"
}

// aboutOf is what a message is about.
func aboutOf(d client.Delivery) string {
	switch {
	case d.Document != 0:
		return fmt.Sprintf("document %d", d.Document)
	case d.About != 0:
		return fmt.Sprintf("batch %d", d.About)
	}
	return "–"
}
