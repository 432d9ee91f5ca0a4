// Package store holds the service's tables and the queries on them: one file
// for each kind of thing.
package store

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"time"

	"github.com/go-sql-driver/mysql"
	"gorm.io/gorm"

	"oliveledger/internal/service/clock"
	"oliveledger/internal/service/seal"
	"oliveledger/internal/service/store/schema"
	"oliveledger/internal/timestamp"
)

// ErrNotFound tells that there is no such row.
var ErrNotFound = gorm.ErrRecordNotFound

// ErrChanged tells that a row is not what it was when it was read.
var ErrChanged = errors.New("it has been changed by someone else since you read it")

// ErrTaken tells that a name is in use.
var ErrTaken = gorm.ErrDuplicatedKey

// Twice tells an error of a document whose number another one has already. Nobody has asked for that number: the series
// and the documents do not fit together, and the ledger must be verified.
func Twice(err error) bool {
	var my *mysql.MySQLError
	return errors.Is(err, ErrTaken) && errors.As(err, &my) && strings.Contains(my.Message, "documents_number")
}

// Refusal is an order that the present state of things does not allow.
type Refusal struct{ Reason string }

func (r *Refusal) Error() string { return r.Reason }

func refuse(format string, args ...any) error { return &Refusal{fmt.Sprintf(format, args...)} }

// Store runs the queries.
type Store struct {
	Seal *seal.Seal // that heads of the ledger are signed with; nil in tools and workers

	Stamps *timestamp.Authority // that confirms when heads were there, or nil

	db     *gorm.DB
	within bool // it is part of a transaction
}

// Tables are all kinds of rows, parents before what refers to them.
func Tables() []any {
	return []any{
		&Person{}, &Session{}, &Key{}, &Template{}, &Version{}, &VersionFile{}, &Draft{}, &RecordSet{}, &Record{}, &Series{},
		&Batch{}, &Document{}, &BatchItem{}, &Drawn{}, &Passed{}, &Entry{}, &Head{}, &SignedHead{}, &Witness{}, &Share{}, &Hook{}, &Delivery{}, &Try{}, &Event{}, &Answer{}, &Shared{}, &ShelfFont{},
	}
}

// New brings the tables up to date.
func New(ctx context.Context, db *gorm.DB) (*Store, error) {
	pool, err := db.DB()
	if err != nil {
		return nil, err
	}
	if err := schema.Update(ctx, pool); err != nil {
		return nil, err
	}
	if err := checkTables(db); err != nil {
		return nil, err
	}
	// several services may come here at once
	if err := db.Exec("INSERT INTO ledger_head (id, count, checksum) SELECT 1, 0, '' WHERE NOT EXISTS (SELECT 1 FROM ledger_head) ON DUPLICATE KEY UPDATE id = id").Error; err != nil {
		return nil, err
	}
	return &Store{db: db}, nil
}

// checkTables tells when the tables are not those that the program works with: a column is
// missing, or holds text in another character set.
func checkTables(db *gorm.DB) error {
	var found []struct{ Table, Column, Charset string }
	err := db.Raw("SELECT table_name AS `table`, column_name AS `column`, COALESCE(character_set_name, '') AS charset FROM information_schema.columns WHERE table_schema = DATABASE()").Scan(&found).Error
	if err != nil {
		return err
	}
	charsets := map[string]string{}
	for _, c := range found {
		charsets[c.Table+"."+c.Column] = c.Charset
	}
	for _, t := range Tables() {
		s := &gorm.Statement{DB: db}
		if err := s.Parse(t); err != nil {
			return err
		}
		for _, name := range s.Schema.DBNames {
			at := s.Schema.Table + "." + name
			switch charset, ok := charsets[at]; {
			case !ok:
				return fmt.Errorf("the tables have no column %s: they were made before versions were told; bring them up to date with the version before this one, or restore a back-up into an empty database", at)
			case charset != "" && charset != "utf8mb4":
				return fmt.Errorf("the column %s holds text as %s, where not all letters have room; ALTER TABLE %s CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci mends that", at, charset, s.Schema.Table)
			}
		}
	}
	return nil
}

// DB is the connection, for back-up and restore.
func (s *Store) DB() *gorm.DB { return s.db }

// Ping tells whether the database answers.
func (s *Store) Ping() error { return s.db.Exec("SELECT 1").Error }

// Unsorted is a list that was asked for in an order that it has not.
type Unsorted struct {
	By  string
	Has []string
}

func (u *Unsorted) Error() string {
	return fmt.Sprintf("the list cannot be sorted by %q; it can by %s", u.By, strings.Join(u.Has, ", "))
}

// Page says which rows of a list are wanted.
type Page struct {
	Offset, Limit int
	Sort          string // a column, with - before it for the other way round
	After         uint64 // the last row of the page before, by its ID, of a list that is sorted by it: deep pages cost no more than the first
}

// ErrAfter tells that a list is not sorted by what its rows are counted on from.
var ErrAfter = refuse("a list that is sorted by something else is paged by offset, not by the row before")

// listOf runs a query for one page of rows and counts all of them, but for pages after a row. sorts are
// the columns that may order them, or a name and what it stands for: size=LENGTH(data). The first orders them when
// nothing is asked.
func listOf[T any](q *gorm.DB, p Page, sorts ...string) (list []T, total int64, err error) {
	if p.After == 0 {
		if err = q.Model(new(T)).Count(&total).Error; err != nil {
			return nil, 0, err
		}
	}
	column, back, err := p.order(sorts)
	if err != nil {
		return nil, 0, err
	}
	if p.After > 0 && column != "id" {
		return nil, 0, ErrAfter
	}
	order := column
	if back {
		order += " DESC"
	}
	if p.After > 0 && back {
		q = q.Where("id < ?", p.After)
	} else if p.After > 0 {
		q = q.Where("id > ?", p.After)
	}
	list = []T{}
	return list, total, q.Order(order).Offset(p.Offset).Limit(p.Limit).Find(&list).Error
}

// order is what a page is sorted by, and whether backwards.
func (p Page) order(sorts []string) (by string, back bool, err error) {
	by, back = strings.CutPrefix(cmp.Or(p.Sort, sorts[0]), "-")
	names := make([]string, len(sorts))
	for i, s := range sorts {
		name, stands, _ := strings.Cut(strings.TrimPrefix(s, "-"), "=")
		if name == by {
			return cmp.Or(stands, name), back, nil
		}
		names[i] = name
	}
	return "", false, &Unsorted{p.Sort, names}
}

// edited saves a row when its revision is still the one that was read; 0 does
// not ask.
func edited(tx *gorm.DB, row any, now *int, read int) error {
	if read != 0 && *now != read {
		return ErrChanged
	}
	*now++
	return tx.Save(row).Error
}

// Shared is a value that services and workers share.
type Shared struct {
	Name  string `gorm:"primaryKey"`
	Value string
}

// PublicAddress is the name of the address that printed links lead to.
const PublicAddress = "public-address"

// Share keeps a value for all services and workers.
func (s *Store) Share(name, value string) error { return s.db.Save(&Shared{name, value}).Error }

// SharedValue is such a value; empty when there is none.
func (s *Store) SharedValue(name string) (string, error) {
	var v Shared
	err := s.db.Where("name = ?", name).Limit(1).Find(&v).Error
	return v.Value, err
}

// atomically runs a transaction, and runs it again when the database has ended it
// because it and another one waited for each other.
func (s *Store) atomically(do func(tx *gorm.DB) error) error {
	if s.within { // who began the transaction begins it again
		return s.db.Transaction(do)
	}
	for try := 0; ; try++ {
		err := s.db.Transaction(do)
		if schema.Unread(err) && try < mostTries {
			if e := schema.Guard(s.db); e != nil {
				return errors.Join(err, e)
			}
			continue
		}
		if try == mostTries || !Passing(err) {
			return err
		}
		time.Sleep(rand.N(time.Millisecond << min(try, 8))) // so that the same ones do not meet again
	}
}

// now is the time of the database. Turns and leases go by it, as the clocks of services need not agree.
func now(db *gorm.DB) (t time.Time, err error) {
	return t, db.Raw("SELECT UTC_TIMESTAMP(3)").Scan(&t).Error
}

// mostTries is how often a transaction is begun again: in a cluster, those of all nodes that write
// the same row at the same time fail but for one.
const mostTries = 25

// Passing tells whether the database has ended a transaction because it and another one stood in each
// other's way, or because a node of a cluster is out of step: it can be begun again.
func Passing(err error) bool {
	const deadlock, lockTimeout, outOfStep = 1213, 1205, 1047
	var my *mysql.MySQLError
	return errors.As(err, &my) && slices.Contains([]uint16{deadlock, lockTimeout, outOfStep}, my.Number)
}

// Together does several things in one transaction. It may be begun again, from what the rows are then.
func (s *Store) Together(do func(*Store) error) error {
	return s.atomically(func(tx *gorm.DB) error { return do(&Store{db: tx, within: true}) })
}

// Event is what someone did.
type Event struct {
	ID      uint64    `gorm:"primaryKey" json:"id"`
	At      time.Time `json:"at"`                // when it happened
	Who     string    `json:"who"`               // did it
	Action  string    `json:"action"`            // such as document.issued
	Kind    string    `json:"kind"`              // of thing that it happened to: document, template, key …
	Ref     string    `json:"ref"`               // which one: a number or a name
	Detail  string    `json:"detail,omitempty"`  // in words
	Request string    `json:"request,omitempty"` // ID of the request, as the log has it
}

// Note keeps an event. A detail that is too long, which is put together of several texts, is cut.
func (s *Store) Note(e Event) error {
	if r := []rune(e.Detail); len(r) > mostDetail {
		e.Detail = string(r[:mostDetail-1]) + "…"
	}
	e.At = clock.Now()
	return s.db.Create(&e).Error
}

// mostDetail is what an event tells at most, in characters.
const mostDetail = 500

// Once is Act for what can be done only once, such as reading a file as it comes in.
func (s *Store) Once(do func(*Store) (Event, error)) error {
	return s.db.Transaction(func(tx *gorm.DB) error { return act(tx, do) })
}

// Act does something and keeps the event that tells of it, or neither. It may be begun again, from what the
// rows are then.
func (s *Store) Act(do func(*Store) (Event, error)) error {
	return s.atomically(func(tx *gorm.DB) error { return act(tx, do) })
}

func act(tx *gorm.DB, do func(*Store) (Event, error)) error {
	st := &Store{db: tx, within: true}
	e, err := do(st)
	if err != nil {
		return err
	}
	return st.Note(e)
}

// Events lists what was done, newest first; kind, ref and who narrow it down.
func (s *Store) Events(kind, ref, who string, p Page) ([]Event, int64, error) {
	q := s.db
	for column, v := range map[string]string{"kind": kind, "ref": ref, "who": who} {
		if v != "" {
			q = q.Where(column+" = ?", v)
		}
	}
	return listOf[Event](q, p, "-id")
}
