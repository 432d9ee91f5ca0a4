package paint

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// A background may be cut to the letters; the text is there then, though not seen.
func TestBackgroundsOfLetters(t *testing.T) {
	const look = "font: 20px/20px sans-serif; width: 40px; color: transparent; background-clip: text; background-color: red; "
	got := one(t, "<div style='"+look+"'>HH</div>")
	assert.Regexp(t, `^mask alpha=true\nfill path 1\.\d+,\d+\.\d+ 2\d\.\d+×1\d\.\d+ #000000\nend\ngroup 1 \nfill 0,0 40×20 #ff0000\nend\ntext HH #000000$`, got)
	got = one(t, "<div style='"+look+"background-image: linear-gradient(red, blue)'>HH</div>")
	assert.Regexp(t, `(?s)clip 0,0 40×20\nmask alpha=true\nfill path 1\..*fill 0,0 40×20 gradient\nend`, got)
	got = one(t, "<div style='"+look+"'>H<u>H</u></div>")
	assert.Regexp(t, `(?s)^mask alpha=true\nfill path .*fill 14\.\d+,\d+.\d+ 14\.\d+×\d.* #000000\nfill path .*end\ngroup`, got, "a line below letters is cut out, too")
	assert.NotContains(t, one(t, "<div style='"+look+"'>H<span style='visibility: hidden'>H</span></div>"), "fill path 15")
	upright := one(t, "<div style='"+look+"writing-mode: vertical-rl; text-orientation: upright; height: 60px'>HH</div>")
	assert.Regexp(t, `^mask alpha=true\ntransform \[0 1 -1 0 [0-9.]+ 0\]\nfill path 3\.\d+,5\.\d+ 33\.\d+×11\.\d+ #000000\nend`, upright, "along a line that is turned")
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
	turned := one(t, "<div style='"+look+"writing-mode: vertical-rl; height: 60px'>H</div>")
	assert.Regexp(t, `^transform \[0 1 -1 0 .*\ntext H #ffd700\nstroke path `, turned)
	upright := one(t, "<div style='"+look+"writing-mode: vertical-rl; text-orientation: upright; height: 60px'>H</div>")
	assert.Regexp(t, `text H #ffd700\nstroke path `, upright)
}

// What stands upright in a vertical line is turned back, its shadow and its colours as well.
func TestUprightLetters(t *testing.T) {
	got := one(t, "<div style='writing-mode: vertical-rl; text-orientation: upright; height: 60px; text-shadow: 1px 2px red'>H</div>")
	assert.Regexp(t, `^transform \[0 1 -1 0 .*\ntransform \[0 -1 1 0 .*\ntext H #ff0000\ntransform \[0 -1 1 0 .*\ntext H #000000$`, got)
}
