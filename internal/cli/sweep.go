package cli

import (
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"oliveledger/internal/service"
	"oliveledger/internal/service/sweep"
)

func sweepCommand() *cobra.Command {
	conf := service.Config{}
	var older time.Duration
	remove := false
	c := &cobra.Command{
		Use:   "sweep",
		Short: "Find stored files that no document names, and remove them with --remove",
		Long: `Looks for stored files that no document and no font names: those of documents whose
rows could not be kept. Nothing is removed without --remove. The service and its
workers may run meanwhile: what was stored within --older is left alone.`,
		Example: "  olive sweep --data data\n  olive sweep --data data --older 48h --remove",
		Args:    exactly(0, "no arguments"),
		RunE: func(c *cobra.Command, _ []string) error {
			if older < sweep.Least {
				return usage("--older %v is too short: what is younger than %v may belong to a document that is being made", older, sweep.Least)
			}
			base, err := openAnyway(c.Context(), conf)
			if err != nil {
				return err
			}
			defer base.Close()
			f, err := sweep.Run(c.Context(), base.Store, base.Blobs, older, remove)
			if err != nil {
				return err
			}
			w := c.OutOrStdout()
			fmt.Fprintf(w, "%s stored, %d of them named by nothing (%.1f MB)\n", plural(f.Kept, "file"), f.Forgotten, float64(f.Bytes)/1e6)
			switch {
			case remove:
				fmt.Fprintf(w, "%s removed, and %s that were not finished\n", plural(f.Removed, "file"), plural(f.Unfinished, "file"))
			case f.Forgotten > 0:
				fmt.Fprintln(w, "nothing is removed without --remove")
			}
			return nil
		},
	}
	whereFlags(c.Flags(), &conf)
	c.Flags().DurationVar(&older, "older", 24*time.Hour, "leave alone what was stored later than so long ago")
	c.Flags().BoolVar(&remove, "remove", false, "remove what is found")
	return c
}
