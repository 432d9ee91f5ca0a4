package issue

import (
	"bytes"
	"context"

	"oliveledger/internal/service/store"
	"oliveledger/typeset/sign"
)

// Signer signs what is issued, with the key of the service.
type Signer struct {
	Key   *sign.Key
	Stamp sign.Stamper // that confirms when; nil for none
	Fetch sign.Fetcher // that asks authorities for what proves signatures years later; nil where that is not kept
}

// Unseen is what a template says whose documents have a signature that no page shows.
const Unseen = "unseen"

// signed gives a document's file, with the signature that its template asks for. Drafts have none.
func (m *Maker) signed(ctx context.Context, d *store.Document, p *Pages) ([]byte, error) {
	if p.Signed == "" || d.State == store.Drafted {
		return p.PDF, nil
	}
	if m.Signer == nil {
		return nil, &store.Refusal{Reason: "the template asks for a signature, and this service has no key for it: it is started with --sign-with"}
	}
	o := sign.Options{Field: p.Signed, At: issuedAt(d), Permission: sign.Fill, Stamp: m.Signer.Stamp}
	if p.Signed == Unseen {
		o.Field = ""
	}
	file, err := sign.Sign(ctx, p.PDF, m.Signer.Key, o)
	if err != nil || m.Signer.Fetch == nil {
		return file, err
	}
	return sign.Lasting(ctx, file, m.Signer.Fetch, m.Signer.Stamp)
}

// signedFrom tells whether an issued file is these pages with a signature that holds.
func (m *Maker) signedFrom(issued, pages []byte) (bool, error) {
	if !bytes.HasPrefix(issued, pages) {
		return false, nil
	}
	list, err := sign.Signatures(issued, "", sign.Trust{})
	return err == nil && len(list) > 0 && list[0].Holds, err
}
