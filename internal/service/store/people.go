package store

import (
	"errors"
	"slices"
	"strings"
	"time"

	"oliveledger/internal/service/clock"

	"gorm.io/gorm"
)

// Scopes are what callers may do.
const (
	Read    = "read"    // look at everything but people and keys
	Render  = "render"  // set pages and read files that are sent, which are not kept
	Design  = "design"  // edit and publish templates
	Records = "records" // import and edit records
	Issue   = "issue"   // make documents and batches
	Approve = "approve" // approve and void documents
	Send    = "send"    // deliver and share documents
	Keep    = "keep"    // people, keys, number series
)

// AllScopes in the order they are shown.
var AllScopes = []string{Read, Render, Design, Records, Issue, Approve, Send, Keep}

// Roles are sets of scopes with a name.
var Roles = map[string][]string{
	"keeper": AllScopes,
	"maker":  {Read, Render, Design, Records, Issue},
	"sender": {Read, Render, Records, Issue, Approve, Send},
	"reader": {Read},
}

// Person may log in.
type Person struct {
	ID        uint64    `gorm:"primaryKey" json:"id"`
	Email     string    `json:"email"`                                                         // address to log in with
	Name      string    `json:"name"`                                                          // as it is shown
	Role      string    `gorm:"default:keeper" json:"role" oneof:"reader maker sender keeper"` // what the person may do
	Password  string    `json:"-"`                                                             // argon2id
	Disabled  bool      `json:"disabled"`                                                      // may not log in
	Revision  int       `json:"revision"`
	CreatedAt time.Time `json:"created"`
}

// Session is a log-in; the token itself is only with the person.
type Session struct {
	Token     string `gorm:"primaryKey"` // SHA-256 of the token
	PersonID  uint64
	Agent     string // what the browser calls itself
	Address   string // that it was begun from
	ExpiresAt time.Time
	CreatedAt time.Time
}

// Name is what a session can be called by, without letting anyone in.
func (s Session) Name() string { return s.Token[:12] }

// Key lets a program in.
type Key struct {
	ID        uint64     `gorm:"primaryKey" json:"id"`
	Name      string     `json:"name"` // what it is for
	Hash      string     `json:"-"`
	Scopes    string     `gorm:"default:read render design records issue approve send keep" json:"scopes"` // with spaces between
	Templates string     `json:"templates,omitempty"`                                                      // that it is limited to, with spaces between; all when empty
	ExpiresAt *time.Time `json:"expires,omitempty"`                                                        // when it ends; missing for never
	Revoked   bool       `json:"revoked"`                                                                  // it opens nothing any more
	Author    string     `json:"author"`
	PersonID  uint64     `json:"-"` // behind the key
	CreatedAt time.Time  `json:"created"`
}

// Grants are the scopes that a key gives. Who makes documents, or their templates, may also look at what they
// will be like: keys from before that had a scope of its own need not be made anew.
func (k Key) Grants() []string {
	list := strings.Fields(k.Scopes)
	if !slices.Contains(list, Render) && (slices.Contains(list, Design) || slices.Contains(list, Issue)) {
		list = append(list, Render)
	}
	return list
}

// PersonBehind is who answers for what is done with a key: who made it. A key that a key has made is that of the
// same person.
func (s *Store) PersonBehind(k Key) (uint64, error) {
	if k.PersonID != 0 {
		return k.PersonID, nil
	}
	p, err := s.PersonByEmail(k.Author)
	if errors.Is(err, ErrNotFound) {
		return 0, nil
	}
	return p.ID, err
}

// People lists who may log in.
func (s *Store) People(p Page) ([]Person, int64, error) {
	return listOf[Person](s.db, p, "name", "email", "created_at")
}

// AddPerson adds someone.
func (s *Store) AddPerson(p *Person) error { p.Revision = 1; return s.db.Create(p).Error }

// Person finds someone.
func (s *Store) Person(id uint64) (p Person, err error) { return p, s.db.First(&p, id).Error }

// SavePerson keeps a change to someone. Who may not log in any more, or not with the
// password of before, is logged out.
func (s *Store) SavePerson(p *Person, read int, newPassword bool) error {
	if err := edited(s.db, p, &p.Revision, read); err != nil {
		return err
	}
	if p.Disabled || newPassword {
		return s.db.Where("person_id = ?", p.ID).Delete(&Session{}).Error
	}
	return nil
}

// Keepers counts those who may manage people.
func (s *Store) Keepers() (n int64, err error) {
	return n, s.db.Model(&Person{}).Where("role = ? AND NOT disabled", "keeper").Count(&n).Error
}

// PersonByEmail finds someone.
func (s *Store) PersonByEmail(email string) (p Person, err error) {
	return p, s.db.Where("email = ?", email).First(&p).Error
}

// AddSession keeps a log-in, and forgets those that have run out.
func (s *Store) AddSession(x *Session) error {
	if err := s.db.Where("expires_at < ?", clock.Now()).Delete(&Session{}).Error; err != nil {
		return err
	}
	return s.db.Create(x).Error
}

// PersonBySession finds who a session belongs to.
func (s *Store) PersonBySession(token string) (p Person, err error) {
	return p, s.db.Joins("JOIN sessions ON sessions.person_id = people.id").Where("sessions.token = ? AND sessions.expires_at > ? AND NOT people.disabled", token, clock.Now()).First(&p).Error
}

// Sessions are the log-ins of a person, the latest first.
func (s *Store) Sessions(person uint64) (list []Session, err error) {
	return list, s.db.Where("person_id = ? AND expires_at > ?", person, clock.Now()).Order("created_at DESC").Find(&list).Error
}

// EndSessionNamed ends one of a person's log-ins.
func (s *Store) EndSessionNamed(person uint64, name string) error {
	res := s.db.Where("person_id = ? AND LEFT(token, 12) = ?", person, name).Delete(&Session{})
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrNotFound
	}
	return res.Error
}

// ChangePassword keeps another password of a person and ends the log-ins, but for one.
func (s *Store) ChangePassword(person uint64, hash, but string) error {
	if err := s.db.Model(&Person{}).Where("id = ?", person).Updates(map[string]any{"password": hash, "revision": gorm.Expr("revision + 1")}).Error; err != nil {
		return err
	}
	return s.db.Where("person_id = ? AND token <> ?", person, but).Delete(&Session{}).Error
}

// EndSession logs out.
func (s *Store) EndSession(token string) error {
	return s.db.Where("token = ?", token).Delete(&Session{}).Error
}

// AddKey keeps a key.
func (s *Store) AddKey(k *Key) error { return s.db.Create(k).Error }

// Keys lists the keys.
func (s *Store) Keys(p Page) ([]Key, int64, error) { return listOf[Key](s.db, p, "-id", "name") }

// KeyByHash finds a key that is valid now.
func (s *Store) KeyByHash(hash string) (k Key, err error) {
	return k, s.db.Where("hash = ? AND NOT revoked AND (expires_at IS NULL OR expires_at > ?)", hash, clock.Now()).First(&k).Error
}

// RevokeKey ends a key.
func (s *Store) RevokeKey(id uint64) (k Key, err error) {
	if err = s.db.First(&k, id).Error; err != nil {
		return k, err
	}
	k.Revoked = true
	return k, s.db.Save(&k).Error
}
