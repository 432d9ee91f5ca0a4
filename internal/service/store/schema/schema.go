// Package schema brings the tables of a database to the version that this program works with.
// Each file holds the statements of one step; steps that were released are not changed any more.
package schema

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/go-sql-driver/mysql"
	"github.com/pressly/goose/v3"
)

//go:embed *.sql
var steps embed.FS

// patience is how long a service waits for another one that brings the tables up to date.
const patience = 30 * time.Second

// Update runs the steps that a database lacks. One that a newer program has brought further is refused.
func Update(ctx context.Context, db *sql.DB) error { return UpdateTo(ctx, db, 0) }

// UpdateTo stops after a step; 0 is the last.
func UpdateTo(ctx context.Context, db *sql.DB, step int64) error {
	p, err := goose.NewProvider(goose.DialectMySQL, db, steps, goose.WithTableName("schema_steps"))
	if err != nil {
		return err
	}
	for deadline := time.Now().Add(patience); ; {
		done, known, err := p.GetVersions(ctx)
		if err != nil {
			return fmt.Errorf("the version of the tables cannot be read: %w", err)
		}
		if done > known {
			return fmt.Errorf("the tables are those of a newer version (step %d; this program knows %d): install that one, or restore a back-up from before", done, known)
		}
		if step == 0 {
			step = known
		}
		if done >= step {
			return nil
		}
		if err = up(ctx, db, p, step); err == nil {
			continue
		}
		// several services that start together stand in each other's way: one of them goes on
		if time.Now().After(deadline) || !is(err, another) {
			return fmt.Errorf("the tables could not be brought up to date: %w", explain(err))
		}
		time.Sleep(200 * time.Millisecond)
	}
}

// up runs steps while no other service does. A cluster knows no such lock, and runs changes of
// tables one after the other.
func up(ctx context.Context, db *sql.DB, p *goose.Provider, step int64) error {
	c, err := db.Conn(ctx)
	if err != nil {
		return err
	}
	defer c.Close()
	var got sql.NullInt64
	const lock = "olive-ledger-tables"
	if err := c.QueryRowContext(ctx, "SELECT GET_LOCK(?, ?)", lock, int(patience.Seconds())).Scan(&got); err == nil && got.Int64 == 1 {
		defer c.ExecContext(context.WithoutCancel(ctx), "DO RELEASE_LOCK(?)", lock)
	}
	_, err = p.UpTo(ctx, step)
	return err
}

// Faults of the server (MariaDB's error codes).
var (
	mayNot  = []uint16{1044, 1142, 1227, 1419}
	twice   = []uint16{1062}
	nowhere = []uint16{1452}
	another = []uint16{1050, 1060, 1061, 1205, 1213, 1359, 1826} // what another service has done meanwhile, or does
)

func is(err error, codes []uint16) bool {
	var e *mysql.MySQLError
	return errors.As(err, &e) && slices.Contains(codes, e.Number)
}

// explain says what to do about an error.
func explain(err error) error {
	switch {
	case is(err, mayNot):
		return fmt.Errorf("the database user may not change tables or create triggers; grant it ALL on the database and, where the server writes a binary log, set log_bin_trust_function_creators=1: %w", err)
	case is(err, twice):
		return fmt.Errorf("two documents have the same number, or a record has two in one batch; correct that with the version before: %w", err)
	case is(err, nowhere):
		return fmt.Errorf("a row names a document that does not exist; “olive ledger verify” of the version before tells which: %w", err)
	}
	return err
}
