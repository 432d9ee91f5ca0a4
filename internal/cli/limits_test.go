package cli

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestCommandKeepsItsLimits runs the program with templates and pages that have no end.
func TestCommandKeepsItsLimits(t *testing.T) {
	dir := t.TempDir()
	olive := filepath.Join(dir, "olive")
	out, err := exec.Command("go", "build", "-o", olive, "../../cmd/olive").CombinedOutput()
	require.NoError(t, err, string(out))
	write := func(name, text string) string {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o600))
		return filepath.Join(dir, name)
	}
	write("loop/template.yaml", "title: x\n")
	write("loop/page.html", "{{range 90000}}{{range 90000}}{{end}}{{end}}")
	large := write("large.html", "<p style='filter:blur(2px)'>"+string(bytes.Repeat([]byte("<i>x</i> "), 100_000)))
	run := func(args ...string) string {
		t.Helper()
		out, err := exec.Command(olive, args...).CombinedOutput()
		var exit *exec.ExitError
		require.ErrorAs(t, err, &exit, string(out))
		return string(out)
	}
	const late = "olive: record 1: it took longer than the 1s that a document may take"
	assert.Contains(t, run("merge", filepath.Join(dir, "loop"), "--max-time", "1s"), late)
	assert.Contains(t, run("render", filepath.Join(dir, "loop"), "-o", filepath.Join(dir, "o.pdf"), "--max-time", "1s"), late)
	for _, most := range []string{"64", "100", "150"} {
		told := run("render", large, "-o", filepath.Join(dir, "o.pdf"), "--max-memory", most)
		assert.Regexp(t, `^olive: .* needs more than (the )?\d+ MB of memory`, told, most)
		assert.NotContains(t, told, "fatal error", most)
	}
	assert.Contains(t, run("render", large, "-o", filepath.Join(dir, "o.pdf"), "--max-memory", "1"), "at least 64 MB")
	assert.NoFileExists(t, filepath.Join(dir, "o.pdf"))
}
