package service

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"log/slog"
	"math/big"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// writeCertificate makes a certificate of our own for a name.
func writeCertificate(t *testing.T, dir, name string) (file, key string) {
	t.Helper()
	private, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	require.NoError(t, err)
	c := &x509.Certificate{SerialNumber: big.NewInt(1), Subject: pkix.Name{CommonName: name}, NotAfter: time.Now().Add(time.Hour)}
	der, err := x509.CreateCertificate(rand.Reader, c, c, &private.PublicKey, private)
	require.NoError(t, err)
	raw, err := x509.MarshalECPrivateKey(private)
	require.NoError(t, err)
	file, key = filepath.Join(dir, "c.pem"), filepath.Join(dir, "k.pem")
	require.NoError(t, os.WriteFile(file, pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der}), 0o600))
	require.NoError(t, os.WriteFile(key, pem.EncodeToMemory(&pem.Block{Type: "EC PRIVATE KEY", Bytes: raw}), 0o600))
	return file, key
}

// TestCertificateIsRenewed replaces a certificate under a service that goes on.
func TestCertificateIsRenewed(t *testing.T) {
	dir := t.TempDir()
	file, key := writeCertificate(t, dir, "old")
	c, err := openCertificate(file, key, slog.New(slog.DiscardHandler))
	require.NoError(t, err)
	shown := func() string {
		c.looked = time.Now().Add(-2 * glance)
		pair, err := c.get(nil)
		require.NoError(t, err)
		x, err := x509.ParseCertificate(pair.Certificate[0])
		require.NoError(t, err)
		return x.Subject.CommonName
	}
	assert.Equal(t, "old", shown())
	later := time.Now().Add(time.Minute)
	require.NoError(t, os.WriteFile(file, []byte("half of it"), 0o600))
	require.NoError(t, os.Chtimes(file, later, later))
	assert.Equal(t, "old", shown(), "what cannot be read changes nothing")
	writeCertificate(t, dir, "new")
	require.NoError(t, os.Chtimes(file, later.Add(time.Second), later.Add(time.Second)))
	assert.Equal(t, "new", shown())
	_, err = openCertificate(filepath.Join(dir, "none"), key, nil)
	assert.ErrorContains(t, err, "cannot be read")
}
