package standin

import (
	"crypto"
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/asn1"
	"encoding/pem"
	"io"
	"math/big"
	"net/http"
	"os"
	"path/filepath"
	"time"

	"github.com/digitorus/timestamp"
)

// Timestamps is an authority that confirms times (RFC 3161), with a certificate of its own making.
type Timestamps struct {
	Now  func() time.Time // what it says that the time is
	cert *x509.Certificate
	key  crypto.Signer
}

// RootFile holds, in the folder of an authority, the certificate to be trusted.
const RootFile = "authority.pem"

// policy is that under which the stamps are given; 2.999 is free for examples (ITU-T X.660).
var policy = asn1.ObjectIdentifier{2, 999, 1}

// NewTimestamps makes an authority, and writes its certificate into a folder.
func NewTimestamps(folder string) (*Timestamps, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, err
	}
	now := time.Now()
	usage, err := asn1.Marshal([]asn1.ObjectIdentifier{{1, 3, 6, 1, 5, 5, 7, 3, 8}}) // timeStamping, the only one and critical (RFC 3161 §2.3)
	if err != nil {
		return nil, err
	}
	template := &x509.Certificate{
		SerialNumber: big.NewInt(now.UnixNano()), Subject: pkix.Name{CommonName: "Stand-in for time stamps"},
		NotBefore: now.AddDate(-1, 0, 0), NotAfter: now.AddDate(10, 0, 0), KeyUsage: x509.KeyUsageDigitalSignature,
		ExtraExtensions: []pkix.Extension{{Id: asn1.ObjectIdentifier{2, 5, 29, 37}, Critical: true, Value: usage}},
	}
	der, err := x509.CreateCertificate(rand.Reader, template, template, key.Public(), key)
	if err != nil {
		return nil, err
	}
	cert, err := x509.ParseCertificate(der)
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return nil, err
	}
	text := pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der})
	return &Timestamps{Now: time.Now, cert: cert, key: key}, os.WriteFile(filepath.Join(folder, RootFile), text, 0o644)
}

func (t *Timestamps) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	body, err := io.ReadAll(http.MaxBytesReader(w, r.Body, 64<<10))
	if err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	asked, err := timestamp.ParseRequest(body)
	if err != nil {
		http.Error(w, "this is no request for a time stamp: "+err.Error(), http.StatusBadRequest)
		return
	}
	stamp := timestamp.Timestamp{
		HashAlgorithm: asked.HashAlgorithm, HashedMessage: asked.HashedMessage, Nonce: asked.Nonce, Time: t.Now(),
		Policy: policy, AddTSACertificate: asked.Certificates,
	}
	answer, err := stamp.CreateResponseWithOpts(t.cert, t.key, crypto.SHA256)
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	w.Header().Set("Content-Type", "application/timestamp-reply")
	_, _ = w.Write(answer) // a caller that has gone needs none
}
