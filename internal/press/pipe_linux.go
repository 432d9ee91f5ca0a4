package press

import (
	"syscall"

	"golang.org/x/sys/unix"
)

// pipeRoom is how much a pipe takes in before its writer waits, in bytes: most documents.
const pipeRoom = 1 << 20

// widen gives a pipe room for a document, so that the two sides need not take turns. Where the
// system has less to give, it stays as it is.
func widen(pipe any) {
	conn, ok := pipe.(syscall.Conn)
	if !ok {
		return
	}
	if raw, err := conn.SyscallConn(); err == nil {
		_ = raw.Control(func(fd uintptr) { _, _ = unix.FcntlInt(fd, unix.F_SETPIPE_SZ, pipeRoom) })
	}
}
