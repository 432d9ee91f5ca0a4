package deliver

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"oliveledger/internal/service/store"
)

// Notice is what a webhook is told of something that has happened. What it is about is told as it is when the
// message is sent; what it was when it happened, its type tells.
type Notice struct {
	Type      string  `json:"type"`      // such as document.issued
	Timestamp string  `json:"timestamp"` // when it happened (RFC 3339)
	Data      Subject `json:"data"`      // what it is about
}

// Subject is what a notice is about.
type Subject struct {
	Document *Told           `json:"document,omitempty"` // that was issued, made void or delivered
	Delivery *store.Delivery `json:"delivery,omitempty"` // that has arrived or failed
	Batch    *store.Batch    `json:"batch,omitempty"`    // that has ended
	Hook     uint64          `json:"hook,omitempty"`     // number of the webhook that is tested
}

// Told is what a webhook is told of a document. Who has a key gets the PDF by its ID.
type Told struct {
	ID       uint64 `json:"id"`
	Number   string `json:"number,omitempty"` // that it has in its series
	Name     string `json:"name"`             // of the file
	Title    string `json:"title"`            // of the document
	Template string `json:"template"`         // that it was made of
	Version  int    `json:"version"`
	Batch    uint64 `json:"batch,omitempty"` // that made it
	Pages    int    `json:"pages"`
	SHA256   string `json:"sha256"`
	State    string `json:"state"`            // issued, sent or void
	Reason   string `json:"reason,omitempty"` // why it is void
}

// tell posts a notice.
func (p *Porter) tell(ctx context.Context, d *store.Delivery) error {
	if err := p.Ways.Check(d); err != nil {
		return final{err}
	}
	n, err := p.notice(d)
	if errors.Is(err, store.ErrNotFound) {
		return final{fmt.Errorf("what the message is about is gone: %w", err)}
	}
	if err != nil {
		return err
	}
	body, err := json.Marshal(n)
	if err != nil {
		return err
	}
	return p.Ways.signed(ctx, *d, body)
}

// notice looks up what a message is about.
func (p *Porter) notice(d *store.Delivery) (n Notice, err error) {
	n.Type, n.Timestamp = d.Event, d.CreatedAt.UTC().Format(time.RFC3339)
	if d.DocumentID != 0 {
		doc, err := p.Store.Document(d.DocumentID)
		if err != nil {
			return n, err
		}
		n.Data.Document = &Told{doc.ID, doc.Number, doc.Name, doc.Title, doc.Template, doc.Version, doc.BatchID, doc.Pages, doc.SHA256, doc.State, doc.Reason}
	}
	switch d.Event {
	case store.BatchEnded:
		b, err := p.Store.Batch(d.About)
		n.Data.Batch = &b
		return n, err
	case store.DeliveryDone, store.DeliveryFailed:
		about, err := p.Store.Delivery(d.About)
		n.Data.Delivery = &about
		return n, err
	case store.HookTested:
		n.Data.Hook = d.HookID
	}
	return n, nil
}
