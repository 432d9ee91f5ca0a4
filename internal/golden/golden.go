// Package golden compares what tests write down with what is held in files.
package golden

import (
	"flag"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/pmezard/go-difflib/difflib"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var update = flag.Bool("update", false, "write what tests describe now as what is to be held")

// Compare compares a description with the contents of a file. Run with -update, the test
// writes the file instead: then look at the difference.
func Compare(t *testing.T, file, got string) {
	t.Helper()
	if *update {
		require.NoError(t, os.WriteFile(file, []byte(got), 0o644))
	}
	want, err := os.ReadFile(file)
	require.NoError(t, err)
	if string(want) == got {
		return
	}
	diff, err := difflib.GetUnifiedDiffString(difflib.UnifiedDiff{A: difflib.SplitLines(string(want)), B: difflib.SplitLines(got), FromFile: file, ToFile: "now", Context: 2})
	require.NoError(t, err)
	assert.Fail(t, "this is not what is held", strings.ToValidUTF8(diff, "\uFFFD"))
}

// Each describes each HTML file of a folder, of which there is at least one, and compares
// what comes of it with the text file of the same name beside it.
func Each(t *testing.T, folder string, describe func(t *testing.T, name string, html []byte) string) {
	t.Helper()
	files, err := filepath.Glob(filepath.Join(folder, "*.html"))
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, file := range files {
		path := strings.TrimSuffix(file, ".html")
		name := filepath.Base(path)
		t.Run(name, func(t *testing.T) {
			html, err := os.ReadFile(file)
			require.NoError(t, err)
			Compare(t, path+".txt", describe(t, name, html))
		})
	}
}
