package store

import (
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// ShelfFont is a font file that all templates can name by its family. A document
// remembers the state of the shelf that it was set with, so that setting it again
// gives the same pages whatever was added or withdrawn since.
type ShelfFont struct {
	ID        uint64    `gorm:"primaryKey" json:"id"`
	File      string    `json:"file"`                               // its name
	Family    string    `json:"family"`                             // that style sheets name it by
	MinWeight int       `json:"leastBold" gorm:"column:least_bold"` // weights that it can be set in
	MaxWeight int       `json:"mostBold" gorm:"column:most_bold"`   // of a variable font, the boldest weight; else its own
	Italic    bool      `json:"italic"`                             // it is slanted
	Bytes     int       `json:"bytes"`
	SHA256    string    `gorm:"column:sha256" json:"sha256"`
	Author    string    `json:"author"`
	Added     int       `json:"-"` // state of the shelf from which it is there
	Withdrawn int       `json:"-"` // and from which no more; 0 while it is
	CreatedAt time.Time `json:"created"`
}

// Shelf is the state of the font shelf: it grows by one with each change.
func (s *Store) Shelf() (state int, err error) { return shelf(s.db) }

func shelf(db *gorm.DB) (state int, err error) {
	return state, db.Model(&ShelfFont{}).Select("COALESCE(MAX(GREATEST(added, withdrawn)), 0)").Scan(&state).Error
}

// nextShelf begins a change of the shelf; others wait until it is done.
func nextShelf(tx *gorm.DB) (state int, err error) {
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&Head{}, 1).Error; err != nil {
		return 0, err
	}
	state, err = shelf(tx)
	return state + 1, err
}

// Fonts lists the fonts on the shelf.
func (s *Store) Fonts(p Page) ([]ShelfFont, int64, error) {
	return listOf[ShelfFont](s.db.Where("withdrawn = 0"), p, "family", "file", "created_at", "bytes")
}

// FontsAt are the fonts that were on the shelf in a state.
func (s *Store) FontsAt(state int) (list []ShelfFont, err error) {
	return list, s.db.Where("added <= ? AND (withdrawn = 0 OR withdrawn > ?)", state, state).Order("id").Find(&list).Error
}

// AddFont puts a font on the shelf.
func (s *Store) AddFont(f *ShelfFont) error {
	return s.atomically(func(tx *gorm.DB) error {
		var same int64
		if err := tx.Model(&ShelfFont{}).Where("withdrawn = 0 AND sha256 = ?", f.SHA256).Count(&same).Error; err != nil {
			return err
		}
		if same > 0 {
			return refuse("the font %s is there already", f.File)
		}
		state, err := nextShelf(tx)
		if err != nil {
			return err
		}
		f.ID, f.Added = 0, state
		return tx.Create(f).Error
	})
}

// WithdrawFont takes a font off the shelf; documents that were set with it keep
// it.
func (s *Store) WithdrawFont(id uint64) (f ShelfFont, err error) {
	return f, s.atomically(func(tx *gorm.DB) error {
		if err := tx.Where("withdrawn = 0").First(&f, id).Error; err != nil {
			return err
		}
		state, err := nextShelf(tx)
		if err != nil {
			return err
		}
		return tx.Model(&f).Update("withdrawn", state).Error
	})
}
