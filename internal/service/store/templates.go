package store

import (
	"encoding/json"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Template is a named template; its contents are in its versions and its draft.
type Template struct {
	ID        uint64    `gorm:"primaryKey" json:"-"`
	Name      string    `json:"name"`    // that it is called by
	Title     string    `json:"title"`   // as it is shown
	Latest    int       `json:"latest"`  // number of the newest version; 0 before the first
	UpdatedAt time.Time `json:"updated"` // when it was changed last
}

// Version is a published, unchanging state of a template.
type Version struct {
	ID         uint64        `gorm:"primaryKey" json:"-"`
	TemplateID uint64        `json:"-"`
	Number     int           `json:"number"` // from 1
	Note       string        `json:"note"`   // what has changed
	Author     string        `json:"author"`
	CreatedAt  time.Time     `json:"created"`
	Files      []VersionFile `json:"-"`
}

// VersionFile is one file of a version.
type VersionFile struct {
	ID        uint64 `gorm:"primaryKey"`
	VersionID uint64
	Path      string
	Content   []byte
}

// Draft is the state of a template that is being edited.
type Draft struct {
	TemplateID uint64 `gorm:"primaryKey;autoIncrement:false"`
	Files      []byte // JSON: contents by path
	Author     string
	Revision   int
	UpdatedAt  time.Time
}

// Contents are the draft's files by path.
func (d Draft) Contents() (files map[string][]byte, err error) {
	return files, json.Unmarshal(d.Files, &files)
}

// Templates lists all templates.
func (s *Store) Templates(search string, p Page) ([]Template, int64, error) {
	q := s.db
	if search != "" {
		q = q.Where("name LIKE ? OR title LIKE ?", like(search), like(search))
	}
	return listOf[Template](q, p, "name", "title", "updated_at")
}

// Template finds one by name.
func (s *Store) Template(name string) (t Template, err error) {
	return t, s.db.Where("name = ?", name).First(&t).Error
}

// lockTemplate finds a template for a change, or makes it.
func lockTemplate(tx *gorm.DB, name string) (t Template, err error) {
	err = tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("name = ?", name).First(&t).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		t = Template{Name: name, Title: name}
		err = tx.Create(&t).Error
	}
	return t, err
}

// Publish adds a version to a template, which is made when it is new. A draft
// has become the version then.
func (s *Store) Publish(name, title string, v *Version) (t Template, err error) {
	err = s.db.Transaction(func(tx *gorm.DB) error {
		if t, err = lockTemplate(tx, name); err != nil {
			return err
		}
		t.Latest++
		t.Title = title
		v.TemplateID, v.Number = t.ID, t.Latest
		if err := tx.Create(v).Error; err != nil {
			return err
		}
		if err := tx.Where("template_id = ?", t.ID).Delete(&Draft{}).Error; err != nil {
			return err
		}
		return tx.Save(&t).Error
	})
	return t, err
}

// Versions lists a template's versions, newest first, without their files.
func (s *Store) Versions(t Template, p Page) ([]Version, int64, error) {
	return listOf[Version](s.db.Where("template_id = ?", t.ID), p, "-number")
}

// Version finds one with its files; number 0 stands for the newest.
func (s *Store) Version(t Template, number int) (v Version, err error) {
	if number == 0 {
		number = t.Latest
	}
	return v, s.db.Preload("Files").Where("template_id = ? AND number = ?", t.ID, number).First(&v).Error
}

// Draft finds a template's draft.
func (s *Store) Draft(t Template) (d Draft, err error) {
	return d, s.db.Where("template_id = ?", t.ID).First(&d).Error
}

// SaveDraft keeps files that are being edited. read is the revision that they
// were made from; 0 does not ask.
func (s *Store) SaveDraft(name, author string, files map[string][]byte, read int) (d Draft, err error) {
	raw, err := json.Marshal(files)
	if err != nil {
		return d, err
	}
	err = s.db.Transaction(func(tx *gorm.DB) error {
		t, err := lockTemplate(tx, name)
		if err != nil {
			return err
		}
		err = tx.Where("template_id = ?", t.ID).First(&d).Error
		fresh := errors.Is(err, gorm.ErrRecordNotFound)
		if err != nil && !fresh {
			return err
		}
		if fresh && read > 0 {
			return ErrChanged // it was published or dropped meanwhile
		}
		d.TemplateID, d.Author, d.Files = t.ID, author, raw
		if fresh {
			d.Revision = 1
			return tx.Create(&d).Error
		}
		return edited(tx, &d, &d.Revision, read)
	})
	return d, err
}

// DropDraft forgets a draft; a template that was never published goes with it.
func (s *Store) DropDraft(t Template) error {
	return s.db.Transaction(func(tx *gorm.DB) error {
		if err := tx.Where("template_id = ?", t.ID).Delete(&Draft{}).Error; err != nil {
			return err
		}
		if t.Latest == 0 {
			return tx.Delete(&t).Error
		}
		return nil
	})
}

// like is a pattern for text that holds another, taken literally.
func like(part string) string {
	out := []rune{'%'}
	for _, r := range part {
		if r == '%' || r == '_' || r == '\\' {
			out = append(out, '\\')
		}
		out = append(out, r)
	}
	return string(append(out, '%'))
}
