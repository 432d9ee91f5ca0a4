package cli_test

import (
	"encoding/json"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/standin"
	"oliveledger/typeset/sign"
)

const agreement = `<!DOCTYPE html><html lang=en><title>Berth 12</title><p>The harbour lets berth 12.<div data-signature="Harbour office">for the harbour</div><div data-signature="Skipper" title="of the boat">Maren Oakley</div>`

func TestSign(t *testing.T) {
	dir := t.TempDir()
	out, errs, code := run(dir, "stand-in", "office", "--to", ".", "--name", "Harbour office", "--passphrase", "gull")
	require.Zero(t, code, errs)
	assert.Contains(t, out, "office.p12")
	write(t, dir, map[string]string{"agree.html": agreement, "passphrase": "gull\n"})
	must := func(args ...string) string {
		t.Helper()
		out, errs, code := run(dir, args...)
		require.Zero(t, code, "%v: %s", args, errs)
		return out + errs
	}
	must("render", "agree.html", "-o", "agree.pdf")
	assert.Contains(t, must("inspect", "agree.pdf"), "2 fields")

	authority, err := standin.NewTimestamps(dir)
	require.NoError(t, err)
	front := httptest.NewServer(authority)
	defer front.Close()
	assert.Contains(t, must("sign", "agree.pdf", "-o", "once.pdf", "--certificate", "office.p12", "--passphrase-file", "passphrase", "--field", "Harbour office", "--reason", "Agreed",
		"--date", "2026-05-31T09:30:00Z", "--time-stamps", front.URL, "--time-stamp-roots", standin.RootFile), "once.pdf: signed by Harbour office")
	must("sign", "once.pdf", "-o", "twice.pdf", "--certificate", "office.p12", "--passphrase-file", "passphrase", "--field", "Skipper")
	roots, err := os.ReadFile(filepath.Join(dir, standin.RootFile))
	require.NoError(t, err)
	office, err := os.ReadFile(filepath.Join(dir, "office.pem"))
	require.NoError(t, err)
	write(t, dir, map[string]string{"trust.pem": string(office) + string(roots)})

	var told struct{ Signatures []sign.Signature }
	require.NoError(t, json.Unmarshal([]byte(must("inspect", "twice.pdf", "--trust", "trust.pem", "--json")), &told))
	require.Len(t, told.Signatures, 2)
	first, second := told.Signatures[0], told.Signatures[1]
	assert.True(t, first.Holds && first.Trusted && second.Holds && second.Trusted, "%+v", told)
	assert.Equal(t, "2026-05-31T09:30:00Z", first.At)
	assert.Equal(t, "CN=Stand-in for time stamps", first.Stamp.By)
	assert.Equal(t, "it was signed again", first.Later)
	assert.Nil(t, second.Stamp)
	for _, part := range []string{"Signature  Harbour office", "reason   Agreed", "since then it was signed again", "covers   the whole file", "stamped  "} {
		assert.Contains(t, must("inspect", "twice.pdf", "--trust", "trust.pem"), part)
	}
	assert.Contains(t, must("inspect", "twice.pdf"), "trusted  no: ")

	stamped := []string{"--lasting", "--time-stamps", front.URL, "--time-stamp-roots", standin.RootFile}
	assert.Contains(t, must(append([]string{"sign", "once.pdf", "-o", "kept.pdf"}, stamped...)...), "kept.pdf: what proves its signatures was added")
	for _, part := range []string{"level    B-LTA", "since then a time stamp over all of it was added", "level    time stamp", "Signature  Signature 1"} {
		assert.Contains(t, must("inspect", "kept.pdf", "--trust", "trust.pem"), part)
	}
	must(append([]string{"sign", "agree.pdf", "-o", "both-at-once.pdf", "--certificate", "office.p12", "--passphrase-file", "passphrase"}, stamped...)...)
	assert.Contains(t, must("inspect", "both-at-once.pdf", "--trust", "trust.pem"), "level    B-LTA")

	t.Run("a changed byte is told", func(t *testing.T) {
		file, err := os.ReadFile(filepath.Join(dir, "once.pdf"))
		require.NoError(t, err)
		file[len(file)/8] ^= 1
		write(t, dir, map[string]string{"changed.pdf": string(file)})
		assert.Contains(t, must("inspect", "changed.pdf"), "NO: the file was changed after it was signed")
	})
	t.Run("a whole has no signatures of its parts", func(t *testing.T) {
		said := must("bind", "twice.pdf", "agree.pdf", "-o", "both.pdf")
		assert.Contains(t, said, "warning: twice.pdf is signed")
		assert.NotContains(t, said, "agree.pdf is signed")
		assert.Contains(t, must("inspect", "both.pdf"), "2 fields", "those of the one that is not signed")
		assert.NotContains(t, must("inspect", "both.pdf"), "Signature ")
	})
	for _, test := range []struct {
		name, says string
		args       []string
	}{
		{"lasting without stamps", "--lasting needs --time-stamps", []string{"agree.pdf", "-o", "x.pdf", "--lasting"}},
		{"nothing to last", "the file is not signed", append([]string{"agree.pdf", "-o", "x.pdf"}, stamped...)},
		{"no key", "--certificate the key that signs it", []string{"agree.pdf", "-o", "x.pdf"}},
		{"a wrong passphrase", "the passphrase does not open the key", []string{"agree.pdf", "-o", "x.pdf", "--certificate", "office.p12"}},
		{"no file", "gone.pdf cannot be read", []string{"gone.pdf", "-o", "x.pdf", "--certificate", "office.p12"}},
		{"no such field", `no such signature field as "Master"; there are Harbour office, Skipper`, []string{"agree.pdf", "-o", "x.pdf", "--certificate", "office.p12", "--passphrase-file", "passphrase", "--field", "Master"}},
		{"signed already", `"Skipper" is signed already`, []string{"twice.pdf", "-o", "x.pdf", "--certificate", "office.p12", "--passphrase-file", "passphrase", "--field", "Skipper"}},
		{"a wrong permission", `--permits is one of anything, nothing, filling, comments, not "all"`, []string{"agree.pdf", "-o", "x.pdf", "--certificate", "office.p12", "--permits", "all"}},
		{"a wrong time", `--date is a time such as`, []string{"agree.pdf", "-o", "x.pdf", "--certificate", "office.p12", "--date", "today"}},
		{"no time-stamp server", "is not the address of a time-stamp server", []string{"agree.pdf", "-o", "x.pdf", "--certificate", "office.p12", "--passphrase-file", "passphrase", "--time-stamps", "stamps"}},
	} {
		t.Run(test.name, func(t *testing.T) {
			_, errs, code := run(dir, append([]string{"sign"}, test.args...)...)
			assert.Equal(t, 2, code)
			assert.Contains(t, errs, test.says)
			assert.NoFileExists(t, filepath.Join(dir, "x.pdf"))
		})
	}
}

// TestSignByProgram leaves the key with a program.
func TestSignByProgram(t *testing.T) {
	dir := t.TempDir()
	_, errs, code := run(dir, "stand-in", "office", "--to", ".", "--name", "Harbour office", "--passphrase", "gull")
	require.Zero(t, code, errs)
	c := exec.Command("openssl", "pkcs12", "-in", "office.p12", "-passin", "pass:gull", "-nodes", "-nocerts", "-out", "key.pem")
	c.Dir = dir
	told, err := c.CombinedOutput()
	require.NoError(t, err, string(told))
	write(t, dir, map[string]string{"agree.html": agreement})
	_, errs, code = run(dir, "render", "agree.html", "-o", "agree.pdf")
	require.Zero(t, code, errs)
	out, errs, code := run(dir, "sign", "agree.pdf", "-o", "signed.pdf", "--certificate", "office.pem", "--key-program", "openssl pkeyutl -sign -inkey key.pem")
	require.Zero(t, code, errs)
	assert.Contains(t, out, "signed by Harbour office")
	out, errs, code = run(dir, "inspect", "signed.pdf", "--trust", "office.pem")
	require.Zero(t, code, errs)
	assert.Contains(t, out, "trusted  yes")
	_, errs, code = run(dir, "sign", "agree.pdf", "-o", "x.pdf", "--certificate", "office.pem", "--key-program", "false")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "agree.pdf: false did not sign")
	_, errs, code = run(dir, "sign", "agree.pdf", "-o", "x.pdf", "--certificate", "office.p12", "--key-program", "false")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "certificate in PEM")
}
