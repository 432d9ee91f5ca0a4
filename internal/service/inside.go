package service

import (
	"context"
	"errors"
	"log/slog"
	"net"
	"net/http"
	"sync"
	"time"

	"oliveledger/client"
	"oliveledger/internal/service/api"
	"oliveledger/internal/service/inbox"
	"oliveledger/internal/service/store"
)

// watcher is who makes the documents of the watched folder, as lists tell it.
var watcher = api.Caller{Email: "watched folder", Name: "watched folder", Scopes: []string{store.Read, store.Records, store.Issue}}

// openInbox watches a folder.
func openInbox(handler http.Handler, c Config) (box *inbox.Inbox, end func(), err error) {
	inner, closeInner := insideClient(handler, watcher, c.Log)
	box, unlock, err := inbox.Open(c.WatchFolder, inner, c.Log)
	if err != nil {
		closeInner()
		return nil, nil, err
	}
	return box, func() { closeInner(); unlock() }, nil
}

// insideClient gives a client of the service's own API for one of its parts. It goes without the network and without a
// key; who calls is known.
func insideClient(handler http.Handler, who api.Caller, log *slog.Logger) (c *client.Client, end func()) {
	l := &within{conns: make(chan net.Conn), closed: make(chan struct{})}
	server := &http.Server{
		Handler: handler, ReadHeaderTimeout: time.Minute, ErrorLog: slog.NewLogLogger(log.Handler(), slog.LevelWarn),
		BaseContext: func(net.Listener) context.Context { return api.As(context.Background(), who) },
	}
	go func() {
		if err := server.Serve(l); !errors.Is(err, http.ErrServerClosed) {
			log.Error("the service's own parts cannot ask it any more", "error", err)
		}
	}()
	c = client.New("http://inside", "")
	c.HTTP = &http.Client{Transport: &http.Transport{DialContext: l.dial}}
	return c, func() { server.Close() }
}

// within listens to the program itself.
type within struct {
	conns  chan net.Conn
	once   sync.Once
	closed chan struct{}
}

func (w *within) dial(ctx context.Context, _, _ string) (net.Conn, error) {
	here, there := net.Pipe()
	select {
	case w.conns <- there:
		return here, nil
	case <-w.closed:
		return nil, net.ErrClosed
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// Accept waits for a part of the program to ask (net.Listener).
func (w *within) Accept() (net.Conn, error) {
	select {
	case c := <-w.conns:
		return c, nil
	case <-w.closed:
		return nil, net.ErrClosed
	}
}

// Close ends it (net.Listener).
func (w *within) Close() error {
	w.once.Do(func() { close(w.closed) })
	return nil
}

// Addr is no address of any network (net.Listener).
func (w *within) Addr() net.Addr { return &net.UnixAddr{Name: "inside", Net: "unix"} }
