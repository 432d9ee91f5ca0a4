package service

import (
	"crypto/tls"
	"fmt"
	"log/slog"
	"os"
	"sync"
	"time"
)

// certificate is the one that the service shows, read again when its files have changed.
type certificate struct {
	file, key string
	log       *slog.Logger

	mu      sync.Mutex
	pair    *tls.Certificate
	changed time.Time // of the newer of both files when it was read
	looked  time.Time
}

// glance is how often it is looked whether the files have changed.
const glance = 10 * time.Second

func openCertificate(file, key string, log *slog.Logger) (*certificate, error) {
	c := &certificate{file: file, key: key, log: log}
	return c, c.read()
}

func (c *certificate) read() error {
	changed, err := c.newest()
	if err != nil {
		return fmt.Errorf("the certificate cannot be read: %w", err)
	}
	pair, err := tls.LoadX509KeyPair(c.file, c.key)
	if err != nil {
		return fmt.Errorf("--certificate %s with --private-key %s: %w", c.file, c.key, err)
	}
	c.pair, c.changed, c.looked = &pair, changed, time.Now()
	return nil
}

func (c *certificate) newest() (newest time.Time, err error) {
	for _, name := range []string{c.file, c.key} {
		st, err := os.Stat(name)
		if err != nil {
			return newest, err
		}
		if st.ModTime().After(newest) {
			newest = st.ModTime()
		}
	}
	return newest, nil
}

// get gives the certificate for a connection. A renewed one that cannot be read, perhaps as it is just
// being written, leaves the one of before.
func (c *certificate) get(*tls.ClientHelloInfo) (*tls.Certificate, error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if time.Since(c.looked) < glance {
		return c.pair, nil
	}
	c.looked = time.Now()
	if newest, err := c.newest(); err == nil && newest.Equal(c.changed) {
		return c.pair, nil
	}
	if err := c.read(); err != nil {
		c.log.Warn("the renewed certificate cannot be used; the one of before stays", "error", err)
	}
	return c.pair, nil
}
