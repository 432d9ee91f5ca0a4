package sign

import (
	"bytes"
	"crypto/x509"
	"errors"
	"fmt"
	"slices"
	"time"

	"golang.org/x/crypto/ocsp"

	"oliveledger/typeset/internal/pdfread"
)

// evidence is what a file keeps to prove its signatures years later, when authorities answer no more: certificates, and
// what was told of those that were revoked (the document security store, ISO 32000-2 §12.8.4.3).
type evidence struct {
	certs []*x509.Certificate
	lists []*x509.RevocationList
	told  []*ocsp.Response
	raw   map[pdfread.Name][][]byte // all of it, by the entry that it stands under
}

// Entries of the store.
const (
	certsEntry = pdfread.Name("Certs")
	listsEntry = pdfread.Name("CRLs")
	toldEntry  = pdfread.Name("OCSPs")
)

var entries = []pdfread.Name{certsEntry, listsEntry, toldEntry}

// evidenceOf reads what a file keeps. What cannot be read proves nothing, and is left out.
func evidenceOf(f *pdfread.File) *evidence {
	e := &evidence{raw: map[pdfread.Name][][]byte{}}
	store := f.Dict(f.Dict(f.Trailer["Root"])["DSS"])
	for _, entry := range entries {
		list, _ := f.Resolve(store[entry]).(pdfread.Array)
		for _, o := range list {
			if s, ok := f.Resolve(o).(*pdfread.Stream); ok {
				if data, err := f.Decode(s); err == nil {
					_ = e.add(entry, data)
				}
			}
		}
	}
	return e
}

// add takes a certificate, a list or an answer (DER), once.
func (e *evidence) add(entry pdfread.Name, der []byte) error {
	for _, known := range e.raw[entry] {
		if bytes.Equal(known, der) {
			return nil
		}
	}
	switch entry {
	case certsEntry:
		c, err := x509.ParseCertificate(der)
		if err != nil {
			return err
		}
		e.certs = append(e.certs, c)
	case listsEntry:
		l, err := x509.ParseRevocationList(der)
		if err != nil {
			return err
		}
		e.lists = append(e.lists, l)
	case toldEntry:
		r, err := ocsp.ParseResponse(der, nil)
		if err != nil {
			return err
		}
		e.told = append(e.told, r)
	}
	e.raw[entry] = append(e.raw[entry], der)
	return nil
}

// issuer finds who has signed a certificate; nil for one that nobody here has.
func (e *evidence) issuer(c *x509.Certificate) *x509.Certificate {
	for _, by := range e.certs {
		if bytes.Equal(by.RawSubject, c.RawIssuer) && c.CheckSignatureFrom(by) == nil {
			return by
		}
	}
	return nil
}

var errEndless = errors.New("the chain of certificates has no end")

// anchor tells whether a certificate signs itself: it is trusted or not, and nobody revokes it.
func anchor(c *x509.Certificate) bool { return bytes.Equal(c.RawIssuer, c.RawSubject) }

// revoked tells what is known of a certificate: whether anything is, and when it was revoked; zero for never.
func (e *evidence) revoked(c *x509.Certificate) (at time.Time, known bool) {
	by := e.issuer(c)
	if by == nil {
		return at, false
	}
	for _, l := range e.lists {
		if !bytes.Equal(l.RawIssuer, c.RawIssuer) || l.CheckSignatureFrom(by) != nil {
			continue
		}
		known = true
		for _, r := range l.RevokedCertificateEntries {
			if r.SerialNumber.Cmp(c.SerialNumber) == 0 {
				return r.RevocationTime, true
			}
		}
	}
	for _, r := range e.told {
		if r.SerialNumber.Cmp(c.SerialNumber) != 0 || answered(r, by) != nil {
			continue
		}
		known = true
		if r.Status == ocsp.Revoked {
			return r.RevokedAt, true
		}
	}
	return at, known
}

// answered checks that an answer comes from the issuer of a certificate, or from one that it has named for that.
func answered(r *ocsp.Response, by *x509.Certificate) error {
	if r.Certificate == nil {
		return r.CheckSignatureFrom(by)
	}
	if !slices.Contains(r.Certificate.ExtKeyUsage, x509.ExtKeyUsageOCSPSigning) { // RFC 6960 §4.2.2.2
		return errors.New("the certificate of who answers is not for that")
	}
	return by.CheckSignature(r.Certificate.SignatureAlgorithm, r.Certificate.RawTBSCertificate, r.Certificate.Signature) // the parser has checked what that one signed
}

// complete tells whether a certificate, and those up to one that signs itself, can be proven by what is kept.
func (e *evidence) complete(c *x509.Certificate) error {
	for range 10 {
		if anchor(c) {
			return nil
		}
		if _, known := e.revoked(c); !known {
			return fmt.Errorf("nothing tells whether the certificate of %s was revoked", c.Subject)
		}
		if c = e.issuer(c); c == nil {
			return errEndless
		}
	}
	return errEndless
}
