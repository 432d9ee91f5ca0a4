package store_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service"
	"oliveledger/internal/service/store"
)

// open starts a store with a database of its own, and no workers.
func open(t *testing.T) *store.Store {
	t.Helper()
	b, err := service.OpenBase(context.Background(), service.Config{Data: t.TempDir()})
	require.NoError(t, err)
	t.Cleanup(b.Close)
	return b.Store
}

// numbered starts a batch of n records whose documents get numbers of a series.
func numbered(t *testing.T, st *store.Store, series string, n int) *store.Batch {
	t.Helper()
	set := &store.RecordSet{Name: "boats"}
	require.NoError(t, st.AddRecords(set, func(visit func(string, []byte) error) error {
		for i := range n {
			if err := visit(fmt.Sprint("boat ", i+1), []byte(`{}`)); err != nil {
				return err
			}
		}
		return nil
	}))
	b := &store.Batch{Template: "card", Version: 1, RecordSetID: set.ID, Series: series, Author: "keeper"}
	require.NoError(t, st.StartBatch(b, nil))
	return b
}

func claim(t *testing.T, st *store.Store, worker string, n int) []store.Turn {
	t.Helper()
	turns, err := st.Claim(worker, n, time.Minute)
	require.NoError(t, err)
	return turns
}

// made is a turn with its document, as a worker has set it.
func made(turn store.Turn) store.Finished {
	d := &store.Document{
		Name: "card.pdf", BatchID: turn.Batch.ID, Record: turn.Record.Number, Series: turn.Batch.Series, Data: turn.Record.Data, RecordSHA256: store.SumOf(turn.Record.Data),
		State: store.Issued, Author: "keeper", CreatedAt: time.Now(),
	}
	d.TakeNumber(turn.Number)
	return store.Finished{Turn: turn, Document: d}
}

func finish(t *testing.T, st *store.Store, turns []store.Turn) {
	t.Helper()
	list := make([]store.Finished, len(turns))
	for i, turn := range turns {
		list[i] = made(turn)
	}
	kept, err := st.FinishAll(list)
	require.NoError(t, err)
	require.Equal(t, len(turns), kept)
}

// numbersOf are the numbers of a batch's documents by their records.
func numbersOf(t *testing.T, st *store.Store, batch uint64) map[int]string {
	t.Helper()
	out := map[int]string{}
	require.NoError(t, st.EachDocument(batch, func(d store.Document) error { out[d.Record] = d.Number; return nil }))
	return out
}

func faults(t *testing.T, st *store.Store) []store.Fault {
	t.Helper()
	v, err := st.Verify(1, func(string) error { return nil })
	require.NoError(t, err)
	return v.Faults
}

// TestNumbersOfGroups follows numbers that are drawn when items are claimed.
func TestNumbersOfGroups(t *testing.T) {
	st := open(t)
	require.NoError(t, st.AddSeries(&store.Series{Name: "cards", Pattern: "C-{number:3}", Next: 1}))

	t.Run("several workers keep the order of the records", func(t *testing.T) {
		b := numbered(t, st, "cards", 60)
		var workers sync.WaitGroup
		for w := range 4 {
			workers.Go(func() {
				for {
					turns, err := st.Claim(fmt.Sprint("worker ", w), 1+rand.IntN(5), time.Minute)
					if !assert.NoError(t, err) || len(turns) == 0 {
						return
					}
					list := make([]store.Finished, len(turns))
					for i, turn := range turns {
						list[i] = made(turn)
					}
					kept, err := st.FinishAll(list)
					if !assert.NoError(t, err) || !assert.Equal(t, len(list), kept) {
						return
					}
				}
			})
		}
		workers.Wait()
		got := numbersOf(t, st, b.ID)
		require.Len(t, got, 60)
		for record, number := range got {
			assert.Equal(t, fmt.Sprintf("C-%03d", record), number)
		}
		assert.Empty(t, faults(t, st))
	})

	t.Run("what fails gives its number to the next", func(t *testing.T) {
		b := numbered(t, st, "cards", 3)
		first := claim(t, st, "w", 2)
		require.Equal(t, "C-061", first[0].Number.Number)
		require.NoError(t, st.Fail(first[0], "no such field", store.Never))
		assert.Empty(t, faults(t, st), "a number that waits is no gap")
		finish(t, st, first[1:])
		finish(t, st, claim(t, st, "w", 2))
		assert.Equal(t, map[int]string{2: "C-062", 3: "C-061"}, numbersOf(t, st, b.ID))
		assert.Empty(t, faults(t, st))
	})

	t.Run("another try has the same number", func(t *testing.T) {
		b := numbered(t, st, "cards", 2)
		first := claim(t, st, "w", 2)
		require.NoError(t, st.Fail(first[0], "the network", 0))
		finish(t, st, first[1:])
		again := claim(t, st, "other", 2)
		require.Len(t, again, 1)
		assert.Equal(t, first[0].Number.Number, again[0].Number.Number)
		finish(t, st, again)
		assert.Equal(t, map[int]string{1: "C-063", 2: "C-064"}, numbersOf(t, st, b.ID))
	})

	t.Run("what was taken over has one document", func(t *testing.T) {
		b := numbered(t, st, "cards", 1)
		slow, err := st.Claim("slow", 1, -time.Second)
		require.NoError(t, err)
		quick := claim(t, st, "quick", 1)
		require.Len(t, quick, 1)
		assert.Equal(t, slow[0].Number.Number, quick[0].Number.Number)
		finish(t, st, quick)
		kept, err := st.FinishAll([]store.Finished{made(slow[0])})
		require.NoError(t, err)
		assert.Zero(t, kept)
		assert.Equal(t, map[int]string{1: "C-065"}, numbersOf(t, st, b.ID))
	})

	t.Run("a cancelled batch gives its numbers back", func(t *testing.T) {
		b := numbered(t, st, "cards", 2)
		claim(t, st, "w", 2)
		require.NoError(t, st.GiveBack("w"))
		_, err := st.SetBatch(b.ID, 0, store.Cancelled, nil)
		require.NoError(t, err)
		require.NoError(t, st.EndBatches())
		next := numbered(t, st, "cards", 2)
		finish(t, st, claim(t, st, "w", 2))
		assert.Equal(t, map[int]string{1: "C-066", 2: "C-067"}, numbersOf(t, st, next.ID))
		assert.Empty(t, faults(t, st))
	})

	t.Run("one that is made alone takes a free number, too", func(t *testing.T) {
		numbered(t, st, "cards", 1)
		failed := claim(t, st, "w", 1)
		require.NoError(t, st.Fail(failed[0], "no such field", store.Never))
		d := &store.Document{Name: "card.pdf", Series: "cards", State: store.Issued, RecordSHA256: store.SumOf("")}
		require.NoError(t, st.Add(d, func(*store.Document) error { return nil }))
		assert.Equal(t, failed[0].Number.Number, d.Number)
		assert.Empty(t, faults(t, st))
	})
}

// TestFreeNumbersAreGivenOnce has many workers fail and go on at the same time: each number ends up
// with one document.
func TestFreeNumbersAreGivenOnce(t *testing.T) {
	st := open(t)
	require.NoError(t, st.AddSeries(&store.Series{Name: "cards", Pattern: "C-{number}", Next: 1}))
	const n = 200
	b := numbered(t, st, "cards", n)
	var workers sync.WaitGroup
	for w := range 4 {
		workers.Go(func() {
			for {
				turns, err := st.Claim(fmt.Sprint("worker ", w), 1+rand.IntN(6), time.Minute)
				if !assert.NoError(t, err) || len(turns) == 0 {
					return
				}
				var list []store.Finished
				for _, turn := range turns {
					if turn.Record.Number%3 == 0 {
						assert.NoError(t, st.Fail(turn, "no such field", store.Never))
					} else {
						list = append(list, made(turn))
					}
				}
				_, err = st.FinishAll(list)
				assert.NoError(t, err)
			}
		})
	}
	workers.Wait()
	numbers := map[string]bool{}
	for _, number := range numbersOf(t, st, b.ID) {
		numbers[number] = true
	}
	assert.Len(t, numbers, n-n/3)
	assert.Empty(t, faults(t, st))
}

// TestNumbersOfYears holds numbers to the year that they were drawn in.
func TestNumbersOfYears(t *testing.T) {
	drawn := time.Date(time.Now().UTC().Year()-1, 12, 31, 23, 59, 59, 0, time.UTC)
	d := &store.Document{State: store.Issued}
	d.TakeNumber(store.Drawn{Number: "C-9", At: drawn})
	assert.Equal(t, drawn, *d.IssuedAt, "it was issued in the year that its number says")
	d.TakeNumber(store.Drawn{Number: "C-10", At: time.Now()})
	assert.WithinDuration(t, time.Now(), *d.IssuedAt, 2*time.Second)
}

// TestPagesAfter goes through a list page by page, from the last row of each.
func TestPagesAfter(t *testing.T) {
	st := open(t)
	require.NoError(t, st.AddSeries(&store.Series{Name: "cards", Pattern: "C-{number}", Next: 1}))
	numbered(t, st, "cards", 7)
	finish(t, st, claim(t, st, "w", 7))
	var seen []uint64
	for p := (store.Page{Limit: 3}); ; p.After = seen[len(seen)-1] {
		list, total, err := st.Documents(store.DocumentFilter{Search: "card"}, p)
		require.NoError(t, err)
		if p.After == 0 {
			assert.EqualValues(t, 7, total)
		}
		for _, d := range list {
			seen = append(seen, d.ID)
		}
		if len(list) < 3 {
			break
		}
	}
	assert.Equal(t, []uint64{7, 6, 5, 4, 3, 2, 1}, seen)
	list, _, err := st.Documents(store.DocumentFilter{}, store.Page{Limit: 1, After: 2, Sort: "id"})
	require.NoError(t, err)
	assert.EqualValues(t, 3, list[0].ID, "in the other direction")
	_, _, err = st.Documents(store.DocumentFilter{}, store.Page{Limit: 3, After: 2, Sort: "name"})
	assert.ErrorIs(t, err, store.ErrAfter)
}

// TestMissingNumbers asks that verification names each gap, and none that is meant.
func TestMissingNumbers(t *testing.T) {
	st := open(t)
	year := time.Now().UTC().Year()
	require.NoError(t, st.AddSeries(&store.Series{Name: "bills", Pattern: "B-{year}-{number:2}", Next: 5}))
	numbered(t, st, "bills", 4)
	finish(t, st, claim(t, st, "w", 4))
	x, err := st.SeriesNamed("bills")
	require.NoError(t, err)
	require.Equal(t, 9, x.Next)
	assert.Empty(t, faults(t, st), "it began at 5")
	_, err = st.SaveSeries(x.ID, 0, "", 20, nil)
	require.NoError(t, err)
	numbered(t, st, "bills", 1)
	finish(t, st, claim(t, st, "w", 1))
	assert.Empty(t, faults(t, st), "numbers were passed over on purpose")

	require.NoError(t, st.DB().Exec("UPDATE documents SET number = NULL WHERE number IN (?, ?)", fmt.Sprintf("B-%d-06", year), fmt.Sprintf("B-%d-07", year)).Error)
	list := faults(t, st)
	assert.Contains(t, list[len(list)-1].Message, fmt.Sprintf("the numbers B-%d-06 to B-%d-07 are missing", year, year))
	require.NoError(t, st.DB().Exec("UPDATE documents SET number = ? WHERE number IS NULL LIMIT 1", fmt.Sprintf("B-%d-06", year)).Error)
	list = faults(t, st)
	assert.Contains(t, list[len(list)-1].Message, fmt.Sprintf("the number B-%d-07 is missing", year))
	require.NoError(t, st.DB().Exec("UPDATE documents SET number = ? WHERE number IS NULL", fmt.Sprintf("B-%d-07", year)).Error)
	assert.Empty(t, faults(t, st))
	require.NoError(t, st.DB().Exec("UPDATE series SET year = year + 1").Error)
	list = faults(t, st)
	require.Len(t, list, 1)
	assert.Contains(t, list[0].Message, "the counter has been changed")
}

// TestRules tries what the database itself refuses, whoever asks for it.
func TestRules(t *testing.T) {
	st := open(t)
	require.NoError(t, st.AddSeries(&store.Series{Name: "cards", Pattern: "C-{number}", Next: 1}))
	numbered(t, st, "cards", 2)
	finish(t, st, claim(t, st, "w", 2))
	for try, want := range map[string]string{
		"UPDATE ledger SET pages = 9":        "rows of the ledger are never changed",
		"DELETE FROM ledger":                 "rows of the ledger are never deleted",
		"DELETE FROM documents WHERE id = 1": "violates foreign key constraint",

		"INSERT INTO ledger (id, kind, document_id) VALUES (3, 'issued', 99)":                                      "violates foreign key constraint",
		"INSERT INTO ledger (id, kind, document_id) VALUES (3, 'issued', 1)":                                       "duplicated key",
		"UPDATE documents SET number = 'C-1' WHERE id = 2":                                                         "duplicated key",
		"INSERT INTO documents (batch_id, record) SELECT batch_id, record FROM documents WHERE id=1":               "duplicated key",
		"UPDATE batch_items SET document_id = 99":                                                                  "violates foreign key constraint",
		"INSERT INTO shares (hash, document_id) VALUES ('x', 99)":                                                  "violates foreign key constraint",
		"INSERT INTO deliveries (document_id) VALUES (99)":                                                         "violates foreign key constraint",
		"INSERT INTO drawn_numbers (number, series, year, place, item_id, at) VALUES ('C-3','cards',0,3,99,NOW())": "violates foreign key constraint",
	} {
		err := st.DB().Exec(try).Error
		if assert.Error(t, err, try) {
			assert.ErrorContains(t, err, want, try)
		}
	}
	assert.Empty(t, faults(t, st))
}
