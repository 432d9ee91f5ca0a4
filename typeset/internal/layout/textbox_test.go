package layout

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/style"
)

// linesIn lists the baselines and the lower ends of the lines of a fragment, from its top.
func linesIn(f *Fragment, y float64) (baselines, ends []float64) {
	for _, k := range f.Kids {
		if k.F.Line {
			baselines, ends = append(baselines, y+k.Y+k.F.Baseline), append(ends, y+k.Y+k.F.H)
			continue
		}
		b, e := linesIn(k.F, y+k.Y)
		baselines, ends = append(baselines, b...), append(ends, e...)
	}
	return baselines, ends
}

// TestTextBoxTrim looks at where the first and the last line of a box stand (CSS Inline 3,
// §5.2): with their leading, or flush with the text.
func TestTextBoxTrim(t *testing.T) {
	const css = "body { margin: 0 } div { font: 20px/60px serif; text-box-edge: text }"
	cases := []struct {
		name, html string
		start, end bool
	}{
		{"none", "<div id=a>x<br>x</div>", false, false},
		{"the start", "<div id=a style='text-box-trim:trim-start'>x<br>x</div>", true, false},
		{"the end", "<div id=a style='text-box-trim:trim-end'>x<br>x</div>", false, true},
		{"both by the shorthand", "<div id=a style='text-box:text'>x<br>x</div>", true, true},
		{"of a single line", "<div id=a style='text-box:text'>x</div>", true, true},
		{"it is not inherited, but comes to the first and last line in boxes inside", "<div id=a style='text-box-trim:trim-both'><div>x</div><div>x</div></div>", true, true},
		{"unless padding parts them", "<div id=a style='text-box-trim:trim-both'><div style='padding:1px 0'>x</div></div>", false, false},
		{"or other contents stand between", "<div id=a style='text-box-trim:trim-both'><div style='height:5px'></div><div>x</div><div style='height:5px'></div></div>", false, false},
		{"boxes without contents do not", "<div id=a style='text-box-trim:trim-both'><div></div><div>x</div><div></div></div>", true, true},
		{"nor does what stands beside the flow", "<div id=a style='text-box-trim:trim-both'><div style='float:left'></div>x<div style='position:absolute'>x</div></div>", true, true},
		{"what boxes around ask for adds up", "<div id=a style='text-box-trim:trim-start'><div style='text-box-trim:trim-end'>x</div></div>", true, true},
		{"an empty last line counts for nothing", "<div id=a style='text-box-trim:trim-end'>x<br><span></span></div>", false, true},
		{"a flex item", "<div style='display:flex'><div id=a style='text-box-trim:trim-both'>x</div></div>", true, true},
		{"a table cell", "<table style='border-spacing:0'><td style='padding:0'><div id=a style='text-box-trim:trim-both'>x</div></table>", true, true},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			l, root := tree(t, c.html, css)
			page, rest := l.LayPage(root, 400, 600, 0, 0, nil)
			require.Nil(t, rest)
			a := fragmentOf(page, "a")
			over, under := l.textEdges(a.Box.Style)
			strut := l.look(a.Box.Style).strut
			baselines, ends := linesIn(a, 0)
			first, last := baselines[0]-a.Box.Style.Padding[style.Top].Px, a.H-baselines[len(baselines)-1]
			if c.start {
				assert.InDelta(t, over, first, 0.01, "flush with the text")
			} else {
				assert.GreaterOrEqual(t, first, strut.above-0.01, "with the leading")
			}
			if c.end {
				assert.InDelta(t, under, last, 0.01, "flush with the text")
				assert.InDelta(t, a.H, ends[len(ends)-1], 0.01, "the box ends there")
			} else {
				assert.GreaterOrEqual(t, last, strut.below-0.01, "with the leading")
			}
		})
	}
}

// TestTextBoxTrimOverPages: a box ends with its text where it begins and ends, and so do its
// parts if each has edges of its own. A line that fits without its leading stays.
func TestTextBoxTrimOverPages(t *testing.T) {
	for name, c := range map[string]struct {
		css   string
		pages int
		start bool // of the second page
	}{
		"one box":                       {"", 4, false},
		"parts with edges of their own": {"box-decoration-break: clone", 2, true},
	} {
		t.Run(name, func(t *testing.T) {
			l, root := tree(t, "<div id=a>x<br>x<br>x<br>x</div>", "body { margin: 0 } #a { font: 20px/60px serif; text-box: trim-both text; orphans: 1; widows: 1;"+c.css+"}")
			var pages []*Fragment
			for at := (*Break)(nil); ; {
				page, rest := l.LayPage(root, 400, 90, 0, 0, at)
				pages = append(pages, page)
				if at = rest; at == nil {
					break
				}
				require.Less(t, len(pages), 9)
			}
			assert.Len(t, pages, c.pages)
			a := fragmentOf(pages[1], "a")
			over, _ := l.textEdges(a.Box.Style)
			baselines, _ := linesIn(a, 0)
			if c.start {
				assert.InDelta(t, over, baselines[0], 0.01)
			} else {
				assert.Greater(t, baselines[0], over+10)
			}
		})
	}
}

func TestTextEdges(t *testing.T) {
	edges := func(css string) (over, under float64) {
		l, root := tree(t, "<p id=a>x</p>", "#a { font: 100px serif; "+css+"}")
		page, _ := l.LayPage(root, 400, 600, 0, 0, nil)
		return l.textEdges(fragmentOf(page, "a").Box.Style)
	}
	ascent, descent := edges("")
	cap, text := edges("text-box-edge: cap")
	ex, alphabetic := edges("text-box-edge: ex alphabetic")
	over, under := edges("text-box-edge: ideographic")
	assert.Equal(t, []float64{descent, 0}, []float64{text, alphabetic})
	assert.True(t, ascent > cap && cap > ex && ex > 30, "%g %g %g", ascent, cap, ex)
	assert.InDeltaSlice(t, []float64{88, 12}, []float64{over, under}, 0.01)
	sidewaysCap, sidewaysUnder := edges("writing-mode: vertical-rl; text-orientation: sideways; text-box-edge: cap alphabetic")
	assert.Equal(t, []float64{cap, 0}, []float64{sidewaysCap, sidewaysUnder})
	middleCap, middleUnder := edges("writing-mode: vertical-rl; text-box-edge: cap alphabetic")
	assert.InDelta(t, cap, middleCap+middleUnder, 0.01, "from the middle line")
	assert.Greater(t, middleUnder, 20.0)
}
