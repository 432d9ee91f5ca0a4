package cli_test

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestProofsOfARunAreTracedToTheTemplate(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{
		"berth/template.yaml": "filename: \"{{.name}}.pdf\"\n",
		"berth/page.html":     "<!DOCTYPE html><html lang=en><title>{{.name}}</title>\n{{range .lines}}<p>{{.}}</p>\n{{end}}\n<p style=\"color:#eee\">Pale</p>",
		"berths.json":         `[{"name": "Gull", "lines": ["a", "b", "c"]}, {"name": "Tern", "lines": []}]`,
	})
	_, told, code := run(dir, "render", "berth", "--records", "berths.json", "--to", "out", "--proof", "proofs")
	assert.Zero(t, code, told)
	assert.Contains(t, told, "page.html:4:1: text in <p>", "the line of the template, not of the merged page")
	for _, name := range []string{"Gull.pdf", "Tern.pdf"} {
		out, _, code := run(dir, "inspect", filepath.Join("proofs", name))
		assert.Zero(t, code)
		assert.Regexp(t, `Pages +2 `, out, "the document and the list of its findings")
	}

	_, told, code = run(dir, "render", "berth", "--records", "berths.json", "--to", "more", "--proof", "x.pdf")
	assert.Equal(t, 2, code)
	assert.Contains(t, told, "--proof names a folder")
}
