package store

import (
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"time"

	"oliveledger/internal/service/clock"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Entry is a row of the ledger: a document was issued, or made void. Rows are
// never changed; each carries the checksum of the one before it.
type Entry struct {
	ID           uint64 `gorm:"primaryKey;autoIncrement:false" json:"id"` // from 1 without gaps
	Kind         string `json:"kind" oneof:"issued void"`                 // issued or void
	DocumentID   uint64 `json:"document"`
	Number       string `json:"number"`   // that the document has in its series; empty for none
	Name         string `json:"name"`     // of the file
	Template     string `json:"template"` // that the document was made of
	Version      int    `json:"version"`
	RecordSHA256 string `gorm:"column:record_sha256" json:"recordSha256"`
	SHA256       string `gorm:"column:sha256" json:"sha256"`
	Pages        int    `json:"pages"`
	Reason       string `json:"reason"`
	Who          string `json:"who"`      // did it
	At           string `json:"at"`       // RFC 3339, as it went into the checksum
	Previous     string `json:"previous"` // checksum of the row before; empty in the first
	Checksum     string `json:"checksum"` // of the row, in hex
}

// TableName of entries.
func (Entry) TableName() string { return "ledger" }

// Head is the end of the chain; who writes the ledger locks it.
type Head struct {
	ID       uint64 `gorm:"primaryKey"`
	Count    uint64
	Checksum string
}

// TableName of the head.
func (Head) TableName() string { return "ledger_head" }

// Sum is the checksum of an entry: SHA-256 over its JSON without it.
func (e Entry) Sum() string {
	e.Checksum = ""
	raw, err := json.Marshal(e)
	if err != nil {
		panic(err) // it holds plain values
	}
	h := sha256.Sum256(raw)
	return hex.EncodeToString(h[:])
}

// enter adds a row to the ledger for each document, and lets webhooks know: before the head is locked, which others
// wait for.
func enter(tx *gorm.DB, kind, who string, list ...*Document) error {
	event, ids := DocumentIssued, make([]uint64, len(list))
	if kind == Void {
		event = DocumentVoid
	}
	for i, d := range list {
		ids[i] = d.ID
	}
	if err := tell(tx, event, 0, ids...); err != nil {
		return err
	}
	var head Head
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&head, 1).Error; err != nil {
		return err
	}
	entries := make([]Entry, 0, len(list))
	for _, d := range list {
		e := Entry{
			ID: head.Count + 1, Kind: kind, DocumentID: d.ID, Number: d.Number, Name: d.Name, Template: d.Template, Version: d.Version, RecordSHA256: d.RecordSHA256,
			SHA256: d.SHA256, Pages: d.Pages, Who: who, At: clock.Now().Format(time.RFC3339Nano), Previous: head.Checksum,
		}
		if who == "" {
			e.Who = d.Author
		}
		if kind == Void {
			e.Reason = d.Reason
		}
		e.Checksum = e.Sum()
		head.Count, head.Checksum = e.ID, e.Checksum
		entries = append(entries, e)
	}
	if err := tx.Create(&entries).Error; err != nil {
		return err
	}
	return tx.Model(&head).Select("count", "checksum").Updates(&head).Error
}

// Entries lists the ledger, newest first.
func (s *Store) Entries(document uint64, p Page) ([]Entry, int64, error) {
	q := s.db
	if document != 0 {
		q = q.Where("document_id = ?", document)
	}
	return listOf[Entry](q, p, "-id")
}

// Fault is something that does not hold in the ledger.
type Fault struct {
	Entry    uint64 `json:"entry"` // row of the ledger
	Document uint64 `json:"document"`
	Message  string `json:"message"` // what is wrong, and what should stand there
}

// Verification is what reading the whole ledger gave.
type Verification struct {
	Rows   int     `json:"rows"`   // that were read
	Last   uint64  `json:"last"`   // the last of them
	Signed uint64  `json:"signed"` // rows that are covered by a signed head
	Key    string  `json:"key"`    // that heads are signed with, public
	Sound  bool    `json:"sound"`  // there are no faults
	Faults []Fault `json:"faults"` // what does not hold

	Witnessed *Witnessed `json:"witnessed,omitempty"` // rows that an authority has seen the head of, and when
}

// Verify reads the whole ledger: that no row is missing or changed, that each
// carries the checksum of the one before it, that signed heads fit, that numbers have no gaps, and that
// documents are still what the rows say. It begins at a row; 0 and 1 are the first. stored checks the
// bytes of a document.
func (s *Store) Verify(from uint64, stored func(sha256 string) error) (v Verification, err error) {
	// all at one moment: what is issued meanwhile is in the next verification
	err = s.db.Transaction(func(tx *gorm.DB) (err error) {
		v, err = (&Store{Seal: s.Seal, Stamps: s.Stamps, db: tx, within: true}).verify(from, stored)
		return err
	}, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
	return v, err
}

func (s *Store) verify(from uint64, stored func(sha256 string) error) (v Verification, err error) {
	c, err := s.verifyChain(from, stored)
	if err != nil {
		return v, err
	}
	signed, heads, err := s.verifyHeads()
	if err != nil {
		return v, err
	}
	witnessed, stamps, err := s.verifyWitnesses()
	if err != nil {
		return v, err
	}
	states, err := s.contradictions()
	if err != nil {
		return v, err
	}
	gaps, err := s.verifySeries()
	if err != nil {
		return v, err
	}
	v = Verification{Rows: c.rows, Last: c.last, Signed: signed, Witnessed: witnessed, Faults: slices.Concat(c.faults, heads, stamps, states, gaps)}
	if s.Seal != nil {
		v.Key = s.Seal.Key()
	}
	v.Sound = len(v.Faults) == 0
	if v.Sound {
		v.Faults = []Fault{}
	}
	return v, nil
}

// mostFaults is how many are told of one kind: where very much is wrong, the rest can wait.
const mostFaults = 1000

// chain is how far the rows have been read.
type chain struct {
	store    *Store
	stored   func(sha256 string) error
	rows     int
	last     uint64
	previous string // checksum of the last row
	faults   []Fault
}

func (c *chain) tell(e Entry, format string, args ...any) {
	if len(c.faults) < mostFaults {
		c.faults = append(c.faults, Fault{e.ID, e.DocumentID, fmt.Sprintf("row %d: ", e.ID) + fmt.Sprintf(format, args...)})
	}
}

// verifyChain reads the rows and the documents that they tell of, from a row on.
func (s *Store) verifyChain(from uint64, stored func(sha256 string) error) (*chain, error) {
	c := &chain{store: s, stored: stored, faults: []Fault{}}
	if from > 1 {
		var before Entry
		if err := s.db.First(&before, from-1).Error; err != nil {
			return nil, refuse("the ledger has no row %d to go on from", from-1)
		}
		c.last, c.previous = before.ID, before.Checksum
	}
	for {
		var list []Entry
		if err := s.db.Where("id > ?", c.last).Order("id").Limit(500).Find(&list).Error; err != nil {
			return nil, err
		}
		if len(list) == 0 {
			break
		}
		documents, err := s.issuedAs(list)
		if err != nil {
			return nil, err
		}
		for _, e := range list {
			c.row(e, documents)
		}
	}
	var head Head
	if err := s.db.First(&head, 1).Error; err != nil {
		return nil, err
	}
	if head.Count != c.last || head.Checksum != c.previous {
		c.tell(Entry{ID: c.last}, "the ledger ends here, but its head says that it has %d rows and ends with the checksum %.12s…: rows at the end are missing", head.Count, head.Checksum)
	}
	return c, nil
}

func (c *chain) row(e Entry, documents map[uint64]issued) {
	c.rows++
	if e.ID != c.last+1 {
		c.tell(e, "the one before it is row %d: rows are missing", c.last)
	}
	if e.Previous != c.previous {
		c.tell(e, "it carries %.12s… as the checksum of the row before it, which is %.12s…", e.Previous, c.previous)
	}
	if sum := e.Sum(); sum != e.Checksum {
		c.tell(e, "it has been changed: its checksum is %.12s…, what it says has %.12s…", e.Checksum, sum)
	}
	c.last, c.previous = e.ID, e.Checksum
	if e.Kind != Issued {
		return
	}
	d, ok := documents[e.DocumentID]
	if !ok {
		c.tell(e, "document %d is missing", e.DocumentID)
		return
	}
	if d.Erased {
		d.DataSum = e.RecordSHA256 // the record is gone, as it should be
	}
	for _, f := range []struct{ what, has, was string }{
		{"its number", d.Number, e.Number},
		{"its name", d.Name, e.Name},
		{"its template", d.Template, e.Template},
		{"its version", strconv.Itoa(d.Version), strconv.Itoa(e.Version)},
		{"its number of pages", strconv.Itoa(d.Pages), strconv.Itoa(e.Pages)},
		{"the checksum of its file", d.SHA256, e.SHA256},
		{"the checksum of its record", d.RecordSHA256, e.RecordSHA256},
		{"the checksum that its record has", d.DataSum, e.RecordSHA256},
	} {
		if f.has != f.was {
			c.tell(e, "document %d is not what was issued: %s is %q, and was %q", e.DocumentID, f.what, f.has, f.was)
		}
	}
	if d.Erased {
		return
	}
	if err := c.stored(e.SHA256); err != nil {
		c.tell(e, "document %d: %v", e.DocumentID, err)
	}
}

// issued is what a row tells of its document, from the document's own row.
type issued struct {
	ID                                                    uint64
	Number, Name, Template, SHA256, RecordSHA256, DataSum string
	Version, Pages                                        int
	Erased                                                bool
}

// issuedAs finds the documents of rows. Their records stay in the database, which makes the checksums.
func (s *Store) issuedAs(rows []Entry) (map[uint64]issued, error) {
	ids := make([]uint64, len(rows))
	for i, e := range rows {
		ids[i] = e.DocumentID
	}
	var list []issued
	err := s.db.Raw("SELECT id, COALESCE(number, '') AS number, name, template, sha256 AS sha256, record_sha256 AS record_sha256, SHA2(data, 256) AS data_sum, version, pages, erased_at IS NOT NULL AS erased FROM documents WHERE id IN ?", ids).Scan(&list).Error
	by := make(map[uint64]issued, len(list))
	for _, d := range list {
		by[d.ID] = d
	}
	return by, err
}

// contradictions are what rows and documents say against each other.
func (s *Store) contradictions() (faults []Fault, err error) {
	for _, c := range []struct{ what, query string }{
		{"document %d is void by its row, but its state says that it counts", "SELECT DISTINCT d.id, e.id AS entry FROM documents d JOIN ledger e ON e.document_id = d.id AND e.kind = 'void' WHERE d.state <> 'void'"},
		{"document %d is void by its state, but no row says so", "SELECT d.id, 0 AS entry FROM documents d WHERE d.state = 'void' AND d.issued_at IS NOT NULL AND NOT EXISTS (SELECT 1 FROM ledger e WHERE e.document_id = d.id AND e.kind = 'void')"},
		{"document %d is issued by its state, but no row says so", "SELECT d.id, 0 AS entry FROM documents d WHERE d.state IN ('issued', 'sent') AND NOT EXISTS (SELECT 1 FROM ledger e WHERE e.document_id = d.id AND e.kind = 'issued')"},
		{"document %d has a number that another one has, too", "SELECT e.document_id AS id, e.id AS entry FROM ledger e JOIN ledger o ON o.number = e.number AND o.kind = 'issued' AND o.id < e.id WHERE e.kind = 'issued' AND e.number <> ''"},
	} {
		var found []struct{ ID, Entry uint64 }
		if err := s.db.Raw(c.query + " LIMIT 1000").Scan(&found).Error; err != nil {
			return nil, err
		}
		for _, x := range found {
			faults = append(faults, Fault{x.Entry, x.ID, fmt.Sprintf(c.what, x.ID)})
		}
	}
	return faults, nil
}

// Standing tells what the ledger says of a document, whatever the document's own row says.
func (s *Store) Standing(d Document) (issued, void bool, err error) {
	var list []Entry
	if err := s.db.Where("document_id = ?", d.ID).Order("id").Find(&list).Error; err != nil {
		return false, false, err
	}
	for _, e := range list {
		switch e.Kind {
		case Issued:
			issued = e.SHA256 == d.SHA256 && e.Number == d.Number
		case Void:
			void = true
		}
	}
	return issued, void, nil
}

// SumOf is the SHA-256 of a text, in hex.
func SumOf(text string) string {
	h := sha256.Sum256([]byte(text))
	return hex.EncodeToString(h[:])
}
