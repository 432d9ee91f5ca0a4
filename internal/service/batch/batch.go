// Package batch works on batches: each worker claims records whose turn it is,
// makes their documents and ends their turns. Any number of workers may run, in
// the service and on other machines; the database keeps them apart.
package batch

import (
	"cmp"
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"maps"
	"net"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"github.com/go-sql-driver/mysql"

	"oliveledger/internal/press"
	"oliveledger/internal/service/issue"
	"oliveledger/internal/service/store"
)

// Worker makes the documents of batches.
type Worker struct {
	Maker   *issue.Maker
	Log     *slog.Logger
	Name    string
	Threads int
	Lease   time.Duration // how long an item stays with a worker that gives no sign; 30 s when zero
	Idle    time.Duration // between two looks for work; 300 ms when zero
	held    held
	Made    atomic.Int64
	Lost    atomic.Int64 // items that failed
}

// maxTries is how often an item is begun before it has failed for good.
const maxTries = 5

// held are the items that a worker has claimed and not ended: by their numbers.
type held struct {
	mu    sync.Mutex
	items map[uint64]bool
}

func (h *held) take(list []store.Turn) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for _, t := range list {
		h.items[t.Item.ID] = true
	}
}

func (h *held) leave(t store.Turn) {
	h.mu.Lock()
	defer h.mu.Unlock()
	delete(h.items, t.Item.ID)
}

func (h *held) count() int {
	h.mu.Lock()
	defer h.mu.Unlock()
	return len(h.items)
}

func (h *held) list() []uint64 {
	h.mu.Lock()
	defer h.mu.Unlock()
	return slices.Collect(maps.Keys(h.items))
}

// Run works until ctx ends. Items that were claimed and not begun are given
// back then.
func (w *Worker) Run(ctx context.Context) {
	if w.Lease == 0 {
		w.Lease = 30 * time.Second
	}
	if w.Idle == 0 {
		w.Idle = 300 * time.Millisecond
	}
	w.held.items = map[uint64]bool{}
	turns, finished := make(chan store.Turn), make(chan store.Finished, 2*together)
	var threads, keeper sync.WaitGroup
	for range w.Threads {
		threads.Go(func() {
			for t := range turns {
				w.turn(ctx, t, finished)
			}
		})
	}
	// Items whose worker was lost are made one after the other, so that it is known which of them ends
	// another.
	ordered := make(chan store.Turn)
	threads.Go(func() {
		for t := range ordered {
			w.turn(ctx, t, finished)
		}
	})
	keeper.Go(func() { w.keep(finished) })
	held, stopHolding := context.WithCancel(context.WithoutCancel(ctx))
	go w.hold(held)
	w.hand(ctx, turns, ordered)
	close(turns)
	close(ordered)
	threads.Wait()
	close(finished)
	keeper.Wait()
	stopHolding()
	if err := w.Maker.Store.GiveBack(w.Name); err != nil {
		w.Log.Error("items could not be given back", "error", err)
	}
}

// hand claims items and hands them to the threads.
func (w *Worker) hand(ctx context.Context, turns, ordered chan<- store.Turn) {
	for ctx.Err() == nil {
		list, err := w.Maker.Store.Claim(w.Name, 8*w.Threads, w.Lease)
		if err != nil && ctx.Err() == nil {
			w.Log.Warn("no items could be claimed", "error", err)
		}
		w.held.take(list)
		for _, t := range list {
			to := turns
			if t.Item.Losses > 0 {
				to = ordered
			}
			select {
			case to <- t:
			case <-ctx.Done():
				return
			}
		}
		if err := w.Maker.Store.EndBatches(); err != nil && ctx.Err() == nil {
			w.Log.Warn("batches could not be ended", "error", err)
		}
		if len(list) > 0 {
			continue
		}
		select {
		case <-ctx.Done():
		case <-time.After(w.Idle):
		}
	}
}

// hold keeps what is claimed while the worker lives.
func (w *Worker) hold(ctx context.Context) {
	tick := time.NewTicker(w.Lease / 3)
	defer tick.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
			if err := w.Maker.Store.Hold(w.Name, w.held.list(), w.Lease); err != nil {
				w.Log.Warn("leases could not be made longer", "error", err)
			}
		}
	}
}

// turn makes one document.
func (w *Worker) turn(ctx context.Context, t store.Turn, finished chan<- store.Finished) {
	if ctx.Err() != nil {
		return // it is given back
	}
	var d *store.Document
	var err error
	if t.Item.Losses > 0 {
		err = w.Maker.Store.Begin(t)
	}
	if err == nil {
		d, err = w.make(context.WithoutCancel(ctx), t) // what has begun ends
	}
	switch {
	case errors.Is(err, press.ErrClosed): // it is given back
	case err != nil:
		w.fail(t, err, passing(err))
	default:
		finished <- store.Finished{Turn: t, Document: d}
	}
}

// Documents are kept together, in one transaction that waits for the disk once.
const (
	together = 32                     // at most
	wait     = 100 * time.Millisecond // of the first of them for the others
)

// keep ends the turns of items whose documents are set.
func (w *Worker) keep(finished <-chan store.Finished) {
	for f := range finished {
		list := w.more(f, finished)
		slices.SortFunc(list, func(a, b store.Finished) int { return cmp.Compare(a.Turn.Item.ID, b.Turn.Item.ID) }) // the ledger follows the records, as far as it can
		kept, err := w.Maker.Store.FinishAll(list)
		if err != nil {
			for _, f := range list {
				w.fail(f.Turn, err, true) // the pages are good, keeping them is not
			}
			continue
		}
		for _, f := range list {
			w.held.leave(f.Turn)
		}
		w.Made.Add(int64(kept))
	}
}

// more waits for the documents that are set at nearly the same time as the first.
func (w *Worker) more(first store.Finished, finished <-chan store.Finished) []store.Finished {
	list := []store.Finished{first}
	late := time.After(wait)
	for len(list) < together && len(list) < w.held.count() {
		select {
		case f, ok := <-finished:
			if !ok {
				return list
			}
			list = append(list, f)
		case <-late:
			return list
		}
	}
	return list
}

// fail ends a turn without a document, or gives it another try when what went wrong may pass. When that cannot be kept, the item is not held any
// more: its lease ends, and whoever is there takes it over.
func (w *Worker) fail(t store.Turn, why error, passes bool) {
	defer w.held.leave(t)
	if errors.Is(why, store.ErrLost) {
		return
	}
	pause := store.Never
	if passes && t.Item.Tries < maxTries {
		pause = backoff(t.Item.Tries)
	} else {
		w.Lost.Add(1)
	}
	if err := w.Maker.Store.Fail(t, why.Error(), pause); err != nil && !errors.Is(err, store.ErrLost) {
		w.Log.Error("a failure could not be kept", "batch", t.Batch.ID, "record", t.Item.Record, "error", err)
	}
}

// make sets a document.
func (w *Worker) make(ctx context.Context, t store.Turn) (d *store.Document, err error) {
	defer func() {
		if p := recover(); p != nil {
			err = fmt.Errorf("the document could not be made: %v", p)
		}
	}()
	if t.Record.ID == 0 {
		return nil, fmt.Errorf("record %d is not in the set any more", t.Item.Record)
	}
	tpl, err := w.Maker.Open(t.Batch.Template, t.Batch.Version)
	if err != nil {
		return nil, err
	}
	d, set := w.Maker.Prepare(ctx, issue.Order{Template: tpl, Record: t.Record.Number, Data: t.Record.Data, Set: t.Batch.RecordSetID, Batch: t.Batch.ID, Series: t.Batch.Series, Draft: t.Batch.Drafts, Shelf: t.Shelf, Author: t.Batch.Author, Person: t.Batch.PersonID})
	if t.Batch.Numbered() {
		d.TakeNumber(t.Number)
	}
	return d, d.SetNow(set)
}

// passing tells whether an error may be gone at the next try: those of the
// database and the network, not those of the record or template.
func passing(err error) bool {
	var db *mysql.MySQLError
	var network net.Error
	var unkept *issue.Unkept
	if errors.As(err, &db) || errors.As(err, &network) || errors.As(err, &unkept) {
		return true
	}
	return slices.ContainsFunc([]error{mysql.ErrInvalidConn, driver.ErrBadConn, sql.ErrConnDone, sql.ErrTxDone, io.EOF, io.ErrUnexpectedEOF}, func(e error) bool { return errors.Is(err, e) })
}

// backoff is how long an item waits after a number of tries.
func backoff(tries int) time.Duration { return time.Second << min(2*(tries-1), 8) }
