package store_test

import (
	"errors"
	"fmt"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service/store"
	"oliveledger/record"
)

func TestRecordSets(t *testing.T) {
	st := open(t)
	set := &store.RecordSet{Name: "50%_boats"}
	require.NoError(t, st.AddRecords(set, func(visit func(string, []byte) error) error {
		for i := range 450 { // more than are written at once
			if err := visit(strings.Repeat("ä", 240)+fmt.Sprintf(" boat number %d", i+1), fmt.Appendf(nil, `{"n":%d}`, i+1)); err != nil {
				return err
			}
		}
		return nil
	}))
	assert.Equal(t, 450, set.Count)
	kept, err := st.RecordSet(set.ID)
	require.NoError(t, err)
	assert.Equal(t, 450, kept.Count)
	last, err := st.Record(set.ID, 450)
	require.NoError(t, err)
	assert.JSONEq(t, `{"n":450}`, last.Data)
	assert.Equal(t, 250, len([]rune(last.Label)), "a long name is cut")
	_, err = st.Record(set.ID, 451)
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = st.Record(set.ID+1, 1)
	require.ErrorIs(t, err, store.ErrNotFound)

	list, n, err := st.Records(set.ID, `"n":45`, store.Page{Limit: 3})
	require.NoError(t, err)
	assert.Equal(t, int64(2), n, "45 and 450")
	assert.Equal(t, 45, list[0].Number)
	list, _, err = st.Records(set.ID, "", store.Page{Limit: 1, Sort: "-number"})
	require.NoError(t, err)
	assert.Equal(t, 450, list[0].Number)
	for search, want := range map[string]int64{"": 1, "50%_b": 1, "50 boats": 0, "5_%": 0} {
		_, n, err := st.RecordSets(search, store.Page{Limit: 5})
		require.NoError(t, err)
		assert.Equal(t, want, n, search)
	}

	row, err := st.SaveRecord(set.ID, 2, record.Record{Number: 2, Data: map[string]any{"name": "Gull"}}, `{"name":"Gull"}`, 1)
	require.NoError(t, err)
	assert.Equal(t, 2, row.Revision)
	assert.Equal(t, "record 2 (name Gull)", row.Label)
	_, err = st.SaveRecord(set.ID, 2, record.Record{}, `{}`, 1)
	require.ErrorIs(t, err, store.ErrChanged)
	row, err = st.AddRecord(set.ID, record.Record{Data: map[string]any{"name": "Tern"}}, `{"name":"Tern"}`)
	require.NoError(t, err)
	assert.Equal(t, 451, row.Number)
	kept, _ = st.RecordSet(set.ID)
	assert.Equal(t, 451, kept.Count)
	_, err = st.AddRecord(99, record.Record{}, "{}")
	require.ErrorIs(t, err, store.ErrNotFound)

	require.NoError(t, st.DropRecordSet(set.ID))
	_, n, err = st.Records(set.ID, "", store.Page{Limit: 1})
	require.NoError(t, err)
	assert.Zero(t, n)
}

// TestNoHalfSets: a file that ends in the middle, or holds nothing, leaves nothing.
func TestNoHalfSets(t *testing.T) {
	st := open(t)
	for says, each := range map[string]func(visit func(string, []byte) error) error{
		"there are no records in it": func(func(string, []byte) error) error { return nil },
		"the way was cut": func(visit func(string, []byte) error) error {
			return errors.Join(visit("a", []byte("{}")), errors.New("the way was cut"))
		},
	} {
		require.ErrorContains(t, st.AddRecords(&store.RecordSet{Name: "boats"}, each), says)
	}
	_, n, err := st.RecordSets("", store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Zero(t, n)
}

// TestSetsOfBatches: a set stays while a batch over it has not ended.
func TestSetsOfBatches(t *testing.T) {
	st := open(t)
	b := numbered(t, st, "", 2)
	require.ErrorContains(t, st.DropRecordSet(b.RecordSetID), "has not ended; wait for it or cancel it first")
	_, err := st.SetBatch(b.ID, 0, store.Paused, nil)
	require.NoError(t, err)
	require.ErrorContains(t, st.DropRecordSet(b.RecordSetID), "has not ended")
	_, err = st.SetBatch(b.ID, 0, store.Cancelled, nil)
	require.NoError(t, err)
	require.NoError(t, st.DropRecordSet(b.RecordSetID))
}

// TestFontShelf: a document knows the fonts of its time by the state of the shelf.
func TestFontShelf(t *testing.T) {
	st := open(t)
	state := func() int { n, err := st.Shelf(); require.NoError(t, err); return n }
	at := func(state int) (names []string) {
		list, err := st.FontsAt(state)
		require.NoError(t, err)
		for _, f := range list {
			names = append(names, f.File)
		}
		return names
	}
	assert.Zero(t, state())
	a, b := &store.ShelfFont{File: "a.ttf", Family: "Quay", SHA256: "a"}, &store.ShelfFont{File: "b.ttf", Family: "Lantern", SHA256: "b"}
	require.NoError(t, st.AddFont(a))
	require.NoError(t, st.AddFont(b))
	require.ErrorContains(t, st.AddFont(&store.ShelfFont{File: "again.ttf", SHA256: "b"}), "is there already")
	assert.Equal(t, 2, state())
	gone, err := st.WithdrawFont(a.ID)
	require.NoError(t, err)
	assert.Equal(t, 3, gone.Withdrawn)
	_, err = st.WithdrawFont(a.ID)
	require.ErrorIs(t, err, store.ErrNotFound)
	assert.Equal(t, [][]string{nil, {"a.ttf"}, {"a.ttf", "b.ttf"}, {"b.ttf"}}, [][]string{at(0), at(1), at(2), at(3)})
	list, n, err := st.Fonts(store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Equal(t, int64(1), n)
	assert.Equal(t, "b.ttf", list[0].File)
	require.NoError(t, st.AddFont(&store.ShelfFont{File: "a.ttf", SHA256: "a"}), "it may come back")
	assert.Equal(t, 4, state())
}

// TestAnswers: what was answered is kept for the same request, for a day.
func TestAnswers(t *testing.T) {
	st := open(t)
	fresh, err := st.BeginAnswer("key", "body")
	require.NoError(t, err)
	assert.Nil(t, fresh, "nobody has asked before")
	require.NoError(t, st.EndAnswer(store.Answer{Key: "key", Status: 201, Type: "application/json", Answer: []byte("{}")}))
	known, err := st.BeginAnswer("key", "another body")
	require.NoError(t, err)
	require.NotNil(t, known)
	assert.Equal(t, 201, known.Status)
	assert.Equal(t, "body", known.Body)
	require.NoError(t, st.ForgetAnswers())
	known, err = st.BeginAnswer("key", "body")
	require.NoError(t, err)
	require.NotNil(t, known, "it is not a day old")
	require.NoError(t, st.DB().Model(&store.Answer{}).Where("1 = 1").Update("created_at", time.Now().Add(-25*time.Hour)).Error)
	require.NoError(t, st.ForgetAnswers())
	fresh, err = st.BeginAnswer("key", "body")
	require.NoError(t, err)
	assert.Nil(t, fresh)
	again, err := st.BeginAnswer("key", "new")
	require.NoError(t, err)
	assert.Nil(t, again, "the first was ended in the middle")
}

// TestEvents: what is done is told with what tells of it, or neither.
func TestEvents(t *testing.T) {
	st := open(t)
	for i, do := range []func(func(*store.Store) (store.Event, error)) error{st.Act, st.Once} {
		require.NoError(t, do(func(in *store.Store) (store.Event, error) {
			return store.Event{Who: "ida", Action: "value.shared", Kind: "value", Ref: strconv.Itoa(i), Detail: strings.Repeat("ä", 600)}, in.Share("a", strconv.Itoa(i))
		}))
		require.ErrorContains(t, do(func(in *store.Store) (store.Event, error) {
			return store.Event{Who: "jon"}, errors.Join(in.Share("a", "lost"), errors.New("no"))
		}), "no")
		value, err := st.SharedValue("a")
		require.NoError(t, err)
		assert.Equal(t, strconv.Itoa(i), value)
	}
	value, err := st.SharedValue("none")
	require.NoError(t, err)
	assert.Empty(t, value)
	list, n, err := st.Events("", "", "", store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Equal(t, int64(2), n)
	assert.Equal(t, "1", list[0].Ref, "the newest first")
	assert.Equal(t, 500, len([]rune(list[0].Detail)))
	for _, c := range []struct {
		kind, ref, who string
		want           int64
	}{{"value", "", "", 2}, {"other", "", "", 0}, {"", "1", "", 1}, {"", "", "ida", 2}, {"", "", "jon", 0}, {"value", "0", "ida", 1}} {
		_, n, err := st.Events(c.kind, c.ref, c.who, store.Page{Limit: 5})
		require.NoError(t, err)
		assert.Equal(t, c.want, n, "%+v", c)
	}
	first, _, err := st.Events("", "", "", store.Page{Limit: 5, After: list[0].ID})
	require.NoError(t, err)
	assert.Len(t, first, 1, "those before it")
}
