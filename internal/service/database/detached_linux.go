package database

import "syscall"

// detached keeps Ctrl-C from reaching the server: we stop it ourselves, last,
// and it ends with us when we are killed.
func detached() *syscall.SysProcAttr {
	return &syscall.SysProcAttr{Setpgid: true, Pdeathsig: syscall.SIGTERM}
}
