package layout

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestLettersJoinAcrossElements compares widths: joined letters are narrower than
// those that stand alone.
func TestLettersJoinAcrossElements(t *testing.T) {
	width := func(html string) float64 {
		t.Helper()
		list := readPlaced(t, laid(t, "<body dir=rtl><i id=x>"+html+"</i>", "i { display: inline-block; font: 40px sans-serif } b { font-weight: normal }"), "\n")
		require.Len(t, list, 1)
		return list[0].w
	}
	joined, apart := width("ععع"), width("ع\u200Cع\u200Cع")
	require.Greater(t, apart, joined+1)
	for _, html := range []string{"ع<b>ع</b>ع", "<b>ع</b>عع", "ع<b></b>عع", "عع<b>ع</b>", "ع<b style='color: red'>ع</b>ع", "ع\u00ADعع"} {
		assert.InDelta(t, joined, width(html), 0.01, html)
	}
	assert.InDelta(t, apart+20, width("ع<b style='padding: 0 5px'>ع</b><u style='margin: 0 5px; text-decoration: none'>ع</u>"), 0.01, "edges keep letters apart")
	assert.InDelta(t, width("abc"), width("a<b>b</b>c"), 0.01)
}

// TestPreservedSpaces measures boxes with spaces at the ends of their lines.
func TestPreservedSpaces(t *testing.T) {
	const sheet = "i { display: inline-block; font: 10px/10px monospace } "
	size := func(css, text string) placed {
		t.Helper()
		list := readPlaced(t, laid(t, "<i id=x>"+text+"</i>", sheet+"#x { "+css+" }"), "\n")
		require.Len(t, list, 1)
		return list[0]
	}
	ch := size("white-space: pre", "x").w
	for _, c := range []struct {
		css, text    string
		width, lines float64
	}{
		{"white-space: pre", "x  ", 3, 1},
		{"white-space: pre-wrap", "x  ", 3, 1},
		{"white-space: normal", "x  ", 1, 1},
		{"white-space: nowrap; width: min-content", "x y ", 3, 1},
		{"white-space: pre-wrap; width: min-content", "x    y", 1, 2},
		{"white-space: break-spaces; width: 1ch", "x y", 1, 2},
		{"white-space: break-spaces; overflow-wrap: anywhere; width: 2ch", "xx xx", 2, 3},
		{"white-space: break-spaces; width: 1ch", "x\t\ty", 1, 3},
		{"line-break: loose; width: 1ch", "文っ", 1, 2},
		{"line-break: strict; width: 1ch", "文っ", 1, 1},
		{"width: min-content", "a\u2028bc", 2, 2},
	} {
		p := size(c.css, c.text)
		assert.InDelta(t, c.width*ch, p.w, 0.1, "width of %q with %s", c.text, c.css)
		assert.InDelta(t, c.lines*10, p.h, 0.1, "lines of %q with %s", c.text, c.css)
	}
}

// TestJustifiedTextLeavesTabsAlone compares the places of boxes before a tab.
func TestJustifiedTextLeavesTabsAlone(t *testing.T) {
	const html = "<p id=p>a <b id=x></b>\t<b id=y></b> c d e f</p>"
	const sheet = "p { margin: 0; width: 110px; font: 10px/10px monospace; white-space: pre-wrap } b { display: inline-block; width: 6px; height: 5px } "
	find := func(css, id string) placed {
		t.Helper()
		for _, p := range readPlaced(t, laid(t, html, sheet+css), "\n") {
			if p.id == id {
				return p
			}
		}
		t.Fatal(id)
		return placed{}
	}
	assert.Equal(t, find("", "x"), find("p { text-align: justify }", "x"))
	assert.Equal(t, find("", "y"), find("p { text-align: justify }", "y"))
}

// Lines that are limited end in an ellipsis after a whole word, as do those that do
// not wrap.
func TestEllipses(t *testing.T) {
	for css, want := range map[string]string{
		"width: 110px; line-clamp: 1":                                                  "Quay and Lantern…",
		"width: 110px; line-clamp: 1; white-space: pre":                                "Quay and Lantern…",
		"width: 75px; line-clamp: 1; white-space: pre":                                 "Quay and…",
		"width: 400px; line-clamp: 1; white-space: pre":                                "Quay and Lantern Harbour…",
		"width: 400px; line-clamp: 1":                                                  "Quay and Lantern Harbour Pier",
		"width: 110px; line-clamp: 1 '!'":                                              "Quay and Lantern!",
		"width: 110px; line-clamp: 1; white-space: pre; word-break: break-all":         "Quay and Lantern…",
		"width: 100px; line-clamp: 1; white-space: pre; word-break: break-all":         "Quay and Lanter…",
		"width: 100px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap": "Quay and Lanter…",
	} {
		l, root := tree(t, "<p>Quay and Lantern Harbour\nPier</p>", "p { margin: 0; font: 10px/20px monospace; "+css+" }")
		f, _ := l.LayPage(root, 400, 300, 0, 0, nil)
		var got []string
		for line := range strings.Lines(texts(f)) {
			_, text, _ := strings.Cut(strings.TrimSuffix(line, "”\n"), "“")
			got = append(got, text)
		}
		assert.Equal(t, want, strings.Join(got, ""), css)
	}
	for html, want := range map[string][]string{
		"<p>Quay and Lan\u00ADtern Harbour<br>x":                            {"Quay and Lan\u00AD", "…"},
		"<p>Quay and Lant <i style='display:inline-block'>Harbour</i><br>x": {"Quay and Lant", "…"},
	} {
		l, root := tree(t, html, "p { margin: 0; width: 90px; line-clamp: 1; font: 10px/20px monospace }")
		f, _ := l.LayPage(root, 400, 300, 0, 0, nil)
		set := texts(f)
		for _, text := range want {
			assert.Contains(t, set, "“"+text+"”", "it has room, with its hyphen and no space")
		}
	}
	l, root := tree(t, "<p>Quay <br>Lantern <br>Harbour</p>", "p { margin: 0; width: 200px; line-clamp: 2; font: 10px/20px monospace }")
	f, _ := l.LayPage(root, 400, 300, 0, 0, nil)
	assert.Contains(t, texts(f), "“Lantern”")
	assert.NotContains(t, texts(f), "Lantern …", "no space stands before it")
	assert.NotContains(t, texts(f), "Harbour")
}

// What is plain and what is not is told apart by more than its letters.
func TestPlainText(t *testing.T) {
	for html, want := range map[string]bool{
		"<p>Quay 12.50 €":                       true,
		"<p> Quay \n and Lantern ":              true,
		"<p>Quay <b>x</b>":                      false,
		"<p>a-b":                                false,
		"<p>":                                   false,
		"<p style='letter-spacing:1px'>a":       false,
		"<p style='text-indent:1px'>a":          false,
		"<p style='white-space:pre'>a":          false,
		"<p style='hyphens:auto'>a":             false,
		"<p style='direction:rtl'>a":            false,
		"<p style='text-align:justify'>a":       true,
		"<p style='white-space:nowrap'>a":       true,
		"<p style='overflow-wrap:anywhere'>a":   false,
		"<p style='text-transform:uppercase'>a": false,
		"<p style='writing-mode:vertical-rl'>a": false,
		"<p>水":                                  false,
	} {
		l, root := tree(t, html, "")
		assert.Equal(t, want, len(root.Children) > 0 && len(root.Children[0].Children) > 0 && l.plainOf(root.Children[0].Children[0]) != nil, html)
	}
}

// TestSpacesBetweenWords: what parts words without being seen can be made a space (CSS Text
// 4, §2.2).
func TestSpacesBetweenWords(t *testing.T) {
	read := func(css string) string {
		l, root := tree(t, "<p>a\u200Bb<wbr>c<span style='word-space-transform:none'>\u200Bd</span>", "p { margin: 0; "+css+" }")
		f, _ := l.LayPage(root, 400, 300, 0, 0, nil)
		var all strings.Builder
		for line := range strings.Lines(texts(f)) {
			_, text, _ := strings.Cut(strings.TrimSuffix(line, "”\n"), "“")
			all.WriteString(strings.ReplaceAll(text, "\u200B", "|"))
		}
		return all.String()
	}
	assert.Equal(t, "a|b|c|d", read(""))
	assert.Equal(t, "a b c|d", read("word-space-transform: space"))
	assert.Equal(t, "a\u3000b\u3000c|d", read("word-space-transform: auto-phrase ideographic-space"))
	assert.Equal(t, "a|b|c|d", read("word-space-transform: ideographic"))
}
