// Package starter holds templates to begin with.
package starter

import (
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
)

//go:embed invoice certificate report letter labels
var files embed.FS

// Names lists the starters, with what each is for.
var Names = []struct{ Name, What string }{
	{"invoice", "an invoice with lines, taxes by rate and a code to pay with"},
	{"certificate", "a certificate on landscape paper, with a signature"},
	{"report", "a report with a cover, contents, charts and tables"},
	{"letter", "a letter for a window envelope, with text in Markdown"},
	{"labels", "a sheet of 24 labels, made of all records at once"},
}

// Files is the folder of a starter.
func Files(name string) (fs.FS, error) {
	for _, s := range Names {
		if s.Name == name {
			return fs.Sub(files, name)
		}
	}
	var all []string
	for _, s := range Names {
		all = append(all, s.Name)
	}
	return nil, fmt.Errorf("there is no starter %q; there are %s", name, strings.Join(all, ", "))
}

// Copy writes a starter into a folder, which must be new or empty.
func Copy(name, to string) error {
	from, err := Files(name)
	if err != nil {
		return err
	}
	if list, err := os.ReadDir(to); err == nil && len(list) > 0 {
		return fmt.Errorf("the folder %s is not empty; a starter does not overwrite what is there", to)
	} else if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("the folder %s cannot be read: %w", to, err)
	}
	return fs.WalkDir(from, ".", func(p string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		target := filepath.Join(to, filepath.FromSlash(p))
		if d.IsDir() {
			return os.MkdirAll(target, 0o755)
		}
		data, err := fs.ReadFile(from, p)
		if err != nil {
			return err
		}
		return os.WriteFile(target, data, 0o644)
	})
}
