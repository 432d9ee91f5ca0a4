package pdf

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/style"
)

// The colour between two stops is as far between theirs as the place is.
func TestColourAtAPlace(t *testing.T) {
	black, red := style.Color{A: 1}, style.Color{C: [4]float32{1, 0, 0}, A: 0.5}
	stops := []display.GradientStop{{Offset: 0.2, Color: black}, {Offset: 0.6, Color: red}, {Offset: 0.6, Color: black}}
	for at, want := range map[float64]style.Color{
		0:    black,
		0.2:  black,
		0.3:  {C: [4]float32{0.25, 0, 0}, A: 0.875},
		0.5:  {C: [4]float32{0.75, 0, 0}, A: 0.625},
		0.6:  black, // a hard edge
		0.61: black,
		1:    black,
	} {
		got := colorAt(stops, at)
		assert.InDeltaSlice(t, want.C[:], got.C[:], 1e-6, at)
		assert.InDelta(t, want.A, got.A, 1e-6, at)
	}
}
