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
	conf, err := mysql.ParseDSN(dsn)
	if err != nil {
		return nil, fmt.Errorf("the address of the database is not user:password@tcp(host:3306)/name: %w", err)
	}
	n := &nodes{names: strings.Split(conf.Addr, ",")}
	for i, name := range n.names {
		one := conf.Clone()
		if one.Addr = strings.TrimSpace(name); conf.Net == "tcp" && !strings.Contains(one.Addr, ":") {
			one.Addr += ":3306"
		}
		if n.names[i] = one.Addr; len(n.names) > 1 && one.Timeout == 0 {
			one.Timeout = patience
		}
		c, err := mysql.NewConnector(one)
		if err != nil {
			return nil, err
		}
		n.list = append(n.list, c)
	}
	return n, nil
}

// Connect opens a connection.
func (n *nodes) Connect(ctx context.Context) (driver.Conn, error) {
	if len(n.list) == 1 {
		return n.list[0].Connect(ctx)
	}
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
			return c, nil
		}
		faults = append(faults, fmt.Errorf("%s: %w", n.names[at], err))
		if ctx.Err() != nil {
			break
		}
	}
	return nil, errors.Join(faults...)
}

// takesPart tells whether a node is in step with its cluster; one that is not answers, and refuses
// each query. It closes the connection then.
func takesPart(ctx context.Context, c driver.Conn) error {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	ready, err := status(ctx, c, "wsrep_ready")
	if err == nil && ready != "OFF" {
		return nil
	}
	c.Close()
	if err == nil {
		err = errors.New("the node is not in step with its cluster")
	}
	return err
}

// status asks for a value that a server tells of itself; empty when it does not.
func status(ctx context.Context, c driver.Conn, name string) (string, error) {
	rows, err := c.(driver.QueryerContext).QueryContext(ctx, "SHOW STATUS LIKE '"+name+"'", nil)
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
