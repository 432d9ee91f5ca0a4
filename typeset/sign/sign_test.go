package sign_test

import (
	"bytes"
	"context"
	"crypto"
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/rsa"
	"crypto/sha256"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/hex"
	"encoding/pem"
	"errors"
	"math/big"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"software.sslmate.com/src/go-pkcs12"

	"oliveledger/typeset"
	"oliveledger/typeset/sign"
)

// office is a key with a certificate, and the authority that has signed that.
type office struct {
	key    *sign.Key
	p12    []byte
	signer crypto.Signer
	root   *x509.Certificate
	roots  *x509.CertPool
}

func newOffice(t *testing.T, key crypto.Signer) *office {
	t.Helper()
	now := time.Now()
	rootKey, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	require.NoError(t, err)
	certify := func(name string, public crypto.PublicKey, by *x509.Certificate, ca bool) *x509.Certificate {
		c := &x509.Certificate{
			SerialNumber: big.NewInt(now.UnixNano()), Subject: pkix.Name{CommonName: name, Organization: []string{"Quay & Lantern Harbour"}},
			NotBefore: now.Add(-time.Hour), NotAfter: now.AddDate(1, 0, 0), KeyUsage: x509.KeyUsageDigitalSignature, BasicConstraintsValid: true, IsCA: ca,
		}
		if ca {
			c.KeyUsage = x509.KeyUsageCertSign
		}
		if by == nil {
			by = c
		}
		der, err := x509.CreateCertificate(rand.Reader, c, by, public, rootKey)
		require.NoError(t, err)
		out, err := x509.ParseCertificate(der)
		require.NoError(t, err)
		return out
	}
	root := certify("Harbour root", rootKey.Public(), nil, true)
	cert := certify("Harbour office", key.Public(), root, false)
	p12, err := pkcs12.Modern.Encode(key, cert, []*x509.Certificate{root}, "gull")
	require.NoError(t, err)
	out := &office{p12: p12, signer: key, root: root, roots: x509.NewCertPool()}
	out.roots.AddCert(root)
	out.key, err = sign.OpenKey(p12, "gull")
	require.NoError(t, err)
	return out
}

func rsaKey(t *testing.T) crypto.Signer {
	t.Helper()
	key, err := rsa.GenerateKey(rand.Reader, 2048)
	require.NoError(t, err)
	return key
}

func page(t *testing.T, o typeset.Options) []byte {
	t.Helper()
	var b bytes.Buffer
	_, err := typeset.Set(context.Background(), []byte(`<!DOCTYPE html><html lang="en"><title>Berth 12</title><h1>Berth 12</h1><p>for the season<p style="break-before: page">and a second page`), o, &b)
	require.NoError(t, err)
	return b.Bytes()
}

var may = time.Date(2026, 5, 31, 9, 30, 0, 0, time.UTC)

func signed(t *testing.T, file []byte, k *office, o sign.Options) []byte {
	t.Helper()
	out, err := sign.Sign(context.Background(), file, k.key, o)
	require.NoError(t, err)
	require.True(t, bytes.HasPrefix(out, file), "what is signed stays as it was")
	return out
}

func signatures(t *testing.T, file []byte, k *office) []sign.Signature {
	t.Helper()
	list, err := sign.Signatures(file, "", sign.Trust{Roots: k.roots})
	require.NoError(t, err)
	return list
}

func TestSign(t *testing.T) {
	ec, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	require.NoError(t, err)
	for name, key := range map[string]crypto.Signer{"RSA": rsaKey(t), "ECDSA": ec} {
		t.Run(name, func(t *testing.T) {
			k := newOffice(t, key)
			file := page(t, typeset.Options{})
			out := signed(t, file, k, sign.Options{At: may, Reason: "Approved", Place: "Tidewell"})
			list := signatures(t, out, k)
			require.Len(t, list, 1)
			assert.Equal(t, sign.Signature{
				Field: "Signature 1", Signer: "CN=Harbour office,O=Quay & Lantern Harbour", Issuer: "CN=Harbour root,O=Quay & Lantern Harbour", Reason: "Approved", Place: "Tidewell",
				At: "2026-05-31T09:30:00Z", Holds: true, Trusted: true, Covers: len(out), Level: sign.Basic,
			}, list[0])
			assert.Empty(t, signatures(t, file, k))
			withOthers(t, out, k)
		})
	}
}

// withOthers asks other programs whether a signature holds: poppler's and OpenSSL.
func withOthers(t *testing.T, out []byte, k *office) {
	t.Helper()
	dir := t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	m := regexp.MustCompile(`/ByteRange\[0 (\d+) (\d+) (\d+)\]`).FindSubmatch(out)
	require.NotNil(t, m)
	n := [3]int{}
	for i := range n {
		n[i], _ = strconv.Atoi(string(m[i+1]))
	}
	cms := make([]byte, (n[1]-n[0]-2)/2)
	_, err := hex.Decode(cms, out[n[0]+1:n[1]-1])
	require.NoError(t, err)
	for name, content := range map[string][]byte{
		"a.pdf": out, "content": append(append([]byte{}, out[:n[0]]...), out[n[1]:n[1]+n[2]]...), "cms": cms, "root.pem": pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: k.root.Raw}),
	} {
		require.NoError(t, os.WriteFile(at(name), content, 0o600))
	}
	said, err := exec.Command("openssl", "cms", "-verify", "-cades", "-binary", "-inform", "DER", "-in", at("cms"), "-content", at("content"), "-CAfile", at("root.pem"), "-purpose", "any", "-out", os.DevNull).CombinedOutput()
	assert.NoError(t, err, string(said))
	pdfsig := exec.Command("pdfsig", at("a.pdf"))
	pdfsig.Env = append(os.Environ(), "HOME="+dir)
	said, err = pdfsig.CombinedOutput()
	require.NotContains(t, string(said), "command not found", "%v", err)
	assert.Contains(t, string(said), "Signature is Valid")
	assert.Contains(t, string(said), "Total document signed")
	assert.Contains(t, string(said), "ETSI.CAdES.detached")
}

// TestChangedBytes changes a byte here and there: no signature holds that was over it.
func TestChangedBytes(t *testing.T) {
	k := newOffice(t, rsaKey(t))
	out := signed(t, page(t, typeset.Options{}), k, sign.Options{At: may})
	begin := bytes.Index(out, []byte("/Contents<")) + len("/Contents<")
	end := begin + bytes.IndexByte(out[begin:], '>')
	for i := 20; i < len(out); i += 13 {
		changed := bytes.Clone(out)
		changed[i] ^= 4
		list, err := sign.Signatures(changed, "", sign.Trust{Roots: k.roots})
		if err != nil || len(list) == 0 {
			continue // it is no file any more, or has no signature
		}
		if i >= begin && i < end {
			continue // the signature itself, and the room behind it
		}
		assert.False(t, list[0].Holds, "byte %d: %+v", i, list[0])
	}
}

// TestSeveral has another office sign what the first has signed.
func TestSeveral(t *testing.T) {
	first, second := newOffice(t, rsaKey(t)), newOffice(t, rsaKey(t))
	file := page(t, typeset.Options{})
	once := signed(t, file, first, sign.Options{At: may, Permission: sign.Fill})
	twice := signed(t, once, second, sign.Options{At: may.Add(time.Hour)})
	list := signatures(t, twice, first)
	require.Len(t, list, 2)
	assert.True(t, list[0].Holds, list[0].Fault)
	assert.Equal(t, len(once), list[0].Covers)
	assert.Equal(t, "it was signed again", list[0].Later)
	assert.True(t, list[1].Holds)
	assert.Equal(t, "Signature 2", list[1].Field)
	assert.Empty(t, list[1].Later)
	assert.False(t, list[1].Trusted, "the second has another authority")
	assert.Contains(t, list[1].Doubt, "unknown authority")
	_, err := sign.Sign(context.Background(), once, second.key, sign.Options{Permission: sign.Nothing})
	assert.ErrorContains(t, err, "only its first signature can certify it")
}

// TestLater appends to a file that was signed.
func TestLater(t *testing.T) {
	k := newOffice(t, rsaKey(t))
	file := page(t, typeset.Options{})
	for _, test := range []struct {
		name       string
		permission sign.Permission
		add        func(file string) string // objects, of the file
		holds      bool
		says       string
	}{
		{"nothing that is seen", sign.Nothing, func(string) string { return "9000 0 obj\n<</Unused true>>\nendobj\n" }, true, "not seen"},
		{"a page with other contents", sign.Approve, func(file string) string { return signedPage(t, file, "/Contents ", "/Contents 9000 0 R/Was ") }, false, "was changed after it was signed"},
		{"an annotation", sign.Approve, func(file string) string { return signedPage(t, file, "/Annots [", "/Annots [9000 0 R ") }, true, "may hide what was signed"},
		{"an annotation where none may be", sign.Fill, func(file string) string { return signedPage(t, file, "/Annots [", "/Annots [9000 0 R ") }, false, "annotations were added"},
	} {
		t.Run(test.name, func(t *testing.T) {
			out := string(signed(t, file, k, sign.Options{At: may, Permission: test.permission}))
			list := signatures(t, []byte(appended(t, out, test.add(out))), k)
			require.Len(t, list, 1)
			assert.Equal(t, test.holds, list[0].Holds, list[0].Fault)
			assert.Contains(t, list[0].Later+list[0].Fault, test.says)
		})
	}
}

func TestStamped(t *testing.T) {
	k := newOffice(t, rsaKey(t))
	var over []byte
	o := sign.Options{At: may, Stamp: func(_ context.Context, data []byte) ([]byte, error) {
		over = data
		return []byte{0x30, 3, 2, 1, 7}, nil
	}}
	out := signed(t, page(t, typeset.Options{}), k, o)
	trust := sign.Trust{Roots: k.roots, Stamp: func(token, data []byte) (time.Time, string, error) {
		assert.Equal(t, []byte{0x30, 3, 2, 1, 7}, token)
		assert.Equal(t, over, data, "it is over the signature's value")
		return time.Now(), "an authority", nil
	}}
	list, err := sign.Signatures(out, "", trust)
	require.NoError(t, err)
	require.NotNil(t, list[0].Stamp)
	assert.Equal(t, "an authority", list[0].Stamp.By)
	assert.True(t, list[0].Trusted)

	trust.Stamp = func(_, _ []byte) (time.Time, string, error) {
		return time.Time{}, "", errors.New("over something else")
	}
	list, err = sign.Signatures(out, "", trust)
	require.NoError(t, err)
	assert.False(t, list[0].Trusted)
	assert.Equal(t, "over something else", list[0].Doubt)

	o.Stamp = func(context.Context, []byte) ([]byte, error) { return nil, errors.New("the server sleeps") }
	_, err = sign.Sign(context.Background(), page(t, typeset.Options{}), k.key, o)
	assert.ErrorContains(t, err, "the server sleeps")
}

func TestOpenKey(t *testing.T) {
	k := newOffice(t, rsaKey(t))
	_, err := sign.OpenKey(k.p12, "tern")
	assert.EqualError(t, err, "the passphrase does not open the key")
	_, err = sign.OpenKey([]byte("no key"), "")
	assert.ErrorContains(t, err, "it is no key in PKCS #12")
	_, err = sign.NewKey(rsaKey(t), k.root)
	assert.EqualError(t, err, "the certificate is not that of the key")
	assert.Equal(t, "Harbour office", k.key.Name())
	digest := sha256.Sum256(nil)
	_, err = k.signer.Sign(rand.Reader, digest[:], crypto.SHA256)
	require.NoError(t, err)
}

func TestCannotSign(t *testing.T) {
	k := newOffice(t, rsaKey(t))
	file := page(t, typeset.Options{})
	for _, test := range []struct {
		name string
		file []byte
		o    sign.Options
		says string
	}{
		{"no PDF", []byte("hello"), sign.Options{}, "it is no PDF file"},
		{"damaged", []byte(strings.Replace(string(file), "startxref", "startxxxx", 1)), sign.Options{}, "damaged"},
		{"protected", page(t, typeset.Options{Protect: &typeset.Protection{Owner: "gull"}}), sign.Options{}, "protected by a password"},
		{"no field of that name", file, sign.Options{Field: "Master"}, "the file has none that is free"},
	} {
		t.Run(test.name, func(t *testing.T) {
			_, err := sign.Sign(context.Background(), test.file, k.key, test.o)
			assert.ErrorContains(t, err, test.says)
		})
	}
}

// FuzzSignatures reads files that were damaged, or made to do harm: none is more than an error, or a signature that
// does not hold.
func FuzzSignatures(f *testing.F) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	require.NoError(f, err)
	now := time.Now()
	c := &x509.Certificate{SerialNumber: big.NewInt(1), Subject: pkix.Name{CommonName: "Harbour office"}, NotBefore: now.Add(-time.Hour), NotAfter: now.Add(time.Hour)}
	der, err := x509.CreateCertificate(rand.Reader, c, c, key.Public(), key)
	require.NoError(f, err)
	cert, err := x509.ParseCertificate(der)
	require.NoError(f, err)
	k, err := sign.NewKey(key, cert)
	require.NoError(f, err)
	var file bytes.Buffer
	_, err = typeset.Set(context.Background(), []byte(`<html lang="en"><title>a</title><p data-signature="here">a`), typeset.Options{}, &file)
	require.NoError(f, err)
	once, err := sign.Sign(context.Background(), file.Bytes(), k, sign.Options{Field: "here"})
	require.NoError(f, err)
	twice, err := sign.Sign(context.Background(), once, k, sign.Options{})
	require.NoError(f, err)
	f.Add(twice, uint16(0), byte(0))
	f.Add(once, uint16(len(once)/2), byte('9'))
	f.Fuzz(func(t *testing.T, data []byte, at uint16, with byte) {
		data = bytes.Clone(data)
		if int(at) < len(data) {
			data[at] = with
		}
		list, err := sign.Signatures(data, "", sign.Trust{Roots: x509.NewCertPool()})
		if err != nil {
			return
		}
		for _, s := range list {
			require.False(t, s.Trusted, "nobody is believed here")
			require.True(t, s.Holds || s.Fault != "", "%+v", s)
			require.LessOrEqual(t, s.Covers, len(data))
		}
		_, _ = sign.Sign(context.Background(), data, k, sign.Options{}) // or why not
	})
}

// TestFilesOfOthers signs files with a cross-reference table, compressed by someone else, or for fast web view.
func TestFilesOfOthers(t *testing.T) {
	k := newOffice(t, rsaKey(t))
	dir := t.TempDir()
	ours := filepath.Join(dir, "ours.pdf")
	require.NoError(t, os.WriteFile(ours, page(t, typeset.Options{}), 0o600))
	for name, options := range map[string][]string{
		"a table": {"--object-streams=disable"}, "object streams": {"--object-streams=generate"}, "linearized": {"--linearize"}, "a table, linearized": {"--object-streams=disable", "--linearize"},
	} {
		t.Run(name, func(t *testing.T) {
			theirs := filepath.Join(t.TempDir(), "theirs.pdf")
			said, err := exec.Command("qpdf", append(options, ours, theirs)...).CombinedOutput()
			require.NoError(t, err, string(said))
			file, err := os.ReadFile(theirs)
			require.NoError(t, err)
			once := signed(t, file, k, sign.Options{At: may, Permission: sign.Fill})
			twice := signed(t, once, k, sign.Options{At: may})
			list := signatures(t, twice, k)
			require.Len(t, list, 2)
			for _, s := range list {
				assert.True(t, s.Holds && s.Trusted, "%+v", s)
			}
			assert.Equal(t, "it was signed again", list[0].Later)
			withOthers(t, once, k)
			require.NoError(t, os.WriteFile(theirs, twice, 0o600))
			said, err = exec.Command("qpdf", "--check", theirs).CombinedOutput()
			assert.NoError(t, err, string(said))
		})
	}
}
