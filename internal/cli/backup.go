package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"oliveledger/internal/service"
	"oliveledger/internal/service/backup"
)

// openAnyway connects to a running service's data, or starts its database.
// A data folder that does not exist is a mistake: it would only be made, and empty.
func openAnyway(ctx context.Context, conf service.Config) (*service.Base, error) {
	if _, err := os.Stat(conf.Data); err != nil && conf.Database == "" {
		return nil, usage("there is no data folder %s", conf.Data)
	}
	if base, err := service.JoinBase(ctx, conf); err == nil {
		return base, nil
	}
	return service.OpenBase(ctx, conf)
}

func backupCommand() *cobra.Command {
	conf := service.Config{}
	out, passphraseFile := "", ""
	c := &cobra.Command{
		Use:   "backup -o FILE.zip",
		Short: "Write all that a service keeps into one file; the service may run meanwhile",
		Long: `Writes all that a service keeps into one ZIP file, which only you can read: it holds
hashes of passwords and keys, and every record. With --passphrase-file it is
sealed besides (age, https://age-encryption.org): who does not know the
passphrase can neither read nor change it.`,
		Example: `  olive backup --data data -o backup.zip
  olive backup --data data -o backup.zip.age --passphrase-file passphrase.txt`,
		Args: exactly(0, "no arguments"),
		RunE: func(c *cobra.Command, _ []string) error {
			if out == "" {
				return usage("say where to: -o FILE.zip")
			}
			passphrase, err := passphraseOf(passphraseFile)
			if err != nil {
				return err
			}
			base, err := openAnyway(c.Context(), conf)
			if err != nil {
				return err
			}
			defer base.Close()
			var n backup.Count
			err = writeFile(out, 0o600, func(w io.Writer) (err error) {
				n, err = writeBackup(c.Context(), base, w, passphrase)
				return err
			})
			if err != nil {
				return err
			}
			fmt.Fprintf(c.OutOrStdout(), "%s: %d rows, %d files\n", out, n.Rows, n.Blobs)
			return nil
		},
	}
	whereFlags(c.Flags(), &conf)
	c.Flags().StringVarP(&out, "output", "o", "", "file to write")
	c.Flags().StringVar(&passphraseFile, "passphrase-file", "", "file whose first line is the passphrase that seals the back-up")
	return c
}

// writeBackup writes a back-up, sealed when there is a passphrase.
func writeBackup(ctx context.Context, base *service.Base, w io.Writer, passphrase string) (n backup.Count, err error) {
	if passphrase == "" {
		return backup.Write(ctx, base.Store, base.Blobs, w)
	}
	sealed, err := backup.Seal(w, passphrase)
	if err != nil {
		return n, err
	}
	if n, err = backup.Write(ctx, base.Store, base.Blobs, sealed); err != nil {
		return n, err
	}
	return n, sealed.Close()
}

// passphraseOf reads the first line of a file; none is empty.
func passphraseOf(file string) (string, error) {
	if file == "" {
		return "", nil
	}
	raw, err := os.ReadFile(file)
	if err != nil {
		return "", usage("the passphrase in %s cannot be read: %v", file, errors.Unwrap(err))
	}
	line, _, _ := strings.Cut(string(raw), "\n")
	if line = strings.TrimRight(line, "\r"); line == "" {
		return "", usage("the first line of %s is empty; it should be the passphrase", file)
	}
	return line, nil
}

func restoreCommand() *cobra.Command {
	conf, passphraseFile := service.Config{}, ""
	c := &cobra.Command{
		Use:     "restore FILE.zip",
		Short:   "Put a back-up into an empty data folder or database, and check the ledger",
		Example: "  olive restore backup.zip --data new-data",
		Args:    exactly(1, "a back-up"),
		RunE: func(c *cobra.Command, args []string) error {
			f, err := os.Open(args[0])
			if err != nil {
				return usage("%s cannot be read: %v", args[0], errors.Unwrap(err))
			}
			defer f.Close()
			passphrase, err := passphraseOf(passphraseFile)
			if err != nil {
				return err
			}
			from, size, forget, err := backup.Open(f, passphrase)
			if err != nil {
				return fmt.Errorf("%s: %w", args[0], err)
			}
			defer forget()
			base, err := service.OpenBase(c.Context(), conf)
			if err != nil {
				return err
			}
			defer base.Close()
			n, err := backup.Read(c.Context(), base.Store, base.Blobs, from, size)
			if err != nil {
				return fmt.Errorf("%s: %w", args[0], err)
			}
			fmt.Fprintf(c.OutOrStdout(), "%s: %d rows, %d files\n", args[0], n.Rows, n.Blobs)
			v, err := base.Store.Verify(1, func(sum string) error { _, err := base.Blobs.Get(c.Context(), sum); return err })
			if err != nil {
				return err
			}
			for _, x := range v.Faults {
				fmt.Fprintln(c.ErrOrStderr(), "olive:", x.Message)
			}
			if !v.Sound {
				return errSome
			}
			fmt.Fprintf(c.OutOrStdout(), "The ledger is sound: %s.\n", plural(v.Rows, "row"))
			return nil
		},
	}
	whereFlags(c.Flags(), &conf)
	c.Flags().StringVar(&passphraseFile, "passphrase-file", "", "file whose first line is the passphrase of a sealed back-up")
	return c
}
