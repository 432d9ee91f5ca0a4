package style

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/css"
)

// TestMathFunctions works out each math function (Values 4, §10), as a length, a number or
// an angle.
func TestMathFunctions(t *testing.T) {
	for value, want := range map[string]float64{
		"min(3px, 1px, 2px)":                            1,
		"max(3px, 1px, 2px)":                            3,
		"clamp(2px, 1px, 4px)":                          2,
		"clamp(2px, 3px, 4px)":                          3,
		"clamp(2px, 5px, 4px)":                          4,
		"clamp(4px, 1px, 2px)":                          4,
		"clamp(none, 5px, 4px)":                         4,
		"clamp(2px, 1px, none)":                         2,
		"clamp(none, 7px, none)":                        7,
		"round(7px, 5px)":                               5,
		"round(nearest, 7.5px, 5px)":                    10,
		"round(up, 6px, 5px)":                           10,
		"round(down, 9px, 5px)":                         5,
		"round(to-zero, -9px, 5px)":                     -5,
		"calc(round(2.6) * 1px)":                        3,
		"mod(-7px, 5px)":                                3,
		"rem(-7px, 5px)":                                -2,
		"abs(-7px)":                                     7,
		"hypot(-5px)":                                   5,
		"hypot(3px, 4px, 12px)":                         13,
		"calc(sign(-9px) * 1px)":                        -1,
		"calc(sign(9px) * 2px)":                         2,
		"calc(sign(0) * 2px)":                           0,
		"calc(progress(5px, 0px, 20px) * 100px)":        25,
		"calc(progress(50px, 0px, 20px) * 100px)":       100,
		"calc(sin(30deg) * 10px)":                       5,
		"calc(cos(60deg) * 10px)":                       5,
		"calc(tan(45deg) * 10px)":                       10,
		"calc(sin(0.25turn) * 10px)":                    10,
		"calc(cos(0) * 10px)":                           10,
		"calc(sin(asin(0.5)) * 10px)":                   5,
		"calc(cos(acos(0.5)) * 10px)":                   5,
		"calc(tan(atan(2)) * 10px)":                     20,
		"calc(tan(atan2(3px, 1px)) * 10px)":             30,
		"calc(pow(2, 10) * 1px)":                        1024,
		"calc(sqrt(81) * 1px)":                          9,
		"calc(exp(0) * 3px)":                            3,
		"calc(log(8, 2) * 1px)":                         3,
		"calc(log(exp(2)) * 1px)":                       2,
		"calc(2 * (3px + 4px) - 10px / 5)":              12,
		"-webkit-calc(1px + 1px)":                       2,
		"calc(1px * pi - 3.14px)":                       0.0015926535,
		"calc(1px * e - 2.71px)":                        0.0082818284,
		"calc(min(infinity, 3) * 1px)":                  3,
		"calc(1px + (2px * (3 + (4 - 1))))":             13,
		"max(1px, min(5px, calc(2px * 2)), abs(-3px))":  4,
		"calc(round(down, 10px, 3px) + mod(10px, 3px))": 10,
	} {
		s := styled(t, div(""), "#x { margin-left: "+value+" }")
		assert.InDelta(t, want, s.Margin[Left].Px, 1e-6, value)
	}
	for _, wrong := range []string{
		"min()", "min(1px, 1)", "clamp(1px, 2px)", "clamp(1px, none, 2px)", "clamp(1px, 2px, 3)", "round(1px)", "round(up)", "round(sideways, 1px, 1px)", "round(1px, 1)",
		"mod(1px)", "rem(1px, 2)", "abs(1px, 2px)", "calc(sin(1px) * 1px)", "calc(sin(1, 2) * 1px)", "asin(1)", "calc(asin(1px) * 1px)", "calc(pow(1px, 2) * 1px)", "calc(sqrt(4px) * 1px)",
		"calc(sign(1, 2) * 1px)", "calc(progress(1, 2) * 1px)", "calc(1px * 1px)", "calc(1 / 1px)", "calc(1px + 1)", "calc(1px +1px)", "calc()", "wave(1px)",
	} {
		assert.False(t, Supports("margin-left", css.ParseValues(wrong)), wrong)
	}
}

func TestAnglesOfArcFunctions(t *testing.T) {
	for value, want := range map[string]float64{"asin(1)": 90, "acos(0)": 90, "atan(1)": 45, "atan2(1px, -1px)": 135, "atan2(-1, 0)": -90} {
		s := styled(t, div(""), fmt.Sprintf("#x { transform: rotate(%s) }", value))
		m := s.Transform[0].M
		want := styled(t, div(""), fmt.Sprintf("#x { transform: rotate(%gdeg) }", want)).Transform[0].M
		assert.InDeltaSlice(t, want[:], m[:], 1e-9, value)
	}
}
