package store

import (
	"encoding/base64"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"

	"oliveledger/internal/service/seal"
)

// Kinds of witnesses.
const (
	ByStamp = "time stamp" // of an authority (RFC 3161)
	ByMail  = "mail"       // that was sent with the head
)

// Witness is someone outside who has seen a signed head: who holds the key of the ledger cannot make another history
// until then in silence.
type Witness struct {
	ID     uint64 `gorm:"primaryKey"`
	HeadID uint64
	Kind   string
	Who    string // the authority, or the address
	At     time.Time
	Token  []byte // of an authority, DER
}

// TableName of witnesses.
func (Witness) TableName() string { return "head_witnesses" }

// ErrNoHead tells that the ledger has no signed head yet.
var ErrNoHead = refuse("nothing has been issued yet: the ledger has no signed head")

// NewestHead is the head that was signed last.
func (s *Store) NewestHead() (h SignedHead, err error) {
	err = s.db.Order("id DESC").First(&h).Error
	if errors.Is(err, ErrNotFound) {
		err = ErrNoHead
	}
	return h, err
}

// Unwitnessed is the newest head when it is to be shown to a witness of a kind: none of that kind has seen one for a
// while, and this one not at all. Otherwise it is nil.
func (s *Store) Unwitnessed(kind string, every time.Duration) (*SignedHead, error) {
	h, err := s.NewestHead()
	if errors.Is(err, ErrNoHead) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	now, err := now(s.db)
	if err != nil {
		return nil, err
	}
	var last Witness
	if err := s.db.Where("kind = ?", kind).Order("id DESC").Limit(1).Find(&last).Error; err != nil {
		return nil, err
	}
	if last.HeadID == h.ID || last.At.After(now.Add(-every)) {
		return nil, nil
	}
	return &h, nil
}

// AddWitness keeps what a witness said. When another service has asked one of that kind meanwhile, its answer stays.
func (s *Store) AddWitness(w *Witness) error {
	err := s.db.Create(w).Error
	if errors.Is(err, gorm.ErrDuplicatedKey) {
		return nil
	}
	return err
}

// Witnessed is until where the ledger is older than someone outside says.
type Witnessed struct {
	Rows uint64    `json:"rows"` // of the ledger, at that time
	At   time.Time `json:"at"`   // when the head was seen
	Who  string    `json:"who"`  // has seen it
}

// LastWitness is the last of all witnesses; nil when there is none.
func (s *Store) LastWitness() (*Witnessed, error) {
	var w Witness
	if err := s.db.Order("id DESC").Limit(1).Find(&w).Error; err != nil || w.ID == 0 {
		return nil, err
	}
	var h SignedHead
	err := s.db.First(&h, w.HeadID).Error
	return &Witnessed{h.Entries, w.At, w.Who}, err
}

// behind is how far the clock of a service may be ahead of an authority's before it is told.
const behind = 5 * time.Minute

// verifyWitnesses holds the time stamps against the heads that they are over, and gives the last that is good.
func (s *Store) verifyWitnesses() (last *Witnessed, faults []Fault, err error) {
	if s.Stamps == nil {
		return nil, nil, nil
	}
	err = s.eachWitness(func(w Witness, h seal.Head) error {
		if w.Kind != ByStamp || len(faults) >= mostHeadFaults {
			return nil
		}
		tell := func(format string, args ...any) {
			faults = append(faults, Fault{Entry: h.Rows, Message: fmt.Sprintf("the time stamp over the head of %d rows, signed %s: ", h.Rows, h.At) + fmt.Sprintf(format, args...)})
		}
		token, err := s.Stamps.Read(w.Token, h.Text())
		if err != nil {
			tell("%v", err)
			return nil
		}
		if signed, err := time.Parse(time.RFC3339, h.At); err != nil || signed.After(token.At.Add(behind)) {
			tell("%s has seen it already on %s: the clock of the service was ahead", token.By, token.At.Format(time.RFC3339))
			return nil
		}
		last = &Witnessed{h.Rows, token.At, token.By}
		return nil
	})
	return last, faults, err
}

// eachWitness visits the witnesses with the heads that they have seen.
func (s *Store) eachWitness(visit func(Witness, seal.Head) error) error {
	var list []Witness
	return s.db.FindInBatches(&list, 1000, func(*gorm.DB, int) error {
		for _, w := range list {
			var h SignedHead
			if err := s.db.First(&h, w.HeadID).Error; err != nil {
				return err
			}
			if err := visit(w, h.Head()); err != nil {
				return err
			}
		}
		return nil
	}).Error
}

// exported is a witness as it stands in an export.
type exported struct {
	Rows     uint64 `json:"rows"`
	Checksum string `json:"checksum"`
	Signed   string `json:"signed"` // when the head was, RFC 3339
	Kind     string `json:"kind"`
	Who      string `json:"who"`
	At       string `json:"at"`
	Token    string `json:"token,omitempty"` // base64
}

func export(w Witness, h seal.Head) exported {
	return exported{h.Rows, h.Checksum, h.At, w.Kind, w.Who, w.At.UTC().Format(time.RFC3339), base64.StdEncoding.EncodeToString(w.Token)}
}
