package typeset

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// drawn gives the pixels of a page's first sheet, drawn by an independent
// program.
func drawn(t *testing.T, file string) []byte {
	t.Helper()
	html, err := os.ReadFile(file)
	require.NoError(t, err)
	pdf, _ := pdfOf(t, string(html), Options{UserSheets: []Sheet{{Name: "small", Text: "@page { size: 420px 300px; margin: 0 }"}}})
	name := filepath.Join(t.TempDir(), "page.pdf")
	require.NoError(t, os.WriteFile(name, pdf, 0o644))
	out, err := exec.Command("pdftoppm", "-r", "96", "-f", "1", "-l", "1", name).Output()
	require.NoError(t, err)
	return out
}

// TestConformance sets pairs of pages that CSS says look the same: name.html
// uses a feature, name.ref.html says it in plainer words.
func TestConformance(t *testing.T) {
	pages, err := filepath.Glob("testdata/conformance/*.ref.html")
	require.NoError(t, err)
	require.NotEmpty(t, pages)
	for _, ref := range pages {
		page := strings.TrimSuffix(ref, ".ref.html") + ".html"
		t.Run(strings.TrimSuffix(filepath.Base(page), ".html"), func(t *testing.T) {
			t.Parallel()
			a, b := drawn(t, page), drawn(t, ref)
			require.Len(t, a, len(b))
			off := 0
			for i := range a {
				if d := int(a[i]) - int(b[i]); d > 8 || d < -8 {
					off++
				}
			}
			assert.Zero(t, off, "colour values that differ")
			assert.Less(t, strings.Count(string(a), "\xff"), len(a)-100, "something is drawn")
		})
	}
}
