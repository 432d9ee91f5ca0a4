package layout

import (
	"strings"
	"testing"

	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/font"
)

// brokenLines gives the lines that text is set in, in a block of a width; spaces at their
// ends are left out.
func brokenLines(t *testing.T, html, css string) string {
	t.Helper()
	l, root := tree(t, "<div id=x lang=en>"+html+"</div>", "#x { font: 10px/10px monospace; "+css+" }")
	page, _ := l.LayPage(root, 400, 1e6, 0, 0, nil)
	var lines []string
	var walk func(f *Fragment)
	walk = func(f *Fragment) {
		if f.Line {
			lines = append(lines, "")
		}
		if f.Text != nil && len(lines) > 0 {
			for _, r := range f.Text.Runs {
				lines[len(lines)-1] += r.Text
			}
		}
		for _, k := range f.Kids {
			walk(k.F)
		}
	}
	walk(page)
	for i, s := range lines {
		lines[i] = strings.TrimRight(s, " ")
	}
	return strings.Join(lines, "|")
}

// TestWhereLinesEnd holds the places at which lines may end, and what stands there
// (CSS Text 3, §4 to §6; CSS Text 4, §6.3).
func TestWhereLinesEnd(t *testing.T) {
	const narrow = "width: 1px; "
	for _, c := range []struct{ css, html, want string }{
		// words that inline elements stand in are hyphenated as one
		{"width: 6ch; hyphens: auto", "highway", "high\u00AD|way"},
		{"width: 6ch; hyphens: auto", "<b>high</b>way", "high\u00AD|way"},
		{"width: 6ch; hyphens: auto", "high<b>way</b>", "high\u00AD|way"},
		{"width: 6ch; hyphens: auto", "hi<b>ghwa</b>y", "high\u00AD|way"},
		{"width: 6ch; hyphens: auto", "h<i style='position: absolute'></i>ighway", "high\u00AD|way"},
		{"width: 6ch; hyphens: auto", "high<i style='float: right'></i>way", "high\u00AD|way"},
		{"width: 6ch; hyphens: auto", "high<b lang=ja>way</b>", "highway"},
		{"width: 6ch; hyphens: auto", "high<b style='hyphens: manual'>way</b>", "highway"},
		{narrow + "hyphens: auto", "example", "ex\u00AD|am\u00AD|ple"},
		{narrow + "hyphens: auto; hyphenate-limit-chars: 8", "example", "example"},
		{narrow + "hyphens: auto; hyphenate-limit-chars: auto 3 2", "example", "exam\u00AD|ple"},
		{"width: 7ch", "exam\u00ADple of", "example|of"},
		{"width: 4ch", "exam\u00ADple of", "exam\u00AD|ple|of"},
		// spaces that vanish decide by the style of their own box
		{narrow + "white-space: nowrap", "a<b style='white-space: normal'> </b>b", "a|b"},
		{narrow + "white-space: nowrap", "a <b style='white-space: normal'> </b>b", "a|b"},
		{narrow + "white-space: nowrap", "a b", "a b"},
		{narrow, "<b style='white-space: nowrap'>a </b>b", "a b"},
		{narrow, "<b style='white-space: nowrap'>a b</b> c", "a b|c"},
		// <wbr>
		{narrow, "ab<wbr>cd", "ab\u200B|cd"},
		{narrow, "<nobr>ab<wbr>cd ef</nobr>", "ab\u200B|cd ef"},
		{narrow + "white-space: nowrap", "ab<wbr>cd", "ab\u200Bcd"},
		{narrow + "word-break: keep-all; word-space-transform: space", "文<wbr>文", "文|文"},
		// white space that is discarded, or preserved
		{"white-space-collapse: discard", "a b\tc\n d", "abcd"},
		{"white-space-collapse: preserve-spaces", "a  b\tc\nd", "a  b c d"},
		{"width: 2ch; white-space-collapse: preserve-spaces", "ab  \ncd", "ab|cd"},
		{"width: 2ch; white-space: break-spaces", "ab  cd", "ab||cd"},
		{"width: 2ch; white-space: break-spaces", "ab\u3000\u3000cd", "ab\u3000|\u3000|cd"},
		{"width: 2ch; white-space: break-spaces", "ab\u2007cd", "ab\u2007cd"},
		// word-break
		{"width: 3ch; word-break: break-all", `xxx\x`, `xxx|\x`},
		{"width: 2ch; word-break: break-all", "xx.x", "x|x.|x"},
		{narrow + "word-break: break-all", "<b>x</b><b>.</b>", "x."},
		{narrow + "word-break: break-all", "a1\u00E9", "a|1|\u00E9"},
		{narrow + "word-break: keep-all", "文文 文", "文文|文"},
		{"width: 5ch", "xxxxxxxx<b style='word-break: break-all'>xxxxxxx</b>xxx", "xxxxxxxx|xxxxx|xxxxx"},
		{narrow, "a\u034F<i style='display: inline-block'>b</i>", "a\u034F|b"},
		// line-break by the way that text is written
		{"width: 3em; line-break: loose", "文文文・", "文文|文・"},
		{"width: 3em; line-break: loose", "<b lang=ja>文文文・</b>", "文文文|・"},
		{"width: 3em; line-break: loose", "<b lang=en-Hrkt>文文文・</b>", "文文文|・"},
		{"width: 3em; line-break: loose", "<b lang=zh-Latn>文文文・</b>", "文文|文・"},
	} {
		assert.Equal(t, c.want, brokenLines(t, c.html, c.css), "%q with %s", c.html, c.css)
	}
}

// TestBreaksOfTheSource: what becomes of a line's end in the source (CSS Text 3, §4.1.3).
func TestBreaksOfTheSource(t *testing.T) {
	for html, want := range map[string]string{
		"ab\ncd":                             "ab cd",
		"文\n文":                               "文文",
		"文 \n  文":                            "文文",
		"文\uFE00\n文":                         "文\uFE00文",
		"文\n\u200E文":                         "文\u200E文",
		"文\nab":                              "文 ab",
		"。\nab":                              "。 ab",
		"ab\u200B\ncd":                       "ab\u200Bcd",
		"<b lang=ja>。\nab</b>":               "。ab",
		"<b lang=ja>ab\n・\ncd</b>":           "ab・cd",
		"<b lang=ja>ab\ncd</b>":              "ab cd",
		"<b lang=ja>(\nab</b>":               "( ab",
		"<b lang=ja>文</b>\n<b lang=ja>文</b>": "文文",
		"<b lang=ko>한\n국</b>":                "한 국",
	} {
		assert.Equal(t, want, strings.ReplaceAll(brokenLines(t, html, ""), "\u00A0", " "), "%q", html)
	}
}

// TestTabStops are counted from the block's edge in spaces of the block.
func TestTabStops(t *testing.T) {
	at := func(html, css string) float64 {
		t.Helper()
		list := readPlaced(t, laid(t, "<div>"+html+"<i id=x></i></div>", "div { font: 10px/10px monospace; white-space: pre; tab-size: 4 } i { display: inline-block } "+css), "\n")
		require.Len(t, list, 1)
		return list[0].x
	}
	ch := at("x", "")
	for _, c := range []struct {
		html, css string
		want      float64
	}{
		{"\t", "", 4},
		{"ab\t", "", 4},
		{"abcd\t", "", 8},
		{"\t", "div { tab-size: 3 }", 3},
		{"<b style='font: 30px serif'>\t</b>", "", 4},
		{"<b style='tab-size: 2; letter-spacing: 9px'>\t</b>", "", 2},
		{"a\t", "div { text-indent: 2ch }", 4},
		{"a\t", "div { text-indent: -2ch }", 0},
		{"a\t", "div { text-indent: -6ch }", -4},
	} {
		assert.InDelta(t, c.want*ch, at(c.html, c.css), 0.1, "%q with %s", c.html, c.css)
	}
	assert.InDelta(t, 4*(ch+2), at("\t", "div { letter-spacing: 2px }"), 0.1)
	assert.InDelta(t, 4*(ch+2), at("\t", "div { word-spacing: 2px }"), 0.1)
}

// TestLetterSpacing: letters that join stay together, and what is not seen takes no room.
func TestLetterSpacing(t *testing.T) {
	width := func(text, css string) float64 {
		t.Helper()
		list := readPlaced(t, laid(t, "<i id=x>"+text+"</i>", "i { display: inline-block; font: 20px sans-serif; "+css+" }"), "\n")
		require.Len(t, list, 1)
		return list[0].w
	}
	const spaced = "letter-spacing: 4px"
	assert.InDelta(t, width("abc", "")+12, width("abc", spaced), 0.01)
	assert.InDelta(t, width("مرحبا", ""), width("مرحبا", spaced), 0.01)
	for _, text := range []string{"a\u200Cbc", "abc\u2060", "\u200Dabc", "\uFEFFa\u200Cb\u200Dc"} {
		assert.InDelta(t, width("abc", spaced), width(text, spaced), 0.01, "%q", text)
	}
}

// TestHyphensThatDoNotBreak are made from the hyphen of the font, not taken from another.
func TestHyphensThatDoNotBreak(t *testing.T) {
	face, err := font.Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	require.Zero(t, face.Glyph('\u2011'))
	require.NotZero(t, face.Glyph('\u2010'))
	assert.InDelta(t, setIn(t, face, "<i id=x>a\u2010b</i>", "").w, setIn(t, face, "<i id=x>a\u2011b</i>", "").w, 0.01)
}
