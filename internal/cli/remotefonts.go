package cli

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strconv"

	"github.com/spf13/cobra"

	"oliveledger/client"
)

// fontCommand keeps the fonts that all templates of a service can name.
func fontCommand() *cobra.Command {
	return group("font", "Fonts that all templates can name by their family", func(r *remote) []*cobra.Command {
		add := r.command("add FILE", "Add a font file: TTF, OTF, WOFF or WOFF2", func(ctx context.Context, args []string) error {
			file, err := os.Open(args[0])
			if err != nil {
				return usage("the font cannot be read: %v", err)
			}
			defer file.Close()
			f, err := r.AddFont(ctx, filepath.Base(args[0]), file)
			if err != nil {
				return err
			}
			return r.said(f, "%s is there: %s", f.Family, lookOf(f))
		})
		add.Example = "  olive font add fonts/harbour-sans-700.woff2"
		return []*cobra.Command{
			add,
			r.command("list", "List the fonts", func(ctx context.Context, _ []string) error {
				l, err := r.Fonts(ctx, client.Find{})
				if err != nil {
					return err
				}
				return rows(r, l, "FONT | FAMILY | LOOK | FILE | BYTES", func(f client.Font) []any { return []any{f.ID, f.Family, lookOf(f), f.File, f.Bytes} })
			}),
			r.command("withdraw FONT", "Take a font away; documents that were set with it keep it", func(ctx context.Context, args []string) error {
				id, err := number(args[0], "font", "olive font list")
				if err != nil {
					return err
				}
				return r.WithdrawFont(ctx, id)
			}),
		}
	})
}

// lookOf tells weight and slant of a font.
func lookOf(f client.Font) string {
	look := strconv.Itoa(f.MinWeight)
	if f.MaxWeight != f.MinWeight {
		look = fmt.Sprintf("%d to %d", f.MinWeight, f.MaxWeight)
	}
	if f.Italic {
		look += " italic"
	}
	return look
}
