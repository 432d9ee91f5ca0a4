package cli

import (
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"text/tabwriter"

	"github.com/goccy/go-yaml"
	"github.com/spf13/cobra"
)

// profile is a service and a key under a name.
type profile struct {
	Server string `yaml:"server"`
	Key    string `yaml:"key"`
}

// profileFile is where profiles are kept; only their owner may read it.
func profileFile() (string, error) {
	dir, err := os.UserConfigDir()
	return filepath.Join(dir, "olive", "profiles.yaml"), err
}

func readProfiles() (map[string]profile, error) {
	list := map[string]profile{}
	name, err := profileFile()
	if err != nil {
		return list, nil // a machine without a home has none
	}
	raw, err := os.ReadFile(name)
	if errors.Is(err, fs.ErrNotExist) {
		return list, nil
	}
	if err == nil {
		err = yaml.Unmarshal(raw, &list)
	}
	if err != nil {
		return nil, fmt.Errorf("the profiles in %s cannot be read: %w", name, err)
	}
	return list, nil
}

// profileNamed finds a profile; an empty name stands for “default”, which need
// not be there.
func profileNamed(name string) (profile, error) {
	list, err := readProfiles()
	if err != nil {
		return profile{}, err
	}
	if name == "" {
		return list["default"], nil
	}
	p, ok := list[name]
	if !ok {
		return p, usage("there is no profile %q; “olive profile list” tells those that are there", name)
	}
	return p, nil
}

func writeProfiles(list map[string]profile) error {
	name, err := profileFile()
	if err != nil {
		return err
	}
	if err := os.MkdirAll(filepath.Dir(name), 0o700); err != nil {
		return err
	}
	raw, err := yaml.Marshal(list)
	if err != nil {
		return err
	}
	return os.WriteFile(name, raw, 0o600)
}

func profileCommand() *cobra.Command {
	c := &cobra.Command{Use: "profile", Short: "Keep servers and keys under names"}
	var p profile
	add := &cobra.Command{Use: "add NAME --server ADDRESS --key KEY", Short: "Keep a server and a key; the name “default” is used when none is given", Args: exactly(1, "a name"), RunE: func(c *cobra.Command, args []string) error {
		if p.Server == "" || p.Key == "" {
			return usage("a profile needs --server and --key")
		}
		list, err := readProfiles()
		if err != nil {
			return err
		}
		list[args[0]] = p
		return writeProfiles(list)
	}}
	add.Flags().StringVar(&p.Server, "server", "", "address of the service")
	add.Flags().StringVar(&p.Key, "key", "", "key for it")
	drop := &cobra.Command{Use: "drop NAME", Short: "Forget a profile", Args: exactly(1, "a name"), RunE: func(c *cobra.Command, args []string) error {
		if _, err := profileNamed(args[0]); err != nil {
			return err
		}
		list, err := readProfiles()
		if err != nil {
			return err
		}
		delete(list, args[0])
		return writeProfiles(list)
	}}
	list := &cobra.Command{Use: "list", Short: "List profiles", Args: exactly(0, "no arguments"), RunE: func(c *cobra.Command, _ []string) error {
		list, err := readProfiles()
		if err != nil {
			return err
		}
		w := tabwriter.NewWriter(c.OutOrStdout(), 0, 4, 2, ' ', 0)
		fmt.Fprintln(w, "NAME\tSERVER")
		for _, name := range slices.Sorted(maps.Keys(list)) {
			fmt.Fprintf(w, "%s\t%s\n", name, list[name].Server)
		}
		return w.Flush()
	}}
	c.AddCommand(add, drop, list)
	return c
}
