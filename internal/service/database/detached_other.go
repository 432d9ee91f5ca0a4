//go:build unix && !linux

package database

import "syscall"

// detached keeps Ctrl-C from reaching the server: we stop it ourselves, last.
func detached() *syscall.SysProcAttr { return &syscall.SysProcAttr{Setpgid: true} }
