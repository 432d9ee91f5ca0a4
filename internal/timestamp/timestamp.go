// Package timestamp asks authorities to confirm when something was there, and reads what they answer (RFC 3161).
package timestamp

import (
	"bytes"
	"context"
	"crypto"
	"crypto/rand"
	"crypto/sha256"
	"crypto/x509"
	"errors"
	"fmt"
	"math/big"
	"os"
	"time"

	"github.com/digitorus/pkcs7"
	"github.com/digitorus/timestamp"
)

// Authority is a server that gives out time stamps.
type Authority struct {
	address string
	roots   *x509.CertPool
}

// Token is what an authority says: data was there at a time.
type Token struct {
	Raw []byte // DER
	At  time.Time
	By  string // the subject of the authority's certificate
}

// Most of an answer is certificates.
const (
	maxAnswer = 1 << 20 // bytes
)

// Open takes an authority's address, and a file of the certificates (PEM) that its own is signed by; an empty name
// stands for those that this machine trusts.
func Open(address, rootsFile string) (*Authority, error) {
	if !onTheWeb(address) {
		return nil, fmt.Errorf("%q is not the address of a time-stamp server, which begins with https:// or http://", address)
	}
	roots, err := Roots(rootsFile)
	return &Authority{address, roots}, err
}

// Roots reads the certificates that are trusted from a file (PEM); an empty name stands for those that this machine trusts.
func Roots(file string) (*x509.CertPool, error) {
	if file == "" {
		roots, err := x509.SystemCertPool()
		if err != nil {
			return nil, fmt.Errorf("this machine trusts no certificates: %w", err)
		}
		return roots, nil
	}
	raw, err := os.ReadFile(file)
	if err != nil {
		return nil, fmt.Errorf("the certificates that are trusted cannot be read: %w", err)
	}
	roots := x509.NewCertPool()
	if !roots.AppendCertsFromPEM(raw) {
		return nil, fmt.Errorf("%s holds no certificate in PEM", file)
	}
	return roots, nil
}

// Ask sends the checksum of data to the authority, and gives its token when that holds.
func (a *Authority) Ask(ctx context.Context, data []byte) (Token, error) {
	nonce, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 63))
	if err != nil {
		return Token{}, err
	}
	body, err := timestamp.CreateRequest(bytes.NewReader(data), &timestamp.RequestOptions{Hash: crypto.SHA256, Certificates: true, Nonce: nonce})
	if err != nil {
		return Token{}, err
	}
	answer, err := ask(ctx, a.address, "application/timestamp-query", body, maxAnswer) // RFC 3161 §3.4
	if err != nil {
		return Token{}, fmt.Errorf("the time-stamp server %s: %w", a.address, err)
	}
	stamp, err := timestamp.ParseResponse(answer)
	if err != nil {
		return Token{}, fmt.Errorf("the time-stamp server %s gave no token: %w", a.address, err)
	}
	if stamp.Nonce == nil || stamp.Nonce.Cmp(nonce) != 0 {
		return Token{}, fmt.Errorf("the time-stamp server %s answers to another request than ours", a.address)
	}
	return a.Read(stamp.RawToken, data)
}

// Stamp is Ask for those who keep only the token, as signatures do.
func (a *Authority) Stamp(ctx context.Context, data []byte) ([]byte, error) {
	t, err := a.Ask(ctx, data)
	return t.Raw, err
}

// Read checks a token: that it is over the data, and that an authority which we trust has signed it.
func (a *Authority) Read(raw, data []byte) (Token, error) { return Read(raw, data, a.roots) }

// Read checks a token: that it is over the data, and that an authority whose certificate leads to one of the roots has
// signed it.
func Read(raw, data []byte, roots *x509.CertPool) (Token, error) {
	stamp, err := timestamp.Parse(raw)
	if err != nil {
		return Token{}, fmt.Errorf("the time stamp does not hold: %w", err)
	}
	if stamp.HashAlgorithm != crypto.SHA256 {
		return Token{}, fmt.Errorf("the time stamp is made with %v and not SHA-256", stamp.HashAlgorithm)
	}
	if sum := sha256.Sum256(data); !bytes.Equal(sum[:], stamp.HashedMessage) {
		return Token{}, errors.New("the time stamp is over something else")
	}
	signed, err := pkcs7.Parse(raw)
	if err != nil {
		return Token{}, err
	}
	chain := x509.NewCertPool()
	for _, c := range signed.Certificates {
		chain.AddCert(c)
	}
	err = signed.VerifyWithOpts(x509.VerifyOptions{Roots: roots, Intermediates: chain, CurrentTime: stamp.Time, KeyUsages: []x509.ExtKeyUsage{x509.ExtKeyUsageTimeStamping}})
	if err != nil {
		return Token{}, fmt.Errorf("the time stamp is not from an authority that is trusted: %w", err)
	}
	by := signed.GetOnlySigner()
	if by == nil {
		return Token{}, errors.New("the time stamp has several signers")
	}
	return Token{Raw: raw, At: stamp.Time.UTC(), By: by.Subject.String()}, nil
}
