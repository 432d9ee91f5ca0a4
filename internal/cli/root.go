// Package cli is the command line: one file for each command.
package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"regexp"
	"strings"
	"syscall"

	"github.com/spf13/cobra"

	"oliveledger/typeset"
	"oliveledger/typeset/bind"
)

// usageError is wrong use of a command: exit code 2.
type usageError struct{ error }

func (u usageError) Unwrap() error { return u.error }

func usage(format string, args ...any) error { return usageError{fmt.Errorf(format, args...)} }

// errSome tells that some documents failed and have been told already.
var errSome = errors.New("some documents failed")

// Root is the command with all that are in it.
func Root() *cobra.Command {
	root := &cobra.Command{
		Use:           "olive",
		Short:         "Merge records into HTML and CSS templates and set them as paginated PDF",
		Version:       version(),
		SilenceErrors: true,
		SilenceUsage:  true,
	}
	root.SetFlagErrorFunc(func(c *cobra.Command, err error) error {
		return usage("%s; see “%s --help”", flagFault(err), c.CommandPath())
	})
	root.AddCommand(newCommand(), checkCommand(), mergeCommand(), renderCommand(), bindCommand(), stampCommand(), signCommand(), inspectCommand(),
		serveCommand(), workerCommand(), backupCommand(), restoreCommand(), sweepCommand(), standInCommand(), templateCommand(), recordSetCommand(), documentCommand(), batchCommand(), deliveryCommand(), hookCommand(), shareCommand(), seriesCommand(), fontCommand(), ledgerCommand(), keyCommand(), personCommand(), eventCommand(), setupCommand(), profileCommand())
	return root
}

// Run runs a command and returns its exit code: 0, 1 when a document failed,
// 2 for wrong use.
func Run(args []string, out, errs io.Writer) int {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	root := Root()
	root.SetArgs(args)
	root.SetOut(out)
	root.SetErr(errs)
	root.InitDefaultCompletionCmd(args...)
	holdCommands(root)
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
	case errors.Is(err, bind.ErrPassword):
		fmt.Fprintf(errs, "olive: %v; give it with --password\n", err)
		return 1
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

// holdCommands has the commands that only hold others tell what they need.
func holdCommands(root *cobra.Command) {
	for _, c := range root.Commands() {
		if !c.HasSubCommands() || c.Runnable() {
			continue
		}
		c.Args = func(c *cobra.Command, args []string) error {
			path := c.CommandPath()
			if len(args) == 0 {
				return usage("%s needs a command of its own; see “%s --help”", path, path)
			}
			c.SuggestionsMinimumDistance = 2
			if near := c.SuggestionsFor(args[0]); len(near) > 0 {
				return usage("%s has no command %q; did you mean “%s %s”?", path, args[0], path, near[0])
			}
			return usage("%s has no command %q; see “%s --help”", path, args[0], path)
		}
		c.RunE = func(c *cobra.Command, _ []string) error { return c.Help() }
	}
}

// badValue is what the library of flags says of a value that is none.
var badValue = regexp.MustCompile(`^invalid argument (".*") for "(?:-\w, )?(--[\w-]+)" flag: (.*)$`)

// flagFault says in plain words what is wrong with a flag.
func flagFault(err error) string {
	m := badValue.FindStringSubmatch(err.Error())
	if m == nil {
		return err.Error()
	}
	what := "cannot be " + m[1]
	switch {
	case strings.Contains(m[3], "ParseFloat"), strings.Contains(m[3], "ParseInt"), strings.Contains(m[3], "ParseUint"):
		what = fmt.Sprintf("is a number, not %s", m[1])
	case strings.Contains(m[3], "duration"):
		what = fmt.Sprintf("is a time such as 30s or 2m, not %s", m[1])
	case strings.Contains(m[3], "ParseBool"):
		what = fmt.Sprintf("is true or false, not %s", m[1])
	}
	return m[2] + " " + what
}
