package api

import (
	"sync"
	"time"

	"github.com/hashicorp/golang-lru/v2/expirable"
)

// throttle slows down who fails again and again.
type throttle struct {
	free  int           // tries that cost nothing
	delay time.Duration // after the first beyond them; it grows with each

	mu    sync.Mutex
	tries *expirable.LRU[string, try]
}

// try is what is known of one who tries.
type try struct {
	failed int
	until  time.Time // before which no other try is looked at
}

// longest is how long one has to wait at most, and how long a failure is remembered.
const longest = 5 * time.Minute

func newThrottle(free int, delay time.Duration) *throttle {
	return &throttle{free: free, delay: delay, tries: expirable.NewLRU[string, try](20_000, nil, longest)}
}

// begin counts a try as failed until it is known better, so that many at once do not pass. It gives the time
// that is to be waited first; the try does not count then.
func (t *throttle) begin(who string) (wait time.Duration) {
	t.mu.Lock()
	defer t.mu.Unlock()
	x, _ := t.tries.Get(who)
	if wait = time.Until(x.until); wait > 0 {
		return wait
	}
	if x.failed++; x.failed > t.free {
		x.until = time.Now().Add(min(time.Duration(x.failed-t.free)*t.delay, longest))
	}
	t.tries.Add(who, x)
	return 0
}

// passed forgets the failures of one who has got in.
func (t *throttle) passed(who string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.tries.Remove(who)
}
