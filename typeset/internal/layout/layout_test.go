package layout

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/unicode/bidi"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// tree builds the boxes of a page's body.
func tree(t *testing.T, html, sheet string) (*Layout, *box.Box) {
	t.Helper()
	doc, err := markup.ParseHTML([]byte(html))
	require.NoError(t, err)
	fonts := font.NewSet()
	r := style.NewResolver(style.Env{Medium: "print", Width: 400, Height: 300}, NewMetrics(fonts), nil, nil)
	r.AddSheet(style.ParseSheet("", "", "body { margin: 0 } "+sheet), style.Author, nil)
	r.Finish()
	b := &box.Builder{Styles: r}
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
	page, rest := l.LayPage(root, 400, 300, nil)
	assert.Nil(t, rest)
	assert.Equal(t, "a 0,0 400×80\nb 5,15 390×20\nc 5,45 390×20\nd 0,80 200×7\ne 0,80 150×7\nf 150,80 50×7\n", dump(page))
}

func TestGoingOnFromABreak(t *testing.T) {
	l, root := tree(t, strings.Repeat("<p>x", 9), "p { margin: 0; height: 40px }")
	first, rest := l.LayPage(root, 400, 100, nil)
	require.NotNil(t, rest)
	again, restAgain := l.LayPage(root, 400, 100, nil)
	assert.Equal(t, dump(first), dump(again))
	assert.True(t, SamePlace(rest, restAgain), "laying out is a pure function")
	pages := 1
	for rest != nil && pages < 20 {
		_, rest = l.LayPage(root, 400, 100, rest)
		pages++
	}
	assert.Equal(t, 4, pages, "360 px of boxes that go on over the edge")
}

func TestBidiLevels(t *testing.T) {
	text := []rune("ab אב 12")
	classes := make([]bidi.Class, len(text))
	for i, r := range text {
		p, _ := bidi.LookupRune(r)
		classes[i] = p.Class()
	}
	assert.Equal(t, []uint8{0, 0, 0, 1, 1, 1, 2, 2}, bidiLevels(classes, text, 0))
	assert.Equal(t, []int{0, 2, 1}, reorder([]uint8{0, 1, 1}))
}
