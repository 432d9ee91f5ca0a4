package cli

import (
	"fmt"
	"io"
	"os"
	"time"

	"github.com/spf13/pflag"

	"oliveledger/internal/press"
	"oliveledger/typeset"
)

// limitFlags bound what the command takes for a document.
type limitFlags struct {
	memory int // MB
	time   time.Duration
}

func (l *limitFlags) add(fl *pflag.FlagSet) {
	fl.DurationVar(&l.time, "max-time", 2*time.Minute, "time that a document may take")
	fl.IntVar(&l.memory, "max-memory", 4096, "MB of memory that the command may take")
}

// begin sets the limit of memory, for the whole command, which ends with a message when it takes more.
func (l *limitFlags) begin(errs io.Writer) error {
	if l.memory < leastMemory || l.time <= 0 {
		return usage("--max-memory is at least %d MB, and --max-time more than nothing", leastMemory)
	}
	return press.Bound(int64(l.memory)<<20, func() {
		fmt.Fprintf(errs, "olive: the work needs more than the %d MB of memory that it may take; --max-memory allows more\n", l.memory)
		os.Exit(1)
	})
}

// leastMemory is what the program needs for itself, in MB.
const leastMemory = 64

// apply bounds one document.
func (l *limitFlags) apply(o *typeset.Options) {
	o.Limits.Time, o.Limits.Heap = l.time, press.Heap(int64(l.memory)<<20)
}

// late is what a document may take beyond its time to end by itself.
const late = 2 * time.Second

// guard ends the program when a document, or what is merged into it, has no end and does not hear of its time.
func (l *limitFlags) guard(what string, errs io.Writer) (done func()) {
	t := time.AfterFunc(l.time+late, func() {
		fmt.Fprintf(errs, "olive: %s: it took longer than the %v that a document may take, and did not end by itself\n", what, l.time)
		os.Exit(1)
	})
	return func() { t.Stop() }
}
