package database

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"syscall"
)

// asUser lets the server run as root in containers, where there is no other.
func asUser() []string {
	if os.Getuid() == 0 {
		return []string{"--user=root"}
	}
	return nil
}

// detached keeps Ctrl-C from reaching the server: we stop it ourselves, last,
// and it ends with us when we are killed.
func detached() *syscall.SysProcAttr {
	return &syscall.SysProcAttr{Setpgid: true, Pdeathsig: syscall.SIGTERM}
}

func stop(p *os.Process) { p.Signal(syscall.SIGTERM) }

// Lock keeps a data folder for this process until it is unlocked, or ends.
func Lock(dir string) (unlock func(), err error) {
	f, err := os.OpenFile(filepath.Join(dir, "lock"), os.O_RDWR|os.O_CREATE, 0o600)
	if err != nil {
		return nil, fmt.Errorf("the data folder %s cannot be written to: %w", dir, err)
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		holder, _ := os.ReadFile(f.Name())
		f.Close()
		return nil, fmt.Errorf("the data folder %s is in use by another service (process %s); each needs a folder of its own", dir, strings.TrimSpace(string(holder)))
	}
	if err := f.Truncate(0); err == nil {
		fmt.Fprintln(f, os.Getpid())
	}
	return func() { f.Close() }, nil
}
