package picture

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/display"
)

// What breaks a rule of the grammar has no effect at all (Transforms 1, §9.1).
func TestTransformAttribute(t *testing.T) {
	move := display.Translate(3, 4)
	for in, want := range map[string]display.Matrix{
		"":                              display.Identity,
		"translate(3 4)":                move,
		" translate ( 3,4 ) ":           move,
		"translate(3-.4e1)":             display.Translate(3, -4),
		"translate(3)":                  display.Translate(3, 0),
		"scale(2)":                      {2, 0, 0, 2, 0, 0},
		"scale(2 3)":                    {2, 0, 0, 3, 0, 0},
		"translate(1 1)translate(2 3)":  move,
		"translate(1 1) , scale(1)":     display.Translate(1, 1),
		"matrix(1 2 3 4 5 6)":           {1, 2, 3, 4, 5, 6},
		"skewX(0)skewY(0)":              display.Identity,
		"rotate(180 1 1)":               {-1, 0, 0, -1, 2, 2},
		"translate(3 4) scale(2":        display.Identity,
		"translate(3 4),":               display.Identity,
		"translate(3 4),,scale(2)":      display.Identity,
		",translate(3 4)":               display.Identity,
		"translate(3,,4)":               display.Identity,
		"translate(,3)":                 display.Identity,
		"translate(3 4,)":               display.Identity,
		"translate()":                   display.Identity,
		"translate(3 4 5)":              display.Identity,
		"translate(3px 4)":              display.Identity,
		"translate(3 4) rotate(90 20)":  display.Identity,
		"matrix(50% 0 0 -0.5 100 100)":  display.Identity,
		"matrix(1 0 0 1 3)":             display.Identity,
		"turn(3)":                       display.Identity,
		"Translate(3 4)":                display.Identity,
		"translate(3 4)\nwhat is this?": display.Identity,
	} {
		got := parseTransform(in)
		for i := range want {
			assert.InDelta(t, want[i], got[i], 1e-9, in)
		}
	}
}

func FuzzTransform(f *testing.F) {
	f.Add("rotate(45 1,2) matrix(1 0 0 1 .5-3)")
	f.Fuzz(func(t *testing.T, s string) { parseTransform(s) })
}
