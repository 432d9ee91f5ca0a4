package cli

import (
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/spf13/cobra"
)

// watched renders, and again whenever a file changes: those of the template or
// beside the page, and the records.
func (f *renderFlags) watched(c *cobra.Command, args []string) error {
	var roots []string
	for _, a := range args {
		if a == "-" {
			return usage("--watch needs files, not standard input")
		}
		if st, err := os.Stat(a); err == nil && !st.IsDir() {
			a = filepath.Dir(a)
		}
		roots = append(roots, a)
	}
	for _, name := range []string{f.records.file, f.records.lines} {
		if name != "" && name != "-" {
			roots = append(roots, name)
		}
	}
	last := ""
	for {
		if now := f.state(roots); now != last {
			last = now
			if err := f.run(c, args); err != nil {
				fmt.Fprintln(c.ErrOrStderr(), "olive:", err)
			}
			if !f.quiet {
				fmt.Fprintf(c.ErrOrStderr(), "%s  waiting for changes; Ctrl-C ends\n", time.Now().Format("15:04:05"))
			}
		}
		select {
		case <-c.Context().Done():
			return nil
		case <-time.After(250 * time.Millisecond):
		}
	}
}

// state sums up names, sizes and times of what is watched; PDF files are left
// out, as they are what is made.
func (f *renderFlags) state(roots []string) string {
	var b strings.Builder
	out, _ := filepath.Abs(f.to)
	for _, root := range roots {
		_ = filepath.WalkDir(root, func(p string, d fs.DirEntry, err error) error {
			if err != nil {
				return nil
			}
			if abs, _ := filepath.Abs(p); d.IsDir() && f.to != "" && abs == out {
				return fs.SkipDir
			}
			if d.IsDir() || strings.HasSuffix(p, ".pdf") || strings.HasPrefix(d.Name(), ".olive-") {
				return nil
			}
			if info, err := d.Info(); err == nil {
				fmt.Fprintln(&b, p, info.Size(), info.ModTime().UnixNano())
			}
			return nil
		})
	}
	return b.String()
}
