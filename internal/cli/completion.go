package cli

import (
	"context"
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"oliveledger/client"
	"oliveledger/merge/starter"
	"oliveledger/typeset"
)

// offered are the values that a shell can complete for options, by their names.
var offered = map[string][]string{
	"paper":   {"A4", "A4 landscape", "A5", "A5 landscape", "A3", "A3 landscape", "letter", "letter landscape", "legal"},
	"medium":  {"print", "screen"},
	"archive": {typeset.Archive2, typeset.Archive3},
	"clash":   {"refuse", "number", "overwrite"},
	"fail-at": {"note", "warning", "error"},
	"format":  {"json", "ndjson", "csv", "tsv", "yaml", "xml", "xlsx"},
	"decimal": {",", "."},
	"dates":   {"DD.MM.YYYY", "DD/MM/YYYY", "MM/DD/YYYY"},
	"allow":   {"print", "copy", "edit", "fill"},
	"permits": permissions,
}

// offerValues lets shells complete the values of options.
func offerValues(c *cobra.Command) {
	for name, values := range offered {
		if c.Flags().Lookup(name) != nil {
			_ = c.RegisterFlagCompletionFunc(name, cobra.FixedCompletions(values, cobra.ShellCompDirectiveNoFileComp))
		}
	}
	if c.Name() == "new" {
		var names []string
		for _, s := range starter.Names {
			names = append(names, s.Name)
		}
		_ = c.RegisterFlagCompletionFunc("from", cobra.FixedCompletions(names, cobra.ShellCompDirectiveNoFileComp))
	}
	for _, sub := range c.Commands() {
		offerValues(sub)
	}
}

// complete offers what is in the service for the first argument of a command, by what its
// use calls it: the NAME of a template, the SET of records.
func (r *remote) complete(group string, c *cobra.Command) {
	use := strings.Fields(c.Use)
	if len(use) < 2 {
		return
	}
	find := client.Find{Limit: 500}
	var list func(ctx context.Context) []string
	switch {
	case group == "template" && use[1] == "NAME":
		list = func(ctx context.Context) (names []string) {
			l, _ := r.Templates(ctx, find) // a shell has no place for errors
			for _, t := range l.Items {
				names = append(names, t.Name)
			}
			return names
		}
	case use[1] == "SET":
		list = func(ctx context.Context) (names []string) {
			l, _ := r.RecordSets(ctx, find)
			for _, s := range l.Items {
				names = append(names, fmt.Sprintf("%d\t%s", s.ID, s.Name))
			}
			return names
		}
	default:
		return
	}
	c.ValidArgsFunction = func(c *cobra.Command, args []string, _ string) ([]string, cobra.ShellCompDirective) {
		if len(args) > 0 || r.connect(c) != nil {
			return nil, cobra.ShellCompDirectiveNoFileComp
		}
		return list(c.Context()), cobra.ShellCompDirectiveNoFileComp
	}
}
