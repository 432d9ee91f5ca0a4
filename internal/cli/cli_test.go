package cli_test

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var olive string

// TestMain builds the command once; the tests run it as a process.
func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "olive-cli")
	if err != nil {
		panic(err)
	}
	olive = filepath.Join(dir, "olive")
	if out, err := exec.Command("go", "build", "-o", olive, "oliveledger/cmd/olive").CombinedOutput(); err != nil {
		fmt.Fprintf(os.Stderr, "%s", out)
		os.Exit(1)
	}
	code := m.Run()
	os.RemoveAll(dir)
	os.Exit(code)
}

// run gives what a command printed, and its exit code.
func run(dir string, args ...string) (out, errs string, code int) {
	c := exec.Command(olive, args...)
	c.Dir = dir
	var o, e bytes.Buffer
	c.Stdout, c.Stderr = &o, &e
	c.Run()
	return o.String(), e.String(), c.ProcessState.ExitCode()
}

func write(t *testing.T, dir string, files map[string]string) {
	t.Helper()
	for name, text := range files {
		path := filepath.Join(dir, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(path), 0o755))
		require.NoError(t, os.WriteFile(path, []byte(text), 0o644))
	}
}

func isPDF(t *testing.T, path string) {
	t.Helper()
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(data, []byte("%PDF-1.7")), path)
	assert.True(t, bytes.HasSuffix(data, []byte("%%EOF\n")), path)
}

func TestPlainPage(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{"in/page.html": "<link rel=stylesheet href=../shared/a.css><p class=a>hello", "shared/a.css": ".a{color:red}", "extra.css": "@page{size:A5}"})
	out, errs, code := run(dir, "render", "in/page.html", "-o", "out.pdf", "--base-css", "extra.css", "--within", ".")
	assert.Equal(t, 0, code, errs)
	assert.Contains(t, out, "1 page")
	assert.Empty(t, errs)
	isPDF(t, filepath.Join(dir, "out.pdf"))
	_, errs, code = run(dir, "render", "in/page.html", "-o", "out.pdf")
	assert.Equal(t, 0, code)
	assert.Contains(t, errs, "did not load", "the sheet lies outside the page's own folder")
	_, errs, _ = run(dir, "render", "in/page.html", "--paper", "A4 landscape", "--margins", "10mm 5mm", "--medium", "screen", "--within", ".")
	assert.NotContains(t, errs, "option", "the page says nothing of its paper")
	isPDF(t, filepath.Join(dir, "in/page.pdf"))
}

func TestWrongUseIsTwo(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{"page.html": "x", "t/page.html": "x", "r.json": "[{}]", "r.doc": ""})
	for _, args := range [][]string{
		{"render"},
		{"render", "gone.html"},
		{"render", "page.html", "--nothing"},
		{"render", "page.html", "--medium", "radio"},
		{"render", "page.html", "--add-css", "gone.css"},
		{"render", "t"},
		{"render", "t", "--records", "r.json"},
		{"render", "t", "--records", "r.doc", "--to", "o"},
		{"render", "t", "--records", "gone.json", "--to", "o"},
		{"render", "page.html", "--records", "r.json", "--to", "o"},
		{"render", "page.html", "--within", "t"},
		{"nothing"},
		{"download", "x"},
		{"push", "page.html"},
	} {
		_, errs, code := run(dir, args...)
		assert.Equal(t, 2, code, args)
		assert.True(t, strings.HasPrefix(errs, "olive: "), "%v: %s", args, errs)
	}
}

func TestVersion(t *testing.T) {
	out, _, code := run(t.TempDir(), "--version")
	assert.Zero(t, code)
	assert.Regexp(t, `^olive version (\w{12} of \d{4}-\d\d-\d\d(, changed)?|built from no commit)\n$`, out)
}

func TestFailureLeavesNoFile(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{"page.html": "<p style='color: device-cmyk(0 1 0 0)'>x", "good.html": "x", "old.pdf": "old"})
	_, errs, code := run(dir, "render", "page.html", "-o", "new.pdf", "--archive", "PDF/A-2u") // told when nearly all is written
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "device-cmyk()")
	_, _, code = run(dir, "render", "page.html", "-o", "old.pdf", "--archive", "PDF/A-2u")
	assert.Equal(t, 1, code)
	data, _ := os.ReadFile(filepath.Join(dir, "old.pdf"))
	assert.Equal(t, "old", string(data), "what was there stays")
	list, _ := os.ReadDir(dir)
	assert.Len(t, list, 3, "nothing half-written is left")
	_, errs, code = run(dir, "render", "good.html", "--paper", "A99")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "write it as CSS does")
}

func TestTemplateOverRecords(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{
		"t/page.html": "<p>{{.name}}: {{money .price}}", "t/template.yaml": "title: T\nfilename: '{{.name}}.pdf'\n",
		"good.csv":   "name,price\nÅsa,10\nZoë,20.5\n",
		"mixed.json": `[{"name": "a", "price": 1}, {"name": "b"}, {"name": "c", "price": "x"}, {"name": "A", "price": 2}]`,
		"empty.json": "[]", "broken.ndjson": "{\"name\": \"n\", \"price\": 1}\n{",
	})
	out, errs, code := run(dir, "render", "t", "--records", "good.csv", "--to", "out")
	assert.Equal(t, 0, code, errs)
	assert.Contains(t, out, "2 documents")
	isPDF(t, filepath.Join(dir, "out", "Åsa.pdf"))
	isPDF(t, filepath.Join(dir, "out", "Zoë.pdf"))
	_, errs, code = run(dir, "render", "t", "--records", "mixed.json", "--to", "mixed")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, `the field "price" is missing`)
	assert.Contains(t, errs, "page.html line 1")
	assert.Contains(t, errs, "is not a number")
	assert.Contains(t, errs, "its file name")
	assert.Contains(t, errs, "3 of 4 documents failed")
	list, _ := filepath.Glob(filepath.Join(dir, "mixed", "*.pdf"))
	assert.Len(t, list, 1)
	_, errs, code = run(dir, "render", "t", "--records", "empty.json", "--to", "o")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "no records")
	_, errs, code = run(dir, "render", "t", "--records", "broken.ndjson", "--to", "o")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "line 2")
	isPDF(t, filepath.Join(dir, "o", "n.pdf"))
}

func TestDemoHasNoFindings(t *testing.T) {
	demo, err := filepath.Abs("../../demo")
	require.NoError(t, err)
	for template, records := range map[string]string{"mooring-invoice": "invoices", "course-certificate": "certificates", "season-report": "season"} {
		to := t.TempDir()
		_, errs, code := run(demo, "render", "templates/"+template, "--records", "records/"+records+".json", "--to", to)
		assert.Equal(t, 0, code)
		assert.Empty(t, errs, template)
		list, err := os.ReadDir(to)
		require.NoError(t, err)
		for _, f := range list {
			path := filepath.Join(to, f.Name())
			out, err := exec.Command("qpdf", "--check", path).CombinedOutput()
			require.NoError(t, err, "%s: %s", f.Name(), out)
			fonts, err := exec.Command("pdffonts", path).CombinedOutput()
			require.NoError(t, err)
			for _, line := range strings.Split(strings.TrimSpace(string(fonts)), "\n")[2:] {
				assert.Contains(t, line, "yes yes yes", "embedded, subset, with Unicode: %s", line)
			}
		}
	}
}
