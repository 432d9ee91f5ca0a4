// Package store holds the service's tables and the queries on them.
package store

import (
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"oliveledger/record"
)

// Person may log in.
type Person struct {
	ID        uint64 `gorm:"primaryKey"`
	Email     string `gorm:"size:190;uniqueIndex"`
	Name      string `gorm:"size:190"`
	Password  string `gorm:"size:255"` // argon2id
	CreatedAt time.Time
}

// Session is a log-in; the token itself is only with the person.
type Session struct {
	Token     string `gorm:"primaryKey;size:64"` // SHA-256 of the token
	PersonID  uint64 `gorm:"index"`
	ExpiresAt time.Time
}

// Key lets a program in.
type Key struct {
	ID        uint64    `gorm:"primaryKey" json:"id"`
	Name      string    `gorm:"size:190" json:"name"`
	Hash      string    `gorm:"size:64;uniqueIndex" json:"-"`
	CreatedAt time.Time `json:"created"`
}

// Template is a named template; its contents are in its versions.
type Template struct {
	ID        uint64    `gorm:"primaryKey" json:"-"`
	Name      string    `gorm:"size:120;uniqueIndex" json:"name"`
	Title     string    `gorm:"size:255" json:"title"`
	Latest    int       `json:"latest"` // number of the newest version
	UpdatedAt time.Time `json:"updated"`
}

// Version is a published, unchanging state of a template.
type Version struct {
	ID         uint64        `gorm:"primaryKey" json:"-"`
	TemplateID uint64        `gorm:"uniqueIndex:template_number" json:"-"`
	Number     int           `gorm:"uniqueIndex:template_number" json:"number"`
	Note       string        `gorm:"size:255" json:"note"`
	Author     string        `gorm:"size:190" json:"author"`
	CreatedAt  time.Time     `json:"created"`
	Files      []VersionFile `json:"-"`
}

// VersionFile is one file of a version.
type VersionFile struct {
	ID        uint64 `gorm:"primaryKey"`
	VersionID uint64 `gorm:"index"`
	Path      string `gorm:"size:255"`
	Content   []byte `gorm:"type:longblob"`
}

// RecordSet is a set of records of one shape.
type RecordSet struct {
	ID        uint64    `gorm:"primaryKey" json:"id"`
	Name      string    `gorm:"size:190" json:"name"`
	Count     int       `json:"count"`
	CreatedAt time.Time `json:"created"`
}

// Record is one record of a set.
type Record struct {
	ID          uint64 `gorm:"primaryKey"`
	RecordSetID uint64 `gorm:"uniqueIndex:set_number"`
	Number      int    `gorm:"uniqueIndex:set_number"`
	Label       string `gorm:"size:255"`
	Data        string `gorm:"type:longtext"` // JSON
}

// Document is one PDF with what is known of it.
type Document struct {
	ID          uint64    `gorm:"primaryKey" json:"id"`
	Name        string    `gorm:"size:255;index" json:"name"`
	Title       string    `gorm:"size:255" json:"title"`
	Template    string    `gorm:"size:120;index" json:"template,omitempty"`
	Version     int       `json:"version,omitempty"`
	RecordSetID uint64    `gorm:"index" json:"recordSet,omitempty"`
	Record      int       `json:"record,omitempty"`
	Pages       int       `json:"pages"`
	Bytes       int       `json:"bytes"`
	SHA256      string    `gorm:"column:sha256;size:64" json:"sha256"`
	Findings    string    `gorm:"type:mediumtext" json:"-"` // JSON
	Author      string    `gorm:"size:190" json:"author"`
	CreatedAt   time.Time `json:"created"`
}

// ErrNotFound tells that there is no such row.
var ErrNotFound = gorm.ErrRecordNotFound

// Store runs the queries.
type Store struct{ db *gorm.DB }

// New brings the tables up to date.
func New(db *gorm.DB) (*Store, error) {
	err := db.AutoMigrate(&Person{}, &Session{}, &Key{}, &Template{}, &Version{}, &VersionFile{}, &RecordSet{}, &Record{}, &Document{})
	if err != nil {
		return nil, fmt.Errorf("the tables could not be brought up to date: %w", err)
	}
	return &Store{db}, nil
}

// Ping tells whether the database answers.
func (s *Store) Ping() error { return s.db.Exec("SELECT 1").Error }

// People counts who may log in.
func (s *Store) People() (n int64, err error) {
	return n, s.db.Model(&Person{}).Count(&n).Error
}

// AddPerson adds someone.
func (s *Store) AddPerson(p *Person) error { return s.db.Create(p).Error }

// PersonByEmail finds someone.
func (s *Store) PersonByEmail(email string) (p Person, err error) {
	return p, s.db.Where("email = ?", email).First(&p).Error
}

// AddSession keeps a log-in, and forgets those that have run out.
func (s *Store) AddSession(x *Session) error {
	if err := s.db.Where("expires_at < ?", time.Now()).Delete(&Session{}).Error; err != nil {
		return err
	}
	return s.db.Create(x).Error
}

// PersonBySession finds who a session belongs to.
func (s *Store) PersonBySession(token string) (p Person, err error) {
	return p, s.db.Joins("JOIN sessions ON sessions.person_id = people.id").Where("sessions.token = ? AND sessions.expires_at > ?", token, time.Now()).First(&p).Error
}

// EndSession logs out.
func (s *Store) EndSession(token string) error {
	return s.db.Where("token = ?", token).Delete(&Session{}).Error
}

// AddKey keeps a key.
func (s *Store) AddKey(k *Key) error { return s.db.Create(k).Error }

// KeyByHash finds a key.
func (s *Store) KeyByHash(hash string) (k Key, err error) {
	return k, s.db.Where("hash = ?", hash).First(&k).Error
}

// Templates lists all templates by name.
func (s *Store) Templates() (list []Template, err error) {
	return list, s.db.Order("name").Find(&list).Error
}

// Template finds one by name.
func (s *Store) Template(name string) (t Template, err error) {
	return t, s.db.Where("name = ?", name).First(&t).Error
}

// Publish adds a version to a template, which is made when it is new.
func (s *Store) Publish(name, title string, v *Version) (Template, error) {
	var t Template
	err := s.db.Transaction(func(tx *gorm.DB) error {
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("name = ?", name).First(&t).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			t = Template{Name: name}
			err = tx.Create(&t).Error
		}
		if err != nil {
			return err
		}
		t.Latest++
		t.Title = title
		v.TemplateID, v.Number = t.ID, t.Latest
		if err := tx.Create(v).Error; err != nil {
			return err
		}
		return tx.Save(&t).Error
	})
	return t, err
}

// Versions lists a template's versions, newest first, without their files.
func (s *Store) Versions(t Template) (list []Version, err error) {
	return list, s.db.Where("template_id = ?", t.ID).Order("number DESC").Find(&list).Error
}

// Version finds one with its files; number 0 stands for the newest.
func (s *Store) Version(t Template, number int) (v Version, err error) {
	if number == 0 {
		number = t.Latest
	}
	return v, s.db.Preload("Files").Where("template_id = ? AND number = ?", t.ID, number).First(&v).Error
}

// AddRecords keeps a set; next hands out its records one by one.
func (s *Store) AddRecords(name string, each func(visit func(record.Record) error) error, encode func(record.Record) (string, error)) (RecordSet, error) {
	set := RecordSet{Name: name}
	err := s.db.Transaction(func(tx *gorm.DB) error {
		if err := tx.Create(&set).Error; err != nil {
			return err
		}
		var buf []Record
		flush := func() error {
			if len(buf) == 0 {
				return nil
			}
			err := tx.Create(&buf).Error
			buf = buf[:0]
			return err
		}
		err := each(func(r record.Record) error {
			data, err := encode(r)
			if err != nil {
				return err
			}
			set.Count++
			label := r.Name()
			if len(label) > 250 {
				label = label[:250]
			}
			buf = append(buf, Record{RecordSetID: set.ID, Number: set.Count, Label: label, Data: data})
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
		return tx.Save(&set).Error
	})
	return set, err
}

// RecordSets lists all sets, newest first.
func (s *Store) RecordSets() (list []RecordSet, err error) {
	return list, s.db.Order("id DESC").Find(&list).Error
}

// RecordSet finds one.
func (s *Store) RecordSet(id uint64) (r RecordSet, err error) { return r, s.db.First(&r, id).Error }

// Records lists some records of a set.
func (s *Store) Records(set uint64, offset, limit int) (list []Record, err error) {
	return list, s.db.Where("record_set_id = ?", set).Order("number").Offset(offset).Limit(limit).Find(&list).Error
}

// Record finds one record of a set.
func (s *Store) Record(set uint64, number int) (r Record, err error) {
	return r, s.db.Where("record_set_id = ? AND number = ?", set, number).First(&r).Error
}

// AddDocument keeps a document's row.
func (s *Store) AddDocument(d *Document) error { return s.db.Create(d).Error }

// Documents lists documents, newest first, whose name or title holds search.
func (s *Store) Documents(search string, offset, limit int) (list []Document, total int64, err error) {
	q := s.db.Model(&Document{})
	if search != "" {
		like := "%" + search + "%"
		q = q.Where("name LIKE ? OR title LIKE ?", like, like)
	}
	if err = q.Count(&total).Error; err != nil {
		return nil, 0, err
	}
	return list, total, q.Order("id DESC").Offset(offset).Limit(limit).Find(&list).Error
}

// Document finds one.
func (s *Store) Document(id uint64) (d Document, err error) { return d, s.db.First(&d, id).Error }
