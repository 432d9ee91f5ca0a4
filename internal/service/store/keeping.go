package store

import (
	"time"

	"gorm.io/gorm"
)

// HoldDocument keeps a document from being erased, for a reason; an empty one lets it go again.
func (s *Store) HoldDocument(id uint64, read int, reason string) (Document, error) {
	return s.change(id, read, func(tx *gorm.DB, d *Document) error {
		switch {
		case d.ErasedAt != nil:
			return refuse("document %d was erased on %s", id, d.ErasedAt.Format(time.DateOnly))
		case d.Hold == "" && reason == "":
			return refuse("document %d is not held", id)
		}
		d.Hold = reason
		return tx.Model(d).Select("hold", "revision").Updates(d).Error
	})
}

// RunOut finds up to n documents, from an ID on, that have been kept as long as they must be and are
// not held.
func (s *Store) RunOut(now time.Time, after uint64, n int) (list []Document, err error) {
	return list, s.db.Omit("data", "findings").Where("keep_until <= ? AND hold = '' AND erased_at IS NULL AND id > ?", now, after).Order("id").Limit(n).Find(&list).Error
}

// Erase forgets the record and the pages of a document that has run out. Its row stays, with the
// checksums, as do its rows in the ledger.
func (s *Store) Erase(id uint64, now time.Time) (Document, error) {
	return s.change(id, 0, func(tx *gorm.DB, d *Document) error {
		if d.KeepUntil == nil || d.KeepUntil.After(now) || d.Hold != "" || d.ErasedAt != nil {
			return refuse("document %d must be kept", id)
		}
		d.Data, d.Findings, d.ErasedAt = "", "", &now
		return tx.Model(d).Select("data", "findings", "erased_at", "revision").Updates(d).Error
	})
}
