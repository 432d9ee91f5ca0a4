package typeset

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Styles that depend on the size of a container hold when the document is laid out,
// however deep containers nest.
func TestContainersAreAskedForTheirSize(t *testing.T) {
	w := at(t, `<style>
.c { container-type: inline-size } .half { width: 50% } .tall { container: sized / size; height: 100px }
@container (min-width: 300px) { .a { margin-left: 30px } }
@container (width < 300px) { .a { margin-left: 60px } @container sized (height = 100px) { .both { margin-left: 70px } } }
@container not (width < 300px) { .a { padding-left: 5px } }
@container sized (orientation: landscape) and (aspect-ratio >= 2) { .d { margin-left: 40px } }
@container sized (block-size > 100px) { .d { margin-left: 90px } }
@container other { .d { margin-left: 90px } }
@container style(--x: 1) { p { margin-left: 90px } }
@container (width: 200px) { .c.half::before { content: "generated" } }
.u { margin-left: 10cqw } .v { margin-left: 10cqh }
</style>
<p class="a v">out</p>
<div class=c><p class=a>wide</p><div class="c half"><p class=a>narrow</p><p class=u>unit</p>
 <div class="tall"><p class=d>sized</p><p class=v>height</p><p class="a both">both</p></div></div></div>`)
	for word, x := range map[string]float64{"out": 30, "wide": 35, "narrow": 60, "unit": 20, "sized": 40, "height": 10, "both": 70, "generated": 0} {
		if assert.Contains(t, w, word) {
			assert.InDelta(t, x, w[word].x, 1, word)
		}
	}
}

func TestContainersAcrossPagesAndTurned(t *testing.T) {
	w := at(t, `<style>
.long { container-type: size; height: 500px } @container (height: 500px) { .long p { margin-left: 30px } }
.down { writing-mode: vertical-rl; container-type: inline-size; height: 120px }
@container (inline-size: 120px) { .down p { margin-top: 10cqi } } @container (width > 0px) { .down p { margin-top: 99px } }
</style><div class=down><p>down</p></div><div class=long><p>first</p><div style="height:300px"></div><p>second</p></div>`)
	assert.InDelta(t, 12, w["down"].y, 2, "lines run down: only the height of the box is contained")
	assert.InDelta(t, 30, w["first"].x, 1)
	assert.Equal(t, 2, w["second"].page)
	assert.InDelta(t, 30, w["second"].x, 1, "the parts of a box add up to its height")
}

// A style that turns the size it asks for round ends after some rounds, with all words.
func TestContainersThatNeverSettle(t *testing.T) {
	w := at(t, `<style>.o { width: 400px } .f { float: left; width: 250px; height: 20px } .c { container-type: inline-size }
@container (width < 200px) { .x { display: block; height: 40px } } @container (width > 200px) { .x { height: 10px } }</style>
<div class=o><div class=f></div><div class=c><div class=x></div>`+strings.Repeat("word ", 60)+`</div></div><p>end`)
	assert.Contains(t, w, "end")
}

func TestContainerRulesNotUnderstoodAreTold(t *testing.T) {
	list := told(t, "<style>@container style(--x: 1) { p { color: red } } @container a ~ (x) { p { color: red } } @container (width > 1px) { p { color: green } }</style><p>x")["css-unsupported"]
	assert.Len(t, list, 2)
	assert.Contains(t, list[0].Message, "style()")
	assert.Positive(t, list[1].Line)
}
