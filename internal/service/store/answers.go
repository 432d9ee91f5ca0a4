package store

import (
	"errors"
	"time"

	"oliveledger/internal/service/clock"

	"github.com/go-sql-driver/mysql"
	"gorm.io/gorm"
)

// Answer is what a request with an Idempotency-Key was answered, to be given
// again when it comes twice.
type Answer struct {
	Key       string `gorm:"primaryKey"` // SHA-256 of caller, path and key
	Body      string // SHA-256 of what was sent
	Status    int
	Type      string
	Answer    []byte
	CreatedAt time.Time
}

// answersKept is how long an answer can be given again.
const answersKept = 24 * time.Hour

// ForgetAnswers drops those that are too old to be given again.
func (s *Store) ForgetAnswers() error {
	return s.db.Where("created_at < ?", clock.Now().Add(-answersKept)).Limit(1000).Delete(&Answer{}).Error
}

// ErrWorkedOn tells that another request with the same key has not been answered yet.
var ErrWorkedOn = errors.New("the first request with this key is still worked on")

// BeginAnswer reserves a key until the transaction ends. When it is known already, the kept answer
// comes back.
func (s *Store) BeginAnswer(key, body string) (*Answer, error) {
	const lockTimeout = 1205
	err := s.db.Exec("SET STATEMENT innodb_lock_wait_timeout = 1 FOR INSERT INTO answers (`key`, body, status, created_at) VALUES (?, ?, 0, ?)", key, body, clock.Now()).Error
	var my *mysql.MySQLError
	switch {
	case errors.As(err, &my) && my.Number == lockTimeout:
		return nil, ErrWorkedOn
	case !errors.Is(err, gorm.ErrDuplicatedKey):
		return nil, err
	}
	var a Answer
	err = s.db.Where("`key` = ?", key).First(&a).Error
	if err == nil && a.Status == 0 { // of a version before, which was ended in the middle of it
		return nil, s.db.Model(&a).Where("`key` = ?", key).Updates(map[string]any{"body": body, "created_at": clock.Now()}).Error
	}
	return &a, err
}

// EndAnswer keeps the answer to a key that was reserved.
func (s *Store) EndAnswer(a Answer) error {
	return s.db.Model(&Answer{}).Where("`key` = ?", a.Key).Updates(map[string]any{"status": a.Status, "type": a.Type, "answer": a.Answer}).Error
}
