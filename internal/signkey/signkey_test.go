package signkey

import (
	"bytes"
	"crypto/rand"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"math/big"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset"
	"oliveledger/typeset/sign"
)

// module stands in for a security module.
const module = "/usr/lib/softhsm/libsofthsm2.so"

// token makes a security module with a key of a type, and gives the command that signs with it and the file of its
// certificate.
func token(t *testing.T, keyType, mechanism string) (program, certificate string) {
	t.Helper()
	dir := t.TempDir()
	require.NoError(t, os.Mkdir(filepath.Join(dir, "tokens"), 0o700))
	conf := filepath.Join(dir, "softhsm.conf")
	require.NoError(t, os.WriteFile(conf, []byte("directories.tokendir = "+filepath.Join(dir, "tokens")+"\n"), 0o600))
	t.Setenv("SOFTHSM2_CONF", conf)
	t.Setenv("HARBOUR_PIN", "1234")
	command := func(name string, args ...string) {
		t.Helper()
		out, err := exec.Command(name, args...).CombinedOutput()
		require.NoError(t, err, "scripts/install.sh test installs it: %s", out)
	}
	command("softhsm2-util", "--init-token", "--free", "--label", "harbour", "--pin", "1234", "--so-pin", "5678")
	command("pkcs11-tool", "--module", module, "--login", "--pin", "1234", "--keypairgen", "--key-type", keyType, "--id", "01", "--label", "office")
	spki := filepath.Join(dir, "public.der")
	command("pkcs11-tool", "--module", module, "--read-object", "--type", "pubkey", "--id", "01", "--output-file", spki)
	raw, err := os.ReadFile(spki)
	require.NoError(t, err)
	public, err := x509.ParsePKIXPublicKey(raw)
	require.NoError(t, err)
	program = "pkcs11-tool --module " + module + " --sign --mechanism " + mechanism + " --id 01 --login --pin env:HARBOUR_PIN"

	template := &x509.Certificate{SerialNumber: big.NewInt(1), Subject: pkix.Name{CommonName: "Harbour office"}, NotBefore: time.Now().Add(-time.Hour), NotAfter: time.Now().Add(time.Hour), KeyUsage: x509.KeyUsageDigitalSignature, BasicConstraintsValid: true, IsCA: true}
	der, err := x509.CreateCertificate(rand.Reader, template, template, public, &device{strings.Fields(program), public})
	require.NoError(t, err)
	certificate = filepath.Join(dir, "office.pem")
	require.NoError(t, os.WriteFile(certificate, pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der}), 0o600))
	return program, certificate
}

func agreement(t *testing.T) []byte {
	t.Helper()
	var b bytes.Buffer
	_, err := typeset.Set(t.Context(), []byte("<p>The harbour lets berth 12."), typeset.Options{}, &b)
	require.NoError(t, err)
	return b.Bytes()
}

func TestKeysInADevice(t *testing.T) {
	for _, c := range []struct{ name, keyType, mechanism string }{
		{"RSA", "rsa:2048", "RSA-PKCS"},
		{"on a curve", "EC:prime256v1", "ECDSA"},
	} {
		t.Run(c.name, func(t *testing.T) {
			program, certificate := token(t, c.keyType, c.mechanism)
			key, err := Open(certificate, "", program)
			require.NoError(t, err)
			assert.Equal(t, "Harbour office", key.Name())
			signed, err := sign.Sign(t.Context(), agreement(t), key, sign.Options{At: time.Now()})
			require.NoError(t, err)
			pool := x509.NewCertPool()
			raw, err := os.ReadFile(certificate)
			require.NoError(t, err)
			require.True(t, pool.AppendCertsFromPEM(raw))
			list, err := sign.Signatures(signed, "", sign.Trust{Roots: pool})
			require.NoError(t, err)
			require.Len(t, list, 1)
			assert.True(t, list[0].Holds && list[0].Trusted, "%+v", list[0])
		})
	}
}

func TestDevicesThatDoNotSign(t *testing.T) {
	_, certificate := token(t, "EC:prime256v1", "ECDSA")
	for _, c := range []struct{ name, program, says string }{
		{"one that is not there", "no-such-program", "no-such-program did not sign"},
		{"one that fails", "cat /no/such/file", "No such file"},
		{"one that signs with another key, or not at all", "cat", "no signature of the certificate's key"},
		{"one that says nothing", "true", "no signature of the certificate's key"},
	} {
		t.Run(c.name, func(t *testing.T) {
			key, err := Open(certificate, "", c.program)
			require.NoError(t, err)
			_, err = sign.Sign(t.Context(), agreement(t), key, sign.Options{At: time.Now()})
			require.ErrorContains(t, err, c.says)
		})
	}
}

func TestFilesThatHoldNoKey(t *testing.T) {
	dir := t.TempDir()
	file := filepath.Join(dir, "x.pem")
	_, err := Open(file, "", "")
	require.ErrorContains(t, err, "cannot be read")
	require.NoError(t, os.WriteFile(file, []byte("nothing"), 0o600))
	_, err = Open(file, "", "")
	require.ErrorContains(t, err, "no key in PKCS #12")
	_, err = Open(file, "", "true")
	require.ErrorContains(t, err, "holds no certificate")
	require.NoError(t, os.WriteFile(file, pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: []byte("x")}), 0o600))
	_, err = Open(file, "", "true")
	require.Error(t, err)
}
