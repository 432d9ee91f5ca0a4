package store

import (
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"oliveledger/internal/service/clock"
)

// What happens that webhooks can be told of.
const (
	DocumentIssued = "document.issued"
	DocumentVoid   = "document.void"
	DeliveryDone   = "delivery.done"   // a document has arrived
	DeliveryFailed = "delivery.failed" // it is not tried any more by itself
	BatchEnded     = "batch.ended"     // its documents are made or have failed, or it was cancelled
	HookTested     = "hook.tested"     // someone wants to see whether messages arrive
)

// AllHappenings are those that a webhook may ask for, in the order they are shown.
var AllHappenings = []string{DocumentIssued, DocumentVoid, DeliveryDone, DeliveryFailed, BatchEnded}

// Hook is a webhook that is told when something happens.
type Hook struct {
	ID        uint64    `gorm:"primaryKey" json:"id"`
	Address   string    `json:"address"`                                                                                                         // that messages are posted to
	Events    []string  `gorm:"serializer:spaced" json:"events" oneof:"document.issued document.void delivery.done delivery.failed batch.ended"` // that it is told of
	Paused    bool      `json:"paused"`                                                                                                          // it is not told of what happens meanwhile, also not later
	Author    string    `json:"author"`
	Revision  int       `json:"revision"`
	CreatedAt time.Time `json:"created"`
}

// AddHook keeps a webhook.
func (s *Store) AddHook(h *Hook) error {
	h.ID, h.Revision, h.CreatedAt = 0, 1, clock.Now()
	return s.db.Create(h).Error
}

// Hooks lists webhooks.
func (s *Store) Hooks(p Page) ([]Hook, int64, error) { return listOf[Hook](s.db, p, "id", "address") }

// SaveHook changes a webhook. Its messages go to the new address, also those that are told again.
func (s *Store) SaveHook(id uint64, read int, change func(*Hook)) (h Hook, err error) {
	return h, s.atomically(func(tx *gorm.DB) error {
		h = Hook{}
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&h, id).Error; err != nil {
			return err
		}
		before := h.Address
		if change(&h); h.Address != before {
			if err := tx.Model(&Delivery{}).Where("hook_id = ?", id).Update("address", h.Address).Error; err != nil {
				return err
			}
		}
		return edited(tx, &h, &h.Revision, read)
	})
}

// RemoveHook ends a webhook. What waits to be told fails; what was told stays in the list of deliveries.
func (s *Store) RemoveHook(id uint64) (h Hook, err error) {
	return h, s.atomically(func(tx *gorm.DB) error {
		h = Hook{}
		if err := tx.First(&h, id).Error; err != nil {
			return err
		}
		waiting := tx.Model(&Delivery{}).Where("hook_id = ? AND state = ?", id, Waiting)
		if err := waiting.Updates(map[string]any{"state": Failed, "error": "the webhook was removed"}).Error; err != nil {
			return err
		}
		return tx.Delete(&h).Error
	})
}

// TestHook tells one webhook that it is tested.
func (s *Store) TestHook(id uint64, author string) (d Delivery, err error) {
	var h Hook
	if err = s.db.First(&h, id).Error; err != nil {
		return d, err
	}
	d = Delivery{Kind: Webhook, To: h.Address, Event: HookTested, HookID: h.ID, Author: author}
	return d, s.AddDelivery(&d)
}

// Webhook is the kind of a delivery that goes to one.
const Webhook = "webhook"

// queue is how messages come to wait for their turn: one for each webhook that asks for what has happened.
const queue = `INSERT INTO deliveries (document_id, kind, address, subject, body, state, tries, not_before, error, author, created_at, event, hook_id, about)
SELECT d.id, '` + Webhook + `', h.address, '', '', '` + Waiting + `', 0, UTC_TIMESTAMP(3), '', '', ?, ?, h.id, ?
FROM hooks h LEFT JOIN documents d ON d.id IN ? WHERE NOT h.paused AND FIND_IN_SET(?, REPLACE(h.events, ' ', ',')) ORDER BY h.id, d.id`

// tell lets webhooks know of what has happened to documents, or to none. It is part of the transaction that
// makes it happen: there are both, or neither. about is the delivery or the batch that it is about, if any.
func tell(tx *gorm.DB, event string, about uint64, documents ...uint64) error {
	if len(documents) == 0 {
		documents = []uint64{0}
	}
	return tx.Exec(queue, clock.Now(), event, about, documents, event).Error
}
