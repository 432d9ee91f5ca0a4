package layout

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestLengthsDifferByRounding(t *testing.T) {
	for _, c := range []struct {
		name            string
		a, b            float64
		atMost, exceeds bool
	}{
		{"less", 9, 10, true, false},
		{"the same", 10, 10, true, false},
		{"more by rounding", 10.009, 10, true, false},
		{"more", 10.011, 10, false, true},
		{"not known", Indefinite, 10, false, false},
		{"compared with what is not known", 10, Indefinite, false, false},
		{"on endless paper", 1e9, inf, true, false},
	} {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.atMost, atMost(c.a, c.b))
			assert.Equal(t, c.exceeds, exceeds(c.a, c.b))
		})
	}
}
