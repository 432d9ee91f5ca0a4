package database

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"syscall"

	"github.com/gofrs/flock"
)

// asUser lets the server run as root in containers, where there is no other.
func asUser() []string {
	if os.Getuid() == 0 {
		return []string{"--user=root"}
	}
	return nil
}

func stop(p *os.Process) { p.Signal(syscall.SIGTERM) }

// Lock keeps a data folder for this process until it is unlocked, or ends.
func Lock(dir string) (unlock func(), err error) {
	name := filepath.Join(dir, "lock")
	lock := flock.New(name, flock.SetPermissions(0o600))
	ours, err := lock.TryLock()
	if err != nil {
		return nil, fmt.Errorf("the data folder %s cannot be written to: %w", dir, err)
	}
	if !ours {
		holder, _ := os.ReadFile(name)
		return nil, fmt.Errorf("the data folder %s is in use by another service (process %s); each needs a folder of its own", dir, strings.TrimSpace(string(holder)))
	}
	_ = os.WriteFile(name, fmt.Appendln(nil, os.Getpid()), 0o600) // it is only told
	return func() { _ = lock.Close() }, nil
}
