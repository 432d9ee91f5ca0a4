package store

import (
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Drawn is a number whose document is not kept yet. It belongs to an item of a batch, or is free:
// the document that it was for has failed, and the next one of the series gets it.
type Drawn struct {
	Number string `gorm:"primaryKey"`
	Series string
	Year   int    // 0 when the series does not count in years
	Place  int    // in its series and year
	ItemID uint64 `gorm:"serializer:null"`
	At     time.Time
}

// TableName of numbers.
func (Drawn) TableName() string { return "drawn_numbers" }

// Passed are numbers that were left out on purpose: the next one of a series was set by hand.
type Passed struct {
	ID          uint64 `gorm:"primaryKey"`
	Series      string
	Year        int
	First, Last int
	At          time.Time
}

// TableName of what was left out.
func (Passed) TableName() string { return "passed_numbers" }

// lockSeries gives a series whose row is locked until the transaction ends: who has it draws numbers
// alone.
func lockSeries(tx *gorm.DB, name string, now time.Time) (s Series, err error) {
	err = tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("name = ?", name).First(&s).Error
	if errors.Is(err, ErrNotFound) {
		err = refuse("there is no number series %q", name)
	}
	s.turn(now.Year())
	return s, err
}

// draw takes n numbers: those that are free first, in their order, then new ones.
func (s *Series) draw(tx *gorm.DB, n int, now time.Time) ([]Drawn, error) {
	var list []Drawn
	// with a lock, so that it is read as it is now and not as it was when the transaction began
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("series = ? AND year = ? AND item_id IS NULL", s.Name, s.counted()).Order("place").Limit(n).Find(&list).Error; err != nil {
		return nil, err
	}
	if len(list) > 0 {
		texts := make([]string, len(list))
		for i, d := range list {
			texts[i], list[i].At = d.Number, now
		}
		if err := tx.Where("number IN ?", texts).Delete(&Drawn{}).Error; err != nil {
			return nil, err
		}
	}
	for len(list) < n {
		list = append(list, Drawn{Number: numbered(s.Pattern, s.Year, s.Next), Series: s.Name, Year: s.counted(), Place: s.Next, At: now})
		s.Next++
	}
	return list, tx.Model(s).Select("next", "year").Updates(s).Error
}

// Foresee tells the next n numbers of a series, as they are if nothing else takes some before: it takes them, and
// gives them back.
func (s *Store) Foresee(series string, n int, now time.Time) (list []string, err error) {
	err = s.atomically(func(tx *gorm.DB) error {
		list = nil
		x, err := lockSeries(tx, series, now)
		if err != nil {
			return err
		}
		drawn, err := x.draw(tx, n, now)
		for _, d := range drawn {
			list = append(list, d.Number)
		}
		return errors.Join(err, errSeen)
	})
	if errors.Is(err, errSeen) && len(list) == n {
		err = nil
	}
	return list, err
}

// errSeen takes back what was done to look at it.
var errSeen = errors.New("it was only looked at")

// number gives the items of a claimed group their numbers, in the order of the items. One that has
// been tried before has its number already.
func (s *Series) number(tx *gorm.DB, items []BatchItem, now time.Time) (map[uint64]Drawn, error) {
	ids := make([]uint64, len(items))
	for i, it := range items {
		ids[i] = it.ID
	}
	var list []Drawn
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("item_id IN ?", ids).Find(&list).Error; err != nil {
		return nil, err
	}
	by := map[uint64]Drawn{}
	for _, d := range list {
		by[d.ItemID] = d
	}
	fresh, err := s.draw(tx, len(items)-len(list), now)
	if err != nil || len(fresh) == 0 {
		return by, err
	}
	next := 0
	for _, it := range items {
		if _, has := by[it.ID]; !has {
			fresh[next].ItemID = it.ID
			by[it.ID] = fresh[next]
			next++
		}
	}
	return by, tx.Create(&fresh).Error
}

// freeNumbers gives the numbers of items back to their series.
func freeNumbers(tx *gorm.DB, items []uint64) error {
	return tx.Model(&Drawn{}).Where("item_id IN ?", items).Update("item_id", nil).Error
}

// freeCancelled gives back the numbers of items that will not be made. They are looked for without
// locks, as workers are busy with others.
func (s *Store) freeCancelled() error {
	var items []uint64
	err := s.db.Raw("SELECT n.item_id FROM drawn_numbers n JOIN batch_items i ON i.id = n.item_id JOIN batches b ON b.id = i.batch_id WHERE b.state = ? AND i.state <> ?", Cancelled, Claimed).Scan(&items).Error
	if err != nil || len(items) == 0 {
		return err
	}
	return freeNumbers(s.db, items)
}
