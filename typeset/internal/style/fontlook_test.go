package style

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestFontPalette(t *testing.T) {
	sheet := `@font-palette-values --sea { font-family: Harbour; base-palette: 2; override-colors: 0 #010203, 3 rgb(4 5 6) }
@font-palette-values --sea { font-family: Quay; base-palette: dark; override-colors: 0 currentcolor }
#x { font-palette: --sea }`
	p := styled(t, div(""), sheet).FontPalette
	require.NotNil(t, p)
	r := p.For("harbour")
	require.NotNil(t, r, "families are matched whatever their case")
	assert.Equal(t, 2, r.Base)
	assert.Equal(t, [3]int{4, 5, 6}, rgbOf(r.Override[3]))
	assert.True(t, p.For("Quay").Dark)
	assert.Empty(t, p.For("Quay").Override, "a palette holds absolute colours only")
	assert.Nil(t, p.For("Pier"))
	assert.Nil(t, styled(t, div(""), "#x { font-palette: normal }").FontPalette)
	assert.True(t, styled(t, div(""), "#x { font-palette: light }").FontPalette.Light)
	assert.Nil(t, styled(t, div(""), "#x { font-palette: sea }").FontPalette, "names begin with two hyphens")
}

func TestFontSynthesis(t *testing.T) {
	of := func(v string) []Keyword {
		s := styled(t, div(""), "#x { "+v+" }")
		return []Keyword{s.SynthesisWeight, s.SynthesisStyle, s.SynthesisCaps}
	}
	assert.Equal(t, []Keyword{Auto, Auto, Auto}, of(""))
	assert.Equal(t, []Keyword{None, None, None}, of("font-synthesis: none"))
	assert.Equal(t, []Keyword{None, Auto, Auto}, of("font-synthesis: style small-caps"))
	assert.Equal(t, []Keyword{None, Auto, Auto}, of("font-synthesis-weight: none"))
	assert.Equal(t, []Keyword{Auto, Auto, Auto}, of("font-synthesis: bold"), "not a value")
}

func TestFontSizeAdjust(t *testing.T) {
	of := func(v string) SizeAdjust { return styled(t, div(""), "#x { font-size-adjust: "+v+" }").SizeAdjust }
	assert.Equal(t, SizeAdjust{On: true, Measure: "ex-height", Value: 0.5}, of("0.5"))
	assert.Equal(t, SizeAdjust{On: true, Measure: "cap-height", Value: 0.7}, of("cap-height calc(1.4 / 2)"))
	assert.Equal(t, SizeAdjust{On: true, Measure: "ch-width", FromFont: true}, of("ch-width from-font"))
	assert.Equal(t, SizeAdjust{}, of("none"))
	assert.Equal(t, SizeAdjust{}, of("-1"))
	m := Metrics{Ex: 1, Cap: 2, Ch: 3, Ic: 4}
	assert.Equal(t, []float64{1, 2, 3, 4, 1}, []float64{
		SizeAdjust{Measure: "ex-height"}.Of(m), SizeAdjust{Measure: "cap-height"}.Of(m),
		SizeAdjust{Measure: "ch-width"}.Of(m), SizeAdjust{Measure: "ic-width"}.Of(m), SizeAdjust{Measure: "ic-height"}.Of(m),
	})
}

func TestEmphasisPlace(t *testing.T) {
	over := func(v string) bool { return styled(t, div(""), "#x { "+v+" }").EmphasisOver() }
	assert.True(t, over(""))
	assert.False(t, over("text-emphasis-position: under right"))
	assert.True(t, over("writing-mode: vertical-rl; text-emphasis-position: under right"), "vertical lines ask for left or right")
	assert.False(t, over("writing-mode: vertical-rl; text-emphasis-position: over left"))
	assert.True(t, over("writing-mode: sideways-lr; text-emphasis-position: over left"))
}
