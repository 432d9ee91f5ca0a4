package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"time"

	"gorm.io/gorm"

	"oliveledger/internal/service/clock"
	"oliveledger/internal/service/seal"
)

// SignedHead is where the ledger ended at a moment, signed.
type SignedHead struct {
	ID        uint64 `gorm:"primaryKey"`
	Entries   uint64 // of the ledger until then
	Checksum  string
	At        string
	Key       string
	Signature string
}

// Head is what was signed.
func (h SignedHead) Head() seal.Head {
	return seal.Head{Rows: h.Entries, Checksum: h.Checksum, At: h.At, Key: h.Key, Signature: h.Signature}
}

// betweenHeads is how often the head is signed, when rows have come.
const betweenHeads = 10 * time.Second

// KeepSealed signs the head of the ledger whenever rows have come, until ctx ends.
func (s *Store) KeepSealed(ctx context.Context, log *slog.Logger) {
	clock.Every(ctx, betweenHeads, log, "the head of the ledger could not be signed", s.SealHead)
}

// SealHead signs the head of the ledger, unless it is signed.
func (s *Store) SealHead() error {
	var head Head
	var last SignedHead
	if err := s.db.First(&head, 1).Error; err != nil || head.Count == 0 {
		return err
	}
	if err := s.db.Order("id DESC").Limit(1).Find(&last).Error; err != nil || last.Entries == head.Count {
		return err
	}
	if last.Key != "" && !s.Seal.Trusts(last.Key) {
		return fmt.Errorf("it is signed with another key (%s) than this service has (%s): services that share a database share a key, which --ledger-key names; if that key is lost, add it to %s in the data folder", last.Key, s.Seal.Key(), seal.OldKeys)
	}
	h, err := s.Seal.Sign(head.Count, head.Checksum)
	if err != nil {
		return err
	}
	return s.db.Create(&SignedHead{Entries: h.Rows, Checksum: h.Checksum, At: h.At, Key: h.Key, Signature: h.Signature}).Error
}

// verifyHeads holds signed heads, those of the database and those in the file beside the key, against
// the rows. It gives how many rows are covered by a signature.
func (s *Store) verifyHeads() (signed uint64, faults []Fault, err error) {
	if s.Seal == nil {
		return 0, nil, nil
	}
	tell := func(h seal.Head, format string, args ...any) {
		faults = append(faults, Fault{Entry: h.Rows, Message: fmt.Sprintf("the head over %d rows, signed %s: ", h.Rows, h.At) + fmt.Sprintf(format, args...)})
	}
	check := func(h seal.Head) error {
		if len(faults) >= mostHeadFaults {
			return nil
		}
		switch {
		case !h.Holds():
			tell(h, "the signature does not fit")
			return nil
		case !s.Seal.Trusts(h.Key):
			tell(h, "it is signed with the key %s, which is not that of this service", h.Key)
			return nil
		}
		var at Entry
		if err := s.db.Select("checksum").Where("id = ?", h.Rows).Limit(1).Find(&at).Error; err != nil {
			return err
		}
		if at.Checksum != h.Checksum {
			tell(h, "the ledger was another one then: rows have been changed or taken away, with checksums that fit")
			return nil
		}
		signed = max(signed, h.Rows)
		return nil
	}
	var list []SignedHead
	err = s.db.FindInBatches(&list, 1000, func(*gorm.DB, int) error {
		for _, h := range list {
			if err := check(h.Head()); err != nil {
				return err
			}
		}
		return nil
	}).Error
	if err == nil {
		err = s.Seal.Each(check)
	}
	return signed, faults, err
}

// mostHeadFaults is how many are told: where one is wrong, many are.
const mostHeadFaults = 20

// Export writes the ledger for someone who checks it without this program: a line of JSON for each
// row, each signed head and each witness, as docs/audit/README.md describes.
func (s *Store) Export(to io.Writer) error {
	return s.db.Transaction(func(tx *gorm.DB) error {
		line := func(kind string, v any) error {
			raw, err := json.Marshal(v)
			if err == nil {
				_, err = fmt.Fprintf(to, "{%q:%s}\n", kind, raw)
			}
			return err
		}
		var rows []Entry
		err := tx.FindInBatches(&rows, 1000, func(*gorm.DB, int) error {
			for _, e := range rows {
				if err := line("row", e); err != nil {
					return err
				}
			}
			return nil
		}).Error
		if err != nil {
			return err
		}
		var heads []SignedHead
		err = tx.FindInBatches(&heads, 1000, func(*gorm.DB, int) error {
			for _, h := range heads {
				if err := line("head", h.Head()); err != nil {
					return err
				}
			}
			return nil
		}).Error
		if err != nil {
			return err
		}
		return (&Store{db: tx, within: true}).eachWitness(func(w Witness, h seal.Head) error { return line("witness", export(w, h)) })
	}, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
}
