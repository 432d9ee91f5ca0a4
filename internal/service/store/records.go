package store

import (
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"oliveledger/record"
)

// RecordSet is a set of records of one shape.
type RecordSet struct {
	ID        uint64    `gorm:"primaryKey" json:"id"`
	Name      string    `json:"name"`  // of the set
	Count     int       `json:"count"` // how many records it has
	Author    string    `json:"author"`
	CreatedAt time.Time `json:"created"`
}

// Record is one record of a set.
type Record struct {
	ID          uint64 `gorm:"primaryKey"`
	RecordSetID uint64
	Number      int
	Label       string
	Data        string // JSON
	Revision    int    `gorm:"default:1"`
}

// labelOf is how a record is called in lists.
func labelOf(name string) string {
	label := []rune(name)
	return string(label[:min(len(label), 250)])
}

// AddRecords keeps a set; each hands out its records one by one: their names, and what they hold as JSON.
func (s *Store) AddRecords(set *RecordSet, each func(visit func(name string, data []byte) error) error) error {
	return s.db.Transaction(func(tx *gorm.DB) error {
		if err := tx.Create(set).Error; err != nil {
			return err
		}
		var buf []Record
		flush := func() error {
			if len(buf) == 0 {
				return nil
			}
			err := tx.Create(&buf).Error
			buf = nil
			return err
		}
		err := each(func(name string, data []byte) error {
			set.Count++
			buf = append(buf, Record{RecordSetID: set.ID, Number: set.Count, Label: labelOf(name), Data: string(data), Revision: 1})
			if len(buf) >= 200 {
				return flush()
			}
			return nil
		})
		if err == nil {
			err = flush()
		}
		if err != nil {
			return err
		}
		if set.Count == 0 {
			return errors.New("there are no records in it")
		}
		return tx.Save(set).Error
	})
}

// RecordSets lists the sets, newest first.
func (s *Store) RecordSets(search string, p Page) ([]RecordSet, int64, error) {
	q := s.db
	if search != "" {
		q = q.Where("name LIKE ?", like(search))
	}
	return listOf[RecordSet](q, p, "-id", "name", "count")
}

// RecordSet finds one.
func (s *Store) RecordSet(id uint64) (r RecordSet, err error) { return r, s.db.First(&r, id).Error }

// DropRecordSet forgets a set with its records. Documents that were made of it
// keep theirs.
func (s *Store) DropRecordSet(id uint64) error {
	return s.db.Transaction(func(tx *gorm.DB) error {
		var open int64
		if err := tx.Model(&Batch{}).Where("record_set_id = ? AND state IN ?", id, []string{Running, Paused}).Count(&open).Error; err != nil {
			return err
		}
		if open > 0 {
			return refuse("a batch over this set has not ended; wait for it or cancel it first")
		}
		if err := tx.Where("record_set_id = ?", id).Delete(&Record{}).Error; err != nil {
			return err
		}
		return tx.Delete(&RecordSet{}, id).Error
	})
}

// Records lists records of a set.
func (s *Store) Records(set uint64, search string, p Page) ([]Record, int64, error) {
	q := s.db.Where("record_set_id = ?", set)
	if search != "" {
		q = q.Where("label LIKE ? OR data LIKE ?", like(search), like(search))
	}
	return listOf[Record](q, p, "number", "label", "size=CHAR_LENGTH(data)")
}

// Record finds one record of a set.
func (s *Store) Record(set uint64, number int) (r Record, err error) {
	return r, s.db.Where("record_set_id = ? AND number = ?", set, number).First(&r).Error
}

// SaveRecord keeps a change to a record. read is the revision that was read; 0
// does not ask.
func (s *Store) SaveRecord(set uint64, number int, r record.Record, data string, read int) (row Record, err error) {
	err = s.db.Transaction(func(tx *gorm.DB) error {
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("record_set_id = ? AND number = ?", set, number).First(&row).Error; err != nil {
			return err
		}
		row.Label, row.Data = labelOf(r.Name()), data
		return edited(tx, &row, &row.Revision, read)
	})
	return row, err
}

// AddRecord puts a record at the end of a set.
func (s *Store) AddRecord(set uint64, r record.Record, data string) (row Record, err error) {
	err = s.db.Transaction(func(tx *gorm.DB) error {
		var of RecordSet
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&of, set).Error; err != nil {
			return err
		}
		of.Count++
		r.Number = of.Count
		row = Record{RecordSetID: set, Number: of.Count, Label: labelOf(r.Name()), Data: data, Revision: 1}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		return tx.Save(&of).Error
	})
	return row, err
}
