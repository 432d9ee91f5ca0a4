package cli_test

import (
	"context"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/servicetest"
)

var shell = regexp.MustCompile("(?ms)^```sh\n(.*?)^```")

// commandsOf are the lines that a page of the documentation gives for a terminal, without
// those that build, test or start something for good.
func commandsOf(t *testing.T, name string) (list []string) {
	t.Helper()
	text, err := os.ReadFile(name)
	require.NoError(t, err)
	for _, block := range shell.FindAllStringSubmatch(string(text), -1) {
		for line := range strings.SplitSeq(block[1], "\n") {
			if line = strings.TrimSpace(line); line != "" && !strings.HasPrefix(line, "#") && !strings.HasPrefix(line, "make ") {
				list = append(list, line)
			}
		}
	}
	return list
}

// workspace is a folder that looks like a clone once it is built.
func workspace(t *testing.T) string {
	t.Helper()
	dir := t.TempDir()
	root, err := filepath.Abs("../..")
	require.NoError(t, err)
	require.NoError(t, os.Mkdir(filepath.Join(dir, "bin"), 0o755))
	require.NoError(t, os.Symlink(olive, filepath.Join(dir, "bin", "olive")))
	require.NoError(t, os.CopyFS(filepath.Join(dir, "demo"), os.DirFS(filepath.Join(root, "demo"))))
	return dir
}

func bash(t *testing.T, dir, line string, env ...string) string {
	t.Helper()
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Minute)
	defer cancel()
	c := exec.CommandContext(ctx, "bash", "-c", line)
	c.Dir, c.Env = dir, append(os.Environ(), env...)
	out, err := c.CombinedOutput()
	assert.NoError(t, err, "%s\n%s", line, out)
	return string(out)
}

// Every command of the README works as it is written, one after the other.
func TestReadmeWorksAsWritten(t *testing.T) {
	dir := workspace(t)
	lines := commandsOf(t, "../../README.md")
	require.GreaterOrEqual(t, len(lines), 9)
	for _, line := range lines {
		out := bash(t, dir, line)
		assert.NotContains(t, out, "warning:", line)
	}
	for _, name := range []string{"invoice.pdf", "page.pdf", "out/QL-2026-0001.pdf", "all.pdf", "paid.pdf"} {
		isPDF(t, filepath.Join(dir, name))
	}
}

func TestServicePageWorksAsWritten(t *testing.T) {
	dir := workspace(t)
	s := servicetest.Start(t, t.TempDir())
	env := []string{"SERVER=" + s.URL, "KEY=" + s.Key}
	bash(t, dir, "bin/olive template push demo/templates/mooring-invoice --server $SERVER --key $KEY", env...)
	lines := commandsOf(t, "../../docs/service.md")
	require.NotEmpty(t, lines)
	for _, line := range lines {
		bash(t, dir, line, env...)
	}
	isPDF(t, filepath.Join(dir, "page.pdf"))
}

// blockOf is the only block of a page in a language.
func blockOf(t *testing.T, page, language string) string {
	t.Helper()
	text, err := os.ReadFile(page)
	require.NoError(t, err)
	list := regexp.MustCompile("(?ms)^```"+language+"\n(.*?)^```").FindAllStringSubmatch(string(text), -1)
	require.Len(t, list, 1)
	return list[0][1]
}

// TestClientsWorkAsWritten runs each program of docs/clients.md.
func TestClientsWorkAsWritten(t *testing.T) {
	const page = "../../docs/clients.md"
	dir := workspace(t)
	s := servicetest.Start(t, t.TempDir())
	env := []string{"SERVER=" + s.URL, "KEY=" + s.Key}
	write(t, dir, map[string]string{
		"card/page.html": "<html lang=en><title>Card</title><p>{{.name}}, berth {{.berth.number}}", "card/template.yaml": "title: Card\n",
		"a.py": blockOf(t, page, "python"), "a.mjs": blockOf(t, page, "js"),
	})
	bash(t, dir, "bin/olive new invoice", env...)
	for _, name := range []string{"invoice", "card"} {
		bash(t, dir, "bin/olive template push "+name+" --server $SERVER --key $KEY", env...)
	}
	lines := append(commandsOf(t, page), "python3 a.py", "node a.mjs")
	require.Len(t, lines, 5)
	for _, line := range lines {
		bash(t, dir, line, env...)
	}
	for _, name := range []string{"curl", "form", "python", "javascript"} {
		isPDF(t, filepath.Join(dir, "from-"+name+".pdf"))
	}
	list, err := s.Client.Documents(t.Context(), client.Find{})
	require.NoError(t, err)
	assert.Equal(t, 3, list.Total, "a rendering is not kept")
}

// TestSecurityNamesItsTests holds each test that docs/security.md names against those that there are.
func TestSecurityNamesItsTests(t *testing.T) {
	text, err := os.ReadFile("../../docs/security.md")
	require.NoError(t, err)
	names := regexp.MustCompile("`(Test[A-Za-z]+)`").FindAllSubmatch(text, -1)
	require.Greater(t, len(names), 20)
	var tests strings.Builder
	require.NoError(t, filepath.WalkDir("../..", func(path string, e fs.DirEntry, err error) error {
		if err == nil && e.IsDir() && e.Name() == "node_modules" {
			return filepath.SkipDir
		}
		if err == nil && strings.HasSuffix(path, "_test.go") {
			raw, err := os.ReadFile(path)
			tests.Write(raw)
			return err
		}
		return err
	}))
	for _, n := range names {
		assert.Contains(t, tests.String(), "func "+string(n[1])+"(t *testing.T)", "docs/security.md names a test that is not there")
	}
}
