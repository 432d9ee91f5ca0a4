package sign

import (
	"bytes"
	"context"
	"crypto"
	"crypto/ecdsa"
	"crypto/rand"
	"crypto/rsa"
	"crypto/sha256"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/asn1"
	"errors"
	"fmt"

	"github.com/sassoftware/relic/v8/lib/pkcs7"
	"github.com/sassoftware/relic/v8/lib/x509tools"
	"software.sslmate.com/src/go-pkcs12"
)

// Key signs, with the certificate that tells whose key it is.
type Key struct {
	signer crypto.Signer
	cert   *x509.Certificate
	chain  []*x509.Certificate // that the certificate is signed by
}

// NewKey takes a key (RSA or ECDSA) and its certificate, with those that it is signed by.
func NewKey(signer crypto.Signer, cert *x509.Certificate, chain ...*x509.Certificate) (*Key, error) {
	switch signer.Public().(type) {
	case *rsa.PublicKey, *ecdsa.PublicKey:
	default:
		return nil, fmt.Errorf("a key of the kind %T does not sign PDF files; RSA and ECDSA do", signer.Public())
	}
	if !x509tools.SameKey(signer.Public(), cert.PublicKey) {
		return nil, errors.New("the certificate is not that of the key")
	}
	return &Key{signer, cert, chain}, nil
}

// OpenKey reads a key with its certificates from a file in PKCS #12 (.p12, .pfx).
func OpenKey(data []byte, passphrase string) (*Key, error) {
	private, cert, chain, err := pkcs12.DecodeChain(data, passphrase)
	if errors.Is(err, pkcs12.ErrIncorrectPassword) {
		return nil, errors.New("the passphrase does not open the key")
	}
	if err != nil {
		return nil, fmt.Errorf("it is no key in PKCS #12: %w", err)
	}
	signer, ok := private.(crypto.Signer)
	if !ok {
		return nil, fmt.Errorf("a key of the kind %T does not sign", private)
	}
	return NewKey(signer, cert, chain...)
}

// Name is whose key it is.
func (k *Key) Name() string { return k.cert.Subject.CommonName }

// room is how many bytes a signature takes at most.
func (k *Key) room(stamped bool) int {
	n := 4096 + len(k.cert.Raw)
	for _, c := range k.chain {
		n += len(c.Raw)
	}
	if stamped {
		n += 16 << 10 // a token with the authority's certificates
	}
	return n
}

var (
	oidSigningCertificate = asn1.ObjectIdentifier{1, 2, 840, 113549, 1, 9, 16, 2, 47} // RFC 5035 §3
	oidTimeStamp          = asn1.ObjectIdentifier{1, 2, 840, 113549, 1, 9, 16, 2, 14} // RFC 3161, appendix A
)

// certificateRef names a certificate by its checksum (ESSCertIDv2, RFC 5035 §4), so that no other takes its place.
type certificateRef struct{ Hash []byte }

// cms is a signature over a SHA-256 (RFC 5652), as PAdES has it (ETSI EN 319 142-1 §6.3): the time that it claims
// stands in the PDF, not here.
func (k *Key) cms(ctx context.Context, digest []byte, stamp Stamper) ([]byte, error) {
	hash, algorithm, err := x509tools.PkixAlgorithms(k.signer.Public(), crypto.SHA256)
	if err != nil {
		return nil, err
	}
	own := sha256.Sum256(k.cert.Raw)
	info := pkcs7.SignerInfo{
		Version: 1, DigestAlgorithm: hash, DigestEncryptionAlgorithm: algorithm,
		IssuerAndSerialNumber: pkcs7.IssuerAndSerial{IssuerName: asn1.RawValue{FullBytes: k.cert.RawIssuer}, SerialNumber: k.cert.SerialNumber},
	}
	// in the order of their encoding, as DER has sets (X.690 §11.6): they have different lengths
	signed := &info.AuthenticatedAttributes
	err = errors.Join(signed.Add(pkcs7.OidAttributeContentType, pkcs7.OidData), signed.Add(pkcs7.OidAttributeMessageDigest, digest),
		signed.Add(oidSigningCertificate, struct{ List []certificateRef }{[]certificateRef{{own[:]}}}))
	if err != nil {
		return nil, err
	}
	text, err := signed.Bytes()
	if err != nil {
		return nil, err
	}
	sum := sha256.Sum256(text)
	if info.EncryptedDigest, err = k.signer.Sign(rand.Reader, sum[:], crypto.SHA256); err != nil {
		return nil, err
	}
	if stamp != nil {
		token, err := stamp(ctx, info.EncryptedDigest)
		if err != nil {
			return nil, err
		}
		if err := info.UnauthenticatedAttributes.Add(oidTimeStamp, asn1.RawValue{FullBytes: token}); err != nil {
			return nil, err
		}
	}
	content, err := pkcs7.NewContentInfo(pkcs7.OidData, nil)
	if err != nil {
		return nil, err
	}
	return (&pkcs7.ContentInfoSignedData{ContentType: pkcs7.OidSignedData, Content: pkcs7.SignedData{
		Version: 1, DigestAlgorithmIdentifiers: []pkix.AlgorithmIdentifier{hash}, ContentInfo: content,
		Certificates: k.certificates(), SignerInfos: []pkcs7.SignerInfo{info},
	}}).Marshal()
}

// certificates are those that come with a signature: all but one that signs itself, which who reads must have.
func (k *Key) certificates() (out pkcs7.RawCertificates) {
	out = append(out, asn1.RawValue{FullBytes: k.cert.Raw})
	for _, c := range k.chain {
		if !bytes.Equal(c.RawIssuer, c.RawSubject) {
			out = append(out, asn1.RawValue{FullBytes: c.Raw})
		}
	}
	return out
}
