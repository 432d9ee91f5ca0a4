package layout

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/display"
)

func TestOutlineAcrossAStrip(t *testing.T) {
	path := &display.Path{}
	path.Ellipse(50, 50, 40, 40)
	o := &outline{}
	o.trace(path)
	for y := 12.0; y < 85; y += 3.5 {
		h := 4.0
		nearest := math.Max(math.Max(y-50, 50-y-h), 0) // of the strip to the centre
		half := math.Sqrt(1600 - nearest*nearest)
		from, to, ok := o.across(y, h)
		assert.True(t, ok)
		assert.InDelta(t, 50-half, from, 0.1, "at %g", y)
		assert.InDelta(t, 50+half, to, 0.1, "at %g", y)
	}
	for _, y := range []float64{0, 6, 90, 200} {
		_, _, ok := o.across(y, 4)
		assert.False(t, ok, "at %g", y)
	}

	o.margin = 5 // as a circle of 45
	for y := 6.0; y < 92; y += 3.5 {
		nearest := math.Max(math.Max(y-50, 50-y-1), 0)
		from, to, ok := o.across(y, 1)
		assert.True(t, ok)
		assert.InDelta(t, 50-math.Sqrt(2025-nearest*nearest), from, 0.3, "at %g", y)
		assert.InDelta(t, 50+math.Sqrt(2025-nearest*nearest), to, 0.3, "at %g", y)
	}
}

// Radii of margin boxes are those that the standard gives, also where a radius is smaller than the margin.
func TestCornersOutside(t *testing.T) {
	for _, c := range []struct{ r, outside, want float64 }{{0, 20, 0}, {30, 20, 50}, {20, 20, 40}, {10, 20, 27.5}, {30, -10, 20}, {5, -10, 0}, {30, 0, 30}} {
		assert.InDelta(t, c.want, corner(c.r, c.outside), 1e-9, "%g, %g outside", c.r, c.outside)
	}
}
