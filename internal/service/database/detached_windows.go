package database

import "syscall"

// detached: processes here have no groups.
func detached() *syscall.SysProcAttr { return nil }
