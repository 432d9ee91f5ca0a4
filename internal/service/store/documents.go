package store

import (
	"errors"
	"time"

	"oliveledger/internal/service/clock"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// States of a document.
const (
	Drafted  = "draft"    // it waits to be approved
	Approved = "approved" // it may be issued
	Issued   = "issued"   // it is in the ledger
	Sent     = "sent"     // and has been delivered
	Void     = "void"     // it does not count any more
)

// Document is one PDF with what is known of it.
type Document struct {
	ID           uint64     `gorm:"primaryKey" json:"id"`
	Number       string     `gorm:"serializer:null" json:"number,omitempty"`                             // drawn from a series
	Series       string     `json:"series,omitempty"`                                                    // series that its number is of
	Name         string     `json:"name"`                                                                // of the file
	Title        string     `json:"title"`                                                               // in its metadata
	State        string     `gorm:"default:issued" json:"state" oneof:"draft approved issued sent void"` // where it is on its way
	Template     string     `json:"template,omitempty"`                                                  // that it is made of; empty for a posted page
	Version      int        `json:"version,omitempty"`
	RecordSetID  uint64     `json:"recordSet,omitempty"`
	Record       int        `json:"record,omitempty"`                       // place of its record in the set
	BatchID      uint64     `gorm:"serializer:null" json:"batch,omitempty"` // the batch that made it; 0 for none
	Data         string     `json:"-"`                                      // the record as it was merged, JSON; or the posted page
	RecordSHA256 string     `gorm:"column:record_sha256" json:"recordSha256,omitempty"`
	Pages        int        `json:"pages"`
	Bytes        int        `json:"bytes"`
	SHA256       string     `gorm:"column:sha256" json:"sha256"`
	Verify       string     `json:"verify,omitempty"` // address of the public page that tells whether it is genuine
	Code         string     `json:"code,omitempty"`   // the end of that address
	Findings     string     `json:"-"`                // JSON
	Shelf        int        `json:"-"`                // state of the fonts that it was set with
	Author       string     `json:"author"`
	PersonID     uint64     `json:"-"`                   // who made it, also through a key or under another name
	Approver     string     `json:"approver,omitempty"`  // who has approved it
	Reason       string     `json:"reason,omitempty"`    // for which it is void
	KeepUntil    *time.Time `json:"keepUntil,omitempty"` // it must be kept until then; for ever without
	Hold         string     `json:"hold,omitempty"`      // why it must not be erased, whatever its time
	ErasedAt     *time.Time `json:"erased,omitempty"`    // its record and pages are gone; this row and the ledger's stay
	Revision     int        `gorm:"default:1" json:"revision"`
	Delivery     string     `gorm:"-" json:"delivery,omitempty" oneof:"waiting claimed done failed"` // in lists: how its newest delivery stands
	IssuedAt     *time.Time `json:"issued,omitempty"`                                                // when it was issued; missing for a draft
	CreatedAt    time.Time  `json:"created"`
}

// DocumentFilter narrows a list of documents down; empty fields do not.
type DocumentFilter struct {
	Search, Template, State string
	Batch                   uint64
	From, To                time.Time
}

// Documents lists documents, newest first.
func (s *Store) Documents(f DocumentFilter, p Page) ([]Document, int64, error) {
	q := s.db.Omit("data", "findings")
	if f.Search != "" {
		q = s.searched(q, f.Search)
	}
	if f.Template != "" {
		q = q.Where("template = ?", f.Template)
	}
	if f.State != "" {
		q = q.Where("state = ?", f.State)
	}
	if f.Batch != 0 {
		q = q.Where("batch_id = ?", f.Batch)
	}
	if !f.From.IsZero() {
		q = q.Where("created_at >= ?", f.From)
	}
	if !f.To.IsZero() {
		q = q.Where("created_at < ?", f.To)
	}
	list, total, err := listOf[Document](q, p, "-id", "name", "number", "created_at", "pages", "bytes", "state")
	if err == nil {
		err = s.tellDeliveries(list)
	}
	return list, total, err
}

// tellDeliveries fills in how the newest delivery of each document stands.
func (s *Store) tellDeliveries(list []Document) error {
	at := make(map[uint64]*Document, len(list))
	ids := make([]uint64, len(list))
	for i := range list {
		ids[i] = list[i].ID
		at[ids[i]] = &list[i]
	}
	if len(ids) == 0 {
		return nil
	}
	var found []Delivery
	err := s.db.Select("document_id", "state").Where("document_id IN ? AND event = ''", ids).Order("id").Find(&found).Error
	for _, d := range found {
		at[d.DocumentID].Delivery = d.State
	}
	return err
}

// Document finds one.
func (s *Store) Document(id uint64) (d Document, err error) { return d, s.db.First(&d, id).Error }

// DocumentByCode finds one by the code of its public page.
func (s *Store) DocumentByCode(code string) (d Document, err error) {
	return d, s.db.Where("code = ? AND code <> ''", code).First(&d).Error
}

// EachDocument visits the documents of a batch that are not erased, in the order of their records,
// without holding all of them.
func (s *Store) EachDocument(batch uint64, visit func(Document) error) error {
	for after := 0; ; {
		var list []Document
		if err := s.db.Omit("data", "findings").Where("batch_id = ? AND record > ? AND erased_at IS NULL", batch, after).Order("record").Limit(200).Find(&list).Error; err != nil || len(list) == 0 {
			return err
		}
		for _, d := range list {
			if err := visit(d); err != nil {
				return err
			}
		}
		after = list[len(list)-1].Record
	}
}

// Setting sets a document's pages: it fills in what the PDF tells of it.
type Setting func(d *Document) error

// NeedsNumber tells whether the pages can only be set once a number is drawn.
func (d *Document) NeedsNumber() bool { return d.State == Issued && d.Series != "" && d.Number == "" }

// SetNow sets the pages of a document that needs no number, or has it.
func (d *Document) SetNow(set Setting) error {
	if d.State == Issued && d.IssuedAt == nil {
		stamp(d)
	}
	return set(d)
}

// TakeNumber gives a document the number that was drawn for it. One of a year that has ended since
// was issued in that year.
func (d *Document) TakeNumber(n Drawn) {
	d.Number = n.Number
	if stamp(d); n.At.UTC().Year() != d.IssuedAt.Year() {
		at := n.At.UTC().Truncate(time.Second)
		d.IssuedAt = &at
	}
}

// Keeping is a document that is to be kept. Set sets its pages; nil when that is done. Err tells why
// it could not be set, and is not kept.
type Keeping struct {
	*Document
	Set Setting
	Err error
}

// Add keeps a new document. One that is issued at once gets its number, when a
// series is named, and its row in the ledger. set is nil when its pages are set already.
func (s *Store) Add(d *Document, set Setting) error {
	k := &Keeping{Document: d, Set: set}
	k.SetFirst()
	if k.Err != nil {
		return k.Err
	}
	return s.atomically(func(tx *gorm.DB) error {
		return errors.Join((&Store{db: tx, within: true}).AddAll([]*Keeping{k}), k.Err)
	})
}

// SetFirst sets the pages of a document that needs no number: no other waits for its number meanwhile.
func (k *Keeping) SetFirst() {
	if k.Set != nil && !k.NeedsNumber() {
		k.Err, k.Set = k.SetNow(k.Set), nil
	}
}

// AddAll keeps new documents in one transaction: all but those whose pages cannot be set. Their numbers
// follow their order.
func (s *Store) AddAll(list []*Keeping) error {
	return s.atomically(func(tx *gorm.DB) error {
		var docs, issued []*Document
		if err := setNumbered(tx, list); err != nil {
			return err
		}
		for _, k := range list {
			if k.Err != nil {
				continue
			}
			k.ID, k.Revision = 0, 1
			if docs = append(docs, k.Document); k.State == Issued {
				issued = append(issued, k.Document)
			}
		}
		if len(docs) == 0 {
			return nil
		}
		if err := tx.Create(&docs).Error; err != nil || len(issued) == 0 {
			return err
		}
		return enter(tx, Issued, "", issued...)
	})
}

// setNumbered sets the pages of documents that need numbers, in their order. The number of one that
// fails goes to the next; the last ones that no document has stay free.
func setNumbered(tx *gorm.DB, list []*Keeping) error {
	free := map[string][]Drawn{}
	for _, k := range list {
		if k.Err != nil || k.Set == nil {
			continue
		}
		k.Number = ""
		stamp(k.Document)
		if k.Series != "" && len(free[k.Series]) == 0 {
			s, err := lockSeries(tx, k.Series, *k.IssuedAt)
			if err == nil {
				free[k.Series], err = s.draw(tx, 1, *k.IssuedAt)
			}
			if err != nil {
				return err
			}
		}
		if k.Series != "" {
			k.Number = free[k.Series][0].Number
		}
		if k.Err = k.Set(k.Document); k.Err == nil && k.Series != "" {
			free[k.Series] = nil
		}
	}
	for _, rest := range free {
		if len(rest) > 0 {
			if err := tx.Create(&rest).Error; err != nil {
				return err
			}
		}
	}
	return nil
}

func stamp(d *Document) {
	now := clock.Now().Truncate(time.Second)
	d.IssuedAt = &now
}

// issue draws the number, sets the pages and writes the ledger, all or nothing.
func issue(tx *gorm.DB, d *Document, set Setting) error {
	d.State = Issued
	k := &Keeping{Document: d, Set: set}
	if err := errors.Join(setNumbered(tx, []*Keeping{k}), k.Err); err != nil {
		return err
	}
	if err := tx.Save(d).Error; err != nil {
		return err
	}
	return enter(tx, Issued, d.Author, d)
}

// change locks a document and lets do change it, when it is as it was read.
func (s *Store) change(id uint64, read int, do func(tx *gorm.DB, d *Document) error) (d Document, err error) {
	err = s.atomically(func(tx *gorm.DB) error {
		d = Document{}
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&d, id).Error; err != nil {
			return err
		}
		if read != 0 && d.Revision != read {
			return ErrChanged
		}
		d.Revision++
		return do(tx, &d)
	})
	return d, err
}

// Approve lets a draft be issued.
func (s *Store) Approve(id uint64, read int, who string, person uint64) (Document, error) {
	return s.change(id, read, func(tx *gorm.DB, d *Document) error {
		if d.State != Drafted {
			return refuse("document %d is %s; only a draft can be approved", id, d.State)
		}
		switch {
		case person == 0:
			return refuse("document %d can only be approved by someone who is known; nobody is behind this key", id)
		case d.Author == who || d.PersonID == person:
			return refuse("document %d was made by you, or through a key of yours; someone else must approve it", id)
		}
		d.State, d.Approver = Approved, who
		return tx.Save(d).Error
	})
}

// IssueApproved issues an approved document; its pages are set with the number.
func (s *Store) IssueApproved(id uint64, read int, set Setting) (Document, error) {
	return s.change(id, read, func(tx *gorm.DB, d *Document) error {
		if d.State != Approved {
			return refuse("document %d is %s; only an approved one can be issued", id, d.State)
		}
		return issue(tx, d, set)
	})
}

// MakeVoid ends a document, for a reason; the ledger tells it.
func (s *Store) MakeVoid(id uint64, read int, who, reason string) (Document, error) {
	return s.change(id, read, func(tx *gorm.DB, d *Document) error {
		if d.State == Void {
			return refuse("document %d is void already", id)
		}
		before := d.State
		d.State, d.Reason = Void, reason
		if err := tx.Save(d).Error; err != nil {
			return err
		}
		if before == Issued || before == Sent {
			return enter(tx, Void, who, d)
		}
		return nil
	})
}
