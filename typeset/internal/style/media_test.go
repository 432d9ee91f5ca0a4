package style

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/css"
)

// Media queries (Media Queries 5) on a page of 800 by 600 px.
func TestMediaQueries(t *testing.T) {
	env := Env{Medium: "print", Width: 800, Height: 600}
	for _, c := range []struct {
		query string
		want  bool
	}{
		{"all", true},
		{"print", true},
		{"screen", false},
		{"not print", false},
		{"not screen", true},
		{"only print", true},
		{"tty", false},
		{"print, screen", true},
		{"screen, tty", false},
		{"(width: 800px)", true},
		{"(width: 801px)", false},
		{"(min-width: 800px)", true},
		{"(min-width: 800.5px)", false},
		{"(max-width: 800px)", true},
		{"(max-width: 799px)", false},
		{"(min-width: 50em)", true},
		{"(min-width: 51em)", false},
		{"(width > 799px)", true},
		{"(width > 800px)", false},
		{"(width >= 800px)", true},
		{"(width < 800px)", false},
		{"(width <= 800px)", true},
		{"(width = 800px)", true},
		{"(799px < width)", true},
		{"(400px <= width <= 900px)", true},
		{"(400px < width < 800px)", false},
		{"(900px >= width > 100px)", true},
		{"(400px < width > 100px)", false},
		{"(height: 600px)", true},
		{"(min-height: 20cm)", false},
		{"(orientation: landscape)", true},
		{"(orientation: portrait)", false},
		{"(aspect-ratio: 4/3)", true},
		{"(min-aspect-ratio: 1/1)", true},
		{"(max-aspect-ratio: 1/1)", false},
		{"(aspect-ratio > 1)", true},
		{"(color)", true},
		{"(min-color: 8)", true},
		{"(color: 0)", false},
		{"(monochrome)", false},
		{"(color-index)", false},
		{"(resolution: 96dpi)", false},
		{"(min-resolution: 2dppx)", true},
		{"(max-resolution: 10dppx)", true},
		{"(min-resolution: 1x)", true},
		{"(grid)", false},
		{"(grid: 0)", true},
		{"(hover)", false},
		{"(hover: none)", true},
		{"(hover: hover)", false},
		{"(any-hover: none)", true},
		{"(pointer)", false},
		{"(pointer: none)", true},
		{"(update: none)", true},
		{"(scripting)", false},
		{"(scripting: none)", true},
		{"(scripting: enabled)", false},
		{"(prefers-color-scheme: light)", true},
		{"(prefers-color-scheme: dark)", false},
		{"(prefers-reduced-motion: reduce)", false},
		{"(prefers-reduced-motion)", false},
		{"(prefers-contrast: more)", false},
		{"(forced-colors: active)", false},
		{"(overflow-block: paged)", true},
		{"(overflow-block: scroll)", false},
		{"(color-gamut: srgb)", true},
		{"(color-gamut: rec2020)", false},
		{"(display-mode: browser)", true},
		{"(inverted-colors: none)", true},
		{"(device-width: 800px)", true},
		{"(max-device-width: 799px)", false},
		{"(nonsense)", false},
		{"(nonsense: 3)", false},
		{"not (nonsense)", false},
		{"not (width: 801px)", true},
		{"(width) and (height)", true},
		{"(width: 1px) and (height)", false},
		{"(width: 1px) or (height)", true},
		{"(width: 1px) or (height: 1px)", false},
		{"((width) or (color)) and (orientation: landscape)", true},
		{"not ((width) and (color))", false},
		{"(width) and (height) or (color)", false},
		{"print and (width: 800px)", true},
		{"print and (width: 1px)", false},
		{"print or (width)", false},
		{"screen and (width)", false},
		{"not print and (width: 1px)", true},
		{"print and not (width: 1px)", true},
		{"(width: calc(400px * 2))", true},
		{"(min-width: -1px)", true},
		{"(width: 800)", false},
		{"(width 800px)", false},
		{"()", false},
		{"and", false},
		{",", false},
		{"print,,screen", true},
		{"(min-width: 100px) and (max-width: 900px), screen", true},
		{"(--custom)", false},
		{"(update)", false},
		{"(-webkit-min-device-pixel-ratio: 2)", false},
		{"(min-width: 800px", true},
	} {
		assert.Equal(t, c.want, MatchMediaText(c.query, env), c.query)
	}
}

// Queries for what is supported (Conditional Rules 4 and 5).
func TestSupportsQueries(t *testing.T) {
	for _, c := range []struct {
		query string
		want  bool
	}{
		{"(display: grid)", true},
		{"(display: gridd)", false},
		{"(colour: red)", false},
		{"(--x: anything)", true},
		{"not (display: grid)", false},
		{"not (display: gridd)", true},
		{"(display: grid) and (color: red)", true},
		{"(display: grid) and (color: reddish)", false},
		{"(display: grid) or (color: reddish)", true},
		{"((display: grid))", true},
		{"(not (display: gridd))", true},
		{"selector(p > a)", true},
		{"selector(p:hover)", true},
		{"selector(::nonsense)", false},
		{"selector(p >)", false},
		{"font-tech(variations)", true},
		{"font-tech(color-colrv1)", false},
		{"font-format(woff2)", true},
		{"font-format(eot)", false},
		{"(width: calc(1px + 2%))", true},
		{"(width: 3)", false},
		{"(color: rgb(from red r g b))", true},
		{"(display: grid) and (color: red) or (width: 1px)", false},
		{"(display)", false},
		{"unknown(x)", false},
		{"(text-wrap: balance) and (not (color: nope))", true},
	} {
		assert.Equal(t, c.want, MatchSupports(css.ParseValues(c.query)), c.query)
	}
}
