// Package service is the long-running service: API, console and database.
package service

import (
	"context"
	"embed"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"runtime"
	"time"

	"oliveledger/internal/service/api"
	"oliveledger/internal/service/blob"
	"oliveledger/internal/service/database"
	"oliveledger/internal/service/store"
)

// Config says how the service runs.
type Config struct {
	Listen   string // host:port
	Data     string // folder for documents and the private database
	Database string // DSN of a MariaDB; empty for a private one
	Log      *slog.Logger
	Ready    func(address string) // called when requests are taken
}

//go:embed all:console/dist
var console embed.FS

// FirstLogin is the file in the data folder that holds the first log-in.
const FirstLogin = "first-login.txt"

// Run serves until ctx ends.
func Run(ctx context.Context, c Config) error {
	if err := os.MkdirAll(c.Data, 0o700); err != nil {
		return fmt.Errorf("the data folder %s cannot be made: %w", c.Data, err)
	}
	listener, err := net.Listen("tcp", c.Listen)
	if err != nil {
		return fmt.Errorf("the address %s cannot be used: %w", c.Listen, err)
	}
	defer listener.Close()
	dsn, create := c.Database, false
	if dsn == "" {
		private, err := database.Start(ctx, filepath.Join(c.Data, "database"))
		if err != nil {
			return err
		}
		defer private.Stop()
		dsn, create = private.DSN(), true
	}
	db, err := database.Open(dsn, create)
	if err != nil {
		return err
	}
	st, err := store.New(db)
	if err != nil {
		return err
	}
	blobs, err := blob.Open(filepath.Join(c.Data, "blobs"))
	if err != nil {
		return err
	}
	if err := firstPerson(st, c.Data); err != nil {
		return err
	}
	pages, err := fs.Sub(console, "console/dist")
	if err != nil {
		return err
	}
	a := &api.API{Store: st, Blobs: blobs, Log: c.Log, Console: pages, Slots: make(chan struct{}, runtime.NumCPU())}
	server := &http.Server{Handler: a.Handler(), ReadHeaderTimeout: 10 * time.Second, ErrorLog: slog.NewLogLogger(c.Log.Handler(), slog.LevelWarn)}
	done := make(chan error, 1)
	go func() { done <- server.Serve(listener) }()
	if c.Ready != nil {
		c.Ready("http://" + listener.Addr().String())
	}
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
	}
	// let what has begun end
	grace, cancel := context.WithTimeout(context.Background(), 20*time.Second)
	defer cancel()
	return server.Shutdown(grace)
}

// firstPerson lets the keeper of the machine in: a person and a key, written
// to a file that only they can read.
func firstPerson(st *store.Store, data string) error {
	n, err := st.People()
	if err != nil || n > 0 {
		return err
	}
	password, key := api.Secret(), api.Secret()
	if err := st.AddPerson(&store.Person{Email: "keeper@olive.example", Name: "Keeper", Password: api.HashPassword(password)}); err != nil {
		return err
	}
	if err := st.AddKey(&store.Key{Name: "first", Hash: api.Hash(key)}); err != nil {
		return err
	}
	f, err := os.OpenFile(filepath.Join(data, FirstLogin), os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	_, err = io.WriteString(f, fmt.Sprintf("email: keeper@olive.example\npassword: %s\nkey: %s\n", password, key))
	if e := f.Close(); err == nil {
		err = e
	}
	return err
}
