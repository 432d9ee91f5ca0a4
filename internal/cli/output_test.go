package cli_test

import (
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestStandardOutput gives - as the file of each command that writes one: the bytes come whole, and nothing among them.
func TestStandardOutput(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{
		"a.html": "<html lang=en><title>a</title><p>a", "bill/page.html": "<html lang=en><title>Bill</title><p>{{.name}}",
		"bill/sample.json": `{"name": "Ida"}`, "bill/template.yaml": "sample: sample.json\n",
	})
	_, errs, code := run(dir, "render", "a.html", "-o", "a.pdf")
	require.Zero(t, code, errs)
	for _, test := range []struct {
		name, begin, end, tells string
		args                    []string
	}{
		{"render", "%PDF-", "%%EOF\n", "-: 1 page", []string{"render", "a.html", "-o", "-"}},
		{"bind", "%PDF-", "%%EOF\n", "-: 2 pages", []string{"bind", "a.pdf", "a.pdf", "-o", "-"}},
		{"stamp", "%PDF-", "%%EOF\n", "-: 1 page", []string{"stamp", "a.pdf", "--text", "PAID", "-o", "-"}},
		{"merge", "<html", "<p>Ida", "", []string{"merge", "bill", "-o", "-"}},
		{"merge, without an option", "<html", "<p>Ida", "", []string{"merge", "bill"}},
	} {
		t.Run(test.name, func(t *testing.T) {
			out, errs, code := run(dir, test.args...)
			require.Zero(t, code, errs)
			assert.True(t, strings.HasPrefix(out, test.begin), "%.20q", out)
			assert.True(t, strings.HasSuffix(strings.TrimRight(out, "\n"), strings.TrimRight(test.end, "\n")), "%.40q", out[max(len(out)-40, 0):])
			assert.Contains(t, errs, test.tells)
			assert.NoFileExists(t, filepath.Join(dir, "-"))
		})
	}
	t.Run("a folder is made for a file", func(t *testing.T) {
		_, errs, code := run(dir, "bind", "a.pdf", "a.pdf", "-o", "new/folder/both.pdf")
		require.Zero(t, code, errs)
		assert.FileExists(t, filepath.Join(dir, "new/folder/both.pdf"))
		_, errs, code = run(dir, "merge", "bill", "-o", "merged/bill.html")
		require.Zero(t, code, errs)
		assert.FileExists(t, filepath.Join(dir, "merged/bill.html"))
	})
	for name, args := range map[string][]string{
		"render": {"render", "a.html"}, "render, of a record": {"render", "bill"}, "bind": {"bind", "a.pdf", "a.pdf"}, "merge": {"merge", "bill"},
	} {
		t.Run(name+": a folder is no file", func(t *testing.T) {
			_, errs, code := run(dir, append(args, "-o", "later/")...)
			assert.Equal(t, 2, code)
			assert.Contains(t, errs, "later/ is a folder; name the file in it, such as later/document.pdf")
			assert.NoFileExists(t, filepath.Join(dir, "later"))
			_, errs, code = run(dir, append(args, "-o", "new")...)
			assert.Equal(t, 2, code)
			assert.Contains(t, errs, "new is a folder")
		})
	}
}
