package pdf

import (
	"io"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/style"
)

// grey is an opaque colour, from 0 for black to 1 for white.
func grey(v float32) style.Color { return style.Color{C: [4]float32{v, v, v}, A: 1} }

// stopsOf are colour stops: an offset and a grey, in turns.
func stopsOf(list ...float64) (stops []display.GradientStop) {
	for i := 0; i < len(list); i += 2 {
		stops = append(stops, display.GradientStop{Offset: list[i], Color: grey(float32(list[i+1]))})
	}
	return stops
}

func TestStripes(t *testing.T) {
	inf := math.Inf(1)
	cases := []struct {
		name string
		g    display.Gradient
		want []stripe
	}{
		{"colours that do not run into each other", display.Gradient{X1: 1, Stops: stopsOf(0, 0, 0.25, 0, 0.25, 1, 1, 1)}, []stripe{{-inf, 0.25, grey(0)}, {0.25, inf, grey(1)}}},
		{"one colour", display.Gradient{X1: 1, Stops: stopsOf(0.5, 1)}, []stripe{{-inf, inf, grey(1)}}},
		{"several changes at one place: the last is seen", display.Gradient{X1: 1, Stops: stopsOf(0, 0, 0.5, 0, 0.5, 0.5, 0.5, 1)}, []stripe{{-inf, 0.5, grey(0)}, {0.5, 0.5, grey(0.5)}, {0.5, inf, grey(1)}}},
		{"one stretch runs", display.Gradient{X1: 1, Stops: stopsOf(0, 0, 0.5, 0, 0.5, 1, 1, 0)}, nil},
		{"no stops", display.Gradient{X1: 1}, nil},
		{"no line", display.Gradient{Stops: stopsOf(0, 0, 0.5, 0, 0.5, 1)}, nil},
		{"rings", display.Gradient{Kind: display.Radial, Stops: stopsOf(0, 0, 0.5, 0, 0.5, 1)}, nil},
		{"too many", display.Gradient{X1: 1, Stops: make([]display.GradientStop, mostStripes+1)}, nil},
	}
	for _, c := range cases {
		assert.Equal(t, c.want, stripes(&c.g), c.name)
	}
}

// TestStripesAreShapes paints gradients and reads the page: hard edges stand where the stops
// say, to the tenth of a thousandth of a px, and nothing is sampled.
func TestStripesAreShapes(t *testing.T) {
	fill := func(g *display.Gradient, alpha float64) string {
		p, page := &display.Path{}, ""
		p.Rect(display.Rect{W: 100, H: 50})
		New(io.Discard).AddPage(100, 50).Draw(func(c display.Canvas) {
			c.Fill(p, display.Paint{Gradient: g, Alpha: alpha}, false)
			page = string(c.(*Content).buf)
		})
		return page
	}
	hard := stopsOf(0, 0, 0.25, 0, 0.25, 0.5, 0.5, 0.5, 0.5, 1)
	page := fill(&display.Gradient{X1: 100, Stops: hard}, 1)
	assert.NotContains(t, page, " sh")
	assert.Contains(t, page, "0.5 g\n25 -", "the second begins a quarter along")
	assert.Contains(t, page, "1 g\n50 -", "the third in the middle")
	assert.Contains(t, fill(&display.Gradient{X1: 100, Stops: hard}, 0.5), "sh\n", "what shines through may not overlap")
	assert.Contains(t, fill(&display.Gradient{X1: 100, Stops: stopsOf(0, 0, 1, 1)}, 1), "sh\n")
}
