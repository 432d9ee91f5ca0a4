// Package database opens the service's database, and starts a private MariaDB
// when none is configured.
package database

import (
	"context"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"time"

	"gorm.io/driver/mysql"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// Private is a MariaDB server of our own: no network, a socket in a folder that
// only we may enter.
type Private struct {
	cmd    *exec.Cmd
	done   chan error
	socket string
	runDir string
}

// Start sets the data folder up when it is new, and starts the server.
func Start(ctx context.Context, dir string) (*Private, error) {
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
	// a socket's path may not be long: it gets a folder of its own
	run, err := os.MkdirTemp("", "olive-db-")
	if err != nil {
		return nil, err
	}
	p := &Private{socket: filepath.Join(run, "s"), runDir: run, done: make(chan error, 1)}
	p.cmd = exec.Command(server, append([]string{"--no-defaults", "--datadir=" + dir, "--tmpdir=" + dir, "--socket=" + p.socket, "--skip-networking",
		"--pid-file=" + filepath.Join(run, "pid"), "--innodb-buffer-pool-size=128M", "--max-allowed-packet=256M", "--innodb-flush-log-at-trx-commit=1",
		"--character-set-server=utf8mb4", "--log-error=" + filepath.Join(dir, "server.log")}, asUser()...)...)
	p.cmd.SysProcAttr = detached()
	if err := p.cmd.Start(); err != nil {
		return nil, fmt.Errorf("MariaDB does not start: %w", err)
	}
	go func() { p.done <- p.cmd.Wait() }()
	return p, p.wait(ctx, filepath.Join(dir, "server.log"))
}

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
func (p *Private) wait(ctx context.Context, log string) error {
	for deadline := time.Now().Add(60 * time.Second); time.Now().Before(deadline); {
		select {
		case err := <-p.done:
			return fmt.Errorf("MariaDB stopped at once (%v); see %s", err, log)
		case <-ctx.Done():
			p.Stop()
			return ctx.Err()
		case <-time.After(50 * time.Millisecond):
		}
		// the file is there a moment before the server listens
		if c, err := net.Dial("unix", p.socket); err == nil {
			c.Close()
			return nil
		}
	}
	p.Stop()
	return fmt.Errorf("MariaDB did not answer within a minute; see %s", log)
}

// DSN is the address to open.
func (p *Private) DSN() string { return "root@unix(" + p.socket + ")/" }

// Stop ends the server and waits for it.
func (p *Private) Stop() {
	stop(p.cmd.Process)
	select {
	case <-p.done:
	case <-time.After(30 * time.Second):
		p.cmd.Process.Kill()
		<-p.done
	}
	os.RemoveAll(p.runDir)
}

// Name of the database in a server.
const Name = "olive_ledger"

// Open connects; with create, the database is made when it is not there. The
// DSN then ends in a slash.
func Open(dsn string, create bool) (*gorm.DB, error) {
	conf := &gorm.Config{Logger: logger.Default.LogMode(logger.Silent), TranslateError: true, SkipDefaultTransaction: true}
	const params = "?charset=utf8mb4&parseTime=true&loc=UTC&time_zone=%27%2B00%3A00%27&maxAllowedPacket=0"
	if create {
		db, err := gorm.Open(mysql.Open(dsn+params), conf)
		if err != nil {
			return nil, fmt.Errorf("the database does not answer: %w", err)
		}
		if err := db.Exec("CREATE DATABASE IF NOT EXISTS " + Name + " CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci").Error; err != nil {
			return nil, err
		}
		if c, err := db.DB(); err == nil {
			c.Close()
		}
		dsn += Name
	}
	db, err := gorm.Open(mysql.Open(dsn+params), conf)
	if err != nil {
		return nil, fmt.Errorf("the database does not answer: %w", err)
	}
	pool, err := db.DB()
	if err != nil {
		return nil, err
	}
	// MariaDB takes 151 at once; a service and its workers share them, and what is beyond waits
	pool.SetMaxOpenConns(mostConnections)
	pool.SetMaxIdleConns(mostConnections / 2)
	return db, nil
}

// mostConnections is how many connections one process has at once.
const mostConnections = 40
