package style

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestTransformFunctions computes each function: its matrix, then what it moves by.
func TestTransformFunctions(t *testing.T) {
	for in, want := range map[string]string{
		"translate(3px)":               "1 0 0 1 3 0",
		"translate(3px, 4px)":          "1 0 0 1 3 4",
		"translate(50%, 0)":            "1 0 0 1 50% 0",
		"translateX(3px)":              "1 0 0 1 3 0",
		"translateY(3px)":              "1 0 0 1 0 3",
		"translate3d(1px, 2px, 3px)":   "1 0 0 1 1 2",
		"scale(2)":                     "2 0 0 2 0 0",
		"scale(2, 3)":                  "2 0 0 3 0 0",
		"scale(50%)":                   "0.5 0 0 0.5 0 0",
		"scaleX(2)":                    "2 0 0 1 0 0",
		"scaleY(2)":                    "1 0 0 2 0 0",
		"scale3d(2, 3, 4)":             "2 0 0 3 0 0",
		"rotate(90deg)":                "0 1 -1 0 0 0",
		"rotate(0.25turn)":             "0 1 -1 0 0 0",
		"rotateZ(180deg)":              "-1 0 0 -1 0 0",
		"rotateX(60deg)":               "1 0 0 0.5 0 0",
		"rotateY(60deg)":               "0.5 0 0 1 0 0",
		"skew(45deg)":                  "1 0 1 1 0 0",
		"skew(0deg, 45deg)":            "1 1 0 1 0 0",
		"skewX(45deg)":                 "1 0 1 1 0 0",
		"skewY(45deg)":                 "1 1 0 1 0 0",
		"matrix(1, 2, 3, 4, 5, 6)":     "1 2 3 4 5 6",
		"translateZ(5px)":              "1 0 0 1 0 0",
		"perspective(100px)":           "1 0 0 1 0 0",
		"rotate3d(0, 0, 1, 45deg)":     "0.7071 0.7071 -0.7071 0.7071 0 0",
		"rotate3d(0, 0, -2, 45deg)":    "0.7071 -0.7071 0.7071 0.7071 0 0",
		"rotate3d(0, 1, 0, 60deg)":     "0.5 0 0 1 0 0",
		"rotate3d(1, 0, 0, 60deg)":     "1 0 0 0.5 0 0",
		"rotate3d(1, 1, 0, 45deg)":     "1 0 0 1 0 0",
		"translate3d(1px, 2px)":        "none",
		"scale(2) rotate(90deg)":       "2 0 0 2 0 0; 0 1 -1 0 0 0",
		"translate(1px, 2px, 3px)":     "none",
		"translate()":                  "none",
		"translate(red)":               "none",
		"translate3d(1px,2px,3px,4px)": "none",
		"scale(1, 2, 3)":               "none",
		"scale(1px)":                   "none",
		"scale()":                      "none",
		"rotate(3px)":                  "none",
		"rotate(1deg, 2deg)":           "none",
		"rotate()":                     "none",
		"rotateX(1deg, 2deg)":          "none",
		"skew(1px)":                    "none",
		"skew(1deg, 2px)":              "none",
		"skew(1deg, 2deg, 3deg)":       "none",
		"skewX(1deg, 2deg)":            "none",
		"matrix(1, 2, 3, 4, 5)":        "none",
		"matrix(1, 2, 3, 4, 5, 6, 7)":  "none",
		"matrix(1, 2, 3, 4, 5px, 6)":   "none",
		"matrix3d(1)":                  "none",
		"perspective(none)":            "1 0 0 1 0 0",
		"scaleZ(2)":                    "1 0 0 1 0 0",
		"translateZ()":                 "none",
		"translateZ(1px, 2px)":         "none",
		"perspective(-1px)":            "none",
		"scaleZ(1px)":                  "none",
		"rotate3d(0, 0, 1)":            "none",
		"rotate3d(0, 0, 1, 2px)":       "none",
		"wobble(1)":                    "none",
		"scale(2) none":                "none",
		"matrix3d(1, 2, 0, 0, 3, 4, 0, 0, 0, 0, 1, 0, 5, 6, 0, 1)": "1 2 3 4 5 6",
	} {
		got := ""
		for _, op := range styledBy(t, "<p id=x>x", "", "#x { transform: "+in+" }").Transform {
			if got != "" {
				got += "; "
			}
			for _, f := range op.M {
				got += fmt.Sprintf("%g ", math.Round(f*1e4)/1e4+0) // no −0
			}
			got += shown(op.X) + " " + shown(op.Y)
		}
		if got == "" {
			got = "none"
		}
		assert.Equal(t, want, got, in)
	}
}

// shown is a length or a percentage.
func shown(l LP) string {
	if l.Pct != 0 {
		return fmt.Sprintf("%g%%", l.Pct)
	}
	return fmt.Sprintf("%g", l.Px)
}
