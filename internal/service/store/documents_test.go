package store_test

import (
	"errors"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service/store"
)

// TestStatesOfADocument goes the way from draft to void, and tries what is not allowed on it.
func TestStatesOfADocument(t *testing.T) {
	st := open(t)
	require.NoError(t, st.AddSeries(&store.Series{Name: "bills", Pattern: "B-{number}", Next: 1}))
	d := &store.Document{Name: "a.pdf", State: store.Drafted, Series: "bills", Author: "ida@harbour.test", PersonID: 4, CreatedAt: time.Now()}
	sets := 0
	set := func(d *store.Document) error { sets++; d.Pages = 2; return nil }
	require.NoError(t, st.Add(d, set))
	assert.Equal(t, 1, sets)
	assert.Empty(t, d.Number, "a draft has none")
	_, n, err := st.Entries(d.ID, store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Zero(t, n, "nor a row in the ledger")

	_, err = st.IssueApproved(d.ID, 0, set)
	require.ErrorContains(t, err, "is draft; only an approved one can be issued")
	for name, c := range map[string]struct {
		who    string
		person uint64
		says   string
	}{"nobody": {"key", 0, "nobody is behind this key"}, "the author": {"ida@harbour.test", 9, "was made by you"}, "the author's person": {"a key", 4, "was made by you"}} {
		_, err = st.Approve(d.ID, 0, c.who, c.person)
		require.ErrorContains(t, err, c.says, name)
	}
	_, err = st.Approve(d.ID, 7, "jon@harbour.test", 5)
	require.ErrorIs(t, err, store.ErrChanged)
	approved, err := st.Approve(d.ID, 1, "jon@harbour.test", 5)
	require.NoError(t, err)
	assert.Equal(t, store.Approved, approved.State)
	assert.Equal(t, "jon@harbour.test", approved.Approver)
	assert.Equal(t, 2, approved.Revision)
	_, err = st.Approve(d.ID, 0, "jon@harbour.test", 5)
	require.ErrorContains(t, err, "only a draft can be approved")

	_, err = st.IssueApproved(d.ID, 0, func(*store.Document) error { return errors.New("a font is gone") })
	require.ErrorContains(t, err, "a font is gone")
	now, err := st.Document(d.ID)
	require.NoError(t, err)
	assert.Equal(t, store.Approved, now.State, "nothing has changed")
	issued, err := st.IssueApproved(d.ID, 0, set)
	require.NoError(t, err)
	assert.Equal(t, "B-1", issued.Number, "the one that failed has left no gap")
	assert.NotNil(t, issued.IssuedAt)
	_, n, err = st.Entries(d.ID, store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Equal(t, int64(1), n)

	void, err := st.MakeVoid(d.ID, 0, "jon", "a wrong name")
	require.NoError(t, err)
	assert.Equal(t, "a wrong name", void.Reason)
	_, err = st.MakeVoid(d.ID, 0, "jon", "again")
	require.ErrorContains(t, err, "is void already")
	rows, n, err := st.Entries(d.ID, store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Equal(t, int64(2), n)
	was, is, err := st.Standing(void)
	require.NoError(t, err)
	assert.True(t, was && is, "%+v", rows)
	_, err = st.MakeVoid(99, 0, "jon", "x")
	require.ErrorIs(t, err, store.ErrNotFound)

	draft := &store.Document{Name: "b.pdf", State: store.Drafted, CreatedAt: time.Now()}
	require.NoError(t, st.Add(draft, nil))
	_, err = st.MakeVoid(draft.ID, 0, "jon", "not needed")
	require.NoError(t, err)
	_, n, err = st.Entries(draft.ID, store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Zero(t, n, "what was never issued is not in the ledger")
}

// TestAddAll keeps the documents whose pages can be set; the number of one that fails goes to the next.
func TestAddAll(t *testing.T) {
	st := open(t)
	require.NoError(t, st.AddSeries(&store.Series{Name: "bills", Pattern: "B-{number}", Next: 1}))
	no := errors.New("no")
	keeping := func(series string, err error) *store.Keeping {
		return &store.Keeping{Document: &store.Document{Name: "x.pdf", State: store.Issued, Series: series, RecordSHA256: store.SumOf(""), CreatedAt: time.Now()}, Set: func(*store.Document) error { return err }}
	}
	list := []*store.Keeping{keeping("bills", nil), keeping("bills", no), keeping("bills", nil), keeping("", nil), keeping("", no), {Document: &store.Document{}, Err: no}}
	require.NoError(t, st.AddAll(list))
	var numbers []string
	for _, k := range list {
		numbers = append(numbers, k.Number)
	}
	assert.Equal(t, []string{"B-1", "B-2", "B-2", "", "", ""}, numbers)
	_, n, err := st.Documents(store.DocumentFilter{}, store.Page{Limit: 9})
	require.NoError(t, err)
	assert.Equal(t, int64(3), n)
	for i, kept := range []bool{true, false, true, true, false, false} {
		assert.Equal(t, kept, list[i].ID != 0, i)
	}
	require.NoError(t, st.AddAll([]*store.Keeping{{Document: &store.Document{}, Err: no}}), "none is no fault")
	require.NoError(t, st.AddAll(nil))

	last := keeping("bills", no)
	require.NoError(t, st.AddAll([]*store.Keeping{last}))
	require.ErrorIs(t, last.Err, no)
	next := keeping("bills", nil)
	require.NoError(t, st.AddAll([]*store.Keeping{next}))
	assert.Equal(t, "B-3", next.Number, "a number that was left is given first")
	require.Error(t, st.AddAll([]*store.Keeping{keeping("nowhere", nil)}))
	assert.Empty(t, faults(t, st))
}

// TestDocumentFilters: each narrows the list down.
func TestDocumentFilters(t *testing.T) {
	st := open(t)
	day := time.Date(2026, 5, 1, 12, 0, 0, 0, time.UTC)
	for i, d := range []store.Document{
		{Name: "a.pdf", Template: "card", State: store.Issued, Code: "abc"}, {Name: "b.pdf", Template: "bill", State: store.Drafted, BatchID: 3}, {Name: "c.pdf", Template: "bill", State: store.Issued, Pages: 4},
	} {
		d.CreatedAt = day.AddDate(0, 0, i)
		require.NoError(t, st.Add(&d, nil))
	}
	for _, c := range []struct {
		name string
		f    store.DocumentFilter
		want string
	}{
		{"none", store.DocumentFilter{}, "c.pdf b.pdf a.pdf "},
		{"template", store.DocumentFilter{Template: "bill"}, "c.pdf b.pdf "},
		{"state", store.DocumentFilter{State: store.Issued}, "c.pdf a.pdf "},
		{"batch", store.DocumentFilter{Batch: 3}, "b.pdf "},
		{"from", store.DocumentFilter{From: day.AddDate(0, 0, 1)}, "c.pdf b.pdf "},
		{"to", store.DocumentFilter{To: day.AddDate(0, 0, 1)}, "a.pdf "},
		{"text", store.DocumentFilter{Search: "b.p"}, "b.pdf "},
	} {
		list, n, err := st.Documents(c.f, store.Page{Limit: 9})
		require.NoError(t, err, c.name)
		names := ""
		for _, d := range list {
			names += d.Name + " "
		}
		assert.Equal(t, c.want, names, c.name)
		assert.Equal(t, int64(len(list)), n, c.name)
	}
	d, err := st.DocumentByCode("abc")
	require.NoError(t, err)
	assert.Equal(t, "a.pdf", d.Name)
	_, err = st.DocumentByCode("")
	require.ErrorIs(t, err, store.ErrNotFound, "many have none")
	_, _, err = st.Documents(store.DocumentFilter{}, store.Page{Sort: "name", After: 1})
	require.ErrorIs(t, err, store.ErrAfter)
}

// TestKeepingTimes: what has run out is erased, unless it is held.
func TestKeepingTimes(t *testing.T) {
	st := open(t)
	now := time.Date(2026, 5, 1, 0, 0, 0, 0, time.UTC)
	before, after := now.Add(-time.Hour), now.Add(time.Hour)
	var ids []uint64
	for _, until := range []*time.Time{&before, &before, &after, nil, &now} {
		d := &store.Document{Name: "a.pdf", State: store.Issued, KeepUntil: until, Data: `{"a":1}`, Findings: "[]", CreatedAt: now}
		require.NoError(t, st.Add(d, nil))
		ids = append(ids, d.ID)
	}
	out := func(after uint64, n int) (found []uint64) {
		list, err := st.RunOut(now, after, n)
		require.NoError(t, err)
		for _, d := range list {
			found = append(found, d.ID)
		}
		return found
	}
	assert.Equal(t, []uint64{ids[0], ids[1], ids[4]}, out(0, 9))
	assert.Equal(t, ids[:1], out(0, 1))
	assert.Equal(t, []uint64{ids[4]}, out(ids[1], 9))

	_, err := st.HoldDocument(ids[1], 0, "")
	require.ErrorContains(t, err, "is not held")
	held, err := st.HoldDocument(ids[1], 0, "a claim")
	require.NoError(t, err)
	assert.Equal(t, "a claim", held.Hold)
	assert.Equal(t, []uint64{ids[0], ids[4]}, out(0, 9))
	for _, id := range ids[1:4] {
		_, err = st.Erase(id, now)
		require.ErrorContains(t, err, "must be kept")
	}
	gone, err := st.Erase(ids[0], now)
	require.NoError(t, err)
	assert.NotNil(t, gone.ErasedAt)
	kept, err := st.Document(ids[0])
	require.NoError(t, err)
	assert.Empty(t, kept.Data+kept.Findings)
	_, err = st.Erase(ids[0], now)
	require.ErrorContains(t, err, "must be kept", "once is enough")
	_, err = st.HoldDocument(ids[0], 0, "too late")
	require.ErrorContains(t, err, "was erased on 2026-05-01")
	_, err = st.Erase(ids[4], now)
	require.NoError(t, err, "the very moment counts")
	let, err := st.HoldDocument(ids[1], 0, "")
	require.NoError(t, err)
	assert.Empty(t, let.Hold)
}

// TestPassedNumbers: numbers that are left out by hand are no gap, and those that were given are not given again.
func TestPassedNumbers(t *testing.T) {
	st := open(t)
	x := &store.Series{Name: "bills", Pattern: "B-{number}", Next: 5}
	require.NoError(t, st.AddSeries(x))
	require.ErrorIs(t, st.AddSeries(&store.Series{Name: "bills", Pattern: "C-{number}", Next: 1}), store.ErrTaken)
	passed := func() (list []store.Passed) {
		require.NoError(t, st.DB().Order("first").Find(&list).Error)
		return list
	}
	require.Len(t, passed(), 1)
	assert.Equal(t, []int{1, 4}, []int{passed()[0].First, passed()[0].Last})
	yes := true
	y, err := st.SaveSeries(x.ID, 1, "", 0, &yes)
	require.NoError(t, err)
	assert.True(t, y.Approval)
	assert.Equal(t, "B-{number}", y.Pattern)
	y, err = st.SaveSeries(x.ID, 0, "D-{number}", 5, nil)
	require.NoError(t, err)
	assert.True(t, y.Approval, "what is not told stays")
	assert.Equal(t, "D-{number}", y.Pattern)
	assert.Len(t, passed(), 1, "the same number leaves nothing out")
	_, err = st.SaveSeries(x.ID, 0, "", 4, nil)
	require.ErrorContains(t, err, "has given numbers up to 4; the next cannot be 4")
	_, err = st.SaveSeries(x.ID, 1, "", 9, nil)
	require.ErrorIs(t, err, store.ErrChanged)
	assert.Len(t, passed(), 1, "nothing is left of what was not kept")
	_, err = st.SaveSeries(x.ID, 0, "", 9, nil)
	require.NoError(t, err)
	require.Len(t, passed(), 2)
	assert.Equal(t, []int{5, 8}, []int{passed()[1].First, passed()[1].Last})
	found, err := st.SeriesNamed("bills")
	require.NoError(t, err)
	assert.Equal(t, 9, found.Next)
	plain := &store.Series{Name: "cards", Pattern: "C-{number}", Next: 1}
	require.NoError(t, st.AddSeries(plain))
	assert.Len(t, passed(), 2)
	list, n, err := st.SeriesList(store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Equal(t, int64(2), n)
	assert.Equal(t, "bills", list[0].Name)
}
