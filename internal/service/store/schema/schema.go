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
	free, err := alone(ctx, db)
	if err != nil {
		return err
	}
	defer free()
	// where there is no lock, services that start together may stand in each other's way: one of them goes on
	for end := time.Now().Add(patience); ; time.Sleep(200 * time.Millisecond) {
		err = update(ctx, p, step)
		var newer *Newer
		if err == nil || errors.As(err, &newer) || is(err, mayNot) || time.Now().After(end) || !is(err, another) && !errors.Is(err, errUnread) {
			return explain(err)
		}
	}
}

// Newer is a database that a newer program has brought further than this one knows.
type Newer struct{ Has, Knows int64 }

func (n *Newer) Error() string {
	return fmt.Sprintf("the tables are those of a newer version (step %d; this program knows %d): install that one, or restore a back-up from before", n.Has, n.Knows)
}

var errUnread = errors.New("the version of the tables cannot be read")

func update(ctx context.Context, p *goose.Provider, step int64) error {
	has, knows, err := p.GetVersions(ctx)
	if err != nil {
		return fmt.Errorf("%w: %w", errUnread, err)
	}
	if step == 0 {
		step = knows
	}
	switch {
	case has > knows:
		return &Newer{has, knows}
	case has >= step:
		return nil
	}
	if _, err = p.UpTo(ctx, step); err != nil {
		return fmt.Errorf("the tables could not be brought up to date: %w", err)
	}
	return nil
}

// alone waits until no other service changes the tables. A cluster knows no such lock, and makes changes
// of tables one after the other.
func alone(ctx context.Context, db *sql.DB) (free func(), err error) {
	c, err := db.Conn(ctx)
	if err != nil {
		return nil, fmt.Errorf("the database does not answer: %w", err)
	}
	const lock = "olive-ledger-tables"
	if _, err := c.ExecContext(ctx, "DO GET_LOCK(?, ?)", lock, int(patience.Seconds())); err != nil {
		return func() { c.Close() }, nil
	}
	return func() {
		_, _ = c.ExecContext(context.WithoutCancel(ctx), "DO RELEASE_LOCK(?)", lock) // closing frees it as well
		c.Close()
	}, nil
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
