package sign

import (
	"bytes"
	"context"
	"crypto"
	"crypto/x509"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/sassoftware/relic/v8/lib/pkcs7"
	"golang.org/x/crypto/ocsp"

	"oliveledger/typeset/internal/pdfread"
)

// Fetcher gets what an authority tells: a list of revoked certificates or a certificate (GET, where body is nil), or an
// answer about one (POST).
type Fetcher func(ctx context.Context, address string, body []byte) ([]byte, error)

// ErrUnsigned tells that a file has no signature.
var ErrUnsigned = errors.New("the file is not signed")

// Lasting gives a signed file with all that proves its signatures when their authorities answer no more: certificates
// and what is told of revoked ones (PAdES baseline B-LT, ETSI EN 319 142-1 §6.3), and then, with a stamper, a time
// stamp over everything (B-LTA). Done again before that stamp's own certificate ends, it lasts on. It fails when a
// certificate was revoked before it signed, or when nobody tells whether it was.
func Lasting(ctx context.Context, file []byte, fetch Fetcher, stamp Stamper) ([]byte, error) {
	f, err := pdfread.Open(file, "")
	if err != nil {
		return nil, err
	}
	g := &gatherer{evidence: evidenceOf(f), had: map[pdfread.Name]int{}, fetch: fetch}
	for entry, list := range g.raw {
		g.had[entry] = len(list)
	}
	signers := 0
	for _, x := range formOf(f).fields {
		if x.value == nil {
			continue
		}
		signers++
		if err := g.signature(ctx, f, file, x.value); err != nil {
			return nil, fmt.Errorf("the signature %q: %w", x.name, err)
		}
	}
	if signers == 0 {
		return nil, ErrUnsigned
	}
	u, err := pdfread.NewUpdate(f)
	if err != nil {
		return nil, fmt.Errorf("the file cannot be added to: %w", err)
	}
	g.keep(u, f)
	file = u.Bytes()
	if stamp == nil {
		return file, nil
	}
	return stamped(ctx, file, stamp)
}

// gatherer gathers evidence.
type gatherer struct {
	*evidence
	had   map[pdfread.Name]int // how much of each entry is in the file
	fetch Fetcher
}

// signature gathers what one signature needs, and its time stamp.
func (g *gatherer) signature(ctx context.Context, f *pdfread.File, file []byte, d pdfread.Dict) error {
	_, raw, err := parts(f, file, d)
	if err != nil {
		return err
	}
	signed, err := pkcs7.Unmarshal(raw)
	if err != nil {
		return fmt.Errorf("it cannot be read: %w", err)
	}
	if err := g.chain(ctx, &signed.Content); err != nil || len(signed.Content.SignerInfos) != 1 {
		return err
	}
	if token, err := pkcs7.Unmarshal(tokenIn(&signed.Content.SignerInfos[0])); err == nil {
		if err := g.chain(ctx, &token.Content); err != nil {
			return fmt.Errorf("its time stamp: %w", err)
		}
	}
	return nil
}

// chain gathers the certificates of signed data and of those who have signed them, and what is told of each.
func (g *gatherer) chain(ctx context.Context, signed *pkcs7.SignedData) error {
	list, err := signed.Certificates.Parse()
	if err != nil {
		return err
	}
	for _, c := range list {
		if err := g.add(certsEntry, c.Raw); err != nil {
			return err
		}
	}
	for _, c := range list {
		for depth := 0; !anchor(c); depth++ {
			by, err := g.issuerOf(ctx, c)
			if err != nil {
				return err
			}
			if err := g.ask(ctx, c, by); err != nil {
				return err
			}
			if c = by; depth > 10 {
				return errEndless
			}
		}
	}
	return nil
}

// issuerOf finds who has signed a certificate, where that one says so itself if need be.
func (g *gatherer) issuerOf(ctx context.Context, c *x509.Certificate) (*x509.Certificate, error) {
	if by := g.issuer(c); by != nil {
		return by, nil
	}
	for _, address := range c.IssuingCertificateURL {
		der, err := g.fetch(ctx, address, nil)
		if err != nil {
			return nil, err
		}
		if err := g.add(certsEntry, der); err != nil {
			return nil, fmt.Errorf("%s gives no certificate: %w", address, err)
		}
	}
	if by := g.issuer(c); by != nil {
		return by, nil
	}
	return nil, fmt.Errorf("the certificate of %s, which signed that of %s, is not at hand; put it into the file of the key", c.Issuer, c.Subject)
}

// ask finds out whether a certificate was revoked.
func (g *gatherer) ask(ctx context.Context, c, by *x509.Certificate) error {
	if _, known := g.revoked(c); !known {
		if err := g.told(ctx, c, by); err != nil {
			return err
		}
	}
	when, known := g.revoked(c)
	switch {
	case !known:
		return fmt.Errorf("nobody tells whether the certificate of %s was revoked: it names no list and no server that tells it", c.Subject)
	case !when.IsZero() && !when.After(time.Now()):
		return fmt.Errorf("the certificate of %s was revoked on %s", c.Subject, when.UTC().Format(time.DateOnly))
	}
	return nil
}

// told gets what an authority tells of a certificate: its list, or its answer.
func (g *gatherer) told(ctx context.Context, c, by *x509.Certificate) error {
	for _, address := range c.CRLDistributionPoints {
		der, err := g.fetch(ctx, address, nil)
		if err != nil {
			return err
		}
		if err := g.add(listsEntry, der); err != nil {
			return fmt.Errorf("%s gives no list of revoked certificates: %w", address, err)
		}
		if l := g.lists[len(g.lists)-1]; !l.NextUpdate.IsZero() && l.NextUpdate.Before(time.Now()) {
			return fmt.Errorf("the list of revoked certificates at %s is out of date since %s", address, l.NextUpdate.UTC().Format(time.DateOnly))
		}
	}
	if len(c.CRLDistributionPoints) > 0 {
		return nil
	}
	for _, address := range c.OCSPServer {
		question, err := ocsp.CreateRequest(c, by, &ocsp.RequestOptions{Hash: crypto.SHA1}) // that authorities know (RFC 5019 §2.1.1)
		if err != nil {
			return err
		}
		der, err := g.fetch(ctx, address, question)
		if err != nil {
			return err
		}
		if err := g.add(toldEntry, der); err != nil {
			return fmt.Errorf("%s does not answer about certificates: %w", address, err)
		}
		if r := g.evidence.told[len(g.evidence.told)-1]; !r.NextUpdate.IsZero() && r.NextUpdate.Before(time.Now()) {
			return fmt.Errorf("the answer of %s is out of date since %s", address, r.NextUpdate.UTC().Format(time.DateOnly))
		}
	}
	return nil
}

// keep writes what was gathered into the catalog, beside what is there.
func (g *gatherer) keep(u *pdfread.Update, f *pdfread.File) {
	ref, _ := f.Trailer["Root"].(pdfread.Ref)
	root := clone(f.Dict(ref))
	store := clone(f.Dict(root["DSS"]))
	store["Type"] = pdfread.Name("DSS")
	for _, entry := range entries {
		there, _ := f.Resolve(store[entry]).(pdfread.Array)
		list := slices.Clone(there)
		for _, der := range g.raw[entry][g.had[entry]:] {
			r := u.Alloc()
			u.Set(r, fmt.Appendf(nil, "<</Length %d>>stream\n%s\nendstream", len(der), der))
			list = append(list, r)
		}
		if len(list) > 0 {
			store[entry] = list
		}
	}
	root["DSS"] = store
	extensions := clone(f.Dict(root["Extensions"]))
	extensions["ESIC"] = pdfread.Dict{"BaseVersion": pdfread.Name("1.7"), "ExtensionLevel": int64(2)} // ETSI EN 319 142-1 §5.6
	root["Extensions"] = extensions
	u.SetObject(ref, root)
}

// stamped gives the file with a time stamp over all of it (§12.8.5).
func stamped(ctx context.Context, file []byte, stamp Stamper) ([]byte, error) {
	const room = 16 << 10 // a token with the authority's certificates
	value := append([]byte("<</Type/DocTimeStamp/Filter/Adobe.PPKLite/SubFilter/ETSI.RFC3161"), emptySignature(room)...)
	return appended(file, "", Approve, value, room, func(covered [][]byte) ([]byte, error) {
		return stamp(ctx, bytes.Join(covered, nil))
	})
}
