package press

import (
	"errors"
	"fmt"
	"os"
	"os/signal"
	"runtime"
	"runtime/debug"
	"runtime/metrics"
	"strconv"
	"strings"
	"syscall"
	"time"

	seccomp "github.com/elastic/go-seccomp-bpf"
	"github.com/landlock-lsm/go-landlock/landlock"
	"golang.org/x/sys/unix"
)

// confine takes from this process what it does not need for its work: memory beyond its
// limit, files, the network, other programs. What the kernel does not know stays undone.
func confine(o orders) error {
	// What the program has reserved so far is mostly not memory. RLIMIT_DATA would not do: the kernel
	// does not look at it when a program maps over what it has reserved, as Go does.
	mapped := pages(os.Getpid(), 0)
	if mapped == 0 {
		return errors.New("/proc is not mounted, which tells how much memory a process has")
	}
	for _, l := range []struct {
		what  int
		value uint64
	}{
		{unix.RLIMIT_CORE, 0},
		{unix.RLIMIT_FSIZE, 0},
		{unix.RLIMIT_NOFILE, 32},
		{unix.RLIMIT_AS, mapped + uint64(o.Memory) + threads()*threadStack},
	} {
		if err := unix.Setrlimit(l.what, &unix.Rlimit{Cur: l.value, Max: l.value}); err != nil {
			return fmt.Errorf("a limit of the process cannot be set: %w", err)
		}
	}
	late := make(chan os.Signal, 1)
	signal.Notify(late, unix.SIGXCPU)
	go func() { <-late; os.Exit(exitedLate) }()
	signal.Ignore(unix.SIGINT, unix.SIGTERM) // the parent ends it
	if err := landlock.V11.BestEffort().Restrict(); err != nil {
		return fmt.Errorf("files cannot be shut away: %w", err)
	}
	return withoutCalls()
}

const (
	// reserve is what the program may have reserved beyond its memory, in bytes: Go takes address space in
	// pieces of 64 MB.
	reserve = 192 << 20
	// threadStack is what a thread reserves for its stack where the program is linked with a C library, in bytes.
	threadStack = 8 << 20
	// threadHeap is what it then reserves to allocate from, in bytes; the threads of a child share one heap.
	threadHeap = 64 << 20
)

// threads is how many of them the runtime may start: those that run Go code, and some that wait for the system.
func threads() uint64 { return uint64(runtime.GOMAXPROCS(0)) + 8 }

// Bound limits the memory of this program to so many bytes: over is called when it holds more. What
// comes too suddenly for that ends at the system's limit, which stands further up: a single large piece that
// is asked for does not reach it, and takes no memory before it is used.
func Bound(memory int64, over func()) error {
	mapped := pages(os.Getpid(), 0)
	if mapped == 0 {
		return nil // what the core counts by itself is the limit
	}
	debug.SetMemoryLimit(collectAt(memory))
	limit := unix.Rlimit{}
	if err := unix.Getrlimit(unix.RLIMIT_AS, &limit); err != nil {
		return fmt.Errorf("the limit of memory cannot be read: %w", err)
	}
	limit.Cur = min(mapped+2*uint64(memory)+reserve+threads()*(threadStack+threadHeap), limit.Max)
	if err := unix.Setrlimit(unix.RLIMIT_AS, &limit); err != nil {
		return fmt.Errorf("the limit of memory cannot be set: %w", err)
	}
	debug.SetTraceback("none") // one line tells why it ended
	go watchHeld(memory, over)
	return nil
}

// watchHeld calls over when the program holds more memory than it may.
func watchHeld(memory int64, over func()) {
	held := []metrics.Sample{{Name: "/memory/classes/total:bytes"}, {Name: "/memory/classes/heap/released:bytes"}}
	for {
		if metrics.Read(held); held[0].Value.Uint64()-held[1].Value.Uint64() > uint64(memory) {
			over()
			return
		}
		time.Sleep(5 * time.Millisecond)
	}
}

// forbidden are calls of the system that reach other machines, processes or programs.
var forbidden = []string{
	"socket", "socketpair", "connect", "bind", "listen", "accept", "accept4", "sendto", "sendmsg", "execve", "execveat", "ptrace", "process_vm_readv",
	"process_vm_writev", "kcmp", "pidfd_open", "pidfd_getfd", "mount", "umount2", "pivot_root", "chroot", "unshare", "setns", "bpf", "perf_event_open", "userfaultfd",
	"keyctl", "add_key", "request_key", "init_module", "finit_module", "delete_module", "kexec_load", "reboot", "swapon", "swapoff", "io_uring_setup",
}

// withoutCalls has the kernel refuse the forbidden calls, to all threads.
func withoutCalls() error {
	if !seccomp.Supported() {
		return nil
	}
	err := seccomp.LoadFilter(seccomp.Filter{NoNewPrivs: true, Flag: seccomp.FilterFlagTSync, Policy: seccomp.Policy{
		DefaultAction: seccomp.ActionAllow,
		Syscalls:      []seccomp.SyscallGroup{{Action: seccomp.ActionErrno, Names: forbidden}},
	}})
	if err != nil && !errors.Is(err, unix.ENOSYS) && !errors.Is(err, unix.EINVAL) {
		return fmt.Errorf("calls of the system cannot be refused: %w", err)
	}
	return nil
}

// allow gives the next piece of work its processor time.
func allow(o orders) {
	var used unix.Rusage
	if unix.Getrusage(unix.RUSAGE_SELF, &used) != nil {
		return
	}
	spent := time.Duration(used.Utime.Nano() + used.Stime.Nano())
	seconds := uint64((spent+o.Time*time.Duration(runtime.GOMAXPROCS(0)))/time.Second) + 2
	limit := unix.Rlimit{Max: unix.RLIM_INFINITY}
	if unix.Getrlimit(unix.RLIMIT_CPU, &limit) != nil {
		return
	}
	limit.Cur = min(seconds, limit.Max)
	_ = unix.Setrlimit(unix.RLIMIT_CPU, &limit) // the parent's clock ends it, too
}

// resident is the memory that a process holds, in bytes; 0 when it cannot be told.
func resident(pid int) int64 { return int64(pages(pid, 1)) }

// pages reads a field of a process's statm, in bytes: 0 is what is mapped, 1 what it holds (proc_pid_statm(5)).
func pages(pid, field int) uint64 {
	raw, err := os.ReadFile(fmt.Sprintf("/proc/%d/statm", pid))
	fields := strings.Fields(string(raw))
	if err != nil || len(fields) <= field {
		return 0
	}
	n, err := strconv.ParseUint(fields[field], 10, 64)
	if err != nil {
		return 0
	}
	return n * uint64(os.Getpagesize())
}

// apart is how a child is started: in a session of its own, so that keys pressed at a
// terminal reach the service alone. It ends when its pipe does, after the work that it is at.
func apart() *syscall.SysProcAttr { return &syscall.SysProcAttr{Setsid: true} }
