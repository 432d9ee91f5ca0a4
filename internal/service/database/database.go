// Package database opens the service's database, and starts a private MariaDB
// when none is configured.
package database

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"time"

	"oliveledger/internal/service/clock"

	"gorm.io/driver/mysql"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// Private is a MariaDB server of our own: no network, a socket in a folder that
// only we may enter.
type Private struct {
	program, dir string
	socket       string
	runDir       string // of the socket, when it has a folder of its own
	log          *slog.Logger

	stopping chan struct{} // closed when it is to end
	ended    chan struct{} // closed when it has, and is not started again
}

// Start sets the data folder up when it is new, and starts the server. One that ends by itself is started
// again.
func Start(ctx context.Context, dir string, log *slog.Logger) (*Private, error) {
	server, err := find("mariadbd", "mysqld")
	if err != nil {
		return nil, errors.New("no MariaDB server is installed; install Debian's mariadb-server, or give --database")
	}
	dir, err = filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	if _, err := os.Stat(filepath.Join(dir, "mysql")); errors.Is(err, os.ErrNotExist) {
		if err := install(ctx, dir); err != nil {
			return nil, err
		}
	}
	p := &Private{program: server, dir: dir, socket: filepath.Join(dir, "socket"), log: log, stopping: make(chan struct{}), ended: make(chan struct{})}
	if len(p.socket) > longestSocket {
		if p.runDir, err = os.MkdirTemp("", "olive-db-"); err != nil {
			return nil, err
		}
		p.socket = filepath.Join(p.runDir, "s")
	}
	done, cmd, err := p.begin(ctx)
	if err != nil {
		p.clear()
		return nil, err
	}
	go p.keepUp(done, cmd)
	return p, nil
}

// longestSocket is how long the path of a socket may be, in bytes (unix(7)). Where the data folder's is not longer,
// workers find the server at the same place after each start.
const longestSocket = 100

// begin starts the server and waits until it answers.
func (p *Private) begin(ctx context.Context) (done chan error, cmd *exec.Cmd, err error) {
	cmd = exec.Command(p.program, append([]string{
		"--no-defaults", "--datadir=" + p.dir, "--tmpdir=" + p.dir, "--socket=" + p.socket, "--skip-networking",
		"--pid-file=" + p.socket + ".pid", "--innodb-buffer-pool-size=128M", "--max-allowed-packet=256M", "--innodb-flush-log-at-trx-commit=1",
		"--character-set-server=utf8mb4", "--log-error=" + filepath.Join(p.dir, "server.log"),
	}, asUser()...)...)
	cmd.SysProcAttr = detached()
	done = make(chan error, 1)
	started := make(chan error)
	go func() { // the thread that starts it stays as long as it does, as the system ends it with that thread
		runtime.LockOSThread()
		err := cmd.Start()
		started <- err
		if err == nil {
			done <- cmd.Wait()
		}
	}()
	if err := <-started; err != nil {
		return nil, nil, fmt.Errorf("MariaDB does not start: %w", err)
	}
	return done, cmd, p.wait(ctx, done, cmd)
}

const (
	mostStarts = 5           // that a server gets
	within     = time.Minute // before it is given up
)

// keepUp starts the server again when it has ended by itself.
func (p *Private) keepUp(done chan error, cmd *exec.Cmd) {
	defer close(p.ended)
	defer p.clear()
	var starts []time.Time
	for {
		select {
		case <-p.stopping:
			end(done, cmd)
			return
		case err := <-done:
			p.log.Error("MariaDB has ended; it is started again", "reason", err, "log", filepath.Join(p.dir, "server.log"))
		}
		starts = append(starts, time.Now())
		if n := len(starts); n > mostStarts && starts[n-1].Sub(starts[n-1-mostStarts]) < within {
			p.log.Error("MariaDB ends again and again; it is given up")
			return
		}
		var err error
		if done, cmd, err = p.begin(context.Background()); err != nil {
			p.log.Error("MariaDB could not be started again", "reason", err)
			return
		}
	}
}

// end stops a server and waits for it.
func end(done chan error, cmd *exec.Cmd) {
	stop(cmd.Process)
	select {
	case <-done:
	case <-time.After(30 * time.Second):
		cmd.Process.Kill()
		<-done
	}
}

func (p *Private) clear() {
	if p.runDir != "" {
		os.RemoveAll(p.runDir)
	}
}

// Ended is closed when the server has ended and is not started again.
func (p *Private) Ended() <-chan struct{} { return p.ended }

func find(names ...string) (string, error) {
	for _, n := range names {
		if path, err := exec.LookPath(n); err == nil {
			return path, nil
		}
		if path := filepath.Join("/usr/sbin", n); fileExists(path) {
			return path, nil
		}
	}
	return "", os.ErrNotExist
}

func fileExists(path string) bool {
	_, err := os.Stat(path)
	return err == nil
}

func install(ctx context.Context, dir string) error {
	tool, err := find("mariadb-install-db", "mysql_install_db")
	if err != nil {
		return errors.New("mariadb-install-db is missing; install Debian's mariadb-server")
	}
	args := append([]string{"--no-defaults", "--datadir=" + dir, "--tmpdir=" + dir, "--auth-root-authentication-method=normal", "--skip-test-db"}, asUser()...)
	if out, err := exec.CommandContext(ctx, tool, args...).CombinedOutput(); err != nil {
		return fmt.Errorf("the database could not be set up in %s: %w: %s", dir, err, out)
	}
	return nil
}

// wait tries until the server answers.
func (p *Private) wait(ctx context.Context, done chan error, cmd *exec.Cmd) error {
	log := filepath.Join(p.dir, "server.log")
	for deadline := time.Now().Add(60 * time.Second); time.Now().Before(deadline); {
		select {
		case err := <-done:
			return fmt.Errorf("MariaDB stopped at once (%w); see %s", err, log)
		case <-ctx.Done():
			end(done, cmd)
			return ctx.Err()
		case <-time.After(50 * time.Millisecond):
		}
		// the file is there a moment before the server listens
		if c, err := net.Dial("unix", p.socket); err == nil {
			c.Close()
			return nil
		}
	}
	end(done, cmd)
	return fmt.Errorf("MariaDB did not answer within a minute; see %s", log)
}

// DSN is the address to open.
func (p *Private) DSN() string { return "root@unix(" + p.socket + ")/" }

// Stop ends the server and waits for it.
func (p *Private) Stop() {
	close(p.stopping)
	<-p.ended
}

// Name of the database in a server.
const Name = "olive_ledger"

// Open connects; with create, the database is made when it is not there. The
// DSN then ends in a slash. Its address may be several, with commas between them: the nodes of a
// cluster, of which the first that answers is used.
func Open(dsn string, create bool) (*gorm.DB, error) {
	if create {
		db, _, err := connect(dsn)
		if err != nil {
			return nil, err
		}
		err = db.Exec("CREATE DATABASE IF NOT EXISTS " + Name + " CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci").Error
		if c, e := db.DB(); e == nil {
			c.Close()
		}
		if err != nil {
			return nil, err
		}
		dsn += Name
	}
	db, several, err := connect(dsn)
	if err != nil {
		return nil, err
	}
	pool, err := db.DB()
	if err != nil {
		return nil, err
	}
	// MariaDB takes 151 at once; a service and its workers share them, and what is beyond waits
	pool.SetMaxOpenConns(mostConnections)
	pool.SetMaxIdleConns(mostConnections / 2)
	if several {
		pool.SetConnMaxLifetime(mostAge)
	}
	return db, nil
}

// mostAge is how long a connection to a node of a cluster is used: one that falls out of step keeps
// its connections.
const mostAge = 20 * time.Second

func connect(dsn string) (db *gorm.DB, several bool, err error) {
	const params = "?charset=utf8mb4&parseTime=true&loc=UTC&time_zone=%27%2B00%3A00%27&maxAllowedPacket=0&interpolateParams=true"
	n, err := newNodes(dsn + params)
	if err != nil {
		return nil, false, err
	}
	conf := &gorm.Config{Logger: logger.Default.LogMode(logger.Silent), TranslateError: true, SkipDefaultTransaction: true, NowFunc: clock.Now}
	db, err = gorm.Open(dialect{&mysql.Dialector{Config: &mysql.Config{Conn: sql.OpenDB(n)}}}, conf)
	if err != nil {
		return nil, false, fmt.Errorf("the database does not answer: %w", err)
	}
	return db, len(n.list) > 1, nil
}

// dialect keeps the server's own error beside the one that it is translated to: which key was taken, for instance.
type dialect struct{ *mysql.Dialector }

// Translate is asked by the library for each error.
func (d dialect) Translate(err error) error {
	if kind := d.Dialector.Translate(err); kind != err { //nolint:errorlint // it is the same, or another one
		return fmt.Errorf("%w: %w", kind, err)
	}
	return err
}

// mostConnections is how many connections one process has at once.
const mostConnections = 40
