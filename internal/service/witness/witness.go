// Package witness shows signed heads of the ledger to those outside, and keeps what they say: until then, nobody can
// make another history in silence, not even who holds the key.
package witness

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"time"

	"oliveledger/internal/service/clock"
	"oliveledger/internal/service/deliver"
	"oliveledger/internal/service/store"
)

// Keeper shows heads to the witnesses that are set up.
type Keeper struct {
	Store *store.Store // its Stamps are asked, when there are any
	Mail  *deliver.Mail
	To    string        // mail address of someone who keeps them; empty for none
	Every time.Duration // a witness sees no more than one head in this time
	Log   *slog.Logger
}

// look is how often it is looked for heads that are to be shown.
const look = 10 * time.Second

// Run works until ctx ends.
func (k *Keeper) Run(ctx context.Context) {
	if k.Store.Stamps == nil && k.To == "" {
		return
	}
	clock.Every(ctx, min(look, k.Every), k.Log, "the head of the ledger could not be shown to a witness", func() error { return k.Show(ctx) })
}

// Show shows the newest head to those whose turn it is.
func (k *Keeper) Show(ctx context.Context) error {
	if k.Store.Stamps != nil {
		if err := k.show(store.ByStamp, func(h store.SignedHead, w *store.Witness) error {
			token, err := k.Store.Stamps.Ask(ctx, h.Head().Text())
			w.Who, w.At, w.Token = token.By, token.At, token.Raw
			return err
		}); err != nil {
			return err
		}
	}
	if k.To == "" {
		return nil
	}
	return k.show(store.ByMail, func(h store.SignedHead, w *store.Witness) error {
		w.Who, w.At = k.To, clock.Now()
		return k.mail(ctx, h)
	})
}

func (k *Keeper) show(kind string, ask func(store.SignedHead, *store.Witness) error) error {
	h, err := k.Store.Unwitnessed(kind, k.Every)
	if err != nil || h == nil {
		return err
	}
	w := &store.Witness{HeadID: h.ID, Kind: kind}
	if err := ask(*h, w); err != nil {
		return err
	}
	return k.Store.AddWitness(w)
}

// mail sends a head in words, and as it stands in an export of the ledger.
func (k *Keeper) mail(ctx context.Context, signed store.SignedHead) error {
	h := signed.Head()
	line, err := json.Marshal(map[string]any{"head": h})
	if err != nil {
		return err
	}
	text := fmt.Sprintf(`This is where the ledger ended when its service signed it:

    time      %s
    rows      %d
    checksum  %s
    key       %s

Please keep this mail: as long as it is there, nobody can change these rows in
silence. The attached file holds the head with its signature, as it stands in
an export of the ledger.
`, h.At, h.Rows, h.Checksum, h.Key)
	return k.Mail.Send(ctx, deliver.Letter{
		ID: fmt.Sprintf("head-%d@olive-ledger", signed.ID), To: k.To, Subject: fmt.Sprintf("The ledger on %.10s (%.12s)", h.At, h.Checksum), Body: text,
		Name: "ledger-head.json", Type: "application/json", File: append(line, '\n'),
	})
}
