// Command manual writes the manual pages and the completions of olive into a folder, for packages.
package main

import (
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"time"

	"github.com/spf13/cobra/doc"

	"oliveledger/internal/cli"
)

func main() {
	if len(os.Args) != 2 {
		fmt.Fprintln(os.Stderr, "manual: name the folder to write into")
		os.Exit(2)
	}
	if err := write(os.Args[1]); err != nil {
		fmt.Fprintln(os.Stderr, "manual:", err)
		os.Exit(1)
	}
}

func write(dir string) error {
	if err := os.MkdirAll(filepath.Join(dir, "man"), 0o755); err != nil {
		return err
	}
	root := cli.Root()
	root.DisableAutoGenTag = true
	day, err := made()
	if err != nil {
		return err
	}
	if err := doc.GenManTree(root, &doc.GenManHeader{Title: "OLIVE", Section: "1", Source: "Olive Ledger", Manual: "Olive Ledger", Date: &day}, filepath.Join(dir, "man")); err != nil {
		return err
	}
	for name, generate := range map[string]func(io.Writer) error{
		"olive.bash": func(w io.Writer) error { return root.GenBashCompletionV2(w, true) },
		"_olive":     root.GenZshCompletion,
		"olive.fish": func(w io.Writer) error { return root.GenFishCompletion(w, true) },
	} {
		f, err := os.Create(filepath.Join(dir, name))
		if err != nil {
			return err
		}
		if err := generate(f); err != nil {
			return err
		}
		if err := f.Close(); err != nil {
			return err
		}
	}
	return nil
}

// made is the day that pages carry: that of the commit, so that two builds give the same bytes.
func made() (time.Time, error) {
	seconds, err := strconv.ParseInt(os.Getenv("SOURCE_DATE_EPOCH"), 10, 64)
	if err != nil {
		return time.Time{}, fmt.Errorf("SOURCE_DATE_EPOCH is the time of the commit, in seconds: %w", err)
	}
	return time.Unix(seconds, 0).UTC(), nil
}
