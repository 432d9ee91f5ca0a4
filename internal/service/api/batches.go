package api

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"time"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/clock"
	"oliveledger/internal/service/issue"
	"oliveledger/internal/service/store"
	"oliveledger/typeset"
)

// BatchOrder asks for the documents of many records.
type BatchOrder struct {
	Template  string `json:"template"`          // that the documents are made of
	Version   int    `json:"version,omitempty"` // 0 for the newest
	RecordSet uint64 `json:"recordSet"`
	Records   []int  `json:"records,omitempty"`  // all of the set when empty
	Series    string `json:"series,omitempty"`   // series that gives the documents numbers; empty for none
	Draft     bool   `json:"draft,omitempty"`    // the documents wait to be approved
	Priority  int    `json:"priority,omitempty"` // the higher, the sooner
}

// BatchChange pauses, resumes or cancels a batch, or changes its priority.
type BatchChange struct {
	State    string `json:"state,omitempty" oneof:"running paused cancelled"` // running, paused or cancelled
	Priority *int   `json:"priority,omitempty"`                               // of batches, the highest goes first
}

// batchOrder reads what documents are to be made of, and opens the template.
func (a *API) batchOrder(c *echo.Context) (in BatchOrder, t *issue.Template, err error) {
	if in, err = read[BatchOrder](c); err != nil {
		return in, nil, err
	}
	if in.Template == "" || in.RecordSet == 0 {
		return in, nil, bad("a batch needs “template” and “recordSet”")
	}
	if err := within(c, in.Template, false); err != nil {
		return in, nil, err
	}
	if t, err = a.Maker.Open(in.Template, in.Version); err != nil {
		return in, nil, unprocessable(err)
	}
	if in.Draft, err = a.waits(c, t, in.Series, in.Draft); err != nil {
		return in, nil, unprocessable(err)
	}
	if _, err := a.Store.RecordSet(in.RecordSet); err != nil {
		return in, nil, unprocessableText("there is no record set %d", in.RecordSet)
	}
	return in, t, nil
}

func (a *API) startBatch(c *echo.Context) error {
	in, t, err := a.batchOrder(c)
	if err != nil {
		return err
	}
	b := store.Batch{Template: t.Name, Version: t.Version, RecordSetID: in.RecordSet, Series: in.Series, Drafts: in.Draft, Priority: in.Priority, Author: who(c).Email, PersonID: who(c).person}
	err = a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.StartBatch(&b, in.Records)
		return event("batch.started", "batch", b.ID, "%s version %d over record set %d: %d documents", b.Template, b.Version, b.RecordSetID, b.Total), err
	})
	if err != nil {
		return unprocessable(err)
	}
	return answer(c, http.StatusCreated, b.Revision, b)
}

// Trial is a document that a batch would make.
type Trial struct {
	Record   int               `json:"record"`           // its place in the set
	Number   string            `json:"number,omitempty"` // that it would get if nothing else is issued before; empty for none
	Name     string            `json:"name"`             // of the file
	Title    string            `json:"title"`            // of the document
	Pages    int               `json:"pages"`
	Findings []typeset.Finding `json:"findings"`        // what a person should know about the pages
	Error    string            `json:"error,omitempty"` // why it could not be made
}

// mostTried is how many documents a trial shows.
const mostTried = 10

// tryBatch sets the first documents of a batch, and keeps nothing.
func (a *API) tryBatch(c *echo.Context) error {
	in, t, err := a.batchOrder(c)
	if err != nil {
		return err
	}
	rows, err := a.firstRecords(in)
	if err != nil {
		return err
	}
	numbers := make([]string, len(rows))
	if in.Series != "" && !in.Draft {
		if numbers, err = a.Store.Foresee(in.Series, len(rows), clock.Now()); err != nil {
			return err
		}
	}
	leave, err := a.slot(c)
	if err != nil {
		return err
	}
	defer leave()
	out := List[Trial]{Items: []Trial{}, Total: int64(len(rows))}
	for i, r := range rows {
		o := issue.Order{Template: t, Record: r.Number, Data: r.Data, Set: in.RecordSet, Series: in.Series, Draft: in.Draft, Shelf: issue.Now, Author: who(c).Email}
		x := Trial{Record: r.Number, Number: numbers[i], Findings: []typeset.Finding{}}
		switch p, err := a.Maker.Try(c.Request().Context(), o, numbers[i]); {
		case c.Request().Context().Err() != nil:
			return c.Request().Context().Err()
		case err != nil:
			x.Error = err.Error()
		default:
			x.Name, x.Title, x.Pages, x.Findings = p.Name, p.Title, p.Document.Pages, append(x.Findings, p.Findings...)
		}
		out.Items = append(out.Items, x)
	}
	return c.JSON(http.StatusOK, out)
}

// firstRecords are those that a batch begins with.
func (a *API) firstRecords(in BatchOrder) ([]store.Record, error) {
	if len(in.Records) == 0 {
		rows, _, err := a.Store.Records(in.RecordSet, "", store.Page{Limit: mostTried})
		return rows, err
	}
	return a.recordsOf(in.RecordSet, slices.Sorted(slices.Values(in.Records))[:min(mostTried, len(in.Records))])
}

func (a *API) listBatches(c *echo.Context) error {
	return list(c, func(p store.Page) ([]store.Batch, int64, error) { return a.Store.Batches(c.QueryParam("state"), p) })
}

func (a *API) batch(c *echo.Context) (store.Batch, error) {
	b, err := find(c, a.Store.Batch)
	if err == nil {
		err = within(c, b.Template, false)
	}
	return b, err
}

func (a *API) getBatch(c *echo.Context) error {
	b, err := a.batch(c)
	if err != nil {
		return err
	}
	return answer(c, http.StatusOK, b.Revision, b)
}

func (a *API) changeBatch(c *echo.Context) error {
	id, rev, in, err := edit[BatchChange](c)
	if err != nil {
		return err
	}
	switch in.State {
	case "", store.Running, store.Paused, store.Cancelled:
	default:
		return bad("a batch can be made running, paused or cancelled, not %q", in.State)
	}
	var b store.Batch
	err = a.act(c, func(st *store.Store) (_ store.Event, err error) {
		b, err = st.SetBatch(id, rev, in.State, in.Priority)
		return event("batch."+b.State, "batch", b.ID, "priority %d", b.Priority), err
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusOK, b.Revision, b)
}

// retryBatch gives what failed another turn, with the records as they are now.
func (a *API) retryBatch(c *echo.Context) error {
	id, err := idParam(c, "id")
	if err != nil {
		return err
	}
	var b store.Batch
	err = a.act(c, func(st *store.Store) (_ store.Event, err error) {
		var n int64
		b, n, err = st.RetryFailed(id)
		return event("batch.retried", "batch", id, "%d documents", n), err
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusOK, b.Revision, b)
}

func (a *API) listItems(c *echo.Context) error {
	b, err := a.batch(c)
	if err != nil {
		return err
	}
	return list(c, func(p store.Page) ([]store.BatchItem, int64, error) {
		return a.Store.BatchItems(b.ID, c.QueryParam("state"), p)
	})
}

// step names how far a batch is, as the ID of the event that tells it.
func step(b store.Batch) string { return fmt.Sprintf("%d-%d-%d", b.Revision, b.Finished, b.Failures) }

// follow sends how far a batch is as server-sent events, until it ends. Who asks again after the line was cut
// hears what has changed since the event that came last.
func (a *API) follow(c *echo.Context) error {
	b, err := a.batch(c)
	if err != nil {
		return err
	}
	h := c.Response().Header()
	h.Set("Content-Type", "text/event-stream")
	h.Set("X-Accel-Buffering", "no")
	c.Response().WriteHeader(http.StatusOK)
	flush := http.NewResponseController(c.Response())
	last := c.Request().Header.Get("Last-Event-ID")
	for beat := 0; ; beat++ {
		if beat > 0 {
			if b, err = a.Store.Batch(b.ID); err != nil {
				return nil // the client asks again
			}
		}
		now, err := json.Marshal(b)
		if err != nil {
			return err
		}
		ended := b.State == store.Done || b.State == store.Cancelled
		switch {
		case step(b) != last:
			fmt.Fprintf(c.Response(), "event: progress\nid: %s\ndata: %s\n\n", step(b), now)
		case beat%50 == 0: // keeps the way open
			fmt.Fprint(c.Response(), ": still here\n\n")
		}
		last = step(b)
		if ended {
			fmt.Fprint(c.Response(), "event: end\ndata: {}\n\n")
		}
		if flush.Flush() != nil || ended {
			return nil
		}
		select {
		case <-c.Request().Context().Done():
			return nil
		case <-time.After(300 * time.Millisecond):
		}
	}
}
