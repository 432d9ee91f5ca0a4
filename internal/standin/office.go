package standin

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"math/big"
	"os"
	"path/filepath"
	"time"

	"software.sslmate.com/src/go-pkcs12"
)

// Files of an office, in its folder.
const (
	OfficeKey         = "office.p12" // key and certificate
	OfficeCertificate = "office.pem" // to be trusted
)

// Office writes a key that signs documents, with a certificate of its own making, into a folder. Nobody else trusts it.
func Office(folder, name, passphrase string) (*x509.Certificate, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, err
	}
	now := time.Now()
	template := &x509.Certificate{
		SerialNumber: big.NewInt(now.UnixNano()), Subject: pkix.Name{CommonName: name},
		NotBefore: now.Add(-time.Hour), NotAfter: now.AddDate(1, 0, 0), KeyUsage: x509.KeyUsageDigitalSignature,
	}
	der, err := x509.CreateCertificate(rand.Reader, template, template, key.Public(), key)
	if err != nil {
		return nil, err
	}
	cert, err := x509.ParseCertificate(der)
	if err != nil {
		return nil, err
	}
	p12, err := pkcs12.Modern.Encode(key, cert, nil, passphrase)
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return nil, err
	}
	if err := os.WriteFile(filepath.Join(folder, OfficeKey), p12, 0o600); err != nil {
		return nil, err
	}
	return cert, os.WriteFile(filepath.Join(folder, OfficeCertificate), pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der}), 0o644)
}
