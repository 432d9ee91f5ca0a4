package database

import (
	"context"
	"database/sql/driver"
	"fmt"
	"strings"
)

// wire is what a connection of the driver can do.
type wire interface {
	driver.Conn
	driver.ConnBeginTx
	driver.ConnPrepareContext
	driver.ExecerContext
	driver.QueryerContext
	driver.NamedValueChecker
	driver.Pinger
	driver.SessionResetter
	driver.Validator
}

// conn is a connection that is not used again after a transaction whose end failed. A node that is out of
// step with its cluster refuses ROLLBACK as well, and leaves the transaction open: once it is in step again,
// the next START TRANSACTION on that connection would commit the half that was done.
type conn struct {
	wire
	open error // why a transaction, or a part of one, could not be taken back; nil while all is well
}

// BeginTx begins a transaction whose end is watched.
func (c *conn) BeginTx(ctx context.Context, opts driver.TxOptions) (driver.Tx, error) {
	t, err := c.wire.BeginTx(ctx, opts)
	if err != nil {
		c.open = err
		return nil, err
	}
	return tx{t, c}, nil
}

// ExecContext does a statement. Where a part of a transaction could not be taken back, all of it must be.
func (c *conn) ExecContext(ctx context.Context, query string, args []driver.NamedValue) (driver.Result, error) {
	res, err := c.wire.ExecContext(ctx, query, args)
	if err != nil && strings.HasPrefix(query, "ROLLBACK TO") {
		c.open = err
	}
	return res, err
}

// IsValid tells whether the connection may be used again.
func (c *conn) IsValid() bool { return c.open == nil && c.wire.IsValid() }

// tx is a transaction.
type tx struct {
	driver.Tx
	conn *conn
}

// Commit keeps what was done, or nothing.
func (t tx) Commit() error {
	if open := t.conn.open; open != nil {
		_ = t.Rollback() // the connection is closed, which ends the transaction too
		return fmt.Errorf("a part of the transaction could not be taken back, so nothing of it is kept: %w", open)
	}
	return t.ended(t.Tx.Commit())
}

// Rollback takes back what was done.
func (t tx) Rollback() error { return t.ended(t.Tx.Rollback()) }

func (t tx) ended(err error) error {
	if err != nil {
		t.conn.open = err
	}
	return err
}
