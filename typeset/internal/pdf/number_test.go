package pdf

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/display"
)

func TestNumbers(t *testing.T) {
	for _, c := range []struct {
		value  float64
		places int
		want   string
	}{
		{0, 4, "0"},
		{1.5, 4, "1.5"},
		{-0.25, 4, "-0.25"},
		{12.34567, 4, "12.3457"},
		{1e-9, 4, "0"},
		{-1e-9, 4, "0"},
		{-3, 4, "-3"},
		{100, 2, "100"},
		{0.05, 2, "0.05"},
		{0.005, 2, "0.01"},
		{7.996, 2, "8"},
		{17.4, 0, "17"},
		{120, 0, "120"},
		{0.0013698630, 10, "0.001369863"},
		{math.NaN(), 4, "0"},
		{math.Inf(1), 4, "0"},
		{-1e300, 4, "-100000000000"},
	} {
		assert.Equal(t, c.want, string(appendFixed(nil, c.value, c.places)), "%g with %d places", c.value, c.places)
	}
}

// A hundredth of a point is seen on no paper; what is made a thousand times larger needs more.
func TestPlacesForLengths(t *testing.T) {
	for scale, want := range map[float64]int{0.75: 2, 1: 2, 1.01: 3, 375: 5, 0.09: 1, 0.0007: 0, 1e12: mostPlaces, 0: 2} {
		assert.Equal(t, want, placesFor(display.Matrix{scale, 0, 0, scale / 2}), scale)
		assert.Equal(t, want, placesFor(display.Matrix{0, scale / 2, -scale, 0}), "turned: %g", scale)
	}
}

// What multiplies coordinates keeps its digits, however small it is.
func TestMatrices(t *testing.T) {
	for want, m := range map[string]display.Matrix{
		"1 0 0 1 5.25 6":                      display.Translate(5.25, 6),
		"0.001369863 0 0 -0.001369863 0 0":    {100.0 / 73000, 0, 0, -100.0 / 73000, 0, 0},
		"0.70710678 0.70710678 0 1 12.3457 0": {math.Sqrt2 / 2, math.Sqrt2 / 2, 0, 1, 12.345678},
		"1 0 0 0 0 0":                         {1, 0, math.NaN(), math.Inf(-1), math.NaN(), math.Inf(1)},
	} {
		assert.Equal(t, want, string(appendMatrix(nil, m)))
	}
}
