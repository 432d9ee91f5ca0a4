// Package collect makes garbage collection fit the size of the work.
package collect

import (
	"os"
	"runtime"
	"runtime/debug"
	"runtime/metrics"
	"sync"
)

// Alone is the room of a program that works alone.
const Alone = 352 << 20

// BySize has garbage collected seldom while little is alive, which is most runs, and
// often when much is, as a long table then weighs hundreds of megabytes: so that the program
// holds no more than room, in bytes, where what is alive allows that. GOGC, when it is set,
// stays as it is. It holds for the whole program; the first call counts.
func BySize(room uint64) {
	if os.Getenv("GOGC") != "" {
		return
	}
	once.Do(func() { follow(room) })
}

var once sync.Once

// follow looks after each collection at what is alive.
func follow(room uint64) {
	percent := 900
	debug.SetGCPercent(percent)
	live := []metrics.Sample{{Name: "/gc/heap/live:bytes"}}
	var again func(*[16]byte)
	again = func(*[16]byte) {
		metrics.Read(live)
		if want := percentFor(live[0].Value.Uint64(), room); want != percent {
			percent = want
			debug.SetGCPercent(percent)
		}
		runtime.SetFinalizer(new([16]byte), again) // runs after the next collection
	}
	again(nil)
}

// percentFor is how much may be allocated before the next collection, in percent
// of what is alive: as much as there is room for, but neither very little nor
// many times what is alive.
func percentFor(live, room uint64) int {
	return int(min(max(room*100/max(live, 1), 150), 1000)) - 100
}
