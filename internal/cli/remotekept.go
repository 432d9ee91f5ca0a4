package cli

import (
	"context"
	"fmt"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"
)

// keepingCommands hold documents, let them go, and erase those whose time has run out.
func keepingCommands(r *remote) []*cobra.Command {
	reason := ""
	hold := r.ofDocument("hold", "Keep a document from being erased", func(ctx context.Context, id uint64) error {
		if strings.TrimSpace(reason) == "" {
			return usage("say why the document must stay: --reason")
		}
		d, err := r.HoldDocument(ctx, id, reason)
		if err != nil {
			return err
		}
		return r.said(d, "document %d is held: %s", d.ID, d.Hold)
	})
	hold.Flags().StringVar(&reason, "reason", "", "why it must stay, such as a lawsuit")
	release := r.ofDocument("release", "Let a document that is held be erased when its time comes", func(ctx context.Context, id uint64) error {
		d, err := r.HoldDocument(ctx, id, "")
		if err != nil {
			return err
		}
		return r.said(d, "document %d is not held any more", d.ID)
	})
	yes := false
	erase := r.command("erase", "Erase documents that were kept as long as their template says; the ledger keeps its rows", func(ctx context.Context, _ []string) error {
		e, err := r.Erase(ctx, !yes)
		if err != nil {
			return err
		}
		return r.print(e, func(w *tabwriter.Writer) {
			for _, d := range e.Documents {
				fmt.Fprintf(w, "%d\t%s\t%s\tkept until %s\n", d.ID, d.Number, d.Name, dayOf(d.Keep))
			}
			if more := e.Total - len(e.Documents); more > 0 {
				fmt.Fprintf(w, "… and %d more\n", more)
			}
			if yes {
				fmt.Fprintf(w, "%s erased (%.1f MB)\n", plural(e.Total, "document"), float64(e.Bytes)/1e6)
			} else {
				fmt.Fprintf(w, "%s may be erased (%.1f MB): --yes does it\n", plural(e.Total, "document"), float64(e.Bytes)/1e6)
			}
		})
	})
	erase.Flags().BoolVar(&yes, "yes", false, "erase them; without it they are only named")
	return []*cobra.Command{hold, release, erase}
}
