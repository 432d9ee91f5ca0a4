// Package packages_test installs what build.sh makes.
package packages_test

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// run runs a command, and gives what it said.
func run(t *testing.T, dir, name string, args ...string) string {
	t.Helper()
	c := exec.Command(name, args...)
	c.Dir = dir
	out, err := c.CombinedOutput()
	require.NoError(t, err, "%s %v: %s", name, args, out)
	return string(out)
}

// deb builds the package for this machine.
func deb(t *testing.T) string {
	t.Helper()
	run(t, "..", "packages/build.sh", "deb")
	list, err := filepath.Glob("../dist/*.deb")
	require.NoError(t, err)
	require.Len(t, list, 1)
	return list[0]
}

// TestDeb installs the package into an empty root, makes an invoice with it, and builds it again: the bytes are the same.
func TestDeb(t *testing.T) {
	if _, err := exec.LookPath("dpkg-deb"); err != nil {
		t.Fatal("dpkg-deb is missing: this test needs Debian")
	}
	file := deb(t)
	first, err := os.ReadFile(file)
	require.NoError(t, err)
	root, desk := t.TempDir(), t.TempDir()
	run(t, ".", "dpkg-deb", "--extract", file, root)
	for _, name := range []string{
		"usr/lib/systemd/system/olive.service", "usr/lib/sysusers.d/olive.conf", "etc/olive/olive.yaml", "usr/share/man/man1/olive-render.1.gz",
		"usr/share/bash-completion/completions/olive", "usr/share/zsh/vendor-completions/_olive", "usr/share/fish/vendor_completions.d/olive.fish", "usr/share/doc/olive-ledger/install.md",
	} {
		assert.FileExists(t, filepath.Join(root, name))
	}
	olive := filepath.Join(root, "usr/bin/olive")
	run(t, desk, olive, "new", "invoice")
	assert.Contains(t, run(t, desk, olive, "render", "invoice", "-o", "invoice.pdf"), "invoice.pdf: 1 page")
	pdf, err := os.ReadFile(filepath.Join(desk, "invoice.pdf"))
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(pdf, []byte("%PDF-")))
	assert.Contains(t, run(t, desk, "sh", "-c", "ldd "+olive+" 2>&1 || true"), "not a dynamic executable")
	assert.Regexp(t, ` of \d{4}-\d\d-\d\d`, run(t, desk, olive, "--version"))
	assert.Contains(t, run(t, ".", "dpkg-deb", "--info", file), "Recommends: mariadb-server")
	assert.Contains(t, run(t, ".", "dpkg-deb", "--info", file, "conffiles"), "/etc/olive/olive.yaml")

	again, err := os.ReadFile(deb(t))
	require.NoError(t, err)
	assert.True(t, bytes.Equal(first, again), "two builds of one commit give the same bytes")
}

// TestConfiguration reads the options that the package comes with.
func TestConfiguration(t *testing.T) {
	olive := filepath.Join(t.TempDir(), "olive")
	run(t, "..", "go", "build", "-o", olive, "./cmd/olive")
	c := exec.Command(olive, "serve", "--config", "olive.yaml", "--data", t.TempDir(), "--listen", "nowhere")
	out, err := c.CombinedOutput()
	assert.Error(t, err)
	assert.Contains(t, string(out), `--listen "nowhere" is not host:port`, "all options of the file are known")
}
