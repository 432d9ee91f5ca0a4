package database

import (
	"context"
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"strings"
	"sync"
	"time"

	"github.com/go-sql-driver/mysql"
)

// nodes connects to one of several servers that hold the same data: to the one that was reached last
// and, when that one does not answer, to the next.
type nodes struct {
	list  []driver.Connector
	names []string

	mu sync.Mutex
	at int // the one that was reached last
}

// patience is how long a node may take to answer when there are others.
const patience = 3 * time.Second

// newNodes takes a DSN whose address may be several, with commas between them.
func newNodes(dsn string) (*nodes, error) {
	before, addresses, after := "", "", dsn
	if at := strings.LastIndex(dsn, "@tcp("); at >= 0 {
		before = dsn[:at+len("@tcp(")]
		addresses, after, _ = strings.Cut(dsn[len(before):], ")")
		after = ")" + after
	}
	n := &nodes{}
	for _, address := range strings.Split(addresses, ",") { // each is a DSN of its own
		conf, err := mysql.ParseDSN(before + strings.TrimSpace(address) + after)
		if err != nil {
			return nil, fmt.Errorf("the address of the database is not user:password@tcp(host:3306)/name: %w", err)
		}
		if strings.Contains(addresses, ",") && conf.Timeout == 0 {
			conf.Timeout = patience
		}
		c, err := mysql.NewConnector(conf)
		if err != nil {
			return nil, err
		}
		n.list, n.names = append(n.list, c), append(n.names, conf.Addr)
	}
	return n, nil
}

// Connect opens a connection.
func (n *nodes) Connect(ctx context.Context) (driver.Conn, error) {
	n.mu.Lock()
	first := n.at
	n.mu.Unlock()
	var faults []error
	for i := range n.list {
		at := (first + i) % len(n.list)
		c, err := n.list[at].Connect(ctx)
		if err == nil {
			err = takesPart(ctx, c)
		}
		if err == nil {
			n.mu.Lock()
			n.at = at
			n.mu.Unlock()
			return &conn{wire: c.(wire)}, nil
		}
		faults = append(faults, fmt.Errorf("%s: %w", n.names[at], err))
		if ctx.Err() != nil {
			break
		}
	}
	return nil, unreachable{errors.Join(faults...)}
}

// unreachable is a network error: another try may find a node that answers.
type unreachable struct{ error }

func (u unreachable) Unwrap() error { return u.error }
func (unreachable) Timeout() bool   { return false }
func (unreachable) Temporary() bool { return true }

// takesPart tells whether a node is in step with its cluster; one that is not answers, and refuses
// each query. It closes the connection then. What one node has written the others read from then on:
// a request may come to a service at another node than the one before it.
func takesPart(ctx context.Context, c driver.Conn) error {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	ready, err := status(ctx, c, "wsrep_ready")
	switch {
	case err != nil:
	case ready == "ON":
		_, err = c.(driver.ExecerContext).ExecContext(ctx, "SET SESSION wsrep_sync_wait = 1", nil)
	case ready == "OFF":
		provider, e := variable(ctx, c, "wsrep_on")
		if err = e; err == nil && provider == "ON" {
			err = errors.New("the node is not in step with its cluster")
		}
	}
	if err != nil {
		c.Close()
	}
	return err
}

// variable asks for a setting of a server; empty when it has none of that name.
func variable(ctx context.Context, c driver.Conn, name string) (string, error) {
	return ask(ctx, c, "SHOW VARIABLES LIKE '"+name+"'")
}

// status asks for a value that a server tells of itself; empty when it does not.
func status(ctx context.Context, c driver.Conn, name string) (string, error) {
	return ask(ctx, c, "SHOW STATUS LIKE '"+name+"'")
}

// ask gives the second column of the first row; empty when there is none.
func ask(ctx context.Context, c driver.Conn, query string) (string, error) {
	rows, err := c.(driver.QueryerContext).QueryContext(ctx, query, nil)
	if err != nil {
		return "", err
	}
	defer rows.Close()
	row := make([]driver.Value, len(rows.Columns()))
	if err := rows.Next(row); err != nil || len(row) < 2 {
		if errors.Is(err, io.EOF) {
			err = nil
		}
		return "", err
	}
	if text, ok := row[1].([]byte); ok {
		return string(text), nil
	}
	return fmt.Sprint(row[1]), nil
}

// Driver is that of MariaDB.
func (n *nodes) Driver() driver.Driver { return &mysql.MySQLDriver{} }
