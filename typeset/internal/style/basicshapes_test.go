package style

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

// outline tells of a shape in a line: its kind, then what it is made of.
func outline(p ClipPath) string {
	lengths := func(list ...LP) (text string) {
		for _, l := range list {
			text += " " + shownSum(l)
		}
		return text
	}
	size := func(s Size) string {
		switch s.Kind {
		case Length:
			return shownSum(s.LP)
		case ClosestSide:
			return "closest"
		case FarthestSide:
			return "farthest"
		}
		return "corner"
	}
	switch p.Kind {
	case InsetShape:
		text := "inset" + lengths(p.Inset[:]...)
		if p.Radius[0][0].Px > 0 {
			text += " round" + lengths(p.Radius[0][0], p.Radius[1][0], p.Radius[2][1], p.Radius[3][1])
		}
		return text
	case Circle, Ellipse:
		name := map[bool]string{true: "circle", false: "ellipse"}[p.Kind == Circle]
		return name + " " + size(p.RX) + " " + size(p.RY) + " at" + lengths(p.Center.X, p.Center.Y)
	case Polygon:
		text := fmt.Sprint("polygon ", p.Rule == Nonzero)
		for _, at := range p.Points {
			text += lengths(at.X, at.Y) + ","
		}
		return text
	case PathShape:
		return fmt.Sprint("path ", p.Rule == Nonzero, " ", p.Path)
	}
	return "none"
}

// shownSum is a length and a percentage.
func shownSum(l LP) string {
	switch {
	case l.Pct != 0 && l.Px != 0:
		return fmt.Sprintf("%g%%%+g", l.Pct, l.Px)
	case l.Pct != 0:
		return fmt.Sprintf("%g%%", l.Pct)
	}
	return fmt.Sprintf("%g", l.Px)
}

// TestBasicShapes computes each shape, and refuses what is none (CSS Shapes 1, §3).
func TestBasicShapes(t *testing.T) {
	for in, want := range map[string]string{
		"inset(1px)":                        "inset 1 1 1 1",
		"inset(1px 2px 3px)":                "inset 1 2 3 2",
		"inset(10% 2px 3px 4px round 5px)":  "inset 10% 2 3 4 round 5 5 5 5",
		"inset(1px round 1px 2px / 3px)":    "inset 1 1 1 1 round 1 2 3 3",
		"rect(1px 20px 30px 4px)":           "inset 1 100%-20 100%-30 4",
		"rect(auto auto auto auto)":         "inset 0 0 0 0",
		"xywh(1px 2px 30px 40px)":           "inset 2 100%-31 100%-42 1",
		"xywh(1px 2px 50% 40px)":            "inset 2 50%-1 100%-42 1",
		"circle()":                          "circle closest closest at 50% 50%",
		"circle(5px)":                       "circle 5 closest at 50% 50%",
		"circle(farthest-side at 1px 20%)":  "circle farthest closest at 1 20%",
		"circle(closest-corner)":            "circle corner closest at 50% 50%",
		"ellipse()":                         "ellipse closest closest at 50% 50%",
		"ellipse(5px 10%)":                  "ellipse 5 10% at 50% 50%",
		"ellipse(farthest-side 2px at 3px)": "ellipse farthest 2 at 3 50%",
		"polygon(0 0, 10px 0, 50% 100%)":    "polygon true 0 0, 10 0, 50% 100%,",
		"polygon(evenodd, 0 0, 1px 2px)":    "polygon false 0 0, 1 2,",
		"polygon(nonzero, 0 0)":             "polygon true 0 0,",
		`path("M 0 0 L 9 9 ")`:              "path true M 0 0 L 9 9",
		`path(evenodd, "M0 0")`:             "path false M0 0",
		"inset()":                           "none",
		"inset(1px round)":                  "none",
		"inset(red)":                        "none",
		"inset(auto)":                       "none",
		"circle(1px 2px)":                   "none",
		"circle(-1px)":                      "none",
		"circle(at)":                        "none",
		"circle(5px 1px at 0 0)":            "none",
		"ellipse(5px)":                      "none",
		"polygon()":                         "none",
		"polygon(0)":                        "none",
		"polygon(0 0, 1px)":                 "none",
		"polygon(0 0,)":                     "none",
		"path(M0)":                          "none",
		"star(5)":                           "none",
	} {
		got := "none"
		if p := styledBy(t, "<p id=x>x", "", "#x { clip-path: "+in+" }").ClipPath; p != nil {
			got = outline(*p)
		}
		assert.Equal(t, want, got, in)
	}
}
