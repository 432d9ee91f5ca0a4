package cli_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestOptionsOfAFile(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{"a.html": `<html lang=en><title>Fees</title><h1>One</h1><p id=x>here`, "r.json": `{"a": 1}`})
	out, errs, code := run(dir, "render", "a.html", "-o", "a.pdf", "--archive", "PDF/A-3u", "--attach", "r.json", "--author", "Harbour", "--watermark", "DRAFT", "--footer", "{page} of {pages}")
	require.Equal(t, 0, code, errs)
	assert.Contains(t, out, "1 page")
	out, _, code = run(dir, "inspect", "a.pdf", "--sizes")
	require.Zero(t, code)
	assert.Regexp(t, `(?m)^ +Bytes +Share +Objects +Of$`, out)
	assert.Regexp(t, `(?m)^ +\d+ +\d+\.\d % +2 +what pages show$`, out)
	assert.Regexp(t, `(?m)^ *\d+ +100\.0 % +the file$`, out)
	out, _, code = run(dir, "inspect", "a.pdf")
	require.Equal(t, 0, code)
	for _, part := range []string{"Fees", "Harbour", "PDF/A-3u", "r.json, 8 bytes", "Tagged     yes", "embedded, subset"} {
		assert.Contains(t, out, part)
	}
	for _, args := range [][]string{{"--allow", "fly"}, {"--attach", "none.txt"}, {"--least-scale", "2"}} {
		_, errs, code := run(dir, append([]string{"render", "a.html", "-o", "b.pdf"}, args...)...)
		assert.Equal(t, 2, code, args)
		assert.NotEmpty(t, errs)
	}
	_, errs, code = run(dir, "render", "a.html", "-o", "b.pdf", "--region", "#none")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "#none")
}

func TestBindStampInspect(t *testing.T) {
	dir := t.TempDir()
	page := func(n string) string {
		return `<html lang=en><title>` + n + `</title><p>` + n + `1<p style="break-before: page">` + n + `2`
	}
	write(t, dir, map[string]string{"a.html": page("a"), "b.html": page("b"), "stamp.html": "<p>{page}/{pages}"})
	_, errs, code := run(dir, "render", "a.html", "-o", "a.pdf", "--open-password", "gull")
	require.Equal(t, 0, code, errs)
	_, errs, code = run(dir, "bind", "a.pdf=2", "b.html=last,1@90", "-o", "all.pdf")
	assert.Equal(t, 1, code)
	assert.Equal(t, "olive: a.pdf: the file opens with a password only; give it with --password\n", errs)
	_, errs, code = run(dir, "bind", "a.pdf=2", "b.html=last,1@90", "-o", "all.pdf", "--password", "gull")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "a.pdf: the file is protected, and the new one would not be; protect it with --owner-password")
	_, errs, code = run(dir, "stamp", "a.pdf", "-o", "kept.pdf", "--text", "PAID", "--password", "gull", "--open-password", "tern")
	require.Equal(t, 0, code, errs)
	_, _, code = run(dir, "inspect", "kept.pdf")
	assert.Equal(t, 1, code, "it is protected, too")
	_, errs, code = run(dir, "inspect", "kept.pdf", "--password", "tern")
	assert.Zero(t, code, errs)
	out, errs, code := run(dir, "bind", "a.pdf=2", "b.html=last,1@90", "-o", "all.pdf", "--password", "gull", "--unprotected", "--contents", "Contents")
	require.Equal(t, 0, code, errs)
	assert.Contains(t, out, "4 pages")
	_, errs, code = run(dir, "stamp", "all.pdf", "-o", "done.pdf", "--html", "stamp.html", "--pages", "2-last")
	require.Equal(t, 0, code, errs)
	out, _, code = run(dir, "inspect", "done.pdf", "--json")
	require.Equal(t, 0, code)
	assert.Contains(t, out, `"pages": 4`)
	isPDF(t, filepath.Join(dir, "done.pdf"))

	for _, args := range [][]string{{"bind", "a.pdf"}, {"bind", "none.pdf", "-o", "x.pdf"}, {"bind", "b.html@left", "-o", "x.pdf"}, {"stamp", "all.pdf", "-o", "x.pdf"}, {"stamp", "all.pdf", "--text", "x"}, {"inspect", "none.pdf"}} {
		_, errs, code := run(dir, args...)
		assert.Equal(t, 2, code, strings.Join(args, " "))
		assert.NotEmpty(t, errs)
	}
	for _, args := range [][]string{{"bind", "all.pdf=9", "-o", "x.pdf"}, {"bind", "b.html=1@45", "-o", "x.pdf"}, {"inspect", "a.html"}} {
		_, errs, code := run(dir, args...)
		assert.Equal(t, 1, code, strings.Join(args, " "))
		assert.NotEmpty(t, errs)
	}
	_, err := os.Stat(filepath.Join(dir, "x.pdf"))
	assert.True(t, os.IsNotExist(err), "what failed leaves no file")
}
