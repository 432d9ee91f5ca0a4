package collect

import (
	"runtime/debug"
	"testing"

	"github.com/stretchr/testify/assert"
)

// The more is alive, the less may be allocated before it is looked through again.
func TestPercentFor(t *testing.T) {
	last := 1 << 30
	for _, mb := range []uint64{0, 31, 32, 95, 96, 4000} {
		p := percentFor(mb<<20, Alone)
		assert.LessOrEqual(t, p, last, "%d MB", mb)
		assert.Positive(t, p)
		last = p
	}
	assert.Greater(t, percentFor(0, Alone), percentFor(4000<<20, Alone))
	assert.Less(t, percentFor(30<<20, Alone/4), percentFor(30<<20, Alone), "less room, less garbage")
}

// A setting of the person who runs the program stays.
func TestBySizeKeepsGOGC(t *testing.T) {
	had := debug.SetGCPercent(77)
	defer debug.SetGCPercent(had)
	t.Setenv("GOGC", "77")
	BySize(Alone)
	assert.Equal(t, 77, debug.SetGCPercent(77))
}
