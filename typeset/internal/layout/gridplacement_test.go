package layout

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestStretchesAreLikeASet holds taken tracks against a plain set of them.
func TestStretchesAreLikeASet(t *testing.T) {
	rnd := rand.New(rand.NewPCG(4, 2))
	for range 200 {
		var s stretches
		set := map[int]bool{}
		for range 30 {
			a := rnd.IntN(60)
			b := a + 1 + rnd.IntN(6)
			meets := false
			for i := a; i < b; i++ {
				meets = meets || set[i]
			}
			assert.Equal(t, meets, s.meet(a, b), "%v meets %d to %d", s, a, b)
			s = s.with(a, b)
			for i := a; i < b; i++ {
				set[i] = true
			}
			n := 0
			for k, x := range s {
				n += x[1] - x[0]
				assert.True(t, k == 0 || s[k-1][1] < x[0], "%v ascends and stays apart", s)
			}
			assert.Equal(t, len(set), n, "%v", s)
		}
	}
}
