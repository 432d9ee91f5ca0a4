package paint

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var update = flag.Bool("update", false, "write what is painted now as what is to be")

// TestPages paints small pages, and compares every call with what is written beside them.
// To see what a change does, run with -update and look at the difference.
func TestPages(t *testing.T) {
	files, err := filepath.Glob("testdata/looks/*.html")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, file := range files {
		name := strings.TrimSuffix(filepath.Base(file), ".html")
		t.Run(name, func(t *testing.T) {
			html, err := os.ReadFile(file)
			require.NoError(t, err)
			var got strings.Builder
			eachPage(t, string(html), 120, func(n int, paint func(c painting)) {
				s := &scribe{}
				paint(s)
				assert.Zero(t, s.depth, "each Save has its Restore")
				fmt.Fprintf(&got, "page %d\n%s", n, s.b.String())
			})
			golden := strings.TrimSuffix(file, ".html") + ".txt"
			if *update {
				require.NoError(t, os.WriteFile(golden, []byte(got.String()), 0o644))
			}
			want, err := os.ReadFile(golden)
			require.NoError(t, err)
			assert.Equal(t, string(want), got.String())
		})
	}
}
