package store

import (
	"time"

	"oliveledger/internal/service/clock"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// States of a batch and its items.
const (
	Running   = "running"
	Paused    = "paused"
	Cancelled = "cancelled"
	Done      = "done"
	Waiting   = "waiting" // an item for its turn
	Claimed   = "claimed" // by a worker
	Failed    = "failed"
)

// Batch makes one template version's documents for the records of a set.
type Batch struct {
	ID          uint64     `gorm:"primaryKey" json:"id"`
	Template    string     `json:"template"` // that the documents are made of
	Version     int        `json:"version"`
	RecordSetID uint64     `json:"recordSet"`
	Series      string     `json:"series,omitempty"`                            // series that gives the documents numbers; empty for none
	Drafts      bool       `json:"drafts"`                                      // documents wait to be approved
	State       string     `json:"state" oneof:"running paused cancelled done"` // whether it goes on
	Priority    int        `json:"priority"`                                    // the higher, the sooner
	Total       int        `json:"total"`                                       // documents that are to be made
	Author      string     `json:"author"`
	PersonID    uint64     `json:"-"` // behind the author
	Revision    int        `json:"revision"`
	CreatedAt   time.Time  `json:"created"`
	EndedAt     *time.Time `json:"ended,omitempty"` // when it was done or cancelled

	Finished int `gorm:"-" json:"done"`   // documents that are made
	Failures int `gorm:"-" json:"failed"` // documents that could not be made
}

// BatchItem is one record's turn in a batch.
type BatchItem struct {
	ID         uint64    `gorm:"primaryKey" json:"-"`
	BatchID    uint64    `json:"-"`
	Record     int       `json:"record"`                                    // its place in the set
	State      string    `json:"state" oneof:"waiting claimed done failed"` // how far it is
	Tries      int       `json:"tries"`                                     // turns that it has had
	Losses     int       `json:"-"`                                         // how often a worker was lost that had it
	Begun      bool      `json:"-"`                                         // of an item with losses: its document is being made
	Worker     string    `json:"worker,omitempty"`                          // who has it, or had it last
	NotBefore  time.Time `json:"-"`                                         // of a waiting item; of a claimed one, when its lease ends
	Error      string    `json:"error,omitempty"`                           // why the document could not be made
	DocumentID uint64    `gorm:"serializer:null" json:"document,omitempty"`
}

// StartBatch keeps a batch with an item for each record; numbers are those of
// the records, empty for all of the set.
func (s *Store) StartBatch(b *Batch, numbers []int) error {
	return s.atomically(func(tx *gorm.DB) error {
		b.ID, b.State, b.Revision = 0, Running, 1
		if err := tx.Create(b).Error; err != nil {
			return err
		}
		now, err := now(tx)
		if err != nil {
			return err
		}
		q := "INSERT INTO batch_items (batch_id, record, state, tries, losses, begun, worker, not_before, error, document_id) SELECT ?, number, ?, 0, 0, FALSE, '', ?, '', NULL FROM records WHERE record_set_id = ?"
		args := []any{b.ID, Waiting, now, b.RecordSetID}
		if len(numbers) > 0 {
			q += " AND number IN ?"
			args = append(args, numbers)
		}
		res := tx.Exec(q+" ORDER BY number", args...)
		if res.Error != nil {
			return res.Error
		}
		if b.Total = int(res.RowsAffected); b.Total == 0 {
			return refuse("the set has none of these records")
		}
		if len(numbers) > 0 && b.Total != len(numbers) {
			return refuse("only %d of the %d records that were named are in the set", b.Total, len(numbers))
		}
		return tx.Save(b).Error
	})
}

// Batches lists batches, newest first.
func (s *Store) Batches(state string, p Page) ([]Batch, int64, error) {
	q := s.db
	if state != "" {
		q = q.Where("state = ?", state)
	}
	list, total, err := listOf[Batch](q, p, "-id", "state", "priority")
	for i := range list {
		if err == nil {
			err = s.count(&list[i])
		}
	}
	return list, total, err
}

// Batch finds one, with how far it is.
func (s *Store) Batch(id uint64) (b Batch, err error) {
	if err = s.db.First(&b, id).Error; err != nil {
		return b, err
	}
	return b, s.count(&b)
}

func (s *Store) count(b *Batch) error {
	var rows []struct {
		State string
		N     int
	}
	err := s.db.Model(&BatchItem{}).Select("state, COUNT(*) AS n").Where("batch_id = ?", b.ID).Group("state").Find(&rows).Error
	for _, r := range rows {
		switch r.State {
		case Done:
			b.Finished = r.N
		case Failed:
			b.Failures = r.N
		}
	}
	return err
}

// BatchItems lists the items of a batch.
func (s *Store) BatchItems(batch uint64, state string, p Page) ([]BatchItem, int64, error) {
	q := s.db.Where("batch_id = ?", batch)
	if state != "" {
		q = q.Where("state = ?", state)
	}
	return listOf[BatchItem](q, p, "record")
}

// SetBatch pauses, resumes or cancels a batch, or changes its priority.
func (s *Store) SetBatch(id uint64, read int, state string, priority *int) (b Batch, err error) {
	err = s.atomically(func(tx *gorm.DB) error {
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&b, id).Error; err != nil {
			return err
		}
		if priority != nil {
			b.Priority = *priority
		}
		if state != "" && state != b.State {
			if b.State == Done || b.State == Cancelled {
				return refuse("batch %d is %s; it cannot be %s", id, b.State, state)
			}
			b.State = state
			if state == Cancelled {
				now := clock.Now()
				b.EndedAt = &now
				if err := tell(tx, BatchEnded, b.ID); err != nil {
					return err
				}
			}
		}
		return edited(tx, &b, &b.Revision, read)
	})
	if err == nil {
		err = s.count(&b)
	}
	return b, err
}

// RetryFailed gives the failed items of a batch another turn.
func (s *Store) RetryFailed(id uint64) (b Batch, n int64, err error) {
	err = s.atomically(func(tx *gorm.DB) error {
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&b, id).Error; err != nil {
			return err
		}
		if b.State == Cancelled {
			return refuse("batch %d is cancelled", id)
		}
		now, err := now(tx)
		if err != nil {
			return err
		}
		res := tx.Model(&BatchItem{}).Where("batch_id = ? AND state = ?", id, Failed).Updates(map[string]any{"state": Waiting, "tries": 0, "losses": 0, "not_before": now})
		if n = res.RowsAffected; res.Error != nil || n == 0 {
			return res.Error
		}
		b.State, b.EndedAt = Running, nil
		b.Revision++
		return tx.Save(&b).Error
	})
	if err == nil {
		err = s.count(&b)
	}
	return b, n, err
}

// Turn is an item that a worker has claimed, with its record.
type Turn struct {
	Batch  Batch
	Item   BatchItem
	Record Record
	Number Drawn // none when the documents of the batch get no numbers now
	Shelf  int   // the state of the fonts
}

// Numbered tells whether the documents of a batch get numbers when they are made.
func (b *Batch) Numbered() bool { return b.Series != "" && !b.Drafts }

// Claim takes up to n items whose turn it is, of the batch with the highest
// priority. Other workers pass over them until the lease ends.
func (s *Store) Claim(worker string, n int, lease time.Duration) (turns []Turn, err error) {
	err = s.atomically(func(tx *gorm.DB) error {
		turns = nil
		now, err := now(tx)
		if err != nil {
			return err
		}
		var batches []Batch
		if err := tx.Where("state = ?", Running).Order("priority DESC, id").Find(&batches).Error; err != nil {
			return err
		}
		for _, b := range batches {
			// who claims numbered items claims alone, so that the numbers follow the order of the records
			var series Series
			if b.Numbered() {
				var err error
				if series, err = lockSeries(tx, b.Series, now); err != nil {
					return err
				}
			}
			items, err := free(tx, b.ID, n, now)
			if err == nil {
				items, err = setAside(tx, items)
			}
			if err != nil {
				return err
			}
			if len(items) == 0 {
				continue
			}
			ids, places := make([]uint64, len(items)), make([]int, len(items))
			for i := range items {
				ids[i], places[i] = items[i].ID, items[i].Record
			}
			var records []Record
			if err := tx.Where("record_set_id = ? AND number IN ?", b.RecordSetID, places).Find(&records).Error; err != nil {
				return err
			}
			at := map[int]Record{}
			for _, r := range records {
				at[r.Number] = r
			}
			fonts, err := shelf(tx)
			if err != nil {
				return err
			}
			numbers := map[uint64]Drawn{}
			if b.Numbered() {
				if numbers, err = series.number(tx, items, now); err != nil {
					return err
				}
			}
			for _, it := range items {
				if it.State == Claimed {
					it.Losses++
				}
				it.State, it.Worker = Claimed, worker
				it.Tries++
				turns = append(turns, Turn{b, it, at[it.Record], numbers[it.ID], fonts})
			}
			return tx.Model(&BatchItem{}).Where("id IN ?", ids).Updates(map[string]any{
				"state": Claimed, "worker": worker, "not_before": now.Add(lease), "tries": gorm.Expr("tries + 1"),
				"losses": gorm.Expr("losses + ?", items[0].State == Claimed),
			}).Error // all are lost, or none is
		}
		return nil
	})
	return turns, err
}

// setAside ends the turns of items whose worker was lost a second time, while their documents were being made:
// they would take down every worker. It gives the others.
func setAside(tx *gorm.DB, items []BatchItem) (others []BatchItem, err error) {
	var ids []uint64
	for _, it := range items {
		if it.Begun {
			ids = append(ids, it.ID)
		} else {
			others = append(others, it)
		}
	}
	if len(ids) == 0 {
		return others, nil
	}
	if err := freeNumbers(tx, ids); err != nil {
		return nil, err
	}
	return others, tx.Model(&BatchItem{}).Where("id IN ?", ids).Updates(map[string]any{
		"state": Failed, "begun": false,
		"error": "the worker was lost twice while it made this document; it is set aside, and can be given another turn",
	}).Error
}

// Begin tells that an item's document is being made now.
func (s *Store) Begin(t Turn) error {
	return s.db.Model(&BatchItem{}).Where("id = ?", t.Item.ID).Update("begun", true).Error
}

// free locks items that wait or, when there are none, whose worker was lost.
// Each is asked for alone, so that the index gives them in their order and no
// other rows are locked.
func free(tx *gorm.DB, batch uint64, n int, now time.Time) (items []BatchItem, err error) {
	for _, state := range []string{Waiting, Claimed} {
		err = tx.Clauses(clause.Locking{Strength: "UPDATE", Options: "SKIP LOCKED"}).Where("batch_id = ? AND state = ? AND not_before <= ?", batch, state, now).Order("record").Limit(n).Find(&items).Error
		if err != nil || len(items) > 0 {
			break
		}
	}
	return items, err
}

// Hold makes the leases of items that a worker has longer.
func (s *Store) Hold(worker string, items []uint64, lease time.Duration) error {
	now, err := now(s.db)
	if err != nil {
		return err
	}
	return s.db.Model(&BatchItem{}).Where("id IN ? AND worker = ? AND state = ?", items, worker, Claimed).Update("not_before", now.Add(lease)).Error
}

// GiveBack frees the items that a worker has not begun.
func (s *Store) GiveBack(worker string) error {
	now, err := now(s.db)
	if err != nil {
		return err
	}
	return s.db.Model(&BatchItem{}).Where("worker = ? AND state = ?", worker, Claimed).
		Updates(map[string]any{"state": Waiting, "worker": "", "not_before": now, "tries": gorm.Expr("GREATEST(tries - 1, 0)")}).Error
}

// ErrLost tells a worker that an item is not its own any more.
var ErrLost = refuse("another worker has taken the item over")

// Finished is an item whose document is set.
type Finished struct {
	Turn     Turn
	Document *Document
}

// FinishAll keeps the documents of several items in one transaction, and tells how many:
// an item never has two documents. Those that another worker has taken over are left out.
func (s *Store) FinishAll(list []Finished) (kept int, err error) {
	err = s.atomically(func(tx *gorm.DB) error {
		turns := make([]Turn, len(list))
		for i, f := range list {
			turns[i] = f.Turn
		}
		own, err := mine(tx, turns)
		if err != nil {
			return err
		}
		var docs, issued []*Document
		var ids []uint64
		for _, f := range list {
			if !own[f.Turn.Item.ID] {
				continue
			}
			f.Document.ID, f.Document.Revision = 0, 1
			docs, ids = append(docs, f.Document), append(ids, f.Turn.Item.ID)
			if f.Document.State == Issued {
				issued = append(issued, f.Document)
			}
		}
		if kept = len(docs); kept == 0 {
			return nil
		}
		if err := tx.Create(&docs).Error; err != nil {
			return err
		}
		if len(issued) > 0 {
			if err := enter(tx, Issued, "", issued...); err != nil {
				return err
			}
		}
		if err := tx.Where("item_id IN ?", ids).Delete(&Drawn{}).Error; err != nil { // the documents have them now
			return err
		}
		return end(tx, docs, ids)
	})
	return kept, err
}

// end marks items as done by the documents of their records.
func end(tx *gorm.DB, docs []*Document, items []uint64) error {
	ids := make([]uint64, len(docs))
	for i, d := range docs {
		ids[i] = d.ID
	}
	return tx.Exec("UPDATE batch_items i JOIN documents d ON d.id IN ? AND d.batch_id = i.batch_id AND d.record = i.record SET i.state = ?, i.error = '', i.begun = FALSE, i.document_id = d.id WHERE i.id IN ?", ids, Done, items).Error
}

// mine locks items, and tells which of them the worker still has.
func mine(tx *gorm.DB, turns []Turn) (map[uint64]bool, error) {
	ids := make([]uint64, len(turns))
	for i, t := range turns {
		ids[i] = t.Item.ID
	}
	var now []BatchItem
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id IN ?", ids).Order("id").Find(&now).Error; err != nil {
		return nil, err
	}
	state := map[uint64]BatchItem{}
	for _, it := range now {
		state[it.ID] = it
	}
	own := map[uint64]bool{}
	for _, t := range turns {
		it := state[t.Item.ID]
		own[t.Item.ID] = it.State == Claimed && it.Worker == t.Item.Worker && it.Tries == t.Item.Tries
	}
	return own, nil
}

// Never is the pause before another turn of what gets none.
const Never time.Duration = -1

// Fail ends an item's turn without a document; it gets another one after a pause, or Never.
func (s *Store) Fail(t Turn, reason string, pause time.Duration) error {
	if r := []rune(reason); len(r) > 1900 {
		reason = string(r[:1900]) + "…"
	}
	return s.atomically(func(tx *gorm.DB) error {
		own, err := mine(tx, []Turn{t})
		if err != nil {
			return err
		}
		if !own[t.Item.ID] {
			return ErrLost
		}
		change := map[string]any{"state": Failed, "error": reason, "begun": false}
		if pause == Never {
			err = freeNumbers(tx, []uint64{t.Item.ID})
		} else {
			var from time.Time
			from, err = now(tx)
			change["state"], change["not_before"], change["worker"] = Waiting, from.Add(pause), ""
		}
		if err != nil {
			return err
		}
		return tx.Model(&BatchItem{}).Where("id = ?", t.Item.ID).Updates(change).Error
	})
}

// EndBatches marks batches that have nothing left to do, and frees the numbers of those that were
// cancelled. They are looked for without locks first, as workers are busy with the items of others.
func (s *Store) EndBatches() error {
	if err := s.freeCancelled(); err != nil {
		return err
	}
	const idle = "state = ? AND NOT EXISTS (SELECT 1 FROM batch_items WHERE batch_id = batches.id AND state IN (?, ?))"
	var ids []uint64
	err := s.db.Model(&Batch{}).Where(idle, Running, Waiting, Claimed).Pluck("id", &ids).Error
	if err != nil || len(ids) == 0 {
		return err
	}
	for _, id := range ids {
		err := s.atomically(func(tx *gorm.DB) error {
			res := tx.Exec("UPDATE batches SET state = ?, ended_at = ?, revision = revision + 1 WHERE id = ? AND "+idle, Done, clock.Now(), id, Running, Waiting, Claimed)
			if res.Error != nil || res.RowsAffected == 0 {
				return res.Error
			}
			return tell(tx, BatchEnded, id)
		})
		if err != nil {
			return err
		}
	}
	return nil
}
