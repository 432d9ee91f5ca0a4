package store

import (
	"errors"
	"time"

	"oliveledger/internal/service/clock"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Share is a link that lets anyone who has it read a document.
type Share struct {
	ID         uint64     `gorm:"primaryKey" json:"id"`
	Hash       string     `json:"-"` // SHA-256 of the code
	DocumentID uint64     `json:"document"`
	Download   bool       `json:"download"`                           // it is saved instead of shown
	Limit      int        `gorm:"column:most" json:"limit,omitempty"` // how often it may be used; 0 for no limit
	Uses       int        `json:"uses"`                               // how often it was used
	ExpiresAt  *time.Time `json:"expires,omitempty"`                  // when it ends; missing for never
	Revoked    bool       `json:"revoked"`                            // it opens nothing any more
	Author     string     `json:"author"`
	CreatedAt  time.Time  `json:"created"`
}

// AddShare keeps a link.
func (s *Store) AddShare(x *Share) error { return s.db.Create(x).Error }

// Shares lists links, newest first.
func (s *Store) Shares(document uint64, p Page) ([]Share, int64, error) {
	q := s.db
	if document != 0 {
		q = q.Where("document_id = ?", document)
	}
	return listOf[Share](q, p, "-id")
}

// RevokeShare ends a link.
func (s *Store) RevokeShare(id uint64) (x Share, err error) {
	if err = s.db.First(&x, id).Error; err != nil {
		return x, err
	}
	x.Revoked = true
	return x, s.db.Model(&x).Update("revoked", true).Error
}

// UseShare counts a use of a link and gives its document. A link that has
// ended is not found.
func (s *Store) UseShare(hash string) (x Share, d Document, err error) {
	err = s.db.Transaction(func(tx *gorm.DB) error {
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("hash = ?", hash).First(&x).Error; err != nil {
			return err
		}
		if x.Revoked || x.ExpiresAt != nil && x.ExpiresAt.Before(clock.Now()) || x.Limit > 0 && x.Uses >= x.Limit {
			return ErrNotFound
		}
		if err := tx.First(&d, x.DocumentID).Error; err != nil {
			return err
		}
		return tx.Model(&x).Update("uses", x.Uses+1).Error
	})
	return x, d, err
}

// Delivery brings a document to someone.
type Delivery struct {
	ID         uint64     `gorm:"primaryKey" json:"id"`
	DocumentID uint64     `gorm:"serializer:null" json:"document,omitempty"`  // missing where a webhook is told of something else
	Kind       string     `json:"kind" oneof:"mail webhook folder webdav s3"` // mail, webhook, folder, webdav or s3
	To         string     `gorm:"column:address" json:"to"`                   // where it goes: an address of mail, http or https, or a path
	Subject    string     `json:"subject,omitempty"`                          // of the mail
	Body       string     `json:"body,omitempty"`                             // text of the mail
	State      string     `json:"state" oneof:"waiting claimed done failed"`  // waiting, claimed, done or failed
	Tries      int        `json:"tries"`                                      // how often it was tried
	NotBefore  time.Time  `json:"-"`
	Error      string     `json:"error,omitempty"` // why the last try failed
	Author     string     `json:"author"`
	CreatedAt  time.Time  `json:"created"`
	SentAt     *time.Time `json:"sent,omitempty"`                        // when it had arrived
	Event      string     `json:"event,omitempty"`                       // that a webhook is told of; empty when the document itself is delivered
	HookID     uint64     `gorm:"serializer:null" json:"hook,omitempty"` // webhook that is told
	About      uint64     `json:"about,omitempty"`                       // delivery or batch that the event is about
	History    []Try      `json:"history,omitempty"`                     // each try
}

// Try is one attempt of a delivery.
type Try struct {
	ID         uint64    `gorm:"primaryKey" json:"-"`
	DeliveryID uint64    `json:"-"`
	At         time.Time `json:"at"`              // when it was made
	Took       int       `json:"ms"`              // how long it took, in milliseconds
	Error      string    `json:"error,omitempty"` // why it failed; empty when it did not
}

// TableName of tries.
func (Try) TableName() string { return "delivery_tries" }

// AddDelivery keeps a delivery that waits for its turn.
func (s *Store) AddDelivery(d *Delivery) error {
	var err error
	if d.NotBefore, err = now(s.db); err != nil {
		return err
	}
	d.State = Waiting
	return s.db.Create(d).Error
}

// Deliveries lists deliveries, newest first: those of documents, or what a webhook was told.
func (s *Store) Deliveries(document, hook uint64, state string, p Page) ([]Delivery, int64, error) {
	q := s.db.Where("event = ''")
	if hook != 0 {
		q = s.db.Where("hook_id = ?", hook)
	}
	if document != 0 {
		q = q.Where("document_id = ?", document)
	}
	if state != "" {
		q = q.Where("state = ?", state)
	}
	return listOf[Delivery](q, p, "-id")
}

// Delivery finds one with its tries.
func (s *Store) Delivery(id uint64) (d Delivery, err error) {
	return d, s.db.Preload("History").First(&d, id).Error
}

// RetryDelivery gives a failed delivery another turn. What a webhook was told can be told again in any case.
func (s *Store) RetryDelivery(id uint64) (d Delivery, err error) {
	if err = s.db.First(&d, id).Error; err != nil {
		return d, err
	}
	if d.State != Failed && (d.Event == "" || d.State != Done) {
		return d, refuse("delivery %d is %s; only a failed one is tried again", id, d.State)
	}
	if d.NotBefore, err = now(s.db); err != nil {
		return d, err
	}
	d.State, d.Tries = Waiting, 0
	return d, s.db.Save(&d).Error
}

// ClaimDelivery takes the next delivery whose turn it is; nil when there is
// none.
func (s *Store) ClaimDelivery(lease time.Duration) (out *Delivery, err error) {
	err = s.db.Transaction(func(tx *gorm.DB) error {
		var d Delivery
		now, err := now(tx)
		if err != nil {
			return err
		}
		err = tx.Clauses(clause.Locking{Strength: "UPDATE", Options: "SKIP LOCKED"}).Where("state IN ? AND not_before <= ?", []string{Waiting, Claimed}, now).Order("id").First(&d).Error
		if errors.Is(err, ErrNotFound) {
			return nil
		}
		if err != nil {
			return err
		}
		d.State, d.NotBefore = Claimed, now.Add(lease)
		d.Tries++
		out = &d
		return tx.Save(&d).Error
	})
	return out, err
}

// EndDelivery keeps how a try went. What failed is tried again after a pause, or Never. A document that has
// arrived is sent.
func (s *Store) EndDelivery(d *Delivery, took time.Duration, failure string, pause time.Duration) error {
	return s.db.Transaction(func(tx *gorm.DB) error {
		now, err := now(tx)
		if err != nil {
			return err
		}
		if r := []rune(failure); len(r) > 900 {
			failure = string(r[:900]) + "…"
		}
		if err := tx.Create(&Try{DeliveryID: d.ID, At: now, Took: int(took.Milliseconds()), Error: failure}).Error; err != nil {
			return err
		}
		d.Error = failure
		switch {
		case failure == "":
			d.State, d.SentAt = Done, &now
			err = arrived(tx, d)
		case pause == Never:
			d.State = Failed
			err = gaveUp(tx, d)
		default:
			d.State, d.NotBefore = Waiting, now.Add(pause)
		}
		if err != nil {
			return err
		}
		return tx.Omit("History").Save(d).Error
	})
}

// arrived marks a document as sent. Nothing happens to one that a webhook was told of.
func arrived(tx *gorm.DB, d *Delivery) error {
	if d.Event != "" {
		return nil
	}
	sent := map[string]any{"state": Sent, "revision": gorm.Expr("revision + 1")}
	if err := tx.Model(&Document{}).Where("id = ? AND state = ?", d.DocumentID, Issued).Updates(sent).Error; err != nil {
		return err
	}
	return tell(tx, DeliveryDone, d.ID, d.DocumentID)
}

// gaveUp lets webhooks know that a document did not arrive. They are not told of what they were not told.
func gaveUp(tx *gorm.DB, d *Delivery) error {
	if d.Event != "" {
		return nil
	}
	return tell(tx, DeliveryFailed, d.ID, d.DocumentID)
}
