package sign_test

import (
	"bytes"
	"cmp"
	"context"
	"crypto"
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/asn1"
	"errors"
	"math/big"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/digitorus/timestamp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/crypto/ocsp"

	"oliveledger/typeset"
	"oliveledger/typeset/sign"
)

// authority signs certificates, tells which are revoked, and confirms times.
type authority struct {
	t       *testing.T
	key     *ecdsa.PrivateKey
	root    *x509.Certificate
	serial  int64
	revoked map[int64]time.Time
	stamper *x509.Certificate // its key is that of the authority
	told    []string          // what was asked
	next    time.Duration     // until its next list or answer; an hour if not set
	clerk   *x509.Certificate // who answers for it, with its key; nil for itself
}

const (
	listAt   = "http://harbour.test/revoked.crl"
	answerAt = "http://harbour.test/ocsp"
	issuerAt = "http://harbour.test/root.crt"
)

func newAuthority(t *testing.T) *authority {
	t.Helper()
	a := &authority{t: t, revoked: map[int64]time.Time{}}
	var err error
	a.key, err = ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	require.NoError(t, err)
	a.root = a.certify(a.key, func(c *x509.Certificate) {
		c.Subject.CommonName, c.IsCA, c.KeyUsage = "Harbour root", true, x509.KeyUsageCertSign|x509.KeyUsageCRLSign
	})
	a.stamper = a.certify(a.key, func(c *x509.Certificate) {
		usage, err := asn1.Marshal([]asn1.ObjectIdentifier{{1, 3, 6, 1, 5, 5, 7, 3, 8}})
		require.NoError(t, err)
		c.Subject.CommonName, c.CRLDistributionPoints = "Harbour clock", []string{listAt}
		c.ExtraExtensions = []pkix.Extension{{Id: asn1.ObjectIdentifier{2, 5, 29, 37}, Critical: true, Value: usage}}
	})
	return a
}

func (a *authority) certify(key crypto.Signer, as func(*x509.Certificate)) *x509.Certificate {
	a.t.Helper()
	a.serial++
	now := time.Now()
	c := &x509.Certificate{
		SerialNumber: big.NewInt(a.serial), Subject: pkix.Name{CommonName: "Harbour office"}, BasicConstraintsValid: true,
		NotBefore: now.Add(-time.Hour), NotAfter: now.AddDate(1, 0, 0), KeyUsage: x509.KeyUsageDigitalSignature,
	}
	as(c)
	by := a.root
	if by == nil {
		by = c
	}
	der, err := x509.CreateCertificate(rand.Reader, c, by, key.Public(), a.key)
	require.NoError(a.t, err)
	out, err := x509.ParseCertificate(der)
	require.NoError(a.t, err)
	return out
}

// office makes a key that signs, whose certificate says where to ask; with the root beside it.
func (a *authority) office(as func(*x509.Certificate), beside ...*x509.Certificate) *sign.Key {
	a.t.Helper()
	key := rsaKey(a.t)
	k, err := sign.NewKey(key, a.certify(key, as), beside...)
	require.NoError(a.t, err)
	return k
}

// fetch answers as the authority does.
func (a *authority) fetch(_ context.Context, address string, question []byte) ([]byte, error) {
	a.told = append(a.told, address)
	next := time.Now().Add(cmp.Or(a.next, time.Hour))
	switch address {
	case listAt:
		l := &x509.RevocationList{Number: big.NewInt(1), ThisUpdate: time.Now().Add(-time.Hour), NextUpdate: next}
		for serial, at := range a.revoked {
			l.RevokedCertificateEntries = append(l.RevokedCertificateEntries, x509.RevocationListEntry{SerialNumber: big.NewInt(serial), RevocationTime: at})
		}
		return x509.CreateRevocationList(rand.Reader, l, a.root, a.key)
	case answerAt:
		q, err := ocsp.ParseRequest(question)
		if err != nil {
			return nil, err
		}
		r := ocsp.Response{SerialNumber: q.SerialNumber, ThisUpdate: time.Now().Add(-time.Hour), NextUpdate: next}
		if at, is := a.revoked[q.SerialNumber.Int64()]; is {
			r.Status, r.RevokedAt = ocsp.Revoked, at
		}
		if a.clerk != nil {
			r.Certificate = a.clerk
			return ocsp.CreateResponse(a.root, a.clerk, r, a.key)
		}
		return ocsp.CreateResponse(a.root, a.root, r, a.key)
	case issuerAt:
		return a.root.Raw, nil
	}
	return nil, errors.New("nobody is there")
}

// stamp confirms the time.
func (a *authority) stamp(_ context.Context, data []byte) ([]byte, error) {
	sum := sha256.Sum256(data)
	s := timestamp.Timestamp{
		HashAlgorithm: crypto.SHA256, HashedMessage: sum[:], Time: time.Now(), Policy: asn1.ObjectIdentifier{2, 999, 1}, AddTSACertificate: true,
	}
	answer, err := s.CreateResponseWithOpts(a.stamper, a.key, crypto.SHA256)
	if err != nil {
		return nil, err
	}
	parsed, err := timestamp.ParseResponse(answer)
	if err != nil {
		return nil, err
	}
	return parsed.RawToken, nil
}

// trust believes the authority, and reads its stamps.
func (a *authority) trust() sign.Trust {
	roots := x509.NewCertPool()
	roots.AddCert(a.root)
	return sign.Trust{Roots: roots, Stamp: func(token, data []byte) (time.Time, string, error) {
		s, err := timestamp.Parse(token)
		if err != nil {
			return time.Time{}, "", err
		}
		if sum := sha256.Sum256(data); !bytes.Equal(sum[:], s.HashedMessage) {
			return time.Time{}, "", errors.New("it is over something else")
		}
		return s.Time, "Harbour clock", nil
	}}
}

func (a *authority) list(file []byte) []sign.Signature {
	a.t.Helper()
	list, err := sign.Signatures(file, "", a.trust())
	require.NoError(a.t, err)
	return list
}

// TestLasting: a file keeps what proves its signature, by each of the ways in which authorities tell it.
func TestLasting(t *testing.T) {
	for name, test := range map[string]struct {
		as    func(*x509.Certificate)
		told  string
		apart bool // the root is not beside the key
	}{
		"a list":    {func(c *x509.Certificate) { c.CRLDistributionPoints = []string{listAt} }, listAt, false},
		"an answer": {func(c *x509.Certificate) { c.OCSPServer = []string{answerAt} }, answerAt, false},
		"an issuer elsewhere": {func(c *x509.Certificate) {
			c.CRLDistributionPoints, c.IssuingCertificateURL = []string{listAt}, []string{issuerAt}
		}, issuerAt, true},
	} {
		t.Run(name, func(t *testing.T) {
			ctx := context.Background()
			a := newAuthority(t)
			beside := []*x509.Certificate{a.root}
			if test.apart {
				beside = nil
			}
			k := a.office(func(c *x509.Certificate) {
				test.as(c)
				if !test.apart {
					c.IssuingCertificateURL = []string{issuerAt} // the root does not come with a signature
				}
			}, beside...)
			once, err := sign.Sign(ctx, page(t, typeset.Options{}), k, sign.Options{At: may, Stamp: a.stamp, Permission: sign.Fill})
			require.NoError(t, err)
			assert.Equal(t, sign.Timed, a.list(once)[0].Level)

			proven, err := sign.Lasting(ctx, once, a.fetch, nil)
			require.NoError(t, err)
			assert.True(t, bytes.HasPrefix(proven, once))
			assert.Contains(t, a.told, test.told)
			s := a.list(proven)[0]
			assert.Equal(t, sign.LongTerm, s.Level)
			assert.True(t, s.Holds && s.Trusted, "%+v", s)
			assert.Equal(t, "what proves it years later was added", s.Later)

			kept, err := sign.Lasting(ctx, once, a.fetch, a.stamp)
			require.NoError(t, err)
			list := a.list(kept)
			require.Len(t, list, 2)
			assert.Equal(t, sign.Archival, list[0].Level)
			assert.True(t, list[0].Holds && list[0].Trusted, "%+v", list[0])
			assert.Equal(t, "a time stamp over all of it was added", list[0].Later)
			assert.Equal(t, sign.OnlyStamped, list[1].Level)
			assert.True(t, list[1].Holds && list[1].Trusted, "%+v", list[1])
			assert.Equal(t, len(kept), list[1].Covers)
			assert.Equal(t, "CN=Harbour clock", list[1].Signer)

			asked := len(a.told)
			again, err := sign.Lasting(ctx, kept, a.fetch, a.stamp)
			require.NoError(t, err)
			assert.Len(t, a.told, asked, "what is kept is not asked for again")
			assert.Len(t, a.list(again), 3)
			assert.Equal(t, sign.Archival, a.list(again)[0].Level)

			file := filepath.Join(t.TempDir(), "kept.pdf")
			require.NoError(t, os.WriteFile(file, again, 0o600))
			said, err := exec.Command("qpdf", "--check", file).CombinedOutput()
			require.NoError(t, err, string(said))
			said, _ = exec.Command("pdfsig", "-nocert", file).CombinedOutput()
			assert.Contains(t, string(said), "Signature is Valid", "poppler agrees")

			broken := bytes.Clone(kept)
			broken[len(once)+40] ^= 1
			for _, s := range a.list(broken)[1:] {
				assert.False(t, s.Holds, "a byte of the evidence was changed")
			}
		})
	}
}

// TestNotLasting: what does not prove a signature is no evidence, and says why.
func TestNotLasting(t *testing.T) {
	ctx := context.Background()
	listed := func(c *x509.Certificate) {
		c.CRLDistributionPoints, c.IssuingCertificateURL = []string{listAt}, []string{issuerAt}
	}
	for name, test := range map[string]struct {
		as      func(*x509.Certificate)
		revoked bool
		says    string
	}{
		"revoked":           {listed, true, "the certificate of CN=Harbour office was revoked on 2026-05-01"},
		"nobody tells":      {func(c *x509.Certificate) { c.IssuingCertificateURL = []string{issuerAt} }, false, "it names no list and no server that tells it"},
		"no issuer":         {func(c *x509.Certificate) { c.CRLDistributionPoints = []string{listAt} }, false, "is not at hand; put it into the file of the key"},
		"nobody is there":   {func(c *x509.Certificate) { c.IssuingCertificateURL = []string{"http://gone.test/"} }, false, "nobody is there"},
		"no list is a list": {func(c *x509.Certificate) { listed(c); c.CRLDistributionPoints = []string{issuerAt} }, false, "gives no list of revoked certificates"},
	} {
		t.Run(name, func(t *testing.T) {
			a := newAuthority(t)
			k := a.office(test.as)
			if test.revoked {
				a.revoked[a.serial] = time.Date(2026, 5, 1, 0, 0, 0, 0, time.UTC)
			}
			once, err := sign.Sign(ctx, page(t, typeset.Options{}), k, sign.Options{At: may})
			require.NoError(t, err)
			_, err = sign.Lasting(ctx, once, a.fetch, a.stamp)
			assert.ErrorContains(t, err, test.says)
		})
	}
	_, err := sign.Lasting(ctx, page(t, typeset.Options{}), nil, nil)
	require.ErrorContains(t, err, "the file is not signed")
}

// TestWhoAnswers: an authority may have others answer for it, whose certificate must be for that; what is out of date tells
// nothing.
func TestWhoAnswers(t *testing.T) {
	ctx := context.Background()
	for name, test := range map[string]struct {
		clerk func(*x509.Certificate)
		next  time.Duration
		list  bool
		says  string
	}{
		"one who may":   {func(c *x509.Certificate) { c.ExtKeyUsage = []x509.ExtKeyUsage{x509.ExtKeyUsageOCSPSigning} }, 0, false, ""},
		"one who signs": {func(*x509.Certificate) {}, 0, false, "nobody tells whether"},
		"too late":      {nil, -time.Minute, false, "the answer of http://harbour.test/ocsp is out of date since"},
		"an old list":   {nil, -time.Minute, true, "the list of revoked certificates at http://harbour.test/revoked.crl is out of date since"},
	} {
		t.Run(name, func(t *testing.T) {
			a := newAuthority(t)
			a.next = test.next
			if test.clerk != nil {
				a.clerk = a.certify(a.key, func(c *x509.Certificate) { c.Subject.CommonName = "Clerk"; test.clerk(c) })
			}
			k := a.office(func(c *x509.Certificate) {
				c.IssuingCertificateURL = []string{issuerAt}
				if c.OCSPServer = []string{answerAt}; test.list {
					c.CRLDistributionPoints = []string{listAt}
				}
			})
			once, err := sign.Sign(ctx, page(t, typeset.Options{}), k, sign.Options{At: may})
			require.NoError(t, err)
			_, err = sign.Lasting(ctx, once, a.fetch, nil)
			if test.says == "" {
				require.NoError(t, err)
				return
			}
			require.ErrorContains(t, err, test.says)
		})
	}
}

// TestRevokedLater: a signature stays trusted when its certificate was revoked after it signed, as the stamp tells, and
// is not when that was before.
func TestRevokedLater(t *testing.T) {
	ctx := context.Background()
	a := newAuthority(t)
	k := a.office(func(c *x509.Certificate) {
		c.CRLDistributionPoints, c.IssuingCertificateURL = []string{listAt}, []string{issuerAt}
	})
	serial := a.serial
	once, err := sign.Sign(ctx, page(t, typeset.Options{}), k, sign.Options{At: may, Stamp: a.stamp})
	require.NoError(t, err)
	for at, trusted := range map[time.Time]bool{time.Now().Add(time.Hour): true, time.Now().Add(-time.Hour): false} {
		a.revoked[serial] = at
		kept, err := sign.Lasting(ctx, once, a.fetch, nil)
		if !trusted {
			require.ErrorContains(t, err, "was revoked on")
			continue
		}
		require.NoError(t, err)
		assert.True(t, a.list(kept)[0].Trusted)
	}
}
