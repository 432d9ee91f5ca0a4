// Package batch works on batches: each worker claims records whose turn it is,
// makes their documents and ends their turns. Any number of workers may run, in
// the service and on other machines; the database keeps them apart.
package batch

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"sync"
	"sync/atomic"
	"time"

	"github.com/go-sql-driver/mysql"

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
	Made    atomic.Int64
	Lost    atomic.Int64 // items that failed
}

// maxTries is how often an item is begun before it has failed for good.
const maxTries = 5

// Run works until ctx ends. Items that were claimed and not begun are given
// back then.
func (w *Worker) Run(ctx context.Context) {
	if w.Lease == 0 {
		w.Lease = 30 * time.Second
	}
	if w.Idle == 0 {
		w.Idle = 300 * time.Millisecond
	}
	turns := make(chan store.Turn)
	var threads sync.WaitGroup
	for range w.Threads {
		threads.Go(func() {
			for t := range turns {
				w.turn(ctx, t)
			}
		})
	}
	held, stopHolding := context.WithCancel(context.WithoutCancel(ctx))
	go w.hold(held)
	w.hand(ctx, turns)
	close(turns)
	threads.Wait()
	stopHolding()
	if err := w.Maker.Store.GiveBack(w.Name); err != nil {
		w.Log.Error("items could not be given back", "error", err)
	}
}

// hand claims items and hands them to the threads.
func (w *Worker) hand(ctx context.Context, turns chan<- store.Turn) {
	for ctx.Err() == nil {
		list, err := w.Maker.Store.Claim(w.Name, 8*w.Threads, w.Lease)
		if err != nil && ctx.Err() == nil {
			w.Log.Warn("no items could be claimed", "error", err)
		}
		for _, t := range list {
			select {
			case turns <- t:
			case <-ctx.Done():
				return
			}
		}
		if len(list) > 0 {
			continue
		}
		if err := w.Maker.Store.EndBatches(); err != nil && ctx.Err() == nil {
			w.Log.Warn("batches could not be ended", "error", err)
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
			if err := w.Maker.Store.Hold(w.Name, w.Lease); err != nil {
				w.Log.Warn("leases could not be made longer", "error", err)
			}
		}
	}
}

// turn makes one document.
func (w *Worker) turn(ctx context.Context, t store.Turn) {
	if ctx.Err() != nil {
		return // it is given back
	}
	err := w.make(context.WithoutCancel(ctx), t) // what has begun ends
	switch {
	case err == nil:
		w.Made.Add(1)
		return
	case errors.Is(err, store.ErrLost):
		return
	}
	again := time.Time{}
	if passing(err) && t.Item.Tries < maxTries {
		again = time.Now().Add(backoff(t.Item.Tries))
	} else {
		w.Lost.Add(1)
	}
	if err := w.Maker.Store.Fail(t, err.Error(), again); err != nil && !errors.Is(err, store.ErrLost) {
		w.Log.Error("a failure could not be kept", "batch", t.Batch.ID, "record", t.Item.Record, "error", err)
	}
}

func (w *Worker) make(ctx context.Context, t store.Turn) (err error) {
	defer func() {
		if p := recover(); p != nil {
			err = fmt.Errorf("the document could not be made: %v", p)
		}
	}()
	tpl, err := w.Maker.Open(t.Batch.Template, t.Batch.Version)
	if err != nil {
		return err
	}
	row, err := w.Maker.Store.Record(t.Batch.RecordSetID, t.Item.Record)
	if err != nil {
		return fmt.Errorf("record %d: %w", t.Item.Record, err)
	}
	r, err := issue.Decode([]byte(row.Data), row.Number)
	if err != nil {
		return fmt.Errorf("record %d is not a JSON object: %w", row.Number, err)
	}
	d, set, err := w.Maker.Prepare(ctx, issue.Order{Template: tpl, Record: r, Set: t.Batch.RecordSetID, Batch: t.Batch.ID, Series: t.Batch.Series, Draft: t.Batch.Drafts, Author: t.Batch.Author})
	if err != nil {
		return err
	}
	return w.Maker.Store.Finish(t, d, set)
}

// passing tells whether an error may be gone at the next try: those of the
// database and the network, not those of the record or template.
func passing(err error) bool {
	var db *mysql.MySQLError
	var network net.Error
	return errors.As(err, &db) || errors.As(err, &network) || errors.Is(err, mysql.ErrInvalidConn)
}

// backoff is how long an item waits after a number of tries.
func backoff(tries int) time.Duration { return time.Second << min(2*(tries-1), 8) }
