package database

import (
	"os"
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
