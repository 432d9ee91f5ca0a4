package layout

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
)

// tree builds the boxes of a page's body.
func tree(t *testing.T, html, sheet string) (*Layout, *box.Box) {
	t.Helper()
	doc, err := markup.ParseHTML([]byte(html))
	require.NoError(t, err)
	fonts := font.NewSet()
	r := style.NewResolver(style.Env{Medium: "print", Width: 400, Height: 300}, NewMetrics(fonts), nil, nil)
	r.AddSheet(style.ParseSheet("", "", "body { margin: 0 } "+sheet), style.Author, nil, nil)
	doc.Walk(func(n *markup.Node) bool {
		if n.Name == "style" {
			r.AddSheet(style.ParseSheet("", "", n.Content()), style.Author, nil, nil)
		}
		return true
	})
	r.Finish()
	b := &box.Builder{
		Styles:   r,
		Pictures: func(string, *markup.Node) *picture.Picture { return &picture.Picture{W: 40, H: 30, Ratio: 4. / 3} },
		Inline: func(svg *markup.Node, s *style.Style) *picture.Picture {
			return (&picture.Drawing{Root: svg, Styles: r, Fonts: fonts}).Picture(s)
		},
		Tell: func(string, string) {},
	}
	return &Layout{Fonts: fonts, Styles: r, Tell: func(string, string, *box.Box) {}}, b.Build(doc.Find("html"))
}

// dump writes named fragments as text: id x,y w×h.
func dump(f *Fragment) string {
	var b strings.Builder
	var walk func(f *Fragment, x, y float64)
	walk = func(f *Fragment, x, y float64) {
		if f.Box != nil && f.Box.Node != nil && f.Box.Node.ID != "" && f.Text == nil {
			fmt.Fprintf(&b, "%s %g,%g %g×%g\n", f.Box.Node.ID, x, y, f.W, f.H)
		}
		for _, k := range f.Kids {
			walk(k.F, x+k.X, y+k.Y)
		}
	}
	walk(f, 0, 0)
	return b.String()
}

func TestFragments(t *testing.T) {
	l, root := tree(t, `<div id=a><p id=b>x<p id=c></div><div id=d><div id=e></div><div id=f></div></div>`,
		`#a { padding: 5px } p { margin: 10px 0; height: 20px } #d { display: flex; width: 200px } #e { flex: 1; height: 7px } #f { width: 50px }`)
	page, rest := l.LayPage(root, 400, 300, 0, 0, nil)
	assert.Nil(t, rest)
	assert.Equal(t, "a 0,0 400×80\nb 5,15 390×20\nc 5,45 390×20\nd 0,80 200×7\ne 0,80 150×7\nf 150,80 50×7\n", dump(page))
}

func TestGoingOnFromABreak(t *testing.T) {
	l, root := tree(t, strings.Repeat("<p>x", 9), "p { margin: 0; height: 40px }")
	first, rest := l.LayPage(root, 400, 100, 0, 0, nil)
	require.NotNil(t, rest)
	again, restAgain := l.LayPage(root, 400, 100, 0, 0, nil)
	assert.Equal(t, dump(first), dump(again))
	assert.True(t, SamePlace(rest, restAgain), "laying out is a pure function")
	pages := 1
	for rest != nil && pages < 20 {
		_, rest = l.LayPage(root, 400, 100, 0, 0, rest)
		pages++
	}
	assert.Equal(t, 4, pages, "360 px of boxes that go on over the edge")
}

// laid sets a page of 400 by 300 px and dumps the boxes that have ids.
func laid(t *testing.T, html, sheet string) string {
	t.Helper()
	l, root := tree(t, html, sheet)
	l.Viewport = [2]float64{400, 300}
	page, rest := l.LayPage(root, 400, 300, 0, 0, nil)
	require.NotNil(t, page)
	require.Nil(t, rest)
	l.SettleAll(page, 400, 300)
	return strings.TrimSpace(dump(page))
}

func TestStaticPositionFollowsAlignment(t *testing.T) {
	abs := "#x { position: absolute; width: 20px; height: 10px }"
	assert.Equal(t, "x 40,45 20×10", laid(t, "<section><i id=x></i></section>", abs+"section { display: flex; justify-content: center; align-items: center; width: 100px; height: 100px }"))
	assert.Equal(t, "x 80,90 20×10", laid(t, "<section><i id=x></i></section>", abs+"section { display: grid; justify-items: end; align-items: end; width: 100px; height: 100px }"))
	assert.Equal(t, "x 30,60 20×10", laid(t, "<section><i id=x></i></section>", abs+"section { position: relative; width: 80px; height: 80px } #x { inset: 60px 0 auto; margin: 0 auto }"))
	assert.Equal(t, "x 0,5 400×30", laid(t, "<div style='height:5px'></div><i id=x></i>", "#x { position: absolute; left: 0; right: 0; height: 30px }"))
}

func TestInlineBoxesContainPositionedOnes(t *testing.T) {
	sheet := "body { font: 10px/10px monospace } #x { position: absolute; width: 4px; height: 2px } span { position: relative }"
	wide := laid(t, "<p style='margin:0'><span id=s>Quay<i id=x></i></span>", sheet+"#x { right: 0; bottom: 0 } span { padding: 0 5px }")
	var sx, sy, sw, sh, x, y, w, h float64
	_, err := fmt.Sscanf(wide, "s %g,%g %g×%g\nx %g,%g %g×%g", &sx, &sy, &sw, &sh, &x, &y, &w, &h)
	require.NoError(t, err, wide)
	assert.InDelta(t, sx+sw, x+w, 0.01, "at the right edge of the inline box")
	assert.InDelta(t, sy+sh, y+h, 0.01)

	assert.Equal(t, "a 0,20 400×30\nx 0,20 4×2", laid(t, "<p style='margin:0;height:20px'></p><span><p id=a style='margin:0;height:30px'></p> <i id=x style='top:0;left:0'></i></span>", sheet),
		"the blocks inside belong to it")
	assert.Equal(t, "x 0,0 4×2", laid(t, "<p style='margin:0'><span>Quay<i id=x style='position:fixed;top:0;left:0'></i></span>", sheet),
		"but fixed boxes are not its own")
	assert.Contains(t, laid(t, "<p style='margin:0'>Lantern <span><b style='display:inline-block'>Quay<i id=x style='left:0'></i></b></span>", sheet), "x 48",
		"boxes inside a box on its line are")
}

func TestMarginsAreTrimmed(t *testing.T) {
	assert.Equal(t, "a 0,0 400×20\nx 0,0 400×20", laid(t, "<div id=a><p id=x></div>", "div { margin-trim: block; overflow: hidden } p { margin: 30px 0; height: 20px }"))
	assert.Equal(t, "a 0,0 80×10\nx 0,0 30×10\ny 50,0 30×10", laid(t, "<div id=a><i id=x></i><i id=y></i></div>", "div { margin-trim: inline; display: flex; width: min-content } i { margin: 0 10px; width: 30px; height: 10px }"))
}

func TestLinesAreClamped(t *testing.T) {
	html := "<div id=a>one<br>two<br>three<p>four</p></div>"
	assert.Equal(t, "a 0,0 400×20", laid(t, html, "div { line-clamp: 2; font: 8px/10px serif } p { margin: 0 }"))
	assert.Equal(t, "a 0,0 400×40", laid(t, html, "div { line-clamp: 9; font: 8px/10px serif } p { margin: 0 }"))
}

func TestBlocksAreJustified(t *testing.T) {
	assert.Equal(t, "x 180,0 40×10", laid(t, "<p id=x>", "p { margin: 0; width: 40px; height: 10px; justify-self: center }"))
	assert.Equal(t, "x 360,0 40×10", laid(t, "<p id=x><i></i>", "p { margin: 0; height: 10px; justify-self: end } i { display: block; width: 40px }"))
}

func TestVerticalFlow(t *testing.T) {
	sheet := "div { width: 100px; height: 60px } p { margin: 0; width: 20px } "
	assert.Equal(t, "a 0,0 100×60\nx 80,0 20×60\ny 60,0 20×30", laid(t, "<div id=a><p id=x></p><p id=y style='height:50%'></p></div>", sheet+"div { writing-mode: vertical-rl }"))
	assert.Equal(t, "a 0,0 100×60\nx 0,0 20×60\ny 20,0 20×60", laid(t, "<div id=a><p id=x></p><p id=y></p></div>", sheet+"div { writing-mode: vertical-lr }"))
	assert.Equal(t, "a 0,0 100×60\nx 80,0 20×25\ny 80,35 20×25", laid(t, "<div id=a><p id=x></p><p id=y></p></div>", sheet+"div { writing-mode: vertical-rl; display: flex; gap: 10px; width: 100px; align-items: flex-start } p { flex: 1 }"))
}

func TestRowsThatStandAlone(t *testing.T) {
	got := laid(t, "<table><tr id=r><td><i id=x></i></table>", "table { border-spacing: 0 } td { padding: 0; width: 50px; height: 20px } tr { position: relative; left: 10px } #x { position: absolute; right: 0; bottom: 0; width: 5px; height: 5px }")
	assert.Equal(t, "r 10,0 50×20\nx 55,15 5×5", got, "a row can be a containing block")
}

func TestCollapsedBordersAreJoined(t *testing.T) {
	l, root := tree(t, "<table><tr><td><td><tr><td><td></table>", "table { border-collapse: collapse } td { padding: 0; width: 20px; height: 10px; border: 2px solid }")
	page, _ := l.LayPage(root, 400, 300, 0, 0, nil)
	var edges []BorderEdge
	var walk func(f *Fragment)
	walk = func(f *Fragment) {
		if f.Drawn != nil {
			edges = append(edges, f.Drawn.Edges...)
		}
		for _, k := range f.Kids {
			walk(k.F)
		}
	}
	walk(page)
	assert.Len(t, edges, 6, "three lines across and three down")
}

func TestFirstLineIsWider(t *testing.T) {
	l, root := tree(t, "<p>Quay and pier and berth", "p { margin: 0; width: 60px; font: 10px/10px sans-serif } p::first-line { font-size: 20px; line-height: 30px }")
	page, _ := l.LayPage(root, 400, 300, 0, 0, nil)
	var sizes []float64
	var walk func(f *Fragment)
	walk = func(f *Fragment) {
		if f.Text != nil {
			sizes = append(sizes, f.Text.Size)
		}
		for _, k := range f.Kids {
			walk(k.F)
		}
	}
	walk(page)
	require.Greater(t, len(sizes), 2)
	assert.Equal(t, 20.0, sizes[0])
	assert.Equal(t, 10.0, sizes[len(sizes)-1])
}

// linesOf gives the places where each line's contents begin and end.
func linesOf(t *testing.T, text, sheet string) (starts, ends []float64) {
	l, root := tree(t, "<p>"+text, "p { margin: 0; width: 200px; font: 10px/12px sans-serif;"+sheet+"}")
	page, _ := l.LayPage(root, 400, 300, 0, 0, nil)
	var walk func(f *Fragment)
	walk = func(f *Fragment) {
		if !f.Line {
			for _, k := range f.Kids {
				walk(k.F)
			}
			return
		}
		lo, hi := math.Inf(1), 0.0
		for _, k := range f.Kids {
			lo, hi = min(lo, k.X), max(hi, k.X+k.F.W)
		}
		starts, ends = append(starts, lo), append(ends, hi)
	}
	walk(page)
	return starts, ends
}

func TestPrettyParagraphsEndInNoStub(t *testing.T) {
	text := "moorings buoys lanterns harbour wall and quay walls in it"
	_, plain := linesOf(t, text, "width: 140px")
	_, pretty := linesOf(t, text, "width: 140px; text-wrap: pretty")
	require.Len(t, pretty, len(plain), "%v %v", plain, pretty)
	last := len(plain) - 1
	require.Less(t, plain[last], 25.0, "%v: a stub without it", plain)
	assert.Greater(t, pretty[last], plain[last])
}

func TestHangingPunctuation(t *testing.T) {
	starts, _ := linesOf(t, "“quay,<br>wall.”", "hanging-punctuation: first force-end last; text-align: left")
	assert.Less(t, starts[0], -2.0, "the quote hangs out")
	assert.Zero(t, starts[1])
	_, ends := linesOf(t, "“quay,<br>wall.”", "hanging-punctuation: force-end last; text-align: right")
	assert.Greater(t, ends[0], 202.0, "the comma hangs out")
	assert.Greater(t, ends[1], 202.0, "the closing quote hangs out")
	_, ends = linesOf(t, "quay,", "hanging-punctuation: allow-end; text-align: right")
	assert.InDelta(t, 200, ends[0], 0.01, "it need not hang")
}

func TestInitialLetterSpansItsLines(t *testing.T) {
	l, root := tree(t, "<p>Harbour lights stand along the outer wall and on the quay", "p { margin: 0; width: 120px; font: 10px/12px sans-serif } p::first-letter { initial-letter: 2 }")
	page, _ := l.LayPage(root, 400, 300, 0, 0, nil)
	var letter *Fragment
	var baseline float64
	var lines []Kid
	var walk func(f *Fragment, y float64)
	walk = func(f *Fragment, y float64) {
		for _, k := range f.Kids {
			if k.F.Text != nil && k.F.Text.Size > 11 {
				letter, baseline = k.F, y+k.Y+k.F.Text.Ascent
			}
			if k.F.Line && k.X+k.F.W > 100 {
				lines = append(lines, Kid{k.X, y + k.Y, k.F})
			}
			walk(k.F, y+k.Y)
		}
	}
	walk(page, 0)
	require.NotNil(t, letter)
	require.GreaterOrEqual(t, len(lines), 3)
	cap := 0.7 // of the face, roughly
	assert.InDelta(t, (12+10*cap)/cap, letter.Text.Size, 2, "its capitals span two lines")
	assert.InDelta(t, lines[1].Y+lines[1].F.Baseline, baseline, 1, "it stands on the second line")
}

func TestBalancedLines(t *testing.T) {
	words := strings.Repeat("berth ", 9)
	widths := func(sheet string) []float64 {
		_, ends := linesOf(t, words, sheet)
		return ends
	}
	plain, balanced := widths(""), widths("text-wrap: balance")
	require.Len(t, plain, 2)
	require.Len(t, balanced, 2)
	assert.Greater(t, balanced[1], plain[1])
	assert.Less(t, balanced[0], plain[0])
}
