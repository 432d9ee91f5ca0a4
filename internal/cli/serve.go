package cli

import (
	"fmt"
	"log/slog"
	"path/filepath"

	"github.com/spf13/cobra"

	"oliveledger/internal/service"
)

// DefaultAddress is where the service listens, and where commands look for it.
const DefaultAddress = "127.0.0.1:8470"

func serveCommand() *cobra.Command {
	conf := service.Config{}
	c := &cobra.Command{
		Use:   "serve",
		Short: "Start the service with its web console",
		Long: `Starts the service: the HTTP API under /api/v1 and the web console. Without
--database it starts a private MariaDB of its own in the data folder.

At the first start it makes a person and a key and writes them to
first-login.txt in the data folder, which only you can read.`,
		Args: exactly(0, "no arguments"),
		RunE: func(c *cobra.Command, _ []string) error {
			conf.Log = slog.New(slog.NewTextHandler(c.ErrOrStderr(), nil))
			conf.Ready = func(address string) {
				fmt.Fprintf(c.OutOrStdout(), "Olive Ledger is ready: %s\nLog-in: see %s\n", address, filepath.Join(conf.Data, service.FirstLogin))
			}
			return service.Run(c.Context(), conf)
		},
	}
	f := c.Flags()
	f.StringVar(&conf.Listen, "listen", DefaultAddress, "address to listen on")
	f.StringVar(&conf.Data, "data", "data", "folder for documents and the private database")
	f.StringVar(&conf.Database, "database", "", "MariaDB to use instead of a private one: user:password@tcp(host:3306)/name")
	return c
}
