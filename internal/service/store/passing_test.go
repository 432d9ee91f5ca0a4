package store_test

import (
	"errors"
	"fmt"
	"testing"

	"github.com/go-sql-driver/mysql"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"oliveledger/internal/service/store"
)

// TestPassing tells errors after which a transaction can be begun again from those that stay.
func TestPassing(t *testing.T) {
	for _, test := range []struct {
		number  uint16
		message string
		passes  bool
	}{
		{1213, "Deadlock found when trying to get lock", true},
		{1205, "Lock wait timeout exceeded", true},
		{1047, "WSREP has not yet prepared node for application use", true},
		{1062, "Duplicate entry 'C-000123' for key 'documents_number'", false},
		{1064, "You have an error in your SQL syntax", false},
	} {
		err := fmt.Errorf("a row: %w", &mysql.MySQLError{Number: test.number, Message: test.message})
		assert.Equal(t, test.passes, store.Passing(err), test.message)
	}
	assert.False(t, store.Passing(nil))
	assert.False(t, store.Passing(errors.New("no such record")))
}

// TestTakenNamesTheKey asks that what the database said of a name that is in use is not lost.
func TestTakenNamesTheKey(t *testing.T) {
	st := open(t)
	require.NoError(t, st.AddSeries(&store.Series{Name: "cards", Pattern: "C-{number}", Next: 1}))
	err := st.AddSeries(&store.Series{Name: "cards", Pattern: "D-{number}", Next: 1})
	require.ErrorIs(t, err, gorm.ErrDuplicatedKey)
	var my *mysql.MySQLError
	require.ErrorAs(t, err, &my)
	assert.Contains(t, my.Message, "cards")
	assert.False(t, store.Passing(err))
}

// TestTwice tells a number that a series gives anew, as it was set back by hand, from a name that is in use.
func TestTwice(t *testing.T) {
	st := open(t)
	require.NoError(t, st.AddSeries(&store.Series{Name: "cards", Pattern: "C-{number}", Next: 1}))
	add := func() error {
		d := &store.Document{Name: "card.pdf", Series: "cards", State: store.Issued, RecordSHA256: store.SumOf("")}
		return st.Add(d, func(*store.Document) error { return nil })
	}
	require.NoError(t, add())
	require.NoError(t, st.DB().Exec("UPDATE series SET next = 1").Error)
	err := add()
	require.ErrorIs(t, err, store.ErrTaken)
	assert.True(t, store.Twice(err))
	assert.False(t, store.Twice(st.AddSeries(&store.Series{Name: "cards", Pattern: "D-{number}", Next: 1})))
	assert.False(t, store.Twice(nil))
}
