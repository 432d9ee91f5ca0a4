package watch

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestWatchStopsAfterSteps(t *testing.T) {
	late := errors.New("too late")
	asked := 0
	w := &Watch{Check: func() error {
		if asked++; asked > 2 {
			return late
		}
		return nil
	}}
	steps := 0
	assert.PanicsWithValue(t, Stopped{late}, func() {
		for ; steps < 10*every; steps++ {
			w.Step()
		}
	})
	assert.Equal(t, 3*every-1, steps, "it asks once in so many steps")
	assert.PanicsWithValue(t, Stopped{late}, w.Ask)
}

func TestNoWatchNeverStops(t *testing.T) {
	var w *Watch
	assert.NotPanics(t, func() {
		w.Ask()
		for range 2 * every {
			w.Step()
		}
	})
}
