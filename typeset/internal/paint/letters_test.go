package paint

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// A background may be cut to the letters; the text is there then, though not seen.
func TestBackgroundsOfLetters(t *testing.T) {
	const look = "font: 20px/20px sans-serif; color: transparent; "
	got := one(t, "<div style='"+look+"background: red; background-clip: text'>HH</div>")
	assert.Regexp(t, `^fill path 1\.\d+,\d+\.\d+ 2\d\.\d+×1\d\.\d+ #ff0000\ntext HH #000000$`, got)
	got = one(t, "<div style='"+look+"background: linear-gradient(red, blue); -webkit-background-clip: text'>HH</div>")
	lines := strings.Split(got, "\n")
	assert.Len(t, lines, 4, got)
	assert.Regexp(t, `^clip path 1\.`, lines[1], "within the box and to the letters")
	assert.Contains(t, lines[2], "gradient")
}

// Letters are outlined above their colour, or below it.
func TestOutlinedLetters(t *testing.T) {
	const look = "font: 20px/20px sans-serif; color: gold; -webkit-text-stroke: 2px red; "
	got := one(t, "<div style='"+look+"'>H</div>")
	assert.Regexp(t, `^text H #ffd700\nstroke path `, got)
	got = one(t, "<div style='"+look+"paint-order: stroke'>H</div>")
	assert.Regexp(t, `^stroke path .*\ntext H #ffd700$`, got)
	got = one(t, "<div style='"+look+"-webkit-text-stroke-width: 0'>H</div>")
	assert.Equal(t, "text H #ffd700", got)
}
