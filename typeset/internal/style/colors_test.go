package style

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestColorsAsABrowserShowsThem holds notations against the pixels that a browser
// paints for them: red, green, blue and alpha, each up to 255. Colours outside sRGB are
// left out, as screens clip them and paper does not.
func TestColorsAsABrowserShowsThem(t *testing.T) {
	for text, want := range map[string][4]float32{
		"lab(50% 40 -20)":                         {171, 90, 154, 255},
		"lch(60% 60 120)":                         {110, 158, 41, 255},
		"oklab(0.6 0.1 -0.1)":                     {159, 99, 186, 255},
		"oklch(70% 0.1 none)":                     {210, 132, 156, 255},
		"hwb(200 20% 30%)":                        {51, 136, 179, 255},
		"hwb(0.5turn 60% 60%)":                    {128, 128, 128, 255},
		"hsl(0.25turn 50% 40%)":                   {102, 153, 51, 255},
		"hsl(120 none 50%)":                       {128, 128, 128, 255},
		"color(srgb 0.2 0.4 0.6)":                 {51, 102, 153, 255},
		"color(srgb-linear 0.2 0.4 0.6)":          {124, 170, 203, 255},
		"color(display-p3 0.3 0.5 0.2)":           {57, 129, 37, 255},
		"color(a98-rgb 0.3 0.5 0.2)":              {29, 128, 40, 255},
		"color(prophoto-rgb 0.3 0.4 0.3)":         {68, 126, 90, 255},
		"color(rec2020 0.3 0.4 0.3)":              {72, 118, 88, 255},
		"color(xyz 0.3 0.4 0.3)":                  {126, 183, 138, 255},
		"color(xyz-d50 0.3 0.4 0.3)":              {107, 185, 160, 255},
		"color-mix(in srgb, red, blue)":           {128, 0, 128, 255},
		"color-mix(in srgb, red 30%, blue)":       {77, 0, 179, 255},
		"color-mix(in lab, red, blue)":            {193, 0, 136, 255},
		"color-mix(in oklab, white, blue 25%)":    {184, 210, 255, 255},
		"color-mix(in hsl, red, lime)":            {255, 255, 0, 255},
		"color-mix(in hsl longer hue, red, lime)": {0, 0, 255, 255},
		"color-mix(in hsl, red, cyan)":            {128, 255, 0, 255}, // half a turn goes upwards (Color 4, §12.4)
		"color-mix(in hsl, cyan, red)":            {128, 255, 0, 255},
		"color-mix(in hsl increasing hue, hsl(300 100% 50%), hsl(20 100% 50%))": {255, 0, 85, 255},
		"color-mix(in hsl decreasing hue, hsl(20 100% 50%), hsl(300 100% 50%))": {255, 0, 85, 255},
		"color-mix(in hwb, red, gray)":                                          {192, 64, 64, 255},
		"color-mix(in lch, red, gray)":                                          {200, 97, 71, 255},
		"color-mix(in oklch shorter hue, yellow, teal)":                         {87, 203, 127, 255},
		"color-mix(in xyz, red, blue)":                                          {188, 0, 188, 255},
		"color-mix(in srgb, rgb(255 0 0 / 50%), blue)":                          {85, 0, 170, 191},
		"color-mix(in srgb, red 20%, blue 30%)":                                 {102, 0, 153, 128},
		"rgb(from #336699 g b r)":                                               {102, 153, 51, 255},
		"rgb(from #336699 calc(r * 2) g b / 50%)":                               {102, 102, 153, 128},
		"hsl(from #336699 calc(h + 90) s l)":                                    {153, 51, 153, 255},
		"oklch(from #336699 calc(l + .2) c h)":                                  {110, 163, 218, 255},
		"color(from #336699 srgb r calc(g - .1) b)":                             {51, 77, 153, 255},
		"hwb(from teal h 30% b)":                                                {77, 128, 128, 255},
		"rgb(50% 25% 75%)":                                                      {128, 64, 191, 255},
		"rgb(300 -20 127.6)":                                                    {255, 0, 128, 255},
		"rgba(1,2,3,.5)":                                                        {2, 2, 4, 128},
		"#1234":                                                                 {19, 34, 52, 68},
		"#abcdef80":                                                             {171, 205, 239, 128},
		"rebeccapurple":                                                         {102, 51, 153, 255},
		"color-mix(in rec2020, red, lime)":                                      {197, 160, 16, 255},
		"color-mix(in display-p3, red, blue)":                                   {128, 10, 145, 255},
		"lab(120% 0 0)":                                                         {255, 255, 255, 255},
	} {
		c := styled(t, "<!DOCTYPE html><p id=x style='color: "+text+"'>", "").Color.ToRGB()
		for i, v := range []float32{c.C[0], c.C[1], c.C[2], c.A} {
			assert.InDelta(t, want[i], 255*v, 2.5, "%s: %v", text, c)
		}
	}
}

// Names of alternates stand for the features that @font-feature-values gives them.
func TestFeatureValues(t *testing.T) {
	const sheet = `@font-feature-values "Quay Sans", Lantern { @styleset { nice: 12; wide: 3 4 } @swash { fancy: 2 } @character-variant { g: 1 2 } @annotation { bad: x } }
		@font-feature-values Other { @styleset { nice: 5 } }`
	for value, want := range map[string]string{
		"'Quay Sans'; font-variant-alternates: styleset(nice)":                              "ss12",
		"lantern; font-variant-alternates: styleset(wide, nice)":                            "ss03 ss04 ss12",
		"Other; font-variant-alternates: styleset(nice)":                                    "ss05",
		"None, Lantern; font-variant-alternates: swash(fancy)":                              "swsh=2 cswh=2",
		"Lantern; font-variant-alternates: character-variant(g)":                            "cv01=2",
		"Lantern; font-variant-alternates: annotation(bad) styleset(unknown)":               "",
		"Lantern; font-variant-alternates: historical-forms; font-variant: normal":          "",
		"x; font-variant-ligatures: none; font-variant-numeric: tabular-nums slashed-zero":  "-liga -clig -dlig -hlig -calt tnum zero",
		"x; font-variant: oldstyle-nums no-contextual super; font-variant-position: normal": "-calt onum",
		"x; font-variant-numeric: lining-nums; font: 12px x":                                "",
	} {
		s := styled(t, "<!DOCTYPE html><p id=x style=\"font-family: "+value+"\">", sheet)
		assert.Equal(t, want, strings.Join(slices.Concat(s.FontVariants[:]...), " "), value)
	}
}

// Inks of printing are mixed as such, unless another space is asked for or the other colour is none of them.
func TestMixingInks(t *testing.T) {
	magenta, dark := Color{Space: CMYK, C: [4]float32{0, 1, 0, 0}, A: 1}, Color{Space: CMYK, C: [4]float32{1, 0, 0, 0.5}, A: 0.5}
	assert.Equal(t, Color{Space: CMYK, C: [4]float32{0.25, 0.75, 0, 0.125}, A: 0.875}, Mix("srgb", "shorter", magenta, dark, 0.25))
	assert.Equal(t, SRGB, Mix("oklab", "shorter", magenta, dark, 0.25).Space)
	assert.Equal(t, SRGB, Mix("srgb", "shorter", magenta, RGB8(0, 0, 0), 0.25).Space)
}
