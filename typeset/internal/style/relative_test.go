package style

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestRelativeWeights goes by the table of what bolder and lighter make of the parent's weight (Fonts 4, §2.2.1).
func TestRelativeWeights(t *testing.T) {
	for _, test := range []struct{ parent, bolder, lighter float64 }{
		{1, 400, 1},
		{99, 400, 99},
		{100, 400, 100},
		{349, 400, 100},
		{350, 700, 100},
		{549, 700, 100},
		{550, 900, 400},
		{749, 900, 400},
		{750, 900, 700},
		{899, 900, 700},
		{900, 900, 700},
		{1000, 1000, 700},
	} {
		for word, want := range map[string]float64{"bolder": test.bolder, "lighter": test.lighter} {
			s := styled(t, div(""), fmt.Sprintf("div { font-weight: %g } #x { font-weight: %s }", test.parent, word))
			assert.InDelta(t, want, s.FontWeight, 0, "%s than %g", word, test.parent)
		}
	}
}

// TestRootUnits: rem, rlh and the like go by the root element, also where it is styled itself, and languages are passed on.
func TestRootUnits(t *testing.T) {
	const page = "<!DOCTYPE html><html lang=fr><body><section lang=de><p id=x>x"
	s := styled(t, page, "html { font-size: 10px; line-height: 3 } section { font-size: 30px } #x { width: 2rem; height: 2rlh; margin-left: 1rem }")
	assert.InDelta(t, 20, s.Width.Px, 0)
	assert.InDelta(t, 60, s.Height.Px, 0)
	assert.Equal(t, "de", s.Lang)
	s = styled(t, page, "html { font-size: 2rem } #x { width: 1rem }")
	assert.InDelta(t, 32, s.Width.Px, 0, "of the root itself they go by the first value (Values 4, §6.1.1)")
	s = styled(t, "<!DOCTYPE html><html id=x lang=nl>", "")
	assert.Equal(t, "nl", s.Lang)
	s = styled(t, "<!DOCTYPE html><html lang=fr><p id=x lang=''>", "")
	assert.Empty(t, s.Lang)
}
