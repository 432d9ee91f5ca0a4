package cli_test

import (
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestLinearisedFiles(t *testing.T) {
	dir := small(t)
	write(t, dir, map[string]string{"a.html": "<title>a</title><p>one<p style='break-before:page'>two", "r.json": `[{"name":"a","price":1},{"name":"b","price":2}]`})
	inOrder := func(name string) {
		out, err := exec.Command("qpdf", "--check-linearization", filepath.Join(dir, name)).CombinedOutput()
		assert.NoError(t, err, string(out))
	}
	for _, c := range []struct {
		args []string
		file string
	}{
		{[]string{"render", "a.html", "-o", "a.pdf", "--linearised"}, "a.pdf"},
		{[]string{"render", "t", "--records", "r.json", "--to", "out", "--linearised"}, "out/b.pdf"},
		{[]string{"render", "t", "--records", "r.json", "--bind", "all.pdf", "--linearised"}, "all.pdf"},
		{[]string{"bind", "a.pdf", "all.pdf", "-o", "both.pdf", "--linearised"}, "both.pdf"},
		{[]string{"stamp", "a.pdf", "-o", "paid.pdf", "--text", "PAID", "--linearised"}, "paid.pdf"},
	} {
		_, errs, code := run(dir, c.args...)
		assert.Equal(t, 0, code, errs)
		inOrder(c.file)
	}
	for _, args := range [][]string{
		{"render", "a.html", "-o", "x.pdf", "--linearised", "--open-password", "x"},
		{"bind", "a.pdf", "-o", "x.pdf", "--linearised", "--open-password", "x"},
	} {
		_, errs, code := run(dir, args...)
		assert.Equal(t, 2, code)
		assert.Contains(t, errs, "linearised")
		assert.Contains(t, errs, "password")
	}
}
