package database

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// errOutOfStep is what a node says to every statement while it is not in step with its cluster.
var errOutOfStep = errors.New("WSREP has not yet prepared node for application use")

// node is a server that keeps a transaction open until it has understood how it ends, as MariaDB does.
type node struct {
	outOfStep bool
	opened    int
	kept      []string
}

func (n *node) Connect(context.Context) (driver.Conn, error) {
	n.opened++
	return &conn{wire: &session{node: n}}, nil
}
func (n *node) Driver() driver.Driver { return nil }

// session is one connection to it.
type session struct {
	wire // what no test needs
	node *node
	done []string // in the open transaction
	mark int      // a place in it
}

func (s *session) statement(text string) error {
	if s.node.outOfStep {
		return errOutOfStep
	}
	switch text {
	case "START TRANSACTION": // which ends the one before it
		s.node.kept, s.done = append(s.node.kept, s.done...), nil
	case "COMMIT":
		s.node.kept, s.done = append(s.node.kept, s.done...), nil
	case "ROLLBACK":
		s.done = nil
	case "SAVEPOINT a":
		s.mark = len(s.done)
	case "ROLLBACK TO SAVEPOINT a":
		s.done = s.done[:s.mark]
	default:
		s.done = append(s.done, text)
	}
	return nil
}

func (s *session) BeginTx(context.Context, driver.TxOptions) (driver.Tx, error) {
	return s, s.statement("START TRANSACTION")
}
func (s *session) Commit() error   { return s.statement("COMMIT") }
func (s *session) Rollback() error { return s.statement("ROLLBACK") }
func (s *session) ExecContext(_ context.Context, text string, _ []driver.NamedValue) (driver.Result, error) {
	return driver.ResultNoRows, s.statement(text)
}
func (s *session) CheckNamedValue(*driver.NamedValue) error { return nil }
func (s *session) ResetSession(context.Context) error       { return nil }
func (s *session) IsValid() bool                            { return true }
func (s *session) Close() error                             { s.done = nil; return nil }

// TestHalfATransactionIsNotKept goes on after a node could not be told how a transaction ends.
func TestHalfATransactionIsNotKept(t *testing.T) {
	for name, c := range map[string]struct {
		end  func(t *testing.T, n *node, tx *sql.Tx)
		kept []string
		new  bool // another connection is opened
	}{
		"taken back": {
			end: func(t *testing.T, _ *node, tx *sql.Tx) { require.NoError(t, tx.Rollback()) },
		},
		"kept": {
			end:  func(t *testing.T, _ *node, tx *sql.Tx) { require.NoError(t, tx.Commit()) },
			kept: []string{"document"},
		},
		"could not be taken back": {
			end: func(t *testing.T, n *node, tx *sql.Tx) {
				n.outOfStep = true
				_, err := tx.Exec("ledger row")
				require.ErrorIs(t, err, errOutOfStep)
				require.ErrorIs(t, tx.Rollback(), errOutOfStep)
			},
			new: true,
		},
		"could not be kept": {
			end: func(t *testing.T, n *node, tx *sql.Tx) {
				n.outOfStep = true
				require.ErrorIs(t, tx.Commit(), errOutOfStep)
			},
			new: true,
		},
		"a part could not be taken back": {
			end: func(t *testing.T, n *node, tx *sql.Tx) {
				_, err := tx.Exec("SAVEPOINT a")
				require.NoError(t, err)
				_, err = tx.Exec("half of a part")
				require.NoError(t, err)
				n.outOfStep = true
				_, err = tx.Exec("ROLLBACK TO SAVEPOINT a")
				require.ErrorIs(t, err, errOutOfStep)
				n.outOfStep = false
				require.ErrorContains(t, tx.Commit(), "nothing of it is kept")
			},
			new: true,
		},
		"a part was taken back": {
			end: func(t *testing.T, _ *node, tx *sql.Tx) {
				for _, text := range []string{"SAVEPOINT a", "a part", "ROLLBACK TO SAVEPOINT a"} {
					_, err := tx.Exec(text)
					require.NoError(t, err)
				}
				require.NoError(t, tx.Commit())
			},
			kept: []string{"document"},
		},
	} {
		t.Run(name, func(t *testing.T) {
			n := &node{}
			db := sql.OpenDB(n)
			db.SetMaxOpenConns(1) // the next transaction would get the same connection
			defer db.Close()
			tx, err := db.Begin()
			require.NoError(t, err)
			_, err = tx.Exec("document")
			require.NoError(t, err)
			c.end(t, n, tx)

			n.outOfStep = false
			tx, err = db.Begin()
			require.NoError(t, err)
			_, err = tx.Exec("next")
			require.NoError(t, err)
			require.NoError(t, tx.Commit())
			assert.Equal(t, append(c.kept, "next"), n.kept)
			assert.Equal(t, map[bool]int{false: 1, true: 2}[c.new], n.opened, "connections")
		})
	}
}

// TestTransactionThatCannotBegin does not use the connection again.
func TestTransactionThatCannotBegin(t *testing.T) {
	n := &node{outOfStep: true}
	db := sql.OpenDB(n)
	db.SetMaxOpenConns(1)
	defer db.Close()
	_, err := db.Begin()
	require.ErrorIs(t, err, errOutOfStep)
	n.outOfStep = false
	tx, err := db.Begin()
	require.NoError(t, err)
	require.NoError(t, tx.Commit())
	assert.Equal(t, 2, n.opened)
}
