package font

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A program for single bytes leads from characters to the outlines that the face has for
// them, and holds no others.
func TestSimplePrograms(t *testing.T) {
	face := NewSet().Primary(Query{Families: []string{"sans-serif"}, Weight: 400, Stretch: 100}).Face
	data := face.Simple([]rune("Aé€✈"))
	again, err := Parse(data, nil)
	require.NoError(t, err)
	for _, r := range "Aé€" {
		require.NotZero(t, again.Glyph(r), "%c", r)
		assert.Equal(t, face.Advance(r), again.Advance(r), "%c", r)
		assert.Equal(t, face.glyph(face.Glyph(r))[:10], again.glyph(again.Glyph(r))[:10], "%c has its box", r)
	}
	assert.Zero(t, again.Glyph('B'))
	assert.Zero(t, again.Glyph('✈'), "what the face lacks is left out")
	assert.Less(t, len(data), 20_000)
	assert.Nil(t, (&Face{CFF: true}).Simple([]rune("A")), "other outlines have no such program")
}
