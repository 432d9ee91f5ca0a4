package layout

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/style"
)

// TestFloatsAreFound holds the answers about floats against a look at each one.
func TestFloatsAreFound(t *testing.T) {
	rnd := rand.New(rand.NewPCG(7, 1))
	for range 50 {
		var f *floats
		var all []floated
		for range 40 {
			if len(all) > 5 && rnd.IntN(6) == 0 { // back to an earlier state, which later ones have not changed
				f, all = f.before.before.before, all[:len(all)-3]
			}
			x := floated{left: rnd.IntN(2) == 0, x: float64(rnd.IntN(80)), y: float64(rnd.IntN(200)), w: float64(rnd.IntN(20)), h: float64(rnd.IntN(30))}
			f, all = f.with(x, &floats{}), append(all, x)
			y, h := float64(rnd.IntN(240)), float64(rnd.IntN(12))
			l, r, next := 0.0, 100.0, inf
			ends := map[bool]float64{true: -inf, false: -inf}
			for _, a := range all {
				b := a.y + a.h
				ends[a.left] = math.Max(ends[a.left], b)
				if b <= y {
					continue
				}
				next = math.Min(next, b)
				if a.w == 0 && a.h == 0 || a.y >= y+math.Max(h, 1e-3)-1e-6 {
					continue
				}
				if a.left {
					l = math.Max(l, a.x+a.w)
				} else {
					r = math.Min(r, a.x)
				}
			}
			gotL, gotR := f.band(y, h, 0, 100)
			assert.Equal(t, []float64{l, r, next}, []float64{gotL, gotR, f.nextEdge(y)})
			assert.Equal(t, []float64{ends[true], ends[false], math.Max(ends[true], ends[false])}, []float64{f.clear(style.LeftSide), f.clear(style.RightSide), f.bottom()})
		}
	}
}

func TestNoFloats(t *testing.T) {
	var f *floats
	l, r := f.band(5, 10, 2, 30)
	assert.Equal(t, []float64{2, 30}, []float64{l, r})
	assert.True(t, math.IsInf(f.nextEdge(0), 1) && math.IsInf(f.bottom(), -1) && math.IsInf(f.lowestTop(), -1))
}
