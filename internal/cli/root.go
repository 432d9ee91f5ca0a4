// Package cli is the command line: one file for each command.
package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"

	"oliveledger/typeset"
)

// usageError is wrong use of a command: exit code 2.
type usageError struct{ error }

func (u usageError) Unwrap() error { return u.error }

func usage(format string, args ...any) error { return usageError{fmt.Errorf(format, args...)} }

// errSome tells that some documents failed and have been told already.
var errSome = errors.New("some documents failed")

// Run runs a command and returns its exit code: 0, 1 when a document failed,
// 2 for wrong use.
func Run(args []string, out, errs io.Writer) int {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	root := &cobra.Command{
		Use:           "olive",
		Short:         "Merge records into HTML and CSS templates and set them as paginated PDF",
		Version:       version(),
		SilenceErrors: true,
		SilenceUsage:  true,
	}
	root.SetArgs(args)
	root.SetOut(out)
	root.SetErr(errs)
	root.SetFlagErrorFunc(func(c *cobra.Command, err error) error {
		return usageError{fmt.Errorf("%w; see “%s --help”", err, c.CommandPath())}
	})
	root.AddCommand(newCommand(), checkCommand(), mergeCommand(), renderCommand(), bindCommand(), stampCommand(), inspectCommand(),
		serveCommand(), workerCommand(), backupCommand(), restoreCommand(), sweepCommand(), standInCommand(), templateCommand(), recordSetCommand(), documentCommand(), batchCommand(), deliveryCommand(), shareCommand(), seriesCommand(), fontCommand(), ledgerCommand(), keyCommand(), personCommand(), eventCommand(), setupCommand(), profileCommand())
	offerValues(root)
	err := root.ExecuteContext(ctx)
	var u usageError
	var option *typeset.OptionError
	switch {
	case err == nil:
		return 0
	case errors.Is(err, errSome):
		return 1
	case errors.As(err, &u), errors.As(err, &option):
		fmt.Fprintln(errs, "olive:", err)
		return 2
	case !knownCommand(root, args):
		fmt.Fprintln(errs, "olive:", err)
		return 2
	}
	fmt.Fprintln(errs, "olive:", err)
	return 1
}

func knownCommand(root *cobra.Command, args []string) bool {
	c, _, err := root.Find(args)
	return err == nil && c != root
}

// atLeastOne wants arguments, and says what they are.
func atLeastOne(what string) cobra.PositionalArgs {
	return func(c *cobra.Command, args []string) error {
		if len(args) == 0 {
			return usage("%s needs %s; see “%s --help”", c.Name(), what, c.CommandPath())
		}
		return nil
	}
}

// exactly wants n arguments, and says what they are.
func exactly(n int, what string) cobra.PositionalArgs {
	return func(c *cobra.Command, args []string) error {
		if len(args) != n {
			return usage("%s needs %s; see “%s --help”", c.Name(), what, c.CommandPath())
		}
		return nil
	}
}
